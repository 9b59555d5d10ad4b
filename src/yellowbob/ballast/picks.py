"""Picks from the shelf: the shot or slug, and the hole, that bring a build to its pose; each put through the full solve."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from yellowbob.ballast.drillable import Drillable, Judge
from yellowbob.ballast.fitting import AfloatOf, Try, first_hole, fits, fitted, tries
from yellowbob.ballast.locus import Locus, Room, locus_of
from yellowbob.ballast.pose import Posed
from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.model import Ballast, Design, Filler, Shot
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import Told, each, tell, unheard
from yellowbob.lines.drill import place_hole
from yellowbob.shelf.items import BallastStock
from yellowbob.weights.ballast import stack_length_mm, weight_mass_g

Array = NDArray[np.float64]

TRIED = 18
MOST_OFF_DEG = 6.0
MOST_OFF_MM = 3.0


@dataclass(frozen=True)
class Pick:
    """One way to ballast a pose. `ballast` goes into the design as it is; the figures are from the full solve of it.

    miss_pitch_deg, miss_draft_mm : solved less wanted. left : how many of its stock are left after (None: not counted).
    """

    ballast: tuple[Ballast, ...]
    words: str
    mass_g: float
    centres_mm: tuple[tuple[float, float, float], ...]
    at_rest: Settled
    miss_pitch_deg: float
    miss_draft_mm: float
    lead: bool
    left: float | None = None
    drilled: tuple[Drillable, ...] = ()

    @property
    def masses_g(self) -> tuple[float, ...]:
        """Of each ballast in it, g."""
        return tuple(weight_mass_g(b.weight) for b in self.ballast)

    @property
    def score(self) -> float:
        """Lower is better: how near the pose, how well it rights, how few holes and how easily drilled: a rule."""
        near = abs(self.miss_pitch_deg) / 0.5 + abs(self.miss_draft_mm) / 0.4
        rights = 8.0 * (1.0 - (self.at_rest.landing_share or 0.0)) - 0.15 * min(self.at_rest.gm_min_mm, 6.0)
        return near + rights + 0.5 * (len(self.ballast) - 1) + sum(d.cost for d in self.drilled)


def words_of(ballast: Ballast) -> str:
    """What to do, in a line."""
    weight, drilling = ballast.weight, ballast.drilling
    what = (
        f"{weight.count} × {ballast.stock}" if isinstance(weight, Shot) else f"{ballast.stock}, {weight.length_mm:g} mm"
    )
    if drilling is None:
        return what
    at = drilling.place_mm[0] if drilling.side == "belly" else drilling.place_mm[1]
    where = f"{'x' if drilling.side == 'belly' else 'z'} {at:g}".replace("-", "−")
    lean = f", leaning {drilling.lean_deg:g}°".replace("-", "−") if drilling.lean_deg else ""
    return f"{what}; {drilling.side} hole at {where} mm, {drilling.diameter_mm:g} × {drilling.depth_mm:g} mm deep{lean}"


Reasons = Counter[str]
"""Why what was tried is no pick: words, and how often."""


def drilled_of(ballast: tuple[Ballast, ...], room: Room, judge: Judge) -> tuple[Drillable, ...] | str:
    """How well the holes can be drilled; the reason in words where one of them cannot."""
    found = tuple(judge(place_hole(b.drilling, room.body, b.name)) for b in ballast if b.drilling is not None)
    return next((d.refused for d in found if d.refused), found)


def judged(
    design: Design, ballast: tuple[Ballast, ...], posed: Posed, room: Room, afloat_of: AfloatOf, judge: Judge,
    reasons: Reasons,
) -> Pick | None:  # fmt: skip
    """Put a ballasting through the full solve; None, with the reason counted, when it cannot be drilled or does not sit
    near the pose."""
    drilled = drilled_of(ballast, room, judge)
    if isinstance(drilled, str):
        reasons[drilled] += 1
        return None
    try:
        loaded = afloat_of(design.but(ballast=(*design.ballast, *ballast)))
        up = posed.water.up
        first = settled(loaded, (float(up[0]), float(up[1]), float(up[2])))
    except (YellowBobError, ValueError):
        reasons["it cannot be built so"] += 1
        return None
    if first.rest is None:
        reasons["it sinks with it"] += 1
        return None
    pitch = math.degrees(math.asin(-float(up[0])))
    miss_pitch, miss_draft = first.pitch_deg - pitch, first.draft_mm - posed.draft_mm
    if abs(miss_pitch) > MOST_OFF_DEG or abs(miss_draft) > MOST_OFF_MM or float(np.dot(first.rest.up, up)) < 0.9:
        reasons["it settles elsewhere"] += 1
        return None
    solved = settled(loaded, first.rest.up, shares=True)
    centres = []
    for one in ballast:
        if one.drilling is None:
            centres.append(one.at_mm or (0.0, 0.0, 0.0))
            continue
        hole = place_hole(one.drilling, room.body, one.name)
        at = hole.at_depth(hole.depth_mm - stack_length_mm(one.weight, hole.diameter_mm) / 2)
        centres.append((float(at[0]), float(at[1]), float(at[2])))
    return Pick(
        ballast, " and ".join(words_of(b) for b in ballast), sum(weight_mass_g(b.weight) for b in ballast),
        tuple(centres), solved, miss_pitch, miss_draft, any(b.weight.material == "lead" for b in ballast), drilled=drilled,
    )  # fmt: skip


def picks(
    design: Design, posed: Posed, room: Room, shelf: dict[str, BallastStock], counts: dict[str, float], plug: Filler,
    afloat_of: AfloatOf, judge: Judge, most: int = 8, reasons: Reasons | None = None, told: Told = unheard,
) -> list[Pick]:  # fmt: skip
    """Ways to ballast a pose from the shelf, best first; every figure is of the full solve of the very same ballast.

    design : without the ballast in question; posed, room : of that design; counts : pieces, or mm of rod, that lie there;
    judge : of how well a hole can be drilled; reasons : counts why what was tried is none.
    """
    why: Reasons = Counter() if reasons is None else reasons
    if posed.ballast_g <= 0.0:
        return []
    wood = design.body.density_g_ml
    known: dict[float, Locus] = {}
    found: list[tuple[float, Ballast, Try]] = []
    every = sorted(tries(posed, wood, plug.density_g_ml, shelf, counts), key=lambda t: t.off)
    if not every:
        why["nothing that lies there comes within 12 % of the mass"] += 1
    for one in each(every, told, 0.0, 0.3):
        if one.bit_mm not in known:
            known[one.bit_mm] = locus_of(posed, room, one.bit_mm / 2)
        ballast = first_hole(design, one, posed, room, plug, known[one.bit_mm])
        if ballast is None:
            why["its place on the line cannot be drilled to from the belly or the tail"] += 1
        elif not fits(ballast, room, posed):
            why["its hole would leave too little wall, or meet a wire, a slot or another hole"] += 1
        else:
            stout = stack_length_mm(one.weight, one.bit_mm) / one.bit_mm
            found.append((one.off * 30.0 + abs(stout - 2.0) * 0.2 + (one.side == "tail") * 0.3, ballast, one))
    found.sort(key=lambda t: t[0])
    out: list[Pick] = []
    kinds: dict[tuple[str, str], int] = {}
    for _, ballast, one in found:
        tell(told, 0.3 + 0.7 * len(out) / TRIED)
        kind = (one.stock.material, one.stock.form)
        if kinds.get(kind, 0) >= 3:
            continue
        unfit = drilled_of((ballast,), room, judge)
        if isinstance(unfit, str):
            why[unfit] += 1
            continue
        kinds[kind] = kinds.get(kind, 0) + 1
        done = fitted(design, ballast, posed, afloat_of, room)
        if done is None or not fits(done, room, posed):
            why["cut to the mass it needs, it no longer fits its hole"] += 1
            continue
        pick = judged(design, (done,), posed, room, afloat_of, judge, why)
        if pick is not None:
            have = counts.get(one.stock.name)
            used = done.weight.count if isinstance(done.weight, Shot) else done.weight.length_mm
            out.append(replace(pick, left=None if have is None else have - used))
        if len(out) >= TRIED:
            break
    return sorted(out, key=lambda p: p.score)[:most]
