"""Bench measurements: a worksheet with its arithmetic, written into the design; and the resin batch."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.instruments import Instruments
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.tables import fill, table
from yellowbob.fitout.apply import OF_A_SAMPLE, kept, with_sheet, with_volume
from yellowbob.fitout.mix import Mix, mix, mixed_density, percent_for, pot_life_min
from yellowbob.fitout.worksheets import ABOUT, FIELDS, IN_WATER, ON, Sheet, Value, read_value, work
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.units import Dimension
from yellowbob.shelf.shipped import powders, resins
from yellowbob.study import of

TITLES = {
    "block": "squared block", "puck": "cast puck", "mould": "cast in a known volume",
    "master": "master of known density", "immersion": "immersion in a jug",
    "sink": "sink and weigh",
}  # fmt: skip

ASK_ON = "what was on it?"


class ReadingField(QLineEdit):
    """A reading with its ±; F2 takes it from the scale or the callipers."""

    def __init__(self, name: str, what: str) -> None:
        super().__init__()
        self.what = what
        self.setAccessibleName(f"Reading of {name}")
        self.setPlaceholderText(
            {
                "length": "50.2 ± 0.05 mm",
                "mass": "7.42 ± 0.01 g",
                "density": "0.41 ± 0.005 g/mL",
                "volume": "30 ± 0.1 mL",
            }[what]
        )
        self.setMaximumWidth(170)
        self.instruments = Instruments(self)
        unit = "g" if what == "mass" else "mm"
        self.instruments.taken.connect(lambda value: self._read(f"{value:.2f} {unit}"))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F2:
            self.take_reading()
        else:
            super().keyPressEvent(event)

    def _read(self, text: str) -> None:
        self.setText(text)
        self.editingFinished.emit()

    def take_reading(self) -> None:
        if self.what in ("mass", "length"):
            self.instruments.ask("mass" if self.what == "mass" else "length")


class MeasurePage(Page):
    """One worksheet at a time; the readings stay in the design."""

    def __init__(self, session: Session) -> None:
        super().__init__("Measure", session, ABOUT["block"])
        self.kind = Choice("Worksheet", list(TITLES.values()), self._choose)
        self.kind.setMinimumWidth(210)
        self.line.insertWidget(1, self.kind)
        self.on = Choice("What was on it", [ASK_ON, *ON.values()], lambda _: self.work_out())
        self.on.setMinimumWidth(230)
        self.line.insertWidget(2, self.on)
        self.fields: dict[str, ReadingField] = {}
        self.labels: list[QLabel] = []
        self.sheet: Sheet | None = None
        self.column.addWidget(self.said)
        self.density = button(
            "Density of this piece", lambda: self.attempt(self._density), "Write the density into the design"
        )
        self.volume = button("Volume of this body", lambda: self.attempt(self._volume), "Scale the body to the volume")
        self.keep = button("Keep the readings", lambda: self.attempt(self._keep))
        keys = QHBoxLayout()
        for one in (self.density, self.volume, self.keep):
            keys.addWidget(one)
        keys.addStretch(1)
        self.column.addLayout(keys)
        self.past = table("Measurements kept", ("worksheet", "density", "volume"))
        self.column.addStretch(1)
        self.beside.addWidget(self.past)
        self.grid.setColumnStretch(4, 1)
        self._build("block")
        session.changed.connect(self.refresh)

    def _choose(self, title: str) -> None:
        self._build(next(k for k, t in TITLES.items() if t == title))

    def _build(self, kind: str) -> None:
        self.now = kind
        for widget in (*self.fields.values(), *self.labels):
            self.grid.removeWidget(widget)
            widget.deleteLater()
        self.fields, self.labels = {}, []
        self.on.setVisible(kind in IN_WATER)
        self.about.setText(ABOUT[kind] + "  F2 in a field takes the reading.")
        for number, (name, dimension) in enumerate(f for f in FIELDS[kind] if f[0] != "water"):
            field = ReadingField(name, dimension)
            field.editingFinished.connect(self.work_out)
            field.instruments.failed.connect(lambda words: self.say(words, wrong=True))
            self.fields[name] = field
            self.labels.append(self.put(number // 2, number % 2, name, field))
        self.sheet = None
        self.say("")
        self.refresh()

    def work_out(self) -> None:
        """Work the sheet once every reading is there."""
        self.sheet = None
        if all(field.text().strip() for field in self.fields.values()):
            self.attempt(self._work)
        self.refresh()

    def _work(self) -> None:
        readings = {}
        for name, dimension in FIELDS[self.now]:
            if name == "water":
                readings[name] = Value(of.water(self.session.study).density_g_mm3 * 1000.0, 0.0)
            else:
                readings[name] = read_value(self.fields[name].text(), dimension)
        on = next((key for key, words in ON.items() if words == self.on.currentText()), "")
        self.sheet = work(self.now, readings, on if self.now in IN_WATER else "")
        self.say("\n".join(self.sheet.steps))

    def refresh(self) -> None:
        self.density.setEnabled(self.sheet is not None and self.sheet.density is not None)
        self.volume.setEnabled(self.sheet is not None and self.sheet.volume is not None and self.now not in OF_A_SAMPLE)
        self.keep.setEnabled(self.sheet is not None)
        rows = []
        for m in reversed(self.session.design.measurements):
            density = f"{m.density_g_ml:.4f} ± {m.density_u_g_ml or 0:.4f} g/mL" if m.density_g_ml else ""
            volume = f"{m.volume_ml:.3f} ± {m.volume_u_ml or 0:.3f} mL" if m.volume_ml else ""
            rows.append([TITLES[m.kind], density, volume])
        fill(self.past, rows)

    def _density(self) -> None:
        if self.sheet is not None:
            self.session.edit(with_sheet(self.session.design, self.sheet), "density of this piece")

    def _volume(self) -> None:
        if self.sheet is not None:
            now = of.outer(self.sound_study()).volume_mm3 / 1000.0
            self.session.edit(with_volume(self.session.design, self.sheet, now), "volume of this body")

    def _keep(self) -> None:
        if self.sheet is not None:
            self.session.edit(kept(self.session.design, self.sheet), "keep the readings")


class ResinPage(Page):
    """A batch by weight; what is in the cup already is put in, and the rest is corrected."""

    def __init__(self, session: Session) -> None:
        super().__init__(
            "Resin", session,
            "Filler is per cent of A + B. Put in what is in the cup: the part most overshot sets the batch. Ventilate, wear "
            "gloves, and follow the product's data sheet; isocyanates and epoxies sensitise.",
        )  # fmt: skip
        self.values = {
            "a": 50.0,
            "b": 50.0,
            "percent": 12.0,
            "cup a": 0.0,
            "cup b": 0.0,
            "cup filler": 0.0,
            "room": 20.0,
        }
        self.resin = Choice("Resin", list(resins()), lambda _: self.refresh())
        self.powder = Choice("Filler", list(powders()), lambda _: self.refresh())
        self.put(0, 0, "Resin", self.resin)
        self.put(0, 1, "Filler", self.powder)
        names: tuple[tuple[str, str, Dimension], ...] = (
                 ("a", "Part A", "mass"), ("b", "Part B", "mass"), ("percent", "Filler, %", "number"),
                 ("room", "Room", "temperature"), ("cup a", "A in the cup", "mass"), ("cup b", "B in the cup", "mass"),
                 ("cup filler", "Filler in the cup", "mass"))  # fmt: skip
        self.fields = {}
        for number, (key, words, dimension) in enumerate(names):
            field = self.field(words, dimension, partial(self._set, key), 2)
            field.show_value(self.values[key])
            self.fields[key] = field
            self.put(1 + number // 4, number % 4, words, field)
        self.wanted = self.field("Wanted density", "density", self._wanted, 3)
        self.mass = self.field("Wanted mass of the cast", "mass", self._mass, 2)
        self.put(2, 3, "Wanted density", self.wanted)
        self.put(0, 2, "Wanted cast", self.mass)
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.grid.setColumnStretch(8, 1)
        self.resin.setMinimumWidth(150)
        self.powder.setMinimumWidth(150)
        self.batch: Mix | None = None
        self.refresh()

    def _set(self, key: str, value: float) -> None:
        self.values[key] = value
        self.refresh()

    def _wanted(self, value: float) -> None:
        one, two = resins()[self.resin.currentText()], powders()[self.powder.currentText()]
        self.values["percent"] = percent_for(one.density_g_ml, two.density_g_ml, value)
        self.fields["percent"].show_value(self.values["percent"])
        self.refresh()

    def _mass(self, value: float) -> None:
        v = self.values
        grown = value / ((v["a"] + v["b"]) * (1 + v["percent"] / 100))
        for key in ("a", "b"):
            v[key] *= grown
            self.fields[key].show_value(v[key])
        self.refresh()

    def refresh(self) -> None:
        v = self.values
        try:
            self.batch = mix(v["a"], v["b"], v["percent"], v["cup a"], v["cup b"], v["cup filler"])
        except YellowBobError as error:
            self.say(str(error), wrong=True)
            return
        b, one = self.batch, resins()[self.resin.currentText()]
        density = mixed_density(one.density_g_ml, powders()[self.powder.currentText()].density_g_ml, v["percent"])
        life = pot_life_min(one.pot_life_min, one.at_c, v["room"])
        grown = f" (grown {b.grown:.2f} times by the overshoot)" if b.grown > 1.0 + 1e-9 else ""
        self.say(
            f"Batch: A {b.a_g:.2f} g, B {b.b_g:.2f} g, filler {b.filler_g:.2f} g, together {b.total_g:.2f} g{grown}.\n"
            f"Pour now: A {b.add_a_g:.2f} g, B {b.add_b_g:.2f} g, filler {b.add_filler_g:.2f} g.\n"
            f"Cures to {density:.3f} g/mL with no air in it. About {life:.1f} min to pour (a rule; the data sheet decides)."
        )
