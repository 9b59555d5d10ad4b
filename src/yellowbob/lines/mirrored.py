"""Bodies alike to port and starboard: told from their meshes, and made whole again from a half."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]

OTHER_SIDE = np.array([1.0, -1.0, 1.0])
ALIKE_MM = 1e-6
OFF_GRID = 0.318
"""Keeps round figures from the edge between two roundings."""


def _order(places: Array) -> NDArray[np.int64]:
    return np.asarray(np.lexsort(np.round(places / ALIKE_MM / 10.0 + OFF_GRID).T))


def unlike(mesh: Mesh) -> Array | None:
    """(k, 3) middles of the triangles that have no twin on the other side of y = 0, put over there: where they lie on the
    surface too (a flat part divided otherwise), both sides are alike. None where the corners are not."""
    here, there = mesh.vertices, mesh.vertices * OTHER_SIDE
    one, two = _order(here), _order(there)
    if not len(one) or float(np.abs(here[one] - there[two]).max()) > ALIKE_MM:
        return None
    twin = np.empty(len(here), dtype=np.int64)
    twin[two] = one
    count = np.int64(len(here))

    def keys(faces: NDArray[np.signedinteger]) -> NDArray[np.int64]:
        low = np.sort(faces, axis=1).astype(np.int64)
        return np.asarray((low[:, 0] * count + low[:, 1]) * count + low[:, 2])

    lone = ~np.isin(keys(twin[mesh.faces]), keys(mesh.faces))
    return np.asarray(mesh.corners[lone].mean(axis=1) * OTHER_SIDE)


def whole_of(half: Mesh) -> Mesh:
    """A closed body from its half at y ≥ 0, cut off square at y = 0: the cut goes, and the rest is there twice."""
    vertices = half.vertices.copy()
    seam = np.abs(vertices[:, 1]) < ALIKE_MM
    vertices[seam, 1] = 0.0
    skin = half.faces[~seam[half.faces].all(axis=1)]
    twin = np.arange(len(vertices)) + len(vertices)
    twin[seam] = np.flatnonzero(seam)
    faces = np.concatenate([skin, twin[skin][:, ::-1]])
    used, faces = np.unique(faces, return_inverse=True)
    places = np.concatenate([vertices, vertices * OTHER_SIDE])[used]
    return Mesh(places, faces.reshape(-1, 3).astype(np.int32))
