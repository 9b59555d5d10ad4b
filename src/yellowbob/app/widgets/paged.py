"""Pages under a bench's drawing, turned to by a row of keys; the slow ones are built when they are first seen."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.theme import wear
from yellowbob.app.widgets.turns import painted_apart
from yellowbob.app.widgets.words import Words

LOW_PX, TALL_PX = 218, 290
"""Least heights of a page, in px,"""
LOW, TALL = 0.26, 0.5
"""and its share of the bench's."""


class CardPage(QWidget):
    """A page that looks like a card, by its name."""

    def __init__(self, title: str, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(title)
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)


class SayingPage(CardPage):
    """A page with words on what it shows; it comes anew when the design has changed while it is seen."""

    def __init__(self, title: str, session: Session, says: str) -> None:
        super().__init__(title, session)
        self.says = Words()
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.says.setAccessibleName(says)
        session.changed.connect(self._follow)

    def _follow(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the design as it is."""


class Paged(QWidget):
    """A row of keys and a stack of pages. `make` is called once for each page; a page's `refresh` at each turn to it."""

    turned = Signal(str)

    def __init__(self, pages: dict[str, Callable[[], QWidget]], tall: tuple[str, ...] = ()) -> None:
        super().__init__()
        self._make, self._tall = pages, tall
        self.pages: dict[str, QWidget] = {}
        self.now = ""
        self._follows, self._shown = False, False
        self._bare: Roomy | None = None
        self.stack = QStackedWidget()
        self.keys: dict[str, QPushButton] = {}
        head = QWidget()
        self.line = QHBoxLayout(head)
        self.line.setContentsMargins(0, 0, 0, 0)
        self.line.setSpacing(6)
        for name in pages:
            key = QPushButton(name)
            key.setCheckable(True)
            key.setAccessibleName(f"{name} page")
            key.clicked.connect(lambda _=False, n=name: self.turn_to(n))
            self.line.addWidget(key)
            self.keys[name] = key
        self.line.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(head)
        column.addWidget(self.stack)
        wear(head)

    def page(self, name: str) -> QWidget:
        """A page, made when it is first asked for."""
        self._dress_bare()
        if name not in self.pages:
            self._make_bare(name)
            self._dress_bare()
        return self.pages[name]

    def _make_bare(self, name: str) -> None:
        self.pages[name] = made = self._make[name]()
        self._bare = Roomy(made)
        self.stack.addWidget(self._bare)

    def _dress_bare(self) -> bool:
        """Dress the page that was put in its place: last, or it would be dressed anew there. False: all are."""
        bare, self._bare = self._bare, None
        if bare is not None:
            wear(bare)
        return bare is not None

    def make_one_more(self) -> bool:
        """Make a page that is not there yet, or dress the one that was made before; False when all are there."""
        if self._dress_bare():
            return True
        name = next((n for n in self._make if n not in self.pages), None)
        if name is not None:
            self._make_bare(name)
        return name is not None

    def currentWidget(self) -> QWidget | None:
        """The page that is shown."""
        return self.pages.get(self.now)

    def is_tall(self, name: str) -> bool:
        return name in self._tall

    def _take_room(self) -> None:
        """On a larger window a page that is used has its share of the room too."""
        bench = self.parentWidget()
        high = bench.height() if bench is not None else 0
        least, share = (TALL_PX, TALL) if self.is_tall(self.now) else (LOW_PX, LOW)
        self.stack.setFixedHeight(max(least, int(share * high)))
        for one in (self, bench):  # laid out now, not at the next turn: what is asked where it is must know
            layout = one.layout() if one is not None else None
            if layout is not None:
                layout.activate()

    def showEvent(self, event: QShowEvent) -> None:
        """It follows the bench it stands on; and what it shows may have become another while another bench was seen."""
        super().showEvent(event)
        bench = self.parentWidget()
        if bench is not None and not self._follows:
            self._follows = True
            bench.installEventFilter(self)
        if self.now and self.now not in self.pages:
            self._put_up(self.now)
        self._take_room()
        if not event.spontaneous() and not self._shown:  # Qt says so twice where what stands beside is shown after it
            self.freshen()
        self._shown = True

    def hideEvent(self, event: QHideEvent) -> None:
        """What it shows may become another while it is not seen."""
        super().hideEvent(event)
        self._shown = False

    def eventFilter(self, _: QObject, event: QEvent) -> bool:
        """The bench has another size."""
        if event.type() == QEvent.Type.Resize and self.now:
            self._take_room()
        return False

    def turn_to(self, name: str) -> None:
        """Show a page; a tall one takes more of the room."""
        with painted_apart(self, [self.stack]):
            self._put_up(name)
            self.freshen()
        self.turned.emit(name)

    def begin_with(self, name: str) -> None:
        """The page that is there first; it is made and what it shows is asked for when it is seen, if not before."""
        self.now = name
        self._check(name)
        self.turned.emit(name)

    def _put_up(self, name: str) -> None:
        self.page(name)
        self.now = name
        self.stack.setCurrentIndex(list(self.pages).index(name))
        self._take_room()
        self._check(name)

    def _check(self, name: str) -> None:
        for one, key in self.keys.items():
            key.setChecked(one == name)

    def freshen(self) -> None:
        """Have the page show the design as it is."""
        refresh = getattr(self.currentWidget(), "refresh", None)
        if refresh is not None:
            refresh()
