"""Ballast in its hole: how shot and slugs stack up from the bottom, and the plug above them."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.design.model import Ballast, Shot, Slug
from yellowbob.lines.drill import Hole, bit_solid
from yellowbob.lines.mesh import Mesh
from yellowbob.weights.mass import MassProperties, of_cylinder, of_solid, of_sphere, total

PACKING = 0.58
"""Share of a wide hole that loose round shot fills: a rule, from random loose packing in narrow tubes."""


def shot_diameter_mm(shot: Shot) -> float:
    """Diameter of one shot from its mass and density: (6m/πρ)^(1/3)."""
    return float((6.0 * shot.mass_g * 1000.0 / (math.pi * shot.density_g_ml)) ** (1.0 / 3.0))


def weight_mass_g(weight: Shot | Slug) -> float:
    """Mass of a ballast, g."""
    if isinstance(weight, Shot):
        return weight.mass_g * weight.count
    return weight.density_g_ml / 1000.0 * math.pi / 4.0 * weight.diameter_mm**2 * weight.length_mm


def stack_length_mm(weight: Shot | Slug, hole_diameter_mm: float) -> float:
    """Height that a ballast fills at the bottom of a hole.

    A slug its own length. Shot that is nearly as wide as the hole (up to 1.8 diameters) zigzags, each centre
    √(d² - (D-d)²) above the last; in wider holes it packs loosely (PACKING).
    """
    if isinstance(weight, Slug):
        return weight.length_mm
    d, hole = shot_diameter_mm(weight), hole_diameter_mm
    play = max(0.0, hole - d)
    if play < 0.8 * d:
        return d + (weight.count - 1) * math.sqrt(d * d - play * play)
    volume = weight.count * math.pi / 6.0 * d**3
    return max(d, volume / (PACKING * math.pi / 4.0 * hole**2))


@dataclass(frozen=True, eq=False)
class PlacedBallast:
    """A ballast where it lies: its mass, the hole (if any) with what that takes out, and the plug."""

    ballast: Ballast
    weight: MassProperties
    hole: Hole | None
    removed: Mesh | None
    """wood that the hole took"""
    plug: MassProperties | None
    void: Mesh | None
    """part of an unplugged hole that water can enter"""
    proud_mm: float
    """by how much the ballast stands out of its hole; 0 when it goes in"""
    stack_mm: float


def place_ballast(ballast: Ballast, hole: Hole | None, removed: Mesh | None) -> PlacedBallast:
    """Put a ballast at the bottom of its hole, or at its place when cast in."""
    weight = ballast.weight
    mass = weight_mass_g(weight)
    if hole is None or removed is None:
        at = np.asarray(ballast.at_mm, dtype=float)
        if isinstance(weight, Shot):
            size = shot_diameter_mm(weight) * weight.count ** (1.0 / 3.0)
            return PlacedBallast(ballast, of_sphere(mass, size, at), None, None, None, None, 0.0, size)
        half = np.array([weight.length_mm / 2.0, 0.0, 0.0])
        placed = of_cylinder(mass, weight.diameter_mm, at - half, at + half)
        return PlacedBallast(ballast, placed, None, None, None, None, 0.0, weight.length_mm)
    stack = stack_length_mm(weight, hole.diameter_mm)
    top = hole.depth_mm - stack
    width = weight.diameter_mm if isinstance(weight, Slug) else hole.diameter_mm
    placed = of_cylinder(mass, width, hole.at_depth(top), hole.bottom_mm)
    proud = max(0.0, -top)
    plug = void = None
    if ballast.plug is not None and top > 0:
        below = of_cylinder(
            math.pi / 4.0 * hole.diameter_mm**2 * stack * ballast.plug.density_g_ml / 1000.0,
            hole.diameter_mm, hole.at_depth(top), hole.bottom_mm,
        )  # fmt: skip
        plug = total([of_solid(removed, ballast.plug.density_g_ml), below.times(-1.0)])
    elif top > 0:
        void = bit_solid(hole, end_mm=top)
    return PlacedBallast(ballast, placed, hole, removed, plug, void, proud, stack)
