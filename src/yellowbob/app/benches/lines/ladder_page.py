"""Rescaling: a ladder of sizes first, then a new design."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QTableWidget, QTableWidgetItem, QVBoxLayout, QWidget

from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.words import Words
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.trials.ladder import Ladder, ladder

FACTORS = (0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 1.2, 1.5, 2.0)
COLUMNS = ("size", "length", "volume", "body", "hardware", "finish", "ballast left", "to spare", "")


class LadderPage(QWidget):
    """What becomes of the design in each size, the smallest that can work, and the making of a new one."""

    finished = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.ladder: Ladder | None = None
        self.length = QuantityField("New length", "length", 1)
        self.only = QCheckBox("length only")
        self.only.setAccessibleName("Stretch the length only")
        self.make = button("Make it", self.make_it, "Make a new design of this length")
        self.suit = button(
            "With hardware to suit", self.make_suited, "Make it with hooks, rings and wire for that length"
        )
        self.words = Words()
        self.length.refused.connect(self._complain)
        self.words.setAccessibleName("What rescaling says")
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setTabKeyNavigation(False)
        self.table.setAccessibleName("Ladder of sizes")
        self.table.setHorizontalHeaderLabels(list(COLUMNS))
        self.table.verticalHeader().hide()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.cellClicked.connect(self._take_row)
        line = QHBoxLayout()
        for one in (
            QLabel("new length"),
            self.length,
            self.only,
            self.make,
            self.suit,
            button("Back to drawing", self.finished.emit),
        ):
            line.addWidget(one)
        line.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(line)
        column.addWidget(self.words)
        column.addWidget(self.table, 1)

    def refresh(self) -> None:
        """Climb the ladder for the design as it is, off the interface's thread."""
        design = self.session.design
        self.words.setText("Working every size out …")
        self.session.tasks.start(
            "ladder",
            lambda told: ladder(design, FACTORS, told),
            self._climbed,
            self._refuse,
            words="climbing the ladder",
        )

    def _refuse(self, words: str) -> None:
        self.words.setText(f"! {words}")

    def _climbed(self, found: Ladder) -> None:
        self.ladder = found
        unit, mass = Units.of("length"), Units.of("mass")
        self.length.show_value(self.session.design.shape.length_mm)
        self.table.setRowCount(len(self.ladder.rungs))
        for row, r in enumerate(self.ladder.rungs):
            cells = [f"{r.factor * 100:.0f} %", f"{show(r.length_mm, unit)} {unit}", f"{r.volume_ml:.2f} mL"]
            weights = (r.body_g, r.hardware_g, r.finish_g, r.ballast_g, r.reserve_g)
            cells += [f"{show(g, mass)} {mass}" for g in weights] + [r.verdict]
            for place, text in enumerate(cells):
                item = QTableWidgetItem(text)
                side = Qt.AlignmentFlag.AlignRight if place < len(cells) - 1 else Qt.AlignmentFlag.AlignLeft
                item.setTextAlignment(side | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(row, place, item)
        self.table.resizeColumnsToContents()
        self.table.horizontalHeader().setStretchLastSection(True)
        smallest = self.ladder.smallest_mm
        words = found.words[0].upper() + found.words[1:]
        if smallest is not None:
            words += f" is {show(smallest, unit)} {unit}"
        self.words.setText(f"{words}. Hooks, wire and finish keep their size.")

    def _complain(self, text: str) -> None:
        if text:
            self.words.setText(f"! {text}")

    def _take_row(self, row: int, _: int) -> None:
        if self.ladder is not None:
            self.length.show_value(self.ladder.rungs[row].length_mm)

    def make_suited(self) -> None:
        """A new design of that length with hardware from the shelf, brought back to its brief; what stands against it is
        said."""
        from yellowbob.trials.family import Member, family

        self.length.take()
        design, length = self.session.design, self.length.value or 0.0

        def work(told: Told) -> Member:
            return family(design, [length], told)[0]

        def take(made: Member) -> None:
            if made.answer is None:
                self._refuse(made.fault)
                return
            answer = made.answer

            def taken() -> None:
                self.session.said.emit("" if made.sound else f"! Not sound at this size: {answer.reason}.")
                self.finished.emit()

            self.session.begin(lambda: answer.design, clean=False, taken=taken)

        self.words.setText("Choosing its hardware, bringing it to its brief …")
        self.session.tasks.start("family", work, take, self._refuse, words="bringing it to its brief")

    def make_it(self) -> None:
        """A new design of that length, not bound to a file; the one open keeps its file."""
        self.length.take()
        now = self.session.design
        try:
            factor = (self.length.value or 0.0) / now.shape.length_mm
            made = rescaled(now, factor, self.only.isChecked())
        except YellowBobError as error:
            self.words.setText(f"! {error}")
            return
        name = f"{now.name} to {made.shape.length_mm:.0f}"[:80]
        self.session.begin(lambda: made.but(name=name), clean=False, taken=self.finished.emit)
