"""What is dragged on the Lines bench: drawn at once, and taken into the design a moment later."""

from __future__ import annotations

import time

from PySide6.QtCore import QObject, QTimer

from yellowbob.app.benches.lines.places import Places
from yellowbob.design.model import Design
from yellowbob.study.evidence import with_memory

FOLLOW_MS, FOLLOW_TIMES, FOLLOW_MOST_MS = 40, 4, 160
"""What is dragged is solved after so long at the soonest, and after so many times what it took the last time: most of the
pointer's moves are left to be drawn."""


class Following(QObject):
    """Takes a view's draft into the design, worked out a part at a time between the pointer's moves."""

    def __init__(self, view: Places) -> None:
        super().__init__(view)
        self.view, self.session = view, view.session
        self.words, self._at, self._took_ms = "", None, 0.0  # type: tuple[str, Design | None, float]
        self._from = self.session.design
        self._wait, self._next = QTimer(self), QTimer(self)
        for timer, done in ((self._wait, self._begin), (self._next, self._on)):
            timer.setSingleShot(True)
            timer.timeout.connect(done)
        self._wait.setInterval(FOLLOW_MS)

    def put(self, draft: Design, words: str) -> None:
        """Draw this, and take it soon; what is being worked out for an earlier place is ended first."""
        if self.view.draft is None and self._at is None:
            self._from = self.session.design
        self.view.draft, self.words = draft, words
        if self._at is None and not self._wait.isActive():
            self._wait.start()
        self.view.update()

    def _begin(self) -> None:
        draft = self.view.draft
        if draft is None or self._left_behind():
            return
        if self.session.fault:
            self.take()
            return
        self._at, self._took_ms = draft, 0.0
        self._memory = with_memory(self.session.study, draft)
        self.session.gradual.begin(self._memory, self.session.study)
        self._next.start()

    def _on(self) -> None:
        begun = time.perf_counter()
        more = self.session.gradual.step()
        self._took_ms += 1000.0 * (time.perf_counter() - begun)
        if more:
            self._next.start()
        else:
            self._taken()

    def _taken(self) -> None:
        begun, at = time.perf_counter(), self._at
        self._at = None
        if at is None or self._left_behind():
            return
        if self.view.draft is at:
            self.view.draft = None
        self.session.edit(self._memory, self.words, "drag")
        self._from = self.session.design
        self._took_ms += 1000.0 * (time.perf_counter() - begun)
        self._wait.setInterval(round(max(FOLLOW_MS, min(FOLLOW_TIMES * self._took_ms, FOLLOW_MOST_MS))))
        if self.view.draft is not None:
            self._wait.start()

    def take(self) -> None:
        """All of it, at once."""
        self._wait.stop()
        self._next.stop()
        draft, at, self._at = self.view.draft, self._at, None
        if draft is None or self._left_behind():
            return
        self.view.draft = None
        self.session.edit(self._memory if draft is at else draft, self.words, "drag")

    def _left_behind(self) -> bool:
        """Whether the design was changed from elsewhere meanwhile: what was dragged was dragged on another one."""
        if self.session.design is self._from:
            return False
        self.view.draft = self._at = None
        return True
