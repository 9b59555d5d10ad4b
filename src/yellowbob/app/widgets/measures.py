"""The units the maker reads."""

from __future__ import annotations

from yellowbob.ground.units import CORE_UNIT, Dimension


class Units:
    """The units the maker reads."""

    chosen: dict[str, str] = {"length": "mm", "mass": "g"}

    @classmethod
    def of(cls, dimension: Dimension) -> str:
        return cls.chosen.get(dimension, CORE_UNIT[dimension])
