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
    dots = [QRectF(m.x() - mark_px, m.y() - mark_px, 2 * mark_px, 2 * mark_px) for m in marks]
    best, least = QRectF(at.x() + OFF, at.y() - high / 2, wide, high), float("inf")
    for ring in RINGS:
        off = OFF * ring
        for x, y in (
            (off, -high / 2), (-off - wide, -high / 2), (-wide / 2, off), (-wide / 2, -off - high),
            (off, off), (off, -off - high), (-off - wide, off), (-off - wide, -off - high),
        ):  # fmt: skip
            box = QRectF(at.x() + x, at.y() + y, wide, high)
            box.moveLeft(min(max(box.left(), area.left()), area.right() - wide))
            box.moveTop(min(max(box.top(), area.top()), area.bottom() - high))
            covered = sum(_common(box, other) for other in (*taken, *dots))
            if covered < least - 1e-9:
                best, least = box, covered
        if least == 0.0:
            break
    return best


def _common(one: QRectF, other: QRectF) -> float:
    both = one.intersected(other)
    return both.width() * both.height() if both.isValid() else 0.0
