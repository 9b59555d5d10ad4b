"""The first design of a kind at a size: the starter with hardware from the shelf, its slugs brought to mass and pitch."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from yellowbob.design.base import replaced
from yellowbob.design.brief import Span, Water
from yellowbob.design.files import read_design
from yellowbob.design.model import Ballast, Design, Drilling, Kind, Slug
from yellowbob.ground.errors import BadInput
from yellowbob.lines.drill import Hole
from yellowbob.lines.hole_walls import wall_mm
from yellowbob.shelf.fitting import fitting_from, hook_like, swapped
from yellowbob.shelf.shipped import hardware, hooks
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked, starter_file
from yellowbob.trials.at_size import at_size, renamed, rods, with_rod
from yellowbob.trials.balancing import AFT, FORE
from yellowbob.trials.made_of import hollowed, in_stuff
from yellowbob.trials.outlined import in_outline
from yellowbob.trials.screwed import with_screw_eyes

TAIL_DOWN = Span(least=40.0, most=89.0)
"""How what is weighted at its tail usually sits, degrees nose-up."""
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
SPENT = 0.3
"""A heavy body has at least this share of what it could still carry put in as ballast: less does not set how it sits."""
LONGEST_SLUG_MM = 1000.0
FULLEST = 0.97
WITHIN = 0.004
"""So far within what the rod throws it is made, of the most: slugs are cut to tenths of a millimetre."""


@dataclass(frozen=True)
class Way:
    """How a candidate differs from the likeliest: sizes of its hooks, which rod, how many more slugs, how heavy, whether its
    finish and props are light ones, and of a print how much of its
    depth is solid, of resin how dense it is poured; whether slugs for the tail go in near it from below."""

    hooks: int = 0
    rod: int = 0
    slugs: int = 0
    share: float = 1.0
    light: bool = False
    keel: int = 0
    below: bool = False


def started_from(asked: Asked, way: Way = Way(), times: float = 1.0) -> Design:
    """The starter of a kind at the length asked for, in its wood and water, hooks as asked; not yet in balance. times: as
    much metal as the starter's."""
    first = read_design(starter_file(asked.kind))
    sized = at_size(first, asked.length_mm / first.shape.length_mm, way.hooks)
    notes = ""
    if asked.outline is not None:
        cut = len(sized.body.cuts)
        sized = in_outline(sized, asked.outline)
        notes = (
            "" if len(sized.body.cuts) == cut else "These outlines come to a point where its cup would be: it has none."
        )
    sized = in_stuff(sized, asked, way.keel)
    if asked.hooks:
        sized = _hooked(sized, asked.hooks)
    if asked.hung_by == "screw eyes":
        sized = with_screw_eyes(sized)
    if not asked.lead:
        sized = _unleaded(sized)
    if way.light:
        sized = lightened(sized)
    if times != 1.0:
        sized = sized.but(ballast=(_times(sized.ballast[0], times), *sized.ballast[1:]))
    sized = _from_tail(sized, way) if asked.weight == "tail" else rodded(sized, way)
    if asked.weight == "tail" and not any(b.drilling is not None and b.drilling.side == "tail" for b in sized.ballast):
        notes = (
            f"{notes} Its tail takes no hole from its end that would do: the slugs go in near it from below.".strip()
        )
    sized = hollowed(sized, asked, way.keel)
    usual = TAIL_DOWN if asked.weight == "tail" else first.brief.pitch_deg
    brief = replaced(first.brief, mass_g=asked.mass_g, tackle_g=asked.tackle_g, pitch_deg=asked.pitch_deg or usual)
    name = asked.name or f"{asked.kind.capitalize()} {asked.length_mm:g}"
    water = Water(name=asked.water, temperature_c=asked.temperature_c)
    return sized.but(name=name, brief=brief, water=water, notes=notes)


@cache
def _laden(kind: Kind) -> float:
    """The share of its lift that the starter of a kind weighs."""
    there = of.buoyancy(Study(read_design(starter_file(kind))))
    return there.mass_g / there.lift_g


def wanted_g(asked: Asked, lift_g: float, bare_g: float, share: float) -> float:
    """The finished mass to aim at: the brief's, else as much of its lift as the starter carries, within what the rod
    throws."""
    if asked.mass_g is not None:
        return asked.mass_g.middle
    mass = share * lift_g * _laden(asked.kind)
    if asked.tackle_g is not None:
        within = min(WITHIN * asked.tackle_g.most, (asked.tackle_g.most - asked.tackle_g.least) / 2.0)
        mass = min(max(mass, asked.tackle_g.least + within), asked.tackle_g.most - within)
    return min(max(mass, bare_g + share * SPENT * (lift_g - bare_g)), FULLEST * lift_g)


def rodded(design: Design, way: Way) -> Design:
    """The starter's slug out of the rod that the way says, cut into several where one would be too long for the body."""
    one = design.ballast[0]
    if not isinstance(one.weight, Slug) or one.drilling is None:
        return design
    metal = one.weight.length_mm * one.weight.diameter_mm**2
    sold = rods(one.weight.material, one.weight.diameter_mm)
    rod = sold[min(way.rod, len(sold) - 1)]
    x = one.drilling.place_mm[0]
    vertices = of.outer(Study(design.but(ballast=(), wires=(), fittings=()))).vertices
    away = np.abs(vertices[:, 0] - x)
    near = vertices[away <= max(0.06 * design.shape.length_mm, float(away.min()) + 0.1)]
    bored = any(b.drilling.side in ("nose", "tail") for b in design.body.bores)
    room = (CLEAR_OF_BORE if bored else DEEPEST) * float(np.ptp(near[:, 2])) if len(near) else rod
    count = min(max(1, math.ceil(metal / rod**2 / room)) + way.slugs, MOST_SLUGS)
    first = with_rod(one, rod, metal / count)
    apart = rod + max(1.5, 0.25 * rod)
    half, long = (count - 1) / 2.0 * apart, design.shape.length_mm
    if FORE * long + half < AFT * long - half:  # a long row stays on the body
        x = min(max(x, FORE * long + half), AFT * long - half)
    made = []
    for number in range(count):
        place = (x + (number - (count - 1) / 2.0) * apart, first.drilling.place_mm[1] if first.drilling else 0.0)
        name = "Belly slug" if count == 1 else f"Belly slug {number + 1}"
        drilling = replaced(first.drilling, place_mm=place) if first.drilling is not None else None
        made.append(replaced(first, name=name, drilling=drilling))
    return design.but(ballast=tuple(made))


def _times(one: Ballast, times: float) -> Ballast:
    if not isinstance(one.weight, Slug):
        return one
    return replaced(one, weight=replaced(one.weight, length_mm=min(one.weight.length_mm * times, LONGEST_SLUG_MM)))


def lightened(design: Design) -> Design:
    """One coat where there were two, props of aluminium: what makers do when every tenth of a gram counts."""
    new = []
    for one in design.fittings:
        other = hardware().get(one.stock.replace("brass", "aluminium")) if one.sort == "prop" else None
        if other is None:
            new.append(one)
            continue
        made = fitting_from(other, one.at_mm, one.name)
        new.append(replaced(made, hand=one.hand, play_mm=one.play_mm, blade_deg=one.blade_deg, aim_deg=one.aim_deg))
    coats = tuple(replaced(c, coats=max(1, c.coats // 2)) for c in design.coats)
    return design.but(fittings=tuple(new), coats=coats)


def _hooked(design: Design, size: str) -> Design:
    """Every hook of the size asked for, of the sort it is. Raises BadInput for one that the shelf does not have."""
    new = []
    for one in design.fittings:
        now = hook_like(one, hooks())
        if now is None:
            new.append(one)
            continue
        alike = [h for h in hooks().values() if h.sort == now.sort and h.dressed == now.dressed]
        found = next((h for h in alike if h.size == size), None)
        if found is None:
            there = ", ".join(h.size for h in alike)
            raise BadInput(f"no {now.sort} of size '{size}' is on the shelf; there are {there}")
        new.append(renamed(swapped(one, found, now), found))
    return design.but(fittings=tuple(new))


def _unleaded(design: Design) -> Design:
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


def _from_tail(design: Design, way: Way) -> Design:
    """The slug in a hole from the tail, of a rod that leaves wood about it there, or of so many sizes slimmer a one. Where a
    tail is too thin for any, near it from below."""
    one = design.ballast[0]
    if not isinstance(one.weight, Slug) or one.drilling is None:
        return design
    body, long = of.outer(Study(design.but(ballast=(), wires=(), fittings=()))), design.shape.length_mm
    near = body.vertices[np.abs(body.vertices[:, 0] - (1.0 - AT_TAIL) * long) < 0.04 * long]
    most = TAIL_SHARE * float(np.ptp(near[:, 1:], axis=0).min()) if len(near) else one.weight.diameter_mm
    metal = one.weight.length_mm * one.weight.diameter_mm**2
    # of what goes into heavier stuff than wood, much will be cut off
    most_deep = (DEEP_FROM_TAIL if design.body.material.group == "wood" else HEAVY_FROM_TAIL) * long
    fits: list[Ballast] = []
    room = math.inf  # at most so thick a hole leaves wood about it
    sold = () if way.below else rods(one.weight.material, most)
    for rod in sorted((d for d in sold if d <= most), reverse=True):
        deep = round(metal / rod**2 + AT_TAIL * long, 1)
        if deep > most_deep:
            break
        slim = with_rod(one, rod, metal)
        assert isinstance(slim.weight, Slug) and slim.drilling is not None
        drilling = Drilling(side="tail", place_mm=(0.0, 0.0), diameter_mm=slim.drilling.diameter_mm, depth_mm=deep)
        if not fits:  # what is slimmer fits where one does
            if drilling.diameter_mm > room:
                continue
            hole = Hole((float(body.bounds[1, 0]), 0.0, 0.0), (-1.0, 0.0, 0.0), drilling.diameter_mm, AT_TAIL * long)
            left = wall_mm(hole, body)[0]
            if left < 0.0:
                room = drilling.diameter_mm + 2.0 * left
                continue
        fits.append(replaced(slim, name="Tail slug", drilling=drilling))
    if fits:
        return design.but(ballast=(fits[min(way.rod, len(fits) - 1)], *design.ballast[1:]))
    near = body.vertices[np.abs(body.vertices[:, 0] - NEAR_TAIL * long) < 0.04 * long]
    most = TAIL_SHARE * float(np.ptp(near[:, 1])) if len(near) else one.weight.diameter_mm
    slim = with_rod(one, min(one.weight.diameter_mm, most), metal)
    assert slim.drilling is not None
    below = replaced(slim, drilling=replaced(slim.drilling, place_mm=(NEAR_TAIL * long, one.drilling.place_mm[1])))
    return rodded(design.but(ballast=(below, *design.ballast[1:])), way)
