"""Yellow Bob: a workbench for people who make surface lures and fishing floats."""

__version__ = "0.1.0"
