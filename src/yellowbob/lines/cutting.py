"""The solids that cuts take away, in body axes, reaching clear of the body wherever they are open."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import Model
from yellowbob.design.cuts import Cup, Cut, Notch, Plane, Slot, Sockets
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit
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


def _sockets(cut: Sockets, body: Mesh) -> manifold3d.Manifold:
    both = []
    for side in (-1.0, 1.0):
        start = np.array([cut.x_mm, side * _reach(body), cut.z_mm])
        hit = first_hit(body, start, np.array([0.0, -side, 0.0]))
        if hit is None:
            continue
        surface = start + np.array([0.0, -side * hit, 0.0])
        lead = np.array([0.0, side * (cut.diameter_mm + 2.0), 0.0])
        both.append(rod(surface + lead, surface - np.array([0.0, side * cut.depth_mm, 0.0]), cut.diameter_mm))
    return manifold3d.Manifold.batch_boolean(both, manifold3d.OpType.Add) if both else manifold3d.Manifold()


def _trimmed(solid: manifold3d.Manifold, cut: Plane, _: Mesh) -> manifold3d.Manifold:
    normal, offset = plane_of(cut)
    return solid.trim_by_plane(-normal, -offset)


def _less(cutter: Callable[[Any, Mesh], manifold3d.Manifold]) -> Callable[..., manifold3d.Manifold]:
    return lambda solid, cut, blank: solid - cutter(cut, blank)


CUTTERS: dict[type[Model], Callable[[manifold3d.Manifold, Any, Mesh], manifold3d.Manifold]] = {
    Plane: _trimmed, Cup: _less(_cup), Notch: _less(_notch), Slot: _less(_slot), Sockets: _less(_sockets),
}  # fmt: skip
"""What each kind of cut leaves of a solid."""


def cut_from(solid: manifold3d.Manifold, cut: Cut, blank: Mesh) -> manifold3d.Manifold:
    """A solid after one cut; `blank` is the body before any, against which places are read."""
    return CUTTERS[type(cut)](solid, cut, blank)


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
