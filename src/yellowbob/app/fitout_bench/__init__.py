"""The Fit-out bench: hardware on the drawing, clearances, budget, measuring, resin, finish, shelf."""
