"""The Log bench: the builds and their entries over its pages."""

from __future__ import annotations

from functools import partial
from importlib import import_module
from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.view import LogView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged

if TYPE_CHECKING:
    from yellowbob.app.benches.log.found_pages import TankPage, TaughtPage, WaterPage
    from yellowbob.app.benches.log.pages import BuildPage, LogPage, WeighPage

PAGES: dict[str, tuple[str, str]] = {
    "Build": ("pages", "BuildPage"), "Weigh": ("pages", "WeighPage"), "Tank test": ("found_pages", "TankPage"),
    "Water test": ("found_pages", "WaterPage"), "Taught": ("found_pages", "TaughtPage"),
}  # fmt: skip
"""Each page's module in this folder, and its widget."""


class LogBench(QWidget):
    """Lists above, pages below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.book = Book(session)
        self.view = LogView(self.book)
        self.paged = Paged({name: partial(self._make, name) for name in PAGES})
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.view.refresh()
        self.paged.turn_to("Build")

    def _make(self, name: str) -> QWidget:
        module, widget = PAGES[name]
        made = getattr(import_module(f"yellowbob.app.benches.log.{module}"), widget)(self.book)
        return cast("LogPage", made)

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
    def taught(self) -> TaughtPage:
        return cast("TaughtPage", self.paged.page("Taught"))

    def remove_selected(self) -> None:
        """Entries are taken off by the command line."""
