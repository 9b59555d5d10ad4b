"""From a picture with one known length to outlines: silhouette, scale, level, fitted curves."""
