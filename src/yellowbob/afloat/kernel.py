"""The immersion kernel: what part of a closed mesh lies below a plane, in machine code.

Triangles are clipped against the plane and summed as tetrahedra from a point in the plane, so the cap adds nothing and
needs no mesh; the waterplane's area and moments come from the cut segments. Everything is in mm about the hull's own
origin. Units: mm, g, s, so forces µN and energies nJ.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]

# places in the array of sums that `immerse` fills
VOLUME, MX, MY, MZ, AREA, SX, SY, IXX, IXY, IYY = range(10)
# places in the array of sums that `immerse` fills
WET, MX, MY, MZ, AREA, SX, SY, IXX, IXY, IYY = range(10)
SUMS = 10


@compiled
def axes_across(u: Array, e: Array) -> None:
    """Fill e (2, 3) with two unit vectors so that e[0] x e[1] = u."""
    if abs(u[2]) < 0.8:
        x, y, z = 0.0, 0.0, 1.0
    else:
        x, y, z = 0.0, 1.0, 0.0
    dot = x * u[0] + y * u[1] + z * u[2]
    x, y, z = x - dot * u[0], y - dot * u[1], z - dot * u[2]
    size = np.sqrt(x * x + y * y + z * z)
    e[0, 0], e[0, 1], e[0, 2] = x / size, y / size, z / size
    e[1, 0] = u[1] * e[0, 2] - u[2] * e[0, 1]
    e[1, 1] = u[2] * e[0, 0] - u[0] * e[0, 2]
    e[1, 2] = u[0] * e[0, 1] - u[1] * e[0, 0]


@compiled
def immerse(
    vertices: Array, faces: NDArray[np.int32], table: Array, u: Array, h: float, e: Array, high: Array, out: Array
) -> None:
    """One immersion: fill `out` with the sums over the part of the mesh where x·u < h.

    Parameters
    ----------
    vertices, faces, table : (n, 3) mm, (m, 3) int32, and `face_table` of the two.
    u : (3,) unit world-up vector in body axes; h : height of the water plane along it, mm.
    e : (2, 3) axes in the plane from `axes_across`; high : (n,) scratch.
    out : (10,) volume mm³, its first moments mm⁴, waterplane area mm², first moments mm³, second moments mm⁴.
    """
    u0, u1, u2 = u[0], u[1], u[2]
    for i in range(vertices.shape[0]):
        high[i] = vertices[i, 0] * u0 + vertices[i, 1] * u1 + vertices[i, 2] * u2 - h
    volume = mx = my = mz = 0.0
    area = sx = sy = ixx = ixy = iyy = 0.0
    px, py, pz = h * u0, h * u1, h * u2
    for f in range(faces.shape[0]):
        i0, i1, i2 = faces[f, 0], faces[f, 1], faces[f, 2]
        d0, d1, d2 = high[i0], high[i1], high[i2]
        below = (1 if d0 < 0.0 else 0) + (1 if d1 < 0.0 else 0) + (1 if d2 < 0.0 else 0)
        if below == 0:
            continue
        if below == 3:
            w = table[f, 3] - h * (u0 * table[f, 0] + u1 * table[f, 1] + u2 * table[f, 2])
            volume += w
            mx += w * (table[f, 4] + px)
            my += w * (table[f, 5] + py)
            mz += w * (table[f, 6] + pz)
            continue
        # turn the triangle so that i0 is the corner alone on its side
        if below == 1:
            if d1 < 0.0:
                i0, i1, i2, d0, d1, d2 = i1, i2, i0, d1, d2, d0
            elif d2 < 0.0:
                i0, i1, i2, d0, d1, d2 = i2, i0, i1, d2, d0, d1
        else:
            if d1 >= 0.0:
                i0, i1, i2, d0, d1, d2 = i1, i2, i0, d1, d2, d0
            elif d2 >= 0.0:
                i0, i1, i2, d0, d1, d2 = i2, i0, i1, d2, d0, d1
        ax, ay, az = vertices[i0, 0], vertices[i0, 1], vertices[i0, 2]
        bx, by, bz = vertices[i1, 0], vertices[i1, 1], vertices[i1, 2]
        cx, cy, cz = vertices[i2, 0], vertices[i2, 1], vertices[i2, 2]
        t = d0 / (d0 - d1)
        qx, qy, qz = ax + (bx - ax) * t, ay + (by - ay) * t, az + (bz - az) * t
        t = d0 / (d0 - d2)
        rx, ry, rz = ax + (cx - ax) * t, ay + (cy - ay) * t, az + (cz - az) * t
        # six times the volume of tetrahedra from the point p in the plane
        if below == 1:
            nx = (ay - py) * (qz - pz) - (az - pz) * (qy - py)
            ny = (az - pz) * (qx - px) - (ax - px) * (qz - pz)
            nz = (ax - px) * (qy - py) - (ay - py) * (qx - px)
            w = nx * (rx - px) + ny * (ry - py) + nz * (rz - pz)
            volume += w
            mx += w * (ax + qx + rx + px)
            my += w * (ay + qy + ry + py)
            mz += w * (az + qz + rz + pz)
            sign = -1.0
        else:
            nx = (by - py) * (cz - pz) - (bz - pz) * (cy - py)
            ny = (bz - pz) * (cx - px) - (bx - px) * (cz - pz)
            nz = (bx - px) * (cy - py) - (by - py) * (cx - px)
            w = nx * (qx - px) + ny * (qy - py) + nz * (qz - pz)
            volume += w
            mx += w * (bx + cx + qx + px)
            my += w * (by + cy + qy + py)
            mz += w * (bz + cz + qz + pz)
            nx = (cy - py) * (rz - pz) - (cz - pz) * (ry - py)
            ny = (cz - pz) * (rx - px) - (cx - px) * (rz - pz)
            nz = (cx - px) * (ry - py) - (cy - py) * (rx - px)
            w = nx * (qx - px) + ny * (qy - py) + nz * (qz - pz)
            volume += w
            mx += w * (cx + rx + qx + px)
            my += w * (cy + ry + qy + py)
            mz += w * (cz + rz + qz + pz)
            sign = 1.0
        x1 = qx * e[0, 0] + qy * e[0, 1] + qz * e[0, 2]
        y1 = qx * e[1, 0] + qy * e[1, 1] + qz * e[1, 2]
        x2 = rx * e[0, 0] + ry * e[0, 1] + rz * e[0, 2]
        y2 = rx * e[1, 0] + ry * e[1, 1] + rz * e[1, 2]
        c = sign * (x1 * y2 - x2 * y1)
        area += c
        sx += c * (x1 + x2)
        sy += c * (y1 + y2)
        ixx += c * (x1 * x1 + x1 * x2 + x2 * x2)
        iyy += c * (y1 * y1 + y1 * y2 + y2 * y2)
        ixy += c * (x1 * y2 + 2.0 * x1 * y1 + 2.0 * x2 * y2 + x2 * y1)
    out[WET] = volume / 6.0
    out[MX], out[MY], out[MZ] = mx / 24.0, my / 24.0, mz / 24.0
    out[AREA] = area / 2.0
    out[SX], out[SY] = sx / 6.0, sy / 6.0
    out[IXX], out[IXY], out[IYY] = ixx / 12.0, ixy / 24.0, iyy / 12.0


@compiled
def add_points(points: Array, u: Array, h: float, e: Array, out: Array) -> float:
    """Add small volumes beside the hull to the sums, and return their part of the energy, mm⁴.

    points : (k, 6): place (3) mm, volume mm³, and the heights of the water over the place between which it goes from
    dry to wet: -reach to 0 for a hook that hangs below its eye, -radius to radius for a bead.
    The energy is ∫ wet volume d(depth), zero-referred so that a wetted point weighs as `volume x depth`.
    """
    energy = 0.0
    for k in range(points.shape[0]):
        depth = h - points[k, 0] * u[0] - points[k, 1] * u[1] - points[k, 2] * u[2]
        volume, start, end = points[k, 3], points[k, 4], points[k, 5]
        middle = 0.5 * (start + end)
        if depth <= start:
            energy += volume * middle
            continue
        wet = volume
        if depth < end:
            share = (depth - start) / (end - start)
            wet = volume * share
            energy += 0.5 * wet * (depth - start) + volume * middle
            small = volume / (end - start)
            x = points[k, 0] * e[0, 0] + points[k, 1] * e[0, 1] + points[k, 2] * e[0, 2]
            y = points[k, 0] * e[1, 0] + points[k, 1] * e[1, 1] + points[k, 2] * e[1, 2]
            out[AREA] += small
            out[SX] += small * x
            out[SY] += small * y
            out[IXX] += small * x * x
            out[IXY] += small * x * y
            out[IYY] += small * y * y
        else:
            energy += volume * depth
        out[WET] += wet
        out[MX] += wet * points[k, 0]
        out[MY] += wet * points[k, 1]
        out[MZ] += wet * points[k, 2]
    return energy
