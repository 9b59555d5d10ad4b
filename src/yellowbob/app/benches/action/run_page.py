"""Run: drawn through the water at a speed; how it lies, how deep, with what pull, and where that ends."""

from __future__ import annotations

import math
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QSlider, QVBoxLayout

from yellowbob.action.discs import prop_disc
from yellowbob.action.running import Line, Run, Trim, line_of
from yellowbob.action.swing import Swing
from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.benches.action.words import said_of, swing_words
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import TwoScales
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import labelled
from yellowbob.app.widgets.words import Words
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.study.drawn import Drawn, draw

FASTEST, STEPS = 2.5, 51


if TYPE_CHECKING:
    from yellowbob.app.benches.action.film import Filming


class RunPage(MotionPage):
    """The line's rod and length, a slider over the speed, curves of pitch and draft."""

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Run", session, view, "How it runs")
        self.drawn: Drawn | None = None
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
        self.now = Words()
        self.now.setAccessibleName("At this speed")
        self.chart = TwoScales("Pitch and draft against the speed", "working it out …")
        self.play = button("Set going", self.turn_playing, "Let it swing as it does at this speed")
        self.film = button("Save film …", self.ask_film, "Save a short film of the run at this speed")
        self._filming: Filming | None = None
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
        keys = QHBoxLayout()
        keys.addWidget(self.play)
        keys.addWidget(self.film)
        left.addLayout(keys)
        self.lay_out(left, self.chart, self.now)

    def line(self) -> Line:
        """The line that holds it, as typed."""
        return line_of(None, self.rod.value(), self.out.value())

    @property
    def found(self) -> Run | None:
        return None if self.drawn is None else self.drawn.run

    def refresh(self) -> None:
        """Draw it at every speed, off the interface's thread."""
        session = self.session
        if not self.rests_there():
            return
        if session.fault:
            self._refuse(session.fault)
            return
        study, line = session.apart(), self.line()

        def work(_: Told) -> tuple[Drawn, list[str]]:
            found = draw(study, [FASTEST * k / (STEPS - 1) for k in range(STEPS)], line)
            return found, said_of(study, found)

        session.tasks.start("run", work, self._take, self._refuse, words="drawing it through the water")

    def _refuse(self, words: str) -> None:
        self.drawn = None
        self.now.setText("")
        self.says.setText(f"! {words}")
        self.chart.say_empty()
        for one in (self.slider, self.play, self.film):
            one.setEnabled(False)
        if self.isVisible():
            self.view.show_trim(None, words)

    def _take(self, done: tuple[Drawn, list[str]]) -> None:
        self.drawn, lines = done
        found = self.drawn.run
        for one in (self.slider, self.play, self.film):
            one.setEnabled(bool(found.trims))
        unit = Units.of("length")
        self.says.setText("<br>".join(lines))
        if not found.trims:
            self.now.setText("")
            self.chart.say_empty()
            if self.isVisible():
                self.view.show_trim(None, f"It {found.ends}.")
            return
        drafts = [float(show(t.draft_mm, unit, 4).replace("−", "-")) for t in found.trims]
        pitches = [math.degrees(t.pitch_rad) for t in found.trims]
        speeds = [t.speed_m_s for t in found.trims]
        self.chart.show_both(speeds, ("pitch, °", pitches), (f"draft, {unit}", drafts), "speed, m/s")
        self._show_now()

    def swing(self) -> Swing | None:
        """What it does sideways at the slider's speed."""
        trim = self.trim()
        if trim is None or self.drawn is None or self.drawn.sideways is None:
            return None
        return next((s for s in self.drawn.sideways.swings if s.speed_m_s == trim.speed_m_s), None)

    def turn_playing(self) -> None:
        """Let it swing, or stand."""
        self.view.play(not self.view.playing)
        self.play.setText("Stand still" if self.view.playing else "Set going")

    def ask_film(self) -> None:
        start = f"{self.session.design.name}.webp"
        name, _ = QFileDialog.getSaveFileName(self, "Save the film", start, "Films (*.webp *.png)")
        if name:
            self.save_film(Path(name))

    def save_film(self, path: Path) -> None:
        """Write a film of the run at the slider's speed."""
        trim = self.trim()
        if trim is None:
            return
        from yellowbob.app.benches.action.film import Filming, frames_of_run

        if self._filming is not None:
            self._filming.stop()
        self._filming = Filming(self.session, frames_of_run(self.session, trim, self.swing()), path)

    def trim(self) -> Trim | None:
        """That of the slider, or the fastest there is."""
        if self.found is None or not self.found.trims:
            return None
        return self.found.trims[min(self.slider.value(), len(self.found.trims) - 1)]

    def _nose(self) -> str:
        """Where the crown of its nose is at the slider's speed."""
        over = self.drawn.noses_mm[min(self.slider.value(), len(self.drawn.noses_mm) - 1)] if self.drawn else 0.0
        unit = Units.of("length")
        return f"its nose {show(abs(over), unit)} {unit} {'over' if over > 0.0 else 'under'} the water"

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
        props = of.prop_discs(self.session.study) if self.session.ask(of.rests) is not None else ()
        discs = [(f.name, prop_disc(f.name, f.at_mm, f.span_mm, trim.up, trim.height_mm).wet_share) for f, _ in props]
        wet = "".join(f"; {name} {100.0 * share:.0f} % under" for name, share in discs)
        swing = self.swing()
        self.now.setText(
            f"<b>{trim.speed_m_s:.2f} m/s</b>{held}: {front} {way} {abs(math.degrees(trim.pitch_rad)):.1f}°, draft "
            f"{show(trim.draft_mm, unit)} {unit}, {self._nose()}, {show(trim.pull_g, mass)} {mass} of pull on the line{wet}"
            + ("" if swing is None else f"; {swing_words(swing)}")
        )
        self.chart.mark(trim.speed_m_s)
        if self.isVisible():
            self.view.show_trim(trim, swing=swing)
