"""What a meniscus can carry, and the turning that it can hold: the waterline's length times the surface tension.

A waterline that sticks to the skin (paint, a wet edge) takes any pull up to γ on each mm, up or down (PHYSICS 3). Exact for
the line; that all of it sticks is the most there can be.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.immersion import waterplane_of
from yellowbob.afloat.rest import Afloat
from yellowbob.ground.constants import GRAVITY_MM_S2, SURFACE_TENSION_G_S2

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Capillary:
    """The band that a meniscus puts on load and draft: ± γ·perimeter as grams, and the same as mm of draft."""

    perimeter_mm: float
    load_g: float
    draft_mm: float


def waterline(afloat: Afloat, up: tuple[float, float, float] | Array, height_mm: float) -> tuple[Array, Array]:
    """Where the water meets the hull: ends (n, 3) and (n, 3) of the stretches, one in each triangle that is cut."""
    u = np.asarray(up, dtype=float)
    mesh = afloat.hull
    high = mesh.vertices @ u - height_mm
    high = np.where(high == 0.0, 1e-12, high)
    level = high[mesh.faces]
    crossing = (level.min(axis=1) < 0.0) & (level.max(axis=1) > 0.0)
    corners, level = mesh.vertices[mesh.faces[crossing]], level[crossing]
    ends = []
    for k in range(3):
        a, b = level[:, k], level[:, (k + 1) % 3]
        crossed = a * b < 0.0
        share = np.where(crossed, a / np.where(crossed, a - b, 1.0), 0.0)
        place = corners[:, k] + share[:, None] * (corners[:, (k + 1) % 3] - corners[:, k])
        ends.append(np.where(crossed[:, None], place, np.nan))
    every = np.stack(ends)
    cut = np.isfinite(every[:, :, 0]).sum(axis=0) == 2
    pair = np.nan_to_num(every[:, cut])
    used = np.isfinite(every[:, cut, 0])
    # of three edges two are cut: their places, whichever they are
    return np.where(used[0][:, None], pair[0], pair[1]), np.where(used[2][:, None], pair[2], pair[1])


def capillary(afloat: Afloat, up: tuple[float, float, float] | Array, height_mm: float) -> Capillary:
    """The most a meniscus can carry around the waterline: γ·perimeter/g, γ of clean water at 20 °C (PHYSICS 3)."""
    one, two = waterline(afloat, up, height_mm)
    perimeter = float(np.linalg.norm(two - one, axis=1).sum())
    area = 0.0
    if perimeter > 0.0:
        area = max(waterplane_of(afloat, np.asarray(up, dtype=float), height_mm), 1e-9)
    load = SURFACE_TENSION_G_S2 * perimeter / GRAVITY_MM_S2
    return Capillary(perimeter, load, load / (afloat.density_g_mm3 * area) if area else 0.0)


def holds(
    afloat: Afloat, up: tuple[float, float, float] | Array, height_mm: float, along: tuple[float, float, float] | Array
) -> float:
    """The most turning that a meniscus can hold up, µN·mm, of a build that would turn so that `along` goes down.

    up, along : level unit vectors at right angles, body axes. It pulls down on one side of a level axis and carries on the
    other, as long a line on both: γ·∮|s - median| over the waterline, s being how far it lies along `along`.
    """
    one, two = waterline(afloat, up, height_mm)
    if not len(one):
        return 0.0
    length = np.linalg.norm(two - one, axis=1)
    a, b = one @ np.asarray(along, dtype=float), two @ np.asarray(along, dtype=float)
    order = np.argsort(a + b)
    half = np.cumsum(length[order]) - length[order] / 2.0
    middle = float(np.interp(length.sum() / 2.0, half, ((a + b) / 2.0)[order]))
    a, b = a - middle, b - middle
    apart = np.where(np.abs(a - b) > 1e-12, np.abs(a - b), 1.0)
    mean = np.where(a * b < 0.0, (a * a + b * b) / (2.0 * apart), (np.abs(a) + np.abs(b)) / 2.0)
    return float(SURFACE_TENSION_G_S2 * (mean * length).sum())
