"""What nothing holds is said: hardware off its eye, wires out of the body, weights cast half outside it."""

from __future__ import annotations

import math
import re
from typing import Any

import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.checks.registry import CHECKS
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Ballast, Coat, Design, Fitting, Shot, Slug, Wire
from yellowbob.study import Study

CYLINDER = turned_design((0, 10.0), (60.0, 10.0))


def says(design: Design, key: str) -> tuple[str, str]:
    found = CHECKS[key].verdict(Study(design))
    assert found is not None
    return found.state, found.figure


def fitted(*fittings: dict[str, Any]) -> Design:
    usual = {"mass_g": 0.5, "hanging": True}
    return CYLINDER.but(fittings=tuple(Fitting.model_validate({**usual, **one}) for one in fittings))


@pytest.mark.parametrize("name", sorted(f.stem for f in DEMO.glob("*.ybob")))
def test_all_of_every_demo_is_held(name: str) -> None:
    study = Study(read_design(DEMO / f"{name}.ybob"))
    for key in ("held", "course", "sunk", "ballast"):
        found = CHECKS[key].verdict(study)
        assert found is None or found.state == "good", (key, found)


@pytest.mark.parametrize("off_mm", [0.0, 3.0, 5.5, 7.3, 40.0])
def test_a_ring_is_held_by_what_is_near(off_mm: float) -> None:
    """Under a cylinder of radius 10: the gap is off_mm."""
    state, figure = says(fitted({"name": "ring", "sort": "ring", "at_mm": [30.0, 0.0, -10.0 - off_mm]}), "held")
    assert (state == "good") is (off_mm < 6.0)
    if state == "failed":
        assert figure == f"ring hangs on nothing, {off_mm:.0f} mm off"


def test_a_chain_is_held_by_its_first_link() -> None:
    swivel = {"name": "swivel", "sort": "swivel", "at_mm": [30.0, 0.0, -12.0], "reach_mm": 25.0}
    hook = {"name": "hook", "sort": "hook", "at_mm": [30.0, 0.0, -37.0], "reach_mm": 18.0, "span_mm": 8.0}
    assert says(fitted(swivel, hook), "held")[0] == "good"
    assert says(fitted(hook), "held") == ("failed", "hook hangs on nothing, 27 mm off")
    behind = {"name": "prop", "sort": "prop", "at_mm": [30.0, 0.0, -52.0], "span_mm": 20.0}
    assert says(fitted(swivel, hook, behind), "held") == (
        "failed",
        "prop hangs on nothing, 42 mm off",
    )  # not on the hook
    behind_it = {**hook, "name": "second hook", "at_mm": [30.0, 0.0, -58.0]}
    assert says(fitted(swivel, hook, behind_it), "held")[0] == "good"
    away = fitted({**swivel, "at_mm": [30.0, 0.0, -60.0]}, {**hook, "at_mm": [30.0, 0.0, -85.0]})
    assert says(away, "held")[0] == "failed"
    wire = Wire(name="arm", diameter_mm=1.0, path_mm=((5.0, 0.0, 0.0), (30.0, 0.0, 0.0), (30.0, 0.0, -58.0)))
    assert says(away.but(wires=(wire,)), "held")[0] == "good"


@pytest.mark.parametrize(("up_mm", "state"), [(0.0, "good"), (1.2, "good"), (2.1, "watch"), (-5.3, "watch")])
def test_a_prop_beside_the_wire_that_it_turns_on_is_said(up_mm: float, state: str) -> None:
    prop = {"name": "aft prop", "sort": "prop", "at_mm": [63.0, 0.0, up_mm], "span_mm": 20.0, "hanging": False}
    wire = Wire(name="axle", diameter_mm=1.2, path_mm=((-5.0, 0.0, 0.0), (70.0, 0.0, 0.0)))
    found = says(fitted(prop).but(wires=(wire,)), "held")
    assert found == (
        (state, f"aft prop is {abs(up_mm):.1f} mm beside its wire") if state == "watch" else ("good", "all of it")
    )
    screw = {"name": "its screw", "sort": "screw eye", "at_mm": [59.0, 0.3, up_mm - 0.4], "hanging": False}
    assert says(fitted(prop, screw).but(wires=(wire,)), "held")[0] == "good"
    assert says(fitted(prop), "held")[0] == "good"  # without a wire it is on a pin of its own


@pytest.mark.parametrize(
    ("z_mm", "ml", "state"), [(0.0, 0.5, "watch"), (-7.0, 0.5, "watch"), (-16.0, 0.5, "good"), (0.0, 0.03, None)]
)
def test_what_pushes_water_aside_in_the_wood_is_said(z_mm: float, ml: float, state: str | None) -> None:
    """A ball of 0.5 mL has a radius of 4.9 mm; the body one of 10."""
    sinker = {"name": "rattle", "sort": "other", "at_mm": [30.0, 0.0, z_mm], "volume_ml": ml, "hanging": False}
    found = CHECKS["sunk"].verdict(Study(fitted(sinker)))
    assert (found.state if found is not None else None) == state
    if found is not None and state == "watch" and z_mm == 0.0:
        assert found.figure == "rattle pushes 0.50 mL aside in the wood"


@pytest.mark.parametrize("sort", ["hook", "ring", "swivel"])
@pytest.mark.parametrize(("deep_mm", "state"), [(-1.0, "good"), (1.8, "good"), (2.2, "failed"), (10.0, "failed")])
def test_what_hangs_deep_in_the_wood_is_said(sort: str, deep_mm: float, state: str) -> None:
    hook = {"name": "belly one", "sort": sort, "at_mm": [30.0, 0.0, deep_mm - 10.0], "reach_mm": 18.0, "volume_ml": 0.1}
    found = says(fitted(hook), "sunk")
    assert found == (
        state,
        "belly one hangs in the wood" if state == "failed" else "all that hangs or pushes water aside",
    )


@pytest.mark.parametrize(("name", "number"), [("print-wake-92", 1), ("moth-crawler-64", 1), ("withy-stick-150", 3)])
def test_a_piece_that_stands_off_is_held_by_nothing(name: str, number: int) -> None:
    design = read_design(DEMO / f"{name}.ybob")
    piece = design.pieces[number]
    for by, state in ((0.0, "good"), (-60.0, "failed")):
        x, y, z = piece.at_mm
        found = says(design.with_piece(number, replaced(piece, at_mm=(x, y, z + by))), "held")
        assert found[0] == state and (state == "good" or found[1].startswith(f"{piece.name} hangs on nothing, "))


def test_of_a_row_of_pieces_each_holds_the_next() -> None:
    """Cylinders of 60 mm, one after the other: 2 mm, 2 mm and 9 mm apart."""
    body = CYLINDER.pieces[0]
    row = [body, *(replaced(body, name=n, at_mm=(x, 0.0, 0.0)) for n, x in (("c", 124.0), ("b", 62.0), ("d", 193.0)))]
    assert says(CYLINDER.but(pieces=tuple(row)), "held") == ("failed", "d hangs on nothing, 9 mm off")
    assert says(CYLINDER.but(pieces=tuple(row[:3])), "held")[0] == "good"


@pytest.mark.parametrize("aside_mm", [0.0, 9.0, 11.0, 60.0])
def test_a_wire_beside_the_body_is_no_wire_of_it(aside_mm: float) -> None:
    wire = Wire(name="through wire", diameter_mm=1.0, path_mm=((-4.0, aside_mm, 0.0), (64.0, aside_mm, 0.0)))
    state, figure = says(CYLINDER.but(wires=(wire,)), "course")
    if aside_mm < 10.0:
        assert (state, figure) == ("good", "60 mm of it")
    else:
        assert (state, figure) == ("failed", "0 % of through wire")


@pytest.mark.parametrize(("x_mm", "outside"), [(30.0, 0.0), (0.0, 0.5), (-20.0, 1.0)])
def test_a_ball_cast_in_at_the_end_of_a_cylinder_is_half_outside(x_mm: float, outside: float) -> None:
    ball = Ballast(name="ball", weight=Shot(mass_g=4.0, count=1), at_mm=(x_mm, 0.0, 0.0))
    state, figure = says(CYLINDER.but(ballast=(ball,)), "ballast")
    if outside == 0.0:
        assert (state, figure) == ("good", "4.0 g, all in")
    else:
        told = re.fullmatch(r"(\d+) % of ball is outside", figure)
        assert state == "failed" and told is not None and int(told[1]) == pytest.approx(100.0 * outside, abs=1.0)


@pytest.mark.parametrize(("aside_mm", "share"), [(0.0, 1.0), (2.0, 0.5), (2.7, 0.0)])
def test_metal_that_is_counted_where_a_wire_runs_is_said(aside_mm: float, share: float) -> None:
    """A slug cast round a wire of 1.2 mm, about it, half on its rim and clear of it: by circles that cut each other."""
    wire = Wire(name="through wire", diameter_mm=1.2, path_mm=((-4.0, aside_mm, 0.0), (64.0, aside_mm, 0.0)))
    slug = Ballast(
        name="cast slug", weight=Slug(diameter_mm=4.0, length_mm=18.0, density_g_ml=10.5), at_mm=(30.0, 0.0, 0.0)
    )
    shot = Ballast(name="ball", weight=Shot(mass_g=2.0, count=1), at_mm=(50.0, aside_mm, 0.0))
    state, figure = says(CYLINDER.but(wires=(wire,), ballast=(slug, shot)), "course")
    if share == 0.0:
        assert (state, figure) == ("good", "60 mm of it")
        return
    told = re.fullmatch(r"([\d.]+) g of cast slug is counted where through wire runs", figure)
    lens = 0.36 * math.pi if share == 1.0 else lens_mm2(2.0, 0.6, aside_mm)
    assert state == "watch" and told is not None
    assert float(told[1]) == pytest.approx(lens * 18.0 * 0.0105, abs=0.006)


def lens_mm2(one: float, two: float, apart: float) -> float:
    """What two circles of such radii share."""
    a = math.acos((apart**2 + one**2 - two**2) / (2 * apart * one))
    b = math.acos((apart**2 + two**2 - one**2) / (2 * apart * two))
    return one**2 * (a - math.sin(2 * a) / 2) + two**2 * (b - math.sin(2 * b) / 2)


def test_a_weight_wider_than_its_hole_fails_and_soft_metal_is_driven_in() -> None:
    design = read_design(DEMO / "osier-96.ybob")
    shot = design.ballast[0]
    assert shot.drilling is not None and isinstance(shot.weight, Shot)
    tight = replaced(shot, drilling=replaced(shot.drilling, diameter_mm=shot.drilling.diameter_mm - 0.4))
    state, figure = says(design.but(ballast=(tight,)), "loose")
    assert state == "failed" and figure.endswith("mm hole")


@pytest.mark.parametrize(
    ("start", "end", "state"), [(None, 20.0, "good"), (50.0, 20.0, "failed"), (70.0, 90.0, "failed")]
)
def test_a_coat_whose_band_misses_the_body_covers_nothing(start: float | None, end: float, state: str) -> None:
    coat = Coat(name="clear", film_mm=0.01, from_mm=start, to_mm=end)
    found = says(CYLINDER.but(coats=(coat,)), "finish")
    assert found[0] == state and (state == "good" or found[1] == "clear covers nothing")


def test_a_wire_without_a_length_is_in_no_body() -> None:
    wire = Wire(name="wire", diameter_mm=1.0, path_mm=((5.0, 0.0, 0.0), (5.0, 0.0, 0.0)))
    assert says(CYLINDER.but(wires=(wire,)), "course") == ("failed", "0 % of wire")
