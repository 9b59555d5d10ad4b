"""What a spigot off the axis does: how far the float leans, and whether it still flies as it did."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.action.flight import cast
from yellowbob.afloat.line import UP_TIP, under_load
from yellowbob.afloat.rest import rest_near
from yellowbob.design.base import replaced
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.study import Study, of
from yellowbob.study.action import tied_first

OFF_MM = 0.5
"""How far off its axis a piece is tried."""
SPEED_M_S, ANGLE_DEG = 20.0, 35.0


@dataclass(frozen=True)
class Crooked:
    """A piece set off its axis: the lean it makes at the load that hangs on the line, degrees; its range over the straight
    one's; whether it flies with the same end first as before."""

    piece: str
    off_mm: float
    leans_deg: float
    range_share: float
    flies: str
    as_before: bool


def _lean(study: Study) -> float:
    rest = rest_near(under_load(of.unloaded(study), max(of.line_load_g(study), 0.0), of.line_at(study)), UP_TIP)
    return math.degrees(math.acos(max(-1.0, min(1.0, -rest.up[0]))))


def crooked(study: Study, off_mm: float = OFF_MM) -> tuple[Crooked, ...]:
    """Every turned piece on the axis but the body, set off it sideways one at a time; the line stays where it pulls.

    Raises BadInput for an offset that is none.
    """
    if not 0.0 < off_mm <= 20.0:
        raise BadInput(f"{off_mm:g} mm off the axis: give more than 0 and at most 20 mm")
    design, at = study.build, of.line_at(study)
    straight, throw = _lean(study), cast(of.thrown(study), SPEED_M_S, ANGLE_DEG, 2.0, tied_first(study))
    out = []
    for number, piece in enumerate(design.pieces):
        if number == 0 or piece.sleeve or not isinstance(piece.shape, Turned):
            continue
        x, y, z = piece.at_mm
        made = design.with_piece(number, replaced(piece, at_mm=(x, y + off_mm, z)))
        if made.rig is not None and made.rig.at_mm is None:
            made = made.but(rig=replaced(made.rig, at_mm=at))
        try:
            other = Study(made, study)
            lean = _lean(other)
            flown = cast(of.thrown(other), SPEED_M_S, ANGLE_DEG, 2.0, tied_first(other))
        except YellowBobError:
            continue
        share = flown.flight.range_mm / throw.flight.range_mm
        out.append(Crooked(piece.name, off_mm, lean - straight, share, flown.flies, flown.flies == throw.flies))
    return tuple(out)
