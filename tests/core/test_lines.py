"""Outlines, sections and lofted meshes against analytic shapes."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.conftest import outline
from yellowbob.design.cuts import Cup
from yellowbob.design.shape import Lofted, OutlinePoint, Turned
from yellowbob.ground.errors import BadShape
from yellowbob.lines.conics import along
from yellowbob.lines.curves import bulge_mm, curve, squeeze_of
from yellowbob.lines.loft import exact_shape, loft
from yellowbob.lines.mesh import Mesh, grown
from yellowbob.lines.sections import fullness
from yellowbob.lines.silhouette import silhouette
from yellowbob.lines.solids import cap, rod, subtract, to_manifold


def turned(*points: tuple[object, ...]) -> Turned:
    return Turned.model_validate({"profile": outline(*points)})


def ellipsoid_points(count: int, a: float, b: float) -> list[tuple[object, ...]]:
    return [(x, b * math.sqrt(max(0.0, 1 - (x / a - 1) ** 2))) for x in np.linspace(0, 2 * a, count)]


@pytest.mark.parametrize("count", [5, 9, 21, 41])
def test_turned_ellipsoid_keeps_volume_and_centroid(count: int) -> None:
    mesh = loft(turned(*ellipsoid_points(count, 45.0, 11.0)))
    assert mesh.volume_mm3 == pytest.approx(4 / 3 * math.pi * 45 * 11**2, rel=1e-3)
    assert mesh.moments.centroid_mm == pytest.approx([45.0, 0.0, 0.0], abs=0.09)
    assert 1500 < len(mesh.faces) < 2600


def test_two_round_quadrants_are_an_ellipsoid() -> None:
    mesh = loft(turned((0, 0, "round"), (30, 9), (60, 0, "round")))
    assert mesh.volume_mm3 == pytest.approx(4 / 3 * math.pi * 30 * 81, rel=1e-3)


def test_cones_and_cylinders_are_exact() -> None:
    stepped = loft(turned((0, 3, "corner"), (20, 10, "corner"), (21, 4, "corner"), (50, 4)))
    frusta = math.pi / 3 * (20 * (9 + 100 + 30) + (100 + 16 + 40)) + math.pi * 16 * 29
    assert stepped.volume_mm3 == pytest.approx(frusta, rel=1e-9)
    cone = loft(turned((0, 0), (50, 10)))
    assert cone.moments.centroid_mm[0] == pytest.approx(37.5, abs=0.05)


def test_paraboloid_and_wavy_profile() -> None:
    xs = np.linspace(0, 80, 25)
    mesh = loft(turned(*[(x, 12 - 10 * (x / 80) ** 2) for x in xs]))
    assert mesh.volume_mm3 == pytest.approx(math.pi * (144 * 80 - 240 * 80 / 3 + 100 * 80 / 5), rel=1e-3)
    wavy = loft(turned(*[(x, 8 + 3 * math.sin(x / 10)) for x in xs]))
    exact = math.pi * (64 * 80 + 48 * 10 * (1 - math.cos(8)) + 9 * (40 - 2.5 * math.sin(16)))
    assert wavy.volume_mm3 == pytest.approx(exact, rel=1e-3)


@pytest.mark.parametrize("count", [5, 6, 7, 8, 9, 12])
@pytest.mark.parametrize("ends", ["round", "smooth"])
@pytest.mark.parametrize("spread", ["even", "cosine"])
def test_few_points_of_a_conic_are_that_conic(count: int, ends: str, spread: str) -> None:
    """Ellipsoids and paraboloids through a handful of points, to 0.1 % in volume."""
    t = np.linspace(0.0, 1.0, count) if spread == "even" else 0.5 - 0.5 * np.cos(np.linspace(0, np.pi, count))
    ball = [(73 * u, 2 * 9.5 * math.sqrt(u * (1 - u))) for u in t]
    bowl = [(51 * u, 8.5 * math.sqrt(u)) for u in t]
    for points, volume, last in (
        (ball, 4 / 3 * math.pi * 36.5 * 9.5**2, ends),
        (bowl, math.pi * 8.5**2 * 51 / 2, "smooth"),
    ):
        marked = [(*points[0], ends), *points[1:-1], (*points[-1], last)]
        assert exact_shape(turned(*marked)).volume_mm3 == pytest.approx(volume, rel=1e-3)
        assert loft(turned(*marked)).volume_mm3 == pytest.approx(volume, rel=1e-3)


@pytest.mark.parametrize(("radius", "length"), [(8.0, 80.0), (3.0, 41.0), (11.0, 60.0)])
def test_a_straight_side_between_smooth_points_stays_straight(radius: float, length: float) -> None:
    capsule = turned((0, 0, "round"), (radius, radius), (length - radius, radius), (length, 0, "round"))
    assert curve(capsule.profile).sampled(40)[:, 1].max() <= radius + 1e-9
    exact = 4 / 3 * math.pi * radius**3 + math.pi * radius**2 * (length - 2 * radius)
    assert exact_shape(capsule).volume_mm3 == pytest.approx(exact, rel=1e-3)


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.tuples(st.floats(0.5, 20.0), st.floats(0.0, 12.0)), min_size=2, max_size=9),
    st.sampled_from(["smooth", "round"]),
)
def test_a_held_curve_never_leaves_the_heights_of_its_points(steps: list[tuple[float, float]], nose: str) -> None:
    """Heights rise to a widest point and fall again: nowhere is the curve wider than the points beside it."""
    xs = np.concatenate([[0.0], np.cumsum([s for s, _ in steps])])
    falling = sorted((h for _, h in steps[1::2]), reverse=True)
    heights = [0.0, *sorted(h for _, h in steps[::2]), *falling]
    shape = [OutlinePoint(at_mm=(float(x), h), bend="smooth") for x, h in zip(xs, heights, strict=True)]
    drawn = (shape[0].model_copy(update={"bend": nose}), *shape[1:])
    points = np.array([p.at_mm for p in drawn])
    if max(heights) <= 0:
        return
    # but where it takes the points for an ellipse's or a parabola's, which may be widest between two
    _, sure = along(points / squeeze_of(points), [p.bend for p in drawn])
    if not (sure > 0).any():
        assert bulge_mm(drawn) <= 1e-9


def test_points_judged_alike_at_any_scale_do_not_bulge() -> None:
    """Found by chance: three points all but on the axis lay on a conic only once they were judged at the curve's own
    scale."""
    heights = [0.0, 1e-140, 2e-5, 2.25, 5.0, 9.0, 2.0, 1.0, 0.25, 0.0]
    xs = [0.0, 0.5, 1.0, 17.0, 27.0, 28.0, 29.0, 30.0, 31.0, 32.0]
    shape = tuple(OutlinePoint(at_mm=(x, h), bend="smooth") for x, h in zip(xs, heights, strict=True))
    assert bulge_mm(shape) < 0.001


def test_an_arc_point_draws_what_smooth_ones_did_before_version_3() -> None:
    """The circle through each three points carried on: a side between points at 8 mm rose by 3 mm."""
    points = [(0, 0, "round"), (8, 8, "arc"), (72, 8, "arc"), (80, 0, "round")]
    assert bulge_mm(turned(*points).profile) == pytest.approx(3.0, abs=0.1)
    held = [(x, y, "smooth" if b == "arc" else b) for x, y, b in points]
    assert bulge_mm(turned(*held).profile) == 0.0


def lofted(sections: list[dict[str, float]]) -> Lofted:
    return Lofted.model_validate(
        {"back": outline((0, 0, "round"), (40, 15), (80, 0, "round")),
         "belly": outline((0, 0, "round"), (40, -10), (80, 0, "round")),
         "plan": outline((0, 0, "round"), (40, 8), (80, 0, "round")), "sections": sections}
    )  # fmt: skip


@pytest.mark.parametrize(("back", "belly"), [(2, 2), (4, 2), (2, 1.2), (8, 3)])
def test_lofted_body_in_closed_form(back: float, belly: float) -> None:
    """Every outline is the same half ellipse, so the volume is ∫ (1-t²) dx = 4/3·a times the middle section."""
    shape = lofted([{"x_mm": 0.0, "back": back, "belly": belly, "waist": 0.4}])
    area = 2 * 8 * (15 * float(fullness(np.array(back))) + 10 * float(fullness(np.array(belly))))
    mesh = loft(shape)
    assert mesh.volume_mm3 == pytest.approx(4 / 3 * 40 * area, rel=1e-3)
    exact = exact_shape(shape)
    assert mesh.moments.centroid_mm == pytest.approx([40, 0, exact.centroid_z_mm], abs=0.08)
    to_manifold(mesh)  # refuses anything not closed


def test_symmetric_drawing_gives_a_symmetric_mesh() -> None:
    mesh = loft(lofted([{"x_mm": 0.0, "back": 3, "belly": 1.5}]))
    assert mesh.moments.centroid_mm[1] == pytest.approx(0.0, abs=1e-12)
    assert abs(mesh.moments.second_mm5[0, 1]) < 1e-6 * mesh.moments.second_mm5[0, 0]


@settings(max_examples=30, deadline=None)
@given(
    st.lists(st.floats(2.0, 14.0), min_size=3, max_size=8),
    st.sampled_from(["smooth", "corner"]),
    st.sampled_from(["round", "smooth"]),
)
def test_any_profile_is_closed_and_keeps_its_volume(radii: list[float], bend: str, ends: str) -> None:
    xs = np.linspace(0, 70, len(radii) + 2)
    inner = [(x, r, bend) for x, r in zip(xs[1:-1], radii, strict=True)]
    shape = turned((0, 0, ends), *inner, (70, 0, ends))
    mesh = loft(shape)
    assert mesh.volume_mm3 == pytest.approx(exact_shape(shape).volume_mm3, rel=1e-3)
    to_manifold(mesh)


def test_curve_passes_its_points_and_never_turns_back() -> None:
    drawn = curve(turned((0, 2), (3, 9), (30, 8, "corner"), (31, 3), (60, 6)).profile)
    assert drawn.at(np.array([0.0, 3, 30, 31, 60])) == pytest.approx([2, 9, 8, 3, 6], abs=1e-6)
    assert (np.diff(drawn.sampled(50)[:, 0]) >= -1e-9).all()


def test_stretching_the_length_only_stretches_the_curve() -> None:
    points = [(0.0, 1.0), (10.0, 7.0), (30.0, 9.0), (50.0, 2.0)]
    one = curve(turned(*points).profile)
    two = curve(turned(*[(2 * x, r) for x, r in points]).profile)
    x = np.linspace(0, 50, 40)
    assert one.at(x) == pytest.approx(two.at(2 * x), abs=1e-6)


def test_crossed_outlines_are_refused_with_the_place() -> None:
    shape = Lofted.model_validate(
        {"back": outline((0, 5), (40, -2), (80, 5)), "belly": outline((0, -5), (40, 3), (80, -5)),
         "plan": outline((0, 5), (80, 5))}
    )  # fmt: skip
    with pytest.raises(BadShape, match=r"x = 4\d\.\d mm|x = 3\d\.\d mm"):
        loft(shape)


def test_pinched_and_backward_profiles_are_refused() -> None:
    with pytest.raises(BadShape, match="pinched"):
        loft(turned((0, 5), (20, 0, "corner"), (40, 5)))
    with pytest.raises(ValidationError, match="aft of point 1"):
        turned((0, 5), (0, 6), (40, 5))
    with pytest.raises(ValidationError, match="negative"):
        turned((0, 5), (40, -5))


@pytest.mark.parametrize(("diameter", "depth"), [(18.0, 5.0), (18.0, 9.0), (10.0, 1.0)])
def test_cup_volume_in_closed_form(diameter: float, depth: float) -> None:
    a, lead = diameter / 2, 3.0
    wanted = math.pi * depth * (3 * a * a + depth * depth) / 6
    hollow = cap(diameter, depth, lead)
    assert hollow.volume_mm3 - math.pi * a * a * lead == pytest.approx(wanted, rel=2e-3)
    block = loft(turned((0, 14), (40, 14)))
    cut = subtract(block, [cap(diameter, depth, lead).moved(np.array([[0, 0, 1.0], [0, 1, 0], [-1, 0, 0]]))])
    assert block.volume_mm3 - cut.volume_mm3 == pytest.approx(wanted, rel=5e-3)


def test_cup_deeper_than_half_a_sphere_is_refused() -> None:
    with pytest.raises(ValidationError, match="half a sphere"):
        Cup(diameter_mm=10, depth_mm=6)


def test_growing_adds_area_times_film() -> None:
    mesh = loft(turned(*ellipsoid_points(21, 40.0, 10.0)))
    assert grown(mesh, 0.2).volume_mm3 - mesh.volume_mm3 == pytest.approx(0.2 * mesh.area_mm2, rel=1e-6)
    assert grown(mesh, 0.0) is mesh


def test_mesh_moments_of_a_box_in_closed_form() -> None:
    a, b, c = 10.0, 6.0, 4.0
    corners = np.array([[x, y, z] for x in (0, a) for y in (0, b) for z in (0, c)], dtype=float)
    faces = np.array([[0, 1, 3], [0, 3, 2], [4, 6, 7], [4, 7, 5], [0, 4, 5], [0, 5, 1],
                      [2, 3, 7], [2, 7, 6], [0, 2, 6], [0, 6, 4], [1, 5, 7], [1, 7, 3]], np.int32)  # fmt: skip
    mesh = Mesh(corners, faces)
    volume = a * b * c
    assert mesh.volume_mm3 == pytest.approx(volume)
    assert mesh.moments.centroid_mm == pytest.approx([5, 3, 2])
    assert mesh.moments.second_mm5 == pytest.approx(np.diag([a * a, b * b, c * c]) * volume / 12, abs=1e-9)
    assert mesh.area_mm2 == pytest.approx(2 * (a * b + b * c + a * c))


def test_rod_is_exact_and_where_it_should_be() -> None:
    solid = rod(np.array([1.0, 2, 3]), np.array([1.0, 2, 13]), 6.0)
    assert solid.volume() == pytest.approx(math.pi * 9 * 10, rel=1e-9)
    low, high = np.array(solid.bounding_box()).reshape(2, 3)
    assert (low[2], high[2]) == pytest.approx((3.0, 13.0))


def test_silhouette_has_the_shadows_area() -> None:
    mesh = loft(turned(*ellipsoid_points(31, 40.0, 10.0)))
    for view, area in (("side", math.pi * 400), ("plan", math.pi * 400), ("tail", math.pi * 100)):
        (loop,) = silhouette(mesh, view)
        x, y = loop.T
        found = abs(0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))))
        assert found == pytest.approx(area, rel=1.2e-2)
