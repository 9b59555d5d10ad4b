"""The verdict line at the foot: one cell a check with its figure; a click says why and what to do."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.theme import Look, colour, elided, font, wear
from yellowbob.app.widgets.words import Words
from yellowbob.checks.registry import FIRST, Verdict, verdicts

OTHERS = "others"
MARKS = {"good": "✓", "watch": "◦", "failed": "!", "unknown": "?", "pending": "…"}


class VerdictCell(QWidget):
    """One check: title, figure, and a mark beside the colour."""

    clicked = Signal(str)

    def __init__(self, verdict: Verdict) -> None:
        super().__init__()
        self.verdict = verdict
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(50)
        self.show_verdict(verdict)

    def show_verdict(self, verdict: Verdict) -> None:
        self.verdict = verdict
        self.setAccessibleName(f"{verdict.title}: {verdict.figure} ({verdict.state})")
        self.update()

    def mousePressEvent(self, _: QMouseEvent) -> None:
        self.clicked.emit(self.verdict.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space, Qt.Key.Key_Enter):
            self.clicked.emit(self.verdict.key)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        verdict, now = self.verdict, Look.now
        state = "good" if verdict.aside else verdict.state
        tone = {
            "good": now.foot_good,
            "failed": now.foot_bad,
            "watch": now.foot_ink,
            "unknown": now.foot_soft,
            "pending": now.foot_soft,
        }
        painter.setFont(font(9.5))
        painter.setPen(colour(now.foot_soft))
        painter.drawText(12, 19, verdict.title)
        painter.setFont(font(10.5, True))
        painter.setPen(colour(tone[state]))
        words = f"{MARKS[verdict.state]} {verdict.figure}".replace("✓ ", "")
        painter.drawText(12, 38, elided(words, 10.5, True, self.width() - 18))
        if self.hasFocus():
            painter.setPen(QPen(colour(now.foot_ink), 2))
            painter.drawRect(2, 2, self.width() - 4, self.height() - 4)


def summary(others: list[Verdict]) -> Verdict:
    """The checks without a cell of their own, counted."""
    heeded = [v for v in others if not v.aside]
    failed, watch, late = (sum(v.state == state for v in heeded) for state in ("failed", "watch", "pending"))
    words = (
        (
            f"{failed} failed, {watch} to watch"
            if failed
            else f"{watch} to watch"
            if watch
            else f"all {len(others)} good"
        )
        if not late
        else f"working out {late}"
    )
    return Verdict(
        OTHERS,
        f"{len(others)} more checks",
        "failed" if failed else "pending" if late else "watch" if watch else "good",
        words,
        "",
        "",
    )


class VerdictLine(QFrame):
    """The first checks of the session's design, the others counted, and above them, when asked, one check's reasons."""

    wanted = Signal(str)
    """the page of all checks is asked for"""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("foot")
        self.setAccessibleName("Verdict line")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.reasons = Words()
        self.reasons.setContentsMargins(16, 8, 16, 8)
        self.reasons.setTextFormat(Qt.TextFormat.RichText)
        self.reasons.hide()
        column.addWidget(self.reasons)
        line = QHBoxLayout()
        line.setContentsMargins(8, 0, 8, 0)
        column.addLayout(line)
        self._line = line
        self._cells: dict[str, VerdictCell] = {}
        self._open = ""
        session.arrived.connect(self.refresh)
        wear(self, lambda now: f"#foot {{ background: {now.foot}; }} QLabel {{ color: {now.foot_ink}; }}")

    def refresh(self) -> None:
        """Show the checks as they stand; called when all rests are known, and when it is known where landings end."""
        if self.session.fault:
            return
        every = verdicts(self.session.study, wait=False)
        for verdict in every:
            if verdict.awaits is not None:
                self.session.want(verdict.awaits)
        shown = [v for v in every if v.key in FIRST]
        for verdict in sorted(shown, key=lambda v: FIRST.index(v.key)):
            self._show(verdict)
        self._show(summary([v for v in every if v.key not in FIRST]))
        self._fill_reasons()

    def _show(self, verdict: Verdict) -> None:
        cell = self._cells.get(verdict.key)
        if cell is None:
            cell = self._cells[verdict.key] = VerdictCell(verdict)
            cell.clicked.connect(self.open_reasons)
            self._line.addWidget(cell)
        else:
            cell.show_verdict(verdict)

    def open_reasons(self, key: str) -> None:
        """Show why and what to do for one check; the same check again closes it."""
        if key == OTHERS:
            self.wanted.emit("")
            return
        self._open = "" if self._open == key else key
        self._fill_reasons()

    def _fill_reasons(self) -> None:
        cell = self._cells.get(self._open)
        self.reasons.setVisible(cell is not None)
        if cell is not None:
            v = cell.verdict
            self.reasons.setText(
                f"<b>{v.title}: {v.figure}</b> &nbsp;{v.why} <b>What to do:</b> {v.do} <i>({v.grade})</i>"
                + (f" <b>Set aside:</b> {v.aside}" if v.aside else "")
            )
