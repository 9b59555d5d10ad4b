"""Solids of the parts beside the body: plates cut to an outline, and a turning tail."""

from __future__ import annotations

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.parts import Fin, Lip, Part, TurningTail, Wings
from yellowbob.design.shape import Turned
from yellowbob.errors import BadShape
from yellowbob.lines.cutting import prism
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold

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


def part_solid(part: Part) -> Mesh:
    """The closed solid of a part, body axes. Raises BadShape when its outline encloses nothing."""
    if isinstance(part, TurningTail):
        return loft(Turned(profile=part.profile)).moved(shift=np.array([part.x_mm, 0.0, part.z_mm]))
    if isinstance(part, Fin):
        solid = prism(np.array(part.corners_mm, dtype=float), part.thick_mm / 2)
    elif isinstance(part, Lip):
        solid = _lip(part)
    else:
        solid = _wings(part)
    if solid.is_empty() or solid.volume() <= 1e-6:
        raise BadShape(f"{part.name}: its outline encloses nothing; give it length and width")
    return from_manifold(solid)
