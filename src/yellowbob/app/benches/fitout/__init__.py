"""The Fit-out bench."""
