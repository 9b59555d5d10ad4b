"""Hollow prints: the space inside a wall, above the split line.

The body is sliced across its length; a slice of the hollow at x is what is left when every slice within the wall's
reach is shrunk by what the wall leaves of it, √(wall² - t²) at a distance t along x. That is the erosion of the solid by a
ball of the wall's radius, slice by slice.
"""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Shell
from yellowbob.ground.errors import BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, to_manifold

Array = NDArray[np.float64]

SLICES = 100
REACH_STEPS = 3
_TO_SLICE = np.array([[0.0, 1.0, 0, 0], [0, 0, 1.0, 0], [1.0, 0, 0, 0]])
"""The body's (x, y, z) become (z, x, y): slices are taken along its length."""
_FROM_SLICE = np.array([[0.0, 0, 1.0, 0], [1.0, 0, 0, 0], [0, 1.0, 0, 0]])


@dataclass(frozen=True, eq=False)
class Hollow:
    """The hollow as slabs along the body: its closed surface, mm."""

    mesh: Mesh
    volume_mm3: float


def hollow_of(outer: Mesh, shell: Shell) -> Hollow:
    """The hollow that a shell leaves in a body. Raises BadShape when the wall leaves none."""
    solid = to_manifold(outer).transform(_TO_SLICE)
    low, high = float(outer.bounds[0, 0]), float(outer.bounds[1, 0])
    step = (high - low) / SLICES
    middles = low + (np.arange(SLICES) + 0.5) * step
    slices = [solid.slice(float(x)) for x in middles]
    split_x, split_z = np.array(shell.split_mm, dtype=float).T
    reach = max(1, int(np.ceil(shell.wall_mm / step)))
    offsets = np.unique(np.round(np.linspace(-reach, reach, 2 * min(reach, REACH_STEPS) + 1)).astype(int))
    wide = float(np.abs(outer.bounds).max()) * 4 + 100.0
    slabs = []
    for number, x in enumerate(middles):
        if x - low < shell.wall_mm or high - x < shell.wall_mm:
            continue
        found: manifold3d.CrossSection | None = None
        for offset in offsets:
            beside = number + int(offset)
            away = abs(offset) * step
            if not 0 <= beside < SLICES or away > shell.wall_mm:
                continue
            shrunk = slices[beside].offset(-float(np.sqrt(shell.wall_mm**2 - away**2)), manifold3d.JoinType.Round)
            found = shrunk if found is None else found ^ shrunk
        if found is None:
            continue
        floor = float(np.interp(x, split_x, split_z))
        above = manifold3d.CrossSection.square((wide, wide)).translate((-wide / 2, floor))
        found = (found ^ above).simplify(0.01)
        if found.is_empty():
            continue
        # neighbours overlap by a hair, so that the slabs join into one solid
        slabs.append(found.extrude(step * 1.001).translate((0.0, 0.0, float(x) - step / 2)))
    if not slabs:
        raise BadShape("the wall leaves no hollow above the split line; make the wall thinner or lower the line")
    joined = manifold3d.Manifold.batch_boolean(slabs, manifold3d.OpType.Add).transform(_FROM_SLICE)
    mesh = from_manifold(joined)
    return Hollow(mesh, mesh.volume_mm3)
