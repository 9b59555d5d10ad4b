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
from yellowbob.lines.tracing.png_file import look_through

WORKING_PX = 1000
"""Longer pictures are brought down to this before looking."""
SHOWN_PX = 2000
"""And to this to be looked at by whoever clicks in them."""
MOST_PIXELS = {"PNG": 150_000_000, "JPEG": 150_000_000, "TIFF": 150_000_000, "BMP": 150_000_000, "GIF": 60_000_000,
               "WEBP": 40_000_000, "AVIF": 40_000_000, "JPEG2000": 4_000_000}  # fmt: skip
"""By kind: more of them take over 1 GB, or longer than anybody waits;"""
MOST_OF_OTHERS = 20_000_000
"""of kinds that are not listed."""
PROGRESSIVE = "progressive JPEG"
QUICK_PIXELS = {"JPEG": 120_000_000, PROGRESSIVE: 10_000_000, "PNG": 20_000_000, "TIFF": 15_000_000, "BMP": 50_000_000,
                "GIF": 15_000_000, "AVIF": 15_000_000, "WEBP": 6_000_000, "JPEG2000": 1_000_000}  # fmt: skip
"""By kind: with more of them the whole of tracing may take over 2 s;"""
QUICK_BYTES = {"JPEG": 20_000_000, "PNG": 10_000_000, "GIF": 10_000_000, "TIFF": 10_000_000}
"""or with more bytes of a file that has to be unpacked from its first byte to its last; a TIFF only where it is packed."""
MOST_OBLONG = 0.005
"""Pixels may be so much wider than high, or less: as well as a length is to be known."""
JPEGS = ("JPEG", "MPO")
"""The second is a JPEG with further pictures behind it, as telephones take them: its own is the first."""
ORIENTATION = 0x0112
"""The tag that tells which way a picture was held; from 5 on its width is its height."""
MEASURED = ("I;16", "I;16B", "I;16L", "I;16N", "I", "F")
"""Greys that are not of eight bits."""


@dataclass(frozen=True, eq=False)
class Picture:
    """A picture brought down to working size: `pixels` (h, w, 4) 0 to 1, upright; the size it had, px; and what is shown of
    it, (h, w, 4) of eight bits, where it was read to be."""

    pixels: NDArray[Any]
    width: int
    height: int
    shown: NDArray[np.uint8] | None = None

    @property
    def factor(self) -> float:
        """How many of the picture's own pixels one of the working ones is wide."""
        return self.width / self.pixels.shape[1]


def read_picture(path: Path | str, patient: bool = False, to_show: bool = False) -> Picture:
    """A PNG, JPEG or TIFF, brought down to working size as it is read: slow, where it is large; with what is shown of it
    where that is wanted. Raises BadPicture, and unless `patient` for one whose file is so slow to unpack that tracing it
    may take more than 2 s."""
    from PIL import Image, ImageOps

    try:
        Image.MAX_IMAGE_PIXELS = None  # how many may be is said below, in our own words
        with Image.open(path) as image:
            _refuse_too_large(path, image)
            _refuse_oblong(path, image)
            _refuse_several(path, image)
            if not patient:
                _refuse_many(path, image)
            wide, high = image.size
            if image.format in JPEGS:
                image.draft("RGB", (2 * WORKING_PX, 2 * WORKING_PX))
            step = max(1, max(image.size) // (2 * WORKING_PX))
            means = _reduced(path, image, step, patient)
            turned = image.getexif().get(ORIENTATION, 1) >= 5
            small = ImageOps.exif_transpose(_eight_bits(means, image))
            shown = None
            if to_show:
                large = small.copy()
                large.thumbnail((SHOWN_PX, SHOWN_PX), Image.Resampling.BOX)
                shown = np.array(large.convert("RGBA"))
            small.thumbnail((WORKING_PX, WORKING_PX), Image.Resampling.BOX)
            small = small.convert("RGBA")
    except FileNotFoundError:
        raise BadPicture(f"{path}: no such file; check the name") from None
    except BadPicture:
        raise
    except Exception as error:  # Pillow raises many kinds on a broken picture
        raise BadPicture(f"{path}: cannot be read as a picture ({str(error)[:60]})") from None
    pixels = np.asarray(small, dtype=np.float32) / np.float32(255.0)
    return Picture(pixels, *((high, wide) if turned else (wide, high)), shown)


def _kind(image: Any) -> str:
    return "JPEG" if image.format in JPEGS else str(image.format)


def _refuse_too_large(path: Path | str, image: Any) -> None:
    kind = _kind(image)
    if image.width * image.height > MOST_PIXELS.get(kind, MOST_OF_OTHERS):
        other = "" if kind == "JPEG" else ", or as JPEG"
        raise BadPicture(
            f"{path}: {image.width} × {image.height} pixels are too many for a {kind}; save it smaller{other}"
        )


def _refuse_several(path: Path | str, image: Any) -> None:
    """Refuse a file of several pictures, such as scanned pages or a film: which of them is the body's is not known."""
    if image.format not in JPEGS and getattr(image, "is_animated", False):
        raise BadPicture(f"{path}: there is more than one picture in it; save the one of the body by itself")


def _refuse_oblong(path: Path | str, image: Any) -> None:
    """Refuse a picture that says its pixels are not square: one known length does not give its depth."""
    told = image.info.get("dpi") or image.info.get("aspect") or image.info.get("jfif_density") or (1, 1)
    across, down = (float(one) for one in told)
    if across > 0 and down > 0 and abs(across / down - 1.0) > MOST_OBLONG:
        raise BadPicture(
            f"{path}: its pixels are not square ({across:g} across to {down:g} down); save it with square ones"
        )


def _refuse_many(path: Path | str, image: Any) -> None:
    """Refuse more pixels of a kind than can be read quickly."""
    count = image.width * image.height
    kind = PROGRESSIVE if image.info.get("progressive") else _kind(image)
    if count > QUICK_PIXELS.get(kind, count):
        other = {PROGRESSIVE: "as an ordinary JPEG, or ", "JPEG": ""}
        raise _slow(path, f"{count / 1e6:.0f} million pixels", other.get(kind, "as JPEG, or "))


def _refuse_packed(path: Path | str, image: Any) -> None:
    """Refuse a large file of a kind of which no part can be read without all before it."""
    size, kind = Path(path).stat().st_size, _kind(image)
    plain = kind == "TIFF" and image.info.get("compression") == "raw"
    if not plain and size > QUICK_BYTES.get(kind, size):
        raise _slow(path, f"{size / 1e6:.0f} MB", "" if kind == "JPEG" else "as JPEG, or ")


def _slow(path: Path | str, its: str, other: str) -> BadPicture:
    return BadPicture(
        f"{path}: its {its} may make tracing it take more than 2 s; save it {other}at half the size (--patient reads it "
        "as it is)"
    )


def _reduced(path: Path | str, image: Any, step: int, patient: bool) -> NDArray[Any]:
    """Its means over blocks of `step` pixels, (h, w, channels), in its own kind of number."""
    means = big_tiff_means(path, image, step)
    if means is not None:
        return means
    if not patient:
        _refuse_packed(path, image)
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
    """Pixels (h, w, 4) at working size."""
    from PIL import Image

    height, width = pixels.shape[:2]
    factor = max(height, width) / WORKING_PX
    if factor <= 1.0:
        return Picture(np.asarray(pixels, dtype=float), width, height)
    size = (round(width / factor), round(height / factor))
    small = Image.fromarray((pixels * 255).astype(np.uint8)).resize(size, Image.Resampling.BOX, reducing_gap=3.0)
    return Picture(np.asarray(small, dtype=float) / 255.0, width, height)
