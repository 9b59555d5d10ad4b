"""The workshop's one SQLite file: engine, schema version, migrations, and how a file that cannot be used is refused.

The schema's version is SQLite's own `user_version`. An older file is brought up to this one, after a copy of it was put
beside it; a newer one is refused and left alone.
"""

from __future__ import annotations

import os
import shutil
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING

from yellowbob.ground.errors import BadInput

if TYPE_CHECKING:
    from sqlalchemy import Connection, Engine

WORKSHOP = "workshop.sqlite"
PLACE = "YELLOW_BOB_WORKSHOP"
"""Variable of the environment that names the workshop's file."""
SCHEMA = 4

KIND_NAMES = {
    "Material": "material", "Hook": "hook", "Hardware": "hardware", "WireStock": "wire", "BallastStock": "ballast",
    "FillerStock": "filler", "CoatStock": "coat", "Resin": "resin", "Powder": "powder",
}  # fmt: skip
"""Version 1 wrote the names of classes where version 2 has names that stay."""


def workshop_file() -> Path:
    """Where the workshop's database is: the XDG data folder, or what YELLOW_BOB_WORKSHOP names."""
    named = os.environ.get(PLACE)
    if named:
        return Path(named)
    import platformdirs

    return Path(platformdirs.user_data_dir("yellow-bob")) / WORKSHOP


def _to_2(connection: Connection) -> None:
    """Rows keyed by stable names instead of class names."""
    from sqlalchemy import inspect, text

    tables = set(inspect(connection).get_table_names())
    for table in {"shelf_entries", "shelf_counts"} & tables:
        for old, new in KIND_NAMES.items():
            connection.execute(text(f"UPDATE {table} SET kind = :new WHERE kind = :old"), {"new": new, "old": old})


def _to_3(connection: Connection) -> None:
    """The log's tables, which are made when it is opened: programs of version 2 must not write beside them."""


def _to_4(connection: Connection) -> None:
    """Pieces as made, pucks, promises: programs of version 3 do not know such entries."""


MIGRATIONS: dict[int, Callable[[Connection], None]] = {1: _to_2, 2: _to_3, 3: _to_4}
"""From schema n to n + 1."""


class Database:
    """The open file. Raises BadInput where it is none of ours, is newer, or cannot be used; it is left alone then."""

    def __init__(self, path: Path) -> None:
        from sqlalchemy import create_engine

        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise BadInput(f"{path.parent}: cannot be made ({error.strerror})") from None
        self._engine: Engine = create_engine(f"sqlite:///{path}")
        self._bring_up()

    @contextmanager
    def begin(self) -> Iterator[Connection]:
        """One transaction: all of it or nothing."""
        from sqlalchemy.exc import SQLAlchemyError

        try:
            with self._engine.begin() as connection:
                yield connection
        except SQLAlchemyError as error:
            words = str(getattr(error, "orig", error))[:100]
            if "locked" in words:
                raise BadInput(
                    f"{self.path}: another program holds the workshop's database; close it there and try again"
                ) from None
            raise BadInput(f"{self.path}: the workshop's database cannot be used ({words}); move it aside") from None

    def _log_ahead(self) -> None:
        """SQLite's write-ahead log: readers and a writer do not wait for one another. Where the disk does not let it, as
        before."""
        with suppress(Exception), self._engine.connect() as connection:
            if connection.exec_driver_sql("PRAGMA journal_mode").scalar_one() != "wal":
                connection.exec_driver_sql("PRAGMA journal_mode = WAL")

    def _bring_up(self) -> None:
        from sqlalchemy import inspect, text

        with self.begin() as connection:
            version = int(connection.execute(text("PRAGMA user_version")).scalar_one())
            empty = not inspect(connection).get_table_names()
        if version > SCHEMA:
            raise BadInput(
                f"{self.path}: schema {version} is newer than this program reads ({SCHEMA}); update it. "
                "Nothing was changed"
            )
        self._log_ahead()
        if version == SCHEMA:
            return  # nothing is written: a file that another program reads just now is left in peace
        version = SCHEMA if empty else max(version, 1)
        if version < SCHEMA:
            shutil.copy2(self.path, self.path.with_suffix(f".before-{SCHEMA}.sqlite"))
        with self.begin() as connection:
            for old in range(version, SCHEMA):
                MIGRATIONS[old](connection)
            connection.execute(text(f"PRAGMA user_version = {SCHEMA}"))


@lru_cache(maxsize=8)
def opened(path: Path) -> Database:
    """The database at a path, opened once."""
    return Database(path)
