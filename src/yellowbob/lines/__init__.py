"""Outlines to sections to a closed mesh: what the drawing means as a solid."""
