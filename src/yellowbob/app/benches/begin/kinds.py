"""The kinds as small drawings side by side: one is chosen by a click or the arrow keys."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QTransform
from PySide6.QtWidgets import QWidget

from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING, Kind
from yellowbob.design.plates import TurningTail
from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.curves import curve
from yellowbob.trials.asked import LURES, starter_file

KINDS: tuple[Kind, ...] = (*LURES[:-1], *STANDING, "dropper", "other")
COLUMNS, STEPS = 6, 60
ROUND = (1.0 - np.cos(np.linspace(0.0, np.pi, STEPS))) / 2.0
"""Places along an outline, close where its ends are round."""


@lru_cache(maxsize=16)
def outlines(kind: Kind) -> tuple[tuple[tuple[float, float], ...], ...]:
    """The side view of a kind's starter as polygons, (x, z) mm."""
    found = []
    for piece in read_design(starter_file(kind)).pieces:
        shape, x0 = piece.shape, piece.at_mm[0]
        if isinstance(shape, Lofted):
            x = shape.length_mm * ROUND
            top, low = curve(shape.back).at(x), curve(shape.belly).at(x)
        elif isinstance(shape, Turned | TurningTail):
            x = shape.profile[-1].at_mm[0] * ROUND
            top = curve(shape.profile).at(x)
            low = -top
            x0 += shape.x_mm if isinstance(shape, TurningTail) else 0.0
        else:
            continue
        xs = [*x, *x[::-1]]
        found.append(tuple((float(a + x0), float(b)) for a, b in zip(xs, [*top, *low[::-1]], strict=True)))
    return tuple(found)


@lru_cache(maxsize=16)
def _drawn(kind: Kind) -> tuple[list[QPolygonF], QRectF]:
    """The same as they are painted, in mm, and the room that they take."""
    shapes = [QPolygonF([QPointF(x, z) for x, z in shape]) for shape in outlines(kind)]
    room = QRectF(shapes[0].boundingRect())
    for shape in shapes[1:]:
        room = room.united(shape.boundingRect())
    return shapes, room


class Kinds(QWidget):
    """Two rows of kinds; floats stand."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.kind: Kind = "popper"
        self.setMinimumHeight(120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Kind of the new design")
        self.setAccessibleDescription(self.kind)

    def sizeHint(self) -> QSize:
        return QSize(900, 180)

    def choose(self, kind: Kind) -> None:
        """Take a kind."""
        if kind != self.kind:
            self.kind = kind
            self.setAccessibleDescription(kind)
            self.update()
            self.chosen.emit(kind)

    def _box(self, number: int) -> QRectF:
        wide, high = self.width() / COLUMNS, self.height() / 2.0
        return QRectF(number % COLUMNS * wide + 3, number // COLUMNS * high + 3, wide - 6, high - 6)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        for number, kind in enumerate(KINDS):
            if self._box(number).contains(event.position()):
                self.choose(kind)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -COLUMNS, Qt.Key.Key_Down: COLUMNS}
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        self.choose(KINDS[(KINDS.index(self.kind) + step) % len(KINDS)])

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        now = Look.now
        for number, kind in enumerate(KINDS):
            box, picked = self._box(number), kind == self.kind
            painter.setPen(QPen(colour(now.water_ink if picked else now.line), 2.5 if picked else 1))
            painter.setBrush(colour(now.card))
            painter.drawRoundedRect(box, 4, 4)
            self._paint(painter, box.adjusted(10, 8, -10, -24), kind)
            painter.setPen(colour(now.ink))
            painter.setFont(font(10, picked))
            name = "plain body" if kind == "other" else kind
            painter.drawText(
                box.adjusted(0, 0, 0, -5), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignHCenter, name
            )
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour(now.water_ink), 1, Qt.PenStyle.DotLine))
            painter.drawRect(self._box(KINDS.index(self.kind)).adjusted(-2, -2, 2, 2))

    def _paint(self, painter: QPainter, box: QRectF, kind: Kind) -> None:
        shapes, size = _drawn(kind)
        upright, centre = kind in STANDING, box.center()
        wide, high = (size.height(), size.width()) if upright else (size.width(), size.height())
        s = min(box.width() / wide, box.height() / high)
        x, z = size.center().toTuple()
        place = (
            QTransform(0.0, s, s, 0.0, centre.x() - s * z, centre.y() - s * x)
            if upright
            else QTransform(s, 0.0, 0.0, -s, centre.x() - s * x, centre.y() + s * z)
        )
        painter.setPen(QPen(colour(Look.now.ink), 1.1))
        painter.setBrush(colour(Look.now.water_deep, 70))
        for shape in shapes:
            painter.drawPolygon(place.map(shape))
