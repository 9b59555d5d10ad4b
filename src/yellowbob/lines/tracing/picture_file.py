"""Pictures read and brought down to working size: PNG, JPEG, TIFF, of 8 or 16 bits, upright."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.big_png import big_png_means
from yellowbob.lines.tracing.big_tiff import big_tiff_means
from yellowbob.lines.tracing.block_means import bands_of, block_means
from yellowbob.lines.tracing.file_bounds import (
    JPEGS,
    refuse_many,
    refuse_oblong,
    refuse_packed,
    refuse_several,
    refuse_too_large,
)
from yellowbob.lines.tracing.png_file import look_through

WORKING_PX = 1000
"""Longer pictures are brought down to this before looking."""
SHOWN_PX = 2000
"""And to this to be looked at by whoever clicks in them."""
ORIENTATION = 0x0112
"""The tag that tells which way a picture was held; from 5 on its width is its height;"""
FROM_RIGHT, FROM_BELOW = (2, 3, 6, 7), (3, 4, 7, 8)
"""and with these its right end, or its lower one, comes first in the file (Exif 2.3)."""
SHARES = (8, 4, 2, 1)
"""A JPEG is unpacked with each pixel the mean of so many a side: the most that leave enough of them to look at."""
MEASURED = ("I;16", "I;16B", "I;16L", "I;16N", "I", "F")
"""Greys that are not of eight bits."""


@dataclass(frozen=True, eq=False)
class Picture:
    """A picture brought down to working size: `pixels` (h, w, 4) 0 to 1, upright; the size it had, px; how many of its own
    pixels one of the working ones is wide and high, and how far right and down the first of these begins; and what is
    shown of it, (h, w, 4) of eight bits, where it was read to be."""

    pixels: NDArray[Any]
    width: int
    height: int
    factors: tuple[float, float]
    begins: tuple[float, float] = (0.0, 0.0)
    shown: NDArray[np.uint8] | None = None

    def working(self, at: tuple[float, float]) -> tuple[float, float]:
        """A place in its own pixels, as one in the working ones."""
        x, y = ((v + 0.5 - b) / f - 0.5 for v, b, f in zip(at, self.begins, self.factors, strict=True))
        return x, y

    def own(self, places: NDArray[np.float64]) -> NDArray[np.float64]:
        """Places (n, 2) in the working pixels, as ones in its own."""
        return np.asarray((places + 0.5) * self.factors + self.begins - 0.5)


def read_picture(path: Path | str, patient: bool = False, to_show: bool = False) -> Picture:
    """A PNG, JPEG or TIFF, brought down to working size as it is read: slow, where it is large; with what is shown of it
    where that is wanted. Raises BadPicture, and unless `patient` for one whose file is so slow to unpack that tracing it
    may take more than 2 s."""
    from PIL import Image

    try:
        Image.MAX_IMAGE_PIXELS = None  # how many may be is said below, in our own words
        with Image.open(path) as image:
            refuse_too_large(path, image)
            refuse_oblong(path, image)
            refuse_several(path, image)
            if not patient:
                refuse_many(path, image)
            wide, high = image.size
            small, unit = _upright(path, image, WORKING_PX, patient)
            held = image.getexif().get(ORIENTATION, 1)
            size = _within(small.size, WORKING_PX)
            pixels = _at_size(np.asarray(small), size)
            shown = _to_show(path, small, patient) if to_show else None
    except FileNotFoundError:
        raise BadPicture(f"{path}: no such file; check the name") from None
    except BadPicture:
        raise
    except Exception as error:  # Pillow raises many kinds on a broken picture
        raise BadPicture(f"{path}: cannot be read as a picture ({str(error)[:60]})") from None
    whole = (high, wide) if held >= 5 else (wide, high)
    factors = (unit * small.width / size[0], unit * small.height / size[1])
    ahead = (held in FROM_RIGHT, held in FROM_BELOW)  # then what is left over is
    begins = tuple(float(w - f * n) if a else 0.0 for w, f, n, a in zip(whole, factors, size, ahead, strict=True))
    return Picture(pixels, *whole, factors, (begins[0], begins[1]), shown)


def _upright(path: Path | str, image: Any, least: int, patient: bool) -> tuple[Any, int]:
    """A picture, upright and of eight bits, whose longer side is `least` pixels or more, where it has so many; and how many
    of its own pixels one of these is wide. What is left over where its rows or columns end makes pixels of its own."""
    from PIL import ImageOps

    wide, unit = image.width, 1
    if image.format in JPEGS:
        share = next(n for n in SHARES if max(image.size) >= n * least or n == 1)
        told = image.draft("RGB", tuple(max(1, side // share) for side in image.size))
        image.decodermaxblock = Path(path).stat().st_size  # all at once: other threads come to a halt at each block
        unit = 1 if told is None else round(wide / told[1][2])
    step = max(1, max(image.size) // (2 * least))
    return ImageOps.exif_transpose(_eight_bits(_reduced(path, image, step, patient), image)), unit * step


def _to_show(path: Path | str, small: Any, patient: bool) -> NDArray[np.uint8]:
    """What is shown of a picture that was brought down; a JPEG, which was brought down further than that, is read again."""
    from PIL import Image

    with Image.open(path) as image:
        if image.format in JPEGS and max(image.size) > max(small.size):
            small, _ = _upright(path, image, SHOWN_PX, patient)
    large = small.copy()
    large.thumbnail((SHOWN_PX, SHOWN_PX), Image.Resampling.BOX)
    return np.array(large.convert("RGBA"))


def _within(size: tuple[int, int], most: int) -> tuple[int, int]:
    """The size of a picture whose longer side is `most` pixels; its own where it is smaller."""
    share = min(1.0, most / max(size))
    return max(1, round(size[0] * share)), max(1, round(size[1] * share))


def _at_size(values: NDArray[np.uint8], size: tuple[int, int]) -> NDArray[np.float32]:
    """Pixels (h, w) or (h, w, 3 or 4) of eight bits as means over the areas of fewer of them, (h, w, 4), 0 to 1: each counts
    by how opaque it is."""
    import cv2

    if values.ndim == 3 and values.shape[2] == 4 and values[..., 3].min() == 255:
        values = np.asarray(cv2.cvtColor(values, cv2.COLOR_RGBA2RGB))
    if values.ndim == 3 and values.shape[2] == 4:
        given = values.astype(np.float32) / np.float32(255.0)
        given[..., :3] *= given[..., 3:]
        means: NDArray[np.float32] = np.asarray(cv2.resize(given, size, interpolation=cv2.INTER_AREA), dtype=np.float32)
        means[..., :3] /= np.maximum(means[..., 3:], 1e-6)
        return means
    small = cv2.resize(values, size, interpolation=cv2.INTER_AREA)
    coloured = cv2.cvtColor(small, cv2.COLOR_GRAY2RGBA if small.ndim == 2 else cv2.COLOR_RGB2RGBA)
    return np.asarray(coloured).astype(np.float32) / np.float32(255.0)


def _reduced(path: Path | str, image: Any, step: int, patient: bool) -> NDArray[Any]:
    """Its means over blocks of `step` pixels, (h, w, channels), in its own kind of number."""
    means = big_tiff_means(path, image, step)
    if means is not None:
        return means
    if not patient:
        refuse_packed(path, image)
    means = big_png_means(path, image, step)
    if means is not None:
        return means
    if image.format == "PNG":
        _loaded_and_looked_through(path, image)
    image.load()
    mode = _as_numbers(image)
    if image.mode == mode and mode in ("L", "RGB"):
        whole = np.asarray(image.reduce(step) if step > 1 else image)
        return whole.reshape(*whole.shape[:2], -1)

    def rows(first: int, last: int) -> NDArray[Any]:
        band = image.crop((0, first, image.width, last))
        values = np.asarray(band if band.mode == mode else band.convert(mode))
        return values.astype(float) if mode == "I" else values

    return block_means((rows(*band) for band in bands_of(image.height, step)), image.width, step)


def _loaded_and_looked_through(path: Path | str, image: Any) -> None:
    """Unpack a PNG, and meanwhile see whether all of it is there. Raises what is found wrong with it."""
    with ThreadPoolExecutor(1) as pool:
        looked = pool.submit(look_through, path)
        try:
            image.load()
        finally:
            looked.result()


def _as_numbers(image: Any) -> str:
    """The mode in which its rows are averaged: its own where that is of plain numbers, else in colours or greys."""
    if image.mode in MEASURED or (image.mode in ("L", "RGB", "RGBA") and "transparency" not in image.info):
        return str(image.mode)
    if image.mode in ("1", "L"):
        return "L" if "transparency" not in image.info else "RGBA"
    return "RGBA" if image.has_transparency_data else "RGB"


def _eight_bits(means: NDArray[Any], image: Any) -> Any:
    """Means (h, w, channels) as a picture of eight bits; greys of 16 bits, whole numbers or floats over what they use."""
    from PIL import Image

    if image.mode not in MEASURED:
        values = means if means.dtype == np.uint8 else (means >> 8).astype(np.uint8)
        return _tagged(Image.fromarray(values[:, :, 0] if values.shape[2] == 1 else values), image)
    greys = means[:, :, 0].astype(np.float64)
    if not np.isfinite(greys).all():
        raise BadPicture("its pixels are not all numbers; save it as an ordinary PNG or JPEG")
    low, high = float(greys.min()), float(greys.max())
    if image.mode.startswith("I;16") and high > 255.0:
        low, high = 0.0, 65535.0
    if high <= low:
        raise BadPicture("it is all of one grey")
    return _tagged(Image.fromarray(((greys - low) / (high - low) * 255.0).astype(np.uint8)), image)


def _tagged(made: Any, image: Any) -> Any:
    """With what tells how the picture was held."""
    made.info["exif"] = image.getexif().tobytes()
    return made


def smaller(pixels: NDArray[Any]) -> Picture:
    """Pixels (h, w, 4), 0 to 1, at working size."""
    height, width = pixels.shape[:2]
    size = _within((width, height), WORKING_PX)
    small = pixels if size == (width, height) else _at_size((pixels * 255).astype(np.uint8), size)
    return Picture(small, width, height, (width / size[0], height / size[1]))
