"""A popper's mouth: how much its cup holds, what of it stands in air at rest, which way it looks, what it scoops."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.discs import dry_share
from yellowbob.design.cuts import Cup
from yellowbob.lines.cutting import cup_axis

Array = NDArray[np.float64]

SLICES = 400
TWITCH_MM = 100.0
"""A twitch that the scoop is told for."""
SOURCE = "geometry of the cup at its rest; what is scooped is rim area under water times the way"


@dataclass(frozen=True)
class Mouth:
    """Areas mm², volumes mm³. air_share: of its room, above the water at rest; wet_rim_share: of its rim's area, under water.

    looks_deg: the way it faces, over the level; tie_over_mm: the tie over its middle, along the rim; scoops_mm3: through the
    wet part of the rim over TWITCH_MM, at most.
    """

    name: str
    area_mm2: float
    volume_mm3: float
    air_share: float
    wet_rim_share: float
    looks_deg: float
    tie_over_mm: float
    scoops_mm3: float

    @property
    def air_mm3(self) -> float:
        """Air that it holds as it lies."""
        return self.air_share * self.volume_mm3


def mouth(cut: Cup, up: Array, height_mm: float, tie_mm: tuple[float, float, float]) -> Mouth:
    """A cup as finished, at a rest (water plane x·up = height). Exact for the part of a ball or ellipsoid that it is."""
    inward = cup_axis(cut)
    above = np.cross(inward, np.array([0.0, 1.0, 0.0]))
    radius, deep = cut.diameter_mm / 2.0, cut.depth_mm
    wide = (cut.width_mm or cut.diameter_mm) / cut.diameter_mm
    ball = (radius * radius + deep * deep) / (2.0 * deep)
    s = (np.arange(SLICES) + 0.5) / SLICES * deep
    across = np.sqrt(np.maximum(ball**2 - (ball - deep + s) ** 2, 0.0))
    centre = np.array([cut.rim_x_mm, 0.0, cut.z_mm])
    level = float(centre @ up) - height_mm + s * float(inward @ up)
    slope = math.hypot(float(above @ up), wide * float(up[1]))
    room = across**2
    air = float((room * dry_share(across, level, slope)).sum() / room.sum())
    rim_level = np.array([float(centre @ up) - height_mm])
    wet = 1.0 - float(dry_share(np.array([radius]), rim_level, slope)[0])
    area = math.pi * radius * radius * wide
    volume = math.pi * deep * (3.0 * radius**2 + deep**2) / 6.0 * wide
    looks = math.degrees(math.asin(max(-1.0, min(1.0, -float(inward @ up)))))
    tie = float((np.asarray(tie_mm) - centre) @ above)
    return Mouth(cut.name, area, volume, air, wet, looks, tie, area * wet * TWITCH_MM)
