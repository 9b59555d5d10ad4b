"""Walk, wake, props, throws with what hangs on the line, what sinks but runs, dressing, and what tests have taught."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import DEMO, exact_cylinder
from yellowbob.action.calibration import factors_file, factors_of
from yellowbob.action.dragged import Dragged
from yellowbob.action.flight import Thrown, fly
from yellowbob.action.pair import Hung, fly_pair
from yellowbob.action.periods import Body
from yellowbob.action.running import HULL, PLATE, Line, Pulled, Trim, run
from yellowbob.action.sinkers import run_of_sinker
from yellowbob.action.swing import sideways
from yellowbob.action.turning import ARM_SHARE, BEARING_MM, NOTHING, RUBS, SKIN, Carried, heel_of, normal_force, turning
from yellowbob.action.wake import KELVIN_DEG, wake, wake_angle_deg
from yellowbob.action.walk import SIDE_DEG, walk
from yellowbob.afloat.rest import Afloat, rest_near
from yellowbob.design.base import replaced
from yellowbob.design.cut_edits import added
from yellowbob.design.files import read_design
from yellowbob.design.hardware import Dressing, Fitting
from yellowbob.design.model import Design
from yellowbob.design.wire_edits import with_frame
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.shelf.fitting import dressed, fitting_from, swapped
from yellowbob.shelf.shipped import dressings, hardware, hooks
from yellowbob.shop.bending import bendings
from yellowbob.study import Study, of
from yellowbob.study.drawn import carried_by
from yellowbob.weights.wires import cut_length_mm

LINE = Line(0.0, 1000.0, 15_000.0)


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


def log(length: float, radius: float = 10.0) -> tuple[Pulled, Body]:
    """Half as dense as water, lying, its weight a little low, tied at its front end."""
    upright = exact_cylinder(radius, length, 64)
    turn = np.array([[0.0, 0.0, 1.0], [0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]])
    mesh = Mesh(upright.vertices @ turn.T, upright.faces)
    mesh = Mesh(mesh.vertices - [mesh.vertices[:, 0].min(), 0.0, 0.0], mesh.faces)
    mass = 0.5 * 0.001 * mesh.volume_mm3
    centre = (length / 2.0, 0.0, -2.0)
    build = Afloat(mesh, mass, centre, 0.001)
    long = mass * (length**2 / 12.0 + radius**2 / 4.0)
    body = Body(mass, centre, np.diag([mass * radius**2 / 2.0, long, long]))
    return Pulled(build, ((mesh, HULL),), (0.0, 0.0, 0.0)), body


def test_a_longer_body_turns_over_more_slowly() -> None:
    times = []
    for length in (60.0, 80.0, 110.0):
        thing, body = log(length)
        found = walk(thing, rest_near(thing.afloat, (0.0, 0.0, 1.0)), body)
        assert found is not None and found.turn_s is not None
        assert found.turns_deg > 2.0 * SIDE_DEG and found.glide_mm > 20.0
        times.append(found.turn_s)
    assert times == sorted(times) and times[2] > 1.3 * times[0]


def test_a_twitch_gives_the_tie_its_speed_and_a_harder_one_turns_it_sooner() -> None:
    thing, body = log(80.0)
    rest = rest_near(thing.afloat, (0.0, 0.0, 1.0))
    soft, hard = walk(thing, rest, body, 0.3), walk(thing, rest, body, 0.9)
    assert soft is not None and hard is not None and soft.turn_s is not None and hard.turn_s is not None
    assert hard.turn_s < soft.turn_s / 2.0
    with pytest.raises(BadInput, match="twitch"):
        walk(thing, rest, body, 30.0)


def test_the_wake_is_kelvins_until_it_narrows() -> None:
    assert wake_angle_deg(0.3) == pytest.approx(math.degrees(math.asin(1.0 / 3.0)))
    assert wake_angle_deg(0.501) == pytest.approx(KELVIN_DEG, abs=0.2)
    # far beyond: half a mean angle of 1 over twice the root of 2π times Froude (Rabaud and Moisy 2013)
    assert wake_angle_deg(4.0) == pytest.approx(math.degrees(1.0 / (2.0 * math.sqrt(2.0 * math.pi) * 4.0)), rel=0.01)
    angles = [wake_angle_deg(v) for v in np.linspace(0.0, 3.0, 60)]
    assert angles == sorted(angles, reverse=True)
    thing, _ = log(80.0)
    rest = rest_near(thing.afloat, (0.0, 0.0, 1.0))
    trim = run(thing, rest, [0.1]).trims[0]
    found = wake(thing, trim)
    assert found.beam_mm == pytest.approx(20.0, abs=0.5)
    assert found.waves_mm == pytest.approx(2.0 * math.pi * 100.0**2 / GRAVITY_MM_S2)
    assert found.froude == pytest.approx(100.0 / math.sqrt(GRAVITY_MM_S2 * 80.0), rel=0.05)


def prop(hand: str, x: float, blade_deg: float = 35.0) -> Fitting:
    return Fitting.model_validate({"name": f"{hand} prop", "sort": "prop", "at_mm": (x, 0.0, -4.0), "mass_g": 0.8,
                                   "volume_ml": 0.1, "span_mm": 22.0, "blade_deg": blade_deg, "hand": hand})  # fmt: skip


def test_a_prop_turns_once_the_stream_overcomes_what_rubs() -> None:
    trim = Trim(1.0, 0.0, 50.0, 60.0, 10.0, 0.0, 1.0, (0.0, 0.0, 0.0))
    found = turning(prop("right", 10.0), trim, 0.001)
    assert found.wet_share == pytest.approx(1.0) and found.starts_m_s is not None and found.rate_hz > 0.0
    # at the speed it starts from, what drives it is what rubs
    a = math.radians(35.0)
    area, arm = 0.3 * math.pi / 4.0 * 22.0**2, ARM_SHARE * 22.0
    v = 1000.0 * found.starts_m_s
    push = 0.5 * 0.001 * v * v * area * normal_force(math.cos(a))
    weighs = (0.8 - 0.1) * GRAVITY_MM_S2
    assert push * math.sin(a) * arm == pytest.approx(RUBS * BEARING_MM * (weighs + push * math.cos(a)))
    assert turning(prop("right", 10.0), replace(trim, speed_m_s=0.9 * found.starts_m_s), 0.001).rate_hz == 0.0
    flat = turning(prop("right", 10.0, 0.0), trim, 0.001)
    assert flat.starts_m_s is None and flat.rate_hz == 0.0 and flat.jammed == 0.0


def test_props_of_opposite_hands_do_not_heel_it_and_mirrored_ones_heel_it_the_other_way() -> None:
    thing, body = log(80.0)
    trim = run(thing, rest_near(thing.afloat, (0.0, 0.0, 1.0)), [0.4]).trims[0]
    moved = sideways(thing, trim, LINE, body)
    assert moved is not None
    level = (moved.trim.pitch_rad, 0.001, 12.0)
    two = (prop("right", 5.0), prop("left", 5.0))
    assert heel_of(tuple((p, NOTHING) for p in two), moved, *level[1:]).jammed_deg == pytest.approx(0.0, abs=1e-9)
    same = heel_of(((two[0], NOTHING), (two[0], NOTHING)), moved, *level[1:])
    one = heel_of(((two[0], NOTHING),), moved, *level[1:])
    assert same.heel_deg is not None and one.heel_deg is not None and same.heel_deg > one.heel_deg > 0.0
    right, left = (turning(p, trim, 0.001) for p in two)
    assert left.jammed == -right.jammed and left.free == -right.free
    assert abs(right.free) < abs(right.jammed)
    # with the keel's weight that it says, the jammed heel is what was to be kept
    stiff = float(moved.at()[1][2, 2]) + one.keel_g * GRAVITY_MM_S2 * 12.0
    assert 1000.0 * abs(right.jammed) / stiff <= math.sin(math.radians(10.0)) + 1e-9


@pytest.mark.parametrize("level", [-9.0, -4.0, 0.0, 3.0, 8.0])
def test_a_blade_half_out_of_the_water_pushes_to_the_side_it_sweeps_below(level: float) -> None:
    # hub `level` above the water: spread the push evenly over the wet disc and add up its sideways part
    trim = Trim(1.0, 0.0, 20.0 - level, 20.0, 10.0, 0.0, 1.0, (0.0, 0.0, 0.0))
    one = replaced(prop("right", 10.0), at_mm=(10.0, 0.0, 20.0))
    found = turning(one, trim, 0.001)
    y, z = np.meshgrid(*[(np.arange(2000) + 0.5) / 2000 * 22.0 - 11.0] * 2)
    far = np.hypot(y, z)
    wet = (far < 11.0) & (z < -level)
    share = float((-z[wet] / far[wet]).mean())
    assert found.wet_share == pytest.approx(wet.sum() / (far < 11.0).sum(), abs=2e-3)
    assert found.sides[1] == pytest.approx(-share * found.jammed / (ARM_SHARE * 22.0), rel=4e-3)
    assert found.jammed > 0.0 > found.sides[1] and abs(found.sides[0]) < abs(found.sides[1])
    other = turning(replaced(one, hand="left"), trim, 0.001)
    assert other.sides == (-found.sides[0], -found.sides[1])


def test_what_pushes_over_the_centre_of_gravity_takes_from_the_heel_and_all_under_nothing_does() -> None:
    thing, body = log(80.0)
    trim = run(thing, rest_near(thing.afloat, (0.0, 0.0, 1.0)), [0.4]).trims[0]
    moved = sideways(thing, trim, LINE, body)
    assert moved is not None
    under = heel_of(((prop("right", 5.0), NOTHING),), moved, 0.001, 12.0)
    assert under.sides_g != (0.0, 0.0) or under.each[0].wet_share == 1.0
    level = trim.height_mm - 5.0 * float(trim.up[0])
    high = replaced(prop("right", 5.0), at_mm=(5.0, 0.0, level / float(trim.up[2])))
    found = heel_of(((high, NOTHING),), moved, 0.001, 12.0)
    assert found.each[0].wet_share == pytest.approx(0.5, abs=1e-6)
    # moments about the aft axis through G by hand: its own, and that of its push on an arm
    over = float((np.asarray(high.at_mm) - thing.afloat.centre_mm) @ trim.up)
    turns = abs(found.each[0].jammed + over * found.each[0].sides[1])
    stiff = float(moved.at()[1][2, 2])
    told = found.jammed_deg
    assert told is not None and 1000.0 * turns / stiff == pytest.approx(math.sin(math.radians(told)), rel=1e-9)
    assert found.sides_g[1] == pytest.approx(1000.0 * found.each[0].sides[1] / GRAVITY_MM_S2)
    # pairs of both hands push to no side, and the hand decides the side it runs to
    pair = heel_of(((high, NOTHING), (replaced(high, hand="left"), NOTHING)), moved, 0.001, 12.0)
    assert pair.sides_g == pytest.approx((0.0, 0.0), abs=1e-12) and pair.asides_mm == pytest.approx(
        (0.0, 0.0), abs=1e-9
    )
    left = heel_of(((replaced(high, hand="left"), NOTHING),), moved, 0.001, 12.0)
    if moved.steady():
        assert left.asides_mm[1] == pytest.approx(-1.0 * (found.asides_mm[1] or 0.0)) and found.asides_mm[1] != 0.0


def test_two_balls_on_a_thread_turn_about_their_common_centre_with_energy_kept() -> None:
    ball = Thrown(12.0, 1.0, np.array([0.0]), np.array([1e-6]), 1.0, 1e-6, 1e-6)
    found = fly_pair(ball, Hung(5.0, 1e6, 250.0, 0.0), 9.0, 50.0, 1.5, air_g_mm3=0.0, damped=0.0, spin_rad_s=9.0)
    assert np.ptp(found.energies) < 1e-6 * found.energies[0]
    middle = (12.0 * found.float_mm + 5.0 * found.hung_mm) / 17.0
    t = found.times_s
    v = 9000.0
    start = middle[0]
    x = start[0] + v * math.cos(math.radians(50.0)) * t
    z = start[1] + v * math.sin(math.radians(50.0)) * t - 0.5 * GRAVITY_MM_S2 * t**2
    assert np.abs(middle - np.stack([x, z], axis=1)).max() < 1.0
    apart = found.hung_mm - found.float_mm
    assert np.hypot(*apart.T) == pytest.approx(250.0, rel=0.02)
    turned = np.unwrap(np.arctan2(apart[:, 1], apart[:, 0]))
    assert turned[-1] - turned[0] == pytest.approx(9.0 * t[-1], rel=0.01)


def test_what_hangs_leads_a_float_of_cork_and_carries_it_further() -> None:
    study = Study(design_of("withy-stick-150"))
    alone = fly(of.thrown(study), 18.0, 40.0).range_mm
    found = fly_pair(of.thrown(study), Hung(4.0, 11.34, 500.0, 60.0), 18.0, 40.0)
    assert found.leads == "what hangs" and found.range_mm > 1.3 * alone
    with pytest.raises(BadInput, match="thread"):
        fly_pair(of.thrown(study), Hung(4.0, 11.34, 0.0, 60.0), 18.0, 40.0)


def test_what_sinks_runs_from_some_speed_on_and_balances() -> None:
    """A flat board a little heavier than water, tied above its front: it planes."""
    board = exact_cylinder(30.0, 3.0, 48)
    build = Afloat(board, 0.00115 * board.volume_mm3, (4.0, 0.0, float(board.moments.centroid_mm[2])), 0.001)
    assert not build.floats
    top = float(board.vertices[:, 2].max())
    thing = Pulled(build, ((board, PLATE),), (-24.0, 0.0, top))
    found, least = run_of_sinker(thing, [0.05, 1.0, 1.4], Line(25.0))
    assert least is not None and 0.05 < least < 1.0 and found.trims
    for trim in found.trims:
        assert max(abs(v) for v in trim.left_over) < 1e-6 and trim.pitch_rad > 0.0 and trim.speed_m_s >= least
    lead = replace(thing, afloat=replace(build, mass_g=3000.0 * build.mass_g))
    none, never = run_of_sinker(lead, [0.5], Line(0.0))
    assert never is None and none.ends == "does not stay up" and not none.trims


def test_dressing_weighs_dry_displaces_its_fibres_and_stays_on_a_swapped_hook() -> None:
    design = design_of("sallow-74")
    treble = next(f for f in design.fittings if f.sort == "hook")
    feather = dressings()["feather, large"]
    worn = dressed(treble, feather)
    bare, tied = Study(design), Study(design.but(fittings=tuple(worn if f is treble else f for f in design.fittings)))
    more = of.slip(tied).finished.mass_g - of.slip(bare).finished.mass_g
    assert more == pytest.approx(feather.dry_g, abs=1e-9)
    water = 1000.0 * of.water_density(bare)
    lift = of.buoyancy(tied).reserve_g - of.buoyancy(bare).reserve_g
    assert lift == pytest.approx(feather.dry_g * (water / feather.density_g_ml - 1.0), abs=1e-6)
    # soaked when it is thrown
    assert of.cast_g(tied) - of.cast_g(bare) == pytest.approx(feather.soaked_g, abs=1e-9)
    assert len(of.pulled(tied).drags) == len(of.pulled(bare).drags) + 1
    new = swapped(worn, hooks()["treble, size 4"])
    assert new.dressing == worn.dressing and new.mass_g > worn.mass_g
    assert dressed(worn, None) == treble
    with pytest.raises(ValueError, match="soaking"):
        Dressing(dry_g=0.2, soaked_g=0.1)


def test_hardware_in_the_stream_pulls_back_and_is_felt_in_the_balance() -> None:
    design = design_of("sallow-74")
    dragged = design.but(fittings=tuple(
        replaced(f, drag_mm2=400.0) if f.sort == "hook" else f for f in design.fittings
    ))  # fmt: skip
    pulls = []
    for one in (design, dragged):
        study = Study(one)
        rest = of.upright_rest(study)
        assert rest is not None
        trim = run(of.pulled(study), rest, [0.4]).trims[0]
        assert max(abs(v) for v in trim.left_over) < 1e-6
        pulls.append(trim.pull_g)
    assert pulls[1] > pulls[0] + 0.2


@pytest.mark.parametrize(
    ("level", "hangs"), [(9.0, False), (3.0, False), (-2.0, False), (3.0, True), (-2.0, True), (-9.0, True)]
)
def test_what_is_dragged_is_pulled_where_it_is_wet(level: float, hangs: bool) -> None:
    """10 mm high at a place so far under the water: fixed, about its middle; hanging, at its eye."""
    thing, _ = log(80.0)
    flow, up, still = np.array([500.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0]), np.zeros(3)
    at = (12.0, 2.0, 5.0)
    with_it = replace(thing, drags=(Dragged(at, 30.0, 10.0, hangs),))
    force = with_it.stream(up, at[2] + level, flow, still) - thing.stream(up, at[2] + level, flow, still)
    wet = np.clip(level + (10.0 if hangs else 5.0), 0.0, 10.0)  # mm of it
    push = 0.5 * 0.001 * 30.0 * wet / 10.0 * 500.0**2
    middle = at[2] if hangs else at[2] - 5.0 + wet / 2.0
    centre = np.asarray(thing.afloat.centre_mm)
    assert force[:3] == pytest.approx((push, 0.0, 0.0), abs=1e-6)
    assert force[3:] == pytest.approx(
        (0.0, (middle - centre[2]) * push, -(at[1] - centre[1]) * push), rel=1e-9, abs=1e-6
    )


def test_a_frame_over_the_back_is_weighed_dragged_and_carries_its_blade() -> None:
    design = design_of("osier-96")
    blade = fitting_from(hardware()["two-blade prop 26 mm, brass"], (66.0, 0.0, 30.0), "overhead blade")
    framed = with_frame(design, blade, 0.0, 96.0)
    frame = framed.wires[-1]
    assert frame.path_mm[-1][1:] == (0.0, 30.0) and frame.path_mm[-1][0] > 66.0 and frame.path_mm[0][0] < 0.0
    study, bare = Study(framed), Study(design.but(fittings=framed.fittings))
    more = of.slip(study).finished.mass_g - of.slip(bare).finished.mass_g
    assert more == pytest.approx(cut_length_mm(frame) * math.pi / 4 * 1.2**2 * 7.9e-3, rel=2e-3)
    pulled, without = of.pulled(study), of.pulled(bare)
    # by strips across the stream: sin³ of each leg's angle to the axis
    legs = np.diff(np.asarray(frame.path_mm), axis=0)
    long = np.linalg.norm(legs, axis=1)
    wanted = 1.1 * 1.2 * (long * (np.hypot(legs[:, 1], legs[:, 2]) / long) ** 3).sum()
    extra = sum(d.area_mm2 for d in pulled.drags) - sum(d.area_mm2 for d in without.drags)
    assert extra == pytest.approx(wanted, rel=1e-9) and extra > 5.0
    heights = [d.at_mm[2] for d in pulled.drags[len(without.drags) :]]
    assert min(heights) > min(p[2] for p in frame.path_mm) and max(heights) < 30.0
    with pytest.raises(BadInput, match="at least"):
        with_frame(design, replaced(blade, at_mm=(4.0, 0.0, 30.0)), 0.0, 96.0)
    twice = with_frame(framed, replaced(blade, at_mm=(80.0, 0.0, 30.0)), 0.0, 96.0)
    assert len({f.name for f in twice.fittings}) == len(twice.fittings) and len({w.name for w in twice.wires}) == len(
        twice.wires
    )
    steps = next(b for b in bendings(study) if b.name == frame.name)
    assert not any("cannot be pushed" in s for s in steps.says) and "outside the body" in steps.steps[-1]
    untied = tuple(f for f in design.fittings if f.at_mm[0] > 0.0)
    plain = with_frame(design.but(wires=(), fittings=untied), blade, 0.0, 96.0)
    assert of.wires(Study(plain))[0].runs[0].inside and not of.wires(Study(plain))[0].runs[-1].inside


def test_what_tests_have_taught_is_read_and_a_bad_file_is_refused(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))
    assert not factors_of("popper").calibrated and factors_of("popper").swing_rate == 1.0
    factors_file().write_text(json.dumps({"popper": {"limit": 0.8, "tests": 4}}))
    assert factors_of("popper").limit == 0.8 and factors_of("popper").calibrated
    assert not factors_of("pencil").calibrated
    for bad in ("{", '{"popper": {"limit": -1}}', "[]", '{"popper": {"limits": 1.2}}'):
        factors_file().write_text(bad)
        with pytest.raises(BadInput, match="popper"):
            factors_of("popper")


def test_a_mouth_that_is_jerked_digs_as_its_trim_has_it_and_brakes_as_a_flat_face() -> None:
    study = Study(design_of("sallow-74"))
    found, still = of.jerked(study)[0], of.mouths(study)[0]
    assert found.air_share < still.air_share and found.digs_mm > 0.0
    face = 0.5 * 1000.0 * 0.6**2 * still.area_mm2 * 1e-6 / 9.80665 * 1000.0
    assert 0.3 * face < found.brakes_g <= 1.01 * face


def test_a_design_mirrored_left_to_right_does_the_same_the_other_way() -> None:
    """Ballast 1 mm to port or to starboard: rests lean to the other side, all else is alike."""
    design = design_of("osier-96")
    sides = []
    for way in (1.0, -1.0):
        holes = tuple(
            replaced(b, drilling=replaced(b.drilling, place_mm=(b.drilling.place_mm[0], way)))
            for b in design.ballast
            if b.drilling
        )
        study = Study(design.but(ballast=holes))
        rest = of.upright_rest(study)
        assert rest is not None
        sides.append((rest.roll_rad, of.draw(study, [0.5], of.USUAL_LINE), of.walked(study)))
    (one, ran, walks), (two, ran_two, walks_two) = sides
    assert one == pytest.approx(-two, abs=1e-6) and abs(one) > 1e-3
    assert ran.run.trims[0].pitch_rad == pytest.approx(ran_two.run.trims[0].pitch_rad, abs=1e-4)
    assert ran.sideways is not None and ran_two.sideways is not None
    assert ran.sideways.swings[0].hz == pytest.approx(ran_two.sideways.swings[0].hz, rel=1e-3)
    assert ran.sideways.ends_m_s == pytest.approx(ran_two.sideways.ends_m_s, abs=0.006)
    assert walks is not None and walks_two is not None and walks.turn_s == pytest.approx(walks_two.turn_s, abs=0.005)


def test_a_blade_turns_the_tail_it_is_set_in_and_that_slows_it() -> None:
    trim = Trim(1.0, 0.0, 50.0, 60.0, 10.0, 0.0, 1.0, (0.0, 0.0, 0.0))
    blade = prop("right", 10.0)
    alone = turning(blade, trim, 0.001)
    heavy = turning(blade, trim, 0.001, Carried(wet_g=3.0))
    assert alone.starts_m_s is not None and heavy.starts_m_s is not None and heavy.starts_m_s > alone.starts_m_s
    assert heavy.free > alone.free and heavy.jammed == alone.jammed and heavy.rate_hz == alone.rate_hz
    # a cylinder of radius r and length l: ∫ r³ dA = 2πr⁴l
    skin = Carried(skin_mm5=2.0 * math.pi * 8.0**4 * 30.0)
    slow = turning(blade, trim, 0.001, skin)
    share = slow.rate_hz / alone.rate_hz
    assert 0.0 < share < 1.0
    a = math.radians(35.0)
    push = 0.5 * 0.001 * 1e6 * 0.3 * math.pi / 4 * 22.0**2 * normal_force(math.cos(a))
    driving = push * math.sin(a) * ARM_SHARE * 22.0
    rubs = RUBS * BEARING_MM * ((0.8 - 0.1) * GRAVITY_MM_S2 + push * math.cos(a))
    drags = 0.5 * 0.001 * SKIN * skin.skin_mm5 * (2 * math.pi * slow.rate_hz) ** 2
    # what the blades have left at that rate is what the skin takes
    assert (driving - rubs) * (1.0 - share) == pytest.approx(drags, rel=1e-6)


def test_a_turning_tail_counts_with_the_blade_in_it() -> None:
    design = read_design(DEMO / "mill-tail-88.ybob")
    tailed, _ = added(design, "turning tail", 22.0, 22.0)
    tail = tailed.pieces[-1]
    blade = replaced(
        design.fittings[0], name="Tail blade", sort="blade", at_mm=(float(tail.shape.x_mm) + 4.0, 0.0, 0.0)
    )  # type: ignore[union-attr]
    study = Study(tailed)
    along = carried_by(study, blade)
    mesh = of.parts(study)[-1]
    assert along.wet_g == pytest.approx(mesh.volume_mm3 * (tail.density_g_ml / 1000.0 - of.water_density(study)))
    assert along.skin_mm5 > 0.0
    assert carried_by(study, replaced(blade, at_mm=(20.0, 0.0, 0.0))) == NOTHING
