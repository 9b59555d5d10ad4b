"""What the Shop bench's pages share: the boards on hand, the lathe's bed, and when the finishing begins."""

from __future__ import annotations

from datetime import datetime, time

from PySide6.QtCore import QObject, Signal

from yellowbob.app.session.settings import Settings
from yellowbob.ground.errors import BadInput
from yellowbob.shop.boards import Board, read_board

USUAL, KEY, BED = "18x90x900 mm", "boards", "lathe_bed_mm"


class Stock(QObject):
    """Boards as typed, one a line or after a semicolon, kept over a restart; the schedule's start and hours once it is
    laid."""

    changed = Signal()

    def __init__(self, parent: QObject, settings: Settings | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        self.text = USUAL if settings is None else settings.text(KEY, USUAL)
        try:
            read(self.text)
        except BadInput:
            self.text = USUAL
        self._bed = 0.0 if settings is None else _number(settings.text(BED, "0"))
        self._start: datetime | None = None
        self._hours = (time(18), time(22))

    def put(self, text: str) -> None:
        """Other boards. Raises BadInput for one that cannot be read; what was typed before stays then."""
        read(text)
        self.text = text
        if self._settings is not None:
            self._settings.put(KEY, text)
        self.changed.emit()

    @property
    def bed_mm(self) -> float | None:
        """The longest piece the lathe takes; None where any goes."""
        return self._bed or None

    def put_bed(self, bed_mm: float) -> None:
        """Another lathe; 0 for one on which any piece goes."""
        self._bed = bed_mm
        if self._settings is not None:
            self._settings.put(BED, f"{bed_mm:g}")

    def boards(self) -> list[Board]:
        """Those on hand."""
        return read(self.text)

    def put_start(self, start: datetime | None, hours: tuple[time, time]) -> None:
        """When the finishing begins, and the hours there are."""
        self._start, self._hours = start, hours

    def start(self) -> datetime | None:
        """Of the finishing, with its zone; None before a schedule is laid."""
        return self._start

    def hours(self) -> tuple[time, time]:
        """Of each day."""
        return self._hours


def _number(text: str) -> float:
    try:
        found = float(text)
    except ValueError:
        return 0.0
    return found if 0.0 < found < 5000.0 else 0.0


def read(text: str) -> list[Board]:
    """Boards out of what was typed. Raises BadInput."""
    found = [read_board(part) for part in text.replace("\n", ";").split(";") if part.strip()]
    if not found:
        raise BadInput("say a board: thick x wide x long, such as 18x90x900 mm")
    return found
