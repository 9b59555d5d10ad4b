"""Waves: its own periods, how it rides a chop, the current that draws a held float under."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout

from yellowbob.action.waves import YOUNG_CHOP, Current, Rough, chop
from yellowbob.app.benches.action.page import MotionPage
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.fields import NumberField, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import labelled
from yellowbob.app.widgets.theme import Look
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.trials.rough import in_rough_water

HEIGHT_MM = 40.0
CHART_POINTS = 30


class WavesPage(MotionPage):
    """Height and length of the waves, the current; what they do."""

    AWAITED = (of.rests, of.ridden)

    def __init__(self, session: Session, view: ActionView) -> None:
        super().__init__("Waves", session, view, "How it rides them")
        self.found: tuple[Rough, Current | None] | None = None
        self.high = self._length("Height of the waves, trough to crest", HEIGHT_MM)
        self.long = self._length("Length of the waves, crest to crest", YOUNG_CHOP * HEIGHT_MM)
        self.current = NumberField("Current past a float held by its line", (0.0, 5.0), 0.1, "m/s", 2)
        self.current.valueChanged.connect(lambda _: self.refresh())
        self.slant = NumberField("How far the line slants down from the level", (0.0, 89.0), 45.0, "°")
        self.slant.valueChanged.connect(lambda _: self.refresh())
        self.chart = Chart("Crest up its side against the length of the waves", "")
        self.play = button("Set going", self.turn_playing, "Let the waves run")
        self._own_length = True
        self._lay_out()

    def _length(self, name: str, value: float) -> QuantityField:
        field = QuantityField(name, "length", None)
        field.show_value(value)
        field.given.connect(lambda v, f=field: self._given(f, v))
        field.refused.connect(lambda words: self.says.setText(f"! {words}") if words else self.refresh())
        return field

    def _given(self, field: QuantityField, value: float) -> None:
        field.show_value(value)
        if field is self.long:
            self._own_length = False
        elif self._own_length:
            self.long.show_value(YOUNG_CHOP * value)
        self.refresh()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.addLayout(labelled(
            ("Waves high", self.high), ("Waves long", self.long), ("Current", self.current), ("Line slants", self.slant)
        ))  # fmt: skip
        left.addWidget(self.play)
        left.addStretch(1)
        self.lay_out(left, self.chart)

    def refresh(self) -> None:
        """Work it out anew, once it is there how it rides."""
        session, self.found = self.session, None
        if not self.rests_there():
            self.view.show_waves(None)
            return
        if session.fault or of.upright_rest(session.study) is None:
            self.says.setText(session.fault or "It sinks: no wave moves it.")
            self.view.show_waves(None)
            self.chart.say_empty()
            return
        ready = session.ask(of.ridden)
        if ready is None:
            self.says.setText("Seeing how it rides the waves …")
            return
        try:
            held = self.current.value() if ready.periods.stands else None
            self.found = in_rough_water(
                session.study, self.high.value or 0.0, self.long.value, held, self.slant.value()
            )
            for field in (self.current, self.slant):
                field.setEnabled(held is not None)
        except YellowBobError as error:
            self.says.setText(f"! {error}")
            self.chart.say_empty()
            self.view.show_waves(None)
            return
        self._say(*self.found)
        self._draw(self.found[0])
        self.view.show_waves(self.found[0])

    def _say(self, rough: Rough, current: Current | None) -> None:
        unit, mass, own = Units.of("length"), Units.of("mass"), rough.periods
        each = (("bob", own.heave_s), ("nod", own.pitch_s), ("roll", own.roll_s))
        told = [f"{name} <b>{value:.2f} s</b>" for name, value in each if value is not None]
        lines = [f"Its own periods: {', '.join(told)}. Count ten of them in the bucket."]
        step = " – <b>in step with its bob</b>" if rough.in_step else ""
        lines.append(f"These waves come every {rough.chop.period_s:.2f} s{step}.")
        rest = of.upright_rest(self.session.study)
        if rest is not None and of.stands_by_kind(self.session.study):
            shows = of.tip_of_rest(self.session.study, rest)
            enough = "enough" if shows > rough.needs_mm else "too little"
            lines.append(
                f"Crests reach {show(rough.needs_mm, unit)} {unit} up the tip; {show(shows, unit)} {unit} show: {enough}."
            )
        if current is not None and self.session.design.rig is not None:
            under = "" if current.under_m_s is None else f"; <b>{current.under_m_s:.2f} m/s</b> draws it under"
            lines.append(
                f"Held back, the current pulls with {show(current.drag_g, mass)} {mass} and leans it about "
                f"{current.leans_deg:.0f}°{under}."
            )
        lines.append("Textbook estimates: regular waves, its tilting in them left out.")
        self.says.setText("<br>".join(lines))

    def _draw(self, rough: Rough) -> None:
        """Crest up its side for waves of this height from short to long."""
        study, unit = self.session.study, Units.of("length")
        ready = of.ridden(study)
        assert ready is not None
        high = rough.chop.height_mm
        lengths = [high * 8.0 * (200.0 / 8.0) ** (k / (CHART_POINTS - 1)) for k in range(CHART_POINTS)]
        reach = [ready.on(chop(high, v, of.water_density(study))).needs_mm for v in lengths]
        factor = float(show(1000.0, unit, 6).replace("−", "-")) / 1000.0
        self.chart.begin("length of the waves, m", f"crest up its side, {unit}")
        self.chart.line([v / 1000.0 for v in lengths], [v * factor for v in reach], Look.now.water_ink)

    def turn_playing(self) -> None:
        """Let the waves run, or stand."""
        self.view.play(not self.view.playing)
        self.play.setText("Stand still" if self.view.playing else "Set going")
