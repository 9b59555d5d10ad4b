"""Where something new begins: the brief in the place of a bench, answered at once."""
