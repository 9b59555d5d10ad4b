"""Pictures that are refused for what they are: too many pixels, too slow, not square, more than one."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from tests.core.test_picture_file import drawn
from yellowbob.lines.tracing import file_bounds
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.file_bounds import MOST_OF_OTHERS
from yellowbob.lines.tracing.picture_file import read_picture


@pytest.mark.parametrize("ext", ["png", "gif", "tif", "jpg"])
def test_what_takes_long_to_unpack_is_refused_unless_one_is_patient(
    tmp_path: Path, ext: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    rng = np.random.default_rng(5)
    file = tmp_path / f"noise.{ext}"
    made = Image.fromarray(rng.integers(0, 256, (90, 400, 3)).astype(np.uint8))
    made.save(file, **({"compression": "tiff_lzw"} if ext == "tif" else {}))
    assert read_picture(file).width == 400
    kind = {"jpg": "JPEG", "tif": "TIFF"}.get(ext, ext.upper())
    monkeypatch.setitem(file_bounds.QUICK_BYTES, kind, file.stat().st_size)
    assert read_picture(file).width == 400
    monkeypatch.setitem(file_bounds.QUICK_BYTES, kind, file.stat().st_size - 1)
    other = "at half the size" if ext == "jpg" else "as JPEG, or at half the size"
    with pytest.raises(
        BadPicture, match=rf"noise\.{ext}: its 0 MB may make tracing it take more than 2 s; save it {other}"
    ):
        read_picture(file)
    assert read_picture(file, patient=True).width == 400
    if ext == "tif":
        made.save(file)  # not packed: read quickly
        monkeypatch.setitem(file_bounds.QUICK_BYTES, kind, 1)
        assert read_picture(file).width == 400


@pytest.mark.parametrize("ext", ["webp", "jp2", "tif", "bmp", "avif", "jpg", "png", "gif"])
def test_many_pixels_of_a_slow_kind_are_refused_unless_one_is_patient(
    tmp_path: Path, ext: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / f"large.{ext}"
    drawn(1000).save(file, **({"progressive": True} if ext == "jpg" else {}))
    kind = {"jp2": "JPEG2000", "tif": "TIFF", "jpg": "progressive JPEG"}.get(ext, ext.upper())
    monkeypatch.setitem(file_bounds.QUICK_PIXELS, kind, 200_000)
    assert read_picture(file).width == 1000
    monkeypatch.setitem(file_bounds.QUICK_PIXELS, kind, 199_999)
    with pytest.raises(
        BadPicture, match=r"its 0 million pixels may make tracing it take more than 2 s.*--patient reads it"
    ):
        read_picture(file)
    assert read_picture(file, patient=True).width == 1000
    if ext == "jpg":
        drawn(1000).save(file)  # of an ordinary one as much is read as is wanted
        assert read_picture(file).width == 1000


@pytest.mark.parametrize("ext", ["webp", "jp2", "png", "tga"])
def test_too_many_pixels_of_a_kind_are_refused(tmp_path: Path, ext: str, monkeypatch: pytest.MonkeyPatch) -> None:
    file = tmp_path / f"large.{ext}"
    drawn(1000).save(file)
    kind = {"jp2": "JPEG2000"}.get(ext, ext.upper())
    monkeypatch.setattr(file_bounds, "MOST_OF_OTHERS", 200_000)
    monkeypatch.setitem(file_bounds.MOST_PIXELS, kind, 200_000)
    assert read_picture(file).width == 1000
    monkeypatch.setattr(file_bounds, "MOST_OF_OTHERS", 199_999)
    monkeypatch.setitem(file_bounds.MOST_PIXELS, kind, 199_999)
    with pytest.raises(
        BadPicture, match=rf"large\.{ext}: 1000 × 200 pixels are too many for a {kind}; save it smaller, or"
    ):
        read_picture(file, patient=True)


@pytest.mark.parametrize("ext", ["png", "jpg", "tif", "bmp"])
def test_pixels_that_are_not_square_are_refused(tmp_path: Path, ext: str) -> None:
    """As a fax has them: one known length would not give the depth."""
    picture = Image.new("RGB", (60, 40), (250, 250, 250))
    for dpi, refused in (((300, 150), True), ((204, 196), True), ((300, 300), False), ((72, 72), False)):
        file = tmp_path / f"a.{ext}"
        picture.save(file, dpi=dpi)
        if refused:
            with pytest.raises(BadPicture, match="not square"):
                read_picture(file)
        else:
            assert read_picture(file).width == 60


@pytest.mark.parametrize("ext", ["tif", "gif", "webp", "png", "avif"])
def test_a_file_of_several_pictures_is_refused(tmp_path: Path, ext: str) -> None:
    """Pages of a scan, or a film: the first was taken, whatever is on it."""
    pages = [drawn(120), drawn(120).rotate(90)]
    file = tmp_path / f"a.{ext}"
    pages[0].save(file, save_all=True, append_images=pages[1:])
    with pytest.raises(BadPicture, match="more than one picture"):
        read_picture(file)
    pages[0].save(file)
    assert read_picture(file).width == 120


def test_what_a_telephone_hangs_behind_a_picture_leaves_it_as_it_is(tmp_path: Path) -> None:
    """A second picture, for depth or brightness, makes another kind of file of it: read as the JPEG it is, however large."""
    plain, more = tmp_path / "a.jpg", tmp_path / "b.jpg"
    picture = drawn(6000).resize((6000, 4000))
    picture.save(plain, quality=90)
    picture.save(more, format="MPO", quality=90, save_all=True, append_images=[drawn(200)])
    with Image.open(more) as opened:
        assert opened.format == "MPO" and opened.width * opened.height > MOST_OF_OTHERS
    one, other = read_picture(plain), read_picture(more)
    assert (other.width, other.height) == (6000, 4000) and np.abs(one.pixels - other.pixels).max() < 0.02
