"""Hardware in the water: the small volumes beside the hull that push water aside when they are under."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Fitting
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, to_manifold
from yellowbob.weights.wires import Routed, Run


@dataclass(frozen=True)
class PointVolume:
    """A small volume beside the hull: place mm, volume mm³, and the water heights over it from dry to wet, mm."""

    at_mm: tuple[float, float, float]
    volume_mm3: float
    dry_mm: float
    wet_mm: float


def wet_point(fitting: Fitting) -> PointVolume | None:
    """The water that a fitting pushes aside, acting at its place; None for one that displaces nothing.

    A hanging fitting is taken as a thin thing hanging straight down from its eye: dry when the eye is its reach above
    the water, wet when the eye goes under. A rigid one is a ball of its volume.
    """
    volume = fitting.volume_ml * 1000.0
    if volume <= 0.0:
        return None
    if fitting.hanging:
        return PointVolume(fitting.at_mm, volume, -max(fitting.reach_mm, 1e-3), 0.0)
    radius = (3.0 * volume / (4.0 * math.pi)) ** (1.0 / 3.0)
    return PointVolume(fitting.at_mm, volume, -radius, radius)


def wet_run(run: Run, diameter_mm: float) -> PointVolume | None:
    """The water that a stretch of wire outside the body pushes aside, as a ball at its middle; None inside the wood."""
    volume = math.pi / 4.0 * diameter_mm**2 * run.length_mm
    if run.inside or volume <= 0.0:
        return None
    x, y, z = (float(c) for c in (run.start_mm + run.end_mm) / 2)
    radius = max((3.0 * volume / (4.0 * math.pi)) ** (1.0 / 3.0), diameter_mm / 2)
    return PointVolume((x, y, z), volume, -radius, radius)


def wet_parts(wire: Routed) -> list[PointVolume]:
    """What of a wire lies out of the body, as balls: its runs, or where it lies half in the wood its parts as they are."""
    if wire.aside is None:
        return [p for run in wire.runs if (p := wet_run(run, wire.wire.diameter_mm)) is not None]
    return [_ball(part.mass_g * 1000.0, part.centre_mm) for part in wire.aside]


def _ball(volume_mm3: float, centre_mm: NDArray[np.float64]) -> PointVolume:
    radius = (3.0 * volume_mm3 / (4.0 * math.pi)) ** (1.0 / 3.0)
    x, y, z = (float(c) for c in centre_mm)
    return PointVolume((x, y, z), volume_mm3, -radius, radius)


CELLS_ALONG, CELLS_HIGH = 16, 3
"""Into how many cells a flooded hollow is divided for what its infill pushes aside."""


def wet_infill(hollow: Mesh, share: float) -> list[PointVolume]:
    """The water that the infill of a flooded hollow pushes aside: `share` of each of its cells, as balls at their middles."""
    if share <= 0.0:
        return []
    found = []
    for slab in _cells(to_manifold(hollow), 0, CELLS_ALONG):
        for cell in _cells(slab, 2, CELLS_HIGH):
            moments = from_manifold(cell).moments
            whole = _ball(moments.volume_mm3, np.asarray(moments.centroid_mm))
            found.append(replace(whole, volume_mm3=share * whole.volume_mm3))
    return found


def _cells(solid: manifold3d.Manifold, axis: int, count: int) -> list[manifold3d.Manifold]:
    """A solid sliced square to an axis into pieces of equal thickness."""
    box = solid.bounding_box()
    low, high = float(box[axis]), float(box[axis + 3])
    normal = tuple(float(k == axis) for k in range(3))
    found = []
    for k in range(1, count):
        rest, cell = solid.split_by_plane(normal, low + (high - low) * k / count)
        found.append(cell)
        solid = rest
    return [cell for cell in (*found, solid) if cell.volume() > 1e-9]
