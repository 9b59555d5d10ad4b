"""Outlines of an SVG drawing in mm, what clips them, and all that a drawing shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Outline:
    """One subpath as drawn: `points` (n, 2) mm, y up; `corners` (n,) whether it turns sharply there."""

    name: str
    points: Array
    corners: NDArray[np.bool_]
    closed: bool
    clipped: bool = False
    """whether part of it may not show"""
    stroke_mm: float = 0.0
    """how thick the line is that it is the middle of; 0 where it is only filled, nan where that cannot be told"""

    @property
    def size(self) -> Array:
        """Width and height, mm."""
        return np.asarray(np.ptp(self.points, axis=0))


@dataclass(frozen=True, eq=False)
class Clip:
    """What lets only part of a drawing through: outlines, or None where that cannot be told."""

    outlines: tuple[Outline, ...] | None

    @cached_property
    def _windows(self) -> Any:
        from shapely import prepare
        from shapely.geometry import Polygon
        from shapely.ops import unary_union

        found = unary_union([Polygon(o.points).buffer(0.0) for o in self.outlines or () if len(o.points) > 2])
        prepare(found)
        return found

    def cuts(self, points: Array) -> bool:
        """Whether it may take something off an outline (n, 2)."""
        from shapely.geometry import MultiPoint

        if self.outlines is None:
            return True
        places = MultiPoint(points)
        if self._windows.covers(places):
            return False
        spare = 1e-3 * float(np.ptp(points, axis=0).max())
        return not bool(self._windows.buffer(spare).covers(places))


@dataclass
class Shown:
    """All that a drawing shows: outlines in the order drawn, the page in mm, and what had to be guessed."""

    outlines: list[Outline] = field(default_factory=list)
    page_mm: tuple[float, float] | None = None
    notes: list[str] = field(default_factory=list)
    pictures: int = 0
