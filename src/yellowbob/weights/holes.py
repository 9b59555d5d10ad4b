"""Every hole of a piece drilled in turn, in the room that what was made before has left."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from yellowbob.design.model import Ballast, Bore
from yellowbob.lines.drill import Hole, bit, bit_solid, place_hole
from yellowbob.lines.mesh import Mesh
from yellowbob.weights.ballast import PlacedBallast, cast_in, cast_solid, put_in
from yellowbob.weights.carving import Block, Cut, Stretch, taken_by
from yellowbob.weights.mass import MassProperties, of_solid


@dataclass(frozen=True, eq=False)
class DrilledBore:
    """A bore as drilled: the hole, its room, the material it took (at 1 g/mL), and the part that water can enter."""

    bore: Bore
    hole: Hole
    region: Mesh
    gone: MassProperties
    void: Mesh | None

    @property
    def filling(self) -> MassProperties | None:
        """What fills it; None for a bore that is left open or sealed with air in it."""
        filler = self.bore.filler
        return None if filler is None else of_solid(self.region, filler.density_g_ml)


@dataclass(frozen=True, eq=False)
class Holes:
    """The bores and ballast of one piece, or of all pieces together, in place."""

    bores: tuple[DrilledBore, ...] = ()
    ballast: tuple[PlacedBallast, ...] = ()

    @property
    def voids(self) -> list[Mesh]:
        """Hollows that fill with water."""
        found = [b.void for b in self.bores] + [b.void for b in self.ballast]
        return [v for v in found if v is not None]


def bit_stretch(hole: Hole) -> Stretch:
    """The stretch a hole lies along, mm."""
    return Stretch(np.asarray(hole.mouth_mm, dtype=float), hole.bottom_mm, hole.diameter_mm / 2.0)


def _drilled(hole: Hole, block: Block) -> tuple[Cut, Block]:
    cut = taken_by(bit(hole), block, (bit_stretch(hole),))
    return cut, block.less(cut.region)


def drill_all(block: Block, bores: tuple[Bore, ...], ballast: tuple[Ballast, ...]) -> Holes:
    """Drill a piece's bores, then its ballast holes, then cast in what has none.

    Raises BadShape when a bit would miss the piece. Ballast keeps the order it is listed in.
    """
    drilled = []
    for bore in bores:
        hole = place_hole(bore.drilling, block.outer, bore.name)
        cut, block = _drilled(hole, block)
        void = bit_solid(hole) if bore.fill == "open" else None
        drilled.append(DrilledBore(bore, hole, cut.region.solid, cut.gone, void))
    placed: dict[int, PlacedBallast] = {}
    for number, one in enumerate(ballast):
        if one.drilling is not None:
            hole = place_hole(one.drilling, block.outer, one.name)
            cut, block = _drilled(hole, block)
            placed[number] = put_in(one, hole, cut)
    for number, one in enumerate(ballast):
        if one.drilling is None:
            cut = taken_by(cast_solid(one), block)
            placed[number] = cast_in(one, cut.gone)
            block = block.less(cut.region)
    return Holes(tuple(drilled), tuple(placed[k] for k in range(len(ballast))))
