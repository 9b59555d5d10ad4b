"""The Lines bench: outlines drawn, traced, cut and rescaled."""
