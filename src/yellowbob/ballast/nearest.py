"""Distance from places to triangles and to straight stretches, in machine code."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]


@compiled
def to_triangles(places: Array, corners: Array, out: Array) -> None:
    """Distance (n,) of places (n, 3) from the nearest of triangles (m, 3, 3) (Ericson 2005, 5.1.5)."""
    # a ball about each triangle: one further off than the nearest so far is passed over
    balls = np.empty((corners.shape[0], 4))
    for t in range(corners.shape[0]):
        radius = 0.0
        for i in range(3):
            balls[t, i] = (corners[t, 0, i] + corners[t, 1, i] + corners[t, 2, i]) / 3.0
        for k in range(3):
            away = 0.0
            for i in range(3):
                away += (corners[t, k, i] - balls[t, i]) ** 2
            radius = max(radius, away)
        balls[t, 3] = np.sqrt(radius)
    for p in range(places.shape[0]):
        best, reach = 1e300, 1e150
        x, y, z = places[p, 0], places[p, 1], places[p, 2]
        for t in range(corners.shape[0]):
            far = (x - balls[t, 0]) ** 2 + (y - balls[t, 1]) ** 2 + (z - balls[t, 2]) ** 2
            if far > (reach + balls[t, 3]) ** 2:
                continue
            ax, ay, az = corners[t, 0, 0], corners[t, 0, 1], corners[t, 0, 2]
            ux, uy, uz = corners[t, 1, 0] - ax, corners[t, 1, 1] - ay, corners[t, 1, 2] - az
            vx, vy, vz = corners[t, 2, 0] - ax, corners[t, 2, 1] - ay, corners[t, 2, 2] - az
            wx, wy, wz = x - ax, y - ay, z - az
            d1, d2 = ux * wx + uy * wy + uz * wz, vx * wx + vy * wy + vz * wz
            uu, uv, vv = ux * ux + uy * uy + uz * uz, ux * vx + uy * vy + uz * vz, vx * vx + vy * vy + vz * vz
            b = vv * d1 - uv * d2
            c = uu * d2 - uv * d1
            a = uu * vv - uv * uv
            s, r = 0.0, 0.0
            if a > 1e-30 and b >= 0.0 and c >= 0.0 and b + c <= a:
                s, r = b / a, c / a
                qx, qy, qz = wx - s * ux - r * vx, wy - s * uy - r * vy, wz - s * uz - r * vz
                best = min(best, qx * qx + qy * qy + qz * qz)
                reach = np.sqrt(best)
                continue
            # outside the triangle's prism: the nearest place lies on an edge
            f = min(max(d1 / uu, 0.0), 1.0) if uu > 1e-30 else 0.0
            qx, qy, qz = wx - f * ux, wy - f * uy, wz - f * uz
            best = min(best, qx * qx + qy * qy + qz * qz)
            f = min(max(d2 / vv, 0.0), 1.0) if vv > 1e-30 else 0.0
            qx, qy, qz = wx - f * vx, wy - f * vy, wz - f * vz
            best = min(best, qx * qx + qy * qy + qz * qz)
            ex, ey, ez = vx - ux, vy - uy, vz - uz
            ee = ex * ex + ey * ey + ez * ez
            f = ((wx - ux) * ex + (wy - uy) * ey + (wz - uz) * ez) / ee if ee > 1e-30 else 0.0
            f = min(max(f, 0.0), 1.0)
            qx, qy, qz = wx - ux - f * ex, wy - uy - f * ey, wz - uz - f * ez
            best = min(best, qx * qx + qy * qy + qz * qz)
            reach = np.sqrt(best)
        out[p] = np.sqrt(best)


def to_stretch(places: Array, start: Array, end: Array) -> Array:
    """Distance (n,) of places (n, 3) from a straight stretch."""
    along = end - start
    size = float(along @ along)
    share = np.clip((places - start) @ along / size, 0.0, 1.0) if size > 0 else np.zeros(len(places))
    return np.asarray(np.linalg.norm(places - start - share[:, None] * along, axis=1))
