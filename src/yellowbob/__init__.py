"""Yellow Bob: a workbench for people who make surface lures and fishing floats."""

import os

# Pydantic looks through every installed package for plugins at its first model; none is wanted, and it takes time
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

__version__ = "0.1.0"
COMPLETES = "_YELLOW_BOB_COMPLETE"
"""What a shell sets in the environment when it asks what could come next."""
