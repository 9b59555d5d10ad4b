"""The part of the ballast's line that wood, walls, wires, slots and other holes leave free, and what limits it."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from yellowbob.ballast.pose import Posed
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import crossings

Array = NDArray[np.float64]

SAMPLES = 48
"""Places looked at along the line inside the body, before the ends are narrowed down."""
FINER, ROUNDS = 8, 3
"""An end is narrowed down by so many places at a time, so many times: to a 700th of the samples' spacing."""

WALL = "the body's wall"


@dataclass(frozen=True, eq=False)
class KeepOut:
    """A straight stretch of something that must not be hit: its name, ends (mm) and radius."""

    name: str
    start_mm: Array
    end_mm: Array
    radius_mm: float


@dataclass(frozen=True, eq=False)
class Room:
    """Where ballast can go: inside `body`, at least `wall_mm` from its outside, clear of solids and stretches."""

    body: Mesh
    wall_mm: float
    solids: tuple[tuple[str, Mesh], ...] = ()
    """slots and hollows: surfaces to keep the wall from"""
    stretches: tuple[KeepOut, ...] = ()
    apart_mm: float = 0.5
    """wood left between ballast and wires, holes or eyes: a rule"""

    def gaps(self, places: Array, radius_mm: float) -> tuple[Array, list[str]]:
        """Room left (n,) around slugs of a radius at places inside the body, and what bites first at each, mm."""
        from yellowbob.ballast.nearest import to_stretch, to_triangles

        places = np.ascontiguousarray(places)
        out = np.empty(len(places))
        rows, names = [], []
        for name, mesh in ((WALL, self.body), *self.solids):
            to_triangles(places, mesh.corners, out)
            rows.append(out - radius_mm - self.wall_mm)
            names.append(name)
        for one in self.stretches:
            away = to_stretch(places, one.start_mm, one.end_mm)
            rows.append(away - one.radius_mm - radius_mm - self.apart_mm)
            names.append(one.name)
        every = np.array(rows)
        first = every.argmin(axis=0)
        return every[first, np.arange(len(places))], [names[k] for k in first]


@dataclass(frozen=True)
class Stretch:
    """A free stretch of the line, λ from low to high (mm), and what stops it at either end."""

    low_mm: float
    high_mm: float
    below: str
    above: str


@dataclass(frozen=True, eq=False)
class Locus:
    """The free places for the ballast's centre. `limit` is what bites first, in a maker's words."""

    posed: Posed
    radius_mm: float
    stretches: tuple[Stretch, ...]
    limit: str
    in_body: tuple[tuple[float, float], ...] = field(default=())
    """λ of the line inside the bare body, whatever the walls"""

    @property
    def feasible(self) -> bool:
        """Whether the line passes through any free room."""
        return bool(self.stretches)

    @property
    def best(self) -> Stretch | None:
        """The lowest free stretch: the stiffest."""
        return self.stretches[0] if self.stretches else None

    @property
    def ends_mm(self) -> tuple[Array, Array] | None:
        """From the lowest to the highest free place of the lowest stretch."""
        one = self.best
        return None if one is None else (self.posed.place(one.low_mm), self.posed.place(one.high_mm))


def locus_of(posed: Posed, room: Room, radius_mm: float) -> Locus:
    """Clip the line of a pose to the room for a slug of a radius, and to where the pose is stable."""
    if posed.ballast_g <= 0.0:
        return Locus(posed, radius_mm, (), f"the build is {-posed.ballast_g:.2f} g too heavy before any ballast")
    hits = crossings(room.body, posed.point_mm, posed.water.up)
    inside = tuple((float(a), float(b)) for a, b in itertools.pairwise(hits))[::2]
    if not inside:
        ahead = "ahead of" if posed.point_mm[0] < room.body.bounds[:, 0].mean() else "behind"
        where = ahead if not room.body.bounds[0, 0] < posed.point_mm[0] < room.body.bounds[1, 0] else "beside"
        return Locus(
            posed, radius_mm, (), f"the line runs {where} the body, at {posed.point_mm[0]:.1f} mm from the nose"
        )
    stretches: list[Stretch] = []
    tightest, why = -np.inf, WALL
    top = posed.highest_stable_mm
    for low, high in inside:
        lams = np.linspace(low, high, SAMPLES + 2)[1:-1]
        gap, names = room.gaps(np.array([posed.place(v) for v in lams]), radius_mm)
        unstable = lams > top
        if gap[~unstable].size and gap[~unstable].max() > tightest:
            at = int(np.where(unstable, -np.inf, gap).argmax())
            tightest, why = float(gap[at]), names[at]
        free = (gap >= 0.0) & ~unstable
        k = 0
        while k < SAMPLES:
            if not free[k]:
                k += 1
                continue
            last = k
            while last + 1 < SAMPLES and free[last + 1]:
                last += 1
            below = _end(posed, room, radius_mm, top, lams[k], lams[k - 1] if k else low)
            above = _end(posed, room, radius_mm, top, lams[last], lams[last + 1] if last + 1 < SAMPLES else high)
            stretches.append(Stretch(below[0], above[0], below[1], above[1]))
            k = last + 1
        if unstable.all() and tightest == -np.inf:
            why = "it would be top-heavy: every place on the line is too high"
    limit = stretches[0].below if stretches else why
    return Locus(posed, radius_mm, tuple(stretches), limit, inside)


def _end(posed: Posed, room: Room, radius: float, top: float, free: float, shut: float) -> tuple[float, str]:
    """Narrow down between a free and a shut λ, FINER places at a time; where it ends and what stops it there."""
    why = WALL
    for _ in range(ROUNDS):
        lams = np.linspace(free, shut, FINER + 2)[1:-1]
        gap, names = room.gaps(np.array([posed.place(float(v)) for v in lams]), radius)
        stopped = np.flatnonzero((gap < 0.0) | (lams > top))
        at = int(stopped[0]) if len(stopped) else FINER
        if at < FINER:
            why = names[at] if gap[at] < 0.0 else "stability: higher is top-heavy"
            shut = float(lams[at])
        if at > 0:
            free = float(lams[at - 1])
    return float(free), why


@dataclass(frozen=True)
class TwoHoles:
    """Two ballasts by the lever rule: net masses g and centres mm."""

    masses_g: tuple[float, float]
    places_mm: tuple[tuple[float, float, float], tuple[float, float, float]]


def two_holes(
    posed: Posed, room: Room, radius_mm: float, step_mm: float = 0.5, reach_mm: float = 40.0
) -> TwoHoles | None:
    """Two free places fore and aft of the line whose masses balance on it by the lever rule; None when there are none.

    The lowest height on the line is taken at which a free place lies on each side, the two holes clear of one another.
    """
    if posed.ballast_g <= 0:
        return None
    up = posed.water.up
    aft = np.array([1.0, 0.0, 0.0]) - up * up[0]
    aft /= np.linalg.norm(aft)
    heights = room.body.vertices @ up - float(posed.point_mm @ up)
    across = np.arange(-reach_mm, reach_mm + step_mm / 2, step_mm)
    small = radius_mm / 2.0 ** (1.0 / 3.0)
    for lam in np.arange(heights.min() + small, min(heights.max(), posed.highest_stable_mm), 1.0):
        row = posed.place(float(lam)) + across[:, None] * aft
        hits = crossings(room.body, row[0], aft)
        odd = np.array([(hits > a).sum() % 2 == 1 for a in across - across[0]])
        if not odd.any():
            continue
        gap, _ = room.gaps(row, small)
        free = odd & (gap >= 0)
        apart = small + room.apart_mm
        fore, behind = np.flatnonzero(free & (across <= -apart)), np.flatnonzero(free & (across >= apart))
        if len(fore) and len(behind):
            a, b = fore[-1], behind[0]
            share = across[b] / (across[b] - across[a])
            masses = posed.ballast_g * share, posed.ballast_g * (1 - share)
            one, two = row[a], row[b]
            return TwoHoles(
                (float(masses[0]), float(masses[1])),
                ((float(one[0]), float(one[1]), float(one[2])), (float(two[0]), float(two[1]), float(two[2]))),
            )
    return None
