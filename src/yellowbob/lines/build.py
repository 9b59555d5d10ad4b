"""The body's outer surface as a closed mesh: its shape, less its cuts."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from yellowbob.design.model import Body
from yellowbob.design.shape import Cup, Lofted, MeshBody, Turned
from yellowbob.errors import BadShape
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import cap, frame_along, subtract


def _mesh_of(shape: MeshBody) -> Mesh:
    mesh = Mesh(np.array(shape.vertices_mm, dtype=float), np.array(shape.faces, dtype=np.int32))
    if mesh.volume_mm3 <= 0:
        raise BadShape("the mesh is inside out or encloses nothing; import it again")
    return mesh


def cutter(cut: Cup, blank: Mesh) -> Mesh:
    """The solid that a cut takes away, in body axes, reaching clear of the blank where it is open."""
    lead = cut.rim_x_mm - float(blank.bounds[0, 0]) + 2.0
    hollow = cap(cut.diameter_mm, cut.depth_mm, lead)
    return hollow.moved(frame_along(np.array([1.0, 0.0, 0.0])), np.array([cut.rim_x_mm, 0.0, cut.z_mm]))


@lru_cache(maxsize=32)
def blank_mesh(shape: Lofted | Turned | MeshBody) -> Mesh:
    """The shape before any cut."""
    return _mesh_of(shape) if isinstance(shape, MeshBody) else loft(shape)


def body_mesh(body: Body) -> Mesh:
    """The body's outer surface with its cuts made. Raises BadShape when nothing or no closed solid is left."""
    blank = blank_mesh(body.shape)
    if not body.cuts:
        return blank
    cut = subtract(blank, [cutter(c, blank) for c in body.cuts])
    if not len(cut.faces):
        raise BadShape("the cuts leave nothing of the body; make them smaller")
    return cut
