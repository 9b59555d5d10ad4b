"""The Lines bench."""
