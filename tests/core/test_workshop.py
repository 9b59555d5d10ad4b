"""The workshop's one file: schema version, migration with a copy kept, newer ones refused, all or nothing."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import STORED_AS, BallastStock, Hook, Material
from yellowbob.shelf.own import OwnShelf
from yellowbob.shelf.shipped import LISTS
from yellowbob.workshop.database import KIND_NAMES, MIGRATIONS, SCHEMA, Database


def version_of(path: Path) -> int:
    with sqlite3.connect(path) as file:
        return int(file.execute("PRAGMA user_version").fetchone()[0])


def as_version_1(path: Path) -> None:
    """A file as the first version wrote it: class names, no schema version."""
    with sqlite3.connect(path) as file:
        file.execute("CREATE TABLE shelf_entries (kind TEXT, name TEXT, entry TEXT NOT NULL, PRIMARY KEY (kind, name))")
        file.execute("CREATE TABLE shelf_counts (kind TEXT, name TEXT, count FLOAT NOT NULL, PRIMARY KEY (kind, name))")
        entry = '{"name": "shed ash", "group": "wood", "density_g_ml": 0.61, "spread_g_ml": 0.02, "source": "own"}'
        file.execute("INSERT INTO shelf_entries VALUES ('Material', 'shed ash', ?)", (entry,))
        file.execute("INSERT INTO shelf_counts VALUES ('BallastStock', 'lead rod 6 mm', 340.0)")


def test_a_new_file_has_the_schema_of_today(tmp_path: Path) -> None:
    OwnShelf(tmp_path / "w.sqlite")
    assert version_of(tmp_path / "w.sqlite") == SCHEMA
    assert set(MIGRATIONS) == set(range(1, SCHEMA))


def test_an_older_file_is_brought_up_and_a_copy_of_it_kept(tmp_path: Path) -> None:
    path = tmp_path / "w.sqlite"
    as_version_1(path)
    shelf = OwnShelf(path)
    assert shelf.entries(Material)["shed ash"].density_g_ml == 0.61
    assert shelf.counts(BallastStock) == {"lead rod 6 mm": 340.0}
    assert version_of(path) == SCHEMA
    kept = tmp_path / f"w.before-{SCHEMA}.sqlite"
    with sqlite3.connect(kept) as file:
        assert file.execute("SELECT kind FROM shelf_entries").fetchall() == [("Material",)]
    with sqlite3.connect(path) as file:
        assert file.execute("SELECT kind FROM shelf_entries").fetchall() == [("material",)]
    assert OwnShelf(path).entries(Material) == shelf.entries(Material)


def test_a_newer_file_is_refused_and_untouched(tmp_path: Path) -> None:
    path = tmp_path / "w.sqlite"
    OwnShelf(path)
    with sqlite3.connect(path) as file:
        file.execute("PRAGMA user_version = 99")
    before = path.read_bytes()
    with pytest.raises(BadInput, match="newer than this program"):
        OwnShelf(path)
    assert path.read_bytes() == before


def test_what_is_no_database_is_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "w.sqlite"
    path.write_text("a letter to nobody" * 200)
    with pytest.raises(BadInput, match="move it aside"):
        OwnShelf(path)
    assert path.read_text().startswith("a letter")


def test_entries_are_put_all_or_none_and_over_one_another(tmp_path: Path) -> None:
    shelf = OwnShelf(tmp_path / "w.sqlite")
    ash = Material(name="ash", group="wood", density_g_ml=0.6, spread_g_ml=0.02)
    with pytest.raises(BadInput, match="cannot be"):
        shelf.put([ash], {"ash": -3.0})
    assert shelf.entries(Material) == {}
    shelf.put([ash], {"ash": 2.0})
    shelf.put([ash.model_copy(update={"density_g_ml": 0.63})], {"ash": 4.0})
    assert shelf.entries(Material)["ash"].density_g_ml == 0.63
    assert shelf.counts(Material) == {"ash": 4.0}
    shelf.set_count(Material, "ash", None)
    assert shelf.counts(Material) == {}
    assert shelf.remove(Material, "ash")
    assert not shelf.remove(Material, "ash")


def test_every_kind_of_entry_has_a_name_that_stays() -> None:
    kinds = {kind for kind, _ in LISTS.values()}
    assert {k.__name__ for k in kinds} == set(STORED_AS)
    assert len(set(STORED_AS.values())) == len(STORED_AS)
    assert KIND_NAMES.items() <= STORED_AS.items()
    assert Hook.stored_as() == "hook"


def test_one_transaction_is_all_of_it_or_nothing(tmp_path: Path) -> None:
    from sqlalchemy import text

    database = Database(tmp_path / "w.sqlite")
    with database.begin() as connection:
        connection.execute(text("CREATE TABLE t (a INTEGER)"))
    with pytest.raises(RuntimeError), database.begin() as connection:
        connection.execute(text("INSERT INTO t VALUES (1)"))
        raise RuntimeError("pulled the plug")
    with database.begin() as connection:
        assert connection.execute(text("SELECT count(*) FROM t")).scalar_one() == 0
    with pytest.raises(BadInput, match="cannot be used"), database.begin() as connection:
        connection.execute(text("SELECT nothing FROM nowhere"))
