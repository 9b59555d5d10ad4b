"""Pulled otherwise than straight down: a load that draws aslant, a dropper drawn home. Estimates, by the running trim."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from yellowbob.action.running import FASTEST_M_S, Pulled, Run, Trim, run
from yellowbob.afloat.line import under_load
from yellowbob.afloat.rest import Rest, rest_near
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.study import Study, of

LEAST_DEG, MOST_DEG = 1.0, 90.0
CLOSE_G = 1e-6
HALVINGS = 60


@dataclass(frozen=True)
class Aslant:
    """Under a pull that leans from straight down: the float is drawn along until the water holds it back as much.

    trim: how it sits; its speed is that of the water past it, drifting or held in a current. unloaded otherwise.
    """

    load_g: float
    from_down_deg: float
    trim: Trim


def aslant(study: Study, load_g: float, from_down_deg: float) -> Aslant:
    """A pull of so many grams at the line's point, leaning from straight down towards the tip's side.

    Its level part is borne by the stream's drag (`pressure`), graded rule; its downward part as in still water. Raises
    BadInput for a pull or an angle out of range, or one that draws it under.
    """
    if not (math.isfinite(load_g) and load_g > 0.0):
        raise BadInput(f"a pull of {load_g:g} g: want more than nothing")
    if not LEAST_DEG <= from_down_deg <= MOST_DEG:
        raise BadInput(f"a pull {from_down_deg:g}° from straight down: give {LEAST_DEG:g} to {MOST_DEG:g}")
    build, at = of.unloaded(study), of.line_at(study)
    if not build.floats:
        raise NoRest("it sinks by itself: no pull is borne")
    aside, lean = load_g * math.sin(math.radians(from_down_deg)), math.radians(from_down_deg)
    # the downward part is a weight at the line's point; the level part draws it along, as a level line there does
    loaded = under_load(build, load_g * math.cos(lean), at)
    start = rest_near(loaded, of.wanted_up(study))
    thing = Pulled(loaded, of.pulled(study).skins, at)
    slow, fast = 0.0, 0.05
    while (found := run(thing, start, [fast])).trims and found.trims[0].pull_g < aside:
        slow, fast = fast, min(1.5 * fast, FASTEST_M_S)
        if slow == FASTEST_M_S:
            raise BadInput(f"{load_g:g} g is more than the water holds against up to {FASTEST_M_S:g} m/s")
    for _ in range(HALVINGS):
        middle = (slow + fast) / 2.0
        found = run(thing, start, [middle])
        if found.trims and abs(found.trims[0].pull_g - aside) < CLOSE_G * max(aside, 1e-3):
            return Aslant(load_g, from_down_deg, found.trims[0])
        if not found.trims or found.trims[0].pull_g > aside:
            fast = middle
        else:
            slow = middle
    how = found.ends or "is drawn under or turns over"
    raise BadInput(f"{load_g:g} g, {from_down_deg:g}° from straight down, are not borne: at {slow:.2f} m/s it {how}")


def drawn_home(study: Study, load_g: float, speed_m_s: float) -> tuple[Rest, Run]:
    """A dropper with a load hanging where the line leaves it, drawn by the line at its front end; its rest with the load.

    Raises BadInput for a speed out of range, NoRest for a load that draws it under.
    """
    if not (math.isfinite(speed_m_s) and 0.0 < speed_m_s <= FASTEST_M_S):
        raise BadInput(f"a speed of {speed_m_s:g} m/s: give more than 0, at most {FASTEST_M_S:g}")
    loaded = under_load(of.unloaded(study), load_g, of.line_at(study))
    start = rest_near(loaded, of.wanted_up(study))
    vertices = of.hull(study).vertices
    x, y, z = vertices[vertices[:, 0] < vertices[:, 0].min() + 1e-6].mean(axis=0)
    own = replace(of.pulled(study), afloat=loaded, tie_mm=(float(x), float(y), float(z)))
    return start, run(own, start, [speed_m_s])
