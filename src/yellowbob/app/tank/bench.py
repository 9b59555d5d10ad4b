"""The Tank bench: the drawing above, cards below."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellowbob.app.session import Session
from yellowbob.app.tank.cards import RestsCard, WoodWaterCard
from yellowbob.app.tank.piece_card import PieceCard
from yellowbob.app.tank.view import TankView


class TankBench(QWidget):
    """How it sits, and what can be changed about it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.view = TankView(session)
        self.piece = PieceCard(session)
        self.water = WoodWaterCard(session)
        self.rests = RestsCard(session)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        column.addWidget(self.view, 1)
        self.cards = QWidget()
        cards = QHBoxLayout(self.cards)
        cards.setContentsMargins(0, 0, 0, 0)
        cards.setSpacing(10)
        cards.addWidget(self.piece, 5)
        cards.addWidget(self.water, 3)
        cards.addWidget(self.rests, 2)
        for card in (self.piece, self.water, self.rests):
            card.setMinimumHeight(186)
            card.setMaximumHeight(200)
        column.addWidget(self.cards)
