"""The brief of something new fills the bench; every change of a line is answered by a sound design, or by what stands
against it."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.begin.drawn import afloat
from yellowbob.app.benches.begin.kinds import Kinds
from yellowbob.app.benches.begin.outline_row import OutlineRow
from yellowbob.app.benches.begin.seek_row import SeekRow
from yellowbob.app.benches.begin.words import about, words_of
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.rows import row, soft
from yellowbob.app.widgets.strip import Strip
from yellowbob.app.widgets.words import Words
from yellowbob.design.faults import describe
from yellowbob.design.model import STANDING, Design
from yellowbob.ground.errors import BadInput
from yellowbob.ground.water import SALINITY_G_KG
from yellowbob.shelf.shipped import every_material, hooks
from yellowbob.trials.answer import Answer, answered
from yellowbob.trials.asked import Asked
from yellowbob.trials.variants import Variant

USUAL_MM = {
    "popper": 75.0, "wake bait": 90.0, "prop bait": 90.0, "pencil": 110.0, "darter": 95.0, "tail-spinner": 70.0,
    "crawler": 65.0, "stick float": 150.0, "waggler": 220.0, "antenna float": 230.0, "dropper": 55.0, "other": 65.0,
}  # fmt: skip
"""A usual length of each kind, offered first."""
AS_USUAL = "as usual for it"
FLOAT_LINES = {"Name", "Length", "Wood", "Water", "Carries", "Rod throws", "Finished mass"}
OUTLINES = "Outlines"
STUFF = {
    "wood": ("Wood", ("wood", "foam"), ""),
    "print": ("Plastic", ("plastic",), "print"),
    "resin": ("Resin", ("resin",), ""),
}
"""How a body is made: the word of what it is made of, the shelf's groups of that, and what their names have."""
NO_STUFF = (*STANDING, "dropper")
HOOK_LINES = {"Hooks", "Hung on", "Weighted in"}
SOON_MS = 250


class NewBench(QWidget):
    """Kinds on top, the lines of the brief at the left, the answer at the right."""

    opened = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.answer: Answer | None = None
        self.designs: list[Design] = []
        self.view = Kinds()
        self.view.chosen.connect(self._kind)
        self.strip = Strip("The answer to the brief", "")
        self.says = Words()
        self.says.setAccessibleName("What the answer says")
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self.ask)
        self.brief, self.pages = QWidget(), QStackedWidget()
        self.own = OutlineRow(session, self.pages)
        self.own.changed.connect(self._outlined)
        self.cards = self._form()
        self.seek = SeekRow(self)
        self.open_it = button("Make this my design", self.take, "Open the answer as a new design")
        self.trace = button("From a picture …", self.own.trace, "Trace a picture for its outlines")
        self.pages.addWidget(self.brief)
        around = QVBoxLayout(self)
        around.setContentsMargins(0, 0, 0, 0)
        around.addWidget(self.pages)
        column = QVBoxLayout(self.brief)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        column.addWidget(self.view, 3)
        middle = QHBoxLayout()
        middle.setSpacing(16)
        middle.addWidget(Roomy(self.cards), 5)
        right = QVBoxLayout()
        right.addWidget(self.strip, 8)
        right.addWidget(self.says, 2)
        keys = row(self.open_it, self.trace)
        keys.addStretch(1)
        right.addLayout(keys)
        middle.addLayout(right, 7)
        column.addLayout(middle, 6)
        column.addWidget(self.seek)
        self.open_it.setEnabled(False)
        self._kind(self.view.kind)

    def _form(self) -> QWidget:
        card = QWidget()
        card.setObjectName("card")
        card.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        grid = QGridLayout(card)
        grid.setContentsMargins(14, 10, 14, 10)
        grid.setVerticalSpacing(5)
        later = self._later
        self.name = QLineEdit()
        self.name.setMaxLength(80)
        self.name.setAccessibleName("Name of the new design")
        self.name.setPlaceholderText("its kind and length")
        self.name.editingFinished.connect(later)
        self.length = QuantityField("Length", "length", 1)
        self.made = Choice("Carved of wood, printed or poured", list(STUFF), self._make_of)
        self.wood = Choice("Wood of the body", [], later)
        self.water = Choice("Water", list(SALINITY_G_KG), later)
        self.mass = QuantityField("Finished mass; empty: as suits it", "mass", 1)
        self.least = QuantityField("The rod throws, least", "mass", 1)
        self.most = QuantityField("The rod throws, most", "mass", 1)
        self.pitch = QuantityField("Sits, nose up; empty: as usual for it", "angle", 1)
        sizes = list(dict.fromkeys(h.size for h in hooks().values() if h.sort == "treble" and not h.dressed))
        self.hooks = Choice("Size of its hooks", [AS_USUAL, *sizes], later)
        self.hung = Choice("Hooks hang on", ["wire", "screw eyes"], later)
        self.weight = Choice("Weighted in the", ["belly", "tail"], later)
        self.lead = Choice("Ballast", ["lead", "no lead"], later)
        self.capacity = QuantityField("Carries; empty: as suits its size", "mass", 2)
        for field in (self.length, self.mass, self.least, self.most, self.pitch, self.capacity):
            field.given.connect(later)
            field.cleared.connect(later)
            field.may_be_empty = True
            field.refused.connect(lambda words: self.says.setText(f"! {words}") if words else None)
        for field, hint in ((self.mass, "as suits it"), (self.pitch, AS_USUAL), (self.capacity, "as suits its size")):
            field.setPlaceholderText(hint)
        between = QWidget()
        line = row(self.least, "to", self.most)
        line.setContentsMargins(0, 0, 0, 0)
        between.setLayout(line)
        self.lines: dict[str, tuple[QLabel, QWidget]] = {}
        for number, (words, holder) in enumerate((
            ("Name", self.name), ("Length", self.length), (OUTLINES, self.own), ("Made as", self.made), ("Wood", self.wood),
            ("Water", self.water),
            ("Finished mass", self.mass), ("Rod throws", between), ("Sits, nose up", self.pitch), ("Hooks", self.hooks),
            ("Hung on", self.hung), ("Weighted in", self.weight), ("Ballast", self.lead), ("Carries", self.capacity),
        )):  # fmt: skip
            label = soft(words, holder)
            grid.addWidget(label, number, 0)
            grid.addWidget(holder, number, 1)
            self.lines[words] = (label, holder)
        self._make_of(self.made.currentText())
        grid.setColumnStretch(1, 1)
        grid.setRowStretch(20, 1)
        return card

    def _make_of(self, made: str) -> None:
        """Another stuff: the list of what the shelf has of it."""
        word, groups, named = STUFF[made]
        label, _ = self.lines["Wood"]
        label.setText(word)
        self.wood.clear()
        self.wood.addItems(
            [AS_USUAL, *sorted(n for n, m in every_material().items() if m.group in groups and named in n)]
        )
        self._later()

    def _later(self, *_: object) -> None:
        """Answer anew once the maker pauses."""
        self._soon.start()

    def _outlined(self, length_mm: float) -> None:
        """Outlines of its own, as long as they were traced until another length is asked for; or none any more."""
        if length_mm:
            self.length.show_value(round(length_mm, 1))
        self._show_lines()

    # ---- the brief

    def _kind(self, kind: str) -> None:
        """Another kind: its usual length, and the lines that it has."""
        if kind in NO_STUFF and self.made.currentText() != "wood":
            self.made.setCurrentText("wood")
            self._make_of("wood")
        if self.own.shape is None or kind in NO_STUFF:
            self.length.show_value(USUAL_MM[kind])
        self.trace.setEnabled(kind not in NO_STUFF)
        self._show_lines()

    def _show_lines(self) -> None:
        """The lines that its kind has."""
        kind = self.view.kind
        for words, (label, line) in self.lines.items():
            shown = words in FLOAT_LINES if kind in STANDING else words != "Carries"
            shown = shown and not (kind == "dropper" and words in HOOK_LINES)
            shown = shown and not (kind in NO_STUFF and words == "Made as")
            shown = shown and (words != OUTLINES or (self.own.shape is not None and kind not in NO_STUFF))
            label.setVisible(shown)
            line.setVisible(shown)
        self._soon.start()

    def asked(self) -> Asked:
        """The brief as it is filled in. Raises BadInput."""
        from pydantic import ValidationError

        kind = self.view.kind
        told: dict[str, Any] = {
            "kind": kind,
            "length_mm": self.length.value or USUAL_MM[kind],
            "name": self.name.text().strip(),
            "water": self.water.currentText(),
            "made": "wood" if kind in NO_STUFF else self.made.currentText(),
        }
        if self.wood.currentText() != AS_USUAL:
            told["wood"] = self.wood.currentText()
        if self.least.value is not None and self.most.value is not None:
            told["tackle_g"] = {"least": self.least.value, "most": self.most.value}
        if kind in STANDING:
            told |= {"capacity_g": self.capacity.value, "mass_g": about(self.mass.value, "mass")}
        else:
            told |= {"mass_g": about(self.mass.value, "mass"), "pitch_deg": about(self.pitch.value, "angle"),
                     "lead": self.lead.currentText() == "lead"}  # fmt: skip
            if kind != "dropper":
                told |= {"hung_by": self.hung.currentText(), "weight": self.weight.currentText()}
                told["hooks"] = "" if self.hooks.currentText() == AS_USUAL else self.hooks.currentText()
        if kind not in NO_STUFF:
            told["outline"] = self.own.shape
        try:
            return Asked.model_validate(told)
        except ValidationError as error:
            raise BadInput(f"the brief: {describe(error)}") from None

    # ---- the answer

    def ask(self) -> None:
        """Answer the brief as it stands, off the interface's thread; a newer brief takes an older one's place."""
        if not self.isVisible():
            return
        try:
            asked = self.asked()
        except BadInput as error:
            self.says.setText(f"! {error}")
            return
        self.answer = None
        self.open_it.setEnabled(False)
        self.says.setText("Looking for a sound design …")

        def work(told: Told) -> tuple[Answer, Variant]:
            found = answered(asked, told)
            return found, afloat(found.design.name, found.design)

        self.session.tasks.start("new", work, self._answered, self._refused, words="looking for a sound design")

    def _refused(self, words: str) -> None:
        self.strip.show_variants([])
        self.says.setText(f"! {words}")

    def _answered(self, both: tuple[Answer, Variant]) -> None:
        self.answer, drawn = both
        self.designs = [self.answer.design]
        self.strip.show_variants([drawn])
        self.says.setText(words_of(self.answer))
        self.open_it.setEnabled(True)

    def take(self) -> None:
        """The design shown, or the one chosen of several, becomes the open one; what was open stays kept as it always is."""
        if self.designs:
            chosen = self.designs[min(self.strip.chosen, len(self.designs) - 1)]
            self.session.begin(lambda: chosen, clean=False, taken=self.opened.emit)

    def refresh(self) -> None:
        """Answer the brief when the bench is turned to."""
        self._soon.start()

    def showEvent(self, event: Any) -> None:
        super().showEvent(event)
        if self.answer is None:
            self._soon.start()

    def remove_selected(self) -> None:
        """Nothing is selected here."""
