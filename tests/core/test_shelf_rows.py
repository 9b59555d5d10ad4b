"""A row that cannot be read is set aside by name, the rest of the list stays; nothing is half taken."""

from __future__ import annotations

import json
import sqlite3
from pathlib import Path

import pytest
from pydantic import BaseModel, ValidationError
from typer.testing import CliRunner

from yellowbob.cli.main import app
from yellowbob.ground.errors import BadInput
from yellowbob.shelf import items
from yellowbob.shelf.exchange import from_csv, to_csv
from yellowbob.shelf.items import BallastStock, Material
from yellowbob.shelf.own import OwnShelf, forget, set_aside
from yellowbob.shelf.shipped import materials
from yellowbob.workshop.database import workshop_file

GOOD = Material(name="pond willow", group="wood", density_g_ml=0.41, spread_g_ml=0.03, source="own")
BAD_ENTRIES = {
    "no json": "{", "not an object": "[1, 2]",
    "density of iron wool": '{"name": "density of iron wool", "density_g_ml": "a lot"}',
    "out of range": '{"name": "out of range", "group": "wood", "density_g_ml": 900, "spread_g_ml": 0}',
    "unknown field": '{"name": "unknown field", "group": "wood", "density_g_ml": 0.5, "spread_g_ml": 0.1, "taste": 3}',
    "other name": '{"name": "somebody else", "group": "wood", "density_g_ml": 0.5, "spread_g_ml": 0.1, "source": "own"}',
}  # fmt: skip


def run(*words: str) -> tuple[int, str, str]:
    """Code, what was printed, and what was said as wrong; anything but a refusal is raised."""
    done = CliRunner().invoke(app, list(words))
    if isinstance(done.exception, BadInput):
        return 2, done.stdout, done.stderr + str(done.exception)
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return done.exit_code, done.stdout, done.stderr


def put_raw(name: str, entry: str) -> None:
    """A row as another program, or a disk, might leave it."""
    with sqlite3.connect(workshop_file()) as database:
        database.execute("INSERT OR REPLACE INTO shelf_entries VALUES ('material', ?, ?)", (name, entry))
    database.close()
    forget()


@pytest.mark.parametrize(("name", "entry"), BAD_ENTRIES.items())
def test_a_bad_row_is_set_aside_by_name_and_the_others_stay(name: str, entry: str) -> None:
    OwnShelf().put([GOOD])
    put_raw(name, entry)
    assert materials()["pond willow"] == GOOD
    assert "alder" in materials()
    assert name not in materials()
    assert "somebody else" not in materials()
    (line,) = set_aside(Material)
    assert line.startswith(f"{name}: ")
    assert "take it off" in line
    assert set_aside(BallastStock) == []
    with sqlite3.connect(workshop_file()) as database:
        kept = database.execute("SELECT entry FROM shelf_entries WHERE name = ?", (name,)).fetchone()
    assert kept == (entry,)


def test_a_bad_row_is_mended_by_entering_it_again_or_taking_it_off() -> None:
    OwnShelf().put([GOOD])
    put_raw("pond willow", "{")
    assert "pond willow" not in materials()
    OwnShelf().put([GOOD])
    assert set_aside(Material) == []
    put_raw("lost", "{")
    assert OwnShelf().remove(Material, "lost")
    assert set_aside(Material) == []


def test_a_shipped_entry_is_seen_again_where_the_own_one_over_it_is_bad() -> None:
    shipped = materials()["alder"]
    OwnShelf().put([GOOD])
    put_raw("alder", '{"name": "alder"}')
    assert materials()["alder"] == shipped
    assert set_aside(Material)[0].startswith("alder: ")


def test_the_command_lists_the_rest_and_says_which_row_is_bad() -> None:
    OwnShelf().put([GOOD])
    put_raw("lost", "{")
    code, out, err = run("shelf", "list", "materials")
    assert code == 0
    assert "pond willow" in out
    assert "! lost: your own entry cannot be read" in err
    code, out, err = run("shelf", "list", "materials", "--json")
    assert code == 0
    assert "pond willow" in {row["name"] for row in json.loads(out)}
    assert "! lost" in err


@pytest.mark.parametrize("count", ["-3", "nan", "inf", "1e12"])
def test_an_entry_with_a_bad_count_is_not_half_taken(count: str) -> None:
    code, _, err = run("shelf", "add", "materials", "pond willow", "group=wood", "density_g_ml=0.41", "spread_g_ml=0.03",
                       f"--count={count}")  # fmt: skip
    assert code != 0
    assert "count" in err
    assert "pond willow" not in materials()


@pytest.mark.parametrize("rows", ["a,wood,0.5,0.1,3\nb,wood,0.5,0.1,-2\n", "a,wood,0.5,0.1,3\nb,wood,0.5,0.1,some\n",
                                  "a,wood,0.5,0.1,3\na,wood,0.6,0.1,2\n"])  # fmt: skip
def test_a_list_with_one_bad_count_or_a_name_twice_is_not_taken_at_all(tmp_path: Path, rows: str) -> None:
    file = tmp_path / "list.csv"
    file.write_text("name,group,density_g_ml,spread_g_ml,count\n" + rows, encoding="utf-8")
    before = set(materials())
    code, _, err = run("shelf", "import", "materials", str(file))
    assert code != 0
    assert err.strip()
    assert set(materials()) == before
    assert OwnShelf().counts(Material) == {}


def test_a_heading_twice_is_refused(tmp_path: Path) -> None:
    file = tmp_path / "h.csv"
    file.write_text("name,group,density_g_ml,density_g_ml\na,wood,0.5,0.4\n", encoding="utf-8")
    with pytest.raises(BadInput, match="the heading 'density_g_ml' is there twice"):
        from_csv(Material, file)


def test_a_name_twice_is_named_with_its_line(tmp_path: Path) -> None:
    file = tmp_path / "list.csv"
    file.write_text("name,group,density_g_ml,spread_g_ml\na,wood,0.5,0.1\nc,wood,0.5,0.1\na,wood,0.6,0.1\n")
    with pytest.raises(BadInput, match="line 4: 'a' is there twice"):
        from_csv(Material, file)


@pytest.mark.parametrize(
    ("count", "words"),
    [
        ("some", "line 3, count: 'some' is no number"),
        ("-2", "line 3, count: b: a count of -2"),
        ("1e12", "line 3, count: b"),
    ],
)
def test_a_bad_count_is_named_with_its_line(tmp_path: Path, count: str, words: str) -> None:
    file = tmp_path / "list.csv"
    file.write_text(f"name,group,density_g_ml,spread_g_ml,count\na,wood,0.5,0.1,2\nb,wood,0.5,0.1,{count}\n")
    with pytest.raises(BadInput, match=words):
        from_csv(Material, file)


def test_headings_and_cells_are_read_as_people_write_them_and_names_can_be_printed(tmp_path: Path) -> None:
    file = tmp_path / "list.csv"
    file.write_text(" Name , GROUP , Density_g_mL , spread_g_ml , Count \n bog oak , wood , 0.71 , 0.04 , 3 \n")
    (one,), counts = from_csv(Material, file)
    assert isinstance(one, Material) and (one.name, one.group, one.density_g_ml) == ("bog oak", "wood", 0.71)
    assert counts == {"bog oak": 3.0}
    for sign in ("\x00", "\x1b[2J", "\u202e"):
        file.write_text(f"name,group,density_g_ml,spread_g_ml\nbog{sign}oak,wood,0.71,0.04\n")
        with pytest.raises(BadInput, match="line 2, name: holds signs that cannot be printed"):
            from_csv(Material, file)


def test_no_spreadsheet_takes_a_name_for_a_formula(tmp_path: Path) -> None:
    one = Material(name="=1+1", group="wood", density_g_ml=0.5, spread_g_ml=0.1, note="-2 at the knots")
    file = tmp_path / "list.csv"
    file.write_text(to_csv(Material, {one.name: one}, {one.name: 2.0}), encoding="utf-8")
    assert "'=1+1," in file.read_text() and "'-2 at the knots" in file.read_text()
    assert from_csv(Material, file) == ([one], {one.name: 2.0})


def test_no_list_takes_a_density_in_kilograms_a_cubic_metre() -> None:
    kinds = [k for k in vars(items).values() if isinstance(k, type) and issubclass(k, BaseModel)]
    kinds = [k for k in kinds if "density_g_ml" in k.model_fields]
    assert len(kinds) >= 8
    for kind in kinds:
        with pytest.raises(ValidationError) as told:
            kind.model_validate({"name": "steel", "density_g_ml": 7850.0})
        assert any(e["loc"] == ("density_g_ml",) and e["type"] == "less_than_equal" for e in told.value.errors()), kind
