"""The maker's own shelf, in the workshop's SQLite file: entries over the shipped ones, measured values, stock counts."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

from yellowbob.design.faults import describe
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import Item
from yellowbob.workshop.database import Database, workshop_file

if TYPE_CHECKING:
    from sqlalchemy import Connection, MetaData, Table

T = TypeVar("T", bound=Item)


class OwnShelf:
    """Own entries by kind and name. Opening a file that is no database raises BadInput and leaves it alone."""

    def __init__(self, path: Path | None = None) -> None:
        from sqlalchemy import Column, Float, MetaData, String, Table

        self.path = path or workshop_file()
        self._database = Database(self.path)
        self._meta: MetaData = MetaData()
        self._entries: Table = Table(
            "shelf_entries", self._meta, Column("kind", String, primary_key=True),
            Column("name", String, primary_key=True), Column("entry", String, nullable=False),
        )  # fmt: skip
        self._counts: Table = Table(
            "shelf_counts", self._meta, Column("kind", String, primary_key=True),
            Column("name", String, primary_key=True), Column("count", Float, nullable=False),
        )  # fmt: skip
        with self._database.begin() as connection:
            self._meta.create_all(connection)

    def entries(self, kind: type[T]) -> dict[str, T]:
        """Own entries of a kind, by name; what cannot be read is left out and told by `unreadable`."""
        return self._read(kind)[0]

    def unreadable(self, kind: type[Item]) -> dict[str, str]:
        """Own entries of a kind that cannot be read, with the reason: they stay in the file until replaced or removed."""
        return self._read(kind)[1]

    def _read(self, kind: type[T]) -> tuple[dict[str, T], dict[str, str]]:
        from pydantic import ValidationError
        from sqlalchemy import select

        with self._database.begin() as connection:
            rows = connection.execute(select(self._entries).where(self._entries.c.kind == kind.stored_as())).all()
        sound: dict[str, T] = {}
        bad: dict[str, str] = {}
        for row in rows:
            try:
                item = kind.model_validate_json(row.entry)
            except (ValidationError, TypeError) as error:
                bad[str(row.name)] = describe(error) if isinstance(error, ValidationError) else "it is empty"
                continue
            if item.name == row.name:
                sound[item.name] = item
            else:
                bad[str(row.name)] = f"it is filed under another name than its own, '{item.name}'"
        return sound, bad

    def put(self, items: list[Item], counts: dict[str, float] | None = None) -> None:
        """Enter or replace own entries, and counts by their names, all or none. Raises BadInput for a bad count."""
        from sqlalchemy.dialects.sqlite import insert

        kinds = {item.name: item.stored_as() for item in items}
        for name, count in (counts or {}).items():
            sound_count(name, count)
        with self._database.begin() as connection:
            for item in items:
                row = {"kind": item.stored_as(), "name": item.name, "entry": item.model_dump_json()}
                connection.execute(insert(self._entries).values(row).on_conflict_do_update(
                    index_elements=["kind", "name"], set_={"entry": row["entry"]}))  # fmt: skip
            for name, count in (counts or {}).items():
                self._put_count(connection, kinds[name], name, count)
        forget()

    def _put_count(self, connection: Connection, kind: str, name: str, count: float) -> None:
        from sqlalchemy.dialects.sqlite import insert

        row = {"kind": kind, "name": name, "count": count}
        connection.execute(insert(self._counts).values(row).on_conflict_do_update(
            index_elements=["kind", "name"], set_={"count": count}))  # fmt: skip

    def remove(self, kind: type[Item], name: str) -> bool:
        """Take an own entry off; the shipped one of that name, if any, is seen again. False when there was none."""
        from sqlalchemy import delete

        t = self._entries
        with self._database.begin() as connection:
            done = connection.execute(delete(t).where(t.c.kind == kind.stored_as(), t.c.name == name))
        forget()
        return bool(done.rowcount)

    def counts(self, kind: type[Item]) -> dict[str, float]:
        """How many (or how many mm) of each entry lie on the shelf; what was never counted is left out."""
        from sqlalchemy import select

        with self._database.begin() as connection:
            rows = connection.execute(select(self._counts).where(self._counts.c.kind == kind.stored_as())).all()
        return {str(row[1]): float(row[2]) for row in rows}

    def set_count(self, kind: type[Item], name: str, count: float | None) -> None:
        """Put down a count; None forgets it."""
        from sqlalchemy import delete

        if count is not None:
            sound_count(name, count)
        t = self._counts
        with self._database.begin() as connection:
            if count is not None:
                self._put_count(connection, kind.stored_as(), name, count)
            else:
                connection.execute(delete(t).where(t.c.kind == kind.stored_as(), t.c.name == name))


def sound_count(name: str, count: float) -> None:
    """Raise BadInput for a number of things that cannot be."""
    if not 0 <= count < 1e9:
        raise BadInput(f"{name}: a count of {count:g} cannot be; count what lies there, 0 or more")


_known: dict[tuple[Path, str], dict[str, Any]] = {}


def forget() -> None:
    """Read the database again at the next look."""
    _known.clear()


def set_aside(kind: type[Item]) -> list[str]:
    """A line for each own entry that cannot be read: which, why, and what to do; empty where there is no database."""
    path = workshop_file()
    bad = OwnShelf(path).unreadable(kind) if path.exists() else {}
    return [
        f"{name}: your own entry cannot be read ({why}); enter it again, or take it off" for name, why in bad.items()
    ]


def over(shipped: dict[str, T], kind: type[T]) -> dict[str, T]:
    """The shipped list with the maker's own entries over it; just the shipped one where there is no database."""
    path = workshop_file()
    key = (path, kind.stored_as())
    if key not in _known:
        _known[key] = OwnShelf(path).entries(kind) if path.exists() else {}
    own: dict[str, T] = _known[key]
    if kind.stored_as() == "material":  # two shipped lists share the kind: an own entry goes where its group is
        groups = {getattr(item, "group", "") for item in shipped.values()}
        own = {n: i for n, i in own.items() if getattr(i, "group", "") in groups}
    return {**shipped, **own} if own else shipped
