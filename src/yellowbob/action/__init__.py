"""Motion: how a thing moves once it is let go."""
