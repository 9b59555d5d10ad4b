"""Wires: cut length with their loops, mass along the path, the wood they take the place of, what of them is outside."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Loop, Wire
from yellowbob.lines.cutting import prism
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import crossings
from yellowbob.lines.solids import common, from_manifold, overlap, to_manifold
from yellowbob.lines.tubes import bent_rod
from yellowbob.weights.carving import Block, Region, Stretch, shared_with_earlier, taken_by
from yellowbob.weights.mass import MassProperties, grams_per_mm, of_cylinder, of_point, of_solid, total

Array = NDArray[np.float64]

ALIKE, LEAST_ML = 0.04, 5e-4
"""What lies in the wood is a wire's rods where it is within this share of them, or this volume: at bends and where they
enter aslant it is not quite."""
BOUND_OVERLAP = 10.0
"""A bound tail lies along its wire for so many wire diameters: a rule."""


def loop_length_mm(loop: Loop, diameter_mm: float) -> float:
    """Wire that a loop takes beyond the path's end, mm.

    The eye is a circle through the middle of the wire, π(inner + d). Wraps are a close helix of mean diameter 2d about
    the wire itself, √((2πd)² + d²) a turn. A bound tail lies along the wire for ten diameters (a rule), a welded eye
    ends on itself.
    """
    eye = math.pi * (loop.inner_mm + diameter_mm)
    if loop.kind == "wraps":
        return eye + loop.turns * math.hypot(2 * math.pi * diameter_mm, diameter_mm)
    return eye + (BOUND_OVERLAP * diameter_mm if loop.kind == "bound" else 0.0)


def path_of(wire: Wire) -> Array:
    """(n, 3) corners of the wire's path, body axes, mm."""
    return np.asarray(wire.path_mm, dtype=float)


def path_length_mm(wire: Wire) -> float:
    """Length along the path, without loops."""
    return float(np.linalg.norm(np.diff(path_of(wire), axis=0), axis=1).sum())


def cut_length_mm(wire: Wire) -> float:
    """How long to cut the wire: its path and its loops."""
    return path_length_mm(wire) + sum(loop_length_mm(loop, wire.diameter_mm) for loop in wire.loops)


def of_wire(wire: Wire) -> MassProperties:
    """A wire as straight rods along its path, and its loops as masses at the ends."""
    path, per_mm = path_of(wire), grams_per_mm(wire.diameter_mm, wire.density_g_ml)
    rods = [
        of_cylinder(per_mm * float(np.linalg.norm(b - a)), wire.diameter_mm, a, b) for a, b in itertools.pairwise(path)
    ]
    loops = [
        of_point(per_mm * loop_length_mm(loop, wire.diameter_mm), path[0 if loop.end == "fore" else -1])
        for loop in wire.loops
    ]
    return total(rods + loops)


@dataclass(frozen=True, eq=False)
class Run:
    """A straight stretch of a wire, in the wood or out of it."""

    start_mm: Array
    end_mm: Array
    inside: bool

    @property
    def length_mm(self) -> float:
        """Between its ends, mm."""
        return float(np.linalg.norm(self.end_mm - self.start_mm))


def runs(wire: Wire, body: Mesh) -> list[Run]:
    """The wire's path cut where it enters and leaves the body."""
    found = []
    for a, b in itertools.pairwise(path_of(wire)):
        along = b - a
        long = float(np.linalg.norm(along))
        if long < 1e-9:
            continue
        along = along / long
        hits = crossings(body, a, along)
        ends = [0.0, *(float(t) for t in hits if 0.0 < t < long), long]
        for start, end in itertools.pairwise(ends):
            if end - start > 1e-9:
                odd = int((hits > (start + end) / 2).sum()) % 2 == 1
                found.append(Run(a + along * start, a + along * end, odd))
    return found


@dataclass(frozen=True, eq=False)
class Routed:
    """A wire in its pieces: its runs, what it took of each piece, what closes the rest of its hole (None: air)."""

    wire: Wire
    runs: tuple[Run, ...]
    """along the path, in any piece or out of all"""
    gone: tuple[MassProperties, ...]
    """material taken of each piece, at 1 g/mL; a mass of 0 where it does not pass"""
    regions: tuple[Region | None, ...]
    """room taken in each piece"""
    closing: MassProperties | None
    aside: tuple[MassProperties, ...] | None = None
    """the parts of it that lie out of all pieces, at 1 g/mL, where its runs do not tell that: it lies half in the wood"""

    @property
    def inside_mm(self) -> float:
        """Length that lies in a piece."""
        return sum(r.length_mm for r in self.runs if r.inside)


def _rods(stretches: list[Run], diameter_mm: float) -> MassProperties:
    """Straight rods at 1 g/mL; their sum is the volume of the mitred wire."""
    per_mm = grams_per_mm(diameter_mm, 1.0)
    return total(of_cylinder(per_mm * r.length_mm, diameter_mm, r.start_mm, r.end_mm) for r in stretches)


def _alike(inner: MassProperties, whole: MassProperties, inwards: Mesh, solid: manifold3d.Manifold) -> bool:
    """Whether rods in a piece, of all rods, at 1 g/mL, are what lies in it of their solid. They are not where they break out
    of it sideways, are thicker than it is, or lie half in it. Shares are compared: a wire may lie on itself."""
    share = inwards.volume_mm3 / max(float(solid.volume()), 1e-12)
    return abs(share * whole.mass_g - inner.mass_g) <= max(ALIKE * inner.mass_g, LEAST_ML)


def _taken(
    inner: list[Run], every: list[Run], diameter_mm: float, inwards: Mesh, solid: manifold3d.Manifold
) -> MassProperties:
    """What round rods take of a piece, at 1 g/mL: by their closed form, or by what of their solid lies in it."""
    rods = _rods(inner, diameter_mm)
    return rods if _alike(rods, _rods(every, diameter_mm), inwards, solid) else of_solid(inwards, 1.0)


def _aside(wire: Wire, every: list[Run], whole: Mesh, known: Mesh | None) -> tuple[MassProperties, ...] | None:
    """See `Routed.aside`. known : what of it lies in the whole, where that has been found."""
    solid = bent_rod(path_of(wire), wire.diameter_mm)
    inner, both = (_rods(some, wire.diameter_mm) for some in ([r for r in every if r.inside], every))
    if _alike(inner, both, common(solid, whole) if known is None else known, solid):
        return None
    return tuple(of_solid(from_manifold(part), 1.0) for part in (solid - to_manifold(whole)).decompose())


def route(wire: Wire, blocks: tuple[Block, ...], whole: Mesh) -> Routed:
    """Lay a wire through the pieces: bored or split, a rod along the path; grooved, a saw cut from the belly to the path.

    What it takes of a piece is what the carving had left there. `whole` is the outer surface of all pieces together.
    """
    runs_of = [runs(wire, block.outer) for block in blocks]
    stretches = tuple(
        Stretch(a, b, wire.bore_mm / 2) for a, b in itertools.pairwise(path_of(wire)) if wire.route != "grooved"
    )
    solid = bent_rod(path_of(wire), wire.bore_mm)
    room = from_manifold(solid)
    gone, regions, metal = [], [], []
    for block, every in zip(blocks, runs_of, strict=True):
        inner = [r for r in every if r.inside]
        region: Region | None = None
        took = of_point(0.0, np.zeros(3))
        if inner and wire.route == "grooved":
            cut = taken_by(_groove(wire, block.outer), block)
            took, region = cut.gone, cut.region
        elif wire.route != "grooved" and len(room.faces) and (inner or overlap(room, block.outer)):
            took = _taken(inner, every, wire.bore_mm, inwards := common(solid, block.outer), solid)
            if took.mass_g > 0.0:
                shared = shared_with_earlier(solid, block, stretches)
                took = took if shared is None else total([took, shared.times(-1.0)])
                region = Region(inwards, stretches)
        if took.mass_g > 0.0 and wire.filler is not None:
            metal.append(_metal(wire, inner, every, block, stretches))
        gone.append(took)
        regions.append(region)
    closing = None
    if wire.filler is not None and sum(g.mass_g for g in gone) > 0:
        closing = total([*gone, *(m.times(-1.0) for m in metal)]).times(wire.filler.density_g_ml)
    through = runs(wire, whole)
    first, tight = regions[0], wire.route != "grooved" and wire.bore_mm == wire.diameter_mm
    known = first.solid if first is not None and tight and blocks[0].outer is whole else None
    return Routed(wire, tuple(through), tuple(gone), tuple(regions), closing, _aside(wire, through, whole, known))


def route_all(
    wires: tuple[Wire, ...], blocks: tuple[Block, ...], whole: Mesh
) -> tuple[tuple[Routed, ...], tuple[Block, ...]]:
    """Every wire in turn, each in what the one before has left; and the pieces as they are carved then."""
    routed = []
    for wire in wires:
        one = route(wire, blocks, whole)
        blocks = tuple(b if r is None else b.less(r) for b, r in zip(blocks, one.regions, strict=True))
        routed.append(one)
    return tuple(routed), blocks


def _metal(
    wire: Wire, inner: list[Run], every: list[Run], block: Block, stretches: tuple[Stretch, ...]
) -> MassProperties:
    """The wire itself where it lies in the room it took, at 1 g/mL."""
    solid = bent_rod(path_of(wire), wire.diameter_mm)
    rods = _taken(inner, every, wire.diameter_mm, common(solid, block.outer), solid)
    shared = shared_with_earlier(solid, block, stretches)
    return rods if shared is None else total([rods, shared.times(-1.0)])


def _groove(wire: Wire, body: Mesh) -> manifold3d.Manifold:
    """The wood between the wire's path and the belly, as wide as the groove."""
    path = path_of(wire)[:, [0, 2]]
    path = path[np.argsort(path[:, 0], kind="stable")]
    below = float(body.bounds[0, 2]) - 5.0
    half = wire.diameter_mm / 2
    corners = np.vstack([path + [0.0, half], [[path[-1, 0], below], [path[0, 0], below]]])
    return prism(corners, wire.bore_mm / 2)
