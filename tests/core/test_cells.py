"""Tables as spreadsheets write them: commas, or semicolons and tabs where the numbers have commas."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import DEMO
from yellowbob.design.files import read_design
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.exchange import FIELDS, take_csv
from yellowbob.logbook.store import LogBook
from yellowbob.shelf.exchange import from_csv, to_csv
from yellowbob.shelf.items import Material
from yellowbob.shelf.shipped import materials
from yellowbob.shop.made import read_holes, read_stations

MARKS = pytest.mark.parametrize("mark", [",", ";", "\t"])


def saved(folder: Path, *rows: str) -> Path:
    """A file as a spreadsheet saves it: with its mark of UTF-8, and the ends of lines of another system."""
    file = folder / "a.csv"
    file.write_bytes("\ufeff".encode() + "\r\n".join((*rows, "")).encode())
    return file


@MARKS
def test_a_shelf_list_comes_in_whatever_stands_between_its_cells(tmp_path: Path, mark: str) -> None:
    comma = "." if mark == "," else ","
    rows = ["name", "group", "density_g_ml", "spread_g_ml", "count"], ["lime, ours", "wood", "0.54", "0.03", "12"]
    cells = [[f'"{c}"' if "," in c and mark == "," else c for c in row] for row in rows]
    cells[1] = [c if "," in c else c.replace(".", comma) for c in cells[1]]
    items, counts = from_csv(Material, saved(tmp_path, *(mark.join(row) for row in cells)))
    (one,) = items
    assert isinstance(one, Material) and (one.name, one.density_g_ml, one.spread_g_ml) == ("lime, ours", 0.54, 0.03)
    assert counts == {"lime, ours": 12.0}


@MARKS
def test_readings_of_a_body_and_its_holes_do_too(tmp_path: Path, mark: str) -> None:
    comma = "." if mark == "," else ","
    stations = saved(
        tmp_path, mark.join(("at", "half width", "back")), mark.join((f"16{comma}5", "11", f"12{comma}2 mm"))
    )
    (one,) = read_stations(stations)
    assert (one.at_mm, one.sizes_mm) == (16.5, {"half width": 11.0, "back": 12.2})
    holes = saved(tmp_path, mark.join(("name", "at", "depth")), mark.join(("Belly slug", f"30{comma}4", "9")))
    (hole,) = read_holes(holes)
    assert (hole.name, hole.sizes_mm) == ("Belly slug", {"at": 30.4, "depth": 9.0})


@MARKS
def test_changes_of_builds_do_too(tmp_path: Path, mark: str) -> None:
    log = LogBook(tmp_path / "log.sqlite")
    serial = log.new(read_design(DEMO / "sallow-74.ybob"), 1)[0].serial
    taken = take_csv(log, saved(tmp_path, mark.join(("serial", "notes")), mark.join((serial, "runs straight"))))
    assert taken.refused == () and log.build(serial).notes == "runs straight" and "notes" in FIELDS


def test_a_number_that_two_could_mean_asks_and_nothing_is_taken(tmp_path: Path) -> None:
    file = saved(tmp_path, "at;diameter", "10;9,910")
    with pytest.raises(BadInput, match=r"line 2: '9,910' could be 9.91 or 9910"):
        read_stations(file)
    with pytest.raises(BadInput, match="not as many values"):
        from_csv(Material, saved(tmp_path, "name;group;density_g_ml", "lime;wood"))


def test_what_goes_out_comes_in_again(tmp_path: Path) -> None:
    file = tmp_path / "out.csv"
    file.write_text(to_csv(Material, materials(), {"alder": 3.0}), encoding="utf-8")
    items, counts = from_csv(Material, file)
    assert {i.name: i for i in items} == materials() and counts == {"alder": 3.0}
