"""Sideways: what water does to a hull that sways, yaws and rolls a little while it is drawn ahead.

The hull is a row of strips along the stream. Each carries its water sideways with it (half a round body's, ½ρπ·depth²,
where it pierces the surface; Newman 1977, 4.16) and is held back by cross-flow drag. What meets the stream is pushed as
`pressure` has it, tried turned and moving a little to each side. Lift of a smooth hull's lee side is left out: blunt
bodies shed it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.running import HULL, PLATE, Pulled, Trim
from yellowbob.action.wetted import ends_share
from yellowbob.lines.clipped import below

Array = NDArray[np.float64]

STRIPS = 60
CROSS_CD = 1.1
"""Cross-flow drag of a strip, on its side (Hoerner 1965, 3-9)."""
SWAY = 0.15
"""Sideways speed over speed ahead for which cross-flow drag is made linear: 8/(3π) of it (equal work in a swing). Of a small
disturbance; a swing that grows by itself finds its own."""
SMALL = 0.02
"""Share of the speed by which plates are tried sideways."""


@dataclass(frozen=True, eq=False)
class Axes:
    """Level axes at the centre of gravity of a running build, in body axes: aft, across and up; the centre, mm."""

    aft: Array
    across: Array
    up: Array
    centre: Array

    def of(self, place: Array) -> Array:
        """Places (…, 3) body axes in these axes."""
        return (np.asarray(place) - self.centre) @ np.stack([self.aft, self.across, self.up], axis=1)


def axes_of(thing: Pulled, trim: Trim) -> Axes:
    """Those of a trim: across is the body's own y."""
    p = trim.pitch_rad
    return Axes(
        np.array([math.cos(p), 0.0, math.sin(p)]), np.array([0.0, 1.0, 0.0]), trim.up, np.asarray(thing.afloat.centre_mm)
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Sides:
    """Strips of the wet hull: places aft of the centre of gravity (n,), thickness, heights (n,), half-breadths (n,), the
    height at which a sideways push acts (n,), all mm in level axes; water that moves with each, g/mm."""

    at_mm: Array
    step_mm: float
    high_mm: Array
    half_mm: Array
    acts_mm: Array
    water_g_mm: Array


def _reach(along: Array, across: Array, low: float, step: float) -> tuple[Array, Array]:
    from yellowbob.action.wetted_kernel import reach  # late: it brings the compiler with it

    least, most = np.full(STRIPS, np.inf), np.full(STRIPS, -np.inf)
    reach(np.ascontiguousarray(along), np.ascontiguousarray(across), low, step, least, most)
    empty = most < least
    least[empty] = most[empty] = 0.0
    return least, most


def sides(thing: Pulled, trim: Trim) -> Sides | None:
    """The wet hull of a trim as strips; None where nothing of it is wet."""
    axes = axes_of(thing, trim)
    wet = [below(mesh.corners, trim.up, trim.height_mm) for mesh, law in thing.skins if law == HULL]
    skin = np.concatenate(wet) if wet else np.empty((0, 3, 3))
    if not len(skin):
        return None
    places = axes.of(skin)
    x, y, z = (places[..., k] for k in range(3))
    low, step = float(x.min()), float(np.ptp(x)) / STRIPS
    if step <= 0.0:
        return None
    (bottom, top), (left, right) = _reach(x, z, low, step), _reach(x, y, low, step)
    high, half = top - bottom, (right - left) / 2.0
    at = np.asarray(low + step * (np.arange(STRIPS) + 0.5), dtype=np.float64)
    level = float(trim.height_mm - axes.centre @ trim.up)
    normal = np.cross(places[:, 1] - places[:, 0], places[:, 2] - places[:, 0])
    size = np.maximum(np.linalg.norm(normal, axis=1), 1e-12)
    middle = places.mean(axis=1)
    push = normal[:, 1] / size
    strip = np.clip(((middle[:, 0] - low) / step).astype(int), 0, STRIPS - 1)
    moment = np.bincount(strip, push * (middle[:, 2] * normal[:, 1] - middle[:, 1] * normal[:, 2]), STRIPS)
    weight = np.bincount(strip, push * normal[:, 1], STRIPS)
    # the long thin triangles of a turned body lie in a few strips: places between are drawn in straight
    known = weight > 1e-9 * max(float(weight.max()), 1e-30)
    acts = np.interp(at, at[known], moment[known] / weight[known]) if known.any() else (bottom + top) / 2.0
    gap = np.maximum(level - top, 0.0) / np.maximum(high, 1e-9)
    water = thing.afloat.density_g_mm3 * math.pi * high**2 * (0.25 + 0.25 * np.exp(-2.0 * gap))
    share = ends_share(step * STRIPS, max(float(high.max()), 1e-6), max(float(half.max()), 1e-6))
    return Sides(at, step, high, half, np.asarray(acts, dtype=float), np.asarray(water * share, dtype=float))


def hull_terms(strips: Sides, speed: float, density: float) -> tuple[Array, Array, Array]:
    """(M, C, K): a hull's water, and its cross-flow drag at SWAY, each (3, 3) over sway (mm), yaw and roll (rad), to the
    left.

    speed mm/s. A strip at g = (1, x, -z) moves sideways through the water by w = g·q′ + U·yaw.
    """
    x, step = strips.at_mm, strips.step_mm
    g = np.stack([np.ones_like(x), x, -strips.acts_mm])
    mass = (g * strips.water_g_mm * step) @ g.T
    drag = 0.5 * density * CROSS_CD * strips.high_mm * (8.0 / (3.0 * math.pi)) * SWAY * speed * step
    damping = (g * drag) @ g.T
    stiff = np.zeros((3, 3))
    stiff[:, 1] = speed * (g * drag).sum(axis=1)
    return mass, damping, stiff


def _turned(axis: Array, angle: float) -> Array:
    """(3, 3) rotation about a unit vector (Rodrigues)."""
    x, y, z = axis
    cross = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    return np.asarray(np.eye(3) + math.sin(angle) * cross + (1.0 - math.cos(angle)) * cross @ cross)


def stream_terms(thing: Pulled, trim: Trim, axes: Axes) -> tuple[Array, Array]:
    """(C, K) (3, 3) of the stream's push on hull and plates, by moving the build a little: moved to the left."""
    speed, frame = 1000.0 * trim.speed_m_s, np.stack([axes.aft, axes.across, axes.up])
    ahead, still = speed * axes.aft, np.zeros(3)

    def push(about: Array, angle: float, sideways: float, spin: Array) -> Array:
        turned = _turned(about, angle)
        up = turned.T @ trim.up
        height = trim.height_mm + float(axes.centre @ (up - trim.up))
        force = thing.stream(up, height, turned.T @ (ahead - sideways * axes.across), turned.T @ spin)
        level = frame @ turned
        return np.concatenate([level @ force[:3], level @ force[3:]])[[1, 5, 3]]

    small = SMALL * speed
    rate = small / thing.length_mm
    none = axes.up
    damping = -np.stack([
        (push(none, 0.0, small, still) - push(none, 0.0, -small, still)) / (2.0 * small),
        (push(none, 0.0, 0.0, rate * axes.up) - push(none, 0.0, 0.0, -rate * axes.up)) / (2.0 * rate),
        (push(none, 0.0, 0.0, rate * axes.aft) - push(none, 0.0, 0.0, -rate * axes.aft)) / (2.0 * rate),
    ], axis=1)  # fmt: skip
    stiff = np.zeros((3, 3))
    for column, axis in ((1, axes.up), (2, axes.aft)):
        stiff[:, column] = -(push(axis, SMALL, 0.0, still) - push(axis, -SMALL, 0.0, still)) / (2.0 * SMALL)
    return damping, stiff


def plates_push(thing: Pulled, trim: Trim, axes: Axes) -> Array:
    """(6,) steady push and moment of the stream on the plates alone, level axes, µN and µN·mm."""
    skins = tuple((mesh, law) for mesh, law in thing.skins if law == PLATE)
    if not skins:
        return np.zeros(6)
    frame = np.stack([axes.aft, axes.across, axes.up])
    plates = Pulled(thing.afloat, skins, thing.tie_mm)
    force = plates.stream(trim.up, trim.height_mm, 1000.0 * trim.speed_m_s * axes.aft, np.zeros(3))
    return np.concatenate([frame @ force[:3], frame @ force[3:]])
