"""Large PNGs, read a band of rows at a time: while one is unpacked the one before is unfiltered and averaged.

A picture of noise of 96 million pixels takes Pillow about twice as long, and holds all its pixels at once.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.progress import go_on
from yellowbob.lines.tracing.block_means import Band, bands_of, block_means, in_turn
from yellowbob.lines.tracing.png_file import PALETTE, PASSES, PIECE, Damaged, Head, Unpacked, exif_of, head_of

LARGE, OF_BYTES = 75_000_000, 1.5
"""Those of fewer pixels and so many times their bytes Pillow reads sooner: what unfilters here has to be loaded first."""
AHEAD = 128_000_000
"""Bytes unpacked before they are asked for, while what unfilters them is still being loaded."""
MOST_BYTES = 600_000_000
"""What the pixels of an interlaced one may take, all at once, so that it stays under 1 GB with the libraries."""


def big_png_means(path: Path | str, image: Any, step: int) -> NDArray[Any] | None:
    """Block means (h, w, channels) of a large PNG that Pillow opened as `image`, unsigned whole numbers of 8 or 16 bits.

    None where it is small or of another kind: Pillow is asked then. Raises Damaged where it is damaged.
    """
    if image.format != "PNG" or image.width * image.height + OF_BYTES * Path(path).stat().st_size < LARGE:
        return None
    with open(path, "rb") as file:
        head = head_of(file)
        if not _read_here(head, image):
            return None
        numbers = _numbers(head, image)
        rows = _rows(head, Unpacked(file), bands_of(head.high, step))
        means = block_means(map(numbers, rows), head.wide, step)
    image.info.setdefault("exif", exif_of(path))  # else Pillow decodes the picture to look for it
    return means


def _read_here(head: Head, image: Any) -> bool:
    """Whether it has 8 or 16 bits, no colour that stands for see-through, and is not too large to be interlaced."""
    through = "transparency" in image.info and head.kind != PALETTE
    too_large = head.interlaced and head.wide * head.high * head.pixel > MOST_BYTES
    return head.bits in (8, 16) and (head.wide, head.high) == image.size and not through and not too_large


def _numbers(head: Head, image: Any) -> Callable[[NDArray[Any]], NDArray[Any]]:
    """What makes greys or colours (n, wide, channels) of the numbers as they lie."""
    if head.kind == PALETTE:
        colours = np.zeros((256, 4), np.uint8)
        image.apply_transparency()
        known = np.array(image.getpalette("RGBA"), np.uint8).reshape(-1, 4)
        colours[: len(known)] = known
        colours = colours if image.has_transparency_data else np.ascontiguousarray(colours[:, :3])
        return lambda values: np.take(colours, values[:, :, 0], axis=0)
    if head.numbers == 2:
        return _grey_and_opacity
    return lambda values: values


def _grey_and_opacity(values: NDArray[Any]) -> NDArray[Any]:
    colours = np.empty((*values.shape[:2], 4), values.dtype)
    colours[:, :, :3] = values[:, :, :1]
    colours[:, :, 3] = values[:, :, 1]
    return colours


def _rows(head: Head, unpacked: Unpacked, bands: list[Band]) -> Iterator[NDArray[Any]]:
    """The numbers (n, wide, numbers) of its rows, band by band."""
    if head.interlaced:
        whole = _interlaced(head, unpacked)
        yield from (whole[first:last] for first, last in bands)
        return
    ((_, wide),) = head.passes()
    above = np.zeros(wide, np.uint8)
    ahead = 1 + AHEAD // (wide + 1) // (bands[0][1] - bands[0][0])
    with ThreadPoolExecutor(1) as pool:
        for raw in in_turn(pool, bands, lambda band: unpacked.rows(band[1] - band[0], wide + 1), ahead):
            above = _unfiltered(raw, above, head)
            yield _values(raw, head)


def _interlaced(head: Head, unpacked: Unpacked) -> NDArray[Any]:
    """The whole picture (high, wide, numbers), put together from its seven passes."""
    whole = np.empty((head.high, head.wide, head.numbers), np.uint8 if head.bits == 8 else np.uint16)
    for (left, top, across, down), (_, wide) in zip(PASSES, head.passes(), strict=True):
        target = whole[top::down, left::across]
        above = np.zeros(wide, np.uint8)
        deep = max(1, 16 * PIECE // (wide + 1))
        for first in range(0, len(target) if wide else 0, deep):
            go_on()
            raw = unpacked.rows(min(deep, len(target) - first), wide + 1)
            above = _unfiltered(raw, above, head)
            target[first : first + deep] = _values(raw, head)
    return whole


def _unfiltered(raw: NDArray[np.uint8], above: NDArray[np.uint8], head: Head) -> NDArray[np.uint8]:
    """Undo the filters of rows in place; the last of them, as it came out."""
    from yellowbob.lines.tracing.png_filters import unfiltered

    if unfiltered(raw, above, head.pixel) >= 0:
        raise Damaged("its pixels are damaged")
    return raw[-1, 1:]


def _values(raw: NDArray[np.uint8], head: Head) -> NDArray[Any]:
    """Unfiltered rows (n, 1 + bytes) as numbers (n, wide, numbers)."""
    kind = np.dtype(np.uint8 if head.bits == 8 else ">u2")
    values = np.ascontiguousarray(raw[:, 1:]).view(kind).reshape(len(raw), -1, head.numbers)
    return values.astype(kind.newbyteorder("="), copy=False)
