"""New, through the real window: a brief is filled in, answered, several are sought, one becomes the design."""

from __future__ import annotations

import math
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from tests.conftest import DEMO
from yellowbob.app.benches.begin.handbook_page import HandbookPage
from yellowbob.app.benches.begin.kinds import KINDS, outlines
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.window import Window
from yellowbob.app.session.demo_designs import DEMO_PICTURE
from yellowbob.checks.registry import verdicts
from yellowbob.design.shape import Lofted
from yellowbob.study import Study, of
from yellowbob.trials import seek

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(open_window: OpenWindow) -> Window:
    found = open_window("sallow-74")
    QTest.keyClick(found, Qt.Key.Key_N, Qt.KeyboardModifier.ControlModifier)
    return found


def answer_to(qtbot: QtBot, window: Window) -> None:
    qtbot.waitUntil(lambda: window.begin.answer is not None, timeout=60_000)


def press(qtbot: QtBot, window: Window, name: str) -> None:
    keys = window.begin.findChildren(QPushButton)
    qtbot.mouseClick(next(b for b in keys if b.accessibleName() == name), LEFT)


def test_a_newcomer_s_first_popper_in_few_actions(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    bench = window.begin
    assert bench.isVisible() and bench.view.kind == "popper"
    answer_to(qtbot, window)
    assert bench.answer is not None and bench.answer.sound and "Every check passes" in bench.says.text()
    bench.name.setText("My popper")  # the only typing
    bench.name.editingFinished.emit()
    qtbot.waitUntil(lambda: bench.answer is not None and bench.answer.design.name == "My popper", timeout=60_000)
    before = window.session.design
    press(qtbot, window, "Open the answer as a new design")
    assert window.session.design.name == "My popper" and window.tank.isVisible() and window.session.path is None
    assert before.name == "Sallow 74" and not window.session.saved
    window.save_as(tmp_path / "mine")
    window.write_sheet(tmp_path / "mine.pdf")
    assert (tmp_path / "mine.pdf").stat().st_size > 1000
    assert not [v for v in verdicts(Study(window.session.design)) if v.fails]


def test_every_change_of_a_line_is_answered(qtbot: QtBot, window: Window) -> None:
    bench = window.begin
    answer_to(qtbot, window)
    bench.wood.setCurrentText("obeche")
    bench.wood.activated.emit(bench.wood.currentIndex())
    type_into(qtbot, bench.length, "3 in")
    type_into(qtbot, bench.mass, "15 g")
    qtbot.waitUntil(lambda: bench.answer is not None and bench.answer.design.name == "Popper 76.2", timeout=60_000)
    assert bench.answer is not None
    made = bench.answer.design
    assert made.body.material.name == "obeche" and made.brief.mass_g is not None
    assert abs(of.slip(Study(made)).finished.mass_g / 15.0 - 1.0) < 0.081
    bench.mass.setFocus()
    bench.mass.selectAll()
    QTest.keyClick(bench.mass, Qt.Key.Key_Delete)
    QTest.keyClick(bench.mass, Qt.Key.Key_Return)  # as suits it again
    qtbot.waitUntil(lambda: bench.answer is not None and bench.answer.design.brief.mass_g is None, timeout=60_000)
    type_into(qtbot, bench.length, "9000")
    qtbot.waitUntil(lambda: bench.says.text().startswith("! the brief"), timeout=60_000)
    type_into(qtbot, bench.length, "rather long")
    assert bench.says.text().startswith("!") and bench.length.text() == "rather long"


def test_kinds_are_chosen_by_click_and_by_keys_and_have_the_lines_they_need(qtbot: QtBot, window: Window) -> None:
    bench = window.begin
    for kind in KINDS:
        assert all(len(shape) > 4 for shape in outlines(kind))
    at = bench.view._box(KINDS.index("waggler")).center().toPoint()
    qtbot.mouseClick(bench.view, LEFT, pos=at)
    assert bench.view.kind == "waggler" and bench.capacity.isVisible() and not bench.hooks.isVisible()
    QTest.keyClick(bench.view, Qt.Key.Key_Left)
    assert bench.view.kind == "stick float"
    qtbot.waitUntil(lambda: bench.answer is not None and bench.answer.design.kind == "stick float", timeout=60_000)
    assert bench.answer is not None and bench.answer.sound
    bench.view.choose("prop bait")
    bench.hung.setCurrentText("screw eyes")
    bench.hung.activated.emit(bench.hung.currentIndex())
    qtbot.waitUntil(lambda: "turns on its wire" in bench.says.text(), timeout=60_000)
    assert not bench.open_it.isEnabled()


def test_several_are_sought_and_one_is_taken(qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(seek, "ODDS_BUILDS", 400)
    bench = window.begin
    answer_to(qtbot, window)
    type_into(qtbot, bench.seek.room, "0")
    bench.seek.woods.setCurrentText("firm woods")
    press(qtbot, window, "Seek several different sound designs within this freedom")
    qtbot.waitUntil(lambda: bench.seek.found is not None, timeout=90_000)
    found = bench.seek.found
    assert found is not None and found.points == 4 and len(bench.strip.variants) == len(found.found) >= 2
    bench.strip.chosen = 1
    press(qtbot, window, "Open the answer as a new design")
    assert window.session.design == found.found[1].answer.design


def test_a_picture_gives_the_outlines_in_the_place_of_the_brief(qtbot: QtBot, window: Window) -> None:
    bench, before = window.begin, window.session.design
    window.show_new()
    answer_to(qtbot, window)
    press(qtbot, window, "Trace a picture for its outlines")
    page = bench.own.page
    assert page is not None and page.isVisible() and not bench.brief.isVisible()
    page.open(DEMO_PICTURE)
    qtbot.waitUntil(lambda: page.picture.picture is not None, timeout=60_000)
    for mark in ((197.2, 398.8), (1202.8, 469.2)):
        qtbot.mouseClick(page.picture, Qt.MouseButton.LeftButton, pos=page.picture.to_widget(mark).toPoint())
    type_into(qtbot, page.known, "96 mm")
    press(qtbot, window, "Find outline")
    qtbot.waitUntil(lambda: page.trace is not None, timeout=60_000)
    press(qtbot, window, "Use the traced outline")
    assert bench.brief.isVisible() and window.session.design is before, "the open design was changed"
    assert bench.length.value == pytest.approx(96.0, rel=0.01) and bench.own.isVisible()
    long = bench.length.value
    qtbot.waitUntil(
        lambda: bench.answer is not None and math.isclose(bench.answer.design.shape.length_mm, long, abs_tol=1e-6),
        timeout=60_000,
    )
    assert bench.answer is not None and page.trace is not None and isinstance(page.trace.shape, Lofted)
    mine = float(of.outer(Study(bench.answer.design)).bounds[1, 2])
    its = max(p.at_mm[1] for p in page.trace.shape.back)
    assert mine == pytest.approx(its, rel=0.02)
    press(qtbot, window, "Take the kind's own outlines again")
    assert not bench.own.isVisible() and bench.asked().outline is None


def test_floats_have_no_outlines_from_a_picture_but_a_mass(qtbot: QtBot, window: Window) -> None:
    window.show_new()
    bench = window.begin
    bench.view.chosen.emit("waggler")
    assert not bench.trace.isEnabled() and bench.mass.isVisible()


def test_another_size_gets_hardware_to_suit(qtbot: QtBot, window: Window) -> None:
    window.show_bench("Lines")
    window.lines.show_ladder()
    page = window.lines.ladder
    qtbot.waitUntil(lambda: page.ladder is not None, timeout=60_000)
    type_into(qtbot, page.length, "100 mm")
    qtbot.mouseClick(page.suit, LEFT)
    qtbot.waitUntil(lambda: window.session.design.name == "Sallow 100", timeout=60_000)
    rest = of.upright_rest(window.session.study)
    assert rest is not None and 20.0 <= math.degrees(rest.pitch_rad) <= 28.0
    assert {f.stock for f in window.session.design.fittings if f.sort == "hook"} == {"treble, size 2"}


def test_files_dropped_on_the_window_open(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    data = QMimeData()
    for path, words in ((DEMO / "osier-96.ybob", ""), (tmp_path / "x.txt", "drop a design")):
        data.setUrls([QUrl.fromLocalFile(str(path))])
        at, keys = QPointF(300, 300), Qt.KeyboardModifier.NoModifier
        over = QDragEnterEvent(at.toPoint(), Qt.DropAction.CopyAction, data, LEFT, keys)
        window.dragEnterEvent(over)
        assert over.isAccepted()
        window.dropEvent(QDropEvent(at, Qt.DropAction.CopyAction, data, LEFT, keys))
        assert words in window.message.text()
    assert window.session.design.name == "Osier 96" and window.session.path == DEMO / "osier-96.ybob"
    window.take_in(DEMO / "to-trace.jpg")
    assert window.lines.page is window.lines.trace
    qtbot.waitUntil(lambda: window.lines.trace.picture.image is not None, timeout=60_000)


def test_the_slip_tells_the_next_step_until_it_is_turned_off(qtbot: QtBot, window: Window) -> None:
    slip = window.slip
    qtbot.waitUntil(lambda: slip.next_words.startswith("Weigh a squared"), timeout=60_000)
    assert slip.accessibleDescription() == f"Next: {slip.next_words}"
    window.session.edit(window.session.design.but(fittings=(), ballast=(), wires=()), "bare")
    qtbot.waitUntil(lambda: slip.next_words.startswith("Hang its hooks"), timeout=60_000)
    window.actions_by_name["steps"].trigger()
    assert slip.next_words == "" and window.settings.text("steps", "") == "off"
    window.actions_by_name["steps"].trigger()
    assert slip.next_words.startswith("Hang its hooks")
    grabbed(window)


def test_the_handbook_is_read_in_the_window_and_names_what_there_is(qtbot: QtBot, window: Window) -> None:
    window.show_bench("Shop")
    window.actions_by_name["handbook"].trigger()
    page = window.bench("Handbook")
    assert isinstance(page, HandbookPage) and page.isVisible() and len(page.chapters) == 9
    shown = []
    for number in range(9):
        page.list.setCurrentRow(number)
        shown.append(page.text.toPlainText())
    assert len(set(shown)) == 9 and all(len(text) > 200 for text in shown)
    whole = "\n".join(shown)
    for bench in BENCHES:  # every bench and its key stands in it
        assert f"{bench.title} bench ({bench.key})" in whole, bench.title
    for words in ("Make this my design", "Picture", "Compare", "Chart", "Cocking"):
        assert words in whole
    window.actions_by_name["handbook"].trigger()
    assert window.shop.isVisible()


def test_a_print_is_asked_for_in_place(qtbot: QtBot, window: Window) -> None:
    bench = window.begin
    bench.made.setCurrentText("print")
    bench.made.textActivated.emit("print")
    names = [bench.wood.itemText(k) for k in range(bench.wood.count())]
    assert bench.lines["Wood"][0].text() == "Plastic" and "PETG print" in names and "alder" not in names
    bench.ask()
    answer_to(qtbot, window)
    assert bench.answer is not None and bench.answer.sound and bench.answer.design.body.shell is not None
    bench.view.choose("waggler")  # floats are begun out of wood
    assert not bench.lines["Made as"][1].isVisible() and bench.asked().made == "wood"
    assert bench.lines["Wood"][0].text() == "Wood"
