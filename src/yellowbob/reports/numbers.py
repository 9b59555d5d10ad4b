"""How figures are written in reports."""

from __future__ import annotations

from collections.abc import Iterable


def rounded(value: float, digits: int = 9) -> float:
    """Rounded well beyond what is shown, so that noise in the last bits does not change a file; never -0."""
    return round(float(value), digits) + 0.0


def vector(values: Iterable[float], digits: int = 9) -> list[float]:
    """A list of rounded figures."""
    return [rounded(v, digits) for v in values]


def or_none(value: float | None) -> float | None:
    """The same of what may be missing."""
    return None if value is None else rounded(value)
