"""Edits of a design as plain functions: each takes one and gives a new one.

A grip is a ballast or a fitting by its number: the things that are grabbed on the drawing.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Literal

from yellowbob.design.base import LONGEST_MM
from yellowbob.design.model import Ballast, Design, Drilling, Fitting, replaced
from yellowbob.design.names import unlike

SAME_PLACE_MM = 0.6
"""Fittings this close together hang on one another and move as one."""
WIRE_HOLD_MM = 2.5
"""A bend of a wire this close to an eye moves with it."""
LEAST_DEPTH_MM = 0.5


@dataclass(frozen=True)
class Grip:
    """Which thing of a design: its list and its number there."""

    kind: Literal["ballast", "fitting"]
    index: int

    def of(self, design: Design) -> Ballast | Fitting | None:
        """The thing itself, None when the design has it no longer."""
        listed: tuple[Any, ...] = design.ballast if self.kind == "ballast" else design.fittings
        return listed[self.index] if 0 <= self.index < len(listed) else None


def grips(design: Design) -> list[Grip]:
    """All that can be grabbed, ballast first."""
    return [Grip("ballast", i) for i in range(len(design.ballast))] + [
        Grip("fitting", i) for i in range(len(design.fittings))
    ]


def with_grip(design: Design, grip: Grip, new: Ballast | Fitting) -> Design:
    """The design with a piece exchanged."""
    field = "ballast" if grip.kind == "ballast" else "fittings"
    listed = list(getattr(design, field))
    listed[grip.index] = new
    return design.but(**{field: tuple(listed)})


def without_grip(design: Design, grip: Grip) -> Design:
    """The design with a piece taken off."""
    field = "ballast" if grip.kind == "ballast" else "fittings"
    listed = list(getattr(design, field))
    del listed[grip.index]
    return design.but(**{field: tuple(listed)})


def with_added(design: Design, new: Ballast | Fitting) -> tuple[Design, Grip]:
    """The design with a piece more, its name made unlike the others', and which one it is."""
    kind: Literal["ballast", "fitting"] = "ballast" if isinstance(new, Ballast) else "fitting"
    listed = design.ballast if kind == "ballast" else design.fittings
    named = replaced(new, name=unlike(new.name, {one.name for one in listed}))
    return design.but(**{"ballast" if kind == "ballast" else "fittings": (*listed, named)}), Grip(kind, len(listed))


def _bounded(value: float) -> float:
    return min(LONGEST_MM, max(-LONGEST_MM, value))


def _moved_drilling(drilling: Drilling, dx: float, dy: float, dz: float) -> Drilling:
    """Slide a hole over its side of the body; moving against that side's own axis drills deeper or shallower."""
    a, b = drilling.place_mm
    deeper = {"belly": dz, "back": -dz, "nose": dx, "tail": -dx, "port": dy, "starboard": -dy}[drilling.side]
    if drilling.side in ("belly", "back"):
        a, b = a + dx, b + dy
    elif drilling.side in ("nose", "tail"):
        a, b = a + dy, b + dz
    else:
        a, b = a + dx, b + dz
    depth = max(LEAST_DEPTH_MM, _bounded(drilling.depth_mm + deeper))
    return replaced(drilling, place_mm=(_bounded(a), _bounded(b)), depth_mm=depth)


def moved(design: Design, grip: Grip, dx: float, dy: float, dz: float) -> Design:
    """Move a piece by so many mm in body axes; what hangs at the same eye, and the wire's bend there, go with it."""
    thing = grip.of(design)
    if isinstance(thing, Ballast):
        if thing.drilling is not None:
            return with_grip(design, grip, replaced(thing, drilling=_moved_drilling(thing.drilling, dx, dy, dz)))
        if thing.at_mm is not None:
            x, y, z = thing.at_mm
            at = (_bounded(x + dx), _bounded(y + dy), _bounded(z + dz))
            return with_grip(design, grip, replaced(thing, at_mm=at))
        return design
    if thing is None:
        return design
    here = thing.at_mm

    def shifted(at: tuple[float, float, float]) -> tuple[float, float, float]:
        return (_bounded(at[0] + dx), _bounded(at[1] + dy), _bounded(at[2] + dz))

    fittings = tuple(
        replaced(f, at_mm=shifted(f.at_mm)) if math.dist(f.at_mm, here) <= SAME_PLACE_MM else f for f in design.fittings
    )
    wires = tuple(
        replaced(w, path_mm=tuple(shifted(p) if math.dist(p, here) <= WIRE_HOLD_MM else p for p in w.path_mm))
        for w in design.wires
    )
    return design.but(fittings=fittings, wires=wires)
