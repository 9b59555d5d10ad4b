"""How the Tank bench's pages look and read: evening colours, inches, faults, names for those who cannot see them."""

from __future__ import annotations

import pytest
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QListWidget, QSlider
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import DAY, EVENING, Look
from yellowbob.design.model import replaced
from yellowbob.study import of

PAGES = ("Landings", "Pose it", "Variants", "Odds", "Checks")


def contrast(one: str, two: str) -> float:
    """WCAG 2 contrast ratio of two colours."""

    def light(text: str) -> float:
        parts = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in QColor(text).getRgbF()[:3]]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    a, b = sorted((light(one), light(two)))
    return (b + 0.05) / (a + 0.05)


@pytest.mark.parametrize("theme", [DAY, EVENING], ids=["day", "evening"])
def test_words_stand_out_from_their_ground(theme: object) -> None:
    assert isinstance(theme, type(DAY))
    pairs = (
        ("ink", "card"), ("soft", "card"), ("ink", "wood"), ("bad", "card"), ("foot_ink", "foot"), ("foot_soft", "foot"),
        ("foot_good", "foot"), ("foot_bad", "foot"), ("water_ink", "card"),
    )  # fmt: skip
    for words, ground in pairs:
        assert contrast(getattr(theme, words), getattr(theme, ground)) >= 4.5, (words, ground)


@pytest.mark.parametrize("page", PAGES)
def test_every_control_has_a_name(qtbot: QtBot, window: Window, page: str) -> None:
    window.show_tank_page(page)
    shown = window.tank.paged.page(page)
    for kind in (QAbstractButton, QLineEdit, QComboBox, QListWidget, QSlider):
        for one in shown.findChildren(kind):
            if one.isVisible() and one.objectName() != "qt_spinbox_lineedit":
                text = one.text() if isinstance(one, QAbstractButton) else ""
                assert one.accessibleName() or text, (page, one)


@pytest.mark.parametrize("page", PAGES)
def test_targets_are_large_enough_to_hit(qtbot: QtBot, window: Window, page: str) -> None:
    window.show_tank_page(page)
    qtbot.wait(20)
    for one in window.tank.paged.page(page).findChildren(QAbstractButton):
        if one.isVisible() and one.text():
            assert one.height() >= 20, (page, one.text())
            assert one.width() >= 40, (page, one.text())


@pytest.mark.parametrize("page", PAGES)
def test_pages_paint_in_the_evening_too(qtbot: QtBot, window: Window, page: str) -> None:
    window.show_tank_page(page)
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)
    day = grabbed(window.tank.paged.page(page))
    window.turn_colours()
    try:
        assert Look.now is EVENING

        def dark() -> bool:  # what is large is dressed in the next turns of the event loop
            evening = grabbed(window.tank.paged.page(page))
            return evening != day and evening.pixelColor(6, evening.height() - 6).lightness() < 90

        qtbot.waitUntil(dark, timeout=60_000)
    finally:
        window.turn_colours()


def test_figures_are_read_in_inches_and_ounces(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    window.use_units("inches and ounces")
    try:
        window.tank.pose.refresh()
        assert window.tank.pose.draft.text().endswith("in")
        assert window.tank.pose.mass.text().endswith("oz")
        assert " oz" in window.tank.pose.asks.text()
        assert " in" in window.tank.pose.asks.text()
    finally:
        window.use_units("mm and g")
    assert Units.of("length") == "mm"


@pytest.mark.parametrize("page", PAGES)
def test_a_design_that_cannot_be_built_breaks_no_page(qtbot: QtBot, window: Window, page: str) -> None:
    """A bit that misses the body: the reason is said, what was asked for is kept, every page still stands."""
    window.show_tank_page(page)
    design = window.session.design
    drilling = design.ballast[0].drilling
    assert drilling is not None
    off = replaced(design.ballast[0], drilling=replaced(drilling, place_mm=(500.0, 0.0)))
    window.session.edit(design.but(ballast=(off,)), "miss")
    assert "misses the body" in window.session.fault
    window.tank.paged.turn_to(page)
    qtbot.wait(50)
    grabbed(window)
    assert window.session.design.ballast[0] == off
    window.session.undo.undo()
    assert window.session.fault == ""
    window.tank.paged.turn_to(page)


def test_the_list_of_keys_names_the_pages(qtbot: QtBot, window: Window) -> None:
    window.show_keys()
    keys = window.keys
    cells = {
        item.text()
        for k in range(keys.table.rowCount())
        for c in range(6)
        if (item := keys.table.item(k, c)) is not None
    }
    assert keys.isVisible() and window.height() == 800
    assert {"Tank: Landings", "Tank: Pose it", "Pose the lure", "Throw it in", "New design", "Ctrl+N"} <= cells
    keys.finder.setText("throw it")
    assert keys.table.rowCount() == 1 and (found := keys.table.item(0, 0)) is not None and found.text() == "T"
    window.show_keys()
    assert window.tank.isVisible() and not keys.isVisible()


def test_a_throw_by_its_key(qtbot: QtBot, window: Window) -> None:
    window.actions_by_name["throw"].trigger()
    assert window.tank.paged.now == "Landings"
    qtbot.waitUntil(lambda: window.tank.landing.player.playing, timeout=60_000)
    window.tank.landing.player.stop()


def test_every_demo_shows_every_page(qtbot: QtBot, open_window: OpenWindow) -> None:
    for name in ("mill-tail-88", "moth-crawler-64", "print-wake-92", "weir-cup-62"):
        window = open_window(name)
        for page in PAGES:
            window.show_tank_page(page)
            qtbot.wait(10)
            assert not grabbed(window).isNull()
        window.close()
