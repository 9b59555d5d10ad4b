"""A first sound design for a brief: a starter of its kind at that size, hardware from the shelf, ballast by the full solve.

Sizes of hooks, rods and how heavy it is are tried in order until every check passes; where none does, the one that comes
nearest, with what stands against it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cache

from yellowbob.checks.registry import verdicts
from yellowbob.checks.verdict import CHECKS, Verdict
from yellowbob.design.base import replaced
from yellowbob.design.brief import Span
from yellowbob.design.model import STANDING, Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import Told, tell, unheard
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked
from yellowbob.trials.balancing import balanced, gained_g
from yellowbob.trials.first_design import Way, started_from, wanted_g
from yellowbob.trials.standing import float_of

KEELS = {"wood": (0, 0), "print": (-2, 3), "resin": (-3, 0)}
"""Within which steps the keel of a print, or the density of resin, is tried otherwise."""
FULL_TRIES, QUICK_TRIES, PRINT_TRIES, STALE, STALE_AT_WIRES = 2, 9, 4, 2, 6
"""So many candidates are checked wholly, so many floated, so many one after another that fail alike: bounds on the work."""
LIKE_STARTER = 1.15
"""Up to which share of the starter's metal its slugs are as many."""
NEARLY = 0.7
"""So much of the brief's range of pitch is used to keep slugs clear of a wire."""
KEPT = 3
"""Of so many candidates' bodies the results are kept."""
QUICK = ("floats", "sits", "reserve", "mass", "casts", "lists", "top", "ballast", "plug", "cover", "wire", "hooks", "line",
         "struck", "hook-up", "wall", "drill", "met", "waters")  # fmt: skip


def _hooks_down(way: Way) -> Way:
    return replace(way, hooks=way.hooks - 1)


def _heavier(way: Way) -> Way:
    return replace(way, share=round(way.share * 1.07, 4))


def _lighter(way: Way) -> Way:
    return replace(way, share=round(way.share * 0.93, 4))


def _more_slugs(way: Way) -> Way:
    return replace(way, slugs=way.slugs + 1)


def _many_slugs(way: Way) -> Way:
    return replace(way, slugs=way.slugs + 3)


def _other_rod(way: Way) -> Way:
    return replace(way, rod=way.rod + 1)


def _from_below(way: Way) -> Way:
    return replace(way, below=True, rod=0)


def _aft(way: Way) -> Way:
    return replace(way, aim=0.5 + NEARLY / 2.0)


def _fore(way: Way) -> Way:
    return replace(way, aim=0.5 - NEARLY / 2.0)


def _legs_fore(way: Way) -> Way:
    return replace(way, legs=way.legs - 1)


def _legs_aft(way: Way) -> Way:
    return replace(way, legs=way.legs + 1)


def _light(way: Way) -> Way:
    return replace(way, light=True)


def _less_keel(way: Way) -> Way:
    return replace(way, keel=way.keel - 1)


def _more_keel(way: Way) -> Way:
    return replace(way, keel=way.keel + 1)


Amend = Callable[[Way], Way]
AMENDS: dict[str, tuple[Amend, ...]] = {
    "floats": (_less_keel, _hooks_down, _light), "reserve": (_less_keel, _lighter, _hooks_down, _light),
    "waters": (_less_keel, _lighter, _hooks_down), "sits": (_from_below, _less_keel, _hooks_down, _lighter, _heavier),
    "mass": (_less_keel, _hooks_down, _light), "casts": (_hooks_down,), "hooks": (_hooks_down,),
    "line": (_hooks_down,), "struck": (_hooks_down,), "hook-up": (_hooks_down, _other_rod),
    "wall": (_more_keel, _more_slugs, _other_rod), "drill": (_from_below, _more_keel, _more_slugs, _other_rod),
    "cover": (_more_keel,
        _other_rod, _more_slugs), "plug": (_more_keel, _other_rod, _more_slugs),
    "ballast": (_from_below, _more_keel, _more_slugs, _other_rod), "wire": (_more_slugs, _legs_fore, _aft, _many_slugs,
        _from_below, _fore, _legs_aft),
    "met": (_more_keel, _many_slugs, _other_rod, _more_slugs), "upright": (_less_keel, _more_slugs, _heavier, _lighter),
    "lists": (_from_below, _less_keel, _heavier,
        _more_slugs), "stiff": (_less_keel, _heavier, _more_slugs),
    "top": (_less_keel, _heavier, _more_slugs), "knock": (_heavier, _more_slugs),
    "steady": (_from_below, _more_slugs, _heavier, _lighter, _hooks_down), "digs": (_less_keel, _lighter, _hooks_down),
    "holds": (_heavier,), "torque": (_heavier, _more_slugs), "keel": (_heavier, _more_slugs),
    "blades": (_heavier, _lighter), "tumbles": (_lighter, _heavier), "drains": (_lighter, _heavier),
    "air": (_heavier, _lighter),
}  # fmt: skip
"""By the check that fails, what is tried to mend it, the likeliest first."""


@dataclass(frozen=True, eq=False)
class Answer:
    """A design with what every check says of it. reason: why none could be sound, of the nearest; "" where it is."""

    design: Design
    verdicts: tuple[Verdict, ...]
    reason: str

    @property
    def sound(self) -> bool:
        """Whether every check passes."""
        return not self.reason


def answered(asked: Asked, told: Told = unheard) -> Answer:
    """A first design for a brief. Raises BadInput for what the shelf does not know, or a school that its kind cannot have."""
    if asked.kind in STANDING:
        return judged(Study(float_of(asked)))
    kept: list[Study] = []
    why = cannot(asked, kept)
    if why:
        return replace(judged(kept[-1]), reason=why)

    @cache
    def from_tail() -> bool:
        first = started_from(asked, Way()).ballast if asked.weight == "tail" else ()
        return any(b.drilling is not None and b.drilling.side == "tail" for b in first)

    def free(way: Way) -> bool:
        low, high = KEELS[asked.made]
        if not low <= way.keel <= high:
            return False
        if (way.below and not from_tail()) or (way.slugs and not way.below and from_tail()):
            return False  # there is one hole from the tail
        return not (asked.hooks and way.hooks) and not (asked.mass_g is not None and way.share != 1.0)

    tries = QUICK_TRIES if asked.made != "print" else PRINT_TRIES  # a hollow takes long to make
    found = sought(lambda way: _made(asked, way, kept), free, told, tries)
    # where no ballast could be put in at all, the bare build says why
    return found or judged(Study(started_from(asked, Way()).but(ballast=())))


SIZES_DOWN = 3
"""Smaller hooks than so many sizes do not make a body light enough that is not."""
ROOMY = 0.9
"""A build fills so much of its lift at most, to be advised."""


def cannot(asked: Asked, kept: list[Study]) -> str:
    """Why nothing of that kind and length can have the mass asked for, with the length that could; "" where it can.
    kept: gets a study of what was looked at, bare of ballast."""
    wanted = asked.mass_g or asked.tackle_g
    if wanted is None:
        return ""
    lightest = Way(light=True, hooks=0 if asked.hooks else -SIZES_DOWN, keel=KEELS[asked.made][0])
    kept[:] = [Study(started_from(asked, lightest).but(ballast=()))]
    lift = of.buoyancy(kept[-1])
    if wanted.least >= lift.lift_g:
        long = asked.length_mm * (wanted.least / (ROOMY * lift.lift_g)) ** (1.0 / 3.0)
        told = f"it pushes aside {lift.lift_g:.2f} g, so it cannot weigh {wanted.least:g} g and float"
        return f"{told}: make it {long:.0f} mm long"
    if lift.mass_g > wanted.most:
        told = f"it weighs {lift.mass_g:.2f} g at its lightest, before any ballast, and {wanted.most:g} g are wanted"
        return f"{told}: a shorter one, lighter wood or smaller hooks"
    return ""


def sought(
    make: Callable[[Way], Study | None], free: Callable[[Way], bool] = lambda way: True, told: Told = unheard,
    tries: int = QUICK_TRIES,
) -> Answer | None:  # fmt: skip
    """Ways tried from the likeliest on, each mended by the check that fails first, until a design is sound; else the
    nearest, None where none could be made. make: a study of a candidate, None where no ballast brings it to its pose."""
    waiting, seen = [Way()], {Way()}
    nearest: tuple[int, Study] | None = None
    full: list[Answer] = []
    stale, at_wires = 0, False
    for number in range(tries):
        if not waiting or len(full) >= FULL_TRIES:
            break
        tell(told, 1.0 - 0.85**number)
        way = waiting.pop(0)
        made = make(way)
        failed = ["sits"] if made is None else _failed(made)
        stale += 1
        if made is not None and (nearest is None or len(failed) < nearest[0]):
            nearest, stale = (len(failed), made), 0
        at_wires = at_wires or "wire" in failed
        if stale >= (STALE_AT_WIRES if at_wires else STALE):
            break
        if made is not None and not failed:
            found = judged(made)
            if found.sound:
                return found
            full.append(found)
            failed = [v.key for v in found.verdicts if v.fails]
        for amend in AMENDS.get(_first_to_mend(failed), ()):
            other = amend(way)
            if other not in seen and free(other):
                seen.add(other)
                # off the wire, and something else in the way: that first
                waiting.insert(0 if at_wires and "wire" not in failed else len(waiting), other)
    if full:
        return min(full, key=lambda a: sum(v.fails for v in a.verdicts))
    return None if nearest is None else judged(nearest[1])


BORED, LAIN = ("drill", "met", "ballast"), ("sits", "lists", "top")


def _first_to_mend(failed: list[str]) -> str:
    """The first check that fails; but where holes will not do, how it would sit with them is not asked."""
    return next((key for key in BORED if key in failed), failed[0]) if failed[0] in LAIN else failed[0]


def _made(asked: Asked, way: Way, kept: list[Study]) -> Study | None:
    """A candidate brought to its pose; where it sinks before any ballast, without. kept: the last bare ones, whose solids may
    hold for this one too; it joins them."""
    base = started_from(asked, way)
    alike = next((s for s in reversed(kept) if s.design.body == base.body), kept[-1] if kept else None)
    bare = Study(base.but(ballast=()), alike)
    kept[:] = [*kept[1 - KEPT :], bare]
    lift = of.buoyancy(bare)
    if lift.mass_g >= lift.lift_g:  # nothing that is put in can help
        return bare
    wanted = wanted_g(asked, lift.lift_g, lift.mass_g, way.share)
    times = (wanted - lift.mass_g) / max(gained_g(base), 1e-3)
    if times > LIKE_STARTER:  # so much metal goes into more slugs, not longer ones
        base = started_from(asked, way, min(times, 10.0))
    span = base.brief.pitch_deg
    if span is None or way.aim == 0.5:
        return balanced(base, wanted, bare)
    at = span.least + way.aim * (span.most - span.least)
    found = balanced(base.but(brief=replaced(base.brief, pitch_deg=Span(least=at, most=at))), wanted, bare)
    return None if found is None else Study(found.design.but(brief=base.brief), found)


def _failed(study: Study) -> list[str]:
    """The quick checks that fail on a design, by key."""
    try:
        found = [CHECKS[key].verdict(study) for key in QUICK if key in CHECKS]
    except YellowBobError:
        return ["sits"]
    return [v.key for v in found if v is not None and v.fails]


def judged(study: Study) -> Answer:
    """What all checks say of a design."""
    found = verdicts(study)
    failed = [v for v in found if v.fails]
    reason = "" if not failed else f"{failed[0].title}: {failed[0].figure}"
    if len(failed) > 1:
        reason += f" (and {', '.join(v.title for v in failed[1:])})"
    return Answer(study.design, found, reason)
