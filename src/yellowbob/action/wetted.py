"""The wetted part of a hull cut into strips, and the water that moves with it.

Added water is that of potential flow about the strips (Newman 1977, 4.16: Ca = 1 for a round section across the flow, half
of it where the section pierces the surface, the limit of quick motion), times the share that an ellipsoid of the same
length, breadth and depth has of its own strips' (Lamb 1932, art. 114 to 115), so that ends count: a half-immersed sphere
gets ½ and a shallow disc 4/3·ρr³.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

STRIPS = 80


@dataclass(frozen=True, eq=False)
class Strips:
    """Strips along an axis: places (n,) of their middles, mm; half-breadths (n,) across, mm; how thick each is, mm."""

    at_mm: Array
    half_mm: Array
    step_mm: float

    @property
    def length_mm(self) -> float:
        """Of all of them together."""
        return self.step_mm * len(self.at_mm)

    def sums(self, about_mm: float) -> tuple[float, float, float]:
        """∫ b², ∫ b²·s and ∫ b²·s² ds with s from a place: mm³, mm⁴, mm⁵."""
        s, square = self.at_mm - about_mm, self.half_mm**2 * self.step_mm
        return float(square.sum()), float(square @ s), float(square @ s**2)


def strips(skin: Array, along: Array, across: Array, count: int = STRIPS) -> Strips:
    """Strips of triangles (k, 3, 3): how far they reach to both sides along `across`, at even places along `along`."""
    from yellowbob.action.wetted_kernel import reach  # late: it brings the compiler with it

    s, t = skin @ np.asarray(along), skin @ np.asarray(across)
    low, high = float(s.min()), float(s.max())
    step = (high - low) / count
    at = np.asarray(low + step * (np.arange(count) + 0.5), dtype=float)
    least, most = np.full(count, np.inf), np.full(count, -np.inf)
    reach(s, t, low, step, least, most)
    return Strips(at, np.where(most >= least, (most - least) / 2.0, 0.0), step)


def _alpha(a: float, b: float, c: float) -> float:
    """Lamb's integral for motion along a: abc ∫ dλ / ((a² + λ)Δ), by Carlson's R_D."""
    from scipy.special import elliprd

    return float(2.0 / 3.0 * a * b * c * elliprd(b * b, c * c, a * a))


def along_share(a: float, b: float, c: float) -> float:
    """Added mass of an ellipsoid moving along its semi-axis a, over the mass of the fluid in its room."""
    alpha = _alpha(a, b, c)
    return alpha / (2.0 - alpha)


def turning_share(a: float, b: float, c: float) -> float:
    """Added moment of inertia of an ellipsoid turning about its semi-axis a, over the mass of the fluid in its room, mm²."""
    if abs(b - c) < 1e-9 * max(b, c):
        return 0.0
    beta, gamma = _alpha(b, c, a), _alpha(c, a, b)
    apart = b * b - c * c
    return apart**2 * (gamma - beta) / (5.0 * (2.0 * apart + (b * b + c * c) * (beta - gamma)))


def ends_share(length: float, half: float, deep: float) -> float:
    """What an ellipsoid of that length, half-breadth and depth under water has of the added mass of its own strips, moving up
    and down: ½·k·4/3·π·(length/2)·half·deep against π/2·∫b² ds."""
    a = max(length / 2.0, 1e-9)
    own = along_share(deep, a, half) * 2.0 / 3.0 * math.pi * a * half * deep
    return own / (math.pi / 2.0 * half * half * 4.0 / 3.0 * a)


def ends_turning_share(length: float, half: float, deep: float) -> float:
    """The same of its added moment of inertia, turning about the level axis across it: against π/2·∫b²s² ds."""
    a = max(length / 2.0, 1e-9)
    own = turning_share(half, a, deep) * 2.0 / 3.0 * math.pi * a * half * deep
    return own / (math.pi / 2.0 * half * half * 4.0 / 15.0 * a**3)
