"""The figures of a cut, a piece or a hollow by name, so that one card can show and set any of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from yellowbob.design.base import Model
from yellowbob.design.model import Piece, replaced
from yellowbob.ground.quantities import Dimension, dimension_of

_WORDS = {"x": "from nose", "rim_x": "rim at", "z": "height", "y": "off centre", "pool": "for varnish"}
_AXES = (("x", "aft"), ("y", "side"), ("z", "up"))
SKIPPED = ("density_u_g_ml",)


@dataclass(frozen=True)
class Figure:
    """One figure: the way to it (`shape.x_mm`, `at_mm.0`), its words, dimension and value (None where left out)."""

    way: str
    words: str
    dimension: Dimension
    value: float | None


def _words(field: str) -> str:
    bare, _ = dimension_of(field)
    return _WORDS.get(bare, bare.replace("_", " "))


def _own(model: Model, ahead: str = "") -> list[Figure]:
    found = []
    for field in type(model).model_fields:
        _, dimension = dimension_of(field)
        value = getattr(model, field)
        if dimension is None or field in SKIPPED or not isinstance(value, float | int | type(None)):
            continue
        found.append(Figure(ahead + field, _words(field), dimension, value))
    return found


def figures_of(one: Any) -> list[Figure]:
    """Every figure of a cut, a hollow or a piece; of a piece its shape's, its place's and its material's."""
    if not isinstance(one, Piece):
        return _own(one)
    found = _own(one.shape, "shape.")
    for k, (axis, way) in enumerate(_AXES):
        found.append(Figure(f"at_mm.{k}", f"shift {way}", "length", one.at_mm[k]))
        found.append(Figure(f"turned_deg.{k}", f"turn, {axis}", "angle", one.turned_deg[k]))
    return found + _own(one.material, "material.")


def kind_of(one: Any) -> str:
    """The kind of a cut, a hollow or a piece's shape."""
    return str(one.shape.kind if isinstance(one, Piece) else one.kind)


def with_figure(one: Any, way: str, value: Any) -> Any:
    """A cut, hollow or piece with one figure changed. Raises BadInput. A density that is typed is not a measured one."""
    field, _, rest = way.partition(".")
    if not rest:
        return replaced(one, **{field: value})
    if rest.isdigit():
        values = list(getattr(one, field))
        values[int(rest)] = value
        return replaced(one, **{field: tuple(values)})
    changes = {rest: value}
    if way == "material.density_g_ml":
        changes |= {"measured": False, "density_u_g_ml": None}
    return replaced(one, **{field: replaced(getattr(one, field), **changes)})
