"""The Shop bench: the body in its blank over its pages."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QVBoxLayout, QWidget

from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged

if TYPE_CHECKING:
    from yellowbob.app.benches.shop.list_pages import HolesPage, StationsPage
    from yellowbob.app.benches.shop.packet_page import PacketPage
    from yellowbob.app.benches.shop.schedule_page import SchedulePage


class ShopBench(QWidget):
    """Drawing above, pages below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = ShopView(session)
        self.paged = Paged({
            "Stations": self._make_stations, "Holes": self._make_holes, "Schedule": self._make_schedule,
            "Packet": self._make_packet,
        })  # fmt: skip
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.paged.turn_to("Stations")

    def _make_stations(self) -> QWidget:
        from yellowbob.app.benches.shop.list_pages import StationsPage

        return StationsPage(self.session, self.view)

    def _make_holes(self) -> QWidget:
        from yellowbob.app.benches.shop.list_pages import HolesPage

        return HolesPage(self.session, self.view)

    def _make_schedule(self) -> QWidget:
        from yellowbob.app.benches.shop.schedule_page import SchedulePage

        return SchedulePage(self.session, self.view)

    def _make_packet(self) -> QWidget:
        from yellowbob.app.benches.shop.packet_page import PacketPage

        return PacketPage(self.session, self.view)

    @property
    def stations(self) -> StationsPage:
        return cast("StationsPage", self.paged.page("Stations"))

    @property
    def holes(self) -> HolesPage:
        return cast("HolesPage", self.paged.page("Holes"))

    @property
    def schedule(self) -> SchedulePage:
        return cast("SchedulePage", self.paged.page("Schedule"))

    @property
    def packet(self) -> PacketPage:
        return cast("PacketPage", self.paged.page("Packet"))

    def remove_selected(self) -> None:
        """Nothing is selected on this bench."""
