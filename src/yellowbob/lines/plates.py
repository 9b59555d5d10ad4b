"""Solids of the pieces beside the body: plates cut to an outline, lumps, and a turning tail."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import manifold3d
import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from yellowbob.design.base import Model
from yellowbob.design.faults import describe
from yellowbob.design.plates import Cutout, Ellipsoid, Fin, Lip, TurningTail, Wings
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadShape
from yellowbob.lines.cutting import prism
from yellowbob.lines.loft import loft
from yellowbob.lines.solids import to_manifold

Array = NDArray[np.float64]

ARC_STEPS = 24


def lip_plan(lip: Lip) -> Array:
    """(n, 2) of (along, across): along from -seat in the slot to the tip, symmetric across, mm."""
    long, half = lip.long_mm, lip.wide_mm / 2
    if lip.plan == "own":
        side = np.array(lip.own, dtype=float)
        side[:, 0] *= long / max(float(side[-1, 0]), 1e-9)
    elif lip.plan == "square":
        side = np.array([[0.0, half], [long, half]])
    elif lip.plan == "coffin":
        side = np.array([[0.0, 0.6 * half], [0.45 * long, half], [long, 0.55 * half]])
    else:
        angle = np.linspace(0.0, np.pi / 2, ARC_STEPS)
        reach = min(half, long)
        arc = np.stack([long - reach + reach * np.sin(angle), half * np.cos(angle)], axis=1)
        side = np.vstack([[[0.0, half]], arc]) if long > reach else arc
    if lip.seat_mm > 0:
        side = np.vstack([[[-lip.seat_mm, side[0, 1]]], side])
    side = side[np.concatenate([[True], np.any(np.abs(np.diff(side, axis=0)) > 1e-9, axis=1)])]
    other = side[::-1] * [1.0, -1.0]
    if abs(side[-1, 1]) < 1e-9:
        other = other[1:]
    return np.vstack([side, other])


def plate(outline: Array, thick_mm: float, origin: Array, along: Array, across: Array) -> manifold3d.Manifold:
    """An outline (n, 2) in the plane of two unit vectors at an origin, half its thickness to each side."""
    x, y = outline.T
    if float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))) < 0:
        outline = outline[::-1]
    solid = manifold3d.CrossSection([np.ascontiguousarray(outline)]).extrude(thick_mm)
    normal = np.cross(along, across)
    frame = np.stack([along, across, normal], axis=1)
    return solid.transform(np.column_stack([frame, origin - normal * thick_mm / 2]))


def _lip(lip: Lip) -> manifold3d.Manifold:
    a = np.radians(lip.angle_deg)
    along = np.array([-np.cos(a), 0.0, -np.sin(a)])
    return plate(lip_plan(lip), lip.thick_mm, np.array([lip.x_mm, 0, lip.z_mm]), along, np.array([0.0, 1.0, 0.0]))


def _wings(wings: Wings) -> manifold3d.Manifold:
    sweep = wings.span_mm * np.tan(np.radians(wings.sweep_deg))
    outline = np.array(
        [[0, 0], [wings.root_mm, 0], [sweep + wings.tip_mm, wings.span_mm], [sweep, wings.span_mm]], float
    )
    rise, twist = np.radians(wings.raise_deg), np.radians(wings.twist_deg)
    out = np.array([0.0, np.cos(rise), np.sin(rise)])
    up = np.array([0.0, -np.sin(rise), np.cos(rise)])
    aft = np.cos(twist) * np.array([1.0, 0, 0]) - np.sin(twist) * up
    one = plate(outline, wings.thick_mm, np.array([wings.x_mm, wings.y_mm, wings.z_mm]), aft, out)
    return one + one.mirror((0.0, 1.0, 0.0))


def _sheet(shape: Fin | Cutout) -> manifold3d.Manifold:
    corners = np.array(shape.corners_mm, dtype=float)
    crossing = first_crossing(corners)
    if crossing is not None:
        raise BadShape(
            f"the outline crosses itself near x {crossing[0]:.1f}, z {crossing[1]:.1f} mm; put its corners in order"
        )
    return prism(corners, shape.thick_mm / 2)


def first_crossing(corners: Array) -> Array | None:
    """Where a closed outline (n, 2) first crosses itself; None where it does not. Sides that share a corner do not count."""
    start, end = corners, np.roll(corners, -1, axis=0)
    count = len(corners)
    for i in range(count - 1):
        others = np.arange(i + 2, count - (i == 0))
        if not len(others):
            continue
        d, e = end[i] - start[i], end[others] - start[others]
        away = start[others] - start[i]
        turn = d[0] * e[:, 1] - d[1] * e[:, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            t = (away[:, 0] * e[:, 1] - away[:, 1] * e[:, 0]) / turn
            u = (away[:, 0] * d[1] - away[:, 1] * d[0]) / turn
        hit = np.flatnonzero((turn != 0) & (t > 1e-9) & (t < 1 - 1e-9) & (u > 1e-9) & (u < 1 - 1e-9))
        if len(hit):
            return np.asarray(start[i] + t[hit[0]] * d)
    return None


def _turning_tail(tail: TurningTail) -> manifold3d.Manifold:
    return to_manifold(loft(Turned(profile=tail.profile)).moved(shift=np.array([tail.x_mm, 0.0, tail.z_mm])))


ELLIPSOID_SIDES = 48


def _ellipsoid(shape: Ellipsoid) -> manifold3d.Manifold:
    """A faceted ball brought to the exact volume πabc/6, then stretched to its three axes."""
    ball = manifold3d.Manifold.sphere(0.5, ELLIPSOID_SIDES)
    swell = float((np.pi / 6.0 / ball.volume()) ** (1.0 / 3.0))
    return ball.scale((swell * shape.long_mm, swell * shape.wide_mm, swell * shape.high_mm))


PLATES: dict[type[Model], Callable[[Any], manifold3d.Manifold]] = {
    Lip: _lip, Wings: _wings, Fin: _sheet, TurningTail: _turning_tail, Ellipsoid: _ellipsoid, Cutout: _sheet,
}  # fmt: skip
"""How each shape beside the body becomes a solid, in body axes as drawn."""


def plate_solid(shape: Model, name: str) -> manifold3d.Manifold:
    """The closed solid of a shape beside the body. Raises BadShape when its outline encloses nothing."""
    try:
        solid = PLATES[type(shape)](shape)
    except ValidationError as error:
        raise BadShape(f"{name}: {describe(error)}") from None
    except BadShape as error:
        raise BadShape(f"{name}: {error}") from None
    if solid.is_empty() or solid.volume() <= 1e-6:
        raise BadShape(f"{name}: its outline encloses nothing; give it length and width")
    return solid
