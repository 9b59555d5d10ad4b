"""Fit-out by hand calculation, sampling and brute force: wires, finish, worksheets, resin, budget, clearances."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import turned_design
from yellowbob.design.cuts import Cup
from yellowbob.design.model import Coat, Design, Fitting, Loop, Wire, replaced
from yellowbob.fitout.apply import with_sheet, with_volume
from yellowbob.fitout.mix import mix, mixed_density, percent_for
from yellowbob.fitout.worksheets import Value, read_value, work
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of
from yellowbob.study.evidence import with_reading
from yellowbob.weights.finish import film_from_weighings
from yellowbob.weights.wires import cut_length_mm, of_wire

HOOK = Fitting(name="h", sort="hook", at_mm=(30, 0, -14), mass_g=1.2, hanging=True, reach_mm=22, span_mm=10, wire_mm=1)


def plain(**changes: object) -> Design:
    return turned_design((0.0, 10.0, "corner"), (80.0, 10.0, "corner"), density=0.5).but(**changes)


# ---- wires


def test_a_wire_takes_the_woods_place_and_its_loops_add_to_the_cut() -> None:
    ends = (Loop(end="fore", kind="wraps", inner_mm=3, turns=3), Loop(end="aft", kind="welded", inner_mm=4))
    wire = Wire(diameter_mm=1.2, path_mm=((-6, 0, 0), (86, 0, 0)), loops=ends)
    bare, fitted = Study(plain()), Study(plain(wires=(wire,)))
    eye = math.pi * 4.2
    loops = eye + 3 * math.hypot(2 * math.pi * 1.2, 1.2) + math.pi * 5.2
    section = math.pi / 4 * 1.44
    steel = (92 + loops) * section * 7.9e-3
    wood = 80 * section * 0.5e-3
    assert cut_length_mm(wire) == pytest.approx(92 + loops, rel=1e-12)
    assert of_wire(wire).mass_g == pytest.approx(steel, rel=1e-12)
    more = of.slip(fitted).on_scale.mass_g - of.slip(bare).on_scale.mass_g
    assert more == pytest.approx(steel - wood, rel=1e-6)
    assert of.wires(fitted)[0].inside_mm == pytest.approx(80.0, abs=1e-6)
    outside = sum(p.volume_mm3 for p in of.afloat(fitted).points)
    assert outside == pytest.approx(12 * section, rel=1e-6)


def test_a_bored_wire_leaves_air_and_a_grooved_one_a_closed_saw_cut() -> None:
    path = ((5.0, 0.0, 0.0), (75.0, 0.0, 0.0))
    bored = Study(plain(wires=(Wire(diameter_mm=1, path_mm=path, hole_mm=2),)))
    assert of.wires(bored)[0].gone[0].mass_g * 1000 == pytest.approx(70 * math.pi, rel=1e-9)
    filler = {"material": "epoxy", "density_g_ml": 1.15}
    wire = Wire.model_validate(
        {"diameter_mm": 1, "path_mm": path, "hole_mm": 1.6, "route": "grooved", "filler": filler}
    )
    routed = of.wires(Study(plain(wires=(wire,))))[0]
    # groove: 70 long, 1.6 wide, from half a wire above the axis to the belly of a round body of radius 10
    x = np.linspace(-0.8, 0.8, 2001)
    deep = float(np.trapezoid(np.sqrt(100 - x**2), x)) + 1.6 * 0.5
    assert routed.gone[0].mass_g * 1000 == pytest.approx(70 * deep, rel=3e-3)
    assert routed.closing is not None
    assert routed.closing.mass_g == pytest.approx((routed.gone[0].mass_g - 70 * math.pi / 4 / 1000) * 1.15, rel=1e-9)


# ---- masses by hand


def test_the_whole_build_is_the_sum_worked_by_hand_and_one_hook_moves_only_itself() -> None:
    prop = Fitting(name="p", sort="prop", at_mm=(84, 0, 0), mass_g=1.1, span_mm=24, inertia_g_mm2=(30.0, 20.0, 20.0))
    eye = Fitting(name="e", sort="screw eye", at_mm=(0, 0, -2), mass_g=0.4, in_wood_ml=0.03, long_mm=12, aim_deg=0)
    design = plain(fittings=(HOOK, prop, eye))
    slip, body = of.slip(Study(design)), of.slip(Study(plain())).finished
    things = [(body.mass_g, body.centre_mm, body.spread_g_mm2), (1.2, (30, 0, -14), np.zeros((3, 3))),
              (1.1, (84, 0, 0), np.diag([5.0, 15.0, 15.0])), (0.4, (0, 0, -2), np.zeros((3, 3))),
              (-0.03 * 0.5, (6, 0, -2), np.zeros((3, 3)))]  # fmt: skip
    mass = sum(m for m, _, _ in things)
    centre = sum(m * np.asarray(c, float) for m, c, _ in things) / mass
    spread = sum(s + m * np.outer(np.asarray(c) - centre, np.asarray(c) - centre) for m, c, s in things)
    assert slip.finished.mass_g == pytest.approx(mass, rel=1e-9)
    assert slip.finished.centre_mm == pytest.approx(centre, rel=1e-9, abs=1e-9)
    assert slip.finished.spread_g_mm2 == pytest.approx(spread, rel=1e-9, abs=1e-7)
    moved = of.slip(Study(design.but(fittings=(replaced(HOOK, at_mm=(40, 0, -14)), prop, eye))))
    before = {line.key: line for line in slip.lines}
    for line in moved.lines:
        same = np.allclose(line.mass.centre_mm, before[line.key].mass.centre_mm)
        assert same == (line.key != "fitting:h")
        assert line.mass.mass_g == before[line.key].mass.mass_g


# ---- finish


def test_coats_by_region_add_up_to_the_whole_and_soak_is_by_area() -> None:
    whole = Coat(name="c", film_mm=0.1, density_g_ml=1.1, coats=2, soak_g_m2=30)
    area = of.outer(Study(plain())).area_mm2
    mass = of.slip(Study(plain(coats=(whole,)))).to_come.mass_g
    assert mass == pytest.approx(area * (0.2 * 1.1e-3 + 30e-6), rel=1e-9)
    parts = [replaced(whole, region=r, **e) for r in ("back", "belly") for e in ({"to_mm": 31.7}, {"from_mm": 31.7})]
    split = of.slip(Study(plain(coats=tuple(parts))))
    assert split.to_come.mass_g == pytest.approx(mass, rel=1e-6)
    assert split.to_come.centre_mm == pytest.approx(of.slip(Study(plain(coats=(whole,)))).to_come.centre_mm, abs=1e-3)


def test_varnish_pools_in_a_cup_by_the_difference_of_two_caps() -> None:
    cup = Cup(diameter_mm=14, depth_mm=3, pool_mm=0.6)
    design = plain(coats=(Coat(name="clear", film_mm=0.1, density_g_ml=1.1),))
    pool = next(line for line in of.slip(Study(design.with_body(cuts=(cup,)))).lines if line.key == "pool")

    def cap(h: float) -> float:
        return math.pi * h * (3 * 49 + h * h) / 6

    assert pool.mass.mass_g == pytest.approx((cap(3.6) - cap(3.0)) * 1.1e-3, rel=1e-12)
    assert pool.stage == "to come"


def test_a_weighing_before_and_after_gives_the_film_back() -> None:
    coat = Coat(name="c", film_mm=0.083, density_g_ml=1.13, coats=3)
    study = Study(plain(coats=(coat,)))
    before = of.slip(study).on_scale.mass_g
    film = film_from_weighings(before, before + of.slip(study).to_come.mass_g, of.outer(study).area_mm2, 1.13, 3)
    assert film == pytest.approx(0.083, rel=1e-9)
    with pytest.raises(BadInput, match="not heavier"):
        film_from_weighings(10, 10, 100, 1, 1)


# ---- worksheets

SHEETS = {
    "block": ({"length": (50.2, 0.05), "width": (20.1, 0.04), "height": (12.05, 0.03), "mass": (5.61, 0.01)},
              lambda v: 1000 * v["mass"] / (v["length"] * v["width"] * v["height"])),
    "puck": ({"diameter": (38.4, 0.1), "height": (11.9, 0.1), "mass": (11.2, 0.02)},
             lambda v: 1000 * v["mass"] / (math.pi / 4 * v["diameter"] ** 2 * v["height"])),
    "mould": ({"volume": (30.0, 0.2), "mass": (28.6, 0.02)}, lambda v: v["mass"] / v["volume"]),
    "immersion": ({"force": (21.34, 0.02), "mass": (9.87, 0.01), "water": (0.9982, 0.0002)},
                  lambda v: v["mass"] * v["water"] / v["force"]),
    "sink": ({"mass": (9.87, 0.01), "sinker": (40.0, 0.02), "both": (28.5, 0.02), "water": (0.9982, 0.0)},
             lambda v: v["mass"] * v["water"] / (v["mass"] + v["sinker"] - v["both"])),
}  # fmt: skip


@pytest.mark.parametrize("kind", SHEETS)
def test_worksheets_agree_with_hand_and_their_uncertainty_with_sampling(kind: str) -> None:
    readings, formula = SHEETS[kind]
    sheet = work(kind, {n: Value(*r) for n, r in readings.items()})
    assert sheet.density is not None
    assert sheet.density.value == pytest.approx(formula({n: r[0] for n, r in readings.items()}), rel=1e-12)
    chance = np.random.default_rng(3)
    sampled = formula({n: chance.normal(r[0], r[1], 200_000) for n, r in readings.items()})
    assert sheet.density.u == pytest.approx(float(np.std(sampled)), rel=0.02)
    assert sheet.steps


def test_a_master_gives_its_volume_and_a_volume_rescales_the_body() -> None:
    sheet = work("master", {"mass": Value(14.2, 0.01), "density": Value(0.41, 0.005)})
    assert sheet.volume is not None
    assert sheet.volume.value == pytest.approx(14.2 / 0.41, rel=1e-12)
    assert sheet.volume.u == pytest.approx(math.hypot(0.01 / 0.41, 14.2 / 0.41**2 * 0.005), rel=1e-9)
    design = plain()
    grown = with_volume(design, sheet, of.outer(Study(design)).volume_mm3 / 1000)
    assert of.outer(Study(grown)).volume_mm3 / 1000 == pytest.approx(14.2 / 0.41, rel=1e-6)
    block = work("block", {n: Value(*r) for n, r in SHEETS["block"][0].items()})
    taken = with_sheet(design, block)
    assert taken.body.material.measured and taken.body.density_g_ml == block.density.value
    assert taken.measurements[0].readings["mass"] == 5.61
    with pytest.raises(BadInput, match="volume, not a density"):
        with_sheet(design, sheet)


@pytest.mark.parametrize("kind", ["immersion", "sink"])
def test_a_rigged_piece_does_not_pass_for_its_wood(kind: str) -> None:
    readings = {n: Value(*r) for n, r in SHEETS[kind][0].items()}
    design = plain()
    for on, wanted in (("", "what was on it"), ("rigged", "of the whole")):
        sheet = work(kind, readings, on)
        assert any("all that was under" in step for step in sheet.steps)
        with pytest.raises(BadInput, match=wanted):
            with_sheet(design, sheet)
        with pytest.raises(BadInput, match=wanted):
            with_volume(design, sheet, 20.0)
    bare = work(kind, readings, "bare")
    assert bare.density is not None
    assert with_sheet(design, bare).body.density_g_ml == bare.density.value
    with pytest.raises(BadInput, match="bare or rigged"):
        work(kind, readings, "wet")
    with pytest.raises(BadInput, match="bare or rigged"):
        work("block", {n: Value(*r) for n, r in SHEETS["block"][0].items()}, "bare")


@pytest.mark.parametrize("kind", ["block", "puck", "mould"])
def test_the_volume_of_a_test_piece_is_not_the_bodys(kind: str) -> None:
    with pytest.raises(BadInput, match="test piece"):
        with_volume(plain(), work(kind, {n: Value(*r) for n, r in SHEETS[kind][0].items()}), 20.0)


@pytest.mark.parametrize(("text", "value", "u"), [
    ("50.2 ± 0.1 mm", 50.2, 0.1), ("50.2 mm ± 0.1", 50.2, 0.1), ("2 in +/- 0.01 in", 50.8, 0.254), ("50,2", 50.2, 0.05),
    ('1-3/4"', 44.45, 0.05), (".032in", 0.8128, 0.05)])  # fmt: skip
def test_readings_carry_their_uncertainty(text: str, value: float, u: float) -> None:
    one = read_value(text, "length")
    assert (one.value, one.u) == pytest.approx((value, u))


@pytest.mark.parametrize(("kind", "readings"), [
    ("block", {"length": (0, 0), "width": (1, 0), "height": (1, 0), "mass": (1, 0)}),
    ("puck", {"diameter": (30, 0), "mass": (1, 0)}),
    ("sink", {"mass": (5, 0), "sinker": (40, 0), "both": (60, 0), "water": (1, 0)}),
    ("spoon", {})])  # fmt: skip
def test_impossible_readings_are_refused_by_name(kind: str, readings: dict[str, tuple[float, float]]) -> None:
    with pytest.raises(BadInput):
        work(kind, {n: Value(*r) for n, r in readings.items()})


# ---- resin


@settings(max_examples=200, deadline=None)
@given(a=st.floats(1, 500), b=st.floats(1, 500), p=st.floats(0.5, 80),
       over=st.tuples(st.floats(0, 3), st.floats(0, 3), st.floats(0, 3)))  # fmt: skip
def test_a_correction_keeps_both_ratios_and_takes_nothing_out(
    a: float, b: float, p: float, over: tuple[float, ...]
) -> None:
    plan = (a, b, (a + b) * p / 100)
    poured = [w * o for w, o in zip(plan, over, strict=True)]
    batch = mix(a, b, p, *poured)
    cup = [q + r for q, r in zip(poured, (batch.add_a_g, batch.add_b_g, batch.add_filler_g), strict=True)]
    assert cup[0] / cup[1] == pytest.approx(a / b, rel=1e-9)
    assert cup[2] / (cup[0] + cup[1]) == pytest.approx(p / 100, rel=1e-9)
    assert min(batch.add_a_g, batch.add_b_g, batch.add_filler_g) >= 0
    assert sum(cup) == pytest.approx(batch.total_g)
    again = mix(a, b, p, *cup)  # what was corrected needs nothing more
    assert max(again.add_a_g, again.add_b_g, again.add_filler_g) <= 1e-9 * batch.total_g


def test_the_filler_for_a_wanted_density_gives_that_density() -> None:
    p = percent_for(1.05, 0.22, 0.7)
    assert mixed_density(1.05, 0.22, p) == pytest.approx(0.7)
    with pytest.raises(BadInput, match="cannot be mixed"):
        percent_for(1.05, 0.22, 1.3)
    with pytest.raises(BadInput, match="plan has none"):
        mix(10, 10, 0, poured_filler_g=1)


# ---- budget


def test_a_weighing_moves_what_is_left() -> None:
    design = plain(fittings=(HOOK,), coats=(Coat(name="c", film_mm=0.1),)).but(
        brief={"mass_g": {"least": 20, "most": 24}}
    )
    study = Study(design)
    before = of.budget(study)
    assert before.target_g == 22
    assert before.ballast_g == pytest.approx(22 - before.on_scale_g - before.to_come_g)
    body_g = of.slip(study).lines[0].mass.mass_g
    heavier = Study(with_reading(study, f"bare body={body_g + 0.7:.6f} g"))
    # the wood's own spread is far wider than the scale's: nearly all of it is the wood
    assert of.budget(heavier).ballast_g == pytest.approx(before.ballast_g - 0.7, abs=0.01)
    assert of.budget(heavier).spare_g == pytest.approx(before.spare_g - 0.7, abs=0.01)
    hook = with_reading(study, "H = 1.5 g")
    assert hook.fittings[0].mass_g == 1.5
    assert of.budget(Study(hook)).ballast_g == pytest.approx(before.ballast_g - 0.3)
    for wrong in ("body", "spoon=3 g", "fitted=-3 g", "fitted=3 mm", "fitted=60 kg"):
        with pytest.raises(BadInput):
            with_reading(study, wrong)
