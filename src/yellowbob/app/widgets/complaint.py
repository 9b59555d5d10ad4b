"""What is wrong with what is drawn, or what is still being done to it, in a box over the drawing."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from yellowbob.app.widgets.theme import Look, colour, font

ROOM_PX, HIGH_PX = 16, 48


def only_waits(words: str) -> bool:
    """Whether words tell what is being done, and nothing is wrong: they end in an ellipsis then."""
    return words.endswith("…")


def paint_complaint(painter: QPainter, area: QRectF, words: str) -> None:
    """Along the foot of an area."""
    waits = only_waits(words)
    tone = colour(Look.now.soft if waits else Look.now.bad)
    box = QRectF(ROOM_PX, area.bottom() - HIGH_PX - 14, area.width() - 2 * ROOM_PX, HIGH_PX)
    painter.setPen(QPen(tone, 1 if waits else 2))
    painter.setBrush(colour(Look.now.card))
    painter.drawRoundedRect(box, 4, 4)
    painter.setPen(tone)
    painter.setFont(font(10.5, bold=not waits))
    flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
    painter.drawText(box.adjusted(12, 4, -12, -4), flags, words if waits else f"! {words}")
