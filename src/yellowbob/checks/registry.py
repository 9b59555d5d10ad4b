"""The checks behind the verdict line. Each is a function of a study, entered in CHECKS in the order shown."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from yellowbob.study import Study

State = Literal["good", "watch", "failed", "unknown"]


@dataclass(frozen=True)
class Verdict:
    """What one check says. `grade` tells how far to trust the figure: exact, textbook or rule."""

    key: str
    title: str
    state: State
    figure: str
    why: str
    do: str
    grade: Literal["exact", "textbook", "rule"] = "exact"


Check = Callable[[Study], Verdict]
CHECKS: dict[str, Check] = {}


def check(key: str) -> Callable[[Check], Check]:
    """Enter a function under its key."""

    def enter(function: Check) -> Check:
        CHECKS[key] = function
        return function

    return enter


def verdicts(study: Study) -> tuple[Verdict, ...]:
    """All checks of a design, in order."""
    return tuple(function(study) for function in CHECKS.values())


def signed(value: float, decimals: int = 0) -> str:
    """A figure with the true minus sign."""
    text = f"{value:.{decimals}f}"
    return (text.lstrip("-") if float(text) == 0 else text).replace("-", "−")


@check("floats")
def floats(study: Study) -> Verdict:
    b = study.buoyancy
    why = "Everything counts: hooks, wire, ballast and the finish that is not on yet."
    if not b.floats:
        do = "Take ballast out, fit smaller hooks, or use lighter wood. Lift grows with the cube of size."
        return Verdict("floats", "Floats", "failed", f"sinks, {b.sinking_weight_g:.1f} g too heavy", why, do)
    low = b.reserve_percent < 8.0
    do = "A soaked dressing or one larger hook could sink it; leave a little more." if low else "Nothing to do."
    return Verdict("floats", "Floats", "watch" if low else "good", f"{b.reserve_g:.1f} g to spare", why, do)


@check("sits")
def sits(study: Study) -> Verdict:
    wanted, rest = study.design.brief.pitch_deg, study.upright_rest
    why = "The attitude at rest decides how the face drains and how the first pull starts."
    if rest is None:
        return Verdict("sits", "Sits", "failed", "does not: it sinks", why, "Make it float first.")
    pitch = math.degrees(rest.pitch_rad)
    if wanted is None:
        return Verdict("sits", "Sits", "unknown", f"{signed(pitch, 1)}°", why, "Say in the brief how it should sit.")
    figure = f"{signed(pitch, 1)}° of {signed(wanted.least)} to {signed(wanted.most)}°"
    if wanted.holds(pitch):
        return Verdict("sits", "Sits", "good", figure, why, "Nothing to do.")
    way = "aft" if pitch < wanted.least else "forward"
    return Verdict("sits", "Sits", "failed", figure, why, f"Move the ballast {way}, or the heavier hook.")


@check("upright")
def upright(study: Study) -> Verdict:
    why = "Where there is a second rest, some landings end in it."
    rest = study.upright_rest
    if rest is None:
        return Verdict("upright", "Right way up", "failed", "it sinks", why, "Make it float first.")
    if rest.up[2] < 0.1:
        do = "Lower the ballast or add some in the belly."
        return Verdict("upright", "Right way up", "failed", "never rests upright", why, do)
    ways = len(study.rests)
    if ways == 1:
        return Verdict("upright", "Right way up", "good", "the only rest", why, "Nothing to do.")
    do = "Move ballast lower, or narrow the back, until only one rest is left."
    return Verdict("upright", "Right way up", "watch", f"one of {ways} rests", why, do)


@check("stiff")
def stiff(study: Study) -> Verdict:
    why = "Metacentric height: how stiffly it holds its attitude against a roll."
    rest = study.upright_rest
    if rest is None:
        return Verdict("stiff", "Stiffness", "failed", "it sinks", why, "Make it float first.")
    gm = rest.gm_min_mm
    figure = f"GM {gm:.1f} mm"
    if rest.neutral:
        do = "Put some weight off the axis, in the belly, or it lies with any side up."
        return Verdict("stiff", "Stiffness", "watch", "any side up", why, do)
    if gm < 0.5:
        return Verdict(
            "stiff", "Stiffness", "watch", figure, why, "Lower the ballast; half a millimetre is very tender."
        )
    return Verdict("stiff", "Stiffness", "good", figure, why, "Nothing to do.")


@check("casts")
def casts(study: Study) -> Verdict:
    mass, span = study.buoyancy.mass_g, study.design.brief.tackle_g
    why = "Too heavy for the rod is common: a splendid thing that cannot be thrown."
    if span is None:
        return Verdict("casts", "Casts", "unknown", f"{mass:.1f} g", why, "Say in the brief what the rod throws.")
    figure = f"{mass:.0f} g of {span.least:.0f} to {span.most:.0f} g"
    if span.holds(mass):
        return Verdict("casts", "Casts", "good", figure, why, "Nothing to do.")
    do = "Lighten it, or throw it on a heavier rod." if mass > span.most else "Add weight, or use a lighter rod."
    return Verdict("casts", "Casts", "failed", figure, why, do)


@check("ballast")
def ballast(study: Study) -> Verdict:
    why = "A weight that stands proud of its hole cannot be plugged, and a hole right through is scrap."
    placed = study.holes.ballast
    if not placed:
        return Verdict("ballast", "Ballast", "good", "none", why, "Nothing to do.")
    worst = max(placed, key=lambda p: p.proud_mm)
    if worst.proud_mm > 0.05:
        do = f"Drill {worst.ballast.name} deeper or wider, or use a shorter weight."
        return Verdict("ballast", "Ballast", "failed", f"{worst.proud_mm:.1f} mm proud", why, do)
    total = sum(p.weight.mass_g for p in placed)
    return Verdict("ballast", "Ballast", "good", f"{total:.1f} g, all in", why, "Nothing to do.")


@check("wall")
def wall(study: Study) -> Verdict:
    why = "Thin rims chip, and a chipped cup no longer pops; thin walls crack around holes."
    thin = study.thin_walls
    if not thin:
        return Verdict("wall", "Wall", "good", "nowhere thin", why, "Nothing to do.", "rule")
    place = f"at {thin[0].at_mm[0]:.0f} mm from the nose"
    do = "Make the cut smaller or shallower, or move it; the Lines bench marks the place."
    return Verdict("wall", "Wall", "watch", f"{thin[0].thick_mm:.1f} mm {place}", why, do, "rule")
