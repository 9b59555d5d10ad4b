"""Throwing it in: energy kept, small motions at the textbook period, every end a rest."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh

from tests.conftest import exact_cylinder, float_solid, mesh_of, turned_design
from yellowbob.action.drop import Drop, drop, random_attitude, tally, water_about, which_rest
from yellowbob.afloat.rest import Afloat, all_rests, rest_near
from yellowbob.design.model import STANDING, Design
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.study import Study, of


def inertia_of(afloat: Afloat) -> np.ndarray:
    second = afloat.hull.moments.second_mm5 * afloat.mass_g / afloat.hull.volume_mm3
    return np.trace(second) * np.eye(3) - second


def spar() -> Afloat:
    return float_solid(exact_cylinder(4.0, 60.0, 96), 0.6, centre=(0.0, 0.0, -20.0))


def test_energy_is_kept_without_damping(demo_design: Design) -> None:
    study = Study(demo_design)
    played = drop(of.afloat(study), of.inertia_g_mm2(study), 0.7, 1.1, 120.0, seconds=10.0, damped=False)
    kept = played.energies_nj - of.rests(study)[0].energy_nj
    assert np.ptp(played.energies_nj) < 0.01 * abs(kept[0])
    assert played.end is None
    assert not played.settled


def test_damping_only_takes_energy_away(popper: Design) -> None:
    study = Study(popper)
    played = drop(of.afloat(study), of.inertia_g_mm2(study), 0.4, 2.0, 200.0)
    steps = np.diff(played.energies_nj)
    assert steps.max() < 1e-4 * np.ptp(played.energies_nj)
    assert played.energies_nj[-1] == pytest.approx(of.rests(study)[0].energy_nj, abs=1e-5 * of.afloat(study).scale_nj)


def test_heave_has_the_textbook_period() -> None:
    """T = 2π √((m + a)/(ρgA)) for a spar let go a little high, its added mass a from `water_about`."""
    afloat = spar()
    rest = rest_near(afloat, (0.0, 0.0, 1.0))
    played = drop(afloat, inertia_of(afloat), 0.0, 0.0, 0.0, seconds=4.0, damped=False)
    assert played.times_s[0] == 0.0
    water = water_about(afloat, rest)
    period = (
        2
        * math.pi
        * math.sqrt((afloat.mass_g + water.added_g[2]) / (afloat.density_g_mm3 * GRAVITY_MM_S2 * rest.waterplane_mm2))
    )
    # let go standing on the water it plunges; the time between its lowest points is the period while it stays in
    high = played.heights_mm
    lows = [k for k in range(1, len(high) - 1) if high[k] > high[k - 1] and high[k] >= high[k + 1]]
    assert len(lows) > 3
    measured = float(np.diff(played.times_s[lows]).mean())
    assert measured == pytest.approx(period, rel=0.12)


def test_small_roll_has_the_textbook_period() -> None:
    """T = 2π √((I + a)/(W·GM)) about the weak axis of a barge heeled a little."""
    afloat = float_solid(mesh_of(trimesh.creation.box((100, 30, 12))), 0.5)
    rest = rest_near(afloat, (0.0, 0.0, 1.0))
    inertia = inertia_of(afloat)
    water = water_about(afloat, rest)
    heel = 0.03
    played = drop(afloat, inertia, 0.0, heel, 0.0, seconds=6.0, damped=False, by_hand=True)
    rolls = np.arctan2(-played.ups[:, 1], played.ups[:, 2])
    crossings = np.flatnonzero(np.diff(np.sign(rolls)))
    measured = 2 * float(np.diff(played.times_s[crossings]).mean())
    period = (
        2
        * math.pi
        * math.sqrt((inertia[0, 0] + water.added_g_mm2[0]) / (afloat.mass_g * GRAVITY_MM_S2 * rest.gm_min_mm))
    )
    assert measured == pytest.approx(period, rel=0.01)


def test_every_throw_ends_in_a_rest(demo_design: Design) -> None:
    if demo_design.kind in STANDING:
        pytest.skip("a standing float bobs for long; the soak throws them")
    study = Study(demo_design)
    rng, ends = np.random.default_rng(5), []
    for _ in range(4):
        played = drop(of.afloat(study), of.inertia_g_mm2(study), *random_attitude(rng), float(rng.uniform(0, 500)))
        ends.append(played.end)
    counted = tally(ends, of.rests(study))
    assert counted.restless == 0
    assert sum(counted.counts) == 4


def test_a_body_with_two_rests_ends_in_either() -> None:
    afloat = float_solid(mesh_of(trimesh.creation.box((60, 20, 8))), 0.5)
    rests, inertia = all_rests(afloat), inertia_of(afloat)
    ends = [drop(afloat, inertia, 0.1, roll, 10.0).end for roll in (0.2, math.pi - 0.2)]
    numbers = [which_rest(e, rests) for e in ends if e is not None]
    assert sorted(n for n in numbers if n is not None) == [0, 1]


def test_a_ring_of_rests_counts_as_one() -> None:
    log = float_solid(exact_cylinder(5.0, 60.0, 64), 0.5)
    rests = all_rests(log)
    end = drop(log, inertia_of(log), 0.3, 0.4, 50.0).end
    assert end is not None
    assert which_rest(end, rests) == 0


def test_the_fall_takes_its_time_and_the_first_moment_touches(popper: Design) -> None:
    study = Study(popper)
    played: Drop = drop(of.afloat(study), of.inertia_g_mm2(study), 0.2, 0.0, 490.3325)
    assert played.fall_s == pytest.approx(math.sqrt(2 * 490.3325 / GRAVITY_MM_S2))
    up = played.ups[0]
    assert played.heights_mm[0] == pytest.approx(float((of.afloat(study).hull.vertices @ up).min()), abs=1e-6)


def test_the_same_throw_is_the_same(popper: Design) -> None:
    study = Study(popper)
    one, two = (drop(of.afloat(study), of.inertia_g_mm2(study), 1.0, -2.0, 80.0) for _ in range(2))
    assert np.array_equal(one.ups, two.ups)


def test_impossible_throws_are_refused(popper: Design) -> None:
    study = Study(popper)
    with pytest.raises(BadInput, match="between 0 and"):
        drop(of.afloat(study), of.inertia_g_mm2(study), 0.0, 0.0, -1.0)
    sinker = Study(turned_design((0, 5), (40, 5), density=1.4))
    with pytest.raises(NoRest):
        drop(of.afloat(sinker), of.inertia_g_mm2(sinker), 0.0, 0.0, 10.0)
