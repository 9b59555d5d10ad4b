"""Turns of the event loop: work and painting that would be long in one come one after the other."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

BETWEEN_MS = 8
"""Long enough for what was changed to be painted in a turn of its own: Qt does so 5 ms later."""


LATE_MS = 2 * BETWEEN_MS
"""A turn that comes later than this was held up, by painting for one: what waits behind it goes first."""


def in_a_turn(part: QObject, work: Callable[[], object], patience: int = 3) -> None:
    """Do some work in a turn of the event loop of its own, as long as the part is there: where that turn was held up, what
    waits goes first, `patience` times at most."""
    since = 0.0

    def begin() -> None:  # once the turn that asked for it has ended, however long that was
        nonlocal since
        since = time.perf_counter()
        QTimer.singleShot(BETWEEN_MS, part, turn)

    def turn() -> None:
        if patience and 1e3 * (time.perf_counter() - since) > LATE_MS:
            in_a_turn(part, work, patience - 1)
        else:
            work()

    QTimer.singleShot(0, part, begin)


def hold(parts: Sequence[QWidget], unseen: bool = False) -> list[QWidget]:
    """Have nothing of those that are seen painted until `let_paint`, which is given what this returns; what is drawn as a
    picture meanwhile is drawn without them. unseen: those too that are about to be shown."""
    held = [part for part in parts if unseen or part.isVisible()]
    for part in held:
        part.setUpdatesEnabled(False)
    return held


def let_paint(part: QObject, parts: Sequence[QWidget]) -> None:
    """Have each of what was held painted in a turn of its own, not all in one; `part` as for `in_a_turn`."""
    left = list(parts)

    def turn() -> None:
        one = left.pop(0)
        if isValid(one):
            one.setUpdatesEnabled(True)
        if left:
            in_a_turn(part, turn)

    if left:
        in_a_turn(part, turn)


def whole(part: QWidget) -> bool:
    """Whether nothing that is seen of it waits to be painted."""
    return all(one.updatesEnabled() for one in (part, *part.findChildren(QWidget)) if one.isVisible())


@contextmanager
def painted_apart(part: QObject, parts: Sequence[QWidget]) -> Iterator[None]:
    """What is done within changes what is shown of `parts`; each is painted in a turn of its own after it."""
    held = hold(parts)
    try:
        yield
    finally:
        let_paint(part, held)
