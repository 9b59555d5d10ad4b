"""What the program writes beside the outlines of a drawing: the very shape and its cuts, to come back as they were."""

from __future__ import annotations

import json
from dataclasses import dataclass, replace
from typing import Any
from xml.etree import ElementTree

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Piece
from yellowbob.design.rescale import SCALED_CUTS, SCALED_SHAPES
from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.curves import curve
from yellowbob.lines.svg.outlines import Outline

Array = NDArray[np.float64]

METADATA = "yellow-bob-body"
SAME_MM = 0.01
"""Paths that lie within this of the outlines that were kept beside them are those outlines,"""
SAME_SIZE = 2e-4
"""and of their size if they are as long within this share."""
STILL_MM = 0.05
"""A plan that lies within this of where it was written has not been moved."""


@dataclass(frozen=True)
class Drawn:
    """What was read: the shape, its cuts, and what was chosen or doubtful."""

    shape: Lofted | Turned
    cuts: tuple[Cut, ...]
    notes: tuple[str, ...]


def kept_in(root: ElementTree.Element) -> dict[str, Any]:
    """What the program wrote beside the outlines: the shape, and its cuts; empty for another program's drawing."""
    found = next((e for e in root.iter() if e.get("id") == METADATA), None)
    if found is None or found.text is None:
        return {}
    try:
        kept = json.loads(found.text)
    except (ValueError, RecursionError):
        return {}
    return kept if isinstance(kept, dict) else {}


def piece_of(shape: Any, kept: dict[str, Any]) -> Piece:
    """A piece of a shape with the cuts that were kept, of any material. Raises ValueError where they are spoilt."""
    return Piece.model_validate(
        {"material": {"name": "any", "density_g_ml": 1.0}, "shape": shape, "cuts": kept.get("cuts", [])}
    )


def _body(kept: dict[str, Any]) -> Piece | None:
    """A piece of the shape that was kept, with its cuts; None where none was, or it is spoilt."""
    if not isinstance(kept.get("shape"), dict):
        return None
    try:
        return piece_of(kept["shape"], kept)
    except ValueError:
        return None


def _loops(shape: Lofted | Turned) -> tuple[Array, Array]:
    """Side and plan (n, 2) of a shape, mm from its nose, all round."""
    if isinstance(shape, Turned):
        profile = curve(shape.profile).sampled(200)
        both = np.vstack([profile, (profile * [1, -1])[::-1]])
        return both, both
    half = curve(shape.plan).sampled(200)
    side = np.vstack([curve(shape.back).sampled(200), curve(shape.belly).sampled(200)[::-1]])
    return side, np.vstack([half, (half * [1, -1])[::-1]])


def as_kept(kept: dict[str, Any], side: Outline, plan: Outline | None) -> Drawn | None:
    """The very shape that was written beside the paths, if these are still its own, wherever on the page and at whatever
    size; None where they are not."""
    body = _body(kept)
    if body is None or plan is None or not isinstance(body.shape, Lofted | Turned):
        return None
    loops = _loops(body.shape)
    times = float(np.ptp(side.points[:, 0]) / np.ptp(loops[0][:, 0]))
    if abs(times - 1.0) < SAME_SIZE:
        times = 1.0
    for drawn, loop in zip((side, plan), loops, strict=True):
        points = (drawn.points - _corner(drawn.points)) / times + _corner(loop)
        if max(_apart(points, loop), _apart(loop, points)) > SAME_MM:
            return None
    if times == 1.0:
        return Drawn(body.shape, body.cuts, ())
    by = (times, times)
    note = f"it is {times:.4g} times as large as when it was written: all of it, its cuts too, was scaled"
    try:
        shape = SCALED_SHAPES[type(body.shape)](body.shape, by)
        cuts = tuple(SCALED_CUTS[type(cut)](cut, by) for cut in body.cuts)
    except ValueError:
        return None
    return Drawn(shape, cuts, (note,))


def _corner(points: Array) -> Array:
    """(2,): the middle of the box about some points."""
    return np.asarray((points.max(axis=0) + points.min(axis=0)) / 2.0)


def placed(side: Outline, plan: Outline | None, kept: dict[str, Any]) -> Outline:
    """The side about its nose: where it was written down that it lies, if it has not been moved about the page since; else
    its front end's middle lies where that of the shape that was written does, or on the axis."""
    try:
        x, y = (float(v) for v in kept["nose_mm"])
        plan_y = float(kept["plan_y_mm"])
    except (KeyError, TypeError, ValueError):
        return replace(side, points=side.points - _front(side.points))
    if plan is not None and abs(_corner(plan.points)[1] + plan_y) < STILL_MM:
        return replace(side, points=side.points - [x, -y])
    body = _body(kept)
    if body is None or not isinstance(body.shape, Lofted | Turned):
        return replace(side, points=side.points - _front(side.points))
    return replace(side, points=side.points - _front(side.points) + _front(_loops(body.shape)[0]))


def changed(kept: dict[str, Any], side: Outline) -> list[str]:
    """What to say of a drawing of the program's own whose outlines are no longer those that were written."""
    body = _body(kept)
    if body is None:
        return []
    found = float(np.ptp(side.points[:, 0]))
    was = body.shape.length_mm if isinstance(body.shape, Lofted | Turned) else found
    stay = f"; what is cut into it ({len(body.cuts)}) stayed as it was: look at it" if body.cuts else ""
    return [f"its outlines were changed since they were written ({was:.1f} mm long then, {found:.1f} mm now){stay}"]


def _front(points: Array) -> Array:
    """(2,): the middle of an outline's front end."""
    x = points[:, 0] - points[:, 0].min()
    front = points[x < 0.01 * x.max(), 1]
    return np.array([points[:, 0].min(), (front.max() + front.min()) / 2])


def _apart(places: Array, loop: Array) -> float:
    """Largest distance of places (n, 2) from a closed outline (m, 2)."""
    from shapely.geometry import LinearRing
    from shapely.geometry import Point as Place

    ring = LinearRing(loop)
    return max(float(ring.distance(Place(p))) for p in places[:: max(1, len(places) // 400)])
