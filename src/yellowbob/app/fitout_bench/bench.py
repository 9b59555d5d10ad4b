"""The Fit-out bench: the drawing with its cards, and pages for wire, finish, measuring, resin and the shelf."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.fitout_bench.budget_page import BudgetPage
from yellowbob.app.fitout_bench.cards import ClearanceCard, HangCard
from yellowbob.app.fitout_bench.finish_page import FinishPage
from yellowbob.app.fitout_bench.measure_page import MeasurePage, ResinPage
from yellowbob.app.fitout_bench.shelf_page import ShelfPage
from yellowbob.app.fitout_bench.view import FitoutView
from yellowbob.app.fitout_bench.wire_page import WirePage
from yellowbob.app.session import Session
from yellowbob.app.tank.piece_card import PieceCard


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
        self.cards = QStackedWidget()
        self._named: dict[str, QWidget] = {
            "Pieces": self.pieces, "Wire": self.wire, "Finish": self.finish, "Budget": self.budget,
            "Measure": self.measure, "Resin": self.resin, "Shelf": self.shelf,
        }  # fmt: skip
        self.keys: dict[str, QPushButton] = {}
        keys = QHBoxLayout()
        keys.setSpacing(6)
        for name, page in self._named.items():
            self.cards.addWidget(page)
            key = QPushButton(name)
            key.setCheckable(True)
            key.setAccessibleName(f"{name} page")
            key.clicked.connect(lambda _=False, n=name: self.show_page(n))
            keys.addWidget(key)
            self.keys[name] = key
        keys.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addLayout(keys)
        column.addWidget(self.cards)
        self.show_page("Pieces")

    def show_page(self, name: str) -> None:
        """Turn to a page under the drawing; the shelf's list takes more of the room."""
        page = self._named[name]
        self.cards.setCurrentWidget(page)
        tall = name == "Shelf"
        self.cards.setFixedHeight(380 if tall else 200)
        self.view.setMinimumHeight(200 if tall else 300)
        for one, key in self.keys.items():
            key.setChecked(one == name)
        refresh = getattr(page, "refresh", None)
        if refresh is not None:
            refresh()
