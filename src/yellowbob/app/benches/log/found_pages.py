"""Pages of the Log bench about what was found in the tank, and what all builds taught."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QVBoxLayout

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.lain_drawing import LainDrawing
from yellowbob.app.benches.log.pages import LogPage
from yellowbob.app.session.background import Told
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice, NumberField, QuantityField
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.base import made
from yellowbob.design.model import Design
from yellowbob.ground.water import SALINITY_G_KG
from yellowbob.logbook.lain import Lain
from yellowbob.logbook.records import TankTest
from yellowbob.logbook.sides import pucks_of
from yellowbob.study import Study
from yellowbob.trials.learned import Learned, learned
from yellowbob.trials.mend import Mended
from yellowbob.workshop.database import workshop_file

ALL_ON = "everything on"


def fill_off(field: Choice, design: Design) -> None:
    """What of a build may have been off: any of its hooks."""
    field.clear()
    field.addItems([ALL_ON, *(f"without {f.name}" for f in design.fittings if f.sort == "hook")])


def off_of(field: Choice) -> tuple[str, ...]:
    """What the field says was off."""
    words = field.currentText()
    return () if words == ALL_ON else (words.removeprefix("without "),)


class TankPage(LogPage):
    """Pitch, draft and drops as read; where the weight really lies."""

    def __init__(self, book: Book) -> None:
        super().__init__("Tank test", book, "What the tank says")
        self.pitch = QuantityField("Pitch as read", "angle", 1)
        self.draft = QuantityField("Draft as read", "length", 1)
        self.off = Choice("What was off", [ALL_ON], lambda _: None)
        self.water = Choice("Water of the tank", list(SALINITY_G_KG), lambda _: None)
        self.drops = NumberField("Drops", (0.0, 10_000.0), 0.0)
        self.right = NumberField("Came right", (0.0, 10_000.0), 0.0)
        for one in (self.drops, self.right):
            one.setMinimumWidth(44)
        for field in (self.pitch, self.draft):
            field.given.connect(lambda _: None)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(row("Pitch", self.pitch, "draft", self.draft))
        left.addLayout(row("Came right", self.right, "of drops", self.drops))
        left.addLayout(labelled(("On it", self.off), ("Water", self.water)))
        left.addWidget(button("Keep", self.keep, "Keep this tank test"))
        self.drawing = LainDrawing()
        self.lay_out(left, None, self.drawing)

    def refresh(self) -> None:
        if not self.ready():
            return

        def take(design: Design) -> None:
            fill_off(self.off, design)
            self.water.show_text(design.water.name)
            self.tell()

        self.of_build(take)

    def keep(self) -> None:
        """Keep what was read, and tell what all tests of the build say."""

        log, serial = self.book.log, self.book.serial
        values = {field: field.value for field in (self.pitch, self.draft)}
        counts = {count: count.value() for count in (self.drops, self.right)}
        read: dict[str, Any] = {
            "water": self.water.currentText(), "off": off_of(self.off), "pitch_deg": self.pitch.value,
            "draft_mm": self.draft.value, "drops": int(self.drops.value()), "came_right": int(self.right.value()),
        }  # fmt: skip

        def done() -> None:
            for field, value in values.items():
                if field.value == value:  # what was typed meanwhile is of the next test
                    field.show_value(None)
            for count, number in counts.items():
                if count.value() == number:  # its drops are counted afresh
                    count.setValue(0.0)
            self.tell()

        def test() -> TankTest:
            from yellowbob.trials.lain_of import possible

            return possible(Study(log.design(serial)), made(TankTest, **read))

        self.keep_entry("tank", test, done)

    def tell(self) -> None:
        """What the tests together say, in the background."""
        log, serial = self.book.log, self.book.serial

        def work(_: Told) -> tuple[str, Lain | None, Study | None]:
            from yellowbob.trials.lain_of import lain_of
            from yellowbob.trials.learned import lain_misses
            from yellowbob.trials.mend import mended

            tests = [e.data for e in log.entries(serial) if isinstance(e.data, TankTest)]
            if not tests:
                return "Two tests with other hooks on tell where its weight lies.", None, None
            study = Study(log.design(serial))
            pitch, draft = lain_misses(study, tests[-1])
            said = []
            if pitch is not None:
                said.append(
                    f"Last read {pitch:+z.1f}° off what was expected"
                    + (f", {draft:+z.1f} mm of draft." if draft is not None else ".")
                )
            found = lain_of(study, tests)
            if found is not None:
                (x, z), (ux, uz), (fx, fz) = found.centre_mm, found.centre_u_mm, found.forecast_mm
                said.append(
                    f"By {len(found.misses)} test{'s' * (len(found.misses) > 1)} it weighs <b>{found.mass_g:.2f} ± "
                    f"{found.mass_u_g:.2f} "
                    f"g</b> (forecast {found.forecast_g:.2f});"
                )
                said.append(
                    f"its weight lies <b>{x:.1f} ± {ux:.1f} mm</b> from the nose (forecast {fx:.1f}), "
                    f"{z:+z.1f} ± {uz:.1f} from the axis ({fz:+z.1f})."
                )
                said += [f"! {found.says}."] if found.says else []
                said += _mends(mended(study, found))
            drops, right = sum(t.drops for t in tests), sum(t.came_right for t in tests)
            if drops:
                said.append(f"Came right {right} times of {drops}.")
            return "<br>".join(said).replace("-", "−"), found, study

        def tell(all_: tuple[str, Lain | None, Study | None]) -> None:
            words, found, study = all_
            self.says.setText(words)
            self.drawing.show_found(study, found)

        self.session.tasks.start(
            "lain",
            work,
            tell,
            lambda w: self.says.setText(f"! {w}"),
            words="finding where its weight lies",
        )


def _mends(found: Mended) -> list[str]:
    """What would mend it, in words."""
    if found.pitch_deg is None or found.wanted_deg is None:
        return []
    said = [f"So it lies {found.pitch_deg:+z.1f}°, {found.wanted_deg:+z.1f}° wanted."]
    if found.mends:
        said.append("To mend it: " + "; ".join(f"{m.words} ({m.pitch_deg:+z.1f}°)" for m in found.mends) + ".")
    return said


class TaughtPage(LogPage):
    """What all builds taught, each against the shelf; how predictions missed."""

    def __init__(self, book: Book) -> None:
        super().__init__("Taught", book, "How predictions missed")
        self.found: Learned | None = None
        self.table = table(
            "What builds taught", ("what", "mean", "90 % within", "shelf", "pieces ±", "trend", "builds")
        )
        self.shelve = button("Onto the shelf", self.onto_shelf, "Put the woods and films learnt onto your own shelf")
        left = QVBoxLayout()
        left.addWidget(self.shelve)
        self.lay_out(left, self.table)

    def refresh(self) -> None:
        self.found = None
        if not workshop_file().exists():  # looking makes no log
            self._tell(None)
            return
        book = self.book

        def work(_: Told) -> Learned | None:
            log = book.log
            builds = log.builds()
            if not builds:
                return None
            return learned([(b, log.design(b.serial), log.entries(b.serial)) for b in builds], pucks=pucks_of(log))

        self.says.setText("Learning from every build …")
        self.session.tasks.start(
            "taught", work, self._tell, lambda w: self.says.setText(f"! {w}"), words="learning from every build"
        )

    def onto_shelf(self) -> None:
        """Woods and films as they were learnt become own entries: new designs begin from them."""
        from yellowbob.shelf.own import OwnShelf
        from yellowbob.trials.learned import shelf_items

        if self.found is not None:
            items = shelf_items(self.found)
            told = f"On your shelf now: {', '.join(item.name for item in items) or 'nothing'}."
            self.aside("putting them onto the shelf", lambda: OwnShelf().put(items), lambda _: self.says.setText(told))

    def _tell(self, found: Learned | None) -> None:
        self.found = found
        if found is None:
            fill(self.table, [])
            self.says.setText("No builds yet: weigh one at any stage, and its wood is known better.")
            return
        every = [
            (name, one, unit)
            for told, unit in (
                (found.densities, "g/mL"),
                (found.pucks.resins, "g/mL"),
                (found.pucks.powders, "g/mL"),
                (found.fillings, "g/mL"),
                (found.films, "mm"),
            )
            for name, one in told.items()
        ]
        rows = []
        for name, one, unit in every:
            within = f"{one.low:.3f} to {one.high:.3f}"
            trend = "–" if one.trend is None else f"{one.trend:+z.3f}".replace("-", "−")
            mean, spread = f"{one.mean:.3f} {unit}", f"{one.scatter:.3f}"
            rows.append([name, mean, within, f"{one.shelf:.3f}", spread, trend, f"{one.count}"])
        fill(self.table, rows)
        for number, (_, one, _unit) in enumerate(every):  # traceable: which builds it was learnt from
            cell = self.table.item(number, 0)
            if cell is not None:
                cell.setToolTip(f"from {', '.join(one.serials)}")
        said = []
        for words, errors, unit in (
            ("Finished mass", found.mass_g, "g"),
            ("Pitch", found.pitch_deg, "°"),
            ("Draft", found.draft_mm, "mm"),
            *((f"Holes, {size}", errors, "mm") for size, errors in found.drilling.items()),
        ):
            if errors.bias is not None:
                spread = "" if errors.spread is None else f" ± {errors.spread:.2f}"
                said.append(
                    f"{words}: {errors.bias:+z.2f}{spread} {unit} off over {len(errors.misses)}.".replace("-", "−")
                )
        said += [f"! {words}" for words in found.aside]
        self.says.setText("<br>".join(said) or "Nothing was finished or tested yet.")
