"""The Fit-out bench: the drawing with its cards, and pages for wire, finish, measuring, resin and the shelf."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellowbob.app.benches.fitout.cards import ClearanceCard, HangCard
from yellowbob.app.benches.fitout.view import FitoutView
from yellowbob.app.benches.tank.piece_card import PieceCard
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged

if TYPE_CHECKING:
    from yellowbob.app.benches.fitout.budget_page import BudgetPage
    from yellowbob.app.benches.fitout.finish_page import FinishPage
    from yellowbob.app.benches.fitout.measure_page import MeasurePage, ResinPage
    from yellowbob.app.benches.fitout.paint_page import PaintPage
    from yellowbob.app.benches.fitout.shelf_page import ShelfPage
    from yellowbob.app.benches.fitout.wire_page import WirePage


class PiecesPage(QWidget):
    """The selected piece, how it hangs, and the clearances, side by side."""

    def __init__(self, session: Session, view: FitoutView) -> None:
        super().__init__()
        self.piece = PieceCard(session)
        self.hang = HangCard(session)
        self.clear = ClearanceCard(session, view)
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(10)
        for card, share in ((self.piece, 5), (self.hang, 4), (self.clear, 4)):
            line.addWidget(card, share)


class FitoutBench(QWidget):
    """Every gram that is not the body, known before it is fitted."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = FitoutView(session)
        self.paged = Paged({
            "Pieces": lambda: PiecesPage(session, self.view), "Wire": self._make_wire, "Finish": self._make_finish,
            "Paint": self._make_paint,
            "Budget": self._make_budget, "Measure": self._make_measure, "Resin": self._make_resin,
            "Shelf": self._make_shelf,
        }, tall=("Shelf",))  # fmt: skip
        self.cards, self.keys = self.paged, self.paged.keys
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.paged.turned.connect(lambda name: self.view.setMinimumHeight(200 if self.paged.is_tall(name) else 270))
        self.paged.begin_with("Pieces")

    # ---- pages, brought in when they are first turned to, so that the bench is there sooner

    def _make_wire(self) -> QWidget:
        from yellowbob.app.benches.fitout.wire_page import WirePage

        return WirePage(self.session)

    def _make_finish(self) -> QWidget:
        from yellowbob.app.benches.fitout.finish_page import FinishPage

        return FinishPage(self.session)

    def _make_paint(self) -> QWidget:
        from yellowbob.app.benches.fitout.paint_page import PaintPage

        return PaintPage(self.session)

    def _make_budget(self) -> QWidget:
        from yellowbob.app.benches.fitout.budget_page import BudgetPage

        return BudgetPage(self.session)

    def _make_measure(self) -> QWidget:
        from yellowbob.app.benches.fitout.measure_page import MeasurePage

        return MeasurePage(self.session)

    def _make_resin(self) -> QWidget:
        from yellowbob.app.benches.fitout.measure_page import ResinPage

        return ResinPage(self.session)

    def _make_shelf(self) -> QWidget:
        from yellowbob.app.benches.fitout.shelf_page import ShelfPage

        return ShelfPage(self.session)

    # ---- pages by name, for whoever drives the bench

    @property
    def pieces(self) -> PiecesPage:
        return cast(PiecesPage, self.paged.page("Pieces"))

    @property
    def piece(self) -> PieceCard:
        return self.pieces.piece

    @property
    def hang(self) -> HangCard:
        return self.pieces.hang

    @property
    def clear(self) -> ClearanceCard:
        return self.pieces.clear

    @property
    def paint(self) -> PaintPage:
        return cast("PaintPage", self.paged.page("Paint"))

    @property
    def wire(self) -> WirePage:
        return cast("WirePage", self.paged.page("Wire"))

    @property
    def finish(self) -> FinishPage:
        return cast("FinishPage", self.paged.page("Finish"))

    @property
    def budget(self) -> BudgetPage:
        return cast("BudgetPage", self.paged.page("Budget"))

    @property
    def measure(self) -> MeasurePage:
        return cast("MeasurePage", self.paged.page("Measure"))

    @property
    def resin(self) -> ResinPage:
        return cast("ResinPage", self.paged.page("Resin"))

    @property
    def shelf(self) -> ShelfPage:
        return cast("ShelfPage", self.paged.page("Shelf"))

    def remove_selected(self) -> None:
        """Take the selected piece off."""
        self.piece.remove.click()

    def show_page(self, name: str) -> None:
        """Turn to a page under the drawing; the shelf's list takes more of the room."""
        self.paged.turn_to(name)
