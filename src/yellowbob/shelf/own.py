"""The maker's own shelf, in the workshop's SQLite file: entries over the shipped ones, measured values, stock counts."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import Item

if TYPE_CHECKING:
    from sqlalchemy import Connection, Engine, MetaData, Table

T = TypeVar("T", bound=Item)

WORKSHOP = "workshop.sqlite"


def workshop_file() -> Path:
    """Where the workshop's database is: the XDG data folder, or what YELLOW_BOB_WORKSHOP names."""
    named = os.environ.get("YELLOW_BOB_WORKSHOP")
    if named:
        return Path(named)
    import platformdirs

    return Path(platformdirs.user_data_dir("yellow-bob")) / WORKSHOP


class OwnShelf:
    """Own entries by kind and name. Opening a file that is no database raises BadInput and leaves it alone."""

    def __init__(self, path: Path | None = None) -> None:
        from sqlalchemy import Column, Float, MetaData, String, Table, create_engine

        self.path = path or workshop_file()
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise BadInput(f"{self.path.parent}: cannot be made ({error.strerror})") from None
        self._engine: Engine = create_engine(f"sqlite:///{self.path}")
        self._meta: MetaData = MetaData()
        self._entries: Table = Table(
            "shelf_entries", self._meta, Column("kind", String, primary_key=True),
            Column("name", String, primary_key=True), Column("entry", String, nullable=False),
        )  # fmt: skip
        self._counts: Table = Table(
            "shelf_counts", self._meta, Column("kind", String, primary_key=True),
            Column("name", String, primary_key=True), Column("count", Float, nullable=False),
        )  # fmt: skip
        with self._open() as connection:
            self._meta.create_all(connection)

    @contextmanager
    def _open(self) -> Iterator[Connection]:
        from sqlalchemy.exc import SQLAlchemyError

        try:
            with self._engine.begin() as connection:
                yield connection
        except SQLAlchemyError as error:
            words = str(getattr(error, "orig", error))[:100]
            raise BadInput(f"{self.path}: the workshop's database cannot be used ({words}); move it aside") from None

    def entries(self, kind: type[T]) -> dict[str, T]:
        """Own entries of a kind, by name."""
        from sqlalchemy import select

        with self._open() as connection:
            rows = connection.execute(select(self._entries).where(self._entries.c.kind == kind.__name__)).all()
        return {row.name: kind.model_validate_json(row.entry) for row in rows}

    def put(self, items: list[Item]) -> None:
        """Enter or replace own entries, all or none."""
        from sqlalchemy import delete

        with self._open() as connection:
            for item in items:
                kind, name = type(item).__name__, item.name
                t = self._entries
                connection.execute(delete(t).where(t.c.kind == kind, t.c.name == name))
                connection.execute(t.insert().values(kind=kind, name=name, entry=item.model_dump_json()))
        forget()

    def remove(self, kind: type[Item], name: str) -> bool:
        """Take an own entry off; the shipped one of that name, if any, is seen again. False when there was none."""
        from sqlalchemy import delete

        t = self._entries
        with self._open() as connection:
            done = connection.execute(delete(t).where(t.c.kind == kind.__name__, t.c.name == name))
        forget()
        return bool(done.rowcount)

    def counts(self, kind: type[Item]) -> dict[str, float]:
        """How many (or how many mm) of each entry lie on the shelf; what was never counted is left out."""
        from sqlalchemy import select

        with self._open() as connection:
            rows = connection.execute(select(self._counts).where(self._counts.c.kind == kind.__name__)).all()
        return {str(row[1]): float(row[2]) for row in rows}

    def set_count(self, kind: type[Item], name: str, count: float | None) -> None:
        """Put down a count; None forgets it."""
        from sqlalchemy import delete

        if count is not None and not 0 <= count < 1e9:
            raise BadInput(f"{name}: a count of {count:g} cannot be; count what lies there, 0 or more")
        t = self._counts
        with self._open() as connection:
            connection.execute(delete(t).where(t.c.kind == kind.__name__, t.c.name == name))
            if count is not None:
                connection.execute(t.insert().values(kind=kind.__name__, name=name, count=count))


_known: dict[tuple[Path, str], dict[str, Any]] = {}


def forget() -> None:
    """Read the database again at the next look."""
    _known.clear()


def over(shipped: dict[str, T], kind: type[T]) -> dict[str, T]:
    """The shipped list with the maker's own entries over it; just the shipped one where there is no database."""
    path = workshop_file()
    key = (path, kind.__name__)
    if key not in _known:
        _known[key] = OwnShelf(path).entries(kind) if path.exists() else {}
    own: dict[str, T] = _known[key]
    if kind.__name__ == "Material":  # two shipped lists share the kind: an own entry goes where its group is
        groups = {getattr(item, "group", "") for item in shipped.values()}
        own = {n: i for n, i in own.items() if getattr(i, "group", "") in groups}
    return {**shipped, **own} if own else shipped
