"""Change: what makes it slower, wider, steadier, deeper or fly further; each change tried, before and after, overlaid."""

from __future__ import annotations

import math

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QVBoxLayout

from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.fields import Choice, NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import labelled
from yellowbob.app.widgets.theme import Look
from yellowbob.design.model import Design
from yellowbob.ground.quantities import show
from yellowbob.study.drawn import USUAL_LINE
from yellowbob.trials.moved import GOALS, Figures, Moved, gain, tried

MOST = 4
"""So many changes are overlaid beside the build as it is."""
HINT = "Each change is made to the build, drawn and thrown again: a few seconds."


class ChangePage(MotionPage):
    """A goal and a speed; every change with what it does to that goal; those ticked drawn beside the build as it is."""

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Change", session, view, "What the changes do")
        self.rows: tuple[Moved, ...] = ()
        self._of: Design | None = None
        self.goal = Choice("Make it", list(GOALS), lambda _: self._list())
        self.goal.show_text("steadier")
        self.speed = NumberField("Speed at which it is looked at", (0.1, 2.5), 0.6, "m/s", 1)
        self.speed.valueChanged.connect(lambda _: self._forget())
        self.start = button("Try changes", self.try_them, "Try every change by the model")
        self.list = QListWidget()
        self.list.setAccessibleName("Changes tried")
        self.list.itemChanged.connect(lambda _: self._draw())
        self.chart = Chart("Pitch against the speed, as it is and changed", "nothing tried yet")
        left = QVBoxLayout()
        left.addLayout(labelled(("Make it", self.goal), ("At", self.speed)))
        left.addWidget(self.start)
        left.addStretch(1)
        self.lay_out(left, self.chart, self.list)
        self.says.setMaximumHeight(36)

    def refresh(self) -> None:
        """What was tried of another build is forgotten; nothing is tried unasked."""
        if not self.rows or self._of is not self.session.study.build:
            self._forget()

    def _forget(self) -> None:
        self.rows = ()
        self.list.clear()
        self.chart.say_empty()
        self.says.setText(HINT)
        if self.isVisible():
            self.view.show_waves(None)

    def try_them(self) -> None:
        """Try every change, off the interface's thread."""
        session = self.session
        if not self.rests_there():
            return
        if session.fault:
            self.says.setText(f"! {session.fault}")
            return
        study, speed = session.apart(), self.speed.value()
        self._of = session.study.build

        def work(told: Told) -> tuple[Moved, ...]:
            return tried(study, speed, USUAL_LINE, told)

        self.says.setText("Trying …")
        session.tasks.start("changes", work, self._take, lambda w: self.says.setText(f"! {w}"), words="trying changes")

    def _take(self, rows: tuple[Moved, ...]) -> None:
        self.rows = rows
        self._list()

    def _list(self) -> None:
        """Best for the goal first; the best two are ticked."""
        if not self.rows or self.rows[0].figures is None:
            return
        now, goal = self.rows[0].figures, self.goal.currentText()
        gains = [(gain(now, r.figures, goal) if r.figures else None, r) for r in self.rows[1:]]
        gains.sort(key=lambda pair: -math.inf if pair[0] is None else pair[0], reverse=True)
        self.list.blockSignals(True)
        self.list.clear()
        for number, (much, row) in enumerate(gains):
            item = QListWidgetItem(f"{row.words}: {_told(now, row, goal)}")
            item.setData(Qt.ItemDataRole.UserRole, row.words)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            best = number < 2 and much is not None and much > 0.0
            item.setCheckState(Qt.CheckState.Checked if best else Qt.CheckState.Unchecked)
            self.list.addItem(item)
        self.list.blockSignals(False)
        better = sum(1 for much, _ in gains if much is not None and much > 1e-3)
        self.says.setText(f"{better} of {len(gains)} changes make it {goal}, by the model: rules, for comparing.")
        self._draw()

    def ticked(self) -> list[Moved]:
        """Those overlaid, at most MOST."""
        items = [self.list.item(k) for k in range(self.list.count())]
        names = [one.data(Qt.ItemDataRole.UserRole) for one in items if one.checkState() == Qt.CheckState.Checked]
        return [r for r in self.rows if r.words in names][:MOST]

    def _draw(self) -> None:
        if not self.rows:
            return
        self.chart.begin("speed, m/s", "pitch, °")
        tones = (Look.now.grab_edge, Look.now.bad, Look.now.soft, Look.now.ink)
        overlaid = [(self.rows[0], Look.now.water_ink, False)]
        overlaid += [(row, tone, True) for row, tone in zip(self.ticked(), tones, strict=False)]
        for number, (row, tone, dashed) in enumerate(overlaid):
            if row.drawn is not None and row.drawn.run.trims:
                trims = row.drawn.run.trims
                speeds, pitches = [t.speed_m_s for t in trims], [math.degrees(t.pitch_rad) for t in trims]
                self.chart.line(speeds, pitches, tone, dashed)
                self.chart.name_last(row.words, tone, 0.88 - 0.19 * number)


def _told(now: Figures, row: Moved, goal: str) -> str:
    """Before and after, of what the goal is about."""
    if row.figures is None:
        return f"cannot be built: {row.why}"
    then = row.figures
    if goal == "deeper":
        unit = Units.of("length")
        both = [("–" if v is None else show(v, unit)) for v in (now.draft_mm, then.draft_mm)]
        return f"draft {both[0]} → {both[1]} {unit}"
    words, before, after, unit = {
        "slower": ("swings", now.hz, then.hz, "Hz"), "wider": ("half-swing", now.yaw_deg, then.yaw_deg, "°"),
        "steadier": ("ends at", now.ends_m_s, then.ends_m_s, "m/s"), "further": ("flies", now.range_m, then.range_m, "m"),
    }[goal]  # fmt: skip
    return f"{words} {_figure(before)} → {_figure(after)} {unit}"


def _figure(value: float | None) -> str:
    return "–" if value is None else "nowhere" if math.isinf(value) else f"{value:.2f}"
