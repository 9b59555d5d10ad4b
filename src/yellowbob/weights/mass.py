"""Mass, centre of gravity and inertia, and how they add up."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh, Moments

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class MassProperties:
    """Mass g, centre mm, and `spread` = ∫ (x-c)(x-c)ᵀ dm about the centre, g·mm². A negative mass is taken away."""

    mass_g: float
    centre_mm: Array
    spread_g_mm2: Array

    @property
    def inertia_g_mm2(self) -> Array:
        """Inertia tensor about the centre of gravity, (3, 3) g·mm²: tr(S)·I - S."""
        return np.trace(self.spread_g_mm2) * np.eye(3) - self.spread_g_mm2

    def times(self, factor: float) -> MassProperties:
        """So many times as heavy, in the same place; -1 takes it away."""
        return MassProperties(self.mass_g * factor, self.centre_mm, self.spread_g_mm2 * factor)


def of_moments(moments: Moments, density_g_ml: float) -> MassProperties:
    """A solid of one density from its volume moments."""
    density = density_g_ml / 1000.0
    return MassProperties(moments.volume_mm3 * density, moments.centroid_mm, moments.second_mm5 * density)


def of_solid(mesh: Mesh, density_g_ml: float) -> MassProperties:
    """A closed mesh of one density."""
    if not len(mesh.faces):
        return MassProperties(0.0, np.zeros(3), np.zeros((3, 3)))
    return of_moments(mesh.moments, density_g_ml)


def of_skin(mesh: Mesh, film_mm: float, density_g_ml: float) -> MassProperties:
    """A thin even film over a surface."""
    centre, second = mesh.skin_moments
    areal = film_mm * density_g_ml / 1000.0
    return MassProperties(mesh.area_mm2 * areal, centre, second * areal)


def grams_per_mm(diameter_mm: float, density_g_ml: float) -> float:
    """Mass of a round rod by its length, g/mm: πd²/4·ρ."""
    return density_g_ml / 1000.0 * math.pi / 4.0 * diameter_mm**2


def of_point(mass_g: float, at_mm: Array) -> MassProperties:
    """A mass (g) at a place (mm), without extent."""
    return MassProperties(mass_g, np.asarray(at_mm, dtype=float), np.zeros((3, 3)))


def of_sphere(mass_g: float, diameter_mm: float, at_mm: Array) -> MassProperties:
    """∫ x² dm = m·d²/20 along each axis."""
    return MassProperties(mass_g, np.asarray(at_mm, dtype=float), np.eye(3) * mass_g * diameter_mm**2 / 20.0)


def of_cylinder(mass_g: float, diameter_mm: float, start_mm: Array, end_mm: Array) -> MassProperties:
    """A uniform rod: m·l²/12 along its axis, m·d²/16 across it."""
    start, end = np.asarray(start_mm, dtype=float), np.asarray(end_mm, dtype=float)
    along = end - start
    long = float(np.linalg.norm(along))
    unit = along / long if long > 0 else np.array([0.0, 0.0, 1.0])
    outer = np.outer(unit, unit)
    spread = mass_g * (outer * long**2 / 12.0 + (np.eye(3) - outer) * diameter_mm**2 / 16.0)
    return MassProperties(mass_g, (start + end) / 2.0, spread)


def total(parts: Iterable[MassProperties]) -> MassProperties:
    """All parts together, by the parallel-axis theorem."""
    parts = list(parts)
    if not parts:
        return MassProperties(0.0, np.zeros(3), np.zeros((3, 3)))
    masses = np.array([p.mass_g for p in parts])
    spread = np.array([p.spread_g_mm2 for p in parts]).sum(axis=0)
    mass = float(masses.sum())
    if abs(mass) <= 1e-15 * float(np.abs(masses).sum()):
        return MassProperties(0.0, np.zeros(3), spread)
    centres = np.array([p.centre_mm for p in parts])
    centre = masses @ centres / mass
    arms = centres - centre
    return MassProperties(mass, centre, spread + (masses[:, None] * arms).T @ arms)
