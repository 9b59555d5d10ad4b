"""What part of a build is under a given plane: volume, its centre, the waterplane; for poses that are no rests."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.rest import Afloat

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Immersion:
    """The part below x·up = height: volume mm³ (hardware in it), centre mm, and the waterplane's least second moment.

    inertia_min_mm4 : about the waterplane's own centroid, along its weakest direction; BM = inertia / volume.
    """

    up: Array
    height_mm: float
    volume_mm3: float
    centre_mm: Array
    inertia_min_mm4: float


def immersed(afloat: Afloat, up: Array, height_mm: float) -> Immersion:
    """One immersion of hull and hardware at a water plane x·up = height_mm, body axes. The build's mass plays no part."""
    from yellowbob.afloat.kernel import SUMS, add_points, axes_across, immerse

    u = np.asarray(up, dtype=float) / np.linalg.norm(up)
    vertices, faces, table, points, *_ = afloat.arrays
    e, high, sums = np.empty((2, 3)), np.empty(len(vertices)), np.empty(SUMS)
    axes_across(u, e)
    h = height_mm - float(afloat.origin @ u)
    immerse(vertices, faces, table, u, h, e, high, sums)
    add_points(points, u, h, e, sums)
    volume, area = float(sums[0]), float(sums[4])
    centre = (sums[1:4] / volume if volume > 0 else np.zeros(3)) + afloat.origin
    least = 0.0
    if area > 1e-12:
        x, y = sums[5] / area, sums[6] / area
        xx, xy, yy = sums[7] - area * x * x, sums[8] - area * x * y, sums[9] - area * y * y
        least = float((xx + yy) / 2 - np.hypot((xx - yy) / 2, xy))
    return Immersion(u, height_mm, volume, centre, least)


def height_for_mass(afloat: Afloat, up: Array, mass_g: float) -> float:
    """Height of the water plane along `up` at which so many grams of water are pushed aside, mm. Raises NoRest."""
    from yellowbob.afloat import balance
    from yellowbob.afloat.kernel import SUMS
    from yellowbob.ground.errors import NoRest

    most = afloat.density_g_mm3 * afloat.volume_mm3
    if mass_g >= most:
        raise NoRest(f"{mass_g:.2f} g sinks it: it can push aside {most:.2f} g of water at most")
    u = np.asarray(up, dtype=float) / np.linalg.norm(up)
    vertices, faces, table, points, _, centre, density, gravity = afloat.arrays
    e, high = np.empty((2, 3)), np.empty(len(vertices))
    sums, out = np.empty(SUMS), np.empty(balance.RESULTS)
    balance.attitude(vertices, faces, table, points, float(mass_g), centre, density, gravity, u, 0.0, balance.TIGHT, e,
                     high, sums, out)  # fmt: skip
    return float(out[0] + afloat.origin @ u)


def waterplane(
    afloat: Afloat, up: Array, height_mm: float, about_mm: Array, along: Array, across: Array
) -> tuple[float, Array, Array]:
    """Area mm², first (2,) mm³ and second (2, 2) mm⁴ moments of the waterplane about a place, along two level axes."""
    from yellowbob.afloat.kernel import SUMS, axes_across, immerse

    vertices, faces, table, *_ = afloat.arrays
    e, high, sums = np.empty((2, 3)), np.empty(len(vertices)), np.empty(SUMS)
    axes_across(up, e)
    h = height_mm - float(afloat.origin @ up)
    immerse(vertices, faces, table, np.asarray(up, dtype=float), h, e, high, sums)
    area = float(sums[4])
    turn = np.array([[along @ e[0], along @ e[1]], [across @ e[0], across @ e[1]]])
    # the kernel counts from the point of the plane over its own origin
    shift = (afloat.origin - about_mm) @ np.stack([along, across], axis=1)
    first = turn @ sums[5:7]
    second = turn @ np.array([[sums[7], sums[8]], [sums[8], sums[9]]]) @ turn.T
    second = second + np.outer(first, shift) + np.outer(shift, first) + area * np.outer(shift, shift)
    return area, first + area * shift, second


def waterplane_of(afloat: Afloat, up: Array, height_mm: float) -> float:
    """Area of the waterplane, mm²."""
    from yellowbob.afloat.kernel import SUMS, axes_across, immerse

    vertices, faces, table, *_ = afloat.arrays
    e, high, sums = np.empty((2, 3)), np.empty(len(vertices)), np.empty(SUMS)
    axes_across(up, e)
    immerse(vertices, faces, table, up, height_mm - float(afloat.origin @ up), e, high, sums)
    return float(sums[4])
