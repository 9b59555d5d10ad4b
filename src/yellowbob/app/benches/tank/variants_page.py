"""Variants side by side, and one quantity swept by a slider with what follows drawn."""

from __future__ import annotations

import math

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QSlider, QVBoxLayout

from yellowbob.app.benches.tank.variant_drawings import SweepPlot
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.session.sight import ready_to_draw
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.strip import Strip
from yellowbob.app.widgets.words import Words
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.trials.shapes import by_shape
from yellowbob.trials.variants import (
    Quantity,
    SweepPoint,
    Variant,
    by_hooks,
    by_place,
    by_wood,
    compared,
    quantities,
    sweep,
)

SHAPES = "body shapes"
WAYS = {"ballast slid along": by_place, "hook sizes": by_hooks, "woods": by_wood, SHAPES: by_shape}
SLIDER = 200
STEPS = 21
SLIDE_MS = 40


class VariantsPage(CardPage):
    """Several ways to build it, and a slider over one of its figures."""

    def __init__(self, session: Session) -> None:
        super().__init__("Variants", session)
        self.strip = Strip()
        self.plot = SweepPlot()
        self.way = Choice("What to compare", list(WAYS), lambda _: self.compare())
        self.way.setMinimumWidth(170)
        self.use = button("Build this one", self.use_chosen)
        self.begin = button(
            "As experiment", self.begin_experiment, "Begin a build of each in the log: they differ in one thing"
        )
        self.what = Choice("Quantity to sweep", [], lambda _: self.sweep())
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, SLIDER)
        self.slider.setFixedHeight(24)
        self.slider.setAccessibleName("Value of the quantity swept")
        self.slider.valueChanged.connect(self._slide)
        self.slider.sliderReleased.connect(self._let_go)
        self.take = button("Take this value", self._take)
        self.value = QLabel()
        self.says = Words()
        self.says.setObjectName("wrong")
        self._known: dict[str, Quantity] = {}
        self._design: Design | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SLIDE_MS)
        self._soon.timeout.connect(self._show_value)
        self._lay_out()
        session.changed.connect(self._follow)

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(14)
        left = QVBoxLayout()
        left.setSpacing(4)
        head = QHBoxLayout()
        title = QLabel("Side by side")
        title.setObjectName("title")
        head.addWidget(title)
        head.addWidget(self.way)
        head.addStretch(1)
        head.addWidget(self.begin)
        head.addWidget(self.use)
        left.addLayout(head)
        left.addWidget(self.strip, 1)
        line.addLayout(left, 7)
        right = QVBoxLayout()
        right.setSpacing(4)
        row = QHBoxLayout()
        words = QLabel("Sweep")
        words.setObjectName("title")
        row.addWidget(words)
        row.addWidget(self.what, 1)
        right.addLayout(row)
        right.addWidget(self.plot, 1)
        right.addWidget(self.slider)
        foot = QHBoxLayout()
        foot.addWidget(self.value, 1)
        foot.addWidget(self.take)
        right.addLayout(foot)
        right.addWidget(self.says)
        self.says.hide()
        line.addLayout(right, 4)

    # ---- side by side

    def refresh(self) -> None:
        if self._design is not self.session.design and not self.session.fault:
            self._design = self.session.design
            self.says.hide()
            if not self.session.design.ballast and self.way.currentText() == next(iter(WAYS)):
                self.way.show_text("woods")
            self._known = quantities(self.session.design)
            now = self.what.currentText()
            self.what.clear()
            self.what.addItems([q.words for q in self._known.values()])
            self.what.show_text(now if now in [q.words for q in self._known.values()] else self._first())
            self.compare()
            self.sweep()

    def _first(self) -> str:
        ballast = [q.words for q in self._known.values() if q.key.startswith("ballast")]
        return ballast[0] if ballast else next(iter(self._known.values())).words

    def _follow(self) -> None:
        if self.isVisible() and not self.session.dragging:
            self.refresh()

    def compare(self) -> None:
        """Settle the variants off the interface's thread."""
        study, make = self.session.apart(), WAYS[self.way.currentText()]

        def work(told: Told) -> list[Variant]:
            found = compared(study, make(study.build), told=told)
            for one in found:
                ready_to_draw(one.study)
            return found

        self.session.tasks.start("variants", work, self._compared, self._not_compared, words="settling variants")

    def _not_compared(self, words: str) -> None:
        self._complain(words)
        self.strip.show_variants([])

    def _compared(self, found: list[Variant]) -> None:
        now = next((k for k, v in enumerate(found) if "as drawn" in v.words), 0)
        self._complain("")
        self.strip.show_variants(found, now)

    def use_chosen(self) -> None:
        if self.strip.variants:
            one, design = self.strip.variants[self.strip.chosen], self.session.design
            if self.way.currentText() != SHAPES:
                self.session.edit(one.change.make(design), one.words)
                return
            # sized anew until it carries the same: not on the interface's thread
            self.session.tasks.start(
                "build", lambda _: one.change.make(design), lambda made: self.session.edit(made, one.words), self._complain,
                words="sizing its body",
            )  # fmt: skip

    def begin_experiment(self) -> None:
        """A build of each variant in the log, as one batch; the first lies on the bench."""
        from yellowbob.logbook.records import Build
        from yellowbob.logbook.store import LogBook
        from yellowbob.trials.experiment import begin_experiment

        what, design = self.way.currentText(), self.session.design
        make = WAYS[what]

        def work(_: Told) -> list[Build]:
            return begin_experiment(LogBook(), design, what, make(design))

        def begun(builds: list[Build]) -> None:
            self.session.said.emit(
                f"Begun in the log: {builds[0].serial} to {builds[-1].serial}, that differ in {what}. Paint them alike."
            )

        self.session.tasks.start("experiment", work, begun, self._complain, words="beginning an experiment")

    def _complain(self, words: str) -> None:
        self.says.setText(f"! {words}" if words else "")
        self.says.setVisible(bool(words))

    # ---- the sweep

    def quantity(self) -> Quantity | None:
        return next((q for q in self._known.values() if q.words == self.what.currentText()), None)

    def sweep(self) -> None:
        one = self.quantity()
        if one is None:
            return
        study = self.session.apart()
        share = (one.now - one.low) / (one.high - one.low)
        self.slider.blockSignals(True)
        self.slider.setValue(round(SLIDER * min(1.0, max(0.0, share))))
        self.slider.blockSignals(False)
        self.plot.mark(one.now)
        self._say_value(one, one.now)

        def work(told: Told) -> list[SweepPoint]:
            return sweep(study, one.key, steps=STEPS, told=told)

        self.session.tasks.start("sweep", work, self._swept, self._complain, words="sweeping")

    def _swept(self, found: list[SweepPoint]) -> None:
        one = self.quantity()
        if one is not None:
            self.plot.show_points(found, f"{one.words}, {one.unit}", self._value_now(one))

    def _value_now(self, one: Quantity) -> float:
        return one.low + (one.high - one.low) * self.slider.value() / SLIDER

    def _say_value(self, one: Quantity, value: float) -> None:
        self.value.setText(f"{value:.4g} {one.unit} (now {one.now:.4g})")

    def _slide(self, _: int) -> None:
        one = self.quantity()
        if one is not None:
            now = self._value_now(one)
            self._say_value(one, now)
            self.plot.mark(now)
            if not self._soon.isActive():
                self._soon.start()

    def _show_value(self) -> None:
        """The lure in the tank at the slider's value, following the rest."""
        from yellowbob.study import Study, of

        one, session = self.quantity(), self.session
        if one is None or session.rest is None:
            return
        try:
            rest = of.rest_followed(Study(one.change(self._value_now(one)), session.study), session.rest)
        except (YellowBobError, ValueError) as error:
            self._complain(str(error))
            return
        self._complain("" if rest is not None else "it sinks there")
        if rest is not None and math.isfinite(rest.height_mm):
            session.show_posture(rest)

    def _let_go(self) -> None:
        self._soon.stop()
        self._show_value()

    def _take(self) -> None:
        one = self.quantity()
        if one is None:
            return
        try:
            self.session.edit(one.change(self._value_now(one)), f"{one.words}")
        except (YellowBobError, ValueError) as error:
            self._complain(str(error))
