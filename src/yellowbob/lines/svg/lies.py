"""How a drawn outline lies, and whether it is one that a body can have: closed on itself, of a size, level."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from yellowbob.design.base import LONGEST_MM
from yellowbob.ground.errors import BadInput
from yellowbob.lines.svg.outlines import Outline
from yellowbob.lines.tracing.trace import major_axis

SLANT_SAID, SLANT_DEG = 2.0, 10.0
"""A side view whose longest way is so far off level says so; and is refused."""
SLIM, ROUND = 1.5, 1.1
"""Bodies that are less slim are not refused for it; and of those rounder still nothing tells how they lie."""
AGAINST_SHARE, AGAINST_DEPTH, AGAINST_LENGTH = 0.001, 0.5, 0.3
"""Outlines this share of a body's length apart lie against each other; along so much of its depth, or of its length, they may
be one body,"""
LONGER_SHARE = 0.01
"""if it goes on by so much of its length."""
OVER_SHARE = 0.5
"""What lies over each other for more of the smaller one is another view, or is painted on it."""
THICK_SHARE = 0.01
"""A line that is a larger share of an outline's depth or beam says so."""
UPRIGHT = 1.25
"""A side view this many times taller than long stands nose up."""


def refuse_unsound(name: str, outline: Outline, what: str) -> None:
    """Refuse what encloses nothing, is too long, or crosses itself."""
    from shapely.geometry import Polygon
    from shapely.validation import explain_validity

    size = outline.size
    if outline.clipped:
        raise BadInput(f"{name}: the {what} is clipped or masked, so that only part of it shows; take that off it")
    if float(size.max()) > LONGEST_MM:
        raise BadInput(f"{name}: the {what} is {float(size.max()):.6g} mm long; is its unit right?")
    if float(size.max()) < 1.0:
        raise BadInput(f"{name}: the {what} outline is only {float(size.max()):.2f} mm long; is its unit right?")
    if len(outline.points) < 3 or float(size.min()) < 1e-3 * float(size.max()):
        raise BadInput(f"{name}: the {what} is a line, and encloses nothing; draw it all round")
    shape = Polygon(outline.points)
    if not shape.is_valid:
        why = explain_validity(shape)
        place = why.partition("[")[2].rstrip("]").split()
        near = f" near x {float(place[0]):.1f}, y {-float(place[1]):.1f} mm on the page" if len(place) == 2 else ""
        raise BadInput(f"{name}: the {what} crosses or touches itself{near}; draw it as one loop")


def slant_of(name: str, side: Outline) -> tuple[str, ...]:
    """What is to be said of a side view that is drawn on a slant. Raises BadInput where it cannot lie as it floats.

    It is one where its moments and the narrowest box about it both say so: a level wedge's box lies level.
    """
    from shapely.geometry import Polygon

    corners = np.array(Polygon(side.points).minimum_rotated_rectangle.exterior.coords)
    sides = np.diff(corners[:3], axis=0)
    long = np.linalg.norm(sides, axis=1)
    ways = (sides[int(np.argmax(long))], major_axis(side.points))
    slant = min(abs((float(np.degrees(np.arctan2(y, x))) + 90.0) % 180.0 - 90.0) for x, y in ways)
    slim = float(long.max() / long.min())
    if slant > SLANT_DEG and slim > SLIM:
        raise BadInput(f"{name}: the side is drawn on a slant of {slant:.0f}°; turn it level and save it again")
    if slant > SLANT_SAID and slim > ROUND:
        return (
            f"the side is drawn on a slant of {slant:.1f}°: its length is taken along the page; turn it level if need be",
        )
    return ()


def refuse_parts(name: str, body: Outline, others: Iterable[Outline]) -> None:
    """Refuse a body that has no name where another outline may be the rest of it, of another colour: one that lies against
    it along much of its depth and goes on beyond it, as a head does, or along much of its length, as a belly does. What lies
    within it is on it; a fin or a lip meets it along less."""
    from shapely.geometry import Polygon

    own, near_mm = Polygon(body.points).buffer(0.0), AGAINST_SHARE * float(body.size.max())
    low, high = body.points.min(axis=0) - near_mm, body.points.max(axis=0) + near_mm
    for other in others:
        if (other.points.min(axis=0) > high).any() or (other.points.max(axis=0) < low).any():
            continue
        there = Polygon(other.points).buffer(0.0)
        if there.intersection(own).area > OVER_SHARE * min(there.area, own.area):
            continue
        common = float(own.boundary.intersection(there.buffer(near_mm)).length)
        longer = float(np.ptp(np.vstack([body.points, other.points]), axis=0).max()) - float(body.size.max())
        head = longer > LONGER_SHARE * float(body.size.max()) and common > AGAINST_DEPTH * float(body.size.min())
        if head or common > AGAINST_LENGTH * float(body.size.max()):
            raise BadInput(
                f"{name}: '{other.name[:40]}' lies against '{body.name[:40]}' along {common:.1f} mm: unite them if both are "
                "parts of the body, draw them apart if they are two views, or name the body's own path 'side'"
            )


def thickness_of(outline: Outline, what: str) -> tuple[str, ...]:
    """What is to be said of an outline that is drawn with so thick a line that its edges are another size than its middle."""
    thick = outline.stroke_mm
    if math.isnan(thick):
        return (f"how thick the line of the {what} is cannot be told: its middle was taken; compare its length",)
    if thick > THICK_SHARE * float(outline.size.min()):
        return (
            f"the line of the {what} is {thick:.2g} mm thick: its middle was taken; from outer edge to outer edge it is "
            f"{thick:.2g} mm longer and wider",
        )
    return ()


def stands(outline: Outline) -> bool:
    """Whether a side view stands nose up."""
    return float(outline.size[1]) > UPRIGHT * float(outline.size[0])


def lain(outline: Outline) -> Outline:
    """A view that stands nose up, laid nose left: what was up leads left, what was left hangs down."""
    x, y = outline.points.T
    return replace(outline, points=np.stack([-y, x], axis=1))
