"""Another size of a design with hardware to suit: hooks, rings, wire, props and sheet are proposed for it from the shelf."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable
from typing import Any, TypeVar

from yellowbob.design.hardware import Fitting, Wire
from yellowbob.design.model import Ballast, Design, Piece, Slug, replaced
from yellowbob.design.plates import Fin, Lip, Wings
from yellowbob.design.rescale import rescaled
from yellowbob.shelf.fitting import FIT_MM, fitting_from, hook_like, swapped
from yellowbob.shelf.items import Hardware, Hook
from yellowbob.shelf.shipped import ballast_stock, hardware, hooks, wires
from yellowbob.trials.hook_sizes import next_hook

SHEETS_MM = (0.3, 0.5, 0.8, 1.0, 1.2, 1.5, 1.6, 2.0, 2.5, 3.0, 4.0, 5.0)
"""Thicknesses that sheet is sold in: a rule."""
LEAST_WIRE_MM = 0.6
WIRE_POWER, SHEET_POWER, RING_POWER = 0.6, 0.5, 0.8
"""How wire, sheet and rings grow with a body: slower than it, as the fish they are to hold do. Rules."""
ROD_POWER = 0.9
OVER_MM = 2.0
"""Room kept over a slug for its plug."""
T = TypeVar("T")
SIZE = re.compile(r",? size [0-9/]+$")


def at_size(design: Design, factor: float, hook_step: int = 0) -> Design:
    """The design so many times as large, what is bought chosen anew: the nearest on the shelf to the size it would have.

    hook_step : all hooks so many sizes heavier (or lighter, negative) than that.
    """
    sized = rescaled(design, factor)
    return sized.but(
        fittings=tuple(_fitting(f, factor, hook_step) for f in sized.fittings),
        wires=tuple(_wire(w, factor) for w in sized.wires),
        pieces=tuple(_piece(p, factor) for p in sized.pieces),
        ballast=tuple(_ballast(b, factor) for b in sized.ballast),
    )


def near(items: Iterable[T], size: Callable[[T], float], wanted: float) -> T | None:
    """The one whose size is nearest by ratio."""
    return min((i for i in items if size(i) > 0.0), key=lambda i: abs(math.log(size(i) / wanted)), default=None)


def _fitting(one: Fitting, factor: float, hook_step: int) -> Fitting:
    if one.sort == "hook":
        return _hook(one, factor, hook_step)
    if one.sort == "lip":  # cut from sheet, as wide and long as it is drawn
        area = factor**2
        return replaced(one, mass_g=one.mass_g * area, volume_ml=one.volume_ml * area, span_mm=one.span_mm * factor)
    if one.sort in ("ring", "prop", "blade", "swivel", "screw eye", "washer"):
        return _bought(one, factor)
    return one


def _hook(one: Fitting, factor: float, step: int) -> Fitting:
    now = hook_like(one, hooks())
    if now is None:
        return one
    alike = [h for h in hooks().values() if h.sort == now.sort and h.dressed == now.dressed]
    found = near(alike, lambda h: h.shank_mm, now.shank_mm * factor) or now
    for _ in range(abs(step)):
        other = next_hook(found, 1 if step > 0 else -1)
        if other is None:
            break
        found = other
    return renamed(swapped(one, found, now), found)


def renamed(one: Fitting, hook: Hook) -> Fitting:
    """A hook whose name tells its size tells the new one."""
    base = SIZE.sub("", one.name)
    return one if base == one.name else replaced(one, name=f"{base}, size {hook.size}")


def _bought(one: Fitting, factor: float) -> Fitting:
    """A ring, prop, blade or eye of the same sort and stuff, nearest in size; hung, turned and aimed as it was."""
    now = hardware().get(one.stock)
    power = 1.0 if one.sort in ("prop", "blade") else RING_POWER
    if now is None:
        return one
    alike = [h for h in hardware().values() if h.sort == now.sort and _family(h) == _family(now)]
    found = near(alike, _size, _size(now) * factor**power)
    if found is None or found.name == now.name:
        return one
    new = fitting_from(found, one.at_mm, one.name)
    kept: dict[str, Any] = {
        f: getattr(one, f) for f in ("hanging", "aim_deg", "blade_deg", "hand", "play_mm", "point", "dressing")
    }
    return replaced(new, **kept, reach_mm=new.reach_mm if one.hanging else 0.0)


def _family(item: Hardware) -> str:
    """Its name without its sizes: `two-blade prop, brass`."""
    return re.sub(r"[0-9./×]+( mm)?( inside)?", "", item.name)


def _size(item: Hardware) -> float:
    return item.diameter_mm or item.inner_mm or item.long_mm or item.mass_g or 0.0


def _wire(one: Wire, factor: float) -> Wire:
    wanted = max(one.diameter_mm * factor**WIRE_POWER, LEAST_WIRE_MM)
    sold = [w for w in wires().values() if w.material == one.material and w.name.endswith(" mm")]
    found = near(sold, lambda w: w.diameter_mm, wanted)
    if found is None:
        return one
    hole = one.hole_mm and max(one.hole_mm * found.diameter_mm / one.diameter_mm, found.diameter_mm)
    return replaced(one, diameter_mm=found.diameter_mm, hole_mm=hole)


def _piece(one: Piece, factor: float) -> Piece:
    shape = one.shape
    if not isinstance(shape, Lip | Wings | Fin):
        return one
    sheet = near(SHEETS_MM, float, shape.thick_mm * factor**SHEET_POWER)
    return one if sheet is None else replaced(one, shape=replaced(shape, thick_mm=sheet))


def _ballast(one: Ballast, factor: float) -> Ballast:
    """A slug of the nearest rod, as heavy as the body's volume asks."""
    if not isinstance(one.weight, Slug) or one.drilling is None:
        return one
    found = rods(one.weight.material, one.weight.diameter_mm * factor**ROD_POWER)[0]
    return with_rod(one, found, one.weight.length_mm * factor**3 * one.weight.diameter_mm**2)


def rods(material: str, wanted_mm: float) -> list[float]:
    """Diameters of rod of a material on the shelf, the nearest to a wanted one first; that one where there is none."""
    sold = {
        s.diameter_mm for s in ballast_stock().values() if s.form == "slug" and s.material == material and s.diameter_mm
    }
    return sorted(sold, key=lambda d: abs(math.log(d / wanted_mm))) or [wanted_mm]


def with_rod(one: Ballast, diameter_mm: float, length_by_square_mm3: float) -> Ballast:
    """A slug out of another rod, as much metal: its length times the square of its diameter stays."""
    assert isinstance(one.weight, Slug) and one.drilling is not None
    long = max(length_by_square_mm3 / diameter_mm**2, 0.5)
    stock = next(
        (s.name for s in ballast_stock().values() if s.form == "slug" and s.material == one.weight.material
         and s.diameter_mm == diameter_mm and "rod" in s.name), "",
    )  # fmt: skip
    weight = replaced(one.weight, diameter_mm=diameter_mm, length_mm=long)
    drilling = replaced(one.drilling, diameter_mm=round(diameter_mm + FIT_MM, 2), depth_mm=round(long + OVER_MM, 1))
    return replaced(one, stock=stock, weight=weight, drilling=drilling)
