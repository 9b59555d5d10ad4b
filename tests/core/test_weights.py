"""The slip against sums by hand: solids, holes, ballast, plugs, wires, hooks, coats and inertia."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.conftest import turned_design
from yellowbob.checks.registry import CHECKS
from yellowbob.design.model import Ballast, Design, Shot, Slug
from yellowbob.ground.errors import BadShape
from yellowbob.lines.drill import place_hole
from yellowbob.study import Study, of
from yellowbob.weights.ballast import shot_diameter_mm, stack_length_mm, weight_mass_g
from yellowbob.weights.mass import of_cylinder, of_point, of_sphere, total
from yellowbob.weights.wet import wet_point
from yellowbob.weights.wires import of_wire

CYLINDER = ((0, 10), (60, 10))
PLUG = {"material": "epoxy", "density_g_ml": 1.15}


def slug_in_the_belly(**more: object) -> dict[str, object]:
    return {
        "name": "slug", "weight": {"form": "slug", "diameter_mm": 5.0, "length_mm": 6.0},
        "drilling": {"side": "belly", "place_mm": (25.0, 0.0), "diameter_mm": 5.0, "depth_mm": 10.0},
        "plug": PLUG, **more,
    }  # fmt: skip


def line(study: Study, key: str) -> float:
    return next(one.mass.mass_g for one in of.slip(study).lines if one.key == key)


def test_body_mass_is_volume_times_density() -> None:
    study = Study(turned_design(*CYLINDER, density=0.43))
    assert line(study, "body") == pytest.approx(0.43e-3 * math.pi * 100 * 60, rel=1e-9)


def test_hole_slug_and_plug_by_hand() -> None:
    study = Study(turned_design(*CYLINDER, ballast=[slug_in_the_belly()]))
    area = math.pi / 4 * 25
    # the belly is round: besides depth x area, the hole loses what lies outside the body at its mouth, nothing else
    hole = -line(study, "holes") / 0.5e-3
    assert area * 9.5 < hole < area * 10.0
    assert line(study, "ballast:slug") == pytest.approx(11.34e-3 * area * 6.0)
    assert line(study, "plug:slug") == pytest.approx((hole - area * 6.0) * 1.15e-3, rel=1e-9)
    placed = of.holes(study).ballast[0]
    assert placed.weight.centre_mm == pytest.approx([25.0, 0.0, -10.0 + 10.0 - 3.0], abs=0.06)
    assert placed.proud_mm == 0.0


def test_finished_mass_centre_and_inertia_are_the_parts_summed() -> None:
    design = turned_design(
        *CYLINDER,
        ballast=[slug_in_the_belly()],
        fittings=[{"name": "hook", "at_mm": (30, 0, -12), "mass_g": 1.4, "hanging": True, "reach_mm": 20}],
        wires=[{"diameter_mm": 1.0, "path_mm": [(-2, 0, 0), (40, 0, 3), (64, 0, 0)]}],
        coats=[{"name": "clear", "coats": 2, "film_mm": 0.1, "density_g_ml": 1.1}],
    )
    slip = of.slip(Study(design))
    mass = sum(one.mass.mass_g for one in slip.lines)
    centre = sum(one.mass.mass_g * one.mass.centre_mm for one in slip.lines) / mass
    inertia = np.zeros((3, 3))
    for one in slip.lines:
        r = one.mass.centre_mm - centre
        inertia += one.mass.inertia_g_mm2 + one.mass.mass_g * (r @ r * np.eye(3) - np.outer(r, r))
    assert slip.finished.mass_g == pytest.approx(mass, rel=1e-12)
    assert slip.finished.centre_mm == pytest.approx(centre, rel=1e-9)
    assert slip.finished.inertia_g_mm2 == pytest.approx(inertia, rel=1e-9)
    assert slip.on_scale.mass_g + slip.to_come.mass_g == pytest.approx(mass)


def test_inertia_of_a_cylinder_and_sphere_in_closed_form() -> None:
    m, d, long = 3.0, 4.0, 10.0
    rod = of_cylinder(m, d, np.zeros(3), np.array([long, 0, 0])).inertia_g_mm2
    assert np.diag(rod) == pytest.approx([m * d**2 / 8, *[m * (3 * (d / 2) ** 2 + long**2) / 12] * 2])
    assert np.diag(of_sphere(m, d, np.zeros(3)).inertia_g_mm2) == pytest.approx([m * d**2 / 10] * 3)
    pair = total([of_point(1.0, np.array([0.0, 0, -2])), of_point(1.0, np.array([0.0, 0, 2]))])
    assert np.diag(pair.inertia_g_mm2) == pytest.approx([8, 8, 0])


def test_body_inertia_of_a_cylinder() -> None:
    study = Study(turned_design(*CYLINDER, density=0.5))
    m = 0.5e-3 * math.pi * 100 * 60
    body = of.slip(study).lines[0].mass.inertia_g_mm2
    assert body[0, 0] == pytest.approx(m * 100 / 2, rel=2e-3)
    assert body[1, 1] == pytest.approx(m * (300 + 3600) / 12, rel=2e-3)


def test_coat_is_area_times_film_and_lifts_the_hull() -> None:
    coats = [{"name": "clear", "coats": 3, "film_mm": 0.08, "density_g_ml": 1.1}]
    bare, coated = Study(turned_design(*CYLINDER)), Study(turned_design(*CYLINDER, coats=coats))
    area = 2 * math.pi * 100 + 2 * math.pi * 10 * 60
    assert line(coated, "coat:clear") == pytest.approx(area * 0.24 * 1.1e-3, rel=2e-3)
    gained = of.hull(coated).volume_mm3 - of.hull(bare).volume_mm3
    assert gained == pytest.approx(of.outer(coated).area_mm2 * 0.24, rel=1e-6)


def test_wire_along_its_path() -> None:
    design = turned_design(*CYLINDER, wires=[{"diameter_mm": 1.2, "path_mm": [(0, 0, 0), (30, 0, 0), (30, 0, -40)]}])
    mass = of_wire(design.wires[0])
    assert mass.mass_g == pytest.approx(7.9e-3 * math.pi / 4 * 1.44 * 70)
    assert mass.centre_mm == pytest.approx([(15 * 30 + 30 * 40) / 70, 0, -20 * 40 / 70])


def test_shared_wood_is_taken_away_once() -> None:
    bore = {"drilling": {"side": "nose", "place_mm": (0, 0), "diameter_mm": 3, "depth_mm": 70}, "fill": "sealed"}
    one = Study(turned_design(*CYLINDER, bores=[{"name": "a", **bore}]))
    two = Study(turned_design(*CYLINDER, bores=[{"name": "a", **bore}, {"name": "b", **bore}]))
    assert line(two, "holes") == pytest.approx(line(one, "holes"), abs=1e-9)
    assert line(one, "holes") == pytest.approx(-0.5e-3 * math.pi / 4 * 9 * 60, rel=1e-6)


def test_open_bore_lets_water_in_and_a_sealed_one_does_not() -> None:
    drilling = {"side": "nose", "place_mm": (0, 0), "diameter_mm": 3, "depth_mm": 70}
    sealed = Study(turned_design(*CYLINDER, bores=[{"name": "a", "drilling": drilling, "fill": "sealed"}]))
    opened = Study(turned_design(*CYLINDER, bores=[{"name": "a", "drilling": drilling, "fill": "open"}]))
    assert of.hull(sealed).volume_mm3 == pytest.approx(math.pi * 6000, rel=1e-9)
    assert of.hull(opened).volume_mm3 == pytest.approx(math.pi * 6000 - math.pi / 4 * 9 * 60, rel=1e-6)


def test_filled_bore_weighs_its_filler() -> None:
    drilling = {"side": "nose", "place_mm": (0, 0), "diameter_mm": 4, "depth_mm": 20}
    bore = {
        "name": "dowel",
        "drilling": drilling,
        "fill": "filled",
        "filler": {"material": "beech", "density_g_ml": 0.71},
    }
    study = Study(turned_design(*CYLINDER, bores=[bore]))
    assert line(study, "bore:dowel") == pytest.approx(0.71e-3 * math.pi * 4 * 20, rel=1e-6)


def test_shot_stacks_single_file_zigzag_and_loose() -> None:
    shot = Shot(mass_g=0.8, count=4)
    d = shot_diameter_mm(shot)
    assert math.pi / 6 * d**3 * 11.34e-3 == pytest.approx(0.8)
    assert stack_length_mm(shot, d) == pytest.approx(4 * d)
    assert stack_length_mm(shot, d * 1.5) == pytest.approx(d + 3 * d * math.sqrt(0.75))
    assert d <= stack_length_mm(shot, d * 3) < 2 * d
    assert weight_mass_g(shot) == pytest.approx(3.2)
    assert weight_mass_g(Slug(diameter_mm=4, length_mm=5)) == pytest.approx(11.34e-3 * math.pi * 4 * 5)


def test_a_weight_too_long_for_its_hole_stands_proud() -> None:
    spec = slug_in_the_belly(weight={"form": "slug", "diameter_mm": 5.0, "length_mm": 12.5})
    placed = of.holes(Study(turned_design(*CYLINDER, ballast=[spec]))).ballast[0]
    assert placed.proud_mm == pytest.approx(2.5)
    assert placed.plug is None


def test_cast_in_ballast_takes_no_hole() -> None:
    spec = {"name": "in", "weight": {"form": "shot", "mass_g": 2.0}, "at_mm": (20, 0, -5)}
    study = Study(turned_design(*CYLINDER, ballast=[spec]))
    placed = of.holes(study).ballast[0]
    assert placed.weight.centre_mm == pytest.approx([20, 0, -5])
    assert placed.hole is None
    assert placed.gone.mass_g == pytest.approx(2.0 / 11.34, rel=1e-9)
    assert line(study, "cast in") == pytest.approx(-0.5 * 2.0 / 11.34, rel=1e-9)


@pytest.mark.parametrize(
    ("side", "place", "mouth", "inward"),
    [
        ("belly", (20, 0), (20, 0, -10), (0, 0, 1)),
        ("back", (20, 0), (20, 0, 10), (0, 0, -1)),
        ("nose", (0, 2), (0, 0, 2), (1, 0, 0)),
        ("tail", (1, 0), (60, 1, 0), (-1, 0, 0)),
        ("port", (30, 0), (30, -10, 0), (0, 1, 0)),
        ("starboard", (30, 0), (30, 10, 0), (0, -1, 0)),
    ],
)
def test_holes_enter_where_they_should(side: str, place: tuple, mouth: tuple, inward: tuple) -> None:
    design = turned_design(*CYLINDER)
    spec = slug_in_the_belly(drilling={"side": side, "place_mm": place, "diameter_mm": 3, "depth_mm": 5})
    drilling = Ballast.model_validate(spec).drilling
    assert drilling is not None
    hole = place_hole(drilling, of.outer(Study(design)), "test")
    assert hole.mouth_mm == pytest.approx(mouth, abs=0.1)
    assert hole.inward == pytest.approx(inward)


def test_leaning_bit_ends_further_aft() -> None:
    spec = slug_in_the_belly(
        drilling={"side": "belly", "place_mm": (25, 0), "diameter_mm": 5, "depth_mm": 10, "lean_deg": 30}
    )
    placed = of.holes(Study(turned_design(*CYLINDER, ballast=[spec]))).ballast[0]
    assert placed.hole is not None
    assert placed.hole.bottom_mm[0] == pytest.approx(25 + 10 * math.sin(math.radians(30)), abs=0.02)


def test_a_bit_that_misses_is_refused_with_the_place() -> None:
    spec = slug_in_the_belly(drilling={"side": "belly", "place_mm": (90, 0), "diameter_mm": 5, "depth_mm": 10})
    with pytest.raises(BadShape, match=r"x = 90\.0 mm.*misses"):
        _ = of.slip(Study(turned_design(*CYLINDER, ballast=[spec])))


def test_hanging_and_rigid_fittings_in_the_water(popper: Design) -> None:
    hooks = [f for f in popper.fittings if f.sort == "hook"]
    point = wet_point(hooks[0])
    assert point is not None
    assert (point.dry_mm, point.wet_mm) == (-hooks[0].reach_mm, 0.0)
    assert point.volume_mm3 == pytest.approx(hooks[0].volume_ml * 1000)
    assert wet_point(popper.fittings[0]) is None


@pytest.mark.parametrize("off_mm", [9.0, 9.8, 10.3, 11.0])
@pytest.mark.parametrize("filled", [False, True])
def test_a_wire_half_in_the_wood_takes_what_of_it_lies_there(off_mm: float, filled: bool) -> None:
    """A rod of radius r beside the axis of a cylinder of radius R: they share a lens (its area by two segments)."""
    r, big, long = 1.5, 10.0, 40.0
    one = math.acos((off_mm**2 + r**2 - big**2) / (2 * off_mm * r))
    two = math.acos((off_mm**2 + big**2 - r**2) / (2 * off_mm * big))
    lens = r**2 * (one - math.sin(2 * one) / 2) + big**2 * (two - math.sin(2 * two) / 2)
    wire: dict[str, object] = {"diameter_mm": 2 * r, "path_mm": [(10, 0, -off_mm), (50, 0, -off_mm)], "route": "bored"}
    if filled:
        wire["filler"] = {"material": "epoxy", "density_g_ml": 1.15}
    study = Study(turned_design(*CYLINDER, wires=[wire]))
    assert line(study, "wire wood") == pytest.approx(-0.5e-3 * long * lens, rel=0.01)
    out = of.afloat(study).points
    assert sum(p.volume_mm3 for p in out) == pytest.approx(long * (math.pi * r**2 - lens), rel=0.01)
    assert {round(p.at_mm[0]) for p in out} == {30}
    assert (
        sum(abs(one.mass.mass_g) for one in of.slip(study).lines if one.key.startswith("closing")) < 1e-4
    )  # it fills its hole
    found = CHECKS["course"].verdict(study)
    assert found is not None
    assert found.state in ("watch", "failed")


def test_a_wire_thicker_than_its_body_leaves_no_less_than_nothing_of_it() -> None:
    wire = {"diameter_mm": 3.0, "path_mm": [(-5, 0, 0), (35, 0, 0)]}
    study = Study(turned_design((0, 1.0), (30.0, 1.0), wires=[wire]))
    assert line(study, "body") + line(study, "wire wood") == pytest.approx(0.0, abs=1e-6)
    assert sum(p.volume_mm3 for p in of.afloat(study).points) == pytest.approx(math.pi * (2.25 * 40 - 30.0), rel=3e-3)


@pytest.mark.parametrize("deep_mm", [4.0, 8.0, 14.0])
def test_a_wire_that_runs_back_along_itself_counts_both_ways(deep_mm: float) -> None:
    """Down to a hanger and up again, in a cylinder of radius 10."""
    path = [(-5, 0, 0), (30, 0, 0), (30, 0, -deep_mm), (30, 0, 0), (65, 0, 0)]
    study = Study(turned_design(*CYLINDER, wires=[{"diameter_mm": 1.2, "path_mm": path, "route": "split"}]))
    inside = 60.0 + 2.0 * min(deep_mm, 10.0)
    assert line(study, "wire wood") == pytest.approx(-0.5e-3 * math.pi * 0.36 * inside, rel=2e-3)
    found = CHECKS["course"].verdict(study)
    assert found is not None
    assert found.state == "good"
