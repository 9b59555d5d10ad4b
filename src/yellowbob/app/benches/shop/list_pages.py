"""Stations and holes as tables."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QTableWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.shop.stock import Stock
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import NumberField, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import SayingPage
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.tables import fill, table
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.shop.blank import ends_of
from yellowbob.shop.bores import Bored, bores
from yellowbob.shop.stations import Stations, stations


class ShopPage(SayingPage):
    """A page of the Shop bench: fields and words at the left, what it lists at the right; it follows the design."""

    def __init__(self, title: str, session: Session, view: ShopView, says: str) -> None:
        super().__init__(title, session, says)
        self.view = view

    def lay_out(self, left: QVBoxLayout, right: QWidget, share: int = 4) -> None:
        """Fields over words, so many ninths of the list's room; the list beside them."""
        left.addWidget(self.says, 1)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        line.addLayout(left, share)
        line.addWidget(right, 9)


class ListPage(ShopPage):
    """One that lists what is worked out of the design as it is seen."""

    table: QTableWidget

    def show_none(self, words: str) -> None:
        """Nothing is listed; why, or that it is on its way."""
        fill(self.table, [])
        self.says.setText(words)
        self.view.show_things(None, ())

    def refuse(self, words: str) -> None:
        if self.isVisible():
            self.show_none(f"! {words}")


class StationsPage(ListPage):
    """The error allowed, or a spacing; what is measured where."""

    def __init__(self, session: Session, view: ShopView, stock: Stock) -> None:
        super().__init__("Stations", session, view, "How straight cuts hold")
        self.stock = stock
        self.error = QuantityField("Error that a straight cut may have", "length", 2)
        self.error.show_value(0.25)
        self.error.given.connect(self._error_given)
        self.error.refused.connect(lambda words: self.says.setText(f"! {words}") if words else None)
        self.every = NumberField("Fixed spacing instead", (0.0, 200.0), 0.0, "mm", 1, "as few as hold")
        self.every.valueChanged.connect(lambda _: self.refresh())
        self.table = table("Test stations", ("from the nose", "from the tail", "measured there"))
        left = QVBoxLayout()
        self.bed = NumberField(
            "Longest piece that the lathe takes", (0.0, 5000.0), stock.bed_mm or 0.0, "mm", 0, "any length"
        )
        self.bed.valueChanged.connect(self._bed_given)
        left.addLayout(row("Error", self.error, "every", self.every))
        left.addLayout(labelled(("Lathe's bed", self.bed)))
        self.lay_out(left, self.table, 6)

    def _bed_given(self, value: float) -> None:
        self.stock.put_bed(value)
        self.refresh()

    def _error_given(self, value: float) -> None:
        self.error.show_value(value)
        self.refresh()

    def refresh(self) -> None:
        design, error, every = self.session.design, self.error.value or 0.0, self.every.value() or None
        self.show_none("Laying them out …")
        self.session.soon(
            "stations", lambda: stations(design, error, every), self._take, self.refuse, "laying out stations"
        )

    def _take(self, found: Stations) -> None:
        if not self.isVisible():  # it came when another page had been turned to, which draws something else
            return
        unit = Units.of("length")
        end = found.stations[-1].at_mm
        rows = []
        for one in found.stations:
            sizes = ", ".join(f"{name} {show(size, unit, 2)}" for name, size in one.sizes_mm.items())
            rows.append(
                [f"{show(one.at_mm, unit, 2)} {unit}", f"{show(end - one.at_mm, unit, 2)} {unit}", f"{sizes} {unit}"]
            )
        fill(self.table, rows)
        self.says.setText(
            f"{len(rows)} stations; straight cuts between them are {show(found.misses_mm, unit, 2)} {unit} off at most. "
            f"Sizes are bare, before the finish.{self._between_centres(found)}"
        )
        self.view.show_things(found, ())

    def _between_centres(self, found: Stations) -> str:
        """For a turned body, the waste at its ends and where it is parted; why it does not go on the lathe."""
        if not found.turned:
            return ""
        unit, long = Units.of("length"), found.stations[-1].at_mm
        try:
            ends = ends_of(long, True, self.stock.bed_mm)
        except YellowBobError as error:
            return f"<br>! {error}"
        whole, waste = show(long + 2 * ends.waste_mm, unit, 1), show(ends.waste_mm, unit, 1)
        told = f"{whole} {unit} between centres, {waste} {unit} of waste at either end"
        said = "".join(f"<br>! {words}" for words in ends.says)
        return f"<br>{told}; widest first, part off at 0 and {show(long, unit, 1)} {unit} last.{said}"


class HolesPage(ListPage):
    """Every hole in the order to drill."""

    COLUMNS = ("", "hole", "from the", "from nose", "off centre", "wide", "deep", "bit", "wall left", "what goes in")

    def __init__(self, session: Session, view: ShopView) -> None:
        super().__init__("Holes", session, view, "What to mind")
        self.table = table("Holes in the order to drill", self.COLUMNS)
        self.lay_out(QVBoxLayout(), self.table, 2)

    def refresh(self) -> None:
        if self.session.fault:
            self.refuse(self.session.fault)
            return
        study = self.session.apart()
        self.show_none("Measuring them …")
        self.session.soon("holes", lambda: bores(study), self._take, self.refuse, "measuring the walls round holes")

    def _take(self, found: tuple[Bored, ...]) -> None:
        if not self.isVisible():
            return
        unit = Units.of("length")

        def told(value: float) -> str:
            return f"{show(value, unit)} {unit}"

        rows = [
            [f"{n}", b.name, b.side, told(b.at_mm), told(b.off_mm), told(b.diameter_mm), told(b.depth_mm), b.bit or "none",
             told(b.wall_mm), b.holds] for n, b in enumerate(found, 1)
        ]  # fmt: skip
        fill(self.table, rows)
        lines = [f"! {n}: {b.says}" for n, b in enumerate(found, 1) if b.says]
        lines += [
            f"{n}: from both ends, to meet within {told(b.meets_mm)}" for n, b in enumerate(found, 1) if b.both_ends
        ]
        order = "Ends while the blank is square, then sides, belly and back. Clamp the work."
        self.says.setText("<br>".join([*lines, order] if found else ["No holes."]))
        self.view.show_things(None, found)
