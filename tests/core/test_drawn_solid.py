"""What a large solid is drawn by is seen as the solid itself would be."""

from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray

from yellowbob.lines import picture
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View, contour, drawn_by, make_ready, shaded
from yellowbob.lines.solids import revolved, subtract, to_manifold

WIDE, HIGH = 900, 400


def barrel(sides: int, long_mm: float, thick_mm: float) -> Mesh:
    """A spindle of many triangles with a square notch, its axis along x."""
    at = np.linspace(0.0, np.pi, sides // 2)
    round_ = revolved(np.stack([-0.5 * long_mm * np.cos(at), 0.5 * thick_mm * np.sin(at)], axis=1), sides)
    lying = round_.moved(np.array([[0.0, 0.0, 1.0], [0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]]))
    notch = revolved(np.array([(-thick_mm, 0.2 * thick_mm), (0.0, 0.2 * thick_mm)]), 4)
    return subtract(lying, [notch])


def view(mesh: Mesh, turned_deg: float) -> View:
    turn = np.radians(turned_deg)
    right, up = np.array([-np.cos(turn), np.sin(turn), 0.0]), np.array([0.0, 0.0, 1.0])
    middle = mesh.bounds.mean(axis=0)
    size = float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0]))
    return View(right, up, 0.9 * WIDE / size, middle, (WIDE / 2, HIGH / 2))


def pixels(mesh: Mesh, seen: View) -> NDArray[np.int16]:
    return shaded(mesh, seen, WIDE, HIGH, (40, 30, 20), (240, 220, 200)).astype(np.int16)


@pytest.mark.parametrize("turned", [0.0, 35.0, 80.0])
def test_a_large_solid_is_seen_as_it_is(turned: float, monkeypatch: pytest.MonkeyPatch) -> None:
    large = barrel(320, 92.0, 31.0)
    light = drawn_by(large)
    assert (
        len(large.faces) > picture.MOST_DRAWN and 3 * len(light.faces) < len(large.faces) and drawn_by(light) is light
    )
    seen = view(large, turned)
    quick, lines = pixels(large, seen), contour(large, seen)
    monkeypatch.setattr(picture, "MOST_DRAWN", 10**9)
    true, all_lines = pixels(large, seen), contour(large, seen)
    there, truly = quick[..., 3] > 0, true[..., 3] > 0
    assert (there != truly).sum() <= 0.004 * truly.sum()
    both = there & truly
    apart = np.abs(quick - true)[both][:, :3].max(axis=1)
    assert np.mean(apart) < 2.0 and np.quantile(apart, 0.99) < 16.0
    assert lines.min(axis=(0, 1)) == pytest.approx(all_lines.min(axis=(0, 1)), abs=0.6)
    assert lines.max(axis=(0, 1)) == pytest.approx(all_lines.max(axis=(0, 1)), abs=0.6)


def test_off_by_no_more_than_a_sixth_of_a_pixel() -> None:
    large = barrel(320, 140.0, 20.0)
    light = drawn_by(large)
    size = float(np.linalg.norm(large.bounds[1] - large.bounds[0]))
    off = 1.5 * size * picture.DRAWN_SHARE
    assert np.abs(light.bounds - large.bounds).max() <= off
    assert abs(light.volume_mm3 / large.volume_mm3 - 1.0) < off * large.areas.sum() / large.volume_mm3
    outside = to_manifold(light) - to_manifold(large)
    assert outside.volume() < 0.5 * off * large.areas.sum()


def test_an_open_one_is_drawn_as_it_is() -> None:
    whole = barrel(320, 92.0, 31.0)
    torn = Mesh(whole.vertices, whole.faces[:-1])
    assert drawn_by(torn) is torn
    assert (pixels(torn, view(torn, 0.0))[..., 3] > 0).any()


def test_nothing_is_left_to_do_once_it_is_ready(monkeypatch: pytest.MonkeyPatch) -> None:
    large = barrel(320, 60.0, 22.0)
    make_ready(large)
    monkeypatch.setattr(picture, "thinned", lambda *_: pytest.fail("it was not ready"))
    looks, corners = dict(picture._LOOKS), dict(picture._CORNERS)
    pixels(large, view(large, 10.0))
    contour(large, view(large, 10.0))
    assert dict(picture._LOOKS) == looks and dict(picture._CORNERS) == corners
