"""Sizing a float: one measure of one piece sought until it carries what is wanted with the tip that is wanted."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from yellowbob.afloat.line import capacity
from yellowbob.design.model import Design, Piece
from yellowbob.design.stack_edits import longer, shifted, turned, wider
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, tell, unheard
from yellowbob.study import Study, of

MEASURES = ("diameter", "length", "place")
FACTORS = (0.25, 4.0)
"""How much smaller or larger a diameter or length is tried."""
TRIED = 17
TOLERANCE_G = 1e-4
SECANTS, STARTS = 8, (1.0, 1.8, 3.0)
"""Tries from the size drawn, then from larger ones, before all sizes are looked through."""


@dataclass(frozen=True, eq=False)
class Sized:
    """The design that was found, the measure's value (times as large, or mm shifted), and what it carries, g."""

    design: Design
    value: float
    measure_mm: float
    capacity_g: float


def _piece(design: Design, name: str) -> int:
    names = [p.name for p in design.pieces]
    if name not in names:
        raise BadInput(f"no piece is called '{name}'; there are {', '.join(names)}")
    return names.index(name)


def _measured(piece: Piece, measure: str) -> float:
    """What was varied, in mm."""
    if measure == "place":
        return piece.at_mm[0]
    shape = turned(piece)
    return shape.length_mm if measure == "length" else 2.0 * max(p.at_mm[1] for p in shape.profile)


def _varied(design: Design, number: int, measure: str) -> tuple[Callable[[float], Design], float, float]:
    """How the measure is changed, and from where to where it is tried."""
    if measure == "diameter":
        return (lambda v: wider(design, number, v)), *FACTORS
    if measure == "length":
        return (lambda v: longer(design, number, v)), *FACTORS
    if number == 0:
        raise BadInput(f"{design.body.name}: the body lies as drawn; vary the place of another piece")
    long = design.shape.length_mm
    return (lambda v: shifted(design, number, v)), -long, long


def sized(
    design: Design, capacity_g: float, tip_mm: float, vary: str, told: Told = unheard, before: Study | None = None
) -> Sized:
    """Seek the measure `PIECE.diameter`, `PIECE.length` or `PIECE.place` at which the float carries `capacity_g` with
    `tip_mm` of tip showing, verified by the full solve.

    Raises BadInput where no value does, with the range that was reached.
    """
    name, dot, measure = vary.rpartition(".")
    if not dot or measure not in MEASURES:
        raise BadInput(f"'{vary}': say PIECE.diameter, PIECE.length or PIECE.place")
    number = _piece(design, name)
    if measure != "place":
        turned(design.pieces[number])
    change, low, high = _varied(design, number, measure)
    study = before or Study(design)
    reached: list[tuple[float, float]] = []

    def carried(value: float) -> float | None:
        try:
            made = Study(change(value), study)
            return capacity(of.unloaded(made), of.line_at(made), tip_mm).load_g
        except YellowBobError:
            return None

    # what sinks as it is drawn is begun from larger
    starts = (_from_drawn(carried, capacity_g, start, measure) for start in STARTS if measure != "place")
    near = next((found for found in starts if found is not None), None)
    if near is not None:
        there = Study(change(near), study)
        got = capacity(of.unloaded(there), of.line_at(there), tip_mm).load_g
        return Sized(there.design, near, _measured(there.design.pieces[number], measure), got)
    values = np.geomspace(low, high, TRIED) if measure != "place" else np.linspace(low, high, TRIED)
    for k, value in enumerate(float(v) for v in values):
        tell(told, 0.7 * k / TRIED)
        found = carried(value)
        if found is not None:
            reached.append((value, found))
    for (a, one), (b, two) in itertools.pairwise(reached):
        if (one - capacity_g) * (two - capacity_g) <= 0.0 and one != two:
            value = _narrowed(carried, capacity_g, a, b, one, two)
            made = change(value)
            got = capacity(of.unloaded(Study(made, study)), of.line_at(Study(made, study)), tip_mm).load_g
            return Sized(made, value, _measured(made.pieces[number], measure), got)
    if not reached:
        raise BadInput(f"{vary}: at no size does it float with {tip_mm:g} mm of tip; change the tip or the materials")
    least, most = min(r[1] for r in reached), max(r[1] for r in reached)
    raise BadInput(
        f"{vary}: no size carries {capacity_g:g} g with {tip_mm:g} mm of tip; from a quarter to four times of it, it carries "
        f"{least:.2f} to {most:.2f} g"
    )


def _from_drawn(
    carried: Callable[[float], float | None], wanted: float, start: float, measure: str
) -> float | None:  # fmt: skip
    """The value nearest to the one drawn that carries what is wanted, by secants of log against log; None where they do not
    lead there soon, or what is varied is a place, which may carry more both ways."""
    if measure == "place" or wanted <= 0.0:
        return None
    x, power = math.log(start), 2.0 if measure == "diameter" else 1.0
    tried: list[tuple[float, float]] = []
    for _ in range(SECANTS):
        found = carried(math.exp(x))
        if found is None or found <= 0.0:
            return None
        if abs(found - wanted) < TOLERANCE_G:
            return math.exp(x)
        off = math.log(found / wanted)
        if tried and x != tried[-1][0]:
            power = (off - tried[-1][1]) / (x - tried[-1][0])
        tried.append((x, off))
        if not 0.2 < power < 6.0:
            return None
        x -= off / power
        if not math.log(FACTORS[0]) <= x <= math.log(FACTORS[1]):
            return None
    return None


def _narrowed(
    carried: Callable[[float], float | None], wanted: float, a: float, b: float, one: float, two: float
) -> float:
    """Between two values, one carrying too little and one too much. Raises BadInput where it breaks off between them."""
    for value, found in ((a, one), (b, two)):
        if abs(found - wanted) < TOLERANCE_G:
            return value

    def off(value: float) -> float:
        found = carried(value)
        if found is None:
            raise BadInput(f"between {a:.3g} and {b:.3g} of its size it does not float upright; choose another measure")
        return found - wanted

    from scipy.optimize import brentq

    return float(brentq(off, a, b, xtol=1e-7, rtol=1e-10))
