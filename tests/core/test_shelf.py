"""The shelf: what ships, the maker's own over it, counts, CSV both ways, and refusals that lose nothing."""

from __future__ import annotations

import csv
import math
from pathlib import Path

import pytest

from yellowbob.ground.errors import BadInput
from yellowbob.shelf.exchange import from_csv, to_csv
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.items import BallastStock, Hardware, Hook, Material
from yellowbob.shelf.own import OwnShelf
from yellowbob.shelf.shipped import LISTS, hardware, hooks, materials, stuffs, wires
from yellowbob.workshop.database import workshop_file


@pytest.mark.parametrize("name", LISTS)
def test_every_shipped_entry_says_where_its_figures_are_from(name: str) -> None:
    _, read = LISTS[name]
    items = read()
    assert items
    assert all(item.source for item in items.values())


def test_the_lists_hold_what_a_maker_looks_for() -> None:
    assert len(materials()) >= 40
    assert {m.group for m in stuffs().values()} == {"resin", "plastic", "metal"}
    assert {"14", "1/0", "10/0"} <= {h.size for h in hooks().values() if h.sort == "treble"}
    assert {h.sort for h in hooks().values()} == {"treble", "double", "single", "weedless single"}
    kinds = {h.sort for h in hardware().values()}
    assert {"split ring", "screw eye", "bead", "washer", "prop", "blade", "swivel", "grommet", "sleeve"} <= kinds
    assert wires()["brass wire 20 ga"].diameter_mm == pytest.approx(0.127 * 92 ** (16 / 39), abs=1e-3)


def test_hardware_weighs_what_its_dimensions_say() -> None:
    ring = Hardware(name="r", sort="split ring", inner_mm=4, wire_mm=0.6, material="s", density_g_ml=7.9)
    assert ring.weight_g == pytest.approx(2 * math.pi * 4.6 * math.pi / 4 * 0.36 * 7.9e-3)
    bead = Hardware(name="b", sort="bead", diameter_mm=5, inner_mm=1.4, material="glass", density_g_ml=2.5)
    assert bead.weight_g == pytest.approx(math.pi / 6 * (25 - 1.96) ** 1.5 * 2.5e-3)
    for item in hardware().values():
        fitting = fitting_from(item, (10.0, 0.0, 0.0), "f")
        assert fitting.mass_g == item.weight_g > 0


def test_own_entries_lie_over_the_shipped_ones_and_counts_are_kept() -> None:
    shelf = OwnShelf()
    assert shelf.path == workshop_file()
    mine = Material(name="alder", group="wood", density_g_ml=0.47, spread_g_ml=0.01, source="own, 12 blocks")
    shelf.put([mine])
    assert materials()["alder"] == mine
    assert "alder" not in stuffs()
    shelf.set_count(BallastStock, "split shot AAA, lead", 40)
    assert OwnShelf().counts(BallastStock) == {"split shot AAA, lead": 40}
    assert shelf.remove(Material, "alder")
    assert materials()["alder"].density_g_ml != 0.47
    with pytest.raises(BadInput, match="count"):
        shelf.set_count(BallastStock, "x", -1)


def test_a_list_goes_out_as_csv_and_comes_back_the_same(tmp_path: Path) -> None:
    file = tmp_path / "hooks.csv"
    file.write_text(to_csv(Hook, hooks(), {"treble, size 6": 12}), encoding="utf-8")
    items, counts = from_csv(Hook, file)
    assert {i.name: i for i in items} == hooks()
    assert counts == {"treble, size 6": 12}
    with file.open() as opened:
        assert len(list(csv.DictReader(opened))) == len(hooks())


@pytest.mark.parametrize(("text", "wanted"), [
    ("name,group\nalder,wood\n", "line 2, density_g_ml"), ("name,shape\nalder,round\n", "no field 'shape'"),
    ("name,group,density_g_ml,spread_g_ml\nalder,wood,5 mm,0\n", "line 2, density_g_ml"), ("", "heading row"),
    ("name,group\nalder\n", "not as many"), ("name,group\n", "no entries"),
    ("name,group,density_g_ml,spread_g_ml\na,wood,0.5,0.1\nb,stone,0.5,0.1\n", "line 3, group")])  # fmt: skip
def test_a_bad_line_is_named_and_nothing_is_taken(tmp_path: Path, text: str, wanted: str) -> None:
    file = tmp_path / "x.csv"
    file.write_text(text, encoding="utf-8")
    with pytest.raises(BadInput, match=wanted):
        from_csv(Material, file)


def test_a_file_that_is_no_database_is_said_and_left_alone(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    file = tmp_path / "workshop.sqlite"
    file.write_bytes(b"this is no database at all, but a letter" * 40)
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(file))
    with pytest.raises(BadInput, match="move it aside"):
        OwnShelf()
    assert file.read_bytes().startswith(b"this is no database")
