"""One carving a piece: everything that takes material away, one after the other, so that no gram goes twice.

The order is: the hollow of a print; later pieces, which have the room they stand in; wires with their holes and grooves;
what fittings sit in; bores; ballast holes; cast-in ballast. Each entry takes what no earlier one has. (Cuts are made
before: they shape the outer surface.) Where a hollow is filled in part, what lies in it takes that part of the infill.
"""

from __future__ import annotations

from dataclasses import dataclass
from weakref import WeakKeyDictionary

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.distances import segment_to_segment
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import common, overlap, subtract, to_manifold
from yellowbob.weights.mass import MassProperties, of_solid, total

Array = NDArray[np.float64]

LARGE, PART_MM = 2000, np.array([16.0, 64.0, 16.0])
"""A hollow of more triangles is taken in parts, whose sides lie on a grid so wide."""
NEAR_MM = 0.2
"""Regions along straight stretches that stay this far apart are not cut from one another."""


@dataclass(frozen=True, eq=False)
class Stretch:
    """A straight stretch within whose radius something lies: a cheap way to see that two regions cannot meet. mm."""

    start_mm: Array
    end_mm: Array
    radius_mm: float


@dataclass(frozen=True, eq=False)
class Region:
    """Room that an entry of the carving has taken: a closed solid, and the stretches it lies along where it is slim."""

    solid: Mesh
    along: tuple[Stretch, ...] = ()
    whole: Mesh | None = None
    """the room with what earlier entries had of it: what is cut from later ones. Cutting what is left instead would
    cut along surfaces that lie in one another, again and again, and every time into more slivers."""

    def may_meet(self, other: Region) -> bool:
        """Whether two regions could overlap: their boxes meet, and so do the stretches they lie along."""
        if not len(self.solid.faces) or not len(other.solid.faces) or not overlap(self.solid, other.solid):
            return False
        if not self.along or not other.along:
            return True
        return any(
            segment_to_segment(a.start_mm, a.end_mm, b.start_mm, b.end_mm) < a.radius_mm + b.radius_mm + NEAR_MM
            for a in self.along for b in other.along
        )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Block:
    """A piece as far as it is carved: its outer surface (mm), its hollow with the share of infill, the room taken."""

    outer: Mesh
    hollow: Mesh | None = None
    infill: float = 0.0
    taken: tuple[Region, ...] = ()

    def less(self, *regions: Region) -> Block:
        """The piece with more room taken."""
        return Block(self.outer, self.hollow, self.infill, (*self.taken, *(r for r in regions if len(r.solid.faces))))


@dataclass(frozen=True, eq=False)
class Cut:
    """What one cutter finds left to take: its region, and the material gone as mass at 1 g/mL (so mass_g is in mL)."""

    region: Region
    gone: MassProperties
    clipped: bool = False
    """whether room taken before, or a hollow, cut into it"""


def taken_by(cutter: manifold3d.Manifold, block: Block, along: tuple[Stretch, ...] = ()) -> Cut:
    """What a cutter takes of a piece: the cutter inside it, less the room that was taken before."""
    return taken_of(Region(common(cutter, block.outer), along), block)


def taken_of(whole: Region, block: Block) -> Cut:
    """The same, from what of the cutter lies inside the piece."""
    along = whole.along
    earlier = [r.whole or r.solid for r in block.taken if r.may_meet(whole)]
    left = Region(subtract(whole.solid, earlier), along, whole.solid) if earlier else whole
    hollow = None if block.hollow is None else _part_about(block.hollow, left.solid)
    if hollow is None or not left.may_meet(Region(hollow)):
        return Cut(left, of_solid(left.solid, 1.0), bool(earlier))
    gone = of_solid(subtract(left.solid, [hollow]), 1.0)
    if block.infill > 0.0:
        inner = of_solid(common(to_manifold(left.solid), hollow), block.infill)
        gone = total([gone, inner])
    return Cut(left, gone, True)


_PARTS: WeakKeyDictionary[Mesh, dict[tuple[float, ...], Mesh]] = WeakKeyDictionary()


def _part_about(hollow: Mesh, solid: Mesh) -> Mesh | None:
    """The part of a large hollow that a solid could meet, cut off square well beyond it; kept, for the next one is mostly
    drilled beside it. None where they lie apart."""
    if not len(solid.faces) or not overlap(solid, hollow):
        return None
    if len(hollow.faces) < LARGE:
        return hollow
    low = PART_MM * np.floor((solid.bounds[0] - 1.0) / PART_MM)
    high = PART_MM * np.ceil((solid.bounds[1] + 1.0) / PART_MM)
    level = _cut(hollow, (*(hollow.bounds[0, :2] - 1.0), low[2], *(hollow.bounds[1, :2] + 1.0), high[2]))
    return _cut(level, (*low, *high)) if len(level.faces) else level


def _cut(hollow: Mesh, box: tuple[float, ...]) -> Mesh:
    """What of a hollow lies in a box (its least corner, its most), kept for the next time."""
    parts = _PARTS.setdefault(hollow, {})
    if box not in parts:
        low, high = np.array(box[:3]), np.array(box[3:])
        room = manifold3d.Manifold.cube((high - low).tolist()).translate(low.tolist())
        parts[box] = common(room, hollow)
    return parts[box]


def shared_with_earlier(solid: manifold3d.Manifold, block: Block, along: tuple[Stretch, ...]) -> MassProperties | None:
    """What of a slim solid lies in room taken before or in the hollow, at 1 g/mL; None when nothing does.

    The hollow counts by the share that is not filled.
    """
    mesh: Mesh | None = None
    found: list[MassProperties] = []
    for region in block.taken:
        mesh = mesh or common(solid, block.outer)
        if region.may_meet(Region(mesh, along)):
            found.append(of_solid(common(to_manifold(region.solid), mesh), 1.0))
    if block.hollow is not None:
        mesh = mesh or common(solid, block.outer)
        if overlap(block.hollow, mesh):
            inner = common(to_manifold(block.hollow), mesh)
            earlier = [r.solid for r in block.taken if len(inner.faces) and overlap(r.solid, inner)]
            inner = subtract(inner, earlier) if earlier else inner
            found.append(of_solid(inner, 1.0 - block.infill))
    found = [f for f in found if abs(f.mass_g) > 1e-15]
    return total(found) if found else None
