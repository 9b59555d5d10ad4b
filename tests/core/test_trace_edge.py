"""Where an outline is put: half-way between the colours inside and outside, whatever light falls off towards it."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from scipy.stats import norm

from tests.core.test_trace_paints import trace, verdict_of
from tests.lying_bodies import in_light, in_numbers
from tests.painted_bodies import scene
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.edge import PLACED_BURNT, OnEdge, light_doubts, put_on_edge, refuse_ragged, wanders

PINK = ((28, 28, 28), (223, 205, 218))
MIDDLE, RADIUS = (150.0, 150.0), 90.0


def disc(
    paint: tuple[float, float, float], ground: tuple[float, float, float], shaded: float, cast: float
) -> np.ndarray:
    """A painted disc, its light falling off by a share towards its rim, and a shadow as dark round it; (h, w, 3), 0 to 1."""
    y, x = np.mgrid[0:301, 0:301] - MIDDLE[0]
    radius = np.hypot(x, y)
    body = np.asarray(paint) * (1 - shaded * np.clip((radius - RADIUS + 25.0) / 25.0, 0, 1))[..., None]
    beside = np.asarray(ground) * (1 - cast * np.exp(-np.clip(radius - RADIUS, 0, None) / 6.0))[..., None]
    covered = np.clip(RADIUS + 0.5 - radius, 0, 1)[..., None]
    return cv2.GaussianBlur((covered * body + (1 - covered) * beside).astype(np.float32), (0, 0), 1.2)


def on_edge(picture: np.ndarray, off: float) -> OnEdge:
    """Where an outline is put that lay so far outside the disc's rim, px."""
    turn = np.linspace(0, 2 * np.pi, 600, endpoint=False)
    outline = np.stack([np.cos(turn), np.sin(turn)], 1) * (RADIUS + off) + MIDDLE
    y, x = np.mgrid[0:301, 0:301]
    inside = np.hypot(x - MIDDLE[0], y - MIDDLE[1]) < RADIUS + off
    return put_on_edge(outline, picture, inside, np.zeros(600, dtype=bool), 180.0)


def put(picture: np.ndarray, off: float) -> np.ndarray:
    """How far outside the disc's rim that is, px."""
    return np.linalg.norm(on_edge(picture, off).outline - MIDDLE, axis=1) - RADIUS


@pytest.mark.parametrize("off", [-3.0, -2.0, 0.0, 1.0])
@pytest.mark.parametrize(("paint", "ground"), [
    ((0.87, 0.79, 0.85), (0.84, 0.83, 0.76)),
    ((0.62, 0.70, 0.66), (0.70, 0.66, 0.64)),
    ((0.30, 0.36, 0.42), (0.37, 0.35, 0.33)),
])  # fmt: skip
def test_paint_as_light_as_the_ground_is_outlined_where_its_hue_ends(paint, ground, off: float) -> None:
    """Light falls off inside, a shadow lies outside: the darkest is the rim, and no edge of lightness lies there."""
    assert np.abs(put(disc(paint, ground, 0.13, 0.12), off)).max() < 0.4


@pytest.mark.parametrize("deep", [6.0, 7.0, 8.0])
@pytest.mark.parametrize(
    ("paint", "ground"), [((0.4, 0.58, 0.42), (0.26, 0.38, 0.58)), ((0.7, 0.2, 0.2), (0.3, 0.3, 0.3))]
)
def test_a_highlight_along_a_sharp_edge_is_not_the_edge(paint, ground, deep: float) -> None:
    """Green on blue, a white streak of 5 pixels beside its rim: the outline ran along the streak, and was refused."""
    picture = disc(paint, ground, 0.0, 0.0)
    y, x = np.mgrid[0:301, 0:301] - MIDDLE[0]
    streak = np.clip(3.0 - np.abs(np.hypot(x, y) - RADIUS + deep + 2.5), 0, 1)[..., None].astype(np.float32)
    assert np.abs(put(picture + streak * (1 - picture), 1.0)).max() < 0.4


@pytest.mark.parametrize("off", [-2.0, 0.0, 2.0])
def test_where_lightness_parts_them_it_is_what_counts(off: float) -> None:
    for paint, ground in (((0.15, 0.15, 0.16), (0.9, 0.9, 0.88)), ((0.9, 0.88, 0.8), (0.3, 0.31, 0.34))):
        assert np.abs(put(disc(paint, ground, 0.1, 0.1), off)).max() < 0.4


@pytest.mark.parametrize(
    ("kind", "paint", "angle"), [("slant nose", "back and belly", 10.0), ("slant nose", "red head", 10.0)]
)
def test_pink_in_its_own_shadow_on_paper_keeps_its_belly(kind: str, paint: str, angle: float) -> None:
    """It was 2 to 3 % too small without a word: the outline lay where the light fell off."""
    made = scene(kind, paint, "paper", 1300, angle, noise=1.3, blur=2.0, shadow=0.2, seed=41, paints=PINK)
    assert verdict_of(made, trace(made, angle)) == "right"


@pytest.mark.parametrize("lens", [True, False])
@pytest.mark.parametrize(("paint", "ground"), [(0.1, 0.95), (0.95, 0.1), (0.2, 0.6), (0.5, 0.6)])
def test_how_far_half_way_in_light_is_from_half_way_in_the_picture_is_said(
    paint: float, ground: float, lens: bool
) -> None:
    """A straight step blurred by σ has its level l at σ·Φ⁻¹(l) from its middle: in light, or in the picture's numbers."""
    soft = 1.5
    y, x = np.mgrid[0:301, 0:301] - MIDDLE[0]
    covered = np.clip(RADIUS + 0.5 - np.hypot(x, y), 0, 1)
    one, other = (in_light(np.array(tone)) if lens else np.array(tone) for tone in (paint, ground))
    seen = cv2.GaussianBlur(covered * one + (1 - covered) * other, (0, 0), soft)
    if lens:
        seen = in_numbers(seen)
    picture = np.dstack([seen] * 3).astype(np.float32)
    dark, light = in_light(np.array(paint)), in_light(np.array(ground))
    if lens:  # where half-way in the picture's numbers is, in shares of light, outward of the middle
        away = -soft * norm.ppf((in_light(np.array((paint + ground) / 2)) - light) / (dark - light))
    else:
        share = (in_numbers((dark + light) / 2) - ground) / (paint - ground)
        away = soft * norm.ppf(share)
    turn = np.linspace(0, 2 * np.pi, 600, endpoint=False)
    at = RADIUS + (away if lens else 0.0)
    outline = np.stack([np.cos(turn), np.sin(turn)], 1) * at + MIDDLE
    told, burnt = light_doubts(outline, picture, np.zeros(600, dtype=bool))
    assert burnt == 0.0
    assert told == pytest.approx(-2.0 * away / at, abs=0.0015)
    assert abs(told) < 0.003 if (paint, ground) == (0.5, 0.6) else abs(told) > 0.004


@pytest.mark.parametrize("light", [1.2, 2.0, 4.0])
@pytest.mark.parametrize("ground", [0.02, 0.2])
def test_a_burnt_out_body_looks_larger_and_that_is_said(light: float, ground: float) -> None:
    """As much light as the picture can hold, and more: its edge lies where it is half-way to white, not half-way to that."""
    soft = 1.5
    y, x = np.mgrid[0:301, 0:301] - MIDDLE[0]
    covered = np.clip(RADIUS + 0.5 - np.hypot(x, y), 0, 1)
    seen = in_numbers(np.clip(cv2.GaussianBlur(covered * light + (1 - covered) * ground, (0, 0), soft), 0, 1))
    picture = np.dstack([seen] * 3).astype(np.float32)
    lies = on_edge(picture, 1.0)
    half = in_light((1 + in_numbers(np.array(ground))) / 2)
    out = -soft * norm.ppf((half - ground) / (light - ground))
    assert np.median(np.linalg.norm(lies.outline - MIDDLE, axis=1) - RADIUS) == pytest.approx(out, abs=0.1)
    assert light_doubts(lies.outline, picture, np.zeros(600, dtype=bool))[1] == 1.0
    assert PLACED_BURNT * lies.wide > 0.75 * out


def test_of_a_soft_edge_it_is_said_how_much_of_the_area_it_makes_unsure() -> None:
    said = []
    for blur in (0.0, 1.5):
        found = trace(scene("cigar", "plain red", "card", blur=blur, noise=1.0))
        said.append([w for w in found.warnings if "and its edge soft" in w])
    assert not said[0] and len(said[1]) == 1


@pytest.mark.parametrize("soft", [1.0, 1.6, 2.4])
@pytest.mark.parametrize("shaded", [0.0, 0.5])
def test_light_that_falls_off_towards_a_round_body_s_rim_makes_its_edge_no_softer(soft: float, shaded: float) -> None:
    """A step blurred by σ falls from 0.85 to 0.15 of it over 2·Φ⁻¹(0.85)·σ; shade inside was counted too, as out of focus."""
    y, x = np.mgrid[0:301, 0:301] - MIDDLE[0]
    radius = np.hypot(x, y)
    body = 0.9 - shaded * np.clip((radius - RADIUS + 25.0) / 25.0, 0, 1)
    seen = cv2.GaussianBlur(np.where(radius < RADIUS, body, 0.1), (0, 0), soft)
    lies = on_edge(np.dstack([seen] * 3).astype(np.float32), 0.5)
    assert (
        0.9 * 2 * norm.ppf(0.85) * soft - 0.4 < lies.wide < (1.4 if shaded else 1.05) * 2 * norm.ppf(0.85) * soft + 0.5
    )


def test_corners_are_not_ragged_and_a_saw_is() -> None:
    """A thin stem's ends were a fifteenth of its outline, and it was refused as if it followed a shadow's unrest."""
    stem = resampled(np.array([(20.0, 20.0), (320.0, 20.0), (320.0, 30.0), (20.0, 30.0)]), 300)
    ends = np.abs(stem[:, 0] - 170.0) > 140.0
    assert not wanders(stem).any()
    refuse_ragged(stem, np.zeros(300, dtype=bool))
    saw = stem + np.where(ends & (np.arange(300) // 4 % 2 == 0), 4.0, 0.0)[:, None] * [0.0, 1.0]
    assert wanders(saw).sum() >= 0.5 * ends.sum()
    with pytest.raises(BadPicture, match="cannot be told"):
        refuse_ragged(saw, np.zeros(300, dtype=bool))
    refuse_ragged(saw, ends)  # drawn by hand


def resampled(corners: np.ndarray, count: int) -> np.ndarray:
    """Evenly spaced points along a closed polygon."""
    closed = np.vstack([corners, corners[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    at = np.linspace(0.0, run[-1], count, endpoint=False)
    return np.stack([np.interp(at, run, closed[:, n]) for n in (0, 1)], axis=1)
