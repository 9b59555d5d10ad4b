"""The rest of an edited design, followed from where it is shown, off the interface's thread.

The interface waits for it as long as an eye does not notice: what is quick is there when the edit has been taken. What takes
longer comes when it comes; till then what was last sound is shown, and `fault` says what is being done.
"""

from __future__ import annotations

from contextlib import suppress
from typing import Any, Protocol

from PySide6.QtCore import QTimer

from yellowbob.afloat.rest import Rest
from yellowbob.app.session.background import Tasks, Told
from yellowbob.app.session.sight import ready_to_draw
from yellowbob.checks.next_step import next_step
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Result, Study, of
from yellowbob.study.engine import NotYet

FOLLOW = "follow"
"""The kind of its tasks."""
PATIENCE_S = 0.012
"""How long the interface waits for it."""
LOOK_S = 0.25
"""From then on it says that it is being waited for."""
FOLLOWING = "following the rest"


class Followed(Protocol):
    """What it needs of a session: the last sound state, which it replaces, and the signal that tells of it."""

    tasks: Tasks
    study: Study
    rest: Rest | None
    fault: str
    dragging: bool
    changed: Any

    @property
    def following(self) -> bool:
        """Whether the rest is being followed."""

    def want(self, asked: Result[Any]) -> None:
        """Have a slow result worked out."""


class Follower:
    """Follows the rest of a session's design."""

    def __init__(self, session: Followed) -> None:
        self._session = session
        self._late = False
        self._soon = QTimer(session.tasks)
        self._soon.setSingleShot(True)
        self._soon.setInterval(round(1000 * LOOK_S))
        self._soon.timeout.connect(self._still)

    @property
    def just_begun(self) -> bool:
        """Whether it is being waited for, and not for long yet."""
        return self._soon.isActive() and self._session.following

    def _still(self) -> None:
        if self._session.following:
            self._session.changed.emit()

    def follow(self, study: Study) -> None:
        """Take the study of the design as it is now, with its rest, as soon as they are there.

        While something is dragged it is done at once, for the hand would be ahead of it again before it came.
        """
        session = self._session
        session.tasks.stop(FOLLOW)
        last = session.rest
        if session.dragging:
            try:
                self._take(study, followed(study, last))
            except YellowBobError as error:
                session.fault = str(error)  # the drawing keeps the last sound state, the document what was asked for
            return

        def taken(found: Rest | NotYet | None) -> None:
            self._take(study, found)
            self._tell()

        session.fault, self._late = f"{FOLLOWING} …", False
        self._soon.start()
        session.tasks.start(
            FOLLOW, lambda _: told(study, last), taken, self._refused, words=FOLLOWING, patience_s=PATIENCE_S
        )
        self._late = True

    def _take(self, study: Study, found: Rest | NotYet | None) -> None:
        session = self._session
        if isinstance(found, NotYet):
            session.fault = f"{found.asked.words} …"
            self._slowly(study, found.asked.words)
            return
        session.study, session.rest, session.fault = study, found, ""

    def _slowly(self, study: Study, words: str) -> None:
        """Follow it where something slow has to be made first."""
        apart, last = study.apart(), self._session.rest

        def work(_: Told) -> Rest | None:
            rest = of.rest_followed(apart, last)
            ready_to_draw(apart)
            return rest

        def taken(rest: Rest | None) -> None:
            study.adopt(apart)
            self._take(study, rest)
            self._tell()

        self._late = True
        self._session.tasks.start(FOLLOW, work, taken, self._refused, words=words)

    def _refused(self, words: str) -> None:
        self._session.fault = words
        self._tell()

    def _tell(self) -> None:
        """What came late is another state of the design than was told of when the edit was taken."""
        if self._late:
            self._session.want(of.rests)
            self._session.changed.emit()


def told(study: Study, last: Rest | None) -> Rest | NotYet | None:
    """The same, with what is told of the design at once beside it: its checks and the next step."""
    found = followed(study, last)
    if not isinstance(found, NotYet):
        with study.in_a_hurry(), suppress(YellowBobError, NotYet):
            ready_to_draw(study)
            next_step(study)
    return found


def followed(study: Study, last: Rest | None) -> Rest | NotYet | None:
    """The rest of a study reached from the last one, or what slow thing has to be made first. Raises YellowBobError."""
    try:
        with study.in_a_hurry():
            return of.rest_followed(study, last)
    except NotYet as late:
        return late
