"""Props and blades that turn in the stream: when they begin, how fast, what they turn the body with, and the heel of that.

Flat blades at an angle to their disc, a plate's normal force (Rayleigh 1876, as `pressure`) at the middle of the blade; the
bearing rubs with the weight of the thing and the stream's push on it. Rule: blades are taken for BLADES_SHARE of the disc.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.discs import prop_disc
from yellowbob.action.running import Trim
from yellowbob.action.swing import Sideways
from yellowbob.design.hardware import Fitting
from yellowbob.ground.constants import GRAVITY_MM_S2

Array = NDArray[np.float64]

GRADE = "rule"
SOURCE = "plates, Rayleigh 1876 and Hoerner 1965, 3-16; rubbing and slip are rules"
BLADES_SHARE = 0.3
"""Of the disc, covered by its blades."""
ARM_SHARE = 0.35
"""Where on it the push acts, of its diameter from its middle."""
RUBS = 0.2
"""Friction of wet metal on wire."""
BEARING_MM = 0.8
"""Radius at which it rubs, where its wire is not known."""
SLIPS = 0.75
"""It turns so much of what the angle of its blades would give without slip."""
TICKS = 2
"""Blades that strike a ticker in a turn."""


@dataclass(frozen=True)
class Carried:
    """What turns along with a blade, such as the tail it is set in: its weight under water, g (negative: it floats), and
    ∫ r³ dA over its skin, mm⁵."""

    wet_g: float = 0.0
    skin_mm5: float = 0.0


NOTHING = Carried()
SKIN = 0.01
"""Friction of a small turned surface in water, of its dynamic pressure. Rule."""


@dataclass(frozen=True)
class Turning:
    """A prop or blade at a speed. Torques mN·mm; signed by the way it turns the body: positive heels its left side up.

    starts_m_s: the speed from which it turns, None for blades without an angle; rate_hz: turns a second, 0 while it stands;
    free: what its bearing passes on; jammed: what it would turn the body with, held fast. Half out of the water, its blades
    push to the side that they sweep below: sides (free, jammed), mN, positive to starboard; at `at_mm`.
    """

    name: str
    wet_share: float
    starts_m_s: float | None
    rate_hz: float
    free: float
    jammed: float
    sides: tuple[float, float] = (0.0, 0.0)
    at_mm: tuple[float, float, float] = (0.0, 0.0, 0.0)

    @property
    def stands_for(self) -> str:
        """Why it turns at no speed; nothing where it does at some."""
        if self.starts_m_s is not None:
            return ""
        return "its blades are out of the water" if self.wet_share <= 0.0 else "its blades have no angle"


def normal_force(meets: float) -> float:
    """Coefficient of a flat plate's push by the sine at which it meets the stream: 1.17 square to it."""
    at_square = 2.0 * math.pi / (4.0 + math.pi)
    return 1.17 / at_square * 2.0 * math.pi * meets / (4.0 + math.pi * meets)


def turning(fitting: Fitting, trim: Trim, density_g_mm3: float, carries: Carried = NOTHING) -> Turning:
    """A prop or blade on a running trim, with what turns along with it. Standing still at no speed.

    What it is set in rubs in the bearing with its weight under water, and drags round with its skin's friction (a rule),
    which slows it: the rate falls until blades and skin balance.
    """
    disc = prop_disc(fitting.name, fitting.at_mm, fitting.span_mm, trim.up, trim.height_mm)
    share = disc.wet_share
    angle = math.radians(abs(fitting.blade_deg))
    speed = 1000.0 * trim.speed_m_s
    arm, radius = ARM_SHARE * fitting.span_mm, fitting.wire_mm / 2.0 or BEARING_MM
    area = BLADES_SHARE * math.pi / 4.0 * fitting.span_mm**2 * share
    # the stream comes along the axis; a blade at an angle to its disc meets it at the cosine of that
    push = 0.5 * density_g_mm3 * area * normal_force(math.cos(angle))
    driving, thrust = push * math.sin(angle) * arm, push * math.cos(angle)
    wet_g = max(fitting.mass_g - 1000.0 * density_g_mm3 * fitting.volume_ml * share, 0.0)
    weighs = (wet_g + abs(carries.wet_g)) * GRAVITY_MM_S2
    spare = driving - RUBS * thrust * radius
    starts = math.sqrt(RUBS * weighs * radius / spare) / 1000.0 if spare > 1e-12 and angle > 0.0 else None
    if fitting.hand == "left":
        way = -1.0
    else:
        way = 1.0
    way *= math.copysign(1.0, fitting.blade_deg)
    jammed = driving * speed * speed
    rubs = RUBS * (weighs + thrust * speed * speed) * radius
    turns = starts is not None and trim.speed_m_s > starts
    rate = SLIPS * speed / (2.0 * math.pi * arm * math.tan(angle)) if turns else 0.0
    if turns and carries.skin_mm5 > 0.0:
        # push left at a share s of the rate without load: driving·(1 - s); skin: half·density·friction·∫r³dA·(2π·rate·s)²
        skin = 0.5 * density_g_mm3 * SKIN * carries.skin_mm5 * (2.0 * math.pi * rate) ** 2
        spare_torque = max(driving * speed * speed - rubs, 0.0)
        rate *= (
            2.0 * spare_torque / (spare_torque + math.sqrt(spare_torque**2 + 4.0 * skin * spare_torque))
            if spare_torque
            else 0.0
        )
    passed, held = (way * torque / 1000.0 for torque in (rubs if turns else min(rubs, jammed), jammed))
    # turned so that its left side comes up, a blade at the bottom pushes to the left
    sides = (-disc.sideways * passed / arm, -disc.sideways * held / arm)
    return Turning(fitting.name, share, starts, rate, passed, held, sides, fitting.at_mm)


@dataclass(frozen=True)
class Heel:
    """What all props and blades do together at a speed: heel by what their bearings pass on, and with all jammed, degrees
    (None: over); the mass at the keel that would hold the jammed one under KEPT_DEG, g. sides_g: what those half out of the
    water push with to starboard, free and jammed, in grams; asides_mm: how far to starboard of the rod it then runs with the
    line that is out, None where nothing brings it back."""

    speed_m_s: float
    each: tuple[Turning, ...]
    heel_deg: float | None
    jammed_deg: float | None
    keel_g: float
    sides_g: tuple[float, float] = (0.0, 0.0)
    asides_mm: tuple[float | None, float | None] = (0.0, 0.0)


KEPT_DEG = 10.0


def heel_of(
    fittings: tuple[tuple[Fitting, Carried], ...], moved: Sideways, density_g_mm3: float, keel_mm: float
) -> Heel:
    """Heel by props and blades on a running build; keel_mm: how far the keel's weight would lie under its centre of
    gravity."""
    each = tuple(turning(f, moved.trim, density_g_mm3, along) for f, along in fittings)
    stiffness = moved.at()[1]
    stiff = float(stiffness[2, 2])
    pushed = [_pushes(each, moved, n) for n in (0, 1)]
    free, jammed = (abs(float(push[2])) for push in pushed)
    needed = jammed / math.sin(math.radians(KEPT_DEG))
    keel = max(needed - stiff, 0.0) / (GRAVITY_MM_S2 * max(keel_mm, 1.0)) if jammed > 0.0 else 0.0
    sides = tuple(float(push[0]) / GRAVITY_MM_S2 for push in pushed)
    # their own turning of the body is its heel; to a side it runs by what pushes it there
    asides = tuple(
        (float(np.linalg.solve(stiffness, push)[0]) if moved.steady() else None) if push[0] else 0.0 for push in pushed
    )
    return Heel(
        moved.trim.speed_m_s, each, _heel(free, stiff), _heel(jammed, stiff), keel, (sides[0], sides[1]),
        (asides[0], asides[1]),
    )  # fmt: skip


def _pushes(each: tuple[Turning, ...], moved: Sideways, stuck: int) -> Array:
    """(3,) to starboard (µN), and about the upward and aft axes (µN·mm) through the centre of gravity, of all of them."""
    out = np.zeros(3)
    for one in each:
        aft, _, over = moved.axes.of(np.asarray(one.at_mm))
        side, torque = 1000.0 * one.sides[stuck], 1000.0 * (one.free, one.jammed)[stuck]
        out += (side, aft * side, -torque - over * side)
    return out


def _heel(torque: float, stiff: float) -> float | None:
    share = torque / stiff if stiff > 0.0 else math.inf
    if torque <= 0.0:
        return 0.0
    return math.degrees(float(np.arcsin(share))) if share < 1.0 else None
