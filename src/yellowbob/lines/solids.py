"""Booleans of closed meshes, through manifold3d in double precision, and the plain solids that holes are cut with."""

from __future__ import annotations

import atexit
import itertools
import math
from collections.abc import Sequence
from weakref import WeakKeyDictionary

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadShape
from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]

ROUND_SIDES = 32

_KNOWN: WeakKeyDictionary[Mesh, manifold3d.Manifold] = WeakKeyDictionary()
atexit.register(_KNOWN.clear)  # or its binding complains of leaks at the end


def to_manifold(mesh: Mesh, name: str = "the body") -> manifold3d.Manifold:
    """A Manifold of a closed mesh. Raises BadShape when the mesh is no closed, oriented surface."""
    known = _KNOWN.get(mesh)
    if known is not None:
        return known
    solid = manifold3d.Manifold(
        manifold3d.Mesh64(
            np.ascontiguousarray(mesh.vertices, dtype=np.float64), np.ascontiguousarray(mesh.faces, dtype=np.uint64)
        )
    )
    if solid.status() != manifold3d.Error.NoError:
        raise BadShape(f"{name} is not a closed solid ({solid.status().name}); mend its outline or mesh")
    _KNOWN[mesh] = solid
    return solid


def from_manifold(solid: manifold3d.Manifold) -> Mesh:
    """The mesh of a Manifold, mm, its solid kept beside it so that it need not be built again."""
    mesh = solid.to_mesh64()
    vertices = np.array(mesh.vert_properties, dtype=float)[:, :3]
    made = Mesh(np.ascontiguousarray(vertices), np.array(mesh.tri_verts, dtype=np.int32))
    _KNOWN[made] = solid
    return made


def thinned(mesh: Mesh, off_mm: float, name: str = "the body") -> Mesh:
    """Fewer triangles, its surface off by no more than so much. Raises BadShape as `to_manifold` does."""
    return from_manifold(to_manifold(mesh, name).simplify(off_mm))


def subtract(mesh: Mesh, cutters: Sequence[Mesh]) -> Mesh:
    """The mesh less all cutters."""
    if not cutters:
        return mesh
    solids = [to_manifold(mesh), *(to_manifold(c, "a cut") for c in cutters)]
    return from_manifold(manifold3d.Manifold.batch_boolean(solids, manifold3d.OpType.Subtract))


def common(solid: manifold3d.Manifold, mesh: Mesh) -> Mesh:
    """What a solid and a mesh have in common; an empty mesh when nothing."""
    return from_manifold(solid ^ to_manifold(mesh))


def unite(meshes: Sequence[Mesh]) -> Mesh:
    """All of them as one surface."""
    if len(meshes) == 1:
        return meshes[0]
    return from_manifold(manifold3d.Manifold.batch_boolean([to_manifold(m) for m in meshes], manifold3d.OpType.Add))


def exposed(shown: Sequence[Mesh], beside: Sequence[Mesh]) -> Mesh:
    """What shows of some solids where others stand beside them or in them: an open surface, mm; where nothing does, empty.

    The faces of the union that come from the solids shown (manifold3d keeps which solid each face was of).
    """
    ours = [to_manifold(m).as_original() for m in shown]
    every = [*ours, *(to_manifold(m).as_original() for m in beside)]
    mesh = manifold3d.Manifold.batch_boolean(every, manifold3d.OpType.Add).to_mesh64()
    wanted = {solid.original_id() for solid in ours}
    runs = [np.s_[start // 3 : end // 3] for start, end in itertools.pairwise(mesh.run_index)]
    faces = np.asarray(mesh.tri_verts, dtype=np.int32)
    kept = [faces[run] for run, of in zip(runs, mesh.run_original_id, strict=True) if of in wanted]
    vertices = np.ascontiguousarray(np.array(mesh.vert_properties, dtype=float)[:, :3])
    return Mesh(vertices, np.vstack(kept) if kept else np.zeros((0, 3), dtype=np.int32))


def overlap(one: Mesh, two: Mesh) -> bool:
    """Whether the boxes about two meshes meet."""
    return bool((one.bounds[0] < two.bounds[1]).all() and (two.bounds[0] < one.bounds[1]).all())


def frame_along(direction: Array) -> Array:
    """(3, 3) rotation whose third column is the direction (need not be of unit length)."""
    x, y, z = (float(c) for c in direction)
    size = math.hypot(x, y, z)
    x, y, z = x / size, y / size, z / size
    # across y, or across x where it points along that; in plain numbers: numpy's product of two vectors takes 50 µs
    ux, uy, uz = (z, 0.0, -x) if abs(y) < 0.9 else (0.0, -z, y)
    size = math.hypot(ux, uy, uz)
    ux, uy, uz = ux / size, uy / size, uz / size
    return np.array([[ux, y * uz - z * uy, x], [uy, z * ux - x * uz, y], [uz, x * uy - y * ux, z]])


def revolved(profile: Array, sides: int = ROUND_SIDES) -> Mesh:
    """A solid of revolution about z from (z, radius) points, z rising; every frustum has its exact volume.

    Radii are enlarged so that each polygon has its circle's area.
    """
    swell = swell_of(sides)
    angle = 2.0 * np.pi * np.arange(sides) / sides
    vertices: list[Array] = []
    rows: list[NDArray[np.int64]] = []
    count = 0
    for z, radius in profile:
        if radius <= 1e-9:
            vertices.append(np.array([[0.0, 0.0, z]]))
            rows.append(np.full(sides, count))
            count += 1
        else:
            r = radius * swell
            vertices.append(np.stack([r * np.cos(angle), r * np.sin(angle), np.full(sides, z)], axis=1))
            rows.append(count + np.arange(sides))
            count += sides
    if profile[0][1] > 1e-9:
        vertices.append(np.array([[0.0, 0.0, profile[0][0]]]))
        rows.insert(0, np.full(sides, count))
        count += 1
    if profile[-1][1] > 1e-9:
        vertices.append(np.array([[0.0, 0.0, profile[-1][0]]]))
        rows.append(np.full(sides, count))
    faces = []
    for low, top in itertools.pairwise(rows):
        low_next, top_next = np.roll(low, -1), np.roll(top, -1)
        if low[0] != low[1]:
            faces.append(np.stack([low, low_next, top_next], axis=1))
        if top[0] != top[1]:
            faces.append(np.stack([low, top_next, top], axis=1))
    return Mesh(np.vstack(vertices), np.concatenate(faces).astype(np.int32))


def swell_of(sides: int) -> float:
    """By how much a regular polygon's corners stand out when its area is the circle's: area (n/2)·r²·sin(2π/n)."""
    return math.sqrt(2.0 * math.pi / (sides * math.sin(2.0 * math.pi / sides)))


def rod(start: Array, end: Array, diameter_mm: float, sides: int = ROUND_SIDES) -> manifold3d.Manifold:
    """A round rod between two places, of exact volume."""
    start, end = np.asarray(start, dtype=float), np.asarray(end, dtype=float)
    radius = diameter_mm / 2.0 * swell_of(sides)
    solid = manifold3d.Manifold.cylinder(float(np.linalg.norm(end - start)), radius, radius, sides)
    return solid.transform(np.column_stack([frame_along(end - start), start]))


def cap(diameter_mm: float, depth_mm: float, lead_mm: float, sides: int = ROUND_SIDES, steps: int = 10) -> Mesh:
    """A spherical cap hollow opening toward -z at z = 0, with a round lead-in of the rim's size to z = -lead.

    Its volume below the rim is the closed form π·h·(3a² + h²)/6, a = diameter/2, h = depth.
    """
    a, h = diameter_mm / 2.0, depth_mm
    radius = (a * a + h * h) / (2.0 * h)
    edge = np.arccos(np.clip((radius - h) / radius, -1.0, 1.0))
    angle = edge * (1.0 - np.arange(steps + 1) / steps)
    z, r = radius * np.cos(angle) - (radius - h), radius * np.sin(angle)
    # straight runs between the steps are short of the sphere's volume: push the rings out to make it good
    z[-1], r[-1] = h, 0.0
    wanted = np.pi * h * (3.0 * a * a + h * h) / 6.0
    inner = np.s_[1:-1]
    for _ in range(4):
        have = float((np.pi / 3.0 * np.diff(z) * (r[:-1] ** 2 + r[:-1] * r[1:] + r[1:] ** 2)).sum())
        inner_have = have
        r[inner] *= np.sqrt(1.0 + (wanted - inner_have) / max(inner_have * 0.8, 1e-9))
    return revolved(np.vstack([[[-lead_mm, a]], np.stack([z, r], axis=1)]), sides)
