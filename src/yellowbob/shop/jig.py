"""Drill jigs: saddles that sit on the body at a hole's mouth and hold the bit at its angle; solids to print."""

from __future__ import annotations

import manifold3d
import numpy as np

from yellowbob.ground.errors import BadShape
from yellowbob.lines.drill import Hole
from yellowbob.lines.mesh import Mesh, grown
from yellowbob.lines.solids import frame_along, from_manifold, rod, to_manifold
from yellowbob.shop.bores import Bored, bores
from yellowbob.study import Study, of

SADDLE_MM, GUIDE_MM, SINK_MM = 26.0, 14.0, 7.0
"""How wide a saddle is, how far it guides the bit over the mouth, how far it comes down beside it."""
PLAY_MM = 0.15


def jigs(study: Study) -> list[tuple[str, Mesh]]:
    """A saddle for each hole, by its name. Raises BadShape for a design without holes, or where none can sit."""
    listed = {one.name: one for one in bores(study)}
    holes: list[tuple[str, Hole]] = [(b.bore.name, b.hole) for b in of.holes(study).bores]
    holes += [(p.ballast.name, p.hole) for p in of.holes(study).ballast if p.hole is not None]
    if not holes:
        raise BadShape("the design has no holes: there is nothing to guide")
    body = to_manifold(grown(of.outer(study), PLAY_MM))
    return [(name, _saddle(hole, listed[name], body)) for name, hole in holes]


def _saddle(hole: Hole, listed: Bored, body: manifold3d.Manifold) -> Mesh:
    """A block square to the hole about its mouth, less the body and the bit."""
    mouth, inward = np.asarray(hole.mouth_mm), np.asarray(hole.inward)
    frame = frame_along(-inward)
    block = manifold3d.Manifold.cube((SADDLE_MM, SADDLE_MM, GUIDE_MM + SINK_MM)).translate(
        (-SADDLE_MM / 2, -SADDLE_MM / 2, -SINK_MM)
    )
    block = block.transform(np.column_stack([frame, mouth]))
    wide = (listed.bit_mm or hole.diameter_mm) + 2 * PLAY_MM
    left = block - body - rod(mouth - inward * (GUIDE_MM + 1.0), mouth + inward * (SINK_MM + 1.0), wide)
    pieces = sorted(left.decompose(), key=lambda p: -p.volume())
    if not pieces:
        raise BadShape(f"{listed.name}: no saddle can sit there")
    return from_manifold(pieces[0])
