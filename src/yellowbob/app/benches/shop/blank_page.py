"""Blank: the stock on hand, the layers of the blank, and what is cut from which board."""

from __future__ import annotations

import numpy as np
from PySide6.QtWidgets import QLineEdit, QVBoxLayout

from yellowbob.app.benches.shop.lines_view import Drawn, LinesView
from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.stock import Stock
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import NumberField, QuantityField
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.tables import fill, table
from yellowbob.ground.errors import BadInput
from yellowbob.shop.blank import Cutting, cut_for
from yellowbob.shop.cutlist import CutList

BETWEEN_MM = 25.0


class BlankPage(ShopPage):
    """Boards typed, copies, kerf; the cut list, drawn above on its boards."""

    def __init__(self, session: Session, view: ShopView, drawn: LinesView, stock: Stock) -> None:
        super().__init__("Blank", session, view, "The blank")
        self.drawn, self.stock = drawn, stock
        self.found: Cutting | None = None
        self.boards = QLineEdit(stock.text)
        self.boards.setAccessibleName("Boards on hand")
        self.boards.setToolTip(
            "Thick x wide x long, such as 18x90x900 mm; more boards after a semicolon; knots as ', knot 300/45/25': "
            "mm from the end, "
            "from the edge, across"
        )
        self.boards.editingFinished.connect(self._typed)
        self.copies = NumberField("Copies", (1.0, 40.0), 1.0)
        self.copies.setMinimumWidth(44)
        self.copies.valueChanged.connect(lambda _: self.refresh())
        self.kerf = QuantityField("Kerf of the saw", "length", 1)
        self.kerf.show_value(2.0)
        self.kerf.given.connect(lambda _: self.refresh())
        self.table = table("Cut list", ("piece", "board", "from its end", "from its edge", "long × wide × thick"))
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(labelled(("Boards", self.boards)))
        left.addLayout(row("Copies", self.copies, "kerf", self.kerf))
        self.lay_out(left, self.table, 6)

    def _typed(self) -> None:
        try:
            self.stock.put(self.boards.text())
        except BadInput as error:
            self.says.setText(f"! {error}")
            return
        self.refresh()

    def refresh(self) -> None:
        """Cut the blanks anew, off the interface's thread."""
        fill(self.table, [])
        self.found = None
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            return
        study, boards = self.session.apart(), self.stock.boards()
        copies, kerf, bed = int(self.copies.value()), self.kerf.value or 0.0, self.stock.bed_mm

        def work(_: Told) -> Cutting:
            return cut_for([study], boards, copies, kerf, bed)

        def failed(words: str) -> None:
            self.says.setText(f"! {words}")
            self.drawn.show_lines((), words)

        self.says.setText("Laying the pieces on the boards …")
        self.session.tasks.start("blank", work, self.take, failed, words="laying pieces on boards")

    def take(self, found: Cutting) -> None:
        """Show a cut list."""
        self.found = found
        (blank,), cuts = found.blanks, found.cuts
        rows = [
            [p.piece.name, f"{p.board + 1}", f"{p.at_mm:.1f} mm", f"{p.off_mm:.1f} mm",
             f"{p.piece.long_mm:.0f} × {p.piece.wide_mm:.1f} × {p.piece.thick_mm:.1f} mm"] for p in cuts.placed
        ]  # fmt: skip
        fill(self.table, rows)
        layers = " + ".join(f"{layer.name} {layer.thick_mm:.1f}" for layer in blank.layers)
        lines = [
            f"<b>{blank.long_mm:.0f} × {blank.wide_mm:.1f} × {blank.high_mm:.1f} mm</b>, for the {blank.way}: "
            f"{layers} mm."
        ]
        lines += list(blank.glue) + ([f"{blank.clamps} clamps."] if blank.clamps else [])
        lines += [f"! {words}" for words in blank.says]
        least = "nothing uses less" if cuts.proven else "perhaps not the least"
        lines.append(f"{cuts.waste_percent:.0f} % of what is cut off is left over; {least}.")
        if not cuts.through:
            lines.append("Some cuts stop in the board: rough the pieces apart first.")
        self.says.setText("<br>".join(lines).replace("-", "−"))
        self.drawn.show_lines(boards_drawn(cuts), "Boards with what is cut from them; the grain runs along them")


def boards_drawn(cuts: CutList) -> tuple[Drawn, ...]:
    """Each board that is used as far as it is drawn, the pieces on it, one under the other."""
    found: list[Drawn] = []
    y = 0.0
    for number, (board, used) in enumerate(zip(cuts.boards, cuts.used_mm, strict=True)):
        if not used:
            continue
        shown = min(board.long_mm, used + 40.0)
        corners = np.array([[0.0, 0.0], [shown, 0.0], [shown, -board.wide_mm], [0.0, -board.wide_mm]]) + [0.0, y]
        found.append(Drawn(corners, filled=True, words=f"board {number + 1}: {board.name}"))
        for one in cuts.placed:
            if one.board == number:
                a, b = one.at_mm, one.off_mm
                box = np.array([[a, -b], [a + one.piece.long_mm, -b], [a + one.piece.long_mm, -b - one.piece.wide_mm],
                                [a, -b - one.piece.wide_mm]]) + [0.0, y]  # fmt: skip
                words = one.piece.name.rpartition(", ")[2]
                found.append(Drawn(box, words=words, at_mm=(a + 2.0, y - b - one.piece.wide_mm / 2.0)))
        for knot in board.knots:
            turn = np.linspace(0.0, 2.0 * np.pi, 25)[:-1]
            ring = np.stack(
                [knot.at_mm + knot.across_mm / 2 * np.cos(turn), y - knot.off_mm + knot.across_mm / 2 * np.sin(turn)], 1
            )
            found.append(Drawn(ring, dashed=True))
        y -= board.wide_mm + BETWEEN_MM
    return tuple(found)
