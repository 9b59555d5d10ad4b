"""Steady: over speed and height of the tie, where it runs true, swings, goes under or rolls over."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import labelled
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.study.drawn import USUAL_LINE
from yellowbob.trials.moved import OVER, STEADY, SWINGS, UNDER, tie_map

SPEEDS = tuple(0.1 * k for k in range(1, 26))
ROWS = 9
MARKS = {STEADY: "", SWINGS: "~", UNDER: "↓", OVER: "×"}
WORDS = {STEADY: "runs true", SWINGS: "swings by itself", UNDER: "goes under", OVER: "rolls over"}

Cells = tuple[tuple[str, ...], ...]


class SteadyMap(QWidget):
    """Cells of a map: speeds across, ties up; each with its mark, so that it reads in grey too."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: Cells = ()
        self.ties: tuple[float, ...] = ()
        self.setAccessibleName("Steadiness over speed and height of the tie")
        self.setMinimumSize(520, 150)

    def sizeHint(self) -> QSize:
        return QSize(700, 190)

    def show_rows(self, ties: tuple[float, ...], rows: Cells) -> None:
        """Tie heights over its own, mm, and a row of cells for each."""
        self.ties, self.rows = ties, rows
        counts = {key: sum(row.count(key) for row in rows) for key in WORDS}
        self.setAccessibleDescription("; ".join(f"{WORDS[k]}: {n} cells" for k, n in counts.items()))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(9))
        left, foot = 78.0, 40.0
        wide, high = (self.width() - left - 8.0) / len(SPEEDS), (self.height() - foot) / max(len(self.ties), 1)
        for r, (tie, row) in enumerate(zip(self.ties, self.rows, strict=False)):
            self._paint_row(painter, QRectF(left, r * high, wide, high), tie, row)
        painter.setPen(colour(Look.now.soft))
        for c in range(4, len(SPEEDS), 5):
            box = QRectF(left + (c - 1) * wide, self.height() - foot + 2, 3 * wide, 16)
            painter.drawText(box, Qt.AlignmentFlag.AlignHCenter, f"{SPEEDS[c]:.1f} m/s")
        self._paint_key(painter, left)
        painter.end()

    def _paint_row(self, painter: QPainter, first: QRectF, tie: float, row: tuple[str, ...]) -> None:
        tones = {STEADY: Look.now.card, SWINGS: Look.now.water_top, UNDER: Look.now.water_deep, OVER: Look.now.wood}
        unit = Units.of("length")
        painter.setPen(colour(Look.now.soft))
        words = "its tie" if tie == 0.0 else f"{'+' if tie > 0 else ''}{show(tie, unit)} {unit}"
        box = QRectF(0, first.y(), first.x() - 8, first.height())
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words)
        for c, key in enumerate(row):
            cell = first.translated(c * first.width(), 0)
            painter.setPen(QPen(colour(Look.now.line), 0.6))
            painter.setBrush(colour(tones[key]))
            painter.drawRect(cell)
            painter.setPen(colour(Look.now.ink))
            painter.drawText(cell, Qt.AlignmentFlag.AlignCenter, MARKS[key])

    def _paint_key(self, painter: QPainter, left: float) -> None:
        at = left
        for key, words in WORDS.items():
            told = f"{MARKS[key] or 'blank'}  {words}"
            painter.drawText(QRectF(at, self.height() - 20, 200, 18), Qt.AlignmentFlag.AlignLeft, told)
            at += painter.fontMetrics().horizontalAdvance(told) + 28


class SteadyPage(MotionPage):
    """How far the tie is moved, and the map."""

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Steady", session, view, "How steady it is")
        self.reach = NumberField("How far the tie is moved up and down", (1.0, 40.0), 4.0, "mm", 1)
        self.reach.valueChanged.connect(lambda _: self.refresh())
        self.map = SteadyMap()
        self.again = button("Again", self.refresh, "Work the map out again")
        left = QVBoxLayout()
        left.addLayout(labelled(("Tie ±", self.reach)))
        left.addWidget(self.again)
        left.addWidget(self.says, 1)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        line.addLayout(left, 3)
        line.addWidget(self.map, 9)

    def refresh(self) -> None:
        """Work the map out, off the interface's thread."""
        session = self.session
        self.map.show_rows((), ())
        if self.isVisible():
            self.view.show_waves(None)
        if not self.rests_there():
            return
        if session.fault or of.upright_rest(session.study) is None:
            self.says.setText(f"! {session.fault or 'it sinks: no map is made of what does not float'}")
            return
        study, reach = session.apart(), self.reach.value()
        ties = tuple(round(reach * (1.0 - 2.0 * k / (ROWS - 1)), 6) for k in range(ROWS))

        def work(told: Told) -> Cells:
            return tie_map(study, SPEEDS, ties, USUAL_LINE, told)

        def take(rows: Cells) -> None:
            self.map.show_rows(ties[: len(rows)], rows)
            self.says.setText("Rod's tip 1 m up, 15 m of line out. A rule, for comparing.")

        self.says.setText("Drawing it with every tie …")
        session.tasks.start(
            "tie map", work, take, lambda w: self.says.setText(f"! {w}"), words="drawing it with every tie"
        )
