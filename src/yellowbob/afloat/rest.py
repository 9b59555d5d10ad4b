"""Rest attitudes of a build in water: what the compiled search found, as plain results in the field's words."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from weakref import WeakKeyDictionary

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.balance import ENERGY, H11, H12, H22, HEIGHT, VOLUME_IN, WATERPLANE
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import NoRest
from yellowbob.lines.mesh import Mesh, cross
from yellowbob.weights.wet import PointVolume

Array = NDArray[np.float64]


def face_table(vertices: Array, faces: NDArray[np.int32]) -> Array:
    """(m, 7) a face: twice its area vector, its triple product, and the sum of its corners."""
    a, b, c = vertices[faces[:, 0]], vertices[faces[:, 1]], vertices[faces[:, 2]]
    normal = cross(b - a, c - a)
    return np.ascontiguousarray(np.concatenate([normal, np.einsum("ij,ij->i", a, normal)[:, None], a + b + c], axis=1))


_TABLES: WeakKeyDictionary[Mesh, tuple[Array, NDArray[np.int32], Array]] = WeakKeyDictionary()


def _tables(hull: Mesh) -> tuple[Array, NDArray[np.int32], Array]:
    """A hull's vertices about its centroid, its faces and their table: worked out once for each hull."""
    known = _TABLES.get(hull)
    if known is None:
        vertices = np.ascontiguousarray(hull.vertices - hull.moments.centroid_mm)
        faces = np.ascontiguousarray(hull.faces, dtype=np.int32)
        known = _TABLES[hull] = vertices, faces, face_table(vertices, faces)
    return known


@dataclass(frozen=True, eq=False)
class Afloat:
    """A build ready to be floated: hull, hardware in the water, mass and water.

    hull : the displacing surface, mm, body axes. centre_mm : centre of gravity. density_g_mm3 : of the water.
    """

    hull: Mesh
    mass_g: float
    centre_mm: tuple[float, float, float]
    density_g_mm3: float
    points: tuple[PointVolume, ...] = ()

    @cached_property
    def volume_mm3(self) -> float:
        """All it can displace, hull and hardware."""
        return self.hull.volume_mm3 + sum(p.volume_mm3 for p in self.points)

    @property
    def floats(self) -> bool:
        """Whether it pushes aside more than it weighs."""
        return self.mass_g < self.density_g_mm3 * self.volume_mm3

    @cached_property
    def origin(self) -> Array:
        """Point the compiled code counts from: the hull's centroid, for accuracy."""
        return self.hull.moments.centroid_mm

    @cached_property
    def arrays(self) -> tuple[Array, NDArray[np.int32], Array, Array, float, Array, float, float]:
        """The arguments every compiled function starts with."""
        vertices, faces, table = _tables(self.hull)
        points = np.empty((len(self.points), 6))
        for row, point in zip(points, self.points, strict=True):
            row[:3] = np.asarray(point.at_mm) - self.origin
            row[3:] = point.volume_mm3, point.dry_mm, max(point.wet_mm, point.dry_mm + 1e-6)
        centre = np.asarray(self.centre_mm, dtype=float) - self.origin
        return vertices, faces, table, points, float(self.mass_g), centre, float(self.density_g_mm3), GRAVITY_MM_S2

    @property
    def scale_nj(self) -> float:
        """Weight x size: the energy against which others are small or large."""
        return self.mass_g * GRAVITY_MM_S2 * self.hull.volume_mm3 ** (1.0 / 3.0)


@dataclass(frozen=True)
class Rest:
    """An attitude at which it stays. Pitch nose-up and roll starboard-down positive; heights along `up`, mm."""

    up: tuple[float, float, float]
    height_mm: float
    """the water plane is x·up = height"""
    pitch_rad: float
    roll_rad: float
    draft_mm: float
    gm_min_mm: float
    gm_max_mm: float
    waterplane_mm2: float
    buoyancy_mm: tuple[float, float, float]
    """centre of buoyancy"""
    displaced_mm3: float
    energy_nj: float
    """W·u·(G - B)"""
    neutral: bool
    """one of a ring (or a sphere) of equal rests"""


def pitch_roll(up: Array | tuple[float, float, float]) -> tuple[float, float]:
    """Pitch = asin(-u_x), roll = atan2(-u_y, u_z), radians."""
    x, y, z = (float(c) for c in up)
    roll = math.atan2(0.0 - y, z) if abs(y) + abs(z) > 1e-12 else 0.0
    return math.asin(min(1.0, max(-1.0, 0.0 - x))), roll


def up_from(pitch_rad: float, roll_rad: float) -> Array:
    """World-up in body axes at a pitch and roll: the inverse of `pitch_roll`."""
    cos = math.cos(pitch_rad)
    return np.array([-math.sin(pitch_rad), -cos * math.sin(roll_rad), cos * math.cos(roll_rad)])


def held(rest: Rest, hull: Mesh, up: Array, height_mm: float) -> Rest:
    """A rest's figures with the hull held at another attitude and water height (x·up, mm): a moment, no rest."""
    pitch, roll = pitch_roll(up)
    low = float((hull.vertices @ up).min())
    return replace(
        rest, up=(float(up[0]), float(up[1]), float(up[2])), height_mm=height_mm, pitch_rad=pitch, roll_rad=roll,
        draft_mm=height_mm - low, neutral=False,
    )  # fmt: skip


def _rest(afloat: Afloat, up: Array, out: Array, ring: float) -> Rest:
    """From the compiled code's results (see `balance.attitude`) to a Rest."""
    weight = afloat.mass_g * GRAVITY_MM_S2
    up = np.where(np.abs(up) < 1e-9, 0.0, up)
    pitch, roll = pitch_roll(up)
    mean, half = (out[H11] + out[H22]) / 2.0, math.hypot((out[H11] - out[H22]) / 2.0, out[H12])
    lowest = float((afloat.hull.vertices @ up).min())
    height = float(out[HEIGHT] + afloat.origin @ up)
    centre = out[8:11] + afloat.origin
    least, most = (mean - half) / weight, (mean + half) / weight
    if ring:
        least, most = 0.0, (0.0 if ring > 1.5 else most)
    return Rest(
        up=(float(up[0]), float(up[1]), float(up[2])),
        height_mm=height,
        pitch_rad=pitch,
        roll_rad=roll,
        draft_mm=height - lowest,
        gm_min_mm=float(least),
        gm_max_mm=float(most),
        waterplane_mm2=float(out[WATERPLANE]),
        buoyancy_mm=(float(centre[0]), float(centre[1]), float(centre[2])),
        displaced_mm3=float(out[VOLUME_IN]),
        energy_nj=float(out[ENERGY]),
        neutral=bool(ring),
    )


def _refuse_sinker(afloat: Afloat) -> None:
    if not afloat.floats:
        spare = afloat.density_g_mm3 * afloat.volume_mm3 - afloat.mass_g
        raise NoRest(f"it sinks: {-spare:.2f} g too heavy for the water it can push aside")


def all_rests(afloat: Afloat) -> tuple[Rest, ...]:
    """Every rest attitude, lowest energy first; one for each ring of equal rests. Raises NoRest for a sinker."""
    from yellowbob.afloat import search  # late: it brings the compiler with it

    _refuse_sinker(afloat)
    found = np.zeros((search.MOST_RESTS, search.ROW))
    count, _ = search.find_rests(*afloat.arrays, afloat.scale_nj, found)
    # of equal energies the most upright first, then port before starboard, so that the order is always the same
    rows = sorted(
        found[:count],
        key=lambda row: (
            round(float(row[search.OUT + 1]) / afloat.scale_nj, 8), *(-round(float(v), 6) for v in row[2::-1])
        ),
    )  # fmt: skip
    return tuple(_rest(afloat, row[:3], row[search.OUT : search.RING], row[search.RING]) for row in rows)


def rest_near(afloat: Afloat, up: tuple[float, float, float]) -> Rest:
    """The rest that descent from one attitude leads to; quick, for following a drag. Raises NoRest for a sinker."""
    from yellowbob.afloat import balance

    _refuse_sinker(afloat)
    u = np.asarray(up, dtype=float) / np.linalg.norm(up)
    e, high, sums, out = _scratch(afloat)
    none = np.zeros((1, 3))
    balance.descend(*afloat.arrays, u, 0.0, afloat.scale_nj, none, 0, 1.0, True, e, high, sums, out)
    return _rest(afloat, u, out, 0.0)


def floated_at(afloat: Afloat, up: tuple[float, float, float]) -> Rest:
    """Float it held at an attitude: heave only. The result is no rest, but carries the same figures."""
    from yellowbob.afloat import balance

    _refuse_sinker(afloat)
    u = np.asarray(up, dtype=float) / np.linalg.norm(up)
    e, high, sums, out = _scratch(afloat)
    balance.attitude(*afloat.arrays, u, 0.0, balance.TIGHT, e, high, sums, out)
    return _rest(afloat, u, out, 0.0)


def _scratch(afloat: Afloat) -> tuple[Array, Array, Array, Array]:
    from yellowbob.afloat import balance
    from yellowbob.afloat.kernel import SUMS

    return (
        np.empty((2, 3)), np.empty(len(afloat.hull.vertices)), np.empty(SUMS), np.empty(balance.RESULTS)
    )  # fmt: skip
