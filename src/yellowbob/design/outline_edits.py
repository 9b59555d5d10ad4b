"""Edits of the drawn outlines, point by point. What would make the outlines cross is held back, with the reason."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

from yellowbob.design.base import LONGEST_MM
from yellowbob.design.model import Design, Piece, replaced
from yellowbob.design.plates import TurningTail
from yellowbob.design.shape import LEAST_STEP_MM, Lofted, MeshBody, OutlinePoint, Turned

CurveName = Literal["back", "belly", "plan", "profile"]
GAP_MM = 0.05
"""Neighbouring points are kept at least this far apart while they are dragged."""
CLEAR_MM = 0.2
"""Back and belly are kept so far apart while a point of one is dragged: between their points the curves may be nearer."""
LEAST_LENGTH_MM = 5.0


@dataclass(frozen=True)
class PointRef:
    """One point of one outline."""

    curve: CurveName
    index: int


@dataclass(frozen=True)
class Edited:
    """A design after an edit, and why it went less far than asked; empty when it went all the way."""

    design: Design
    held: str = ""


def curve_names(design: Design) -> tuple[CurveName, ...]:
    """The outlines of a design's body; none for a mesh."""
    shape = design.shape
    if isinstance(shape, Turned):
        return ("profile",)
    return ("back", "belly", "plan") if isinstance(shape, Lofted) else ()


def outline_of(design: Design, curve: CurveName) -> tuple[OutlinePoint, ...]:
    """The points of an outline by its name."""
    outline: tuple[OutlinePoint, ...] = getattr(design.shape, curve)
    return outline


def _with(design: Design, **outlines: tuple[OutlinePoint, ...]) -> Design:
    shape = design.shape
    assert not isinstance(shape, MeshBody)
    return design.with_body(shape=replaced(shape, **outlines))


def _at(point: OutlinePoint, x: float, y: float) -> OutlinePoint:
    return replaced(point, at_mm=(x, y))


def moved_point(design: Design, ref: PointRef, x_mm: float, y_mm: float) -> Edited:
    """Put a point at (x, y). Ends keep their x; dragging the tail's end changes the length of every outline.

    The point stops short of its neighbours in x, a half-width or radius at zero, and back and belly at each other.
    """
    outline = outline_of(design, ref.curve)
    last = len(outline) - 1
    held = ""
    y = min(LONGEST_MM, max(-LONGEST_MM, y_mm))
    if ref.curve in ("plan", "profile") and y < 0:
        y, held = 0.0, "a half-width cannot be less than nothing"
    if ref.index == 0:
        x = 0.0
    elif ref.index == last:
        x = min(LONGEST_MM, max(LEAST_LENGTH_MM, x_mm))
    else:
        low, high = outline[ref.index - 1].at_mm[0] + GAP_MM, outline[ref.index + 1].at_mm[0] - GAP_MM
        x = min(max(x_mm, low), high)
        if x != x_mm:
            held = "a point stays between its neighbours"
    if ref.curve in ("back", "belly"):
        other = outline_of(design, "belly" if ref.curve == "back" else "back")
        limit = _height(other, x) + (CLEAR_MM if ref.curve == "back" else -CLEAR_MM)
        if (ref.curve == "back" and y < limit) or (ref.curve == "belly" and y > limit):
            y, held = limit, "back and belly would cross here"
    if ref.index == last and abs(x - outline[last].at_mm[0]) > 1e-9:
        inner = max(o[-2].at_mm[0] for o in (outline_of(design, c) for c in curve_names(design)))
        if x < inner + GAP_MM:
            x, held = inner + GAP_MM, "the tail stays aft of every other point"
        changed = {
            name: (
                *outline_of(design, name)[:-1],
                _at(outline_of(design, name)[-1], x, outline_of(design, name)[-1].at_mm[1]),
            )
            for name in curve_names(design)
        }
        changed[ref.curve] = (*outline[:-1], _at(outline[-1], x, y))
        return Edited(_with(design, **changed), held)
    new = list(outline)
    new[ref.index] = _at(outline[ref.index], x, y)
    return Edited(_with(design, **{ref.curve: tuple(new)}), held)


def _height(outline: tuple[OutlinePoint, ...], x: float) -> float:
    """Height of an outline at x along straight lines between its points: enough to keep two from crossing."""
    for one, two in itertools.pairwise(outline):
        (x0, y0), (x1, y1) = one.at_mm, two.at_mm
        if x <= x1:
            return y0 + (y1 - y0) * min(1.0, max(0.0, (x - x0) / (x1 - x0)))
    return outline[-1].at_mm[1]


def added_point(design: Design, curve: CurveName, x_mm: float, y_mm: float) -> tuple[Design, PointRef] | None:
    """A point more at (x, y), None where one is already that near."""
    outline = outline_of(design, curve)
    if any(abs(p.at_mm[0] - x_mm) < 4 * LEAST_STEP_MM for p in outline) or not 0 < x_mm < outline[-1].at_mm[0]:
        return None
    index = sum(p.at_mm[0] < x_mm for p in outline)
    new = (*outline[:index], OutlinePoint(at_mm=(x_mm, y_mm)), *outline[index:])
    return _with(design, **{curve: new}), PointRef(curve, index)


def without_point(design: Design, ref: PointRef) -> Edited:
    """A point less; the ends stay."""
    outline = outline_of(design, ref.curve)
    if ref.index in (0, len(outline) - 1):
        return Edited(design, "the ends of an outline stay; drag them instead")
    return Edited(_with(design, **{ref.curve: outline[: ref.index] + outline[ref.index + 1 :]}))


def with_bend(design: Design, ref: PointRef) -> Design:
    """The next way for the curve to pass a point: smooth, corner, arc, and at the ends round."""
    outline = list(outline_of(design, ref.curve))
    ways = ["smooth", "corner", "arc", *(["round"] if ref.index in (0, len(outline) - 1) else [])]
    point = outline[ref.index]
    following = ways[(ways.index(point.bend) + 1) % len(ways)] if point.bend in ways else "smooth"
    outline[ref.index] = replaced(point, bend=following)
    return _with(design, **{ref.curve: tuple(outline)})


def held_to_points(design: Design) -> Design:
    """Every arc point of the drawn outlines made smooth, so that no curve leaves the heights of its points."""
    pieces = []
    for piece in design.pieces:
        drawn = {
            name: tuple(replaced(p, bend="smooth") if p.bend == "arc" else p for p in outline)
            for name, outline in _drawn(piece).items()
        }
        pieces.append(replaced(piece, shape=replaced(piece.shape, **drawn)) if drawn else piece)
    return design.but(pieces=tuple(pieces))


def arcs(design: Design) -> list[tuple[OutlinePoint, ...]]:
    """The outlines of all pieces that have an arc point."""
    found = [outline for piece in design.pieces for outline in _drawn(piece).values()]
    return [outline for outline in found if any(p.bend == "arc" for p in outline)]


def arcs_kept(design: Design) -> str:
    """What is said of a design on opening it: that an older file's curves are as they were; empty when none is."""
    if not arcs(design):
        return ""
    return (
        "Drawn before version 3 of the file: its smooth points are kept as arcs, and every figure with them. "
        "Lines, Start, Hold curves to their points draws them without bulges."
    )


def _drawn(piece: Piece) -> dict[str, tuple[OutlinePoint, ...]]:
    """The outlines that a piece is drawn by."""
    names = {Lofted: ("back", "belly", "plan"), Turned: ("profile",), TurningTail: ("profile",)}
    return {name: getattr(piece.shape, name) for name in names.get(type(piece.shape), ())}


def blank(kind: Literal["lofted", "turned"], length_mm: float = 80.0) -> Lofted | Turned:
    """A plain body to start drawing from."""
    ends = (0.0, 0.35 * length_mm, length_mm)

    def line(heights: tuple[float, float, float]) -> tuple[OutlinePoint, ...]:
        bends: tuple[Literal["round"], Literal["smooth"], Literal["round"]] = ("round", "smooth", "round")
        return tuple(OutlinePoint(at_mm=(x, y), bend=b) for x, y, b in zip(ends, heights, bends, strict=True))

    deep = 0.14 * length_mm
    if kind == "turned":
        return Turned(profile=line((0.0, deep, 0.0)))
    return Lofted(back=line((0.0, deep, 0.0)), belly=line((0.0, -deep, 0.0)), plan=line((0.0, 0.85 * deep, 0.0)))
