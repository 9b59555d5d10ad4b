"""Pictures of every kind and size are brought down to the same working picture, or refused with the reason."""

from __future__ import annotations

import struct
import zlib
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from yellowbob.lines.tracing import big_png
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.block_means import block_means
from yellowbob.lines.tracing.picture_file import read_picture

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
def test_a_large_picture_is_read_as_a_small_one_of_its_kind(tmp_path: Path, mode: str, ext: str) -> None:
    """Ground and body have the colours they have in a picture that needs no bringing down, where greys are not dithered."""
    found = []
    for wide in (1000, 4100):
        file = tmp_path / f"{wide}.{ext}"
        in_mode(drawn(wide), mode).save(file)
        read = read_picture(file)
        assert (read.width, read.height) == (wide, wide // 5) and read.pixels.shape == (200, 1000, 4)
        found.append([read.pixels[4:24, 4:80].mean(axis=(0, 1)), read.pixels[90:110, 300:700].mean(axis=(0, 1))])
    for small, large in zip(*found, strict=True):
        assert large == pytest.approx(small, abs=0.03)
    assert found[1][0][:3].mean() > found[1][1][:3].mean() + 0.3, "the ground is paler than the body"


@given(
    wide=st.integers(1, 40), high=st.integers(1, 40), step=st.integers(1, 7), channels=st.sampled_from([1, 3, 4]),
    seed=st.integers(0, 2**16), deep=st.sampled_from([1, 2, 64]),
)  # fmt: skip
@settings(max_examples=80)
def test_block_means_are_the_means_of_the_blocks(wide, high, step, channels, seed, deep) -> None:  # type: ignore[no-untyped-def]
    """Against sums over each block; a pixel counts by how opaque it is, one beyond the edge repeats the last."""
    rng = np.random.default_rng(seed)
    values = rng.integers(0, 256, (high, wide, channels)).astype(np.uint8)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("yellowbob.lines.tracing.block_means.DEEP", deep)
        means = block_means(lambda first, last: values[first:last], (wide, high), step).astype(float)
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
    monkeypatch.setattr(big_png, "LARGE_PX", 1)


@pytest.mark.parametrize("mode", ["L", "RGB", "RGBA", "I;16"])
def test_the_reader_for_large_ones_reads_what_the_other_reads(
    tmp_path: Path, mode: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Noise, in part transparent, whose sides are no whole number of blocks."""
    rng = np.random.default_rng(7)
    shape = (251, 4111) if mode in ("L", "I;16") else (251, 4111, len(mode))
    made = (
        rng.integers(0, 65536, shape).astype(np.uint16)
        if mode == "I;16"
        else rng.integers(0, 256, shape).astype(np.uint8)
    )
    file = tmp_path / "noise.png"
    Image.fromarray(made).save(file)
    plainly = read_picture(file)
    monkeypatch.setattr(big_png, "LARGE_PX", 1)
    asked: list[object] = []
    run = big_png.subprocess.run
    monkeypatch.setattr(big_png.subprocess, "run", lambda *a, **k: asked.append(run(*a, **k)) or asked[-1])
    quickly = read_picture(file)
    assert len(asked) == 1 and asked[0].returncode == 0  # type: ignore[attr-defined]
    assert (quickly.width, quickly.height) == (plainly.width, plainly.height)
    assert np.abs(quickly.pixels - plainly.pixels).max() <= 2.01 / 255.0


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
@pytest.mark.parametrize("cut", ["half", "bit"])
def test_a_damaged_large_one_is_refused(tmp_path: Path, cut: str) -> None:
    file = tmp_path / "damaged.png"
    drawn(4100).save(file)
    data = bytearray(file.read_bytes())
    data[len(data) // 2] ^= 4
    file.write_bytes(bytes(data[: len(data) // 2]) if cut == "half" else bytes(data))
    with pytest.raises(BadPicture, match=r"damaged\.png: cannot be read as a picture"):
        read_picture(file)
