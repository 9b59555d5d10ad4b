"""Edits of wires: exchanged, bent, looped, put in, and taken out for screw eyes."""

from __future__ import annotations

from typing import Any

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


def with_bend(design: Design, number: int) -> Design:
    """A bend more, half-way along the wire's longest stretch."""
    path = wire_at(design, number).path_mm
    longest = max(
        range(len(path) - 1), key=lambda i: sum((a - b) ** 2 for a, b in zip(path[i], path[i + 1], strict=True))
    )
    a, b = path[longest], path[longest + 1]
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2 - FIRST_DROP_MM)
    return with_wire(design, number, path_mm=(*path[: longest + 1], middle, *path[longest + 1 :]))


def with_screw_eyes(design: Design, number: int, eye: Fitting) -> Design:
    """The wire taken out, and a screw eye where each end of it was; `eye` is one from the shelf."""
    path = wire_at(design, number).path_mm
    eyes = [replaced(eye, name=name, at_mm=at, aim_deg=aim)
            for name, at, aim in (("Screw eye, fore", path[0], 0.0), ("Screw eye, aft", path[-1], 180.0))]  # fmt: skip
    left = (*design.wires[:number], *design.wires[number + 1 :])
    return design.but(wires=left, fittings=(*design.fittings, *eyes))
