"""How a float shows bites: shot by shot as they register, a lift of the lowest shot, a thinner tip, a slimmer body."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.afloat.line import UP_TIP, Cocking, Step, capacity, state_of, submerged_g, tip_mm, under_load
from yellowbob.afloat.rest import rest_near
from yellowbob.design.model import Design
from yellowbob.design.shape import Turned
from yellowbob.design.stack_edits import wider
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of

THINNER, SLIMMER = 0.8, 0.9
"""How much thinner a tip, and how much slimmer a body, is tried."""


@dataclass(frozen=True)
class Registered:
    """How it sits when one more piece of the line has registered: what it was, the pull so far (g), pitch and tip."""

    name: str
    load_g: float
    pitch_deg: float
    tip_mm: float
    state: str


@dataclass(frozen=True)
class OtherShape:
    """What another shape would show: in words, tip movement per 0.01 g (mm), capacity (g)."""

    words: str
    mm_per_cg: float
    capacity_g: float


@dataclass(frozen=True)
class Sensitivity:
    """By shot in the order they register; the tip's rise when the lowest shot is lifted; what other shapes would show."""

    by_shot: tuple[Registered, ...]
    lift_name: str
    lift_mm: float | None
    changes: tuple[OtherShape, ...]


def _at(found: Cocking, load_g: float) -> Step:
    """The followed step at or just under a load."""
    return max((s for s in found.steps if s.load_g <= load_g + 1e-9), key=lambda s: s.load_g)


def sensitivity(study: Study) -> Sensitivity:
    """Work it out for the line as it is. Raises BadInput for what sinks by itself."""
    build, at, found = of.unloaded(study), of.line_at(study), of.cocked(study)
    water, rig = 1000.0 * of.water_density(study), of.rig(study)

    def sits(load: float, name: str) -> Registered:
        step = _at(found, load)
        up = step.rest.up if step.state != "stands" else UP_TIP
        rest = rest_near(under_load(build, load, at), up)
        pitch, state = math.degrees(rest.pitch_rad), state_of(rest.pitch_rad, math.radians(found.stands_pitch_deg))
        return Registered(name, load, pitch, tip_mm(build, rest.up, rest.height_mm), state)

    rows, load = [sits(0.0, "bare")], 0.0
    for one in rig.hung if rig is not None else ():
        for _ in range(one.count):
            load += submerged_g(one.mass_g, one.density_g_ml, water)
            if load >= found.sinks_at_g:
                break
            rows.append(sits(max(load, 0.0), one.name))
    lowest = max((h for h in (rig.hung if rig is not None else ()) if h.role not in ("hook", "bait", "leader")),
                 key=lambda h: h.below_mm, default=None)  # fmt: skip
    lift: float | None = None
    if lowest is not None and 0.0 < load < found.sinks_at_g:
        lifted = load - submerged_g(lowest.mass_g, lowest.density_g_ml, water)
        lift = sits(max(lifted, 0.0), "").tip_mm - rows[-1].tip_mm
    return Sensitivity(tuple(rows), lowest.name if lowest is not None else "", lift, _changes(study))


def _changes(study: Study) -> tuple[OtherShape, ...]:
    design, wanted = study.build, of.tip_wanted_mm(study)
    tried: list[tuple[str, Design]] = [("as it is", design)]
    tips = [
        n for n, p in enumerate(design.pieces) if n > 0 and isinstance(p.shape, Turned) and p.at_mm[0] < 0.0
    ]  # fmt: skip
    if tips:
        first = min(tips, key=lambda n: design.pieces[n].at_mm[0])
        tried.append((f"{design.pieces[first].name} a fifth thinner", wider(design, first, THINNER)))
    if isinstance(design.shape, Turned):
        tried.append((f"{design.body.name} a tenth slimmer", wider(design, 0, SLIMMER)))
    out = []
    for words, other in tried:
        made = Study(other, study)
        try:
            carried = capacity(of.unloaded(made), of.line_at(made), wanted)
        except YellowBobError:
            continue
        out.append(OtherShape(words, carried.mm_per_cg, carried.load_g))
    return tuple(out)
