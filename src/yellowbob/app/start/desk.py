"""The application, dressed, and the screen it stands on: all that is needed before the first window."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PySide6.QtCore import QPoint, QSize
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication, QWidget

from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.theme import DAY, EVENING, apply_theme, load_fonts

ICON = Path(__file__).parent.parent / "icon" / "yellow-bob.svg"
FRAME_PX = 40
"""Height that a desktop's own frame round a window takes."""


def has_display() -> bool:
    """Whether a window can be shown to somebody."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def dressed(settings: Settings) -> QApplication:
    """The Qt application in the colours it was left in."""
    # slow work shares Python's lock with the interface, which waits for it this long, s, at every call into Qt
    sys.setswitchinterval(0.00002)
    # Qt gathers repaints for 5 ms; a drag is to be followed at once
    os.environ.setdefault("QT_QPA_UPDATE_IDLE_TIME", "0")
    running = QApplication.instance()
    app = running if isinstance(running, QApplication) else QApplication([sys.argv[0]])
    app.setApplicationName("yellow-bob")
    app.setDesktopFileName("yellow-bob")
    app.setWindowIcon(QIcon(str(ICON)))
    load_fonts()
    apply_theme(app, EVENING if settings.text("theme", "day") == "evening" else DAY)
    return app


def fit_on_screen(window: QWidget, settings: Settings) -> None:
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
