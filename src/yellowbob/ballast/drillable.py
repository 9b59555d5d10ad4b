"""How well a hole can be drilled: how slender it is, the bit it needs, and the wall that the bit's wander leaves."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from yellowbob.lines.drill import Hole
from yellowbob.lines.hole_walls import WANDER_DEG, wall_mm
from yellowbob.lines.mesh import Mesh
from yellowbob.shelf.items import Bit

EASY_TIMES, MOST_TIMES = 5.0, 14.0
"""Depth over diameter up to which a hole is drilled by hand without thought, and beyond which none is offered: rules."""
CLOSE_MM = 0.051
"""A bit is the right one when it is so near the wanted diameter: half the step of a set by tenths."""


@dataclass(frozen=True)
class Drillable:
    """One hole's figures. wall_mm is what is left with the bit off by its wander; bit is empty where none is long enough."""

    times: float
    wall_mm: float
    least_mm: float
    bit: str
    skates: bool = False
    """the outside where it goes in slopes so much that the bit slides off: what is thin lies at the mouth itself"""

    @property
    def refused(self) -> str:
        """Why it is not offered, in words; empty when it can be."""
        if self.times > MOST_TIMES:
            return f"the hole would be over {MOST_TIMES:g} times as deep as wide"
        if not self.bit:
            return "no bit on hand is so wide and long enough"
        if self.skates:
            return "the bit would slide off the slope where it goes in"
        if self.wall_mm < 0.0:
            return "the bit can come out through the side by its wander"
        return ""

    @property
    def cost(self) -> float:
        """What it takes off a pick's rank: the slenderness above EASY_TIMES, the wall that is missing: a rule."""
        thin = max(0.0, self.least_mm - self.wall_mm) / max(self.least_mm, 1e-9)
        return 0.45 * max(0.0, self.times - EASY_TIMES) + 3.0 * thin


Judge = Callable[[Hole], Drillable]


def judge_of(body: Mesh, least_mm: float, bits: dict[str, Bit], wander_deg: float = WANDER_DEG) -> Judge:
    """How holes in a body are judged, with the bits on hand and the least wall wanted, mm."""

    def judge(hole: Hole) -> Drillable:
        near = [b for b in bits.values() if abs(b.diameter_mm - hole.diameter_mm) <= CLOSE_MM]
        long = [b for b in near if b.flute_mm >= hole.depth_mm]
        bit = min(long, key=lambda b: (abs(b.diameter_mm - hole.diameter_mm), b.flute_mm)).name if long else ""
        wall, at = wall_mm(hole, body, wander_deg)
        skates = wall < 0.0 and float(np.linalg.norm(at - np.asarray(hole.mouth_mm))) < hole.diameter_mm
        return Drillable(hole.depth_mm / hole.diameter_mm, wall, least_mm, bit, skates)

    return judge
