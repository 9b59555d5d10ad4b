"""Wire and sheet: how each wire is bent, and what is cut from sheet, drawn above."""

from __future__ import annotations

import numpy as np
from PySide6.QtWidgets import QVBoxLayout

from yellowbob.app.benches.shop.lines_view import Drawn, LinesView
from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.tables import fill, table
from yellowbob.ground.quantities import show
from yellowbob.shop.bending import Bending, bendings, drawn_in
from yellowbob.shop.flat import FILING_MM, Flat, flats


class WirePage(ShopPage):
    """Wires, then pieces of sheet; the selected one is drawn and told."""

    def __init__(self, session: Session, view: ShopView, drawn: LinesView) -> None:
        super().__init__("Wire and sheet", session, view, "How it is made")
        self.drawn = drawn
        self.things: list[Bending | Flat] = []
        self.table = table("Wires and pieces of sheet", ("what", "of", "size", "how many"))
        self.table.currentCellChanged.connect(lambda row, *_: self._choose(row))
        self.lay_out(QVBoxLayout(), self.table, 9)

    def refresh(self) -> None:
        """List them anew."""
        self.things = []
        if self.session.fault:
            fill(self.table, [])
            self.says.setText(f"! {self.session.fault}")
            return
        unit, study = Units.of("length"), self.session.study
        bent, flat = bendings(study), flats(study)
        self.things = [*bent, *flat]
        rows = [
            [
                b.name,
                f"{b.material} {show(b.diameter_mm, unit, 1)} {unit}",
                f"cut {show(b.cut_mm, unit, 1)} {unit}",
                "1",
            ]
            for b in bent
        ]
        for one in flat:
            long, wide = (float(v) for v in np.ptp(one.outline, axis=0))
            size = f"{show(long, unit, 1)} × {show(wide, unit, 1)} {unit}"
            rows.append([one.name, f"{one.material} {show(one.thick_mm, unit, 1)} {unit}", size, f"{one.count}"])
        row = max(self.table.currentRow(), 0)
        self.table.blockSignals(True)
        fill(self.table, rows)
        self.table.selectRow(min(row, len(rows) - 1))
        self.table.blockSignals(False)
        self._choose(self.table.currentRow())

    def _choose(self, row: int) -> None:
        if not 0 <= row < len(self.things):
            self.says.setText("No wire, and nothing cut from sheet.")
            self.drawn.show_lines((), "No wire, and nothing cut from sheet.")
            return
        one = self.things[row]
        if isinstance(one, Flat):
            lines = [Drawn(one.outline), Drawn(one.sawn, dashed=True)]
            lines += [Drawn(line, closed=False, dashed=True, words=words) for line, words in one.lines]
            told = f"{one.name}: saw on the dashed line, file {FILING_MM:g} mm down to the full one"
            self.drawn.show_lines(tuple(lines), told)
            self.says.setText("<br>".join([f"<b>{one.count} of {one.material}</b>", *one.words]))
            return
        wire = self.session.design.wires[row]
        lines = [Drawn(line, closed=False) for line in drawn_in(wire)]
        self.drawn.show_lines(tuple(lines), f"{one.name}, from port; loops are circles through the middle of the wire")
        legs = " · ".join(f"{leg:.1f}" for leg in one.legs_mm)
        bends = ", ".join(f"{b.turn_deg:.0f}° at {b.along_mm:.1f}" for b in one.bends)
        said = [f"<b>Legs</b> {legs} mm", *([f"<b>Bends</b>, along the straight wire: {bends} mm"] if bends else [])]
        said += [f"{k}. {step}" for k, step in enumerate(one.steps, 1)]
        self.says.setText("<br>".join([*said, *(f"! {words}" for words in one.says)]))
