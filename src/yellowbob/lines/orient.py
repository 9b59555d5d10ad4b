"""A mesh from CAD brought into body axes: turned, mirrored, set to the nose, made lighter with its volume kept."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import MeshBody
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.shells import Solid
from yellowbob.lines.solids import from_manifold, to_manifold

Array = NDArray[np.float64]

DIRECTIONS = {
    "+x": (1.0, 0.0, 0.0), "-x": (-1.0, 0.0, 0.0), "+y": (0.0, 1.0, 0.0), "-y": (0.0, -1.0, 0.0), "+z": (0.0, 0.0, 1.0),
    "-z": (0.0, 0.0, -1.0),
}  # fmt: skip


FINEST_SHARE, COARSEST_SHARE = 2e-6, 6e-3
"""By what share of its size a solid's surface may move at first, and at most, to be made lighter."""


def axes_from(nose: str, up: str) -> Array:
    """Rotation from file axes to body axes, given which file direction the nose points to and which is up.

    Raises BadInput when the two lie along one line or are not among +x, -x, … -z.
    """
    if nose not in DIRECTIONS or up not in DIRECTIONS or nose[1] == up[1]:
        raise BadInput(f"nose '{nose}' and up '{up}': give two different axes, such as --nose -x --up +z")
    aft, above = -np.array(DIRECTIONS[nose]), np.array(DIRECTIONS[up])
    return np.stack([aft, np.cross(above, aft), above])


def seated(mesh: Mesh) -> Mesh:
    """Shifted so that the nose lies at x = 0 and the middle of beam and depth on the axis."""
    low, high = mesh.bounds
    return mesh.moved(shift=np.array([-low[0], -(low[1] + high[1]) / 2, -(low[2] + high[2]) / 2]))


def lopsided(mesh: Mesh) -> float:
    """Share of the volume by which port and starboard differ: 0 for a symmetric body."""
    solid = to_manifold(mesh)
    shared = (solid ^ solid.mirror((0.0, 1.0, 0.0))).volume()
    return float(max(0.0, 1.0 - shared / solid.volume()))


def turned(solid: Solid, matrix: Array) -> Solid:
    """A solid after a rotation or a mirror."""
    return replace(solid, outer=solid.outer.moved(matrix), cavity=solid.cavity and solid.cavity.moved(matrix))


def seated_solid(solid: Solid) -> Solid:
    """A solid shifted as `seated` shifts its outer surface."""
    outer = seated(solid.outer)
    shift = outer.vertices[0] - solid.outer.vertices[0]
    return replace(solid, outer=outer, cavity=solid.cavity and solid.cavity.moved(shift=shift))


def lighter_solid(solid: Solid, triangles: int) -> Solid:
    """A solid of at most so many triangles, or the fewest that keep its shape."""
    return replace(
        solid, outer=lighter(solid.outer, triangles), cavity=solid.cavity and lighter(solid.cavity, triangles)
    )


def lighter(mesh: Mesh, triangles: int) -> Mesh:
    """At most so many triangles (or the fewest that keep the shape), its length and its volume what they were."""
    if len(mesh.faces) <= triangles:
        return mesh
    solid, size = to_manifold(mesh), float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0]))
    best = solid
    for tolerance in np.geomspace(FINEST_SHARE, COARSEST_SHARE, 16) * size:
        best = best.simplify(float(tolerance))
        if best.num_tri() <= triangles:
            break
    thin = from_manifold(best)
    (low, high), (own_low, own_high) = mesh.bounds[:, 0], thin.bounds[:, 0]
    along = (high - low) / (own_high - own_low)
    across = float(np.sqrt(mesh.volume_mm3 / (thin.volume_mm3 * along)))
    middle = thin.moments.centroid_mm
    vertices = middle + (thin.vertices - middle) * across
    vertices[:, 0] = low + (thin.vertices[:, 0] - own_low) * along
    return Mesh(vertices, thin.faces)


def as_body(solid: Solid, source: str, inside: str = "air") -> MeshBody:
    """The document's form of a solid."""
    meshes = [solid.outer, *([solid.cavity] if solid.cavity is not None else [])]
    shift = np.cumsum([0, *(len(m.vertices) for m in meshes)])
    return MeshBody(
        source=source[-80:] or "mesh",
        vertices_mm=tuple(map(tuple, np.vstack([m.vertices for m in meshes]).tolist())),
        faces=tuple(map(tuple, np.vstack([m.faces + s for m, s in zip(meshes, shift, strict=False)]).tolist())),
        cavity_faces=len(meshes[1].faces) if len(meshes) > 1 else 0,
        cavity="water" if inside == "water" else "air",
    )
