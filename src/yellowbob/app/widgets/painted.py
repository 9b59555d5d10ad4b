"""A drawing on a card: ground and frame painted alike, what is drawn left to each."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yellowbob.app.widgets.theme import Look, colour, font


class Painted(QWidget):
    """Opaque, with a frame; `paint` draws within it."""

    def __init__(self, name: str, least: tuple[int, int] = (420, 240)) -> None:
        super().__init__()
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName(name)
        self.setMinimumSize(*least)

    def sizeHint(self) -> QSize:
        return QSize(944, 470)

    def paint(self, painter: QPainter, area: QRectF) -> None:
        """What is drawn on the card."""
        raise NotImplementedError

    def say(self, painter: QPainter, area: QRectF, words: str, tone: str) -> None:
        """Words in place of a drawing."""
        painter.setFont(font(11))
        painter.setPen(colour(tone))
        painter.drawText(area.adjusted(24, 20, -24, -20), Qt.TextFlag.TextWordWrap, words)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(0, 0, self.width(), self.height())
        painter.fillRect(area, colour(Look.now.card))
        self.paint(painter, area)
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area.adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()
