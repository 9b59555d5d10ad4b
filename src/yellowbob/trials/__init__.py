"""What is tried on a whole design: poses fitted, remedies, trims, variants, sweeps, odds, ladders."""
