"""Painted bands of a tip: their places in fields, the plan of the work beside them."""

from __future__ import annotations

from typing import Any

from PySide6.QtGui import QColor, QIcon, QPixmap
from PySide6.QtWidgets import QMenu

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.bands import COLOURS, Band
from yellowbob.design.base import replaced
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.trials.painting import out_of_turn, painting, proposed, shows_mm

NEW_MM = 10.0


class PaintPage(Page):
    """Bands as listed, later over earlier; the plan has the lightest first."""

    def __init__(self, session: Session) -> None:
        super().__init__("Paint", session, "Bands are measured from the front end; a later one paints over an earlier.")
        self.at = 0
        self.line.addWidget(drop("Add a band", self._fill_add))
        self.line.addWidget(button("Propose", self.propose, "Propose bands for the tip that is to show"))
        self.line.addWidget(button("Remove", self._remove, "Remove the selected band"))
        self.table = table("Bands", ("band", "order", "from", "to", "masks at", "shows", "told from"))
        self.table.setMinimumWidth(470)
        self.table.currentCellChanged.connect(self._choose)
        self.start = self.field("Band from", "length", lambda v: self._set(from_mm=v), 1)
        self.end = self.field("Band to", "length", lambda v: self._set(to_mm=v), 1)
        self.put(0, 0, "From", self.start)
        self.put(0, 1, "To", self.end)
        self.grid.setColumnStretch(4, 1)
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.beside.addWidget(self.table)
        session.changed.connect(self._follow)
        session.arrived.connect(self._arrived)

    def _arrived(self, what: object) -> None:
        if what is of.rests:
            self._follow()

    def band(self) -> Band | None:
        listed = self.session.design.bands
        return listed[self.at] if 0 <= self.at < len(listed) else None

    def _follow(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """The bands and their plan; what cannot be painted is said."""
        session, unit = self.session, Units.of("length")
        if session.fault:
            self.say(session.fault, wrong=True)
            return
        try:
            known = session.ask(of.rests) is not None  # what shows above the water hangs on how it rests
            plan = {p.band: p for p in painting(session.study)} if known else {}
        except YellowBobError as error:
            plan = {}
            self.say(str(error), wrong=True)
        else:
            shown = shows_mm(session.study) if known else None
            words = "" if shown is None else f"{show(shown, unit)} {unit} show above the water. "
            self.say(words + " ".join(f"! {w}." for w in out_of_turn(session.design.bands)))
        rows = []
        for band in session.design.bands:
            one = plan.get(band)
            told = ["", "", "", ""] if one is None else [
                str(one.order), " ".join(show(m, unit) for m in one.masks_mm) or "none", show(one.shows_mm, unit),
                f"{one.seen_m:.0f} m",
            ]  # fmt: skip
            rows.append([band.name, told[0], show(band.from_mm, unit), f"{show(band.to_mm, unit)} {unit}", *told[1:]])
        self.table.blockSignals(True)
        fill(self.table, rows)
        for row, band in enumerate(session.design.bands):
            cell = self.table.item(row, 0)
            if cell is not None:
                cell.setIcon(swatch(band.colour))
        self.at = min(self.at, max(0, len(rows) - 1))
        self.table.selectRow(self.at)
        self.table.blockSignals(False)
        chosen = self.band()
        self.start.show_value(None if chosen is None else chosen.from_mm)
        self.end.show_value(None if chosen is None else chosen.to_mm)
        for field in (self.start, self.end):
            field.setEnabled(chosen is not None)

    def _choose(self, row: int, *_: int) -> None:
        if row >= 0 and row != self.at:
            self.at = row
            self.refresh()

    def _set(self, **changes: Any) -> None:
        band = self.band()
        if band is not None:
            listed = list(self.session.design.bands)
            listed[self.at] = replaced(band, **changes)
            self.session.edit(self.session.design.but(bands=tuple(listed)), f"band: {band.name}")

    def _fill_add(self, menu: QMenu) -> None:
        for name, tone in COLOURS.items():
            menu.addAction(swatch(tone), name).triggered.connect(lambda _=False, n=name: self.add(n))

    def add(self, name: str) -> None:
        """A band of a ready colour behind the last one."""
        listed = self.session.design.bands
        start = max((b.to_mm for b in listed), default=0.0)
        self.at = len(listed)
        new = Band(name=name, colour=COLOURS[name], from_mm=start, to_mm=start + NEW_MM)
        self.session.edit(self.session.design.but(bands=(*listed, new)), f"add {name}")

    def propose(self) -> None:
        """Bands for the tip, in place of those there are."""
        self.attempt(lambda: self.session.edit(
            self.session.design.but(bands=proposed(self.sound_study())), "propose bands"
        ))  # fmt: skip

    def _remove(self) -> None:
        listed = list(self.session.design.bands)
        if self.band() is not None:
            gone = listed.pop(self.at)
            self.session.edit(self.session.design.but(bands=tuple(listed)), f"remove {gone.name}")


def swatch(tone: str) -> QIcon:
    """A patch of a colour."""
    patch = QPixmap(14, 14)
    patch.fill(QColor(tone))
    icon = QIcon(patch)
    icon.addPixmap(patch, QIcon.Mode.Selected)
    return icon
