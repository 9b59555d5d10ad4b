"""The benches of a window, by their names; each is built when it is first asked for, so that the window is there sooner."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QStackedWidget, QWidget

from yellowbob.app.benches.registry import BENCHES, SIDES
from yellowbob.app.session.session import Session

if TYPE_CHECKING:
    from yellowbob.app.benches.action.bench import ActionBench
    from yellowbob.app.benches.begin.bench import NewBench
    from yellowbob.app.benches.begin.keys_page import KeysPage
    from yellowbob.app.benches.fitout.bench import FitoutBench
    from yellowbob.app.benches.lines.bench import LinesBench
    from yellowbob.app.benches.log.bench import LogBench
    from yellowbob.app.benches.shop.bench import ShopBench
    from yellowbob.app.benches.tank.bench import TankBench


class HasBenches:
    """What a window has that shows them."""

    session: Session
    benches: QStackedWidget
    built: dict[str, QWidget]

    def bench(self, title: str) -> QWidget:
        """A bench by its title."""
        if title not in self.built:
            entry = next(b for b in (*BENCHES, *SIDES) if b.title == title)
            self.built[title] = made = entry.build(self.session)
            self.benches.addWidget(made)
        return self.built[title]

    @property
    def begin(self) -> NewBench:
        return cast("NewBench", self.bench("New"))

    @property
    def keys(self) -> KeysPage:
        return cast("KeysPage", self.bench("Keys"))

    @property
    def lines(self) -> LinesBench:
        return cast("LinesBench", self.bench("Lines"))

    @property
    def fitout(self) -> FitoutBench:
        return cast("FitoutBench", self.bench("Fit-out"))

    @property
    def tank(self) -> TankBench:
        return cast("TankBench", self.bench("Tank"))

    @property
    def action(self) -> ActionBench:
        return cast("ActionBench", self.bench("Action"))

    @property
    def shop(self) -> ShopBench:
        return cast("ShopBench", self.bench("Shop"))

    @property
    def logged(self) -> LogBench:
        return cast("LogBench", self.bench("Log"))
