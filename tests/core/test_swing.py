"""From the side: what swings, what rolls over and from which speed, out of true, scaled and mirrored."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache

import numpy as np
import pytest

from tests.conftest import DEMO
from yellowbob.action.dragged import Dragged
from yellowbob.action.lateral import axes_of, sides, stream_terms
from yellowbob.action.periods import level_axes, stiffness
from yellowbob.action.running import Line, Pulled, Trim, run
from yellowbob.action.stability import Stability, at_tie, stability
from yellowbob.action.swing import TRUE_DEG, TRUE_MM, Sideways, sideways, swing_of
from yellowbob.afloat.rest import Afloat
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.design.plates import Lip
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of

LINE = Line(0.0, 1000.0, 15_000.0)
SPEEDS = tuple(0.2 * k for k in range(1, 13))


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


@lru_cache
def study_of(name: str) -> Study:
    return Study(design_of(name))


def looked_at(study: Study, line: Line = LINE, tie_up_mm: float = 0.0) -> Stability:
    rest = of.upright_rest(study)
    assert rest is not None
    thing = at_tie(of.pulled(study), tie_up_mm)
    return stability(thing, run(thing, rest, SPEEDS, line), line, of.body(study))


def moved(study: Study, speed: float, line: Line = LINE) -> Sideways:
    rest = of.upright_rest(study)
    assert rest is not None
    thing = of.pulled(study)
    found = sideways(thing, run(thing, rest, [speed], line).trims[-1], line, of.body(study))
    assert found is not None
    return found


def lower_ballast(design: Design, by: float) -> Design:
    holes = tuple(
        replaced(b, drilling=replaced(b.drilling, depth_mm=b.drilling.depth_mm - by)) if b.drilling else b
        for b in design.ballast
    )
    return design.but(ballast=holes)


def test_roll_stiffness_at_rest_is_that_of_the_periods() -> None:
    study = study_of("sallow-74")
    rest, thing = of.upright_rest(study), of.pulled(study)
    assert rest is not None
    trim = Trim(1e-6, rest.pitch_rad, rest.height_mm, rest.draft_mm, 0.0, 0.0, 0.5, (0.0, 0.0, 0.0))
    found = sideways(thing, trim, LINE, of.body(study))
    assert found is not None
    along, across = level_axes(np.asarray(rest.up))
    own = stiffness(thing.afloat, rest, along, across)
    assert found.still[2, 2] == pytest.approx(own[1, 1], rel=1e-6)
    assert np.abs(found.still[:2]).max() < 1e-6 * own[1, 1]


def test_a_line_pulls_a_turned_body_as_statics_have_it() -> None:
    """A tie 40 mm ahead and 5 over the centre, 1 N straight ahead: by moving it and taking moments."""
    from yellowbob.action.swing import _line_terms

    pull, at = 1e6, np.array([-40.0, 0.0, 5.0])
    trim = Trim(1.0, 0.0, 0.0, 0.0, pull / 9806.65, 0.0, 1.0, (0.0, 0.0, 0.0))
    stiff = _line_terms(at, trim, LINE)

    def force(q: np.ndarray) -> np.ndarray:
        sway, yaw, roll = q
        place = at + np.cross([roll, 0.0, yaw], at) + np.array([0.0, sway, 0.0])
        way = np.array([-LINE.out_mm, -place[1], 0.0])
        there = pull * way / np.linalg.norm(way)
        moment = np.cross(place - np.array([0.0, sway, 0.0]), there)
        return np.array([there[1], moment[2], moment[0]])

    small = 1e-5
    by_hand = np.stack([-(force(small * e) - force(-small * e)) / (2 * small) for e in np.eye(3)], axis=1)
    assert stiff == pytest.approx(by_hand, rel=1e-4, abs=1e-3 * np.abs(by_hand).max())


@pytest.mark.parametrize("name", ["print-wake-92", "sallow-74"])
def test_the_stream_is_felt_the_same_from_both_sides_and_grows_with_its_square(name: str) -> None:
    study = study_of(name)
    slow = moved(study, 0.4)
    damping, stiff = stream_terms(of.pulled(study), slow.trim, axes_of(of.pulled(study), slow.trim))
    faster = replace(slow.trim, speed_m_s=0.8)
    twice, four = stream_terms(of.pulled(study), faster, axes_of(of.pulled(study), faster))
    # friction grows a little less than pressure does
    assert twice == pytest.approx(2.0 * damping, rel=0.1, abs=0.02 * np.abs(twice).max())
    assert four == pytest.approx(4.0 * stiff, rel=0.1, abs=0.02 * np.abs(four).max())


def test_strips_hold_the_wet_hull() -> None:
    study = study_of("spit-pencil-118")
    found = moved(study, 0.5)
    strips = sides(of.pulled(study), found.trim)
    assert strips is not None
    section = math.pi / 4.0 * strips.high_mm * 2.0 * strips.half_mm
    wet = found.trim.wet_share * of.afloat(study).volume_mm3
    assert section.sum() * strips.step_mm == pytest.approx(wet, rel=0.25)
    level = found.trim.height_mm - float(of.afloat(study).centre_mm @ found.trim.up)
    inside = strips.high_mm > 2.0
    assert (strips.acts_mm[inside] < level + 5.0).all()


def test_a_swing_by_itself_is_where_nothing_grows_or_dies() -> None:
    found = moved(study_of("print-wake-92"), 0.8)
    own = found.by_itself()
    assert own is not None
    rate, (_, yaw, roll) = own
    assert 1.0 < rate < 6.0 and 5.0 < math.degrees(yaw) < 60.0
    small, _ = found.growing()
    value, _ = found._at_yaw(float(yaw))
    assert small.real > 0.5 and abs(value.real) < 0.05 * small.real
    assert found._at_yaw(1.3 * float(yaw))[0].real < 0.0
    assert roll > 0.0


def test_what_is_out_of_true_heels_in_proportion_and_halves_the_speed() -> None:
    study = study_of("sallow-74")
    one = moved(study, 1.2)
    assert one.turned(3.0 * TRUE_MM, 0.0) == pytest.approx(3.0 * one.turned(TRUE_MM, 0.0))
    stands = looked_at(study)
    assert stands.ends_m_s is not None and stands.worse_mm is not None
    half = moved(study, stands.ends_m_s / 2.0).turned(stands.worse_mm, stands.worse_mm / TRUE_MM * TRUE_DEG)
    assert math.degrees(abs(float(half[2]))) == pytest.approx(45.0, rel=0.02)
    # drawn at less than the speed it ends at it holds, just above it does not
    assert swing_of(moved(study, stands.ends_m_s - 0.02)).why == ""
    assert swing_of(moved(study, stands.ends_m_s + 0.02)).why != ""


@pytest.mark.parametrize(
    ("name", "lower"),
    [("sallow-74", (-2.0, 0.0, 2.0)), ("osier-96", (-2.0, 2.0)), ("moth-crawler-64", (-2.0, 0.0, 2.0))],
)
def test_ballast_lower_rolls_over_later(name: str, lower: tuple[float, ...]) -> None:
    design = design_of(name)
    assert design.ballast
    ends = [looked_at(Study(lower_ballast(design, by))).ends_m_s or 9.0 for by in lower]
    assert ends == sorted(ends) and ends[0] < ends[-1]


@pytest.mark.parametrize("name", ["sallow-74", "sill-darter-98"])
def test_a_lower_tie_wobbles_more_and_is_nearer_to_spinning(name: str) -> None:
    study = study_of(name)
    low, high = (looked_at(study, tie_up_mm=up) for up in (-3.0, 3.0))
    assert (low.ends_m_s or 9.0) <= (high.ends_m_s or 9.0)
    assert name != "sallow-74" or (low.ends_m_s or 9.0) < (high.ends_m_s or 9.0)
    for a, b in zip(low.swings[4:6], high.swings[4:6], strict=True):
        assert a.roll_deg > b.roll_deg


def test_a_bigger_lip_swings_more_and_by_itself_from_a_lower_speed() -> None:
    design = design_of("print-wake-92")

    def lipped(times: float) -> Study:
        pieces = tuple(
            replaced(p, shape=replaced(p.shape, long_mm=times * p.shape.long_mm, wide_mm=times * p.shape.wide_mm))
            if isinstance(p.shape, Lip) else p for p in design.pieces
        )  # fmt: skip
        return Study(design.but(pieces=pieces))

    begins, widths = [], []
    for times in (0.85, 1.0, 1.15):
        study = lipped(times)
        rest = of.upright_rest(study)
        assert rest is not None
        thing = of.pulled(study)
        found = run(thing, rest, [0.05 * k for k in range(1, 41)], LINE)
        looked = stability(thing, found, LINE, of.body(study))
        begins.append(next(s.speed_m_s for s in looked.swings if s.by_itself))
        assert looked.swings_from_m_s == begins[-1]
        widths.append(next(s.wide_mm for s in looked.swings if abs(s.speed_m_s - 0.6) < 1e-9))
    assert widths == sorted(widths)
    assert begins == sorted(begins, reverse=True) and begins[0] > begins[2]


@pytest.mark.parametrize("name", ["print-wake-92", "sallow-74", "mill-tail-88"])
def test_more_line_out_swings_wider(name: str) -> None:
    study = study_of(name)
    wide = [[s.wide_mm for s in looked_at(study, Line(0.0, None, out)).swings[:4]] for out in (4e3, 15e3, 40e3)]
    for short, middle, long in zip(*wide, strict=False):
        assert short < middle < long


def scaled(thing: Pulled, k: float) -> Pulled:
    build = thing.afloat
    x, y, z = build.centre_mm
    points = tuple(
        replace(
            p, at_mm=tuple(k * c for c in p.at_mm), volume_mm3=k**3 * p.volume_mm3, dry_mm=k * p.dry_mm, wet_mm=k * p.wet_mm
        )
        for p in build.points
    )  # fmt: skip

    def grown(mesh: Mesh) -> Mesh:
        return Mesh(k * mesh.vertices, mesh.faces)

    tie = thing.tie_mm
    drags = tuple(
        Dragged((k * a, k * b, k * c), k * k * area, k * high, hangs) for (a, b, c), area, high, hangs in thing.drags
    )
    return Pulled(
        Afloat(grown(build.hull), k**3 * build.mass_g, (k * x, k * y, k * z), build.density_g_mm3, points),
        tuple((grown(m), law) for m, law in thing.skins), (k * tie[0], k * tie[1], k * tie[2]), drags, k**3 * thing.ballast_g,
    )  # fmt: skip


def test_twice_as_large_at_froudes_speed_does_the_same() -> None:
    study, k = study_of("print-wake-92"), 2.0
    rest, thing, body = of.upright_rest(study), of.pulled(study), of.body(study)
    assert rest is not None
    large = scaled(thing, k)
    heavy = replace(
        body, mass_g=k**3 * body.mass_g, inertia_g_mm2=k**5 * body.inertia_g_mm2,
        centre_mm=tuple(k * c for c in body.centre_mm),
    )  # fmt: skip
    there = replace(rest, height_mm=k * rest.height_mm)
    long = Line(0.0, k * 1000.0, k * 15_000.0)
    for speed in (0.3, 0.8):
        small_trim = run(thing, rest, [speed], LINE).trims[-1]
        large_trim = run(large, there, [speed * math.sqrt(k)], long).trims[-1]
        assert large_trim.pitch_rad == pytest.approx(small_trim.pitch_rad, abs=0.02)
        one, two = (sideways(*a) for a in ((thing, small_trim, LINE, body), (large, large_trim, long, heavy)))
        assert one is not None and two is not None
        a, b = swing_of(one), swing_of(two)
        assert b.hz * math.sqrt(k) == pytest.approx(a.hz, rel=0.05)
        assert b.yaw_deg == pytest.approx(a.yaw_deg, rel=0.1)


@pytest.mark.parametrize("name", ["sallow-74", "osier-96", "spit-pencil-118"])
def test_weight_at_the_far_end_is_steadier_than_at_the_pulled_end(name: str) -> None:
    """The same ballast slid along: the speed at which it ends, and where neither ends, how far it rolls."""
    study = study_of(name)
    thing, body = of.pulled(study), of.body(study)
    length = thing.length_mm

    def with_weight_at(share: float) -> tuple[float, float]:
        x = share * length
        mass, (cx, cy, cz) = thing.afloat.mass_g, thing.afloat.centre_mm
        put = 0.15 * mass
        # taken from the middle, put at a place along, both at the height of the centre of gravity
        centre = (cx + put / mass * (x - length / 2.0), cy, cz)
        build = Afloat(thing.afloat.hull, mass, centre, thing.afloat.density_g_mm3, thing.afloat.points)
        from yellowbob.afloat.rest import rest_near

        rest = rest_near(build, (0.0, 0.0, 1.0))
        own = replace(thing, afloat=build)
        found = run(own, rest, SPEEDS, LINE)
        looked = stability(own, found, LINE, replace(body, centre_mm=centre))
        return looked.ends_m_s or 9.0, max(s.roll_deg for s in looked.swings[:5])

    near, far = with_weight_at(0.2), with_weight_at(0.8)
    assert far[0] > near[0] or (far[0] == near[0] and far[1] < near[1])
