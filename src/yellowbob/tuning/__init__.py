"""What is tried on a whole design: ballasting to a pose, remedies, trim, variants, sweeps, build odds."""
