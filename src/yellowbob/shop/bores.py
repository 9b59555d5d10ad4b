"""The holes of a build, each measured from the nose and the centre line, with the bit for it and the order to drill them
in."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.lines.drill import Hole
from yellowbob.lines.hole_walls import WANDER_DEG, wall_mm
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.walls import least_wall_mm
from yellowbob.shelf.items import Bit
from yellowbob.shelf.shipped import bits
from yellowbob.study import Study, of

ENDS = ("nose", "tail")
CLOSE_MM = 0.3
"""A bit that differs by more from what is drawn changes what goes in; that is said."""


@dataclass(frozen=True)
class Bored:
    """One hole. at_mm: its mouth from the nose; off_mm: from the centre line, to port positive; over_mm: over the axis;
    lean_deg from square to its side; bit: the nearest on hand, "" without one; bit_mm its width.

    both_ends: one bit is too short, so it is bored from both ends to meet, the two off by meets_mm at most. wall_mm: left at
    the least with the bit off by its wander; negative: it can come out.
    """

    name: str
    holds: str
    side: str
    at_mm: float
    off_mm: float
    over_mm: float
    diameter_mm: float
    depth_mm: float
    lean_deg: float
    bit: str
    bit_mm: float
    both_ends: bool
    meets_mm: float
    wall_mm: float
    plug: str
    says: str


def bores(study: Study) -> tuple[Bored, ...]:
    """Every hole in the order that keeps square sides and reference faces longest: from the ends first, then sides, belly,
    back.

    Within a side from the nose on; wide ones last. Walls are those of the first piece's outside.
    """
    found = []
    holes, body, least = of.holes(study), of.outer(study), _least(study)
    for one in holes.bores:
        drilling = one.bore.drilling
        plug = _material(one.bore.filler)
        holds = {"open": "left open", "sealed": "sealed, air in it"}.get(one.bore.fill, f"filled: {plug}")
        found.append(_bored(one.bore.name, one.hole, drilling.side, drilling.lean_deg, holds, plug, body, least))
    for placed in holes.ballast:
        if placed.hole is None or placed.ballast.drilling is None:
            continue
        drilling = placed.ballast.drilling
        plug, words = _material(placed.ballast.plug), placed.ballast.stock or placed.ballast.name
        holds = f"{placed.weight.mass_g:.2f} g, {words}"
        found.append(
            _bored(placed.ballast.name, placed.hole, drilling.side, drilling.lean_deg, holds, plug, body, least)
        )
    return tuple(sorted(found, key=_turn))


def _least(study: Study) -> float:
    return least_wall_mm(study.design.pieces[0].material.group)


def _material(filler: object) -> str:
    return str(getattr(filler, "material", "")) if filler is not None else ""


def _turn(one: Bored) -> tuple[int, float, float]:
    """Ends first, while the blank is square; then sides, belly and back, from the nose on, wide ones last."""
    order = {"nose": 0, "tail": 1, "port": 2, "starboard": 3, "belly": 4, "back": 5}
    return order.get(one.side, 6), round(one.diameter_mm / 4.0), one.at_mm


def _bit_for(wide: float, deep: float, shelf: dict[str, Bit]) -> Bit | None:
    """The nearest in width that is long enough; of those of one width the shortest."""
    long = [b for b in shelf.values() if b.flute_mm >= deep]
    return min(long, key=lambda b: (round(abs(b.diameter_mm - wide), 6), b.flute_mm), default=None)


def _bored(name: str, hole: Hole, side: str, lean: float, holds: str, plug: str, body: Mesh, least: float) -> Bored:
    shelf = bits()
    low, high = body.bounds[:, 0]
    # one from end to end can be bored from both, to meet in the middle
    straight = side in ENDS and abs(lean) < 1e-9 and not low + 1e-6 < float(hole.bottom_mm[0]) < high - 1e-6
    chosen, both = _bit_for(hole.diameter_mm, hole.depth_mm, shelf), False
    if (chosen is None or abs(chosen.diameter_mm - hole.diameter_mm) > CLOSE_MM) and straight:
        half = _bit_for(hole.diameter_mm, hole.depth_mm / 2.0, shelf)
        off = abs(chosen.diameter_mm - hole.diameter_mm) if chosen is not None else math.inf
        if half is not None and abs(half.diameter_mm - hole.diameter_mm) < off:
            chosen, both = half, True
    run = hole.depth_mm / 2.0 if both else hole.depth_mm
    meets = 2.0 * run * math.tan(math.radians(WANDER_DEG)) if both else 0.0
    wall, _ = wall_mm(hole, body, WANDER_DEG)
    x, y, z = hole.mouth_mm
    says = []
    if chosen is None:
        says.append("no bit on hand is long enough")
    elif abs(chosen.diameter_mm - hole.diameter_mm) > 1e-6:
        wider = chosen.diameter_mm - hole.diameter_mm
        share = (chosen.diameter_mm / hole.diameter_mm) ** 2 - 1.0
        says.append(
            f"{abs(wider):.2f} mm {'wider' if wider > 0 else 'narrower'} than drawn, {100 * share:+z.0f} % of its room"
        )
        if wider < -1e-6:
            says.append("what goes in does not fit")
    if wall < 0.0:
        says.append("the bit can come out through the side by its wander")
    elif wall < least:
        says.append(f"wall under {least:g} mm")
    return Bored(
        name, holds, side, x, y, z, hole.diameter_mm, hole.depth_mm, lean, "" if chosen is None else chosen.name,
        0.0 if chosen is None else chosen.diameter_mm, both, meets, wall, plug, "; ".join(says),
    )  # fmt: skip
