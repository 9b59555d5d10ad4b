"""Landings in machine code: energies over the sphere, and steepest descent on what lies between them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.balance import ENERGY, G1, G2, HEIGHT, RESULTS, XBAR, YBAR, attitude
from yellowbob.afloat.kernel import SUMS
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Ints = NDArray[np.int32]

MAP_TOLERANCE = 2e-4
"""Share of the displaced volume by which a heave of the map may be off."""
STEP = 0.2
"""Length of a step of the descent as a share of the grid's spacing."""
MOST_STEPS = 600


@compiled
def sweep(
    vertices: Array, faces: Ints, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, directions: Array, order: Ints, parent: Ints, energies: Array, slopes: Array, heights: Array,
    lean: Array,
) -> int:  # fmt: skip
    """Energy (n,) and slope (n, 3), as tangent vectors, at every direction in `order`; returns the immersions used.

    order : directions from near to near; parent : for each, one already done, there or by an earlier call, whose water
    height, in `heights` (n,), and its slope, in `lean` (n, 3), start the heave.
    """
    high, sums, out, e = np.empty(vertices.shape[0]), np.empty(SUMS), np.empty(RESULTS), np.empty((2, 3))
    count = 0
    for k in range(order.shape[0]):
        at, from_ = order[k], parent[order[k]]
        u = directions[at]
        guess = 0.0
        if from_ >= 0:
            cos = u[0] * directions[from_, 0] + u[1] * directions[from_, 1] + u[2] * directions[from_, 2]
            guess = cos * heights[from_] + u[0] * lean[from_, 0] + u[1] * lean[from_, 1] + u[2] * lean[from_, 2]
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, u, guess, MAP_TOLERANCE, e, high, sums, out
        )
        energies[at], heights[at] = out[ENERGY], out[HEIGHT]
        for i in range(3):
            slopes[at, i] = out[G1] * e[0, i] + out[G2] * e[1, i]
            lean[at, i] = out[XBAR] * e[0, i] + out[YBAR] * e[1, i]
    return count


@compiled
def shares_in(directions: Array, triangles: Ints, f: int, u: Array, w: Array) -> int:
    """Barycentric shares w (3,) of u in a spherical triangle; returns the corner most outside, -1 when inside."""
    a, b, c = directions[triangles[f, 0]], directions[triangles[f, 1]], directions[triangles[f, 2]]
    w[0] = u[0] * (b[1] * c[2] - b[2] * c[1]) + u[1] * (b[2] * c[0] - b[0] * c[2]) + u[2] * (b[0] * c[1] - b[1] * c[0])
    w[1] = u[0] * (c[1] * a[2] - c[2] * a[1]) + u[1] * (c[2] * a[0] - c[0] * a[2]) + u[2] * (c[0] * a[1] - c[1] * a[0])
    w[2] = u[0] * (a[1] * b[2] - a[2] * b[1]) + u[1] * (a[2] * b[0] - a[0] * b[2]) + u[2] * (a[0] * b[1] - a[1] * b[0])
    worst = 0
    for i in range(1, 3):
        if w[i] < w[worst]:
            worst = i
    if w[worst] < -1e-12:
        return worst
    total = w[0] + w[1] + w[2]
    for i in range(3):
        w[i] /= total
    return -1


@compiled
def locate(directions: Array, triangles: Ints, across: Ints, f: int, u: Array, w: Array) -> int:
    """The triangle that holds u, walking from triangle f over the edges; fills its shares."""
    for _ in range(400):
        out = shares_in(directions, triangles, f, u, w)
        if out < 0:
            return f
        f = across[f, out]
    total = max(w[0], 0.0) + max(w[1], 0.0) + max(w[2], 0.0)
    for i in range(3):
        w[i] = max(w[i], 0.0) / total
    return f


@compiled
def follow(
    directions: Array, triangles: Ints, across: Ints, slopes: Array, labels: Ints, sinks: Array, sink_of: Ints,
    caught: float, spacing: float, f: int, u: Array, w: Array, path: Array, stride: int,
) -> int:  # fmt: skip
    """Steepest descent from u, in place, on slopes taken evenly between the grid's corners.

    Ends in a sink (within the cosine `caught`), or in a triangle whose corners all end in the same rest. Returns the
    rest's number; -1 where it stalls. `path` (k, 3) takes every stride-th place; its last row used repeats the end.
    """
    mid, before = np.empty(3), np.zeros(3)
    kept = 0
    for step in range(MOST_STEPS):
        if stride > 0 and step % stride == 0 and kept < path.shape[0] - 1:
            path[kept] = u
            kept += 1
        for k in range(sinks.shape[0]):
            if u[0] * sinks[k, 0] + u[1] * sinks[k, 1] + u[2] * sinks[k, 2] > caught:
                if stride > 0:
                    for j in range(kept, path.shape[0]):
                        path[j] = sinks[k]
                return sink_of[k]
        f = locate(directions, triangles, across, f, u, w)
        one = labels[triangles[f, 0]]
        if stride == 0 and one >= 0 and labels[triangles[f, 1]] == one and labels[triangles[f, 2]] == one:
            return one
        size = 0.0
        for half in range(2):
            size = 0.0
            dot = 0.0
            for i in range(3):
                g = 0.0
                for k in range(3):
                    g += w[k] * slopes[triangles[f, k], i]
                mid[i] = -g
                dot -= g * u[i]
            for i in range(3):
                mid[i] -= dot * u[i]
                size += mid[i] * mid[i]
            size = np.sqrt(size)
            if size < 1e-300:
                return -1
            if half == 1:  # from one flank of a valley to the other and back: what both have in common leads along it
                back = 0.0
                for i in range(3):
                    mid[i] /= size
                    back += mid[i] * before[i]
                size = 0.0
                for i in range(3):
                    old = before[i]
                    before[i] = mid[i]
                    if back < 0.0:
                        mid[i] += old
                    size += mid[i] * mid[i]
                size = np.sqrt(size)
                if size < 1e-9:
                    return -1
            reach = STEP * spacing * (0.5 if half == 0 else 1.0)
            total = 0.0
            for i in range(3):
                mid[i] = u[i] + reach * mid[i] / size
                total += mid[i] * mid[i]
            total = np.sqrt(total)
            for i in range(3):
                mid[i] /= total
            if half == 0:  # the slope half a step on leads the whole step
                f = locate(directions, triangles, across, f, mid, w)
        for i in range(3):
            u[i] = mid[i]
    return -1


@compiled
def paint(
    directions: Array, triangles: Ints, across: Ints, slopes: Array, labels: Ints, sinks: Array, sink_of: Ints,
    caught: float, spacing: float, order: Ints, start: Ints,
) -> None:  # fmt: skip
    """Label every direction with the rest it ends in, from the lowest energy up, so that most paths are short."""
    u, w, none = np.empty(3), np.empty(3), np.empty((1, 3))
    for k in range(order.shape[0]):
        u[:] = directions[order[k]]
        labels[order[k]] = follow(
            directions,
            triangles,
            across,
            slopes,
            labels,
            sinks,
            sink_of,
            caught,
            spacing,
            start[order[k]],
            u,
            w,
            none,
            0,
        )


@compiled
def fine_shares(
    directions: Array, triangles: Ints, across: Ints, slopes: Array, labels: Ints, sinks: Array, sink_of: Ints,
    caught: float, spacing: float, areas: Array, parts: int, totals: Array,
) -> None:  # fmt: skip
    """Add up areas by rest into totals (rests + 1,), the last for what stalled; triangles that several rests share are
    cut into parts² and each part's middle followed down."""
    u, w, none = np.empty(3), np.empty(3), np.empty((1, 3))
    for f in range(triangles.shape[0]):
        one = labels[triangles[f, 0]]
        if one >= 0 and labels[triangles[f, 1]] == one and labels[triangles[f, 2]] == one:
            totals[one] += areas[f]
            continue
        share = areas[f] / (parts * parts)
        for i in range(parts):
            for j in range(parts - i):
                for flip in range(2):
                    if flip == 1 and i + j >= parts - 1:
                        continue
                    third = 1.0 / 3.0 if flip == 0 else 2.0 / 3.0
                    a, b = (i + third) / parts, (j + third) / parts
                    size = 0.0
                    for x in range(3):
                        u[x] = (
                            a * directions[triangles[f, 0], x]
                            + b * directions[triangles[f, 1], x]
                            + (1.0 - a - b) * directions[triangles[f, 2], x]
                        )
                        size += u[x] * u[x]
                    size = np.sqrt(size)
                    for x in range(3):
                        u[x] /= size
                    # within a shared triangle the corners' labels say nothing: followed to a sink or a plain triangle
                    end = follow(
                        directions, triangles, across, slopes, labels, sinks, sink_of, caught, spacing, f, u, w, none, 0
                    )
                    totals[end if end >= 0 else totals.shape[0] - 1] += share
