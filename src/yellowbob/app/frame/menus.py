"""What the menus in the header hold when they are opened."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QMenu

from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.instruments import fill_ports
from yellowbob.design.files import read_design

if TYPE_CHECKING:
    from yellowbob.app.frame.window import Window


def _add(window: Window, menu: QMenu, *names: str) -> None:
    for name in names:
        menu.addAction(window.actions_by_name[name])


def fill_design_menu(window: Window, menu: QMenu) -> None:
    """Files, recent ones, and the demo workshop."""
    _add(window, menu, "Open a design")
    recent = menu.addMenu("Recent")
    for path in window.settings.recent():
        recent.addAction(path.name).triggered.connect(lambda _=False, p=path: window.open(p))
    recent.setEnabled(not recent.isEmpty())
    demo = menu.addMenu("Demo workshop")
    for file in demo_files():
        design = read_design(file)
        demo.addAction(f"{design.name}, {design.kind}").triggered.connect(lambda _=False, f=file: window.open_demo(f))
    menu.addSeparator()
    _add(window, menu, "Save", "Save as", "Sheet at true scale")
    menu.addSeparator()
    _add(window, menu, "Close")


def fill_undo_menu(window: Window, menu: QMenu) -> None:
    """What undo and redo would do."""
    stack = window.session.undo
    undo, redo = window.actions_by_name["Undo"], window.actions_by_name["Redo"]
    undo.setText(f"Undo {stack.undoText()}".strip())
    redo.setText(f"Redo {stack.redoText()}".strip())
    undo.setEnabled(stack.canUndo())
    redo.setEnabled(stack.canRedo())
    menu.addActions([undo, redo])

    def allow_keys() -> None:
        undo.setEnabled(True)
        redo.setEnabled(True)

    menu.aboutToHide.connect(allow_keys)


def fill_view_menu(window: Window, menu: QMenu) -> None:
    """Colours, units, keys, and the instruments."""
    _add(window, menu, "Turn over the brief", "Day or evening colours", "Change units", "Keys")
    for words, what in (("Scale on", "mass"), ("Callipers on", "length")):
        fill_ports(menu.addMenu(words), what, window.settings)
