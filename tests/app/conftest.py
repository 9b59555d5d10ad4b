"""A real window on a demo design, offscreen, with folders of its own."""

from __future__ import annotations

import gc
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from tests.conftest import DEMO, solved
from yellowbob.app.frame.main import application
from yellowbob.app.frame.window import Window
from yellowbob.app.session import files, follower
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.session.warm import load_compiled
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.turns import whole
from yellowbob.design.files import read_design

OpenWindow = Callable[..., Window]


def grabbed(part: QWidget) -> QImage:
    """What is seen of it, once nothing of it waits to be painted."""
    end = time.monotonic() + 60.0
    while not whole(part):
        assert time.monotonic() < end, "it is never painted"
        QTest.qWait(1)
    return part.grab().toImage()


@pytest.fixture(scope="session", autouse=True)
def warm() -> None:
    load_compiled()


@pytest.fixture(autouse=True)
def windows_are_not_collected() -> Iterator[None]:
    """A window of an earlier test that ends inside a call into Qt, where a lock of Qt's is held, holds up everything; ended
    all at once they crash. So Python looks for no garbage in a test, and what it leaves behind stays: 3 MB."""
    before = gc.get_threshold()
    gc.set_threshold(10**9)
    yield
    gc.freeze()
    gc.set_threshold(*before)


@pytest.fixture(autouse=True)
def patient(monkeypatch: pytest.MonkeyPatch) -> None:
    """An edit is taken whole when it has been made, however busy the machine; what comes late has tests of its own."""
    monkeypatch.setattr(follower, "PATIENCE_S", 30.0)
    monkeypatch.setattr(files, "ASIDE_S", 30.0)


@pytest.fixture
def open_window(qtbot: QtBot, tmp_path: Path) -> OpenWindow:
    settings = Settings(tmp_path / "settings")
    application(settings)
    Units.chosen.update(length="mm", mass="g")

    def make(name: str = "sallow-74", path: Path | None = None) -> Window:
        design = read_design(path or DEMO / f"{name}.ybob")
        window = Window(Session(design, Recovery(tmp_path / "state", delay_ms=50), path, solved(design)), settings)
        qtbot.addWidget(window)
        window.show()
        window.activateWindow()
        qtbot.waitUntil(window.isActiveWindow, timeout=60_000)
        return window

    return make


@pytest.fixture
def window(open_window: OpenWindow) -> Window:
    return open_window()


def idle(qtbot: QtBot, window: Window) -> None:
    """Wait until the window has nothing left to do."""
    qtbot.waitUntil(lambda: not window.session.waiting and not window.session.tasks.doing, timeout=60_000)
