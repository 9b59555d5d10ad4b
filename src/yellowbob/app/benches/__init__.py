"""The benches, in the order of the work."""
