"""The benches of a window, by their names; each is built when it is first asked for, so that the window is there sooner."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from itertools import pairwise
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtWidgets import QApplication, QLineEdit, QStackedWidget, QWidget

from yellowbob.app.benches.registry import BENCHES, SIDES
from yellowbob.app.frame.header import Header
from yellowbob.app.frame.verdict_line import VerdictLine
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.paged import Paged
from yellowbob.app.widgets.theme import wear
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
TAB = Qt.FocusPolicy.TabFocus
TABS_MS = 400
"""After a page was turned to: first it is shown, and what it asks for comes in. Whoever presses Tab sooner has it at once."""


class HasBenches:
    """What a window has that shows them."""

    session: Session
    benches: QStackedWidget
    built: dict[str, QWidget]
    header: Header
    verdict: VerdictLine

    def bench(self, title: str) -> QWidget:
        """A bench by its title."""
        for _ in self.bench_in_turns(title):
            pass
        return self.built[title]

    def bench_in_turns(self, title: str) -> Iterator[QWidget]:
        """Make a bench that is not there yet, then dress its parts, as one is asked for after the other."""
        if title not in self.built:
            entry = next(b for b in (*BENCHES, *SIDES) if b.title == title)
            self.built[title] = made = entry.build(self.session)
            self.benches.addWidget(made)
            self._bare[title] = list(worn_apart(made))
            paged = getattr(made, "paged", None)
            if paged is not None:
                paged.turned.connect(self.order_tabs)
            yield made
        bare = self._bare.get(title, [])
        while bare:
            part = bare.pop(0)
            wear(part)
            yield part

    @cached_property
    def _bare(self) -> dict[str, list[QWidget]]:
        """Parts of benches that are not dressed yet."""
        return {}

    def order_tabs(self, *_: object) -> None:
        """Tab goes from the header through what is shown of the bench to the verdicts at its foot: once it is shown."""
        self.tabs_due.start()

    @cached_property
    def tabs_due(self) -> QTimer:
        """Runs until they are in order."""
        due = QTimer(cast(QObject, self))
        due.setSingleShot(True)
        due.setInterval(TABS_MS)
        due.timeout.connect(self.put_tabs_in_order)
        return due

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab, or Shift and Tab: in the order of the page that is seen."""
        focus = QApplication.focusWidget()
        leaves = focus is None or not focus.isVisibleTo(cast(QWidget, self))  # it is turned away with its page
        if self.tabs_due.isActive() and not leaves:
            self.put_tabs_in_order()
        return super().focusNextPrevChild(forward)  # type: ignore[misc]

    def put_tabs_in_order(self) -> None:
        """What is done once a page is shown: Tab's order through it, and what its fields say on hover."""
        self.tabs_due.stop()
        bench = self.benches.currentWidget()
        if bench is None:
            return
        paged = getattr(bench, "paged", None)
        page = None if paged is None else paged.currentWidget()
        keys = list(paged.keys.values()) if paged is not None else []
        in_pages = set() if paged is None else {*paged.findChildren(QWidget)}
        places = _places(self.header)
        header, inside, verdicts = (_tabbed(part, places) for part in (self.header, page, self.verdict))
        above = [w for w in _tabbed(bench, places) if w not in in_pages]
        for one, other in pairwise([*header, *above, *keys, *inside, *verdicts]):
            if one.nextInFocusChain() is not other:
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


def worn_apart(bench: QWidget) -> Iterator[QWidget]:
    """The parts of a new bench that are dressed each by itself; pages dress themselves when they are made."""
    for part in bench.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly):
        if isinstance(part, QStackedWidget):
            yield from part.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly)
        elif not isinstance(part, Paged):
            yield part


def _places(first: QWidget) -> dict[QWidget, int]:
    """Where Tab comes to each widget of a window, counted from one of them."""
    places = {first: 0}
    one = first.nextInFocusChain()
    while one is not None and one not in places and len(places) < MOST_STEPS:
        places[one] = len(places)
        one = one.nextInFocusChain()
    return places


def _tabbed(part: QWidget | None, places: dict[QWidget, int]) -> list[QWidget]:
    """What of a part can be tabbed to, in the order that Tab comes to it from the part's first widget."""
    inside = [] if part is None else part.findChildren(QWidget)
    found = [w for w in inside if w in places and w.focusPolicy() & TAB]
    return sorted(found, key=lambda w: (places[w] - places.get(inside[0], 0)) % len(places))
