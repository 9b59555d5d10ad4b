"""What the log and the shelf write late, or not at all: nothing twice, nothing half, nothing typed is lost."""

from __future__ import annotations

import csv
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

import pytest
from pytestqt.qtbot import QtBot

from tests.app.conftest import idle
from yellowbob.app.frame.window import Window
from yellowbob.app.session import files, follower
from yellowbob.logbook.store import LogBook
from yellowbob.shelf.items import BallastStock
from yellowbob.shelf.own import OwnShelf


@pytest.fixture(autouse=True)
def hasty(monkeypatch: pytest.MonkeyPatch, patient: None, tmp_path: Path) -> None:
    """Nothing is there by the time the interface has waited; a workshop of its own."""
    monkeypatch.setattr(follower, "PATIENCE_S", 1e-7)
    monkeypatch.setattr(files, "ASIDE_S", 1e-7)
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))


@pytest.fixture
def log(qtbot: QtBot, window: Window) -> Any:
    """The Log bench with a build on it."""
    window.show_bench("Log")
    window.logged.building.begin()
    qtbot.waitUntil(lambda: bool(window.logged.building.book.serial), timeout=60_000)
    idle(qtbot, window)
    return window.logged


@contextmanager
def held(tmp_path: Path) -> Iterator[None]:
    """Another program is writing to the workshop."""
    with closing(sqlite3.connect(tmp_path / "w.sqlite", isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        yield
        other.execute("COMMIT")


def entries(log: Any, what: str) -> list[Any]:
    return [e.data for e in LogBook().entries(log.building.book.serial) if e.what == what]


def test_a_log_that_another_program_holds_is_waited_for_elsewhere(
    qtbot: QtBot, window: Window, tmp_path: Path, log: Any
) -> None:
    log.paged.turn_to("Water test")
    page = log.water
    page.words.setText("ran true")
    page.damage.setText("a bent ring")
    with held(tmp_path):
        for _ in range(3):  # pressed again while it is waited for, it is kept once
            page.keep()
        qtbot.wait(20)
        page.damage.setText("typed meanwhile")
        assert not entries(log, "water")
    qtbot.waitUntil(lambda: "Kept" in page.says.text(), timeout=60_000)
    kept = entries(log, "water")
    assert [one.words for one in kept] == ["ran true"] and kept[0].damage == "a bent ring"
    assert page.words.text() == "" and page.damage.text() == "typed meanwhile"
    idle(qtbot, window)


def test_what_is_refused_stays_where_it_was_typed(qtbot: QtBot, window: Window, log: Any) -> None:
    log.paged.turn_to("Water test")
    page = log.water
    page.keep()
    qtbot.waitUntil(lambda: "nothing is filled in" in page.says.text(), timeout=60_000)
    page.speed.setText("at a rate of knots unheard of")
    page.words.setText("x" * 5000)
    page.keep()
    idle(qtbot, window)
    assert page.says.text().startswith("!") and len(page.words.text()) == 5000
    assert not entries(log, "water")


def test_a_tank_test_typed_while_one_is_kept_is_another_one(
    qtbot: QtBot, window: Window, tmp_path: Path, log: Any
) -> None:
    log.paged.turn_to("Tank test")
    idle(qtbot, window)
    page = log.tank
    page.pitch.show_value(12.0)
    page.draft.show_value(6.5)
    page.drops.setValue(10.0)
    page.right.setValue(9.0)
    with held(tmp_path):
        page.keep()
        qtbot.wait(20)
        page.pitch.show_value(13.5)
        page.drops.setValue(20.0)
    idle(qtbot, window)
    assert [(t.pitch_deg, t.draft_mm, t.drops, t.came_right) for t in entries(log, "tank")] == [(12.0, 6.5, 10, 9)]
    assert (page.pitch.value, page.draft.value, page.drops.value(), page.right.value()) == (13.5, None, 20.0, 0.0)


def test_what_became_of_a_build_is_what_was_said_last(qtbot: QtBot, window: Window, tmp_path: Path, log: Any) -> None:
    page = log.building
    with held(tmp_path):
        page.why.setText("sank on the first throw")
        page._told("lost_why")
        page._set(state="done")
        page.cost.setValue(3.25)
        page.why.setText("its eye was set again")
        page._note()
        page._note()
    idle(qtbot, window)
    build = LogBook().build(page.book.serial)
    assert (build.state, build.lost_why, build.cost) == ("done", "", 3.25)
    assert [one.words for one in entries(log, "note")] == ["its eye was set again"] and page.why.text() == ""
    assert page.state.currentText() == "done"


def test_a_window_closed_at_once_has_kept_what_was_told(qtbot: QtBot, window: Window, tmp_path: Path, log: Any) -> None:
    page, serial = log.building, log.building.book.serial
    page.why.setText("the tail hook fouls")
    page._note()
    page.hours.setValue(0.75)
    page._time()
    window.session.end()
    kept = {e.what: e.data for e in LogBook().entries(serial)}
    assert kept["note"].words == "the tail hook fouls" and kept["time"].hours == pytest.approx(0.75)


def test_builds_are_compared_as_they_were_named(qtbot: QtBot, window: Window, log: Any) -> None:
    first = log.building.book.serial
    log.building.begin()
    qtbot.waitUntil(lambda: log.building.book.serial != first, timeout=60_000)
    second = log.building.book.serial
    log.paged.turn_to("Compare")
    log.compared.serials.setText(f"{first} {second}")
    log.compared.compare()
    log.compared.serials.setText("typed on")
    idle(qtbot, window)
    assert "the same" in log.compared.says.text() and log.compared.serials.text() == "typed on"
    log.compared.compare()
    idle(qtbot, window)
    assert log.compared.says.text().startswith("!") and "typed" in log.compared.says.text()


def test_the_chart_asked_for_last_is_drawn(qtbot: QtBot, window: Window, log: Any) -> None:
    log.paged.turn_to("Chart")
    page = log.chart
    asked = []
    for key in ("finished promised", "length", "finished promised"):
        if key in page.keys:
            asked.append(key)
            page.across.setCurrentIndex(page.keys.index(key))
            page.draw()
    idle(qtbot, window)
    assert asked and page.found is not None and page.keys[page.across.currentIndex()] == asked[-1]


@pytest.mark.parametrize("count", ["-3", "1e12"])
def test_a_list_with_a_bad_count_goes_in_not_at_all(qtbot: QtBot, window: Window, tmp_path: Path, count: str) -> None:
    window.show_bench("Fit-out")
    window.fitout.show_page("Shelf")
    page = window.fitout.shelf
    page.list.setCurrentText("ballast")
    page._choose("ballast")
    page.write_out(tmp_path / "list.csv")
    idle(qtbot, window)
    with (tmp_path / "list.csv").open(newline="", encoding="utf-8") as file:
        rows = list(csv.DictReader(file))[:3]
    counted = next(name for name in rows[0] if "shelf" in name or "count" in name)
    for row, told in zip(rows, ("5", "7", count), strict=True):
        row[counted], row["name"] = told, f"mine, {row['name']}"
    with (tmp_path / "bad.csv").open("w", newline="", encoding="utf-8") as file:
        writer = csv.DictWriter(file, list(rows[0]))
        writer.writeheader()
        writer.writerows(rows)
    page.take_in(tmp_path / "bad.csv")
    idle(qtbot, window)
    assert page.said.text().startswith("!") and "count" in page.said.text()
    assert not [name for name in OwnShelf().entries(BallastStock) if name.startswith("mine")]
    assert not OwnShelf().counts(BallastStock)
    page._choose("ballast")
    assert not [name for name in page._names if name.startswith("mine")]


def test_an_own_entry_is_there_once_and_what_was_typed_meanwhile_stays(
    qtbot: QtBot, window: Window, tmp_path: Path
) -> None:
    window.show_bench("Fit-out")
    window.fitout.show_page("Shelf")
    page = window.fitout.shelf
    OwnShelf()
    page.entry.setText("Old fence post")
    page.fields.setText("density_g_ml=0.51 spread_g_ml=0.03 group=wood")
    with held(tmp_path):
        page.attempt(page.enter)
        qtbot.wait(20)
        page.fields.setText("density_g_ml=0.53")
    idle(qtbot, window)
    assert "on your shelf" in page.said.text() and page.fields.text() == "density_g_ml=0.53"
    assert page._names.count("Old fence post") == 1
