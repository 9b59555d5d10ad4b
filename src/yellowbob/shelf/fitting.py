"""From a shelf entry to a piece of a design."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.design.model import Ballast, Design, Dressing, Drilling, Filler, Fitting, Shot, Slug, replaced
from yellowbob.shelf.items import BallastStock, DressingStock, FillerStock, Hardware, Hook, Material

FIT_MM = 0.2
"""How much wider than the weight its hole is drilled."""
POINTS = {"treble": 3, "double": 2}
"""Points of a hook by its sort; one of any other."""
COVER_MM = 2.0
"""Depth left over the weight for the plug."""


def ball_mm(stock: BallastStock) -> float:
    """Diameter of a stock's rod, or of one shot from its mass."""
    if stock.diameter_mm is not None:
        return stock.diameter_mm
    return float((6.0 * (stock.mass_g or 0.0) * 1000.0 / (math.pi * stock.density_g_ml)) ** (1.0 / 3.0))


def weight_from(stock: BallastStock, amount: float) -> Shot | Slug:
    """A weight of so many shot, or so many mm of rod."""
    if stock.form == "shot":
        return Shot(
            material=stock.material, density_g_ml=stock.density_g_ml, mass_g=stock.mass_g or 1.0,
            count=max(1, min(200, round(amount))),
        )  # fmt: skip
    return Slug(material=stock.material, density_g_ml=stock.density_g_ml, diameter_mm=ball_mm(stock), length_mm=amount)


def ballast_from(stock: BallastStock, x_mm: float, plug: FillerStock | None) -> Ballast:
    """A new ballast from the belly at x, in a hole that just takes it."""
    size = ball_mm(stock)
    weight = weight_from(stock, 1 if stock.form == "shot" else round(1.2 * size, 1))
    long = weight.length_mm if isinstance(weight, Slug) else size
    drilling = Drilling(
        side="belly", place_mm=(x_mm, 0.0), diameter_mm=round(size + FIT_MM, 1), depth_mm=round(long + COVER_MM, 1)
    )
    filler = Filler(material=plug.name, density_g_ml=plug.density_g_ml) if plug is not None else None
    name = "Belly shot" if stock.form == "shot" else "Belly slug"
    return Ballast(name=name, stock=stock.name, weight=weight, drilling=drilling, plug=filler)


def hook_from(hook: Hook, at_mm: tuple[float, float, float], name: str) -> Fitting:
    """A hook hanging from an eye."""
    return Fitting(
        name=name, sort="hook", stock=hook.name, at_mm=at_mm, mass_g=hook.mass_g, volume_ml=hook.volume_ml,
        hanging=True, reach_mm=hook.shank_mm, span_mm=hook.gape_mm, wire_mm=hook.wire_mm,
        points=POINTS.get(hook.sort, 1),
    )  # fmt: skip


def hook_like(fitting: Fitting, shelf: dict[str, Hook]) -> Hook | None:
    """The shelf's hook that a fitting is, by its stock name; else the nearest in mass with as many points, within a fifth."""
    if fitting.sort != "hook":
        return None
    if fitting.stock in shelf:
        return shelf[fitting.stock]
    sorts = {3: ("treble",), 2: ("double",), 1: ("single", "weedless single")}[fitting.points]
    alike = [h for h in shelf.values() if h.sort in sorts and abs(h.mass_g - fitting.mass_g) <= 0.2 * fitting.mass_g]
    return min(alike, key=lambda h: abs(h.mass_g - fitting.mass_g), default=None)


def swapped(fitting: Fitting, hook: Hook, now: Hook | None = None) -> Fitting:
    """A hook of a design exchanged for another from the shelf, hung or fixed as it was.

    `now` is the shelf's hook that it is. What it weighs and fills above that, a dressing or wire wound on, goes with it.
    """
    more_g = max(0.0, fitting.mass_g - now.mass_g) if now is not None else 0.0
    more_ml = max(0.0, fitting.volume_ml - now.volume_ml) if now is not None else 0.0
    return replaced(
        fitting, stock=hook.name, mass_g=hook.mass_g + more_g, volume_ml=hook.volume_ml + more_ml,
        reach_mm=hook.shank_mm, span_mm=hook.gape_mm, wire_mm=hook.wire_mm, points=POINTS.get(hook.sort, 1),
    )  # fmt: skip


def dressed(fitting: Fitting, stock: DressingStock | None) -> Fitting:
    """A hook with something from the shelf tied on it, in place of what was; None takes it off."""
    own = None if stock is None else Dressing(
        stuff=stock.name, dry_g=stock.dry_g, soaked_g=stock.soaked_g, density_g_ml=stock.density_g_ml, drag_mm2=stock.drag_mm2
    )  # fmt: skip
    return replaced(fitting, dressing=own)


def of_wood(design: Design, stock: Material, number: int = 0) -> Design:
    """The design with a piece out of another material from the shelf: looked up, not measured."""
    return design.of_material(
        number, name=stock.name, group=stock.group, density_g_ml=stock.density_g_ml, measured=False, density_u_g_ml=None
    )


def fitting_from(item: Hardware, at_mm: tuple[float, float, float], name: str) -> Fitting:
    """A piece of hardware at a place, with its mass, its water and its own inertia from its shape."""
    mass, volume = item.weight_g, item.volume_ml
    big, long = item.diameter_mm or (item.inner_mm or 0.0) + 2 * (item.wire_mm or 0.0), item.long_mm or 0.0
    common: dict[str, Any] = {
        "name": name,
        "stock": item.name,
        "at_mm": at_mm,
        "mass_g": mass,
        "span_mm": big,
        "long_mm": long,
    }
    if item.sort in ("split ring", "solid ring"):
        return Fitting(**common, sort="ring", volume_ml=volume, hanging=True, reach_mm=big)
    if item.sort == "screw eye":
        shank = math.pi / 4 * (item.wire_mm or 0.0) ** 2 * long / 1000.0
        return Fitting(**common, sort="screw eye", volume_ml=volume - shank, in_wood_ml=shank, aim_deg=90.0)
    if item.sort in ("prop", "bead", "washer"):
        # a thin round thing turning about the wire: m·D²/16 along it and twice across for blades and discs
        spin = mass * big**2 / 16.0
        return Fitting(
            **common, sort=item.sort, volume_ml=volume, inertia_g_mm2=(2 * spin, spin, spin),
            blade_deg=35.0 if item.sort == "prop" else 0.0, play_mm=1.0 if item.sort == "prop" else 0.0,
        )  # fmt: skip
    if item.sort in ("grommet", "sleeve"):
        around = math.pi / 4 * big**2 * long / 1000.0
        return Fitting(**common, sort=item.sort, in_wood_ml=around, aim_deg=0.0)
    if item.sort == "swivel":
        return Fitting(**common, sort="swivel", volume_ml=volume, hanging=True, reach_mm=long)
    if item.sort in ("stick-on", "band"):
        return Fitting(**common, sort="other", volume_ml=volume)
    area = 1.2 * math.pi / 4 * long * (item.wide_mm or 0.0)
    common["span_mm"] = 2 * long if item.sort == "blade" else (item.wide_mm or 0.0)
    return Fitting(**common, sort=item.sort, volume_ml=volume, aim_deg=0.0, reach_mm=long, drag_mm2=area)
