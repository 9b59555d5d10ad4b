"""Masses and densities that nothing of their kind has: a figure that slipped a place floats like any other."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design, Shot
from yellowbob.shelf.items import BallastStock, Hook, Material
from yellowbob.shelf.shipped import ballast_stock, coats, every_material, fillers, hooks, wires

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
FILLER_TIMES, FILM_TIMES, SHOT_TIMES = 2.0, 3.0, 1.5
"""And a plug or a paint off the shelf's density, a film off its thickness, a shot off its mass: rules."""
GAUGE_TIMES = 1.5
"""So much thinner or thicker than any on the shelf a wire is doubted: a rule."""
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


def doubts(design: Design) -> list[Doubt]:
    """What is unlikely of hardware and of what pieces, weights, wires, plugs and coats are of, by what the shelf has."""
    sizes, stuffs, films, plugs, shot = hooks(), every_material(), coats(), fillers(), ballast_stock()
    found = [doubt for fitting in design.fittings if (doubt := _of_fitting(fitting, sizes))]
    for piece in design.pieces:
        made = piece.material
        found += _of_stuff(piece.name, made.name, made.group, made.density_g_ml, stuffs)
    for ballast in design.ballast:
        found += _of_stuff(ballast.name, ballast.weight.material, "metal", ballast.weight.density_g_ml, stuffs)
        if isinstance(ballast.weight, Shot):
            found += _of_shot(ballast.name, shot.get(ballast.stock), ballast.weight.mass_g)
        if ballast.plug is not None and (filler := plugs.get(ballast.plug.material)) is not None:
            told = ballast.plug.density_g_ml, filler.density_g_ml
            found += _off(f"plug of {ballast.name}", filler.name, "g/mL", *told, FILLER_TIMES)
    for wire in design.wires:
        found += _of_stuff(wire.name, wire.material, "metal", wire.density_g_ml, stuffs)
        found += _of_gauge(wire.name, wire.diameter_mm)
    for coat in design.coats:
        if (stock := films.get(coat.stock)) is not None:
            found += _off(coat.name, stock.name, "mm of film", coat.film_mm, stock.film_mm, FILM_TIMES)
            found += _off(coat.name, stock.name, "g/mL", coat.density_g_ml, stock.density_g_ml, FILLER_TIMES)
    for hung in design.rig.hung if design.rig is not None else ():
        known = shot.get(hung.stock or hung.name)
        found += _of_shot(hung.name, known, hung.mass_g)
        if known is not None:
            found += _off(hung.name, known.name, "g/mL", hung.density_g_ml, known.density_g_ml, TIMES["metal"])
    return sorted(found, key=lambda d: not d.sure)


def _of_gauge(name: str, diameter_mm: float) -> Iterator[Doubt]:
    """A wire thinner or thicker than any on the shelf."""
    gauges = [one.diameter_mm for one in wires().values()]
    low, high = min(gauges), max(gauges)
    if not low / GAUGE_TIMES <= diameter_mm <= high * GAUGE_TIMES:
        yield Doubt(name, f"{diameter_mm:.3g} mm thick; wires are {low:.2g} to {high:.2g} mm", False)


def _of_shot(name: str, known: BallastStock | None, mass_g: float) -> Iterator[Doubt]:
    """A shot of a kind that the shelf has, by what one weighs."""
    if known is not None and known.mass_g is not None:
        yield from _off(name, known.name, "g", mass_g, known.mass_g, SHOT_TIMES)


def _off(name: str, stock: str, unit: str, value: float, usual: float, times: float) -> Iterator[Doubt]:
    if not usual / times <= value <= usual * times:
        sure = not usual / times**2 <= value <= usual * times**2
        yield Doubt(name, f"{value:.3g} {unit}; {stock} has {usual:.3g}", sure)


def _of_fitting(fitting: Fitting, sizes: Mapping[str, Hook]) -> Doubt | None:
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
    usual = sorted(_by_size(fitting.points, sizes))
    if not usual or usual[0] / HOOK_TIMES <= mass / size <= usual[-1] * HOOK_TIMES:
        return None
    low, high = usual[0] * size, usual[-1] * size
    return Doubt(fitting.name, f"{mass:.3g} g; hooks of its size weigh {low:.2g} to {high:.2g} g", False)


def _by_size(points: int, sizes: Mapping[str, Hook]) -> Iterator[float]:
    """Mass for their size, g/mm³, of hooks with so many points."""
    for hook in sizes.values():
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
