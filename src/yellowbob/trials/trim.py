"""Trim: what can still be changed on a finished piece, each tried and ranked by its effect."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.edits import Grip, with_grip, without_grip
from yellowbob.design.model import Ballast, Design, Fitting, Shot, replaced
from yellowbob.design.plates import Lip
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of
from yellowbob.trials.hook_sizes import resized

SHAVE_MM = 2.0
DRILL_SHARE = 0.25
WIRE_G = 0.3
"""Lead wire wound round a shank in one go: a rule."""
LEAD_G_ML = 11.34


@dataclass(frozen=True, eq=False)
class Trim:
    """One change: the design with it, how it settles, and what it does to pitch (°), draft (mm), reserve (g), mass (g)."""

    words: str
    design: Design
    after: Settled
    pitch_deg: float
    draft_mm: float
    reserve_g: float
    mass_g: float


def _hook_trims(design: Design) -> list[tuple[str, Design]]:
    found = []
    for number, fitting in enumerate(design.fittings):
        if fitting.sort != "hook":
            continue
        for step, words in ((1, "up"), (-1, "down")):
            other = resized(fitting, step)
            if other is not None:
                design_so = with_grip(design, Grip("fitting", number), other[0])
                found.append((f"{fitting.name}: one size {words}, {other[1].size}", design_so))
        wound = Fitting(
            name=f"Wire on {fitting.name}"[:80], sort="other", at_mm=fitting.at_mm, mass_g=WIRE_G,
            volume_ml=WIRE_G / LEAD_G_ML, hanging=fitting.hanging, reach_mm=fitting.reach_mm / 2,
        )  # fmt: skip
        found.append((f"{WIRE_G:g} g of lead wire on the shank of {fitting.name}", design.but(
            fittings=(*design.fittings, wound))))  # fmt: skip
        found.append((f"without {fitting.name}", without_grip(design, Grip("fitting", number))))
    return found


def _lead_trims(design: Design) -> list[tuple[str, Design]]:
    found = []
    for number, one in enumerate(design.ballast):
        weight, piece = one.weight, Grip("ballast", number)
        if isinstance(weight, Shot):
            if weight.count > 1:
                less: Ballast = replaced(one, weight=replaced(weight, count=weight.count - 1))
                found.append((f"one shot out of {one.name}", with_grip(design, piece, less)))
            more = replaced(one, weight=replaced(weight, count=weight.count + 1))
            found.append((f"one shot more in {one.name}", with_grip(design, piece, more)))
        else:
            long = weight.length_mm * (1 - DRILL_SHARE)
            less = replaced(one, weight=replaced(weight, length_mm=long))
            gram = weight.density_g_ml / 1000 * 0.7853981633974483 * weight.diameter_mm**2 * (weight.length_mm - long)
            found.append((f"{gram:.2f} g drilled out of {one.name}", with_grip(design, piece, less)))
    return found


def _lip_trims(design: Design) -> list[tuple[str, Design]]:
    found = []
    for number, part in enumerate(design.parts):
        if not isinstance(part, Lip) or part.plan == "own" or part.long_mm <= 1.5 * SHAVE_MM:
            continue
        try:
            shaved = replaced(part, long_mm=part.long_mm - SHAVE_MM)
        except ValueError:
            continue
        parts = (*design.parts[:number], shaved, *design.parts[number + 1 :])
        found.append((f"{SHAVE_MM:g} mm shaved off {part.name}", design.but(parts=parts)))
    return found


def trims(study: Study, wanted_pitch_deg: float | None = None, shares: bool = False) -> list[Trim]:
    """Every trim of a finished piece, tried: the largest effect on pitch first, or the nearest to a wanted pitch."""
    now = settled(of.afloat(study))
    up = now.rest.up if now.rest is not None else None
    found = []
    for words, design in (*_hook_trims(study.design), *_lead_trims(study.design), *_lip_trims(study.design)):
        try:
            after = settled(of.afloat(Study(design, study)), up, shares)
        except YellowBobError:
            continue
        found.append(
            Trim(words, design, after, after.pitch_deg - now.pitch_deg if after.floats and now.floats else 0.0,
                 after.draft_mm - now.draft_mm if after.floats and now.floats else 0.0, after.reserve_g - now.reserve_g,
                 after.mass_g - now.mass_g)
        )  # fmt: skip
    if wanted_pitch_deg is None:
        return sorted(found, key=lambda t: -abs(t.pitch_deg))
    return sorted(found, key=lambda t: (not t.after.floats, abs(t.after.pitch_deg - wanted_pitch_deg)))
