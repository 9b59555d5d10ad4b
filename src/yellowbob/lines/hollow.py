"""Hollow prints: the space that lies a wall's thickness or more inside the body, above the split line.

That is the erosion of the solid by a ball of the wall's radius. Its surface is where the distance from the outer surface
is the wall: distances on a grid near it, the surface between them (Lewiner et al. 2003), then each corner of it moved onto
the exact distance from the triangles of the outer surface. What is rounded off, where two faces of the hollow meet in a
crease, leaves more wall, never less.
"""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Shell
from yellowbob.ground.errors import BadShape, NoHollow
from yellowbob.ground.progress import go_on
from yellowbob.lines.edges import mesh_edges
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.mirrored import ALIKE_MM, unlike, whole_of
from yellowbob.lines.nearest import fill_cells, grid_distances, line_crossings, nearest_places
from yellowbob.lines.solids import from_manifold, thinned, to_manifold

Array = NDArray[np.float64]

FINEST_MM, COARSEST_MM = 0.22, 1.2
MOST_NODES = 250_000
CELLS_OF_REACH, CELLS = 0.5, np.array([400, 24, 24])
"""Size of the cells by which triangles are found, of how far they are looked for, and how many of them there are at most."""
UNFOLDINGS = 12
FOLDED = -0.5
LEAST_TURN = 0.5
"""Cosine of the angle that a triangle may be turned by when its corners are put at the wall."""
THIN_MM = 0.006
ROUNDS = 4
SAG_MM = 0.008
"""The surface of the hollow may be drawn with fewer triangles by so much."""
BEFORE, WANTED = 3.0, 1.5
"""So many steps before the part that is wanted a hollow is closed off, and from so many on it is put at the wall."""
NONE_LEFT = "the wall leaves no hollow above the split line; make the wall thinner or lower the line"
SLIVER_MM3 = 0.5
"""A hollow smaller than this is none: a nozzle fills it."""
ASKEW = np.array([0.31, 0.37, 0.43])
"""Where in its cell the grid begins, so that no node lies under a corner of the mesh."""


@dataclass(frozen=True, eq=False)
class Hollow:
    """The hollow of a print: its closed surface, mm."""

    mesh: Mesh
    volume_mm3: float


def hollow_of(outer: Mesh, shell: Shell) -> Hollow:
    """The hollow that a shell leaves in a body. Raises NoHollow when the wall leaves none."""
    # nothing lies deeper inside than half of the body's least extent
    if 2.0 * shell.wall_mm >= float(np.ptp(outer.bounds, axis=0).min()):
        raise NoHollow(NONE_LEFT)
    if _halves(outer):
        with suppress(BadShape):  # where its halves do not close, it is worked out whole
            return _made(outer, shell, True)
    return _made(outer, shell, False)


def _made(outer: Mesh, shell: Shell, half: bool) -> Hollow:
    """The hollow, whole or from its half at y ≥ 0. Raises NoHollow, and BadShape where it is not closed."""
    least = np.array([-np.inf, 0.0 if half else -np.inf, min(z for _, z in shell.split_mm)])
    inner = _inner(outer, shell.wall_mm, least)
    solid = None if inner is None else to_manifold(inner, "the hollow") ^ _above(outer, shell, half)
    kept = [] if solid is None else [part for part in solid.decompose() if _size(part, half) > SLIVER_MM3]
    if not kept:
        raise NoHollow(NONE_LEFT)
    mesh = from_manifold(manifold3d.Manifold.compose(kept) if len(kept) > 1 else kept[0])
    if half:
        mesh = whole_of(mesh)
        to_manifold(mesh, "the hollow")
    return Hollow(mesh, mesh.volume_mm3)


def _halves(outer: Mesh) -> bool:
    """Whether a body is alike on both sides of y = 0, so that half of its hollow tells the other."""
    middles = unlike(outer)
    if middles is None or not len(middles):
        return middles is not None
    # looked for as far as the body reaches, so that every place has a nearest
    near = _Near(np.ascontiguousarray(outer.corners), float(np.ptp(outer.bounds, axis=0).max()))
    return bool((near.distances(middles) < ALIKE_MM).all())


def _size(part: manifold3d.Manifold, half: bool) -> float:
    """mm³ of a part of the hollow, with its other half where it reaches the middle."""
    return float(part.volume()) * (2.0 if half and part.bounding_box()[1] < ALIKE_MM else 1.0)


def _above(outer: Mesh, shell: Shell, half: bool) -> manifold3d.Manifold:
    """Everything about a body above its split line, which runs on level before its first point and after its last; of its
    half at y ≥ 0 where that is enough."""
    low, high = outer.bounds
    line = np.array(shell.split_mm, dtype=float)
    ends = low[0] - 1.0, high[0] + 1.0
    inner = line[(line[:, 0] > ends[0]) & (line[:, 0] < ends[1])]
    heights = np.interp(ends, line[:, 0], line[:, 1])
    line = np.vstack([[ends[0], heights[0]], inner, [ends[1], heights[1]]])
    top = max(float(high[2]), float(line[:, 1].max())) + 1.0
    outline = np.vstack([line, [[ends[1], top], [ends[0], top]]])
    wide = float(high[1]) + 1.0 if half else float(high[1] - low[1]) + 2.0
    slab = manifold3d.Manifold.extrude(manifold3d.CrossSection([np.ascontiguousarray(outline)]), wide)
    # the outline's (x, z) stand upright: its extrusion runs to port
    turn = np.array([[1.0, 0, 0, 0], [0, 0, -1.0, float(high[1]) + 1.0], [0, 1.0, 0, 0]])
    return slab.transform(turn)


def _inner(outer: Mesh, wall: float, least: Array) -> Mesh | None:
    """All that lies `wall` mm or more inside a closed surface; None when nothing does. Only what lies beyond `least` (3,) is
    wanted: a few steps before that it is closed off."""
    from skimage.measure import marching_cubes  # slow to import: only when a print is hollowed

    low, high = outer.bounds
    size = high - low
    step = float(np.clip((float(size.prod()) / MOST_NODES) ** (1.0 / 3.0), FINEST_MM, COARSEST_MM))
    step = min(step, float(size.min()) / 8.0)
    short_of = least - BEFORE * step
    closed_off = short_of > low
    start = np.maximum(low, short_of) - step * ASKEW
    shape = tuple(int(np.ceil(s / step)) + 2 for s in high - np.maximum(low, short_of))
    reach = wall + 2.0 * step
    corners = outer.corners
    # along x every triangle counts: lines that way tell what lies inside
    corners = np.ascontiguousarray(corners[(corners[:, :, 1:].max(axis=1) > (start - reach)[1:]).all(axis=1)])
    away = np.full(shape, reach)
    go_on()
    grid_distances(corners, start, step, reach, away)
    go_on()
    inside = _inside(corners, start, step, shape)
    field = np.where(inside, away, -away) - wall
    # a node on the surface itself would give triangles of no size
    field = np.where(np.abs(field) < 0.01 * step, np.where(field < 0.0, -0.01, 0.01) * step, field)
    for axis in np.flatnonzero(closed_off):
        np.moveaxis(field, axis, 0)[0] = -step
    if not (field > 0.0).any():
        return None
    places, faces, _, _ = marching_cubes(field, 0.0, spacing=(step, step, step), gradient_direction="ascent")
    places = np.asarray(places, dtype=float) + start
    near = _Near(corners, reach, least - WANTED * step)
    surface = _moved(Mesh(places, np.asarray(faces, dtype=np.int32)), near, wall, step)
    drawn = thinned(surface, SAG_MM, "the hollow")
    drawn = _finer_where_thin(drawn, near, wall, step)
    # straight between its corners the surface lies a hair too deep: they are moved out by what it lacks on the whole
    middles = drawn.corners.mean(axis=1)
    wanted = near.wants(middles)
    if not wanted.any():
        return None
    short = float(np.average(near.distances(middles[wanted]) - wall, weights=drawn.areas[wanted]))
    return _moved(drawn, near, wall - min(max(short, 0.0), SAG_MM), step)


def _inside(corners: Array, start: Array, step: float, shape: tuple[int, ...]) -> NDArray[np.bool_]:
    """Which nodes of a grid lie inside a closed surface: an odd number of crossings before them on a line along x.

    A line that goes through an edge, and so does not come out again, is moved aside by a hair and asked once more.
    """
    inside = np.zeros(shape, dtype=bool)
    odd = np.ones(shape[1:], dtype=bool)
    for shift in np.array([0.0, 1e-6, 2.3e-5]) * step:
        line, at, _ = line_crossings(corners, start[1:] + shift, np.array([step, step]), (shape[1], shape[2]))
        row = np.maximum(0, np.floor((at - start[0]) / step).astype(np.int64) + 1)
        crossed = np.zeros((shape[0] + 1, shape[1] * shape[2]), dtype=np.int32)
        np.add.at(crossed, (np.minimum(row, shape[0]), line), 1)
        crossed = crossed.reshape(-1, *shape[1:])
        inside[:, odd] = (np.cumsum(crossed[:-1], axis=0) % 2 == 1)[:, odd]
        odd &= crossed.sum(axis=0) % 2 == 1
        if not odd.any():
            return inside
    raise BadShape("it cannot be told what lies inside the body; mend its outline or mesh")


def _moved(mesh: Mesh, near: _Near, wall: float, step: float) -> Mesh:
    """A surface put at the wall's distance; where that would fold it over, as in a crease, it stays as it is."""
    vertices = near.at_wall(mesh.vertices, wall, step)
    beside = _neighbours(mesh.faces)
    for _ in range(UNFOLDINGS):
        moved = Mesh(vertices, mesh.faces)
        turned = np.einsum("ij,ij->i", moved.area_vectors, mesh.area_vectors) < LEAST_TURN * moved.areas * mesh.areas
        normals = moved.area_vectors / np.maximum(moved.areas[:, None], 1e-30)
        folded = np.einsum("ij,ij->i", normals[beside[:, 0]], normals[beside[:, 1]]) < FOLDED
        stay = np.unique(np.concatenate([mesh.faces[turned].ravel(), mesh.faces[beside[folded]].ravel()]))
        stay = stay[np.any(vertices[stay] != mesh.vertices[stay], axis=1)]
        if not len(stay):
            return moved
        vertices = vertices.copy()
        vertices[stay] = mesh.vertices[stay]
    return mesh


def _neighbours(faces: NDArray[np.int32]) -> NDArray[np.int64]:
    """(k, 2) the two faces at every edge of a closed surface."""
    of_face = mesh_edges(faces)[1].ravel()
    return np.asarray(np.argsort(of_face, kind="stable") // 3).reshape(-1, 2)


def _finer_where_thin(mesh: Mesh, near: _Near, wall: float, step: float) -> Mesh:
    """Edges whose middles come nearer to the outside than the wall are divided, and their middles put at it."""
    known = 0
    for _ in range(ROUNDS):
        go_on()
        edges, of_face = mesh_edges(mesh.faces)
        # every edge that came with the last round has one of its corners
        fresh = np.flatnonzero(edges.max(axis=1) >= known)
        middles = np.full((len(edges), 3), np.nan)
        middles[fresh] = mesh.vertices[edges[fresh]].mean(axis=1)
        fresh = fresh[near.wants(middles[fresh])]
        thin = fresh[near.distances(middles[fresh]) < wall - THIN_MM]
        known = len(mesh.vertices)
        if not len(thin):
            break
        number = np.full(len(edges), -1)
        number[thin] = len(mesh.vertices) + np.arange(len(thin))
        vertices = np.vstack([mesh.vertices, near.at_wall(middles[thin], wall, step)])
        mesh = Mesh(vertices, _divided(mesh.faces, number[of_face]))
    return mesh


def _divided(faces: NDArray[np.int32], middles: NDArray[np.int64]) -> NDArray[np.int32]:
    """Faces (m, 3) with new corners on some edges: `middles` (m, 3) names them, -1 for an edge left whole."""
    split = middles >= 0
    count = split.sum(axis=1)
    out = [faces[count == 0].astype(np.int64)]
    # each face turned so that its divided edges come first: one, or two in a row
    first = np.where(count == 1, split.argmax(axis=1), np.where(count == 2, (split.argmin(axis=1) + 1) % 3, 0))
    turn = (first[:, None] + np.arange(3)) % 3
    f, m = np.take_along_axis(faces.astype(np.int64), turn, 1), np.take_along_axis(middles, turn, 1)
    one, two, three = (count == k for k in (1, 2, 3))
    for rows, corners in (
        (one, (("f0", "m0", "f2"), ("m0", "f1", "f2"))),
        (two, (("m0", "f1", "m1"), ("f0", "m0", "m1"), ("f0", "m1", "f2"))),
        (three, (("f0", "m0", "m2"), ("m0", "f1", "m1"), ("m2", "m1", "f2"), ("m0", "m1", "m2"))),
    ):
        for corner in corners:
            out.append(np.stack([(f if c[0] == "f" else m)[rows, int(c[1])] for c in corner], axis=1))
    return np.concatenate(out).astype(np.int32)


class _Near:
    """Distances of places from triangles (m, 3, 3), which are kept by cells; exact within `reach` mm. least (3,): what does
    not lie beyond it is not wanted, and not moved."""

    def __init__(self, corners: Array, reach: float, least: Array | None = None) -> None:
        self.corners, self.reach = corners, reach
        self.least = np.full(3, -np.inf) if least is None else least
        middle = corners.mean(axis=1)
        radius = np.linalg.norm(corners - middle[:, None, :], axis=2).max(axis=1)
        self.balls = np.ascontiguousarray(np.column_stack([middle, radius]))
        least, most = corners.min(axis=1), corners.max(axis=1)
        self.low, size = least.min(axis=0), np.ptp(corners.reshape(-1, 3), axis=0)
        self.wide = np.maximum(np.maximum(reach * CELLS_OF_REACH, size / CELLS), 1e-9)
        self.count = (size / self.wide).astype(np.int64) + 1
        first, last = (
            np.clip(((at - self.low) / self.wide).astype(np.int64), 0, self.count - 1)
            for at in (least - reach, most + reach)
        )
        self.starts, self.rows = np.zeros(int(self.count.prod()) + 1, dtype=np.int64), np.empty(0, dtype=np.int64)
        fill_cells(first, last, self.count, self.starts, self.rows, False)
        self.starts = np.cumsum(self.starts)
        self.rows = np.empty(int(self.starts[-1]), dtype=np.int64)
        fill_cells(first, last, self.count, self.starts, self.rows, True)

    def places(self, places: Array) -> Array:
        """(n, 3) nearest place on the triangles to each of `places`."""
        out = np.empty_like(places)
        nearest_places(
            self.corners, self.balls, self.starts, self.rows, self.low, self.wide, self.count, self.reach, places, out
        )
        return out

    def wants(self, places: Array) -> NDArray[np.bool_]:
        """(n,) which places lie in the part that is wanted."""
        return np.asarray((places > self.least).all(axis=1))

    def distances(self, places: Array) -> Array:
        """(n,) from the triangles."""
        return np.asarray(np.linalg.norm(places - self.places(places), axis=1))

    def at_wall(self, places: Array, wall: float, step: float) -> Array:
        """Places (n, 3) moved to a distance of `wall`, by half a step at most."""
        moved = places.copy()
        wanted = self.wants(places)
        places = places[wanted]
        out = places - self.places(places)
        distance = np.linalg.norm(out, axis=1, keepdims=True)
        moved[wanted] = places + out / np.maximum(distance, 1e-9) * np.clip(wall - distance, -0.5 * step, 0.5 * step)
        return moved
