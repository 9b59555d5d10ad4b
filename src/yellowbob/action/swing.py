"""Sway, yaw and roll of a build drawn on its line: what it swings at, how wide, and the speed at which it rolls over.

Small motions about a running trim: M·q″ + C·q′ + K·q = f over sway (mm), yaw and roll (rad) in level axes at the centre of
gravity. Hull and plates by `lateral`; buoyancy by the waterplane; the line pulls where it did, so that a turned body turns
its tie out of the line's way, and holds it sideways by tension over length (Strandhagen 1950 for towed hulls). Graded rule.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import j0, j1

from yellowbob.action.lateral import SWAY, Axes, Sides, axes_of, hull_terms, plates_push, sides, stream_terms
from yellowbob.action.periods import Body
from yellowbob.action.running import PLATE, Line, Pulled, Trim
from yellowbob.afloat.immersion import immersed, waterplane
from yellowbob.ground.constants import GRAVITY_MM_S2

Array = NDArray[np.float64]

GRADE = "rule"
SOURCE = "Newman 1977, 4.16; Strandhagen 1950; shedding Fage and Johansen 1927"
STROUHAL = 0.15
"""Rate of shedding over speed per breadth seen from ahead (Fage and Johansen 1927)."""
SHIFTS = 0.1
"""How far the push on a plate moves to a side as it sheds, of its breadth; HULL_SHIFTS the same of a blunt body. Rules."""
HULL_SHIFTS = 0.02
UNEVEN = 0.5
"""Share of the shedding's energy that is not at its own rate but spread from none to twice that. A rule."""
RATES = 400
TRUE_MM, TRUE_DEG = 0.3, 1.0
"""Out of true that a careful bench leaves: tie and ballast to a side, plates turned about the body's axis."""
HEELED_DEG, ROLLED_DEG = 45.0, 90.0
"""Heeled steadily further than this, or rolled further in a swing, it is over."""


SLOW_HZ = 0.3
"""A slower swing than this is a drift to a side."""
ROLL_DAMPED = 0.1
"""Share of critical damping that its own waves and eddies take of a roll: a rule, as for what is dropped."""
MOST_ROLL = 2.4
"""Half-swing in roll beyond which nothing more is told of it, rad."""
WIDEST_DEG = 75.0
"""Half-swing in yaw up to which a swing that grows by itself is followed."""
BISECTED, SHAPED, EASED = 14, 8, 0.5


@dataclass(frozen=True, eq=False)
class Sideways:
    """A running build ready to be moved sideways: matrices (3, 3), sway mm, yaw and roll rad; g, mm, s."""

    trim: Trim
    mass: Array
    stream: tuple[Array, Array]
    """damping and stiffness by what meets the stream"""
    still: Array
    """stiffness by buoyancy, weight and line"""
    cross: tuple[Array, Array]
    """damping and stiffness by cross-flow drag at SWAY"""
    strips: Sides
    sheds: Array
    """(3,) what shedding pushes with, at the rate sheds_hz"""
    sheds_hz: float
    by_mm: Array
    """(3, 2) pushed by a tie, and by ballast, 1 mm to a side"""
    by_deg: Array
    """(3,) pushed by plates turned 1° about the body's axis"""
    axes: Axes

    def at(self, sway: float = SWAY, yaw: float = 0.0, roll: float = 0.0) -> tuple[Array, Array]:
        """(C, K) for a sideways speed over speed ahead and half-swings in yaw and roll, rad.

        Cross-flow drag grows with the speed. The stream meets a body turned by a·sin t with cos² of that, (1 + J₀(2a))/2 on
        average; what goes with the sine of a roll goes by 2·J₁(a)/a of it (describing functions).
        """
        share = sway / SWAY
        met, rolled = (1.0 + float(j0(2.0 * yaw))) / 2.0, 2.0 * float(j1(roll)) / roll if roll > 1e-9 else 1.0
        stream = met * self.stream[1]
        stream[:, 2] *= rolled
        still = self.still.copy()
        still[:, 2] *= rolled
        return met * self.stream[0] + share * self.cross[0], still + stream + share * self.cross[1]

    def modes(self, sway: float = SWAY, yaw: float = 0.0, roll: float = 0.0) -> tuple[Array, Array]:
        """(6,) eigenvalues, 1/s, and (3, 6) their shapes."""
        damping, stiff = self.at(sway, yaw, roll)
        inverse = np.linalg.inv(self.mass)
        system = np.block([[np.zeros((3, 3)), np.eye(3)], [-inverse @ stiff, -inverse @ damping]])
        values, shapes = np.linalg.eig(system)
        return values, shapes[:3]

    def growing(self, sway: float = SWAY, yaw: float = 0.0, roll: float = 0.0) -> tuple[complex, Array]:
        """The oscillation that grows most, or dies least: its eigenvalue and shape (3,); 0 where nothing oscillates."""
        values, shapes = self.modes(sway, yaw, roll)
        swings = np.flatnonzero(values.imag > 2.0 * math.pi * SLOW_HZ)
        if not len(swings):
            return 0j, np.zeros(3)
        k = int(swings[np.argmax(values[swings].real)])
        return complex(values[k]), np.asarray(shapes[:, k])

    def steady(self) -> bool:
        """Whether it comes back when it is turned a little: no static divergence."""
        return bool(np.linalg.det(self.at()[1]) > 0.0)

    def turned(self, mm: float, deg: float) -> Array:
        """(3,) how far it settles off, out of true by so much, each to the side that is worst: sway mm, yaw and roll rad."""
        parts = np.column_stack([mm * self.by_mm, deg * self.by_deg])
        return np.asarray(np.abs(np.linalg.solve(self.at()[1], parts)).sum(axis=1))

    def answers(self, rate: Array) -> Array:
        """(k, 3) complex, its motion under shedding at rates (k,), rad/s."""
        damping, stiff = self.at()
        rate = np.asarray(rate, dtype=float)[:, None, None]
        system = stiff - rate**2 * self.mass + 1j * rate * damping
        return np.asarray(np.linalg.solve(system, np.broadcast_to(self.sheds[:, None], (len(system), 3, 1))))[..., 0]

    def driven(self) -> Array:
        """(3,) amplitudes of sway (mm), yaw and roll (rad) under shedding: root mean square times √2."""
        own = 2.0 * math.pi * max(self.sheds_hz, 1e-6)
        tone = np.abs(self.answers(np.array([own]))[0]) ** 2
        rates = 2.0 * own * (np.arange(RATES) + 0.5) ** 2 / RATES**2
        spread = (np.abs(self.answers(rates)) ** 2 * np.gradient(rates)[:, None]).sum(axis=0) / (2.0 * own)
        return np.asarray(np.sqrt((1.0 - UNEVEN) * tone + UNEVEN * spread))

    def by_itself(self) -> tuple[float, Array] | None:
        """Rate, Hz, and amplitudes (3,) of the swing it settles in by itself, at which what holds it takes what drives it;
        its middle strays besides as the uneven share of the shedding has it.

        None where a small disturbance dies; amplitudes are infinite where nothing holds it up to WIDEST_DEG.
        """
        if self.growing()[0].real <= 0.0:
            return None
        low, high = 0.0, math.radians(WIDEST_DEG)
        value, shape = self._at_yaw(high)
        if value.real > 0.0:
            return value.imag / (2.0 * math.pi), np.full(3, math.inf)
        for _ in range(BISECTED):
            middle = (low + high) / 2.0
            tried, there = self._at_yaw(middle)
            if tried.real > 0.0:
                low, value, shape = middle, tried, there
            else:
                high = middle
        size = np.abs(shape) * low / max(float(abs(shape[1])), 1e-12)
        # more slowly than it swings, it strays on its line as it would without swinging
        slow = 2.0 * math.pi * SLOW_HZ * (np.arange(RATES) + 0.5) / RATES
        strays = np.abs(self.answers(slow)[:, 0]) ** 2
        share = UNEVEN * float(strays.sum()) * float(slow[1] - slow[0]) / (4.0 * math.pi * max(self.sheds_hz, SLOW_HZ))
        size[0] = math.hypot(float(size[0]), math.sqrt(share))
        return value.imag / (2.0 * math.pi), size

    def _at_yaw(self, yaw: float) -> tuple[complex, Array]:
        """The swing that grows most at a half-swing in yaw, its speed sideways and roll those of its own shape."""
        sway, roll, speed = SWAY, 0.0, 1000.0 * self.trim.speed_m_s
        x, z, weight = self.strips.at_mm, self.strips.acts_mm, self.strips.high_mm
        value, shape = self.growing(sway, yaw, roll)
        for _ in range(SHAPED):
            if not abs(shape[1]) > 1e-12:
                return 0j, shape
            shape = shape / shape[1] * yaw
            moves = (shape[0] + x * shape[1] - z * shape[2]) * value + speed * shape[1]
            found = max(SWAY, math.sqrt(float((weight * np.abs(moves) ** 2).sum() / weight.sum())) / speed)
            sway += EASED * (found - sway)
            roll += EASED * (min(float(abs(shape[2])), MOST_ROLL) - roll)
            value, shape = self.growing(sway, yaw, roll)
        return value, shape


@dataclass(frozen=True)
class Swing:
    """How it swings at a speed: rate Hz, half-swings in yaw and roll (degrees; inf where nothing holds it); heel and
    drift to a side of one a little out of true (TRUE_MM, TRUE_DEG); wide_mm: the strip of water that it covers, its
    middle's way from side to side and that drift.

    why: "" while it runs; else what ends it: `turns aside`, `swings over`, `heels over`.
    """

    speed_m_s: float
    hz: float
    by_itself: bool
    yaw_deg: float
    roll_deg: float
    wide_mm: float
    heel_deg: float
    drifts_mm: float
    why: str


def swing_of(moved: Sideways) -> Swing:
    """What a running build does sideways. Where it swings by itself, that; else what shedding drives it to."""
    own = moved.by_itself()
    hz, (sway, yaw, roll) = own if own is not None else (moved.sheds_hz, moved.driven())
    drift = moved.turned(TRUE_MM, TRUE_DEG)
    heel = math.degrees(float(drift[2]))
    why = ""
    if not moved.steady():
        why = "turns aside"
    elif own is not None and not math.degrees(roll) < ROLLED_DEG:
        why = "swings over"
    elif heel > HEELED_DEG:
        why = "heels over"
    wide = 2.0 * float(sway) + float(drift[0])
    return Swing(
        moved.trim.speed_m_s, hz, own is not None, math.degrees(yaw), math.degrees(roll), wide, heel, float(drift[0]), why
    )  # fmt: skip


def _line_terms(at: Array, trim: Trim, line: Line) -> Array:
    """(3, 3) stiffness of the line at a tie (3,), level axes."""
    pull = trim.pull_g * GRAVITY_MM_S2
    ahead, lift = pull * math.cos(trim.line_rad), pull * math.sin(trim.line_rad)
    moved = np.array([1.0, at[0], -at[2]])
    turned = np.array([0.0, at[0], -at[2]])
    stiff = ahead / line.out_mm * np.outer(moved, moved)
    stiff[1] -= ahead * turned
    stiff[2] -= lift * turned
    return stiff


def _afloat_terms(thing: Pulled, trim: Trim, axes: Axes) -> Array:
    build = thing.afloat
    weight = build.density_g_mm3 * GRAVITY_MM_S2
    water = immersed(build, trim.up, trim.height_mm)
    _, _, second = waterplane(build, trim.up, trim.height_mm, axes.centre, axes.aft, axes.across)
    at = axes.of(water.centre_mm)
    stiff = np.zeros((3, 3))
    stiff[2, 2] = weight * (float(second[1][1]) + water.volume_mm3 * float(at[2]))
    stiff[2, 1] = -weight * water.volume_mm3 * float(at[0])
    return stiff


def _shedding(thing: Pulled, plates: Array, push: Array, strips: Sides, speed: float) -> tuple[Array, float]:
    """What shedding pushes with (3,), and its rate, Hz: of plates by their own breadth, of the hull by its beam."""
    wide = max((float(np.ptp(m.vertices[:, 1])) for m, law in thing.skins if law == PLATE), default=0.0)
    beam = 2.0 * float(strips.half_mm.max())
    hull = push - plates
    shed = np.zeros(3)
    for force, broad in ((plates, SHIFTS * wide), (hull, HULL_SHIFTS * beam)):
        # a push (x, z) moved to a side by y turns it by y·z about the axis aft and by -y·x about up
        shed += np.array([0.0, -broad * force[0], broad * force[2]])
    return shed, STROUHAL * speed / max(wide if wide > 0.3 * beam else beam, 1e-6)


def sideways(thing: Pulled, trim: Trim, line: Line, body: Body) -> Sideways | None:
    """Its small motions about a trim; None where it stands still or nothing of it is wet."""
    strips = sides(thing, trim)
    if strips is None or trim.speed_m_s <= 0.0:
        return None
    axes, speed = axes_of(thing, trim), 1000.0 * trim.speed_m_s
    frame = np.stack([axes.aft, axes.across, axes.up])
    inertia = frame @ np.asarray(body.inertia_g_mm2) @ frame.T
    mass, cross_damping, cross_stiff = hull_terms(strips, speed, thing.afloat.density_g_mm3)
    mass = mass + np.array(
        [[thing.afloat.mass_g, 0.0, 0.0], [0.0, inertia[2, 2], inertia[0, 2]], [0.0, inertia[0, 2], inertia[0, 0]]]
    )
    stream_damping, stream_stiff = stream_terms(thing, trim, axes)
    plates = plates_push(thing, trim, axes)
    force = thing.stream(trim.up, trim.height_mm, speed * axes.aft, np.zeros(3))
    push = np.concatenate([frame @ force[:3], frame @ force[3:]])
    tie = axes.of(np.asarray(thing.tie_mm))
    floats = _afloat_terms(thing, trim, axes)
    stiff = _line_terms(tie, trim, line) + floats
    # its own waves and eddies as it rolls
    held = max(float(floats[2, 2] + stream_stiff[2, 2]), 0.0)
    stream_damping[2, 2] += 2.0 * ROLL_DAMPED * math.sqrt(held * float(mass[2, 2]))
    pull = trim.pull_g * GRAVITY_MM_S2
    aside = thing.ballast_g * GRAVITY_MM_S2
    by_mm = np.array([[0.0, 0.0], [pull * math.cos(trim.line_rad), 0.0], [pull * math.sin(trim.line_rad), aside]])
    turn = math.radians(1.0)
    centre = _plates_at(thing, axes)
    by_deg = -turn * plates[2] * np.array([1.0, centre[0], -centre[2]])
    shed, rate = _shedding(thing, plates, push, strips, speed)
    return Sideways(
        trim, mass, (stream_damping, stream_stiff), stiff, (cross_damping, cross_stiff), strips, shed, rate, by_mm, by_deg,
        axes,
    )  # fmt: skip


def _plates_at(thing: Pulled, axes: Axes) -> Array:
    """Middle of the plates, level axes; the centre of gravity without any."""
    places = [m.vertices for m, law in thing.skins if law == PLATE]
    return axes.of(np.concatenate(places).mean(axis=0)) if places else np.zeros(3)
