"""The painting plan: bands light first, where to mask, what of them shows at the working waterline and from how far."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.action.wetted import Strips, strips
from yellowbob.design.bands import COLOURS, Band
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of

ARC_MINUTES = 2.0
"""A patch is told apart by the eye when it subtends this much: twice the limit of sharp sight, a rule."""
TOUCH_MM = 0.05
"""Edges so near to one another are one."""


@dataclass(frozen=True)
class Painted:
    """One band of the plan. masks_mm: edges to mask before it is painted, from the front; shows_mm: what of its own stays
    visible above the water; seen_m: how far off that can be told."""

    band: Band
    order: int
    masks_mm: tuple[float, ...]
    left_mm: float
    shows_mm: float
    wide_mm: float
    seen_m: float


def _uncovered(band: Band, later: tuple[Band, ...]) -> list[tuple[float, float]]:
    """Stretches of a band that no later one paints over."""
    left = [(band.from_mm, band.to_mm)]
    for over in later:
        left = [
            part
            for a, b in left
            for part in ((a, min(b, over.from_mm)), (max(a, over.to_mm), b))
            if part[1] - part[0] > TOUCH_MM
        ]
    return left


def _shadow(study: Study) -> tuple[Strips, float]:
    """Half-breadths along the whole, and x of its front end."""
    mesh = of.whole(study)
    return strips(mesh.corners, np.array([1.0, 0, 0]), np.array([0, 1.0, 0]), 400), float(mesh.bounds[0, 0])


def shows_mm(study: Study) -> float | None:
    """How much of the front shows above the water at the rest it is meant for, along the axis; None for a sinker, or what
    does not stand."""
    rest = of.upright_rest(study)
    if rest is None or not of.stands_by_kind(study):
        return None
    rise = abs(rest.up[0])
    return max(0.0, of.tip_of_rest(study, rest) / max(rise, 1e-6)) if rise > 0.2 else None


def painting(study: Study) -> tuple[Painted, ...]:
    """The plan of a design's bands in the order to paint them, the lightest first. Raises BadInput for one beyond its end."""
    bands, (breadth, front) = of.bands(study), _shadow(study)
    long = breadth.length_mm
    for band in bands:
        if band.to_mm > long + TOUCH_MM:
            raise BadInput(
                f"band '{band.name}' ends at {band.to_mm:g} mm, and the whole is {long:.1f} mm long; shorten it"
            )
    shown = shows_mm(study)
    ordered = sorted(range(len(bands)), key=lambda k: (-round(bands[k].light, 3), k))
    out = []
    for order, k in enumerate(ordered, start=1):
        band = bands[k]
        left = _uncovered(band, bands[k + 1 :])
        dry = sum(max(0.0, min(b, shown) - a) for a, b in left) if shown is not None else sum(b - a for a, b in left)
        middle = (band.from_mm + band.to_mm) / 2.0
        wide = 2.0 * float(np.interp(front + middle, breadth.at_mm, breadth.half_mm))
        patch = math.sqrt(dry * wide)
        seen = patch / 1000.0 / math.tan(math.radians(ARC_MINUTES / 60.0))
        edges = (e for e in (band.from_mm, band.to_mm) if TOUCH_MM < e < long - TOUCH_MM)
        out.append(Painted(band, order, tuple(edges), sum(b - a for a, b in left), dry, wide, seen))
    return tuple(out)


def out_of_turn(bands: tuple[Band, ...]) -> tuple[str, ...]:
    """Bands that would have to be painted over a darker one, though listed after it: their colour will not cover."""
    said = []
    for k, band in enumerate(bands):
        for under in bands[:k]:
            laps = min(band.to_mm, under.to_mm) - max(band.from_mm, under.from_mm) > TOUCH_MM
            if laps and band.light > under.light + 0.05:
                said.append(
                    f"{band.name} over {under.name}: light paint does not cover dark; leave the room bare for it"
                )
    return tuple(said)


def proposed(study: Study) -> tuple[Band, ...]:
    """Bands for a float's tip: white first, then the colour that shows and a dark mark at the working waterline.

    A lift then uncovers white. Raises BadInput where there is no tip to paint.
    """
    if not of.stands_by_kind(study):
        raise BadInput("bands are proposed for floats that stand; put your own on this one")
    tip, (breadth, _) = of.tip_wanted_mm(study), _shadow(study)
    if breadth.length_mm < 2.0 * tip:
        raise BadInput(f"a tip of {tip:g} mm of {breadth.length_mm:.0f} mm leaves no room for bands; show less of it")
    made = (("white", 0.0, 1.6 * tip), ("signal orange", 0.0, 0.6 * tip), ("black", 0.85 * tip, tip))
    return tuple(Band(name=name, colour=COLOURS[name], from_mm=round(a, 2), to_mm=round(b, 2)) for name, a, b in made)
