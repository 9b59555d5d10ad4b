"""Results as dictionaries with published keys: one contract a room."""
