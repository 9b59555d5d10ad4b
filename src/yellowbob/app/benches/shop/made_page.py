"""As made: what is measured back on the piece, typed or by callipers, becomes its shape and places."""

from __future__ import annotations

import math
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QGridLayout, QHBoxLayout, QLabel, QVBoxLayout

from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.tables import fill, table
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import show
from yellowbob.shop.bores import Bored, bores
from yellowbob.shop.made import HoleMeasured, Measured, Uneven, made, read_holes, read_stations, uneven
from yellowbob.shop.stations import Stations, stations
from yellowbob.study import Study, of

TURNED, LOFTED = ("diameter",), ("back", "belly", "port", "starboard")
HOLE = ("at", "off", "diameter", "depth")


class MadePage(ShopPage):
    """Stations and holes with what was measured there; the selected one's readings in fields."""

    def __init__(self, session: Session, view: ShopView) -> None:
        super().__init__("As made", session, view, "What it does")
        self.readings: dict[float, dict[str, float]] = {}
        self.holes: dict[str, dict[str, float]] = {}
        self.rows: list[tuple[float | str, dict[str, float]]] = []
        self.table = table("Stations and holes", ("where", "drawn", "measured"))
        self.table.currentCellChanged.connect(lambda row, *_: self._choose(row))
        self.fields: dict[str, QuantityField] = {}
        self.labels: dict[str, QLabel] = {}
        grid = QGridLayout()
        for number, name in enumerate(dict.fromkeys((*TURNED, *LOFTED, *HOLE))):
            field = QuantityField(f"Measured: {name}", "length", 2)
            field.given.connect(lambda value, n=name: self._given(n, value))
            field.refused.connect(lambda words: self.says.setText(f"! {words}") if words else None)
            label = QLabel(name)
            grid.addWidget(label, number % 4, 2 * (number // 4))
            grid.addWidget(field, number % 4, 2 * (number // 4) + 1)
            self.fields[name], self.labels[name] = field, label
        self.apply = button("Make it so", self.make_it_so, "Take what was measured as the piece's shape and places")
        self.clear = button("Clear", self.forget, "Forget what was measured")
        self.load = button("From table …", self.ask_table, "Read a CSV of stations or holes")
        self.keep = button(
            "Keep with build", self.keep_with_build, "Keep what was measured with the build on the bench"
        )
        keys = QHBoxLayout()
        for one in (self.apply, self.keep, self.clear, self.load):
            keys.addWidget(one)
        keys.addStretch(1)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(grid)
        left.addLayout(keys)
        self.lay_out(left, self.table, 7)

    def refresh(self) -> None:
        """Rows of the design as drawn; what was measured stays until it is taken or cleared."""
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            return
        study = self.session.apart()

        def work() -> tuple[Stations | None, tuple[Bored, ...]]:
            try:
                found = stations(study.design)
            except BadInput:  # a body taken from CAD has none
                found = None
            return found, bores(study)

        self.says.setText("Looking what there is to measure …")
        self.session.soon("to measure", work, self._take_places, lambda words: self.says.setText(f"! {words}"),
                          "looking what there is to measure")  # fmt: skip

    def _take_places(self, there: tuple[Stations | None, tuple[Bored, ...]]) -> None:
        if not self.isVisible():  # it came when another page had been turned to, which draws something else
            return
        found, drilled = there
        self.rows = []
        if found is not None:
            self.rows = [(one.at_mm, self._asked(one.sizes_mm)) for one in found.stations]
            places = {at for at, _ in self.rows}
            self.rows += [
                (at, dict.fromkeys(sizes, math.nan)) for at, sizes in self.readings.items() if at not in places
            ]
            self.rows.sort(key=lambda one: one[0])
        self.rows += [
            (b.name, {"at": b.at_mm, "off": b.off_mm, "diameter": b.diameter_mm, "depth": b.depth_mm}) for b in drilled
        ]
        self.view.show_things(found, drilled)
        row = max(self.table.currentRow(), 0)
        self._list()
        self.table.selectRow(min(row, len(self.rows) - 1))
        self._choose(self.table.currentRow())
        self._tell()

    @staticmethod
    def _asked(sizes: dict[str, float]) -> dict[str, float]:
        """Both sides are measured of what is drawn as a half width."""
        if "half width" not in sizes:
            return dict(sizes)
        return {
            "back": sizes["back"],
            "belly": sizes["belly"],
            "port": sizes["half width"],
            "starboard": sizes["half width"],
        }

    def _there(self, place: float | str) -> dict[str, float]:
        """What was measured at a station, by its place, or of a hole, by its name."""
        return self.holes.get(place, {}) if isinstance(place, str) else self.readings.get(place, {})

    def _list(self) -> None:
        unit = Units.of("length")

        def told(sizes: dict[str, float]) -> str:
            return ", ".join(f"{name} {show(size, unit, 2)}" for name, size in sizes.items() if math.isfinite(size))

        rows = []
        for place, drawn in self.rows:
            where = place if isinstance(place, str) else f"{show(place, unit, 2)} {unit}"
            rows.append(
                [where, f"{told(drawn)} {unit}" if told(drawn) else "no station", told(self._there(place)) or "not yet"]
            )
        self.table.blockSignals(True)
        fill(self.table, rows)
        self.table.blockSignals(False)

    def _choose(self, row: int) -> None:
        """Fields for what is measured at a row."""
        place, drawn = self.rows[row] if 0 <= row < len(self.rows) else ("", {})
        there = self._there(place) if drawn else {}
        for name, field in self.fields.items():
            asked = name in drawn
            field.setEnabled(asked)
            self.labels[name].setEnabled(asked)
            field.show_value(there.get(name))
            field.setPlaceholderText(
                show(drawn[name], Units.of("length"), 2) if asked and math.isfinite(drawn[name]) else ""
            )

    def _given(self, name: str, value: float) -> None:
        row = self.table.currentRow()
        if not 0 <= row < len(self.rows):
            return
        place, _ = self.rows[row]
        if isinstance(place, str):
            self.holes.setdefault(place, {})[name] = value
        else:
            self.readings.setdefault(place, {})[name] = value
        cell = self.table.item(row, 2)
        if cell is not None:
            unit = Units.of("length")
            cell.setText(", ".join(f"{n} {show(v, unit, 2)}" for n, v in self._there(place).items()))
        self._tell()

    def measured(self) -> tuple[list[Measured], list[HoleMeasured]]:
        """What was measured so far."""
        return (
            [Measured(at, dict(sizes)) for at, sizes in sorted(self.readings.items())],
            [HoleMeasured(name, dict(sizes)) for name, sizes in self.holes.items()],
        )

    def _tell(self) -> None:
        """What the piece as measured does against the drawing, worked out in the background."""
        readings, holes = self.measured()
        self.apply.setEnabled(bool(readings or holes))
        if not readings and not holes:
            self.says.setText(
                "Type what the callipers say, or take it with F2; then make it so. The places stay as drawn."
            )
            return
        design, drawn = self.session.design, self.session.apart()

        def work(_: Told) -> tuple[Study, Uneven | None]:
            new = Study(made(design, readings, holes), drawn)
            of.upright_rest(new)
            of.upright_rest(drawn)
            return new, uneven(new.design, readings)

        stations_there = sum(not isinstance(place, str) for place, _ in self.rows)
        share = f"{len(readings)} of {stations_there} stations measured; elsewhere it is taken to be as far off. "

        def take(found: tuple[Study, Uneven | None]) -> None:
            self.says.setText((share if readings else "") + _words(drawn, *found))

        self.session.tasks.start(
            "as made", work, take, lambda w: self.says.setText(f"! {w}"), words="floating it as made"
        )

    def make_it_so(self) -> None:
        """The design as it was made; undo brings the drawing back."""
        readings, holes = self.measured()
        try:
            new = made(self.session.design, readings, holes)
        except BadInput as error:
            self.says.setText(f"! {error}")
            return
        self.forget()
        self.session.edit(new, "as made")

    def keep_with_build(self) -> None:
        """What was measured goes to the build that lies on the Log bench; the drawing stays as it is."""
        from yellowbob.logbook.store import LogBook
        from yellowbob.shop.kept_made import keep_made

        serial, (readings, holes) = self.session.on_bench, self.measured()
        doing = "keeping it: made"

        def work() -> None:
            if not serial:
                raise BadInput("no build lies on the bench: choose one on the Log bench (6)")
            if not readings and not holes:
                raise BadInput("nothing was measured yet")
            keep_made(LogBook(), serial, readings, holes)

        def done(_: None) -> None:
            if (readings, holes) == self.measured():  # what was measured meanwhile is still to be kept
                self.forget()
            self.says.setText(
                f"Kept with {serial}: its design in the log is as made now; the drawing here is as it was."
            )

        if not self.session.tasks.running(doing):
            self.session.aside(doing, work, done, lambda words: self.says.setText(f"! {words}"))

    def forget(self) -> None:
        self.readings, self.holes = {}, {}
        self._list()
        self._choose(self.table.currentRow())
        self._tell()

    def ask_table(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Stations or holes measured", "", "Tables (*.csv)")
        if name:
            self.take_table(Path(name))

    def take_table(self, path: Path) -> None:
        """Readings out of a CSV of stations, else of holes."""
        try:
            head = path.read_text(encoding="utf-8-sig", errors="replace").partition("\n")[0].lower()
            if "name" in head:
                self.holes |= {one.name: one.sizes_mm for one in read_holes(path)}
            else:
                self.readings |= {one.at_mm: one.sizes_mm for one in read_stations(path)}
        except (OSError, BadInput) as error:
            self.says.setText(f"! {error}")
            return
        self._list()
        self._tell()


def _words(drawn: Study, new: Study, sides: Uneven | None) -> str:
    """The piece as made against the drawing."""
    unit = Units.of("mass")
    before, after = of.buoyancy(drawn), of.buoyancy(new)
    rest, other = of.upright_rest(drawn), of.upright_rest(new)
    volume = 100.0 * (of.outer(new).volume_mm3 / of.outer(drawn).volume_mm3 - 1.0)
    said = [
        f"As made: {volume:+z.1f} % in volume, {show(after.reserve_g, unit, 2)} {unit} to spare for "
        f"{show(before.reserve_g, unit, 2)}"
    ]
    if rest is not None and other is not None:
        said.append(
            f"pitch {math.degrees(other.pitch_rad):+z.1f}° for {math.degrees(rest.pitch_rad):+z.1f}°, draft "
            f"{other.draft_mm:.1f} mm for "
            f"{rest.draft_mm:.1f}"
        )
    elif other is None:
        said.append("it sinks")
    if sides is not None and sides.roll_deg is not None:
        said.append(f"its middle wanders {sides.most_mm:+z.2f} mm: it lists {sides.roll_deg:+z.1f}°")
    return "; ".join(said).replace("-", "−") + "."
