"""The Fit-out bench: the drawing with its cards, and pages for wire, finish, measuring, resin and the shelf."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellowbob.app.benches.fitout.budget_page import BudgetPage
from yellowbob.app.benches.fitout.cards import ClearanceCard, HangCard
from yellowbob.app.benches.fitout.finish_page import FinishPage
from yellowbob.app.benches.fitout.measure_page import MeasurePage, ResinPage
from yellowbob.app.benches.fitout.shelf_page import ShelfPage
from yellowbob.app.benches.fitout.view import FitoutView
from yellowbob.app.benches.fitout.wire_page import WirePage
from yellowbob.app.benches.tank.piece_card import PieceCard
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged


def _same(page: QWidget) -> QWidget:
    return page


class FitoutBench(QWidget):
    """Every gram that is not the body, known before it is fitted."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = FitoutView(session)
        self.wire, self.finish, self.budget = WirePage(session), FinishPage(session), BudgetPage(session)
        self.measure, self.resin, self.shelf = MeasurePage(session), ResinPage(session), ShelfPage(session)
        self.piece = PieceCard(session)
        self.hang = HangCard(session)
        self.clear = ClearanceCard(session, self.view)
        self.pieces = QWidget()
        line = QHBoxLayout(self.pieces)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(10)
        for card, share in ((self.piece, 5), (self.hang, 4), (self.clear, 4)):
            line.addWidget(card, share)
        named: dict[str, QWidget] = {
            "Pieces": self.pieces, "Wire": self.wire, "Finish": self.finish, "Budget": self.budget,
            "Measure": self.measure, "Resin": self.resin, "Shelf": self.shelf,
        }  # fmt: skip
        self.paged = Paged({name: partial(_same, page) for name, page in named.items()}, tall=("Shelf",))
        self.cards, self.keys = self.paged, self.paged.keys
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.paged.turned.connect(lambda name: self.view.setMinimumHeight(200 if self.paged.is_tall(name) else 300))
        self.show_page("Pieces")

    def remove_selected(self) -> None:
        """Take the selected piece off."""
        self.piece.remove.click()

    def show_page(self, name: str) -> None:
        """Turn to a page under the drawing; the shelf's list takes more of the room."""
        self.paged.turn_to(name)
