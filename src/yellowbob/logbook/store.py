"""The log in the workshop's SQLite file: builds, the designs they were made from, and their entries.

Every change is one transaction: after a kill at any moment it is there wholly or not at all.
"""

from __future__ import annotations

from datetime import UTC, date, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from yellowbob.design.base import made, replaced
from yellowbob.design.faults import describe
from yellowbob.design.files import read_json, to_json
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import KINDS, Build, Data, Entry, What, time_told
from yellowbob.workshop.database import Database, workshop_file

if TYPE_CHECKING:
    from sqlalchemy import Connection, Table

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
        self._entries: Table = Table(
            "log_entries", meta, Column("number", Integer, primary_key=True),
            Column("serial", String, ForeignKey("log_builds.serial"), nullable=False), Column("at", String, nullable=False),
            Column("what", String, nullable=False), Column("data", String, nullable=False),
        )  # fmt: skip
        Index("log_entries_of", self._entries.c.serial)
        Index("log_builds_on", self._builds.c.made_on)
        with self._database.begin() as connection:
            meta.create_all(connection)

    # ---- builds

    def new(
        self, design: Design, count: int = 1, serial: str = "", made_on: date | None = None, **about: Any
    ) -> list[Build]:
        """A build of a design, or a batch of them numbered on; readings in the design become entries of the first.

        Raises BadInput for a serial that is there already, or counts out of range.
        """
        if not 1 <= count <= MOST_BATCH:
            raise BadInput(f"a batch of {count}: give 1 to {MOST_BATCH}")
        on = made_on or date.today()
        kept = design.but(weighings=())
        with self._database.begin() as connection:
            first = serial or self._next_serial(connection, design.name)
            names = [first] if count == 1 else [f"{first}-{k}" for k in range(1, count + 1)]
            built = []
            for label in names:
                if self._row(connection, label) is not None:
                    raise BadInput(f"there is a build '{label}' already; give another serial")
                batch = first if count > 1 else ""
                one = made(
                    Build,
                    **{
                        "serial": label,
                        "name": design.name,
                        "kind": design.kind,
                        "made_on": on,
                        "batch": batch,
                        **about,
                    },
                )
                self._put(connection, one, new=True)
                connection.execute(self._designs.insert().values(serial=label, design=to_json(kept)))
                built.append(one)
            for weighing in design.weighings:
                self._add(connection, names[0], "weigh", weighing, datetime.now(UTC))
        return built

    def take(self, one: Build, design: Design, entries: list[tuple[What, Data, datetime]]) -> None:
        """A build with all that belongs to it, as it was written out elsewhere. Raises BadInput for a serial that is
        there."""
        with self._database.begin() as connection:
            if self._row(connection, one.serial) is not None:
                raise BadInput(f"there is a build '{one.serial}' already; give another serial")
            self._put(connection, one, new=True)
            connection.execute(
                self._designs.insert().values(serial=one.serial, design=to_json(design.but(weighings=())))
            )
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
        with self._database.begin() as connection:
            row = self._row(connection, serial)
        if row is None:
            raise BadInput(f"no build '{serial}' is in the log; `log list` shows them")
        return Build.model_validate_json(row)

    def change(self, serial: str, **changes: Any) -> Build:
        """A build with fields replaced. Raises BadInput."""
        one = replaced(self.build(serial), **changes)
        if one.serial != serial:
            raise BadInput("a build keeps its serial")
        with self._database.begin() as connection:
            self._put(connection, one)
        return one

    def builds(self, words: str = "", kind: str = "", state: str = "", batch: str = "") -> list[Build]:
        """Builds that have all the words anywhere in them or their entries, newest first."""
        from sqlalchemy import or_, select

        t, e = self._builds, self._entries
        asked = select(t.c.data).order_by(t.c.made_on.desc(), t.c.serial.desc())
        for column, value in ((t.c.kind, kind), (t.c.state, state), (t.c.batch, batch)):
            if value:
                asked = asked.where(column == value)
        for word in words.split():
            like = f"%{word.replace('%', '').replace('_', ' ')}%"
            within = select(e.c.serial).where(e.c.data.like(like))
            asked = asked.where(or_(t.c.data.like(like), t.c.serial.in_(within)))
        with self._database.begin() as connection:
            rows = connection.execute(asked).scalars().all()
        return [Build.model_validate_json(row) for row in rows]

    def design(self, serial: str) -> Design:
        """The design a build was made from, as it was then, with the build's own weighings. Raises BadInput."""
        from sqlalchemy import select

        t = self._designs
        with self._database.begin() as connection:
            row = connection.execute(select(t.c.design).where(t.c.serial == serial)).scalar_one_or_none()
        if row is None:
            raise BadInput(f"no build '{serial}' is in the log; `log list` shows them")
        design = read_json(row, f"the design of {serial}")
        return design.but(weighings=tuple(e.data for e in self.entries(serial, "weigh")))

    # ---- entries

    def add(self, serial: str, what: What, data: Data, at: datetime | None = None) -> Entry:
        """An entry of a build. Raises BadInput for a build that is not there."""
        self.build(serial)
        with self._database.begin() as connection:
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
        with self._database.begin() as connection:
            rows = connection.execute(asked).all()
        return tuple(_entry(row) for row in rows)

    def remove(self, number: int) -> None:
        """Take an entry off. Raises BadInput for one that is not there."""
        t = self._entries
        with self._database.begin() as connection:
            if not connection.execute(t.delete().where(t.c.number == number)).rowcount:
                raise BadInput(f"no entry {number} is in the log")


def _entry(row: Any) -> Entry:
    try:
        data = KINDS[row.what].model_validate_json(row.data)
        return Entry(number=row.number, serial=row.serial, at=row.at, what=row.what, data=data)
    except (ValidationError, KeyError) as error:
        why = describe(error) if isinstance(error, ValidationError) else f"'{row.what}' is no kind of entry"
        raise BadInput(f"entry {row.number} of {row.serial} cannot be read: {why}") from None
