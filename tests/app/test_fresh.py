"""What a page shows is the design as it is, wherever it was changed; and it wears the colours that are in force."""

from __future__ import annotations

import time
from typing import Any

import numpy as np
import pytest
from numpy.typing import NDArray
from PySide6.QtCore import QTimer
from PySide6.QtGui import QColor, QImage, QPaintEvent
from PySide6.QtWidgets import QApplication, QLabel, QLineEdit, QTableWidget, QWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.conftest import DEMO
from yellowbob.app.benches.begin.drawn import afloat
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.ahead import Ahead
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.kept_solid import KeptSolid
from yellowbob.app.widgets.paged import Paged
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.strip import TURN_S, Strip
from yellowbob.app.widgets.theme import DAY, EVENING, Look, wear
from yellowbob.app.widgets.turns import in_a_turn
from yellowbob.design.rescale import rescaled
from yellowbob.shelf.filling import opened

PAGES = {
    "Lines": ("",), "Fit-out": ("Wire", "Budget"), "Tank": ("Checks", "Cocking", "Load"), "Action": ("Run", "Waves"),
    "Shop": ("Stations", "Blank", "Hours"),
}  # fmt: skip


def read(part: QWidget) -> list[str]:
    """Every word on it."""
    words = [one.text() for one in (*part.findChildren(QLabel), *part.findChildren(QLineEdit))]
    for one in part.findChildren(QTableWidget):
        cells = (one.item(row, column) for row in range(one.rowCount()) for column in range(one.columnCount()))
        words += ["" if cell is None else cell.text() for cell in cells]
    return words


def settled(window: Window, qtbot: QtBot) -> None:
    session = window.session
    qtbot.waitUntil(lambda: not session.waiting and not session.tasks.doing, timeout=60_000)
    QApplication.processEvents()


@pytest.mark.parametrize("title", PAGES)
def test_a_page_left_and_come_back_to_shows_the_design_as_it_is_now(
    open_window: OpenWindow, qtbot: QtBot, title: str
) -> None:
    window = open_window("withy-stick-150" if title == "Tank" else "sallow-74")
    session = window.session
    before, after = session.design, rescaled(session.design, 1.1)
    paged = getattr(window.bench(title), "paged", None)
    for page in PAGES[title]:
        window.show_bench(title)
        if paged is not None:
            paged.turn_to(page)
        settled(window, qtbot)
        seen = paged.currentWidget() if paged is not None else window.lines.cards
        assert seen is not None
        first = read(seen)
        window.show_bench("Fit-out" if title == "Lines" else "Lines")
        session.edit(after, "larger")
        settled(window, qtbot)
        window.show_bench(title)
        settled(window, qtbot)
        come_back = read(seen)
        if paged is not None:
            paged.turn_to(page)
        settled(window, qtbot)
        assert come_back == read(seen) != first, page
        session.edit(before, "as it was")


def test_pages_made_ahead_ask_for_nothing(window: Window, qtbot: QtBot) -> None:
    settled(window, qtbot)
    for entry in BENCHES:
        bench = window.bench(entry.title)
        more = getattr(getattr(bench, "paged", bench), "make_one_more", None)
        while more is not None and more():
            pass
        assert not window.session.waiting, (entry.title, window.session._wanted)


def test_what_is_made_ahead_is_all_of_it_and_waits_for_the_maker(open_window: OpenWindow, qtbot: QtBot) -> None:
    window = open_window()
    session = window.session
    qtbot.waitUntil(lambda: not session.waiting and not session.tasks.doing, timeout=60_000)
    ahead = Ahead(window)
    ahead.begin()
    session.dragging = True
    qtbot.wait(1500)
    made = len(window.built)
    qtbot.wait(300)
    assert len(window.built) == made == 1, "made while something was dragged"
    session.dragging = False
    qtbot.waitUntil(lambda: ahead.done, timeout=60_000)
    for entry in BENCHES:
        bench = window.built[entry.title]
        more = getattr(getattr(bench, "paged", bench), "make_one_more", None)
        assert more is None or not more(), entry.title
    window.show_new()
    window.begin.opened.emit()
    assert window.benches.currentWidget() is window.tank, "a page made ahead is not heard"


def test_ahead_ends_with_a_window_that_is_closed(open_window: OpenWindow, qtbot: QtBot) -> None:
    window = open_window()
    ahead = Ahead(window)
    ahead.begin()
    window.close()
    qtbot.waitUntil(lambda: ahead.done, timeout=60_000)
    assert len(window.built) < len(BENCHES)


def test_colours_turn_everywhere_what_is_hidden_a_little_later(window: Window, qtbot: QtBot) -> None:
    for entry in BENCHES:
        window.bench(entry.title)
    cards, hidden = window.tank.pieces, window.fitout.pieces
    field, far = (one.findChildren(QLineEdit)[0] for one in (cards, hidden))

    def tone(one: QWidget) -> QColor:
        return one.palette().color(one.foregroundRole())

    assert tone(field) == tone(far) == QColor(DAY.ink)
    try:
        window.turn_colours()
        assert tone(window.verdict) == QColor(EVENING.ink), "what is seen, and small, waits"
        qtbot.waitUntil(lambda: tone(field) == QColor(EVENING.ink), timeout=60_000)
        assert tone(far) == QColor(DAY.ink), "what is hidden comes before what is seen"
        qtbot.waitUntil(lambda: tone(far) == QColor(EVENING.ink), timeout=60_000)
        late = window.fitout.wire
        assert tone(late.findChildren(QLineEdit)[0]) == QColor(EVENING.ink), "a page made later"
    finally:
        window.turn_colours()
    qtbot.waitUntil(lambda: tone(field) == QColor(DAY.ink), timeout=60_000)


def test_a_turn_that_was_held_up_lets_what_waits_go_first(qtbot: QtBot) -> None:
    part, done = QWidget(), []
    qtbot.addWidget(part)
    in_a_turn(part, lambda: done.append("late"))
    QTimer.singleShot(0, part, lambda: time.sleep(0.1))  # while it waits
    in_a_turn(part, lambda: done.append("too"), patience=0)
    QTimer.singleShot(6, part, lambda: done.append("what waits"))
    qtbot.waitUntil(lambda: len(done) == 3, timeout=60_000)
    assert done[-1] == "late"


def test_a_page_made_ahead_is_dressed_in_a_turn_of_its_own(qtbot: QtBot) -> None:
    paged = Paged({"One": QLabel, "Two": QLabel})
    qtbot.addWidget(paged)
    sheets = []
    while paged.make_one_more():
        sheets.append(sorted(bool(one.styleSheet()) for one in paged.findChildren(Roomy)))
    assert sheets == [[False], [True], [False, True], [True, True]]
    asked = Paged({"One": QLabel, "Two": QLabel, "Three": QLabel})
    qtbot.addWidget(asked)
    assert asked.make_one_more() and asked.page("Two")  # before it is seen, and the one that was made before too
    assert [bool(one.styleSheet()) for one in asked.findChildren(Roomy)] == [True, True]


def test_a_curve_that_is_seen_takes_the_colours_of_the_evening(window: Window, qtbot: QtBot) -> None:
    window.show_tank_page("Landings")
    settled(window, qtbot)
    chart = window.tank.landing.findChildren(Chart)[0]
    assert chart.backgroundBrush().color() == QColor(DAY.card)
    try:
        window.turn_colours()
        qtbot.waitUntil(lambda: chart.backgroundBrush().color() == QColor(EVENING.card), timeout=60_000)
    finally:
        window.turn_colours()


def test_what_is_gone_is_not_dressed(qtbot: QtBot) -> None:
    part = QWidget()
    wear(part, lambda now: f"QLabel {{ color: {now.bad}; }}")
    assert Look.now.bad in part.styleSheet()
    part.deleteLater()
    del part
    qtbot.wait(20)


def test_a_chart_of_builds_makes_no_log(window: Window) -> None:
    from yellowbob.workshop.database import workshop_file

    window.show_bench("Log")
    window.logged.paged.turn_to("Chart")
    assert not workshop_file().exists()


def test_builds_drawn_again_are_the_same_picture(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("yellowbob.app.widgets.strip.TURN_S", 9.0)  # all of them at once, however slow
    shown = [afloat(name, opened(DEMO / f"{name}.ybob")) for name in ("sallow-74", "osier-96", "weir-cup-62")]
    strip = Strip()
    qtbot.addWidget(strip)
    strip.resize(900, 260)
    strip.show_variants(shown)
    strip._solids = [KeptSolid() for _ in shown]  # which are painted plainly the first time
    strip.show()
    pictures = [grabbed(strip) for _ in range(3)]
    wide, high = pictures[0].width(), pictures[0].height()

    def pixels(number: int) -> NDArray[np.int16]:
        bits = pictures[number].convertToFormat(QImage.Format.Format_RGB32).constBits()
        return np.frombuffer(bits, np.uint8).reshape(high, wide, 4)[..., :3].astype(np.int16)

    first, kept, again = pixels(0), pixels(1), pixels(2)
    assert first.std() > 10.0 and (kept == again).all()
    # placed to a fraction of a pixel: edges may differ by their smoothing, nothing else
    assert (np.abs(first - kept) > 60).any(axis=-1).mean() < 0.01
    strip.show_variants(shown[:1])
    assert grabbed(strip) != pictures[0]


def test_builds_that_take_long_to_paint_come_in_turns(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Each of them takes longer than there is time for: the event loop runs after each, and all of them come."""
    drawn: list[int] = []
    plainly, painting = KeptSolid._plainly, Strip.paintEvent

    def slow(*args: Any) -> None:
        time.sleep(1.5 * TURN_S)
        drawn[-1] += 1
        plainly(*args)

    def counted(strip: Strip, event: QPaintEvent) -> None:
        drawn.append(0)
        painting(strip, event)

    monkeypatch.setattr(KeptSolid, "_plainly", slow)
    monkeypatch.setattr(Strip, "paintEvent", counted)
    shown = [afloat(name, opened(DEMO / f"{name}.ybob")) for name in ("sallow-74", "osier-96", "weir-cup-62")]
    strip = Strip()
    qtbot.addWidget(strip)
    strip.resize(900, 260)
    strip.show_variants([*shown, *shown])
    strip.show()
    qtbot.waitUntil(lambda: strip.painted, timeout=60_000)
    assert sum(drawn) == 6 and max(drawn) == 1


def test_a_page_that_is_shown_is_freshened_once(
    open_window: OpenWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Qt tells a bench twice that it is shown the first time, for what stands beside it is shown after it."""
    window = open_window("spit-pencil-118")
    settled(window, qtbot)
    asked: list[str] = []
    freshen = Paged.freshen

    def noted(paged: Paged) -> None:
        asked.append(paged.now)
        freshen(paged)

    monkeypatch.setattr(Paged, "freshen", noted)
    for times in (1, 2):
        window.show_bench("Shop")
        settled(window, qtbot)
        assert asked.count("Stations") == times
        window.show_bench("Lines")
        settled(window, qtbot)
