"""The first design of a kind at a size: the starter with hardware from the shelf, its slugs brought to mass and pitch."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from yellowbob.design.base import replaced
from yellowbob.design.brief import Span, Water
from yellowbob.design.files import read_design
from yellowbob.design.model import Design, Kind
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import fitting_from, hook_like, swapped
from yellowbob.shelf.shipped import hardware, hooks
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked, starter_file
from yellowbob.trials.at_size import at_size, renamed
from yellowbob.trials.legs import with_legs_moved
from yellowbob.trials.made_of import hollowed, in_stuff
from yellowbob.trials.outlined import in_outline
from yellowbob.trials.screwed import with_screw_eyes
from yellowbob.trials.slugs import from_tail, rodded, timed, unleaded

TAIL_DOWN = Span(least=40.0, most=89.0)
"""How what is weighted at its tail usually sits, degrees nose-up."""
LEG_STEP = 0.075
"""A step that legs are moved by, as a share of the length."""
SPENT = 0.3
"""A heavy body has at least this share of what it could still carry put in as ballast: less does not set how it sits."""
FULLEST = 0.97
WITHIN = 0.004
"""So far within what the rod throws it is made, of the most: slugs are cut to tenths of a millimetre."""


@dataclass(frozen=True)
class Way:
    """How a candidate differs from the likeliest: sizes of its hooks, which rod, how many more slugs, how heavy, whether its
    finish and props are light ones, and of a print how much of its
    depth is solid, of resin how dense it is poured; whether slugs for the tail go in near it from below; where in the range
    of pitch it is brought to, 0 to 1; by how many steps the legs of its wire stand further aft."""

    hooks: int = 0
    rod: int = 0
    slugs: int = 0
    share: float = 1.0
    light: bool = False
    keel: int = 0
    below: bool = False
    aim: float = 0.5
    legs: int = 0


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
    if way.legs:
        sized = with_legs_moved(sized, way.legs * LEG_STEP * asked.length_mm)
    if not asked.lead:
        sized = unleaded(sized)
    if way.light:
        sized = lightened(sized)
    if times != 1.0:
        sized = sized.but(ballast=(timed(sized.ballast[0], times), *sized.ballast[1:]))
    sized = (
        from_tail(sized, way.rod, way.slugs, way.below) if asked.weight == "tail" else rodded(sized, way.rod, way.slugs)
    )
    if asked.weight == "tail" and not any(b.drilling is not None and b.drilling.side == "tail" for b in sized.ballast):
        notes = (
            f"{notes} Its tail takes no hole from its end that would do: the slugs go in near it from below.".strip()
            + (" Hung by screw eyes there would be more room for them than under its wire." if sized.wires else "")
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
