"""Floats under load against closed forms: spars, lying and standing cylinders, capacity, cocking, waters."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from tests.conftest import exact_cylinder, float_solid
from yellowbob.afloat.immersion import immersed
from yellowbob.afloat.line import (
    UP_TIP,
    capacity,
    cocking,
    in_air_g,
    sinking_load_g,
    submerged_g,
    tip_mm,
    under_load,
    upright_from_g,
)
from yellowbob.afloat.rest import Afloat, floated_at, rest_near, up_from
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.lines.mesh import Mesh

R, H = 4.0, 120.0


def spar(relative: float = 0.35, radius: float = R, height: float = H, base_g: float = 0.0) -> Afloat:
    """A cylinder along x, its tip at x = 0, with a weight in its base that displaces nothing."""
    made = exact_cylinder(radius, height, 128)
    vertices = made.vertices[:, [2, 0, 1]] + [height / 2, 0.0, 0.0]
    solid = float_solid(Mesh(np.ascontiguousarray(vertices), made.faces), relative)
    return under_load(solid, base_g, (height, 0.0, 0.0)) if base_g else solid


def upright_load(a: Afloat, radius: float, height: float) -> float:
    """The load at the base from which a spar stands: I/V = BG, all in closed form."""
    rho, area, inertia = a.density_g_mm3, math.pi * radius**2, math.pi * radius**4 / 4

    def gm(load: float) -> float:
        mass = a.mass_g + load
        deep = mass / (rho * area)
        g = (a.mass_g * a.centre_mm[0] + load * height) / mass
        return inertia / (area * deep) + g - (height - deep / 2)

    return float(brentq(gm, 1e-9, rho * area * height - a.mass_g - 1e-9))


@pytest.mark.parametrize(("relative", "radius", "height"), [(0.35, 4.0, 120.0), (0.2, 5.0, 80.0), (0.6, 3.0, 160.0)])
def test_a_spar_stands_from_where_its_metacentre_rises_over_its_weight(
    relative: float, radius: float, height: float
) -> None:
    a = spar(relative, radius, height)
    base = (height, 0.0, 0.0)
    wanted = upright_load(a, radius, height)
    assert upright_from_g(a, base) == pytest.approx(wanted, rel=1e-6)
    found = cocking(a, base, 60)
    assert found.cocks_at_g == pytest.approx(wanted, rel=2e-4)
    assert found.steps[0].state == "lies" and found.steps[-1].state == "stands"
    assert found.sinks_at_g == pytest.approx(a.density_g_mm3 * math.pi * radius**2 * height - a.mass_g, rel=1e-9)
    # steps lie where it turns: none of them turns it by much
    turned = [abs(b.pitch_deg - a.pitch_deg) for a, b in zip(found.steps, found.steps[1:], strict=False)]
    assert max(turned) < 25.0
    assert sum(t > 5 for t in turned) < 12


def test_a_standing_spar_sinks_in_by_its_area() -> None:
    a, base = spar(), (H, 0.0, 0.0)
    slope = 1.0 / (a.density_g_mm3 * math.pi * R**2)
    loads = np.linspace(1.6, 3.8, 12)
    drafts = [rest_near(under_load(a, float(v), base), UP_TIP).draft_mm for v in loads]
    assert np.diff(drafts) / np.diff(loads) == pytest.approx(np.full(11, slope), rel=1e-4)
    found = capacity(a, base, 20.0)
    assert found.load_g == pytest.approx(a.density_g_mm3 * math.pi * R**2 * (H - 20.0) - a.mass_g, abs=1e-6)
    assert found.mm_per_cg == pytest.approx(0.01 * slope, rel=1e-6)
    assert found.capillary_g == pytest.approx(72.8 * 2 * math.pi * R / 9806.65, rel=2e-3)


@settings(max_examples=25, deadline=None)
@given(st.floats(0.15, 0.7), st.floats(0.05, 0.95))
def test_a_lying_float_balances_its_moments(relative: float, share: float) -> None:
    """At the rest that is told, the loaded G stands over B: found by hand from one immersion."""
    a, base = spar(relative), (H, 0.0, 0.0)
    load = share * upright_load(a, R, H)
    rest = rest_near(under_load(a, load, base), tuple(up_from(0.05, 0.0)))
    water = immersed(a, np.asarray(rest.up), rest.height_mm)
    centre = (a.mass_g * np.asarray(a.centre_mm) + load * np.asarray(base)) / (a.mass_g + load)
    level = np.cross(np.asarray(rest.up), centre - water.centre_mm)
    assert np.linalg.norm(level) < 2e-3
    assert water.volume_mm3 * a.density_g_mm3 == pytest.approx(a.mass_g + load, rel=1e-7)


def test_no_tip_is_shown_that_cannot_be() -> None:
    a, base = spar(), (H, 0.0, 0.0)
    with pytest.raises(BadInput, match="at most"):
        capacity(a, base, 90.0)
    heavy = spar(1.2)
    for call in (lambda: capacity(heavy, base, 5.0), lambda: cocking(heavy, base)):
        with pytest.raises(BadInput, match="sinks by itself"):
            call()
    for steps in (4, 401):
        with pytest.raises(BadInput, match="5 to 400"):
            cocking(a, base, steps)
    with pytest.raises(BadInput, match="cannot be"):
        under_load(a, -1.0, base)
    with pytest.raises(NoRest):
        floated_at(under_load(a, sinking_load_g(a) + 0.01, base), UP_TIP)


def test_a_load_pulls_by_what_it_weighs_under_water() -> None:
    assert submerged_g(1.0, 11.34, 0.9982) == pytest.approx(1.0 - 0.9982 / 11.34)
    assert in_air_g(submerged_g(3.0, 7.29, 1.025), 7.29, 1.025) == pytest.approx(3.0)
    with pytest.raises(BadInput, match="does not sink"):
        in_air_g(1.0, 0.9, 1.0)


def test_a_heavy_base_stands_by_itself_and_a_load_off_the_axis_leans_it() -> None:
    a = spar(0.3, base_g=1.6)
    found = cocking(a, (H, 0.0, 0.0))
    assert found.cocks_at_g == 0.0 and found.steps[0].state == "stands"
    off = 3.0
    leaning = rest_near(under_load(a, 1.0, (H, 0.0, -off)), UP_TIP)
    lean = math.radians(90.0) - leaning.pitch_rad
    loaded = under_load(a, 1.0, (H, 0.0, 0.0))
    upright = floated_at(loaded, UP_TIP)
    # small lean: the load's moment about the axis over W·GM
    assert lean == pytest.approx(1.0 * off / (loaded.mass_g * upright.gm_min_mm), rel=0.02)


def test_the_tip_is_measured_from_the_water() -> None:
    a = spar()
    rest = floated_at(under_load(a, 2.0, (H, 0.0, 0.0)), UP_TIP)
    assert tip_mm(a, rest.up, rest.height_mm) == pytest.approx(H - rest.draft_mm, abs=1e-9)
