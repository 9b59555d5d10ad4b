"""Round pieces on one axis, such as a float's: joined by their profiles, which is quicker than joining the solids.

What solids of revolution about one axis make together is what their half profiles make together, turned about it. The rings
of a loft all have their corners at the same angles, so that the surface is the very one that joining the solids gives.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from weakref import WeakKeyDictionary

import numpy as np
import shapely
from numpy.typing import NDArray

from yellowbob.lines.loft import SIDES, closed
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import common, exposed, to_manifold, unite

Array = NDArray[np.float64]

ROUND_MM = 1e-7
"""Corners of a ring differ by no more in radius, place and angle."""
ON_MM = 1e-6
"""So near to a profile a stretch lies on it."""
ANGLES = 2.0 * np.pi * np.arange(SIDES) / SIDES
RING = np.stack([np.cos(ANGLES), np.sin(ANGLES)], axis=1)


@dataclass(frozen=True, eq=False)
class Stack:
    """The outline (n, 2) of all together from end to end, (x, corner radius), 0 at both ends; the half profile of each."""

    outline: Array
    profiles: tuple[shapely.Polygon, ...]

    def surface(self) -> Mesh:
        """The closed surface; its triangles in the order of `stretch_of_faces`."""
        rings = np.empty((len(self.outline), SIDES, 3))
        rings[..., 0] = self.outline[:, :1]
        rings[..., 1:] = self.outline[:, 1, None, None] * RING
        return closed(rings)

    def surface_of(self, shown: Sequence[int]) -> Mesh:
        """The part of it that is of the pieces by their numbers; open."""
        middles = shapely.points((self.outline[:-1] + self.outline[1:]) / 2.0)
        ours = np.zeros(len(middles), dtype=bool)
        for number in shown:
            ours |= shapely.distance(middles, self.profiles[number].exterior) < ON_MM
        mesh = self.surface()
        return Mesh(mesh.vertices, np.ascontiguousarray(mesh.faces[ours[self._stretch_of_faces()]]))

    def _stretch_of_faces(self) -> NDArray[np.int64]:
        inner = np.repeat(np.arange(1, len(self.outline) - 2), SIDES)
        fans = np.repeat([0, len(self.outline) - 2], SIDES)
        return np.concatenate([inner, inner, fans])


KNOWN: WeakKeyDictionary[Mesh, shapely.Polygon | None] = WeakKeyDictionary()
"""Profiles of meshes that are still in use: each is asked for several times an edit."""


def _profile(mesh: Mesh) -> shapely.Polygon | None:
    if mesh not in KNOWN:
        found = profile_of(mesh)
        polygon = None if found is None else shapely.Polygon(found)
        KNOWN[mesh] = polygon if polygon is not None and polygon.is_valid else None
    return KNOWN[mesh]


def profile_of(mesh: Mesh) -> Array | None:
    """(n, 2) x and corner radius of the rings of a mesh that `loft` made round, 0 at both ends; None for any other."""
    rings, odd = divmod(len(mesh.vertices) - 2, SIDES)
    if odd or rings < 1 or len(mesh.faces) != 2 * SIDES * rings:
        return None
    corners, ends = mesh.vertices[:-2].reshape(rings, SIDES, 3), mesh.vertices[-2:]
    at, radius = corners[..., 0].mean(axis=1), np.hypot(corners[..., 1], corners[..., 2]).mean(axis=1)
    if np.abs(corners[..., 1:] - radius[:, None, None] * RING).max() > ROUND_MM or np.abs(ends[:, 1:]).max() > ROUND_MM:
        return None
    if np.abs(corners[..., 0] - at[:, None]).max() > ROUND_MM:
        return None
    # the root of the mean square: rings keep their areas
    radius = np.sqrt((corners[..., 1:] ** 2).sum(axis=2).mean(axis=1))
    found = np.concatenate([[[ends[0, 0], 0.0]], np.stack([at, radius], axis=1), [[ends[1, 0], 0.0]]])
    return found if found[0, 0] <= found[-1, 0] else found[::-1]


def stack_of(meshes: Sequence[Mesh]) -> Stack | None:
    """The pieces as one outline; None where one is not round about the axis, or they do not make one piece without a gap."""
    profiles = _profiles(meshes)
    return None if profiles is None else _stack(shapely.union_all(profiles), profiles)


def _profiles(meshes: Sequence[Mesh]) -> tuple[shapely.Polygon, ...] | None:
    found = tuple(_profile(mesh) for mesh in meshes)
    profiles = tuple(p for p in found if p is not None)
    return profiles if len(profiles) == len(found) else None


def _stack(region: shapely.Geometry, profiles: tuple[shapely.Polygon, ...]) -> Stack | None:
    if not isinstance(region, shapely.Polygon) or region.interiors or region.is_empty:
        return None
    outline = _from_end_to_end(np.asarray(region.exterior.coords)[:-1])
    return None if outline is None else Stack(outline, profiles)


def put_together(meshes: Sequence[Mesh]) -> Mesh:
    """All of them as one surface: round ones on one axis by their profiles, others as solids."""
    stack = stack_of(meshes) if len(meshes) > 1 else None
    return unite(meshes) if stack is None else stack.surface()


def meeting(one: Mesh, two: Mesh) -> Mesh:
    """What two pieces have in common, mm; an empty mesh where nothing."""
    profiles = _profiles((one, two))
    stack = None if profiles is None else _stack(shapely.intersection(*profiles), profiles)
    return common(to_manifold(one), two) if stack is None else stack.surface()


def showing(shown: Sequence[Mesh], beside: Sequence[Mesh]) -> Mesh:
    """What shows of some pieces where others stand beside them or in them: an open surface, mm; where nothing does, empty."""
    stack = stack_of([*shown, *beside])
    return exposed(shown, beside) if stack is None else stack.surface_of(range(len(shown)))


def _from_end_to_end(corners: Array) -> Array | None:
    """The outline without its axis, rising from the lower end; None where it comes down to the axis between its ends."""
    on = corners[:, 1] < ON_MM
    first = int(np.argmin(np.where(on, corners[:, 0], np.inf)))
    last = int(np.argmax(np.where(on, corners[:, 0], -np.inf)))
    turned = np.roll(corners, -first, axis=0)
    end = (last - first) % len(corners)
    one, other = turned[: end + 1], np.concatenate([turned[end:], turned[:1]])[::-1]
    chain = one if one[:, 1].max() > other[:, 1].max() else other
    steps = np.linalg.norm(np.diff(chain, axis=0), axis=1)
    chain = chain[np.concatenate([[True], steps > 1e-9])]
    if len(chain) < 3 or (chain[1:-1, 1] < ON_MM).any():
        return None
    chain[[0, -1], 1] = 0.0
    return np.ascontiguousarray(chain)
