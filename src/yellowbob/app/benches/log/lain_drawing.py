"""The build on its side view, with the centre of gravity as forecast and as the tank tests make it out to be."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.camera import side_camera
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.logbook.lain import Lain
from yellowbob.study import Study, of

UPRIGHT = np.array([0.0, 0.0, 1.0])
LEAST_PX = 3.0


class LainDrawing(QWidget):
    """Level from port: a hollow ring for the forecast, a filled one with its uncertainty for what was found."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(250, 120)
        self.setAccessibleName("Where its weight lies")
        self.found: Lain | None = None
        self.study: Study | None = None

    def show_found(self, study: Study | None, found: Lain | None) -> None:
        self.study, self.found = study, found
        if found is not None:
            (x, z), (fx, fz) = found.centre_mm, found.forecast_mm
            self.setAccessibleDescription(f"found {x:.1f}, {z:.1f} mm; forecast {fx:.1f}, {fz:.1f} mm")
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        if self.study is None or self.found is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = (6.0, 4.0, self.width() - 12.0, self.height() - 40.0)
        view = side_camera(of.whole(self.study), self.study.design.but(fittings=(), wires=()), UPRIGHT, 0.0, area)
        paint.paint_solid(painter, of.whole(self.study), view, small=True)
        found, now = self.found, Look.now
        at, was = (QPointF(*view.pixels(np.array([x, 0.0, z]))) for x, z in (found.centre_mm, found.forecast_mm))
        wide, high = (max(u * view.scale, LEAST_PX) for u in found.centre_u_mm)
        painter.setPen(QPen(colour(now.water_ink), 1.5))
        painter.setBrush(colour(now.water_deep, 110))
        painter.drawEllipse(at, wide, high)
        painter.setBrush(colour(now.water_ink))
        painter.drawEllipse(at, 2.5, 2.5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour(now.ink), 2.0))
        painter.drawEllipse(was, 5.0, 5.0)
        painter.setFont(font(9))
        foot = QRectF(6.0, self.height() - 32.0, self.width() - 12.0, 32.0)
        words = "ring: forecast; dot: by the tests, one uncertainty about it"
        painter.drawText(foot, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignBottom, words)
