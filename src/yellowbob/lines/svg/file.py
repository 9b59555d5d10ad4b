"""The file of an SVG drawing: plain or packed."""

from __future__ import annotations

import zlib
from io import BytesIO
from pathlib import Path
from xml.etree import ElementTree

from yellowbob.ground.errors import BadInput
from yellowbob.lines.svg.style import Node

PACKED, MOST_UNPACKED = b"\x1f\x8b", 200_000_000
"""How a packed drawing begins, and how many bytes it may have unpacked."""


def tree_of(path: Path) -> tuple[Node, bool]:
    """A drawing's first element, and whether a style sheet outside it is named before that. Raises BadInput."""
    builder = _Builder()
    try:
        root = ElementTree.parse(_unpacked(path), ElementTree.XMLParser(target=builder)).getroot()
    except FileNotFoundError:
        raise BadInput(f"{path}: no such file; check the name") from None
    except OSError as error:
        raise BadInput(f"{path}: cannot be read ({error.strerror})") from None
    except (ElementTree.ParseError, ValueError, LookupError, zlib.error) as error:
        raise BadInput(f"{path.name}: cannot be read as an SVG drawing ({str(error)[:80]})") from None
    return root, builder.styled


def _unpacked(path: Path) -> BytesIO:
    """A drawing's bytes, unpacked where they are packed (an SVGZ). Raises ValueError where they are cut short or too many."""
    data = path.read_bytes()
    if not data.startswith(PACKED):
        return BytesIO(data)
    packed = zlib.decompressobj(16 + zlib.MAX_WBITS)
    told = packed.decompress(data, MOST_UNPACKED)
    if not packed.eof:
        raise ValueError("it is packed, and cut short or too large")
    return BytesIO(told)


class _Builder(ElementTree.TreeBuilder):
    """Builds the tree, and tells whether a style sheet outside the drawing is named before it."""

    styled = False

    def pi(self, target: str, text: str | None = None, /) -> Node:
        """What stands before the drawing for the program that reads it."""
        self.styled |= target == "xml-stylesheet"
        return super().pi(target, text)
