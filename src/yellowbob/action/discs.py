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
    """A prop's disc, square to the body's axis: share of its area under water, and how deep its hub lies, mm."""

    name: str
    wet_share: float
    hub_deep_mm: float


def prop_disc(name: str, at_mm: tuple[float, float, float], across_mm: float, up: Array, height_mm: float) -> Disc:
    """How a prop's disc lies in the water (plane x·up = height). Exact; the blades are not looked at."""
    level = float(np.asarray(at_mm) @ up) - height_mm
    slope = math.hypot(float(up[1]), float(up[2]))
    dry = float(dry_share(np.array([across_mm / 2.0]), np.array([level]), slope)[0])
    return Disc(name, 1.0 - dry, -level)
