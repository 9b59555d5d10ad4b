"""From the first painted window to the whole one; what is here is read before anything else, so it reads little itself."""
