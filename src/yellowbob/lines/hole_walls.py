"""The wood left around a drilled hole, with the bit's wander."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.drill import Hole
from yellowbob.lines.mesh import Mesh, cross

Array = NDArray[np.float64]

WANDER_DEG = 1.0
"""Half angle of the cone that a hand-held bit may wander in: a maker's rule."""
MOUTH_DEG = 45.0
"""The outside that faces within this of where the hole opens is its mouth, not its wall."""
STEP_MM = 0.35
"""How close together the outside is looked at."""
FAR_MM = 60.0


def _outside(body: Mesh, hole: Hole, through: bool) -> Array:
    """(m, 3, 3) triangles of the outside about the hole that are no part of its mouth, or of its far end's if it goes
    through."""
    inward = np.asarray(hole.inward)
    facing, mouth = body.area_vectors @ -inward, math.cos(math.radians(MOUTH_DEG)) * np.maximum(body.areas, 1e-30)
    corners = body.corners[(np.abs(facing) if through else facing) < mouth]
    if not len(corners):
        return np.zeros((0, 3, 3))
    middles = corners.mean(axis=1)
    axis_away = np.linalg.norm(cross(middles - np.asarray(hole.mouth_mm), inward), axis=1) - _longest(corners)
    return np.asarray(corners[axis_away < hole.diameter_mm / 2 + max(8.0, float(np.min(axis_away)) + 4.0)])


def _longest(corners: Array) -> Array:
    """(m,) longest edge of triangles."""
    edges = corners - corners[:, [1, 2, 0]]
    return np.asarray(np.sqrt(np.einsum("ijk,ijk->ij", edges, edges).max(axis=1)))


def _samples(corners: Array) -> Array:
    """Places on triangles, finely spread, their corners among them."""
    counts = np.maximum(1, np.ceil(np.minimum(_longest(corners), FAR_MM) / STEP_MM).astype(int))
    found = []
    for n in np.unique(counts):
        i, j = np.meshgrid(np.arange(n + 1), np.arange(n + 1), indexing="ij")
        keep = i + j <= n
        a, b = i[keep] / n, j[keep] / n
        weights = np.stack([1 - a - b, a, b], axis=1)
        found.append((weights @ corners[counts == n]).reshape(-1, 3))
    return np.vstack(found)


def wall_mm(hole: Hole, body: Mesh, wander_deg: float = WANDER_DEG, through: bool = False) -> tuple[float, Array]:
    """Least wood left around a hole along its whole length, and where, mm.

    The bit may be off by depth x tan(wander); the wall is to all of the outside but the hole's own mouth (what faces
    within 45° of where it opens). Below 0 the bit can come out. What is meant to go through opens at both ends.
    """
    corners = _outside(body, hole, through)
    if not len(corners):
        return math.inf, np.asarray(hole.mouth_mm)
    inward, spread = np.asarray(hole.inward), math.tan(math.radians(wander_deg))

    def apart(places: Array) -> tuple[Array, Array, Array]:
        """Of places: how deep they lie, how far beside the hole, how far past its bottom."""
        arms = places - np.asarray(hole.mouth_mm)
        deep = arms @ inward
        off = arms - deep[:, None] * inward
        out = np.sqrt(np.einsum("ij,ij->i", off, off))
        return deep, out - hole.diameter_mm / 2 - np.clip(deep, 0.0, hole.depth_mm) * spread, deep - hole.depth_mm

    def walls(places: Array) -> Array:
        deep, side, past = apart(places)
        wall = np.where(past > 0, np.hypot(np.maximum(side, 0.0), past), side)
        wall[(deep < 0) | (through & (past > 0))] = np.inf
        return np.asarray(wall)

    # only triangles on which it can be less than at some corner are looked at finely
    middles = corners.mean(axis=1)
    _, side, past = apart(middles)
    reach = np.sqrt(np.square(corners - middles[:, None, :]).sum(axis=2).max(axis=1))
    least = np.maximum(side - (1.0 + spread) * reach, np.where(past > reach, past - reach, -np.inf))
    places = _samples(corners[least <= walls(corners.reshape(-1, 3)).min() + 1e-9])
    found = walls(places)
    at = int(np.argmin(found))
    return float(found[at]), places[at]
