"""The body's outer surface as a closed mesh: its shape, less its cuts; and the solids of its parts."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from yellowbob.design.model import Body
from yellowbob.design.shape import Lofted, MeshBody, Turned
from yellowbob.errors import BadShape
from yellowbob.lines.cutting import cut_from
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, to_manifold


def _mesh_of(shape: MeshBody) -> Mesh:
    mesh = Mesh(np.array(shape.vertices_mm, dtype=float), np.array(shape.faces, dtype=np.int32))
    if mesh.volume_mm3 <= 0:
        raise BadShape("the mesh is inside out or encloses nothing; import it again")
    return mesh


@lru_cache(maxsize=32)
def blank_mesh(shape: Lofted | Turned | MeshBody) -> Mesh:
    """The shape before any cut."""
    return _mesh_of(shape) if isinstance(shape, MeshBody) else loft(shape)


def body_mesh(body: Body) -> Mesh:
    """The body's outer surface with its cuts made. Raises BadShape when nothing or no closed solid is left."""
    blank = blank_mesh(body.shape)
    if not body.cuts:
        return blank
    solid = to_manifold(blank)
    for cut in body.cuts:
        solid = cut_from(solid, cut, blank)
        if solid.is_empty():
            raise BadShape(f"the cut '{cut.name}' leaves nothing of the body; move it or make it smaller")
    return from_manifold(solid)
