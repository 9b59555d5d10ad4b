"""Pictures of every kind and size are brought down to the same working picture, or refused with the reason."""

from __future__ import annotations

import itertools
import struct
import zlib
from pathlib import Path
from types import ModuleType
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from yellowbob.lines.tracing import big_png, big_tiff, png_file
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.block_means import bands_of, block_means
from yellowbob.lines.tracing.picture_file import Picture, read_picture

GROUND, BODY = (224, 220, 210), (96, 52, 30)
KINDS = [
    (mode, ext)
    for ext, modes in (("png", "1 L LA P RGB RGBA I;16"), ("tif", "1 L LA P PA RGB RGBA CMYK YCbCr LAB I F I;16"),
                       ("gif", "L P RGB"), ("bmp", "1 L P RGB RGBA"), ("jpg", "L RGB CMYK YCbCr"), ("webp", "L RGB RGBA"))
    for mode in modes.split()
]  # fmt: skip


def drawn(wide: int) -> Image.Image:
    """A brown body on pale ground, a fifth as high as wide."""
    picture = Image.new("RGB", (wide, wide // 5), GROUND)
    ImageDraw.Draw(picture).ellipse((wide * 0.1, wide * 0.04, wide * 0.9, wide * 0.16), fill=BODY)
    return picture


def in_mode(picture: Image.Image, mode: str) -> Image.Image:
    grey = picture.convert("L")
    if mode == "I;16":
        return Image.fromarray(np.asarray(grey).astype(np.uint16) * 257)
    if mode == "PA":
        return picture.convert("RGBA").convert("PA")
    return grey.convert(mode) if mode in ("I", "F") else picture.convert(mode)


@pytest.mark.parametrize(("mode", "ext"), KINDS)
def test_a_large_picture_is_read_as_a_small_one_of_its_kind(
    tmp_path: Path, mode: str, ext: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Ground and body have the colours they have in a picture that needs no bringing down, where greys are not dithered."""
    found = []
    for wide in (1000, 4100):
        file = tmp_path / f"{wide}.{ext}"
        in_mode(drawn(wide), mode).save(file)
        monkeypatch.setattr(big_png, "LARGE", 1 if wide > 1000 else 10**9)
        read = read_picture(file, patient=True)
        assert (read.width, read.height) == (wide, wide // 5) and read.pixels.shape == (200, 1000, 4)
        found.append([read.pixels[4:24, 4:80].mean(axis=(0, 1)), read.pixels[90:110, 300:700].mean(axis=(0, 1))])
    for small, large in zip(*found, strict=True):
        assert large == pytest.approx(small, abs=0.03)
    assert found[1][0][:3].mean() > found[1][1][:3].mean() + 0.3, "the ground is paler than the body"


TO_FILE = {1: None, 2: Image.Transpose.FLIP_LEFT_RIGHT, 3: Image.Transpose.ROTATE_180, 4: Image.Transpose.FLIP_TOP_BOTTOM,
           5: Image.Transpose.TRANSPOSE, 6: Image.Transpose.ROTATE_90, 7: Image.Transpose.TRANSVERSE,
           8: Image.Transpose.ROTATE_270}  # fmt: skip
"""What makes of an upright picture the one in the file, by the tag that tells how it was held."""


@pytest.mark.parametrize("held", TO_FILE)
@pytest.mark.parametrize(("wide", "high", "ext"), [(2003, 1501, "jpg"), (8005, 2999, "jpg"), (4103, 1207, "png")])
def test_places_in_a_picture_brought_down_are_those_of_its_own_pixels(
    tmp_path: Path, wide: int, high: int, ext: str, held: int
) -> None:
    """The middle of a spot, by its darkness; the sides are no whole number of blocks, and the picture is held any way."""
    at, half = (0.7 * wide, 0.4 * high), (0.11 * wide, 0.23 * high)
    upright = Image.new("L", (wide, high), 255)
    ImageDraw.Draw(upright).ellipse([at[0] - half[0], at[1] - half[1], at[0] + half[0], at[1] + half[1]], fill=0)
    spots = np.argwhere(np.asarray(upright) == 0)
    told, turn = Image.Exif(), TO_FILE[held]
    told[0x0112] = held
    file = tmp_path / f"p.{ext}"
    (upright if turn is None else upright.transpose(turn)).save(
        file, exif=told, **({"quality": 95} if ext == "jpg" else {})
    )
    read = read_picture(file, to_show=True)
    assert (read.width, read.height) == (wide, high) and max(read.pixels.shape) == 1000
    dark = 1.0 - read.pixels[..., 0].astype(float)
    rows, columns = np.indices(dark.shape)
    middle = np.array([[(dark * columns).sum(), (dark * rows).sum()]]) / dark.sum()
    assert read.own(middle)[0] == pytest.approx(spots.mean(axis=0)[::-1], abs=0.02 * max(read.factors))
    assert read.working(tuple(read.own(middle)[0])) == pytest.approx(tuple(middle[0]))
    assert dark.sum() * read.factors[0] * read.factors[1] == pytest.approx(len(spots), rel=2e-3)
    assert read.shown is not None and max(read.shown.shape) == min(2000, wide)


@pytest.mark.parametrize(("wide", "high"), [(8000, 3), (7, 9001), (1999, 5), (1001, 1)])
def test_a_strip_is_as_long_as_it_was_however_flat(tmp_path: Path, wide: int, high: int) -> None:
    """It may be too flat to be unpacked at the share that its length calls for."""
    file = tmp_path / "p.jpg"
    Image.new("RGB", (wide, high), BODY).save(file)
    read = read_picture(file)
    for side, count, factor in zip((wide, high), read.pixels.shape[1::-1], read.factors, strict=True):
        assert -1e-6 < factor * count - side < 8.0


@given(
    wide=st.integers(1, 40), high=st.integers(1, 40), step=st.integers(1, 7), channels=st.sampled_from([1, 3, 4]),
    seed=st.integers(0, 2**16), deep=st.sampled_from([1, 2, 64]),
)  # fmt: skip
@settings(max_examples=80, deadline=None)
def test_block_means_are_the_means_of_the_blocks(wide, high, step, channels, seed, deep) -> None:  # type: ignore[no-untyped-def]
    """Against sums over each block; a pixel counts by how opaque it is, one beyond the edge repeats the last."""
    rng = np.random.default_rng(seed)
    values = rng.integers(0, 256, (high, wide, channels)).astype(np.uint8)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("yellowbob.lines.tracing.block_means.DEEP", deep)
        means = block_means((values[a:b] for a, b in bands_of(high, step)), wide, step).astype(float)
    assert means.shape == (-(-high // step), -(-wide // step), channels)
    padded = np.pad(values, ((0, -high % step), (0, -wide % step), (0, 0)), mode="edge").astype(float)
    blocks = padded.reshape(padded.shape[0] // step, step, padded.shape[1] // step, step, channels)
    if channels == 4:
        share = blocks[..., 3:] / 255.0
        opaque = share.sum(axis=(1, 3))
        colours = (blocks[..., :3] * share).sum(axis=(1, 3)) / np.maximum(opaque, 1e-9)
        expected = np.concatenate([colours, blocks[..., 3:].mean(axis=(1, 3))], axis=2)
    else:
        expected = blocks.mean(axis=(1, 3))
    assert np.abs(means - expected).max() <= 1.01


def part(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


@pytest.fixture
def any_size(monkeypatch: pytest.MonkeyPatch) -> None:
    """The reader for large ones is asked for all."""
    monkeypatch.setattr(big_png, "LARGE", 1)


def packed_png(rng: np.random.Generator, values: NDArray[Any], *, interlaced: bool, palette: bytes = b"") -> bytes:
    """A PNG of values (high, wide, channels) of 8 or 16 bits, every row filtered in its own way, cut anywhere."""
    high, wide, channels = values.shape
    passes = PASSES if interlaced else [(0, 0, 1, 1)]
    raw = b"".join(filtered(rng, values[top::down, left::across]) for left, top, across, down in passes)
    packed = zlib.compress(raw, int(rng.integers(0, 10)))
    cuts = [0, *sorted(rng.integers(0, len(packed) + 1, 3).tolist()), len(packed)]
    kind = 3 if palette else {1: 0, 2: 4, 3: 2, 4: 6}[channels]
    head = struct.pack(">IIBBBBB", wide, high, 8 * values.itemsize, kind, 0, 0, interlaced)
    data = [part(b"IDAT", packed[first:last]) for first, last in itertools.pairwise(cuts)]
    return b"\x89PNG\r\n\x1a\n" + part(b"IHDR", head) + palette + b"".join(data) + part(b"IEND", b"")


def filtered(rng: np.random.Generator, values: NDArray[Any]) -> bytes:
    """By the format's words: what a byte differs by from what its neighbours foretell."""
    if not values.size:
        return b""
    raw = values.astype(values.dtype.newbyteorder(">")).view(np.uint8).reshape(len(values), -1).astype(int)
    pixel = values.shape[2] * values.itemsize
    out = bytearray()
    above = np.zeros(raw.shape[1], int)
    for row in raw:
        left, corner = (np.concatenate([np.zeros(pixel, int), line[:-pixel]]) for line in (row, above))
        guess = left + above - corner
        apart = np.abs(np.stack([left, above, corner]) - guess)
        nearest = np.choose(apart.argmin(axis=0), [left, above, corner])
        kind = int(rng.integers(0, 5))
        foretold = [0 * row, left, above, (left + above) // 2, nearest][kind]
        out += bytes([kind]) + ((row - foretold) % 256).astype(np.uint8).tobytes()
        above = row
    return bytes(out)


PASSES = [(0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2), (0, 1, 1, 2)]


def read_both(file: Path, by: ModuleType, patch: pytest.MonkeyPatch) -> tuple[Picture, Picture]:
    """As Pillow reads it, and as the reader of large ones does, which must be the one that is asked."""
    patch.setattr(by, "LARGE", 10**9)
    plainly = read_picture(file)
    with patch.context() as noted:
        noted.setattr(by, "LARGE", 1)
        asked: list[object] = []
        means = by.block_means
        noted.setattr(by, "block_means", lambda *a: asked.append(a) or means(*a))
        quickly = read_picture(file)
    assert len(asked) == 1 and (quickly.width, quickly.height) == (plainly.width, plainly.height)
    return plainly, quickly


@pytest.mark.parametrize("interlaced", [False, True])
@pytest.mark.parametrize(("channels", "bits"), [(1, 8), (3, 8), (4, 8), (1, 16), (3, 16), (4, 16)])
def test_the_reader_for_large_ones_reads_what_the_other_reads(
    tmp_path: Path, channels: int, bits: int, interlaced: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Noise, in part transparent, in every filter, sides no whole number of blocks; and of a few pixels."""
    rng = np.random.default_rng(channels * bits + interlaced)
    monkeypatch.setattr(png_file, "PIECE", 1000)  # so that bands and pieces end anywhere
    for high, wide in [(71, 4111), (1, 3), (9, 1), *rng.integers(2, 40, (6, 2)).tolist()]:
        made = rng.integers(0, 1 << bits, (high, wide, channels)).astype(np.uint8 if bits == 8 else np.uint16)
        file = tmp_path / "noise.png"
        file.write_bytes(packed_png(rng, made, interlaced=interlaced))
        plainly, quickly = read_both(file, big_png, monkeypatch)
        assert (quickly.width, quickly.height) == (wide, high)
        opaque = np.minimum(plainly.pixels[..., 3:], 1.0)  # what can hardly be seen has hardly a colour
        assert np.abs((quickly.pixels - plainly.pixels) * opaque).max() <= (2.01 if bits == 8 else 3.01) / 255.0


@pytest.mark.parametrize("interlaced", [False, True])
@pytest.mark.parametrize(("colours", "through"), [(256, 0), (256, 256), (200, 90), (7, 1), (0, 8), (0, 16)])
def test_palettes_and_see_through_greys_are_read_as_the_other_reads_them(
    tmp_path: Path, colours: int, through: int, interlaced: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """With a palette of so many colours, so many see-through; without one, greys of so many bits with their opacity."""
    rng = np.random.default_rng(colours + through + interlaced)
    told = b""
    if colours:
        told = part(b"PLTE", rng.integers(0, 256, 3 * colours).astype(np.uint8).tobytes())
        told += part(b"tRNS", rng.integers(0, 256, through).astype(np.uint8).tobytes()) if through else b""
        made = rng.integers(0, colours, (67, 4111, 1)).astype(np.uint8)
    else:
        made = rng.integers(0, 1 << through, (67, 4111, 2)).astype(np.uint8 if through == 8 else np.uint16)
    file = tmp_path / "noise.png"
    file.write_bytes(packed_png(rng, made, interlaced=interlaced, palette=told))
    plainly, quickly = read_both(file, big_png, monkeypatch)
    assert np.abs(quickly.pixels[..., 3] - plainly.pixels[..., 3]).max() <= 2.01 / 255.0
    assert np.abs((quickly.pixels - plainly.pixels) * plainly.pixels[..., 3:]).max() <= 3.01 / 255.0


@pytest.mark.usefixtures("any_size")
@pytest.mark.parametrize("late", [False, True])
def test_a_large_one_held_upright_is_turned_wherever_it_says_so(tmp_path: Path, late: bool) -> None:
    told = Image.Exif()
    told[0x0112] = 6
    file = tmp_path / "held.png"
    drawn(4100).save(file)
    data = file.read_bytes()
    split = len(data) - 12 if late else data.index(b"IDAT") - 4
    file.write_bytes(data[:split] + part(b"eXIf", told.tobytes().removeprefix(b"Exif\x00\x00")) + data[split:])
    read = read_picture(file)
    assert (read.width, read.height) == (820, 4100) and read.pixels.shape[:2] == (1000, 200)


@pytest.mark.usefixtures("any_size")
@pytest.mark.parametrize("harm", ["half", "bit", "filter", "short", "checksum", "unending"])
def test_a_damaged_large_one_is_refused(tmp_path: Path, harm: str) -> None:
    file = tmp_path / "damaged.png"
    drawn(4100).save(file)
    data = bytearray(file.read_bytes())
    raw = np.full((820, 1 + 3 * 4100), 90, np.uint8)
    raw[:, 0] = 9 if harm == "filter" else 0
    packed = zlib.compress((raw[:700] if harm == "short" else raw).tobytes())
    if harm == "half":
        data = data[: len(data) // 2]
    elif harm == "bit":
        data[len(data) // 2] ^= 4
    else:
        if harm == "checksum":
            packed = packed[:-1] + bytes([packed[-1] ^ 1])
        if harm == "unending":
            packed = packed[: len(packed) // 2]
        data = data[:33] + part(b"IDAT", packed) + part(b"IEND", b"")
    file.write_bytes(bytes(data))
    with pytest.raises(BadPicture, match=r"damaged\.png: cannot be read as a picture"):
        read_picture(file)


@pytest.mark.parametrize(("mode", "ext"), KINDS)
@pytest.mark.parametrize("share", [0.3, 0.9])
def test_what_breaks_off_is_refused(tmp_path: Path, mode: str, ext: str, share: float) -> None:
    """Never read with its lower part black or grey."""
    file = tmp_path / f"cut.{ext}"
    in_mode(drawn(1200), mode).save(file)
    data = file.read_bytes()
    file.write_bytes(data[: int(share * len(data))])
    with pytest.raises(BadPicture, match=rf"cut\.{ext}: cannot be read as a picture"):
        read_picture(file)


@pytest.mark.parametrize("harm", ["", "bit", "half", "short strip"])
@pytest.mark.parametrize("predictor", [1, 2])
@pytest.mark.parametrize("mode", ["L", "RGB", "RGBA"])
def test_a_large_deflated_tiff_is_read_as_a_small_one_or_refused(
    tmp_path: Path, mode: str, predictor: int, harm: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Noise whose height is no whole number of strips nor of blocks."""
    rng = np.random.default_rng(len(mode) + predictor)
    made = rng.integers(0, 256, (331, 4111, len(mode))).astype(np.uint8)
    file = tmp_path / "noise.tif"
    picture = Image.fromarray(made[..., 0] if mode == "L" else made)
    told = {317: predictor, 278: 7, **({338: 2} if mode == "RGBA" else {})}
    picture.save(file, compression="tiff_adobe_deflate", tiffinfo=told)
    plainly, quickly = read_both(file, big_tiff, monkeypatch)
    if not harm:
        assert np.abs((quickly.pixels - plainly.pixels) * plainly.pixels[..., 3:]).max() <= 2.01 / 255.0
    else:
        monkeypatch.setattr(big_tiff, "LARGE", 1)
        with Image.open(file) as image:
            place, length = image.tag_v2[273][20], image.tag_v2[279][20]  # type: ignore[attr-defined]
        data = bytearray(file.read_bytes())
        if harm == "bit":
            data[place + length // 2] ^= 8
        elif harm == "half":
            data[place : place + length] = bytes(length)
        else:
            packed = zlib.compress(made.tobytes()[: length // 3])
            data[place : place + len(packed)] = packed
        file.write_bytes(bytes(data))
        with pytest.raises(BadPicture, match=r"noise\.tif: cannot be read as a picture \(it"):
            read_picture(file)
