"""All rests: a spiral of attitudes over the sphere, descents from its hollows, and rings of equal rests told apart."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.balance import LOOSE, RESULTS, TIGHT, Faces, attitude, descend, height_after, turned
from yellowbob.afloat.kernel import SUMS, axes_across
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
RIPPLE = 3e-5
"""Energy, as a share of weight x size, below which a bump on a ring is the mesh's facets and not the shape."""
RING_STEP = 0.05
"""Radians walked at a time along a suspected ring."""

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
def weak_direction(out: Array) -> float:
    """Angle in the tangent plane of the direction of least curvature."""
    return 0.5 * np.arctan2(2.0 * out[5], out[4] - out[6]) + 0.5 * np.pi


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
        vertices, faces, table, points, mass, centre, density, gravity, u, out[0], tolerance, e, high, sums, out
    )
    for _ in range(6):
        angle = _along(e, ahead) + 0.5 * np.pi
        c, s = np.cos(angle), np.sin(angle)
        slope = out[2] * c + out[3] * s
        bend = out[4] * c * c + 2.0 * out[5] * c * s + out[6] * s * s
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
    base = out[1]
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
        out[0] = height_after(out, a, b)
        for i in range(3):
            u[i] = new[i]
        count += _settle_across(
            vertices, faces, table, points, mass, centre, density, gravity, u, ahead, e, high, sums, out, LOOSE
        )
        if abs(out[1] - base) > RIPPLE * scale:
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
def _uprightmost(
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
        out[0] = height_after(out, a * c, a * s)
        for i in range(3):
            u[i] = new[i]
        count += _settle_across(
            vertices, faces, table, points, mass, centre, density, gravity, u, ahead, e, high, sums, out, TIGHT
        )
        if abs(a) < 1e-9:
            break
    return count


@compiled
def find_rests(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, scale: float, found: Array,
) -> tuple[int, int]:  # fmt: skip
    """Fill `found` (MOST_RESTS, ROW) with every rest; returns (how many, immersions used).

    A row holds u, the results of `attitude` there, and 1 for one of a ring of equal rests (2: every attitude is one).
    """
    high, sums, out = np.empty(vertices.shape[0]), np.empty(SUMS), np.empty(RESULTS)
    e, u = np.empty((2, 3)), np.empty(3)
    directions = spiral(SPIRAL)
    energies, heights = np.empty(SPIRAL), np.empty(SPIRAL)
    count = 0
    guess = 0.0
    for k in range(SPIRAL):
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, directions[k], guess, 1e-3, e, high,
            sums, out,
        )  # fmt: skip
        energies[k], heights[k] = out[1], out[0]
        if k + 1 < SPIRAL:
            a = b = 0.0
            for i in range(3):
                a += directions[k + 1, i] * e[0, i]
                b += directions[k + 1, i] * e[1, i]
            cos = np.sqrt(max(0.0, 1.0 - a * a - b * b))
            guess = cos * out[0] + a * out[11] + b * out[12]
    found[:] = 0.0
    if energies.max() - energies.min() < RIPPLE * scale:
        u[0], u[1], u[2] = 0.0, 0.0, 1.0
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, u, 0.0, TIGHT, e, high, sums, out
        )
        found[0, :3] = u
        found[0, OUT : OUT + RESULTS] = out
        found[0, RING] = 2.0
        return 1, count
    rings = np.empty((400, 3))
    ring_points = 0
    path = np.empty((160, 3))
    rests = 0
    apart = np.cos(1.6 * np.sqrt(4.0 * np.pi / SPIRAL))
    for order in range(2):
        for k in range(SPIRAL):
            hollow = True
            for j in range(SPIRAL):
                if energies[j] < energies[k]:
                    dot = 0.0
                    for i in range(3):
                        dot += directions[j, i] * directions[k, i]
                    if dot > apart:
                        hollow = False
                        break
            if (order == 0) != hollow or (order == 1 and k % EVERY != 0):
                continue
            u[:] = directions[k]
            count += descend(
                vertices, faces, table, points, mass, centre, density, gravity, u, heights[k], scale, found, rests,
                NEAR_COS, False, e, high, sums, out,
            )  # fmt: skip
            known = False
            for j in range(rests):
                if u[0] * found[j, 0] + u[1] * found[j, 1] + u[2] * found[j, 2] > MERGE_COS:
                    known = True
            for j in range(ring_points):
                if u[0] * rings[j, 0] + u[1] * rings[j, 1] + u[2] * rings[j, 2] > np.cos(RING_STEP):
                    known = True
            if known or rests == found.shape[0]:
                continue
            count += descend(
                vertices, faces, table, points, mass, centre, density, gravity, u, out[0], scale, found, 0,
                NEAR_COS, True, e, high, sums, out,
            )  # fmt: skip
            mean, half = 0.5 * (out[4] + out[6]), np.sqrt(0.25 * (out[4] - out[6]) ** 2 + out[5] ** 2)
            if mean - half < -1e-6 * scale or np.hypot(out[2], out[3]) > LEVEL * scale:
                continue
            found[rests, :3] = u
            found[rests, OUT : OUT + RESULTS] = out
            weak = mean - half
            # a ring's weakest direction is nearly without stiffness; anything stiffer cannot be one
            if weak < 0.02 * scale:
                steps, used = walk_ring(
                    vertices, faces, table, points, mass, centre, density, gravity, u, scale, e, high, sums, out, path
                )
                count += used
                if steps > 0:
                    count += _uprightmost(
                        vertices, faces, table, points, mass, centre, density, gravity, path, steps, e, high, sums,
                        out, u,
                    )  # fmt: skip
                    found[rests, :3] = u
                    found[rests, OUT : OUT + RESULTS] = out
                    found[rests, RING] = 1.0
                    for j in range(steps):
                        if ring_points < rings.shape[0]:
                            rings[ring_points] = path[j]
                            ring_points += 1
            rests += 1
    axes_across(u, e)
    return rests, count
