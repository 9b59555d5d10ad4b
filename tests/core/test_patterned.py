"""Bodies on patterned ground: hues that it nowhere has, gaps that paint of its colour leaves, and what it hides."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.core.test_trace_paints import judged, trace
from tests.lying_bodies import lying
from tests.painted_bodies import KINDS, scene, silhouette_of
from yellowbob.lines.tracing.clicked import one_sided
from yellowbob.lines.tracing.doubts import gap_of
from yellowbob.lines.tracing.levels import Ends
from yellowbob.lines.tracing.palette import strange
from yellowbob.lines.tracing.silhouette import BadPicture, find_silhouette

HIGH, WIDE = 360, 480


def marbled(one: tuple[float, ...], two: tuple[float, ...], size: float = 14.0, seed: int = 3) -> np.ndarray:
    """Blots of two colours that pass into each other, (h, w, 3), 0 to 1."""
    blots = cv2.GaussianBlur(np.random.default_rng(seed).normal(0, 1, (HIGH, WIDE)).astype(np.float32), (0, 0), size)
    share = np.clip(0.5 + blots / (4.0 * blots.std()), 0, 1)[..., None]
    return (np.asarray(one) * share + np.asarray(two) * (1 - share)).astype(np.float32)


def two_toned(
    ground: np.ndarray, belly: tuple[float, ...], shadow: float = 0.0
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A picture (h, w, 4) of an egg, its back pale pink, its belly of another colour; the back and the belly as masks."""
    y, x = np.mgrid[0:HIGH, 0:WIDE] - np.array([HIGH / 2, WIDE / 2])[:, None, None]
    egg = (x / 180.0) ** 2 + (y / 80.0) ** 2 < 1
    cast = cv2.GaussianBlur(np.roll(egg, (8, 6), (0, 1)).astype(np.float32), (0, 0), 6.0)[..., None]
    picture = ground * (1 - shadow * cast)
    picture[egg & (y < 0)], picture[egg & (y >= 0)] = (0.8, 0.7, 0.75), belly
    picture = picture + np.random.default_rng(1).normal(0, 0.01, picture.shape)
    whole = np.concatenate([picture, np.ones((HIGH, WIDE, 1))], axis=2)
    return np.clip(cv2.GaussianBlur(whole.astype(np.float32), (0, 0), 0.7), 0, 1), egg & (y < 0), egg & (y >= 0)


@pytest.mark.parametrize("shadow", [0.0, 0.4])
@pytest.mark.parametrize(("ground", "belly", "other"), [
    (((0.08, 0.12, 0.5), (0.24, 0.33, 0.5)), (0.22, 0.38, 0.2), True),
    (((0.5, 0.3, 0.2), (0.62, 0.45, 0.32)), (0.2, 0.3, 0.55), True),
    (((0.3, 0.3, 0.3), (0.45, 0.45, 0.45)), (0.92, 0.92, 0.92), True),
    (((0.3, 0.3, 0.3), (0.45, 0.45, 0.45)), (0.2, 0.2, 0.2), False),
    (((0.5, 0.3, 0.2), (0.62, 0.45, 0.32)), (0.4, 0.27, 0.19), False),
])  # fmt: skip
def test_a_hue_that_the_ground_nowhere_has_is_strange_and_its_own_in_shade_is_not(
    ground, belly, other: bool, shadow: float
) -> None:
    picture, back, below = two_toned(marbled(*ground), belly, shadow)
    found = strange(picture, back)
    rest = ~cv2.dilate((back | below).astype(np.uint8), np.ones((9, 9))).astype(bool)
    assert found.shape == back.shape
    assert found[cv2.erode(below.astype(np.uint8), np.ones((9, 9))).astype(bool)].mean() == pytest.approx(
        float(other), abs=0.02
    )
    assert found[rest].mean() < 0.005


def test_where_a_body_leaves_hardly_any_ground_its_hues_are_those_of_the_frame() -> None:
    picture, back, below = two_toned(marbled((0.08, 0.12, 0.5), (0.24, 0.33, 0.5)), (0.22, 0.38, 0.2))
    cropped = (slice(60, 300), slice(20, 460))
    found = strange(picture[cropped], back[cropped])
    assert found[below[cropped]].mean() > 0.9
    assert found[:8].mean() < 0.02


def test_a_belly_within_a_blotched_grounds_unrest_is_not_left_out() -> None:
    """Pink above green on blue marble: it was 40 % too small without a word, the length right."""
    picture, *_ = two_toned(marbled((0.08, 0.12, 0.5), (0.24, 0.33, 0.5)), (0.22, 0.38, 0.2), 0.3)
    ends = tuple((WIDE / 2 + at, HIGH / 2) for at in (-180.0, 180.0))
    try:
        found = find_silhouette(picture, ends)
    except BadPicture:
        return
    x, y = found.outline.T
    area = 0.5 * abs(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
    assert area == pytest.approx(np.pi * 180 * 80, rel=0.01)


@pytest.mark.parametrize(("wide", "deep"), [(0, 0), (12, 150), (40, 60), (12, 24), (70, 150)])
def test_a_narrow_gap_is_measured_and_a_wide_one_is_none(wide: int, deep: int) -> None:
    body = np.zeros((200, 420), dtype=bool)
    body[40:160, 40:380] = True
    body[100 - wide // 2 : 100 + wide // 2, 380 - deep : 380] = False
    gap = max(wide - 2, 0) * max(deep - 1, 0) / np.count_nonzero(body)
    narrow = wide < 0.5 * 120
    assert gap_of(body) == pytest.approx(gap if narrow else 0.0, abs=0.15 * gap + 0.001)


def test_no_body_has_a_gap_but_where_paint_of_the_grounds_colour_leaves_it() -> None:
    for kind in KINDS:
        outline = (silhouette_of(kind) - [0.5, 0]) * 600 * [1, -1] + [500, 300]
        drawn = cv2.fillPoly(np.zeros((600, 1000), dtype=np.uint8), [outline.round().astype(np.int32)], (1,))
        assert gap_of(np.asarray(drawn).astype(bool)) < 0.002, kind


@pytest.mark.parametrize("below", [2.0, 8.0, 40.0])
def test_how_much_of_an_outline_lies_to_one_side_of_the_line_between_its_ends(below: float) -> None:
    along = np.linspace(0, np.pi, 200)
    outline = np.stack([np.concatenate([100 + 100 * np.cos(along), 100 - 100 * np.cos(along)]),
                        np.concatenate([50 - 40 * np.sin(along), 50 + below * np.sin(along)])], 1)  # fmt: skip
    turned = outline @ np.array([[0.6, 0.8], [-0.8, 0.6]])
    ends = Ends(*(tuple(np.array(at) @ np.array([[0.6, 0.8], [-0.8, 0.6]])) for at in ((0.0, 50.0), (200.0, 50.0))))
    assert one_sided(turned, ends) == pytest.approx(min(below, 40.0) / 40.0, abs=0.02)


def test_what_a_patterned_ground_may_hide_is_said_and_a_plain_one_hides_nothing() -> None:
    said = [any("patterned or grainy" in w for w in trace(scene("minnow", "plain red", g, noise=2.0)).warnings)
            for g in ("weave", "paper", "tiles")]  # fmt: skip
    assert said == [True, False, False]


def test_a_stripe_of_the_grounds_colour_to_the_end_is_no_gap_in_a_body() -> None:
    made = scene("stick", "stripe", "slate", 1300, noise=1.0, paints=((200, 180, 40), (55, 58, 62)))
    assert judged(made, 0.0) != "wrong"


def test_bodies_on_cloths_and_counters_by_another_painter_are_right_or_refused() -> None:
    """`make soak` tries 750, a third with a part in about the ground's colour and a third under hard shadows."""
    rng = np.random.default_rng(77)
    told = [judged(*lying(rng, sunlit=n > 3)) for n in range(6)]
    assert "wrong" not in told and "right" in told
