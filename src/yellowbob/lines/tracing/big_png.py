"""Large PNGs, decoded by a reader some three times as fast as Pillow's, in a process of its own.

That reader keeps Python's lock while it reads, and the window would stand still for as long: so it is run as
`python -m yellowbob.lines.tracing.big_png PICTURE STEP`, which writes means over blocks of STEP × STEP pixels to its
standard output, as a NumPy array (h, w, channels) of the picture's own depth.
"""

from __future__ import annotations

import io
import struct
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing.block_means import block_means

LARGE_PX = 16_000_000
"""From here on starting a process costs less than it saves."""
MOST_BYTES = 700_000_000
"""What its pixels may take, so that with the file and the libraries it stays under 1 GB."""
CHANNELS = {"L": 1, "I;16": 1, "RGB": 3, "RGBA": 4}
FIRST = 8
"""Bytes before the first of its parts."""


def big_png_means(path: Path | str, image: Any, step: int) -> NDArray[Any] | None:
    """Block means (h, w, channels) of a large PNG that Pillow opened as `image`, unsigned whole numbers of 8 or 16 bits.

    None where it is not one of those, or the reader would not have it: Pillow's own is asked then, and tells why.
    """
    channels = CHANNELS.get(image.mode)
    if image.format != "PNG" or channels is None or "transparency" in image.info or not sys.executable:
        return None
    pixels = image.width * image.height
    if pixels < LARGE_PX or pixels * channels * _bits(path) // 8 > MOST_BYTES:
        return None
    asked = [sys.executable, "-m", __name__, str(Path(path).absolute()), str(step)]
    said = subprocess.run(asked, capture_output=True, check=False)
    if said.returncode:
        return None
    means: NDArray[Any] = np.load(io.BytesIO(said.stdout), allow_pickle=False)
    expected = (-(-image.height // step), -(-image.width // step), channels)
    if means.shape != expected:
        return None
    image.info.setdefault("exif", _exif_of(path))  # else Pillow decodes the picture to look for it
    return means


def _bits(path: Path | str) -> int:
    """Bits a channel: the ninth byte of what its first part holds."""
    with open(path, "rb") as file:
        return file.read(FIRST + 17)[-1]


def _exif_of(path: Path | str) -> bytes:
    """What a PNG tells of how it was taken, wherever in the file it stands; empty where it does not."""
    with open(path, "rb") as file:
        file.seek(FIRST)
        while len(head := file.read(8)) == 8:
            length, kind = struct.unpack(">I4s", head)
            if kind == b"eXIf":
                return file.read(length)
            file.seek(length + 4, 1)
    return b""


def _main(path: str, step: int) -> None:
    from kornia_rs.io import read_image

    values = np.asarray(read_image(path))
    high, wide = values.shape[:2]
    means = block_means(lambda first, last: values[first:last], (wide, high), step)
    np.save(sys.stdout.buffer, means, allow_pickle=False)


if __name__ == "__main__":
    _main(sys.argv[1], int(sys.argv[2]))
