"""Trim: what can still be changed on a finished piece, each tried and ranked by its effect."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.edits import Grip, with_grip, without_grip
from yellowbob.design.model import Design, Fitting, Shot, replaced
from yellowbob.design.plates import Lip
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import Told, each, unheard
from yellowbob.study import Study, of
from yellowbob.trials.change import Change
from yellowbob.trials.hook_sizes import resized
from yellowbob.weights.mass import grams_per_mm

SHAVE_MM = 2.0
DRILL_SHARE = 0.25
WIRE_G = 0.3
"""Lead wire wound round a shank in one go: a rule."""
LEAD_G_ML = 11.34


@dataclass(frozen=True, eq=False)
class Trim:
    """One change: how the build settles with it, and what it does to pitch (°), draft (mm), reserve (g), mass (g)."""

    change: Change
    after: Settled
    pitch_deg: float
    draft_mm: float
    reserve_g: float
    mass_g: float

    @property
    def words(self) -> str:
        """What is changed, in words."""
        return self.change.words


def _fitting(number: int, make: Callable[[Fitting], Fitting]) -> Callable[[Design], Design]:
    return lambda d: with_grip(d, Grip("fitting", number), make(d.fittings[number]))


def _one_size(step: int) -> Callable[[Fitting], Fitting]:
    def make(fitting: Fitting) -> Fitting:
        other = resized(fitting, step)
        return fitting if other is None else other[0]

    return make


def _wound(number: int) -> Callable[[Design], Design]:
    def make(design: Design) -> Design:
        on = design.fittings[number]
        wire = Fitting(
            name=f"Wire on {on.name}"[:80], sort="other", at_mm=on.at_mm, mass_g=WIRE_G, volume_ml=WIRE_G / LEAD_G_ML,
            hanging=on.hanging, reach_mm=on.reach_mm / 2,
        )  # fmt: skip
        return design.but(fittings=(*design.fittings, wire))

    return make


def _hook_trims(design: Design) -> list[Change]:
    found = []
    for number, fitting in enumerate(design.fittings):
        if fitting.sort != "hook":
            continue
        for step, words in ((1, "up"), (-1, "down")):
            other = resized(fitting, step)
            if other is not None:
                words = f"{fitting.name}: one size {words}, {other[1].size}"
                found.append(Change(words, _fitting(number, _one_size(step))))
        found.append(Change(f"{WIRE_G:g} g of lead wire on the shank of {fitting.name}", _wound(number)))
        found.append(Change(f"without {fitting.name}", partial(without_grip, grip=Grip("fitting", number))))
    return found


def _ballast(number: int, **changes: Callable[[Any], Any]) -> Callable[[Design], Design]:
    """The design with fields of a ballast's weight changed by what they are."""

    def make(design: Design) -> Design:
        one = design.ballast[number]
        new = {field: change(getattr(one.weight, field)) for field, change in changes.items()}
        return with_grip(design, Grip("ballast", number), replaced(one, weight=replaced(one.weight, **new)))

    return make


def _lead_trims(design: Design) -> list[Change]:
    found = []
    for number, one in enumerate(design.ballast):
        weight = one.weight
        if isinstance(weight, Shot):
            if weight.count > 1:
                found.append(Change(f"one shot out of {one.name}", _ballast(number, count=lambda n: n - 1)))
            found.append(Change(f"one shot more in {one.name}", _ballast(number, count=lambda n: n + 1)))
        else:
            gram = grams_per_mm(weight.diameter_mm, weight.density_g_ml) * weight.length_mm * DRILL_SHARE
            words = f"{gram:.2f} g drilled out of {one.name}"
            found.append(Change(words, _ballast(number, length_mm=lambda long: long * (1 - DRILL_SHARE))))
    return found


def _shaved(number: int) -> Callable[[Design], Design]:
    def make(design: Design) -> Design:
        piece = design.pieces[number]
        assert isinstance(piece.shape, Lip)
        return design.with_piece(
            number, replaced(piece, shape=replaced(piece.shape, long_mm=piece.shape.long_mm - SHAVE_MM))
        )

    return make


def _lip_trims(design: Design) -> list[Change]:
    return [
        Change(f"{SHAVE_MM:g} mm shaved off {piece.name}", _shaved(number))
        for number, piece in enumerate(design.pieces)
        if isinstance(piece.shape, Lip) and piece.shape.plan != "own" and piece.shape.long_mm > 1.5 * SHAVE_MM
    ]


def trim_changes(design: Design) -> tuple[Change, ...]:
    """All that can still be changed on a finished piece."""
    return (*_hook_trims(design), *_lead_trims(design), *_lip_trims(design))


def trims(
    study: Study, wanted_pitch_deg: float | None = None, shares: bool = False, told: Told = unheard
) -> list[Trim]:
    """Every trim of a finished piece, tried: the largest effect on pitch first, or the nearest to a wanted pitch."""
    now = settled(of.afloat(study))
    up = now.rest.up if now.rest is not None else None
    found: list[Trim] = []
    for change in each(trim_changes(study.build), told):
        try:
            after = settled(of.afloat(Study(change.make(study.build), study)), up, shares)
        except YellowBobError:
            continue
        both = after.floats and now.floats
        found.append(
            Trim(change, after, after.pitch_deg - now.pitch_deg if both else 0.0,
                 after.draft_mm - now.draft_mm if both else 0.0, after.reserve_g - now.reserve_g,
                 after.mass_g - now.mass_g)
        )  # fmt: skip
    if wanted_pitch_deg is None:
        return sorted(found, key=lambda t: -abs(t.pitch_deg))
    return sorted(found, key=lambda t: (not t.after.floats, abs(t.after.pitch_deg - wanted_pitch_deg)))
