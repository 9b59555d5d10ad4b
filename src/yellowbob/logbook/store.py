"""The log in the workshop's SQLite file: builds, the designs they were made from, and their entries.

Every change is one transaction: after a kill at any moment it is there wholly or not at all.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import AbstractContextManager
from datetime import UTC, date, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from yellowbob.design.base import made, replaced
from yellowbob.design.faults import describe
from yellowbob.design.files import read_json, to_json
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.numbers import keep_numbers
from yellowbob.logbook.records import KINDS, AsMade, Build, Data, Entry, Weighing, What, time_told
from yellowbob.logbook.sides import keep_sides
from yellowbob.workshop.database import Database, workshop_file

if TYPE_CHECKING:
    from sqlalchemy import Connection, Select, Table

MOST_BATCH = 500


class LogBook:
    """The open log. Raises BadInput where the file cannot be used."""

    def __init__(self, path: Path | None = None) -> None:
        from sqlalchemy import Column, ForeignKey, Index, Integer, MetaData, String, Table

        self.path = path or workshop_file()
        self._database = Database(self.path)
        meta = MetaData()
        serial = Column("serial", String, primary_key=True)
        self._builds: Table = Table(
            "log_builds", meta, serial, Column("name", String, nullable=False), Column("kind", String, nullable=False),
            Column("batch", String, nullable=False), Column("made_on", String, nullable=False),
            Column("state", String, nullable=False), Column("data", String, nullable=False),
        )  # fmt: skip
        self._designs: Table = Table(
            "log_designs", meta, Column("serial", String, ForeignKey("log_builds.serial"), primary_key=True),
            Column("design", String, nullable=False),
        )  # fmt: skip
        self._made: Table = Table(
            "log_made", meta, Column("serial", String, ForeignKey("log_builds.serial"), primary_key=True),
            Column("design", String, nullable=False),
        )  # fmt: skip
        self._entries: Table = Table(
            "log_entries", meta, Column("number", Integer, primary_key=True),
            Column("serial", String, ForeignKey("log_builds.serial"), nullable=False), Column("at", String, nullable=False),
            Column("what", String, nullable=False), Column("data", String, nullable=False),
        )  # fmt: skip
        Index("log_entries_of", self._entries.c.serial)
        Index("log_builds_on", self._builds.c.made_on)
        with self.begin() as connection:
            if connection.exec_driver_sql("SELECT 1 FROM sqlite_master WHERE name = 'log_speeds'").first() is None:
                # the driver begins no transaction for tables by itself: half of them might be left, or two at once make them
                connection.exec_driver_sql("BEGIN IMMEDIATE")
                meta.create_all(connection)
                keep_numbers(connection)
                keep_sides(connection)

    def begin(self) -> AbstractContextManager[Connection]:
        """One transaction: all of it or nothing."""
        return self._database.begin()

    # ---- builds

    def new(
        self, design: Design, count: int = 1, serial: str = "", made_on: date | None = None, **about: Any
    ) -> list[Build]:
        """A build of a design, or a batch of them numbered on; readings in the design become entries of the first.

        Raises BadInput for a serial that is there already, or counts out of range.
        """
        return self.new_each([(design, about)] * max(count, 0), serial, made_on, design.weighings)

    def new_each(
        self, each: Sequence[tuple[Design, dict[str, Any]]], serial: str = "", made_on: date | None = None,
        weighings: Sequence[Weighing] = (),
    ) -> list[Build]:  # fmt: skip
        """A batch of designs, each with what is said of its build; the batch's label goes before their numbers, weighings
        there are already go to the first.

        Raises BadInput for a serial that is there already, or counts out of range.
        """
        if not 1 <= len(each) <= MOST_BATCH:
            raise BadInput(f"a batch of {len(each)}: give 1 to {MOST_BATCH}")
        on = made_on or date.today()
        with self.begin() as connection:
            first = serial or self._next_serial(connection, each[0][0].name)
            built = []
            for number, (design, about) in enumerate(each, 1):
                label, batch = (first, "") if len(each) == 1 else (f"{first}-{number}", first)
                if self._row(connection, label) is not None:
                    raise BadInput(f"there is a build '{label}' already; give another serial")
                told = {"serial": label, "name": design.name, "kind": design.kind, "made_on": on, "batch": batch}
                one = made(Build, **{**told, **about})
                self._put(connection, one, new=True)
                kept = to_json(design.but(weighings=()))
                connection.execute(self._designs.insert().values(serial=label, design=kept))
                built.append(one)
            for weighing in weighings:
                self._add(connection, built[0].serial, "weigh", weighing, datetime.now(UTC))
        return built

    def take(
        self, one: Build, design: Design, entries: list[tuple[What, Data, datetime]], as_made: Design | None = None
    ) -> None:
        """A build with all that belongs to it, as it was written out elsewhere. Raises BadInput for a serial that is
        there."""
        with self.begin() as connection:
            if self._row(connection, one.serial) is not None:
                raise BadInput(f"there is a build '{one.serial}' already; give another serial")
            self._put(connection, one, new=True)
            connection.execute(
                self._designs.insert().values(serial=one.serial, design=to_json(design.but(weighings=())))
            )
            if as_made is not None:
                connection.execute(self._made.insert().values(serial=one.serial, design=to_json(as_made)))
            for what, data, at in entries:
                self._add(connection, one.serial, what, data, at)

    def _next_serial(self, connection: Connection, name: str) -> str:
        """Letters of the design's name and the next number after those there are."""
        from sqlalchemy import select

        letters = "".join(w[0] for w in name.upper().split() if w[0].isalpha())[:4] or "B"
        rows = connection.execute(
            select(self._builds.c.serial).where(self._builds.c.serial.like(f"{letters}%"))
        ).scalars()
        numbers = [int(head) for one in rows if (head := one[len(letters) :].partition("-")[0]).isdigit()]
        return f"{letters}{max(numbers, default=0) + 1:03d}"

    def _row(self, connection: Connection, serial: str) -> Any:
        from sqlalchemy import select

        return connection.execute(
            select(self._builds.c.data).where(self._builds.c.serial == serial)
        ).scalar_one_or_none()

    def _put(self, connection: Connection, one: Build, new: bool = False) -> None:
        row = {"serial": one.serial, "name": one.name, "kind": one.kind, "batch": one.batch,
            "made_on": one.made_on.isoformat(),
               "state": one.state, "data": one.model_dump_json(exclude_defaults=True)}  # fmt: skip
        t = self._builds
        connection.execute(t.insert().values(row) if new else t.update().where(t.c.serial == one.serial).values(row))

    def build(self, serial: str) -> Build:
        """One by its serial. Raises BadInput for one that is not there."""
        with self.begin() as connection:
            row = self._row(connection, serial)
        if row is None:
            raise BadInput(f"no build '{serial}' is in the log; `log list` shows them")
        return Build.model_validate_json(row)

    def change(self, serial: str, **changes: Any) -> Build:
        """A build with fields replaced. Raises BadInput."""
        one = replaced(self.build(serial), **changes)
        if one.serial != serial:
            raise BadInput("a build keeps its serial")
        with self.begin() as connection:
            self._put(connection, one)
        return one

    def builds(
        self, words: str = "", kind: str = "", state: str = "", batch: str = "", most: int | None = None
    ) -> list[Build]:
        """Builds that have all the words anywhere in them or their entries, newest first, so many at most."""
        t = self._builds
        asked = self._asked(t.c.data, words, kind, state, batch).order_by(t.c.made_on.desc(), t.c.serial.desc())
        with self.begin() as connection:
            rows = connection.execute(asked.limit(most)).scalars().all()
        return [Build.model_validate_json(row) for row in rows]

    def serials(self, words: str = "") -> list[str]:
        """Serials of the builds that have all the words."""
        with self.begin() as connection:
            return list(connection.execute(self._asked(self._builds.c.serial, words)).scalars())

    def _asked(self, what: Any, words: str = "", kind: str = "", state: str = "", batch: str = "") -> Select[Any]:
        from sqlalchemy import or_, select

        t, e = self._builds, self._entries
        asked = select(what).select_from(t)
        for column, value in ((t.c.kind, kind), (t.c.state, state), (t.c.batch, batch)):
            if value:
                asked = asked.where(column == value)
        for word in words.split():
            like = f"%{word.replace('%', '').replace('_', ' ')}%"
            within = select(e.c.serial).where(e.c.data.like(like))
            asked = asked.where(or_(t.c.data.like(like), t.c.serial.in_(within)))
        return asked

    def design(self, serial: str) -> Design:
        """The design of a build: as it was made where that was measured, else as drawn then; with its own weighings.
        Raises BadInput."""
        design = self.as_made(serial) or self.drawn(serial)
        return design.but(weighings=tuple(e.data for e in self.entries(serial, "weigh")))

    def drawn(self, serial: str) -> Design:
        """The design a build was made from, as it was drawn then. Raises BadInput."""
        found = self._kept(self._designs, serial)
        if found is None:
            raise BadInput(f"no build '{serial}' is in the log; `log list` shows them")
        return found

    def as_made(self, serial: str) -> Design | None:
        """The design as the piece came out, where it was measured back."""
        return self._kept(self._made, serial)

    def _kept(self, t: Table, serial: str) -> Design | None:
        from sqlalchemy import select

        with self.begin() as connection:
            row = connection.execute(select(t.c.design).where(t.c.serial == serial)).scalar_one_or_none()
        return None if row is None else read_json(row, f"the design of {serial}")

    def put_made(self, serial: str, design: Design | None, measured: AsMade | None = None) -> None:
        """Keep a build's design as made, with the readings that made it so; None: it is as drawn again."""
        self.build(serial)
        with self.begin() as connection:
            connection.execute(self._made.delete().where(self._made.c.serial == serial))
            if design is not None:
                kept = to_json(design.but(weighings=()))
                connection.execute(self._made.insert().values(serial=serial, design=kept))
            if measured is not None:
                self._add(connection, serial, "made", measured, datetime.now(UTC))

    # ---- entries

    def add(self, serial: str, what: What, data: Data, at: datetime | None = None) -> Entry:
        """An entry of a build. Raises BadInput for a build that is not there."""
        self.build(serial)
        with self.begin() as connection:
            return self._add(connection, serial, what, data, at or datetime.now(UTC))

    def _add(self, connection: Connection, serial: str, what: What, data: Data, at: datetime) -> Entry:
        row = {"serial": serial, "at": time_told(at), "what": what, "data": data.model_dump_json(exclude_defaults=True)}
        number = connection.execute(self._entries.insert().values(row)).inserted_primary_key
        assert number is not None
        return Entry(number=int(number[0]), serial=serial, at=at, what=what, data=data)

    def entries(self, serial: str = "", what: What | None = None) -> tuple[Entry, ...]:
        """Entries of a build, or of all, in order of time; of one kind where it is named."""
        from sqlalchemy import select

        t = self._entries
        asked = select(t).order_by(t.c.at, t.c.number)
        if serial:
            asked = asked.where(t.c.serial == serial)
        if what is not None:
            asked = asked.where(t.c.what == what)
        with self.begin() as connection:
            rows = connection.execute(asked).all()
        return tuple(_entry(row) for row in rows)

    def remove(self, number: int) -> Entry:
        """Take an entry off; returns it. Raises BadInput for one that is not there."""
        from sqlalchemy import select

        t = self._entries
        with self.begin() as connection:
            row = connection.execute(select(t).where(t.c.number == number)).one_or_none()
            if row is None:
                raise BadInput(f"no entry {number} is in the log")
            connection.execute(t.delete().where(t.c.number == number))
        return _entry(row)


def _entry(row: Any) -> Entry:
    try:
        data = KINDS[row.what].model_validate_json(row.data)
        return Entry(number=row.number, serial=row.serial, at=row.at, what=row.what, data=data)
    except (ValidationError, KeyError) as error:
        why = describe(error) if isinstance(error, ValidationError) else f"'{row.what}' is no kind of entry"
        raise BadInput(f"entry {row.number} of {row.serial} cannot be read: {why}") from None
