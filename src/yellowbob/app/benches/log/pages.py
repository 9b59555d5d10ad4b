"""Pages of the Log bench: a build begun and told of, weighed, tried in the tank and on the water, and what all of them
taught."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.session.background import Told
from yellowbob.app.widgets.cards import button, drop
from yellowbob.app.widgets.fields import Choice, NumberField, QuantityField, Units, labelled, row
from yellowbob.app.widgets.paged import SayingPage
from yellowbob.design.record import STAGES
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import show
from yellowbob.logbook.records import Note
from yellowbob.study import Study, of
from yellowbob.trials.promise import promised
from yellowbob.trials.still import Still, still_to_go
from yellowbob.workshop.backups import backups, restore

ALL, NO_HOOKS, WITHOUT, HALF = "all of the stage", "without its hooks", "without ", "half laid: "


class LogPage(SayingPage):
    """A page about the build on the bench: fields left, words right."""

    def __init__(self, title: str, book: Book, says: str) -> None:
        super().__init__(title, book.session, says)
        self.book = book
        book.chosen.connect(self._follow)

    def lay_out(self, left: QVBoxLayout, right: QWidget | None = None) -> None:
        """Fields at the left; the words, or a list under them, at the right."""
        left.addStretch(1)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        line.addLayout(left, 5)
        if right is None:
            line.addWidget(self.says, 6)
            return
        left.insertWidget(left.count() - 1, self.says)
        line.addWidget(right, 8)

    def ready(self) -> bool:
        """Whether a build lies on the bench; says so where none does."""
        if self.book.serial:
            return True
        self.says.setText("Choose a build above, or begin one on the page Build.")
        return False

    def attempt(self, work: Any) -> bool:
        """Do what may be refused; the reason is shown, what was typed stays."""
        try:
            work()
        except BadInput as error:
            self.says.setText(f"! {error}")
            return False
        return True


class BuildPage(LogPage):
    """Begin builds of the open design; what is told of the one on the bench."""

    def __init__(self, book: Book) -> None:
        super().__init__("Build", book, "What was done")
        self.count = NumberField("How many", (1.0, 500.0), 1.0)
        self.count.setMinimumWidth(44)
        self.serial = line_of("Serial, made up when empty", "made up")
        self.state = Choice("State", ["in work", "done", "lost"], lambda t: self._set(state=t))
        self.why = line_of("Why it was lost, to whom it went, or why it is set aside", "")
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(
            row(
                "How many",
                self.count,
                "serial",
                self.serial,
                button("Begin", self.begin, "Begin builds of the open design"),
            )
        )
        left.addLayout(
            row("State", self.state, button("Open its design", self.open_design, "Open the design it was made from"))
        )
        left.addLayout(labelled(("Words", self.why)))
        keys = QHBoxLayout()
        for words, field in (("Lost so", "lost_why"), ("Went to", "given_to"), ("Set aside", "aside")):
            keys.addWidget(button(words, partial(self._told, field), f"{words}: as the words say"))
        keys.addWidget(button("Note", self._note, "Keep the words as a note"))
        keys.addWidget(drop("Copies", self._fill_copies, "Copies of the workshop's file, to be put back"))
        keys.addStretch(1)
        left.addLayout(keys)
        self.lay_out(left)

    def begin(self) -> None:
        """Builds of the design that is open, the first put on the bench."""

        def work() -> None:
            told = {"promised": promised(self.session.study)}
            built = self.book.log.new(
                self.session.design, int(self.count.value()), self.serial.text().strip(), None, **told
            )
            self.serial.clear()
            self.book.choose(built[0].serial)
            self.book.changed.emit()
            self.says.setText(f"Begun: {', '.join(b.serial for b in built)}. Label them so.")

        self.attempt(work)

    def refresh(self) -> None:
        build = self.book.build()
        self.state.setEnabled(build is not None)
        if build is not None:
            self.state.show_text(build.state)
        if not self.says.text():
            self.says.setText("A build keeps the design as it is now; weighings and tests belong to the build.")

    def _set(self, **changes: Any) -> None:
        def work() -> None:
            old = self.book.build()
            if old is not None and changes.get("state", "lost") != "lost" and old.lost_why:
                changes["lost_why"] = ""
            self.book.log.change(self.book.serial, **changes)
            self.book.changed.emit()

        if self.ready():
            self.attempt(work)

    def _told(self, field: str) -> None:
        changes = {field: self.why.text().strip()}
        if field == "lost_why":
            changes["state"] = "lost"
        self._set(**changes)
        self.refresh()

    def _note(self) -> None:
        if self.ready() and self.why.text().strip():
            self.book.add("note", Note(words=self.why.text().strip()))
            self.why.clear()

    def _fill_copies(self, menu: QMenu) -> None:
        """One made at each start, and one before any is put back; the newest first."""
        listed = backups()
        for one in listed:
            when = one.stem.removeprefix("workshop-")[:15]
            words = f"Put back: {when[:4]}-{when[4:6]}-{when[6:8]} {when[9:11]}:{when[11:13]}:{when[13:15]} UTC"
            menu.addAction(words).triggered.connect(partial(self.put_back, one))
        if not listed:
            menu.addAction("None yet").setEnabled(False)

    def put_back(self, copy: Path, _: bool = False) -> None:
        """A copy in the place of the workshop's file; what was there is kept as a copy first."""

        def work() -> None:
            before = restore(copy)
            self.book.forget()
            self.says.setText(
                f"Put back. What was there before is a copy too: {before.name if before is not None else 'none'}."
            )

        self.attempt(work)

    def open_design(self) -> None:
        """The design the build was made from takes the place of the open one; undo brings that back."""
        if self.ready():
            self.attempt(
                lambda: self.session.edit(
                    self.book.log.design(self.book.serial), f"open the design of {self.book.serial}"
                )
            )


class WeighPage(LogPage):
    """A stage weighed; what is still to go in, worked out anew."""

    def __init__(self, book: Book) -> None:
        super().__init__("Weigh", book, "What is still to go in")
        self.found: Still | None = None
        self.filled_for = ""
        self.stage = Choice("Stage", list(STAGES), lambda _: None)
        self.was_on = Choice("What lay on the scale", [ALL], lambda _: None)
        self.mass = QuantityField("Mass on the scale", "mass", 2)
        self.mass.given.connect(self.keep)
        self.mass.refused.connect(lambda words: self.says.setText(f"! {words}") if words else None)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(labelled(("Stage", self.stage), ("There", self.was_on), ("On the scale", self.mass)))
        self.lay_out(left)

    def keep(self, mass_g: float) -> None:
        """Keep a weighing of the stage chosen."""
        from yellowbob.study.evidence import weighed

        def work() -> None:
            stage = next(s for s in STAGES if s == self.stage.currentText())
            study = self.book.study()
            design = weighed(study, stage, mass_g, shares=self._shares(study))
            self.book.add("weigh", design.weighings[-1])
            self.mass.show_value(None)
            self.refresh()

        if self.ready():
            self.attempt(work)

    def _shares(self, study: Study) -> dict[str, float]:
        """By slip key what was not there, or only in part."""
        words = self.was_on.currentText()
        if words == ALL:
            return {}
        lines = of.slip(study.forecast).lines
        if words == NO_HOOKS:
            hooks = {f.name for f in study.design.fittings if f.sort == "hook"}
            return {line.key: 0.0 for line in lines if any(line.words.startswith(name) for name in hooks)}
        half = words.startswith(HALF)
        name = words.removeprefix(HALF).removeprefix(WITHOUT)
        return {line.key: 0.5 if half else 0.0 for line in lines if line.words == name}

    def _fill(self, study: Study) -> None:
        """What may have been off: all hooks, any thing of the slip; a coat may be on by half."""
        now, lines = self.was_on.currentText(), of.slip(study.forecast).lines
        added = [line for line in lines if line.of != "bare body"]
        coats = [line for line in lines if line.key.startswith("coat")]
        self.was_on.clear()
        self.was_on.addItems(
            [ALL, NO_HOOKS, *(WITHOUT + line.words for line in added), *(HALF + line.words for line in coats)]
        )
        self.was_on.show_text(now)

    def refresh(self) -> None:
        self.found = None
        if not self.ready():
            return
        serial, log = self.book.serial, self.book.log
        if self.filled_for != serial:
            self.filled_for = serial
            self.attempt(lambda: self._fill(self.book.study()))

        def work(_: Told) -> Still:
            from yellowbob.study import Study

            return still_to_go(Study(log.design(serial)))

        self.says.setText("Working out what is still to go in …")
        self.session.tasks.start(
            "still", work, self._tell, lambda w: self.says.setText(f"! {w}"), words="working out what is still to go in"
        )

    def _tell(self, found: Still) -> None:
        self.found = found
        mass, length = Units.of("mass"), Units.of("length")
        size = (
            f"{show(found.length_mm, length, 1)} {length} long"
            if found.length_mm is not None
            else f"{found.count} of them"
        )
        way = "aft" if found.aft_mm >= 0.0 else "forward"
        lies = (
            "it sinks"
            if found.pitch_deg is None
            else f"{found.pitch_deg:+.1f}°, draft {found.draft_mm:.1f} mm".replace("-", "−")
        )
        said = [
            f"{found.ballast}: put in <b>{show(found.put_in_g, mass, 2)} {mass}</b> (drawn "
            f"{show(found.drawn_g, mass, 2)}), {size}, "
            f"<b>{show(abs(found.aft_mm), length, 1)} {length} further {way}</b>.",
            f"Then {show(found.finished_g, mass, 2)} ± {show(found.u_g, mass, 2)} {mass} finished, {lies}: "
            + ("as briefed." if found.within else "not as briefed."),
        ]  # fmt: skip
        if found.why:
            said.append(f"! {found.why}.")
        if found.measure:
            said.append(f"Would tell most now: {found.measure}.")
        self.says.setText("<br>".join(said))


def line_of(name: str, hint: str) -> QLineEdit:
    """A field for words, with a hint of what stands there."""
    field = QLineEdit()
    field.setAccessibleName(name)
    field.setPlaceholderText(hint)
    return field
