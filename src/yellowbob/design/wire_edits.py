"""Edits of wires: exchanged, bent, looped, put in, and taken out for screw eyes."""

from __future__ import annotations

from typing import Any

from yellowbob.design.base import Point
from yellowbob.design.edits import with_added
from yellowbob.design.hardware import line_tie
from yellowbob.design.model import Design, Fitting, Loop, Wire, replaced
from yellowbob.design.names import unlike
from yellowbob.ground.errors import BadInput

OVERHANG_MM = 5.0
"""How far a new wire stands out at nose and tail."""
FIRST_DROP_MM = 2.0
"""How far a new bend lies below the straight line."""


def wire_at(design: Design, number: int) -> Wire:
    """A wire by its number. Raises BadInput where there is none."""
    if not 0 <= number < len(design.wires):
        raise BadInput(f"there is no wire {number + 1}; the design has {len(design.wires)}")
    return design.wires[number]


def with_wire(design: Design, number: int, **changes: Any) -> Design:
    """The design with fields of a wire changed."""
    new = replaced(wire_at(design, number), **changes)
    return design.but(wires=(*design.wires[:number], new, *design.wires[number + 1 :]))


def with_loop(design: Design, number: int, end: str, **changes: Any) -> Design:
    """The loop at an end of a wire changed, or made; `kind="none"` takes it off."""
    wire = wire_at(design, number)
    others = tuple(one for one in wire.loops if one.end != end)
    if changes.get("kind") == "none":
        return with_wire(design, number, loops=others)
    old = next((one for one in wire.loops if one.end == end), None)
    fresh = Loop.model_validate({"end": end}) if old is None else old
    return with_wire(design, number, loops=(*others, replaced(fresh, **changes)))


def with_new_wire(design: Design, from_x_mm: float, to_x_mm: float) -> Design:
    """A straight wire more along the axis, standing out of the body that lies between two stations."""
    name = unlike(f"Wire {len(design.wires) + 1}", {w.name for w in design.wires})
    path = ((from_x_mm - OVERHANG_MM, 0.0, 0.0), (to_x_mm + OVERHANG_MM, 0.0, 0.0))
    return design.but(wires=(*design.wires, Wire(name=name, diameter_mm=1.0, path_mm=path)))


FRAME_MM, FRAME_RISES = 1.2, 0.15
"""Wire of a new frame, and how far from the nose it has risen to its blade's height, of the body's length. Rules."""
UPRIGHT = 0.7
"""It stands up before the nose for so much of its height."""


def with_frame(design: Design, blade: Fitting, from_x_mm: float, to_x_mm: float) -> Design:
    """A blade on a frame: a wire from the nose up and over the back to where the blade is, which sits on its end.

    Where a wire or the tie stands out at the nose the frame is bent on there, else it goes into the nose along the axis.
    Raises BadInput for a blade before the nose.
    """
    x, y, z = blade.at_mm
    long = to_x_mm - from_x_mm
    if x - from_x_mm < 0.1 * long:
        raise BadInput(
            f"a frame bends up at the nose and reaches back: put {blade.name} at least {from_x_mm + 0.1 * long:.0f} mm aft"
        )
    tie = line_tie(design.fittings)
    ends = [p for w in design.wires for p in (w.path_mm[0], w.path_mm[-1]) if p[0] < from_x_mm]
    ends += [tie.at_mm] if tie is not None and tie.at_mm[0] < from_x_mm else []
    bends = max(from_x_mm - OVERHANG_MM, min(p[0] for p in ends)) if ends else from_x_mm - OVERHANG_MM
    height = next((p[2] for p in ends if p[0] <= bends), 0.0)
    risen = min(from_x_mm + FRAME_RISES * long, (from_x_mm + x) / 2.0)
    path: list[Point] = [] if ends else [(from_x_mm + FRAME_RISES * long, 0.0, 0.0)]
    path += [
        (bends, 0.0, height),
        (bends, 0.0, height + UPRIGHT * (z - height)),
        (risen, y, z),
        (x + max(blade.long_mm, 0.5) + blade.play_mm + OVERHANG_MM, y, z),
    ]
    name = unlike("Frame", {w.name for w in design.wires})
    loops = (Loop(end="fore"),) if ends else ()
    frame = Wire(name=name, diameter_mm=FRAME_MM, path_mm=tuple(path), loops=loops)
    return with_added(design.but(wires=(*design.wires, frame)), blade)[0]


def with_bend(design: Design, number: int) -> Design:
    """A bend more, half-way along the wire's longest stretch."""
    path = wire_at(design, number).path_mm
    longest = max(
        range(len(path) - 1), key=lambda i: sum((a - b) ** 2 for a, b in zip(path[i], path[i + 1], strict=True))
    )
    a, b = path[longest], path[longest + 1]
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2 - FIRST_DROP_MM)
    return with_wire(design, number, path_mm=(*path[: longest + 1], middle, *path[longest + 1 :]))


def with_bend_at(design: Design, number: int, bend: int, place: Point) -> Design:
    """A bend or an end of a wire moved. Raises BadInput for a bend that it does not have."""
    path = wire_at(design, number).path_mm
    _known(path, bend)
    return with_wire(design, number, path_mm=(*path[:bend], place, *path[bend + 1 :]))


def without_bend(design: Design, number: int, bend: int) -> Design:
    """A bend or an end of a wire taken out. Raises BadInput for one that it does not have, and for one of its last two."""
    path = wire_at(design, number).path_mm
    _known(path, bend)
    if len(path) < 3:
        raise BadInput("a wire keeps two ends; take the wire out instead")
    return with_wire(design, number, path_mm=(*path[:bend], *path[bend + 1 :]))


def without_wire(design: Design, number: int) -> Design:
    """A wire taken out, and what it took of the wood with it. Raises BadInput where there is none."""
    gone = wire_at(design, number)
    return design.but(wires=tuple(w for w in design.wires if w is not gone))


def _known(path: tuple[Point, ...], bend: int) -> None:
    if not 0 <= bend < len(path):
        raise BadInput(f"there is no bend {bend + 1}; the wire has {len(path)}")


def with_screw_eyes(design: Design, number: int, eye: Fitting) -> Design:
    """The wire taken out, and a screw eye where each end of it was; `eye` is one from the shelf."""
    path = wire_at(design, number).path_mm
    eyes = [replaced(eye, name=name, at_mm=at, aim_deg=aim)
            for name, at, aim in (("Screw eye, fore", path[0], 0.0), ("Screw eye, aft", path[-1], 180.0))]  # fmt: skip
    left = (*design.wires[:number], *design.wires[number + 1 :])
    return design.but(wires=left, fittings=(*design.fittings, *eyes))
