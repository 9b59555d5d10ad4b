"""From a shelf entry to a piece of a design."""

from __future__ import annotations

import math

from yellowbob.design.model import Ballast, Drilling, Filler, Fitting, Shot, Slug
from yellowbob.shelf.items import BallastStock, FillerStock, Hook

FIT_MM = 0.2
"""How much wider than the weight its hole is drilled."""
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
        hanging=True, reach_mm=hook.shank_mm, span_mm=hook.gape_mm,
    )  # fmt: skip
