"""Cocking: how a float turns from lying to standing as the load grows, shown in the tank and as curves."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QSlider, QVBoxLayout

from yellowbob.afloat.line import Cocking, Step
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import TwoScales
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.words import Words
from yellowbob.design.rig import Rig
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.trials.crooked import Crooked, crooked
from yellowbob.trials.sensitivity import Sensitivity, sensitivity

LEAST_LEAN_DEG = 0.05
FRAME_MS = 120
"""Between two loads while it plays."""


class CockingPage(CardPage):
    """Load by load, from none to the one that sinks it."""

    def __init__(self, session: Session) -> None:
        super().__init__("Cocking", session)
        self.found: Cocking | None = None
        self._bites: tuple[Cocking, Sensitivity] | None = None
        self._crooked: Crooked | None = None
        self.chart = TwoScales("Pitch and tip against the load", "working it out …")
        self.says = Words()
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.says.setAccessibleName("What the load does")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Load on the line")
        self.slider.valueChanged.connect(self._show_step)
        self.now = QLabel()
        self.now.setAccessibleName("At this load")
        self.play = button("Play", self.turn_playing, "Play the load growing")
        self._clock = QTimer(self)
        self._clock.setInterval(FRAME_MS)
        self._clock.timeout.connect(self._next)
        self._lay_out()
        session.changed.connect(self._changed)
        session.arrived.connect(self._arrived)

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        left = QVBoxLayout()
        left.setSpacing(2)
        left.addWidget(self.says, 1)
        left.addWidget(self.now)
        keys = QHBoxLayout()
        keys.addWidget(self.slider, 1)
        keys.addWidget(self.play)
        left.addLayout(keys)
        line.addLayout(left, 4)
        line.addWidget(self.chart, 6)

    # ---- showing

    def _arrived(self, asked: object) -> None:
        if asked in (of.cocked, of.carried):
            self.refresh()

    def _changed(self) -> None:
        self.found = None
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Ask for the curve and what it carries; shown when they are there."""
        session = self.session
        if session.fault or not of.unloaded(session.study).floats:
            self.chart.say_empty()
            self.says.setText(session.fault or "It sinks by itself: it has nothing to carry a load with.")
            self._enable(False)
            return
        found = session.ask(of.cocked)
        if found is None:
            self.chart.say_empty()
            self.says.setText("Following it load by load …")
            self._enable(False)
            return
        self._say(found)
        if found is self.found:
            return
        self.found = found
        unit, mass = Units.of("length"), Units.of("mass")
        loads = [float(show(s.load_g, mass, 5).replace("−", "-")) for s in found.steps]
        tips = [float(show(s.tip_mm, unit, 4).replace("−", "-")) for s in found.steps]
        self.chart.show_both(loads, ("pitch, °", [s.pitch_deg for s in found.steps]), (f"tip, {unit}", tips),
                             f"load on the line, {mass}")  # fmt: skip
        self._enable(True)
        self._look_for_bites(found)
        self.slider.blockSignals(True)
        self.slider.setRange(0, len(found.steps) - 1)
        self.slider.setValue(self._nearest(found))
        self.slider.blockSignals(False)
        self._say_step(found.steps[self.slider.value()])

    def _nearest(self, found: Cocking) -> int:
        """The step nearest to what hangs on the line now."""
        load = of.line_load_g(self.session.study)
        return min(range(len(found.steps)), key=lambda k: abs(found.steps[k].load_g - load))

    def _enable(self, there: bool) -> None:
        self.slider.setEnabled(there)
        self.play.setEnabled(there)
        if not there:
            self.now.setText("")
            self._clock.stop()

    def _say(self, found: Cocking) -> None:
        mass, unit = Units.of("mass"), Units.of("length")
        carried = self.session.ask(of.carried)
        lines = ["It never stands." if found.cocks_at_g is None else
                 f"<b>Stands from {show(found.cocks_at_g, mass, 3)} {mass} on</b>, "
                 f"sinks at {show(found.sinks_at_g, mass)} {mass}."]  # fmt: skip
        for load, turn in zip(found.jumps_at_g, found.jumps_deg, strict=True):
            lines.append(f"At {show(load, mass, 3)} {mass} it jumps by {turn:.0f}°.")
        if carried is not None:
            lines.append(
                f"<b>Carries {show(carried.load_g, mass, 3)} {mass}</b> (pull under water) with "
                f"{show(carried.tip_mm, unit)} {unit} of tip, ± {show(carried.capillary_g, mass, 3)} {mass} by the meniscus."
            )
            bites = self._bites[1] if self._bites is not None and self._bites[0] is found else None
            more = f"0.01 g more draws the tip {show(carried.mm_per_cg, unit, 2)} {unit} down"
            lines.append(f"{more}{self._thinner(bites)}.")
            if bites is not None and bites.lift_mm is not None:
                lines.append(f"Lift {bites.lift_name}: it rises {show(bites.lift_mm, unit)} {unit}.")
            if bites is not None and self._crooked is not None and abs(self._crooked.leans_deg) >= LEAST_LEAN_DEG:
                one = self._crooked
                lines.append(f"{one.piece} {show(one.off_mm, unit)} {unit} off its axis leans it {one.leans_deg:.1f}°.")
        elif of.tip_wanted_mm(self.session.study) == Rig.model_fields["tip_mm"].default:
            lines.append("Say on the Load page how much of the tip is to show.")
        self.says.setText("<br>".join(lines))

    def _thinner(self, bites: Sensitivity | None) -> str:
        """What a thinner tip would show in its place; nothing where it has none."""
        thinner = next((c for c in bites.changes if "thinner" in c.words), None) if bites is not None else None
        unit = Units.of("length")
        return "" if thinner is None else f"; {thinner.words} {show(thinner.mm_per_cg, unit, 2)} {unit}"

    def _look_for_bites(self, found: Cocking) -> None:
        """What the line shows of bites, worked out once for each curve, in the background."""
        study = self.session.apart()
        self._bites = None
        self.session.tasks.start(
            "bites", lambda _: (sensitivity(study), crooked(study)), lambda shown: self._take_bites(found, *shown),
            words="lifting the lowest shot",
        )  # fmt: skip

    def _take_bites(self, found: Cocking, shown: Sensitivity, off_axis: tuple[Crooked, ...]) -> None:
        if found is self.found:
            self._bites = (found, shown)
            self._crooked = max(off_axis, key=lambda c: abs(c.leans_deg), default=None)
            self._say(found)

    # ---- one load

    def _show_step(self, number: int) -> None:
        if self.found is None or not 0 <= number < len(self.found.steps):
            return
        step = self.found.steps[number]
        self._say_step(step)
        self.session.show_posture(step.rest)

    def _say_step(self, step: Step) -> None:
        mass, unit = Units.of("mass"), Units.of("length")
        self.now.setText(
            f"{show(step.load_g, mass, 3)} {mass}: {step.state}, pitch {step.pitch_deg:z.1f}°, "
            f"tip {show(step.tip_mm, unit)} {unit}"
        )
        self.chart.mark(float(show(step.load_g, mass, 5).replace("−", "-")))

    def turn_playing(self) -> None:
        """Play the loads one after the other, or stop."""
        if self._clock.isActive():
            self._stop()
        elif self.found is not None:
            if self.slider.value() == self.slider.maximum():
                self.slider.setValue(0)
            self.play.setText("Stop")
            self._clock.start()

    def _next(self) -> None:
        if not self.isVisible() or self.slider.value() >= self.slider.maximum():
            self._stop()
            return
        self.slider.setValue(self.slider.value() + 1)

    def _stop(self) -> None:
        self._clock.stop()
        self.play.setText("Play")
