"""A float in a chop and in a current: how far it follows the waves, the tip it needs, what draws it under."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.action.periods import Body, Periods, level_axes, periods
from yellowbob.action.wetted import strips
from yellowbob.afloat.immersion import waterplane_of
from yellowbob.afloat.rest import Afloat, Rest
from yellowbob.ground.constants import GRAVITY_MM_S2, SURFACE_TENSION_G_S2
from yellowbob.ground.errors import BadInput
from yellowbob.lines.clipped import below

ACROSS_CD = 1.1
"""Drag of a round body square to the flow, on its shadow (Hoerner 1965, 3-9)."""
DAMPED = 0.1
"""Share of critical damping of a bob: a rule for small bodies at the surface."""
YOUNG_CHOP = 12.0
"""Length of a young chop's waves over their height: a rule."""
STEEPEST = 7.0
"""Waves shorter than so many heights break (Michell 1893)."""
LAYERS = 60
NEAR_PERIOD = (0.75, 1.35)
"""Waves whose period over the bob's lies between are in step with it."""


@dataclass(frozen=True)
class Chop:
    """Regular waves in deep water: height from trough to crest and length, mm."""

    height_mm: float
    length_mm: float
    density_g_mm3: float

    @property
    def number(self) -> float:
        """2π over the length, 1/mm."""
        return 2.0 * math.pi / self.length_mm

    @property
    def rate(self) -> float:
        """Angular frequency, 1/s: ω² = gk + γk³/ρ (Lamb 1932, art. 267)."""
        k = self.number
        return math.sqrt(GRAVITY_MM_S2 * k + SURFACE_TENSION_G_S2 * k**3 / self.density_g_mm3)

    @property
    def period_s(self) -> float:
        """From crest to crest."""
        return 2.0 * math.pi / self.rate


def chop(height_mm: float, length_mm: float | None, density_g_mm3: float) -> Chop:
    """Waves of a height, of a length or as young chop has it. Raises BadInput for waves that cannot be."""
    if not (math.isfinite(height_mm) and 0.0 < height_mm <= 2000.0):
        raise BadInput(f"waves {height_mm:g} mm high: give more than 0 and at most 2 m")
    long = YOUNG_CHOP * height_mm if length_mm is None else length_mm
    if not (math.isfinite(long) and STEEPEST * height_mm <= long <= 1e5):
        raise BadInput(
            f"waves {height_mm:g} mm high and {long:g} mm long: under {STEEPEST:g} times their height they break; give "
            f"{STEEPEST * height_mm:g} mm to 100 m"
        )
    return Chop(height_mm, long, density_g_mm3)


@dataclass(frozen=True)
class Rough:
    """In a chop. follows: its bob over the waves' own; needs_mm: how far its end is dipped under the mean tip it shows."""

    chop: Chop
    periods: Periods
    follows: float
    needs_mm: float
    in_step: bool


def layers(afloat: Afloat, rest: Rest) -> tuple[np.ndarray, np.ndarray]:
    """Depths under the surface (n,), mm, and the hull's section there, mm²."""
    up = np.asarray(rest.up)
    low = float((afloat.hull.vertices @ up).min())
    depth = (rest.height_mm - low) * (np.arange(LAYERS) + 0.5) / LAYERS
    return depth, np.array([waterplane_of(afloat, up, rest.height_mm - d) for d in depth])


@dataclass(frozen=True, eq=False)
class Riding:
    """A build at its rest, ready to be put on any waves: its periods, and its sections (n,) mm² at depths (n,) mm."""

    afloat: Afloat
    rest: Rest
    periods: Periods
    depth_mm: np.ndarray
    area_mm2: np.ndarray

    def bob(self, waves: Chop) -> complex:
        """Its heave over the waves' elevation, as a complex number.

        Pressure of the undisturbed wave on the hull (Froude and Krylov), the water's acceleration on the added mass, and
        damping on the difference of speeds (Newman 1977, 6.14 to 6.16); small body, long waves.
        """
        k, w, density = waves.number, waves.rate, self.afloat.density_g_mm3
        step = float(self.depth_mm[1] - self.depth_mm[0])
        stiff = density * GRAVITY_MM_S2 * self.rest.waterplane_mm2
        mass = self.afloat.mass_g + self.periods.added_g
        damping = 2.0 * DAMPED * math.sqrt(stiff * mass)
        faded = float((self.area_mm2 * np.exp(-k * self.depth_mm)).sum())
        pressed = stiff - density * GRAVITY_MM_S2 * k * faded * step
        felt = faded / max(float(self.area_mm2.sum()), 1e-12)
        force = pressed - w * w * self.periods.added_g * felt + 1j * w * damping * felt
        return complex(force / (stiff - w * w * mass + 1j * w * damping))

    def on(self, waves: Chop) -> Rough:
        """How it rides regular waves: graded textbook for the bob, its tilting left out."""
        moves, own = self.bob(waves), self.periods.heave_s or math.inf
        step = NEAR_PERIOD[0] < waves.period_s / own < NEAR_PERIOD[1]
        return Rough(waves, self.periods, abs(moves), abs(moves - 1.0) * waves.height_mm / 2.0, step)


def riding(afloat: Afloat, rest: Rest, body: Body) -> Riding:
    """A build made ready to ride."""
    return Riding(afloat, rest, periods(afloat, rest, body), *layers(afloat, rest))


@dataclass(frozen=True)
class Current:
    """Held by the line below it in a current. speeds m/s, angles degrees from upright."""

    drag_area_mm2: float
    drag_g: float
    """at the speed asked for, in grams of pull"""
    leans_deg: float
    under_m_s: float | None
    """the speed that draws its end under; None where the line pulls level and nothing does"""


def in_current(
    afloat: Afloat, rest: Rest, held_mm: tuple[float, float, float], speed_m_s: float, line_deg: float
) -> Current:
    """Held at a point by a line that slants down at an angle to the level, in a steady current.

    Drag ½ρ·Cd·A·V² on the wetted shadow; the line pulls level as much as that, and down tan(angle) times as much; it leans by
    drag over righting moment about the point. An estimate: the line's own drag and the eddies of its lean are left out.
    """
    if not (math.isfinite(speed_m_s) and 0.0 <= speed_m_s <= 10.0):
        raise BadInput(f"a current of {speed_m_s:g} m/s: give 0 to 10")
    if not 0.0 <= line_deg < 90.0:
        raise BadInput(f"a line {line_deg:g}° under the level: give 0 to less than 90")
    up = np.asarray(rest.up)
    _, across = level_axes(up)
    skin = below(afloat.hull.corners, up, rest.height_mm)
    standing = strips(skin, up, across)
    area = ACROSS_CD * 2.0 * float(standing.half_mm.sum()) * standing.step_mm
    middle = float(standing.half_mm @ standing.at_mm / max(standing.half_mm.sum(), 1e-12))
    held = float(np.asarray(held_mm) @ up)
    per_speed = 0.5 * afloat.density_g_mm3 * area * 1e6  # µN at 1 m/s
    drag = per_speed * speed_m_s**2
    weight = afloat.mass_g * GRAVITY_MM_S2
    righting = weight * float((np.asarray(rest.buoyancy_mm) - afloat.centre_mm) @ up)
    leans = math.degrees(math.atan2(drag * abs(middle - held), righting)) if righting > 0.0 else 90.0
    spare = (afloat.density_g_mm3 * afloat.volume_mm3 - afloat.mass_g) * GRAVITY_MM_S2
    slope = math.tan(math.radians(line_deg))
    under = math.sqrt(spare / (per_speed * slope)) if slope > 1e-9 and spare > 0.0 else None
    return Current(area, drag / GRAVITY_MM_S2, leans if drag > 0.0 else 0.0, under)
