"""Floats in the window: cocked load by load, shotted, built up as a stack."""

from __future__ import annotations

import math

import pytest
from PySide6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from tests.conftest import DEMO
from yellowbob.app.frame.window import Window
from yellowbob.design.corner_edits import corners
from yellowbob.design.cut_edits import listed
from yellowbob.design.files import read_design
from yellowbob.design.rig import Hung
from yellowbob.study import Study, of
from yellowbob.trials.aslant import aslant

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def float_window(open_window: OpenWindow) -> Window:
    return open_window("withy-stick-150")


def test_it_cocks_load_by_load_in_the_tank(qtbot: QtBot, float_window: Window) -> None:
    window = float_window
    window.show_tank_page("Cocking")
    page = window.tank.cocking
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    found = of.cocked(window.session.study)
    assert page.found is found and page.slider.maximum() == len(found.steps) - 1
    # it opens at what hangs on the line
    load = of.line_load_g(window.session.study)
    assert found.steps[page.slider.value()].load_g == pytest.approx(load, abs=found.sinks_at_g / 10)
    page.slider.setValue(0)
    posture = window.session.posture
    assert posture is not None and posture.up == found.steps[0].rest.up
    assert "lies" in page.now.text() and page.now.text().startswith("0.000 g")
    page.slider.setValue(page.slider.maximum())
    assert "stands" in page.now.text()
    qtbot.waitUntil(lambda: "Carries" in page.says.text(), timeout=60_000)
    qtbot.waitUntil(lambda: "it rises" in page.says.text(), timeout=60_000)
    assert f"{of.carried(window.session.study).load_g:.3f} g" in page.says.text()
    qtbot.mouseClick(page.play, LEFT)
    qtbot.waitUntil(lambda: 0 < page.slider.value() < page.slider.maximum(), timeout=60_000)
    qtbot.mouseClick(page.play, LEFT)
    assert page.play.text() == "Play"
    window.show_tank_page("Pieces")
    assert window.session.posture is None


def test_a_coat_is_laid_on_the_pieces_chosen(qtbot: QtBot, float_window: Window) -> None:
    window, session = float_window, float_window.session
    window.show_bench("Fit-out")
    page = window.fitout.finish
    offered = [page.over.itemText(i) for i in range(page.over.count())]
    assert offered[1:] == ["the body", "every piece", "Tip", "Stem", "Foot pin"]
    assert page.over.currentText() == "body, Tip, Stem"  # as the file has it
    heavy = of.slip(session.study).finished.mass_g
    for words, over in (("every piece", ("body", "Tip", "Stem", "Foot pin")), ("Tip", ("Tip",)), ("the body", ())):
        page.over.setCurrentText(words)
        page.over.textActivated.emit(words)
        assert session.design.coats[0].over == over
        assert page.over.currentText() == words
    assert of.slip(session.study).finished.mass_g < heavy
    cell = page.table.item(1, 4)
    assert cell is not None and cell.text().startswith("body, Tip, Stem")


def test_it_is_shotted_to_its_tip(qtbot: QtBot, float_window: Window) -> None:
    window = float_window
    window.show_tank_page("Load")
    page, session = window.tank.load, window.session
    before = session.design
    qtbot.mouseClick(page.one_less, LEFT)
    assert before.rig is not None and session.design.rig is not None
    assert sum(h.count for h in session.design.rig.hung) == sum(h.count for h in before.rig.hung) - 1
    session.undo.undo()
    assert session.design == before
    page._hang(Hung(name="split shot BB, lead", stock="split shot BB, lead", mass_g=0.4))
    page._hang(Hung(name="split shot BB, lead", stock="split shot BB, lead", mass_g=0.4))
    assert of.line_load_g(session.study) > of.line_load_g(Study(before)) + 0.7
    assert page.list.count() == len(session.design.rig.hung)
    type_into(qtbot, page.tip, "14 mm")
    assert session.design.rig.tip_mm == 14.0
    qtbot.mouseClick(page.shot, LEFT)
    qtbot.waitUntil(lambda: "Write on it" in page.says.text(), timeout=60_000)
    rest = of.upright_rest(session.study)
    assert rest is not None
    shown = of.tip_of_rest(session.study, rest)
    assert shown == pytest.approx(14.0, abs=4.0)
    assert {h.role for h in session.design.rig.hung} >= {"hook", "bait"}
    page.holds.textActivated.emit("bottom end")
    assert session.design.rig.holds == "bottom end"


def test_a_float_is_started_from_what_it_is_to_carry(qtbot: QtBot, window: Window) -> None:
    window.show_new()
    window.begin.view.choose("waggler")
    window.begin.capacity.show_value(5.0)
    window.begin.ask()
    qtbot.waitUntil(lambda: window.begin.answer is not None, timeout=60_000)
    window.begin.take()
    assert window.session.design.kind == "waggler"
    assert of.carried(window.session.study).load_g == pytest.approx(5.0, abs=0.01)


def test_a_dropper_says_what_jig_it_holds_up(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("creek-dropper-52")
    window.show_tank_page("Load")
    assert "holds up a jig of" in window.tank.load.says.text()
    window.show_tank_page("Cocking")
    qtbot.waitUntil(lambda: window.tank.cocking.found is not None, timeout=60_000)


@pytest.mark.parametrize("name", ["withy-stick-150", "reed-waggler-217", "bar-antenna-234"])
def test_words_and_waterline_of_a_standing_float(open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    assert window.session.rest is not None
    grabbed(window)
    assert window.session.design.ends == ("tip", "base")
    assert window.session.rest.pitch_rad > 1.5


def test_the_stack_is_drawn_whole_and_its_pieces_have_their_figures(qtbot: QtBot, float_window: Window) -> None:
    window = float_window
    window.show_bench("Lines")
    view, card, session = window.lines.view, window.lines.cuts, window.session
    start, end = view.span()
    assert start == pytest.approx(-22.0) and end == pytest.approx(128.0)
    assert view.to_px("side", start, 0.0).x() >= 30.0
    assert view.to_px("side", end, 0.0).x() <= view.width() - 230.0
    number = [one.name for _, one in listed(session.design)].index("Stem")
    card.list.setCurrentRow(number)
    assert card._fields["profile.long"].text().startswith("80")
    card._set("profile.long", "long", 90.0)
    card._set("profile.front", "Ø front", 3.4)
    stem = next(p for p in session.design.pieces if p.name == "Stem").shape
    assert stem.length_mm == 90.0 and stem.profile[0].at_mm[1] == 1.7 and stem.profile[-1].at_mm[1] == 1.5
    for kind in ("tip", "stem", "base"):
        count = len(session.design.pieces)
        card.add_kind(kind)
        assert session.fault == "" and len(session.design.pieces) == count + 1
        session.undo.undo()


@pytest.mark.parametrize("name", ["withy-stick-150", "reed-waggler-217", "bar-antenna-234", "creek-dropper-52"])
def test_our_own_floats_fail_nothing(name: str) -> None:
    from yellowbob.checks.registry import verdicts

    assert [v.key for v in verdicts(Study(read_design(DEMO / f"{name}.ybob"))) if v.fails] == []


@pytest.mark.parametrize(("part", "px"), [(0, -30), (0, 25), (1, 40), (1, -50), (2, 20)])
def test_a_free_end_is_dragged_and_takes_along_what_joins_it(
    qtbot: QtBot, float_window: Window, part: int, px: int
) -> None:
    float_window.show_bench("Lines")
    session, view = float_window.session, float_window.bench("Lines").view
    before, study = session.design, session.study
    corner = next(c for c in corners(before) if c.part == part)
    mm, laid = px / view.scale(), view.laid()
    at = view.to_px(corner.view, *corner.at_mm).toPoint()
    qtbot.mousePress(view, LEFT, pos=at)
    qtbot.mouseMove(view, at + QPoint(px // 2, 3))
    assert (
        view.draft is not None and view.laid() is laid and session.study is study
    )  # drawn at once, solved a moment later
    qtbot.mouseMove(view, at + QPoint(px, -4))
    qtbot.mouseRelease(view, LEFT, pos=at + QPoint(px, -4))
    after = session.design
    grown = after.parts[part].shape.length_mm - before.parts[part].shape.length_mm
    assert grown == pytest.approx(mm if corner.at_mm[0] > 0.0 else -mm, abs=0.6 / view.scale())
    assert after.parts[part].shape.profile[0].at_mm[1] == before.parts[part].shape.profile[0].at_mm[1]
    joint = [
        p.at_mm[0] + (p.shape.length_mm if p.at_mm[0] < 0.0 else 0.0) for p in (before.parts[part], after.parts[part])
    ]
    assert joint[0] == pytest.approx(joint[1])
    if part == 1:  # the foot pin goes with the stem
        assert after.parts[2].at_mm[0] - before.parts[2].at_mm[0] == pytest.approx(grown)
        assert of.slip(session.study).finished.mass_g != of.slip(study).finished.mass_g
    assert "length of" in session.undo.undoText()
    session.undo.undo()
    assert session.design == before


def test_a_free_end_is_nudged_and_cannot_be_pushed_through_its_joint(qtbot: QtBot, float_window: Window) -> None:
    float_window.show_bench("Lines")
    session, view = float_window.session, float_window.bench("Lines").view
    view.setFocus()
    view.corner = next(c for c in corners(session.design) if c.part == 1)
    was = session.design.parts[1].shape.length_mm
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert session.design.parts[1].shape.length_mm == pytest.approx(was + 1.0)
    view.put_corner(view.corner, -500.0, 0.0, "far")
    assert 0.0 < session.design.parts[1].shape.length_mm < 1.0


def test_a_piece_is_moved_by_its_middle(qtbot: QtBot, float_window: Window) -> None:
    float_window.show_bench("Lines")
    session, view = float_window.session, float_window.bench("Lines").view
    before = session.design
    which, spot, name = next(h for h in view.handles() if h[0] == ("part", 1))
    middle = before.parts[1].at_mm[0] + before.parts[1].shape.length_mm / 2.0
    assert view.to_mm("back", spot)[0] == pytest.approx(middle, abs=1e-6) and name == "Stem"
    view.move_cut(which, middle + 3.0, 0.0)
    assert session.design.parts[1].at_mm[0] == pytest.approx(before.parts[1].at_mm[0] + 3.0)
    assert session.design.parts[1].shape == before.parts[1].shape


def test_a_found_stem_is_typed_by_its_diameters(qtbot: QtBot, float_window: Window) -> None:
    window = float_window
    window.show_bench("Lines")
    card = window.lines.cuts
    number = next(k for k, (_, one) in enumerate(listed(window.session.design)) if one.name == "Stem")
    card.list.setCurrentRow(number)
    field = card._along
    assert field is not None and field.text().startswith("0.0: ")
    type_into(qtbot, field, "0: 3, 30: 2.4, 80: 2")
    shape = window.session.design.pieces[2].shape
    assert [p.at_mm for p in shape.profile] == [(0.0, 1.5), (30.0, 1.2), (80.0, 1.0)]
    assert card._along is not None and card._along.text() == "0.0: 3.00, 30.0: 2.40, 80.0: 2.00"
    type_into(qtbot, card._along, "nonsense")
    assert card.wrong.text().startswith("!") and window.session.design.pieces[2].shape == shape


def test_a_line_that_leans_is_told_on_the_load_page(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("withy-stick-150")
    window.show_tank_page("Load")
    page = window.tank.load
    page.lean.setValue(3.0)
    qtbot.waitUntil(lambda: "leaning 3°" in page.says.text(), timeout=60_000)
    trim = aslant(window.session.study, of.line_load_g(window.session.study), 3.0).trim
    assert f"{math.degrees(trim.pitch_rad):.0f}°, with {trim.speed_m_s:.2f} m/s" in page.says.text()
    page.lean.setValue(0.0)
    assert "leaning" not in page.says.text()
