"""Running timers: what sets now, and until when; kept over a restart."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

from PySide6.QtCore import QObject, QTimer, Signal

from yellowbob.app.session.settings import Settings

KEY = "timers"
MOST = 12
SHOWN_AFTER = timedelta(hours=12)
"""What has set stays to be seen for so long."""


class Timers(QObject):
    """What was started, the soonest first."""

    changed = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._listed: list[tuple[str, datetime]] = []
        self.settings: Settings | None = None
        self._tick = QTimer(self)
        self._tick.setInterval(1000)
        self._tick.timeout.connect(self.changed)

    def keep_in(self, settings: Settings) -> None:
        """Take up those that ran when the program was left, and keep what is started from now on."""
        self.settings = settings
        try:
            read = [
                (str(name), datetime.fromisoformat(str(ends))) for name, ends in json.loads(settings.text(KEY, "[]"))
            ]
        except (ValueError, TypeError):
            read = []
        self._set([one for one in read if one[1].tzinfo is not None])

    def start(self, name: str, lasts: timedelta) -> None:
        """Start one; a running one of the same name starts anew."""
        left = [one for one in self._listed if one[0] != name]
        self._set([*left[-MOST + 1 :], (name, datetime.now(UTC) + lasts)])

    def stop(self, name: str) -> None:
        """Take one off."""
        self._set([one for one in self._listed if one[0] != name])

    def _set(self, listed: list[tuple[str, datetime]]) -> None:
        now = datetime.now(UTC)
        self._listed = sorted((one for one in listed if one[1] > now - SHOWN_AFTER), key=lambda one: one[1])
        if self.settings is not None:
            self.settings.put(KEY, json.dumps([(name, ends.isoformat()) for name, ends in self._listed]))
        if self._listed:
            self._tick.start()
        else:
            self._tick.stop()
        self.changed.emit()

    @property
    def running(self) -> list[tuple[str, datetime]]:
        """Name and end of each, UTC, the soonest first."""
        return list(self._listed)

    def words(self) -> str:
        """The soonest in words; empty without any."""
        if not self._listed:
            return ""
        name, ends = self._listed[0]
        more = f" (+{len(self._listed) - 1})" if len(self._listed) > 1 else ""
        return f"{told(name, ends, datetime.now(UTC))}{more}"


def told(name: str, ends: datetime, now: datetime) -> str:
    """A timer in words: what is left of it, or that it has set."""
    left = int((ends - now).total_seconds())
    if left <= 0:
        return f"set: {name}"
    if left < 3600:
        return f"{left // 60}:{left % 60:02d} min: {name}"
    return f"{left // 3600} h {left % 3600 // 60} min: {name}"
