"""What the log keeps beside builds: pucks weighed, and what a word for a speed means in this shop."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import TYPE_CHECKING, Protocol

from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import Puck, time_told

if TYPE_CHECKING:
    from contextlib import AbstractContextManager

    from sqlalchemy import Connection


class Opened(Protocol):
    """A log that is open."""

    def begin(self) -> AbstractContextManager[Connection]:
        """One transaction."""


MOST_WORDS = 60
_TABLES = (
    "CREATE TABLE IF NOT EXISTS log_pucks (number INTEGER PRIMARY KEY, at TEXT NOT NULL, data TEXT NOT NULL)",
    "CREATE TABLE IF NOT EXISTS log_speeds (words TEXT PRIMARY KEY, m_s REAL NOT NULL)",
)


def keep_sides(connection: Connection) -> None:
    """Make the tables where they are not there."""
    for words in _TABLES:
        connection.exec_driver_sql(words)


def put_puck(log: Opened, puck: Puck, at: datetime | None = None) -> None:
    """Keep a puck weighed."""
    row = (time_told(at or datetime.now(UTC)), puck.model_dump_json(exclude_defaults=True))
    with log.begin() as connection:
        connection.exec_driver_sql("INSERT INTO log_pucks (at, data) VALUES (?, ?)", row)


def pucks_of(log: Opened) -> tuple[Puck, ...]:
    """All pucks, oldest first."""
    with log.begin() as connection:
        rows = connection.exec_driver_sql("SELECT data FROM log_pucks ORDER BY at, number").scalars().all()
    return tuple(Puck.model_validate_json(row) for row in rows)


def teach_speed(log: Opened, words: str, m_s: float) -> str:
    """Keep what a word for a speed means; returns it as it is kept. Raises BadInput for words that say a figure."""
    told = " ".join(words.strip().lower().split())
    if not told or len(told) > MOST_WORDS or told[0].isdigit():
        raise BadInput(f"'{words}': teach words for a speed that begin with a letter, up to {MOST_WORDS} of them")
    with log.begin() as connection:
        connection.exec_driver_sql("INSERT OR REPLACE INTO log_speeds VALUES (?, ?)", (told, m_s))
    return told


def speeds_of(log: Opened) -> dict[str, float]:
    """Words that were taught, with their speeds, m/s."""
    with log.begin() as connection:
        return {
            w: float(v) for w, v in connection.exec_driver_sql("SELECT words, m_s FROM log_speeds ORDER BY words").all()
        }
