"""Discs across the water: how much of one is above it; a prop's, at rest and on the run."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def dry_share(radius: Array, level: Array, slope: float) -> Array:
    """Share of discs of a radius that is above a plane: height over it is level + slope·p, p from -radius to radius."""
    if slope < 1e-12:
        return (level > 0.0).astype(float)
    at = np.clip(-level / slope / np.maximum(radius, 1e-12), -1.0, 1.0)
    return np.asarray((np.arccos(at) - at * np.sqrt(1.0 - at * at)) / math.pi)


@dataclass(frozen=True)
class Disc:
    """A prop's disc, square to the body's axis: share of its area under water, and how deep its hub lies, mm; sideways: of
    the push that turns it, spread evenly over what is wet, what is left to a side (0 all under, 2/π half, 1 a tip's)."""

    name: str
    wet_share: float
    hub_deep_mm: float
    sideways: float = 0.0


def prop_disc(name: str, at_mm: tuple[float, float, float], across_mm: float, up: Array, height_mm: float) -> Disc:
    """How a prop's disc lies in the water (plane x·up = height). Exact; the blades are not looked at."""
    level = float(np.asarray(at_mm) @ up) - height_mm
    slope = math.hypot(float(up[1]), float(up[2]))
    dry = float(dry_share(np.array([across_mm / 2.0]), np.array([level]), slope)[0])
    return Disc(name, 1.0 - dry, -level, _sideways(across_mm / 2.0, level / max(slope, 1e-12), 1.0 - dry))


def _sideways(radius: float, level: float, wet: float) -> float:
    """Mean of the sideways part of a push round the hub over what is wet of a disc, its hub at a level over the water.

    ∫ -z/r dA below the chord: R·√(R² - c²) - c²·arcosh(R/c) on either side of the hub, over the wet area.
    """
    c = abs(level)
    if c >= radius or wet <= 0.0:
        return 0.0
    root = math.sqrt(radius * radius - c * c)
    left = radius * root - (c * c * math.acosh(radius / c) if c > 1e-9 * radius else 0.0)
    return left / (wet * math.pi * radius * radius)
