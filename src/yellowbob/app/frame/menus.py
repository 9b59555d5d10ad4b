"""What the menus in the header hold when they are opened."""

from __future__ import annotations

from pathlib import Path
from typing import Protocol

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu

from yellowbob.app.frame.actions import in_menu
from yellowbob.app.session.background import Told
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.instruments import fill_ports
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.fields import Units
from yellowbob.design.model import Design
from yellowbob.ground.quantities import show
from yellowbob.shelf.filling import opened


class HasMenus(Protocol):
    """What the menus need of the window."""

    session: Session
    settings: Settings
    actions_by_name: dict[str, QAction]

    def open(self, path: Path) -> bool:
        """Open a file."""

    def open_demo(self, file: Path) -> None:
        """A copy of a demo design."""


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
    demo = menu.addMenu("Demo workshop")
    for file in demo_files():
        design = opened(file)
        demo.addAction(f"{design.name}, {design.kind}").triggered.connect(lambda _=False, f=file: window.open_demo(f))
    fill_float_menu(window.session, menu.addMenu("New float"))
    menu.addSeparator()
    _add(window, menu, "Design files")
    menu.addSeparator()
    _add(window, menu, "Design end")


FLOAT_LOADS_G = {"stick float": (2.0, 3.0, 5.0), "waggler": (3.0, 5.0, 8.0), "antenna float": (5.0, 9.0, 15.0)}
"""What the floats that can be started from the menu carry, g."""


def fill_float_menu(session: Session, menu: QMenu) -> None:
    """A float of each kind, started from what it is to carry; what was open stays kept as it always is."""
    for kind, loads in FLOAT_LOADS_G.items():
        for load in loads:
            unit = Units.of("mass")
            entry = menu.addAction(f"{kind.capitalize()} for {show(load, unit)} {unit}")
            entry.triggered.connect(lambda _=False, k=kind, g=load: start_float(session, k, g))


def start_float(session: Session, kind: str, load_g: float) -> None:
    """Size a first float off the interface's thread, and open it."""

    def work(told: Told) -> Design:
        from yellowbob.trials.float_starts import started

        return started(kind, load_g, told=told)

    def take(design: Design) -> None:
        session.keep_now()
        session.replace(design, None, clean=False)

    session.tasks.start(
        "start a float", work, take, lambda words: session.said.emit(f"! {words}"), words="sizing its body"
    )


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
