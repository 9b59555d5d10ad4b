"""Pages under a bench's drawing, turned to by a row of keys; the slow ones are built when they are first seen."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.words import Words

LOW_PX, TALL_PX = 218, 320
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
        self._follows = False
        self.stack = QStackedWidget()
        self.keys: dict[str, QPushButton] = {}
        self.line = QHBoxLayout()
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
        column.addLayout(self.line)
        column.addWidget(self.stack)

    def page(self, name: str) -> QWidget:
        """A page, made when it is first asked for."""
        if name not in self.pages:
            self.pages[name] = made = self._make[name]()
            self.stack.addWidget(Roomy(made))
        return self.pages[name]

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
        """From now on it follows the bench it stands on."""
        super().showEvent(event)
        bench = self.parentWidget()
        if bench is not None and not self._follows:
            self._follows = True
            bench.installEventFilter(self)
        self._take_room()

    def eventFilter(self, _: QObject, event: QEvent) -> bool:
        """The bench has another size."""
        if event.type() == QEvent.Type.Resize and self.now:
            self._take_room()
        return False

    def turn_to(self, name: str) -> None:
        """Show a page; a tall one takes more of the room."""
        page = self.page(name)
        self.now = name
        self.stack.setCurrentIndex(list(self.pages).index(name))
        self._take_room()
        for one, key in self.keys.items():
            key.setChecked(one == name)
        refresh = getattr(page, "refresh", None)
        if refresh is not None:
            refresh()
        self.turned.emit(name)
