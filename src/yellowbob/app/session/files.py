"""What a session reads and writes: designs, and what is made of them. All of it off the interface's thread."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QUndoStack

from yellowbob.app.session.background import Tasks
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.sight import Sight, first_sight
from yellowbob.design.files import write_design
from yellowbob.design.model import Design
from yellowbob.study import Study

T = TypeVar("T")
ASIDE_S = 1e-6
"""Reading and writing is not waited for."""
OPEN = "open"
"""The kind of task that brings another design."""


class HasFiles(QObject):
    """A session's design, and the file it is of."""

    said = Signal(str)
    """a line for the maker to read; empty clears it"""
    renamed = Signal()
    """the file or its saved state changed"""

    design: Design
    study: Study
    fault: str
    begun: bool
    path: Path | None
    undo: QUndoStack
    tasks: Tasks
    recovery: Recovery
    _keep: QTimer

    def _replace(self, sight: Sight, path: Path | None, clean: bool, begun: bool) -> None:
        """Start over with another design."""
        raise NotImplementedError

    @property
    def saved(self) -> bool:
        return self.undo.isClean() and self.path is not None

    def begin(
        self, read: Callable[[], Design], path: Path | None = None, clean: bool = True, begun: bool = True,
        taken: Callable[[], object] = lambda: None, words: str = "opening it",
    ) -> None:  # fmt: skip
        """Start over with another design, read and first worked out off the interface's thread; `taken` is called then.

        A refused one is said and changes nothing. What was not saved of this one stays kept. `begun`: see the attribute.
        """

        def take(sight: Sight) -> None:
            self.keep_now()
            self._replace(sight, path, clean, begun)
            taken()

        def refused(told: str) -> None:
            self.said.emit(f"! {told}")

        self.tasks.start(OPEN, lambda _: first_sight(read()), take, refused, words=words, patience_s=ASIDE_S)

    def aside(
        self, what: str, work: Callable[[], T], done: Callable[[T], object] = lambda _: None,
        refused: Callable[[str], object] | None = None,
    ) -> None:  # fmt: skip
        """Read or write something off the interface's thread, for certain; a refusal is said. `what` is done, in words."""

        def say(told: str) -> None:
            self.said.emit(f"! {told}")

        self.tasks.start(what, lambda _: work(), done, refused or say, words=what, patience_s=ASIDE_S, certain=True)

    def write(self, path: Path, work: Callable[[Study], T], done: Callable[[T], object]) -> None:
        """Write something of the design as it is, off the interface's thread; of one that cannot be built nothing is written,
        and why is said."""
        if self.fault:
            self.said.emit(f"! {path.name} is not written: {self.fault}")
            return
        study = self.study.apart()
        self.aside(f"writing {path.name}", lambda: work(study), done)

    def save(self, target: Path, saved: Callable[[], object] = lambda: None) -> None:
        """Write a file whole; `saved` is called when it is. One that cannot be written is said, and nothing changes."""
        design = self.design

        def done(_: None) -> None:
            self.path = target
            if self.design is design:  # what was edited meanwhile is in no file
                self.undo.setClean()
            else:
                self.undo.resetClean()
            self.keep_now()
            self.renamed.emit()
            saved()

        self.aside(f"saving {target.name}", lambda: write_design(design, target), done)

    def keep_now(self) -> None:
        """Write down what is not in a file yet, so that a kill loses nothing."""
        self._keep.stop()
        if not self.begun:
            return
        design, path, saved, trouble = self.design, self.path, self.undo.isClean(), self.recovery.trouble

        def done(_: None) -> None:
            if self.recovery.trouble != trouble:
                self.renamed.emit()

        self.aside("keeping what was changed", lambda: self.recovery.keep(design, path, saved), done)

    def end(self) -> None:
        """Stop all work, when what is being written has been, and write down what is in no file."""
        self.tasks.finish()
        self._keep.stop()
        if self.begun:
            self.recovery.keep(self.design, self.path, self.undo.isClean())
