"""All rests: a spiral of attitudes over the sphere, descents from its hollows, and rings of equal rests told apart."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.balance import (
    ENERGY,
    G1,
    G2,
    H11,
    H12,
    H22,
    HEIGHT,
    RESULTS,
    TIGHT,
    XBAR,
    YBAR,
    Faces,
    attitude,
    descend,
)
from yellowbob.afloat.kernel import SUMS, axes_across
from yellowbob.afloat.rings import RING_STEP, RIPPLE, uprightmost, walk_ring
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]

SPIRAL = 220
"""Attitudes looked at before descending, about 14° apart."""
EVERY = 7
"""Besides the hollows, a descent also starts from every so-manieth attitude of the spiral."""
MOST_RESTS = 400
LEVEL = 1e-6
"""Slope of the energy, as a share of weight x size, that a rest may still have."""
MERGE_COS = float(np.cos(np.radians(2.0)))
"""Rests closer than 2° are one."""
NEAR_COS = float(np.cos(np.radians(0.6)))
"""A descent that comes this close to a known rest has found it again."""

# places in a row of found rests
UX, UY, UZ, OUT, RING, ROW = 0, 1, 2, 3, 3 + RESULTS, 4 + RESULTS


@compiled
def spiral(count: int) -> Array:
    """(count, 3) directions evenly over the sphere, each next to the one before (Saff and Kuijlaars 1997)."""
    directions = np.empty((count, 3))
    turn = 0.0
    for k in range(count):
        z = -1.0 + 2.0 * (k + 0.5) / count
        if k > 0:
            turn += 3.6 / np.sqrt(count * (1.0 - z * z))
        r = np.sqrt(1.0 - z * z)
        directions[k, 0], directions[k, 1], directions[k, 2] = r * np.cos(turn), r * np.sin(turn), z
    return directions


@compiled
def _survey(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, directions: Array, energies: Array, heights: Array, e: Array, high: Array, sums: Array, out: Array,
) -> int:  # fmt: skip
    """Energy and water height of every direction of the spiral, each guessed from the one before; the immersions."""
    count = 0
    guess = 0.0
    for k in range(SPIRAL):
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, directions[k], guess, 1e-3, e, high,
            sums, out,
        )  # fmt: skip
        energies[k], heights[k] = out[ENERGY], out[HEIGHT]
        if k + 1 < SPIRAL:
            a = b = 0.0
            for i in range(3):
                a += directions[k + 1, i] * e[0, i]
                b += directions[k + 1, i] * e[1, i]
            cos = np.sqrt(max(0.0, 1.0 - a * a - b * b))
            guess = cos * out[HEIGHT] + a * out[XBAR] + b * out[YBAR]
    return count


@compiled
def _hollow(directions: Array, energies: Array, k: int, apart: float) -> bool:
    """Whether no neighbour of a direction lies lower."""
    for j in range(SPIRAL):
        if energies[j] < energies[k]:
            dot = 0.0
            for i in range(3):
                dot += directions[j, i] * directions[k, i]
            if dot > apart:
                return False
    return True


@compiled
def _known(u: Array, found: Array, rests: int, rings: Array, ring_points: int) -> bool:
    """Whether an attitude is a rest, or on a ring of rests, that was found already."""
    known = False
    for j in range(rests):
        known = known or u[0] * found[j, 0] + u[1] * found[j, 1] + u[2] * found[j, 2] > MERGE_COS
    for j in range(ring_points):
        known = known or u[0] * rings[j, 0] + u[1] * rings[j, 1] + u[2] * rings[j, 2] > np.cos(RING_STEP)
    return known


@compiled
def _enter(found: Array, row: int, u: Array, out: Array, ring: float) -> None:
    """Write a rest down: its attitude, the results there, and 1 for one of a ring (2: every attitude is one)."""
    found[row, :3] = u
    found[row, OUT : OUT + RESULTS] = out
    found[row, RING] = ring


@compiled
def find_rests(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, scale: float, found: Array,
) -> tuple[int, int]:  # fmt: skip
    """Fill `found` (MOST_RESTS, ROW) with every rest; returns (how many, immersions used). See `_enter` for a row."""
    high, sums, out = np.empty(vertices.shape[0]), np.empty(SUMS), np.empty(RESULTS)
    e, u = np.empty((2, 3)), np.empty(3)
    directions = spiral(SPIRAL)
    energies, heights = np.empty(SPIRAL), np.empty(SPIRAL)
    count = _survey(
        vertices,
        faces,
        table,
        points,
        mass,
        centre,
        density,
        gravity,
        directions,
        energies,
        heights,
        e,
        high,
        sums,
        out,
    )
    found[:] = 0.0
    if energies.max() - energies.min() < RIPPLE * scale:
        u[0], u[1], u[2] = 0.0, 0.0, 1.0
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, u, 0.0, TIGHT, e, high, sums, out
        )
        _enter(found, 0, u, out, 2.0)
        return 1, count
    rings, path = np.empty((400, 3)), np.empty((160, 3))
    ring_points = rests = 0
    apart = np.cos(1.6 * np.sqrt(4.0 * np.pi / SPIRAL))
    for visit in range(2 * SPIRAL):
        order, k = visit // SPIRAL, visit % SPIRAL  # hollows first, then every so many of the others
        if (order == 0) != _hollow(directions, energies, k, apart) or (order == 1 and k % EVERY != 0):
            continue
        u[:] = directions[k]
        count += descend(
            vertices, faces, table, points, mass, centre, density, gravity, u, heights[k], scale, found, rests,
            NEAR_COS, False, e, high, sums, out,
        )  # fmt: skip
        if _known(u, found, rests, rings, ring_points) or rests == found.shape[0]:
            continue
        count += descend(
            vertices, faces, table, points, mass, centre, density, gravity, u, out[HEIGHT], scale, found, 0,
            NEAR_COS, True, e, high, sums, out,
        )  # fmt: skip
        weak = 0.5 * (out[H11] + out[H22]) - np.sqrt(0.25 * (out[H11] - out[H22]) ** 2 + out[H12] ** 2)
        if weak < -1e-6 * scale or np.hypot(out[G1], out[G2]) > LEVEL * scale:
            continue
        _enter(found, rests, u, out, 0.0)
        # a ring's weakest direction is nearly without stiffness; anything stiffer cannot be one
        if weak < 0.02 * scale:
            steps, used = _ring_entered(
                vertices, faces, table, points, mass, centre, density, gravity, u, scale, e, high, sums, out, path,
                found, rests,
            )  # fmt: skip
            count += used
            kept = min(steps, rings.shape[0] - ring_points)
            rings[ring_points : ring_points + kept] = path[:kept]
            ring_points += kept
        rests += 1
    axes_across(u, e)
    return rests, count


@compiled
def _ring_entered(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, u: Array, scale: float, e: Array, high: Array, sums: Array, out: Array, path: Array, found: Array,
    row: int,
) -> tuple[int, int]:  # fmt: skip
    """Walk the ring that a rest may be one of, and enter its upright-most attitude instead; (steps, immersions)."""
    steps, used = walk_ring(
        vertices, faces, table, points, mass, centre, density, gravity, u, scale, e, high, sums, out, path
    )
    if steps > 0:
        used += uprightmost(
            vertices, faces, table, points, mass, centre, density, gravity, path, steps, e, high, sums, out, u
        )
        _enter(found, row, u, out, 1.0)
    return steps, used
