"""Righting arms about any level axis, from any attitude."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.rest import Afloat

Array = NDArray[np.float64]


def level_axis(up: tuple[float, float, float], bearing_rad: float) -> Array:
    """A level axis in body axes at a bearing: 0 along the body (roll, starboard down), π/2 across it (pitch, nose up)."""
    u = np.asarray(up, dtype=float)
    aft = np.array([1.0, 0.0, 0.0]) - u * u[0]
    if np.linalg.norm(aft) < 1e-6:
        aft = np.array([0.0, 0.0, 1.0]) - u * u[2]
    aft /= np.linalg.norm(aft)
    return np.asarray(np.cos(bearing_rad) * aft + np.sin(bearing_rad) * np.cross(u, aft))


@dataclass(frozen=True, eq=False)
class Righting:
    """Righting arm about a level axis: angles (n,) rad from the start, arms (n,) mm, positive when they bring it back."""

    angles_rad: Array
    arms_mm: Array

    @property
    def range_rad(self) -> float:
        """Angle up to which it comes back by itself: the first arm through zero beyond the start; π when there is none."""
        for k in range(1, len(self.angles_rad)):
            if self.angles_rad[k] > 0.02 and self.arms_mm[k] <= 0.0:
                a, b = self.arms_mm[k - 1], self.arms_mm[k]
                share = a / (a - b) if a > b else 1.0
                return float(self.angles_rad[k - 1] + share * (self.angles_rad[k] - self.angles_rad[k - 1]))
        return float(np.pi)

    @property
    def area_mm_rad(self) -> float:
        """Area under the curve up to the range: the work of turning it over, over its weight."""
        keep = (self.angles_rad >= 0) & (self.angles_rad <= self.range_rad)
        return float(np.trapezoid(self.arms_mm[keep], self.angles_rad[keep]))


def righting(afloat: Afloat, up: tuple[float, float, float], axis: Array, count: int = 73) -> Righting:
    """Righting arms from an attitude, turned about an axis level in the world, from 0 to 180°.

    axis : (3,) body axes; its part along `up` is left out. GZ = (dE/dφ)/W, heave free, other trims held.
    """
    from yellowbob.afloat import balance
    from yellowbob.afloat.kernel import SUMS

    start = np.asarray(up, dtype=float)
    level = np.asarray(axis, dtype=float) - start * float(np.dot(axis, start))
    if np.linalg.norm(level) < 1e-9:
        raise ValueError("the axis stands upright; give one that lies across")
    level /= np.linalg.norm(level)
    side = np.cross(level, start)
    angles = np.linspace(0.0, np.pi, count)
    arms = np.empty(count)
    e, high = np.empty((2, 3)), np.empty(len(afloat.hull.vertices))
    sums, out = np.empty(SUMS), np.empty(balance.RESULTS)
    weight = afloat.mass_g * afloat.arrays[-1]
    for k, a in enumerate(angles):
        u = np.cos(a) * start + np.sin(a) * side
        balance.attitude(*afloat.arrays, u, 0.0, balance.LOOSE, e, high, sums, out)
        onward = -np.sin(a) * start + np.cos(a) * side
        slope = out[balance.G1] * e[0] + out[balance.G2] * e[1]
        arms[k] = float(slope @ onward) / weight
    return Righting(angles, arms)
