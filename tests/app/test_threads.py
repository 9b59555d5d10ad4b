"""What may take long is not done on the interface's thread: files, pictures, solids, searches, and all slow results."""

from __future__ import annotations

import importlib
import math
import shutil
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, idle
from tests.conftest import DEMO
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.window import Window
from yellowbob.app.session.recovery import Recovery
from yellowbob.design.edits import grips, moved
from yellowbob.study import Study
from yellowbob.study.engine import Result

PICTURE = DEMO / "to-trace.jpg"
Do = Callable[[Window, Path], object]


def begun(window: Window) -> Any:
    """The Log bench, with a build on it."""
    window.show_bench("Log")
    window.logged.building.begin()
    assert window.logged.building.book.serial
    return window.logged


def on_page(bench: str, page: str) -> Callable[[Window], Any]:
    def turned(window: Window) -> Any:
        window.show_bench(bench)
        paged = window.bench(bench).paged  # type: ignore[attr-defined]
        paged.turn_to(page)
        return paged.currentWidget()

    return turned


def picture_kept(window: Window, _: Path) -> None:
    log = begun(window)
    log.paged.turn_to("Picture")
    log.picture.open(PICTURE)
    for _ in range(200):
        if log.picture.path is None:
            QTest.qWait(50)
    log.picture.keep_picture()


def exchanged(what: str, suffix: str) -> Do:
    def write(window: Window, folder: Path) -> None:
        begun(window).building.write(what, folder / f"out{suffix}")
        assert (folder / f"out{suffix}").stat().st_size > 100

    return write


def taken_in(window: Window, folder: Path) -> None:
    building = begun(window).building
    building.write("Whole log as JSON …", folder / "log.json")
    building.take_in(folder / "log.json")


def list_out_and_in(window: Window, folder: Path) -> None:
    page = on_page("Fit-out", "Shelf")(window)
    page.write_out(folder / "list.csv")
    page.take_in(folder / "list.csv")
    assert "Took" in page.said.text()


def copied_back(window: Window, folder: Path) -> None:
    from yellowbob.workshop.backups import back_up, backups

    building = begun(window).building
    back_up()
    building.put_back(backups()[0])


def outlines_in(window: Window, folder: Path) -> None:
    window.lines.write_out(folder / "own.svg")
    window.lines.take_svg(folder / "own.svg")


def opened_from_file(window: Window, folder: Path) -> None:
    shutil.copy(DEMO / "osier-96.ybob", folder / "other.ybob")
    window.open(folder / "other.ybob")
    assert window.session.design.name == "Osier 96"


def edited(window: Window, _: Path) -> None:
    window.session.edit(moved(window.session.design, grips(window.session.design)[0], 1.0, 0.0, 0.0), "moved")


def left_behind(window: Window, _: Path) -> None:
    edited(window, _)
    window.open_demo(DEMO / "osier-96.ybob")


def weighed_on_the_page(window: Window, _: Path) -> None:
    page = on_page("Fit-out", "Budget")(window)
    page.stage.setCurrentText("bare body")
    page._weigh(10.0)
    assert len(window.session.design.weighings) == 1


def compared(window: Window, _: Path) -> None:
    log = begun(window)
    log.paged.turn_to("Compare")
    log.compared.serials.setText(log.building.book.serial)
    log.compared.compare()


def tried_in_the_tank(window: Window, _: Path) -> None:
    log = begun(window)
    log.paged.turn_to("Tank test")
    log.tank.pitch.show_value(math.radians(31.0))
    log.tank.keep()
    assert log.tank.pitch.value is None


def tried_on_the_water(window: Window, _: Path) -> None:
    log = begun(window)
    log.paged.turn_to("Water test")
    log.water.speed.setText("walking pace")
    log.water.words.setText("ran true")
    log.water.keep()
    assert not log.water.words.text() and "Kept" in log.water.says.text()


def told_of(window: Window, _: Path) -> None:
    log = begun(window)
    building, serial = log.building, log.building.book.serial
    building.why.setText("sanded the shoulder")
    building.hours.setValue(0.5)
    building._time()
    building.why.setText("its eye was off")
    building._told("lost_why")
    assert building.state.currentText() == "lost" and building.book.log.build(serial).lost_why == "its eye was off"
    building.state.show_text("done")
    building._set(state="done")
    assert building.book.log.build(serial).lost_why == "" and building.hours.value() == 0.0
    log.paged.turn_to("Compare")
    log.compared.again(True)
    assert building.book.log.build(serial).again is True


def its_design_opened(window: Window, _: Path) -> None:
    building, design = begun(window).building, window.session.design
    window.session.edit(design.but(name="Another"), "name")
    building.open_design()
    assert window.session.design.name == design.name


def own_entry(window: Window, _: Path) -> None:
    page = on_page("Fit-out", "Shelf")(window)
    page.entry.setText("Old fence post")
    page.fields.setText("density_g_ml=0.51 spread_g_ml=0.03 group=wood")
    page.attempt(page.enter)
    assert "Old fence post is on your shelf" in page.said.text() and not page.fields.text()
    page.entry.setText("Old fence post")
    page._count(3.0)
    assert page.table.item(page._names.index("Old fence post"), 2).text() == "3"
    page.attempt(page.take_off)
    assert "Taken off" in page.said.text() and "Old fence post" not in page._names


def film_onto_the_shelf(window: Window, _: Path) -> None:
    page = on_page("Fit-out", "Finish")(window)
    page._weighed_before(20.0)
    page._weighed_after(20.4)
    assert "on your shelf" in page.said.text()


def learnt_onto_the_shelf(window: Window, folder: Path) -> None:
    log = begun(window)
    weighed_in_the_log(window, folder)
    log.paged.turn_to("Taught")
    for _ in range(400):
        if log.taught.found is None:
            QTest.qWait(20)
    log.taught.onto_shelf()
    assert "On your shelf now" in log.taught.says.text()


def paged_through(window: Window, folder: Path) -> None:
    page = on_page("Shop", "Packet")(window)
    for name, tick in page.ticks.items():
        tick.setChecked(name in ("holes", "cautions"))
    for _ in range(400):
        if not page.preview.sizes:
            QTest.qWait(20)
    page.preview.turn(1)
    page.preview.set_zoom(4.0)
    assert page.preview.sheet.pixmap().width() > 1500
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFileName(str(folder / "printed.pdf"))
    page.print_on(printer)
    assert "Sent" in page.says.text() and (folder / "printed.pdf").read_bytes().startswith(b"%PDF")


def as_made(window: Window, _: Path) -> None:
    begun(window)
    page = on_page("Shop", "As made")(window)
    place, sizes = page.rows[len(page.rows) // 2]
    page.readings[place] = {name: 1.01 * size for name, size in sizes.items()}
    page.keep_with_build()
    assert "Kept with" in page.says.text()


def weighed_in_the_log(window: Window, _: Path) -> None:
    log = begun(window)
    log.paged.turn_to("Weigh")
    log.weigh.keep(17.0)


STORE = "yellowbob.logbook.store"
LOG, LINES, SHOP = (f"yellowbob.app.benches.{one}" for one in ("log", "lines", "shop"))
CASES: dict[str, tuple[str, str, Do]] = {
    "a picture to trace": (f"{LINES}.trace_page", "read_picture", lambda w, _: w.lines.trace.open(PICTURE)),
    "a picture of the plan": (f"{LINES}.trace_page", "find_silhouette", lambda w, _: w.lines.trace.open_plan(PICTURE)),
    "a picture in the log": (f"{LOG}.picture_page", "read_picture", picture_kept),
    "a picture kept": (f"{LOG}.picture_page", "keep_photo", picture_kept),
    "the sheet": ("yellowbob.shop.sheet", "write_sheet", lambda w, f: w.write_sheet(f / "a.pdf")),
    "a solid": ("yellowbob.shop.exports", "export", lambda w, f: w.lines.write_out(f / "a.stl")),
    "outlines": ("yellowbob.lines.svg", "read_svg_body", outlines_in),
    "a ghost": (f"{LINES}.bench", "opened", lambda w, _: w.lines.show_ghost(DEMO / "osier-96.ybob")),
    "a design saved": ("yellowbob.app.session.files", "write_design", lambda w, f: w.save_as(f / "mine")),
    "a design opened": ("yellowbob.app.session.files", "first_sight", opened_from_file),
    "a design read": ("yellowbob.app.frame.window", "opened", opened_from_file),
    "an edit": ("yellowbob.app.session.follower", "followed", edited),
    "what is told of an edit": ("yellowbob.app.session.follower", "next_step", edited),
    "a righting arm": ("yellowbob.app.benches.tank.landing_page", "righting", lambda w, _: on_page("Tank", "Landings")(w)),
    "a pose": ("yellowbob.trials.ballasting", "ballasting", lambda w, _: w.tank.view.poser.begin()),
    "a list out": ("yellowbob.app.benches.fitout.shelf_page", "to_csv", list_out_and_in),
    "a list in": ("yellowbob.app.benches.fitout.shelf_page", "from_csv", list_out_and_in),
    "a weighing": ("yellowbob.app.benches.fitout.budget_page", "weighed", weighed_on_the_page),
    "builds begun": (f"{LOG}.build_page", "promised", lambda w, _: begun(w)),
    "a build's report": (f"{LOG}.build_page", "write_build", exchanged("Report of the build on the bench …", ".pdf")),
    "labels": (f"{LOG}.build_page", "write_labels", exchanged("Labels of the builds listed …", ".pdf")),
    "the whole log": (f"{LOG}.build_page", "whole_json", exchanged("Whole log as JSON …", ".json")),
    "builds as a table": (f"{LOG}.build_page", "builds_csv", exchanged("Builds as CSV …", ".csv")),
    "builds taken in": (f"{LOG}.build_page", "take_json", taken_in),
    "a copy put back": (f"{LOG}.build_page", "restore", copied_back),
    "builds compared": (f"{LOG}.sets_pages", "compared_builds", compared),
    "stations": (f"{SHOP}.list_pages", "stations", lambda w, _: on_page("Shop", "Stations")(w)),
    "a page of the packet": (f"{SHOP}.preview", "picture_of", paged_through),
    "a packet printed": (f"{SHOP}.packet_page", "print_pages", paged_through),
    "holes": (f"{SHOP}.list_pages", "bores", lambda w, _: on_page("Shop", "Holes")(w)),
    "what to measure": (f"{SHOP}.made_page", "bores", lambda w, _: on_page("Shop", "As made")(w)),
    "a tank test": (STORE, "LogBook.add", tried_in_the_tank),
    "a tank test's design": (STORE, "LogBook.design", tried_in_the_tank),
    "a water test": (STORE, "LogBook.add", tried_on_the_water),
    "words for a speed": (f"{LOG}.water_page", "speeds_of", tried_on_the_water),
    "hours": (STORE, "LogBook.add", told_of),
    "what became of a build": (STORE, "LogBook.change", told_of),
    "the design of a build": (STORE, "LogBook.design", its_design_opened),
    "a chart": (f"{LOG}.sets_pages", "charted", lambda w, _: (begun(w), on_page("Log", "Chart")(w))),
    "an own entry": ("yellowbob.shelf.own", "OwnShelf.put", own_entry),
    "an own entry taken off": ("yellowbob.shelf.own", "OwnShelf.remove", own_entry),
    "a count": ("yellowbob.shelf.own", "OwnShelf.set_count", own_entry),
    "a film weighed": ("yellowbob.shelf.own", "OwnShelf.put", film_onto_the_shelf),
    "what was learnt": ("yellowbob.shelf.own", "OwnShelf.put", learnt_onto_the_shelf),
    "a piece as made": ("yellowbob.shop.kept_made", "keep_made", as_made),
    "what is still to go in": (f"{LOG}.pages", "still_to_go", weighed_in_the_log),
}  # fmt: skip


@pytest.fixture(autouse=True)
def own_workshop(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "workshop.sqlite"))


@pytest.mark.parametrize("what", CASES)
def test_it_is_done_on_another_thread(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, what: str
) -> None:
    module, name, do = CASES[what]
    there: Any = importlib.import_module(module)
    *owners, name = name.split(".")
    for owner in owners:
        there = getattr(there, owner)
    work, where = getattr(there, name), list[bool]()

    def noted(*args: Any, **named: Any) -> Any:
        where.append(threading.current_thread() is threading.main_thread())
        return work(*args, **named)

    monkeypatch.setattr(there, name, noted)
    do(window, tmp_path)
    idle(qtbot, window)
    assert where and not any(where)


@pytest.mark.parametrize("name", ["keep", "set_aside"])
def test_what_is_not_in_a_file_is_kept_on_another_thread(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    work, where = getattr(Recovery, name), list[bool]()

    def noted(*args: Any) -> None:
        where.append(threading.current_thread() is threading.main_thread())
        work(*args)

    monkeypatch.setattr(Recovery, name, noted)
    left_behind(window, tmp_path)
    qtbot.waitUntil(lambda: bool(where), timeout=20_000)
    assert not any(where)
    idle(qtbot, window)


@pytest.mark.parametrize("name", ["print-wake-92", "reed-waggler-217"])
def test_no_slow_result_is_worked_out_there(
    qtbot: QtBot, open_window: OpenWindow, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    """Every page, turned to with the figures known and after an edit, in both colours and other units."""
    window = open_window(name)
    idle(qtbot, window)
    found, slow = Study._found, list[str]()

    def noted(study: Study, asked: Result[Any]) -> Any:
        kept = study._kept.get(asked)
        value = found(study, asked)
        now = study._kept.get(asked)
        here = threading.current_thread() is threading.main_thread() and not study._doing.hurry
        if asked.slow and now is not kept and here:
            slow.append(f"{at}: {asked.words}")
        return value

    monkeypatch.setattr(Study, "_found", noted)
    at = ""
    for turn in ("known", "edited"):
        for bench in BENCHES:
            window.show_bench(bench.title)
            paged = getattr(window.bench(bench.title), "paged", None)
            for page in list(paged.keys) if paged is not None else [""]:
                at = f"{turn}, {bench.title}: {page}"
                if paged is not None:
                    paged.turn_to(page)
                if turn == "edited":
                    density = 1.01 * window.session.design.body.density_g_ml
                    window.session.edit(window.session.design.of_material(density_g_ml=density), "denser")
                qtbot.wait(1)
    at = "looks"
    window.turn_colours()
    window.turn_colours()
    for _ in range(3):
        window.next_units()
    idle(qtbot, window)
    assert not slow
