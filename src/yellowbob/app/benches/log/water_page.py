"""A water test: how it was drawn, how it swam and fished, in figures and in the maker's own words."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.pages import LogPage, line_of
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.rows import row
from yellowbob.design.base import made
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import WaterTest
from yellowbob.logbook.sides import speeds_of
from yellowbob.logbook.speeds import read_speed

NUMBERS = (
    (("line_angle_deg", "Line down", 90.0, "°", 0), ("rod_height_m", "Rod's tip at", 20.0, "m", 1),
     ("line_out_m", "Line out", 500.0, "m", 0), ("current_m_s", "Current", 10.0, "m/s", 1),
     ("chop_mm", "Chop", 5000.0, "mm", 0)),
    (("swings", "Swings in 10 s", 1000.0, "", 0), ("unstable_m_s", "Unstable from", 20.0, "m/s", 2),
     ("slow", "Slow", 5.0, "", 0),
     ("fast", "Fast", 5.0, "", 0), ("pop", "Pop", 5.0, "", 0), ("wake", "Wake", 5.0, "", 0), ("sound", "Sound", 5.0, "", 0)),
    (("strikes", "Strikes", 10_000.0, "", 0), ("hooked", "Hooked", 10_000.0, "", 0), ("fish", "Landed", 10_000.0, "", 0),
     ("hours", "Hours", 10_000.0, "h", 1)),
)  # fmt: skip
"""Rows of figures: field, words, most, unit, decimals."""
RATED = {"slow", "fast", "pop", "wake", "sound"}
"""On a scale from 0, none, to 5, most."""
NOUGHT_TOO = {*RATED, "swings", "line_angle_deg"}
"""Nought of them is a reading; blank lies under it."""
BLANK = -1.0
WORDS = (
    ("speed", "Speed", "0.6 m/s, slow walk, 1.5 turns a second at 70 cm a turn"),
    ("retrieve", "Retrieve", "steady, twitch and rest …"),
    ("knot", "Knot", ""),
    ("wind", "Wind", ""),
)


class WaterPage(LogPage):
    """Figures in rows; what is left blank was not read."""

    def __init__(self, book: Book) -> None:
        super().__init__("Water test", book, "What was kept")
        self.fields: dict[str, NumberField] = {}
        self.lines = {name: line_of(f"{words}, in words", hint) for name, words, hint in WORDS}
        self.speed = self.lines["speed"]
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 6)
        column.setSpacing(4)
        top = QHBoxLayout()
        top.setSpacing(14)
        for (name, words, _), share in zip(WORDS, (6, 4, 2, 2), strict=True):
            top.addLayout(row(words, self.lines[name]), share)
        column.addLayout(top)
        for figures in NUMBERS:
            parts: list[QWidget | str] = []
            for name, words, most, unit, decimals in figures:
                least = BLANK if name in NOUGHT_TOO else 0.0
                told = f"{words}, 0 none to 5 most" if name in RATED else words
                self.fields[name] = field = NumberField(told, (least, most), least, unit, decimals, "–")
                field.setMinimumWidth(44)
                parts += [words, field]
            column.addLayout(row(*parts))
        self.words = line_of("In your words", "how it swam, sounded, what it took")
        self.damage = line_of("Damage", "what broke")
        foot = row(self.words, "Damage", self.damage, button("Keep", self.keep, "Keep this water test"))
        foot.setStretch(0, 5)
        foot.setStretch(2, 3)
        column.addLayout(foot)
        column.addWidget(self.says, 1)

    def keep(self) -> None:
        """Keep what was filled in."""
        read = {
            name: int(field.value()) if field.decimals == 0 else field.value()
            for name, field in self.fields.items()
            if field.value() > field.span[0]
        }
        log, lines = self.book.log, {line: line.text() for line in self._lines()}
        told = {name: line.text().strip() for name, line in self.lines.items()}
        speed = told.pop("speed")
        told |= {"speed_words": speed, "words": self.words.text().strip(), "damage": self.damage.text().strip()}

        def make() -> WaterTest:
            if not read and not any(told.values()):
                raise BadInput("nothing is filled in yet")
            speeds = {"speed_m_s": read_speed(speed, speeds_of(log))} if speed else {}
            return made(WaterTest, **read, **speeds, **told)

        def done() -> None:
            for name, field in self.fields.items():
                if field.value() == read.get(name):  # what was typed meanwhile is of the next test
                    field.setValue(field.span[0])
            for line, words in lines.items():
                if line.text() == words:
                    line.clear()
            self.says.setText("Kept. Swings and unstable speeds set the action model's factors: the page Taught.")

        self.keep_entry("water", make, done)

    def _lines(self) -> list[QLineEdit]:
        return [*self.lines.values(), self.words, self.damage]

    def refresh(self) -> None:
        if self.ready() and not self.says.text():
            self.says.setText(
                "Slow to Sound on a scale from 0, none, to 5, most. Sound and sight are noted, not computed."
            )
