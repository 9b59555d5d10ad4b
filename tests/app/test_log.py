"""The Log bench through the real window: builds begun, weighed, tried, learnt from."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMenu, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from tests.app.test_shop import cell
from tests.app.test_tank import type_into
from yellowbob.app.benches.log.build_page import OUT, WHOLE
from yellowbob.app.frame.window import Window
from yellowbob.app.session.demo_designs import DEMO_PICTURE
from yellowbob.logbook.photos import photo_file
from yellowbob.logbook.records import Spent, TankTest, WaterTest, Weighing
from yellowbob.logbook.store import LogBook
from yellowbob.shelf.shipped import every_material
from yellowbob.study import Study
from yellowbob.trials.still import still_to_go
from yellowbob.workshop.backups import back_up, backups
from yellowbob.workshop.database import workshop_file

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def logged(open_window: OpenWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Window:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "shop" / "workshop.sqlite"))
    window = open_window("sallow-74")
    QTest.keyClick(window, "6")
    return window


def press(qtbot: QtBot, window: Window, name: str) -> None:
    """A button of the page that is shown, by its accessible name."""
    page = window.logged.paged.currentWidget()
    assert page is not None
    qtbot.mouseClick(next(b for b in page.findChildren(QPushButton) if b.accessibleName() == name), LEFT)


def press_in(qtbot: QtBot, page: QWidget, name: str) -> None:
    """A button of a page of another bench."""
    qtbot.mouseClick(next(b for b in page.findChildren(QPushButton) if b.accessibleName() == name), LEFT)


def begun(qtbot: QtBot, window: Window, count: int = 1) -> str:
    type_into(qtbot, window.logged.building.count, str(count))
    press(qtbot, window, "Begin builds of the open design")
    return window.logged.book.serial


def test_key_6_shows_no_builds_and_makes_no_file(logged: Window) -> None:
    bench = logged.logged
    assert bench.isVisible() and bench.view.builds.rowCount() == 0 and "No builds yet" in bench.view.says.text()
    assert not workshop_file().exists()
    for name in bench.paged.keys:
        bench.paged.turn_to(name)
        assert bench.paged.currentWidget() is bench.paged.page(name)
    assert "No builds yet" in bench.taught.says.text() and "Choose a build" in bench.weigh.says.text()


def test_a_batch_is_begun_found_and_told_of(qtbot: QtBot, logged: Window) -> None:
    bench = logged.logged
    assert begun(qtbot, logged, 3) == "S001-1"
    assert bench.view.builds.rowCount() == 3 and "S001-1 on the bench" in logged.header.about.toolTip()
    assert logged.minimumSizeHint().width() <= 1280
    bench.view.builds.selectRow(0)
    assert bench.book.serial == "S001-3"
    bench.building.why.setText("wire pulled out")
    press(qtbot, logged, "Lost so: as the words say")
    assert LogBook().build("S001-3").state == "lost" and "wire pulled out" in bench.view.says.text()
    bench.building.why.setText("cast it once")
    press(qtbot, logged, "Keep the words as a note")
    assert cell(bench.view.entries, 0, 2) == "cast it once" and bench.building.why.text() == ""
    bench.view.finder.setText("pulled")
    assert [cell(bench.view.builds, k, 0) for k in range(bench.view.builds.rowCount())] == ["S001-3"]
    bench.view.finder.setText("nowhere at all")
    assert "No build has these words" in bench.view.says.text()
    bench.view.finder.setText("")
    bench.building.serial.setText("S001")
    press(qtbot, logged, "Begin builds of the open design")  # three of them: the labels are there already
    assert bench.building.says.text().startswith("! there is a build") and bench.building.serial.text() == "S001"
    # its design comes back as it was
    logged.session.edit(logged.session.design.but(ballast=()), "none")
    press(qtbot, logged, "Open the design it was made from")
    assert logged.session.design.ballast


def test_a_weighing_tells_what_is_still_to_go_in(qtbot: QtBot, logged: Window) -> None:
    serial = begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Weigh")
    page = bench.weigh
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    page.stage.setCurrentText("bare body")
    type_into(qtbot, page.mass, "9.3 g")
    qtbot.waitUntil(lambda: page.found is not None and page.found.stage == "bare body", timeout=60_000)
    (entry,) = LogBook().entries(serial)
    assert isinstance(entry.data, Weighing) and entry.data.mass_g == 9.3 and page.mass.text() == ""
    wanted = still_to_go(Study(LogBook().design(serial)))
    assert f"{wanted.put_in_g:.2f} g" in page.says.text() and "as briefed" in page.says.text()
    assert cell(bench.view.entries, 0, 2) == "bare body: 9.30 g"
    type_into(qtbot, page.mass, "nothing")
    assert page.says.text().startswith("!") and page.mass.text() == "nothing"


def test_tank_and_water_tests_are_kept_and_say_what_they_mean(qtbot: QtBot, logged: Window) -> None:
    serial = begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Tank test")
    page = bench.tank
    press(qtbot, logged, "Keep this tank test")
    assert page.says.text().startswith("!") and "nothing was read" in page.says.text()
    type_into(qtbot, page.pitch, "24")
    type_into(qtbot, page.draft, "29.5 mm")
    type_into(qtbot, page.drops, "10")
    type_into(qtbot, page.right, "9")
    press(qtbot, logged, "Keep this tank test")
    qtbot.waitUntil(lambda: "By 1 test " in page.says.text(), timeout=60_000)
    type_into(qtbot, page.pitch, "23.5")
    page.off.setCurrentText("without Belly treble, size 6")
    press(qtbot, logged, "Keep this tank test")
    qtbot.waitUntil(lambda: "By 2 tests" in page.says.text(), timeout=60_000)
    kept = [e.data for e in LogBook().entries(serial)]
    assert (
        isinstance(kept[1], TankTest)
        and kept[1].off == ("Belly treble, size 6",)
        and "Came right 9 times of 10" in page.says.text()
    )
    bench.paged.turn_to("Water test")
    water = bench.water
    press(qtbot, logged, "Keep this water test")
    assert "nothing is filled in" in water.says.text()
    water.speed.setText("1 turn a second at 60 cm a turn")
    for name, text in (("swings", "22"), ("strikes", "1"), ("hooked", "2")):
        type_into(qtbot, water.fields[name], text)
    press(qtbot, logged, "Keep this water test")
    assert "at most the one before" in water.says.text() and water.fields["swings"].value() == 22.0
    type_into(qtbot, water.fields["strikes"], "2")
    water.words.setText("runs true")
    press(qtbot, logged, "Keep this water test")
    last = LogBook().entries(serial)[-1].data
    assert isinstance(last, WaterTest) and (last.speed_m_s, last.swings, last.words) == (0.6, 22, "runs true")
    assert water.words.text() == "" and bench.view.entries.rowCount() == 3


def test_what_builds_taught_is_listed_against_the_shelf(qtbot: QtBot, logged: Window) -> None:
    begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Weigh")
    bench.weigh.keep(9.3)
    bench.paged.turn_to("Taught")
    page = bench.taught
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    press(qtbot, logged, "Put the woods and films learnt onto your own shelf")
    assert "On your shelf now: alder" in page.says.text() and page.found is not None
    own = every_material()["alder"]
    assert (
        own.density_g_ml == pytest.approx(page.found.densities["alder"].mean, abs=1e-4)
        and "learnt from 1 build" in own.source
    )
    # what was learnt is not taken for the shelf's own figure when it is learnt again
    page.refresh()
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    assert cell(page.table, 0, 0) == "alder" and cell(page.table, 0, 6) == "1" and cell(page.table, 0, 3) == "0.510"


def test_a_copy_of_the_log_is_put_back(qtbot: QtBot, logged: Window) -> None:
    begun(qtbot, logged)
    copy = back_up()
    begun(qtbot, logged, 2)
    page, menu = logged.logged.building, QMenu()
    assert logged.logged.view.builds.rowCount() == 3 and copy is not None
    page._fill_copies(menu)
    assert menu.actions()[0].text().startswith("Put back: 20")
    menu.actions()[0].trigger()
    assert logged.logged.view.builds.rowCount() == 1 and page.says.text().startswith("Put back")
    page.put_back(backups()[0])  # what was there before
    assert logged.logged.view.builds.rowCount() == 3 and logged.logged.book.serial == ""
    copy.write_bytes(b"nothing")
    page.put_back(copy)
    assert page.says.text().startswith("!") and logged.logged.view.builds.rowCount() == 3


def test_a_file_that_is_no_database_is_said_and_left_alone(qtbot: QtBot, logged: Window) -> None:
    file = workshop_file()
    file.parent.mkdir()
    file.write_text("no database, but long enough to look like one " * 40, encoding="utf-8")
    before = file.read_bytes()
    logged.logged.view.refresh()
    assert logged.logged.view.says.text().startswith("!") and file.read_bytes() == before
    press(qtbot, logged, "Begin builds of the open design")
    assert logged.logged.building.says.text().startswith("!") and file.read_bytes() == before


def test_a_picture_is_clicked_and_kept_as_a_tank_test(qtbot: QtBot, logged: Window, tmp_path: Path) -> None:
    serial = begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Picture")
    page, view = bench.picture, bench.picture.view
    assert view.isVisible() and not bench.view.isVisible()
    page.open(tmp_path / "none.png")
    qtbot.waitUntil(lambda: page.says.text().startswith("!"), timeout=60_000)
    assert "none.png: no such file" in page.says.text() and view.image is None
    page.open(DEMO_PICTURE)
    qtbot.waitUntil(lambda: "1 of 4" in page.says.text(), timeout=60_000)
    for x, y in ((0.1, 0.5), (0.9, 0.55), (0.05, 0.5), (0.95, 0.5)):  # nose, tail, and the water's edge twice
        assert view.picture is not None
        at = view.to_widget((x * view.picture.width, y * view.picture.height))
        qtbot.mouseClick(view, LEFT, pos=at.toPoint())
    qtbot.waitUntil(lambda: page.read is not None, timeout=60_000)
    assert page.read is not None and page.read["pitch_deg"] > 0.0 and "An estimate" in page.says.text()
    press(qtbot, logged, "Keep pitch and draft as a tank test, with the picture")
    (entry,) = LogBook().entries(serial)
    assert isinstance(entry.data, TankTest) and entry.data.pitch_deg == page.read["pitch_deg"]
    assert photo_file(LogBook(), entry.data.photo).is_file()
    page.words.setText("from port")
    press(qtbot, logged, "Keep the picture alone")
    assert cell(bench.view.entries, 1, 2) == "from port"
    press(qtbot, logged, "Forget the places clicked")
    press(qtbot, logged, "Keep pitch and draft as a tank test, with the picture")
    assert "four places" in page.says.text()
    bench.paged.turn_to("Weigh")
    assert bench.view.isVisible()


def test_builds_are_set_side_by_side_and_charted(qtbot: QtBot, logged: Window) -> None:
    begun(qtbot, logged, 3)
    log, bench = LogBook(), logged.logged
    for number, mass in enumerate((18.0, 18.3, 17.8), 1):
        log.add(f"S001-{number}", "weigh", Weighing(stage="finished", mass_g=mass))
    bench.paged.turn_to("Compare")
    page = bench.compared
    assert page.serials.text() == "S001-1 S001-2 S001-3" and "18.03 ± 0.25 g" in page.says.text()
    rows = {cell(page.view.table, k, 0): cell(page.view.table, k, 2) for k in range(page.view.table.rowCount())}
    assert rows["finished mass weighed, g"] == "18.3" and rows["made again"] == "–"
    qtbot.waitUntil(lambda: len(page.view.strip.variants) == 3, timeout=60_000)
    press(qtbot, logged, "Make again")
    assert log.build("S001-1").again is True
    page.serials.setText("S001-1 S009")
    press(qtbot, logged, "Set side by side")
    assert page.says.text().startswith("! no build 'S009'")
    bench.paged.turn_to("Chart")
    chart = bench.chart
    assert chart.found is not None and len(chart.found.x) == 3 and "3 builds" in chart.says.text()
    chart.up.show_text("hours it took, h")
    chart.draw()
    assert chart.says.text() == "No build has both."


def test_a_weighing_without_hooks_and_a_piece_measured_back_go_to_the_build(qtbot: QtBot, logged: Window) -> None:
    serial = begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Weigh")
    page = bench.weigh
    page.stage.setCurrentText("fitted")
    page.was_on.setCurrentText("without its hooks")
    page.keep(11.0)
    (entry,) = LogBook().entries(serial)
    assert isinstance(entry.data, Weighing) and len(entry.data.shares) == 2 and set(entry.data.shares.values()) == {0.0}
    logged.show_bench("Shop")
    logged.shop.paged.turn_to("As made")
    made = logged.shop.made
    press_in(qtbot, made, "Keep what was measured with the build on the bench")
    assert "nothing was measured" in made.says.text()
    made.holes["Belly slug"] = {"depth": 11.9}
    press_in(qtbot, made, "Keep what was measured with the build on the bench")
    assert f"Kept with {serial}" in made.says.text() and logged.session.design.weighings == ()
    drilling = LogBook().design(serial).ballast[0].drilling
    assert drilling is not None and drilling.depth_mm == pytest.approx(11.9)


def test_variants_are_begun_as_an_experiment(qtbot: QtBot, logged: Window) -> None:
    logged.show_bench("Tank")
    logged.tank.paged.turn_to("Variants")
    page = logged.tank.variants
    qtbot.waitUntil(lambda: len(page.strip.variants) > 1, timeout=60_000)
    press_in(qtbot, page, "Begin a build of each in the log: they differ in one thing")
    qtbot.waitUntil(lambda: workshop_file().is_file() and len(LogBook().serials()) == 5, timeout=60_000)
    assert {b.experiment for b in LogBook().builds()} == {"ballast slid along"}
    assert len({b.differs for b in LogBook().builds()}) == 5


def test_hours_cost_and_papers_of_a_build(qtbot: QtBot, logged: Window, tmp_path: Path) -> None:
    serial = begun(qtbot, logged)
    page, menu = logged.logged.building, QMenu()
    type_into(qtbot, page.hours, "1.5")
    page.why.setText("sanding")
    press(qtbot, logged, "Keep the hours, spent on what the words say")
    (entry,) = LogBook().entries(serial)
    assert isinstance(entry.data, Spent) and (entry.data.on, entry.data.hours) == ("sanding", 1.5)
    type_into(qtbot, page.cost, "7.25")
    assert LogBook().build(serial).cost == 7.25
    press(qtbot, logged, "Keep the hours, spent on what the words say")
    assert page.says.text().startswith("!")  # no hours
    page._fill_out(menu)
    for number, action in enumerate(menu.actions()[: len(OUT)]):
        out = tmp_path / f"{number}{OUT[action.text()]}"
        page.write(action.text(), out)
        assert out.stat().st_size > 120 and page.says.text() == f"Written: {out.name}."


def test_builds_are_taken_in_and_what_is_refused_is_said(qtbot: QtBot, logged: Window, tmp_path: Path) -> None:
    begun(qtbot, logged, 2)
    page, out = logged.logged.building, tmp_path / "all.json"
    page.write(WHOLE, out)
    page.take_in(out)
    assert "Took in 0 builds" in page.says.text() and "nothing was taken" in page.says.text()
    out.write_text(out.read_text(encoding="utf-8").replace("S001-1", "N1"), encoding="utf-8")
    page.take_in(out, good_only=True)
    assert "Took in 1 builds" in page.says.text() and "'S001-2' is in the log already" in page.says.text()
    assert logged.logged.view.builds.rowCount() == 3
    page.take_in(tmp_path / "none.json")
    assert page.says.text().startswith("!")


def test_a_weighing_stands_beside_its_forecast_with_what_explains_it(qtbot: QtBot, logged: Window) -> None:
    begun(qtbot, logged)
    bench = logged.logged
    bench.paged.turn_to("Weigh")
    bench.weigh.stage.setCurrentText("bare body")
    bench.weigh.keep(9.1)
    qtbot.waitUntil(lambda: "Most likely by the density" in bench.weigh.says.text(), timeout=60_000)
    assert "bare body: 9.10 g, 9.77 forecast" in bench.weigh.says.text()
