"""Another size of a design: everything drawn is scaled, what is bought or brushed on is not.

Hooks, wire, eyes, ballast, its holes, plate thicknesses and films keep their sizes; only their places move. So a body
shrinks with the cube of its size and its hardware hardly at all. Where only the length is stretched, slants of faces,
notches and slots lean as the stretched body does; a lip's angle, which was chosen for the water, stays.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from typing import Any

from yellowbob.design.bands import LEAST_BAND_MM, Band
from yellowbob.design.base import Model
from yellowbob.design.cuts import Cup, Notch, Plane, Slot, Sockets
from yellowbob.design.model import Ballast, Bore, Coat, Design, Drilling, Fitting, Piece, Shell, Wire, replaced
from yellowbob.design.plates import Cutout, Ellipsoid, Fin, Lip, TurningTail, Wings
from yellowbob.design.rig import Rig
from yellowbob.design.shape import Lofted, MeshBody, OutlinePoint, Turned
from yellowbob.ground.errors import BadInput

Scale = tuple[float, float]
"""(along, across): factors of x, and of y and z."""


def _outline(points: tuple[OutlinePoint, ...], by: Scale) -> tuple[OutlinePoint, ...]:
    return tuple(replaced(p, at_mm=(p.at_mm[0] * by[0], p.at_mm[1] * by[1])) for p in points)


def _place(at: tuple[float, float, float], by: Scale) -> tuple[float, float, float]:
    return at[0] * by[0], at[1] * by[1], at[2] * by[1]


def _lofted(shape: Lofted, by: Scale) -> Lofted:
    return replaced(
        shape, back=_outline(shape.back, by), belly=_outline(shape.belly, by), plan=_outline(shape.plan, by),
        sections=tuple(replaced(s, x_mm=s.x_mm * by[0]) for s in shape.sections),
    )  # fmt: skip


def _turned(shape: Turned, by: Scale) -> Turned:
    return replaced(shape, profile=_outline(shape.profile, by))


def _mesh(shape: MeshBody, by: Scale) -> MeshBody:
    return replaced(shape, vertices_mm=tuple(_place(v, by) for v in shape.vertices_mm))


def _lip(shape: Lip, by: Scale) -> Lip:
    along, across = by
    return replaced(
        shape, x_mm=shape.x_mm * along, z_mm=shape.z_mm * across, long_mm=shape.long_mm * across,
        wide_mm=shape.wide_mm * across, seat_mm=shape.seat_mm * across,
        own=tuple((a * across, w * across) for a, w in shape.own),
    )  # fmt: skip


def _wings(shape: Wings, by: Scale) -> Wings:
    along, across = by
    return replaced(
        shape, x_mm=shape.x_mm * along, y_mm=shape.y_mm * across, z_mm=shape.z_mm * across,
        span_mm=shape.span_mm * across, root_mm=shape.root_mm * along, tip_mm=shape.tip_mm * along,
    )  # fmt: skip


def _corners(corners: tuple[tuple[float, float], ...], by: Scale) -> tuple[tuple[float, float], ...]:
    return tuple((x * by[0], z * by[1]) for x, z in corners)


def _fin(shape: Fin, by: Scale) -> Fin:
    return replaced(shape, corners_mm=_corners(shape.corners_mm, by))


def _turning_tail(shape: TurningTail, by: Scale) -> TurningTail:
    return replaced(shape, x_mm=shape.x_mm * by[0], z_mm=shape.z_mm * by[1], profile=_outline(shape.profile, by))


def _ellipsoid(shape: Ellipsoid, by: Scale) -> Ellipsoid:
    return replaced(
        shape, long_mm=shape.long_mm * by[0], wide_mm=shape.wide_mm * by[1], high_mm=shape.high_mm * by[1]
    )  # fmt: skip


def _cutout(shape: Cutout, by: Scale) -> Cutout:
    return replaced(shape, corners_mm=_corners(shape.corners_mm, by))


SCALED_SHAPES: dict[type[Model], Callable[[Any, Scale], Any]] = {
    Lofted: _lofted, Turned: _turned, MeshBody: _mesh, Lip: _lip, Wings: _wings, Fin: _fin,
    TurningTail: _turning_tail, Ellipsoid: _ellipsoid, Cutout: _cutout,
}  # fmt: skip


def _leaning(from_square_deg: float, by: Scale) -> float:
    """An angle from square to the axis, of a line that is stretched: its tangent grows as the length does."""
    return math.degrees(math.atan(math.tan(math.radians(from_square_deg)) * by[0] / by[1]))


def _cup(cut: Cup, by: Scale) -> Cup:
    along, across = by
    return replaced(
        cut, diameter_mm=cut.diameter_mm * across, width_mm=cut.width_mm and cut.width_mm * across,
        depth_mm=cut.depth_mm * across, pool_mm=cut.pool_mm * across, z_mm=cut.z_mm * across,
        rim_x_mm=cut.rim_x_mm * along, slant_deg=_leaning(cut.slant_deg, by),
    )  # fmt: skip


def _plane(cut: Plane, by: Scale) -> Plane:
    # a head flat's angle is from level, the others' from square
    slant = _leaning(cut.slant_deg, by[::-1] if cut.kind == "head flat" else by)
    return replaced(cut, x_mm=cut.x_mm * by[0], z_mm=cut.z_mm * by[1], slant_deg=slant)


def _notch(cut: Notch, by: Scale) -> Notch:
    return replaced(
        cut, x_mm=cut.x_mm * by[0], z_mm=cut.z_mm * by[1], fore_deg=_leaning(cut.fore_deg, by),
        aft_deg=_leaning(cut.aft_deg, by),
    )  # fmt: skip


def _slot(cut: Slot, by: Scale) -> Slot:
    angle = math.radians(cut.angle_deg)
    aft, up = by[0] * math.cos(angle), by[1] * math.sin(angle)
    return replaced(
        cut, x_mm=cut.x_mm * by[0], z_mm=cut.z_mm * by[1], depth_mm=cut.depth_mm * math.hypot(aft, up),
        angle_deg=math.degrees(math.atan2(up, aft)), across_mm=cut.across_mm and cut.across_mm * by[1],
    )  # fmt: skip


def _sockets(cut: Sockets, by: Scale) -> Sockets:
    return replaced(
        cut, x_mm=cut.x_mm * by[0], z_mm=cut.z_mm * by[1], diameter_mm=cut.diameter_mm * by[1],
        depth_mm=cut.depth_mm * by[1],
    )  # fmt: skip


SCALED_CUTS: dict[type[Model], Callable[[Any, Scale], Any]] = {
    Cup: _cup, Plane: _plane, Notch: _notch, Slot: _slot, Sockets: _sockets,
}  # fmt: skip


def _drilling(drilling: Drilling, by: Scale) -> Drilling:
    a, b = drilling.place_mm
    along = by[1] if drilling.side in ("nose", "tail") else by[0]
    return replaced(drilling, place_mm=(a * along, b * by[1]))


def _ballast(ballast: Ballast, by: Scale) -> Ballast:
    return replaced(
        ballast,
        drilling=_drilling(ballast.drilling, by) if ballast.drilling else None,
        at_mm=_place(ballast.at_mm, by) if ballast.at_mm else None,
    )


def _shell(shell: Shell | None, by: Scale) -> Shell | None:
    return shell and replaced(shell, split_mm=tuple((x * by[0], z * by[1]) for x, z in shell.split_mm))


def _bore(bore: Bore, by: Scale) -> Bore:
    deep = bore.drilling.depth_mm * (by[0] if bore.drilling.side in ("nose", "tail") else by[1])
    return replaced(bore, drilling=replaced(_drilling(bore.drilling, by), depth_mm=deep))


def _piece(piece: Piece, by: Scale) -> Piece:
    return replaced(
        piece, shape=SCALED_SHAPES[type(piece.shape)](piece.shape, by), at_mm=_place(piece.at_mm, by),
        cuts=tuple(SCALED_CUTS[type(c)](c, by) for c in piece.cuts), shell=_shell(piece.shell, by),
        bores=tuple(_bore(b, by) for b in piece.bores),
    )  # fmt: skip


def _fitting(fitting: Fitting, by: Scale) -> Fitting:
    return replaced(fitting, at_mm=_place(fitting.at_mm, by))


def _wire(wire: Wire, by: Scale) -> Wire:
    return replaced(wire, path_mm=tuple(_place(p, by) for p in wire.path_mm))


def _rig(rig: Rig | None, by: Scale) -> Rig | None:
    """What hangs on the line stays; where it pulls and the tip that shows grow with the float."""
    if rig is None:
        return None
    at = _place(rig.at_mm, by) if rig.at_mm is not None else None
    return replaced(rig, at_mm=at, tip_mm=rig.tip_mm * by[0])


def _band(band: Band, by: Scale) -> Band:
    start = band.from_mm * by[0]
    return replaced(band, from_mm=start, to_mm=max(band.to_mm * by[0], start + LEAST_BAND_MM))


def _coat(coat: Coat, by: Scale) -> Coat:
    """Films stay; the band that a coat covers moves with the body."""
    return replaced(
        coat, **{name: at * by[0] for name in ("from_mm", "to_mm") if (at := getattr(coat, name)) is not None}
    )


def _renamed(name: str, old_mm: float, new_mm: float) -> str:
    """A name for the new size: a length it ends with is exchanged, else the new length is put behind it."""
    size = f"{new_mm:.0f}" if new_mm >= 10.0 else f"{new_mm:.1f}"
    ending = re.search(r"(\d+)(?:, [\d.]+ mm)?$", name)
    if ending is not None and abs(float(ending[1]) - old_mm) <= 1.0:
        return f"{name[: ending.start()]}{size}"
    return f"{re.sub(r', [0-9.]+ mm$', '', name)[:68]}, {size} mm"


def rescaled(design: Design, factor: float, length_only: bool = False) -> Design:
    """The design at `factor` times its size, or its length only stretched. Scaling by k and 1/k gives it back.

    What was weighed was another piece: its weighings stay behind.

    Raises BadInput for a factor outside 0.05 to 20, and where something would become longer than a design can be.
    """
    if not 0.05 <= factor <= 20.0:
        raise BadInput(f"a factor of {factor:g} is outside 0.05 to 20; give the size you want to make")
    by = (factor, 1.0 if length_only else factor)
    start, end = design.stack_mm
    old = end - start
    return design.but(
        name=design.name if factor == 1.0 else _renamed(design.name, old, factor * old),
        coats=tuple(_coat(c, by) for c in design.coats),
        pieces=tuple(_piece(p, by) for p in design.pieces),
        ballast=tuple(_ballast(b, by) for b in design.ballast),
        fittings=tuple(_fitting(f, by) for f in design.fittings),
        wires=tuple(_wire(w, by) for w in design.wires),
        rig=_rig(design.rig, by),
        bands=tuple(_band(b, by) for b in design.bands),
        weighings=(),
    )
