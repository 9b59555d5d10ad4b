"""The design that is open: its study, its undo, its file, and what was last shown of it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QUndoStack

from yellowbob.afloat.rest import Rest, held
from yellowbob.app.session import follower
from yellowbob.app.session.background import Tasks, Told
from yellowbob.app.session.files import HasFiles
from yellowbob.app.session.follower import FOLLOW, Follower
from yellowbob.app.session.gradual import Gradual
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.sight import Sight, first_sight
from yellowbob.app.session.timers import Timers
from yellowbob.app.session.undo import Edit
from yellowbob.app.session.warm import Loader, Warm
from yellowbob.design.edits import Grip, grips
from yellowbob.design.model import Design
from yellowbob.study import Result, Study, of
from yellowbob.study.evidence import with_memory

T = TypeVar("T")
Array = NDArray[np.float64]

SETTLE_MS, AGAIN_MS = 70, 120
"""Pauses before slow work: after an edit; while something is dragged or the compiled code is not there yet."""
WORK = "results"
"""The kind of task that works out wanted results."""


class Session(HasFiles):
    """What the widgets share. They read `design`, `study` and `rest`, and call `edit`."""

    changed = Signal()
    """the design, and with it everything, is another one"""
    arrived = Signal(object)
    """a slow result, the `Result` itself, is there for the design as it is"""
    picked = Signal()
    """another piece is selected"""
    moved = Signal()
    """the tank shows another moment: a throw, a pose, an attitude pointed at"""

    def __init__(
        self, design: Design, recovery: Recovery, path: Path | None = None, study: Study | None = None
    ) -> None:
        super().__init__()
        self.undo = QUndoStack(self)
        self.undo.cleanChanged.connect(self.renamed)
        self.recovery = recovery
        self.loader = Loader(self)
        self.tasks, self.timers, self.gradual, self.on_bench = Tasks(self), Timers(self), Gradual(), ""
        self.follower = Follower(self)
        self.path, self.design = path, design
        self.begun = True  # False while what is shown is nobody's own: it is not kept
        sight = first_sight(design, study)
        self.study, self.rest, self.fault = sight.study, sight.rest, sight.fault
        self.posture: Rest | None = None
        self.fan: tuple[Array, Array] | tuple[()] = ()
        self.piece: Grip | None = None
        self._wanted: dict[Result[Any], None] = {}
        self._pause, self._keep = QTimer(self), QTimer(self)
        for pause, done in ((self._pause, self._work_on), (self._keep, self.keep_now)):
            pause.setSingleShot(True)
            pause.timeout.connect(done)
        self._keep.setInterval(recovery.delay_ms)
        self._thread = 0
        self.dragging = False

    def edit(self, design: Design, words: str, thread: str = "") -> None:
        """Take an edit. `thread` joins a run of them, such as one drag, into one step of undo."""
        if design == self.design:
            return
        if not self.fault:
            design = with_memory(self.study, design)
        self.undo.push(Edit(self.put, self.design, design, words, f"{thread}#{self._thread}" if thread else ""))

    def end_thread(self) -> None:
        """The next edit begins a new step of undo."""
        self._thread += 1

    def stop_work(self) -> None:
        """Ask what is worked out in the background to stop; it is begun again when it is asked for again."""
        self._wanted.clear()
        self.tasks.stop_all(but=FOLLOW)
        self.said.emit("Stopped. Turn to the page again, or change something, to have it worked out.")

    def put(self, design: Design) -> None:
        """Show another design in place of this one, following the rest from where it is shown now."""
        self.design, self.posture, self.fan, self.begun = design, None, (), True
        study = self.gradual.take(design) or Study(design, self.study)
        self.tasks.stop(WORK)
        self.follower.follow(study)
        if self.piece is not None and self.piece.of(design) is None:
            self.piece = None
            self.picked.emit()
        self.want(of.rests)
        if not self._keep.isActive():
            self._keep.start()
        self.changed.emit()

    def pick(self, piece: Grip | None) -> None:
        if piece != self.piece:
            self.piece = piece
            self.picked.emit()

    def pick_next(self, step: int) -> None:
        """Select the next (1) or previous (-1) piece."""
        listed = grips(self.design)
        if listed:
            now = listed.index(self.piece) if self.piece in listed else (-1 if step > 0 else 0)
            self.pick(listed[(now + step) % len(listed)])

    @property
    def shown(self) -> Rest | None:
        """What the tank shows: a moment's posture, else the rest."""
        return self.posture if self.posture is not None else self.rest

    def show_posture(self, posture: Rest | None) -> None:
        """Show a moment in the tank; None: the rest."""
        self.posture = posture
        self.moved.emit()

    def hold_at(self, up: Array, height_mm: float) -> None:
        """Show it held at an attitude and a water height (x·up, mm): a moment, no rest."""
        if self.rest is not None:
            self.show_posture(held(self.rest, of.afloat(self.study).hull, up, height_mm))

    def show_fan(self, ups: Array, drafts_mm: Array) -> None:
        """Show the waterlines of many builds in the tank: world-up (k, 3) in body axes and draft (k,)."""
        self.fan = (ups, drafts_mm)
        self.moved.emit()

    def show_rest(self, rest: Rest) -> None:
        """Show another of its rests in the tank."""
        self.rest, self.posture = rest, None
        self.changed.emit()

    # ---- slow results

    def soon(
        self, kind: str, work: Callable[[], T], done: Callable[[T], object], refused: Callable[[str], object], words: str
    ) -> None:  # fmt: skip
        """Work out what takes some hundredths of a second off the interface's thread; what is there in a moment is passed on
        before this returns. A newer one of a kind replaces the older."""
        self.tasks.start(kind, lambda _: work(), done, refused, words=words, patience_s=follower.PATIENCE_S)

    def ask(self, asked: Result[T]) -> T | None:
        """A slow result if it is there; else None, and it is worked out in the background: `arrived` tells when."""
        if not self.fault and self.study.knows(asked):
            return asked(self.study)
        if not self.fault:
            self.want(asked)
        return None

    def want(self, asked: Result[Any]) -> None:
        """Have a slow result worked out in the background after the pause."""
        again = asked in self._wanted and self._pause.isActive()
        self._wanted.setdefault(asked)
        if not again and not self.tasks.running(WORK):  # who asks again and again, as a frame does, must not put it off
            self._pause.start(SETTLE_MS)

    @property
    def waiting(self) -> bool:
        """Whether something slow that was asked for is not there yet."""
        return bool(self._wanted) or self.following

    def apart(self) -> Study:
        """A study of the design as it is, to be worked on elsewhere. Of one that cannot be built, or is not yet, that is a
        fresh one, which says so when it is asked: never the last sound one in its place."""
        return Study(self.design, self.study) if self.fault else self.study.apart()

    @property
    def complaint(self) -> str:
        """What is to be read of `fault`: a wait too short to be looked at is none."""
        return "" if self.follower.just_begun else self.fault

    @property
    def following(self) -> bool:
        """Whether the rest of the design as it is now is still being followed, in the background."""
        return self.tasks.running(FOLLOW)

    def _work_on(self) -> None:
        """Work out the first wanted result that is not there, once the hand is still and the compiled code is loaded."""
        if self.fault:
            return
        for asked in list(self._wanted):
            if self.study.knows(asked):
                del self._wanted[asked]
                self.arrived.emit(asked)
        if not self._wanted:
            return
        asked = next(iter(self._wanted))
        if asked is not of.rests and (self.dragging or not Warm.ready):
            self._pause.start(AGAIN_MS)
            return
        apart = self.study.apart()

        def work(_: Told) -> tuple[Study, Result[Any]]:
            asked(apart)
            return apart, asked

        self.tasks.start(WORK, work, self._worked_out, partial(self._failed, asked), words=asked.words)

    def _worked_out(self, found: tuple[Study, Result[Any]]) -> None:
        apart, asked = found
        self.study.adopt(apart)
        if self.study.knows(asked):
            self._wanted.pop(asked, None)
            self.arrived.emit(asked)
        self._pause.start(0)

    def _failed(self, asked: Result[Any], words: str) -> None:
        """A result that cannot be had is said and not tried again until the design changes or it is asked for."""
        self._wanted.pop(asked, None)
        self.said.emit(f"! {asked.words}: {words}")
        self._pause.start(0)

    def settle(self) -> None:
        """Have the rests now, instead of after the pause."""
        if not self.fault:
            of.rests(self.study)
            self._wanted.pop(of.rests, None)
            self.arrived.emit(of.rests)

    def _replace(self, sight: Sight, path: Path | None, clean: bool, begun: bool) -> None:
        """Start over with another design; this one, where no file holds it, is set aside."""
        if self.begun and not self.saved:
            left = self.design
            self.aside("putting aside what was open", lambda: self.recovery.set_aside(left))
        self.undo.clear()
        if not clean:
            self.undo.resetClean()
        self.tasks.stop(WORK)
        self.tasks.stop(FOLLOW)
        self.path, self.design, self.piece = path, sight.design, None
        self.study, self.rest, self.fault = sight.study, sight.rest, sight.fault
        self.posture, self.fan, self.begun = None, (), begun
        self._wanted.clear()
        self.want(of.rests)
        self.picked.emit()
        self.changed.emit()
        self.renamed.emit()
