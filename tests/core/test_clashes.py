"""What hangs from a ring a little off its eye, what turns beside what turns, holes that meet, and bores right through."""

from __future__ import annotations

import itertools
import math
import random
import typing
from pathlib import Path

import numpy as np
import pytest
from scipy.spatial import cKDTree

from tests.core.test_clearances import named
from tests.core.test_fitout import HOOK, plain
from yellowbob import checks
from yellowbob.checks.registry import CHECKS
from yellowbob.design.model import Ballast, Bore, Design, Drilling, Fitting, Piece, Slug, replaced
from yellowbob.design.plates import TurningTail
from yellowbob.design.shape import OutlinePoint
from yellowbob.fitout.clearances import Clearance, Kind, fitting_clearances
from yellowbob.fitout.hooks import hangs_from, outline, swing_mm
from yellowbob.lines.distances import drum_to_drum
from yellowbob.lines.walls import least_wall_mm
from yellowbob.study import Study, of

RING = Fitting(name="r", sort="ring", at_mm=HOOK.at_mm, mass_g=0.1, hanging=True, reach_mm=6.0, span_mm=6.0)
PROP = Fitting(name="p", sort="prop", at_mm=(86, 0, 0), mass_g=1, span_mm=24, long_mm=4, play_mm=1)


def says(design: Design, key: str) -> tuple[str, str]:
    verdict = CHECKS[key].verdict(Study(design))
    return ("silent", "") if verdict is None else (verdict.state, verdict.figure)


def kinds(found: tuple[Clearance, ...] | list[Clearance], kind: str) -> list[Clearance]:
    return [c for c in found if c.kind == kind]


# ---- what a hook hangs from


@pytest.mark.parametrize(
    "off", [(0, 0, 0), (0, 0, -0.5), (0, 0, -1.0), (0, 0, -3.0), (0, 0, -6.0), (2, 0, -5), (-4, 0, -4)]
)
def test_a_hook_anywhere_on_its_ring_keeps_the_ring_s_reach(off: tuple[float, float, float]) -> None:
    hook = replaced(HOOK, at_mm=tuple(np.add(HOOK.at_mm, off)))
    pivot, out = hangs_from(hook, (hook, RING))
    assert out == pytest.approx(max(6.0, math.dist((0, 0, 0), off)) if math.dist((0, 0, 0), off) >= 0.6 else 6.0)
    assert np.linalg.norm(pivot - RING.at_mm) < 0.6
    # the ball holds the hook where it is drawn, too
    assert np.linalg.norm(np.subtract(hook.at_mm, pivot)) <= out + 1e-9
    assert swing_mm(hook, (hook, RING)) == pytest.approx(out + swing_mm(hook, ()))


def test_a_hook_past_its_ring_s_reach_hangs_by_itself() -> None:
    hook = replaced(HOOK, at_mm=tuple(np.add(HOOK.at_mm, (7.0, 0, 0))))
    pivot, out = hangs_from(hook, (hook, RING))
    assert out == 0.0
    assert tuple(pivot) == hook.at_mm


def test_ring_and_swivel_at_one_eye_make_a_chain_and_the_nearest_chain_carries() -> None:
    swivel = replaced(RING, name="s", sort="swivel", reach_mm=9.0)
    far = replaced(RING, name="f", at_mm=(60.0, 0.0, -10.0), reach_mm=40.0)
    hook = replaced(HOOK, at_mm=(30.0, 0.0, -25.0))
    pivot, out = hangs_from(hook, (swivel, hook, RING, far))
    assert tuple(pivot) == RING.at_mm
    assert out == pytest.approx(15.0)


def test_a_fixed_hook_hangs_from_nothing() -> None:
    assert hangs_from(replaced(HOOK, hanging=False), (RING,))[1] == 0.0


@pytest.mark.parametrize("seed", range(20))
def test_no_pose_of_a_hook_on_its_ring_leaves_its_ball(seed: int) -> None:
    """The ring turned every way about its eye, the hook every way about the ring's far end: all within the ball told."""
    assert not leaves_its_ball(seed)


def hooks_leave_their_balls(count: int, seed: int) -> tuple[int, int]:
    """How many of so many random hooks on rings leave the ball told, and how many were tried."""
    return sum(leaves_its_ball(seed + k) for k in range(count)), count


def leaves_its_ball(seed: int) -> bool:
    chance, numbers = random.Random(seed), np.random.default_rng(seed)
    reach = chance.uniform(2, 12)
    ring = replaced(RING, reach_mm=reach)
    off = numbers.normal(size=3)
    off *= chance.uniform(0, reach) / np.linalg.norm(off)
    hook = replaced(
        HOOK, at_mm=tuple(np.add(ring.at_mm, off)), reach_mm=chance.uniform(8, 30), span_mm=chance.uniform(4, 16)
    )
    pivot, _ = hangs_from(hook, (hook, ring))
    flat = outline(hook)
    solid = np.stack([flat[:, 0], flat[:, 1], np.zeros(len(flat))], axis=1)
    ways = numbers.normal(size=(200, 3))
    ends = np.asarray(ring.at_mm) + reach * ways / np.linalg.norm(ways, axis=1)[:, None]
    turns = np.linalg.qr(numbers.normal(size=(200, 3, 3)))[0]
    places = ends[:, None] + (turns @ solid.T).transpose(0, 2, 1)
    away = np.linalg.norm(places - np.asarray(ring.at_mm), axis=2).max() + hook.wire_mm / 2
    slack = float(np.linalg.norm(pivot - np.asarray(ring.at_mm)))
    return bool(away > swing_mm(hook, (hook, ring)) + slack + 1e-9)


def test_two_hooks_one_drawn_at_the_far_end_of_its_ring_are_as_near_as_when_drawn_at_its_eye() -> None:
    other = replaced(HOOK, name="k", at_mm=(75.0, 0.0, -3.0))
    at_eye = named(fitting_clearances((HOOK, RING, other), 10), "hook to hook").distance_mm
    low = replaced(HOOK, at_mm=(30.0, 0.0, -20.0))
    assert named(fitting_clearances((low, RING, other), 10), "hook to hook").distance_mm == pytest.approx(at_eye)


# ---- what turns


@pytest.mark.parametrize("seed", range(25))
def test_drums_are_apart_by_what_sampling_finds(seed: int) -> None:
    rng = np.random.default_rng(seed)
    one, two = rng.uniform(-20, 20, 3), rng.uniform(-20, 20, 3)
    longs, radii = rng.uniform(1, 12, 2), rng.uniform(2, 10, 2)
    found = drum_to_drum(one, longs[0], radii[0], two, longs[1], radii[1])

    def skin(fore: np.ndarray, long: float, radius: float) -> np.ndarray:
        x, a, r = np.meshgrid(np.linspace(0, long, 9), np.linspace(0, 2 * math.pi, 72), np.linspace(0, radius, 9))
        return np.stack([fore[0] + x, fore[1] + r * np.cos(a), fore[2] + r * np.sin(a)], axis=-1).reshape(-1, 3)

    first, second = skin(one, longs[0], radii[0]), skin(two, longs[1], radii[1])
    sampled = float(cKDTree(second).query(first)[0].min())
    if found < 0:
        assert sampled < 2.0
    else:
        assert found <= sampled + 1e-9
        assert sampled - found < 2.0
    assert drum_to_drum(two, longs[1], radii[1], one, longs[0], radii[0]) == pytest.approx(found)


@pytest.mark.parametrize(("x", "apart"), [(86.0, -5.0), (90.0, -1.0), (93.0, 2.0), (101.0, 10.0)])
def test_two_props_on_one_wire_are_apart_by_the_gap_between_their_drums(x: float, apart: float) -> None:
    other = replaced(PROP, name="q", at_mm=(x, 0.0, 0.0))
    found = named(fitting_clearances((PROP, other), 10), "prop to prop")
    assert found.distance_mm == pytest.approx(apart)
    assert found.clear == (apart >= 0.2)


def test_props_side_by_side_are_apart_by_their_centres_less_their_radii() -> None:
    other = replaced(PROP, name="q", at_mm=(86.0, 26.0, 0.0))
    assert named(fitting_clearances((PROP, other), 10), "prop to prop").distance_mm == pytest.approx(2.0)
    assert says(plain(fittings=(PROP, replaced(other, at_mm=(86.0, 20.0, 0.0)))), "turns")[0] == "failed"


def test_a_prop_is_held_against_the_tail_that_turns_behind_it() -> None:
    profile = (OutlinePoint(at_mm=(0, 6), bend="corner"), OutlinePoint(at_mm=(20, 6), bend="corner"))
    tail = Piece(name="tail", material=plain().body.material, shape=TurningTail(x_mm=90.0, profile=profile))
    body = plain(fittings=(replaced(PROP, at_mm=(84.0, 0.0, 0.0)),))
    design = body.but(pieces=(*body.pieces, tail))
    (found,) = kinds(of.clearances(Study(design)), "prop to part")
    assert (found.one, found.other) == ("p", "tail")
    assert found.distance_mm == pytest.approx(90.0 - 84.0 - 2.0 - 1.0, abs=1e-3)
    near = body.but(pieces=(*body.pieces, replaced(tail, shape=replaced(tail.shape, x_mm=86.0))))
    assert not kinds(of.clearances(Study(near)), "prop to part")[0].clear


# ---- holes


def drilled(*holes: tuple[str, float, float, float]) -> Design:
    """Belly holes as (name, x, diameter, depth), each with a slug in it."""
    return plain(ballast=tuple(
        Ballast(name=name, weight=Slug(diameter_mm=d - 0.2, length_mm=3.0),
                drilling=Drilling(side="belly", place_mm=(x, 0.0), diameter_mm=d, depth_mm=deep))
        for name, x, d, deep in holes))  # fmt: skip


@pytest.mark.parametrize(
    ("second", "wood"), [(45.0, None), (38.5, 3.5), (37.2, 2.2), (36.2, 1.2), (35.6, 0.6), (34.0, -1.0), (32.0, -3.0)]
)
def test_holes_side_by_side_leave_the_wood_between_their_axes(second: float, wood: float | None) -> None:
    design = drilled(("one", 30.0, 5.0, 12.0), ("two", second, 5.0, 12.0))
    found = kinds(of.clearances(Study(design)), "hole to hole")
    if wood is None or wood >= least_wall_mm("wood"):
        assert found == []
        assert says(design, "met")[0] == "silent"
        return
    assert found[0].distance_mm == pytest.approx(wood, abs=0.05)
    assert not found[0].clear
    assert says(design, "met") == (
        ("failed", "one meets two") if wood < 0 else ("watch", f"{wood:.1f} mm of wood between")
    )


def test_a_hole_from_the_belly_into_one_from_the_nose_meets_it() -> None:
    design = drilled(("one", 30.0, 5.0, 12.0))
    nose = Ballast(name="nose", weight=Slug(diameter_mm=3.8, length_mm=6.0),
                   drilling=Drilling(side="nose", place_mm=(0.0, 0.0), diameter_mm=4.0, depth_mm=40.0))  # fmt: skip
    both = design.but(ballast=(*design.ballast, nose))
    (found,) = kinds(of.clearances(Study(both)), "hole to hole")
    assert found.distance_mm < 0
    short = replaced(nose, drilling=replaced(nose.drilling, depth_mm=20.0))
    assert says(design.but(ballast=(*design.ballast, short)), "met")[0] == "silent"


@pytest.mark.parametrize(("x_mm", "meets"), [(20.0, 3.0), (24.0, 3.0), (27.5, 0.5), (28.5, None), (40.0, None)])
def test_weights_cast_in_at_one_place_meet(x_mm: float, meets: float | None) -> None:
    """Slugs of 8 mm along x and 3 mm thick."""
    slug = Slug(diameter_mm=3.0, length_mm=8.0)
    one = Ballast(name="one", weight=slug, drilling=None, at_mm=(20.0, 0.0, -2.0))
    design = plain(ballast=(one, replaced(one, name="two", at_mm=(x_mm, 0.0, -2.0))))
    found = kinds(of.clearances(Study(design)), "hole to hole")
    if meets is None:
        assert found == []
        return
    assert found[0].distance_mm == pytest.approx(-meets, abs=0.02)
    assert says(design, "met") == ("failed", "one meets two")


@pytest.mark.parametrize(("z_mm", "clear"), [(-6.0, False), (-2.0, False), (3.4, True)])
def test_a_weight_cast_in_where_a_hole_is_meets_it(z_mm: float, clear: bool) -> None:
    """A belly hole 5 mm wide that ends at z = 2 in a body of radius 10 mm."""
    design = drilled(("one", 30.0, 5.0, 12.0))
    cast = Ballast(name="cast", weight=Slug(diameter_mm=2.0, length_mm=8.0), drilling=None, at_mm=(30.0, 0.0, z_mm))
    both = design.but(ballast=(*design.ballast, cast))
    assert (kinds(of.clearances(Study(both)), "hole to hole") == []) is clear


@pytest.mark.parametrize("diameter", [2.0, 4.0])
def test_a_bore_right_through_does_not_come_out_where_it_is_meant_to(diameter: float) -> None:
    through = Bore(
        name="through", drilling=Drilling(side="belly", place_mm=(40.0, 0.0), diameter_mm=diameter, depth_mm=30.0)
    )
    design = plain().with_body(bores=(through,))
    walls = kinds(of.clearances(Study(design)), "wall of hole")
    assert all(c.distance_mm > 3.0 for c in walls), walls
    assert says(design, "wall")[0] != "failed"


def test_a_bore_that_stops_short_still_counts_its_floor() -> None:
    blind = Bore(name="blind", drilling=Drilling(side="belly", place_mm=(40.0, 0.0), diameter_mm=4.0, depth_mm=19.0))
    (found,) = kinds(of.clearances(Study(plain().with_body(bores=(blind,)))), "wall of hole")
    wandered = 2.0 + 19.0 * math.tan(math.radians(1.0))
    assert found.distance_mm == pytest.approx(math.sqrt(100.0 - wandered**2) - 9.0, abs=0.05)


def test_every_kind_of_clearance_is_looked_at_by_a_check() -> None:
    """A distance that no check reads would be found and never said."""
    text = "".join(p.read_text(encoding="utf-8") for p in Path(checks.__path__[0]).glob("*.py"))
    for kind in itertools.chain(typing.get_args(Kind)):
        assert f'"{kind}"' in text, kind
