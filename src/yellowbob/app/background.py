"""Slow work off the interface's thread; a newer request replaces an older one."""

from __future__ import annotations

from collections.abc import Callable
from threading import Thread

import numpy as np
from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal, Slot

from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View, shaded

Found = Callable[[Afloat, tuple[Rest, ...]], None]


class Warm:
    """Whether the compiled code is loaded; until then the window paints without it."""

    ready = False


def load_compiled() -> None:
    """Bring in the compiler and its kept code."""
    corners = np.array([[0.0, 0, 0], [9, 0, 0], [0, 9, 0], [0, 0, 9]])
    mesh = Mesh(corners, np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]], np.int32))
    look = View(np.array([1.0, 0, 0]), np.array([0.0, 0, 1]), 1.0, np.zeros(3), (4.0, 4.0))
    shaded(mesh, look, 8, 8, (0, 0, 0), (9, 9, 9))
    all_rests(Afloat(mesh, 0.05, (2.0, 2.0, 2.0), 0.001))
    rest_near(Afloat(mesh, 0.05, (2.0, 2.0, 2.0), 0.001), (0.0, 0.0, 1.0))
    Warm.ready = True


class _Answer(QObject):
    loaded = Signal()
    done = Signal(int, object, object)


class _Work(QRunnable):
    def __init__(self, number: int, afloat: Afloat, answer: _Answer) -> None:
        super().__init__()
        self.number, self.afloat, self.answer = number, afloat, answer

    def run(self) -> None:
        self.answer.done.emit(self.number, self.afloat, all_rests(self.afloat))


class Background(QObject):
    """One worker; only the answer to the newest question is passed on."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._answer = _Answer(self)
        self._answer.done.connect(self._pass_on)
        self._newest = 0
        self._found: Found | None = None

    def find_rests(self, afloat: Afloat, found: Found) -> None:
        self._newest += 1
        self._found = found
        self._pool.clear()
        self._pool.start(_Work(self._newest, afloat, self._answer))

    @Slot(int, object, object)
    def _pass_on(self, number: int, afloat: Afloat, rests: tuple[Rest, ...]) -> None:
        if number == self._newest and self._found is not None:
            self._found(afloat, rests)

    def load(self, done: Callable[[], None]) -> None:
        """Load the compiled code, then say so."""
        self._answer.loaded.connect(done)
        # a daemon, so that closing the window at once does not wait for the compiler
        Thread(target=self._load, daemon=True).start()

    def _load(self) -> None:
        load_compiled()
        self._answer.loaded.emit()

    def finish(self) -> None:
        """Wait for what is running."""
        self._pool.waitForDone()
