"""The Shop bench through the real window: stations, holes, the schedule and the packet."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMenu, QPushButton, QTableWidget
from pytestqt.qtbot import QtBot
from reportlab.lib.units import mm

from tests.app.conftest import OpenWindow
from tests.app.test_tank import type_into
from yellowbob.app.benches.shop.preview import pages_in
from yellowbob.app.frame.window import Window
from yellowbob.app.session.timers import Timers, told
from yellowbob.lines.curves import curve
from yellowbob.shop.bores import bores
from yellowbob.shop.mould import mould_of
from yellowbob.shop.stations import stations

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def shop(open_window: OpenWindow) -> Window:
    window = open_window("sallow-74")
    QTest.keyClick(window, "5")
    return window


def cell_of(table: QTableWidget) -> str:
    """The first cell of the last row, empty in an empty table."""
    return cell(table, table.rowCount() - 1, 0) if table.rowCount() else ""


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


def test_a_turned_body_keeps_to_the_lathes_bed(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("mill-tail-88")
    QTest.keyClick(window, "5")
    page = window.shop.stations
    assert (
        "118.0 mm between centres, 15.0 mm of waste" in page.says.text()
        and "part off at 0 and 88.0 mm last" in page.says.text()
    )
    type_into(qtbot, page.bed, "108")
    assert "only 10.0 mm of waste" in page.says.text() and window.settings.text("lathe_bed_mm", "") == "108"
    window.shop.paged.turn_to("Blank")
    qtbot.waitUntil(lambda: window.shop.blank.found is not None, timeout=60_000)
    assert window.shop.blank.found is not None and window.shop.blank.found.blanks[0].long_mm == pytest.approx(108.0)
    window.shop.paged.turn_to("Stations")
    type_into(qtbot, page.bed, "95")
    assert "turn it in two pieces" in page.says.text()


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
    assert shop.shop.timeline.isVisible() and shop.shop.timeline.plan is page.plan
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
    assert shop.shop.timeline.plan is None and "late" in shop.shop.timeline.says


def test_the_packet_has_the_pages_that_are_ticked(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("Packet")
    page, preview = shop.shop.packet, shop.shop.preview
    assert preview.isVisible() and not shop.shop.view.isVisible()
    assert not page.ticks["paint"].isEnabled() and not page.ticks["schedule"].isEnabled()  # no bands, no plan laid yet
    for name in ("cover", "sheet", "finish", "half", "colour", "cost", "blank"):
        page.ticks[name].click()
    assert page.chosen() == ["templates", "turning", "holes", "wire", "cautions"]
    page.write_to(tmp_path / "p.pdf")
    qtbot.waitUntil(lambda: page.says.text().startswith("Wrote"), timeout=60_000)
    assert (tmp_path / "p.pdf").read_bytes().startswith(b"%PDF")
    for tick in page.ticks.values():
        tick.setCheckState(Qt.CheckState.Unchecked)
    page.write_to(tmp_path / "none.pdf")
    qtbot.waitUntil(lambda: page.says.text().startswith("!"), timeout=60_000)
    assert not (tmp_path / "none.pdf").exists()


def test_a_page_is_seen_at_its_true_size_turned_and_printed(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("Packet")
    page, preview = shop.shop.packet, shop.shop.preview
    qtbot.waitUntil(lambda: len(preview.sizes) > 8, timeout=60_000)
    wide, high = preview.sizes[0]
    assert (wide / mm, high / mm) == pytest.approx((297.0, 210.0), abs=0.1)
    shown = preview.sheet.pixmap()
    dots = shown.width() / shown.devicePixelRatio() / (wide / mm)
    inch = preview.screen().physicalDotsPerInchX()
    assert dots == pytest.approx((inch if 50 <= inch <= 400 else 96.0) / 25.4, rel=0.01)
    assert page.says.text().startswith(f"Page 1 of {len(preview.sizes)}, true size")
    key = {b.accessibleName(): b for b in page.findChildren(QPushButton)}
    qtbot.mouseClick(key["Next page"], LEFT)
    assert preview.number == 1 and "Page 2" in page.says.text()
    qtbot.mouseClick(key["Larger"], LEFT)
    assert "125 %" in page.says.text() and preview.sheet.pixmap().width() > 1.2 * shown.width()
    qtbot.mouseClick(key["Show the whole page"], LEFT)
    assert preview.sheet.pixmap().height() <= preview.viewport().height()
    qtbot.mouseClick(key["Page before"], LEFT)
    qtbot.mouseClick(key["Page before"], LEFT)
    assert preview.number == 0
    for name in page.chosen():
        if name not in ("cover", "sheet", "templates"):
            page.ticks[name].click()
    qtbot.waitUntil(lambda: len(preview.sizes) == 3, timeout=60_000)
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    page.print_on(printer)
    assert pages_in((tmp_path / "printed.pdf").read_bytes()) == [pytest.approx(s, abs=1.0) for s in preview.sizes]
    assert "Sent" in page.says.text()
    page.ticks["holes"].click()
    qtbot.waitUntil(lambda: len(preview.sizes) == 4, timeout=60_000)
    shop.session.edit(shop.session.design.but(ballast=()), "none")
    qtbot.waitUntil(lambda: len(preview.sizes) == 3, timeout=60_000)  # no holes any more


def test_exports_are_written_from_the_bench(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("Packet")
    page = shop.shop.packet
    for what, name, wrote in (
        ("body", "t.dxf", ["t.dxf"]), ("mould", "m.stl", ["m-port.stl", "m-starboard.stl"]), ("holes", "h.csv", ["h.csv"]),
    ):  # fmt: skip
        page.export_to(tmp_path / name, what)
        qtbot.waitUntil(lambda w=wrote: page.says.text() == f"Wrote {', '.join(w)}, in mm.", timeout=60_000)  # type: ignore[misc]
        assert all((tmp_path / one).stat().st_size > 50 for one in wrote)
    page.export_to(tmp_path / "x.txt", "body")
    qtbot.waitUntil(lambda: page.says.text().startswith("! x.txt"), timeout=60_000)


def test_boards_are_typed_cut_drawn_and_kept(qtbot: QtBot, shop: Window) -> None:
    shop.shop.paged.turn_to("Blank")
    page = shop.shop.blank
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    assert page.table.rowCount() == 2 and "a dab in the middle" in page.says.text()
    assert shop.shop.lines.isVisible() and len(shop.shop.lines.drawn) == 3
    type_into(qtbot, page.copies, "3")
    qtbot.waitUntil(lambda: page.table.rowCount() == 6, timeout=60_000)
    page.boards.setText("32x90x600 mm; 18x90x900 mm, knot 40/40/20")
    page.boards.editingFinished.emit()
    qtbot.waitUntil(lambda: page.found is not None and len(page.found.cuts.boards) == 2, timeout=60_000)
    page.boards.setText("a plank")
    page.boards.editingFinished.emit()
    assert page.says.text().startswith("!") and page.boards.text() == "a plank"
    assert shop.settings.text("boards", "").startswith("32x90x600 mm")
    page.boards.setText("5x10x20 mm")
    page.boards.editingFinished.emit()
    qtbot.waitUntil(lambda: "wants boards" in page.says.text(), timeout=60_000)


def test_wires_and_sheet_are_told_and_drawn(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("moth-crawler-64")
    QTest.keyClick(window, "5")
    window.shop.paged.turn_to("Wire")
    page = window.shop.wire
    assert [cell(page.table, k, 0) for k in range(page.table.rowCount())] == ["Through wire", "Wings"]
    assert "Legs" in page.says.text() and len(window.shop.lines.drawn) == 1
    page.table.selectRow(1)
    assert "2 of aluminium sheet" in page.says.text() and len(window.shop.lines.drawn) == 2
    window.session.edit(window.session.design.but(wires=()).with_parts(()), "bare")
    assert page.table.rowCount() == 0 and "No wire" in page.says.text()


def test_a_mould_and_hours_are_told(qtbot: QtBot, shop: Window) -> None:
    shop.shop.paged.turn_to("Mould")
    page = shop.shop.mould
    found = mould_of(shop.session.study, 3, "", page.resin.currentText(), page.powder.currentText())
    qtbot.waitUntil(lambda: page.table.rowCount() == 3, timeout=60_000)
    assert cell(page.table, 2, 1) == f"{found.batches[-1].a_g:.1f} g" and f"{found.rubber_g:.0f} g" in page.says.text()
    type_into(qtbot, page.copies, "7")
    qtbot.waitUntil(lambda: cell_of(page.table) == "7", timeout=60_000)
    page.pose.setCurrentText("belly up")
    page.pose.textActivated.emit("belly up")
    qtbot.waitUntil(lambda: "Poured belly up" in page.says.text(), timeout=60_000)
    shop.shop.paged.turn_to("Hours")
    hours = shop.shop.cost
    assert "no price on the shelf" in hours.says.text() and hours.table.rowCount() > 12
    type_into(qtbot, hours.copies, "5")
    assert "h for 5" in hours.says.text()


def test_what_is_measured_on_the_piece_becomes_its_shape(qtbot: QtBot, shop: Window, tmp_path: Path) -> None:
    shop.shop.paged.turn_to("As made")
    page, session = shop.shop.made, shop.session
    drawn = session.design
    assert not page.apply.isEnabled() and not page.fields["diameter"].isEnabled()
    page.table.selectRow(2)
    wanted = stations(drawn, 0.25).stations[2].sizes_mm["back"] + 0.4
    type_into(qtbot, page.fields["back"], f"{wanted:.3f} mm")
    type_into(qtbot, page.fields["port"], "10.5")
    qtbot.waitUntil(lambda: page.says.text().startswith("!"), timeout=60_000)
    assert "measure both sides" in page.says.text()
    type_into(qtbot, page.fields["starboard"], "9.9")
    qtbot.waitUntil(lambda: "it lists" in page.says.text(), timeout=60_000)
    assert "1 of 8 stations" in page.says.text() and cell(page.table, 2, 2).startswith("back")
    row = next(k for k in range(page.table.rowCount()) if cell(page.table, k, 0) == "Belly slug")
    page.table.selectRow(row)
    assert page.fields["depth"].isEnabled() and not page.fields["back"].isEnabled()
    type_into(qtbot, page.fields["at"], "37 mm")
    qtbot.mouseClick(page.apply, LEFT)
    assert session.design.ballast[0].drilling is not None and session.design.ballast[0].drilling.place_mm[0] == 37.0
    back = session.design.shape.back  # type: ignore[union-attr]
    assert float(curve(back).at(np.array([stations(drawn, 0.25).stations[2].at_mm]))[0]) == pytest.approx(
        wanted, abs=0.01
    )
    assert not page.apply.isEnabled()
    session.undo.undo()
    assert session.design == drawn
    file = tmp_path / "s.csv"
    file.write_text("at,back\n20,12.2\n", encoding="utf-8")
    page.take_table(file)
    qtbot.waitUntil(lambda: "in volume" in page.says.text(), timeout=60_000)
    page.forget()
    assert page.measured() == ([], [])
    file.write_text("at,sideways\n20,12.2\n", encoding="utf-8")
    page.take_table(file)
    assert page.says.text().startswith("! s.csv")


def test_a_running_timer_is_seen_on_every_bench_and_outlives_the_window(shop: Window) -> None:
    shop.shop.paged.turn_to("Schedule")
    page = shop.shop.schedule
    page.table.selectRow(0)
    page.start_timer()
    assert shop.header.timer.text().startswith("1 h 59 min: ") and shop.message.text().startswith("Timer: 1 h 59 min")
    later = Timers(shop)
    later.keep_in(shop.settings)
    assert [name for name, _ in later.running] == [name for name, _ in shop.session.timers.running]
    name, ends = later.running[0]
    assert told(name, ends, ends - timedelta(seconds=75)) == f"1:15 min: {name}"
    assert told(name, ends, ends + timedelta(seconds=1)) == f"set: {name}"
    menu = QMenu()
    page._fill_timers(menu)
    menu.actions()[0].trigger()
    assert not shop.session.timers.running and shop.header.timer.text() == ""
    shop.settings.put("timers", "nonsense")
    later.keep_in(shop.settings)
    assert later.running == []
