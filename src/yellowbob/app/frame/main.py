"""Starting the window."""

from __future__ import annotations

import os
import sys
from functools import partial
from pathlib import Path
from threading import Thread

from PySide6.QtCore import QPoint, QSize
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from yellowbob.app.frame.window import UNIT_SETS, Window
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.fields import Units
from yellowbob.app.widgets.theme import DAY, EVENING, apply_theme, load_fonts
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.filling import opened
from yellowbob.workshop.backups import back_up

ICON = Path(__file__).parent.parent / "icon" / "yellow-bob.svg"
FRAME_PX = 40
"""Height that a desktop's own frame round a window takes."""


def has_display() -> bool:
    """Whether a window can be shown to somebody."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def application(settings: Settings) -> QApplication:
    """The Qt application, dressed."""
    # slow work shares Python's lock with the interface, which waits for it this long, s, at every call into Qt
    sys.setswitchinterval(0.0005)
    # Qt gathers repaints for 5 ms; a drag is to be followed at once
    os.environ.setdefault("QT_QPA_UPDATE_IDLE_TIME", "0")
    running = QApplication.instance()
    app = running if isinstance(running, QApplication) else QApplication([sys.argv[0]])
    app.setApplicationName("yellow-bob")
    app.setDesktopFileName("yellow-bob")
    app.setWindowIcon(QIcon(str(ICON)))
    load_fonts()
    apply_theme(app, EVENING if settings.text("theme", "day") == "evening" else DAY)
    length, mass = UNIT_SETS.get(settings.text("units", ""), ("mm", "g"))
    Units.chosen.update(length=length, mass=mass)
    return app


def first_session(file: Path | None, recovery: Recovery, settings: Settings) -> Session:
    """The design to start with: the one named, else what was kept, else the last file, else the demo.

    What was kept of the named file and never saved comes back with it. Raises BadInput for a bad file.
    """
    kept = recovery.last()
    if file is not None:
        if kept is not None and not kept.saved and kept.path == file.absolute():
            return _unsaved(Session(kept.design, recovery, file))
        design = opened(file)
        settings.remember(file)
        return Session(design, recovery, file)
    if kept is not None:
        if kept.saved and kept.path is not None and kept.path.is_file():
            try:
                return Session(opened(kept.path), recovery, kept.path)
            except BadInput:
                pass
        return _unsaved(Session(kept.design, recovery, kept.path))
    return _unsaved(Session(opened(demo_files()[0]), recovery, None))


def _unsaved(session: Session) -> Session:
    session.undo.resetClean()
    return session


def fit_on_screen(window: Window, settings: Settings) -> None:
    """The size it had when it was last closed, or the usual one, but never larger than the screen it opens on."""
    wide, _, high = settings.text("size", "1280x800").partition("x")
    usual = QSize(int(wide), int(high)) if wide.isdigit() and high.isdigit() else QSize(1280, 800)
    screen = window.screen()
    if screen is None:
        window.resize(usual)
        return
    room = screen.availableGeometry()
    window.resize(usual.boundedTo(QSize(room.width(), room.height() - FRAME_PX)))
    window.move(room.topLeft() + QPoint((room.width() - window.width()) // 2, (room.height() - window.height()) // 4))


def make_window(file: Path | None, settings: Settings, recovery: Recovery) -> Window:
    return Window(first_session(file, recovery, settings), settings)


def run(file: Path | None = None) -> int:
    """Open the window and stay until it is closed; returns the exit code."""
    if not has_display() and "QT_QPA_PLATFORM" not in os.environ:
        raise BadInput("there is no display to open a window on; `yellow-bob float FILE` works without one")
    settings = Settings()
    app = application(settings)
    window = make_window(file, settings, Recovery())
    fit_on_screen(window, settings)
    window.show()
    # a copy of the workshop's file at each start; where that cannot be, the log says so when it is opened
    Thread(target=partial(_kept_safe, window), daemon=True).start()
    return app.exec()


def _kept_safe(window: Window) -> None:
    try:
        back_up()
    except BadInput as error:
        window.session.said.emit(f"! {error}")
