"""What the program writes beside the outlines of a drawing: the very shape and its cuts, to come back as they were."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any
from xml.etree import ElementTree

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Piece
from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.curves import curve
from yellowbob.lines.svg_paths import Outline

Array = NDArray[np.float64]

METADATA = "yellow-bob-body"
SAME_MM = 0.01
"""Paths that lie within this of the outlines that were kept beside them are those outlines."""


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


def as_kept(kept: dict[str, Any], side: Outline, plan: Outline | None) -> Drawn | None:
    """The very shape that was written beside the paths, if these are still its own; None where they are not."""
    if not isinstance(kept.get("shape"), dict):
        return None
    try:
        body = Piece.model_validate({"material": {"name": "any", "density_g_ml": 1.0}, "shape": kept["shape"],
                                     "cuts": kept.get("cuts", [])})  # fmt: skip
        x0, y0 = (float(v) for v in kept["nose_mm"])
        y1 = float(kept["plan_y_mm"])
    except (ValueError, KeyError, TypeError):
        return None
    shape = body.shape
    if not isinstance(shape, Lofted | Turned):
        return None
    if isinstance(shape, Turned):
        profile = curve(shape.profile).sampled(200)
        loops = [(profile, profile * [1, -1], y0), (profile, profile * [1, -1], y1)]
    else:
        loops = [(curve(shape.back).sampled(200), curve(shape.belly).sampled(200), y0)]
        half = curve(shape.plan).sampled(200)
        loops.append((half, half * [1, -1], y1))
    for drawn, (top, bottom, y) in zip((side, plan), loops, strict=True):
        if drawn is None:
            return None
        points = drawn.points - [x0, -y]
        both = np.vstack([top, bottom[::-1]])
        if _apart(points, both) > SAME_MM or _apart(both, points) > SAME_MM:
            return None
    return Drawn(shape, body.cuts, ())


def _apart(places: Array, loop: Array) -> float:
    """Largest distance of places (n, 2) from a closed outline (m, 2)."""
    from shapely.geometry import LinearRing
    from shapely.geometry import Point as Place

    ring = LinearRing(loop)
    return max(float(ring.distance(Place(p))) for p in places[:: max(1, len(places) // 400)])
