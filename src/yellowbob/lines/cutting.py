"""The solids that cuts take away, in body axes, reaching clear of the body wherever they are open."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import Model
from yellowbob.design.cuts import Cup, Cut, Notch, Plane, Slot, Sockets
from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit
from yellowbob.lines.sections import half_width_at
from yellowbob.lines.solids import cap, rod, to_manifold

Array = NDArray[np.float64]


JUST_BELOW_MM = 0.05
"""How far below a cup's rim its wood is measured."""


def plane_of(cut: Plane) -> tuple[Array, float]:
    """(normal, offset) of a flat cut: what lies at x·normal > offset is removed."""
    a = np.radians(cut.slant_deg)
    normal = {
        "face": np.array([-np.cos(a), 0.0, np.sin(a)]),
        "tail cut": np.array([np.cos(a), 0.0, np.sin(a)]),
        "head flat": np.array([-np.sin(a), 0.0, np.cos(a)]),
    }[cut.kind]
    return normal, float(normal @ np.array([cut.x_mm, 0.0, cut.z_mm]))


def prism(corners: Array, half_width_mm: float) -> manifold3d.Manifold:
    """A side-view outline (n, 2) of (x, z) given a width across the body, from -half to +half in y."""
    x, z = corners.T
    if float(np.sum(x * np.roll(z, -1) - z * np.roll(x, -1))) < 0:
        corners = corners[::-1]
    section = manifold3d.CrossSection([np.ascontiguousarray(corners)])
    solid = section.extrude(2.0 * half_width_mm)
    # extruded along +z of its own: its (x, y, z) become the body's (x, z, -y)
    return solid.transform(np.array([[1.0, 0, 0, 0], [0, 0, -1.0, half_width_mm], [0, 1.0, 0, 0]]))


def _reach(body: Mesh) -> float:
    return float(np.linalg.norm(body.bounds[1] - body.bounds[0])) + 10.0


def _cup(cut: Cup, body: Mesh) -> manifold3d.Manifold:
    hollow = cap(cut.diameter_mm, cut.depth_mm + cut.pool_mm, _reach(body))
    wide = (cut.width_mm or cut.diameter_mm) / cut.diameter_mm
    inward = cup_axis(cut)
    across = np.array([0.0, 1.0, 0.0])
    frame = np.stack([np.cross(across, inward), across, inward], axis=1) @ np.diag([1.0, wide, 1.0])
    return to_manifold(hollow.moved(frame, np.array([cut.rim_x_mm, 0.0, cut.z_mm])), "a cup")


def _notch(cut: Notch, body: Mesh) -> manifold3d.Manifold:
    long = _reach(body)
    out = -1.0 if cut.side == "belly" else 1.0
    root = np.array([cut.x_mm, cut.z_mm])
    fore, aft = np.radians(cut.fore_deg), np.radians(cut.aft_deg)
    ahead = root + long / np.cos(fore) * np.array([-np.sin(fore), out * np.cos(fore)])
    behind = root + long / np.cos(aft) * np.array([np.sin(aft), out * np.cos(aft)])
    return prism(np.array([root, ahead, behind]), long)


def _slot(cut: Slot, body: Mesh) -> manifold3d.Manifold:
    a = np.radians(cut.angle_deg)
    along, across = np.array([np.cos(a), np.sin(a)]), np.array([-np.sin(a), np.cos(a)]) * cut.thick_mm / 2
    mouth = np.array([cut.x_mm, cut.z_mm])
    start, end = mouth - along * (cut.thick_mm + 4.0), mouth + along * cut.depth_mm
    corners = np.array([start - across, end - across, end + across, start + across])
    return prism(corners, cut.across_mm / 2 if cut.across_mm else _reach(body))


def _sockets(cut: Sockets, body: Mesh, shape: Model | None) -> manifold3d.Manifold:
    both = []
    floor = _exact_floor(cut, shape)
    for side in (-1.0, 1.0):
        start = np.array([cut.x_mm, side * _reach(body), cut.z_mm])
        hit = first_hit(body, start, np.array([0.0, -side, 0.0]))
        if hit is None:
            continue
        surface = start + np.array([0.0, -side * hit, 0.0])
        lead = np.array([0.0, side * (cut.diameter_mm + 2.0), 0.0])
        bottom = surface - np.array([0.0, side * cut.depth_mm, 0.0])
        drilled = rod(surface + lead, bottom, cut.diameter_mm)
        if floor is not None:
            # triangles lie a hair beside the true surface, and a socket is shallow: bring it to its exact volume
            for _ in range(2):
                lacks = floor - (drilled ^ to_manifold(body)).volume()
                bottom[1] -= side * lacks / (np.pi / 4.0 * cut.diameter_mm**2)
                drilled = rod(surface + lead, bottom, cut.diameter_mm)
        both.append(drilled)
    return manifold3d.Manifold.batch_boolean(both, manifold3d.OpType.Add) if both else manifold3d.Manifold()


def _exact_floor(cut: Sockets, shape: Model | None) -> float | None:
    """Volume of one socket under the drawn surface, mm³: ∫ (surface - floor) over its round; None where it is not all under.

    By Gauss-Legendre across rings and equal steps round each.
    """
    if not isinstance(shape, Lofted | Turned):
        return None
    node, weight = np.polynomial.legendre.leggauss(12)
    radius = cut.diameter_mm / 2.0
    r, ring = radius * 0.5 * (node + 1.0), radius * 0.5 * weight
    turn = 2.0 * np.pi * (np.arange(48) + 0.5) / 48
    x, z = cut.x_mm + np.outer(r, np.cos(turn)), cut.z_mm + np.outer(r, np.sin(turn))
    if x.min() < 0.0 or x.max() > shape.length_mm:
        return None
    surface = half_width_at(shape, x.ravel(), z.ravel()).reshape(x.shape)
    middle = float(half_width_at(shape, np.array([cut.x_mm]), np.array([cut.z_mm]))[0])
    deep = surface - (middle - cut.depth_mm)
    if middle <= cut.depth_mm or float(surface.min()) <= 0.0:
        return None
    return float((np.maximum(deep, 0.0).mean(axis=1) * 2.0 * np.pi * r * ring).sum())


def _beyond(cut: Plane, body: Mesh) -> manifold3d.Manifold:
    """All that a flat cut removes of anything as large as the body: a block beyond its plane."""
    normal, offset = plane_of(cut)
    far = 4.0 * _reach(body)
    block = manifold3d.Manifold.cube([2.0 * far, 2.0 * far, 2.0 * far], center=True)
    return block.translate((normal * offset).tolist()).trim_by_plane(normal, offset)


def _trimmed(solid: manifold3d.Manifold, cut: Plane) -> manifold3d.Manifold:
    normal, offset = plane_of(cut)
    return solid.trim_by_plane(-normal, -offset)


CUTTERS: dict[type[Model], Callable[[Any, Mesh, Model | None], manifold3d.Manifold]] = {
    Cup: lambda cut, blank, _: _cup(cut, blank), Notch: lambda cut, blank, _: _notch(cut, blank),
    Slot: lambda cut, blank, _: _slot(cut, blank), Sockets: _sockets, Plane: lambda cut, blank, _: _beyond(cut, blank),
}  # fmt: skip
"""The solid that each kind of cut takes away."""


def cut_from(solid: manifold3d.Manifold, cut: Cut, blank: Mesh, shape: Model | None = None) -> manifold3d.Manifold:
    """A solid after one cut; `blank` is the body before any, against which places are read, and `shape` what it is of."""
    return _trimmed(solid, cut) if isinstance(cut, Plane) else solid - CUTTERS[type(cut)](cut, blank, shape)


def taken_by_cut(solid: manifold3d.Manifold, cut: Cut, blank: Mesh, shape: Model | None = None) -> manifold3d.Manifold:
    """What a cut takes of a solid, by itself: as `cut_from`."""
    return solid ^ CUTTERS[type(cut)](cut, blank, shape)


def cup_axis(cut: Cup) -> Array:
    """Unit vector into the body along a cup's axis, body axes."""
    slant = np.radians(cut.slant_deg)
    return np.array([np.cos(slant), 0.0, -np.sin(slant)])


def rim_left_mm(cut: Cup, body: Mesh) -> float:
    """Least wood left around a cup's rim, measured in the rim's plane from the cut body's own edge, mm.

    0 where the cup breaks through the side. Source: nearest distance between two outlines.
    """
    inward = cup_axis(cut)
    up = np.cross(inward, np.array([0.0, -1.0, 0.0]))
    centre = np.array([cut.rim_x_mm, 0.0, cut.z_mm])
    far, least = _reach(body), np.inf
    for a in np.linspace(0, 2 * np.pi, 73)[:-1]:
        out = (
            np.cos(a) * np.array([0.0, 1.0, 0.0]) * (cut.width_mm or cut.diameter_mm) / cut.diameter_mm + np.sin(a) * up
        )
        size = float(np.linalg.norm(out))
        start = centre + inward * JUST_BELOW_MM + out / size * far
        hit = first_hit(body, start, -out / size)
        edge = 0.0 if hit is None else far - hit
        least = min(least, edge - size * cut.diameter_mm / 2)
    return float(max(0.0, least))
