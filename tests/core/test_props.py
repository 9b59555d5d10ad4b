"""Props, blades and hardware in the stream: when they turn, what they push and heel, where they are dragged; frames."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import DEMO
from tests.core.test_twitched import LINE, design_of, log
from yellowbob.action.dragged import Dragged
from yellowbob.action.running import Trim, run
from yellowbob.action.swing import sideways
from yellowbob.action.turning import ARM_SHARE, BEARING_MM, NOTHING, RUBS, SKIN, Carried, heel_of, normal_force, turning
from yellowbob.afloat.rest import rest_near
from yellowbob.design.base import replaced
from yellowbob.design.cut_edits import added
from yellowbob.design.files import read_design
from yellowbob.design.hardware import Fitting
from yellowbob.design.wire_edits import with_bend_at, with_frame, without_bend, without_wire
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.shipped import hardware
from yellowbob.shop.bending import bendings
from yellowbob.study import Study, of
from yellowbob.study.drawn import carried_by
from yellowbob.weights.wires import cut_length_mm


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


def test_bends_are_moved_and_taken_out_and_a_wire_keeps_two_ends() -> None:
    design = design_of("osier-96")
    count = len(design.wires[0].path_mm)
    there = with_bend_at(design, 0, 1, (20.0, 0.5, -1.0))
    assert there.wires[0].path_mm[1] == (20.0, 0.5, -1.0) and there.wires[0].path_mm[2:] == design.wires[0].path_mm[2:]
    less = design
    for _ in range(count - 2):
        less = without_bend(less, 0, 1)
    assert less.wires[0].path_mm == (design.wires[0].path_mm[0], design.wires[0].path_mm[-1])
    with pytest.raises(BadInput, match="two ends"):
        without_bend(less, 0, 0)
    for bend in (-1, count):
        with pytest.raises(BadInput, match="there is no bend"):
            with_bend_at(design, 0, bend, (0.0, 0.0, 0.0))
        with pytest.raises(BadInput, match="there is no bend"):
            without_bend(design, 0, bend)
    bare = without_wire(design, 0)
    assert bare.wires == () and of.slip(Study(bare)).finished.mass_g < of.slip(Study(design)).finished.mass_g
    with pytest.raises(BadInput, match="no wire"):
        without_wire(bare, 0)


def test_blades_out_of_the_water_and_flat_ones_are_told_apart() -> None:
    trim = Trim(1.0, 0.0, 20.0, 20.0, 10.0, 0.0, 1.0, (0.0, 0.0, 0.0))
    high, flat = replaced(prop("right", 10.0), at_mm=(10.0, 0.0, 60.0)), prop("right", 10.0, 0.0)
    assert turning(high, trim, 0.001).stands_for == "its blades are out of the water"
    assert turning(flat, trim, 0.001).stands_for == "its blades have no angle"
    assert turning(prop("right", 10.0), trim, 0.001).stands_for == ""
    assert turning(high, trim, 0.001).sides == (0.0, 0.0)
