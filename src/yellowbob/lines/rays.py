"""Where a straight line meets a closed mesh, by manifold3d's ray casting in double precision."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import to_manifold

Array = NDArray[np.float64]

SAME_MM = 1e-7
"""Crossings closer together than this are one place: an edge or corner that several faces share."""


def _reach(mesh: Mesh, start: Array) -> float:
    """Far enough from a place to be past the whole mesh, mm."""
    return float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0])) + float(np.abs(mesh.bounds - start).max()) + 1.0


def crossings(mesh: Mesh, start: Array, direction: Array) -> Array:
    """Distances (n,) mm along a line of unit direction (3,) at which it crosses a closed mesh, in order.

    Negative ones lie behind the start. A place where it only touches is left out: in and out again at one place.
    """
    start, direction = np.asarray(start, dtype=float), np.asarray(direction, dtype=float)
    size = float(np.linalg.norm(direction))
    reach = _reach(mesh, start)
    way = direction / size * reach
    hits = to_manifold(mesh).ray_cast(start - way, start + way)
    if not hits:
        return np.zeros(0)
    found = np.sort([(2.0 * float(h.distance) - 1.0) * reach for h in hits]) / size
    groups = np.split(found, np.flatnonzero(np.diff(found) > SAME_MM) + 1)
    return np.array([group[0] for group in groups if len(group) % 2 == 1])


def first_strike(mesh: Mesh, start: Array, direction: Array) -> tuple[float, Array] | None:
    """Distance mm along a unit direction to the first place on a closed mesh, and its outward normal; None for a miss."""
    reach = _reach(mesh, start)
    hits = to_manifold(mesh).ray_cast(start, np.asarray(start) + reach * np.asarray(direction))
    if not hits:
        return None
    first = min(hits, key=lambda h: float(h.distance))
    return float(first.distance) * reach, np.array(first.normal, dtype=float)


def first_hit(mesh: Mesh, start: Array, direction: Array) -> float | None:
    """Distance mm along a unit direction to the first place on a closed mesh, None when it is missed."""
    struck = first_strike(mesh, start, direction)
    return None if struck is None else struck[0]


def inside(mesh: Mesh, place: Array) -> bool:
    """Whether a place lies in the solid: an odd number of crossings ahead of it."""
    ahead = crossings(mesh, place, np.array([0.5773, 0.2113, 0.7887]))
    return int((ahead > 0).sum()) % 2 == 1
