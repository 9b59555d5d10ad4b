"""Cuts and parts against closed forms; grazing cuts."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.conftest import outline, turned_design
from yellowbob.design.cuts import Cup, Cut, Notch, Plane, Slot, Sockets
from yellowbob.design.model import Design, Piece, replaced
from yellowbob.design.plates import Fin, Lip, TurningTail, Wings
from yellowbob.ground.errors import BadShape
from yellowbob.lines.build import blank_mesh, piece_mesh
from yellowbob.lines.cutting import cut_from, rim_left_mm, taken_by_cut
from yellowbob.lines.plates import lip_plan
from yellowbob.lines.solids import to_manifold
from yellowbob.study import Study, of

R, LONG = 10.0, 60.0
CYLINDER = turned_design((0, R), (LONG, R))
WHOLE = math.pi * R * R * LONG
SHEET = {"material": "polycarbonate", "density_g_ml": 1.2, "thick_mm": 1.5}


def removed(*cuts: Cut) -> float:
    return WHOLE - piece_mesh(replaced(CYLINDER.body, cuts=cuts)).volume_mm3


def segment_area(depth: float) -> float:
    """Area of a circle's segment so deep."""
    return R * R * math.acos((R - depth) / R) - (R - depth) * math.sqrt(2 * R * depth - depth * depth)


@pytest.mark.parametrize("slant", [0.0, 15.0, 40.0, -25.0])
def test_slanted_face_takes_the_cylinder_up_to_its_middle(slant: float) -> None:
    at = 20.0
    assert removed(Plane(kind="face", x_mm=at, slant_deg=slant)) == pytest.approx(math.pi * R * R * at, rel=5e-3)
    assert removed(Plane(kind="tail cut", x_mm=LONG - at, slant_deg=slant)) == pytest.approx(
        math.pi * R * R * at, rel=5e-3
    )


def test_level_head_flat_takes_a_segment() -> None:
    cut = Plane(kind="head flat", z_mm=R - 4.0, slant_deg=0.0)
    assert removed(cut) == pytest.approx(segment_area(4.0) * LONG, rel=5e-3)


@pytest.mark.parametrize(("diameter", "depth", "pool"), [(14.0, 4.0, 0.0), (14.0, 4.0, 0.8), (10.0, 5.0, 0.0)])
def test_cup_with_its_pooling_allowance(diameter: float, depth: float, pool: float) -> None:
    a, h = diameter / 2, depth + pool
    cup = Cup(diameter_mm=diameter, depth_mm=depth, pool_mm=pool)
    assert removed(cup) == pytest.approx(math.pi * h * (3 * a * a + h * h) / 6, rel=5e-3)
    assert rim_left_mm(cup, piece_mesh(replaced(CYLINDER.body, cuts=(cup,)))) == pytest.approx(R - a, abs=0.12)


def test_elliptical_cup_is_wider_by_its_share() -> None:
    round_cup, wide = Cup(diameter_mm=10, depth_mm=3), Cup(diameter_mm=10, width_mm=14, depth_mm=3)
    assert removed(wide) == pytest.approx(1.4 * removed(round_cup), rel=5e-3)


def test_slanted_cup_follows_its_face() -> None:
    face = Plane(kind="face", x_mm=15.0, slant_deg=20.0)
    cup = Cup(diameter_mm=12, depth_mm=3, rim_x_mm=15.0, slant_deg=20.0)
    both, alone = removed(face, cup), removed(face)
    assert both - alone == pytest.approx(math.pi * 3 * (3 * 36 + 9) / 6, rel=5e-3)


def test_notch_across_the_belly_in_closed_form() -> None:
    depth, fore, aft = 5.0, 50.0, 10.0
    cut = Notch(x_mm=30.0, z_mm=-(R - depth), fore_deg=fore, aft_deg=aft)
    spread = math.tan(math.radians(fore)) + math.tan(math.radians(aft))
    z = np.linspace(-R, -(R - depth), 20_001)
    wanted = float(np.trapezoid(2 * np.sqrt(R * R - z * z) * (-(R - depth) - z) * spread, z))
    assert removed(cut) == pytest.approx(wanted, rel=5e-3)


def test_slot_through_the_axis_and_sockets() -> None:
    slot = Slot(x_mm=0.0, z_mm=0.0, angle_deg=0.0, depth_mm=12.0, thick_mm=2.0, across_mm=8.0)
    assert removed(slot) == pytest.approx(12 * 2 * 8, rel=5e-3)
    through = Slot(x_mm=0.0, z_mm=0.0, angle_deg=0.0, depth_mm=12.0, thick_mm=2.0)
    assert removed(through) == pytest.approx(12 * (2 * segment_area(R) - 2 * segment_area(R - 1.0)), rel=5e-3)
    pair = removed(Sockets(x_mm=20.0, z_mm=0.0, diameter_mm=4.0, depth_mm=2.0))
    assert 2 * math.pi * 4 * 1.6 < pair < 2 * math.pi * 4 * 2.0


CUTS = st.one_of(
    st.builds(
        Plane, kind=st.sampled_from(["face", "head flat", "tail cut"]), x_mm=st.floats(-3, 63), z_mm=st.floats(-11, 11),
        slant_deg=st.floats(-60, 60),
    ),
    st.builds(Notch, x_mm=st.floats(-3, 63), z_mm=st.floats(-12, 4), fore_deg=st.floats(1, 80), aft_deg=st.floats(0, 80)),
    st.builds(
        Slot, x_mm=st.floats(-3, 63), z_mm=st.floats(-12, 12), angle_deg=st.floats(-180, 180), depth_mm=st.floats(0.5, 30),
        thick_mm=st.floats(0.3, 4),
    ),
    st.builds(
        Sockets, x_mm=st.floats(-3, 63), z_mm=st.floats(-11, 11), diameter_mm=st.floats(1, 9), depth_mm=st.floats(0.2, 4)
    ),
    st.builds(
        Cup, diameter_mm=st.floats(6, 22), depth_mm=st.floats(0.1, 3), z_mm=st.floats(-11, 11), rim_x_mm=st.floats(-2.5, 9)
    ),
)  # fmt: skip


@settings(max_examples=60, deadline=None)
@given(st.lists(CUTS, min_size=1, max_size=3))
def test_every_cut_leaves_a_closed_solid_also_when_it_grazes(cuts: list[Cut]) -> None:
    try:
        mesh = piece_mesh(replaced(CYLINDER.body, cuts=tuple(cuts)))
    except BadShape as error:
        assert "leaves nothing" in str(error)
        return
    edges = np.concatenate([mesh.faces[:, [0, 1]], mesh.faces[:, [1, 2]], mesh.faces[:, [2, 0]]]).astype(np.int64)
    forward = edges[:, 0] * (len(mesh.vertices) + 1) + edges[:, 1]
    back = edges[:, 1] * (len(mesh.vertices) + 1) + edges[:, 0]
    assert np.array_equal(np.sort(forward), np.sort(back))
    assert 0 < mesh.volume_mm3 <= WHOLE * (1 + 1e-9)


def test_a_cut_that_leaves_nothing_names_itself() -> None:
    with pytest.raises(BadShape, match="'big one' leaves nothing"):
        piece_mesh(replaced(CYLINDER.body, cuts=(Plane(kind="face", name="big one", x_mm=200.0),)))


def test_impossible_cuts_are_refused() -> None:
    with pytest.raises(ValidationError, match="no opening"):
        Notch(x_mm=1, z_mm=1, fore_deg=0, aft_deg=0)
    with pytest.raises(ValidationError, match="half a sphere"):
        Cup(diameter_mm=10, depth_mm=4, pool_mm=2)


def piece_of(shape: object) -> Piece:
    return Piece.model_validate({"name": "plate", "material": {"name": "sheet", "density_g_ml": 1.2}, "shape": shape})


@pytest.mark.parametrize("plan", ["square", "round", "coffin"])
def test_lip_is_its_plan_times_its_thickness(plan: str) -> None:
    lip = Lip.model_validate(
        {
            "thick_mm": 1.5,
            "plan": plan,
            "x_mm": 5,
            "z_mm": -5,
            "angle_deg": 45,
            "long_mm": 18,
            "wide_mm": 20,
            "seat_mm": 4,
        }
    )
    x, y = lip_plan(lip).T
    area = abs(0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))))
    closed = {"square": 20 * 22.0, "round": 20 * 4 + 20 * 8 + math.pi * 100 / 2}
    if plan in closed:
        assert area == pytest.approx(closed[plan], rel=3e-3)
    assert piece_mesh(piece_of(lip)).volume_mm3 == pytest.approx(area * 1.5, rel=1e-6)


def test_lip_runs_forward_and_down() -> None:
    lip = Lip.model_validate({"thick_mm": 1.5, "x_mm": 5, "z_mm": -5, "angle_deg": 60, "long_mm": 18, "wide_mm": 20})
    low = piece_mesh(piece_of(lip)).bounds[0]
    assert low[0] == pytest.approx(5 - 18 * math.cos(math.radians(60)), abs=0.8)
    assert low[2] == pytest.approx(-5 - 18 * math.sin(math.radians(60)), abs=0.8)


def test_wings_fin_and_turning_tail_in_closed_form() -> None:
    wings = Wings.model_validate(
        {"thick_mm": 1.5, "x_mm": 10, "y_mm": 4, "z_mm": 0, "span_mm": 20, "root_mm": 12, "tip_mm": 8, "raise_deg": 10}
    )
    mesh = piece_mesh(piece_of(wings))
    assert mesh.volume_mm3 == pytest.approx(2 * 20 * 10 * 1.5, rel=1e-6)
    assert mesh.moments.centroid_mm[1] == pytest.approx(0.0, abs=1e-9)
    fin = Fin.model_validate({"thick_mm": 1.5, "corners_mm": [(50, 0), (70, 8), (70, -8)]})
    assert piece_mesh(piece_of(fin)).volume_mm3 == pytest.approx(160 * 1.5, rel=1e-6)
    tail = TurningTail.model_validate({"x_mm": 63, "profile": outline((0, 4), (20, 4))})
    assert piece_mesh(piece_of(tail)).volume_mm3 == pytest.approx(math.pi * 16 * 20, rel=1e-6)
    assert piece_mesh(piece_of(tail)).bounds[0, 0] == pytest.approx(63)


def with_lip(**more: object) -> Design:
    lip = {**SHEET, "kind": "lip", "x_mm": 0, "z_mm": 0, "angle_deg": 0, "long_mm": 12, "wide_mm": 10, "plan": "square",
           "seat_mm": 6, **more}  # fmt: skip
    return turned_design((0, R), (LONG, R), parts=[lip])


def test_what_sits_in_the_body_displaces_once_and_is_weighed_once() -> None:
    bare, study = Study(CYLINDER), Study(with_lip())
    outside, seat = 12 * 10 * 1.5, 6 * 10 * 1.5
    assert of.hull(study).volume_mm3 - of.hull(bare).volume_mm3 == pytest.approx(outside, rel=1e-6)
    gained = of.slip(study).finished.mass_g - of.slip(bare).finished.mass_g
    assert gained == pytest.approx((outside + seat) * 1.2e-3 - seat * 0.5e-3, rel=1e-6)


def test_thin_walls_are_found_beside_cuts_only() -> None:
    assert of.thin(Study(CYLINDER)) == ()
    thin = of.thin(Study(CYLINDER.with_body(cuts=(Cup(diameter_mm=19.0, depth_mm=6.0),))))
    assert thin
    assert thin[0].thick_mm < 1.5
    assert thin[0].at_mm[0] < 2.0
    assert not of.thin(Study(CYLINDER.with_body(cuts=(Cup(diameter_mm=12.0, depth_mm=3.0),))))


@pytest.mark.parametrize(
    ("across", "deep", "up"), [(4.0, 1.5, 0.0), (7.0, 2.0, 2.5), (3.0, 0.8, -4.0), (9.0, 3.0, 1.0)]
)
def test_eye_sockets_of_a_cylinder_by_quadrature(across: float, deep: float, up: float) -> None:
    """Two sockets: each the disc's integral of √(R² - z²), less the floor's, to half a per cent."""
    z, x = np.meshgrid(*[(np.arange(1200) + 0.5) / 1200 * across - across / 2] * 2)
    under = np.sqrt(R * R - (z + up) ** 2) - (math.sqrt(R * R - up * up) - deep)
    exact = 2 * float(np.maximum(under, 0.0)[x * x + z * z < across**2 / 4].sum()) * (across / 1200) ** 2
    sockets = Sockets(x_mm=LONG / 2, z_mm=up, diameter_mm=across, depth_mm=deep)
    assert removed(sockets) == pytest.approx(exact, rel=2e-3)


@pytest.mark.parametrize("kind", ["fin", "cutout"])
def test_an_outline_that_crosses_itself_is_refused_with_the_place(kind: str) -> None:
    tie = [[10, 0], [30, 10], [30, 0], [10, 10]]
    piece = Piece.model_validate(
        {"name": "keel", "material": {"name": "brass", "density_g_ml": 8.5},
         "shape": {"kind": kind, "thick_mm": 1.0, "corners_mm": tie}}
    )  # fmt: skip
    with pytest.raises(BadShape, match=r"keel: the outline crosses itself near x 20\.0, z 5\.0"):
        piece_mesh(piece)
    flat = {"kind": kind, "thick_mm": 1.0, "corners_mm": [[10, 0], [30, 0], [30, 10], [10, 10]]}
    assert piece_mesh(Piece.model_validate({**dict(piece), "shape": flat})).volume_mm3 == pytest.approx(200.0)


def test_body_keeps_its_cuts_in_the_file() -> None:
    body = Piece.model_validate({**dict(CYLINDER.body), "cuts": [{"kind": "cup", "diameter_mm": 9, "depth_mm": 3}]})
    from yellowbob.design.files import read_json, to_json

    design = with_lip().with_piece(0, body)
    assert read_json(to_json(design)) == design


@pytest.mark.parametrize("cut", [
    Plane(kind="face", x_mm=6.0, slant_deg=25.0), Plane(kind="tail cut", x_mm=70.0, slant_deg=-10.0),
    Plane(kind="head flat", x_mm=20.0, z_mm=4.0, slant_deg=5.0), Cup(diameter_mm=12.0, depth_mm=3.0),
    Slot(x_mm=20.0, z_mm=-9.0, angle_deg=60.0, depth_mm=8.0, thick_mm=1.2), Notch(x_mm=12.0, z_mm=-5.0),
    Sockets(x_mm=25.0, z_mm=2.0, diameter_mm=5.0, depth_mm=1.2)])  # fmt: skip
def test_what_a_cut_takes_and_what_it_leaves_are_the_whole(cut: Cut) -> None:
    shape = turned_design((0, 9, "corner"), (80, 9, "corner")).shape
    blank = blank_mesh(shape)
    whole = to_manifold(blank)
    left, taken = cut_from(whole, cut, blank, shape), taken_by_cut(whole, cut, blank, shape)
    assert taken.volume() > 0.0
    assert left.volume() + taken.volume() == pytest.approx(whole.volume(), rel=1e-9)
    assert (left ^ taken).volume() == pytest.approx(0.0, abs=1e-6)
