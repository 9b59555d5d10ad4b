"""Rings of equal rests: told apart from single ones, walked round, and the upright-most of them found."""

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
    LOOSE,
    TIGHT,
    Faces,
    attitude,
    height_after,
    turned,
)
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]

RIPPLE = 3e-5
"""Energy, as a share of weight x size, below which a bump on a ring is the mesh's facets and not the shape."""
RING_STEP = 0.05
"""Radians walked at a time along a suspected ring."""


@compiled
def weak_direction(out: Array) -> float:
    """Angle in the tangent plane of the direction of least curvature."""
    return 0.5 * np.arctan2(2.0 * out[H12], out[H11] - out[H22]) + 0.5 * np.pi


@compiled
def _along(e: Array, ahead: Array) -> float:
    """Angle in the tangent plane of a body-axes direction."""
    a = ahead[0] * e[0, 0] + ahead[1] * e[0, 1] + ahead[2] * e[0, 2]
    b = ahead[0] * e[1, 0] + ahead[1] * e[1, 1] + ahead[2] * e[1, 2]
    return np.arctan2(b, a)


@compiled
def _settle_across(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, u: Array, ahead: Array, e: Array, high: Array, sums: Array, out: Array, tolerance: float,
) -> int:  # fmt: skip
    """Newton steps square to `ahead` only: down to the floor of a valley without sliding along it."""
    new = np.empty(3)
    count = attitude(
        vertices, faces, table, points, mass, centre, density, gravity, u, out[HEIGHT], tolerance, e, high, sums, out
    )
    for _ in range(6):
        angle = _along(e, ahead) + 0.5 * np.pi
        c, s = np.cos(angle), np.sin(angle)
        slope = out[G1] * c + out[G2] * s
        bend = out[H11] * c * c + 2.0 * out[H12] * c * s + out[H22] * s * s
        if bend <= 0.0:
            break
        a = -slope / bend
        if abs(a) < 1e-7:
            break
        a = min(max(a, -0.05), 0.05)
        turned(u, e, a * c, a * s, new)
        guess = height_after(out, a * c, a * s)
        for i in range(3):
            u[i] = new[i]
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, u, guess, tolerance, e, high, sums, out
        )
    return count


@compiled
def walk_ring(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, start: Array, scale: float, e: Array, high: Array, sums: Array, out: Array, path: Array,
) -> tuple[int, int]:  # fmt: skip
    """Walk from a rest along its weakest direction; returns (points of the ring in `path`, immersions).

    The first number is 0 unless the walk comes round to its start without a bump above RIPPLE: then the rest is one of
    a ring of equal ones.
    """
    u, before, ahead, new = start.copy(), start.copy(), np.empty(3), np.empty(3)
    count = attitude(vertices, faces, table, points, mass, centre, density, gravity, u, 0.0, LOOSE, e, high, sums, out)
    base = out[ENERGY]
    angle = weak_direction(out)
    for i in range(3):
        ahead[i] = np.cos(angle) * e[0, i] + np.sin(angle) * e[1, i]
    walked = 0.0
    steps = 0
    while steps < path.shape[0]:
        for i in range(3):
            path[steps, i] = u[i]
            before[i] = u[i]
        steps += 1
        angle = _along(e, ahead)
        a, b = RING_STEP * np.cos(angle), RING_STEP * np.sin(angle)
        turned(u, e, a, b, new)
        out[HEIGHT] = height_after(out, a, b)
        for i in range(3):
            u[i] = new[i]
        count += _settle_across(
            vertices, faces, table, points, mass, centre, density, gravity, u, ahead, e, high, sums, out, LOOSE
        )
        if abs(out[ENERGY] - base) > RIPPLE * scale:
            return 0, count
        dot = 0.0
        for i in range(3):
            ahead[i] = u[i] - before[i]
            dot += ahead[i] * u[i]
        size = 0.0
        for i in range(3):
            ahead[i] -= dot * u[i]
            size += ahead[i] * ahead[i]
        size = np.sqrt(size)
        if size < 0.1 * RING_STEP:
            return 0, count
        for i in range(3):
            ahead[i] /= size
        walked += size
        home = u[0] * start[0] + u[1] * start[1] + u[2] * start[2]
        if walked > 4.0 * RING_STEP and home > np.cos(0.75 * RING_STEP):
            return steps, count
    return 0, count


@compiled
def uprightmost(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, path: Array, steps: int, e: Array, high: Array, sums: Array, out: Array, u: Array,
) -> int:  # fmt: skip
    """The ring's attitude with its back most upward: from the best point walked, slide along the ring."""
    best = 0
    for k in range(steps):
        if path[k, 2] > path[best, 2]:
            best = k
    ahead, new = np.empty(3), np.empty(3)
    after = path[(best + 1) % steps]
    for i in range(3):
        u[i] = path[best, i]
        ahead[i] = after[i] - path[best, i]
    count = attitude(vertices, faces, table, points, mass, centre, density, gravity, u, 0.0, TIGHT, e, high, sums, out)
    for _ in range(8):
        angle = _along(e, ahead)
        c, s = np.cos(angle), np.sin(angle)
        rise = c * e[0, 2] + s * e[1, 2]
        a = min(max(rise / max(u[2], 0.2), -RING_STEP), RING_STEP)
        turned(u, e, a * c, a * s, new)
        out[HEIGHT] = height_after(out, a * c, a * s)
        for i in range(3):
            u[i] = new[i]
        count += _settle_across(
            vertices, faces, table, points, mass, centre, density, gravity, u, ahead, e, high, sums, out, TIGHT
        )
        if abs(a) < 1e-9:
            break
    return count
