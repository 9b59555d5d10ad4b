"""Run: drawn through the water at a speed; how it lies, how deep, with what pull, and where that ends."""

from __future__ import annotations

import math

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QSlider, QVBoxLayout

from yellowbob.action.discs import prop_disc
from yellowbob.action.running import Run, Trim, line_of, run
from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.charts import TwoScales
from yellowbob.app.widgets.fields import NumberField, Units, labelled
from yellowbob.ground.quantities import show
from yellowbob.study import of

FASTEST, STEPS = 2.5, 51


class RunPage(MotionPage):
    """The line's rod and length, a slider over the speed, curves of pitch and draft."""

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Run", session, view, "How it runs")
        self.found: Run | None = None
        self.rod = NumberField("Height of the rod's tip over the water", (-2.0, 6.0), 1.0, "m", 1)
        self.out = NumberField("Line paid out", (1.0, 100.0), 15.0, "m")
        for field in (self.rod, self.out):
            field.valueChanged.connect(lambda _: self.refresh())
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Speed")
        self.slider.setRange(0, STEPS - 1)
        self.slider.setFixedHeight(26)
        self.slider.setValue(16)
        self.slider.valueChanged.connect(lambda _: self._show_now())
        self.now = QLabel()
        self.now.setWordWrap(True)
        self.now.setAccessibleName("At this speed")
        self.chart = TwoScales("Pitch and draft against the speed", "working it out …")
        self._lay_out()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.addLayout(labelled(("Rod's tip", self.rod), ("Line out", self.out)))
        left.addStretch(1)
        speed = QLabel("Speed")
        speed.setObjectName("soft")
        speed.setBuddy(self.slider)
        left.addWidget(speed)
        left.addWidget(self.slider)
        self.lay_out(left, self.chart, self.now)

    def refresh(self) -> None:
        """Draw it at every speed, off the interface's thread."""
        session = self.session
        if not self.rests_there():
            return
        rest = None if session.fault else of.upright_rest(session.study)
        if rest is None:
            self._refuse(session.fault or "it sinks: what runs without floating is not worked out")
            return
        study, rod, out = session.study.apart(), self.rod.value(), self.out.value()

        def work(_: Told) -> Run:
            speeds = [FASTEST * k / (STEPS - 1) for k in range(STEPS)]
            return run(of.pulled(study), rest, speeds, line_of(None, rod, out))

        session.tasks.start("run", work, self._take, self._refuse, words="drawing it through the water")

    def _refuse(self, words: str) -> None:
        self.found = None
        self.now.setText("")
        self.says.setText(f"! {words}")
        self.chart.say_empty()
        self.slider.setEnabled(False)
        if self.isVisible():
            self.view.show_trim(None, words)

    def _take(self, found: Run) -> None:
        self.found = found
        self.slider.setEnabled(bool(found.trims))
        unit = Units.of("length")
        words = "Runs at every speed looked at." if not found.ends else (
            f"At <b>{found.ends_at_m_s:.2f} m/s</b> it {found.ends}."
        )  # fmt: skip
        for one in of.mouths(self.session.study):
            air = f"{100.0 * one.air_share:.0f} % of it air at rest"
            words += (
                f"<br>The {one.name} holds {one.volume_mm3 / 1000.0:.2f} mL, {air}; it looks {one.looks_deg:.0f}° up."
            )
        self.says.setText(
            f"{words}<br>A rule of thumb: the push on faces that meet the stream, plates, friction; without its own waves, "
            "the drag of hooks and props, or rolling over. For comparing; tests on the water have not set it yet."
        )
        if not found.trims:
            self.chart.say_empty()
            return
        drafts = [float(show(t.draft_mm, unit, 4).replace("−", "-")) for t in found.trims]
        pitches = [math.degrees(t.pitch_rad) for t in found.trims]
        speeds = [t.speed_m_s for t in found.trims]
        self.chart.show_both(speeds, ("pitch, °", pitches), (f"draft, {unit}", drafts), "speed, m/s")
        self._show_now()

    def trim(self) -> Trim | None:
        """That of the slider, or the fastest there is."""
        if self.found is None or not self.found.trims:
            return None
        return self.found.trims[min(self.slider.value(), len(self.found.trims) - 1)]

    def _show_now(self) -> None:
        trim = self.trim()
        if trim is None:
            return
        unit, mass = Units.of("length"), Units.of("mass")
        front = self.session.design.ends[0]
        way = "up" if trim.pitch_rad >= 0 else "down"
        held = (
            "" if self.slider.value() < len(self.found.trims if self.found else ()) else ", the fastest it balances at"
        )
        discs = [(f.name, prop_disc(f.name, f.at_mm, f.span_mm, trim.up, trim.height_mm).wet_share)
                 for f, _ in of.prop_discs(self.session.study)]  # fmt: skip
        wet = "".join(f"; {name} {100.0 * share:.0f} % under" for name, share in discs)
        self.now.setText(
            f"<b>{trim.speed_m_s:.2f} m/s</b>{held}: {front} {way} {abs(math.degrees(trim.pitch_rad)):.1f}°, draft "
            f"{show(trim.draft_mm, unit)} {unit}, {show(trim.pull_g, mass)} {mass} of pull on the line{wet}"
        )
        self.chart.mark(trim.speed_m_s)
        if self.isVisible():
            self.view.show_trim(trim)
