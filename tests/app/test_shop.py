"""The Shop bench through the real window: stations, holes, the schedule and the packet."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QTableWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from tests.app.test_tank import type_into
from yellowbob.app.frame.window import Window
from yellowbob.shop.bores import bores
from yellowbob.shop.stations import stations


@pytest.fixture
def shop(open_window: OpenWindow) -> Window:
    window = open_window("sallow-74")
    QTest.keyClick(window, "5")
    return window


def cell(table: QTableWidget, row: int, column: int) -> str:
    found = table.item(row, column)
    assert found is not None
    return found.text()


def test_key_5_lists_stations_as_the_core_has_them(qtbot: QtBot, shop: Window) -> None:
    page = shop.shop.stations
    assert shop.shop.isVisible() and page.isVisible()
    wanted = stations(shop.session.design, 0.25)
    assert page.table.rowCount() == len(wanted.stations)
    assert cell(page.table, 1, 0) == f"{wanted.stations[1].at_mm:.2f} mm"
    assert f"{wanted.misses_mm:.2f} mm off" in page.says.text() and shop.shop.view.stations is not None
    type_into(qtbot, page.error, "1 mm")
    assert page.table.rowCount() < len(wanted.stations)
    type_into(qtbot, page.every, "10")
    assert page.table.rowCount() == 9 and cell(page.table, 2, 0).startswith("20.")
    type_into(qtbot, page.every, "0.001")
    assert page.says.text().startswith("!")


def test_holes_follow_the_design_and_are_drawn(shop: Window) -> None:
    shop.shop.paged.turn_to("Holes")
    page = shop.shop.holes
    wanted = bores(shop.session.study)
    assert page.table.rowCount() == len(wanted) == 1 and cell(page.table, 0, 1) == "Belly slug"
    assert shop.shop.view.bores == wanted
    shop.session.edit(shop.session.design.but(ballast=()), "none")
    assert page.table.rowCount() == 0 and "No holes" in page.says.text()


def test_a_schedule_is_laid_and_saved_as_a_calendar(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("Schedule")
    page = shop.shop.schedule
    assert page.plan is not None and page.table.rowCount() == 8
    type_into(qtbot, page.copies, "3")
    assert page.table.rowCount() == 24 and len(page.plan.ready) == 3
    cold = max(page.plan.ready)
    type_into(qtbot, page.warm, "30")
    assert page.plan is not None and max(page.plan.ready) < cold
    page.save_calendar(tmp_path / "s.ics")
    assert (tmp_path / "s.ics").read_bytes().count(b"BEGIN:VEVENT") == 27
    page.save_calendar(tmp_path / "no" / "s.ics")
    assert "cannot be written" in shop.message.text()
    page.hours.setText("late")
    page.hours.editingFinished.emit()
    assert page.says.text().startswith("!") and page.plan is None and not page.save.isEnabled()
    assert page.hours.text() == "late"


def test_the_packet_has_the_pages_that_are_ticked(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("Packet")
    page = shop.shop.packet
    assert not page.ticks["paint"].isEnabled()  # no bands are painted
    page.ticks["sheet"].click()
    page.ticks["finish"].click()
    assert page.chosen() == ["templates", "turning", "holes", "wire", "cautions"]
    page.write_to(tmp_path / "p.pdf")
    qtbot.waitUntil(lambda: page.says.text().startswith("Wrote"), timeout=30_000)
    assert (tmp_path / "p.pdf").read_bytes().startswith(b"%PDF")
    for tick in page.ticks.values():
        tick.setCheckState(Qt.CheckState.Unchecked)
    page.write_to(tmp_path / "none.pdf")
    qtbot.waitUntil(lambda: page.says.text().startswith("!"), timeout=30_000)
    assert not (tmp_path / "none.pdf").exists()
