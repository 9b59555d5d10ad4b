"""A starter's slugs: out of rods from the shelf, so deep that they stay clear of a wire over them; from the tail."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import replaced
from yellowbob.design.model import Ballast, Design, Drilling, Slug
from yellowbob.fitout.in_wood import NEAR_MM
from yellowbob.fitout.set_in import shank
from yellowbob.ground.errors import BadShape
from yellowbob.lines.drill import place_hole
from yellowbob.lines.hole_walls import wall_mm
from yellowbob.lines.mesh import Mesh
from yellowbob.trials.at_size import OVER_MM, rods, with_rod
from yellowbob.trials.balancing import AFT, FORE
from yellowbob.trials.legs import LEG_SHARE, bare_body, belly_mm

AT_TAIL, TAIL_SHARE = 0.1, 0.4
"""How far in from the tail its slug begins, of the length; how thick a rod is at most, of the body there: rules."""
DEEP_FROM_TAIL, HEAVY_FROM_TAIL, NEAR_TAIL = 0.75, 2.0, 0.78
"""A hole from the tail is no deeper to begin with, of the length (in wood; in heavier stuff); where slugs go in from below
where no such hole will do."""
UNLEADED, TUNGSTEN_G_ML = "tungsten alloy", 17.5
DEEPEST = 0.45
CLEAR_OF_BORE = 0.24
"""A slug is no longer than this share of the body's depth where it goes in; several are put in instead."""
MOST_SLUGS = 12
LEAST_SLUG_MM = 2.0
"""Slugs are no shorter because of a wire over them."""
LONGEST_SLUG_MM = 1000.0


def rodded(design: Design, thinner: int = 0, more: int = 0) -> Design:
    """The starter's slug out of a rod of the shelf's, so many sizes thinner, cut into several where one would be too long for
    the body or meet a wire, and so many more."""
    one = design.ballast[0]
    if not isinstance(one.weight, Slug) or one.drilling is None:
        return design
    metal = one.weight.length_mm * one.weight.diameter_mm**2
    sold = rods(one.weight.material, one.weight.diameter_mm)
    rod = sold[min(thinner, len(sold) - 1)]
    x = one.drilling.place_mm[0]
    body = bare_body(design)
    bored = any(b.drilling.side in ("nose", "tail") for b in design.body.bores)
    near = _near(body.vertices, x, design.shape.length_mm)
    room = (CLEAR_OF_BORE if bored else DEEPEST) * float(np.ptp(near[:, 2])) if len(near) else rod
    count = min(max(1, math.ceil(metal / rod**2 / room)), MOST_SLUGS)
    while count < MOST_SLUGS:
        row = _row(x, count, rod, design.shape.length_mm)
        if metal / count / rod**2 <= max(_room_under_wires(design, body, row) - OVER_MM, LEAST_SLUG_MM):
            break
        count += 1
    count = min(count + more, MOST_SLUGS)
    first = with_rod(one, rod, metal / count)
    made = []
    for number, at in enumerate(_row(x, count, rod, design.shape.length_mm)):
        place = (at, first.drilling.place_mm[1] if first.drilling else 0.0)
        name = "Belly slug" if count == 1 else f"Belly slug {number + 1}"
        drilling = replaced(first.drilling, place_mm=place) if first.drilling is not None else None
        made.append(replaced(first, name=name, drilling=drilling))
    return design.but(ballast=tuple(made))


def _near(vertices: NDArray[np.float64], x: float, long: float) -> NDArray[np.float64]:
    """The places (n, 3) of a body near x."""
    away = np.abs(vertices[:, 0] - x)
    return vertices[away <= max(0.06 * long, float(away.min()) + 0.1)]


def _row(x: float, count: int, rod: float, long: float) -> list[float]:
    """Where along the body so many slugs about x go in; a long row stays on the body."""
    apart = rod + max(1.5, 0.25 * rod)
    half = (count - 1) / 2.0 * apart
    if FORE * long + half < AFT * long - half:
        x = min(max(x, FORE * long + half), AFT * long - half)
    return [x - half + number * apart for number in range(count)]


def _room_under_wires(design: Design, body: Mesh, row: list[float]) -> float:
    """How deep holes from the belly may be at the least of some places before one comes to a wire over it, mm."""
    found = [_under_wires(design, x, belly_mm(body, x)) for x in row] if design.wires else []
    return min((f for f in found if not math.isnan(f)), default=math.inf)


def _lowest_wire(design: Design, from_mm: float) -> float:
    """The lowest underside of wires and shanks of screw eyes aft of a place, z, mm; far up without any."""
    shanks = [s for f in design.fittings if (s := shank(f)) is not None]
    # an eye in the belly or the back goes in across: it is no way aft
    lows = [
        min(float(a[2]), float(b[2])) - thick / 2.0
        for a, b, thick in shanks if max(a[0], b[0]) >= from_mm and abs(b[0] - a[0]) > abs(b[2] - a[2])
    ]  # fmt: skip
    for wire in design.wires:
        path = np.array(wire.path_mm)
        x = np.append(np.linspace(from_mm, design.shape.length_mm, 60), path[path[:, 0] >= from_mm, 0])
        lows.append(float(np.interp(x, path[:, 0], path[:, 2]).min()) - wire.bore_mm / 2.0)
    return min(lows, default=math.inf)


def _under_wires(design: Design, x: float, belly: float) -> float:
    """How deep a hole from the belly (its z, mm) may be at x before it comes to a wire that passes above it, mm."""
    free = math.inf
    for wire in design.wires:
        for (x0, _, z0), (x1, _, z1) in itertools.pairwise(wire.path_mm):
            if min(x0, x1) <= x <= max(x0, x1) and x1 != x0:
                z = z0 + (z1 - z0) * (x - x0) / (x1 - x0) - wire.bore_mm / 2.0 - NEAR_MM - belly
                free = min(free, z) if z > LEG_SHARE * -belly else free  # a leg down to a hanger: slugs go beside it
    return free


def timed(one: Ballast, times: float) -> Ballast:
    """A slug so many times as long, up to LONGEST_SLUG_MM; other ballast as it is."""
    if not isinstance(one.weight, Slug):
        return one
    return replaced(one, weight=replaced(one.weight, length_mm=min(one.weight.length_mm * times, LONGEST_SLUG_MM)))


def unleaded(design: Design) -> Design:
    """Slugs out of tungsten in the place of lead, as heavy."""
    new = []
    for one in design.ballast:
        if isinstance(one.weight, Slug) and one.weight.material == "lead" and one.drilling is not None:
            metal = one.weight.length_mm * one.weight.diameter_mm**2 * one.weight.density_g_ml
            other = replaced(one, weight=replaced(one.weight, material=UNLEADED, density_g_ml=TUNGSTEN_G_ML))
            thick = one.weight.diameter_mm * math.sqrt(one.weight.density_g_ml / TUNGSTEN_G_ML)
            new.append(with_rod(other, rods(UNLEADED, thick)[0], metal / TUNGSTEN_G_ML))
        else:
            new.append(one)
    return design.but(ballast=tuple(new))


def from_tail(design: Design, thinner: int = 0, more: int = 0, below: bool = False) -> Design:
    """The slug in a hole from the tail, of a rod that leaves wood about it there, or of so many sizes slimmer a one. Where a
    tail is too thin for any, near it from below."""
    one = design.ballast[0]
    if not isinstance(one.weight, Slug) or one.drilling is None:
        return design
    body, long = bare_body(design), design.shape.length_mm
    near = body.vertices[np.abs(body.vertices[:, 0] - (1.0 - AT_TAIL) * long) < 0.04 * long]
    most = TAIL_SHARE * float(np.ptp(near[:, 1:], axis=0).min()) if len(near) else one.weight.diameter_mm
    metal = one.weight.length_mm * one.weight.diameter_mm**2
    # of what goes into heavier stuff than wood, much will be cut off
    most_deep = (DEEP_FROM_TAIL if design.body.material.group == "wood" else HEAVY_FROM_TAIL) * long
    fits: list[Ballast] = []
    room = math.inf  # at most so thick a hole leaves wood about it
    sold = () if below else rods(one.weight.material, most)
    for rod in sorted((d for d in sold if d <= most), reverse=True):
        deep = round(metal / rod**2 + AT_TAIL * long, 1)
        if deep > most_deep:
            break
        slim = with_rod(one, rod, metal)
        assert isinstance(slim.weight, Slug) and slim.drilling is not None
        under = _lowest_wire(design, long - deep) - NEAR_MM - slim.drilling.diameter_mm / 2.0
        low = 0.0 if under > 0.0 else math.floor(10.0 * under - 0.5) / 10.0  # drilled in tenths of a millimetre
        drilling = Drilling(side="tail", place_mm=(0.0, low), diameter_mm=slim.drilling.diameter_mm, depth_mm=deep)
        if not fits:  # what is slimmer fits where one does
            if drilling.diameter_mm > room:
                continue
            try:
                hole = replace(place_hole(drilling, body, one.name), depth_mm=AT_TAIL * long)
            except BadShape:
                continue
            left = wall_mm(hole, body)[0]
            if left < 0.0:
                room = drilling.diameter_mm + 2.0 * left
                continue
        fits.append(replaced(slim, name="Tail slug", drilling=drilling))
    if fits:
        return design.but(ballast=(fits[min(thinner, len(fits) - 1)], *design.ballast[1:]))
    near = body.vertices[np.abs(body.vertices[:, 0] - NEAR_TAIL * long) < 0.04 * long]
    most = TAIL_SHARE * float(np.ptp(near[:, 1])) if len(near) else one.weight.diameter_mm
    slim = with_rod(one, min(one.weight.diameter_mm, most), metal)
    assert slim.drilling is not None
    lain = replaced(slim, drilling=replaced(slim.drilling, place_mm=(NEAR_TAIL * long, one.drilling.place_mm[1])))
    return rodded(design.but(ballast=(lain, *design.ballast[1:])), thinner, more)
