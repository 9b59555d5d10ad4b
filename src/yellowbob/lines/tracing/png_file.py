"""A PNG as it lies in its file: its head, its parts, its pixels unpacked, the checksums looked at.

Portable Network Graphics specification, third edition.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO, cast

import numpy as np
from isal import igzip_lib, isal_zlib
from numpy.typing import NDArray

BROKEN = cast(type[Exception], igzip_lib.IsalError)
"""Raised by what unpacks."""
FIRST = 8
"""Bytes before the first of its parts."""
PIECE = 1 << 18
"""Bytes unpacked in one go."""
NUMBERS = {0: 1, 2: 3, 3: 1, 4: 2, 6: 4}
"""How many a pixel has by its kind of colour: grey, colour, place in a palette, grey and opacity, colour and opacity."""
PALETTE = 3
PASSES = ((0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2), (0, 1, 1, 2))
"""Of an interlaced picture: the first column and row of each pass, and how far apart its columns and rows are."""


class Damaged(ValueError):
    """Something of it is missing, or not what it was."""


@dataclass(frozen=True)
class Head:
    """What its first part says: pixels, bits of a number, and the kind of its colours."""

    wide: int
    high: int
    bits: int
    kind: int
    interlaced: bool

    @property
    def numbers(self) -> int:
        """Numbers of a pixel."""
        return NUMBERS[self.kind]

    @property
    def pixel(self) -> int:
        """Whole bytes of a pixel, at least one."""
        return max(1, self.numbers * self.bits // 8)

    def passes(self) -> list[tuple[int, int]]:
        """Rows, and bytes of a row without its filter's number, in the order in which they lie."""
        steps = PASSES if self.interlaced else ((0, 0, 1, 1),)
        sizes = [(-(-(self.high - top) // down), -(-(self.wide - left) // across)) for left, top, across, down in steps]
        return [(max(high, 0), -(-max(wide, 0) * self.numbers * self.bits // 8)) for high, wide in sizes]


def head_of(file: BinaryIO) -> Head:
    """Its head. Raises Damaged where it breaks off within it, or is of no kind there is."""
    file.seek(FIRST + 8)
    try:
        wide, high, bits, kind, _, _, interlaced = struct.unpack(">IIBBBBB", file.read(13))
        return Head(wide, high, bits, {known: known for known in NUMBERS}[kind], bool(interlaced))
    except (struct.error, KeyError):
        raise Damaged("its head is damaged") from None


def exif_of(path: Path | str) -> bytes:
    """What a PNG tells of how it was taken, wherever in the file it stands; empty where it does not."""
    with open(path, "rb") as file:
        for name, length in _parts(file):
            if name == b"eXIf":
                return file.read(length)
    return b""


def look_through(path: Path | str) -> None:
    """Raises Damaged where pixels are missing or damaged: what reads it may leave them black without a word."""
    with open(path, "rb") as file:
        head = head_of(file)
        unpacked = Unpacked(file)
        for rows, wide in head.passes():
            deep = max(1, 4 * PIECE // (wide + 1))
            for first in range(0, rows if wide else 0, deep):
                unpacked.rows(min(deep, rows - first), wide + 1)


class Unpacked:
    """The bytes of its pixels, as many at a time as are asked for."""

    def __init__(self, file: BinaryIO) -> None:
        self._packed = _packed(file)
        self._unpacking = igzip_lib.IgzipDecompressor(flag=igzip_lib.DECOMP_ZLIB)

    def rows(self, number: int, wide: int) -> NDArray[np.uint8]:
        """The next rows (number, wide). Raises Damaged where there are no more, or they are damaged."""
        made = np.empty(number * wide, np.uint8)
        at = 0
        while at < len(made):
            piece = next(self._packed, None) if self._unpacking.needs_input else b""
            if piece is None:
                raise Damaged("it breaks off before its last row")
            try:
                out = self._unpacking.decompress(piece, min(4 * PIECE, len(made) - at))
            except (BROKEN, EOFError):
                raise Damaged("its pixels are damaged") from None
            made[at : at + len(out)] = np.frombuffer(out, np.uint8)
            at += len(out)
        return made.reshape(number, wide)


def _packed(file: BinaryIO) -> Iterator[bytes]:
    """The packed pixels piece by piece."""
    for name, length in _parts(file):
        if name != b"IDAT":
            continue
        checksum = isal_zlib.crc32(name)
        while length:
            piece = file.read(min(length, PIECE))
            if not piece:
                raise Damaged("it breaks off within its pixels")
            checksum = isal_zlib.crc32(piece, checksum)
            length -= len(piece)
            yield piece
        if file.read(4) != struct.pack(">I", checksum):
            raise Damaged("its pixels are damaged")


def _parts(file: BinaryIO) -> Iterator[tuple[bytes, int]]:
    """The name and the length of each part, the file standing at its first byte."""
    at = FIRST
    while True:
        file.seek(at)
        head = file.read(8)
        if len(head) < 8:
            return
        length, name = struct.unpack(">I4s", head)
        yield name, length
        at += length + 12
