"""Tracing: a picture, two clicks and a typed length, and the outline found."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QFileDialog, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.picture_view import PictureView
from yellowbob.app.widgets.words import Words
from yellowbob.design.starts import with_shape
from yellowbob.lines.tracing.clicked import scale_of
from yellowbob.lines.tracing.silhouette import Picture, Silhouette, find_silhouette, read_picture
from yellowbob.lines.tracing.trace import Trace, traced

BRUSHES = {"off": "", "paint in": "in", "paint out": "out"}


class TracePage(QWidget):
    """Steps from left to right: picture, known length, level, outline, use."""

    finished = Signal()
    traced_over = Signal(object, object)
    """a picture (QImage) and where it lies, (2, 3): to be laid under the drawing"""

    def __init__(self, session: Session, taken: Callable[[Trace], None] | None = None) -> None:
        """`taken` gets the outlines in the place of the open design's body."""
        super().__init__()
        self.session, self.taken = session, taken
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
        self.beside = QCheckBox("length is on a ruler")
        self.beside.setAccessibleName("The known length lies on a ruler, not on the body")
        self.beside.toggled.connect(self._lies_beside)
        self.brush = Choice("Brush", list(BRUSHES), self._take_brush)
        self.words = Words("1  Open a picture")
        self.words.setAccessibleName("What tracing says")
        self.seek = button("Find outline", self.find_outline)
        self.use = button("Use it", self.use_it, "Use the traced outline")
        line = QHBoxLayout()
        for one in (
            button("Open a picture", self._ask), button("Plan picture", self._ask_plan, "Open a picture of the plan"),
            QLabel("known length"), self.known, self.level, self.turned, self.nose_right, self.seek, self.use,
            button("Back to drawing" if taken is None else "Back to the brief", self.finished.emit),
        ):  # fmt: skip
            line.addWidget(one)
        line.addStretch(1)
        touch = QHBoxLayout()
        tools: tuple[QWidget, ...] = (
            self.beside, QLabel("brush"), self.brush, button("Back a dab", self.picture.take_back),
            button("Redo a dab", self.picture.bring_back),
        )  # fmt: skip
        for tool in tools:
            touch.addWidget(tool)
        touch.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(line)
        column.addLayout(touch)
        column.addWidget(self.words)
        column.addWidget(self.picture, 1)
        self.picture.changed.connect(self._step)
        self.picture.dropped.connect(lambda name: self.open(Path(name)))
        self._step()

    def _take_brush(self, what: str) -> None:
        self.picture.brush = BRUSHES[what]

    def _levelling(self, on: bool) -> None:
        self.picture.levelling = on

    def _lies_beside(self, on: bool) -> None:
        self.picture.beside = on
        self.picture.own = []
        self.picture.update()
        self._step()

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
        self.words.setText(f"Opening {path.name}.")
        self.session.tasks.start(
            "picture file",
            lambda _: read_picture(path, patient=True, to_show=True),
            self._opened,
            self._refused,
            words="opening the picture",
        )

    def _opened(self, read: Picture) -> None:
        self.session.tasks.stop("trace")  # of the picture before
        self.side, self.trace = None, None
        self.picture.show_picture(read)

    def _refused(self, words: str) -> None:
        self.words.setText(f"! {words}")

    def open_plan(self, path: Path) -> None:
        """A second picture gives the plan; it is scaled to the side's length."""

        def taken(plan: Silhouette) -> None:
            self.plan = plan
            self.words.setText(f"The plan comes from {path.name}.")

        self.words.setText(f"Opening {path.name}.")
        self.session.tasks.start(
            "plan picture",
            lambda _: find_silhouette(read_picture(path, patient=True)),
            taken,
            self._refused,
            words="opening the plan",
        )

    def _step(self) -> None:
        self.seek.setEnabled(self.picture.picture is not None and len(self.picture.marks) == 2)
        self.use.setEnabled(self.trace is not None)
        if self.picture.picture is None:
            self.words.setText("1  Open or drop a picture of it on a plain background; ruled lines do no harm.")
        elif len(self.picture.marks) < 2:
            self.words.setText("2  Click the two ends of something whose length you know, and type the length.")
        elif self.trace is None and self.picture.beside and len(self.picture.own) < 2:
            self.words.setText("3  Click the two ends of the body as well: its outline must reach them. Then find it.")
        elif self.trace is None:
            self.words.setText("3  Find the outline. Set level first if the body does not lie along its own axis.")

    def find_outline(self) -> None:
        """Separate, scale, level and fit, off the interface's thread; a refusal says why and leaves everything as it is."""
        read = self.picture.picture
        if read is None:
            return
        self.known.take()
        marks, level = tuple(self.picture.marks), sorted(self.picture.level)
        own = tuple(self.picture.own) if self.beside.isChecked() else ()
        known, beside, strokes = self.known.value or 0.0, self.beside.isChecked(), tuple(self.picture.strokes)
        nose, turned, plan = "right" if self.nose_right.isChecked() else "left", self.turned.isChecked(), self.plan
        along = np.subtract(level[1], level[0]) if len(level) == 2 else None

        def work(_: Told) -> tuple[Silhouette, Trace]:
            scale = scale_of(known, marks[0], marks[1])
            if len(own) == 2:
                side = find_silhouette(read, (own[0], own[1]), False, strokes)
            else:
                side = find_silhouette(read, (marks[0], marks[1]), beside, strokes)
            return side, traced(side, scale, turned, plan, along, nose)

        self.words.setText("Looking for the outline.")
        self.session.tasks.start("trace", work, self._found, self._refused, words="tracing")

    def _found(self, both: tuple[Silhouette, Trace]) -> None:
        side, found = both
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
        if self.trace is not None and self.taken is not None:
            self.taken(self.trace)
            self.finished.emit()
        elif self.trace is not None:
            design = self.session.design
            self.session.edit(with_shape(design, self.trace.shape), "traced outline")
            self.traced_over.emit(self.picture.image, self.picture.in_shown(self.trace.to_px))
            self.finished.emit()
