"""A picture that places are clicked in: its marks, a line, the brush's dabs, and the outline found over it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QDragEnterEvent,
    QDropEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QWidget

from yellowbob.app.widgets.painter import paint_mark
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.lines.tracing.picture_file import Picture
from yellowbob.lines.tracing.silhouette import Stroke

Array = NDArray[np.float64]
BRUSH_PX = 12.0
"""The brush's radius on the screen."""


class PictureView(QWidget):
    """The picture, with the known length's two ends, the level line and the outline found over it."""

    changed = Signal()
    dropped = Signal(str)

    def __init__(
        self,
        name: str = "Picture to trace",
        empty: str = "Open or drop a photo or drawing on a plain background.",
        marked: tuple[str, str] = ("", ""),
    ) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self.setMinimumHeight(240)
        self.setAccessibleName(name)
        self._empty, self._marked = empty, marked
        self.picture: Picture | None = None
        self.image: QImage | None = None
        """what is shown of it; places are told in its own pixels, of which there may be more"""
        self._fitted: QPixmap | None = None
        self.marks: list[tuple[float, float]] = []
        self.level: list[tuple[float, float]] = []
        self.levelling = False
        self.own: list[tuple[float, float]] = []
        self.beside = False
        """whether the marks lie beside the body: its own two ends are clicked after them"""
        self.outline: list[tuple[float, float]] = []
        self.strokes: list[Stroke] = []
        self.undone: list[Stroke] = []
        self.brush = ""
        """what the brush does: `in`, `out`, or nothing"""
        self._drag: tuple[list[tuple[float, float]], int] | None = None

    def show_picture(self, picture: Picture | None) -> None:
        """Show one that was read; None: show none."""
        self.picture, self.image, self._fitted = picture, None, None
        if picture is not None and picture.shown is not None:
            high, wide = picture.shown.shape[:2]
            form = QImage.Format.Format_RGBA8888
            self.image = QImage(picture.shown.data, wide, high, 4 * wide, form).copy()
        self.marks, self.level, self.own, self.outline = [], [], [], []
        self.strokes, self.undone = [], []
        self.changed.emit()
        self.update()

    def _frame(self) -> tuple[float, float, float]:
        """(scale, left, top) of the picture in the widget."""
        assert self.picture is not None
        wide, high = self.picture.width, self.picture.height
        scale = min(self.width() / wide, self.height() / high)
        return scale, (self.width() - wide * scale) / 2, (self.height() - high * scale) / 2

    def _fit(self) -> tuple[QRectF, QPixmap]:
        """Where the picture lies, and it as large as that: scaled once, for it is painted at every move of the hand."""
        assert self.picture is not None and self.image is not None
        scale, left, top = self._frame()
        place = QRectF(left, top, self.picture.width * scale, self.picture.height * scale)
        ratio = self.devicePixelRatioF()
        size = (place.size() * ratio).toSize().expandedTo(QSize(1, 1))
        if self._fitted is None or self._fitted.size() != size:
            smooth = Qt.TransformationMode.SmoothTransformation
            fitted = self.image.scaled(size, Qt.AspectRatioMode.IgnoreAspectRatio, smooth)
            self._fitted = QPixmap.fromImage(fitted)
        return place, self._fitted

    def to_widget(self, at: tuple[float, float]) -> QPointF:
        scale, left, top = self._frame()
        return QPointF(left + (at[0] + 0.5) * scale, top + (at[1] + 0.5) * scale)

    def to_picture(self, at: QPointF) -> tuple[float, float]:
        scale, left, top = self._frame()
        return (at.x() - left) / scale - 0.5, (at.y() - top) / scale - 0.5

    def in_shown(self, to_px: Array) -> Array:
        """An affine map (2, 3) to the picture's own pixels, as one to those of what is shown of it."""
        assert self.picture is not None and self.image is not None
        share = np.array([self.image.width() / self.picture.width, self.image.height() / self.picture.height])
        moved: Array = share[:, None] * np.asarray(to_px)
        moved[:, 2] += 0.5 * share - 0.5
        return moved

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.image is None:
            return
        if self.brush:
            self._dab(event.position())
            return
        for marks in (self.marks, self.level, self.own):
            for number, mark in enumerate(marks):
                if (self.to_widget(mark) - event.position()).manhattanLength() < 14:
                    self._drag = (marks, number)
                    return
        after = self.beside and len(self.marks) == 2
        marks = self.level if self.levelling else self.own if after else self.marks
        if len(marks) == 2:
            marks.clear()
        marks.append(self.to_picture(event.position()))
        self.changed.emit()
        self.update()

    def _dab(self, at: QPointF) -> None:
        """Paint the brush's round in or out, a step apart at least from the last dab."""
        scale, _, _ = self._frame()
        radius = BRUSH_PX / scale
        place = self.to_picture(at)
        if self.strokes and np.hypot(*np.subtract(place, self.strokes[-1].at)) < 0.4 * radius:
            return
        self.strokes.append(Stroke(place, radius, self.brush == "in"))
        self.undone.clear()
        self.update()

    def take_back(self) -> None:
        """Undo the last dab."""
        if self.strokes:
            self.undone.append(self.strokes.pop())
            self.update()

    def bring_back(self) -> None:
        """Redo it."""
        if self.undone:
            self.strokes.append(self.undone.pop())
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.brush and self.image is not None and event.buttons():
            self._dab(event.position())
            return
        if self._drag is not None:
            marks, number = self._drag
            marks[number] = self.to_picture(event.position())
            self.update()

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        if self._drag is not None:
            self._drag = None
            self.changed.emit()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.dropped.emit(event.mimeData().urls()[0].toLocalFile())

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), colour(Look.now.card))
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        if self.image is None:
            painter.setFont(font(12))
            painter.setPen(colour(Look.now.soft))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._empty)
            return
        scale = self._frame()[0]
        place, fitted = self._fit()
        painter.drawPixmap(place, fitted, QRectF(fitted.rect()))
        if self.outline:
            painter.setPen(QPen(colour(Look.now.card), 4))
            shape = QPolygonF([self.to_widget(p) for p in self.outline])
            painter.drawPolygon(shape)
            painter.setPen(QPen(colour(Look.now.water_ink), 2))
            painter.drawPolygon(shape)
        for stroke in self.strokes:
            tint = colour(Look.now.water_deep if stroke.paint_in else Look.now.bad)
            tint.setAlpha(90)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(tint)
            painter.drawEllipse(self.to_widget(stroke.at), stroke.radius * scale, stroke.radius * scale)
            painter.setBrush(Qt.BrushStyle.NoBrush)
        lines = {Qt.PenStyle.SolidLine: self.marks, Qt.PenStyle.DashLine: self.level, Qt.PenStyle.DotLine: self.own}
        for style, marks in lines.items():
            if len(marks) == 2:
                painter.setPen(QPen(colour(Look.now.ink), 1.6, style))
                painter.drawLine(self.to_widget(marks[0]), self.to_widget(marks[1]))
            for mark in marks:
                paint_mark(painter, self.to_widget(mark), True)
        painter.setFont(font(9, True))
        for mark, words in zip(self.marks, self._marked, strict=False):
            at = self.to_widget(mark) + QPointF(8.0, -8.0)
            painter.setPen(QPen(colour(Look.now.card), 4))
            painter.drawText(at, words)
            painter.setPen(colour(Look.now.ink))
            painter.drawText(at, words)
