"""Throws the lure in and plays it in the tank: in real time, slow, or paused; and tallies where many throws end."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal

from yellowbob.action.drop import Drop, drop, random_attitude, which_rest
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.study import of

FRAME_MS = 16
SLOW = 4
HOLD_FRAMES = 25


class Player(QObject):
    """One throw after another. `tallied` when an end is counted."""

    tallied = Signal()
    failed = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.height_mm = 200.0
        self.slow = False
        self.again = False
        self.paused = False
        self.counts: dict[int, int] = {}
        self.restless = 0
        self._rng = np.random.default_rng(1)
        self._drop: Drop | None = None
        self._frame = 0
        self._wait = 0
        self._design = session.design
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self.step)
        session.changed.connect(self.forget)

    @property
    def playing(self) -> bool:
        return self._drop is not None

    def throw(self, pitch_rad: float, roll_rad: float, by_hand: bool = False) -> None:
        """Let it go at an attitude: thrown from the height, or held there afloat and let go."""
        session, height = self.session, self.height_mm
        if session.fault or session.rest is None:
            self.failed.emit("it sinks: a drop has no rest to end in")
            return
        afloat, inertia = of.afloat(session.study), of.inertia_g_mm2(session.study)

        def work(_: Told) -> Drop:
            return drop(afloat, inertia, pitch_rad, roll_rad, height, by_hand=by_hand)

        session.tasks.start("drop", work, self.play, self.failed.emit, words="throwing it in")

    def throw_at_random(self) -> None:
        self.throw(*random_attitude(self._rng))

    def play(self, found: Drop) -> None:
        self._drop, self._frame, self._wait, self.paused = found, 0, 0, False
        self._timer.setInterval(FRAME_MS * (SLOW if self.slow else 1))
        self._timer.start()
        self._show()

    def pause(self, paused: bool) -> None:
        self.paused = paused
        if self.playing:
            self._timer.stop() if paused else self._timer.start()

    def stop(self) -> None:
        """Leave off; the tank shows the rest again."""
        self.again = False
        self._timer.stop()
        self._drop = None
        self.session.tasks.stop("drop")
        self.session.show_posture(None)

    def forget(self) -> None:
        """Another design: nothing of the old one is counted or played."""
        if self.session.design is self._design:
            return
        self._design = self.session.design
        if self.playing or self.counts or self.restless:
            self.counts, self.restless = {}, 0
            self.stop()
            self.tallied.emit()

    def step(self) -> None:
        """One frame on; at the end the throw is counted, and with `again` the next one follows."""
        if self._drop is None:
            return
        self._timer.setInterval(FRAME_MS * (SLOW if self.slow else 1))
        if self._frame + 1 < len(self._drop.times_s):
            self._frame += 1
            self._show()
            return
        self._wait += 1
        if self._wait == 1:
            self._count(self._drop)
        if self._wait > HOLD_FRAMES:
            self._timer.stop()
            if self.again:
                self.throw_at_random()
            elif self._drop.end is not None and self.session.study.knows(of.rests):
                end = which_rest(self._drop.end, of.rests(self.session.study))
                self._drop = None
                if end is not None:
                    self.session.show_rest(of.rests(self.session.study)[end])

    def _count(self, found: Drop) -> None:
        number = None
        if found.end is not None and self.session.study.knows(of.rests):
            number = which_rest(found.end, of.rests(self.session.study))
        if number is None:
            self.restless += 1
        else:
            self.counts[number] = self.counts.get(number, 0) + 1
        self.tallied.emit()

    def _show(self) -> None:
        if self._drop is not None:
            self.session.hold_at(self._drop.ups[self._frame], float(self._drop.heights_mm[self._frame]))
