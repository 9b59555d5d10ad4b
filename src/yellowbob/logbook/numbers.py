"""Every number in the log once more, in a narrow table of its own that SQLite's triggers keep: charts read only that.

`of` says where a number stands: `build.hours`, `promised.bare_g`, `tank.pitch_deg`; a weighing with its stage,
`weigh bare body.mass_g`. A star after the kind marks what was not all there: a part of a stage, a fitting off.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from sqlalchemy import Connection

_TABLE = (
    "CREATE TABLE log_numbers (serial TEXT NOT NULL, number INTEGER NOT NULL, at TEXT NOT NULL, of TEXT NOT NULL, "
    "value REAL NOT NULL)",
    "CREATE INDEX log_numbers_of ON log_numbers (of, serial, at, number, value)",
    "CREATE INDEX log_numbers_in ON log_numbers (number, serial)",
)
_NUMBER = "type IN ('integer', 'real')"


def _of_entry(row: str) -> str:
    stage = f"ifnull(' ' || json_extract({row}.data, '$.stage'), '')"
    part = f"coalesce(json_extract({row}.data, '$.shares'), json_extract({row}.data, '$.off'))"
    return (
        f"SELECT {row}.serial, {row}.number, {row}.at, {row}.what || {stage} || iif({part} IS NULL, '', '*') || '.' || key, "
        f"value FROM {{}}json_each({row}.data) WHERE {_NUMBER}"
    )


def _of_build(row: str) -> str:
    return (
        f"SELECT {row}.serial, 0, {row}.made_on, iif(path = '$', 'build', substr(path, 3)) || '.' || key, value "
        f"FROM {{}}json_tree({row}.data) WHERE {_NUMBER} UNION ALL "
        f"SELECT {row}.serial, 0, {row}.made_on, 'build.made_on', julianday({row}.made_on) - 2440587.5{{}}"
    )


def _triggers() -> tuple[str, ...]:
    entry, build = _of_entry("NEW").format(""), _of_build("NEW").format("", "")
    out = "DELETE FROM log_numbers WHERE"
    return (
        f"CREATE TRIGGER log_entry_in AFTER INSERT ON log_entries BEGIN INSERT INTO log_numbers {entry}; END",
        f"CREATE TRIGGER log_entry_out AFTER DELETE ON log_entries BEGIN {out} number = OLD.number; END",
        f"CREATE TRIGGER log_build_in AFTER INSERT ON log_builds BEGIN INSERT INTO log_numbers {build}; END",
        f"CREATE TRIGGER log_build_other AFTER UPDATE ON log_builds BEGIN {out} number = 0 AND serial = OLD.serial; "
        f"INSERT INTO log_numbers {build}; END",
    )


def keep_numbers(connection: Connection) -> None:
    """Make the table and its triggers where they are not there, and fill it from what the log holds already."""
    there = "SELECT 1 FROM sqlite_master WHERE name = 'log_numbers'"
    if connection.exec_driver_sql(there).first() is not None:
        return
    for words in (*_TABLE, *_triggers()):
        connection.exec_driver_sql(words)
    connection.exec_driver_sql(f"INSERT INTO log_numbers {_of_entry('e').format('log_entries e, ')}")
    connection.exec_driver_sql(
        f"INSERT INTO log_numbers {_of_build('b').format('log_builds b, ', ' FROM log_builds b')}"
    )
