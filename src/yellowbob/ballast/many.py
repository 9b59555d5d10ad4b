"""Many builds at once, in machine code: each with its own mass, centre and film, settled from the design's own rest."""

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
    attitude,
    descend,
    height_after,
    newton_step,
    turned,
)
from yellowbob.afloat.kernel import SUMS
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Faces = NDArray[np.int32]

# places in a row of results
FLOATS, UX, UY, UZ, DRAFT, LIFT, RIGHT, USED = 0, 1, 2, 3, 4, 5, 6, 7
ROW = 8
MAIN_TOLERANCE = 1e-5
PROBE_TOLERANCE = 1e-3
LAST_STEP = 2e-3
"""A Newton step so short, rad, leaves an error of its square: it is taken without another immersion."""
AWAY_COS = float(np.cos(np.radians(35.0)))
"""Shares of the displaced volume by which a heave may be off: for the rest itself, and while it is seen to come right.
A probe is the laziest attitude: one that has left it by 35°, going down, is on its way home."""


@compiled
def table_of(vertices: Array, faces: Faces, table: Array) -> float:
    """Fill `table` (m, 7) as `rest.face_table` does; returns the volume."""
    volume = 0.0
    for f in range(faces.shape[0]):
        a, b, c = faces[f, 0], faces[f, 1], faces[f, 2]
        ux, uy, uz = vertices[b, 0] - vertices[a, 0], vertices[b, 1] - vertices[a, 1], vertices[b, 2] - vertices[a, 2]
        vx, vy, vz = vertices[c, 0] - vertices[a, 0], vertices[c, 1] - vertices[a, 1], vertices[c, 2] - vertices[a, 2]
        nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
        table[f, 0], table[f, 1], table[f, 2] = nx, ny, nz
        table[f, 3] = vertices[a, 0] * nx + vertices[a, 1] * ny + vertices[a, 2] * nz
        volume += table[f, 3]
        for i in range(3):
            table[f, 4 + i] = vertices[a, i] + vertices[b, i] + vertices[c, i]
    return volume / 6.0


@compiled
def settle_many(
    vertices: Array, faces: Faces, points: Array, density: float, gravity: float, normals: Array, masses: Array,
    centres: Array, films: Array, start: Array, height: float, probes: Array, probe_heights: Array,
    right_cos: float, rows: Array,
) -> None:  # fmt: skip
    """Settle builds: masses (k,) g, centres (k, 3) and hull vertices about one origin, films (k,) mm more than drawn.

    start (3,), height : the design's own rest; probes (j, 3), probe_heights (j,) : attitudes it must come
    right from, and the water's height there to begin with. Fills rows (k, ROW):
    floats, up, draft, lift in g, whether every probe ends within `right_cos` of its rest, immersions used.
    """
    grown, table = vertices.copy(), np.empty((faces.shape[0], 7))
    e, high, sums = np.empty((2, 3)), np.empty(vertices.shape[0]), np.empty(SUMS)
    out, new, step = np.empty(RESULTS), np.empty(3), np.empty(2)
    u, p, none = np.empty(3), np.empty(3), np.zeros((1, 3))
    extra = 0.0
    for k in range(points.shape[0]):
        extra += points[k, 3]
    last = 1e300
    volume = 0.0
    for k in range(masses.shape[0]):
        if films[k] != last:
            for i in range(vertices.shape[0]):
                for j in range(3):
                    grown[i, j] = vertices[i, j] + normals[i, j] * films[k]
            volume = table_of(grown, faces, table)
            last = films[k]
        mass, centre = masses[k], centres[k]
        lift = density * (volume + extra)
        rows[k, LIFT] = lift
        rows[k, FLOATS] = 1.0 if mass < lift else 0.0
        rows[k, RIGHT] = 0.0
        rows[k, USED] = 0.0
        if mass >= lift:
            continue
        u[:] = start
        scale = mass * gravity * volume ** (1.0 / 3.0)
        used = attitude(
            grown, faces, table, points, mass, centre, density, gravity, u, height, MAIN_TOLERANCE, e, high, sums, out
        )
        settled = False
        for _ in range(6):
            newton_step(out, scale, 0.2, step)
            size = np.sqrt(step[0] ** 2 + step[1] ** 2)
            low = 0.5 * (out[H11] + out[H22]) - np.sqrt(0.25 * (out[H11] - out[H22]) ** 2 + out[H12] ** 2)
            turned(u, e, step[0], step[1], new)
            guess = height_after(out, step[0], step[1])
            u[:] = new
            if size < LAST_STEP and low > 0.0:
                out[HEIGHT] = guess
                settled = True
                break
            used += attitude(
                grown,
                faces,
                table,
                points,
                mass,
                centre,
                density,
                gravity,
                u,
                guess,
                MAIN_TOLERANCE,
                e,
                high,
                sums,
                out,
            )
        if not settled:
            u[:] = start
            used += descend(
                grown, faces, table, points, mass, centre, density, gravity, u, height, scale, none, 0, 1.0, False, e,
                high, sums, out,
            )  # fmt: skip
        lowest = 1e300
        for i in range(vertices.shape[0]):
            lowest = min(lowest, grown[i, 0] * u[0] + grown[i, 1] * u[1] + grown[i, 2] * u[2])
        rows[k, UX], rows[k, UY], rows[k, UZ] = u[0], u[1], u[2]
        rows[k, DRAFT] = out[HEIGHT] - lowest
        right = 1.0 if u[0] * start[0] + u[1] * start[1] + u[2] * start[2] > 0.0 else 0.0
        for j in range(probes.shape[0]):
            if right == 0.0:
                break
            p[:] = probes[j]
            used += _returns(
                grown, faces, table, points, mass, centre, density, gravity, p, probe_heights[j], u, right_cos, scale, e,
                high, sums, out, new, step,
            )  # fmt: skip
            home = p[0] * u[0] + p[1] * u[1] + p[2] * u[2]
            left = p[0] * probes[j, 0] + p[1] * probes[j, 1] + p[2] * probes[j, 2]
            if home < right_cos and left > AWAY_COS:
                right = 0.0
        rows[k, RIGHT] = right
        rows[k, USED] = used


@compiled
def _returns(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, p: Array, guess: float, home: Array, near: float, scale: float, e: Array, high: Array, sums: Array,
    out: Array, new: Array, step: Array,
) -> int:  # fmt: skip
    """Go down from p, in place, by loose steps until it is near home, well on its way, or lies still; the immersions."""
    used = attitude(
        vertices, faces, table, points, mass, centre, density, gravity, p, guess, PROBE_TOLERANCE, e, high, sums, out
    )
    begun = p.copy()
    reach = 0.5
    for _ in range(40):
        if p[0] * home[0] + p[1] * home[1] + p[2] * home[2] > near:
            return used
        if p[0] * begun[0] + p[1] * begun[1] + p[2] * begun[2] < AWAY_COS:
            return used
        newton_step(out, scale, reach, step)
        size = np.sqrt(step[0] ** 2 + step[1] ** 2)
        if size < 3e-3:
            return used
        before = out[ENERGY]
        turned(p, e, step[0], step[1], new)
        guess = height_after(out, step[0], step[1])
        slope = out[G1] * step[0] + out[G2] * step[1]
        used += attitude(
            vertices,
            faces,
            table,
            points,
            mass,
            centre,
            density,
            gravity,
            new,
            guess,
            PROBE_TOLERANCE,
            e,
            high,
            sums,
            out,
        )
        if out[ENERGY] > before + 0.1 * slope and size > 0.02:
            reach = 0.4 * size
            guess = out[HEIGHT]
            used += attitude(
                vertices, faces, table, points, mass, centre, density, gravity, p, guess, PROBE_TOLERANCE, e, high, sums,
                out,
            )  # fmt: skip
        else:
            for i in range(3):
                p[i] = new[i]
            reach = min(0.7, 1.6 * reach)
    return used
