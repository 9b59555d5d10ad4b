"""Test stations along a body: between two of them a straight cut stays within a stated error of every outline."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import Model
from yellowbob.design.model import Design
from yellowbob.design.plates import TurningTail
from yellowbob.design.shape import Lofted, OutlinePoint, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.curves import Curve, curve

Array = NDArray[np.float64]

FINE = 4000
"""Places along the body at which the error is held, more of them near its ends."""
LEAST_ERROR_MM, MOST_ERROR_MM = 0.02, 10.0
MOST_STATIONS = 400


@dataclass(frozen=True)
class Station:
    """A place from the nose, mm, and what is measured there, mm, by name: diameter, or back, belly and half width."""

    at_mm: float
    sizes_mm: dict[str, float]


@dataclass(frozen=True)
class Stations:
    """In order from the nose, both ends among them. misses_mm: the most that a straight cut between two is off, anywhere."""

    stations: tuple[Station, ...]
    error_mm: float
    misses_mm: float
    turned: bool

    @property
    def order(self) -> list[int]:
        """Numbers of the stations in the order to cut them: the widest first, so that the work stays stiff."""
        return sorted(range(len(self.stations)), key=lambda k: (-max(self.stations[k].sizes_mm.values()), k))


def _outlines(shape: Model) -> tuple[dict[str, Curve], float, bool]:
    if isinstance(shape, TurningTail):
        shape = Turned(profile=shape.profile)
    if isinstance(shape, Turned):
        return {"radius": curve(shape.profile)}, shape.length_mm, True
    if isinstance(shape, Lofted):
        named: dict[str, Sequence[OutlinePoint]] = {"back": shape.back, "belly": shape.belly, "half width": shape.plan}
        return {name: curve(tuple(one)) for name, one in named.items()}, shape.length_mm, False
    raise BadInput("a body taken from CAD has no outlines to measure by; trace or draw it for stations")


def _places(length: float, curves: dict[str, Curve]) -> Array:
    """Fine places, dense at the ends where outlines turn square, every point of the outlines among them."""
    bent = (1.0 - np.cos(np.linspace(0.0, math.pi, FINE))) / 2.0
    squeezed = np.concatenate([bent**2, 1.0 - bent[::-1] ** 2, bent])
    knots = np.concatenate([one.knots for one in curves.values()])
    return np.unique(np.clip(np.concatenate([length * squeezed, knots]), 0.0, length))


def _misses(x: Array, heights: Array, first: int, last: int) -> float:
    """How far a straight line between two places is off, over all outlines, mm; square to the axis."""
    if last <= first + 1:
        return 0.0
    share = (x[first : last + 1] - x[first]) / (x[last] - x[first])
    straight = heights[:, first, None] + share * (heights[:, last] - heights[:, first])[:, None]
    return float(np.abs(heights[:, first : last + 1] - straight).max())


def all_stations(design: Design, error_mm: float = 0.25) -> list[tuple[str, Stations]]:
    """Of every piece that has outlines, by its name, the body first."""
    found = []
    for number, piece in enumerate(design.pieces):
        if not isinstance(piece.shape, Turned | Lofted | TurningTail):
            continue
        one = stations(design, error_mm, None, number)
        found.append((piece.name, one))
    return found


def stations(design: Design, error_mm: float = 0.25, spacing_mm: float | None = None, piece: int = 0) -> Stations:
    """Stations of a piece, the body if none is named: as few as hold the error, or at a fixed spacing (then the miss is
    told).

    Each stretch is the longest that holds. Raises BadInput for an error or spacing out of range, or a body without outlines.
    """
    if not LEAST_ERROR_MM <= error_mm <= MOST_ERROR_MM:
        raise BadInput(f"an error of {error_mm:g} mm: give {LEAST_ERROR_MM:g} to {MOST_ERROR_MM:g} mm")
    curves, length, turned = _outlines(design.pieces[piece].shape)
    x = _places(length, curves)
    heights = np.stack([one.at(x) for one in curves.values()])
    if spacing_mm is not None:
        if not (math.isfinite(spacing_mm) and length / MOST_STATIONS <= spacing_mm <= length):
            raise BadInput(f"a spacing of {spacing_mm:g} mm: give {length / MOST_STATIONS:.2f} to {length:g} mm")
        wanted = np.append(np.arange(0.0, length - 1e-9, spacing_mm), length)
        chosen = sorted({int(np.argmin(np.abs(x - at))) for at in wanted})
    else:
        chosen = _fewest(x, heights, error_mm)
    worst = max(_misses(x, heights, a, b) for a, b in itertools.pairwise(chosen))
    rows = tuple(Station(float(x[k]), _sizes(list(curves), heights[:, k])) for k in chosen)
    return Stations(rows, error_mm, worst, turned)


def _sizes(names: list[str], heights: Array) -> dict[str, float]:
    if names == ["radius"]:
        return {"diameter": 2.0 * float(heights[0])}
    return {name: float(value) for name, value in zip(names, heights, strict=True)}


def _fewest(x: Array, heights: Array, error: float) -> list[int]:
    """The longest stretch that holds, again and again: doubled, then halved."""
    chosen = [0]
    while chosen[-1] < len(x) - 1:
        at = chosen[-1]
        low, step = at + 1, 1
        while at + 2 * step < len(x) and _misses(x, heights, at, at + 2 * step) <= error:
            step *= 2
            low = at + step
        high = min(at + 2 * step, len(x) - 1)
        if _misses(x, heights, at, high) <= error:
            low = high
        while high - low > 1:
            middle = (low + high) // 2
            if _misses(x, heights, at, middle) <= error:
                low = middle
            else:
                high = middle
        chosen.append(max(low, at + 1))
        if len(chosen) > MOST_STATIONS:
            raise BadInput(f"over {MOST_STATIONS} stations hold {error:g} mm: allow more")
    return chosen
