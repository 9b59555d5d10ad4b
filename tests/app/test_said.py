"""What is wrong or doubtful is said where the hand is: odd quantities, sinkers, bad rows, holes that meet."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from tests.app.test_tank import type_into
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.checks.registry import verdicts
from yellowbob.design.files import write_design
from yellowbob.design.model import Ballast, Brief, Drilling, Slug, Span
from yellowbob.shelf.own import OwnShelf, forget
from yellowbob.shelf.shipped import materials
from yellowbob.study import Study, of
from yellowbob.workshop.database import workshop_file


@pytest.mark.parametrize(
    ("dimension", "typed", "words"),
    [("mass", "7.5 gr", "grains"), ("length", "1,250 mm", "1250"), ("length", "90 swg", "up to 40"),
     ("length", "5 apples", "45 mm"), ("density", "30 gr/cc", "grains")],
)  # fmt: skip
def test_a_field_asks_back_and_keeps_what_was_typed(qtbot: QtBot, dimension: str, typed: str, words: str) -> None:
    field = QuantityField("a field", dimension)
    qtbot.addWidget(field)
    field.show()
    told: list[str] = []
    given: list[float] = []
    field.refused.connect(told.append)
    field.given.connect(given.append)
    type_into(qtbot, field, typed)
    assert any(words in one for one in told), told
    assert given == []
    assert field.text() == typed


@pytest.mark.parametrize(
    ("dimension", "typed", "value"),
    [("length", "1' 2\"", 355.6), ("length", "Ø4", 4.0), ("length", "18 SWG", 1.219), ("mass", "7 Grams", 7.0),
     ("mass", "1 200 g", 1200.0), ("density", "480 kg/m3", 0.48), ("angle", "24°30'", 24.5)],
)  # fmt: skip
def test_a_field_takes_what_makers_type(qtbot: QtBot, dimension: str, typed: str, value: float) -> None:
    field = QuantityField("a field", dimension)
    qtbot.addWidget(field)
    field.show()
    with qtbot.waitSignal(field.given) as got:
        type_into(qtbot, field, typed)
    assert got.args[0] == pytest.approx(value)


def test_the_ladder_of_a_sinker_says_so_on_its_page(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window()
    design = window.session.design
    window.session.edit(design.of_material(density_g_ml=1.3), "a heavy wood")
    qtbot.keyClick(window, Qt.Key.Key_1)
    window.lines.show_ladder()
    page = window.lines.ladder
    qtbot.waitUntil(lambda: page.ladder is not None and page.ladder.sinks, timeout=60_000)
    last = page.table.columnCount() - 1
    said = {page.table.item(row, last).text() for row in range(page.table.rowCount())}
    assert said <= {"sinks", "sinks when ballasted like it"}
    assert "without ballast" in page.words.text()


def test_a_bad_row_of_the_shelf_is_named_and_the_list_stays(qtbot: QtBot, open_window: OpenWindow) -> None:
    OwnShelf().put([materials()["alder"].model_copy(update={"density_g_ml": 0.46, "source": "own"})])
    with sqlite3.connect(workshop_file()) as database:
        database.execute("INSERT INTO shelf_entries VALUES ('material', 'lost board', '{')")
    database.close()
    forget()
    window = open_window()
    qtbot.keyClick(window, Qt.Key.Key_2)
    window.fitout.keys["Shelf"].click()
    shelf = window.fitout.shelf
    assert "lost board" in shelf.said.text()
    assert shelf.table.rowCount() > 20
    shelf.entry.setText("lost board")
    shelf.attempt(shelf.take_off)
    shelf.refresh()
    assert "lost board" not in {shelf.table.item(r, 0).text() for r in range(shelf.table.rowCount())}
    assert OwnShelf().unreadable(type(materials()["alder"])) == {}


def test_holes_that_meet_are_said_in_the_window_and_by_the_core_alike(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window()
    design = window.session.design
    first = next(b for b in design.ballast if b.drilling is not None)
    x, z = first.drilling.place_mm
    near = Ballast(name="too near", weight=Slug(diameter_mm=3.0, length_mm=3.0),
                   drilling=Drilling(side=first.drilling.side, place_mm=(x + 1, z), diameter_mm=3.2, depth_mm=6))  # fmt: skip
    window.session.edit(design.but(ballast=(*design.ballast, near)), "a second hole")
    found = next(v for v in verdicts(Study(window.session.design)) if v.key == "met")
    assert (found.state, "meets" in found.figure) == ("failed", True)
    qtbot.waitUntil(lambda: window.session.ask(of.clearances) is not None, timeout=60_000)
    here = next(v for v in verdicts(window.session.study) if v.key == "met")
    assert here == found
    window.session.undo.undo()
    assert "too near" not in {b.name for b in window.session.design.ballast}


def test_a_brief_to_stand_changes_which_rest_the_window_shows(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window: Window = open_window()
    ups = [r.up for r in of.rests(Study(window.session.design))]
    for wanted in (-60.0, 0.0, 60.0):
        meant = window.session.design.but(brief=Brief(pitch_deg=Span(least=wanted - 2, most=wanted + 2)))
        file = tmp_path / f"{wanted:g}.ybob"
        write_design(meant, file)
        shown = of.upright_rest(Study(meant))
        assert shown is not None
        assert shown.up in ups
        best = max(sum(a * b for a, b in zip(up, of.wanted_up(Study(meant)), strict=True)) for up in ups)
        assert sum(a * b for a, b in zip(shown.up, of.wanted_up(Study(meant)), strict=True)) == pytest.approx(best)
