"""Distances from many places to a triangle mesh, compiled: on a grid near its surface, and from single places."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Ints = NDArray[np.int64]


@compiled
def nearest_on(t: Array, px: float, py: float, pz: float, out: Array) -> float:
    """Squared distance from a point to a triangle (3, 3), the nearest place into `out` (Ericson 2005, 5.1.5)."""
    abx, aby, abz = t[1, 0] - t[0, 0], t[1, 1] - t[0, 1], t[1, 2] - t[0, 2]
    acx, acy, acz = t[2, 0] - t[0, 0], t[2, 1] - t[0, 1], t[2, 2] - t[0, 2]
    apx, apy, apz = px - t[0, 0], py - t[0, 1], pz - t[0, 2]
    d1 = abx * apx + aby * apy + abz * apz
    d2 = acx * apx + acy * apy + acz * apz
    v, w = 0.0, 0.0
    if d1 > 0.0 or d2 > 0.0:
        bpx, bpy, bpz = px - t[1, 0], py - t[1, 1], pz - t[1, 2]
        d3 = abx * bpx + aby * bpy + abz * bpz
        d4 = acx * bpx + acy * bpy + acz * bpz
        cpx, cpy, cpz = px - t[2, 0], py - t[2, 1], pz - t[2, 2]
        d5 = abx * cpx + aby * cpy + abz * cpz
        d6 = acx * cpx + acy * cpy + acz * cpz
        vc, vb, va = d1 * d4 - d3 * d2, d5 * d2 - d1 * d6, d3 * d6 - d5 * d4
        if d3 >= 0.0 and d4 <= d3:
            v = 1.0
        elif d6 >= 0.0 and d5 <= d6:
            w = 1.0
        elif vc <= 0.0 and d1 >= 0.0 and d3 <= 0.0:
            v = d1 / (d1 - d3)
        elif vb <= 0.0 and d2 >= 0.0 and d6 <= 0.0:
            w = d2 / (d2 - d6)
        elif va <= 0.0 and d4 - d3 >= 0.0 and d5 - d6 >= 0.0:
            w = (d4 - d3) / ((d4 - d3) + (d5 - d6))
            v = 1.0 - w
        else:
            total = va + vb + vc
            v, w = vb / total, vc / total
    out[0] = t[0, 0] + abx * v + acx * w
    out[1] = t[0, 1] + aby * v + acy * w
    out[2] = t[0, 2] + abz * v + acz * w
    return (px - out[0]) ** 2 + (py - out[1]) ** 2 + (pz - out[2]) ** 2


@compiled
def grid_distances(corners: Array, low: Array, step: float, reach: float, out: Array) -> None:
    """Distance of grid nodes (nx, ny, nz) from a mesh, where it is less than `reach`; `out` comes filled with `reach`.

    corners : (m, 3, 3) triangles, mm. low : of the first node. step, reach : mm.
    """
    place = np.empty(3)
    nx, ny, nz = out.shape
    for k in range(corners.shape[0]):
        t = corners[k]
        first, last = np.empty(3, np.int64), np.empty(3, np.int64)
        for a in range(3):
            least = min(t[0, a], min(t[1, a], t[2, a])) - reach
            most = max(t[0, a], max(t[1, a], t[2, a])) + reach
            first[a] = max(0, math.ceil((least - low[a]) / step))
            last[a] = math.floor((most - low[a]) / step)
        cx = (t[0, 0] + t[1, 0] + t[2, 0]) / 3.0
        cy = (t[0, 1] + t[1, 1] + t[2, 1]) / 3.0
        cz = (t[0, 2] + t[1, 2] + t[2, 2]) / 3.0
        size = 0.0
        for c in range(3):
            size = max(size, math.sqrt((t[c, 0] - cx) ** 2 + (t[c, 1] - cy) ** 2 + (t[c, 2] - cz) ** 2))
        for i in range(first[0], min(nx - 1, last[0]) + 1):
            x = low[0] + i * step
            for j in range(first[1], min(ny - 1, last[1]) + 1):
                y = low[1] + j * step
                for n in range(first[2], min(nz - 1, last[2]) + 1):
                    z = low[2] + n * step
                    known = out[i, j, n]
                    if (x - cx) ** 2 + (y - cy) ** 2 + (z - cz) ** 2 >= (known + size) ** 2:
                        continue
                    away = nearest_on(t, x, y, z, place)
                    if away < known * known:
                        out[i, j, n] = math.sqrt(away)


@compiled
def fill_cells(first: Ints, last: Ints, count: Ints, starts: Ints, rows: Ints, fill: bool) -> None:
    """Sort boxes of cells, first (m, 3) to last (m, 3) of `count` (3,), into lists by cell: rows[starts[c]:starts[c + 1]].

    Called first without `fill`, which counts them into starts[1:], then with it, starts being the sums of these.
    """
    at = starts[:-1].copy()
    for k in range(first.shape[0]):
        for i in range(first[k, 0], last[k, 0] + 1):
            for j in range(first[k, 1], last[k, 1] + 1):
                for n in range(first[k, 2], last[k, 2] + 1):
                    cell = (i * count[1] + j) * count[2] + n
                    if fill:
                        rows[at[cell]] = k
                        at[cell] += 1
                    else:
                        starts[cell + 1] += 1


@compiled
def nearest_places(
    corners: Array, balls: Array, starts: Ints, rows: Ints, low: Array, wide: Array, count: Ints, reach: float,
    places: Array, out: Array,
) -> None:  # fmt: skip
    """The nearest place on a mesh to each of `places` (n, 3), mm, into `out`; itself where none is within `reach`.

    balls : (m, 4) a middle and a radius that hold each triangle. rows[starts[c]:starts[c + 1]] are the triangles that
    can be nearest in cell c of `count` (3,), each `wide` (3,) mm from `low` (3,).
    """
    place = np.empty(3)
    for p in range(places.shape[0]):
        x, y, z = places[p, 0], places[p, 1], places[p, 2]
        cell = 0
        for a in range(3):
            cell = cell * count[a] + min(max(0, int((places[p, a] - low[a]) / wide[a])), count[a] - 1)
        best = reach
        out[p, 0], out[p, 1], out[p, 2] = x, y, z
        for r in range(starts[cell], starts[cell + 1]):
            row = rows[r]
            far = best + balls[row, 3]
            if (x - balls[row, 0]) ** 2 + (y - balls[row, 1]) ** 2 + (z - balls[row, 2]) ** 2 >= far * far:
                continue
            away = nearest_on(corners[row], x, y, z, place)
            if away < best * best:
                best = math.sqrt(away)
                out[p, 0], out[p, 1], out[p, 2] = place[0], place[1], place[2]


@compiled
def _crossings(
    corners: Array, start: Array, step: Array, count: Ints, fill: bool, line: Ints, at: Array, sign: Ints
) -> int:  # fmt: skip
    found = 0
    for k in range(corners.shape[0]):
        t = corners[k]
        ay, az, by, bz, cy, cz = t[0, 1], t[0, 2], t[1, 1], t[1, 2], t[2, 1], t[2, 2]
        twice = (by - ay) * (cz - az) - (bz - az) * (cy - ay)
        if twice == 0.0:
            continue
        j0 = max(0, math.ceil((min(ay, min(by, cy)) - start[0]) / step[0]))
        j1 = min(count[0] - 1, math.floor((max(ay, max(by, cy)) - start[0]) / step[0]))
        n0 = max(0, math.ceil((min(az, min(bz, cz)) - start[1]) / step[1]))
        n1 = min(count[1] - 1, math.floor((max(az, max(bz, cz)) - start[1]) / step[1]))
        for j in range(j0, j1 + 1):
            y = start[0] + j * step[0]
            for n in range(n0, n1 + 1):
                z = start[1] + n * step[1]
                u = ((by - y) * (cz - z) - (bz - z) * (cy - y)) / twice
                v = ((cy - y) * (az - z) - (cz - z) * (ay - y)) / twice
                w = 1.0 - u - v
                if u < 0.0 or v < 0.0 or w < 0.0:
                    continue
                if fill:
                    line[found] = j * count[1] + n
                    at[found] = u * t[0, 0] + v * t[1, 0] + w * t[2, 0]
                    # going aft, a face whose normal looks forward is the way in
                    sign[found] = 1 if twice < 0.0 else -1
                found += 1
    return found


def line_crossings(corners: Array, start: Array, step: Array, count: tuple[int, int]) -> tuple[Ints, Array, Ints]:
    """Where lines along the first axis, at start + step·(j, n) of the other two, cross triangles (m, 3, 3).

    count : how many j and n. For each crossing the line's number (j·count[1] + n), the place along it, and +1 for the way
    in, -1 for the way out. A line through an edge or corner may count it twice or not at all.
    """
    none, many = np.empty(0, np.int64), np.array(count, dtype=np.int64)
    size = _crossings(corners, start, step, many, False, none, np.empty(0), none)
    line, at, sign = np.empty(size, np.int64), np.empty(size), np.empty(size, np.int64)
    _crossings(corners, start, step, many, True, line, at, sign)
    return line, at, sign
