"""Sections joined into a closed mesh that keeps the exact volume.

A polygon inscribed in a round section is short of area, and a straight run between two stations is short of volume.
Each ring is scaled so that its area is exact, then so that the volumes of the stretches beside it are, then all rings
together so that the whole is.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import Lofted, Turned
from yellowbob.ground.errors import BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.sections import Sections, outline_curves, sections_at

Array = NDArray[np.float64]

SIDES = 32
STATIONS = 32
LEAST_HALF_MM = 0.005
"""A section thinner than this is drawn this thick, so that a knife edge stays a solid."""


@dataclass(frozen=True)
class ExactShape:
    """Volume (mm³) and centroid x and z (mm) by quadrature of the exact section areas."""

    volume_mm3: float
    centroid_x_mm: float
    centroid_z_mm: float


_GAUSS_X, _GAUSS_W = np.polynomial.legendre.leggauss(6)


def _gauss(stations: Array) -> tuple[Array, Array]:
    """Quadrature points and weights, each (intervals, 6), between neighbouring stations."""
    half = 0.5 * np.diff(stations)[:, None]
    middle = 0.5 * (stations[1:] + stations[:-1])[:, None]
    return middle + half * _GAUSS_X, half * _GAUSS_W


def exact_shape(shape: Lofted | Turned, stations: Array | None = None) -> ExactShape:
    """Integrate the section areas along the body (Gauss-Legendre, 6 points between stations)."""
    x, weight = _gauss(place_stations(shape, 96) if stations is None else stations)
    found = sections_at(shape, x.ravel())
    area = found.areas().reshape(x.shape)
    volume = float((weight * area).sum())
    return ExactShape(
        volume,
        float((weight * area * x).sum()) / volume,
        float((weight * found.moments_z().reshape(x.shape)).sum()) / volume,
    )


def _ordered(values: Array) -> Array:
    """Sorted, each value once (numpy's own `unique` brings masked arrays in, slow to import)."""
    values = np.sort(values)
    return values[np.concatenate([[True], np.diff(values) > 0])]


def place_stations(shape: Lofted | Turned, count: int = STATIONS) -> Array:
    """x of the stations: closer where the outlines turn, with one on every corner; of straight frustums their ends alone."""
    length = shape.length_mm
    if isinstance(shape, Turned) and all(p.bend == "corner" for p in shape.profile):
        return np.array([p.at_mm[0] for p in shape.profile])
    grid = [0.0, length]
    measures = []
    corners: set[float] = set()
    outlines = (shape.profile,) if isinstance(shape, Turned) else (shape.back, shape.belly, shape.plan)
    for curve, outline in zip(outline_curves(shape), outlines, strict=True):
        points = curve.sampled(12)
        step = np.diff(points, axis=0)
        heading = np.arctan2(step[:, 1], step[:, 0])
        turn = np.abs(np.diff(heading, append=heading[-1]))
        measure = np.concatenate([[0.0], np.cumsum(np.hypot(step[:, 0], step[:, 1]) / length + 0.7 * turn)])
        measures.append((points[:, 0], measure))
        grid.extend(points[:, 0])
        corners.update(p.at_mm[0] for p in outline[1:-1] if p.bend == "corner")
    x = _ordered(np.round(grid, 9))
    total = sum(np.interp(x, at, measure) for at, measure in measures)
    stations = np.interp(np.linspace(total[0], total[-1], count), total, x)
    if isinstance(shape, Lofted):
        corners.update(s.x_mm for s in shape.sections if 0.0 < s.x_mm < length)
    for corner in sorted(corners)[: count - 4]:
        inner = stations[1:-1]
        if len(inner):
            inner[np.argmin(np.abs(inner - corner))] = corner
    stations = _ordered(np.concatenate([stations, sorted(corners)]))
    keep = np.concatenate([[True], np.diff(stations) > 1e-6 * length])
    stations = stations[keep]
    stations[-1] = length
    return stations


def _scaled(rings: Array, centres: Array, factor: Array) -> Array:
    return (
        centres[:, None, :]
        + (rings - centres[:, None, :]) * np.stack([np.ones_like(factor), factor, factor], axis=1)[:, None, :]
    )


def _stretch_volumes(rings: Array, x: Array) -> Array:
    """Volume between neighbouring rings joined by straight lines: dx/3 (A0 + A_mixed + A1)."""
    y, z = rings[..., 1], rings[..., 2]
    y2, z2 = np.roll(y, -1, axis=1), np.roll(z, -1, axis=1)
    own = 0.5 * (y * z2 - z * y2).sum(axis=1)
    mixed = 0.25 * ((y[:-1] * z2[1:] - z[:-1] * y2[1:]).sum(axis=1) + (y[1:] * z2[:-1] - z[1:] * y2[:-1]).sum(axis=1))
    return np.diff(x) / 3.0 * (own[:-1] + mixed + own[1:])


def _thick(found: Sections) -> Sections:
    """Sections with no dimension under the least, but true points (both zero) left as points."""
    point = (found.half_width < LEAST_HALF_MM) & (found.up + found.down < 2 * LEAST_HALF_MM)
    least = np.where(point, 0.0, LEAST_HALF_MM)
    return Sections(
        found.x,
        np.maximum(found.half_width, least),
        found.waist_z,
        np.maximum(found.up, least),
        np.maximum(found.down, least),
        found.back,
        found.belly,
    )


@lru_cache(maxsize=64)
def loft(shape: Lofted | Turned, sides: int = SIDES, stations: int = STATIONS) -> Mesh:
    """Tessellate a lofted or turned shape with its exact volume.

    Parameters
    ----------
    shape : outlines in body axes, mm.
    sides : corners of each ring, a multiple of 4.
    stations : rings along the length; the default gives about 2,000 triangles.

    Raises BadShape where the back lies below the belly or the body is pinched to nothing between its ends.
    """
    x = place_stations(shape, stations)
    found = sections_at(shape, x)
    _refuse_crossed(shape, x)
    found = _thick(found)
    pinched = (found.half_width == 0.0)[1:-1]
    if pinched.any():
        where = float(x[1:-1][pinched][0])
        raise BadShape(f"the body is pinched to nothing at x = {where:.1f} mm; widen it there or end it there")
    rings = found.rings(sides)
    centres = np.stack([found.x, np.zeros_like(x), found.waist_z], axis=1)
    y, z = rings[..., 1], rings[..., 2]
    own = 0.5 * (y * np.roll(z, -1, axis=1) - z * np.roll(y, -1, axis=1)).sum(axis=1)
    exact = found.areas()
    rings = _scaled(rings, centres, np.sqrt(np.where(own > 1e-12, exact / np.maximum(own, 1e-12), 1.0)))
    at, weight = _gauss(x)
    wanted = (weight * _thick(sections_at(shape, at.ravel())).areas().reshape(at.shape)).sum(axis=1)
    for _ in range(4):
        have = _stretch_volumes(rings, x)
        beside = np.concatenate([wanted[:1], wanted[1:] + wanted[:-1], wanted[-1:]])
        beside_have = np.concatenate([have[:1], have[1:] + have[:-1], have[-1:]])
        rings = _scaled(rings, centres, np.sqrt(beside / np.maximum(beside_have, 1e-12)))
    mesh = closed(rings)
    return _rescaled_to(mesh, float(wanted.sum()), centres)


def _rescaled_to(mesh: Mesh, volume: float, centres: Array) -> Mesh:
    middle = np.interp(mesh.vertices[:, 0], centres[:, 0], centres[:, 2])
    vertices = mesh.vertices.copy()
    factor = np.sqrt(volume / mesh.volume_mm3)
    vertices[:, 1] *= factor
    vertices[:, 2] = middle + (vertices[:, 2] - middle) * factor
    return Mesh(vertices, mesh.faces)


def _refuse_crossed(shape: Lofted | Turned, x: Array) -> None:
    if isinstance(shape, Turned):
        return
    back, belly, _ = outline_curves(shape)
    x = _ordered(np.concatenate([x, back.sampled(8)[:, 0], belly.sampled(8)[:, 0]]))
    depth = back.at(x) - belly.at(x)
    worst = int(np.argmin(depth))
    if depth[worst] < -1e-6:
        raise BadShape(
            f"back and belly cross: at x = {x[worst]:.1f} mm the back lies {-depth[worst]:.2f} mm below the belly; "
            "move one of them"
        )


def closed(rings: Array) -> Mesh:
    """Rings joined by triangles and closed at both ends; a ring of no size becomes a single point."""
    count, sides, _ = rings.shape
    flat_size = np.ptp(rings[..., 1], axis=1) + np.ptp(rings[..., 2], axis=1)
    nose_point, tail_point = flat_size[0] == 0.0, flat_size[-1] == 0.0
    body = rings[1 if nose_point else 0 : count - 1 if tail_point else count]
    vertices = body.reshape(-1, 3)
    rows = np.arange(len(body) - 1)[:, None] * sides
    here = np.arange(sides)[None, :]
    after = (here + 1) % sides
    a, b = rows + here, rows + after
    c, d = a + sides, b + sides
    # port quads are split along the other diagonal than starboard ones, so that a symmetric body stays symmetric
    port = (here >= sides // 4) & (here < 3 * sides // 4)
    one = np.where(port[..., None], np.stack([a, b, c], axis=-1), np.stack([a, b, d], axis=-1))
    two = np.where(port[..., None], np.stack([b, d, c], axis=-1), np.stack([a, d, c], axis=-1))
    quads = np.concatenate([one, two]).reshape(-1, 3)
    nose, tail = len(vertices), len(vertices) + 1
    ends = np.array([rings[0].mean(axis=0), rings[-1].mean(axis=0)])
    last = (len(body) - 1) * sides
    here, after = here.ravel(), after.ravel()
    front = np.stack([np.full(sides, nose), after, here], axis=1)
    rear = np.stack([np.full(sides, tail), here + last, after + last], axis=1)
    faces = np.concatenate([quads, front, rear]).astype(np.int32)
    mesh = Mesh(np.vstack([vertices, ends]), faces)
    return mesh if mesh.volume_mm3 > 0 else Mesh(mesh.vertices, np.ascontiguousarray(faces[:, ::-1]))
