"""Rigid-body motion in water, in machine code: what `drop` plays.

Body axes at the centre of gravity, orientation as a quaternion, Kirchhoff's equations (Lamb 1932, ch. VI) with a constant
(6, 6) inertia of body and water: (P, L) = M·(v, ω), dP/dt = P × ω + F, dL/dt = L × ω + P × v + T. Fourth-order Runge-Kutta.
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
    gravity: float, state: Array, heavy: Array, light: Array, spin: Array, drag: Array, still: float,
    u: Array, e: Array, high: Array, sums: Array, out: Array,
) -> float:  # fmt: skip
    """Fill out (11,) with the state's rates; returns the energy, nJ.

    heavy (6, 6) inertia of body and water over (v, ω), light its inverse; spin, drag : see `drop.Water`; still : 0 leaves all
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
    px, py, pz, lx, ly, lz = 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
    for k in range(6):
        move = state[5 + k]
        px += heavy[0, k] * move
        py += heavy[1, k] * move
        pz += heavy[2, k] * move
        lx += heavy[3, k] * move
        ly += heavy[4, k] * move
        lz += heavy[5, k] * move
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
    fx += py * w[2] - pz * w[1]
    fy += pz * w[0] - px * w[2]
    fz += px * w[1] - py * w[0]
    tx += ly * w[2] - lz * w[1] + py * v[2] - pz * v[1]
    ty += lz * w[0] - lx * w[2] + pz * v[0] - px * v[2]
    tz += lx * w[1] - ly * w[0] + px * v[1] - py * v[0]
    for k in range(6):
        out[5 + k] = (
            light[k, 0] * fx
            + light[k, 1] * fy
            + light[k, 2] * fz
            + light[k, 3] * tx
            + light[k, 4] * ty
            + light[k, 5] * tz
        )
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
    gravity: float, state: Array, heavy: Array, light: Array, spin: Array, drag: Array, still: float, step: float,
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
            vertices, faces, table, points, mass, centre, density, gravity, state, heavy, light, spin, drag, still,
            u, e, high, sums, k1,
        )  # fmt: skip
        for i in range(3):
            frames[row, i] = u[i]
        frames[row, 3] = state[4]
        motion = 0.0
        for i in range(6):
            for j in range(6):
                motion += 0.5 * heavy[i, j] * state[5 + i] * state[5 + j]
        calm = calm + 1 if motion < quiet else 0
        if calm * every * step > 0.5:
            return row + 1, True
        for _ in range(every):
            rates(vertices, faces, table, points, mass, centre, density, gravity, state, heavy, light, spin, drag,
                  still, u, e, high, sums, k1)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + 0.5 * step * k1[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, heavy, light, spin, drag,
                  still, u, e, high, sums, k2)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + 0.5 * step * k2[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, heavy, light, spin, drag,
                  still, u, e, high, sums, k3)  # fmt: skip
            for i in range(STATE):
                trial[i] = state[i] + step * k3[i]
            rates(vertices, faces, table, points, mass, centre, density, gravity, trial, heavy, light, spin, drag,
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
