"""A mesh from CAD brought into body axes: turned, mirrored, set to the nose, made lighter with its volume kept."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import MeshBody
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, to_manifold

Array = NDArray[np.float64]

DIRECTIONS = {
    "+x": (1.0, 0.0, 0.0), "-x": (-1.0, 0.0, 0.0), "+y": (0.0, 1.0, 0.0), "-y": (0.0, -1.0, 0.0), "+z": (0.0, 0.0, 1.0),
    "-z": (0.0, 0.0, -1.0),
}  # fmt: skip


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


def lighter(mesh: Mesh, triangles: int) -> Mesh:
    """At most so many triangles (or the fewest that keep the shape), scaled so that the volume is what it was."""
    if len(mesh.faces) <= triangles:
        return mesh
    solid, size = to_manifold(mesh), float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0]))
    best = solid
    for tolerance in np.geomspace(1e-5, 2e-2, 24) * size:
        best = solid.simplify(float(tolerance))
        if best.num_tri() <= triangles:
            break
    thin = from_manifold(best)
    factor = (mesh.volume_mm3 / thin.volume_mm3) ** (1.0 / 3.0)
    centre = thin.moments.centroid_mm
    return Mesh(centre + (thin.vertices - centre) * factor, thin.faces)


def as_body(mesh: Mesh, source: str) -> MeshBody:
    """The document's form of a mesh."""
    return MeshBody(
        source=source[-80:] or "mesh",
        vertices_mm=tuple((float(x), float(y), float(z)) for x, y, z in mesh.vertices),
        faces=tuple((int(a), int(b), int(c)) for a, b, c in mesh.faces),
    )
