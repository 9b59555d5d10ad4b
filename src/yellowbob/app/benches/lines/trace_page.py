"""Tracing: a picture, two clicks and a typed length, and the outline found."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QImage, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QCheckBox, QFileDialog, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import button
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.painter import paint_mark
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.design.starts import with_shape
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.tracing.silhouette import Silhouette, find_silhouette, read_picture
from yellowbob.lines.tracing.trace import Trace, scale_of, traced


class PictureView(QWidget):
    """The picture, with the known length's two ends, the level line and the outline found over it."""

    changed = Signal()
    dropped = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self.setMinimumHeight(240)
        self.setAccessibleName("Picture to trace")
        self.image: QImage | None = None
        self.marks: list[tuple[float, float]] = []
        self.level: list[tuple[float, float]] = []
        self.levelling = False
        self.outline: list[tuple[float, float]] = []
        self._drag: tuple[list[tuple[float, float]], int] | None = None

    def show_file(self, path: Path) -> None:
        self.image = QImage(str(path))
        self.marks, self.level, self.outline = [], [], []
        self.changed.emit()
        self.update()

    def _frame(self) -> tuple[float, float, float]:
        """(scale, left, top) of the picture in the widget."""
        assert self.image is not None
        scale = min(self.width() / self.image.width(), self.height() / self.image.height())
        return scale, (self.width() - self.image.width() * scale) / 2, (self.height() - self.image.height() * scale) / 2

    def to_widget(self, at: tuple[float, float]) -> QPointF:
        scale, left, top = self._frame()
        return QPointF(left + (at[0] + 0.5) * scale, top + (at[1] + 0.5) * scale)

    def to_picture(self, at: QPointF) -> tuple[float, float]:
        scale, left, top = self._frame()
        return (at.x() - left) / scale - 0.5, (at.y() - top) / scale - 0.5

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.image is None:
            return
        for marks in (self.marks, self.level):
            for number, mark in enumerate(marks):
                if (self.to_widget(mark) - event.position()).manhattanLength() < 14:
                    self._drag = (marks, number)
                    return
        marks = self.level if self.levelling else self.marks
        if len(marks) == 2:
            marks.clear()
        marks.append(self.to_picture(event.position()))
        self.changed.emit()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
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
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignCenter, "Open or drop a photo or drawing on a plain background."
            )
            return
        scale, left, top = self._frame()
        painter.drawImage(QRectF(left, top, self.image.width() * scale, self.image.height() * scale), self.image)
        if self.outline:
            painter.setPen(QPen(colour(Look.now.card), 4))
            shape = QPolygonF([self.to_widget(p) for p in self.outline])
            painter.drawPolygon(shape)
            painter.setPen(QPen(colour(Look.now.water_ink), 2))
            painter.drawPolygon(shape)
        for marks, style in ((self.marks, Qt.PenStyle.SolidLine), (self.level, Qt.PenStyle.DashLine)):
            if len(marks) == 2:
                painter.setPen(QPen(colour(Look.now.ink), 1.6, style))
                painter.drawLine(self.to_widget(marks[0]), self.to_widget(marks[1]))
            for mark in marks:
                paint_mark(painter, self.to_widget(mark), True)


class TracePage(QWidget):
    """Steps from left to right: picture, known length, level, outline, use."""

    finished = Signal()
    traced_over = Signal(object, object)
    """a picture (QImage) and where it lies, (2, 3): to be laid under the drawing"""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.path: Path | None = None
        self.side: Silhouette | None = None
        self.plan: Silhouette | None = None
        self.trace: Trace | None = None
        self.picture = PictureView()
        self.known = QuantityField("Known length", "length", 1)
        self.known.show_value(100.0)
        self.turned = QCheckBox("turned")
        self.turned.setAccessibleName("A turned body")
        self.nose_right = QCheckBox("nose at right")
        self.nose_right.setAccessibleName("The nose is at the right")
        self.level = QCheckBox("set level")
        self.level.setAccessibleName("Click a line that lies level")
        self.level.toggled.connect(self._levelling)
        self.words = QLabel("1  Open a picture")
        self.words.setWordWrap(True)
        self.words.setAccessibleName("What tracing says")
        self.seek = button("Find outline", self.find_outline)
        self.use = button("Use it", self.use_it, "Use the traced outline")
        line = QHBoxLayout()
        for one in (
            button("Open a picture", self._ask), button("Plan picture", self._ask_plan, "Open a picture of the plan"),
            QLabel("known length"), self.known, self.level, self.turned, self.nose_right, self.seek, self.use,
            button("Back to drawing", self.finished.emit),
        ):  # fmt: skip
            line.addWidget(one)
        line.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(line)
        column.addWidget(self.words)
        column.addWidget(self.picture, 1)
        self.picture.changed.connect(self._step)
        self.picture.dropped.connect(lambda name: self.open(Path(name)))
        self._step()

    def _levelling(self, on: bool) -> None:
        self.picture.levelling = on

    def _ask(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a picture", "", "Pictures (*.png *.jpg *.jpeg)")
        if name:
            self.open(Path(name))

    def _ask_plan(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a picture of the plan", "", "Pictures (*.png *.jpg *.jpeg)")
        if name:
            self.open_plan(Path(name))

    def open(self, path: Path) -> None:
        """Take a picture; one that cannot be read is refused in place."""
        try:
            read_picture(path)
        except YellowBobError as error:
            self.words.setText(f"! {error}")
            return
        self.path, self.side, self.trace = path, None, None
        self.picture.show_file(path)

    def open_plan(self, path: Path) -> None:
        """A second picture gives the plan; it is scaled to the side's length."""
        try:
            self.plan = find_silhouette(read_picture(path))
        except YellowBobError as error:
            self.words.setText(f"! {error}")
            return
        self.words.setText(f"The plan comes from {path.name}.")

    def _step(self) -> None:
        self.seek.setEnabled(self.path is not None and len(self.picture.marks) == 2)
        self.use.setEnabled(self.trace is not None)
        if self.path is None:
            self.words.setText("1  Open or drop a picture of it on a plain background.")
        elif len(self.picture.marks) < 2:
            self.words.setText("2  Click the two ends of something whose length you know, and type the length.")
        elif self.trace is None:
            self.words.setText("3  Find the outline. Set level first if the body does not lie along its own axis.")

    def find_outline(self) -> None:
        """Separate, scale, level and fit; a refusal says why and leaves everything as it is."""
        if self.path is None:
            return
        self.known.take()
        try:
            scale = scale_of(self.known.value or 0.0, self.picture.marks[0], self.picture.marks[1])
            side = find_silhouette(read_picture(self.path))
            along = None
            if len(self.picture.level) == 2:
                (ax, ay), (bx, by) = sorted(self.picture.level)
                along = np.array([bx - ax, by - ay])
            nose = "right" if self.nose_right.isChecked() else "left"
            found = traced(side, scale, self.turned.isChecked(), self.plan, along, nose)
        except YellowBobError as error:
            self.words.setText(f"! {error}")
            return
        self.side, self.trace = side, found
        self.picture.outline = [(float(x), float(y)) for x, y in side.outline]
        said = (
            f"{found.length_mm:.1f} mm long, {found.depth_mm:.1f} mm deep; {found.points} points hold "
            f"{found.fit_error_mm:.2f} mm."
        )
        self.words.setText(" ".join([said, *(f"Mind: {w}." for w in found.warnings)]))
        self.use.setEnabled(True)
        self.picture.update()

    def use_it(self) -> None:
        """The traced outlines become the body's shape; cuts of the old one are taken off."""
        if self.trace is not None:
            design = self.session.design
            self.session.edit(with_shape(design, self.trace.shape), "traced outline")
            self.traced_over.emit(self.picture.image, self.trace.to_px)
            self.finished.emit()
