"""What the pages of the Action bench share: fields at the left, words in the middle, a chart at the right; rests awaited."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.paged import SayingPage
from yellowbob.study import of


class MotionPage(SayingPage):
    """A page that works from the rest it is meant for; where that is not there yet, it comes again when it is."""

    AWAITED: tuple[object, ...] = (of.rests,)
    """The slow results that it shows."""

    def __init__(self, title: str, session: Session, view: ActionView, says: str) -> None:
        super().__init__(title, session, says)
        self.view = view
        session.arrived.connect(self._arrived)

    def _arrived(self, asked: object) -> None:
        if asked in self.AWAITED:
            self._follow()

    def rests_there(self) -> bool:
        """Whether its rests are there; they are asked for where not, and that is said."""
        if self.session.fault or self.session.ask(of.rests) is not None:
            return True
        self.says.setText("Looking for its rests …")
        return False

    def lay_out(self, left: QVBoxLayout, chart: Chart, *above: Any) -> None:
        """Fields, words under what stands above them, chart."""
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        middle = QVBoxLayout()
        for one in above:
            middle.addWidget(one)
        middle.addWidget(self.says, 1)
        line.addLayout(left, 3)
        line.addLayout(middle, 5)
        line.addWidget(chart, 6)
