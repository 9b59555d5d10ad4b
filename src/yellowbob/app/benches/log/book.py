"""What the Log bench's parts share: the log, the builds found, the build that lies on the bench."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from yellowbob.app.session.session import Session
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import Build, Entry
from yellowbob.logbook.store import LogBook
from yellowbob.workshop.database import workshop_file

SHOWN = 500
"""No more builds are listed at once."""


class Book(QObject):
    """`changed` when builds or entries are others, `chosen` when another build lies on the bench."""

    changed = Signal()
    chosen = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.words = ""
        self.serial = ""
        self.marked: list[str] = []
        """builds marked in the list together"""
        self.trouble = ""
        self._log: LogBook | None = None

    @property
    def log(self) -> LogBook:
        """The log, made where there is none. Raises BadInput where its file cannot be used."""
        if self._log is None or self._log.path != workshop_file():
            self._log = LogBook()
        return self._log

    def builds(self) -> list[Build]:
        """Those that have the words searched for; none, and `trouble`, where the file cannot be used."""
        self.trouble = ""
        try:
            return self.log.builds(self.words, most=SHOWN) if workshop_file().exists() else []
        except BadInput as error:
            self.trouble = str(error)
            return []

    def forget(self) -> None:
        """The file is another one now: look at it afresh, no build on the bench."""
        self._log, self.serial = None, ""
        self.session.on_bench = ""
        self.session.renamed.emit()
        self.changed.emit()
        self.chosen.emit()

    def search(self, words: str) -> None:
        """Show builds that have all these words."""
        self.words = words
        self.changed.emit()

    def choose(self, serial: str) -> None:
        """Put a build on the bench."""
        if serial != self.serial:
            self.serial = serial
            self.session.on_bench = serial
            self.session.renamed.emit()
            self.chosen.emit()

    def build(self) -> Build | None:
        """The build on the bench."""
        return self.log.build(self.serial) if self.serial else None

    def entries(self) -> tuple[Entry, ...]:
        """Of the build on the bench."""
        return self.log.entries(self.serial) if self.serial else ()
