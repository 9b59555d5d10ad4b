"""Distances between the simple solids that hardware sweeps: balls, rods, bent lines, the drum of a prop. All mm."""

from __future__ import annotations

import itertools

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

GOLDEN = (np.sqrt(5.0) - 1.0) / 2.0


def point_to_segment(point: Array, a: Array, b: Array) -> float:
    """Distance of a point from a straight line between two ends."""
    along = b - a
    size = float(along @ along)
    share = 0.0 if size == 0 else float(np.clip((point - a) @ along / size, 0.0, 1.0))
    return float(np.linalg.norm(point - a - share * along))


def segment_to_segment(a: Array, b: Array, c: Array, d: Array) -> float:
    """Distance between two straight lines with ends (Ericson 2005, 5.1.9)."""
    u, v, w = b - a, d - c, a - c
    uu, vv, uv, uw, vw = float(u @ u), float(v @ v), float(u @ v), float(u @ w), float(v @ w)
    if uu < 1e-18:
        return point_to_segment(a, c, d)
    if vv < 1e-18:
        return point_to_segment(c, a, b)
    flat = uu * vv - uv * uv
    s = float(np.clip((uv * vw - uw * vv) / flat, 0.0, 1.0)) if flat > 1e-12 * uu * vv else 0.0
    t = (uv * s + vw) / vv
    if t < 0.0:
        t, s = 0.0, float(np.clip(-uw / uu, 0.0, 1.0))
    elif t > 1.0:
        t, s = 1.0, float(np.clip((uv - uw) / uu, 0.0, 1.0))
    return float(np.linalg.norm(w + s * u - t * v))


def _from_line(points: Array, line: Array) -> Array:
    """Distances of points (n, 3) from each straight of a bent line (m, 3): (n, m - 1)."""
    start, along = line[:-1], np.diff(line, axis=0)
    size = np.maximum((along**2).sum(axis=1), 1e-300)
    off = points[:, None, :] - start[None, :, :]
    share = np.clip((off * along).sum(axis=2) / size, 0.0, 1.0)
    return np.asarray(np.linalg.norm(off - share[..., None] * along, axis=2))


def point_to_line(point: Array, line: Array) -> float:
    """Distance of a point from a bent line (n, 3)."""
    return float(_from_line(np.asarray(point)[None], line).min())


def line_to_line(one: Array, two: Array) -> float:
    """Distance between two bent lines (n, 3) and (m, 3): least at an end of a straight, or inside two at once."""
    least = min(float(_from_line(one, two).min()), float(_from_line(two, one).min()))
    u, v = np.diff(one, axis=0)[:, None, :], np.diff(two, axis=0)[None, :, :]
    w = one[:-1, None, :] - two[None, :-1, :]
    uu, vv, uv, uw, vw = ((p * q).sum(axis=2) for p, q in ((u, u), (v, v), (u, v), (u, w), (v, w)))
    flat = uu * vv - uv * uv
    apart = flat > 1e-12 * uu * vv
    s = np.where(apart, uv * vw - uw * vv, -1.0) / np.where(apart, flat, 1.0)
    t = np.where(apart, uu * vw - uv * uw, -1.0) / np.where(apart, flat, 1.0)
    inner = apart & (s >= 0.0) & (s <= 1.0) & (t >= 0.0) & (t <= 1.0)
    if inner.any():
        away = np.linalg.norm(w + s[..., None] * u - t[..., None] * v, axis=2)
        least = min(least, float(away[inner].min()))
    return least


def point_to_drum(point: Array, fore: Array, long: float, radius: float) -> float:
    """Distance of a point from a drum about the x axis: its fore face's centre, length aft, radius. 0 inside."""
    ahead = max(fore[0] - point[0], point[0] - fore[0] - long, 0.0)
    out = max(float(np.hypot(point[1] - fore[1], point[2] - fore[2])) - radius, 0.0)
    return float(np.hypot(ahead, out))


def drum_to_drum(
    fore: Array, long: float, radius: float, other: Array, other_long: float, other_radius: float
) -> float:
    """Distance of two drums about lines along x; where they meet, less than 0 by the least that would part them."""
    ahead = max(other[0] - fore[0] - long, fore[0] - other[0] - other_long)
    out = float(np.hypot(other[1] - fore[1], other[2] - fore[2])) - radius - other_radius
    if ahead < 0.0 and out < 0.0:
        return float(max(ahead, out))
    return float(np.hypot(max(ahead, 0.0), max(out, 0.0)))


def depth_in_drum(point: Array, fore: Array, long: float, radius: float) -> float:
    """How deep a point is inside a drum: to its nearest face or side; 0 outside."""
    ahead = min(point[0] - fore[0], fore[0] + long - point[0])
    out = radius - float(np.hypot(point[1] - fore[1], point[2] - fore[2]))
    return float(max(0.0, min(ahead, out)))


def line_to_drum(line: Array, fore: Array, long: float, radius: float) -> float:
    """Distance of a bent line from a drum: along each straight it is convex, so a golden-section search finds it."""
    least = np.inf
    for a, b in itertools.pairwise(line):
        low, high = 0.0, 1.0
        for _ in range(48):
            one, two = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
            if point_to_drum(a + one * (b - a), fore, long, radius) <= point_to_drum(
                a + two * (b - a), fore, long, radius
            ):
                high = two
            else:
                low = one
        least = min(least, point_to_drum(a + low * (b - a), fore, long, radius), *(
            point_to_drum(p, fore, long, radius) for p in (a, b)))  # fmt: skip
    return float(least)
