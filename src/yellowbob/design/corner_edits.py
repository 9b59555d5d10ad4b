"""Corners of plates, edited by hand: a fin's outline, a lip's own plan, a pair of wings; and the free end of a turned piece.

A corner is seen in one of three views: `back` (side: x aft, z up), `plan` (x aft, y to starboard) or `lip` (the plate's
own plane: along from the slot, half-width).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Literal

from yellowbob.design.model import Design, Piece, replaced
from yellowbob.design.plates import Cutout, Fin, Lip, Wings
from yellowbob.design.shape import Turned
from yellowbob.design.stack_edits import longer

CornerView = Literal["back", "plan", "lip"]
LEAST_MM = 0.5
"""Shortest chord, span or step between two corners."""


@dataclass(frozen=True)
class Corner:
    """One corner of a part: the part's number, the corner's, the view it is dragged in and its place there, mm."""

    part: int
    index: int
    view: CornerView
    at_mm: tuple[float, float]


def corners(design: Design) -> list[Corner]:
    """Every corner that can be dragged; those of a piece that was turned are set by figures."""
    found = []
    for number, piece in enumerate(design.parts):
        if piece.turned_deg != (0.0, 0.0, 0.0):
            continue
        view, places = _places(piece.shape)
        if isinstance(piece.shape, Turned):
            places = [(_free_end(piece, piece.shape), 0.0)]
        dx, dy = _shift(piece, view)
        found += [Corner(number, i, view, (x + dx, y + dy)) for i, (x, y) in enumerate(places)]
    return found


def said_of(design: Design, corner: Corner) -> str:
    """What a corner is called."""
    return "length" if isinstance(design.parts[corner.part].shape, Turned) else "corner"


def _free_end(piece: Piece, shape: Turned) -> float:
    """Where along itself a turned piece ends away from the body: by it a tip or a stem is made longer."""
    return 0.0 if piece.at_mm[0] < 0.0 else shape.length_mm


def _shift(piece: Piece, view: CornerView) -> tuple[float, float]:
    """What a piece's own place adds to its shape's corners in a view."""
    x, y, z = piece.at_mm
    return {"back": (x, z), "plan": (x, y), "lip": (0.0, 0.0)}[view]


def _places(shape: Any) -> tuple[CornerView, list[tuple[float, float]]]:
    if isinstance(shape, Fin | Cutout):
        return "back", list(shape.corners_mm)
    if isinstance(shape, Lip) and shape.plan == "own":
        grown = shape.long_mm / max(shape.own[-1][0], 1e-9)
        return "lip", [(x * grown, half) for x, half in shape.own]
    if isinstance(shape, Wings):
        out = shape.span_mm * math.cos(math.radians(shape.raise_deg))
        sweep = shape.span_mm * math.tan(math.radians(shape.sweep_deg))
        x, y = shape.x_mm, shape.y_mm
        return "plan", [(x + shape.root_mm, y), (x + sweep, y + out), (x + sweep + shape.tip_mm, y + out)]
    return "back", []


def moved_corner(design: Design, corner: Corner, x_mm: float, y_mm: float) -> Design:
    """The design with a corner at (x, y) of its view; what would turn the plate inside out is held back."""
    piece = design.parts[corner.part]
    shape = piece.shape
    dx, dy = _shift(piece, corner.view)
    x, y = x_mm - dx, y_mm - dy
    if isinstance(shape, Turned):
        long = x if _free_end(piece, shape) > 0.0 else shape.length_mm - x
        return longer(design, corner.part + 1, max(long, LEAST_MM) / shape.length_mm)
    if isinstance(shape, Fin | Cutout):
        places = list(shape.corners_mm)
        places[corner.index] = (x, y)
        return _with_shape(design, corner.part, replaced(shape, corners_mm=tuple(places)))
    if isinstance(shape, Lip):
        return _with_shape(design, corner.part, _moved_lip(shape, corner.index, x, y))
    if isinstance(shape, Wings):
        return _with_shape(design, corner.part, _moved_wing(shape, corner.index, x, y))
    return design


def _moved_lip(lip: Lip, index: int, along: float, half: float) -> Lip:
    own = _places(lip)[1]
    last = len(own) - 1
    low = own[index - 1][0] + LEAST_MM if index > 0 else 0.0
    high = own[index + 1][0] - LEAST_MM if index < last else along
    own[index] = (0.0 if index == 0 else max(low, min(along, high)), max(0.0, half))
    wide = 2 * max(half for _, half in own)
    return replaced(lip, own=tuple(own), long_mm=max(own[-1][0], LEAST_MM), wide_mm=max(wide, LEAST_MM))


def _moved_wing(wings: Wings, index: int, x: float, y: float) -> Wings:
    _, (_, lead, _) = _places(wings)
    if index == 0:
        return replaced(wings, root_mm=max(LEAST_MM, x - wings.x_mm))
    if index == 2:
        return replaced(wings, tip_mm=max(LEAST_MM, x - lead[0]))
    span = max(LEAST_MM, (y - wings.y_mm) / math.cos(math.radians(wings.raise_deg)))
    sweep = math.degrees(math.atan2(x - wings.x_mm, span))
    return replaced(wings, span_mm=span, sweep_deg=max(-80.0, min(80.0, sweep)))


def added_corner(design: Design, corner: Corner) -> tuple[Design, Corner] | None:
    """A corner more, half-way to the next one; None for wings, which have just three."""
    piece = design.parts[corner.part]
    shape = piece.shape
    if isinstance(shape, Wings | Turned):
        return None
    view, places = _places(shape)
    around = isinstance(shape, Fin | Cutout)
    at = corner.index if around else min(corner.index, len(places) - 2)
    follow = places[(at + 1) % len(places)]
    middle = ((places[at][0] + follow[0]) / 2, (places[at][1] + follow[1]) / 2)
    places.insert(at + 1, middle)
    new = _with_shape(design, corner.part, replaced(shape, **{"corners_mm" if around else "own": tuple(places)}))
    dx, dy = _shift(piece, view)
    return new, Corner(corner.part, at + 1, view, (middle[0] + dx, middle[1] + dy))


def without_corner(design: Design, corner: Corner) -> Design:
    """A corner less; the last three of an outline and the last two of a lip stay, and so do those of wings."""
    shape = design.parts[corner.part].shape
    _, places = _places(shape)
    field, least = ("corners_mm", 3) if isinstance(shape, Fin | Cutout) else ("own", 2)
    if isinstance(shape, Wings | Turned) or len(places) <= least:
        return design
    del places[corner.index]
    changes: dict[str, Any] = {field: tuple(places)}
    if isinstance(shape, Lip):
        changes["long_mm"] = places[-1][0]
    return _with_shape(design, corner.part, replaced(shape, **changes))


def own_plan(lip: Lip, plan: list[tuple[float, float]]) -> Lip:
    """The lip with an own plan that starts from the (along, half-width) points of the one it has."""
    points = [plan[0]]
    for point in plan[1:]:
        if point[0] > points[-1][0] + LEAST_MM:
            points.append(point)
    return replaced(lip, plan="own", own=tuple((max(0.0, x), max(0.0, half)) for x, half in points))


def _with_shape(design: Design, number: int, shape: Any) -> Design:
    return design.with_piece(number + 1, replaced(design.parts[number], shape=shape))
