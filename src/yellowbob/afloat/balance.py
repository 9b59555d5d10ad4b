"""Heave and trim in machine code: the energy of an attitude, its slope and curvature, and descent to a rest.

For a direction u (world-up in body axes) there is one water height h at which the displaced water weighs what the
build weighs. The energy E(u) = W·u·(G - B) then has, on the sphere of directions, the slope W·G - F·B along the two
tangents and the curvature ρg·J - (W·u·(G - B))·I, J being the waterplane's second moments about its own centroid: the
metacentric formula BM = I/V, true at every attitude and not only at rest.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.kernel import AREA, IXX, IXY, IYY, MX, MY, MZ, SX, SY, WET, add_points, axes_across, immerse
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Faces = NDArray[np.int32]

# places in the array of results that `attitude` fills
HEIGHT, ENERGY, G1, G2, H11, H12, H22, WATERPLANE, BX, BY, BZ, XBAR, YBAR, VOLUME_IN = range(14)
RESULTS = 14

HEAVE_STEPS = 60
ENOUGH = 1e-3
"""Share of the energy that slope x step promises which a step must gain."""
LOOSE = 1e-7
"""Share of the displaced volume by which a heave may be off while searching."""
TIGHT = 1e-13
"""The same for the last polish."""


@compiled
def attitude(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, u: Array, guess: float, tolerance: float, e: Array, high: Array, sums: Array, out: Array,
) -> int:  # fmt: skip
    """Find the water height for u and fill `out` (14,); returns how many immersions it took.

    mass g; centre (3,) mm, the centre of gravity; density of water g/mm³; guess mm. Safeguarded Newton on h, whose
    slope is the waterplane area.
    """
    axes_across(u, e)
    low, top = 1e300, -1e300
    wanted = mass / density
    count = 0
    h = guess
    bracketed = False
    energy = 0.0
    for _ in range(HEAVE_STEPS):
        immerse(vertices, faces, table, u, h, e, high, sums)
        energy = add_points(points, u, h, e, sums)
        count += 1
        miss = sums[WET] - wanted
        if abs(miss) <= tolerance * wanted:
            break
        if not bracketed:
            for i in range(high.shape[0]):
                z = high[i] + h
                low, top = min(low, z), max(top, z)
            for k in range(points.shape[0]):
                z = points[k, 0] * u[0] + points[k, 1] * u[1] + points[k, 2] * u[2]
                low, top = min(low, z + points[k, 4]), max(top, z + points[k, 5])
            bracketed = True
        if miss > 0.0:
            top = min(top, h)
        else:
            low = max(low, h)
        nearer = h - miss / sums[AREA] if sums[AREA] > 1e-12 else 1e300
        if not low < nearer < top:
            nearer = 0.5 * (low + top)
        if nearer == h or top - low < 1e-13 * (1.0 + abs(h)):
            break
        h = nearer
    weight = mass * gravity
    push = density * gravity
    gx = weight * centre[0] - push * sums[MX]
    gy = weight * centre[1] - push * sums[MY]
    gz = weight * centre[2] - push * sums[MZ]
    out[HEIGHT] = h
    # the points' share of ∫ depth dV is in `energy`; the hull's is h·V - M·u
    up = centre[0] * u[0] + centre[1] * u[1] + centre[2] * u[2]
    wet, first = 0.0, 0.0
    for k in range(points.shape[0]):
        along = points[k, 0] * u[0] + points[k, 1] * u[1] + points[k, 2] * u[2]
        depth = h - along
        share = 0.0
        if depth >= points[k, 5]:
            share = 1.0
        elif depth > points[k, 4]:
            share = (depth - points[k, 4]) / (points[k, 5] - points[k, 4])
        wet += points[k, 3] * share
        first += points[k, 3] * share * along
    along_hull = sums[MX] * u[0] + sums[MY] * u[1] + sums[MZ] * u[2] - first
    out[ENERGY] = weight * (up - h) + push * (h * (sums[WET] - wet) - along_hull + energy)
    out[G1] = gx * e[0, 0] + gy * e[0, 1] + gz * e[0, 2]
    out[G2] = gx * e[1, 0] + gy * e[1, 1] + gz * e[1, 2]
    lever = gx * u[0] + gy * u[1] + gz * u[2]
    area = sums[AREA]
    xbar = sums[SX] / area if area > 1e-12 else 0.0
    ybar = sums[SY] / area if area > 1e-12 else 0.0
    out[H11] = push * (sums[IXX] - area * xbar * xbar) - lever
    out[H12] = push * (sums[IXY] - area * xbar * ybar)
    out[H22] = push * (sums[IYY] - area * ybar * ybar) - lever
    out[WATERPLANE] = area
    out[BX], out[BY], out[BZ] = sums[MX] / sums[WET], sums[MY] / sums[WET], sums[MZ] / sums[WET]
    out[XBAR], out[YBAR] = xbar, ybar
    out[VOLUME_IN] = sums[WET]
    return count


@compiled
def turned(u: Array, e: Array, a: float, b: float, new: Array) -> None:
    """Move u by the tangent step a·e0 + b·e1 (radians) along a great circle, into `new`."""
    size = np.sqrt(a * a + b * b)
    if size < 1e-300:
        for i in range(3):
            new[i] = u[i]
        return
    cos, sin = np.cos(size), np.sin(size) / size
    total = 0.0
    for i in range(3):
        new[i] = cos * u[i] + sin * (a * e[0, i] + b * e[1, i])
        total += new[i] * new[i]
    total = np.sqrt(total)
    for i in range(3):
        new[i] /= total


@compiled
def height_after(out: Array, a: float, b: float) -> float:
    """Water height to expect after the step a, b: the plane turns about the waterplane's centroid."""
    size = np.sqrt(a * a + b * b)
    if size < 1e-300:
        return out[HEIGHT]
    return np.cos(size) * out[HEIGHT] + np.sin(size) / size * (out[XBAR] * a + out[YBAR] * b)


@compiled
def newton_step(out: Array, scale: float, reach: float, step: Array) -> None:
    """A descent step (2,) from slope and curvature, no longer than `reach`; uphill curvature is turned round."""
    h11, h12, h22 = out[H11], out[H12], out[H22]
    mean, half = 0.5 * (h11 + h22), np.sqrt(0.25 * (h11 - h22) ** 2 + h12 * h12)
    angle = 0.5 * np.arctan2(2.0 * h12, h11 - h22)
    c, s = np.cos(angle), np.sin(angle)
    # strong direction (c, s) with mean + half, weak direction (-s, c) with mean - half
    strong, weak = mean + half, mean - half
    g_strong, g_weak = out[G1] * c + out[G2] * s, -out[G1] * s + out[G2] * c
    least = 1e-9 * scale
    a = -g_strong / max(abs(strong), least)
    b = -g_weak / max(abs(weak), least)
    # at the very top of a ridge the slope vanishes: leave it, or a saddle would pass for a rest
    if weak < -1e-7 * scale and abs(b) < 1e-3:
        b = 0.02 if b >= 0.0 else -0.02
    if strong < -1e-7 * scale and abs(a) < 1e-3:
        a = 0.02 if a >= 0.0 else -0.02
    size = np.sqrt(a * a + b * b)
    if size > reach:
        a, b = a * reach / size, b * reach / size
    step[0], step[1] = a * c - b * s, a * s + b * c


@compiled
def descend(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, u: Array, guess: float, scale: float, found: Array, known: int, near: float, tight: bool,
    e: Array, high: Array, sums: Array, out: Array,
) -> int:  # fmt: skip
    """Trust-region Newton descent from u, in place, to a rest; returns the immersions used.

    scale : weight x size, nJ, against which slopes are small. found : (k, 3) rests already known; a descent that comes
    within `near` (cosine) of one of the first `known` stops there. On return `out` belongs to the final u.
    """
    new, step, trial = np.empty(3), np.empty(2), np.empty(out.shape[0])
    tolerance = TIGHT if tight else LOOSE
    count = attitude(
        vertices, faces, table, points, mass, centre, density, gravity, u, guess, tolerance, e, high, sums, out
    )
    reach = 0.4
    for _ in range(80):
        newton_step(out, scale, reach, step)
        size = np.sqrt(step[0] * step[0] + step[1] * step[1])
        if size < (1e-11 if tight else 2e-6):
            break
        turned(u, e, step[0], step[1], new)
        count += attitude(
            vertices, faces, table, points, mass, centre, density, gravity, new,
            height_after(out, step[0], step[1]), tolerance, e, high, sums, trial,
        )  # fmt: skip
        # a real gain is asked for (Armijo 1966), or equal energies either side of a valley could be swapped for ever
        downhill = out[G1] * step[0] + out[G2] * step[1]
        if trial[ENERGY] <= out[ENERGY] + ENOUGH * downhill or size < 1e-5:
            gained = out[ENERGY] - trial[ENERGY]
            for i in range(3):
                u[i] = new[i]
            for i in range(out.shape[0]):
                out[i] = trial[i]
            if gained >= 0.0:
                reach = min(0.6, reach * 1.5)
            if size < 1e-9:
                break
            stop = False
            for k in range(known):
                if u[0] * found[k, 0] + u[1] * found[k, 1] + u[2] * found[k, 2] > near:
                    stop = True
            if stop:
                break
        else:
            axes_across(u, e)
            reach = 0.3 * size
            if reach < 1e-12:
                break
    axes_across(u, e)
    return count
