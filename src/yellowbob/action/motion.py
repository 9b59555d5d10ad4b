"""Rigid-body motion in water, in machine code: what `drop` plays.

Body axes at the centre of gravity, orientation as a quaternion, Kirchhoff's equations (Lamb 1932, ch. VI) with constant
diagonal added mass: d/dt(M·v) = M·v × ω + F, d/dt(I·ω) = I·ω × ω + M·v × v + T. Fourth-order Runge-Kutta.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.kernel import SUMS, add_points, axes_across, immerse
from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Faces = NDArray[np.int32]

# a state: quaternion body to world (4), height of G over the water, velocity (3) and spin (3) in body axes
QW, HEIGHT, VX, WX = 0, 4, 5, 8
STATE = 11


@compiled
def up_of(state: Array, u: Array) -> None:
    """World-up in body axes: the third row of the rotation."""
    w, x, y, z = state[0], state[1], state[2], state[3]
    u[0], u[1], u[2] = 2.0 * (x * z - w * y), 2.0 * (y * z + w * x), w * w - x * x - y * y + z * z


@compiled
def rates(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, state: Array, inertia: Array, heavy: Array, spin: Array, drag: Array, still: float,
    u: Array, e: Array, high: Array, sums: Array, out: Array,
) -> float:  # fmt: skip
    """Fill out (11,) with the state's rates; returns the energy, nJ.

    inertia (3, 3), added water in; heavy (3,) masses, added water in; spin, drag : see `drop.Water`; still : 0 leaves all
    damping out.
    """
    up_of(state, u)
    size = np.sqrt(u[0] * u[0] + u[1] * u[1] + u[2] * u[2])
    for i in range(3):
        u[i] /= size
    axes_across(u, e)
    level = centre[0] * u[0] + centre[1] * u[1] + centre[2] * u[2]
    h = level - state[4]
    immerse(vertices, faces, table, u, h, e, high, sums)
    hull, mx, my, mz = sums[0], sums[1], sums[2], sums[3]
    share = add_points(points, u, h, e, sums)
    push = density * gravity
    potential = mass * gravity * state[4] + push * (h * hull - (mx * u[0] + my * u[1] + mz * u[2]) + share)
    wet = min(1.0, sums[0] * density / mass)
    v, w = state[5:8], state[8:11]
    px, py, pz = heavy[0] * v[0], heavy[1] * v[1], heavy[2] * v[2]
    lx = inertia[0, 0] * w[0] + inertia[0, 1] * w[1] + inertia[0, 2] * w[2]
    ly = inertia[1, 0] * w[0] + inertia[1, 1] * w[1] + inertia[1, 2] * w[2]
    lz = inertia[2, 0] * w[0] + inertia[2, 1] * w[1] + inertia[2, 2] * w[2]
    kinetic = 0.5 * (px * v[0] + py * v[1] + pz * v[2] + lx * w[0] + ly * w[1] + lz * w[2])
    lift = push * sums[0] - mass * gravity
    fx, fy, fz = lift * u[0], lift * u[1], lift * u[2]
    # moment of the buoyancy about G
    bx, by, bz = sums[1] - sums[0] * centre[0], sums[2] - sums[0] * centre[1], sums[3] - sums[0] * centre[2]
    tx, ty, tz = push * (by * u[2] - bz * u[1]), push * (bz * u[0] - bx * u[2]), push * (bx * u[1] - by * u[0])
    if still > 0.0 and wet > 0.0:
        d = still * wet
        fx -= d * v[0] * (drag[0] * abs(v[0]) + drag[3])
        fy -= d * v[1] * (drag[1] * abs(v[1]) + drag[4])
        fz -= d * v[2] * (drag[2] * abs(v[2]) + drag[5])
        tx -= d * w[0] * (spin[0] * abs(w[0]) + spin[3])
        ty -= d * w[1] * (spin[1] * abs(w[1]) + spin[4])
        tz -= d * w[2] * (spin[2] * abs(w[2]) + spin[5])
    out[5] = (fx + py * w[2] - pz * w[1]) / heavy[0]
    out[6] = (fy + pz * w[0] - px * w[2]) / heavy[1]
    out[7] = (fz + px * w[1] - py * w[0]) / heavy[2]
    tx += ly * w[2] - lz * w[1] + py * v[2] - pz * v[1]
    ty += lz * w[0] - lx * w[2] + pz * v[0] - px * v[2]
    tz += lx * w[1] - ly * w[0] + px * v[1] - py * v[0]
    # spin rates by the inverse of the symmetric inertia
    a, b, c = inertia[0, 0], inertia[0, 1], inertia[0, 2]
    f, g, k = inertia[1, 1], inertia[1, 2], inertia[2, 2]
    one, two, three = f * k - g * g, c * g - b * k, b * g - c * f
    whole = a * one + b * two + c * three
    out[8] = (one * tx + two * ty + three * tz) / whole
    out[9] = (two * tx + (a * k - c * c) * ty + (b * c - a * g) * tz) / whole
    out[10] = (three * tx + (b * c - a * g) * ty + (a * f - b * b) * tz) / whole
    q0, q1, q2, q3 = state[0], state[1], state[2], state[3]
    out[0] = 0.5 * (-q1 * w[0] - q2 * w[1] - q3 * w[2])
    out[1] = 0.5 * (q0 * w[0] + q2 * w[2] - q3 * w[1])
    out[2] = 0.5 * (q0 * w[1] + q3 * w[0] - q1 * w[2])
    out[3] = 0.5 * (q0 * w[2] + q1 * w[1] - q2 * w[0])
    out[4] = u[0] * v[0] + u[1] * v[1] + u[2] * v[2]
    return kinetic + potential


@compiled
def play(
    vertices: Array, faces: Faces, table: Array, points: Array, mass: float, centre: Array, density: float,
    gravity: float, state: Array, inertia: Array, heavy: Array, spin: Array, drag: Array, still: float, step: float,
    every: int, quiet: float, frames: Array, energies: Array,
) -> tuple[int, bool]:  # fmt: skip
    """Play from a state, in place; every so-manieth step fills a row of frames (k, 4): up (3), height of G.

    Stops early once its energy of motion stays under `quiet` (nJ) for half a second; returns (rows, whether it did).
    """
    u, e, high, sums = np.empty(3), np.empty((2, 3)), np.empty(vertices.shape[0]), np.empty(SUMS)
    k1, k2, k3, k4, trial = np.empty(STATE), np.empty(STATE), np.empty(STATE), np.empty(STATE), np.empty(STATE)
    calm = 0
    for row in range(frames.shape[0]):
        energies[row] = rates(
            vertices, faces, table, points, mass, centre, density, gravity, state, inertia, heavy, spin, drag, still,
            u, e, high, sums, k1,
        )  # fmt: skip
        for i in range(3):
            frames[row, i] = u[i]
        frames[row, 3] = state[4]
        motion = 0.0
        for i in range(3):
            motion += 0.5 * heavy[i] * state[5 + i] ** 2
            for j in range(3):
                motion += 0.5 * inertia[i, j] * state[8 + i] * state[8 + j]
        calm = calm + 1 if motion < quiet else 0
        if calm * every * step > 0.5:
            return row + 1, True
        for _ in range(every):
            rates(vertices, faces, table, points, mass, centre, density, gravity, state, inertia, heavy, spin, drag,
                  still, u, e, high, sums, k1)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + 0.5 * step * k1[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, inertia, heavy, spin, drag,
                  still, u, e, high, sums, k2)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + 0.5 * step * k2[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, inertia, heavy, spin, drag,
                  still, u, e, high, sums, k3)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + step * k3[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, inertia, heavy, spin, drag,
                  still, u, e, high, sums, k4)  # fmt: skip
            size = 0.0
            for i in range(STATE):
                state[i] += step / 6.0 * (k1[i] + 2.0 * k2[i] + 2.0 * k3[i] + k4[i])
                if i < 4:
                    size += state[i] * state[i]
            size = np.sqrt(size)
            for i in range(4):
                state[i] /= size
    return frames.shape[0], False
