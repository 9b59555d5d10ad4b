"""How it floats: immersion, rest attitudes, and what they are worth."""
