"""Where words go beside the marks of a drawing, so that they cover neither one another nor the marks."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF

OFF = 9.0
"""How far from its mark a label stands, in px, at the nearest,"""
RINGS = (1.0, 2.6, 4.6, 7.0, 10.0)
"""and how many times as far where there is no room nearer."""


def beside(
    at: QPointF,
    wide: float,
    high: float,
    area: QRectF,
    taken: Sequence[QRectF],
    marks: Sequence[QPointF],
    mark_px: float,
) -> QRectF:
    """The place for a label `wide` by `high` px of the mark `at`: the nearest inside `area` that covers none of `taken` and
    no mark (circles of radius `mark_px`); where all are covered, the one that is least so."""
    others = [(b.left(), b.top(), b.right(), b.bottom()) for b in taken]
    others += [(m.x() - mark_px, m.y() - mark_px, m.x() + mark_px, m.y() + mark_px) for m in marks]
    ax, ay, bounds = at.x(), at.y(), (area.left(), area.top(), area.right() - wide, area.bottom() - high)
    best, least = (ax + OFF, ay - high / 2), float("inf")
    for ring in RINGS:
        off = OFF * ring
        for x, y in (
            (off, -high / 2), (-off - wide, -high / 2), (-wide / 2, off), (-wide / 2, -off - high),
            (off, off), (off, -off - high), (-off - wide, off), (-off - wide, -off - high),
        ):  # fmt: skip
            left, top = min(max(ax + x, bounds[0]), bounds[2]), min(max(ay + y, bounds[1]), bounds[3])
            covered = _covered(left, top, left + wide, top + high, others)
            if covered < least - 1e-9:
                best, least = (left, top), covered
            if least == 0.0:
                return QRectF(*best, wide, high)
    return QRectF(*best, wide, high)


def _covered(
    left: float, top: float, right: float, bottom: float, others: list[tuple[float, float, float, float]]
) -> float:
    """Area that a box has in common with others, counted for each of them."""
    found = 0.0
    for one_left, one_top, one_right, one_bottom in others:
        if one_left < right and left < one_right and one_top < bottom and top < one_bottom:
            found += (min(right, one_right) - max(left, one_left)) * (min(bottom, one_bottom) - max(top, one_top))
    return found
