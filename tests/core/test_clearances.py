"""Clearances of hooks, props, wires and holes against brute force and by hand."""

from __future__ import annotations

import itertools
import math
import random

import numpy as np
import pytest

from tests.core.test_fitout import HOOK, plain
from tests.core.test_hollow import turned
from yellowbob.design.cuts import Cup
from yellowbob.design.model import Design, Drilling, Fitting, Wire, replaced
from yellowbob.fitout.clearances import Clearance, drum_of, fitting_clearances, free_arc, hook_reach, ticker_reach
from yellowbob.fitout.in_wood import least_gap
from yellowbob.lines import distances as gap
from yellowbob.lines import hole_walls
from yellowbob.lines.drill import Hole, place_hole
from yellowbob.lines.hole_walls import FAR_MM, wall_mm
from yellowbob.lines.solids import rod
from yellowbob.study import Study, of


def ball_points(centre: np.ndarray, radius: float, n: int = 400) -> np.ndarray:
    k = np.arange(n) + 0.5
    lift, turn = np.arccos(1 - 2 * k / n), math.pi * (1 + 5**0.5) * k
    out = np.stack([np.cos(turn) * np.sin(lift), np.sin(turn) * np.sin(lift), np.cos(lift)], axis=1)
    return centre + radius * out


def test_distances_against_brute_force() -> None:
    chance = np.random.default_rng(11)
    for _ in range(60):
        a, b, c, d = chance.uniform(-20, 20, (4, 3))
        s = np.linspace(0, 1, 300)[:, None]
        one, two = a + s * (b - a), c + s * (d - c)
        brute = float(np.sqrt(((one[:, None] - two[None]) ** 2).sum(axis=2)).min())
        assert gap.segment_to_segment(a, b, c, d) == pytest.approx(brute, abs=0.1)
        fore = chance.uniform(-10, 10, 3)
        brute = min(gap.point_to_drum(p, fore, 4.0, 9.0) for p in one)
        assert gap.line_to_drum(np.stack([a, b]), fore, 4.0, 9.0) == pytest.approx(brute, abs=0.1)


@pytest.mark.parametrize("through", [False, True])
def test_the_wall_of_a_hole_is_the_least_of_all_places_looked_at(through: bool) -> None:
    """Triangles that cannot hold the least are left out: the same comes of looking at every one."""
    body = turned((0, 3.0), (20, 9.0), (60, 7.0), (82, 2.0))
    chance = np.random.default_rng(21)
    seen = set()
    for _ in range(60):
        mouth = body.vertices[chance.integers(len(body.vertices))]
        inward = np.array([35.0, *chance.uniform(-4.0, 4.0, 2)]) - mouth
        inward /= np.linalg.norm(inward)
        hole = Hole(
            tuple(mouth.tolist()),
            tuple(inward.tolist()),
            float(chance.uniform(1.0, 6.0)),
            float(chance.uniform(2.0, 45.0)),
        )
        wander = float(chance.choice([0.0, 1.0, 3.0]))
        found, at = wall_mm(hole, body, wander, through)
        places = hole_walls._samples(hole_walls._outside(body, hole, through))
        arms = places - mouth
        deep = arms @ inward
        side = np.linalg.norm(np.cross(arms, inward), axis=1) - hole.diameter_mm / 2.0
        side -= np.clip(deep, 0.0, hole.depth_mm) * math.tan(math.radians(wander))
        past = deep - hole.depth_mm
        every = np.where(past > 0.0, np.hypot(np.maximum(side, 0.0), past), side)
        every[(deep < 0.0) | (through & (past > 0.0))] = np.inf
        assert found == pytest.approx(float(every.min()), abs=1e-9)
        assert np.isinf(found) or np.abs(places - at).max(axis=1).min() < 1e-12
        seen.add(found < 0.0)
    assert seen == {True, False}


def random_fitting(chance: random.Random, number: int) -> Fitting:
    sort = chance.choice(["hook", "hook", "prop", "ticker", "blade"])
    at = (chance.uniform(-5, 95), chance.uniform(-3, 3), chance.uniform(-15, 10))
    return Fitting(
        name=f"{sort} {number}", sort=sort, at_mm=at, mass_g=1.0, hanging=sort == "hook" and chance.random() < 0.7,
        reach_mm=chance.uniform(8, 30), span_mm=chance.uniform(5, 26), aim_deg=chance.uniform(-180, 180),
        long_mm=chance.uniform(0, 6), play_mm=chance.uniform(0, 2), points=chance.choice([1, 2, 3]),
        point=chance.choice(["up", "down"]), wire_mm=chance.uniform(0.4, 1.6),
    )  # fmt: skip


def hook_places(hook: Fitting, chance: np.random.Generator) -> np.ndarray:
    """Where the wire of a hook can be, by turning its bent line every way about its eye."""
    reach = hook_reach(hook, ())
    if not hook.hanging:
        return np.vstack([np.linspace(a, b, 12) for line in reach.lines for a, b in itertools.pairwise(line)])
    from yellowbob.fitout.hooks import outline

    flat = outline(hook)
    solid = np.stack([flat[:, 0], flat[:, 1], np.zeros(len(flat))], axis=1)
    turns = np.linalg.qr(chance.normal(size=(40, 3, 3)))[0]
    return np.asarray(hook.at_mm) + (turns @ solid.T).transpose(0, 2, 1).reshape(-1, 3)


def test_no_collision_is_missed_in_random_fit_outs() -> None:
    """Whatever pose of the real shapes touches, the clearance had said so; 10,000 of them are run by the soak."""
    missed, struck = collisions(400, seed=5)
    assert struck > 60
    assert missed == 0


def collisions(count: int, seed: int) -> tuple[int, int]:
    chance, numbers = random.Random(seed), np.random.default_rng(seed)
    missed = struck = 0
    for _ in range(count):
        one, two = random_fitting(chance, 1), random_fitting(chance, 2)
        if "hook" not in (one.sort, two.sort):
            continue
        hook, other = (one, two) if one.sort == "hook" else (two, one)
        design = plain(fittings=(hook, other))
        found = [c for c in fitting_clearances(design.fittings, 10) if {c.one, c.other} == {hook.name, other.name}]
        assert len(found) == 1
        places = hook_places(hook, numbers)
        if other.sort == "hook":
            there = hook_places(other, numbers)
            away = np.sqrt(((places[:, None] - there[None]) ** 2).sum(axis=2)).min()
            real = float(away) - hook.wire_mm / 2 - other.wire_mm / 2
        elif other.sort == "prop":
            drum = drum_of(other)
            real = min(gap.point_to_drum(p, drum.fore, drum.long_mm, drum.radius_mm) for p in places) - hook.wire_mm / 2
        elif other.sort == "blade":
            real = float(np.linalg.norm(places - other.at_mm, axis=1).min()) - other.reach_mm - hook.wire_mm / 2
        else:
            rod = ticker_reach(other)
            real = min(gap.point_to_line(p, rod.lines[0]) for p in places) - rod.radius_mm - hook.wire_mm / 2
        struck += real < 0
        missed += real < found[0].distance_mm - 0.1
    return missed, struck


def named(found: list[Clearance], kind: str) -> Clearance:
    return next(c for c in found if c.kind == kind)


def test_two_hanging_hooks_are_apart_by_their_eyes_less_their_swings() -> None:
    ring = Fitting(name="r", sort="ring", at_mm=HOOK.at_mm, mass_g=0.1, hanging=True, reach_mm=6, span_mm=6)
    other = replaced(HOOK, name="k", at_mm=(90.0, 0.0, -3.0))
    found = named(fitting_clearances((HOOK, ring, other), 10), "hook to hook")
    swing = math.hypot(22 - 5, 5) + 5 + 0.5
    assert found.distance_mm == pytest.approx(math.dist((30, -14), (90, -3)) - (swing + 6) - swing, abs=1e-9)
    assert found.clear


def test_hook_up_ticker_and_line() -> None:
    tie = Fitting(name="tie", sort="tie", at_mm=(0, 0, 0), mass_g=0)
    prop = Fitting(name="p", sort="prop", at_mm=(86, 0, 0), mass_g=1, span_mm=24, long_mm=4, play_mm=1)
    near = Fitting(name="t", sort="ticker", at_mm=(70, 0, 11), mass_g=0.2, reach_mm=14.0, span_mm=0.4, aim_deg=0)
    found = fitting_clearances((tie, HOOK, prop, near), 10)
    assert named(found, "hook-up").distance_mm == pytest.approx(max(0, 17 - 5) - 10)
    assert named(found, "ticker to prop").clear
    assert named(found, "ticker to prop").distance_mm == pytest.approx(-0.2)
    short = replaced(near, reach_mm=10.0)
    assert not named(fitting_clearances((prop, short), 10), "ticker to prop").clear
    line = named(found, "hook to line").distance_mm
    assert line == pytest.approx(math.hypot(30, 14) - (math.hypot(17, 5) + 5.5) - 0.2)


def test_the_wall_round_a_hole_counts_the_drills_wander() -> None:
    study = Study(plain())
    deep = place_hole(Drilling(side="nose", place_mm=(4.0, 0.0), diameter_mm=3, depth_mm=40), of.outer(study), "h")
    wall, _ = wall_mm(deep, of.outer(study), 0.0)
    assert wall == pytest.approx(10 - 4 - 1.5, abs=0.1)
    wander, _ = wall_mm(deep, of.outer(study), 2.0)
    assert wander == pytest.approx(4.5 - 40 * math.tan(math.radians(2)), abs=0.1)
    belly = place_hole(Drilling(side="belly", place_mm=(40.0, 0.0), diameter_mm=5, depth_mm=12), of.outer(study), "b")
    wall, _ = wall_mm(belly, of.outer(study), 0.0)
    # nearest outside that does not face the mouth: at 45° round the flank, or the back above the flat bottom's edge
    flank = 10 * math.sin(math.pi / 4) - 2.5
    assert wall == pytest.approx(min(flank, math.hypot(0, 20 - 12)), abs=0.15)


def test_wires_props_and_cups_in_the_wood() -> None:
    wire = Wire(diameter_mm=1, path_mm=((-4, 0, 0), (84, 0, 0)))
    ballast = {"name": "slug", "weight": {"form": "slug", "diameter_mm": 5, "length_mm": 4},
               "drilling": {"place_mm": [40, 0], "diameter_mm": 5, "depth_mm": 7}}  # fmt: skip
    prop = Fitting(name="p", sort="prop", at_mm=(84, 0, 0), mass_g=1, span_mm=24, long_mm=2, play_mm=1)
    design = Design.model_validate(plain(wires=(wire,), fittings=(prop,)).model_dump() | {"ballast": [ballast]})
    cupped = design.with_body(cuts=(Cup(diameter_mm=12, depth_mm=3),))
    found = list(of.clearances(Study(cupped)))
    assert named(found, "wire to hole").distance_mm == pytest.approx(10 - 7 - 0.5, abs=0.1)
    assert named(found, "prop to body").distance_mm == pytest.approx(3.0, abs=0.05)
    assert named(found, "wire to cup").distance_mm == pytest.approx(3.0, abs=0.3)


def test_a_hook_under_the_belly_swings_below_it_only() -> None:
    study = Study(plain())
    arcs = free_arc(replaced(HOOK, at_mm=(40, 0, -12)), (), of.outer(study))
    assert len(arcs) == 1
    low, high = arcs[0]
    assert low <= -165 + 360 or low <= -165
    assert (high - low) == pytest.approx(180 + 2 * math.degrees(math.asin(2 / 27.5)), abs=9)


def test_looking_near_first_tells_the_same_gap_as_looking_far() -> None:
    rng = np.random.default_rng(8)
    told = []
    for _ in range(60):
        ends = rng.uniform(-1.0, 1.0, (4, 3)) * rng.choice([4.0, 12.0, 60.0])
        one, two = rod(ends[0], ends[1], rng.uniform(0.5, 6.0)), rod(ends[2], ends[3], rng.uniform(0.5, 6.0))
        told.append(least_gap(one, two))
        assert max(told[-1], 0.0) == pytest.approx(min(one.min_gap(two, 400.0), FAR_MM), abs=1e-9)
        assert (told[-1] < 0.0) == ((one ^ two).volume() > 0.0)
    assert min(told) < 0.0 and max(told) == FAR_MM and any(1.5 < t < 8.0 for t in told)
