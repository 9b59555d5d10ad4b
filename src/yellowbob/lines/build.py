"""A piece's outer surface as a closed mesh: its shape, less its cuts, at its place."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import Model
from yellowbob.design.model import Piece
from yellowbob.design.shape import Lofted, MeshBody, Turned
from yellowbob.ground.errors import BadShape
from yellowbob.lines.cutting import cut_from
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.plates import plate_solid
from yellowbob.lines.solids import from_manifold, to_manifold

Array = NDArray[np.float64]


def _mesh_of(shape: MeshBody) -> Mesh:
    faces = np.array(shape.faces, dtype=np.int32)
    mesh = _compact(np.array(shape.vertices_mm, dtype=float), faces[: len(faces) - shape.cavity_faces])
    if mesh.volume_mm3 <= 0:
        raise BadShape("the mesh is inside out or encloses nothing; import it again")
    return mesh


def _compact(vertices: Array, faces: NDArray[np.int32]) -> Mesh:
    """A mesh of some of the faces, with the vertices that they name."""
    used, numbers = np.unique(faces, return_inverse=True)
    return Mesh(np.ascontiguousarray(vertices[used]), numbers.reshape(-1, 3).astype(np.int32))


@lru_cache(maxsize=16)
def cavity_mesh(piece: Piece) -> Mesh | None:
    """The closed space inside a solid from CAD, at its place, mm; None where there is none."""
    shape = piece.shape
    if not isinstance(shape, MeshBody) or not shape.cavity_faces:
        return None
    faces = np.array(shape.faces[len(shape.faces) - shape.cavity_faces :], dtype=np.int32)
    space = _compact(np.array(shape.vertices_mm, dtype=float), faces)
    if space.volume_mm3 <= 0:
        raise BadShape(f"{piece.name}: its closed space is inside out; import it again")
    return from_manifold(_placed(to_manifold(space, f"the space inside {piece.name}"), piece))


BLANKS: dict[type[Model], Callable[[Any], Mesh]] = {Lofted: loft, Turned: loft, MeshBody: _mesh_of}
"""How each shape that takes cuts becomes a mesh before any."""


@lru_cache(maxsize=64)
def blank_mesh(shape: Lofted | Turned | MeshBody) -> Mesh:
    """The shape before any cut, mm in body axes. Raises BadShape where it is no solid."""
    return BLANKS[type(shape)](shape)


def turning(turned_deg: tuple[float, float, float]) -> Array:
    """(3, 3): about x, then y, then z, right-handed."""
    x, y, z = (np.radians(a) for a in turned_deg)
    about_x = np.array([[1, 0, 0], [0, np.cos(x), -np.sin(x)], [0, np.sin(x), np.cos(x)]])
    about_y = np.array([[np.cos(y), 0, np.sin(y)], [0, 1, 0], [-np.sin(y), 0, np.cos(y)]])
    about_z = np.array([[np.cos(z), -np.sin(z), 0], [np.sin(z), np.cos(z), 0], [0, 0, 1]])
    return np.asarray(about_z @ about_y @ about_x)


def _placed(solid: manifold3d.Manifold, piece: Piece) -> manifold3d.Manifold:
    if piece.turned_deg != (0.0, 0.0, 0.0) or piece.at_mm != (0.0, 0.0, 0.0):
        solid = solid.transform(np.column_stack([turning(piece.turned_deg), np.array(piece.at_mm)]))
    return solid + solid.mirror((0.0, 1.0, 0.0)) if piece.mirrored else solid


def piece_mesh(piece: Piece) -> Mesh:
    """A piece's outer surface with its cuts made, mm in body axes.

    Raises BadShape when nothing or no closed solid is left.
    """
    shape = piece.shape
    if not isinstance(shape, Lofted | Turned | MeshBody):
        return from_manifold(_placed(plate_solid(shape, piece.name), piece))
    blank = blank_mesh(shape)
    if not piece.cuts and piece.as_drawn:
        return blank
    if not piece.cuts and not piece.mirrored and piece.turned_deg == (0.0, 0.0, 0.0):
        return Mesh(blank.vertices + np.array(piece.at_mm), blank.faces)
    solid = to_manifold(blank)
    for cut in piece.cuts:
        solid = cut_from(solid, cut, blank, shape)
        if solid.is_empty():
            raise BadShape(f"the cut '{cut.name}' leaves nothing of {piece.name}; move it or make it smaller")
    return from_manifold(_placed(solid, piece))
