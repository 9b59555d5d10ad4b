"""The shelf as a page: every list, own entries and counts, CSV in and out."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from PySide6.QtWidgets import QFileDialog, QLineEdit

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.cards import explain
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.files import write_text_whole
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.exchange import from_csv, item_from, to_csv
from yellowbob.shelf.own import OwnShelf, set_aside
from yellowbob.shelf.shipped import LISTS
from yellowbob.workshop.database import workshop_file

T = TypeVar("T")


class ShelfPage(Page):
    """Choose a list, find an entry, count it, or enter your own figures over the shipped ones."""

    def __init__(self, session: Session) -> None:
        super().__init__("Shelf", session, "Shipped figures are typical: weigh yours, and put your own over them.")
        self.name = "materials"
        self.list = Choice("List", list(LISTS), self._choose)
        self.search = QLineEdit()
        self.search.setPlaceholderText("find")
        self.search.setAccessibleName("Find in the list")
        self.search.setMaximumWidth(160)
        self.search.textChanged.connect(lambda _: self.refresh())
        self.line.insertWidget(1, self.list)
        self.line.insertWidget(2, self.search)
        self.line.addWidget(button("CSV in", self._ask_in, "Import entries from CSV"))
        self.line.addWidget(button("CSV out", self._ask_out, "Export the list as CSV"))
        self.table = table("Entries", ("entry", "figures", "on the shelf", "source"))
        self.table.currentCellChanged.connect(self._picked)
        self.entry, self.fields = QLineEdit(), QLineEdit()
        self.entry.setAccessibleName("Name of the entry")
        self.fields.setAccessibleName("Figures as field=value")
        self.fields.setPlaceholderText("density_g_ml=0.43  spread_g_ml=0.02")
        self.count = self.field("How many lie there", "number", self._count, 0)
        self.put(0, 0, "Entry", self.entry)
        self.put(0, 1, "Your figures", self.fields)
        self.put(0, 2, "Count", self.count)
        self.grid.setColumnStretch(3, 1)
        self.grid.addWidget(button("Put on the shelf", lambda: self.attempt(self.enter)), 0, 6)
        self.grid.addWidget(button("Take off", lambda: self.attempt(self.take_off), "Remove your own entry"), 0, 7)
        self.column.addWidget(self.said)
        self.column.addWidget(self.table, 1)
        self._names: list[str] = []
        self._rows: list[list[str]] = []

    def _list(self) -> tuple[Any, Any]:
        return LISTS[self.name]

    def _choose(self, name: str) -> None:
        self.name = name
        self.refresh()

    def refresh(self) -> None:
        kind, read = self._list()
        counts: dict[str, float] = {}

        def look() -> None:
            if workshop_file().exists():
                counts.update(OwnShelf().counts(kind))
                if bad := set_aside(kind):
                    self.say("! " + "; ".join(bad))

        self.attempt(look)
        wanted = self.search.text().lower()
        items = {n: i for n, i in read().items() if wanted in n.lower()}
        self._names = list(items)
        rows = []
        for name, item in items.items():
            shown = [
                f"{_field(f)} {v:g}{_unit(f)}"
                for f in type(item).model_fields
                if isinstance(v := getattr(item, f), float)
            ]
            weight = getattr(item, "weight_g", None)
            shown += [f"{weight:.2f} g"] if weight is not None and getattr(item, "mass_g", None) is None else []
            rows.append([name, ", ".join(shown), f"{counts[name]:g}" if name in counts else "", item.source or "own"])
        if rows != self._rows:
            self._rows = rows
            fill(self.table, rows)

    def _picked(self, row: int, *_: int) -> None:
        if 0 <= row < len(self._names):
            self.entry.setText(self._names[row])
            kind, _ = self._list()
            self.count.show_value(OwnShelf().counts(kind).get(self._names[row]) if workshop_file().exists() else None)

    def enter(self) -> None:
        """Your own figures for the entry, over those it has; bad ones are said and stay in the field."""
        kind, read = self._list()
        name = self.entry.text().strip()
        given = {}
        for text in self.fields.text().split():
            field, _, value = text.partition("=")
            given[field] = value
        old = read().get(name)
        kept = {} if old is None else {f: str(v) for f in kind.model_fields if (v := getattr(old, f)) is not None}
        item = item_from(kind, {**kept, "source": "own", **given, "name": name}, f"{self.name}, {name or 'no name'}")
        typed = self.fields.text()

        def done(_: None) -> None:
            if self.fields.text() == typed:
                self.fields.clear()
            self.say(f"{name} is on your shelf, in {workshop_file()}.")

        self._change(f"putting {name} on the shelf", lambda: OwnShelf().put([item]), done)

    def take_off(self) -> None:
        kind, _ = self._list()
        name = self.entry.text().strip()

        def done(was_there: bool) -> None:
            self.say(
                "Taken off; the shipped entry, if there is one, is seen again."
                if was_there
                else "That is not an entry of yours."
            )

        self._change(f"taking {name} off the shelf", lambda: OwnShelf().remove(kind, name), done)

    def _count(self, value: float) -> None:
        kind, _ = self._list()
        if name := self.entry.text().strip():
            self._change(f"counting {name}", lambda: OwnShelf().set_count(kind, name, value), lambda _: None)

    def _change(self, what: str, change: Callable[[], T], done: Callable[[T], object]) -> None:
        """Change the own shelf, read it anew and show it; then `done`."""
        _, read = self._list()

        def work() -> T:
            told = change()
            read()
            return told

        def shown(told: T) -> None:
            self.refresh()
            done(told)

        self.session.aside(what, work, shown, self._refused)

    def _ask_in(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Entries from CSV", "", "Tables (*.csv)")
        if name:
            self.take_in(Path(name))

    def take_in(self, path: Path) -> None:
        kind, _ = self._list()

        def work() -> int:
            try:
                items, counts = from_csv(kind, path)
                OwnShelf().put(items, counts)
            except ValueError as error:
                raise BadInput(explain(error)) from None
            return len(items)

        def done(count: int) -> None:
            self.refresh()
            self.say(f"Took {count} entries.")

        self.session.aside(f"taking in {path.name}", work, done, self._refused)

    def _ask_out(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "List as CSV", f"{self.name}.csv", "*.csv")
        if name:
            self.write_out(Path(name))

    def write_out(self, path: Path) -> None:
        kind, read = self._list()

        def work() -> None:
            counts = OwnShelf().counts(kind) if workshop_file().exists() else {}
            write_text_whole(path, to_csv(kind, read(), counts))

        self.session.aside(f"writing {path.name}", work, lambda _: self.say(f"Wrote {path.name}."), self._refused)


def _field(name: str) -> str:
    for ending in ("_g_ml", "_mm", "_g_m2", "_g", "_h", "_min", "_c"):
        name = name.removesuffix(ending)
    return name.replace("_", " ")


def _unit(name: str) -> str:
    units = {"_g_ml": " g/mL", "_mm": " mm", "_g_m2": " g/m²", "_g": " g", "_h": " h", "_min": " min", "_c": " °C"}
    return next((unit for ending, unit in units.items() if name.endswith(ending)), "")
