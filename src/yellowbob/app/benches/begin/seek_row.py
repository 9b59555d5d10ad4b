"""Seeking from the brief that is filled in: what is left free, what is looked for; what was found stands in the strip."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from yellowbob.app.benches.begin.drawn import afloat
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice, NumberField
from yellowbob.app.widgets.strip import Strip
from yellowbob.app.widgets.words import Words
from yellowbob.design.brief import Span
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.trials.asked import Asked
from yellowbob.trials.seek import Aim, Freedom, Sought, seek
from yellowbob.trials.variants import Variant

AIMS: dict[str, Aim] = {
    "best odds": "odds", "least ballast": "least ballast", "lightest": "lightest", "flies furthest": "furthest",
    "stiffest": "stiffest", "most to spare": "most to spare",
}  # fmt: skip
WOODS: dict[str, tuple[str, ...]] = {
    "wood as above": (), "light woods": ("balsa, medium", "paulownia", "obeche", "red cedar"),
    "firm woods": ("jelutong", "basswood", "alder", "lime"),
}  # fmt: skip
COUNT, TRIES = 4, 24


class Answering(Protocol):
    """The bench that the row belongs to: its brief, and where what was found is shown."""

    session: Session
    designs: list[Design]
    strip: Strip
    says: Words
    open_it: QPushButton

    def asked(self) -> Asked:
        """The brief as it is filled in."""


class SeekRow(QWidget):
    """A row of fields and a key under the brief."""

    def __init__(self, bench: Answering) -> None:
        super().__init__()
        self.bench = bench
        self.setObjectName("card")
        self.found: Sought | None = None
        self.room = NumberField("Length may differ by so much", (0.0, 40.0), 10.0, "%")
        self.woods = Choice("Woods to seek among", list(WOODS), lambda _: None)
        self.woods.setMinimumWidth(150)
        self.aim = Choice("What is looked for", list(AIMS), lambda _: None)
        self.aim.setMinimumWidth(150)
        self.go = button("Seek", self.seek, "Seek several different sound designs within this freedom")
        line = QHBoxLayout(self)
        line.setContentsMargins(14, 6, 14, 6)
        line.setSpacing(8)
        title = QLabel("Seek several")
        title.setObjectName("title")
        for one in (title, QLabel("length ±"), self.room, self.woods, QLabel("looking for"), self.aim, self.go):
            line.addWidget(one)
        line.addStretch(1)

    def seek(self) -> None:
        """Look for several, off the interface's thread; Shift+Esc stops it."""
        bench = self.bench
        try:
            asked = bench.asked()
        except BadInput as error:
            bench.says.setText(f"! {error}")
            return
        room = self.room.value() / 100.0
        span = Span(least=asked.length_mm * (1.0 - room), most=asked.length_mm * (1.0 + room)) if room > 0.0 else None
        freedom = Freedom(length_mm=span, wood=WOODS[self.woods.currentText()], aim=AIMS[self.aim.currentText()])
        bench.says.setText("Seeking … Shift+Esc stops it.")

        def work(told: Told) -> tuple[Sought, list[Variant]]:
            found = seek(asked, freedom, COUNT, TRIES, 1, told)
            return found, [afloat(_name(f.answer.design.name, f.asked.wood), f.answer.design) for f in found.found]

        bench.session.tasks.start(
            "seek", work, self._take, lambda w: bench.says.setText(f"! {w}"), words="seeking designs"
        )

    def _take(self, both: tuple[Sought, list[Variant]]) -> None:
        found, drawn = both
        self.found = found
        bench = self.bench
        bench.designs = [f.answer.design for f in found.found]
        bench.strip.show_variants(drawn)
        bench.open_it.setEnabled(bool(bench.designs))
        said = [f"{found.sound} sound of {found.tried} tried, of {found.points} there are. Choose one above."]
        for one in found.found:
            odds = "" if one.odds is None else f", odds {100.0 * one.odds:.0f} %"
            loss = f"; gives up {', '.join(one.gives_up)}" if one.gives_up else ""
            said.append(f"<b>{_name(one.answer.design.name, one.asked.wood)}</b>: {one.mass_g:.1f} g{odds}{loss}")
        if not found.found:
            why = max(found.refused, key=lambda k: found.refused[k], default="")
            said.append(f"! None: {why}." if why else "! None.")
        bench.says.setText("<br>".join(said))


def _name(name: str, wood: str) -> str:
    return f"{name}, {wood}" if wood else name
