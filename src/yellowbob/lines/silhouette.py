"""Outlines of a solid seen from one side, for drawings and templates."""

from __future__ import annotations

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import to_manifold

Array = NDArray[np.float64]

VIEWS = {"side": (0, 2), "plan": (0, 1), "tail": (1, 2)}
"""Body axes across and up the paper."""


def silhouette(mesh: Mesh, view: str) -> list[Array]:
    """Closed outlines (k, 2) mm of the mesh's shadow along the axis that the view leaves out.

    Exact for the mesh: the union of its triangles' shadows, from manifold3d's projection.
    """
    across, up = VIEWS[view]
    hidden = ({0, 1, 2} - {across, up}).pop()
    matrix = np.zeros((3, 4))
    matrix[0, across] = matrix[1, up] = matrix[2, hidden] = 1.0
    if np.linalg.det(matrix[:, :3]) < 0:
        matrix[2, hidden] = -1.0
    section: manifold3d.CrossSection = to_manifold(mesh).transform(matrix).project()
    return [np.asarray(loop, dtype=float) for loop in section.simplify(1e-3).to_polygons()]
