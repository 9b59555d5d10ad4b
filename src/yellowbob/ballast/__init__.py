"""How much ballast, where: pose, locus, the room for it, picks from the shelf, trim, odds of a build."""
