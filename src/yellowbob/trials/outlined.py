"""A design in outlines of its maker's own: what is fitted keeps its place along the body and on its skin."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from yellowbob.design.base import replaced
from yellowbob.design.cuts import Cup, Cut
from yellowbob.design.model import Design, Piece
from yellowbob.design.rescale import rescaled
from yellowbob.design.shape import Lofted, MeshBody, Turned
from yellowbob.design.starts import bare_design
from yellowbob.lines.sections import sections_at

Point = tuple[float, float, float]
Outlines = Lofted | Turned
FLAT_MM = 0.5
"""A body lower than this has no inside that a place could keep its share of."""
RIM_SHARE = 0.9
"""A cup's rim is at most this share of the body's height, and of its width, where it is cut."""


def in_outline(design: Design, shape: Outlines) -> Design:
    """The design with a body of other outlines, brought to its length: fittings, wires, cuts and plates keep how far along
    they lie and their share of the body's height and width there, or how far off its skin they are. A cup that the body has
    no room for is made smaller; where it comes to a point there, it goes."""
    old = design.shape
    if isinstance(old, MeshBody):
        return design
    long = old.length_mm
    new = rescaled(bare_design("outlines", shape), long / shape.length_mm).shape
    assert isinstance(new, Lofted | Turned)
    move = _mover(old, new, long)
    cuts = tuple(c for cut in design.body.cuts if (c := _cut(cut, move, old, new)) is not None)
    body = replaced(design.body, shape=new, cuts=cuts)
    return design.but(
        pieces=(body, *(_plate(p, move) for p in design.parts)),
        fittings=tuple(replaced(f, at_mm=move(f.at_mm)) for f in design.fittings),
        wires=tuple(replaced(w, path_mm=tuple(move(p) for p in w.path_mm)) for w in design.wires),
    )


def _room(shape: Outlines, x: float) -> tuple[float, float, float]:
    """Lowest and highest z, and half-width, mm, at a place along."""
    found = sections_at(shape, np.array([x]))
    waist = float(found.waist_z[0])
    return waist - float(found.down[0]), waist + float(found.up[0]), float(found.half_width[0])


def _mover(old: Outlines, new: Outlines, long: float) -> Callable[[Point], Point]:
    def move(at: Point) -> Point:
        x, y, z = at
        along = min(max(x, 0.0), long)
        low, high, half = _room(old, along)
        low_new, high_new, half_new = _room(new, along)
        if high - low < FLAT_MM:
            z_new = (low_new + high_new) / 2.0 + z - (low + high) / 2.0
        elif z > high:
            z_new = high_new + z - high
        elif z < low:
            z_new = low_new + z - low
        else:
            z_new = low_new + (z - low) / (high - low) * (high_new - low_new)
        side = abs(y)
        if half >= FLAT_MM / 2.0:
            side = half_new + side - half if side > half else side / half * half_new
        return x, round(float(np.copysign(side, y)), 3), round(z_new, 3)

    return move


def _cut(cut: Cut, move: Callable[[Point], Point], old: Outlines, new: Outlines) -> Cut | None:
    """A cut where it belongs on the new body; None where that leaves it nothing to be cut into."""
    x = cut.rim_x_mm if isinstance(cut, Cup) else cut.x_mm
    moved = replaced(cut, z_mm=move((x, 0.0, cut.z_mm))[2])
    if not isinstance(cut, Cup) or not isinstance(moved, Cup):
        return moved
    along = min(max(x, 0.0), new.length_mm)
    (low, high, half), (low_old, high_old, half_old) = _room(new, along), _room(old, along)
    if min(high - low, 2.0 * half) < FLAT_MM or min(high_old - low_old, 2.0 * half_old) < FLAT_MM:
        return None
    by = min(
        RIM_SHARE * (high - low) / cut.diameter_mm, RIM_SHARE * 2.0 * half / (cut.width_mm or cut.diameter_mm), 1.0
    )
    if by >= 1.0:
        return moved
    width = None if cut.width_mm is None else round(cut.width_mm * by, 2)
    return replaced(
        moved, diameter_mm=round(cut.diameter_mm * by, 2), width_mm=width, depth_mm=round(cut.depth_mm * by, 2),
        pool_mm=round(cut.pool_mm * by, 3),
    )  # fmt: skip


def _plate(piece: Piece, move: Callable[[Point], Point]) -> Piece:
    """A lip, wings, a fin or a tail at the like place."""
    shape = piece.shape
    fields = {name: getattr(shape, name) for name in ("x_mm", "y_mm", "z_mm") if hasattr(shape, name)}
    if "x_mm" not in fields or "z_mm" not in fields:
        return piece
    _, y, z = move((fields["x_mm"], fields.get("y_mm", 0.0), fields["z_mm"]))
    new = {"z_mm": z} | ({"y_mm": y} if "y_mm" in fields else {})
    return replaced(piece, shape=replaced(shape, **new))
