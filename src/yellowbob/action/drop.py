"""Drop it: a lure thrown in from a height and an attitude, moved by weight, buoyancy, drag and added water to a rest."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.periods import Body, added_about, level_axes
from yellowbob.afloat.immersion import height_for_mass
from yellowbob.afloat.rest import Afloat, Rest, pitch_roll, rest_near, up_from
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput, NoRest

Array = NDArray[np.float64]

STEP_S = 0.002
FRAME_STEPS = 8
"""A frame each 16 ms, for playing in real time."""
UNDAMPED_S = 10.0
"""Without damping it never lies still: so long is looked on."""
LONGEST_S = 60.0
ACROSS_CD = 1.1
"""Drag of a long body square to the flow, on its shadow: textbook, Hoerner 1965."""
ALONG_CD = 0.3
WAVES = 0.12
"""Share of critical damping that its own waves take: a rule for small bodies at the surface."""
QUIET = 2e-7
"""Energy of motion, as a share of weight x size, under which it has come to rest."""
HIGHEST_MM = 5000.0


@dataclass(frozen=True, eq=False)
class Water:
    """What the water adds: (6, 6) inertia over velocity and spin, body axes at the centre of gravity, g, g·mm, g·mm²; and
    drag: quadratic (3) then linear (3), of force and spin."""

    added: Array
    drag: Array
    spin: Array


def water_about(afloat: Afloat, rest: Rest, inertia_g_mm2: Array) -> Water:
    """Water that moves with a body about its rest, as `periods` has it, and what holds it back.

    Drag coefficients above. Graded textbook.
    """
    x, y, z = (float(c) for c in afloat.centre_mm)
    level = added_about(afloat, rest, Body(afloat.mass_g, (x, y, z), np.asarray(inertia_g_mm2)))
    up = np.asarray(rest.up)
    axes = np.stack([*level_axes(up), up])
    turned = np.zeros((6, 6))
    turned[:3, :3] = turned[3:, 3:] = axes
    added = turned.T @ level @ turned
    low, high = afloat.hull.bounds
    size = high - low
    shadow = 0.75 * np.array([size[1] * size[2], size[0] * size[2], size[0] * size[1]])
    force = 0.5 * afloat.density_g_mm3 * np.array([ALONG_CD, ACROSS_CD, ACROSS_CD]) * shadow
    mass = afloat.mass_g + np.diag(added)[:3]
    stiff = afloat.density_g_mm3 * GRAVITY_MM_S2 * max(rest.waterplane_mm2, 1.0)
    linear = 2.0 * WAVES * np.sqrt(stiff * mass)
    # quadratic spin: ∫ ½ρCd·b·|x|³ dx over a strip of even width b and length L is ½ρCd·b·L⁴/32
    arms = np.array([size[0] * max(size[1], size[2]) ** 4 / 2.0, size[1] * size[0] ** 4, size[2] * size[0] ** 4]) / 32.0
    turn = 0.5 * afloat.density_g_mm3 * ACROSS_CD * arms
    weight = afloat.mass_g * GRAVITY_MM_S2
    gm = np.array([max(rest.gm_min_mm, 0.5), max(rest.gm_max_mm, 0.5), max(rest.gm_min_mm, 0.5)])
    own = np.maximum(np.diag(added)[3:], 1e-9) + afloat.mass_g * size.max() ** 2 / 12.0 * np.array([0.08, 1.0, 1.0])
    linear_turn = 2.0 * 1.5 * WAVES * np.sqrt(weight * gm * own)
    return Water(added, np.concatenate([force, linear]), np.concatenate([turn, linear_turn]))


@dataclass(frozen=True, eq=False)
class Drop:
    """A played drop. times (k,) s from the moment it touches; ups (k, 3) world-up in body axes; heights (k,) mm of the
    water plane along up; energies (k,) nJ. `end` is the rest it came to, None where it had not come to rest."""

    times_s: NDArray[Any]
    ups: Array
    heights_mm: Array
    energies_nj: Array
    end: Rest | None
    settled: bool
    fall_s: float


def drop(
    afloat: Afloat, inertia_g_mm2: Array, pitch_rad: float, roll_rad: float, height_mm: float,
    spin_rad_s: tuple[float, float, float] = (0.0, 0.0, 0.0), seconds: float = LONGEST_S, damped: bool = True,
    by_hand: bool = False,
) -> Drop:  # fmt: skip
    """Let it go at an attitude, its lowest point a height above the water (mm), and play until it lies still.

    By hand, it is held afloat at that attitude, at its own displacement, and let go. Else it falls freely through the
    air; on touching, the water it must move takes its share of the speed at once. Without damping the sum of its energies
    stays what it was. Raises NoRest for a sinker, BadInput for a height out of 0 to 5 m.
    """
    from yellowbob.action.motion import STATE, play

    if not 0.0 <= height_mm <= HIGHEST_MM:
        raise BadInput(f"a height of {height_mm:g} mm is not between 0 and {HIGHEST_MM:g} mm")
    if not afloat.floats:
        raise NoRest("it sinks: a drop has no rest to end in")
    gravity = float(afloat.arrays[-1])
    about = rest_near(afloat, (0.0, 0.0, 1.0))
    water = water_about(afloat, about, inertia_g_mm2)
    up = up_from(pitch_rad, roll_rad)
    centre = afloat.arrays[5]
    vertices = afloat.arrays[0]
    above = float(centre @ up) - float((vertices @ up).min())
    fall = math.sqrt(2.0 * height_mm / gravity)
    speed = math.sqrt(2.0 * gravity * height_mm)
    heavy = water.added.copy()
    heavy[:3, :3] += afloat.mass_g * np.eye(3)
    heavy[3:, 3:] += np.asarray(inertia_g_mm2, dtype=float)
    light = np.ascontiguousarray(np.linalg.inv(heavy), dtype=np.float64)
    state = np.zeros(STATE)
    state[:4] = _quaternion(up)
    state[4] = above
    if by_hand:
        fall = speed = 0.0
        state[4] = float((centre + afloat.origin) @ up) - height_for_mass(afloat, up, afloat.mass_g)
    # on touching, momentum is kept: the water takes its share, off its middle it turns the body
    struck = np.concatenate(
        [-up * speed * afloat.mass_g, np.asarray(inertia_g_mm2) @ np.asarray(spin_rad_s, dtype=float)]
    )
    state[5:] = light @ struck
    rows = max(2, round(seconds / (STEP_S * FRAME_STEPS)))
    frames, energies = np.empty((rows, 4)), np.empty(rows)
    count, still = play(
        *afloat.arrays, state, heavy, light, water.spin, water.drag, 1.0 if damped else 0.0, STEP_S, FRAME_STEPS,
        QUIET * afloat.scale_nj if damped else -1.0, frames, energies,
    )  # fmt: skip
    ups, high = frames[:count, :3], frames[:count, 3]
    heights = ups @ (centre + afloat.origin) - high
    end = rest_near(afloat, (float(ups[-1, 0]), float(ups[-1, 1]), float(ups[-1, 2]))) if still else None
    return Drop(np.arange(count) * (STEP_S * FRAME_STEPS), ups, heights, energies[:count], end, bool(still), fall)


def throws(
    afloat: Afloat, inertia_g_mm2: Array, rng: np.random.Generator, times: int, height_mm: float,
    at_rad: tuple[float, float] | None = None, by_hand: bool = False, damped: bool = True,
) -> list[Drop]:  # fmt: skip
    """So many drops, each from a random attitude, or from pitch and roll `at_rad` where they are given."""
    seconds = LONGEST_S if damped else UNDAMPED_S
    return [
        drop(afloat, inertia_g_mm2, *(random_attitude(rng) if at_rad is None else at_rad), height_mm, seconds=seconds,
             damped=damped, by_hand=by_hand) for _ in range(times)
    ]  # fmt: skip


def _quaternion(up: Array) -> Array:
    """The smallest turn, body to world, that brings `up` (body axes) upright."""
    x, y, z = up
    if z < -1.0 + 1e-12:
        return np.array([0.0, 1.0, 0.0, 0.0])
    q = np.array([1.0 + z, y, -x, 0.0])
    return q / np.linalg.norm(q)


def random_attitude(rng: np.random.Generator) -> tuple[float, float]:
    """Pitch and roll of a direction even over the sphere."""
    up = rng.normal(size=3)
    return pitch_roll(up / np.linalg.norm(up))


@dataclass(frozen=True)
class Tally:
    """Where many drops ended: how many in each rest, and how many had not come to rest."""

    counts: tuple[int, ...]
    restless: int


def tally(ends: list[Rest | None], rests: tuple[Rest, ...], within_deg: float = 3.0) -> Tally:
    """Count ends by the rest they are; an end on a ring of equal rests counts for that ring."""
    counts, restless = [0] * len(rests), 0
    for end in ends:
        number = None if end is None else which_rest(end, rests, within_deg)
        if number is None:
            restless += 1
        else:
            counts[number] += 1
    return Tally(tuple(counts), restless)


def which_rest(end: Rest, rests: tuple[Rest, ...], within_deg: float = 3.0) -> int | None:
    """Which of the rests an end is; None for none of them."""
    near = int(np.argmax([float(np.dot(r.up, end.up)) for r in rests]))
    if float(np.dot(rests[near].up, end.up)) > math.cos(math.radians(within_deg)):
        return near
    alike = [k for k, r in enumerate(rests) if r.neutral and abs(r.energy_nj - end.energy_nj) < 1e-3 * abs(r.energy_nj)]
    return alike[0] if alike else None
