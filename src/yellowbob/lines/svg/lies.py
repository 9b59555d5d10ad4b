"""How a drawn outline lies, and whether it is one that a body can have: closed on itself, of a size, level."""

from __future__ import annotations

import math
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
