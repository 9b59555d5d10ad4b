"""Which picture files are not read, or not without patience: too large, of oblong pixels, of several pictures."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from yellowbob.lines.tracing.background import BadPicture

MOST_PIXELS = {"PNG": 150_000_000, "JPEG": 150_000_000, "TIFF": 150_000_000, "BMP": 150_000_000, "GIF": 60_000_000,
               "WEBP": 40_000_000, "AVIF": 40_000_000, "JPEG2000": 4_000_000}  # fmt: skip
"""By kind: more of them take over 1 GB, or longer than anybody waits;"""
MOST_OF_OTHERS = 20_000_000
"""of kinds that are not listed."""
PROGRESSIVE = "progressive JPEG"
QUICK_PIXELS = {"JPEG": 100_000_000, PROGRESSIVE: 6_000_000, "PNG": 20_000_000, "TIFF": 6_000_000, "BMP": 12_000_000,
                "GIF": 10_000_000, "AVIF": 6_000_000, "WEBP": 2_500_000, "JPEG2000": 400_000}  # fmt: skip
"""By kind: with more of them the whole of tracing may take over 2 s;"""
QUICK_BYTES = {"JPEG": 20_000_000, "PNG": 10_000_000, "GIF": 10_000_000, "TIFF": 10_000_000}
"""or with more bytes of a file that has to be unpacked from its first byte to its last; a TIFF only where it is packed."""
MOST_OBLONG = 0.005
"""Pixels may be so much wider than high, or less: as well as a length is to be known."""
JPEGS = ("JPEG", "MPO")
"""The second is a JPEG with further pictures behind it, as telephones take them: its own is the first."""


def _kind(image: Any) -> str:
    return "JPEG" if image.format in JPEGS else str(image.format)


def refuse_too_large(path: Path | str, image: Any) -> None:
    """Refuse more pixels of a kind than can be read at all. Raises BadPicture, as the others here."""
    kind = _kind(image)
    if image.width * image.height > MOST_PIXELS.get(kind, MOST_OF_OTHERS):
        other = "" if kind == "JPEG" else ", or as JPEG"
        raise BadPicture(
            f"{path}: {image.width} × {image.height} pixels are too many for a {kind}; save it smaller{other}"
        )


def refuse_several(path: Path | str, image: Any) -> None:
    """Refuse a file of several pictures, such as scanned pages or a film: which of them is the body's is not known."""
    if image.format not in JPEGS and getattr(image, "is_animated", False):
        raise BadPicture(f"{path}: there is more than one picture in it; save the one of the body by itself")


def refuse_oblong(path: Path | str, image: Any) -> None:
    """Refuse a picture that says its pixels are not square: one known length does not give its depth."""
    told = image.info.get("dpi") or image.info.get("aspect") or image.info.get("jfif_density") or (1, 1)
    across, down = (float(one) for one in told)
    if across > 0 and down > 0 and abs(across / down - 1.0) > MOST_OBLONG:
        raise BadPicture(
            f"{path}: its pixels are not square ({across:g} across to {down:g} down); save it with square ones"
        )


def refuse_many(path: Path | str, image: Any) -> None:
    """Refuse more pixels of a kind than can be read quickly."""
    count = image.width * image.height
    kind = PROGRESSIVE if image.info.get("progressive") else _kind(image)
    if count > QUICK_PIXELS.get(kind, count):
        other = {PROGRESSIVE: "as an ordinary JPEG, or ", "JPEG": ""}
        raise _slow(path, f"{count / 1e6:.0f} million pixels", other.get(kind, "as JPEG, or "))


def refuse_packed(path: Path | str, image: Any) -> None:
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
