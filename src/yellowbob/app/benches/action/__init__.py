"""The Action bench: how it moves in waves and through the air."""
