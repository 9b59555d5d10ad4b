"""Cross-sections: two half superellipses joined at the waist, with their areas in closed form."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.curves import Curve, curve

Array = NDArray[np.float64]


def fullness(exponent: Array) -> Array:
    """Area of a quarter superellipse |y|^n + |z|^n = 1: Γ(1+1/n)² / Γ(1+2/n). 1/2 for n = 1, π/4 for n = 2."""
    n = np.asarray(exponent, dtype=float)
    return _gamma(1.0 + 1.0 / n) ** 2 / _gamma(1.0 + 2.0 / n)


def _gamma(values: Array) -> Array:
    """Γ of each value; the few values of a body do not pay for importing a library of special functions."""
    return np.array([math.gamma(v) for v in np.ravel(values).tolist()]).reshape(np.shape(values))


@dataclass(frozen=True, eq=False)
class Sections:
    """Cross-sections at several x; every array has shape (n,), lengths in mm."""

    x: Array
    half_width: Array
    waist_z: Array
    up: Array
    """height of the back above the waist"""
    down: Array
    """depth of the belly below the waist"""
    back: Array
    """superellipse exponent of the back's half"""
    belly: Array

    def areas(self) -> Array:
        """Exact area of each section, mm²."""
        return 2.0 * self.half_width * (self.up * fullness(self.back) + self.down * fullness(self.belly))

    def moments_z(self) -> Array:
        """First moment of each section's area about z = 0, mm³ (of its centroid: moment / area)."""
        lift = _height_moment(self.back) * self.up**2 - _height_moment(self.belly) * self.down**2
        return self.waist_z * self.areas() + 2.0 * self.half_width * lift

    def rings(self, sides: int) -> Array:
        """Inscribed polygons, shape (n, sides, 3), counter-clockwise seen from the tail; `sides` a multiple of 4."""
        angle = 2.0 * np.pi * np.arange(sides) / sides
        cos, sin = np.cos(angle), np.sin(angle)
        upper = sin > 1e-12
        power = 2.0 / np.where(upper, self.back[:, None], self.belly[:, None])
        across = np.sign(cos) * np.where(np.abs(cos) < 1e-12, 0.0, np.abs(cos)) ** power
        height = np.sign(sin) * np.where(np.abs(sin) < 1e-12, 0.0, np.abs(sin)) ** power
        rise = np.where(upper, self.up[:, None], self.down[:, None])
        ring = np.empty((len(self.x), sides, 3))
        ring[..., 0] = self.x[:, None]
        ring[..., 1] = self.half_width[:, None] * across
        ring[..., 2] = self.waist_z[:, None] + rise * height
        return ring


def _height_moment(exponent: Array) -> Array:
    """∫ z dA over a quarter superellipse of unit axes: (1/2n)·B(1/n, 1 + 2/n)."""
    n = np.asarray(exponent, dtype=float)
    return _gamma(1.0 / n) * _gamma(1.0 + 2.0 / n) / _gamma(1.0 + 3.0 / n) / (2.0 * n)


def outline_curves(shape: Lofted | Turned) -> tuple[Curve, ...]:
    """The curves that a shape's sections are read from."""
    if isinstance(shape, Turned):
        return (curve(shape.profile),)
    return curve(shape.back), curve(shape.belly), curve(shape.plan)


def sections_at(shape: Lofted | Turned, x: Array) -> Sections:
    """Cross-sections of a lofted or turned shape at each x (mm aft of the nose)."""
    x = np.asarray(x, dtype=float)
    if isinstance(shape, Turned):
        radius = np.maximum(curve(shape.profile).at(x), 0.0)
        two = np.full_like(x, 2.0)
        return Sections(x, radius, np.zeros_like(x), radius, radius, two, two)
    top, bottom = curve(shape.back).at(x), curve(shape.belly).at(x)
    half_width = np.maximum(curve(shape.plan).at(x), 0.0)
    stations = [s.x_mm for s in shape.sections]
    waist = np.interp(x, stations, [s.waist for s in shape.sections])
    waist_z = bottom + waist * (top - bottom)
    return Sections(
        x,
        half_width,
        waist_z,
        np.maximum(top - waist_z, 0.0),
        np.maximum(waist_z - bottom, 0.0),
        np.interp(x, stations, [s.back for s in shape.sections]),
        np.interp(x, stations, [s.belly for s in shape.sections]),
    )


def half_width_at(shape: Lofted | Turned, x: Array, z: Array) -> Array:
    """(n,) half-width of the drawn surface at places (x, z), mm; 0 above the back and below the belly."""
    found = sections_at(shape, x)
    rise = z - found.waist_z
    reach = np.where(rise >= 0.0, found.up, found.down)
    power = np.where(rise >= 0.0, found.back, found.belly)
    share = np.clip(np.abs(rise) / np.maximum(reach, 1e-12), 0.0, 1.0)
    return np.asarray(found.half_width * (1.0 - share**power) ** (1.0 / power))
