"""Running trim: at no speed the rest, balanced at every speed, straight statics for small pulls, right ways to go."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.conftest import DEMO, exact_cylinder, exact_sphere, float_solid
from yellowbob.action.nose import FOREMOST, nose_over, nose_under_from
from yellowbob.action.planing import buoyant_share, planes_from
from yellowbob.action.running import HULL, PLATE, Line, Pulled, Run, Trim, line_of, run
from yellowbob.afloat.rest import Afloat, rest_near
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.hardware import line_tie
from yellowbob.design.model import Design
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of

SPEEDS = (0.1, 0.3, 0.6, 1.0)
LURES = ("sallow-74", "osier-96", "moth-crawler-64", "spit-pencil-118", "weir-cup-62", "print-wake-92")


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


def drawn(design: Design, line: Line | None = None, speeds: tuple[float, ...] = SPEEDS) -> Run:
    study = Study(design)
    rest = of.upright_rest(study)
    assert rest is not None
    return run(of.pulled(study), rest, speeds, line)


def stream(mesh: Mesh, law: int, flow: tuple[float, float, float]) -> np.ndarray:
    """Deep under water."""
    thing = Pulled(Afloat(mesh, 1.0, (0.0, 0.0, 0.0), 0.001), ((mesh, law),), (0.0, 0.0, 0.0))
    return thing.stream(np.array([0.0, 0.0, 1.0]), 1e4, np.array(flow), np.zeros(3))


def test_a_ball_and_a_flat_face_have_their_drag() -> None:
    ball = stream(exact_sphere(10.0), HULL, (1000.0, 0.0, 0.0))
    pressure = 0.5 * 0.001 * 1000.0**2 * math.pi * 100.0
    assert ball[0] == pytest.approx(0.5 * pressure, rel=0.1)  # and its friction
    assert np.abs(ball[1:]).max() < 0.02 * pressure
    face = stream(exact_cylinder(10.0, 5.0), HULL, (0.0, 0.0, 1000.0))
    assert face[2] == pytest.approx(pressure, rel=0.1)  # and some friction along its side and back
    plate = stream(exact_cylinder(10.0, 0.01), PLATE, (0.0, 0.0, 1000.0))
    assert plate[2] == pytest.approx(1.17 * pressure, rel=0.02)
    # at an angle: Rayleigh's plate
    a = math.radians(30.0)
    slant = stream(exact_cylinder(10.0, 0.01), PLATE, (1000.0 * math.cos(a), 0.0, 1000.0 * math.sin(a)))
    ratio = math.sin(a) * (4 + math.pi) / (4 + math.pi * math.sin(a))
    assert slant[2] == pytest.approx(1.17 * pressure * ratio, rel=0.02)


@pytest.mark.parametrize("name", LURES)
def test_at_no_speed_it_is_the_rest_and_every_trim_is_balanced(name: str) -> None:
    study = Study(design_of(name))
    rest = of.upright_rest(study)
    assert rest is not None
    found = run(of.pulled(study), rest, (0.0, *SPEEDS))
    assert found.trims[0].pitch_rad == pytest.approx(rest.pitch_rad, abs=2e-5)
    assert found.trims[0].height_mm == pytest.approx(rest.height_mm, abs=2e-3) and found.trims[0].pull_g == 0.0
    for trim in found.trims:
        assert max(abs(v) for v in trim.left_over) < 1e-6
    pulls = [t.pull_g for t in found.trims]
    assert pulls == sorted(pulls)


def test_a_small_pull_tilts_it_as_its_metacentre_says() -> None:
    """Drag of the stream low on the body against the line at the tie: their moment over W·GM, about the rest."""
    design = design_of("osier-96")
    study = Study(design)
    rest, thing = of.upright_rest(study), of.pulled(study)
    assert rest is not None
    slow = 0.02
    trim = run(thing, rest, (slow,)).trims[0]
    up = np.asarray(rest.up)
    aft = np.array([math.cos(rest.pitch_rad), 0.0, math.sin(rest.pitch_rad)])
    out = thing.stream(up, rest.height_mm, 1000.0 * slow * aft, np.zeros(3))
    centre = np.asarray(thing.afloat.centre_mm)
    pull = -float(out[:3] @ aft) * aft
    moment = float((out[3:] + np.cross(np.asarray(thing.tie_mm) - centre, pull))[1])
    # lift of the stream raises it by lift over the waterplane: for so slow a stream that shifts the balance, too
    rise = float(out[:3] @ up)
    area = rest.waterplane_mm2 * thing.afloat.density_g_mm3 * GRAVITY_MM_S2
    stiff = thing.weight * rest.gm_max_mm
    assert trim.pitch_rad - rest.pitch_rad == pytest.approx(moment / stiff, rel=0.25, abs=2e-6)
    assert abs(rise / area) < 0.5


@pytest.mark.parametrize("name", ["sallow-74", "weir-cup-62", "spit-pencil-118"])
def test_a_speed_by_itself_is_the_speed_come_to_gradually(name: str) -> None:
    """A popper has two balances at 1.5 m/s: on its chin and on its tail."""
    gradual = drawn(design_of(name), speeds=tuple(0.05 * k for k in range(1, 41))).trims
    for speed in (0.95, 1.5, 2.0):
        alone = drawn(design_of(name), speeds=(speed,)).trims[0]
        along = next(t for t in gradual if abs(t.speed_m_s - speed) < 1e-9)
        assert alone.pitch_rad == pytest.approx(along.pitch_rad, abs=1e-4)


def tied(design: Design, up_mm: float) -> Design:
    tie = line_tie(design.fittings)
    assert tie is not None
    moved = replaced(tie, at_mm=(tie.at_mm[0], tie.at_mm[1], tie.at_mm[2] + up_mm))
    return design.but(fittings=tuple(moved if f is tie else f for f in design.fittings))


@pytest.mark.parametrize("name", ["sallow-74", "osier-96", "spit-pencil-118"])
def test_a_lower_tie_lifts_the_nose_and_a_higher_one_digs(name: str) -> None:
    design = design_of(name)
    low, mid, high = (drawn(tied(design, d), speeds=(0.4,)).trims for d in (-3.0, 0.0, 3.0))
    assert low and mid and high
    assert low[0].pitch_rad > mid[0].pitch_rad > high[0].pitch_rad


@pytest.mark.parametrize("name", [*LURES, "sill-darter-98", "mill-tail-88"])
def test_the_higher_it_is_tied_the_lower_its_nose_runs_and_the_sooner_it_is_under(name: str) -> None:
    over: list[float] = []
    under: list[float] = []
    for up_mm in (-3.0, -1.0, 0.0, 2.0, 3.0):
        study = Study(tied(design_of(name), up_mm))
        thing, rest = of.pulled(study), of.upright_rest(study)
        assert rest is not None
        found = run(thing, rest, [0.1 * k for k in range(16)], Line(0.0))
        over.append(nose_over(thing, found.trims[5]))
        under.append(nose_under_from(thing, found) or math.inf)
    assert over == sorted(over, reverse=True) and len(set(over)) == len(over)
    assert under == sorted(under, reverse=True)
    assert math.isfinite(under[-1]) == (name in ("print-wake-92", "mill-tail-88"))


def test_the_crown_of_a_ball_s_nose_stands_where_geometry_has_it() -> None:
    ball, pitch, height = exact_sphere(10.0), math.radians(12.0), -2.0
    for tie, ahead in ((-10.0, 1.0), (10.0, -1.0)):
        thing = Pulled(Afloat(ball, 1.0, (0.0, 0.0, -1.0), 0.001), ((ball, HULL),), (tie, 0.0, 0.0))
        cut = 10.0 * (1.0 - 2.0 * FOREMOST)
        crown = ahead * cut * math.sin(pitch) + math.sqrt(100.0 - cut**2) * math.cos(pitch)
        for level in (height, crown + 1.0):
            trim = Trim(0.5, pitch, level, 0.0, 0.0, 0.0, 0.5, (0.0, 0.0, 0.0))
            assert nose_over(thing, trim) == pytest.approx(crown - level, abs=0.3)
            assert (nose_under_from(thing, Run((trim,))) is None) == (level < crown)
        dips = tuple(Trim(0.1 * k, pitch, crown + level, 0.0, 0.0, 0.0, 0.5, (0.0, 0.0, 0.0))
                     for k, level in enumerate((-2.0, -1.0, 1.0)))  # fmt: skip
        at = nose_under_from(thing, Run(dips))
        assert at == pytest.approx(0.15, abs=0.02)


@pytest.mark.parametrize("name", ["sallow-74", "osier-96"])
def test_a_rod_held_high_lifts_it(name: str) -> None:
    level, high = (drawn(design_of(name), Line(angle), (0.6,)).trims[0] for angle in (0.0, 35.0))
    assert high.pitch_rad > level.pitch_rad and high.wet_share < level.wet_share


def test_a_rod_s_height_and_the_line_out_are_an_angle() -> None:
    design = design_of("osier-96")
    by_rod = drawn(design, Line(0.0, 2000.0, 4000.0), (0.5,)).trims[0]
    angle = math.degrees(by_rod.line_rad)
    assert angle == pytest.approx(30.0, abs=0.5)
    assert drawn(design, Line(angle), (0.5,)).trims[0].pitch_rad == pytest.approx(by_rod.pitch_rad, abs=1e-6)


def test_a_lip_digs_and_what_goes_under_says_so() -> None:
    found = drawn(design_of("print-wake-92"), speeds=(0.2, 0.5, 0.8, 1.5, 2.5))
    drafts = [t.draft_mm for t in found.trims]
    assert drafts == sorted(drafts) and found.ends == "goes under"
    assert found.ends_at_m_s is not None and 0.5 < found.ends_at_m_s < 2.5
    assert len(found.trims) < 5


def test_scaled_by_froude_it_runs_alike() -> None:
    study = Study(design_of("spit-pencil-118"))
    rest, thing = of.upright_rest(study), of.pulled(study)
    assert rest is not None
    k = 4.0

    def larger(mesh: Mesh) -> Mesh:
        return Mesh(mesh.vertices * k, mesh.faces)

    def place(at: tuple[float, float, float]) -> tuple[float, float, float]:
        return k * at[0], k * at[1], k * at[2]

    plain = replace_points(thing)
    build = plain.afloat
    big = Pulled(
        Afloat(larger(build.hull), build.mass_g * k**3, place(build.centre_mm), build.density_g_mm3),
        tuple((larger(m), law) for m, law in plain.skins), place(plain.tie_mm),
    )  # fmt: skip
    one = run(plain, rest_near(build, rest.up), (0.8,)).trims[0]
    two = run(big, rest_near(big.afloat, rest.up), (0.8 * math.sqrt(k),)).trims[0]
    # friction alone does not follow: it is a small part
    assert two.pitch_rad == pytest.approx(one.pitch_rad, abs=math.radians(1.0))
    assert two.draft_mm / k == pytest.approx(one.draft_mm, rel=0.03)
    assert two.pull_g / k**3 == pytest.approx(one.pull_g, rel=0.25)


def replace_points(thing: Pulled) -> Pulled:
    """Without hardware in the water, whose reach does not scale."""
    build = thing.afloat
    return Pulled(Afloat(build.hull, build.mass_g, build.centre_mm, build.density_g_mm3), thing.skins, thing.tie_mm)


def test_mirrored_it_runs_the_same() -> None:
    thing = replace_points(of.pulled(Study(design_of("sallow-74"))))
    build = thing.afloat
    flip = np.diag([1.0, -1.0, 1.0])
    x, y, z = build.centre_mm
    other = Pulled(
        Afloat(build.hull.moved(flip), build.mass_g, (x, -y, z), build.density_g_mm3),
        tuple((m.moved(flip), law) for m, law in thing.skins), (thing.tie_mm[0], -thing.tie_mm[1], thing.tie_mm[2]),
    )  # fmt: skip
    rest = rest_near(build, (0.0, 0.0, 1.0))
    one, two = (run(t, rest, (0.7,)).trims[0] for t in (thing, other))
    assert two.pitch_rad == pytest.approx(one.pitch_rad, abs=1e-6) and two.pull_g == pytest.approx(one.pull_g, rel=1e-6)


def test_what_cannot_be_asked_is_refused() -> None:
    study = Study(design_of("osier-96"))
    rest, thing = of.upright_rest(study), of.pulled(study)
    assert rest is not None
    for speeds in ((0.5, 0.2), (-0.1,), (math.nan,), (9.0,)):
        with pytest.raises(BadInput):
            run(thing, rest, speeds)
    for asked in ((None, 5.0, 3.0), (85.0, None, 15.0), (None, None, 0.0), (None, math.nan, 15.0)):
        with pytest.raises(BadInput):
            line_of(*asked)
    assert float_solid(exact_sphere(5.0), 0.5).floats


@pytest.mark.parametrize("name", ["osier-96", "weir-cup-62", "mill-tail-88"])
def test_it_planes_from_where_half_of_its_weight_floats(name: str) -> None:
    study = Study(design_of(name))
    thing, rest = of.pulled(study), of.upright_rest(study)
    assert rest is not None
    line = Line(15.0)
    speeds = [0.1 * k for k in range(31)]
    found = planes_from(thing, run(thing, rest, speeds, line))
    assert found is not None and buoyant_share(thing, run(thing, rest, [0.0], line).trims[0]) == pytest.approx(
        1.0, abs=1e-6
    )
    at = run(thing, rest, [found], line).trims[0]
    assert buoyant_share(thing, at) == pytest.approx(0.5, abs=0.01)
    # what does not float is carried by the stream and by the line
    flow = 1000.0 * at.speed_m_s * np.array([math.cos(at.pitch_rad), 0.0, math.sin(at.pitch_rad)])
    lifts = float(thing.stream(at.up, at.height_mm, flow, np.zeros(3))[:3] @ at.up)
    pulls = at.pull_g * GRAVITY_MM_S2 * math.sin(at.line_rad)
    assert (lifts + pulls) / thing.weight == pytest.approx(1.0 - buoyant_share(thing, at), abs=1e-5)
    assert planes_from(thing, run(thing, rest, [0.0, 0.2], line)) is None
