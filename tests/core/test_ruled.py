"""Ruled grounds: lines are painted over where they lie on the ground, and not where they run under a body or are its stem."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image

from tests.core.test_cli import refused, run
from tests.core.test_trace_paints import trace, verdict_of
from tests.painted_bodies import GROUNDS, scene, silhouette_of
from yellowbob.lines.tracing import silhouette
from yellowbob.lines.tracing.courses import Bows, away_from, course_of
from yellowbob.lines.tracing.edge import area_of
from yellowbob.lines.tracing.masks import depth, inside
from yellowbob.lines.tracing.paint_over import Unruled, without_rules
from yellowbob.lines.tracing.silhouette import BadPicture, find_silhouette

GROUND, LINE = np.array([0.3, 0.45, 0.6]), np.array([0.85, 0.85, 0.8])


def sheet(lines: list[tuple[float, float, float, float]], noise: float = 0.01, seed: int = 1) -> np.ndarray:
    """A ground (500, 700, 4) with lines: degrees, distance from the middle, half width, px, and how far they are bent."""
    y, x = np.mgrid[0:500, 0:700].astype(float)
    share = np.zeros(x.shape)
    for degrees, away, half, bent in lines:
        a = np.radians(degrees)
        s, off = (x - 350) * np.cos(a) + (y - 250) * np.sin(a), (y - 250) * np.cos(a) - (x - 350) * np.sin(a)
        share = np.maximum(share, np.clip(half + 0.5 - np.abs(off - away - bent * (s / 350) ** 2), 0, 1))
    light = (1 + 0.15 * (x / 700 - 0.5))[..., None]
    made = (GROUND + share[..., None] * (LINE - GROUND)) * light
    made += np.random.default_rng(seed).normal(0, noise, made.shape)
    return np.concatenate([np.clip(made, 0, 1), np.ones((*x.shape, 1))], axis=2).astype(np.float32)


@pytest.mark.parametrize(
    "lines",
    [[(0, 20, 2, 0)], [(90, -60, 1, 0), (0, 100, 3, 0)], [(31, 5, 2, 3), (121, -80, 2, 0), (31, 95, 2, 3)],
     [(0, d, 1, 0) for d in range(-240, 241, 40)] + [(90, d, 1, 0) for d in range(-340, 341, 40)]],
)  # fmt: skip
def test_lines_on_the_ground_are_painted_over_and_counted(lines: list[tuple[float, float, float, float]]) -> None:
    found = without_rules(sheet(lines))
    clean, count = found.pixels, found.count
    assert count == len(lines)
    off = np.abs(clean[..., :3] - sheet([], noise=0.0)[..., :3]).max(axis=2)
    assert (off > 0.1).mean() < 0.0005
    assert np.array_equal(clean[..., 3], sheet(lines)[..., 3])


def test_a_ground_with_very_many_lines_is_for_the_patient(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    many = sheet([(0, d, 1, 0) for d in range(-240, 241, 40)] + [(90, d, 1, 0) for d in range(-340, 341, 40)])
    assert without_rules(many, quick=31).count == without_rules(many).count == 31
    with pytest.raises(BadPicture, match=r"more than 30 lines, which may .* more than 2 s; .*--patient"):
        without_rules(many, quick=30)
    assert without_rules(many).count == 31
    made, picture = scene("minnow", "plain brown", "tiles"), tmp_path / "p.png"
    Image.fromarray((made.known.pixels * 255).astype(np.uint8)).convert("RGB").save(picture)
    ends = ["--from", "{:.2f},{:.2f}".format(*made.known.nose), "--to", "{:.2f},{:.2f}".format(*made.known.tail)]
    words = ["trace", str(picture), "--known", "90 mm", *ends, "-o", str(tmp_path / "t.ybob")]
    assert run(capsys, *words)[0] == 0
    monkeypatch.setattr(silhouette, "QUICK_LINES", 2)
    assert "more than 2 lines" in refused(capsys, *words)
    assert run(capsys, *words, "--patient")[0] == 0


def test_what_is_no_ruled_line_stays_as_it_is() -> None:
    plain = sheet([])
    bar = sheet([])
    bar[240:250, 100:600, :3] = LINE  # as thin and straight as a line, but it ends within the picture
    wide = sheet([(0, 0, 14, 0)])
    rough = sheet([])
    rough[..., :3] += 0.2 * (np.indices((500, 700)).sum(axis=0) % 5 < 2)[..., None]
    for picture in (plain, bar, wide, rough):
        found = without_rules(picture)
        assert found.count == 0
        assert found.pixels is picture


def test_an_antenna_that_runs_out_of_the_picture_is_no_ruled_line() -> None:
    float_ = sheet([(0, 0, 2, 0)])
    float_[..., 350:, :3] = sheet([])[..., 350:, :3]
    float_[200:300, 350:600, :3] = [0.5, 0.1, 0.1]
    assert without_rules(float_).count == 0
    between = sheet([(0, 0, 2, 0)])
    between[200:300, 250:450, :3] = [0.5, 0.1, 0.1]
    assert without_rules(between).count == 1


def test_a_stem_between_the_clicked_ends_stays_and_what_runs_on_past_them_goes() -> None:
    picture = sheet([(0, 0, 2, 0)])
    found = without_rules(picture, ((200.0, 250.0), (500.0, 250.0)))
    clean = found.pixels
    assert found.count == 1
    assert np.array_equal(clean[:, 205:495], picture[:, 205:495])
    assert np.abs(clean[250, 20:180, :3] - sheet([])[250, 20:180, :3]).max() < 0.1
    across = without_rules(picture, ((350.0, 100.0), (350.0, 400.0)))
    assert across.count == 1
    assert np.abs(across.pixels[250, 20:680, :3] - sheet([])[250, 20:680, :3]).max() < 0.1


@pytest.mark.parametrize("paint", ["white", "plain red", "stripe"])
def test_a_body_over_the_lines_stays_as_it_is(paint: str) -> None:
    made = scene("fat", paint, "tiles", px=1000, noise=1.0)
    pixels = made.known.pixels.astype(np.float32)
    done = without_rules(pixels, (made.known.nose, made.known.tail))
    clean = done.pixels
    assert done.count >= 7  # and the two halves at the border
    middle = (np.array(made.known.nose) + made.known.tail) / 2.0
    found = inside((silhouette_of("fat") - [0.5, 0.0]) * made.known.length_px * [1, -1] + middle, pixels.shape)
    deep = depth(found) > 8.0
    assert np.array_equal(clean[deep], pixels[deep])
    beside = ~found & (depth(~found) > 3.0) & (depth(~found) < 20.0)
    ground = np.array([60.0, 110.0, 170.0]) / 255.0
    assert (np.abs(clean[..., :3] - ground).max(axis=2)[beside] > 0.2).mean() < 0.01


@pytest.mark.parametrize(
    ("kind", "ground", "px", "angle"), [("finned", "squared", 700, 90.0), ("loaf", "squared", 1000, 12.0)]
)
def test_lines_that_end_beside_an_outline_tell_that_part_of_the_body_is_missing(
    kind: str, ground: str, px: int, angle: float
) -> None:
    """A belly as white as the paper hides its lines: 20 and 7 % of the area."""
    made = scene(kind, "three tones", ground, px=px, angle_deg=angle, blur=1.0, noise=2.0)
    with pytest.raises(BadPicture, match=r"hidden beside|no background either|cannot be told"):
        trace(made, angle)


def test_how_far_lines_are_hidden_outside_an_outline() -> None:
    x = np.arange(100.0)
    runs = tuple(np.stack([x, np.full(100, y)], axis=1) for y in (20.0, 50.0, 200.0))
    box = np.array([[19.5, 0.0], [79.5, 0.0], [79.5, 100.0], [19.5, 100.0]])
    found = Unruled(sheet([]), 3, True, runs)
    inside = 60
    assert found.beyond(box) == pytest.approx((100 - inside - 12) / inside)
    assert found.beyond(box + [0.0, 500.0]) == 0.0


def through_a_lens(pixels: np.ndarray, bent: float, leaning: float) -> np.ndarray:
    """A picture (h, w, c) as through a lens that bends straight lines, held at an angle."""
    high, wide = pixels.shape[:2]
    y, x = np.mgrid[0:high, 0:wide]
    u, v = 2.0 * x / wide - 1.0, (2.0 * y - high) / wide
    far = (1.0 + bent * (u * u + v * v)) / (1.0 + leaning * v) * wide / 2.0
    at_x, at_y = (u * far + wide / 2.0).astype(np.float32), (v * far + high / 2.0).astype(np.float32)
    return np.asarray(
        cv2.remap(pixels.astype(np.float32), at_x, at_y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    )


@pytest.mark.parametrize(("bent", "leaning"), [(-0.03, 0.0), (0.0, 0.05)])
def test_a_lens_bends_the_lines_and_they_go_all_the_same(
    monkeypatch: pytest.MonkeyPatch, bent: float, leaning: float
) -> None:
    monkeypatch.setitem(GROUNDS, "mat without its lines", GROUNDS["mat"])
    areas = []
    for ground in ("mat", "mat without its lines"):
        made = scene("egg", "plain red", ground, angle_deg=20.0, shadow=0.2, noise=2.0)
        areas.append(area_of(find_silhouette(through_a_lens(made.known.pixels, bent, leaning)).outline))
    assert areas[0] == pytest.approx(areas[1], rel=0.001)


@pytest.mark.parametrize(
    ("kind", "paint", "ground", "angle", "more"),
    [("banana", "plain red", "tiles", -17.0, {"shadow": 0.3}), ("frog", "plain red", "mat", 0.0, {"hooks": True}),
     ("minnow", "plain green", "planks", 60.0, {"blur": 1.0}), ("minnow", "plain red", "squared", 33.0, {})],
)  # fmt: skip
def test_bodies_on_ruled_grounds_are_right_and_it_is_said_what_was_left_out(
    kind: str, paint: str, ground: str, angle: float, more: dict[str, float]
) -> None:
    made = scene(kind, paint, ground, angle_deg=angle, **{"noise": 2.0, **more})
    found = trace(made, angle)
    assert verdict_of(made, found) == "right"
    assert any("the ground is ruled with" in w for w in found.warnings)


def test_many_bent_lines_at_once_lie_as_far_off_as_each_by_itself() -> None:
    dice = np.random.default_rng(6)
    courses = []
    for _ in range(12):
        turn, bow = float(dice.uniform(0.0, np.pi)), float(dice.uniform(-6.0, 6.0))
        along = np.arange(-float(dice.uniform(150.0, 400.0)), float(dice.uniform(150.0, 400.0)))
        way, across = np.array([np.cos(turn), np.sin(turn)]), np.array([-np.sin(turn), np.cos(turn)])
        places = 500.0 + along[:, None] * way + (bow * (along / 400.0) ** 2)[:, None] * across
        tangent = np.gradient(places, axis=0)
        tangent /= np.hypot(*tangent.T)[:, None]
        courses.append(course_of(places, np.stack([-tangent[:, 1], tangent[:, 0]], axis=1)))
    places = dice.uniform(200.0, 800.0, (300, 2))
    one_by_one = np.stack([away_from(places, course) for course in courses], axis=1)
    assert np.abs(Bows.of(courses).away(places) - one_by_one).max() < 0.05
    point = course_of(np.zeros((3, 2)) + [5.0, 7.0], np.array([[0.0, 1.0]] * 3))
    assert np.allclose(Bows.of([point]).away(np.array([[9.0, 10.0]])), 3.0)
