"""From an SVG drawing to outlines: what a viewer shows, the side and the plan in it, fitted curves."""
