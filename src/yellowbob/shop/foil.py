"""A side unrolled for foil: half the girth from back to belly at each place along the skin, laid flat."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import crossings
from yellowbob.lines.solids import to_manifold
from yellowbob.study import Study, of

Array = NDArray[np.float64]

PLACES = 60
END_SHARE = 0.01
"""The very ends are left out by so much of the length: foil does not lie there in one piece."""
STEEPEST = 8.0


@dataclass(frozen=True, eq=False)
class Foil:
    """A pattern for one side, flat: outline (n, 2) mm, along the skin at half height from its front, up from the middle line.

    stretch: by how much more than flat the foil must give, at the most (a share); it is slit where it does not.
    """

    outline: Array
    long_mm: float
    high_mm: float
    stretch: float


def half_girths(mesh: Mesh, x: Array) -> Array:
    """Half the outer girth of a body at each place, mm: of the section's outermost loop (exact for the mesh)."""
    turned = to_manifold(mesh).rotate((0.0, -90.0, 0.0))
    found = []
    for at in x:
        loops = turned.slice(float(at)).to_polygons()
        longest = max(
            (float(np.linalg.norm(np.diff(np.vstack([p, p[:1]]), axis=0), axis=1).sum()) for p in loops), default=0.0
        )
        found.append(longest / 2.0)
    return np.array(found)


def foil_of(study: Study) -> Foil:
    """The pattern of one side of the bare body."""
    mesh = of.outer(study)
    low, high = (float(v) for v in mesh.bounds[:, 0])
    skip = END_SHARE * (high - low)
    x = np.linspace(low + skip, high - skip, PLACES)
    girth = half_girths(mesh, x)
    out = np.array([_beam(mesh, at) for at in x])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(x), np.clip(np.diff(out), -STEEPEST, STEEPEST)))])
    edge = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(along), np.diff(girth) / 2.0))])
    outline = np.concatenate([np.stack([along, girth / 2.0], 1), np.stack([along, -girth / 2.0], 1)[::-1]])
    return Foil(outline, float(along[-1]), float(girth.max()), float(edge[-1] / max(along[-1], 1e-9) - 1.0))


def _beam(mesh: Mesh, x: float) -> float:
    """Half width at the height of the axis, mm; 0 where the axis is outside."""
    hits = crossings(mesh, np.array([x, 0.0, 0.0]), np.array([0.0, 1.0, 0.0]))
    ahead = hits[hits > 0.0]
    return float(ahead.max()) if len(ahead) else 0.0
