"""Slow work off the interface's thread; a newer request replaces an older one."""

from __future__ import annotations

from collections.abc import Callable
from threading import Thread
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal, Slot

from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near
from yellowbob.ground.errors import YellowBobError
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


class _Words(QObject):
    """How a task on another thread speaks to the interface."""

    told = Signal(str, int, float)
    done = Signal(str, int, object)
    failed = Signal(str, int, str)


Told = Callable[[float], bool]
"""Called with the share done; False asks to stop."""


class _Task(QRunnable):
    def __init__(
        self, kind: str, number: int, work: Callable[[Told], object], words: _Words, live: dict[str, int]
    ) -> None:
        super().__init__()
        self.kind, self.number, self.work, self.words, self.live = kind, number, work, words, live

    def _told(self, share: float) -> bool:
        self.words.told.emit(self.kind, self.number, share)
        return self.live.get(self.kind) == self.number

    def run(self) -> None:
        if self.live.get(self.kind) != self.number:
            return
        try:
            self.words.done.emit(self.kind, self.number, self.work(self._told))
        except YellowBobError as error:
            self.words.failed.emit(self.kind, self.number, str(error))


class Tasks(QObject):
    """Slow work by kind: a newer task of a kind replaces the older one, which is asked to stop."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._words = _Words(self)
        self._live: dict[str, int] = {}
        self._newest = 0
        self._closed = False
        self._calls: dict[str, tuple[Callable[[Any], None], Callable[[str], None], Callable[[float], None]]] = {}
        self._words.told.connect(self._told)
        self._words.done.connect(self._done)
        self._words.failed.connect(self._failed)

    def start(
        self, kind: str, work: Callable[[Told], Any], done: Callable[[Any], None],
        failed: Callable[[str], None] = lambda _: None, told: Callable[[float], None] = lambda _: None,
    ) -> None:  # fmt: skip
        """Do something slow; `done` gets its result on the interface's thread, `failed` the words of a refusal.

        Once it has been finished for good nothing is begun any more: a page's timer may still ask while it is closed.
        """
        if self._closed:
            return
        self._newest += 1
        self._live[kind] = self._newest
        self._calls[kind] = (done, failed, told)
        self._pool.start(_Task(kind, self._newest, work, self._words, self._live))

    def stop(self, kind: str) -> None:
        """Ask the task of a kind to stop; its result is not passed on."""
        self._live.pop(kind, None)

    def running(self, kind: str) -> bool:
        return kind in self._live

    @Slot(str, int, float)
    def _told(self, kind: str, number: int, share: float) -> None:
        if self._live.get(kind) == number:
            self._calls[kind][2](share)

    @Slot(str, int, object)
    def _done(self, kind: str, number: int, result: object) -> None:
        if self._live.get(kind) == number:
            del self._live[kind]
            self._calls[kind][0](result)

    @Slot(str, int, str)
    def _failed(self, kind: str, number: int, words: str) -> None:
        if self._live.get(kind) == number:
            del self._live[kind]
            self._calls[kind][1](words)

    def finish(self) -> None:
        """Stop everything for good and wait for what is running."""
        self._closed = True
        self._live.clear()
        self._pool.waitForDone()


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
