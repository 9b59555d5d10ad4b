"""Drilled holes: where the bit enters, where it ends, and the solid it takes away."""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Drilling
from yellowbob.ground.errors import BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit
from yellowbob.lines.solids import common, from_manifold, rod

Array = NDArray[np.float64]

_INWARD = {
    "belly": (0.0, 0.0, 1.0),
    "back": (0.0, 0.0, -1.0),
    "nose": (1.0, 0.0, 0.0),
    "tail": (-1.0, 0.0, 0.0),
    "port": (0.0, 1.0, 0.0),
    "starboard": (0.0, -1.0, 0.0),
}
FREE_AXES = {"belly": (0, 1), "back": (0, 1), "nose": (1, 2), "tail": (1, 2), "port": (0, 2), "starboard": (0, 2)}
"""Which body axes a drilling's `place_mm` gives, by the side it enters from."""


@dataclass(frozen=True)
class Hole:
    """A hole as drilled: mouth on the surface, unit direction inward, mm."""

    mouth_mm: tuple[float, float, float]
    inward: tuple[float, float, float]
    diameter_mm: float
    depth_mm: float

    def at_depth(self, depth_mm: float) -> Array:
        """The place on the hole's axis so deep below the mouth."""
        return np.asarray(self.mouth_mm) + np.asarray(self.inward) * depth_mm

    @property
    def bottom_mm(self) -> Array:
        """(3,) the place on the hole's axis at its bottom, body axes, mm."""
        return self.at_depth(self.depth_mm)


def place_hole(drilling: Drilling, body: Mesh, name: str) -> Hole:
    """Find where a drilling enters the body. Raises BadShape when the bit would miss it."""
    inward = np.array(_INWARD[drilling.side])
    axes = FREE_AXES[drilling.side]
    through = np.zeros(3)
    through[list(axes)] = drilling.place_mm
    low, high = body.bounds
    start = through + 0.0
    fixed = ({0, 1, 2} - set(axes)).pop()
    start[fixed] = low[fixed] - 1.0 if inward[fixed] > 0 else high[fixed] + 1.0
    reach = first_hit(body, start, inward)
    if reach is None:
        words = " and ".join(f"{'xyz'[a]} = {v:.1f} mm" for a, v in zip(axes, drilling.place_mm, strict=True))
        raise BadShape(f"{name}: the hole from the {drilling.side} at {words} misses the body; move it onto the body")
    mouth = start + inward * reach
    lean = np.radians(drilling.lean_deg)
    sideways = np.array([0.0, 0.0, 1.0]) if drilling.side in ("nose", "tail") else np.array([1.0, 0.0, 0.0])
    direction = np.cos(lean) * inward + np.sin(lean) * sideways
    return Hole(
        (float(mouth[0]), float(mouth[1]), float(mouth[2])),
        (float(direction[0]), float(direction[1]), float(direction[2])),
        drilling.diameter_mm,
        drilling.depth_mm,
    )


def bit(hole: Hole, end_mm: float | None = None) -> manifold3d.Manifold:
    """The bit's own cylinder, from well outside the mouth to a depth; to the bottom by default."""
    start = -(2.0 * hole.diameter_mm + 3.0)
    end = hole.depth_mm if end_mm is None else end_mm
    return rod(hole.at_depth(start), hole.at_depth(end), hole.diameter_mm)


def bit_solid(hole: Hole, end_mm: float | None = None) -> Mesh:
    """The same as a mesh."""
    return from_manifold(bit(hole, end_mm))


def drilled_out(hole: Hole, body: Mesh) -> Mesh:
    """The wood that the hole takes away: the bit's cylinder where it is inside the body."""
    return common(bit(hole), body)
