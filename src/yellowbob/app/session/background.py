"""The one runner of slow work off the interface's thread; a newer task of a kind replaces the older one.

Nothing of the interface may end its life on the other thread: a Qt object that does holds a lock of Qt's there while it waits
for Python's, and the interface may hold Python's and wait for Qt's. So while a task runs Python's collector of cycles rests,
but for what the interface's thread collects itself, and what a task was given is let go of here, when it has ended.
"""

from __future__ import annotations

import gc
import logging
from collections.abc import Callable
from threading import Event
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal, Slot

from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import LeftOff, Told, while_wanted

log = logging.getLogger("yellowbob")


class _Words(QObject):
    """How a task on another thread speaks to the interface."""

    told = Signal(str, int, float)
    done = Signal(str, int, object)
    failed = Signal(str, int, str)


LET_GO_MS = 100
"""How often it is looked whether what ran has ended."""
_at_work: set[int] = set()
"""Who has work on another thread; Python collects cycles by itself only while there is none."""

__all__ = ["Tasks", "Told", "collector_back", "collector_rests"]


def collector_rests(who: int) -> None:
    """On the interface's thread, before work on another: Python's collector of cycles rests till all have said it is over."""
    _at_work.add(who)
    gc.disable()


def collector_back(who: int) -> None:
    """On the interface's thread: the work of `who` is over."""
    _at_work.discard(who)
    if not _at_work:
        gc.enable()


class _Task:
    def __init__(
        self, kind: str, number: int, work: Callable[[Told], object], words: _Words, live: dict[str, int], certain: bool
    ) -> None:
        self.certain = certain
        self.kind, self.number, self.work, self.words, self.live = kind, number, work, words, live
        self.ended = Event()
        self.result: object = None
        self.fault = ""

    def _told(self, share: float) -> bool:
        self.words.told.emit(self.kind, self.number, share)
        return self.live.get(self.kind) == self.number

    def _wanted(self) -> bool:
        return self.certain or self.live.get(self.kind) == self.number

    def run(self) -> None:
        if self._wanted():
            self._work()
        self.ended.set()

    def _work(self) -> None:
        try:
            with while_wanted(self._wanted):
                self.result = self.work(self._told)
            self.words.done.emit(self.kind, self.number, self.result)
            return
        except LeftOff:
            self.fault = "left off"
        except YellowBobError as error:
            self.fault = str(error)
        except (
            Exception
        ) as error:  # whatever it is, the task has ended: it is shown and written down, never left running
            log.exception("the task '%s' failed", self.kind)
            self.fault = f"{self.kind}: something went wrong ({type(error).__name__}: {error}); it can be tried again"
        self.words.failed.emit(self.kind, self.number, self.fault)


class _Runner(QRunnable):
    """What the pool runs and deletes, on its own thread: nobody else may hold it, so what is known of it is kept apart."""

    def __init__(self, task: _Task) -> None:
        super().__init__()
        self.task = task

    def run(self) -> None:
        self.task.run()


class Tasks(QObject):
    """Slow work by kind: a newer task of a kind replaces the older one, which is asked to stop."""

    busy = Signal()
    """what is being worked out, or how far it is, changed"""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._quick = QThreadPool(self)
        self._quick.setMaxThreadCount(1)
        self._words = _Words(self)
        self._live: dict[str, int] = {}
        self._newest = 0
        self._closed = False
        self._shown: dict[str, tuple[str, float]] = {}
        self._calls: dict[str, tuple[Callable[[Any], object], Callable[[str], object], Callable[[float], None]]] = {}
        self._held: list[Callable[[Told], Any]] = []
        self._due: dict[int, _Task] = {}
        """what is done for certain, and was not passed on yet"""
        self._let_go = QTimer(self)
        self._let_go.setInterval(LET_GO_MS)
        self._let_go.timeout.connect(self._rest)
        self._words.told.connect(self._told)
        self._words.done.connect(self._done)
        self._words.failed.connect(self._failed)

    def start(
        self, kind: str, work: Callable[[Told], Any], done: Callable[[Any], object],
        failed: Callable[[str], object] = lambda _: None, told: Callable[[float], None] = lambda _: None, words: str = "",
        patience_s: float = 0.0, certain: bool = False,
    ) -> None:  # fmt: skip
        """Do something slow; `done` gets its result on the interface's thread, `failed` the words of a refusal. `words` say
        what is being done, as `trying picks`.

        With `patience_s` it is done beside whatever else is, and waited for so long: what is there by then is passed on
        before this returns. What is `certain`, as writing a file is, is done whatever is stopped, closed or begun after it.

        Once it has been finished for good nothing else is begun: a page's timer may still ask while it is closed.
        """
        if self._closed and not certain:
            return
        self._newest += 1
        self._live[kind] = self._newest
        self._calls[kind] = (done, failed, told)
        self._shown[kind] = (words or kind, 0.0)
        self._held.append(work)
        collector_rests(id(self))
        self._let_go.start()
        task = _Task(kind, self._newest, work, self._words, self._live, certain)
        if certain:
            self._due[task.number] = task
        (self._quick if patience_s else self._pool).start(_Runner(task))
        if self._closed:
            task.ended.wait()
            self._quick.waitForDone()
            self._pool.waitForDone()
            self._rest()
        if patience_s and task.ended.wait(patience_s):
            self._pass_on(task)
        else:
            self.busy.emit()

    def _pass_on(self, task: _Task) -> None:
        if task.fault:
            self._failed(task.kind, task.number, task.fault)
        else:
            self._done(task.kind, task.number, task.result)

    def stop(self, kind: str) -> None:
        """Ask the task of a kind to stop; its result is not passed on."""
        self._live.pop(kind, None)
        self.busy.emit()

    def stop_all(self, but: str = "") -> None:
        """Ask everything to stop, but for the tasks of one kind and for what is certain."""
        for kind in self._live.keys() - {but} - self._certain():
            del self._live[kind]
        self.busy.emit()

    def _certain(self) -> set[str]:
        return {task.kind for task in self._due.values()}

    @property
    def doing(self) -> list[tuple[str, float]]:
        """(words, share done) of what is being worked out or waits for its turn."""
        return [self._shown[kind] for kind in self._live]

    def running(self, kind: str) -> bool:
        return kind in self._live

    @Slot(str, int, float)
    def _told(self, kind: str, number: int, share: float) -> None:
        if self._live.get(kind) == number:
            self._shown[kind] = (self._shown[kind][0], share)
            self._calls[kind][2](share)
            self.busy.emit()

    @Slot(str, int, object)
    def _done(self, kind: str, number: int, result: object) -> None:
        self._due.pop(number, None)
        if self._live.get(kind) == number:
            del self._live[kind]
            self._calls.pop(kind)[0](result)
            self.busy.emit()

    @Slot(str, int, str)
    def _failed(self, kind: str, number: int, words: str) -> None:
        self._due.pop(number, None)
        if self._live.get(kind) == number:
            del self._live[kind]
            self._calls.pop(kind)[1](words)
            self.busy.emit()

    def _rest(self) -> None:
        """On the interface's thread: collect while a task runs; when all have ended, let go of what they were given."""
        if self._pool.activeThreadCount() or self._quick.activeThreadCount():
            gc.collect(0)
            return
        self._let_go.stop()
        self._held.clear()
        collector_back(id(self))

    def finish(self) -> None:
        """Stop everything for good, and wait for what is running and for what is certain."""
        self._closed = True
        for kind in self._live.keys() - self._certain():
            del self._live[kind]
        for pool in (self._pool, self._quick):
            pool.waitForDone()
        for task in list(self._due.values()):
            self._pass_on(task)
        self._live.clear()
        self._rest()
