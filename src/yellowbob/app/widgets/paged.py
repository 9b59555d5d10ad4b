"""Pages under a bench's drawing, turned to by a row of keys; the slow ones are built when they are first seen."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.words import Words

LOW_PX, TALL_PX = 204, 380


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
            self.stack.addWidget(made)
        return self.pages[name]

    def currentWidget(self) -> QWidget | None:
        """The page that is shown."""
        return self.stack.currentWidget()

    def is_tall(self, name: str) -> bool:
        return name in self._tall

    def turn_to(self, name: str) -> None:
        """Show a page; a tall one takes more of the room."""
        page = self.page(name)
        self.now = name
        self.stack.setCurrentWidget(page)
        self.stack.setFixedHeight(TALL_PX if self.is_tall(name) else LOW_PX)
        for one, key in self.keys.items():
            key.setChecked(one == name)
        refresh = getattr(page, "refresh", None)
        if refresh is not None:
            refresh()
        self.turned.emit(name)
