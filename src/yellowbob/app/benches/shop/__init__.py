"""The Shop bench: what goes to the bench on paper, and when each coat goes on."""
