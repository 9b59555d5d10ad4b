"""The Shop bench: the body in its blank, or what the page draws, over its pages."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.shop.stock import Stock
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.paged import Paged
from yellowbob.app.widgets.theme import wear

if TYPE_CHECKING:
    from yellowbob.app.benches.shop.blank_page import BlankPage
    from yellowbob.app.benches.shop.cost_page import CostPage, MouldPage
    from yellowbob.app.benches.shop.lines_view import LinesView
    from yellowbob.app.benches.shop.list_pages import HolesPage, StationsPage
    from yellowbob.app.benches.shop.made_page import MadePage
    from yellowbob.app.benches.shop.packet_page import PacketPage
    from yellowbob.app.benches.shop.preview import Preview
    from yellowbob.app.benches.shop.schedule_page import SchedulePage
    from yellowbob.app.benches.shop.timeline import Timeline
    from yellowbob.app.benches.shop.wire_page import WirePage

DRAWN = {"Blank": "lines", "Wire": "lines", "Schedule": "timeline", "Packet": "preview"}
"""What stands above a page where it is not the body in its blank."""


class ShopBench(QWidget):
    """Drawing above, pages below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = ShopView(session)
        self.stock = Stock(self, session.timers.settings)
        self.above = QStackedWidget()
        self.above.addWidget(self.view)
        self._drawn: dict[str, QWidget] = {}
        self.paged = Paged({
            "Stations": self._make_stations, "Holes": self._make_holes, "Blank": self._make_blank, "Wire": self._make_wire,
            "Mould": self._make_mould, "Schedule": self._make_schedule, "Hours": self._make_cost, "As made": self._make_made,
            "Packet": self._make_packet,
        })  # fmt: skip
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.above, 1)
        column.addWidget(self.paged)
        self.paged.turned.connect(self._turned)
        self.paged.begin_with("Stations")

    def _turned(self, name: str) -> None:
        self.above.setCurrentWidget(self._drawn.get(DRAWN.get(name, ""), self.view))

    def _kept(self, name: str, make: Callable[[], QWidget]) -> QWidget:
        """What is drawn above, made once."""
        if name not in self._drawn:
            self._drawn[name] = made = make()
            self.above.addWidget(made)
            wear(made)
        return self._drawn[name]

    @property
    def lines(self) -> LinesView:
        """Wires, sheet and boards."""
        from yellowbob.app.benches.shop.lines_view import LinesView

        return cast("LinesView", self._kept("lines", lambda: LinesView("Shop: lines to scale")))

    @property
    def timeline(self) -> Timeline:
        """The schedule over its days."""
        from yellowbob.app.benches.shop.timeline import Timeline

        return cast("Timeline", self._kept("timeline", Timeline))

    @property
    def preview(self) -> Preview:
        """The packet's pages."""
        from yellowbob.app.benches.shop.preview import Preview

        return cast("Preview", self._kept("preview", lambda: Preview(self.session)))

    def _make_stations(self) -> QWidget:
        from yellowbob.app.benches.shop.list_pages import StationsPage

        return StationsPage(self.session, self.view, self.stock)

    def _make_holes(self) -> QWidget:
        from yellowbob.app.benches.shop.list_pages import HolesPage

        return HolesPage(self.session, self.view)

    def _make_blank(self) -> QWidget:
        from yellowbob.app.benches.shop.blank_page import BlankPage

        return BlankPage(self.session, self.view, self.lines, self.stock)

    def _make_wire(self) -> QWidget:
        from yellowbob.app.benches.shop.wire_page import WirePage

        return WirePage(self.session, self.view, self.lines)

    def _make_mould(self) -> QWidget:
        from yellowbob.app.benches.shop.cost_page import MouldPage

        return MouldPage(self.session, self.view)

    def _make_schedule(self) -> QWidget:
        from yellowbob.app.benches.shop.schedule_page import SchedulePage

        return SchedulePage(self.session, self.view, self.timeline, self.stock)

    def _make_cost(self) -> QWidget:
        from yellowbob.app.benches.shop.cost_page import CostPage

        return CostPage(self.session, self.view)

    def _make_made(self) -> QWidget:
        from yellowbob.app.benches.shop.made_page import MadePage

        return MadePage(self.session, self.view)

    def _make_packet(self) -> QWidget:
        from yellowbob.app.benches.shop.packet_page import PacketPage

        return PacketPage(self.session, self.view, self.preview, self.stock)

    @property
    def stations(self) -> StationsPage:
        return cast("StationsPage", self.paged.page("Stations"))

    @property
    def holes(self) -> HolesPage:
        return cast("HolesPage", self.paged.page("Holes"))

    @property
    def blank(self) -> BlankPage:
        return cast("BlankPage", self.paged.page("Blank"))

    @property
    def wire(self) -> WirePage:
        return cast("WirePage", self.paged.page("Wire"))

    @property
    def mould(self) -> MouldPage:
        return cast("MouldPage", self.paged.page("Mould"))

    @property
    def schedule(self) -> SchedulePage:
        return cast("SchedulePage", self.paged.page("Schedule"))

    @property
    def cost(self) -> CostPage:
        return cast("CostPage", self.paged.page("Hours"))

    @property
    def made(self) -> MadePage:
        return cast("MadePage", self.paged.page("As made"))

    @property
    def packet(self) -> PacketPage:
        return cast("PacketPage", self.paged.page("Packet"))

    def remove_selected(self) -> None:
        """Nothing is selected on this bench."""
