"""What the menus in the header hold when they are opened."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Protocol

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu

from yellowbob.app.frame.actions import in_menu
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.instruments import fill_ports
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.shelf.filling import opened


class HasMenus(Protocol):
    """What the menus need of the window."""

    session: Session
    settings: Settings
    actions_by_name: dict[str, QAction]

    def open(self, path: Path) -> None:
        """Open a file."""

    def open_demo(self, file: Path) -> None:
        """A copy of a demo design."""

    def open_copy(self, file: Path) -> None:
        """A copy of a design that was left without a file."""


def _add(window: HasMenus, menu: QMenu, *menus: str) -> None:
    for name in (name for one in menus for name in in_menu(one)):
        menu.addAction(window.actions_by_name[name])


def fill_design_menu(window: HasMenus, menu: QMenu) -> None:
    """Files, recent ones, and the demo workshop."""
    _add(window, menu, "Design")
    recent = menu.addMenu("Recent")
    for path in window.settings.recent():
        recent.addAction(path.name).triggered.connect(lambda _=False, p=path: window.open(p))
    recent.setEnabled(not recent.isEmpty())
    aside = menu.addMenu("Left without a file")
    for path in window.session.recovery.aside():
        when = datetime.strptime(path.stem[:15], "%Y%m%d-%H%M%S").replace(tzinfo=UTC).astimezone()
        entry = aside.addAction(f"{path.stem[23:]}, {when:%d %b %H:%M}")
        entry.triggered.connect(lambda _=False, p=path: window.open_copy(p))
    aside.setEnabled(not aside.isEmpty())
    demo = menu.addMenu("Demo workshop")
    for file in demo_files():
        design = opened(file)
        demo.addAction(f"{design.name}, {design.kind}").triggered.connect(lambda _=False, f=file: window.open_demo(f))
    menu.addSeparator()
    _add(window, menu, "Design files")
    menu.addSeparator()
    _add(window, menu, "Design end")


def fill_undo_menu(window: HasMenus, menu: QMenu) -> None:
    """What undo and redo would do."""
    stack = window.session.undo
    undo, redo = window.actions_by_name["undo"], window.actions_by_name["redo"]
    undo.setText(f"Undo {stack.undoText()}".strip())
    redo.setText(f"Redo {stack.redoText()}".strip())
    undo.setEnabled(stack.canUndo())
    redo.setEnabled(stack.canRedo())
    menu.addActions([undo, redo])

    def allow_keys() -> None:
        undo.setEnabled(True)
        redo.setEnabled(True)

    menu.aboutToHide.connect(allow_keys)


def fill_view_menu(window: HasMenus, menu: QMenu) -> None:
    """Colours, units, keys, and the instruments."""
    _add(window, menu, "View")
    for words, what in (("Scale on", "mass"), ("Callipers on", "length")):
        fill_ports(menu.addMenu(words), what, window.settings)
