"""Pose it: from how it should sit to the ballast's mass and the line on which its centre must lie.

Given world-up u* and a water plane, the displaced mass m* = ρV less the build's own m₀ is the ballast; for the pose to
be a balance the whole's centre must stand on the vertical through B, so the ballast's lies on
P(λ) = (m*·B - m₀·G₀)/m_b + λ·u*. Lower on it is stiffer.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.immersion import Immersion, height_for_mass, immersed
from yellowbob.afloat.rest import Afloat, up_from
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Pose:
    """How it should sit. One of draft, freeboard (mm above the water of the back at station x) or finished mass."""

    pitch_rad: float
    roll_rad: float = 0.0
    draft_mm: float | None = None
    freeboard_mm: float | None = None
    at_x_mm: float = 0.0
    mass_g: float | None = None
    by: str = "as asked"
    """where the waterline comes from, in words"""

    @property
    def up(self) -> Array:
        """(3,) world-up in body axes."""
        return up_from(self.pitch_rad, self.roll_rad)


@dataclass(frozen=True, eq=False)
class Posed:
    """What a pose asks of the ballast. Masses g, places mm in body axes, λ mm along `water.up` from `point_mm`.

    ballast_g is net: what is put in less the wood it takes the place of; negative for a build already too heavy.
    """

    base: Afloat
    water: Immersion
    total_g: float
    ballast_g: float
    point_mm: Array
    """λ = 0: the place on the line level with B; meaningless when ballast_g is not above 0"""

    @property
    def draft_mm(self) -> float:
        """Depth of the lowest point of the hull, mm."""
        return self.water.height_mm - float((self.base.hull.vertices @ self.water.up).min())

    def place(self, lam_mm: float) -> Array:
        """The ballast's centre at λ."""
        return self.point_mm + lam_mm * self.water.up

    def gm_min_mm(self, lam_mm: float) -> float:
        """Least metacentric height with the ballast's centre at λ: BM - BG; negative where the pose would not hold."""
        centre = (
            self.base.mass_g * np.asarray(self.base.centre_mm) + self.ballast_g * self.place(lam_mm)
        ) / self.total_g
        bg = float((centre - self.water.centre_mm) @ self.water.up)
        return self.water.inertia_min_mm4 / self.water.volume_mm3 - bg

    @property
    def highest_stable_mm(self) -> float:
        """λ above which GM is negative and the pose is no rest."""
        return self.gm_min_mm(0.0) * self.total_g / self.ballast_g


def back_over(hull: Mesh, x_mm: float, up: Array) -> float:
    """Height along `up` of the hull's highest point at station x. Raises BadInput beyond its ends."""
    corners = hull.corners
    heights = []
    for k in range(3):
        a, b = corners[:, k], corners[:, (k + 1) % 3]
        cut = (a[:, 0] - x_mm) * (b[:, 0] - x_mm) <= 0
        a, b = a[cut], b[cut]
        run = b[:, 0] - a[:, 0]
        share = np.where(np.abs(run) > 1e-12, (x_mm - a[:, 0]) / np.where(np.abs(run) > 1e-12, run, 1.0), 0.0)
        heights.append((a + share[:, None] * (b - a)) @ up)
    every = np.concatenate(heights)
    if not len(every):
        low, high = hull.bounds[:, 0]
        raise BadInput(f"freeboard at {x_mm:g} mm: it runs from {low:.1f} to {high:.1f} mm; give a station on it")
    return float(every.max())


def plane_of(base: Afloat, pose: Pose) -> float:
    """Height of the wanted water plane, mm. Raises BadInput where the pose says too little, too much, or leaves the hull."""
    given = [v for v in (pose.draft_mm, pose.freeboard_mm, pose.mass_g) if v is not None]
    if len(given) != 1:
        raise BadInput("a pose needs one of draft, freeboard or finished mass: each of them fixes the waterline")
    up = pose.up
    if pose.mass_g is not None:
        if pose.mass_g <= 0.0:
            raise BadInput(f"a finished mass of {pose.mass_g:g} g cannot be; want more than nothing")
        return height_for_mass(base, up, pose.mass_g)
    along = base.hull.vertices @ up
    if pose.draft_mm is not None:
        height = float(along.min()) + pose.draft_mm
    else:
        height = back_over(base.hull, pose.at_x_mm, up) - float(pose.freeboard_mm or 0.0)
    deep = float(np.ptp(along))
    if not along.min() < height < along.max():
        draft = height - float(along.min())
        raise BadInput(f"a draft of {draft:.1f} mm is not between 0 and its depth there of {deep:.1f} mm")
    return height


def pose_it(base: Afloat, pose: Pose) -> Posed:
    """What the pose asks, for a build without the ballast in question (`base`). Raises BadInput, NoRest."""
    up = pose.up
    water = immersed(base, up, plane_of(base, pose))
    total = water.volume_mm3 * base.density_g_mm3
    ballast = total - base.mass_g
    point = water.centre_mm.copy()
    if abs(ballast) > 1e-9:
        moment = total * water.centre_mm - base.mass_g * np.asarray(base.centre_mm)
        point = moment / ballast
        point = point + up * float((water.centre_mm - point) @ up)
    return Posed(base, water, total, ballast, point)


def metal_g(net_g: float, metal_g_ml: float, wood_g_ml: float) -> float:
    """Mass of a metal that adds `net_g` where it takes the wood's place: net/(1 - ρw/ρm)."""
    return net_g / (1.0 - wood_g_ml / metal_g_ml)


def rod_radius_mm(mass_g: float, density_g_ml: float, slender: float = 3.0) -> float:
    """Radius of a rod `slender` diameters long of a mass: a rule for how wide ballast lies in its hole."""
    volume = 1000.0 * mass_g / density_g_ml
    return 0.5 * (4.0 * volume / (math.pi * slender)) ** (1.0 / 3.0)
