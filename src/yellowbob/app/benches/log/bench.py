"""The Log bench: the builds and their entries over its pages."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from importlib import import_module
from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.view import LogView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged
from yellowbob.app.widgets.theme import wear

if TYPE_CHECKING:
    from yellowbob.app.benches.log.build_page import BuildPage
    from yellowbob.app.benches.log.found_pages import TankPage, TaughtPage
    from yellowbob.app.benches.log.pages import LogPage, WeighPage
    from yellowbob.app.benches.log.picture_page import PicturePage
    from yellowbob.app.benches.log.sets_pages import ChartPage, ComparePage
    from yellowbob.app.benches.log.water_page import WaterPage

PAGES: dict[str, tuple[str, str]] = {
    "Build": ("build_page", "BuildPage"), "Weigh": ("pages", "WeighPage"), "Tank test": ("found_pages", "TankPage"),
    "Picture": ("picture_page", "PicturePage"), "Water test": ("water_page", "WaterPage"),
    "Compare": ("sets_pages", "ComparePage"), "Chart": ("sets_pages", "ChartPage"), "Taught": ("found_pages", "TaughtPage"),
}  # fmt: skip
"""Each page's module in this folder, and its widget."""


def _picture() -> QWidget:
    from yellowbob.app.widgets.picture_view import PictureView

    return PictureView("Picture of the build", "Open or drop a picture of the build in the water.", ("nose", "tail"))


def _compared() -> QWidget:
    from yellowbob.app.benches.log.sets_view import CompareView

    return CompareView()


def _chart() -> QWidget:
    from yellowbob.app.widgets.charts import Chart

    return Chart("Two figures of the builds", "no build has both figures")


SIGHTS: dict[str, Callable[[], QWidget]] = {"Picture": _picture, "Compare": _compared, "Chart": _chart}


class LogBench(QWidget):
    """Lists above, pages below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.book = Book(session)
        self.view = LogView(self.book)
        self.sights = QStackedWidget()
        self.sights.addWidget(self.view)
        self._sights: dict[str, QWidget] = {}
        self.paged = Paged({name: partial(self._make, name) for name in PAGES})
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.sights, 1)
        column.addWidget(self.paged)
        self.view.refresh()
        self.paged.turned.connect(lambda name: self.sights.setCurrentWidget(self.sight(name) or self.view))
        self.paged.begin_with("Build")

    def _make(self, name: str) -> QWidget:
        module, widget = PAGES[name]
        page = getattr(import_module(f"yellowbob.app.benches.log.{module}"), widget)
        sight = self.sight(name)
        return cast("LogPage", page(self.book) if sight is None else page(self.book, sight))

    def sight(self, name: str) -> QWidget | None:
        """What stands above a page in the place of the lists; made when it is first asked for."""
        if name in SIGHTS and name not in self._sights:
            self._sights[name] = made = SIGHTS[name]()
            self.sights.addWidget(made)
            wear(made)
        return self._sights.get(name)

    @property
    def building(self) -> BuildPage:
        return cast("BuildPage", self.paged.page("Build"))

    @property
    def weigh(self) -> WeighPage:
        return cast("WeighPage", self.paged.page("Weigh"))

    @property
    def tank(self) -> TankPage:
        return cast("TankPage", self.paged.page("Tank test"))

    @property
    def water(self) -> WaterPage:
        return cast("WaterPage", self.paged.page("Water test"))

    @property
    def picture(self) -> PicturePage:
        return cast("PicturePage", self.paged.page("Picture"))

    @property
    def compared(self) -> ComparePage:
        return cast("ComparePage", self.paged.page("Compare"))

    @property
    def chart(self) -> ChartPage:
        return cast("ChartPage", self.paged.page("Chart"))

    @property
    def taught(self) -> TaughtPage:
        return cast("TaughtPage", self.paged.page("Taught"))

    def remove_selected(self) -> None:
        """Entries are taken off by the command line."""
