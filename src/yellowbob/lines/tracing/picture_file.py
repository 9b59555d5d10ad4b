"""Pictures read and brought down to working size: PNG, JPEG, TIFF, of 8 or 16 bits, upright."""

from __future__ import annotations

import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing.background import BadPicture

WORKING_PX = 1000
"""Longer pictures are brought down to this before looking."""
MOST_PIXELS = 150_000_000
ORIENTATION = 0x0112
"""The tag that tells which way a picture was held; from 5 on its width is its height."""


@dataclass(frozen=True, eq=False)
class Picture:
    """A picture brought down to working size: `pixels` (h, w, 4) 0 to 1, upright; the size it had, px."""

    pixels: NDArray[Any]
    width: int
    height: int

    @property
    def factor(self) -> float:
        """How many of the picture's own pixels one of the working ones is wide."""
        return self.width / self.pixels.shape[1]


def read_picture(path: Path | str) -> Picture:
    """A PNG, JPEG or TIFF, brought down to working size as it is read. Raises BadPicture."""
    from PIL import Image, ImageOps

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image = Image.open(path)
        with image:
            if image.width * image.height > MOST_PIXELS:
                raise BadPicture(f"{path}: {image.width} × {image.height} pixels are too many; save it smaller")
            wide, high = image.size
            turned = image.getexif().get(ORIENTATION, 1) >= 5
            if image.format == "JPEG":
                image.draft("RGB", (2 * WORKING_PX, 2 * WORKING_PX))
            small = _eight_bits(image)
            step = max(1, max(small.size) // (2 * WORKING_PX))
            small = ImageOps.exif_transpose(small.reduce(step) if step > 1 else small).convert("RGBA")
            small.thumbnail((WORKING_PX, WORKING_PX), Image.Resampling.BOX)
    except FileNotFoundError:
        raise BadPicture(f"{path}: no such file; check the name") from None
    except BadPicture:
        raise
    except Exception as error:  # Pillow raises many kinds on a broken picture
        raise BadPicture(f"{path}: cannot be read as a picture ({str(error)[:60]})") from None
    pixels = np.asarray(small, dtype=np.float32) / np.float32(255.0)
    return Picture(pixels, *((high, wide) if turned else (wide, high)))


def _eight_bits(image: Any) -> Any:
    """Pictures of 16 bits, whole numbers or floats a pixel as eight bits of grey, over the range they use."""
    from PIL import Image

    if image.mode not in ("I;16", "I;16B", "I;16L", "I;16N", "I", "F"):
        image.load()
        return image
    values = np.asarray(image, dtype=np.float32)
    if not np.isfinite(values).all():
        raise BadPicture("its pixels are not all numbers; save it as an ordinary PNG or JPEG")
    low, high = float(values.min()), float(values.max())
    if image.mode.startswith("I;16") and high > 255.0:
        low, high = 0.0, 65535.0
    if high <= low:
        raise BadPicture("it is all of one grey")
    return Image.fromarray(((values - low) / (high - low) * 255.0).astype(np.uint8))


def smaller(pixels: NDArray[Any]) -> Picture:
    """Pixels (h, w, 4) at working size."""
    from PIL import Image

    height, width = pixels.shape[:2]
    factor = max(height, width) / WORKING_PX
    if factor <= 1.0:
        return Picture(np.asarray(pixels, dtype=float), width, height)
    size = (round(width / factor), round(height / factor))
    small = Image.fromarray((pixels * 255).astype(np.uint8)).resize(size, Image.Resampling.BOX, reducing_gap=3.0)
    return Picture(np.asarray(small, dtype=float) / 255.0, width, height)
