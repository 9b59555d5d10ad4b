"""The Tank bench: the lure in the water at its computed rest."""
