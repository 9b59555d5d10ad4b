"""A bent rod as a solid: round, of exact volume, mitred at its bends as a bent wire is."""

from __future__ import annotations

import itertools

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import ROUND_SIDES, frame_along, rod, swell_of, to_manifold

Array = NDArray[np.float64]

SHARPEST_COS = -0.94
"""Bends sharper than this (about 160°) cannot be mitred; the rods are then joined as they lie."""
SHORTEST_MM = 1e-6


def without_repeats(path: Array) -> Array:
    """The corners of a path (n, 3) with those left out that lie on the one before."""
    step = np.linalg.norm(np.diff(path, axis=0), axis=1)
    return np.asarray(path[np.concatenate([[True], step > SHORTEST_MM])])


def bent_rod(path: Array, diameter_mm: float, sides: int = ROUND_SIDES) -> manifold3d.Manifold:
    """A round rod (mm) along a path (n, 3) of straight runs; empty for a path without length.

    Each bend is cut in the plane that halves it, so the volume is section × length of the path (Pappus). Where a run is
    too short or a bend too sharp for that, the straight rods are united instead.
    """
    path = without_repeats(np.asarray(path, dtype=float))
    if len(path) < 2:
        return manifold3d.Manifold()
    along = np.diff(path, axis=0)
    long = np.linalg.norm(along, axis=1)
    along = along / long[:, None]
    turn = np.einsum("ij,ij->i", along[:-1], along[1:])
    need = np.zeros(len(path))
    if len(turn):
        if turn.min() < SHARPEST_COS:
            return _united(path, diameter_mm, sides)
        need[1:-1] = diameter_mm * 0.51 * np.sqrt((1.0 - turn) / (1.0 + turn))
    if (need[:-1] + need[1:] >= long).any():
        return _united(path, diameter_mm, sides)
    return to_manifold(_tube(path, along, diameter_mm / 2.0 * swell_of(sides), sides), "a wire")


def _tube(path: Array, along: Array, radius: float, sides: int) -> Mesh:
    angle = 2.0 * np.pi * np.arange(sides) / sides
    frame = frame_along(along[0])
    ring = path[0] + radius * (np.cos(angle)[:, None] * frame[:, 0] + np.sin(angle)[:, None] * frame[:, 1])
    rings = [ring]
    for number, way in enumerate(along):
        plane = way if number + 1 == len(along) else way + along[number + 1]
        reach = (path[number + 1] - ring) @ plane / float(way @ plane)
        ring = ring + reach[:, None] * way
        rings.append(ring)
    here = np.arange(sides)
    after = (here + 1) % sides
    faces = []
    for number in range(len(along)):
        low, top = number * sides, (number + 1) * sides
        faces.append(np.stack([low + here, low + after, top + after], axis=1))
        faces.append(np.stack([low + here, top + after, top + here], axis=1))
    first, last = len(rings) * sides, len(rings) * sides + 1
    faces.append(np.stack([np.full(sides, first), after, here], axis=1))
    top = len(along) * sides
    faces.append(np.stack([np.full(sides, last), top + here, top + after], axis=1))
    return Mesh(np.vstack([*rings, path[:1], path[-1:]]), np.concatenate(faces).astype(np.int32))


def _united(path: Array, diameter_mm: float, sides: int) -> manifold3d.Manifold:
    rods = [rod(a, b, diameter_mm, sides) for a, b in itertools.pairwise(path)]
    return manifold3d.Manifold.batch_boolean(rods, manifold3d.OpType.Add)
