"""What is cut from sheet, laid flat at true size: lips, wings, fins, cut-outs, blades; with how each is set."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon

from yellowbob.design.model import Fitting, Piece
from yellowbob.design.plates import Cutout, Fin, Lip, Wings
from yellowbob.lines.plates import lip_plan
from yellowbob.shelf.shipped import hardware
from yellowbob.study import Study

Array = NDArray[np.float64]

FILING_MM = 0.5
"""Sheet is sawn so far outside the line and filed down to it. Rule."""
ELLIPSE = 72


@dataclass(frozen=True, eq=False)
class Flat:
    """A piece of sheet: outline (n, 2) mm, going round; the line to saw on, FILING_MM outside; how many, how thick, of what;
    `lines` (2, 2) mm within it to scribe, each with its words; `words`: how it is set."""

    name: str
    material: str
    thick_mm: float
    count: int
    outline: Array
    sawn: Array
    lines: tuple[tuple[Array, str], ...]
    words: tuple[str, ...]

    @property
    def area_mm2(self) -> float:
        """Of one, mm²."""
        return float(Polygon(self.outline).area)


def flats(study: Study) -> tuple[Flat, ...]:
    """Every piece of a design that is cut from sheet, then its blades and props."""
    found = [one for piece in study.design.parts if (one := _of_piece(piece)) is not None]
    for fitting in study.design.fittings:
        if fitting.sort in ("prop", "blade", "ticker") and (blade := _blade(fitting)) is not None:
            found.append(blade)
    return tuple(found)


def _sawn(outline: Array) -> Array:
    shape = Polygon(outline)
    around = (shape if shape.is_valid else shape.buffer(0)).buffer(FILING_MM, quad_segs=16)
    return np.asarray(around.exterior.coords)[:-1]


def _flat(name: str, material: str, thick: float, count: int, outline: Array,
          lines: tuple[tuple[Array, str], ...], *words: str) -> Flat:  # fmt: skip
    return Flat(name, material, thick, count, outline, _sawn(outline), lines, words)


def _of_piece(piece: Piece) -> Flat | None:
    shape, of_what = piece.shape, piece.material.name
    if isinstance(shape, Lip):
        outline = lip_plan(shape)
        half = float(outline[:, 1].max())
        seat = (np.array([[0.0, -half], [0.0, half]]), "slot's edge")
        middle = (np.array([[-shape.seat_mm, 0.0], [shape.long_mm, 0.0]]), "")
        angle = f"slot at {shape.angle_deg:g}° to the axis, {shape.thick_mm:g} mm wide, {shape.seat_mm:g} mm deep"
        at = f"its mouth {shape.x_mm:.1f} mm from the nose, {shape.z_mm:+z.1f} from the axis".replace("-", "−")
        return _flat(piece.name, of_what, shape.thick_mm, 1, outline, (seat, middle), angle, at)
    if isinstance(shape, Wings):
        sweep = shape.span_mm * math.tan(math.radians(shape.sweep_deg))
        outline = np.array(
            [[0.0, 0.0], [shape.root_mm, 0.0], [sweep + shape.tip_mm, shape.span_mm], [sweep, shape.span_mm]]
        )
        set_at = (
            f"raised {shape.raise_deg:g}°, leading edge up {shape.twist_deg:g}°; root {shape.y_mm:g} mm off the middle"
        )
        return _flat(
            piece.name, of_what, shape.thick_mm, 2, outline, (), "two, mirrored: mark port and starboard before sawing",
            set_at.replace("-", "−"),
        )  # fmt: skip
    if isinstance(shape, Fin | Cutout):
        count = 2 if piece.mirrored else 1
        words = ("two, mirrored",) if piece.mirrored else ()
        return _flat(piece.name, of_what, shape.thick_mm, count, np.array(shape.corners_mm, dtype=float), (), *words)
    return None


def _blade(fitting: Fitting) -> Flat | None:
    """A prop's or spinner's blade as an ellipse of sheet, by its entry on the shelf; None where that has no sizes."""
    stock = hardware().get(fitting.stock)
    long = (stock.diameter_mm or 0.0) / 2.0 if stock is not None and fitting.sort == "prop" else 0.0
    if stock is not None and fitting.sort != "prop":
        long = stock.long_mm or 0.0
    if stock is None or not long or not stock.wide_mm:
        return None
    turn = np.linspace(0.0, 2.0 * np.pi, ELLIPSE, endpoint=False)
    outline = np.stack([long / 2.0 * (1.0 + np.cos(turn)), stock.wide_mm / 2.0 * np.sin(turn)], axis=1)
    words = [f"blades twisted {fitting.blade_deg:g}°"] if fitting.sort == "prop" else []
    return _flat(
        fitting.name, stock.material, stock.thick_mm or 0.5, stock.blades, outline, (), *words,
        "deburr every edge: thin sheet cuts",
    )  # fmt: skip
