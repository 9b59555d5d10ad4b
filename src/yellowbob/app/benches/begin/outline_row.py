"""Outlines of the maker's own in the brief of something new: traced from a picture in the brief's place, kept or dropped."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QStackedWidget, QWidget

from yellowbob.app.benches.lines.trace_page import TracePage
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.rows import row
from yellowbob.app.widgets.theme import wear
from yellowbob.ground.quantities import show
from yellowbob.lines.tracing.trace import Trace
from yellowbob.trials.outlined import Outlines


class OutlineRow(QWidget):
    """What was traced, in words, and a key that drops it."""

    changed = Signal(float)
    """other outlines, with their length in mm; 0 where there are none of its own any more"""

    def __init__(self, session: Session, pages: QStackedWidget) -> None:
        """`pages` shows the brief first; the page that traces is put beside it when it is first asked for."""
        super().__init__()
        self.session, self.pages = session, pages
        self.shape: Outlines | None = None
        self.page: TracePage | None = None
        self.words = QLabel()
        self.drop = button("Drop", self._drop, "Take the kind's own outlines again")
        line = row(self.words, self.drop)
        line.setContentsMargins(0, 0, 0, 0)
        self.setLayout(line)

    def trace(self) -> None:
        """Trace a picture, in the place of the brief."""
        if self.page is None:
            self.page = TracePage(self.session, self._take)
            self.page.finished.connect(self._back)
            roomy = Roomy(self.page)
            self.pages.addWidget(roomy)
            wear(roomy)
        self.pages.setCurrentIndex(1)

    def _back(self) -> None:
        self.pages.setCurrentIndex(0)

    def _take(self, found: Trace) -> None:
        unit = Units.of("length")
        self.shape = found.shape
        self.words.setText(f"traced, {show(found.length_mm, unit, 1)} × {show(found.depth_mm, unit, 1)} {unit}")
        self.changed.emit(found.length_mm)

    def _drop(self) -> None:
        self.shape = None
        self.changed.emit(0.0)
