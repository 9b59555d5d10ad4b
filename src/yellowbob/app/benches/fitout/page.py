"""What the pages of the Fit-out bench share: a heading, fields in a grid, a line that says what is wrong."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QVBoxLayout,
    QWidget,
)

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import explain
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.words import Words
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.units import Dimension
from yellowbob.study import Study


class Page(CardPage):
    """A page on which something is worked out or written into the design."""

    def __init__(self, title: str, session: Session, about: str = "") -> None:
        super().__init__(title, session)
        across = QHBoxLayout(self)
        across.setContentsMargins(14, 8, 14, 8)
        across.setSpacing(14)
        self.column = QVBoxLayout()
        self.column.setSpacing(5)
        self.beside = QVBoxLayout()
        across.addLayout(self.column, 1)
        across.addLayout(self.beside, 0)
        self.heading = QLabel(title)
        self.heading.setObjectName("title")
        self.about = Words(about)
        self.about.setObjectName("soft")
        if not about:
            self.about.hide()
        self.line = QHBoxLayout()
        self.line.addWidget(self.heading)
        self.line.addStretch(1)
        self.column.addLayout(self.line)
        self.column.addWidget(self.about)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(4)
        self.column.addLayout(self.grid)
        self.said = Words()
        self.said.setAccessibleName(f"{title}: what it says")

    def say(self, words: str, wrong: bool = False) -> None:
        self.said.setText(f"! {words}" if wrong and words else words)
        self.said.setObjectName("wrong" if wrong else "")
        self.said.style().polish(self.said)

    def _refused(self, words: str) -> None:
        self.say(words, wrong=True)

    def sound_study(self) -> Study:
        """The study of the design as it is. Raises BadInput where it cannot be built, or is not yet."""
        if self.session.fault:
            raise BadInput(self.session.fault)
        return self.session.study

    def attempt(self, work: Callable[[], Any]) -> bool:
        """Do something that may be refused; the reason is shown here."""
        try:
            work()
        except (YellowBobError, ValueError) as error:
            self.say(explain(error), wrong=True)
            return False
        return True

    def field(
        self, name: str, dimension: Dimension, given: Callable[[float], Any], decimals: int | None = None
    ) -> QuantityField:
        made = QuantityField(name, dimension, decimals)
        made.setMaximumWidth(130)
        made.refused.connect(lambda words: self.say(words, wrong=True) if words else None)
        made.given.connect(lambda value: self.attempt(lambda: given(value)))
        return made

    def put(self, row: int, column: int, label: str, widget: QWidget) -> QLabel:
        words = QLabel(label)
        words.setObjectName("soft")
        words.setBuddy(widget)
        self.grid.addWidget(words, row, 2 * column)
        self.grid.addWidget(widget, row, 2 * column + 1)
        return words

    def refresh(self) -> None:
        """Show the design as it is."""
