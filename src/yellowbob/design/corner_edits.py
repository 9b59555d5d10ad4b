"""Corners of plates, edited by hand: a fin's outline, a lip's own plan, a pair of wings.

A corner is seen in one of three views: `back` (side: x aft, z up), `plan` (x aft, y to starboard) or `lip` (the plate's
own plane: along from the slot, half-width).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Literal

from yellowbob.design.model import Design, replaced
from yellowbob.design.parts import Fin, Lip, Wings

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
    """Every corner that can be dragged."""
    found = []
    for number, part in enumerate(design.parts):
        view, places = _places(part)
        found += [Corner(number, i, view, at) for i, at in enumerate(places)]
    return found


def _places(part: Any) -> tuple[CornerView, list[tuple[float, float]]]:
    if isinstance(part, Fin):
        return "back", list(part.corners_mm)
    if isinstance(part, Lip) and part.plan == "own":
        grown = part.long_mm / max(part.own[-1][0], 1e-9)
        return "lip", [(x * grown, half) for x, half in part.own]
    if isinstance(part, Wings):
        out = part.span_mm * math.cos(math.radians(part.raise_deg))
        sweep = part.span_mm * math.tan(math.radians(part.sweep_deg))
        x, y = part.x_mm, part.y_mm
        return "plan", [(x + part.root_mm, y), (x + sweep, y + out), (x + sweep + part.tip_mm, y + out)]
    return "back", []


def moved_corner(design: Design, corner: Corner, x_mm: float, y_mm: float) -> Design:
    """The design with a corner at (x, y) of its view; what would turn the plate inside out is held back."""
    part = design.parts[corner.part]
    if isinstance(part, Fin):
        places = list(part.corners_mm)
        places[corner.index] = (x_mm, y_mm)
        return _with_part(design, corner.part, replaced(part, corners_mm=tuple(places)))
    if isinstance(part, Lip):
        return _with_part(design, corner.part, _moved_lip(part, corner.index, x_mm, y_mm))
    if isinstance(part, Wings):
        return _with_part(design, corner.part, _moved_wing(part, corner.index, x_mm, y_mm))
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
    part = design.parts[corner.part]
    if isinstance(part, Wings):
        return None
    view, places = _places(part)
    around = isinstance(part, Fin)
    at = corner.index if around else min(corner.index, len(places) - 2)
    follow = places[(at + 1) % len(places)]
    middle = ((places[at][0] + follow[0]) / 2, (places[at][1] + follow[1]) / 2)
    places.insert(at + 1, middle)
    field = "corners_mm" if around else "own"
    new = _with_part(design, corner.part, replaced(part, **{field: tuple(places)}))
    return new, Corner(corner.part, at + 1, view, middle)


def without_corner(design: Design, corner: Corner) -> Design:
    """A corner less; the last three of a fin and the last two of a lip stay, and so do those of wings."""
    part = design.parts[corner.part]
    _, places = _places(part)
    field, least = ("corners_mm", 3) if isinstance(part, Fin) else ("own", 2)
    if isinstance(part, Wings) or len(places) <= least:
        return design
    del places[corner.index]
    changes: dict[str, Any] = {field: tuple(places)}
    if isinstance(part, Lip):
        changes["long_mm"] = places[-1][0]
    return _with_part(design, corner.part, replaced(part, **changes))


def own_plan(lip: Lip, plan: list[tuple[float, float]]) -> Lip:
    """The lip with an own plan that starts from the (along, half-width) points of the one it has."""
    points = [plan[0]]
    for point in plan[1:]:
        if point[0] > points[-1][0] + LEAST_MM:
            points.append(point)
    return replaced(lip, plan="own", own=tuple((max(0.0, x), max(0.0, half)) for x, half in points))


def _with_part(design: Design, number: int, new: Any) -> Design:
    return design.but(parts=(*design.parts[:number], new, *design.parts[number + 1 :]))
