"""Edits of pieces that stand on one axis, such as a float's: longer, wider, shifted along it with what joins them."""

from __future__ import annotations

from yellowbob.design.model import Design, Piece, replaced
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput


def turned(piece: Piece) -> Turned:
    """Its shape. Raises BadInput for one that was not turned."""
    if not isinstance(piece.shape, Turned):
        raise BadInput(f"{piece.name} is no turned piece; its place can be varied, its diameter and length not")
    return piece.shape


def wider(design: Design, number: int, factor: float) -> Design:
    """A turned piece so many times as wide."""
    piece = design.pieces[number]
    shape = turned(piece)
    points = tuple(replaced(p, at_mm=(p.at_mm[0], p.at_mm[1] * factor)) for p in shape.profile)
    return design.with_piece(number, replaced(piece, shape=replaced(shape, profile=points)))


def shifted(design: Design, number: int, by_mm: float) -> Design:
    """A piece beside the body moved along the axis."""
    piece = design.pieces[number]
    x, y, z = piece.at_mm
    return design.with_piece(number, replaced(piece, at_mm=(x + by_mm, y, z)))


def longer(design: Design, number: int, factor: float) -> Design:
    """A turned piece so many times as long. Its end nearer to the body stays: a tip grows upward and takes what stands on
    it along; body and stem grow downward and take along what joins below."""
    piece = design.pieces[number]
    shape = turned(piece)
    points = tuple(replaced(p, at_mm=(p.at_mm[0] * factor, p.at_mm[1])) for p in shape.profile)
    made = design.with_piece(number, replaced(piece, shape=replaced(shape, profile=points)))
    top, middle = piece.at_mm[0], piece.at_mm[0] + shape.length_mm / 2.0
    grown = shape.length_mm * (factor - 1.0)
    if top < 0.0:
        above = [n for n, one in enumerate(design.pieces) if n == number or (n > 0 and one.at_mm[0] < top)]
        for other in above:
            made = shifted(made, other, -grown)
        return made
    for other, one in enumerate(design.pieces):
        if other not in (0, number) and one.at_mm[0] > middle:
            made = shifted(made, other, grown)
    return _rig_moved(made, grown, middle)


def _rig_moved(design: Design, by_mm: float, beyond_mm: float) -> Design:
    """What is tied on below a place goes with it: the line, wires and fittings."""
    moved = design
    if design.rig is not None and design.rig.at_mm is not None and design.rig.at_mm[0] >= beyond_mm - 1e-6:
        x, y, z = design.rig.at_mm
        moved = moved.but(rig=replaced(design.rig, at_mm=(x + by_mm, y, z)))
    fittings = tuple(
        replaced(f, at_mm=(f.at_mm[0] + by_mm, f.at_mm[1], f.at_mm[2])) if f.at_mm[0] >= beyond_mm - 1e-6 else f
        for f in design.fittings
    )
    return moved.but(fittings=fittings) if fittings != design.fittings else moved
