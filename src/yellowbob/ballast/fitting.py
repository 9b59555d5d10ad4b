"""The weight and the hole that bring a build to its pose: what to try, where the bit goes in, how it is fitted."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.rest import Afloat
from yellowbob.ballast.locus import WALL, Locus, Room
from yellowbob.ballast.pose import Posed
from yellowbob.design.model import Ballast, Design, Drilling, Filler, Shot, Slug, replaced
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.drill import place_hole
from yellowbob.shelf.fitting import COVER_MM, FIT_MM, ball_mm
from yellowbob.shelf.items import BallastStock
from yellowbob.weights.ballast import stack_length_mm, weight_mass_g
from yellowbob.weights.mass import grams_per_mm

Array = NDArray[np.float64]
AfloatOf = Callable[[Design], Afloat]

MOST_SHOT = 30
LONGEST_TIMES = 12.0
"""A slug is at most so many diameters long: a rule, for a hole that can be drilled straight."""
DEEPEST_MM = 70.0
STEEP_DEG = 8.0
"""From this pitch a hole along the upright at rest is offered beside one square to the body."""
ROUNDS = 4


@dataclass(frozen=True, eq=False)
class Try:
    """A weight and a hole to be fitted to the pose."""

    stock: BallastStock
    weight: Shot | Slug
    side: str
    lean_deg: float
    bit_mm: float
    off: float
    """how far the mass alone is from the wanted, as a share"""


def tries(
    posed: Posed, wood_g_ml: float, plug_g_ml: float, shelf: dict[str, BallastStock], counts: dict[str, float]
) -> Iterator[Try]:
    """Weights from the shelf whose net mass comes near the wanted, in the holes that could take them.

    Net: the weight, its plug (COVER_MM deep to begin with), less the wood of the hole.
    """
    pitch = math.degrees(math.asin(-float(posed.water.up[0])))
    ways = [("belly", 0.0), ("tail", 0.0), *([("belly", float(-round(pitch)))] if abs(pitch) >= STEEP_DEG else [])]
    for stock in shelf.values():
        size, have = ball_mm(stock), counts.get(stock.name)
        bit = math.ceil((size + FIT_MM) * 10.0 - 1e-9) / 10.0
        swap = grams_per_mm(bit, plug_g_ml) - grams_per_mm(bit, wood_g_ml)
        if stock.form == "slug":
            each = grams_per_mm(size, stock.density_g_ml) - grams_per_mm(bit, wood_g_ml)
            long = round((posed.ballast_g - swap * COVER_MM) / each, 1)
            if not 0.6 * size <= long <= LONGEST_TIMES * size or (have is not None and long > have):
                continue
            weights: list[tuple[Shot | Slug, float]] = [
                (Slug(material=stock.material, density_g_ml=stock.density_g_ml, diameter_mm=size, length_mm=long), 0.0)
            ]
        else:
            weights = []
            for count in range(1, MOST_SHOT + 1):
                shot = Shot(
                    material=stock.material, density_g_ml=stock.density_g_ml, mass_g=stock.mass_g or 1.0, count=count
                )
                stack = stack_length_mm(shot, bit)
                net = weight_mass_g(shot) - grams_per_mm(bit, wood_g_ml) * stack + swap * COVER_MM
                off = net / posed.ballast_g - 1.0
                if abs(off) < 0.12 and (have is None or count <= have):
                    weights.append((shot, abs(off)))
        for weight, off in weights:
            for side, lean in ways:
                yield Try(stock, weight, side, lean, bit, off)


def first_hole(design: Design, one: Try, posed: Posed, room: Room, plug: Filler, locus: Locus) -> Ballast | None:
    """The hole that puts the weight's centre on the line, as low as it goes in; None where it does not fit."""
    stack = stack_length_mm(one.weight, one.bit_mm)
    up = posed.water.up
    name = "Ballast shot" if isinstance(one.weight, Shot) else "Ballast slug"
    if one.side == "tail":
        if locus.best is None:
            return None
        place = posed.place(locus.best.low_mm)
        far = Drilling(side="tail", place_mm=(float(place[1]), float(place[2])), diameter_mm=one.bit_mm, depth_mm=1.0)
        try:
            mouth = np.asarray(place_hole(far, room.body, name).mouth_mm)
        except YellowBobError:
            return None
        depth = float(mouth[0] - place[0] + stack / 2)
        if not stack + COVER_MM <= depth <= DEEPEST_MM:
            return None
        drilling = replaced(far, depth_mm=depth)
    else:
        # as low as the plug's cover lets it: walk the line up until the stack is covered
        lean = math.radians(one.lean_deg)
        inward = np.array([math.sin(lean), 0.0, math.cos(lean)])
        drilling = None
        low = min((a for a, _ in locus.in_body), default=0.0)
        for _ in range(12):
            place = posed.place(low)
            x = float(place[0] - inward[0] / inward[2] * (place[2] - room.body.bounds[0, 2]))
            far = Drilling(
                side="belly", place_mm=(x, float(place[1])), diameter_mm=one.bit_mm, depth_mm=1.0, lean_deg=one.lean_deg
            )
            try:
                mouth = np.asarray(place_hole(far, room.body, name).mouth_mm)
            except YellowBobError:
                return None
            # the mouth lies where the bit enters straight from below: slide it so that the axis passes the place
            shift = float(place[0] - mouth[0]) - inward[0] / inward[2] * float(place[2] - mouth[2])
            far = replaced(far, place_mm=(x + shift, float(place[1])))
            try:
                mouth = np.asarray(place_hole(far, room.body, name).mouth_mm)
            except YellowBobError:
                return None
            deep = float((place - mouth) @ inward)
            wanted = stack / 2 + COVER_MM
            if deep >= wanted - 0.02:
                drilling = replaced(far, depth_mm=deep + stack / 2)
                break
            low += (wanted - deep) / max(float(inward @ up), 0.3)
        if drilling is None or drilling.depth_mm > DEEPEST_MM:
            return None
    return Ballast(name=name, stock=one.stock.name, weight=one.weight, drilling=drilling, plug=plug)


def fits(ballast: Ballast, room: Room, posed: Posed) -> bool:
    """Whether the hole keeps the walls: its bottom from the outside, its whole length from wires, slots and holes."""
    if ballast.drilling is None:
        return True
    try:
        hole = place_hole(ballast.drilling, room.body, ballast.name)
    except YellowBobError:
        return False
    radius = hole.diameter_mm / 2
    stack = stack_length_mm(ballast.weight, hole.diameter_mm)
    if hole.depth_mm - stack < 0.5 * COVER_MM:
        return False
    # the bottom is flat: its rim and middle, and the bit's full width along the rest
    inward = np.asarray(hole.inward)
    one = np.cross(inward, [0.0, 1.0, 0.0])
    one /= np.linalg.norm(one)
    other = np.cross(inward, one)
    turns = np.linspace(0.0, 2.0 * math.pi, 12, endpoint=False)
    rim = hole.bottom_mm + radius * (np.cos(turns)[:, None] * one + np.sin(turns)[:, None] * other)
    clear, _ = room.gaps(np.vstack([rim, hole.bottom_mm[None]]), 0.0)
    if clear.min() < 0.0:
        return False
    inner = np.array([hole.at_depth(d) for d in np.linspace(0.0, max(hole.depth_mm - radius, 0.0), 24)])
    clear, names = room.gaps(inner, radius)
    return all(c >= 0.0 for c, name in zip(clear, names, strict=True) if name != WALL)


def fitted(design: Design, ballast: Ballast, posed: Posed, afloat_of: AfloatOf, room: Room) -> Ballast | None:
    """Slide the hole, and cut the slug, until the net mass and the place on the line are as the pose asks."""
    base, up = posed.base, posed.water.up
    m0, g0 = base.mass_g, np.asarray(base.centre_mm)
    aft = np.array([1.0, 0.0, 0.0]) - up * up[0]
    aft /= np.linalg.norm(aft)
    for turn in range(ROUNDS):
        drilling, weight = ballast.drilling, ballast.weight
        assert drilling is not None
        try:
            loaded = afloat_of(design.but(ballast=(*design.ballast, ballast)))
        except (YellowBobError, ValueError):
            return None
        net = loaded.mass_g - m0
        centre = (loaded.mass_g * np.asarray(loaded.centre_mm) - m0 * g0) / net
        # where the line would have to be for this net mass: the same moment about B
        wanted = (loaded.mass_g * posed.water.centre_mm - m0 * g0) / net
        off = float((wanted - centre) @ aft)
        if isinstance(weight, Slug):
            per_mm = grams_per_mm(weight.diameter_mm, weight.density_g_ml) - grams_per_mm(
                drilling.diameter_mm, ballast.plug.density_g_ml if ballast.plug else 0.0
            )
            long = round(weight.length_mm + (posed.ballast_g - net) / per_mm, 1)
            if long < 0.5 * weight.diameter_mm:
                return None
            weight = replaced(weight, length_mm=long)
        cos = max(float(aft[0]), 0.3)
        a, b = drilling.place_mm
        last = turn == ROUNDS - 1
        if drilling.side == "tail":
            depth = drilling.depth_mm - off / cos
            if depth < stack_length_mm(weight, drilling.diameter_mm) + 0.5:
                return None
            drilling = replaced(drilling, depth_mm=round(depth, 1) if last else depth)
        else:
            moved = a + off / cos
            deep = drilling.depth_mm
            drilling = replaced(
                drilling, place_mm=(round(moved, 1) if last else moved, b), depth_mm=round(deep, 1) if last else deep
            )
        if last and abs(drilling.place_mm[1]) < 0.05:
            drilling = (
                replaced(drilling, place_mm=(drilling.place_mm[0], 0.0)) if drilling.side == "belly" else drilling
            )
        if last and drilling.side == "tail":
            drilling = replaced(
                drilling, place_mm=(round(drilling.place_mm[0], 1) + 0.0, round(drilling.place_mm[1], 1))
            )
        ballast = replaced(ballast, drilling=drilling, weight=weight)
    return ballast
