"""What lies on the maker's shelf: materials, hooks, ballast, fillers and coats, from the shipped lists."""
