"""Hard shadows, as the sun casts them: never a part of the body without a word."""

from __future__ import annotations

import re
from itertools import pairwise

import cv2
import numpy as np
import pytest

from tests.core.test_trace_paints import judged, trace
from tests.painted_bodies import Known, Scene
from yellowbob.lines.tracing.background import Difference, Surface
from yellowbob.lines.tracing.cast import cast_doubts, cast_share, looked_into
from yellowbob.lines.tracing.silhouette import BadPicture, Stroke

WIDE, HIGH, LONG, THICK, MIDDLE = 900, 420, 600.0, 130.0, 210.0
TEAL, PAPER, TAN = (0.50, 0.71, 0.70), (0.95, 0.95, 0.93), (0.80, 0.70, 0.55)
RED, DARK, CLAY = np.array([0.80, 0.22, 0.17]), np.array([0.26, 0.29, 0.17]), np.array([0.67, 0.52, 0.46])


def tinted(light: float, bluer: float) -> np.ndarray:
    """So much of what the ground sends back in a shadow, a channel each, by such a share more in blue and less in red."""
    return light * np.array([1.0 - bluer, 1.0, 1.0 + bluer])


def in_the_sun(ground: tuple[float, ...], dark: float, wide: int, soft: float = 1.0, bluer: float = 0.0) -> Scene:
    """A body with a dark back, red sides and a clay belly, and so much of the ground's light taken from a strip below it."""
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(float)
    along = np.clip((x - 450.0) / (LONG / 2), -1, 1)
    covered = np.clip(THICK / 2 * (1 - along**2) ** 0.25 - np.abs(y - MIDDLE) + 0.5, 0, 1) * (
        np.abs(x - 450.0) < LONG / 2
    )
    cast = cv2.GaussianBlur(np.roll(covered, wide, axis=0), (0, 0), soft)[..., None]
    v = np.clip((y - MIDDLE) / (THICK / 2), -1, 1)[..., None]
    paint = np.where(v < 0, (1 + v) * RED - v * DARK, (1 - v) * RED + v * CLAY)
    picture = (
        np.array(ground) * (1 - (1 - tinted(1 - dark, bluer)) * cast) * (1 - covered[..., None])
        + paint * covered[..., None]
    )
    picture = cv2.GaussianBlur(picture, (0, 0), 0.8) + np.random.default_rng(1).normal(0, 0.006, picture.shape)
    p = np.linspace(-1, 1, 4001)
    area = THICK * np.trapezoid(np.clip(1 - p**2, 0, 1) ** 0.25, p) * LONG / 2
    pixels = np.dstack([np.clip(picture, 0, 1), np.ones((HIGH, WIDE))])
    ends = ((450.0 - LONG / 2 - 0.5, MIDDLE), (450.0 + LONG / 2 - 0.5, MIDDLE))
    return Scene(Known(pixels, LONG, area, *ends), "in the sun", "plain")


@pytest.mark.parametrize(("ground", "dark", "wide"), [
    (TEAL, 0.4, 6), (TEAL, 0.6, 3), (TEAL, 0.7, 9), (PAPER, 0.3, 6), (PAPER, 0.55, 4), (PAPER, 0.8, 12), (TAN, 0.3, 3),
    (TAN, 0.5, 8),
])  # fmt: skip
def test_a_hard_shadow_is_never_part_of_the_body_without_a_word(
    ground: tuple[float, ...], dark: float, wide: int
) -> None:
    """Each but the third was 2 to 10 % too large, and nothing was said."""
    assert judged(in_the_sun(ground, dark, wide), 0.0) in ("right", "refused", "doubted")


@pytest.mark.parametrize(
    ("ground", "dark", "wide"), [(TEAL, 0.3, 6), (PAPER, 0.5, 12), (TEAL, 0.6, 12), (PAPER, 0.4, 6), (PAPER, 0.6, 9)]
)
def test_where_it_can_be_told_from_the_body_it_is_left_out(ground: tuple[float, ...], dark: float, wide: int) -> None:
    assert judged(in_the_sun(ground, dark, wide), 0.0) == "right"


@pytest.mark.parametrize("bluer", [-0.08, 0.08, 0.16])
@pytest.mark.parametrize(("ground", "dark", "wide"), [((0.64, 0.81, 0.94), 0.4, 30), (PAPER, 0.5, 12), (TAN, 0.4, 8)])
def test_nor_is_one_that_the_blue_sky_lights(ground: tuple[float, ...], dark: float, wide: int, bluer: float) -> None:
    """A body on pale blue was a third too large, and only its length was doubted."""
    made = in_the_sun(ground, dark, wide, bluer=bluer)
    try:
        found = trace(made)
    except BadPicture:
        return
    assert abs(found.area_mm2 / made.known.area_px - 1) < 0.01 or any("hard shadow" in w for w in found.warnings)


def test_touched_up_by_hand_it_is_said_and_no_longer_refused() -> None:
    made = in_the_sun(PAPER, 0.7, 9)
    with pytest.raises(BadPicture, match=r"a hard shadow, or paint of that colour; use softer light"):
        trace(made)
    found = trace(made, strokes=(Stroke((450.0, 210.0), 5.0, True),))
    assert any("a hard shadow, or paint of that colour: look there" in words for words in found.warnings)


def banded(
    light: float, wide: float, ground: tuple[float, ...] = TAN, bluer: float = 0.0
) -> tuple[np.ndarray, np.ndarray, Difference]:
    """A clay bar, a strip so wide along its lower edge with so much of the ground's light; its outline; its ground."""
    y, x = np.mgrid[0:200, 0:500].astype(float)
    inside = (x >= 50) & (x < 450) & (y >= 60) & (y < 140)
    picture = np.where(inside[..., None], RED, np.array(ground))
    picture = np.where((inside & (y >= 140 - wide))[..., None], tinted(light, bluer) * ground, picture)
    left, right, top, low = 49.5, 449.5, 59.5, 139.5
    run = np.linspace(0, 1, 400, endpoint=False)
    corners = np.array([[left, top], [right, top], [right, low], [left, low], [left, top]])
    outline = np.vstack([a + run[:, None] * (b - a) for a, b in pairwise(corners)])
    terms = np.zeros((6, 3))
    terms[0] = 100.0 * np.array(ground)
    pixels = np.dstack([picture, np.ones(y.shape)]).astype(np.float32)
    return pixels, outline, Difference(np.zeros(y.shape, dtype=np.float32), 0.3, Surface(terms), shade=True)


@pytest.mark.parametrize("wide", [4.0, 9.0, 20.0])
@pytest.mark.parametrize("light", [0.18, 0.5, 0.8])
def test_how_much_of_a_body_may_be_shadow_is_its_strip(wide: float, light: float) -> None:
    pixels, outline, ground = banded(light, wide)
    share, likely, along, _ = cast_share(looked_into(outline, pixels, ground), ground.unrest)
    assert share == pytest.approx(wide / 80.0, abs=0.015)
    assert likely == pytest.approx(share if 0.2 < light < 0.82 else 0.0, abs=0.003)
    assert along == pytest.approx(0.25, abs=0.02)


@pytest.mark.parametrize("wide", [6.0, 14.0, 25.0])
@pytest.mark.parametrize("light", [1.0, 0.93, 1.15])
def test_a_strip_fainter_than_the_edge_inside_it_is_said_as_a_reflection_is(light: float, wide: float) -> None:
    """A body mirrored in the table it lay on was a third too large, and only its length and its rim were doubted."""
    pixels, outline, ground = banded(light, wide)
    (words,) = cast_doubts(outline, pixels, ground, False)
    found = re.fullmatch(
        r"along (\d+) % of its edge a far stronger one runs inside it, with ([\d.]+) % of its area.*", words
    )
    assert found is not None and float(found[1]) == pytest.approx(25.0, abs=2.0)
    assert float(found[2]) == pytest.approx(100.0 * wide / 80.0, abs=2.5)


@pytest.mark.parametrize(("strength", "both", "said"), [(0.36, False, True), (0.36, True, False), (0.6, False, False)])
def test_what_is_mirrored_more_strongly_is_said_where_it_lies_along_one_side(
    strength: float, both: bool, said: bool
) -> None:
    """A white body mirrored in a blue table was 38 % too large, and 2 % of its edge was doubted."""
    pixels, outline, ground = banded(1.0, 14.0)
    mirrored = (1 - strength) * np.array(TAN) + strength * RED
    pixels[126:140, 50:450, :3] = mirrored
    if both:
        pixels[60:74, 50:450, :3] = mirrored
    words = [w for w in cast_doubts(outline, pixels, ground, False) if "stronger one" in w]
    assert bool(words) == said
    if said:
        found = re.fullmatch(
            r"along (\d+) % of its edge a stronger one .*, with ([\d.]+) % of its area between.*", words[0]
        )
        assert found is not None and float(found[1]) == pytest.approx(25.0, abs=2.0)
        assert float(found[2]) == pytest.approx(100.0 * 14.0 / 80.0, abs=3.0)


def test_its_light_may_be_bluer_or_warmer_than_the_ground_s_but_no_paint_s_hue() -> None:
    for bluer, share in ((-0.1, 9.0 / 80.0), (0.1, 9.0 / 80.0), (0.2, 9.0 / 80.0), (-0.4, 0.0), (0.6, 0.0)):
        pixels, outline, ground = banded(0.6, 9.0, bluer=bluer)
        assert cast_share(looked_into(outline, pixels, ground), ground.unrest)[0] == pytest.approx(share, abs=0.015)


def test_black_paint_fades_and_bare_edges_are_no_shadow() -> None:
    for light, wide in ((0.1, 9.0), (0.5, 0.0)):
        pixels, outline, ground = banded(light, wide)
        assert cast_share(looked_into(outline, pixels, ground), ground.unrest)[0] == 0.0
        assert cast_doubts(outline, pixels, ground, False) == ()
    pixels, outline, ground = banded(0.5, 0.0)
    y = np.arange(200.0)[:, None, None]
    faded = np.clip((y - 60.0) / 80.0, 0, 1)  # from red into the ground's shade over all its depth
    inside = (pixels[..., :3] == RED.astype(np.float32)).all(axis=2, keepdims=True)
    pixels[..., :3] = np.where(inside, (1 - faded) * RED + faded * 0.5 * np.array(TAN), pixels[..., :3])
    assert cast_share(looked_into(outline, pixels, ground), ground.unrest)[0] < 0.005


@pytest.mark.parametrize(
    ("paint", "ground", "dark"), [(0.5, PAPER, 0.45), (0.7, PAPER, 0.25), (0.1, (0.35, 0.36, 0.38), 0.6)]
)
def test_where_a_body_is_as_a_shadow_would_be_that_is_said(
    monkeypatch: pytest.MonkeyPatch, paint: float, ground: tuple[float, ...], dark: float
) -> None:
    """Grey on white: a shadow of the same tone is in its outline, 10 % of the area, and no colour tells it from the body."""
    for part in ("RED", "DARK", "CLAY"):
        monkeypatch.setattr(f"{__name__}.{part}", np.full(3, paint))
    made = in_the_sun(ground, dark, 12)
    try:
        found = trace(made)
    except BadPicture:
        return
    said = any("one with a hard edge is not told from it" in words for words in found.warnings)
    assert said or abs(found.area_mm2 / made.known.area_px - 1) < 0.01
