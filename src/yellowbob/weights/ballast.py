"""Ballast in its hole: how shot and slugs stack up from the bottom, and the plug above them."""

from __future__ import annotations

import math
from dataclasses import dataclass

import manifold3d
import numpy as np

from yellowbob.design.model import Ballast, Shot, Slug
from yellowbob.lines.drill import Hole, bit_solid
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, rod, to_manifold
from yellowbob.weights.carving import Cut
from yellowbob.weights.mass import MassProperties, grams_per_mm, of_cylinder, of_solid, of_sphere, total

PACKING = 0.58
"""Share of a wide hole that loose round shot fills: a rule, from random loose packing in narrow tubes."""
BALL_SIDES = 48
GOES_IN_MM, DRIVEN_MM = 0.02, 0.3
"""So much wider than its hole a weight still goes in; and soft metal under a hammer: rules."""


def shot_diameter_mm(shot: Shot) -> float:
    """Diameter of one shot from its mass and density: (6m/πρ)^(1/3)."""
    return float((6.0 * shot.mass_g * 1000.0 / (math.pi * shot.density_g_ml)) ** (1.0 / 3.0))


def weight_mass_g(weight: Shot | Slug) -> float:
    """Mass of a ballast, g."""
    if isinstance(weight, Shot):
        return weight.mass_g * weight.count
    return grams_per_mm(weight.diameter_mm, weight.density_g_ml) * weight.length_mm


def width_mm(weight: Shot | Slug) -> float:
    """How wide a hole must be for it to go in."""
    return weight.diameter_mm if isinstance(weight, Slug) else shot_diameter_mm(weight)


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
    gone: MassProperties
    """material that it and its hole took, at 1 g/mL"""
    plug: MassProperties | None
    void: Mesh | None
    """part of an unplugged hole that water can enter"""
    proud_mm: float
    """by how much the ballast stands out of its hole; 0 when it goes in"""
    stack_mm: float


def cast_ball_mm(shot: Shot) -> float:
    """Diameter of one ball as large as all shot of a cast-in ballast together."""
    return shot_diameter_mm(shot) * shot.count ** (1.0 / 3.0)


def cast_solid(ballast: Ballast) -> manifold3d.Manifold:
    """The room of a cast-in ballast: a slug lies along x, shot lies together as a ball; of exact volume. mm."""
    at = np.asarray(ballast.at_mm, dtype=float)
    weight = ballast.weight
    if isinstance(weight, Slug):
        half = np.array([weight.length_mm / 2.0, 0.0, 0.0])
        return rod(at - half, at + half, weight.diameter_mm)
    ball = manifold3d.Manifold.sphere(0.5, BALL_SIDES)
    size = cast_ball_mm(weight) * float((math.pi / 6.0 / ball.volume()) ** (1.0 / 3.0))
    return ball.scale((size, size, size)).translate((float(at[0]), float(at[1]), float(at[2])))


def cast_in(ballast: Ballast, gone: MassProperties) -> PlacedBallast:
    """A ballast cast in at its place; `gone` is the material it took the place of, at 1 g/mL."""
    weight, at = ballast.weight, np.asarray(ballast.at_mm, dtype=float)
    mass = weight_mass_g(weight)
    if isinstance(weight, Shot):
        size = cast_ball_mm(weight)
        return PlacedBallast(ballast, of_sphere(mass, size, at), None, gone, None, None, 0.0, size)
    half = np.array([weight.length_mm / 2.0, 0.0, 0.0])
    placed = of_cylinder(mass, weight.diameter_mm, at - half, at + half)
    return PlacedBallast(ballast, placed, None, gone, None, None, 0.0, weight.length_mm)


def put_in(ballast: Ballast, hole: Hole, cut: Cut) -> PlacedBallast:
    """Put a ballast at the bottom of its hole; `cut` is the room the hole has, and the material it took."""
    weight = ballast.weight
    stack = stack_length_mm(weight, hole.diameter_mm)
    top = hole.depth_mm - stack
    width = weight.diameter_mm if isinstance(weight, Slug) else hole.diameter_mm
    placed = of_cylinder(weight_mass_g(weight), width, hole.at_depth(top), hole.bottom_mm)
    plug = void = None
    if ballast.plug is not None and top > 0:
        plug = _plug(hole, cut, top, ballast.plug.density_g_ml)
    elif top > 0:
        void = bit_solid(hole, end_mm=top)
    return PlacedBallast(ballast, placed, hole, cut.gone, plug, void, max(0.0, -top), stack)


def _plug(hole: Hole, cut: Cut, top_mm: float, density_g_ml: float) -> MassProperties:
    """What fills a hole over its weight: the hole's room less the cylinder below; cut in two where that is no cylinder."""
    whole = of_solid(cut.region.solid, density_g_ml)
    if cut.clipped:
        return of_solid(above(cut.region.solid, hole, top_mm), density_g_ml)
    below = grams_per_mm(hole.diameter_mm, density_g_ml) * (hole.depth_mm - top_mm)
    return total([whole, of_cylinder(-below, hole.diameter_mm, hole.at_depth(top_mm), hole.bottom_mm)])


def above(region: Mesh, hole: Hole, depth_mm: float) -> Mesh:
    """The part of a hole's room on the mouth's side of a depth."""
    if not len(region.faces):
        return region
    out = -np.asarray(hole.inward)
    return from_manifold(to_manifold(region).trim_by_plane(out, float(out @ hole.at_depth(depth_mm))))
