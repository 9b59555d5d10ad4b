"""What flowing water does to a wetted skin: pressure on the faces that meet it, friction along all of them.

Hull: Cp = sin² of the angle at which a face meets the flow (Newton's, which gives a ball its 0.5 and a flat face 1); faces in
the lee take none. Plates (lips, wings, fins): a flat plate's normal force 2π·sin α/(4 + π·sin α) (Rayleigh 1876), raised to
the 1.17 that a square plate has square to the flow (Hoerner 1965, 3-16). Friction: laminar, 1.328/√Re (Blasius 1908).
Waves it makes, and water that piles up before it, are left out. Graded rule: for comparing, not for measuring by.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]
Faces = NDArray[np.int32]

SQUARE_PLATE = 1.17
VISCOSITY_MM2_S = 1.14
"""Kinematic viscosity of water at 15 °C."""


@compiled
def _add(px: float, py: float, pz: float, fx: float, fy: float, fz: float, out: Array) -> None:
    """Add a force at a place, and its moment, to out (6,)."""
    out[0] += fx
    out[1] += fy
    out[2] += fz
    out[3] += py * fz - pz * fy
    out[4] += pz * fx - px * fz
    out[5] += px * fy - py * fx


@compiled
def _one(
    ax: float, ay: float, az: float, bx: float, by: float, bz: float, cx: float, cy: float, cz: float, law: int,
    flow: Array, spin: Array, about: Array, half_rho: float, rub: float, out: Array,
) -> None:  # fmt: skip
    """Add one wet triangle's force and moment about a place to out (6,), µN and µN·mm."""
    ux, uy, uz = bx - ax, by - ay, bz - az
    vx, vy, vz = cx - ax, cy - ay, cz - az
    nx, ny, nz = 0.5 * (uy * vz - uz * vy), 0.5 * (uz * vx - ux * vz), 0.5 * (ux * vy - uy * vx)
    size = np.sqrt(nx * nx + ny * ny + nz * nz)
    if size < 1e-12:
        return
    px, py, pz = (ax + bx + cx) / 3.0 - about[0], (ay + by + cy) / 3.0 - about[1], (az + bz + cz) / 3.0 - about[2]
    # water past the face: the stream less the face's own motion
    wx = flow[0] - (spin[1] * pz - spin[2] * py)
    wy = flow[1] - (spin[2] * px - spin[0] * pz)
    wz = flow[2] - (spin[0] * py - spin[1] * px)
    speed = np.sqrt(wx * wx + wy * wy + wz * wz)
    if speed < 1e-9:
        return
    meets = -(nx * wx + ny * wy + nz * wz) / (size * speed)
    fx, fy, fz = 0.0, 0.0, 0.0
    if meets > 0.0:
        if law == 0:
            cp = meets * meets
        else:
            cp = SQUARE_PLATE / (2.0 * np.pi / (4.0 + np.pi)) * 2.0 * np.pi * meets / (4.0 + np.pi * meets)
        push = half_rho * speed * speed * cp
        fx, fy, fz = -push * nx, -push * ny, -push * nz
    drag = half_rho * rub * speed * size
    fx, fy, fz = fx + drag * wx, fy + drag * wy, fz + drag * wz
    _add(px, py, pz, fx, fy, fz, out)


@compiled
def push(
    vertices: Array, faces: Faces, laws: NDArray[np.uint8], up: Array, height: float, flow: Array, spin: Array,
    about: Array, density: float, rub: float, high: Array, out: Array,
) -> None:  # fmt: skip
    """Fill out (6,): force µN and moment about a place µN·mm, body axes, of water past the part below x·up = height.

    vertices (n, 3), faces (m, 3), laws (m,) of `running`; flow (3,) mm/s of the water past `about`, spin (3,) 1/s of the
    body; density g/mm³; rub : coefficient of friction; high : (n,) scratch.
    """
    out[:] = 0.0
    for i in range(vertices.shape[0]):
        high[i] = vertices[i, 0] * up[0] + vertices[i, 1] * up[1] + vertices[i, 2] * up[2] - height
    half = 0.5 * density
    for f in range(faces.shape[0]):
        i0, i1, i2 = faces[f, 0], faces[f, 1], faces[f, 2]
        d0, d1, d2 = high[i0], high[i1], high[i2]
        below = (1 if d0 < 0.0 else 0) + (1 if d1 < 0.0 else 0) + (1 if d2 < 0.0 else 0)
        if below == 0:
            continue
        if below == 1:
            if d1 < 0.0:
                i0, i1, i2, d0, d1, d2 = i1, i2, i0, d1, d2, d0
            elif d2 < 0.0:
                i0, i1, i2, d0, d1, d2 = i2, i0, i1, d2, d0, d1
        elif below == 2:
            if d1 >= 0.0:
                i0, i1, i2, d0, d1, d2 = i1, i2, i0, d1, d2, d0
            elif d2 >= 0.0:
                i0, i1, i2, d0, d1, d2 = i2, i0, i1, d2, d0, d1
        ax, ay, az = vertices[i0, 0], vertices[i0, 1], vertices[i0, 2]
        bx, by, bz = vertices[i1, 0], vertices[i1, 1], vertices[i1, 2]
        cx, cy, cz = vertices[i2, 0], vertices[i2, 1], vertices[i2, 2]
        law = laws[f]
        if below == 3:
            _one(ax, ay, az, bx, by, bz, cx, cy, cz, law, flow, spin, about, half, rub, out)
            continue
        t, s = d0 / (d0 - d1), d0 / (d0 - d2)
        qx, qy, qz = ax + (bx - ax) * t, ay + (by - ay) * t, az + (bz - az) * t
        rx, ry, rz = ax + (cx - ax) * s, ay + (cy - ay) * s, az + (cz - az) * s
        if below == 1:
            _one(ax, ay, az, qx, qy, qz, rx, ry, rz, law, flow, spin, about, half, rub, out)
        else:
            _one(qx, qy, qz, bx, by, bz, cx, cy, cz, law, flow, spin, about, half, rub, out)
            _one(qx, qy, qz, cx, cy, cz, rx, ry, rz, law, flow, spin, about, half, rub, out)


@compiled
def drags(
    places: Array, areas: Array, spans: Array, under: Array, up: Array, height: float, flow: Array, spin: Array,
    about: Array, density: float, out: Array,
) -> None:  # fmt: skip
    """Add to out (6,) the drag of hardware: ½ρ·Cd·A·|w|·w, of what of its spans (n,) is in the water.

    under : (n,) share of each span that lies under its place (n, 3): 1 of what hangs there, and pulls there whatever of it is
    wet; ½ of what is fixed, which is pulled at the middle of what is wet.
    """
    for i in range(places.shape[0]):
        x, y, z = places[i, 0], places[i, 1], places[i, 2]
        wet = min((height - x * up[0] - y * up[1] - z * up[2]) / spans[i] + under[i], 1.0)
        if wet <= 0.0:
            continue
        if under[i] < 1.0:
            down = (under[i] - wet / 2.0) * spans[i]
            x, y, z = x - down * up[0], y - down * up[1], z - down * up[2]
        px, py, pz = x - about[0], y - about[1], z - about[2]
        wx = flow[0] - (spin[1] * pz - spin[2] * py)
        wy = flow[1] - (spin[2] * px - spin[0] * pz)
        wz = flow[2] - (spin[0] * py - spin[1] * px)
        pull = 0.5 * density * areas[i] * wet * np.sqrt(wx * wx + wy * wy + wz * wz)
        fx, fy, fz = pull * wx, pull * wy, pull * wz
        _add(px, py, pz, fx, fy, fz, out)
