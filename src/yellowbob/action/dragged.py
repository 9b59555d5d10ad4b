"""Hardware that the stream drags."""

from __future__ import annotations

from typing import NamedTuple


class Dragged(NamedTuple):
    """Hardware in the stream: a drag area (Cd times area, mm²) at a place, spread over a height, mm. What hangs reaches down
    from there, and pulls there; what is fixed reaches as far up as down."""

    at_mm: tuple[float, float, float]
    area_mm2: float
    high_mm: float
    hangs: bool = False
