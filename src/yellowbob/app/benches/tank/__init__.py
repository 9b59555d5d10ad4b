"""The Tank bench."""
