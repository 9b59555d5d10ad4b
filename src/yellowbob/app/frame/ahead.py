"""Benches and pages made ahead: a piece at a time while nothing else is to be done, so that turning to one only shows it."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import suppress
from threading import Thread

from PySide6.QtCore import QObject, Qt, QTimer, Signal, Slot
from PySide6.QtGui import QGuiApplication

from yellowbob.app.benches.registry import BENCHES, NEW
from yellowbob.app.frame.window import Window
from yellowbob.app.session.background import collector_back, collector_rests
from yellowbob.app.session.warm import load_later

PAUSE_MS = 40
"""Between two pieces, so that what the maker does comes in between."""
FIRST_MS = 400
"""After the window is there: until then it is painted, which bringing in would hold up."""


class Ahead(QObject):
    """For one window, once it is seen."""

    brought_in = Signal()

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.window, self.done = window, False
        self._pieces = self._made()
        self._pause = QTimer(self)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(self._make_one)
        self.brought_in.connect(self._begin_making)

    def begin(self) -> None:
        """In a while bring in what the pages need, on a thread of its own, then make them."""
        QTimer.singleShot(FIRST_MS, self, self._bring_in_apart)

    @Slot()
    def _bring_in_apart(self) -> None:
        collector_rests(id(self))
        # a daemon, so that closing the window at once does not wait for it
        Thread(target=self._bring_in, daemon=True).start()

    def _bring_in(self) -> None:
        load_later()
        with suppress(RuntimeError):  # the window may be gone
            self.brought_in.emit()

    @Slot()
    def _begin_making(self) -> None:
        gc.freeze()  # what was loaded stays: to look through it for garbage takes a third of a second every time
        collector_back(id(self))
        self._pause.start()

    def _busy(self) -> bool:
        session = self.window.session
        pressed = QGuiApplication.mouseButtons() != Qt.MouseButton.NoButton
        return pressed or session.dragging or session.waiting or bool(session.tasks.doing)

    @Slot()
    def _make_one(self) -> None:
        if self.window.isVisible() and self._busy():
            return
        if not self.window.isVisible() or next(self._pieces, None) is None:
            self._pause.stop()
            self.done = True

    def _made(self) -> Iterator[str]:
        for entry in (*BENCHES, NEW):
            for _ in self.window.bench_in_turns(entry.title):
                yield entry.title
            bench = self.window.bench(entry.title)
            pages = getattr(bench, "paged", bench)
            more = getattr(pages, "make_one_more", None)
            while more is not None and more():
                yield entry.title
