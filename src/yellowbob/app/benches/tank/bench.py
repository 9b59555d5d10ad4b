"""The Tank bench: the drawing above; below it pages for pieces, landings, pose, variants, odds and checks."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellowbob.app.benches.tank.piece_card import PieceCard
from yellowbob.app.benches.tank.poser import Poser
from yellowbob.app.benches.tank.view import TankView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import RestsCard, WoodWaterCard
from yellowbob.app.widgets.paged import Paged

if TYPE_CHECKING:
    from yellowbob.app.benches.tank.checks_page import ChecksPage
    from yellowbob.app.benches.tank.cocking_page import CockingPage
    from yellowbob.app.benches.tank.landing_page import LandingPage
    from yellowbob.app.benches.tank.load_page import LoadPage
    from yellowbob.app.benches.tank.odds_page import OddsPage
    from yellowbob.app.benches.tank.pose_page import PosePage
    from yellowbob.app.benches.tank.variants_page import VariantsPage


class PiecesPage(QWidget):
    """The selected piece, wood and water, and the rests, side by side."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.piece = PieceCard(session)
        self.water = WoodWaterCard(session)
        self.rests = RestsCard(session)
        cards = QHBoxLayout(self)
        cards.setContentsMargins(0, 0, 0, 0)
        cards.setSpacing(10)
        for card, share in ((self.piece, 5), (self.water, 3), (self.rests, 2)):
            cards.addWidget(card, share)


class TankBench(QWidget):
    """How it sits, whether it comes right, and what ballast makes it do so."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.poser = Poser(session)
        self.view = TankView(session, self.poser)
        self.paged = Paged({
            "Pieces": lambda: PiecesPage(session), "Landings": self._make_landings, "Pose it": self._make_pose,
            "Variants": self._make_variants, "Odds": self._make_odds, "Checks": self._make_checks,
            "Cocking": self._make_cocking, "Load": self._make_load,
        }, tall=("Landings",))  # fmt: skip
        self.cards = self.paged
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.view, 1)
        column.addWidget(self.paged)
        self.paged.turned.connect(self._turned)
        self.paged.begin_with("Pieces")

    def _turned(self, name: str) -> None:
        """Posing goes with its page, and with the map that poses too; what another page showed for a moment is over."""
        if name not in ("Pose it", "Landings"):
            self.poser.end()
        if name != "Odds":
            self.session.fan = ()
        if not self.poser.posing:
            self.session.show_posture(None)

    # ---- pages, brought in when they are first turned to, so that the window is there sooner

    def _make_landings(self) -> QWidget:
        from yellowbob.app.benches.tank.landing_page import LandingPage

        return LandingPage(self.session, self.poser)

    def _make_pose(self) -> QWidget:
        from yellowbob.app.benches.tank.pose_page import PosePage

        return PosePage(self.session, self.poser)

    def _make_variants(self) -> QWidget:
        from yellowbob.app.benches.tank.variants_page import VariantsPage

        return VariantsPage(self.session)

    def _make_odds(self) -> QWidget:
        from yellowbob.app.benches.tank.odds_page import OddsPage

        return OddsPage(self.session)

    def _make_checks(self) -> QWidget:
        from yellowbob.app.benches.tank.checks_page import ChecksPage

        return ChecksPage(self.session)

    def _make_cocking(self) -> QWidget:
        from yellowbob.app.benches.tank.cocking_page import CockingPage

        return CockingPage(self.session)

    def _make_load(self) -> QWidget:
        from yellowbob.app.benches.tank.load_page import LoadPage

        return LoadPage(self.session)

    # ---- pages by name, for whoever drives the bench

    @property
    def pieces(self) -> PiecesPage:
        return cast(PiecesPage, self.paged.page("Pieces"))

    @property
    def piece(self) -> PieceCard:
        return self.pieces.piece

    @property
    def water(self) -> WoodWaterCard:
        return self.pieces.water

    @property
    def rests(self) -> RestsCard:
        return self.pieces.rests

    @property
    def landing(self) -> LandingPage:
        return cast("LandingPage", self.paged.page("Landings"))

    @property
    def pose(self) -> PosePage:
        return cast("PosePage", self.paged.page("Pose it"))

    @property
    def variants(self) -> VariantsPage:
        return cast("VariantsPage", self.paged.page("Variants"))

    @property
    def odds(self) -> OddsPage:
        return cast("OddsPage", self.paged.page("Odds"))

    @property
    def checks(self) -> ChecksPage:
        return cast("ChecksPage", self.paged.page("Checks"))

    @property
    def cocking(self) -> CockingPage:
        return cast("CockingPage", self.paged.page("Cocking"))

    @property
    def load(self) -> LoadPage:
        return cast("LoadPage", self.paged.page("Load"))

    def remove_selected(self) -> None:
        """Take the selected piece off."""
        self.piece.remove.click()

    def open_check(self, key: str) -> None:
        """Turn to the checks, at one of them."""
        self.paged.turn_to("Checks")
        self.checks.open(key)
