"""Slugs made so long, and slid together, that a design weighs and sits as it is briefed, by the full solve."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from yellowbob.design.base import replaced
from yellowbob.design.brief import Span
from yellowbob.design.model import Design, Slug
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.study import Study, of
from yellowbob.trials.still import solved, wanted_pitch

LEAST_SHARE, MOST_SHARE = 0.05, 8.0
"""Within which shares of the starter's metal ballast is sought."""
FORE, AFT, TRIED = 0.12, 0.86, 9
"""Between which shares of the length belly holes go; places tried where none gives the pitch itself."""
NEAR_G, NEAR_SHARE, NEAR_DEG = 0.01, 3e-4, 0.1
"""So near to mass (g, or of the mass) and pitch is near enough: slugs are cut and drilled to tenths of a millimetre."""
STEP, SECANTS = 0.02, 7
"""By which share of its length the slugs are slid first; so many secants from there."""


def balanced(design: Design, wanted_g: float, before: Study) -> Study | None:
    """A study of it with its slugs made so long, and slid together, that it weighs and sits as briefed; where the middle of
    the brief's pitch cannot be had, the nearest to it; None where it sinks everywhere. before: a study of the like, whose
    solids hold."""
    first = Study(design, before)
    tried: dict[float, Study] = {}
    near_g = _near(design.brief.mass_g, NEAR_SHARE * wanted_g, NEAR_G)
    near_deg = _near(design.brief.pitch_deg, NEAR_DEG, NEAR_DEG / 5.0)

    def heavy_by(share: float) -> float:
        tried[share] = Study(_moved(design, share, 0.0), first)
        return float(of.slip(tried[share]).finished.mass_g) - wanted_g

    try:
        slope = max(gained_g(design), 0.01)
        soon = met(heavy_by, 1.0, lambda miss: -miss / slope, LEAST_SHARE, MOST_SHARE, near_g)
        if soon is not None and abs(soon[1]) <= near_g:
            mass: float | None = soon[0]
        else:
            mass = solved(heavy_by, 1.0, LEAST_SHARE, MOST_SHARE, near_g)
        if mass is None:
            return None
        heavy = tried[mass] if mass in tried else Study(_moved(design, mass, 0.0), first)
        wanted, rest = wanted_pitch(design, heavy), of.upright_rest(heavy)
        if wanted is None or rest is None:
            return None
    except YellowBobError:
        return None

    def pitch(aft_mm: float) -> float:
        found = of.rest_followed(Study(_moved(design, mass, aft_mm), heavy), rest)
        if found is None:
            raise BadInput("it sinks")
        return math.degrees(found.pitch_rad)

    places = [b.drilling.place_mm[0] for b in design.ballast if b.drilling is not None and b.drilling.side == "belly"]
    long = design.shape.length_mm
    low, high = (FORE * long - min(places), AFT * long - max(places)) if places else (-FORE * long, FORE * long)
    start = min(max(0.0, low), high)
    slid = (
        met(lambda by: pitch(by) - wanted, start, lambda _: STEP * long, low, high, near_deg)
        if low < high
        else (0.0, 0.0)
    )
    aft = slid[0] if slid is not None else solved(lambda by: pitch(by) - wanted, start, low, high, near_deg)
    if aft is None:
        aft = _nearest(pitch, wanted, low, high)
    return None if aft is None else Study(_tidied(_moved(design, mass, aft)), heavy)


def _near(wanted: Span | None, usual: float, least: float) -> float:
    """How near to its figure is near enough: a narrow range asks for more, down to the least."""
    return max(usual if wanted is None else min(usual, (wanted.most - wanted.least) / 4.0), least)


def met(
    miss: Callable[[float], float], start: float, step: Callable[[float], float], low: float, high: float, near: float
) -> tuple[float, float] | None:  # fmt: skip
    """Where a steady function is nothing, by secants from a start, or the bound that they lead beyond, with what is missed
    there; None where they lead nowhere soon, or something cannot be had on the way. step: the first, from what is missed at
    the start."""
    try:
        a, one = start, miss(start)
        if abs(one) <= near:
            return a, one
        b = min(max(a + step(one), low), high)
        if b == a:
            b = a + 0.1 * (low - high)
        other = miss(b)
        for _ in range(SECANTS):
            if abs(other) <= near:
                return b, other
            if other == one:
                return None
            x = min(max(b - other * (b - a) / (other - one), low), high)
            if x == b:
                return (b, other) if abs(other) < abs(one) else None
            a, one, b, other = b, other, x, miss(x)
    except YellowBobError:
        return None
    return None


def _nearest(pitch: Callable[[float], float], wanted: float, low: float, high: float) -> float | None:
    """Of places tried evenly the one whose pitch is nearest to what is wanted; None where it sinks at all of them."""
    best: tuple[float, float] | None = None
    for at in np.linspace(low, high, TRIED):
        try:
            off = abs(pitch(float(at)) - wanted)
        except YellowBobError:
            continue
        if best is None or off < best[0]:
            best = (off, float(at))
    return None if best is None else best[1]


def _moved(design: Design, share: float, aft_mm: float) -> Design:
    new = []
    for one in design.ballast:
        if not isinstance(one.weight, Slug) or one.drilling is None:
            new.append(one)
            continue
        drilling, long = one.drilling, one.weight.length_mm * share
        along = drilling.side == "tail"
        place = drilling.place_mm if along else (drilling.place_mm[0] + aft_mm, drilling.place_mm[1])
        over = max(drilling.depth_mm - one.weight.length_mm - (aft_mm if along else 0.0), 1.0)
        drilling = replaced(drilling, place_mm=place, depth_mm=long + over)
        new.append(replaced(one, weight=replaced(one.weight, length_mm=long), drilling=drilling))
    return design.but(ballast=tuple(new))


def gained_g(design: Design) -> float:
    """What slugs as long again would add, g, the wood of their holes gone."""
    gained = 0.0
    for one in design.ballast:
        if isinstance(one.weight, Slug):
            wood = design.body.density_g_ml
            bulk = math.pi / 4.0 * one.weight.diameter_mm**2 * one.weight.length_mm / 1000.0
            gained += bulk * (one.weight.density_g_ml - wood)
    return gained


def _tidied(design: Design) -> Design:
    """Lengths and places in tenths of a millimetre, as they are cut and drilled."""
    new = []
    for one in design.ballast:
        if isinstance(one.weight, Slug) and one.drilling is not None:
            long = max(round(one.weight.length_mm, 1), 0.1)
            a, b = one.drilling.place_mm
            over = one.drilling.depth_mm - one.weight.length_mm
            drilling = replaced(one.drilling, place_mm=(round(a, 1), round(b, 1)), depth_mm=round(long + over, 1))
            one = replaced(one, weight=replaced(one.weight, length_mm=long), drilling=drilling)
        new.append(one)
    return design.but(ballast=tuple(new))
