"""Buttons: one that does something, one that opens a menu."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtWidgets import QMenu, QPushButton, QToolButton


def button(words: str, done: Callable[[], Any], name: str | None = None) -> QPushButton:
    """A button; `name` says it in full."""
    made = QPushButton(words)
    made.setAccessibleName(name or words)
    made.setToolTip(name or "")
    made.clicked.connect(lambda: done())
    return made


def drop(words: str, fill: Callable[[QMenu], Any], name: str | None = None) -> QToolButton:
    """A button whose menu is filled when it opens."""
    made = QToolButton()
    made.setText(words + "  ▾")
    made.setAccessibleName(name or words)
    made.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    menu = QMenu(made)

    def refill() -> None:
        menu.clear()
        fill(menu)

    menu.aboutToShow.connect(refill)
    made.setMenu(menu)
    return made
