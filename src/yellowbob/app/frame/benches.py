"""The benches of a window, by their names; each is built when it is first asked for, so that the window is there sooner."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import Qt
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
        """Tab goes from the header through what is shown of the bench to the verdicts at its foot."""
        bench = self.benches.currentWidget()
        if bench is None:
            return
        paged = getattr(bench, "paged", None)
        keys = list(paged.keys.values()) if paged is not None else []

        def rank(one: QWidget) -> int:
            return 2 if paged is not None and paged.isAncestorOf(one) and one not in keys else 1 if one in keys else 0

        chain = []
        for part in (self.header, bench, self.verdict):
            found = [w for w in _chain(part) if w.focusPolicy() & Qt.FocusPolicy.TabFocus and part.isAncestorOf(w)]
            chain += sorted(found, key=rank)
        for one, other in pairwise(chain):
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


def _chain(start: QWidget) -> Iterator[QWidget]:
    """Every widget of the window, as Tab would come to them, once round."""
    one = start.nextInFocusChain()
    while one is not None and one is not start:
        yield one
        one = one.nextInFocusChain()
