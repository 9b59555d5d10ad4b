"""Rests against closed forms: the table of agreement. Every expected figure is computed here from its formula."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh
from scipy.optimize import brentq

from tests.conftest import exact_cylinder, exact_sphere, float_solid, mesh_of
from yellowbob.afloat.rest import Afloat, all_rests, floated_at, pitch_roll, rest_near, up_from
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.lines.mesh import Mesh

BAR = mesh_of(trimesh.creation.box((120.0, 10.0, 10.0)))


def bar_tilt(s: float) -> float:
    """Tilt of a square bar of relative density s from flat, degrees, from its two regimes' closed forms."""
    s = min(s, 1 - s)  # floats like its mirror image
    flat_limit, corner_limit = 0.5 - math.sqrt(3) / 6, 9 / 32
    if s <= flat_limit:
        return 0.0
    if s >= corner_limit:
        return 45.0
    # two corners under: tan² = -2·GM/BM with BM = a/(12s), BG = a(1-s)/2; valid while the tilt keeps two corners dry
    t2 = (12 * s * (1 - s) / 2 - 1) * 2
    if math.sqrt(t2) <= 2 * s:
        return math.degrees(math.atan(math.sqrt(t2)))

    # one corner under: legs p, q with pq = 2s a²; equilibrium is the stationary point of the potential
    def torque(angle: float) -> float:
        tan = math.tan(angle)
        p, q = math.sqrt(2 * s / tan), math.sqrt(2 * s * tan)
        bx, by = p / 3, q / 3
        return (0.5 - bx) * math.cos(angle) - (0.5 - by) * math.sin(angle)

    return math.degrees(brentq(lambda a: torque(a), math.radians(1), math.radians(44.9)))


@pytest.mark.parametrize("s", [0.15, 0.2, 0.22, 0.23, 0.25, 0.27, 0.3, 0.5, 0.7, 0.73, 0.75, 0.77, 0.85, 0.9])
def test_square_bar_has_exactly_its_known_rests(s: float) -> None:
    rests = all_rests(float_solid(BAR, s))
    tilt = bar_tilt(s)
    expected = 4 if tilt in (0.0, 45.0) else 8
    assert len(rests) == expected
    for rest in rests:
        away = abs((math.degrees(rest.roll_rad) + 45) % 90 - 45)
        assert away == pytest.approx(tilt, abs=0.05)
        assert math.degrees(rest.pitch_rad) == pytest.approx(0.0, abs=0.01)
        assert not rest.neutral
        assert rest.gm_min_mm > 0
    ups = np.array([r.up for r in rests])
    assert ((ups @ ups.T)[~np.eye(len(ups), dtype=bool)] < math.cos(math.radians(2))).all()


@pytest.mark.parametrize("s", [0.1, 0.3, 0.5, 0.8])
def test_sphere_floats_anyhow_at_the_cubics_draft(s: float) -> None:
    radius = 12.0
    (rest,) = all_rests(float_solid(exact_sphere(radius), s))
    draft = brentq(lambda d: 3 * d * d * radius - d**3 - 4 * s * radius**3, 0, 2 * radius)
    assert rest.neutral
    assert (rest.gm_min_mm, rest.gm_max_mm) == (0.0, 0.0)
    assert rest.roll_rad == 0.0
    assert rest.draft_mm == pytest.approx(draft, abs=0.02)


@pytest.mark.parametrize(("slender", "s"), [(0.4, 0.5), (0.6, 0.5), (0.75, 0.5), (0.9, 0.5), (0.5, 0.2), (0.62, 0.2)])
def test_upright_cylinder_is_stable_only_when_wide_enough(slender: float, s: float) -> None:
    height = 20.0
    radius = slender * height
    afloat = float_solid(exact_cylinder(radius, height), s)
    upright = floated_at(afloat, (0.0, 0.0, 1.0))
    bm, bg = radius**2 / (4 * s * height), height * (1 - s) / 2
    assert upright.gm_min_mm == pytest.approx(bm - bg, rel=2e-3, abs=2e-3)
    stable = slender**2 > 2 * s * (1 - s)
    ends = [r for r in all_rests(afloat) if abs(r.up[2]) > 0.9999]
    assert len(ends) == (2 if stable else 0)


def test_box_barge_metacentre() -> None:
    length, beam, depth, s = 60.0, 24.0, 10.0, 0.4
    afloat = float_solid(mesh_of(trimesh.creation.box((length, beam, depth))), s)
    rest = floated_at(afloat, (0.0, 0.0, 1.0))
    draft = s * depth
    bg = (depth - draft) / 2
    assert rest.draft_mm == pytest.approx(draft, abs=1e-9)
    assert rest.gm_min_mm == pytest.approx(beam**2 / (12 * draft) - bg, rel=1e-9)
    assert rest.gm_max_mm == pytest.approx(length**2 / (12 * draft) - bg, rel=1e-9)
    assert rest.waterplane_mm2 == pytest.approx(length * beam, rel=1e-9)


def test_half_density_sphere_with_a_weight_hangs_it_straight_down() -> None:
    radius, weight, at = 10.0, 0.3, np.array([3.0, -4.0, 2.0])
    sphere = exact_sphere(radius)
    own = 0.0005 * sphere.volume_mm3
    centre = at * weight / (own + weight)
    (rest,) = all_rests(Afloat(sphere, own + weight, tuple(centre), 0.001))
    assert math.degrees(math.acos(-float(np.dot(rest.up, at)) / np.linalg.norm(at))) < 0.05
    volume = (own + weight) / 0.001
    draft = brentq(lambda d: math.pi * d * d * (radius - d / 3) - volume, 0, 2 * radius)
    assert rest.draft_mm == pytest.approx(draft, abs=0.02)
    assert rest.gm_min_mm == pytest.approx(np.linalg.norm(centre), rel=2e-3)


def test_oblique_rest_of_a_half_density_body_in_pitch_and_roll() -> None:
    # a box with its weight off all three axes: found by descent, checked against the equations of rest
    box = mesh_of(trimesh.creation.box((40.0, 18.0, 14.0)))
    afloat = float_solid(box, 0.5, centre=(4.0, 1.2, -1.5))
    rest = all_rests(afloat)[0]
    lever = np.subtract(afloat.centre_mm, rest.buoyancy_mm)
    across = lever - np.dot(lever, rest.up) * np.asarray(rest.up)
    assert np.linalg.norm(across) < 1e-6
    assert abs(math.degrees(rest.pitch_rad)) > 3
    assert abs(math.degrees(rest.roll_rad)) > 3
    assert rest.displaced_mm3 == pytest.approx(0.5 * box.volume_mm3, rel=1e-9)


def test_a_spar_sinks_by_one_over_density_and_waterplane() -> None:
    spar = exact_cylinder(3.0, 200.0)
    one = Afloat(spar, 2.0, (0.0, 0.0, -80.0), 0.001)
    two = Afloat(spar, 2.1, (0.0, 0.0, -80.0), 0.001)
    sunk = rest_near(two, (0.0, 0.0, 1.0)).draft_mm - rest_near(one, (0.0, 0.0, 1.0)).draft_mm
    assert sunk == pytest.approx(0.1 / (0.001 * math.pi * 9.0), rel=1e-6)


def test_curvature_of_energy_is_weight_times_gm() -> None:
    box = mesh_of(trimesh.creation.box((50.0, 16.0, 12.0)))
    afloat = float_solid(box, 0.45, centre=(0.0, 0.0, -2.0))
    step = 1e-3

    def energy(roll: float) -> float:
        return floated_at(afloat, tuple(up_from(0.0, roll))).energy_nj

    bend = (energy(step) - 2 * energy(0.0) + energy(-step)) / step**2
    assert bend == pytest.approx(afloat.mass_g * GRAVITY_MM_S2 * floated_at(afloat, (0, 0, 1)).gm_min_mm, rel=1e-4)


def test_a_ring_of_rests_is_reported_once_upright_most() -> None:
    lying = exact_cylinder(5.0, 60.0, sides=48)
    about_x = Mesh(lying.vertices[:, [2, 0, 1]], lying.faces)
    (rest,) = all_rests(float_solid(about_x, 0.4))
    assert rest.neutral
    assert rest.gm_min_mm == 0.0
    assert rest.up[2] == pytest.approx(1.0, abs=1e-6)
    assert rest.roll_rad == pytest.approx(0.0, abs=1e-4)


@pytest.mark.parametrize("sides", [24, 32, 50])
def test_facets_do_not_pass_for_rests(sides: int) -> None:
    assert len(all_rests(float_solid(exact_cylinder(6.0, 50.0, sides), 0.35))) == 1


def test_the_same_rest_from_a_hundred_attitudes() -> None:
    afloat = float_solid(exact_sphere(10.0), 0.5, centre=(1.0, 2.0, -3.0))
    found = [rest_near(afloat, tuple(u)).up for u in np.random.default_rng(7).normal(size=(100, 3))]
    assert np.ptp(np.array(found), axis=0).max() < 1e-6


def test_pitch_and_roll_are_the_inverse_of_up() -> None:
    for pitch, roll in [(0.3, -0.7), (-1.2, 2.9), (0.0, 0.0), (1.0, math.pi)]:
        assert pitch_roll(up_from(pitch, roll)) == pytest.approx((pitch, roll))
    assert math.degrees(pitch_roll((-0.5, 0.0, math.sqrt(0.75)))[0]) == pytest.approx(30.0)  # nose up
    assert math.degrees(pitch_roll((0.0, -0.5, math.sqrt(0.75)))[1]) == pytest.approx(30.0)  # starboard down
