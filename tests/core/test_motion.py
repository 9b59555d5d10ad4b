"""Periods, waves and throws against closed forms and independent solutions."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import quad, solve_ivp

from tests.conftest import DEMO, exact_cylinder, exact_sphere, float_solid
from yellowbob.action.discs import prop_disc
from yellowbob.action.flight import AIR_G_MM3, Thrown, cast, fly
from yellowbob.action.mouth import mouth
from yellowbob.action.periods import Body, periods
from yellowbob.action.running import froude
from yellowbob.action.waves import chop, in_current, riding
from yellowbob.action.wetted import along_share, turning_share
from yellowbob.afloat.rest import Afloat, Rest, floated_at
from yellowbob.design.cuts import Cup
from yellowbob.design.files import read_design
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of
from yellowbob.study.action import tied_first
from yellowbob.trials.rough import in_rough_water

RHO = 0.001
G = GRAVITY_MM_S2


def evenly(mesh: Mesh, afloat: Afloat) -> Body:
    second = mesh.moments.second_mm5 * afloat.mass_g / mesh.volume_mm3
    return Body(afloat.mass_g, afloat.centre_mm, np.trace(second) * np.eye(3) - second)


def floating(
    mesh: Mesh, density: float, up: tuple[float, float, float], centre: object = None
) -> tuple[Afloat, Rest, Body]:
    afloat = float_solid(mesh, density, centre)
    return afloat, floated_at(afloat, up), evenly(mesh, afloat)


@pytest.mark.parametrize("radius", [6.0, 23.0])
def test_a_half_immersed_sphere_bobs_with_half_its_water(radius: float) -> None:
    afloat, rest, body = floating(exact_sphere(radius), 0.5, (0.0, 0.0, 1.0))
    wanted = 2 * math.pi * math.sqrt(1.5 * afloat.mass_g / (RHO * G * math.pi * radius**2))
    found = periods(afloat, rest, body)
    assert found.heave_s == pytest.approx(wanted, rel=0.01)
    assert found.pitch_s is None and found.roll_s is None


@pytest.mark.parametrize(("radius", "long"), [(5.0, 90.0), (12.0, 200.0)])
def test_a_half_immersed_cylinder_bobs_with_as_much_water_as_it_displaces(radius: float, long: float) -> None:
    afloat, rest, body = floating(exact_cylinder(radius, long), 0.5, (1.0, 0.0, 0.0))
    wanted = 2 * math.pi * math.sqrt(2.0 * afloat.mass_g / (RHO * G * 2.0 * radius * long))
    assert periods(afloat, rest, body).heave_s == pytest.approx(wanted, rel=0.03)


@pytest.mark.parametrize(("radius", "thick"), [(40.0, 3.0), (25.0, 1.0)])
def test_a_shallow_disc_carries_the_water_of_a_disc(radius: float, thick: float) -> None:
    afloat, rest, body = floating(exact_cylinder(radius, thick), 0.5, (0.0, 0.0, 1.0))
    mass = afloat.mass_g + 4.0 / 3.0 * RHO * radius**3
    found = periods(afloat, rest, body)
    assert found.heave_s == pytest.approx(2 * math.pi * math.sqrt(mass / (RHO * G * math.pi * radius**2)), rel=0.03)
    assert found.pitch_s == pytest.approx(found.roll_s, rel=0.01)


def spar(radius: float = 4.0, long: float = 160.0) -> tuple[Afloat, Rest, Body]:
    return floating(exact_cylinder(radius, long), 0.7, (0.0, 0.0, 1.0), (0.0, 0.0, -0.35 * long))


def test_a_spar_bobs_as_its_waterplane_says_and_nods_as_its_metacentre() -> None:
    afloat, rest, body = spar()
    found = periods(afloat, rest, body)
    assert found.stands
    assert found.heave_s == pytest.approx(2 * math.pi * math.sqrt(afloat.mass_g / (RHO * G * math.pi * 16.0)), rel=0.01)
    # its own strips and the water's, both swaying freely: moments about their common centre
    wet, share = 0.7 * 160.0, along_share(4.0, 4.0, 0.7 * 160.0)
    strips = RHO * math.pi * 16.0 * share / along_share(1.0, 1.0, 1e6)
    low, level = -80.0, -80.0 + wet
    added = [strips * quad(lambda z, n=n: z**n, low, level)[0] for n in range(3)]
    own = [afloat.mass_g, afloat.mass_g * -0.35 * 160.0, body.inertia_g_mm2[0, 0] + afloat.mass_g * (0.35 * 160.0) ** 2]
    total = [a + b for a, b in zip(added, own, strict=True)]
    inertia = total[2] - total[1] ** 2 / total[0]
    gm = rest.gm_min_mm
    assert found.pitch_s == pytest.approx(2 * math.pi * math.sqrt(inertia / (afloat.mass_g * G * gm)), rel=0.03)


def test_a_load_on_the_line_slows_the_bob_and_not_the_nod_by_its_turning() -> None:
    from yellowbob.afloat.line import under_load

    afloat, _, body = spar()
    loaded = under_load(afloat, 0.1 * afloat.mass_g, (0.0, 0.0, -80.0))
    rest = floated_at(loaded, (0.0, 0.0, 1.0))
    with_load, without = periods(loaded, rest, body), periods(afloat, floated_at(afloat, (0.0, 0.0, 1.0)), body)
    assert with_load.heave_s == pytest.approx(without.heave_s * math.sqrt(1.1), rel=0.002)
    assert with_load.pitch_s < without.pitch_s


def test_added_water_of_ellipsoids_is_lambs() -> None:
    assert along_share(1.0, 1.0, 1.0) == pytest.approx(0.5)
    assert along_share(1.0, 1.0, 1e5) == pytest.approx(1.0, rel=1e-3)
    ratio = 1e-5
    assert along_share(ratio, 1.0, 1.0) * 4 / 3 * math.pi * ratio == pytest.approx(8.0 / 3.0, rel=1e-3)
    assert turning_share(1.0, 2.0, 2.0) == 0.0
    # a thin disc turning about its diameter: 16/45·ρr⁵ (Lamb 1932, art. 108)
    assert turning_share(1.0, 1.0, ratio) * 4 / 3 * math.pi * ratio == pytest.approx(16.0 / 45.0, rel=1e-3)


def test_mirrored_and_scaled_builds_move_alike() -> None:
    study = Study(read_design(DEMO / "sallow-74.ybob"))
    afloat, rest, body = of.afloat(study), of.upright_rest(study), of.body(study)
    assert rest is not None
    found = periods(afloat, rest, body)
    for k in (0.5, 2.0):
        larger = Afloat(Mesh(afloat.hull.vertices * k, afloat.hull.faces), afloat.mass_g * k**3,
                        tuple(k * c for c in afloat.centre_mm), afloat.density_g_mm3)  # fmt: skip
        plain = Afloat(afloat.hull, afloat.mass_g, afloat.centre_mm, afloat.density_g_mm3)
        one = periods(plain, floated_at(plain, rest.up), body)
        two = periods(
            larger, floated_at(larger, rest.up), Body(body.mass_g * k**3, larger.centre_mm, body.inertia_g_mm2 * k**5)
        )
        for a, b in ((one.heave_s, two.heave_s), (one.pitch_s, two.pitch_s), (one.roll_s, two.roll_s)):
            assert b == pytest.approx(a * math.sqrt(k), rel=1e-6)
    assert found.heave_s is not None and 0.1 < found.heave_s < 1.0


# ---- waves and currents


def test_a_spar_in_waves_answers_as_the_closed_form_of_its_heave() -> None:
    afloat, rest, body = spar()
    ready = riding(afloat, rest, body)
    found = ready.periods
    for long in (400.0, 3000.0, 20_000.0):
        waves = chop(20.0, long, RHO)
        k, w, deep = waves.number, waves.rate, 0.7 * 160.0
        area = math.pi * 16.0
        stiff, mass = RHO * G * area, afloat.mass_g + found.added_g
        damping = 2 * 0.1 * math.sqrt(stiff * mass)
        felt = (1 - math.exp(-k * deep)) / (k * deep)
        force = stiff * math.exp(-k * deep) - w * w * found.added_g * felt + 1j * w * damping * felt
        assert ready.bob(waves) == pytest.approx(force / (stiff - w * w * mass + 1j * w * damping), abs=5e-3)
    assert abs(ready.bob(chop(20.0, 80_000.0, RHO))) == pytest.approx(1.0, abs=0.02)


def test_deep_water_waves_have_their_period_and_short_ones_feel_the_skin() -> None:
    assert chop(30.0, 1560.0, RHO).period_s == pytest.approx(math.sqrt(2 * math.pi * 1560.0 / G), rel=1e-3)
    assert chop(1.0, 17.0, RHO).period_s == pytest.approx(17.0 / 231.0, rel=0.02)  # the slowest ripple, 0.231 m/s
    for high, long in ((0.0, None), (-3.0, None), (40.0, 100.0), (40.0, 1e7), (math.nan, None)):
        with pytest.raises(BadInput):
            chop(high, long, RHO)


def test_a_bobbing_in_step_is_said() -> None:
    afloat, rest, body = spar(4.0, 60.0)
    own = periods(afloat, rest, body).heave_s
    assert own is not None
    waves = chop(5.0, G * own**2 / (2 * math.pi), RHO)
    ready = riding(afloat, rest, body)
    found = ready.on(waves)
    assert found.in_step and found.follows > 1.5
    assert not ready.on(chop(5.0, 90_000.0, RHO)).in_step


def test_a_current_pulls_under_at_the_speed_at_which_the_slant_line_takes_all_there_is_to_spare() -> None:
    afloat, rest, _ = spar()
    found = in_current(afloat, rest, (0.0, 0.0, -80.0), 0.2, 40.0)
    wet = 0.7 * 160.0
    drag = 0.5 * RHO * 1.1 * 8.0 * wet * 200.0**2
    assert found.drag_g == pytest.approx(drag / G, rel=0.01)
    spare = (RHO * afloat.volume_mm3 - afloat.mass_g) * G
    assert found.under_m_s == pytest.approx(0.2 * math.sqrt(spare / (drag * math.tan(math.radians(40.0)))), rel=0.01)
    assert in_current(afloat, rest, (0.0, 0.0, -80.0), 0.0, 40.0).leans_deg == 0.0
    assert in_current(afloat, rest, (0.0, 0.0, -80.0), 0.2, 0.0).under_m_s is None
    for speed, angle in ((-1.0, 40.0), (math.inf, 40.0), (0.2, 90.0), (0.2, -5.0)):
        with pytest.raises(BadInput):
            in_current(afloat, rest, (0.0, 0.0, -80.0), speed, angle)


# ---- throws


def ball(radius: float, density: float) -> Thrown:
    at = (np.arange(200) + 0.5) / 200 * 2 * radius - radius
    mass = density * 4 / 3 * math.pi * radius**3
    wide = 2 * np.sqrt(radius**2 - at**2)
    return Thrown(
        mass, 0.4 * mass * radius**2, at, wide, radius / 100, math.pi * radius**2, 4 / 3 * math.pi * radius**3
    )


@pytest.mark.parametrize(("speed", "angle", "high"), [(25.0, 40.0, 2.0), (12.0, -5.0, 1.5), (30.0, 70.0, 3.0)])
def test_a_dense_ball_flies_as_the_closed_form_and_in_air_as_a_solver_has_it(
    speed: float, angle: float, high: float
) -> None:
    thrown, a, v, h = ball(8.0, 0.01134), math.radians(angle), 1000 * speed, 1000 * high
    far = v * math.cos(a) * (v * math.sin(a) + math.sqrt((v * math.sin(a)) ** 2 + 2 * G * h)) / G
    assert fly(thrown, speed, angle, high, air_g_mm3=0.0).range_mm == pytest.approx(far, rel=1e-5)
    k = 0.5 * AIR_G_MM3 * 0.47 * math.pi * 64 / thrown.mass_g

    def rates(_: float, y: np.ndarray) -> list[float]:
        fast = k * math.hypot(y[2], y[3])
        return [y[2], y[3], -fast * y[2], -G - fast * y[3]]

    def lands(_: float, y: np.ndarray) -> float:
        return float(y[1])

    lands.terminal, lands.direction = True, -1  # type: ignore[attr-defined]
    solved = solve_ivp(rates, (0, 20), [0, h, v * math.cos(a), v * math.sin(a)], events=lands, rtol=1e-9)
    assert fly(thrown, speed, angle, high).range_mm == pytest.approx(solved.y_events[0][0][0], rel=1e-3)


def rod(front_heavy: float, long: float = 100.0, mass: float = 12.0) -> Thrown:
    """A round rod, its weight ahead of the middle of its side by a share of its length."""
    at = (np.arange(100) + 0.5) / 100 * long - long / 2 + front_heavy * long
    return Thrown(mass, mass * long**2 / 14.0, at, np.full(100, 10.0), long / 100, math.pi * 25, math.pi * 25 * long)


def test_a_dart_points_forward_and_one_balanced_in_the_middle_of_its_side_does_not() -> None:
    dart = cast(rod(0.3), 20.0, 35.0)
    assert dart.flight.leads > 0.8 and dart.flies == "flies nose first" and dart.index == pytest.approx(0.3)
    balanced = cast(rod(0.0), 20.0, 35.0)
    assert abs(balanced.flight.leads) < 0.6 and balanced.share < dart.share
    back = cast(rod(-0.3), 20.0, 35.0)
    assert back.flight.leads < -0.8 and back.flies == "flies tail first"
    ranges = [cast(rod(v), 20.0, 35.0).flight.range_mm for v in (0.0, 0.3)]
    assert ranges[0] < ranges[1]


def test_without_air_the_throw_keeps_its_energy_and_its_spin() -> None:
    found = fly(rod(0.2), 18.0, 50.0, 2.0, spin_rad_s=7.0, air_g_mm3=0.0)
    energy = 0.5 * found.speeds_mm_s**2 + G * found.places_mm[:, 1]
    assert np.ptp(energy) / energy[0] < 1e-7
    assert np.allclose(np.diff(found.pitches_rad[:-1]) / np.diff(found.times_s[:-1]), 7.0)


def test_demo_throws_are_within_reason_and_out_of_range_ones_are_refused() -> None:
    study = Study(read_design(DEMO / "sallow-74.ybob"))
    found = cast(of.thrown(study), 20.0, 35.0, 2.0, tied_first(study))
    assert 0.3 < found.share < 1.0
    thrown = of.thrown(study)
    assert thrown.mass_g == pytest.approx(of.slip(study).finished.mass_g)
    assert thrown.length_mm == pytest.approx(float(np.ptp(of.hull(study).vertices[:, 0])), rel=1e-9)
    for speed, angle, high in (
        (0.0, 35.0, 2.0),
        (20.0, 95.0, 2.0),
        (20.0, 35.0, 0.0),
        (math.nan, 35.0, 2.0),
        (1e3, 5.0, 2.0),
    ):
        with pytest.raises(BadInput):
            fly(thrown, speed, angle, high)


def test_a_current_past_what_lies_is_refused_and_past_a_float_worked_out() -> None:
    lying, standing = (Study(read_design(DEMO / f"{n}.ybob")) for n in ("osier-96", "reed-waggler-217"))
    with pytest.raises(BadInput, match="this one lies"):
        in_rough_water(lying, 40.0, current_m_s=0.2)
    assert in_rough_water(lying, 40.0)[1] is None
    held = in_rough_water(standing, 40.0, current_m_s=0.2)[1]
    assert held is not None and held.drag_g > 0.0
    assert of.cast_g(standing) > of.body(standing).mass_g == pytest.approx(of.thrown(standing).mass_g)


# ---- mouths


def test_a_cup_is_the_part_of_a_ball_that_it_is_and_half_of_it_dry_when_the_water_halves_it() -> None:
    cup = Cup(diameter_mm=20.0, depth_mm=6.0, z_mm=1.0, rim_x_mm=2.0)
    level = np.array([0.0, 0.0, 1.0])
    found = mouth(cup, level, 1.0, (0.0, 0.0, -3.0))
    assert found.area_mm2 == pytest.approx(math.pi * 100.0)
    assert found.volume_mm3 == pytest.approx(math.pi * 6.0 * (300.0 + 36.0) / 6.0)
    assert found.air_share == pytest.approx(0.5, abs=1e-9) and found.wet_rim_share == pytest.approx(0.5, abs=1e-9)
    assert found.looks_deg == pytest.approx(0.0, abs=1e-9) and found.tie_over_mm == pytest.approx(-4.0)
    assert mouth(cup, level, -50.0, (0.0, 0.0, 0.0)).air_share == 1.0
    assert mouth(cup, level, 50.0, (0.0, 0.0, 0.0)).wet_rim_share == pytest.approx(1.0)
    wide = mouth(cup.model_copy(update={"width_mm": 30.0}), level, 1.0, (0.0, 0.0, 0.0))
    assert wide.volume_mm3 == pytest.approx(1.5 * found.volume_mm3) and wide.air_share == pytest.approx(0.5)


def test_the_air_in_a_tilted_cup_is_that_of_points_thrown_into_it() -> None:
    cup = Cup(diameter_mm=18.0, width_mm=14.0, depth_mm=7.0, z_mm=-1.0, rim_x_mm=1.0, slant_deg=12.0)
    up = np.array([-0.35, 0.2, 0.9])
    up /= np.linalg.norm(up)
    height, rng = 1.7, np.random.default_rng(8)
    found = mouth(cup, up, height, (0.0, 0.0, 0.0))
    ball = (81.0 + 49.0) / 14.0
    s, p, q = rng.uniform(0, 7, 400_000), rng.uniform(-9, 9, 400_000), rng.uniform(-9, 9, 400_000)
    inside = (ball - 7.0 + s) ** 2 + p * p + q * q < ball**2
    a = math.radians(12.0)
    inward, above = np.array([math.cos(a), 0.0, -math.sin(a)]), np.array([math.sin(a), 0.0, math.cos(a)])
    places = (
        np.array([1.0, 0.0, -1.0]) + s[:, None] * inward + p[:, None] * above + (q * 14.0 / 18.0)[:, None] * [0, 1, 0]
    )
    dry = (places @ up > height)[inside].mean()
    assert found.air_share == pytest.approx(float(dry), abs=0.004)
    assert found.looks_deg == pytest.approx(math.degrees(math.asin(-float(inward @ up))))


def test_demo_poppers_have_a_mouth_and_others_none() -> None:
    popper, pencil = (Study(read_design(DEMO / f"{n}.ybob")) for n in ("sallow-74", "spit-pencil-118"))
    (found,) = of.mouths(popper)
    assert 0.0 < found.air_share < 1.0 and found.looks_deg > 0.0
    assert of.mouths(pencil) == () or all(m.volume_mm3 > 0 for m in of.mouths(pencil))


def test_a_prop_s_disc_is_halved_at_its_hub_and_a_circle_s_segment_elsewhere() -> None:
    up = np.array([0.0, 0.0, 1.0])
    assert prop_disc("p", (0.0, 0.0, 2.0), 20.0, up, 2.0).wet_share == pytest.approx(0.5)
    high = prop_disc("p", (0.0, 0.0, 6.0), 20.0, up, 0.0)
    a = math.acos(0.6)
    assert high.wet_share == pytest.approx((a - 0.6 * math.sin(a)) / math.pi) and high.hub_deep_mm == -6.0
    assert prop_disc("p", (0.0, 0.0, 40.0), 20.0, up, 0.0).wet_share == 0.0
    # nose up by 60° the disc stands at 30° to the water: half its height counts
    steep = np.array([-math.sin(math.pi / 3), 0.0, math.cos(math.pi / 3)])
    lain = prop_disc("p", (0.0, 0.0, 6.0), 20.0, steep, 0.0)
    assert lain.wet_share == pytest.approx(high.wet_share)
    study = Study(read_design(DEMO / "mill-tail-88.ybob"))
    assert len(of.prop_discs(study)) == 2 and all(0.0 < d.wet_share <= 1.0 for _, d in of.prop_discs(study))
    assert froude(1.0, 1000.0 / 9.80665) == pytest.approx(1.0)
