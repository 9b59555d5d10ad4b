"""Pages of the Log bench: a build begun and told of, weighed, tried in the tank and on the water, and what all of them
taught."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.session.background import Told
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import SayingPage
from yellowbob.app.widgets.rows import labelled
from yellowbob.design.model import Design
from yellowbob.design.record import STAGES, Weighing
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import show
from yellowbob.logbook.records import Data, What
from yellowbob.study import Study, of
from yellowbob.study.evidence import evidence
from yellowbob.trials.still import Still, still_to_go
from yellowbob.weights.evidence import Evidence
from yellowbob.weights.slip import SlipLine

T = TypeVar("T")
LEAST_MOVED = 0.2
"""What explains less than so many of its own uncertainties is not named."""
ALL, NO_HOOKS, WITHOUT, HALF = "all of the stage", "without its hooks", "without ", "half laid: "


class LogPage(SayingPage):
    """A page about the build on the bench: fields left, words right."""

    def __init__(self, title: str, book: Book, says: str) -> None:
        super().__init__(title, book.session, says)
        self.book = book
        book.chosen.connect(self._follow)

    def lay_out(self, left: QVBoxLayout, right: QWidget | None = None, drawing: QWidget | None = None) -> None:
        """Fields at the left; the words, or a list under them, at the right; a drawing beside the words."""
        left.addStretch(1)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        line.addLayout(left, 5)
        if right is None:
            line.addWidget(self.says, 6)
            if drawing is not None:
                line.addWidget(drawing, 4)
            return
        left.insertWidget(left.count() - 1, self.says)
        line.addWidget(right, 8)

    def ready(self) -> bool:
        """Whether a build lies on the bench; says so where none does."""
        if self.book.serial:
            return True
        self.says.setText("Choose a build above, or begin one on the page Build.")
        return False

    def aside(self, what: str, work: Callable[[], T], done: Callable[[T], object]) -> None:
        """Do what takes long and may be refused off the interface's thread, then `done`; the reason is shown."""
        self.session.aside(what, work, done, lambda words: self.says.setText(f"! {words}"))

    def soon(self, kind: str, work: Callable[[], T], done: Callable[[T], object], words: str) -> None:
        """Read what is soon read off the interface's thread; a refusal is shown."""
        self.session.soon(kind, work, done, lambda told: self.says.setText(f"! {told}"), words)

    def of_build(self, done: Callable[[Design], object]) -> None:
        """Have the design of the build on the bench."""
        book, serial = self.book, self.book.serial

        def take(design: Design) -> None:
            if book.serial == serial:
                done(design)

        self.soon(
            f"design for {self.accessibleName()}", lambda: book.log.design(serial), take, "reading the build's design"
        )

    def keep_entry(self, what: What, make: Callable[[], Data], done: Callable[[], object]) -> None:
        """Keep an entry of the build on the bench, once however often it is asked for meanwhile.

        `make` may refuse and be slow; what was typed stays where it is refused.
        """
        book, serial, doing = self.book, self.book.serial, f"keeping it: {what}"
        if not self.ready() or self.session.tasks.running(doing):
            return

        def kept(_: None) -> None:
            book.changed.emit()
            done()

        def work() -> None:
            book.log.add(serial, what, make())

        self.aside(doing, work, kept)


class WeighPage(LogPage):
    """A stage weighed; what is still to go in, worked out anew."""

    def __init__(self, book: Book) -> None:
        super().__init__("Weigh", book, "What is still to go in")
        self.found: Still | None = None
        self.filled_for = ""
        self.stage = Choice("Stage", list(STAGES), lambda _: None)
        self.was_on = Choice("What lay on the scale", [ALL, NO_HOOKS], lambda _: None)
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

        book, serial, words = self.book, self.book.serial, self.was_on.currentText()
        stage = next(s for s in STAGES if s == self.stage.currentText())

        def make() -> Weighing:
            study = Study(book.log.design(serial))
            return weighed(study, stage, mass_g, shares=_shares(study, words)).weighings[-1]

        def done() -> None:
            if self.mass.value == mass_g:  # what was typed meanwhile is of the next weighing
                self.mass.show_value(None)
            self.refresh()

        self.keep_entry("weigh", make, done)

    def _fill(self, lines: tuple[SlipLine, ...]) -> None:
        """What may have been off: all hooks, any thing of the slip; a coat may be on by half."""
        now = self.was_on.currentText()
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
        serial, book = self.book.serial, self.book

        def list_them(_: Told) -> tuple[SlipLine, ...]:
            return of.slip(Study(book.log.design(serial)).forecast).lines

        def filled(lines: tuple[SlipLine, ...]) -> None:
            self.filled_for = serial
            self._fill(lines)

        def work(_: Told) -> tuple[str, Still | None, str]:
            study = Study(book.log.design(serial))
            said = _weighed_words(evidence(study))
            try:
                return said, still_to_go(study), ""
            except BadInput as error:
                return said, None, str(error)

        if self.filled_for != serial:
            self.session.tasks.start(
                "what lay on the scale", list_them, filled, words="listing what may be on the scale"
            )
        self.says.setText("Working out what is still to go in …")
        self.session.tasks.start(
            "still", work, self._tell, lambda w: self.says.setText(f"! {w}"), words="working out what is still to go in"
        )

    def _tell(self, all_: tuple[str, Still | None, str]) -> None:
        weighed_words, found, why = all_
        self.found = found
        if found is None:
            self.says.setText(f"{weighed_words}! {why}")
            return
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
            else f"{found.pitch_deg:+z.1f}°, draft {found.draft_mm:.1f} mm".replace("-", "−")
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
        self.says.setText(weighed_words + "<br>".join(said))


def _shares(study: Study, words: str) -> dict[str, float]:
    """By slip key what was not there, or only in part, as the words chosen say."""
    if words == ALL:
        return {}
    lines = of.slip(study.forecast).lines
    if words == NO_HOOKS:
        hooks = {f.name for f in study.design.fittings if f.sort == "hook"}
        return {line.key: 0.0 for line in lines if any(line.words.startswith(name) for name in hooks)}
    half = words.startswith(HALF)
    name = words.removeprefix(HALF).removeprefix(WITHOUT)
    return {line.key: 0.5 if half else 0.0 for line in lines if line.words == name}


def _weighed_words(told: Evidence) -> str:
    """Each weighing beside its forecast, and what explains the difference best."""
    mass, said = Units.of("mass"), []
    for one in told.weighed:
        scale, forecast = show(one.weighing.mass_g, mass, 2), show(one.forecast_g, mass, 2)
        likely = f"; ! {one.likely}" if one.likely else ""
        said.append(f"{one.weighing.stage}: {scale} {mass}, {forecast} forecast{likely}.<br>")
    best: tuple[float, str] | None = None
    for cause in told.causes:
        found = told.of(cause.key)
        if found is None or cause.sigma <= 0.0:
            continue
        moved = abs(found[0]) / cause.sigma
        if moved >= LEAST_MOVED and (best is None or moved > best[0]):
            best = (moved, f"Most likely by the {cause.words}: {100.0 * found[0] / cause.now:+z.0f} %.<br>")
    said += [] if best is None else [best[1].replace("-", "−")]
    return "".join(said)


def line_of(name: str, hint: str) -> QLineEdit:
    """A field for words, with a hint of what stands there."""
    field = QLineEdit()
    field.setAccessibleName(name)
    field.setPlaceholderText(hint)
    return field
