"""The strip at the top: the design's name, the benches, brief, undo, and whether it is saved."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.theme import Look, colour, elided, font

LATE_MS = 1000
WORKING = "working"


TAB_PX, NARROW_TAB_PX = 80, 60


class BenchTabs(QWidget):
    """The benches in the order of the work, each with its key."""

    chosen = Signal(str)

    def __init__(self, benches: list[tuple[str, str]]) -> None:
        super().__init__()
        self.benches, self.tab_px = benches, TAB_PX
        self.now = benches[0][0]
        self.setAccessibleName("Benches")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.make_narrow(False)

    def sizeHint(self) -> QSize:
        return QSize(self.tab_px * len(self.benches), 54)

    def make_narrow(self, narrow: bool) -> None:
        """Tabs close together, or at their ease."""
        self.tab_px = NARROW_TAB_PX if narrow else TAB_PX
        self.setMinimumWidth(self.tab_px * len(self.benches))
        self.updateGeometry()
        self.update()

    def show_bench(self, name: str) -> None:
        self.now = name
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        number = int(event.position().x() // self.tab_px)
        if 0 <= number < len(self.benches):
            self.chosen.emit(self.benches[number][0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        names = [name for name, _ in self.benches]
        self.chosen.emit(names[(names.index(self.now) + step) % len(names)])

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, (name, key) in enumerate(self.benches):
            box = QRectF(number * self.tab_px, 0, self.tab_px, self.height())
            here = name == self.now
            if here:
                painter.setPen(QPen(colour(Look.now.water_ink), 3))
                painter.drawLine(int(box.left()) + 14, self.height() - 2, int(box.right()) - 14, self.height() - 2)
            painter.setFont(font(11.5, bold=here))
            painter.setPen(colour(Look.now.ink if here else Look.now.soft))
            painter.drawText(box.adjusted(0, 0, -8, 0), Qt.AlignmentFlag.AlignCenter, name)
            painter.setFont(font(8))
            painter.setPen(colour(Look.now.soft))
            painter.drawText(
                box.adjusted(0, 12, -12 if self.tab_px == TAB_PX else -2, 0), Qt.AlignmentFlag.AlignRight, key
            )
        if self.hasFocus():
            painter.setPen(QPen(colour(Look.now.water_ink), 1, Qt.PenStyle.DotLine))
            painter.drawRect(1, 4, self.width() - 3, self.height() - 8)


TIMER_PX, ABOUT_PX, DOING_PX, STATE_PX = 120, 200, 90, 190
"""No words make the header wider than these."""
NARROW_PX, LEAST_PX = 1240, 960
"""A narrower header has its tabs closer together, and shorter words."""


class Header(QFrame):
    """Name and state on the left and right; the window puts its buttons in `buttons`."""

    def __init__(self, session: Session, benches: list[tuple[str, str]]) -> None:
        super().__init__()
        self.session, self.narrow = session, False
        self.setObjectName("header")
        self.setFixedHeight(56)
        line = QHBoxLayout(self)
        line.setContentsMargins(18, 0, 14, 0)
        line.setSpacing(8)
        words = QVBoxLayout()
        words.setSpacing(0)
        words.setContentsMargins(0, 7, 0, 7)
        self.name, self.about = QLabel(), QLabel()
        self.name.setFont(font(14, bold=True))
        self.about.setObjectName("soft")
        self.about.setFont(font(9))
        words.addWidget(self.name)
        words.addWidget(self.about)
        line.addLayout(words)
        line.addSpacing(24)
        self.tabs = BenchTabs(benches)
        line.addWidget(self.tabs)
        line.addStretch(1)
        self.timer = QLabel()
        self.timer.setAccessibleName("Running timer")
        line.addWidget(self.timer)
        session.timers.changed.connect(self._show_timer)
        self.state = QLabel()
        self.state.setObjectName("soft")
        self.state.setAccessibleName("Saved state")
        line.addWidget(self.state)
        self.buttons = line
        self._late = QTimer(self)
        self._late.setSingleShot(True)
        self._late.setInterval(LATE_MS)
        self._late.timeout.connect(self.refresh)
        session.tasks.busy.connect(self._busy)
        session.changed.connect(self.refresh)
        session.renamed.connect(self.refresh)
        self.refresh()

    def minimumSizeHint(self) -> QSize:
        """What it needs when it is narrow."""
        return QSize(LEAST_PX, 56)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        narrow = self.width() < NARROW_PX
        if narrow != self.narrow:
            self.narrow = narrow
            self.tabs.make_narrow(narrow)
            self.refresh()

    def _show_timer(self) -> None:
        """What sets now."""
        words = self.session.timers.words()
        self.timer.setText(elided(words, 10, False, TIMER_PX))
        self.timer.setToolTip(words)

    def _busy(self) -> None:
        """What takes longer than LATE_MS is named where the saved state stands, with the key that stops it."""
        if not self.session.tasks.doing:
            self._late.stop()
            self.refresh()
        elif self.state.property(WORKING):
            self.refresh()
        elif not self._late.isActive():
            self._late.start()

    def refresh(self) -> None:
        session = self.session
        design = session.design
        room = 140 if self.narrow else ABOUT_PX
        self.name.setText(elided(design.name, 14, True, room + 40))
        self.name.setToolTip(design.name)
        fish = f"{design.brief.fish} " if design.brief.fish else ""
        on_bench = f"{session.on_bench} on the bench · " if session.on_bench else ""
        about = (
            f"{on_bench}{fish}{design.kind} · {design.body.material.name} · {design.water.name} "
            f"{design.water.temperature_c:g} °C"
        )
        self.about.setText(elided(about, 9, False, room))
        self.about.setToolTip(about)
        doing = session.tasks.doing if self.sender() is self._late or self.state.property(WORKING) else []
        self.state.setProperty(WORKING, bool(doing))
        if doing:
            words, share = doing[0]
            done = f" {100 * share:.0f} %" if share else ""
            self.state.setText(f"{elided(words, 10, False, DOING_PX)}{done} · Shift+Esc stops")
        elif session.recovery.trouble:
            self.state.setText(elided(f"! {session.recovery.trouble}", 10, False, STATE_PX))
        elif session.saved:
            self.state.setText("saved")
        else:
            words = "kept, not in a file yet" if session.path is None else "kept, not saved yet"
            self.state.setText("kept" if self.narrow else words)
        path = str(session.path) if session.path else "Save it with Ctrl+S"
        self.state.setToolTip(doing[0][0] if doing else session.recovery.trouble or path)
