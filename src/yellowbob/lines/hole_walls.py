"""The wood left around a drilled hole, with the bit's wander."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.drill import Hole
from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]

WANDER_DEG = 1.0
"""Half angle of the cone that a hand-held bit may wander in: a maker's rule."""
MOUTH_DEG = 45.0
"""The outside that faces within this of where the hole opens is its mouth, not its wall."""
STEP_MM = 0.35
"""How close together the outside is looked at."""
FAR_MM = 60.0


def _samples(body: Mesh, hole: Hole, through: bool) -> Array:
    """Places on the outside, finely spread, that are no part of the hole's mouth, or of its far end's if it goes through."""
    inward = np.asarray(hole.inward)
    normals = body.area_vectors / np.maximum(body.areas[:, None], 1e-30)
    facing, mouth = normals @ -inward, math.cos(math.radians(MOUTH_DEG))
    corners = body.corners[(np.abs(facing) if through else facing) < mouth]
    if not len(corners):
        return np.zeros((0, 3))
    longest = np.max([np.linalg.norm(corners[:, k] - corners[:, (k + 1) % 3], axis=1) for k in range(3)], axis=0)
    axis_away = np.linalg.norm(
        np.cross(corners.mean(axis=1) - np.asarray(hole.mouth_mm), inward), axis=1
    ) - longest  # fmt: skip
    near = axis_away < hole.diameter_mm / 2 + max(8.0, float(np.min(axis_away)) + 4.0)
    corners, longest = corners[near], longest[near]
    found = []
    for count in np.unique(np.ceil(np.minimum(longest, FAR_MM) / STEP_MM).astype(int)):
        some = corners[np.ceil(np.minimum(longest, FAR_MM) / STEP_MM).astype(int) == count]
        n = max(1, int(count))
        i, j = np.meshgrid(np.arange(n + 1), np.arange(n + 1), indexing="ij")
        keep = i + j <= n
        a, b = i[keep] / n, j[keep] / n
        weights = np.stack([1 - a - b, a, b], axis=1)
        found.append((weights @ some).reshape(-1, 3))
    return np.vstack(found)


def wall_mm(hole: Hole, body: Mesh, wander_deg: float = WANDER_DEG, through: bool = False) -> tuple[float, Array]:
    """Least wood left around a hole along its whole length, and where, mm.

    The bit may be off by depth x tan(wander); the wall is to all of the outside but the hole's own mouth (what faces
    within 45° of where it opens). Below 0 the bit can come out. What is meant to go through opens at both ends.
    """
    places = _samples(body, hole, through)
    if not len(places):
        return math.inf, np.asarray(hole.mouth_mm)
    inward, spread = np.asarray(hole.inward), math.tan(math.radians(wander_deg))
    arms = places - np.asarray(hole.mouth_mm)
    deep = arms @ inward
    out = np.linalg.norm(arms - deep[:, None] * inward, axis=1)
    along = np.clip(deep, 0.0, hole.depth_mm)
    side = out - hole.diameter_mm / 2 - along * spread
    past = deep - hole.depth_mm
    wall = np.where(past > 0, np.hypot(np.maximum(side, 0.0), past), side)
    wall[(deep < 0) | (through & (past > 0))] = np.inf
    at = int(np.argmin(wall))
    return float(wall[at]), places[at]
