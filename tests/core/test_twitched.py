"""Walk, wake, throws with what hangs on the line, what sinks but runs, dressing, and what tests have taught."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import DEMO, exact_cylinder
from yellowbob.action.calibration import factors_file, factors_of
from yellowbob.action.flight import Thrown, fly
from yellowbob.action.pair import Hung, fly_pair
from yellowbob.action.periods import Body
from yellowbob.action.running import HULL, PLATE, Line, Pulled, run
from yellowbob.action.sinkers import run_of_sinker
from yellowbob.action.wake import KELVIN_DEG, wake, wake_angle_deg
from yellowbob.action.walk import SIDE_DEG, walk
from yellowbob.afloat.rest import Afloat, rest_near
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.hardware import Dressing
from yellowbob.design.model import Design
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.shelf.fitting import dressed, swapped
from yellowbob.shelf.shipped import dressings, hooks
from yellowbob.study import Study, of

LINE = Line(0.0, 1000.0, 15_000.0)


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


def log(length: float, radius: float = 10.0) -> tuple[Pulled, Body]:
    """Half as dense as water, lying, its weight a little low, tied at its front end."""
    upright = exact_cylinder(radius, length, 64)
    turn = np.array([[0.0, 0.0, 1.0], [0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]])
    mesh = Mesh(upright.vertices @ turn.T, upright.faces)
    mesh = Mesh(mesh.vertices - [mesh.vertices[:, 0].min(), 0.0, 0.0], mesh.faces)
    mass = 0.5 * 0.001 * mesh.volume_mm3
    centre = (length / 2.0, 0.0, -2.0)
    build = Afloat(mesh, mass, centre, 0.001)
    long = mass * (length**2 / 12.0 + radius**2 / 4.0)
    body = Body(mass, centre, np.diag([mass * radius**2 / 2.0, long, long]))
    return Pulled(build, ((mesh, HULL),), (0.0, 0.0, 0.0)), body


def test_a_longer_body_turns_over_more_slowly() -> None:
    times = []
    for length in (60.0, 80.0, 110.0):
        thing, body = log(length)
        found = walk(thing, rest_near(thing.afloat, (0.0, 0.0, 1.0)), body)
        assert found is not None and found.turn_s is not None
        assert found.turns_deg > 2.0 * SIDE_DEG and found.glide_mm > 20.0
        times.append(found.turn_s)
    assert times == sorted(times) and times[2] > 1.3 * times[0]


def test_a_twitch_gives_the_tie_its_speed_and_a_harder_one_turns_it_sooner() -> None:
    thing, body = log(80.0)
    rest = rest_near(thing.afloat, (0.0, 0.0, 1.0))
    soft, hard = walk(thing, rest, body, 0.3), walk(thing, rest, body, 0.9)
    assert soft is not None and hard is not None and soft.turn_s is not None and hard.turn_s is not None
    assert hard.turn_s < soft.turn_s / 2.0
    with pytest.raises(BadInput, match="twitch"):
        walk(thing, rest, body, 30.0)


def test_the_wake_is_kelvins_until_it_narrows() -> None:
    assert wake_angle_deg(0.3) == pytest.approx(math.degrees(math.asin(1.0 / 3.0)))
    assert wake_angle_deg(0.501) == pytest.approx(KELVIN_DEG, abs=0.2)
    # far beyond: half a mean angle of 1 over twice the root of 2π times Froude (Rabaud and Moisy 2013)
    assert wake_angle_deg(4.0) == pytest.approx(math.degrees(1.0 / (2.0 * math.sqrt(2.0 * math.pi) * 4.0)), rel=0.01)
    angles = [wake_angle_deg(v) for v in np.linspace(0.0, 3.0, 60)]
    assert angles == sorted(angles, reverse=True)
    thing, _ = log(80.0)
    rest = rest_near(thing.afloat, (0.0, 0.0, 1.0))
    trim = run(thing, rest, [0.1]).trims[0]
    found = wake(thing, trim)
    assert found.beam_mm == pytest.approx(20.0, abs=0.5)
    assert found.waves_mm == pytest.approx(2.0 * math.pi * 100.0**2 / GRAVITY_MM_S2)
    assert found.froude == pytest.approx(100.0 / math.sqrt(GRAVITY_MM_S2 * 80.0), rel=0.05)


def test_two_balls_on_a_thread_turn_about_their_common_centre_with_energy_kept() -> None:
    ball = Thrown(12.0, 1.0, np.array([0.0]), np.array([1e-6]), 1.0, 1e-6, 1e-6)
    found = fly_pair(ball, Hung(5.0, 1e6, 250.0, 0.0), 9.0, 50.0, 1.5, air_g_mm3=0.0, damped=0.0, spin_rad_s=9.0)
    assert np.ptp(found.energies) < 1e-6 * found.energies[0]
    middle = (12.0 * found.float_mm + 5.0 * found.hung_mm) / 17.0
    t = found.times_s
    v = 9000.0
    start = middle[0]
    x = start[0] + v * math.cos(math.radians(50.0)) * t
    z = start[1] + v * math.sin(math.radians(50.0)) * t - 0.5 * GRAVITY_MM_S2 * t**2
    assert np.abs(middle - np.stack([x, z], axis=1)).max() < 1.0
    apart = found.hung_mm - found.float_mm
    assert np.hypot(*apart.T) == pytest.approx(250.0, rel=0.02)
    turned = np.unwrap(np.arctan2(apart[:, 1], apart[:, 0]))
    assert turned[-1] - turned[0] == pytest.approx(9.0 * t[-1], rel=0.01)


def test_what_hangs_leads_a_float_of_cork_and_carries_it_further() -> None:
    study = Study(design_of("withy-stick-150"))
    alone = fly(of.thrown(study), 18.0, 40.0).range_mm
    found = fly_pair(of.thrown(study), Hung(4.0, 11.34, 500.0, 60.0), 18.0, 40.0)
    assert found.leads == "what hangs" and found.range_mm > 1.3 * alone
    with pytest.raises(BadInput, match="thread"):
        fly_pair(of.thrown(study), Hung(4.0, 11.34, 0.0, 60.0), 18.0, 40.0)


def test_what_sinks_runs_from_some_speed_on_and_balances() -> None:
    """A flat board a little heavier than water, tied above its front: it planes."""
    board = exact_cylinder(30.0, 3.0, 48)
    build = Afloat(board, 0.00115 * board.volume_mm3, (4.0, 0.0, float(board.moments.centroid_mm[2])), 0.001)
    assert not build.floats
    top = float(board.vertices[:, 2].max())
    thing = Pulled(build, ((board, PLATE),), (-24.0, 0.0, top))
    found, least = run_of_sinker(thing, [0.05, 1.0, 1.4], Line(25.0))
    assert least is not None and 0.05 < least < 1.0 and found.trims
    for trim in found.trims:
        assert max(abs(v) for v in trim.left_over) < 1e-6 and trim.pitch_rad > 0.0 and trim.speed_m_s >= least
    lead = replace(thing, afloat=replace(build, mass_g=3000.0 * build.mass_g))
    none, never = run_of_sinker(lead, [0.5], Line(0.0))
    assert never is None and none.ends == "does not stay up" and not none.trims


def test_dressing_weighs_dry_displaces_its_fibres_and_stays_on_a_swapped_hook() -> None:
    design = design_of("sallow-74")
    treble = next(f for f in design.fittings if f.sort == "hook")
    feather = dressings()["feather, large"]
    worn = dressed(treble, feather)
    bare, tied = Study(design), Study(design.but(fittings=tuple(worn if f is treble else f for f in design.fittings)))
    more = of.slip(tied).finished.mass_g - of.slip(bare).finished.mass_g
    assert more == pytest.approx(feather.dry_g, abs=1e-9)
    water = 1000.0 * of.water_density(bare)
    lift = of.buoyancy(tied).reserve_g - of.buoyancy(bare).reserve_g
    assert lift == pytest.approx(feather.dry_g * (water / feather.density_g_ml - 1.0), abs=1e-6)
    # soaked when it is thrown
    assert of.cast_g(tied) - of.cast_g(bare) == pytest.approx(feather.soaked_g, abs=1e-9)
    assert len(of.pulled(tied).drags) == len(of.pulled(bare).drags) + 1
    new = swapped(worn, hooks()["treble, size 4"])
    assert new.dressing == worn.dressing and new.mass_g > worn.mass_g
    assert dressed(worn, None) == treble
    with pytest.raises(ValueError, match="soaking"):
        Dressing(dry_g=0.2, soaked_g=0.1)


def test_what_tests_have_taught_is_read_and_a_bad_file_is_refused(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))
    assert not factors_of("popper").calibrated and factors_of("popper").swing_rate == 1.0
    factors_file().write_text(json.dumps({"popper": {"limit": 0.8, "tests": 4}}))
    assert factors_of("popper").limit == 0.8 and factors_of("popper").calibrated
    assert not factors_of("pencil").calibrated
    for bad in ("{", '{"popper": {"limit": -1}}', "[]", '{"popper": {"limits": 1.2}}'):
        factors_file().write_text(bad)
        with pytest.raises(BadInput, match="popper"):
            factors_of("popper")


def test_a_mouth_that_is_jerked_digs_as_its_trim_has_it_and_brakes_as_a_flat_face() -> None:
    study = Study(design_of("sallow-74"))
    found, still = of.jerked(study)[0], of.mouths(study)[0]
    assert found.air_share < still.air_share and found.digs_mm > 0.0
    face = 0.5 * 1000.0 * 0.6**2 * still.area_mm2 * 1e-6 / 9.80665 * 1000.0
    assert 0.3 * face < found.brakes_g <= 1.01 * face


def test_a_design_mirrored_left_to_right_does_the_same_the_other_way() -> None:
    """Ballast 1 mm to port or to starboard: rests lean to the other side, all else is alike."""
    design = design_of("osier-96")
    sides = []
    for way in (1.0, -1.0):
        holes = tuple(
            replaced(b, drilling=replaced(b.drilling, place_mm=(b.drilling.place_mm[0], way)))
            for b in design.ballast
            if b.drilling
        )
        study = Study(design.but(ballast=holes))
        rest = of.upright_rest(study)
        assert rest is not None
        sides.append((rest.roll_rad, of.draw(study, [0.5], of.USUAL_LINE), of.walked(study)))
    (one, ran, walks), (two, ran_two, walks_two) = sides
    assert one == pytest.approx(-two, abs=1e-6) and abs(one) > 1e-3
    assert ran.run.trims[0].pitch_rad == pytest.approx(ran_two.run.trims[0].pitch_rad, abs=1e-4)
    assert ran.sideways is not None and ran_two.sideways is not None
    assert ran.sideways.swings[0].hz == pytest.approx(ran_two.sideways.swings[0].hz, rel=1e-3)
    assert ran.sideways.ends_m_s == pytest.approx(ran_two.sideways.ends_m_s, abs=0.006)
    assert walks is not None and walks_two is not None and walks.turn_s == pytest.approx(walks_two.turn_s, abs=0.005)
