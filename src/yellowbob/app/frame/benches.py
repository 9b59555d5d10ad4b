"""The benches of a window, by their names; each is built when it is first asked for, so that the window is there sooner."""

from __future__ import annotations

from itertools import pairwise
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QLineEdit, QStackedWidget, QWidget

from yellowbob.app.benches.registry import BENCHES, SIDES
from yellowbob.app.frame.header import Header
from yellowbob.app.frame.verdict_line import VerdictLine
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.usual import hover_of

if TYPE_CHECKING:
    from yellowbob.app.benches.action.bench import ActionBench
    from yellowbob.app.benches.begin.bench import NewBench
    from yellowbob.app.benches.begin.keys_page import KeysPage
    from yellowbob.app.benches.fitout.bench import FitoutBench
    from yellowbob.app.benches.lines.bench import LinesBench
    from yellowbob.app.benches.log.bench import LogBench
    from yellowbob.app.benches.shop.bench import ShopBench
    from yellowbob.app.benches.tank.bench import TankBench

MOST_STEPS = 20_000
"""No window has more widgets."""


class HasBenches:
    """What a window has that shows them."""

    session: Session
    benches: QStackedWidget
    built: dict[str, QWidget]
    header: Header
    verdict: VerdictLine

    def bench(self, title: str) -> QWidget:
        """A bench by its title."""
        if title not in self.built:
            entry = next(b for b in (*BENCHES, *SIDES) if b.title == title)
            self.built[title] = made = entry.build(self.session)
            self.benches.addWidget(made)
            paged = getattr(made, "paged", None)
            if paged is not None:
                paged.turned.connect(self.order_tabs)
        return self.built[title]

    def order_tabs(self, *_: object) -> None:
        """Tab goes from the header through what is shown of the bench to the verdicts at its foot: in a turn of its own."""
        QTimer.singleShot(0, self._order_tabs)

    def _order_tabs(self) -> None:
        bench = self.benches.currentWidget()
        if bench is None:
            return
        paged = getattr(bench, "paged", None)
        page = None if paged is None else paged.currentWidget()
        keys = list(paged.keys.values()) if paged is not None else []
        above = [w for w in _tabbed(bench) if paged is None or not paged.isAncestorOf(w)]
        inside = [] if page is None else _tabbed(page)
        for one, other in pairwise([*_tabbed(self.header), *above, *keys, *inside, *_tabbed(self.verdict)]):
            QWidget.setTabOrder(one, other)
        for field in bench.findChildren(QLineEdit):
            if not field.toolTip() and not isinstance(field, QuantityField):  # those tell in the units read then
                field.setToolTip(hover_of(field.accessibleName()))

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


def _tabbed(part: QWidget) -> list[QWidget]:
    """What of a part can be tabbed to, in the order that Tab comes to it now."""
    found = {w for w in part.findChildren(QWidget) if w.focusPolicy() & Qt.FocusPolicy.TabFocus}
    one = next(iter(part.findChildren(QWidget)), None)
    in_order: list[QWidget] = []
    steps = 0
    while one is not None and len(in_order) < len(found) and steps < MOST_STEPS:
        if one in found:
            in_order.append(one)
        one, steps = one.nextInFocusChain(), steps + 1
    return in_order
