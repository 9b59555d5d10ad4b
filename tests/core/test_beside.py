"""What lies beside a traced outline and is the body's too: a belly of hardly another hue, paint that could be shade."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import pytest

from tests.core.test_trace_paints import judged, trace
from tests.lying_bodies import lying
from tests.painted_bodies import scene
from tests.pictures import Known, render
from yellowbob.lines.tracing import silhouette
from yellowbob.lines.tracing.background import BadPicture, Difference, Surface
from yellowbob.lines.tracing.beside import RULER, ring_doubts
from yellowbob.lines.tracing.edge import area_of
from yellowbob.lines.tracing.further import dark_edge_doubts, second_edge
from yellowbob.lines.tracing.silhouette import Stroke, find_silhouette

HIGH, WIDE = 160, 420
OUTLINE = np.concatenate([
    np.stack([np.linspace(60, 360, 301)[:-1], np.full(300, 60.0)], 1),
    np.stack([np.full(40, 360.0), np.linspace(60, 100, 41)[:-1]], 1),
    np.stack([np.linspace(360, 60, 301)[:-1], np.full(300, 100.0)], 1),
    np.stack([np.full(40, 60.0), np.linspace(100, 60, 41)[:-1]], 1),
])  # fmt: skip
"""A block of 300 by 40 px, 680 points about it."""


def measure(beside: np.ndarray, soft: float = 0.8, unrest: float = 0.2) -> Difference:
    """How far each pixel is from the ground: 60 in the block, else what is given."""
    away = np.asarray(beside, dtype=np.float32).copy()
    away[60:100, 60:360] = 60.0
    return Difference(cv2.GaussianBlur(away, (0, 0), soft), unrest, Surface(np.zeros((6, 1))), shade=True)


def strip(start: float, end: float, wide: int, by: float, gap: int = 0) -> np.ndarray:
    """Something below the block, from x to x, so wide and so far off it, that differs by so much."""
    plane = np.zeros((HIGH, WIDE))
    plane[100 + gap : 100 + gap + wide, round(start) : round(end)] = by
    return plane


@pytest.mark.parametrize(("start", "end"), [(60.0, 360.0), (60.0, 210.0), (150.0, 250.0)])
@pytest.mark.parametrize("wide", [8, 14, 22])
@pytest.mark.parametrize("by", [2.0, 3.4, 12.0])
def test_a_strip_of_hardly_another_hue_is_seen_along_all_of_it(start: float, end: float, wide: int, by: float) -> None:
    share = second_edge(OUTLINE, measure(strip(start, end, wide, by)), 5.0, 30.0)
    assert share == pytest.approx((end - start) / 680.0, abs=0.03)


def test_what_is_no_strip_is_none() -> None:
    y = np.clip(np.arange(HIGH)[:, None] - 100.0, 0.0, None) * np.ones((1, WIDE))
    below = y > 0
    shimmers = [12.0 * np.exp(-y / far) * below for far in (6.0, 12.0, 25.0)]  # of the body's paint, on the ground
    assert [second_edge(OUTLINE, measure(one), 5.0, 30.0) for one in shimmers] == [0.0, 0.0, 0.0]
    for plain in (np.zeros((HIGH, WIDE)), strip(60, 360, 14, 0.9), strip(60, 360, 14, 9.0, gap=10)):
        assert second_edge(OUTLINE, measure(plain), 5.0, 36.0) == 0.0  # nothing, too little, and a thing by itself
    assert second_edge(OUTLINE, measure(np.zeros((HIGH, WIDE)), soft=2.0), 5.0, 30.0) == 0.0  # its own edge, soft
    noisy = measure(strip(60, 360, 14, 3.0), unrest=1.5)
    assert second_edge(OUTLINE, noisy, 5.0, 30.0) == 0.0  # no more than such a picture's unrest makes


@pytest.mark.parametrize(
    ("kind", "px", "angle", "shadow"),
    [("waisted", 1300, 0.0, 0.2), ("two waists", 1300, 0.0, 0.2), ("loaf", 1000, 30.0, 0.0), ("loaf", 2000, 157.0, 0.35),
     ("slim", 1000, 30.0, 0.0), ("minnow", 1300, 0.0, 0.2), ("bulb", 1300, 157.0, 0.2)],
)  # fmt: skip
def test_a_cream_belly_on_white_is_not_left_out(kind: str, px: int, angle: float, shadow: float) -> None:
    """7 to 33 % of the area; the ends of the length lie in what is found."""
    made = scene(kind, "three tones", "white", px, angle, noise=0.8, blur=1.5, shadow=shadow, seed=546453590)
    assert judged(made, angle) == "refused"


def test_touched_up_elsewhere_a_belly_left_out_is_said() -> None:
    """With the brush nothing is refused; but it did not take the belly in."""
    made = scene("loaf", "three tones", "white", 1000, 30.0, noise=0.8, blur=1.5, seed=546453590)
    middle = np.mean([made.known.nose, made.known.tail], axis=0)
    found = trace(made, 30.0, (Stroke((float(middle[0]), float(middle[1])), 6.0, True),))
    assert found.area_mm2 < 0.95 * made.known.area_px
    assert any("something that is no background either" in words for words in found.warnings)


def test_a_stripe_is_no_body_where_the_rest_could_be_its_shadow() -> None:
    """A body of the paper's own hue, darker; its stripe from end to end is a sixth of it."""
    paints = ((210, 208, 198), (20, 20, 20))
    made = scene("banana", "stripe", "paper", 1300, 157.0, noise=1.8, blur=1.0, shadow=0.2, paints=paints, seed=7285839)
    assert judged(made, 157.0) == "refused"


@pytest.mark.parametrize(("run", "told"), [(0, "right"), (12, "right"), (20, "said"), (25, "said"), (30, "refused")])
def test_a_run_of_something_else_close_beside_an_edge_is_said_and_then_refused(run: int, told: str) -> None:
    """Of 680 points about: 2 % are 14, 4 % are 27."""
    doubts = ()
    try:
        doubts = ring_doubts(OUTLINE, measure(strip(300 - run, 300, 14, 12.0)))
    except BadPicture:
        assert told == "refused"
    else:
        assert told == ("said" if doubts else "right")
    assert all("look whether a part is missing there" in one for one in doubts)


def test_what_a_lens_and_blocks_spread_round_a_bright_body_is_no_part_of_it() -> None:
    """Orange on a grey sheet was refused for 4 of 60 all about it; by so little of a body's own difference."""
    shimmer = np.full((HIGH, WIDE), 0.065 * 60.0)
    assert ring_doubts(OUTLINE, measure(shimmer)) == ()
    with pytest.raises(BadPicture):
        ring_doubts(OUTLINE, measure(1.3 * shimmer))
    assert judged(*lying(np.random.default_rng(7122))) == "right"


def test_something_else_here_and_there_is_a_hook_or_a_corner() -> None:
    here_and_there = sum(strip(at, at + 13, 14, 12.0) for at in (90, 250))
    assert ring_doubts(OUTLINE, measure(here_and_there)) == ()


@pytest.mark.parametrize(("seed", "angle"), [(832680471, 12.0), (5, 20.0)])
def test_a_lip_that_passes_into_the_cards_colour_is_not_cut_off_unsaid(seed: int, angle: float) -> None:
    """Its last third was left out, 1.1 % of the area, where white paint in shade comes out like the card in shadow."""
    made = scene("lipped", "dark back, pale belly", "card", 1000, angle, noise=3.6, shadow=0.3, seed=seed)
    assert judged(made, angle) != "wrong"


def with_a_bar(known: Known, off: float, askew: float, colour: tuple[float, float, float]) -> Known:
    """A picture with a bar as long as its body and a tenth, marked in black, so far off its middle line by its length."""
    pixels = known.pixels.copy()
    way = np.subtract(known.tail, known.nose) / known.length_px
    turn = np.radians(askew)
    along = np.array([way[0] * np.cos(turn) - way[1] * np.sin(turn), way[0] * np.sin(turn) + way[1] * np.cos(turn)])
    across = np.array([-along[1], along[0]])
    middle = np.mean([known.nose, known.tail], axis=0) - off * known.length_px * across

    def box(start: float, end: float, top: float, foot: float) -> np.ndarray:
        corners = [(start, top), (end, top), (end, foot), (start, foot)]
        placed = [middle + known.length_px * (x * along - y * across) for x, y in corners]
        return np.rint(np.array(placed) * 16).astype(np.int32)

    for drawn, its in (
        ([box(-0.55, 0.55, 0.07, 0.0)], colour),
        ([box(at, at + 0.003, 0.03, 0.0) for at in np.arange(-0.54, 0.54, 0.02)], (0.1, 0.1, 0.1)),
    ):
        cover = np.zeros(pixels.shape[:2])
        cv2.fillPoly(cover, drawn, (1.0,), lineType=cv2.LINE_AA, shift=4)
        pixels[..., :3] += cover[..., None] * (np.array(its) - pixels[..., :3])
    return replace(known, pixels=pixels)


@pytest.mark.parametrize("angle", [0.0, 13.0])
@pytest.mark.parametrize("colour", [(0.72, 0.5, 0.1), (0.2, 0.7, 0.25), (0.5, 0.3, 0.6)])
@pytest.mark.parametrize(("off", "askew"), [(0.17, 0.0), (0.2, 4.0)])
def test_a_ruler_close_beside_a_body_is_no_part_of_it(
    angle: float, colour: tuple[float, float, float], off: float, askew: float
) -> None:
    known = with_a_bar(render(1100, angle, hooks=False, shadow=False), off, askew, colour)
    found = find_silhouette(known.pixels, (known.nose, known.tail))
    assert area_of(found.outline) == pytest.approx(known.area_px, rel=0.01)
    assert RULER in found.doubts


def test_a_straight_part_of_the_body_is_no_ruler() -> None:
    """A plank in three stripes, the middle one the paper's, and a bar that touches: refused, or said."""
    known = with_a_bar(render(1100, hooks=False, shadow=False), 0.065, 0.0, (0.72, 0.5, 0.1))  # up against its back
    with pytest.raises(BadPicture):
        find_silhouette(known.pixels, (known.nose, known.tail))
    plank = np.full((600, 1000, 4), 1.0)
    plank[..., :3] = 0.9
    plank[200:260, 150:850, :3] = plank[330:400, 150:850, :3] = (0.45, 0.3, 0.15)
    for at in (200.0, 260.0, 300.0):
        with pytest.raises(BadPicture):
            find_silhouette(plank, ((150.0, at), (850.0, at)))


@pytest.mark.parametrize("grey", [0.15, 0.55])
def test_a_dark_ruler_makes_nothing_before_it_bright(grey: float) -> None:
    known = with_a_bar(
        render(1100, body=(110, 140, 60), hooks=False, shadow=False), 0.24, 0.0, (grey, grey, grey + 0.1)
    )
    found = find_silhouette(known.pixels, (known.nose, known.tail))
    assert area_of(found.outline) == pytest.approx(known.area_px, rel=0.01)


@pytest.mark.parametrize(("fall", "told"), [(1.2, True), (12.0, False)])
def test_a_belly_of_the_grounds_hue_before_its_soft_shadow_is_said(fall: float, told: bool) -> None:
    """A grey belly on a pink-grey sheet, darker towards its rim, was 36 % of the area and taken for shadow, unsaid."""
    below = np.clip(np.arange(HIGH) - 100.0, 0.0, None)[:, None]
    belly = np.where(below < 16.0, 13.0 + 0.9 * below, 0.0)
    shadow = 15.0 * np.exp(-(np.clip(below - 16.0, 0.0, None) / 14.0)) * (below > 0)
    plane = np.zeros((HIGH, WIDE))
    plane[:, 60:360] = cv2.GaussianBlur(np.maximum(belly, shadow), (0, 0), fall)
    seen = replace(measure(plane), shade=False)
    assert bool(dark_edge_doubts(2.0 * OUTLINE, seen)) == told
    if told:
        assert second_edge(OUTLINE, seen, 5.0, 30.0) == pytest.approx(300.0 / 680.0, abs=0.04)


def test_touched_up_elsewhere_what_ends_sharply_beside_it_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    made = scene("egg", "plain red", "slate", 1000, noise=0.8, seed=5)
    middle = np.mean([made.known.nose, made.known.tail], axis=0)
    dab = Stroke((float(middle[0]), float(middle[1])), 6.0, True)
    assert not any("is no background either" in words for words in trace(made, 0.0, (dab,)).warnings)
    monkeypatch.setattr(silhouette, "dark_edge_doubts", lambda *_: ("it ends sharply",))
    assert any("is no background either" in words for words in trace(made, 0.0, (dab,)).warnings)
