"""Another size of a design: everything drawn is scaled, what is bought or brushed on is not.

Hooks, wire, eyes, ballast, its holes, plate thicknesses and films keep their sizes; only their places move. So a body
shrinks with the cube of its size and its hardware hardly at all.
"""

from __future__ import annotations

from typing import Any

from yellowbob.design.cuts import Cup, Notch, Plane, Slot
from yellowbob.design.model import Ballast, Bore, Design, Drilling, Fitting, Shell, Wire, replaced
from yellowbob.design.parts import Fin, Lip, TurningTail
from yellowbob.design.shape import Lofted, MeshBody, OutlinePoint, Turned
from yellowbob.errors import BadInput

Scale = tuple[float, float]
"""(along, across): factors of x, and of y and z."""


def _outline(points: tuple[OutlinePoint, ...], by: Scale) -> tuple[OutlinePoint, ...]:
    return tuple(replaced(p, at_mm=(p.at_mm[0] * by[0], p.at_mm[1] * by[1])) for p in points)


def _place(at: tuple[float, float, float], by: Scale) -> tuple[float, float, float]:
    return at[0] * by[0], at[1] * by[1], at[2] * by[1]


def _shape(shape: Lofted | Turned | MeshBody, by: Scale) -> Lofted | Turned | MeshBody:
    if isinstance(shape, Turned):
        return Turned(profile=_outline(shape.profile, by))
    if isinstance(shape, MeshBody):
        return replaced(shape, vertices_mm=tuple(_place(v, by) for v in shape.vertices_mm))
    return Lofted(
        back=_outline(shape.back, by),
        belly=_outline(shape.belly, by),
        plan=_outline(shape.plan, by),
        sections=tuple(replaced(s, x_mm=s.x_mm * by[0]) for s in shape.sections),
    )


def _cut(cut: Any, by: Scale) -> Any:
    along, across = by
    if isinstance(cut, Cup):
        return replaced(
            cut, diameter_mm=cut.diameter_mm * across, width_mm=cut.width_mm and cut.width_mm * across,
            depth_mm=cut.depth_mm * across, pool_mm=cut.pool_mm * across, z_mm=cut.z_mm * across,
            rim_x_mm=cut.rim_x_mm * along,
        )  # fmt: skip
    if isinstance(cut, Plane | Notch):
        return replaced(cut, x_mm=cut.x_mm * along, z_mm=cut.z_mm * across)
    if isinstance(cut, Slot):
        return replaced(
            cut, x_mm=cut.x_mm * along, z_mm=cut.z_mm * across, depth_mm=cut.depth_mm * across,
            across_mm=cut.across_mm and cut.across_mm * across,
        )  # fmt: skip
    return replaced(
        cut, x_mm=cut.x_mm * along, z_mm=cut.z_mm * across, diameter_mm=cut.diameter_mm * across,
        depth_mm=cut.depth_mm * across,
    )  # fmt: skip


def _part(part: Any, by: Scale) -> Any:
    along, across = by
    if isinstance(part, Lip):
        return replaced(
            part, x_mm=part.x_mm * along, z_mm=part.z_mm * across, long_mm=part.long_mm * across,
            wide_mm=part.wide_mm * across, seat_mm=part.seat_mm * across,
            own=tuple((a * across, w * across) for a, w in part.own),
        )  # fmt: skip
    if isinstance(part, Fin):
        return replaced(part, corners_mm=tuple((x * along, z * across) for x, z in part.corners_mm))
    if isinstance(part, TurningTail):
        return replaced(part, x_mm=part.x_mm * along, z_mm=part.z_mm * across, profile=_outline(part.profile, by))
    return replaced(
        part, x_mm=part.x_mm * along, y_mm=part.y_mm * across, z_mm=part.z_mm * across, span_mm=part.span_mm * across,
        root_mm=part.root_mm * along, tip_mm=part.tip_mm * along,
    )  # fmt: skip


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


def rescaled(design: Design, factor: float, length_only: bool = False) -> Design:
    """The design at `factor` times its size, or its length only stretched. Scaling by k and 1/k gives it back.

    Raises BadInput for a factor outside 0.05 to 20.
    """
    if not 0.05 <= factor <= 20.0:
        raise BadInput(f"a factor of {factor:g} is outside 0.05 to 20; give the size you want to make")
    by = (factor, 1.0 if length_only else factor)
    body = replaced(
        design.body,
        shape=_shape(design.body.shape, by),
        cuts=tuple(_cut(c, by) for c in design.body.cuts),
        shell=_shell(design.body.shell, by),
    )
    return design.but(
        body=body,
        parts=tuple(_part(p, by) for p in design.parts),
        bores=tuple(_bore(b, by) for b in design.bores),
        ballast=tuple(_ballast(b, by) for b in design.ballast),
        fittings=tuple(_fitting(f, by) for f in design.fittings),
        wires=tuple(_wire(w, by) for w in design.wires),
    )


def _shell(shell: Shell | None, by: Scale) -> Shell | None:
    return shell and replaced(shell, split_mm=tuple((x * by[0], z * by[1]) for x, z in shell.split_mm))


def _bore(bore: Bore, by: Scale) -> Bore:
    deep = bore.drilling.depth_mm * (by[0] if bore.drilling.side in ("nose", "tail") else by[1])
    return replaced(bore, drilling=replaced(_drilling(bore.drilling, by), depth_mm=deep))


def _fitting(fitting: Fitting, by: Scale) -> Fitting:
    return replaced(fitting, at_mm=_place(fitting.at_mm, by))


def _wire(wire: Wire, by: Scale) -> Wire:
    return replaced(wire, path_mm=tuple(_place(p, by) for p in wire.path_mm))
