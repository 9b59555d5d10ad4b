"""Seeking: from a brief with freedom left in it, several different sound designs, ranked, each with what it gives up.

Every candidate is answered as a new design is, with all its checks; those that break a hard line are none. Where the
freedom has no more points than may be tried, all of them are; else so many drawn by the seed. Same seed, same answers.
"""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from pydantic import Field

from yellowbob.design.base import Model
from yellowbob.design.brief import Span
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, unheard
from yellowbob.study import Study, of
from yellowbob.trials.answer import Answer, answered
from yellowbob.trials.asked import Asked
from yellowbob.trials.odds import odds

Aim = Literal["odds", "least ballast", "lightest", "furthest", "stiffest", "most to spare"]
LENGTHS = 9
"""So many lengths of a range are tried."""
MOST_TRIES, MOST_COUNT = 2000, 12
ODDS_BUILDS, ODDS_SEED = 5000, 1
"""As `odds` draws them when it is not told otherwise: what is said here is what it says."""


class Freedom(Model):
    """What is left free, and hard lines beside those of the brief. An empty list: as the brief says."""

    length_mm: Span | None = None
    wood: tuple[str, ...] = Field(default=(), max_length=80)
    hooks: tuple[str, ...] = Field(default=(), max_length=40)
    hung_by: tuple[Literal["wire", "screw eyes"], ...] = ()
    weight: tuple[Literal["belly", "tail"], ...] = ()
    lead: tuple[bool, ...] = ()
    stock_mm: tuple[float, float] | None = Field(default=None, description="section of the stock it must come out of")
    comes_right: float | None = Field(default=None, ge=0.0, le=1.0, description="least share of landings")
    throws_m: float | None = Field(default=None, gt=0.0, le=300.0, description="at least, thrown as it is judged")
    aim: Aim = "odds"


@dataclass(frozen=True, eq=False)
class Found:
    """A sound design that keeps every hard line, with its figures. odds: share of builds that sit as wanted and come
    right; None where they were not worked out. gives_up: against the best of the others, in words."""

    asked: Asked
    answer: Answer
    mass_g: float
    ballast_g: float
    spare_g: float
    gm_mm: float
    comes_right: float
    range_m: float | None
    odds: float | None
    gives_up: tuple[str, ...] = ()


@dataclass(frozen=True)
class Sought:
    """What was found, the best first; how many points there were, were tried, were sound; whether it was stopped."""

    found: tuple[Found, ...]
    points: int
    tried: int
    sound: int
    stopped: bool
    refused: dict[str, int]
    """why others were none, with how often"""


def seek(
    asked: Asked, freedom: Freedom, count: int = 4, tries: int = 48, seed: int = 1, told: Told = unheard,
    go_on: Callable[[], bool] = lambda: True,
) -> Sought:  # fmt: skip
    """Sound designs within a brief's freedom. Raises BadInput for counts out of range, or a freedom without a point.

    go_on : asked before each try; where it says no, what was found so far is kept.
    """
    if not 1 <= count <= MOST_COUNT or not 1 <= tries <= MOST_TRIES or seed < 0:
        raise BadInput(f"ask for 1 to {MOST_COUNT} designs from 1 to {MOST_TRIES} tries, with a seed of 0 or more")
    every = points(asked, freedom)
    listed = some_of(every, tries, seed)
    sound: list[Found] = []
    refused: dict[str, int] = {}
    tried, stopped = 0, False
    for number, point in enumerate(listed):
        if not go_on() or not told(number / len(listed)):
            stopped = True
            break
        tried += 1
        why = _try(point, freedom, sound)
        if why:
            refused[why] = refused.get(why, 0) + 1
    best = _different(sorted(sound, key=lambda f: _rank(f, freedom.aim)), count)
    best = [f if f.odds is not None else replace(f, odds=_chance(f.answer)) for f in best]
    return Sought(tuple(_told(best)), len(every), tried, len(sound), stopped, refused)


def points(asked: Asked, freedom: Freedom) -> list[Asked]:
    """Every brief within the freedom, lengths in even steps."""
    lengths: list[float] = [asked.length_mm]
    if freedom.length_mm is not None:
        low, high = freedom.length_mm.least, freedom.length_mm.most
        steps = min(LENGTHS, int(high - low) + 1)
        lengths = [round(float(v), 1) for v in np.linspace(low, high, steps)]
    axes: dict[str, tuple[Any, ...]] = {
        "length_mm": tuple(lengths), "wood": freedom.wood or (asked.wood,), "hooks": freedom.hooks or (asked.hooks,),
        "hung_by": freedom.hung_by or (asked.hung_by,), "weight": freedom.weight or (asked.weight,),
        "lead": freedom.lead or (asked.lead,),
    }  # fmt: skip
    total = math.prod(len(v) for v in axes.values())
    if total > 200_000:
        raise BadInput(f"{total} designs are too many to seek among; leave less free")
    told = [dict(zip(axes, values, strict=True)) for values in itertools.product(*axes.values())]
    return [Asked.model_validate({**asked.model_dump(), **one, "name": ""}) for one in told]


def some_of(every: list[Asked], tries: int, seed: int) -> list[Asked]:
    """As many of the briefs as are tried, drawn by the seed, in their order; all of them where they are no more."""
    if len(every) <= tries:
        return every
    return [every[k] for k in sorted(random.Random(seed).sample(range(len(every)), tries))]


def _try(point: Asked, freedom: Freedom, sound: list[Found]) -> str:
    """Answer one point; what is sound within the hard lines joins `sound`, else why not is told."""
    try:
        answer = answered(point)
    except YellowBobError as error:
        return str(error)
    if not answer.sound:
        return answer.reason.partition(":")[0]
    found = measured(point, answer, freedom.aim == "odds")
    why = _broken(found, freedom)
    if not why:
        sound.append(found)
    return why


def _chance(answer: Answer) -> float:
    """Share of builds that sit as wanted, or come right, whichever is the smaller."""
    told = odds(Study(answer.design), ODDS_BUILDS, ODDS_SEED, compare=False)
    return min(told.sits, told.comes_right)


def measured(point: Asked, answer: Answer, with_odds: bool = True) -> Found:
    """The figures that designs are ranked and set against one another by, from the full solve and the odds (slow)."""
    study = Study(answer.design)
    rest, landed, throw = of.upright_rest(study), of.landings(study), of.thrown_usually(study)
    lift = of.buoyancy(study)
    near = [float(np.dot(r.up, rest.up)) for r in of.rests(study)] if rest is not None else []
    right = float(landed.shares[int(np.argmax(near))]) if near else 0.0
    ballast = sum(b.weight.mass_g for b in of.holes(study).ballast)
    range_m = of.factors(study).range * throw.flight.range_mm / 1000.0
    stiff = 0.0 if rest is None else rest.gm_min_mm
    chance = _chance(answer) if with_odds else None
    return Found(point, answer, lift.mass_g, ballast, lift.reserve_g, stiff, right, range_m, chance)


def _broken(found: Found, freedom: Freedom) -> str:
    if freedom.comes_right is not None and found.comes_right < freedom.comes_right - 1e-9:
        return "comes right too seldom"
    if freedom.throws_m is not None and (found.range_m is None or found.range_m < freedom.throws_m):
        return "does not fly far enough"
    if freedom.stock_mm is not None:
        size = np.ptp(of.outer(Study(found.answer.design)).vertices, axis=0)[1:]
        if not all(a <= b for a, b in zip(sorted(size), sorted(freedom.stock_mm), strict=True)):
            return "does not come out of the stock"
    return ""


def _rank(found: Found, aim: Aim) -> tuple[float, ...]:
    """Less is better; ties by the odds, then by length, so that the order is always the same."""
    first = {
        "odds": -(found.odds or 0.0), "least ballast": found.ballast_g, "lightest": found.mass_g,
        "furthest": -(found.range_m or 0.0), "stiffest": -found.gm_mm, "most to spare": -found.spare_g,
    }[aim]  # fmt: skip
    return (round(first, 6), -round(found.odds or 0.0, 6), found.asked.length_mm)


def _different(ranked: list[Found], count: int) -> list[Found]:
    """The best, then the best of those that differ from all before them in wood, hooks, school, or a twentieth of the
    length; filled up from the rest."""
    taken: list[Found] = []
    for one in ranked:
        if len(taken) < count and all(_differs(one, other) for other in taken):
            taken.append(one)
    taken += [one for one in ranked if one not in taken][: count - len(taken)]
    return sorted(taken, key=ranked.index)


def _differs(one: Found, other: Found) -> bool:
    a, b = one.asked, other.asked
    same = (a.wood, a.hooks, a.hung_by, a.weight, a.lead) == (b.wood, b.hooks, b.hung_by, b.weight, b.lead)
    return not same or abs(a.length_mm / b.length_mm - 1.0) >= 0.05


def _told(found: list[Found]) -> list[Found]:
    """Each with what it gives up against the best of the others."""
    best = {
        "g more ballast": (min((f.ballast_g for f in found), default=0.0), "ballast_g", 1.0),
        "g more to throw": (min((f.mass_g for f in found), default=0.0), "mass_g", 1.0),
        "mm of GM": (max((f.gm_mm for f in found), default=0.0), "gm_mm", -1.0),
        "m of range": (max((f.range_m or 0.0 for f in found), default=0.0), "range_m", -1.0),
        "g to spare": (max((f.spare_g for f in found), default=0.0), "spare_g", -1.0),
    }
    out = []
    for one in found:
        words = []
        for unit, (value, field, way) in best.items():
            off = way * ((getattr(one, field) or 0.0) - value)
            if off > 0.05 * max(abs(value), 1e-9) and off > 0.05:
                words.append(f"{off:.1f} {unit}")
        out.append(replace(one, gives_up=tuple(words)))
    return out
