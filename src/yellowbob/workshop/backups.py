"""Copies of the workshop's database: one at each start, the last ten kept; and one put back in its place."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from yellowbob.ground.errors import BadInput
from yellowbob.workshop.database import SCHEMA, workshop_file

KEPT = 10
FOLDER = "backups"


def backups(path: Path | None = None) -> list[Path]:
    """Those there are, the newest first."""
    folder = (path or workshop_file()).parent / FOLDER
    return sorted(folder.glob("workshop-*.sqlite"), reverse=True)


def back_up(path: Path | None = None) -> Path | None:
    """A copy of the database as it is, through SQLite's own backup, and the oldest beyond KEPT taken off; None without one.

    Raises BadInput where it cannot be written.
    """
    path = path or workshop_file()
    if not path.is_file():
        return None
    folder = path.parent / FOLDER
    target = folder / f"workshop-{datetime.now(UTC):%Y%m%d-%H%M%S-%f}.sqlite"
    try:
        folder.mkdir(exist_ok=True)
        _copied(path, target)
    except (OSError, sqlite3.Error) as error:
        target.unlink(missing_ok=True)
        raise BadInput(f"{target}: the workshop's database cannot be copied there ({error})") from None
    for old in backups(path)[KEPT:]:
        old.unlink(missing_ok=True)
    return target


def restore(backup: Path, path: Path | None = None) -> Path | None:
    """Put a copy in the place of the database; what was there is backed up first, and its copy returned.

    Raises BadInput for a copy that is no sound database, or newer than this program reads; nothing is changed then.
    """
    path = path or workshop_file()
    try:
        with closing(sqlite3.connect(f"file:{backup}?mode=ro", uri=True)) as source:
            sound = source.execute("PRAGMA quick_check").fetchone()[0]
            version = int(source.execute("PRAGMA user_version").fetchone()[0])
    except sqlite3.Error as error:
        raise BadInput(f"{backup}: is no copy of the workshop's database ({error})") from None
    if sound != "ok" or version > SCHEMA or version < 1:
        why = "it is damaged" if sound != "ok" else f"schema {version} is not one this program reads (up to {SCHEMA})"
        raise BadInput(f"{backup}: {why}. Nothing was changed")
    before = back_up(path)
    try:
        _copied(backup, path)
    except (OSError, sqlite3.Error) as error:
        raise BadInput(f"{path}: cannot be replaced ({error})") from None
    return before


def _copied(source: Path, target: Path) -> None:
    with closing(sqlite3.connect(source)) as one, closing(sqlite3.connect(target)) as two:
        one.backup(two)
