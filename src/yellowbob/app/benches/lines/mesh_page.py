"""A solid from CAD as the body: unit, which way it lies, mirror check, lighter with its volume kept."""

from __future__ import annotations

from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QProgressBar, QVBoxLayout, QWidget

from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.camera import small_view
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.painter import paint_solid
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.app.widgets.words import Words
from yellowbob.design.starts import with_shape
from yellowbob.lines.importing import UNIT_MM, read_solid
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.orient import as_body, lighter_solid, lopsided, seated_solid, turned
from yellowbob.lines.shells import Inside, Solid

Array = NDArray[np.float64]

TRIANGLES = 3000
HOLDS: dict[str, Inside | None] = {"ask me": None, "air": "air", "water": "water", "filled": "filled"}
"""What a closed space inside can hold, as it is offered."""
DEGREES_PER_PX = 0.5


class SolidView(QWidget):
    """Side and plan of the solid as it lies; dragging turns it: in the side view pitch, in the plan yaw."""

    turned = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.mesh: Mesh | None = None
        self.setMinimumHeight(220)
        self.setAccessibleName("The solid as it will lie: drag to turn it")
        self._drag: tuple[QPointF, bool] | None = None

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour(Look.now.card))
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        if self.mesh is None:
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Open an STL, OBJ, PLY or 3MF solid.")
            return
        x, y, z = np.eye(3)
        half = self.height() / 2
        painter.drawText(QPointF(12, 18), "side: nose to the left, back up")
        painter.drawText(QPointF(12, half + 18), "plan: drag here to turn it level")
        for right, up, top in ((x, z, 0.0), (x, y, half)):
            area = (30.0, top + 24.0, self.width() - 60.0, half - 34.0)
            paint_solid(painter, self.mesh, small_view(self.mesh, right, up, area, 12.0), small=True)
        painter.drawLine(
            QRectF(self.rect()).topLeft() + QPointF(0, half), QRectF(self.rect()).topRight() + QPointF(0, half)
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._drag = event.position(), event.position().y() > self.height() / 2

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        last, in_plan = self._drag
        step = event.position() - last
        self._drag = event.position(), in_plan
        angle = np.radians(DEGREES_PER_PX * (step.x() + step.y()))
        self.turned.emit(rotation("z" if in_plan else "y", float(angle)))

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        self._drag = None


def rotation(axis: str, angle: float) -> Array:
    """Rotation matrix about a body axis, radians."""
    c, s = np.cos(angle), np.sin(angle)
    return {
        "x": np.array([[1, 0, 0], [0, c, -s], [0, s, c]]),
        "y": np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]]),
        "z": np.array([[c, -s, 0], [s, c, 0], [0, 0, 1.0]]),
    }[axis]


class MeshPage(QWidget):
    """Open, turn, check, use."""

    finished = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.path: Path | None = None
        self.solid: Solid | None = None
        self.view = SolidView()
        self.view.turned.connect(self.turn)
        self.unit = Choice("Unit of the file", list(UNIT_MM), lambda _: self._again())
        self.inside = Choice("What a closed space inside holds", list(HOLDS), lambda _: self._again())
        self.words = Words("Open a closed solid; an open one is refused with the place of the gap.")
        self.words.setAccessibleName("What the import says")
        self.bar = QProgressBar()
        self.bar.setAccessibleName("How far reading the solid is")
        self.bar.setTextVisible(False)
        self.bar.setMaximumHeight(8)
        self.use = button("Use it", self.use_it, "Use the solid as the body")
        line = QHBoxLayout()
        line.addWidget(button("Open a solid", self._ask))
        line.addWidget(QLabel("unit"))
        line.addWidget(self.unit)
        line.addWidget(QLabel("a space inside holds"))
        line.addWidget(self.inside)
        for axis, words in (("y", "Pitch 90°"), ("z", "Yaw 90°"), ("x", "Roll 90°")):
            line.addWidget(button(words, partial(self._quarter, axis)))
        line.addWidget(button("Mirror", self.mirror, "Mirror port and starboard"))
        line.addWidget(self.use)
        line.addWidget(button("Back to drawing", self.finished.emit))
        line.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(line)
        column.addWidget(self.words)
        column.addWidget(self.bar)
        column.addWidget(self.view, 1)
        self.use.setEnabled(False)
        self.bar.hide()

    def _ask(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a solid", "", "Solids (*.stl *.obj *.ply *.3mf)")
        if name:
            self.open(Path(name))

    def _again(self) -> None:
        if self.path is not None:
            self.open(self.path)

    def open(self, path: Path) -> None:
        """Read a file in the chosen unit, off the interface's thread; a bad one is refused in place."""
        unit, inside = self.unit.currentText(), HOLDS[self.inside.currentText()]
        self.path = path
        self.use.setEnabled(False)
        self.words.setText(f"Reading {path.name}, looking through it and making it lighter.")
        self.bar.setValue(0)
        self.bar.show()

        def work(told: Told) -> Solid:
            told(0.1)
            found = read_solid(path, unit, inside)
            told(0.6)
            return lighter_solid(found, TRIANGLES)

        self.session.tasks.start(
            "solid",
            work,
            self._show,
            self._refuse,
            lambda share: self.bar.setValue(round(100 * share)),
            words="reading the solid",
        )

    def _refuse(self, words: str) -> None:
        self.bar.hide()
        for way, shown in (("air", "air"), ("water", "water"), ("filled", "filled")):
            words = words.replace(f"--inside {way}", f"'{shown}' above")
        self.words.setText(f"! {words.replace('give --unit', 'choose the unit')}")

    def _show(self, solid: Solid) -> None:
        self.bar.hide()
        self.solid = seated_solid(solid)
        mesh = self.view.mesh = self.solid.outer
        length, beam, depth = (float(v) for v in mesh.bounds[1] - mesh.bounds[0])
        uneven = lopsided(mesh)
        mirror = (
            "port and starboard match" if uneven < 0.002 else f"! port and starboard differ by {100 * uneven:.1f} %"
        )
        notes = "".join(f" Mind: {note}." for note in solid.notes)
        self.words.setText(
            f"{length:.1f} × {beam:.1f} × {depth:.1f} mm, {mesh.volume_mm3 / 1000:.2f} mL, "
            f"{len(mesh.faces)} triangles; {mirror}.{notes}"
        )
        self.use.setEnabled(True)
        self.view.update()

    def turn(self, matrix: Array) -> None:
        if self.solid is not None:
            self._show(turned(self.solid, matrix))

    def _quarter(self, axis: str) -> None:
        self.turn(rotation(axis, np.pi / 2))

    def mirror(self) -> None:
        self.turn(np.diag([1.0, -1.0, 1.0]))

    def use_it(self) -> None:
        """The solid becomes the body; holes and cuts of the old one are taken off."""
        if self.solid is not None and self.path is not None:
            design = self.session.design
            shape = as_body(self.solid, self.path.name, HOLDS[self.inside.currentText()] or "air")
            self.session.edit(with_shape(design, shape), f"solid from {self.path.name}")
            self.finished.emit()
