"""Walls that cuts have left too thin: found by looking straight inward from every face."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit

Array = NDArray[np.float64]

LEAST_WALL_MM = {"wood": 1.5, "foam": 3.0, "print": 0.8}
"""A rule, of what chips or cracks in the hand; not a strength."""


@dataclass(frozen=True)
class ThinWall:
    """A place on the surface and how thick the wall is there, mm."""

    at_mm: tuple[float, float, float]
    thick_mm: float


def least_wall_mm(material: str) -> float:
    """The least wall for a material by its name; wood when it is none of foam, cork or print."""
    words = material.lower()
    if "foam" in words or "cork" in words:
        return LEAST_WALL_MM["foam"]
    return LEAST_WALL_MM["print" if "print" in words or "resin" in words else "wood"]


def thin_walls(body: Mesh, blank: Mesh, least_mm: float) -> tuple[ThinWall, ...]:
    """Where the cut body is thinner than `least_mm` and the blank before its cuts was not; thinnest first."""
    if body is blank:
        return ()
    centres, normals = body.corners.mean(axis=1), body.area_vectors / np.maximum(body.areas[:, None], 1e-30)
    found = []
    for centre, normal in zip(centres, normals, strict=True):
        start = centre - 1e-4 * normal
        thick = first_hit(body, start, -normal)
        if thick is None or thick >= least_mm:
            continue
        before = first_hit(blank, start, -normal)
        if before is not None and before > thick + 0.2:
            found.append(ThinWall((float(centre[0]), float(centre[1]), float(centre[2])), float(thick)))
    return tuple(sorted(found, key=lambda wall: wall.thick_mm))
