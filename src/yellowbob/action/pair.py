"""Two bodies thrown together: a float or dropper and what hangs on its leader, held by a thread that only pulls.

The float flies as `flight` has it; what hangs is a ball. The thread is a stiff spring that bears no push. Units mm, g, s.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.flight import AIR_G_MM3, LONGEST_S, SPHERE_CD, Thrown
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

GRADE = "rule"
RINGS_HZ = 80.0
"""How fast the thread rings: stiff against all else."""
DAMPED = 0.2
"""Share of critical damping of the thread."""
SLACK = 0.5
"""A thread that goes slack by more than this share of itself may loop round the float."""
ROWS = 400


@dataclass(frozen=True)
class Hung:
    """What hangs: mass g, density g/mL, at the end of a thread of a length mm, held at a place aft of the float's centre of
    gravity, mm."""

    mass_g: float
    density_g_ml: float
    leader_mm: float
    at_mm: float


@dataclass(frozen=True, eq=False)
class PairFlight:
    """Times (k,); places of the float's centre and of what hangs (k, 2); pitches (k,) of the float; mm, rad, s."""

    times_s: Array
    float_mm: Array
    hung_mm: Array
    pitches_rad: Array
    range_mm: float
    """of their common centre when the first touches the water"""
    turns: float
    """of the line between them, over the bending of the path"""
    leads: str
    slack: float
    """most of the thread that hung loose, as a share of it, once it had drawn straight"""
    energies: Array
    """kinetic, of height and in the thread, nJ"""

    @property
    def tangles(self) -> bool:
        """Whether the thread went so slack that it may loop round the float."""
        return self.slack > SLACK


@dataclass(frozen=True, eq=False)
class _Pair:
    """Both as they fly: the float's own terms for `flight_kernel`, the ball's drag over speed², the thread's stiffness and
    damping."""

    thrown: Thrown
    hung: Hung
    terms: tuple[Any, ...]
    drag: float
    stiff: float
    loses: float

    def thread(self, state: Array) -> tuple[Array, Array, float]:
        """Pull on the float (2,), arm of its eye (2,), stretch."""
        nose = np.array([math.cos(state[4]), math.sin(state[4])])
        arm = -nose * self.hung.at_mm
        moves = state[2:4] + state[5] * np.array([-arm[1], arm[0]])
        apart = state[6:8] - state[:2] - arm
        far = float(np.hypot(*apart))
        stretch = far - self.hung.leader_mm
        if stretch <= 0.0 or far < 1e-9:
            return np.zeros(2), arm, 0.0
        way = apart / far
        pull = max(self.stiff * stretch + self.loses * float((state[8:10] - moves) @ way), 0.0)
        return pull * way, arm, stretch

    def rates(self, _: float, state: Array) -> Array:
        """Of the float's place, speed, pitch and spin, and of the ball's place and speed."""
        from yellowbob.action.flight_kernel import rates

        made = np.empty(10)
        rates(*(state[:6], *self.terms, made[:6]))
        pull, arm, _stretch = self.thread(state)
        made[2:4] += pull / self.thrown.mass_g
        made[5] += float(arm[0] * pull[1] - arm[1] * pull[0]) / self.thrown.inertia_g_mm2
        v = state[8:10]
        made[6:8] = v
        made[8:10] = (-self.drag * float(np.hypot(*v)) * v - pull) / self.hung.mass_g
        made[9] -= GRAVITY_MM_S2
        return made


def _pair(thrown: Thrown, hung: Hung, air_g_mm3: float, damped: float) -> _Pair:
    across, along, crossing, munk = thrown.coefficients()
    terms = (thrown.mass_g, thrown.inertia_g_mm2, thrown.at_mm, thrown.wide_mm, thrown.step_mm, thrown.front_mm2,
             munk * thrown.volume_mm3, across, along, crossing, air_g_mm3, GRAVITY_MM_S2, 0.0, 0.0)  # fmt: skip
    radius = (3.0 * 1000.0 * hung.mass_g / hung.density_g_ml / (4.0 * math.pi)) ** (1.0 / 3.0)
    reduced = thrown.mass_g * hung.mass_g / (thrown.mass_g + hung.mass_g)
    stiff = reduced * (2.0 * math.pi * RINGS_HZ) ** 2
    drag = 0.5 * air_g_mm3 * SPHERE_CD * math.pi * radius**2
    return _Pair(thrown, hung, terms, drag, stiff, 2.0 * damped * math.sqrt(stiff * reduced))


class _Touches:
    """The event that ends a flight: one of the two comes down to the water."""

    terminal, direction = True, -1.0

    def __call__(self, _: float, state: Array) -> float:
        return float(min(state[1], state[7]))


def fly_pair(
    thrown: Thrown, hung: Hung, speed_m_s: float, angle_deg: float, height_m: float = 2.0, air_g_mm3: float = AIR_G_MM3,
    damped: float = DAMPED, spin_rad_s: float = 0.0,
) -> PairFlight:  # fmt: skip
    """Throw both, what hangs leading, until the first of them touches the water. Raises BadInput for what cannot be.

    spin_rad_s: of the line between them as they leave, turning nose up positive.
    """
    if not (hung.mass_g > 0.0 and hung.leader_mm > 0.0 and hung.density_g_ml > 0.0):
        raise BadInput("what hangs on the leader needs a mass and a thread of some length")
    from scipy.integrate import solve_ivp

    both = _pair(thrown, hung, air_g_mm3, damped)
    angle, v = math.radians(angle_deg), 1000.0 * speed_m_s
    nose = np.array([math.cos(angle), math.sin(angle)])
    square = np.array([-nose[1], nose[0]])
    # what hangs leads; the float follows with the end that it hangs from ahead
    pitch = angle + (math.pi if hung.at_mm > 0.0 else 0.0)
    far = abs(hung.at_mm) + hung.leader_mm
    share = far * hung.mass_g / (thrown.mass_g + hung.mass_g)
    start = np.array([0.0, 1000.0 * height_m])
    state = np.concatenate([
        start, v * nose - spin_rad_s * share * square, [pitch, spin_rad_s], start + far * nose,
        v * nose + spin_rad_s * (far - share) * square,
    ])  # fmt: skip

    done = solve_ivp(both.rates, (0.0, LONGEST_S), state, method="DOP853", events=_Touches(), rtol=1e-7, atol=1e-4,
                     max_step=0.02, dense_output=True)  # fmt: skip
    times = np.linspace(0.0, float(done.t[-1]), ROWS)
    return _told(both, times, done.sol(times).T)


def _told(both: _Pair, times: Array, rows: Array) -> PairFlight:
    thrown, hung = both.thrown, both.hung
    whole = thrown.mass_g + hung.mass_g
    middle = (thrown.mass_g * rows[:, :2] + hung.mass_g * rows[:, 6:8]) / whole
    apart = rows[:, 6:8] - rows[:, :2]
    path = np.gradient(middle, times, axis=0)
    bent = np.unwrap(np.arctan2(path[:, 1], path[:, 0]))
    line = np.unwrap(np.arctan2(apart[:, 1], apart[:, 0]))
    turns = abs(float((line[-1] - line[0]) - (bent[-1] - bent[0]))) / (2.0 * math.pi)
    half = len(times) // 2
    cosine = float(np.cos(line[half:] - bent[half:]).mean())
    leads = "what hangs" if cosine > 0.6 else "the float" if cosine < -0.6 else "neither"
    stretches = np.array([both.thread(row)[2] for row in rows])
    eyes = rows[:, :2] - np.stack([np.cos(rows[:, 4]), np.sin(rows[:, 4])], axis=1) * hung.at_mm
    reach = np.hypot(*(rows[:, 6:8] - eyes).T)
    slack = 1.0 - float(reach.min()) / hung.leader_mm
    moving = (
        0.5 * thrown.mass_g * (rows[:, 2:4] ** 2).sum(axis=1) + 0.5 * thrown.inertia_g_mm2 * rows[:, 5] ** 2
        + 0.5 * hung.mass_g * (rows[:, 8:10] ** 2).sum(axis=1)
    )  # fmt: skip
    high = GRAVITY_MM_S2 * (thrown.mass_g * rows[:, 1] + hung.mass_g * rows[:, 7])
    energies = moving + high + 0.5 * both.stiff * stretches**2
    return PairFlight(
        times, rows[:, :2], rows[:, 6:8], rows[:, 4], float(middle[-1, 0]), turns, leads, max(slack, 0.0), energies
    )  # fmt: skip
