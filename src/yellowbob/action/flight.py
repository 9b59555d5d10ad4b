"""A throw: planar flight with pitch freedom through still air, from the rod's tip to the splash.

The body is a row of strips along its axis. Each strip is pushed square to the axis by the air it meets there, its own turning
in it, by cross-flow drag (Hoerner 1965, 3-11: Cd of the strip's shadow); what flows along it drags on its end. A slender body
at an angle is turned broadside by ½ρV²·sin 2α·(k₂ - k₁)·volume besides (Munk 1924). The line trails from the tie and
pulls straight back by a rule, so ranges are for comparing. Units mm, g, s; x forward, z up, angles from level, nose-up
positive.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.wetted import along_share
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

AIR_G_MM3 = 1.225e-6
"""Standard air at sea level, 15 °C (ISO 2533)."""
SPHERE_CD = 0.47
LONG_CD = 1.1
"""Cross-flow drag of a very long round body; shorter ones have less, down to a sphere's (Hoerner 1965, 3-16)."""
STREAMLINED_CD, BLUNT_CD = 0.1, 0.75
"""Along the axis, on the greatest section: of a streamlined body, and what a flat end adds."""
STEP_S = 0.0005
EVERY = 8
LONGEST_S = 20.0
STRIPS = 40
DART_CD = 0.1
TRAIL = 5e-5
"""Pull of the line that runs out, over the square of the speed, g/mm: 0.02 N at 20 m/s, a rule for thin line."""


@dataclass(frozen=True, eq=False)
class Thrown:
    """What flies. at_mm (n,) places of strips along the axis, aft of the centre of gravity; wide_mm (n,) shadow's breadth
    there; step_mm; front_mm2 the greatest section; volume_mm3; inertia_g_mm2 about the level axis across it."""

    mass_g: float
    inertia_g_mm2: float
    at_mm: Array
    wide_mm: Array
    step_mm: float
    front_mm2: float
    volume_mm3: float
    blunt: float = 0.0
    """share of the greatest section that is flat, square to the axis"""
    tie_mm: float | None = None
    """where the line trails from, aft of the centre of gravity; None: nothing trails"""

    @property
    def length_mm(self) -> float:
        """Of all strips together."""
        return self.step_mm * len(self.at_mm)

    @property
    def slender(self) -> float:
        """Length over the mean breadth of its shadow."""
        return self.length_mm**2 / max(float(self.wide_mm.sum()) * self.step_mm, 1e-9) * math.pi / 4.0

    @property
    def side_at_mm(self) -> float:
        """Middle of the side's area, aft of the centre of gravity."""
        return float(self.wide_mm @ self.at_mm / self.wide_mm.sum())

    def coefficients(self) -> tuple[float, float, float, float]:
        """Cd across and along; how far the cross-flow principle holds (0 for a ball, 1 for a long body); Munk's k₂ - k₁."""
        long = max(self.slender, 1.0)
        across = LONG_CD - (LONG_CD - SPHERE_CD) / math.sqrt(long)
        smooth = STREAMLINED_CD + (SPHERE_CD - STREAMLINED_CD) / long**2
        half, radius = self.length_mm / 2.0, math.sqrt(self.front_mm2 / math.pi)
        munk = along_share(radius, half, radius) - along_share(half, radius, radius) if long > 1.0 + 1e-9 else 0.0
        return across, smooth + BLUNT_CD * self.blunt, min((long - 1.0) / 3.0, 1.0), max(munk, 0.0)


@dataclass(frozen=True, eq=False)
class Flight:
    """Times (k,) s; places (k, 2) mm forward and up; pitches (k,) rad, unwound; speeds (k,) mm/s."""

    times_s: Array
    places_mm: Array
    pitches_rad: Array
    speeds_mm_s: Array

    @property
    def range_mm(self) -> float:
        """Where it meets the water."""
        return float(self.places_mm[-1, 0])

    @property
    def turns(self) -> float:
        """Turns in the air over and above the path's own bending; absolute."""
        path = np.diff(self.places_mm, axis=0)
        bent = np.unwrap(np.arctan2(path[:, 1], path[:, 0]))
        turned = (self.pitches_rad[-1] - self.pitches_rad[0]) - (bent[-1] - bent[0])
        return abs(float(turned)) / (2.0 * math.pi)

    @property
    def off_rad(self) -> Array:
        """(k - 1,) the nose over its path, -π to π."""
        path = np.diff(self.places_mm, axis=0)
        off = self.pitches_rad[1:] - np.arctan2(path[:, 1], path[:, 0])
        return np.asarray(np.arctan2(np.sin(off), np.cos(off)))

    @property
    def leads(self) -> float:
        """Which end leads in the second half: mean cosine of the nose to its path, 1 nose first, -1 tail first."""
        return float(np.cos(self.off_rad[len(self.times_s) // 2 :]).mean())


def fly(
    thrown: Thrown, speed_m_s: float, angle_deg: float, height_m: float = 2.0, pitch_off_deg: float = 0.0,
    spin_rad_s: float = 0.0, air_g_mm3: float = AIR_G_MM3,
) -> Flight:  # fmt: skip
    """Throw it, nose along its path but for `pitch_off_deg`, at a speed and angle over the level from a height.

    Raises BadInput for a throw that cannot be.
    """
    for value, least, most, words in (
        (speed_m_s, 0.1, 100.0, "a speed in m/s"), (angle_deg, -80.0, 89.0, "an angle in degrees"),
        (height_m, 0.01, 50.0, "a height in m"),
    ):  # fmt: skip
        if not (math.isfinite(value) and least <= value <= most):
            raise BadInput(f"{words} of {value:g}: give {least:g} to {most:g}")
    angle = math.radians(angle_deg)
    v = speed_m_s * 1000.0
    state = np.array(
        [
            0.0,
            height_m * 1000.0,
            v * math.cos(angle),
            v * math.sin(angle),
            angle + math.radians(pitch_off_deg),
            spin_rad_s,
        ]
    )
    from yellowbob.action.flight_kernel import play  # late: it brings the compiler with it

    across, along, crossing, munk = thrown.coefficients()
    rows = np.empty((int(LONGEST_S / STEP_S / EVERY) + 2, 7))
    count = play(
        state, thrown.mass_g, thrown.inertia_g_mm2, thrown.at_mm, thrown.wide_mm, thrown.step_mm, thrown.front_mm2,
        munk * thrown.volume_mm3, across, along, crossing, air_g_mm3, GRAVITY_MM_S2, thrown.tie_mm or 0.0,
        0.0 if thrown.tie_mm is None else TRAIL, STEP_S, EVERY, rows,
    )  # fmt: skip
    rows = rows[:count]
    return Flight(rows[:, 0].copy(), rows[:, 1:3].copy(), rows[:, 5].copy(), np.hypot(rows[:, 3], rows[:, 4]))


def dart_of(thrown: Thrown) -> Thrown:
    """A smooth dart of the same mass and greatest section: it always points where it flies."""
    far = np.array([60.0])
    return Thrown(
        thrown.mass_g, thrown.mass_g * 100.0, far, np.array([4.0]), 4.0, thrown.front_mm2 * DART_CD / SPHERE_CD, 0.0
    )


@dataclass(frozen=True, eq=False)
class Cast:
    """A throw and what it says. flies: in words; index: the centre of gravity ahead of the middle of its side, of its length;
    landing_rad: pitch at the splash."""

    flight: Flight
    dart_mm: float
    index: float
    flies: str

    @property
    def share(self) -> float:
        """Range over the dart's."""
        return self.flight.range_mm / self.dart_mm

    @property
    def landing_rad(self) -> float:
        """Pitch at the splash, -π to π."""
        pitch = float(self.flight.pitches_rad[-1])
        return math.atan2(math.sin(pitch), math.cos(pitch))


TUMBLES = 1.25
"""Turns in the air from which on it tumbles: half a turn more than swinging round once takes."""
LEADS = 0.6
"""An end leads whose mean cosine to the path is more than this; else it goes broadside."""
START_OFF_DEG = 12.0
"""A hand never lets go quite straight."""


def cast(thrown: Thrown, speed_m_s: float, angle_deg: float, height_m: float = 2.0, nose_first: bool = True) -> Cast:
    """Throw it as a line does, the tied end leading by START_OFF_DEG off, and say how it flies. Graded rule."""
    off = START_OFF_DEG if nose_first else 180.0 - START_OFF_DEG
    flight = fly(thrown, speed_m_s, angle_deg, height_m, off)
    straight = fly(dart_of(thrown), speed_m_s, angle_deg, height_m)
    if flight.turns > TUMBLES:
        words = "tumbles"
    elif abs(flight.leads) > LEADS:
        words = "flies nose first" if flight.leads > 0.0 else "flies tail first"
    else:
        words = "goes broadside"
    return Cast(flight, straight.range_mm, thrown.side_at_mm / thrown.length_mm, words)
