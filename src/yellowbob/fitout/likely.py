"""Masses and densities that nothing of their kind has: a figure that slipped a place floats like any other."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design
from yellowbob.shelf.items import Hook, Material

IN_WATER = ("hook", "ring", "swivel", "prop", "blade", "ticker")
"""Sorts that hang or turn in the water, and so push some of it aside."""
OF_METAL = ("hook", "ring", "swivel", "screw eye")
PARTLY_IN = ("eye", "tie", "jig", "other")
"""Sorts whose volume need not be all of theirs."""
LEAST_G = 0.02
"""Lighter hardware is not looked at."""
LIGHTEST_G_ML, LIGHTEST_METAL_G_ML, HEAVIEST_G_ML = 0.02, 1.0, 20.0
"""Foam; a hook with all that is tied on it; tungsten: nothing hardware is made of is lighter or heavier."""
HOOK_TIMES = 2.5
"""A hook may be so many times lighter or heavier than those of its size on the shelf: a rule."""
TIMES = {"wood": 2.0, "foam": 2.0, "resin": 3.0, "plastic": 3.0, "metal": 1.25}
"""So many times off the shelf's may a stuff of each group be, a resin with its filler, a print with its infill: a rule; as
many times that, and it cannot be."""
KIND_TIMES = 1.5
"""And one that is not on the shelf off all of its group: a rule."""
SIZE_POWER = 1.5
"""A hook's mass grows so with its reach times its gape: as a volume does."""


@dataclass(frozen=True)
class Doubt:
    """What of a design is unlikely. sure : nothing at all is so."""

    name: str
    says: str
    sure: bool


def doubts(design: Design, hooks: Mapping[str, Hook], stuffs: Mapping[str, Material]) -> list[Doubt]:
    """What is unlikely of hardware, of what pieces and weights are made of; `hooks` and `stuffs` are what is usual."""
    found = [doubt for fitting in design.fittings if (doubt := _of_fitting(fitting, hooks))]
    for piece in design.pieces:
        made = piece.material
        found += _of_stuff(piece.name, made.name, made.group, made.density_g_ml, stuffs)
    for ballast in design.ballast:
        found += _of_stuff(ballast.name, ballast.weight.material, "metal", ballast.weight.density_g_ml, stuffs)
    for wire in design.wires:
        found += _of_stuff(wire.name, wire.material, "metal", wire.density_g_ml, stuffs)
    return sorted(found, key=lambda d: not d.sure)


def _of_fitting(fitting: Fitting, hooks: Mapping[str, Hook]) -> Doubt | None:
    mass, volume = fitting.mass_g, fitting.volume_ml + fitting.in_wood_ml
    if mass < LEAST_G and volume < LEAST_G:
        return None
    if volume <= 0.0:
        says = f"{mass:.2f} g that take no room in the water"
        return Doubt(fitting.name, says, True) if fitting.sort in IN_WATER else None
    if fitting.sort not in PARTLY_IN:
        least = LIGHTEST_METAL_G_ML if fitting.sort in OF_METAL else LIGHTEST_G_ML
        density = mass / volume
        if not least <= density <= HEAVIEST_G_ML:
            return Doubt(fitting.name, f"{mass:.3g} g in {volume:.3g} mL, {density:.3g} g/mL", True)
    size = (fitting.reach_mm * fitting.span_mm) ** SIZE_POWER
    if fitting.sort != "hook" or size <= 0.0:
        return None
    usual = sorted(_by_size(fitting.points, hooks))
    if not usual or usual[0] / HOOK_TIMES <= mass / size <= usual[-1] * HOOK_TIMES:
        return None
    low, high = usual[0] * size, usual[-1] * size
    return Doubt(fitting.name, f"{mass:.3g} g; hooks of its size weigh {low:.2g} to {high:.2g} g", False)


def _by_size(points: int, hooks: Mapping[str, Hook]) -> Iterator[float]:
    """Mass for their size, g/mm³, of hooks with so many points."""
    for hook in hooks.values():
        if {"treble": 3, "double": 2}.get(hook.sort, 1) == points:
            yield hook.mass_g / (hook.shank_mm * hook.gape_mm) ** SIZE_POWER


def _of_stuff(piece: str, name: str, group: str, density: float, stuffs: Mapping[str, Material]) -> Iterator[Doubt]:
    known = stuffs.get(name)
    alike = [known] if known is not None else [one for one in stuffs.values() if one.group == group]
    if not alike:
        return
    off = TIMES[group] if known is not None or group == "metal" else KIND_TIMES
    low = min(one.density_g_ml - 2.0 * one.spread_g_ml for one in alike)
    high = max(one.density_g_ml + 2.0 * one.spread_g_ml for one in alike)
    if not low / off <= density <= high * off:
        of = name if known is not None else f"such as {group}"
        sure = density > HEAVIEST_G_ML or not low / off**2 <= density <= high * off**2
        yield Doubt(piece, f"{density:.3g} g/mL; {of} has {low:.2g} to {high:.2g}", sure)
