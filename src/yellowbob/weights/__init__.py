"""What everything weighs and where: mass properties of solids, coats and fittings, and the weigh slip."""
