"""Walls that cuts have left too thin: found by looking straight inward from every face."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.pieces import Group
from yellowbob.ground.progress import go_on
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit, first_strike

Array = NDArray[np.float64]

LEAST_WALL_MM: dict[Group, float] = {"wood": 1.5, "foam": 3.0, "resin": 0.8, "plastic": 0.8, "metal": 0.4}
"""By the material's shelf group. A rule, of what chips or cracks in the hand; not a strength."""


BACK_TO_BACK = -0.7
"""Cosine between the normals of a wall's two faces, at most."""


@dataclass(frozen=True)
class ThinWall:
    """A place on the surface and how thick the wall is there, mm."""

    at_mm: tuple[float, float, float]
    thick_mm: float


def least_wall_mm(group: Group) -> float:
    """The least wall for a material of a shelf group, mm."""
    return LEAST_WALL_MM[group]


def _touched(body: Mesh, blank: Mesh) -> NDArray[np.intp]:
    """Faces of the cut body with a corner that the blank has not: the cuts' own and those beside them."""
    old = {tuple(v) for v in np.round(blank.vertices, 7).tolist()}
    new = np.array([tuple(v) not in old for v in np.round(body.vertices, 7).tolist()])
    return np.flatnonzero(new[body.faces].any(axis=1))


def thin_walls(body: Mesh, blank: Mesh, least_mm: float) -> tuple[ThinWall, ...]:
    """Where the cut body is thinner than `least_mm` and the blank before its cuts was not; thinnest first."""
    if body is blank:
        return ()
    touched = _touched(body, blank)
    centres = body.corners[touched].mean(axis=1)
    normals = body.area_vectors[touched] / np.maximum(body.areas[touched, None], 1e-30)
    found = []
    for centre, normal in zip(centres, normals, strict=True):
        go_on()
        start = centre - 1e-4 * normal
        struck = first_strike(body, start, -normal)
        # a wall has two faces back to back; where they meet at an edge there is a corner and no wall
        if struck is None or struck[0] >= least_mm or float(struck[1] @ normal) > BACK_TO_BACK:
            continue
        thick = struck[0]
        behind, ahead = first_hit(blank, start, -normal), first_hit(blank, start, normal)
        if behind is not None and ahead is not None and behind + ahead > thick + 0.2:
            found.append(ThinWall((float(centre[0]), float(centre[1]), float(centre[2])), float(thick)))
    return tuple(sorted(found, key=lambda wall: wall.thick_mm))
