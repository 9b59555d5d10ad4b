"""A throw's motion in machine code: what `flight` plays."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]


@compiled
def rates(
    state: Array, mass: float, inertia: float, at: Array, wide: Array, step: float, front: float, munk: float, across: float,
    along: float, crossing: float, air: float, gravity: float, tie: float, trail: float, out: Array,
) -> None:  # fmt: skip
    """Rates of (x, z, vx, vz, pitch, spin)."""
    vx, vz, pitch, spin = state[2], state[3], state[4], state[5]
    # unit vectors nose-forward and square to it, up at level
    fx, fz = np.cos(pitch), np.sin(pitch)
    nx, nz = -fz, fx
    ahead, aside = vx * fx + vz * fz, vx * nx + vz * nz
    speed = np.sqrt(vx * vx + vz * vz)
    force, moment = 0.0, 0.0
    for i in range(at.shape[0]):
        # at aft of G moves by -spin x at along the normal
        w = aside - spin * at[i]
        mixed = abs(w) ** crossing * np.sqrt(ahead * ahead + w * w) ** (1.0 - crossing)
        push = -0.5 * air * across * wide[i] * step * w * mixed
        force += push
        moment -= push * at[i]
    drag = -0.5 * air * along * front * ahead * (abs(ahead) ** crossing * speed ** (1.0 - crossing))
    # ½ρV² sin 2α (k₂ - k₁) vol, α the nose above its path: broadside on
    alpha_sin, alpha_cos = -aside, ahead
    moment += air * alpha_sin * alpha_cos * munk
    # the line pulls straight back, at the tie
    moment += trail * speed * aside * tie
    out[0], out[1] = vx, vz
    out[2] = (force * nx + drag * fx - trail * speed * vx) / mass
    out[3] = (force * nz + drag * fz - trail * speed * vz) / mass - gravity
    out[4], out[5] = spin, moment / inertia


@compiled
def play(
    state: Array, mass: float, inertia: float, at: Array, wide: Array, step: float, front: float, munk: float, across: float,
    along: float, crossing: float, air: float, gravity: float, tie: float, trail: float, dt: float, every: int, rows: Array,
) -> int:  # fmt: skip
    """Fourth-order Runge-Kutta until z < 0; rows (k, 7) of time and state. Returns how many."""
    k1, k2, k3, k4, trial, last = np.empty(6), np.empty(6), np.empty(6), np.empty(6), np.empty(6), np.empty(6)
    count, n, time = 0, 0, 0.0
    while count < rows.shape[0] - 1:
        if n % every == 0:
            rows[count, 0] = time
            rows[count, 1:] = state
            count += 1
        last[:] = state
        args = (mass, inertia, at, wide, step, front, munk, across, along, crossing, air, gravity, tie, trail)
        rates(state, *args, k1)
        trial[:] = state + 0.5 * dt * k1
        rates(trial, *args, k2)
        trial[:] = state + 0.5 * dt * k2
        rates(trial, *args, k3)
        trial[:] = state + dt * k3
        rates(trial, *args, k4)
        state += dt / 6.0 * (k1 + 2.0 * k2 + 2.0 * k3 + k4)
        time += dt
        n += 1
        if state[1] < 0.0:
            share = last[1] / (last[1] - state[1])
            rows[count, 0] = time - dt + share * dt
            rows[count, 1:] = last + share * (state - last)
            return count + 1
    return count
