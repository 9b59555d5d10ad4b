"""The Action bench: the build riding waves or flying, over its pages."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QVBoxLayout, QWidget

from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged

if TYPE_CHECKING:
    from yellowbob.app.benches.action.change_page import ChangePage
    from yellowbob.app.benches.action.run_page import RunPage
    from yellowbob.app.benches.action.steady_page import SteadyPage
    from yellowbob.app.benches.action.throw_page import ThrowPage
    from yellowbob.app.benches.action.waves_page import WavesPage


class ActionBench(QWidget):
    """Drawing above, pages below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = ActionView(session)
        self.paged = Paged({
            "Run": self._make_run, "Steady": self._make_steady, "Change": self._make_change, "Waves": self._make_waves,
            "Throw": self._make_throw,
        })  # fmt: skip
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.paged.turned.connect(lambda _: self.view.update())
        self.paged.begin_with("Run")

    def _make_run(self) -> QWidget:
        from yellowbob.app.benches.action.run_page import RunPage

        return RunPage(self.session, self.view)

    def _make_steady(self) -> QWidget:
        from yellowbob.app.benches.action.steady_page import SteadyPage

        return SteadyPage(self.session, self.view)

    def _make_change(self) -> QWidget:
        from yellowbob.app.benches.action.change_page import ChangePage

        return ChangePage(self.session, self.view)

    def _make_waves(self) -> QWidget:
        from yellowbob.app.benches.action.waves_page import WavesPage

        return WavesPage(self.session, self.view)

    def _make_throw(self) -> QWidget:
        from yellowbob.app.benches.action.throw_page import ThrowPage

        return ThrowPage(self.session, self.view)

    @property
    def run(self) -> RunPage:
        return cast("RunPage", self.paged.page("Run"))

    @property
    def steady(self) -> SteadyPage:
        return cast("SteadyPage", self.paged.page("Steady"))

    @property
    def change(self) -> ChangePage:
        return cast("ChangePage", self.paged.page("Change"))

    @property
    def waves(self) -> WavesPage:
        return cast("WavesPage", self.paged.page("Waves"))

    @property
    def throw(self) -> ThrowPage:
        return cast("ThrowPage", self.paged.page("Throw"))

    def remove_selected(self) -> None:
        """Nothing is selected on this bench."""
