"""Hooks, blades and props against the wings, lips and tails beside the body, and blades against what turns beside them."""

from __future__ import annotations

import math
import random

import numpy as np
import pytest
import trimesh

from tests.core.test_clashes import PROP, kinds, says
from tests.core.test_clearances import hook_places
from tests.core.test_fitout import HOOK, plain
from yellowbob.design.model import Design, Fitting, Piece, replaced
from yellowbob.design.plates import Fin, Lip, TurningTail, Wings
from yellowbob.design.shape import OutlinePoint
from yellowbob.fitout.clearances import apart, drum_of, fitting_clearances, ticker_reach
from yellowbob.fitout.hooks import swing_mm
from yellowbob.lines import distances as gap
from yellowbob.lines.rays import inside
from yellowbob.study import Study, of

BLADE = Fitting(name="b", sort="blade", at_mm=(60.0, 0.0, -16.0), mass_g=0.5, reach_mm=12.0, span_mm=8.0)
TAIL = TurningTail(
    x_mm=88.0, profile=(OutlinePoint(at_mm=(0, 6), bend="corner"), OutlinePoint(at_mm=(20, 6), bend="corner"))
)


def beside(design: Design, *shapes: Lip | Wings | Fin | TurningTail) -> Design:
    more = (Piece(name=f"piece {n}", material=design.body.material, shape=s) for n, s in enumerate(shapes))
    return design.but(pieces=(*design.pieces, *more))


def some_plate(chance: random.Random) -> Lip | Wings | Fin | TurningTail:
    x, z = chance.uniform(5, 70), chance.uniform(-9, 2)
    way = chance.randrange(4)
    if way == 0:
        return Lip(thick_mm=1.5, x_mm=x, z_mm=z, angle_deg=chance.uniform(10, 120), long_mm=chance.uniform(8, 30),
                   wide_mm=chance.uniform(8, 25))  # fmt: skip
    if way == 1:
        return Wings(thick_mm=1.0, x_mm=x, y_mm=8.0, z_mm=z, span_mm=chance.uniform(15, 45), root_mm=12.0,
                     tip_mm=chance.uniform(4, 12), raise_deg=chance.uniform(-40, 40))  # fmt: skip
    if way == 2:
        deep = chance.uniform(-30, -14)
        return Fin(thick_mm=2.0, corners_mm=((x, -8.0), (x + 14, -8.0), (x + 9, deep)))
    return replaced(TAIL, x_mm=chance.uniform(80, 95), z_mm=chance.uniform(-3, 3))


@pytest.mark.parametrize("seed", range(3))
def test_no_hook_or_blade_reaches_a_plate_unsaid(seed: int) -> None:
    """Whatever place of a hook, turned every way, touches the plate's surface or lies in it, the clearance had said so."""
    chance, numbers, struck = random.Random(seed), np.random.default_rng(seed), 0
    for _ in range(8):
        hook = replaced(
            HOOK, at_mm=(chance.uniform(0, 95), 0.0, chance.uniform(-20, -8)), hanging=chance.random() < 0.7,
            reach_mm=chance.uniform(10, 90), span_mm=chance.uniform(5, 18), aim_deg=chance.uniform(-180, 0),
        )  # fmt: skip
        design = beside(plain(fittings=(hook,)), some_plate(chance))
        (mesh,) = of.parts(Study(design))
        skin = np.asarray(trimesh.sample.sample_surface(trimesh.Trimesh(mesh.vertices, mesh.faces), 4000, seed=seed)[0])
        found = [c for c in of.clearances(Study(design)) if c.kind in ("hook to plate", "hook to tail")]
        told = found[0].distance_mm if found else 60.0
        if hook.hanging:
            away = float(np.linalg.norm(skin - np.asarray(hook.at_mm), axis=1).min())
            in_it = inside(mesh, np.asarray(hook.at_mm))
            exact = min(60.0, (0.0 if in_it else away) - swing_mm(hook, (hook,)))
            assert exact - 0.8 < told <= exact + 1e-2
        places = hook_places(hook, numbers)
        real = float(np.linalg.norm(skin[:, None] - places[None], axis=2).min()) - hook.wire_mm / 2
        real = -1.0 if any(inside(mesh, p) for p in places[::5]) else real
        struck += real < 0
        assert told <= max(real, 0.0) + 0.1
    assert struck or seed  # of the first lot some touch


def test_a_hook_that_reaches_a_plate_is_watched_and_one_that_reaches_a_turning_tail_fails() -> None:
    lip = Lip(thick_mm=1.5, x_mm=12.0, z_mm=-8.0, angle_deg=60.0, long_mm=20.0, wide_mm=18.0)
    assert says(plain(fittings=(HOOK,)), "caught") == ("silent", "")
    assert says(beside(plain(fittings=(HOOK,)), lip), "caught") == ("watch", f"{HOOK.name} reaches piece 0")
    aft = replaced(HOOK, at_mm=(75.0, 0.0, -8.0))
    assert says(beside(plain(fittings=(aft,)), TAIL), "caught") == ("failed", f"{HOOK.name} meets piece 0")
    far = replaced(HOOK, at_mm=(20.0, 0.0, -8.0))
    state, figure = says(beside(plain(fittings=(far,)), TAIL), "caught")
    eye_to_tail = math.hypot(88.0 - 20.0, 2.0)
    assert (state, figure) == ("good", f"{eye_to_tail - swing_mm(far, (far,)):.1f} mm apart")


@pytest.mark.parametrize(("x", "clear"), [(60.0, True), (72.0, False)])
def test_a_spinner_s_blade_is_held_against_the_prop(x: float, clear: bool) -> None:
    blade = replaced(BLADE, at_mm=(x, 0.0, 0.0))
    (found,) = kinds(fitting_clearances((PROP, blade), 10), "blade to prop")
    assert found.distance_mm == pytest.approx(drum_of(PROP).fore[0] - x - 12.0)
    assert found.clear is clear
    assert kinds(fitting_clearances((PROP, replaced(blade, sort="ticker")), 10), "blade to prop") == []


def test_blades_meet_each_other_and_a_ticker() -> None:
    other = replaced(BLADE, name="c", at_mm=(60.0, 0.0, 4.0))
    (found,) = kinds(fitting_clearances((BLADE, other), 10), "blade to blade")
    assert found.distance_mm == pytest.approx(20.0 - 24.0)
    assert says(plain(fittings=(BLADE, other)), "turns") == ("failed", "b meets c")
    ticker = Fitting(
        name="t", sort="ticker", at_mm=(60.0, 0.0, 10.0), mass_g=0.2, reach_mm=14.0, span_mm=0.4, aim_deg=-90
    )
    (found,) = kinds(fitting_clearances((BLADE, ticker), 10), "blade to blade")
    assert found.distance_mm == pytest.approx(apart(ticker_reach(BLADE), ticker_reach(ticker)))
    assert found.distance_mm == pytest.approx(gap.point_to_segment(np.array([60, 0, -16.0]), np.array([60, 0, 10.0]),
                                                                  np.array([60, 0, -4.0])) - 12.2)  # fmt: skip
    assert kinds(fitting_clearances((ticker, replaced(ticker, name="u")), 10), "blade to blade") == []


def test_a_blade_that_reaches_a_fin_does_not_turn_free() -> None:
    fin = Fin(thick_mm=2.0, corners_mm=((66.0, -9.0), (84.0, -9.0), (80.0, -22.0)))
    design = beside(plain(fittings=(BLADE,)), fin)
    (found,) = kinds(of.clearances(Study(design)), "blade to part")
    assert not found.clear
    assert says(design, "turns")[0] == "failed"
