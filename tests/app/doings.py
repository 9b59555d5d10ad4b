"""What is done in a window, each where it reads, writes or works something out: for tests of where and when it is done."""

from __future__ import annotations

import math
import shutil
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest

from tests.conftest import DEMO
from yellowbob.app.frame.window import Window
from yellowbob.design.edits import grips, moved

PICTURE = DEMO / "to-trace.jpg"
Do = Callable[[Window, Path], object]


def awaited(there: Callable[[], object]) -> None:
    """What else is to be done comes first, and a loaded machine is slow: it is waited for so long as nothing stands still."""
    end = time.monotonic() + 60.0
    while not there():
        assert time.monotonic() < end, "it never comes"
        QTest.qWait(10)


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
    awaited(lambda: log.picture.path is not None)
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
    awaited(lambda: log.taught.found is not None)
    log.taught.onto_shelf()
    assert "On your shelf now" in log.taught.says.text()


def paged_through(window: Window, folder: Path) -> None:
    page = on_page("Shop", "Packet")(window)
    for name, tick in page.ticks.items():
        tick.setChecked(name in ("holes", "cautions"))
    awaited(lambda: page.preview.sizes)
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
