"""Throwing it in: energy kept, small motions at the textbook period, every end a rest."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import pytest
import trimesh

from tests.conftest import DEMO, exact_cylinder, float_solid, mesh_of, turned_design
from yellowbob.action.drop import Drop, drop, random_attitude, tally, which_rest
from yellowbob.action.periods import Body, level_axes, periods
from yellowbob.afloat.rest import Afloat, all_rests, rest_near
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING, Design
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.lines.mesh import Mesh
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


def measured_s(times: np.ndarray, moved: np.ndarray) -> float:
    """Period of a swing by where it crosses its middle."""
    about = moved - (moved.max() + moved.min()) / 2.0
    k = np.flatnonzero(np.diff(np.sign(about)) > 0)
    at = times[k] - about[k] * (times[k + 1] - times[k]) / (about[k + 1] - about[k])
    return float(np.diff(at).mean())


def small(afloat: Afloat, pitch: float = 0.0, roll: float = 0.0, seconds: float = 4.0) -> Drop:
    """Held a little off its rest, and let go without damping."""
    rest = rest_near(afloat, (0.0, 0.0, 1.0))
    return drop(
        afloat, inertia_of(afloat), rest.pitch_rad + pitch, rest.roll_rad + roll, 0.0, seconds=seconds, damped=False,
        by_hand=True,
    )  # fmt: skip


def body_of(afloat: Afloat) -> Body:
    x, y, z = (float(c) for c in afloat.centre_mm)
    return Body(afloat.mass_g, (x, y, z), inertia_of(afloat))


def test_a_plunging_spar_bobs_at_the_closed_form_s_period() -> None:
    """T = 2π √((m + a)/(ρgA)), a half of what a disc in open water has, 8/3·ρr³ (Lamb 1932, art. 102)."""
    afloat = spar()
    rest = rest_near(afloat, (0.0, 0.0, 1.0))
    played = drop(afloat, inertia_of(afloat), 0.0, 0.0, 0.0, seconds=4.0, damped=False)
    assert played.times_s[0] == 0.0
    added = 4.0 / 3.0 * afloat.density_g_mm3 * 4.0**3
    stiff = afloat.density_g_mm3 * GRAVITY_MM_S2 * rest.waterplane_mm2
    period = 2 * math.pi * math.sqrt((afloat.mass_g + added) / stiff)
    assert periods(afloat, rest, body_of(afloat)).heave_s == pytest.approx(period, rel=0.03)
    # let go standing on the water it plunges: its lowest places come a period apart while it stays in
    high = played.heights_mm
    lows = [k for k in range(1, len(high) - 1) if high[k] > high[k - 1] and high[k] >= high[k + 1]]
    assert float(np.diff(played.times_s[lows]).mean()) == pytest.approx(period, rel=0.12)


def log() -> Afloat:
    turn = np.array([[0.0, 0.0, 1.0], [0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]])
    upright = exact_cylinder(8.0, 80.0, 64)
    return float_solid(Mesh(upright.vertices @ turn.T, upright.faces), 0.5, centre=(0.0, 0.0, -2.0))


def barge() -> Afloat:
    return float_solid(mesh_of(trimesh.creation.box((100, 30, 12))), 0.5)


@pytest.mark.parametrize(("make", "rolls"), [(barge, True), (barge, False), (spar, False), (log, False)])
def test_small_swings_take_as_long_as_the_periods_say(make: Callable[[], Afloat], rolls: bool) -> None:
    afloat = make()
    own = periods(afloat, rest_near(afloat, (0.0, 0.0, 1.0)), body_of(afloat))
    if rolls:
        played, wanted = small(afloat, roll=0.02), own.roll_s
        moved = np.arctan2(-played.ups[:, 1], played.ups[:, 2])
    else:
        played, wanted = small(afloat, pitch=0.02), own.pitch_s
        moved = np.arcsin(-played.ups[:, 0])
    assert wanted is not None
    assert measured_s(played.times_s, moved) == pytest.approx(wanted, rel=0.03)


@pytest.mark.parametrize("name", ["sallow-74", "spit-pencil-118", "withy-stick-150", "osier-96"])
def test_a_demo_nods_in_the_tank_as_on_the_action_bench(name: str) -> None:
    study = Study(read_design(DEMO / f"{name}.ybob").but(rig=None))  # a line would pull, and not turn with it
    afloat, inertia, rest = of.afloat(study), of.inertia_g_mm2(study), of.upright_rest(study)
    assert rest is not None
    own = periods(afloat, rest, of.body(study)).pitch_s
    assert own is not None
    played = drop(afloat, inertia, rest.pitch_rad + 0.01, rest.roll_rad, 0.0, seconds=5.0, damped=False, by_hand=True)
    up = np.asarray(rest.up)
    moved = np.cross(np.broadcast_to(up, played.ups.shape), played.ups) @ level_axes(up)[1]
    spectrum = np.abs(np.fft.rfft((moved - moved.mean()) * np.hanning(len(moved)), 16 * len(moved)))
    rate = np.fft.rfftfreq(16 * len(moved), played.times_s[1] - played.times_s[0])[int(spectrum.argmax())]
    assert 1.0 / rate == pytest.approx(own, rel=0.03)


def test_every_throw_ends_in_a_rest(demo_design: Design) -> None:
    study = Study(demo_design)
    rng, ends = np.random.default_rng(5), []
    # a standing float bobs for half a minute: it is thrown twice here, and often in the soak
    for _ in range(2 if demo_design.kind in STANDING else 4):
        played = drop(of.afloat(study), of.inertia_g_mm2(study), *random_attitude(rng), float(rng.uniform(0, 500)))
        ends.append(played.end)
    counted = tally(ends, of.rests(study))
    assert counted.restless == 0
    assert sum(counted.counts) == len(ends)


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
