"""What is said to be doubtful about a traced outline: soft and banded edges, stems, rough ground."""

from __future__ import annotations

import re

import cv2
import numpy as np
import pytest

from tests.core.test_trace_paints import trace
from tests.lying_bodies import in_light, in_numbers
from tests.painted_bodies import Scene, scene, silhouette_of
from yellowbob.lines.tracing.doubts import lined, odd_shares, stem_of
from yellowbob.lines.tracing.silhouette import BadPicture


def block(soft_left: float, band: float) -> tuple[np.ndarray, np.ndarray]:
    """A dark block on grey, 300 by 100 px, its outline (n, 2) and its picture (h, w, 3), 0 to 1; its left edge passes over
    so many pixels into the ground, and along its top lies a red band so wide."""
    x, y = np.meshgrid(np.arange(420.0), np.arange(220.0))
    inside = np.clip((x - 60.0) / max(soft_left, 1e-9) + 0.5, 0, 1) * np.clip(360.0 - x, 0, 1)
    inside = inside * np.clip(y - 60.0, 0, 1) * np.clip(160.0 - y, 0, 1)
    picture = 0.6 - 0.45 * inside[..., None] * np.ones(3)
    over = (np.abs(y - 60.0 + band / 2.0) < band / 2.0) & (x > 60.0) & (x < 360.0)
    picture = np.where(over[..., None], np.array([0.8, 0.1, 0.1]), picture)
    around = np.concatenate([np.stack([np.linspace(60, 360, 301)[:-1], np.full(300, 60.5)], 1),
                             np.stack([np.full(100, 359.5), np.linspace(60, 160, 101)[:-1]], 1),
                             np.stack([np.linspace(360, 60, 301)[:-1], np.full(300, 159.5)], 1),
                             np.stack([np.full(100, 60.0), np.linspace(160, 60, 101)[:-1]], 1)])  # fmt: skip
    return around, picture.astype(np.float32)


def placed(made: Scene) -> np.ndarray:
    """The outline (n, 2), px, of a body in its picture, unturned."""
    return np.array(made.known.nose) + silhouette_of(made.kind) * made.known.length_px * [1, -1]


@pytest.mark.parametrize(("soft", "band"), [(0.5, 0.0), (9.0, 0.0), (0.5, 4.0), (9.0, 4.0)])
def test_the_shares_of_an_outline_that_are_soft_and_banded(soft: float, band: float) -> None:
    outline, picture = block(soft, band)
    told = odd_shares(outline, picture, np.ones(len(outline), dtype=bool))
    assert told[0] == pytest.approx(100 / 800 if soft > 1 else 0.0, abs=0.02)
    assert told[1] == pytest.approx(300 / 800 if band else 0.0, abs=0.02)
    hidden = odd_shares(outline, picture, np.zeros(len(outline), dtype=bool))
    assert hidden == (0.0, 0.0)


@pytest.mark.parametrize("out", [0.0, 0.5, 1.0])
@pytest.mark.parametrize("line", [(0.02, 0.02, 0.02), (1.0, 1.0, 1.0), (0.9, 0.1, 0.1)])
@pytest.mark.parametrize("wide", [0.0, 2.0, 3.5])
def test_a_line_of_a_third_colour_on_the_edge_is_measured(wide: float, line: tuple[float, ...], out: float) -> None:
    """Inked round, 5 % of a body's area was missing, and 1.7 % called unsure; the fringe of a cut-out was part of it."""
    y, x = np.mgrid[0:260, 0:260] - 130.0
    radius, size = np.hypot(x, y), 90.0
    ring = (np.abs(radius - size + (1 - out) * wide - wide / 2) < wide / 2)[..., None]
    seen = np.where(radius[..., None] < size, np.array([0.45, 0.75, 0.4]), np.array([0.3, 0.4, 0.7]))
    picture = in_numbers(cv2.GaussianBlur(in_light(np.where(ring, line, seen)), (0, 0), 0.8)).astype(np.float32)
    turn = np.linspace(0, 2 * np.pi, 500, endpoint=False)
    outline = 130.0 + size * np.stack([np.cos(turn), np.sin(turn)], 1)
    along, thick, share = lined(outline, picture, radius < size)
    assert along == pytest.approx(1.0 if wide else 0.0, abs=0.01)
    assert wide - 0.5 <= thick <= wide + (2.0 if wide else 0.0)  # blurred in light it looks wider the brighter it is
    assert share == pytest.approx(2.0 * thick / size, abs=0.005)


def test_an_inked_body_is_right_or_how_much_the_line_makes_unsure_is_said() -> None:
    for colour in ((12, 12, 14), (252, 252, 252)):
        made = scene("humped", "plain red", "blue", noise=2.0, paints=((120, 190, 70),))
        body = cv2.fillPoly(
            np.zeros(made.known.pixels.shape[:2], np.uint8), [placed(made).round().astype(np.int32)], (1,)
        )
        rim = (body > 0) & (cv2.erode(body, np.ones((7, 7), np.uint8)) == 0)
        made.known.pixels[rim, :3] = np.array(colour) / 255
        found = trace(made)
        said = [re.search(r"third colour.*makes ([\d.]+) % of its area unsure", w) for w in found.warnings]
        (unsure,) = (float(one[1]) / 100 for one in said if one)
        assert abs(found.area_mm2 / made.known.area_px - 1) < unsure


@pytest.mark.parametrize(("wide", "long"), [(8, 300), (11, 150), (20, 300), (9, 30)])
def test_a_stem_is_told_from_a_body_and_from_a_tip(wide: int, long: int) -> None:
    body = np.zeros((200, 600), dtype=bool)
    body[50:150, 50:200] = True
    body[100 : 100 + wide, 200 : 200 + long] = True
    share, thick = stem_of(body)
    stem = wide < 14 and long * wide > 3 * 14**2
    assert share == pytest.approx(wide * long / (15000 + wide * long) if stem else 0.0, rel=0.06)
    assert thick == pytest.approx(wide if stem else 0.0, rel=0.05)


def test_what_of_a_stem_may_be_missing_is_said() -> None:
    """The dark half of a stem against blue is a stripe of six pixels: 7 % of the area."""
    made = scene("bulb", "dark back, pale belly", "blue", noise=3.5, blur=1.0, ruler=True, seed=64231426)
    assert any("% of its area is a stem about" in w for w in trace(made).warnings)


def test_on_rough_ground_an_edge_is_known_half_as_well_and_that_is_said() -> None:
    said = []
    for ground in ("card", "speckles"):
        words = "; ".join(trace(scene("stick", "plain brown", ground, noise=1.0)).warnings)
        found = re.search(r"where its edge is put makes ([\d.]+) % of its area unsure", words)
        assert found is not None and ("its ground rough" in words) == (ground == "speckles")
        said.append(float(found[1]))
    assert said[1] == pytest.approx(2.0 * said[0], rel=0.06)


def test_the_tip_of_a_lip_that_passes_into_the_ground_is_said() -> None:
    """White shaded to the paper's grey half-way along a lip: 1.3 % of the area, and 2 % of the outline, soft there only."""
    made = scene("lipped", "back and belly", "paper", px=1300, angle_deg=170.0, noise=1.7, blur=1.0, seed=180272098)
    try:
        found = trace(made, 170.0)
    except BadPicture:
        return
    assert (
        any("softer than elsewhere" in w for w in found.warnings) or abs(found.area_mm2 / made.known.area_px - 1) < 0.01
    )
