"""Where a straight line meets a mesh."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh, cross
from yellowbob.lines.solids import to_manifold

Array = NDArray[np.float64]


def crossings(mesh: Mesh, start: Array, direction: Array) -> Array:
    """Distances along a ray at which it crosses the mesh, in order; negative ones lie behind the start.

    Source: Möller and Trumbore 1997, over all triangles at once.
    """
    start, direction = np.asarray(start, dtype=float), np.asarray(direction, dtype=float)
    a = mesh.corners[:, 0]
    one, two = mesh.corners[:, 1] - a, mesh.corners[:, 2] - a
    p = cross(direction, two)
    determinant = np.einsum("ij,ij->i", one, p)
    safe = np.where(np.abs(determinant) < 1e-14, np.inf, determinant)
    s = start - a
    u = np.einsum("ij,ij->i", s, p) / safe
    q = cross(s, one)
    v = (q @ direction) / safe
    t = np.einsum("ij,ij->i", two, q) / safe
    hit = (np.abs(determinant) >= 1e-14) & (u >= -1e-9) & (v >= -1e-9) & (u + v <= 1.0 + 1e-9)
    found = np.sort(t[hit])
    if len(found) < 2:
        return found
    return found[np.concatenate([[True], np.diff(found) > 1e-7])]


def first_strike(mesh: Mesh, start: Array, direction: Array) -> tuple[float, Array] | None:
    """Distance along a unit direction to the first place on a closed mesh, and its outward normal; None for a miss."""
    reach = float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0])) + float(np.abs(mesh.bounds - start).max()) + 1.0
    hits = to_manifold(mesh).ray_cast(start, np.asarray(start) + reach * np.asarray(direction))
    if not hits:
        return None
    first = min(hits, key=lambda h: float(h.distance))
    return float(first.distance) * reach, np.array(first.normal, dtype=float)


def first_hit(mesh: Mesh, start: Array, direction: Array) -> float | None:
    """Distance along a unit direction to the first place on a closed mesh, None when it is missed."""
    struck = first_strike(mesh, start, direction)
    return None if struck is None else struck[0]


def inside(mesh: Mesh, place: Array) -> bool:
    """Whether a place lies in the solid: an odd number of crossings ahead of it."""
    ahead = crossings(mesh, place, np.array([0.5773, 0.2113, 0.7887]))
    return int((ahead > 0).sum()) % 2 == 1
