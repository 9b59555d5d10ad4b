"""Large TIFFs packed by deflate, read by two threads: their strips are packed each on its own.

Tagged Image File Format, revision 6, and its technical notes on deflate and on the horizontal predictor.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any, BinaryIO

import numpy as np
from isal import isal_zlib
from numpy.typing import NDArray

from yellowbob.lines.tracing.block_means import DEEP, bands_of, block_means, in_turn
from yellowbob.lines.tracing.png_file import BROKEN, Damaged

LARGE = 4_000_000
"""Smaller ones Pillow reads in no time."""
THREADS = 2
AHEAD = 4
"""Bands at hand."""
CHANNELS = {"L": 1, "RGB": 3, "RGBA": 4}
WIDE, HIGH, BITS, PACKING, GREYS, ORDER, STRIPS, NUMBERS, ROWS, LENGTHS, PLANES, PREDICTOR, MORE = (
    256, 257, 258, 259, 262, 266, 273, 277, 278, 279, 284, 317, 338,
)  # fmt: skip
"""Its tags."""
DEFLATED = (8, 32946)


@dataclass(frozen=True)
class _Strips:
    """Where its strips lie, their lengths, bytes; rows in each; the shape of a row; whether differences are kept."""

    places: tuple[int, ...]
    lengths: tuple[int, ...]
    rows: int
    high: int
    row: tuple[int, int]
    differences: bool

    def read(self, path: Path | str, first: int, last: int) -> NDArray[np.uint8]:
        """Rows first to last of the picture."""
        begun, ended = first // self.rows, -(-last // self.rows)
        with open(path, "rb") as file:
            data = b"".join(self._unpacked(file, number) for number in range(begun, ended))
        rows = np.frombuffer(data, np.uint8).reshape(-1, *self.row)[first - begun * self.rows :][: last - first]
        return np.cumsum(rows, axis=1, dtype=np.uint8) if self.differences else rows

    def _unpacked(self, file: BinaryIO, number: int) -> bytes:
        file.seek(self.places[number])
        wanted = min(self.rows, self.high - number * self.rows) * self.row[0] * self.row[1]
        try:
            data = isal_zlib.decompress(file.read(self.lengths[number]), bufsize=wanted)
        except BROKEN:
            raise Damaged("its pixels are damaged") from None
        if len(data) < wanted:
            raise Damaged("it breaks off before its last row")
        return bytes(data[:wanted])


def big_tiff_means(path: Path | str, image: Any, step: int) -> NDArray[Any] | None:
    """Block means (h, w, channels) of a large TIFF that Pillow opened as `image`, of eight bits.

    None where it is small or of another kind: Pillow is asked then. Raises Damaged.
    """
    if image.format != "TIFF" or image.width * image.height < LARGE:
        return None
    strips = _strips(image)
    if strips is None or strips.rows > DEEP * step:
        return None
    with ThreadPoolExecutor(THREADS) as pool:
        rows = in_turn(pool, bands_of(strips.high, step), lambda band: strips.read(path, *band), AHEAD)
        return block_means(rows, image.width, step)


def _strips(image: Any) -> _Strips | None:
    """None where it is of another kind than greys or colours of eight bits, dark at nought, a pixel's numbers together."""
    tags, channels = image.tag_v2, CHANNELS.get(image.mode, 0)
    greys = 1 if image.mode == "L" else 2
    plain = (
        tags.get(PACKING) in DEFLATED
        and tags.get(GREYS) == greys
        and set(tags.get(BITS, (1,))) == {8}
        and tags.get(NUMBERS, 1) == channels
        and tags.get(PLANES, 1) == 1
        and tags.get(ORDER, 1) == 1
        and tags.get(PREDICTOR, 1) in (1, 2)
        and (channels < 4 or tuple(tags.get(MORE, ())) == (2,))
        and (tags.get(WIDE), tags.get(HIGH)) == image.size
    )
    places, lengths = tuple(tags.get(STRIPS, ())), tuple(tags.get(LENGTHS, ()))
    rows = min(int(tags.get(ROWS, image.height)), image.height)
    if not plain or rows < 1 or len(places) != len(lengths) or len(places) != -(-image.height // rows):
        return None
    return _Strips(places, lengths, rows, image.height, (image.width, channels), tags.get(PREDICTOR, 1) == 2)
