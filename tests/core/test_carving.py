"""Masses of designs with everything on, against one exact boolean for each material."""

from __future__ import annotations

import itertools
import math
from typing import Any

import manifold3d
import numpy as np
import pytest

from tests.conftest import turned_design, version_1
from yellowbob.design.model import Design, Shot
from yellowbob.lines.drill import bit
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, rod, to_manifold
from yellowbob.lines.tubes import bent_rod
from yellowbob.study import Study, of
from yellowbob.weights.ballast import cast_solid
from yellowbob.weights.mass import MassProperties, of_solid, total

CYLINDER = ((0, 10, "corner"), (80, 10, "corner"))
EPOXY = {"material": "epoxy", "density_g_ml": 1.15}
Solid = manifold3d.Manifold


def nothing() -> Solid:
    return Solid()


def wood_of(design: Design, study: Study) -> tuple[Solid, Solid]:
    """(full, filled) regions of the body's material: whole solid less the union of all that is not wood."""
    outer = to_manifold(of.outer(study))
    gone = nothing()
    for part in of.parts(study):
        gone += to_manifold(part)
    for routed in of.wires(study):
        gone += bent_rod(np.asarray(routed.wire.path_mm, float), routed.wire.bore_mm)
    for bore in of.holes(study).bores:
        gone += bit(bore.hole)
    for placed in of.holes(study).ballast:
        gone += bit(placed.hole) if placed.hole is not None else cast_solid(placed.ballast)
    left = outer - gone
    hollow = of.hollow(study)
    return (left, nothing()) if hollow is None else (left - to_manifold(hollow), left ^ to_manifold(hollow))


def gram(solid: Solid, density: float) -> MassProperties:
    return of_solid(from_manifold(solid), density)


def by_boolean(design: Design, infill: float = 0.0) -> MassProperties:
    """The wood, by one boolean."""
    study = Study(design)
    full, filled = wood_of(design, study)
    return total([gram(full, design.body.density_g_ml), gram(filled, design.body.density_g_ml * infill)])


def by_slip(design: Design) -> MassProperties:
    """The wood, by the slip's lines of the body."""
    return total(line.mass for line in of.slip(Study(design)).lines if line.of_piece == 0)


def agree(design: Design, infill: float = 0.0, rel: float = 1e-6) -> None:
    slip, exact = by_slip(design), by_boolean(design, infill)
    assert slip.mass_g == pytest.approx(exact.mass_g, rel=rel)
    assert slip.centre_mm == pytest.approx(exact.centre_mm, abs=rel * 80)
    assert slip.spread_g_mm2 == pytest.approx(exact.spread_g_mm2, rel=10 * rel, abs=10 * rel * exact.spread_g_mm2.max())


def bore(
    name: str, side: str, place: tuple[float, float], diameter: float, depth: float, **more: Any
) -> dict[str, Any]:
    drilling = {"side": side, "place_mm": place, "diameter_mm": diameter, "depth_mm": depth}
    return {"name": name, "drilling": drilling, "fill": "sealed", **more}


def slug(name: str, x: float, diameter: float, depth: float, long: float, **more: Any) -> dict[str, Any]:
    drilling = {"side": "belly", "place_mm": (x, 0.0), "diameter_mm": diameter, "depth_mm": depth}
    return {"name": name, "weight": {"form": "slug", "diameter_mm": diameter, "length_mm": long}, "drilling": drilling,
            "plug": EPOXY, **more}  # fmt: skip


LIP = {"kind": "lip", "material": "polycarbonate", "density_g_ml": 1.2, "thick_mm": 1.5, "x_mm": 4, "z_mm": -4,
       "angle_deg": 30, "long_mm": 14, "wide_mm": 16, "plan": "square", "seat_mm": 9}  # fmt: skip
FIN = {"kind": "fin", "material": "brass sheet", "density_g_ml": 8.5, "thick_mm": 1.0,
       "corners_mm": [(60, 0), (84, -14), (84, 4)]}  # fmt: skip
WIRE = {"diameter_mm": 1.0, "path_mm": [(-3, 0, 1), (20, 0, 1), (40, 0, -2), (83, 0, 0)], "hole_mm": 2.0}


def test_crossing_bores_holes_wires_and_seats_are_taken_once() -> None:
    design = turned_design(
        *CYLINDER, density=0.43, parts=[LIP, FIN], wires=[WIRE],
        bores=[bore("a", "port", (30, 0), 4, 14), bore("b", "back", (30, 0.5), 5, 13), bore("c", "tail", (0, 2), 3, 30)],
        ballast=[slug("one", 32, 6, 12, 5), slug("two", 35, 6, 15, 4)],
    )  # fmt: skip
    agree(design)


def test_a_bore_into_a_hollow_print_takes_its_wall_alone() -> None:
    shell = {"kind": "shell", "wall_mm": 1.5, "split_mm": [(0, -2), (80, -2)]}
    body = {"material": "PLA print", "density_g_ml": 1.1, "shape": {"kind": "turned", "profile": turned(CYLINDER)},
            "shell": shell}  # fmt: skip
    design = version_1({"name": "p", "body": body, "bores": [bore("a", "back", (40, 0), 6, 20)]})
    agree(design)
    holes = next(line for line in of.slip(Study(design)).lines if line.key == "holes")
    whole = math.pi / 4 * 36 * 20 * 1.1e-3
    assert 0 < -holes.mass.mass_g < 0.75 * whole


def turned(points: tuple[tuple[object, ...], ...]) -> list[dict[str, object]]:
    return [{"at_mm": p[:2], "bend": p[2] if len(p) > 2 else "smooth"} for p in points]


@pytest.mark.parametrize("percent", [0.0, 20.0, 100.0])
def test_everything_through_a_filled_hollow(percent: float) -> None:
    shell = {"kind": "shell", "wall_mm": 1.5, "split_mm": [(0, -3), (80, -3)], "infill_percent": percent}
    body = {"material": "PLA print", "density_g_ml": 1.24, "shape": {"kind": "turned", "profile": turned(CYLINDER)},
            "shell": shell}  # fmt: skip
    design = version_1({
        "name": "p", "body": body, "parts": [LIP], "wires": [WIRE], "ballast": [slug("s", 45, 5, 10, 4)],
        "bores": [bore("a", "back", (40, 1), 6, 12)],
    })  # fmt: skip
    agree(design, percent / 100)


def test_cast_in_ballast_takes_the_resins_place() -> None:
    shot = {"name": "s", "weight": {"form": "shot", "mass_g": 2.0, "count": 5}, "at_mm": (30, 0, -2)}
    rod_ = {"name": "r", "weight": {"form": "slug", "diameter_mm": 5, "length_mm": 20}, "at_mm": (38, 0, -3)}
    lone = turned_design(*CYLINDER, density=1.05, ballast=[shot])
    gone = -next(line.mass.mass_g for line in of.slip(Study(lone)).lines if line.key == "cast in")
    assert gone == pytest.approx(1.05 * 10.0 / 11.34, rel=1e-9)
    both = turned_design(*CYLINDER, density=1.05, ballast=[shot, rod_], wires=[WIRE])
    agree(both)
    lead = sum(line.mass.mass_g for line in of.slip(Study(both)).lines if line.key.startswith("cast:"))
    assert lead == pytest.approx(10.0 + 11.34e-3 * math.pi / 4 * 25 * 20)


def test_the_second_plug_of_crossing_holes_never_weighs_less_than_nothing() -> None:
    design = turned_design(*CYLINDER, ballast=[slug("one", 40, 6, 12, 3), slug("two", 43, 6, 12, 3)])
    study = Study(design)
    one, two = of.holes(study).ballast
    assert one.plug is not None and two.plug is not None
    assert 0 < two.plug.mass_g < one.plug.mass_g
    # the second plug is the second hole over its slug, less the first hole
    hole = two.hole
    assert hole is not None and one.hole is not None
    over = rod(hole.at_depth(-20), hole.at_depth(hole.depth_mm - 3.0), 6.0)
    left = (over ^ to_manifold(of.outer(study))) - bit(one.hole)
    assert two.plug.mass_g == pytest.approx(left.volume() * 1.15e-3, rel=1e-9)


def test_random_builds_with_everything_on() -> None:
    rng = np.random.default_rng(42)
    for _ in range(12):
        bores = [
            bore(f"b{k}", str(rng.choice(["belly", "back", "port", "starboard"])), (float(rng.uniform(15, 65)), 0.0),
                 float(rng.uniform(2, 6)), float(rng.uniform(4, 16))) for k in range(3)
        ]  # fmt: skip
        ballast: list[dict[str, Any]] = [
            slug(f"s{k}", float(rng.uniform(15, 65)), float(rng.uniform(3, 7)), float(rng.uniform(8, 15)), 4.0)
            for k in range(2)
        ]
        ballast.append({"name": "c", "weight": {"form": "shot", "mass_g": float(rng.uniform(0.5, 4))},
                        "at_mm": (float(rng.uniform(20, 60)), 0.0, float(rng.uniform(-4, 4)))})  # fmt: skip
        wire = {**WIRE, "path_mm": [(-3, 0, 0), (float(rng.uniform(20, 40)), 0, float(rng.uniform(-4, 4))), (83, 0, 0)]}
        agree(turned_design(*CYLINDER, density=0.4, bores=bores, ballast=ballast, wires=[wire], parts=[LIP]), rel=2e-6)


# ---- pieces


def lump(name: str, at: tuple[float, float, float], size: float, mirrored: bool = False) -> dict[str, Any]:
    return {"name": name, "material": {"name": "foam, EVA", "group": "foam", "density_g_ml": 0.12}, "at_mm": at,
            "shape": {"kind": "ellipsoid", "long_mm": size, "wide_mm": size, "high_mm": size},
            "mirrored": mirrored}  # fmt: skip


def with_pieces(*pieces: dict[str, Any]) -> Design:
    plain = turned_design(*CYLINDER).model_dump()
    return Design.model_validate({**plain, "pieces": [*plain["pieces"], *pieces]})


def test_a_later_piece_has_the_room_of_an_earlier_one() -> None:
    design = with_pieces(lump("a", (40, 0, 14), 12), lump("b", (44, 0, 15), 12))
    study = Study(design)
    body, a, b = (to_manifold(m) for m in of.outers(study))
    lines = {line.key: line.mass.mass_g for line in of.slip(study).lines}
    foam = 0.12e-3
    assert lines["piece:b"] == pytest.approx(math.pi / 6 * 12**3 * foam, rel=1e-9)
    assert lines["piece:a"] + lines["seats:a"] == pytest.approx((a - b).volume() * foam, rel=1e-9)
    assert lines["body"] + lines["seats"] == pytest.approx((body - (a + b)).volume() * 0.5e-3, rel=1e-9)
    assert of.hull(study).volume_mm3 == pytest.approx((body + a + b).volume(), rel=1e-9)


def test_a_mirrored_piece_stands_on_both_sides() -> None:
    study = Study(with_pieces(lump("eyes", (10, 12, 6), 6, mirrored=True)))
    mesh: Mesh = of.parts(study)[0]
    assert mesh.volume_mm3 == pytest.approx(2 * math.pi / 6 * 216, rel=1e-9)
    assert mesh.moments.centroid_mm == pytest.approx([10, 0, 6], abs=1e-9)
    one = of_solid(mesh, 1.0)
    assert one.spread_g_mm2[1, 1] == pytest.approx(one.mass_g * (144 + 36 / 20), rel=2e-3)


def test_a_piece_is_turned_about_x_then_y_then_z_and_shifted() -> None:
    ear = {"name": "ear", "material": {"name": "sheet", "density_g_ml": 1.0}, "at_mm": (30, 5, 8),
           "turned_deg": (90, 0, 90), "shape": {"kind": "cutout", "thick_mm": 2,
                                                "corners_mm": [(0, 0), (10, 0), (10, 4), (0, 4)]}}  # fmt: skip
    mesh = of.parts(Study(with_pieces(ear)))[0]
    # about x by 90°: z -> -y ... about z by 90°: x -> y, y -> -x
    assert mesh.volume_mm3 == pytest.approx(80)
    assert mesh.bounds == pytest.approx(np.array([[30, 5, 7], [34, 15, 9]]))


def test_every_kind_of_piece_is_weighed_by_its_own_solid() -> None:
    shapes: list[dict[str, Any]] = [
        {"kind": "ellipsoid", "long_mm": 10, "wide_mm": 8, "high_mm": 6},
        {"kind": "cutout", "thick_mm": 3, "corners_mm": [(0, 0), (12, 0), (6, 9)]},
        {"kind": "turned", "profile": turned(((0, 3, "corner"), (20, 3, "corner")))},
    ]
    wanted = [math.pi / 6 * 480, 3 * 54.0, math.pi * 9 * 20]
    for shape, volume in zip(shapes, wanted, strict=True):
        piece = {"name": "x", "material": {"name": "x", "density_g_ml": 2.0}, "at_mm": (120, 0, 0), "shape": shape}
        lines = {line.key: line.mass for line in of.slip(Study(with_pieces(piece))).lines}
        assert lines["piece:x"].mass_g == pytest.approx(volume * 2e-3, rel=1e-6)


def test_a_wire_is_as_heavy_mitred_as_its_rods_are_long() -> None:
    path = np.array([[0, 0, 0], [20.0, 0, 0], [26, 0, -6], [60, 3, -6], [61, 3, -12]])
    long = float(np.linalg.norm(np.diff(path, axis=0), axis=1).sum())
    assert bent_rod(path, 1.2).volume() == pytest.approx(math.pi / 4 * 1.44 * long, rel=1e-12)
    back = np.array([[0, 0, 0], [20.0, 0, 0], [0.5, 0, 0.4]])
    united = bent_rod(back, 1.2).volume()
    assert united < math.pi / 4 * 1.44 * 40
    assert bent_rod(np.zeros((3, 3)), 1.0).is_empty()


def test_two_wires_crossing_take_the_wood_once() -> None:
    other = {**WIRE, "name": "belly wire", "path_mm": [(40, 0, -7), (40, 0, 6)]}
    agree(turned_design(*CYLINDER, wires=[WIRE, other]))
    lines = [line.key for line in of.slip(Study(turned_design(*CYLINDER, wires=[WIRE, WIRE]))).lines]
    assert "wire:wire" in lines and "wire:wire#2" in lines


def test_shot_larger_together_than_the_hole_is_still_itself() -> None:
    shot = Shot(mass_g=1.0, count=3)
    design = turned_design(*CYLINDER, ballast=[{"name": "s", "weight": shot.model_dump(), "at_mm": (30, 0, 0)}])
    mass = {line.key: line.mass.mass_g for line in of.slip(Study(design)).lines}
    assert mass["cast:s"] == pytest.approx(3.0)
    assert list(itertools.pairwise(sorted(mass)))


def test_a_fitting_in_a_groove_takes_only_what_the_groove_left() -> None:
    wire = {**WIRE, "path_mm": [(-3, 0, 0), (83, 0, 0)], "route": "grooved", "hole_mm": 2.0}
    eye = {"name": "e", "sort": "screw eye", "at_mm": (40, 0, -10), "mass_g": 0.3, "in_wood_ml": 0.02, "long_mm": 8,
           "aim_deg": 90}  # fmt: skip
    alone = Study(turned_design(*CYLINDER, fittings=[eye]))
    both = Study(turned_design(*CYLINDER, fittings=[eye], wires=[wire]))
    taken = {line.key: -line.mass.mass_g for line in of.slip(alone).lines}["fitting wood"]
    assert taken == pytest.approx(0.02 * 0.5)
    left = {line.key: -line.mass.mass_g for line in of.slip(both).lines}.get("fitting wood", 0.0)
    assert left < 0.2 * taken
