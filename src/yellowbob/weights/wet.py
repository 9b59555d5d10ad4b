"""Hardware in the water: the small volumes beside the hull that push water aside when they are under."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.design.model import Fitting
from yellowbob.weights.wires import Run


@dataclass(frozen=True)
class PointVolume:
    """A small volume beside the hull: place mm, volume mm³, and the water heights over it from dry to wet, mm."""

    at_mm: tuple[float, float, float]
    volume_mm3: float
    dry_mm: float
    wet_mm: float


def wet_point(fitting: Fitting) -> PointVolume | None:
    """The water that a fitting pushes aside, acting at its place; None for one that displaces nothing.

    A hanging fitting is taken as a thin thing hanging straight down from its eye: dry when the eye is its reach above
    the water, wet when the eye goes under. A rigid one is a ball of its volume.
    """
    volume = fitting.volume_ml * 1000.0
    if volume <= 0.0:
        return None
    if fitting.hanging:
        return PointVolume(fitting.at_mm, volume, -max(fitting.reach_mm, 1e-3), 0.0)
    radius = (3.0 * volume / (4.0 * math.pi)) ** (1.0 / 3.0)
    return PointVolume(fitting.at_mm, volume, -radius, radius)


def wet_run(run: Run, diameter_mm: float) -> PointVolume | None:
    """The water that a stretch of wire outside the body pushes aside, as a ball at its middle; None inside the wood."""
    volume = math.pi / 4.0 * diameter_mm**2 * run.length_mm
    if run.inside or volume <= 0.0:
        return None
    x, y, z = (float(c) for c in (run.start_mm + run.end_mm) / 2)
    radius = max((3.0 * volume / (4.0 * math.pi)) ** (1.0 / 3.0), diameter_mm / 2)
    return PointVolume((x, y, z), volume, -radius, radius)
