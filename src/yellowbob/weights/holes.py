"""Every hole of a design drilled in turn, so that wood shared by two holes is taken away once."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.design.model import Ballast, Bore
from yellowbob.lines.drill import Hole, bit_solid, drilled_out, place_hole
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import common, overlap, subtract, to_manifold
from yellowbob.weights.ballast import PlacedBallast, place_ballast


@dataclass(frozen=True, eq=False)
class DrilledBore:
    """A bore as drilled: the hole, the wood it took, and the part that water can enter."""

    bore: Bore
    hole: Hole
    removed: Mesh
    void: Mesh | None


@dataclass(frozen=True, eq=False)
class Holes:
    """All bores and ballast of a build, in place."""

    bores: tuple[DrilledBore, ...]
    ballast: tuple[PlacedBallast, ...]
    seats: tuple[Mesh, ...] = ()
    """wood that parts set into the body have displaced"""

    @property
    def voids(self) -> list[Mesh]:
        """Hollows that fill with water."""
        found = [b.void for b in self.bores] + [b.void for b in self.ballast]
        return [v for v in found if v is not None]


def seat_all(body: Mesh, parts: tuple[Mesh, ...]) -> tuple[Mesh, ...]:
    """The wood that each part set into the body displaces; none for parts that stand clear of it."""
    seats = (common(to_manifold(part), body) for part in parts)
    return tuple(seat for seat in seats if len(seat.faces))


def drill_all(body: Mesh, bores: tuple[Bore, ...], ballast: tuple[Ballast, ...], seats: tuple[Mesh, ...] = ()) -> Holes:
    """Drill bores, then ballast holes, beside the seats of parts. Raises BadShape when a bit would miss the body."""
    earlier: list[Mesh] = list(seats)

    def taken(hole: Hole) -> Mesh:
        solid = drilled_out(hole, body)
        in_the_way = [m for m in earlier if len(m.faces) and len(solid.faces) and overlap(m, solid)]
        solid = subtract(solid, in_the_way)
        earlier.append(solid)
        return solid

    drilled = []
    for bore in bores:
        hole = place_hole(bore.drilling, body, bore.name)
        drilled.append(DrilledBore(bore, hole, taken(hole), bit_solid(hole) if bore.fill == "open" else None))
    placed = []
    for one in ballast:
        if one.drilling is None:
            placed.append(place_ballast(one, None, None))
        else:
            hole = place_hole(one.drilling, body, one.name)
            placed.append(place_ballast(one, hole, taken(hole)))
    return Holes(tuple(drilled), tuple(placed), seats)
