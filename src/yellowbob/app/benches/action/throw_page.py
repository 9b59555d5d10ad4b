"""Throw: how far it flies, which end leads, whether it tumbles, and how it meets the water."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtWidgets import QVBoxLayout

from yellowbob.action.flight import Cast, cast
from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import labelled
from yellowbob.app.widgets.theme import Look
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.study.action import tied_first
from yellowbob.trials.thrown import held_words, landed, with_line


class ThrowPage(MotionPage):
    """Speed, angle and height of the rod's tip; the flight they make."""

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Throw", session, view, "How it flies")
        self.found: Cast | None = None
        self._lines: list[str] = []
        self.speed = NumberField("Speed as it leaves the rod", (1.0, 60.0), 20.0, "m/s", 1)
        self.angle = NumberField("Angle over the level", (-30.0, 80.0), 35.0, "°")
        self.high = NumberField("Height of the rod's tip over the water", (0.1, 10.0), 2.0, "m", 1)
        for field in (self.speed, self.angle, self.high):
            field.valueChanged.connect(lambda _: self.refresh())
        self.chart = Chart("Nose to its path against the time", "")
        self._lay_out()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.addLayout(labelled(("Speed", self.speed), ("Angle", self.angle), ("Rod's tip", self.high)))
        left.addStretch(1)
        self.lay_out(left, self.chart)

    def refresh(self) -> None:
        """Throw it, off the interface's thread."""
        session = self.session
        if session.fault:
            self._refuse(session.fault)
            return
        study = session.apart()
        speed, angle, high = self.speed.value(), self.angle.value(), self.high.value()

        def throw(_: Told) -> Cast:
            return cast(of.thrown(study), speed, angle, high, tied_first(study))

        if self.found is None:
            self.says.setText("Throwing it …")
        session.tasks.start("flight", throw, self._take, self._refuse, words="throwing it")

    def _splash(self) -> None:
        """How it lands over many throws, and how it flies with what hangs on its line: a second or two more."""
        study = self.session.apart()
        speed, angle, high = self.speed.value(), self.angle.value(), self.high.value()

        def work(_: Told) -> list[str]:
            lines = []
            splash, both = landed(study, speed, angle, high), with_line(study, speed, angle, high)
            if splash.comes_right is not None and splash.evenly is not None:
                lines.append(
                    f"Thrown so, <b>{100 * splash.comes_right:.0f} %</b> come right (of all attitudes "
                    f"{100 * splash.evenly:.0f} %)."
                )
            if held_words(splash):
                lines.append(f"{held_words(splash)[0].upper()}{held_words(splash)[1:]}.")
            if both is not None:
                hung, pair = both
                loose = "; the thread goes slack and may loop round it" if pair.tangles else ""
                lines.append(
                    f"With the {hung.mass_g:.1f} g on its line, gathered at its end, <b>{pair.range_mm / 1000.0:.1f} m</b>, "
                    f"{pair.leads} leading{loose}."
                )
            return lines

        def take(more: list[str]) -> None:
            self.says.setText("<br>".join([*self._lines[:-1], *more, self._lines[-1]]))

        self.session.tasks.start("splash", work, take, lambda w: take([f"! {w}"]), words="throwing it many times")

    def _refuse(self, words: str) -> None:
        self.found = None
        self.says.setText(f"! {words}")
        self.chart.say_empty()
        if self.isVisible():
            self.view.show_flight(None, words)

    def _take(self, found: Cast) -> None:
        self.found = found
        design, mass = self.session.design, Units.of("mass")
        front, back = design.ends
        flight = found.flight
        weighs = of.cast_g(self.session.study)
        words = found.flies.replace("nose", front).replace("tail", back)
        lasts, hits = float(flight.times_s[-1]), float(flight.speeds_mm_s[-1]) / 1000.0
        lines = [f"<b>{flight.range_mm / 1000.0:.1f} m</b> in {lasts:.1f} s, {100 * found.share:.0f} % of a smooth dart's; "
                 f"it {words}."]  # fmt: skip
        pitch = math.degrees(found.landing_rad)
        lines.append(f"{flight.turns:.1f} turns beside its path; it meets the water {front} {'up' if pitch > 0 else 'down'} "
                     f"by {abs(pitch):.0f}°, at {hits:.1f} m/s.")  # fmt: skip
        ahead = "ahead of" if found.index > 0 else "behind"
        lines.append(f"Its weight lies {100 * abs(found.index):.1f} % of its length {ahead} the middle of its side.")
        tackle = design.brief.tackle_g
        if tackle is not None and not tackle.holds(weighs):
            much = "light" if weighs < tackle.least else "heavy"
            lines.append(f"! {show(weighs, mass)} {mass} is too {much} for the rod of the brief.")
        lines.append("A rule of thumb's flight, the line's pull guessed.")
        self._lines = lines
        self.says.setText("<br>".join(lines))
        self._splash()
        self.chart.begin("time, s", f"{front} turned off its path, turns")
        self.chart.line(flight.times_s[1:], np.unwrap(flight.off_rad) / (2.0 * np.pi), Look.now.water_ink)
        if self.isVisible():
            self.view.show_flight(found)
