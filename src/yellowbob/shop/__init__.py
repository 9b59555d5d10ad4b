"""What goes to the bench: true-scale sheets."""
