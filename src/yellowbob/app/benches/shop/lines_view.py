"""Lines to scale, as large as there is room: a bent wire, pieces of sheet, boards with what is cut from them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from yellowbob.app.widgets.painted import Painted
from yellowbob.app.widgets.theme import Look, colour, font

Array = NDArray[np.float64]

ROOM_PX = 40.0


@dataclass(frozen=True, eq=False)
class Drawn:
    """A line (n, 2) mm: closed, dashed or filled with pale wood; its words stand at `at_mm`, its first point without."""

    points: Array
    closed: bool = True
    dashed: bool = False
    filled: bool = False
    words: str = ""
    at_mm: tuple[float, float] | None = None


class LinesView(Painted):
    """What a page wants drawn."""

    def __init__(self, name: str) -> None:
        super().__init__(name)
        self.drawn: tuple[Drawn, ...] = ()
        self.says = ""

    def show_lines(self, drawn: tuple[Drawn, ...], says: str = "") -> None:
        """Draw these, y up; `says` stands where there is nothing to draw, else above it."""
        self.drawn, self.says = drawn, says
        self.update()

    def paint(self, painter: QPainter, area: QRectF) -> None:
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(
            area.adjusted(14, 10, -14, -10), Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap, self.says
        )
        if self.drawn:
            self._paint(painter, area.adjusted(ROOM_PX, ROOM_PX, -ROOM_PX, -ROOM_PX))

    def _paint(self, painter: QPainter, area: QRectF) -> None:
        every = np.concatenate([one.points for one in self.drawn])
        low, high = every.min(axis=0), every.max(axis=0)
        size = np.maximum(high - low, 1e-6)
        scale = min(area.width() / float(size[0]), area.height() / float(size[1]))
        left = area.center().x() - scale * float(low[0] + high[0]) / 2.0
        foot = area.center().y() + scale * float(low[1] + high[1]) / 2.0

        def at(x: float, y: float) -> QPointF:
            return QPointF(left + scale * x, foot - scale * y)

        for one in self.drawn:
            style = Qt.PenStyle.DashLine if one.dashed else Qt.PenStyle.SolidLine
            painter.setPen(
                QPen(colour(Look.now.soft if one.dashed else Look.now.ink), 1.0 if one.dashed else 1.6, style)
            )
            painter.setBrush(colour(Look.now.wood) if one.filled else Qt.BrushStyle.NoBrush)
            shape = QPolygonF([at(float(x), float(y)) for x, y in one.points])
            if one.closed:
                painter.drawPolygon(shape)
            else:
                painter.drawPolyline(shape)
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.ink))
        for one in self.drawn:
            if one.words:
                place = one.at_mm if one.at_mm is not None else (float(one.points[0, 0]), float(one.points[0, 1]))
                painter.drawText(at(*place) + QPointF(4, -4), one.words)
