"""Wires: cut length with their loops, mass along the path, the wood they take the place of, what of them is outside."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Loop, Wire
from yellowbob.lines.cutting import prism
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import crossings
from yellowbob.lines.solids import common
from yellowbob.weights.mass import MassProperties, of_cylinder, of_point, of_solid, total

Array = NDArray[np.float64]

BOUND_OVERLAP = 10.0
"""A bound tail lies along its wire for so many wire diameters: a rule."""


def loop_length_mm(loop: Loop, diameter_mm: float) -> float:
    """Wire that a loop takes beyond the path's end, mm.

    The eye is a circle through the middle of the wire, π(inner + d). Wraps are a close helix of mean diameter 2d about
    the wire itself, √((2πd)² + d²) a turn. A bound tail lies along the wire for ten diameters (a rule), a welded eye
    ends on itself.
    """
    eye = math.pi * (loop.inner_mm + diameter_mm)
    if loop.kind == "wraps":
        return eye + loop.turns * math.hypot(2 * math.pi * diameter_mm, diameter_mm)
    return eye + (BOUND_OVERLAP * diameter_mm if loop.kind == "bound" else 0.0)


def path_of(wire: Wire) -> Array:
    """(n, 3) corners of the wire's path, body axes, mm."""
    return np.asarray(wire.path_mm, dtype=float)


def path_length_mm(wire: Wire) -> float:
    """Length along the path, without loops."""
    return float(np.linalg.norm(np.diff(path_of(wire), axis=0), axis=1).sum())


def cut_length_mm(wire: Wire) -> float:
    """How long to cut the wire: its path and its loops."""
    return path_length_mm(wire) + sum(loop_length_mm(loop, wire.diameter_mm) for loop in wire.loops)


def _per_mm(diameter_mm: float, density_g_ml: float) -> float:
    return math.pi / 4.0 * diameter_mm**2 * density_g_ml / 1000.0


def of_wire(wire: Wire) -> MassProperties:
    """A wire as straight rods along its path, and its loops as masses at the ends."""
    path, per_mm = path_of(wire), _per_mm(wire.diameter_mm, wire.density_g_ml)
    rods = [
        of_cylinder(per_mm * float(np.linalg.norm(b - a)), wire.diameter_mm, a, b) for a, b in itertools.pairwise(path)
    ]
    loops = [
        of_point(per_mm * loop_length_mm(loop, wire.diameter_mm), path[0 if loop.end == "fore" else -1])
        for loop in wire.loops
    ]
    return total(rods + loops)


@dataclass(frozen=True, eq=False)
class Run:
    """A straight stretch of a wire, in the wood or out of it."""

    start_mm: Array
    end_mm: Array
    inside: bool

    @property
    def length_mm(self) -> float:
        return float(np.linalg.norm(self.end_mm - self.start_mm))


def runs(wire: Wire, body: Mesh) -> list[Run]:
    """The wire's path cut where it enters and leaves the body."""
    found = []
    for a, b in itertools.pairwise(path_of(wire)):
        along = b - a
        long = float(np.linalg.norm(along))
        if long < 1e-9:
            continue
        along = along / long
        hits = crossings(body, a, along)
        ends = [0.0, *(float(t) for t in hits if 0.0 < t < long), long]
        for start, end in itertools.pairwise(ends):
            if end - start > 1e-9:
                odd = int((hits > (start + end) / 2).sum()) % 2 == 1
                found.append(Run(a + along * start, a + along * end, odd))
    return found


@dataclass(frozen=True, eq=False)
class Routed:
    """A wire in its body: runs, the wood taken out for it, what closes the rest of the hole (None: air)."""

    wire: Wire
    runs: tuple[Run, ...]
    wood: MassProperties
    """of the wood gone, g at the body's density of 1 g/mL"""
    closing: MassProperties | None

    @property
    def inside_mm(self) -> float:
        return sum(r.length_mm for r in self.runs if r.inside)


def _rods(stretches: list[Run], diameter_mm: float, density_g_ml: float) -> MassProperties:
    per_mm = _per_mm(diameter_mm, density_g_ml)
    return total(of_cylinder(per_mm * r.length_mm, diameter_mm, r.start_mm, r.end_mm) for r in stretches)


def route(wire: Wire, body: Mesh) -> Routed:
    """Lay a wire in its body: bored or split, rods along the path; grooved, a saw cut from the belly to the path."""
    every = runs(wire, body)
    inner = [r for r in every if r.inside]
    if wire.route == "grooved":
        groove = _groove(wire, body)
        wood = of_solid(groove, 1.0)
    else:
        wood = _rods(inner, wire.bore_mm, 1.0)
    closing = None
    if wire.filler is not None and wood.mass_g > 0:
        filled = total([wood, _rods(inner, wire.diameter_mm, 1.0).times(-1.0)])
        closing = filled.times(wire.filler.density_g_ml)
    return Routed(wire, tuple(every), wood, closing)


def _groove(wire: Wire, body: Mesh) -> Mesh:
    """The wood between the wire's path and the belly, as wide as the groove."""
    path = path_of(wire)[:, [0, 2]]
    path = path[np.argsort(path[:, 0], kind="stable")]
    below = float(body.bounds[0, 2]) - 5.0
    half = wire.diameter_mm / 2
    corners = np.vstack([path + [0.0, half], [[path[-1, 0], below], [path[0, 0], below]]])
    return common(prism(corners, wire.bore_mm / 2), body)
