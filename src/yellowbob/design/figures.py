"""The figures of a cut, a piece or a hollow by name, so that one card can show and set any of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from yellowbob.design.base import Model
from yellowbob.design.model import Piece, replaced
from yellowbob.design.shape import Turned
from yellowbob.ground.quantities import dimension_of
from yellowbob.ground.units import Dimension

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


def _of_profile(shape: Turned) -> list[Figure]:
    """Of a turned piece: how long, and how thick at its ends and where it is thickest."""
    radii = [p.at_mm[1] for p in shape.profile]
    found = [Figure("profile.long", "long", "length", shape.length_mm),
             Figure("profile.front", "Ø front", "length", 2.0 * radii[0]),
             Figure("profile.back", "Ø back", "length", 2.0 * radii[-1])]  # fmt: skip
    return found if len(radii) == 2 else [*found, Figure("profile.most", "Ø most", "length", 2.0 * max(radii))]


def _with_profile(shape: Turned, what: str, value: float) -> Turned:
    """A turned piece stretched to a length, with another end, or made thicker as a whole. Raises BadInput."""
    points = list(shape.profile)
    if what == "long":
        grown = value / shape.length_mm
        points = [replaced(p, at_mm=(p.at_mm[0] * grown, p.at_mm[1])) for p in points]
    elif what == "most":
        grown = value / (2.0 * max(p.at_mm[1] for p in points))
        points = [replaced(p, at_mm=(p.at_mm[0], p.at_mm[1] * grown)) for p in points]
    else:
        at = 0 if what == "front" else -1
        points[at] = replaced(points[at], at_mm=(points[at].at_mm[0], value / 2.0))
    return replaced(shape, profile=tuple(points))


def figures_of(one: Any) -> list[Figure]:
    """Every figure of a cut, a hollow or a piece; of a piece its shape's, its place's and its material's."""
    if not isinstance(one, Piece):
        return _own(one)
    found = _of_profile(one.shape) if isinstance(one.shape, Turned) else _own(one.shape, "shape.")
    for k, (axis, way) in enumerate(_AXES):
        found.append(Figure(f"at_mm.{k}", f"shift {way}", "length", one.at_mm[k]))
        found.append(Figure(f"turned_deg.{k}", f"turn, {axis}", "angle", one.turned_deg[k]))
    if isinstance(one.shape, Turned):
        found.append(Figure("glue_mm", "glue film", "length", one.glue_mm))
    return found + _own(one.material, "material.")


def kind_of(one: Any) -> str:
    """The kind of a cut, a hollow or a piece's shape."""
    return str(one.shape.kind if isinstance(one, Piece) else one.kind)


def with_figure(one: Any, way: str, value: Any) -> Any:
    """A cut, hollow or piece with one figure changed. Raises BadInput. A density that is typed is not a measured one."""
    field, _, rest = way.partition(".")
    if not rest:
        return replaced(one, **{field: value})
    if field == "profile":
        return replaced(one, shape=_with_profile(one.shape, rest, value))
    if rest.isdigit():
        values = list(getattr(one, field))
        values[int(rest)] = value
        return replaced(one, **{field: tuple(values)})
    changes = {rest: value}
    if way == "material.density_g_ml":
        changes |= {"measured": False, "density_u_g_ml": None}
    return replaced(one, **{field: replaced(getattr(one, field), **changes)})
