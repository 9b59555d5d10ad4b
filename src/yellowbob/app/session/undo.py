"""One step of undo: a design before and after."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QUndoCommand

from yellowbob.design.model import Design


class Edit(QUndoCommand):
    """One step of undo: the design before and after. Steps with the same `thread` run together."""

    def __init__(self, put: Callable[[Design], None], before: Design, after: Design, words: str, thread: str) -> None:
        super().__init__(words)
        self.put, self.before, self.after, self.thread = put, before, after, thread

    def redo(self) -> None:
        self.put(self.after)

    def undo(self) -> None:
        self.put(self.before)

    def id(self) -> int:
        return 1 if self.thread else -1

    def mergeWith(self, other: QUndoCommand) -> bool:
        if not isinstance(other, Edit) or other.thread != self.thread:
            return False
        self.after = other.after
        return True
