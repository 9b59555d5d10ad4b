"""Starting a float from what it is to carry: a first stack of its kind, sized by its body until it does."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from yellowbob.design.model import Design, Material, Piece
from yellowbob.design.rig import Rig
from yellowbob.design.shape import OutlinePoint, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Told, unheard
from yellowbob.shelf.shipped import every_material, taken
from yellowbob.trials.sizing import sized


def _turned(*points: tuple[float, float], smooth: bool = False) -> Turned:
    last = len(points) - 1
    return Turned(profile=tuple(
        OutlinePoint(at_mm=p, bend="smooth" if smooth and 0 < k < last else "corner") for k, p in enumerate(points)
    ))  # fmt: skip


def _of(name: str) -> Material:
    stock = taken(every_material(), name)
    return Material(name=stock.name, group=stock.group, density_g_ml=stock.density_g_ml)


def _piece(name: str, material: str, shape: Turned, x_mm: float = 0.0) -> Piece:
    return Piece(name=name, material=_of(material), shape=shape, at_mm=(x_mm, 0.0, 0.0))


def _stick() -> list[Piece]:
    return [
        _piece("body", "cork, natural", _turned((0, 2.4), (12, 4.8), (24, 5.6), (46, 4.2), (60, 2.8), smooth=True)),
        _piece("Tip", "bamboo cane", _turned((0, 1.0), (44, 1.0)), -22.0),
        _piece("Stem", "bamboo cane", _turned((0, 1.5), (80, 1.5)), 42.0),
    ]


def _waggler() -> list[Piece]:
    return [
        _piece("body", "balsa, medium", _turned((0, 4.0), (18, 6.2), (34, 6.6), (52, 5.0), (60, 3.8), smooth=True)),
        _piece("Stem", "reed", _turned((0, 2.0), (170, 2.0)), -150.0),
        _piece("Base", "brass rod", _turned((0, 1.0), (8, 1.0), (8.1, 2.6), (15, 2.0)), 52.0),
    ]


def _antenna() -> list[Piece]:
    return [
        _piece("body", "obeche", _turned((0, 2.2), (14, 8.5), (30, 11.0), (52, 8.0), (70, 3.6), smooth=True)),
        _piece("Antenna", "glass-fibre rod", _turned((0, 0.9), (150, 0.9)), -126.0),
        _piece("Stem", "bamboo cane", _turned((0, 1.8), (60, 1.8)), 46.0),
        _piece("Foot pin", "brass rod", _turned((0, 0.7), (14, 0.7)), 94.0),
    ]


STARTS: dict[str, tuple[Callable[[], list[Piece]], dict[str, Any]]] = {
    "stick float": (_stick, {"holds": "top and bottom", "tip_mm": 9.0}),
    "waggler": (_waggler, {"holds": "bottom end", "tip_mm": 20.0}),
    "antenna float": (_antenna, {"holds": "bottom end", "tip_mm": 60.0}),
}
"""A first stack of each kind of standing float, and its line."""


def started(kind: str, capacity_g: float, tip_mm: float | None = None, told: Told = unheard) -> Design:
    """A float of a kind that carries so much with its tip showing: its body is made wider or slimmer until it does.

    Raises BadInput for a kind without a start, or a capacity that no such float has.
    """
    if kind not in STARTS:
        raise BadInput(f"no start for '{kind}'; there are {', '.join(STARTS)}")
    if not capacity_g > 0.0:
        raise BadInput(f"a capacity of {capacity_g:g} g: want more than nothing")
    make, line = STARTS[kind]
    rig = Rig.model_validate({**line, **({} if tip_mm is None else {"tip_mm": tip_mm})})
    first = Design.model_validate(
        {"name": f"{kind.capitalize()} {capacity_g:g} g", "kind": kind, "pieces": tuple(make()), "rig": rig}
    )
    return sized(first, capacity_g, rig.tip_mm, "body.diameter", told).design
