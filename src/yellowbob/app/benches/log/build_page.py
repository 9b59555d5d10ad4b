"""The Log bench's first page: builds begun, and what is told of the one on the bench."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QMenu, QVBoxLayout

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.pages import LogPage, line_of
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import Choice, NumberField
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.design.base import made
from yellowbob.design.files import write_text_whole
from yellowbob.logbook.exchange import Taken, builds_csv, take_csv, take_json, whole_json
from yellowbob.logbook.records import Build, Note, Spent
from yellowbob.shop.log_pages import write_build, write_labels
from yellowbob.study import Study
from yellowbob.study.evidence import evidence
from yellowbob.trials.promise import promised
from yellowbob.workshop.backups import backups, restore

REPORT, LABELS, WHOLE = "Report of the build on the bench …", "Labels of the builds listed …", "Whole log as JSON …"
TAKE_IN, TAKE_GOOD = "Take builds in …", "Take in only what is good …"
OUT = {REPORT: ".pdf", LABELS: ".pdf", WHOLE: ".json", "Builds as CSV …": ".csv"}


class BuildPage(LogPage):
    """Begin builds of the open design; what is told of the one on the bench."""

    def __init__(self, book: Book) -> None:
        super().__init__("Build", book, "What was done")
        self.count = NumberField("How many", (1.0, 500.0), 1.0)
        self.count.setMinimumWidth(44)
        self.serial = line_of("Serial, made up when empty", "made up")
        self.state = Choice("State", ["in work", "done", "lost"], lambda t: self._set(state=t))
        self.why = line_of("Why it was lost, to whom it went, why it is set aside, or its board", "")
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
        self.hours = NumberField("Hours just spent", (0.0, 1000.0), 0.0, "h", 2, "–")
        self.cost = NumberField("Cost of its goods", (0.0, 1e7), 0.0, "", 2, "–")
        self.cost.valueChanged.connect(lambda value: self._set(cost=value or None))
        keep = button("Note", self._time, "Keep the hours, spent on what the words say")
        left.addLayout(row("Hours spent", self.hours, keep, "cost", self.cost))
        left.addLayout(labelled(("Words", self.why)))
        keys = QHBoxLayout()
        for words, field in (
            ("Lost so", "lost_why"),
            ("Went to", "given_to"),
            ("Set aside", "aside"),
            ("Board", "board"),
        ):
            keys.addWidget(button(words, partial(self._told, field), f"{words}: as the words say"))
        keys.addWidget(button("Note", self._note, "Keep the words as a note"))
        keys.addWidget(drop("Files", self._fill_out, "Write a report, labels, or the whole log; take builds in"))
        keys.addWidget(drop("Copies", self._fill_copies, "Copies of the workshop's file, to be put back"))
        keys.addStretch(1)
        left.addLayout(keys)
        self.lay_out(left)

    def begin(self) -> None:
        """Builds of the design that is open, the first put on the bench."""

        book, session, design = self.book, self.session, self.session.design
        study = session.apart()
        count, serial = int(self.count.value()), self.serial.text().strip()

        def work() -> list[Build]:
            return list(book.log.new(design, count, serial, None, promised=promised(study)))

        def done(built: list[Build]) -> None:
            if self.serial.text().strip() == serial:
                self.serial.clear()
            self.book.choose(built[0].serial)
            self.book.changed.emit()
            self.says.setText(f"Begun: {', '.join(b.serial for b in built)}. Label them so.")

        self.aside("beginning builds", work, done)

    def refresh(self) -> None:
        build = self._show_state()
        if build is not None:
            self.cost.blockSignals(True)
            self.cost.setValue(build.cost or 0.0)
            self.cost.blockSignals(False)
        if not self.says.text():
            self.says.setText("A build keeps the design as it is now; weighings and tests belong to the build.")

    def _show_state(self) -> Build | None:
        """What became of the build on the bench, as it is written down."""
        build = self.book.build()
        self.state.setEnabled(build is not None)
        if build is not None:
            self.state.show_text(build.state)
        return build

    def _set(self, **changes: Any) -> None:
        if not self.ready():
            return
        log, serial = self.book.log, self.book.serial

        def work() -> None:
            if changes.get("state", "lost") != "lost" and log.build(serial).lost_why:
                changes["lost_why"] = ""
            log.change(serial, **changes)

        def done(_: None) -> None:
            self.book.changed.emit()
            self._show_state()

        self.aside(f"writing down {', '.join(changes)}", work, done)

    def _told(self, field: str) -> None:
        changes = {field: self.why.text().strip()}
        if field == "lost_why":
            changes["state"] = "lost"
        self._set(**changes)

    def _note(self) -> None:
        words = self.why.text().strip()
        if words:
            self.keep_entry("note", lambda: Note(words=words), lambda: self._told_off(words))

    def _told_off(self, words: str) -> None:
        """What was written down is gone from its line, if nothing else stands there yet."""
        if self.why.text().strip() == words:
            self.why.clear()

    def _time(self) -> None:
        words, hours = self.why.text().strip(), self.hours.value()

        def done() -> None:
            if self.hours.value() == hours:
                self.hours.setValue(0.0)
            self._told_off(words)

        self.keep_entry("time", lambda: made(Spent, on=words or "work", hours=hours), done)

    def _fill_out(self, menu: QMenu) -> None:
        for words, end in OUT.items():
            menu.addAction(words).triggered.connect(partial(self._ask_out, words, end))

        for words, good_only in ((TAKE_IN, False), (TAKE_GOOD, True)):
            menu.addAction(words).triggered.connect(partial(self._ask_in, good_only))

    def _ask_in(self, good_only: bool, _: bool = False) -> None:
        name, _filter = QFileDialog.getOpenFileName(self, "Builds to take in", "", "Logs (*.json *.csv)")
        if name:
            self.take_in(Path(name), good_only)

    def take_in(self, path: Path, good_only: bool = False) -> None:
        """Builds out of a JSON export, or changes by serial out of a CSV; with anything refused nothing is taken, unless
        what is good is."""

        def done(taken: Taken) -> None:
            self.book.changed.emit()
            said = [f"Took in {len(taken.serials)} builds of {path.name}."]
            said += [f"! {words}" for words in taken.refused[:5]]
            if taken.refused and not good_only:
                said.append(f"{len(taken.refused)} are refused, so nothing was taken; mend them, or take what is good.")
            self.says.setText("<br>".join(said))

        take = take_csv if path.suffix.lower() == ".csv" else take_json
        self.aside(f"taking in {path.name}", lambda: take(self.book.log, path, good_only), done)

    def _ask_out(self, words: str, end: str, _: bool = False) -> None:
        name, _filter = QFileDialog.getSaveFileName(self, words, f"{self.book.serial or 'log'}{end}", f"*{end}")
        if name:
            self.write(words, Path(name))

    def write(self, words: str, path: Path) -> None:
        """Write what a line of the menu Out names."""

        book, serial = self.book, self.book.serial
        listed = book.builds() if words == LABELS else []

        def work() -> None:
            log = book.log
            if words == REPORT:
                study = Study(log.design(serial))
                write_build(path, log.build(serial), log.entries(serial), evidence(study).weighed)
            elif words == LABELS:
                write_labels(path, listed)
            else:
                write_text_whole(path, whole_json(log) if words == WHOLE else builds_csv(log.builds()))

        if words != REPORT or self.ready():
            self.aside(f"writing {path.name}", work, lambda _: self.says.setText(f"Written: {path.name}."))

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

        def done(before: Path | None) -> None:
            self.book.forget()
            self.says.setText(
                f"Put back. What was there before is a copy too: {before.name if before is not None else 'none'}."
            )

        self.aside("putting a copy back", lambda: restore(copy), done)

    def open_design(self) -> None:
        """The design the build was made from takes the place of the open one; undo brings that back."""
        if self.ready():
            words = f"open the design of {self.book.serial}"
            self.of_build(lambda design: self.session.edit(design, words))
