"""The Fit-out bench by hand: hardware added and set, clearances shown, pages that write into the design, readings taken."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QToolButton
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from yellowbob.app.benches.fitout.bench import FitoutBench
from yellowbob.app.benches.fitout.view import FitoutView
from yellowbob.app.benches.fitout.wire_page import WirePage
from yellowbob.app.frame.window import Window
from yellowbob.app.session.instruments import Instruments
from yellowbob.design.edits import Grip
from yellowbob.design.files import to_json
from yellowbob.design.model import replaced
from yellowbob.devices.simulated import callipers, scale
from yellowbob.shelf.own import OwnShelf
from yellowbob.shelf.shipped import coats, materials
from yellowbob.study import of
from yellowbob.weights.wires import cut_length_mm

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def bench(qtbot: QtBot, open_window: OpenWindow) -> Window:
    window = open_window("mill-tail-88")
    qtbot.keyClick(window, Qt.Key.Key_2)
    assert window.benches.currentWidget() is window.fitout
    qtbot.waitUntil(lambda: bool(window.fitout.view.clearances), timeout=60_000)
    return window


def choose(box: object, text: str) -> None:
    box.setCurrentText(text)
    box.textActivated.emit(text)


def page(bench: Window, name: str) -> FitoutBench:
    bench.fitout.keys[name].click()
    return bench.fitout


def test_every_page_turns_and_fits_the_window(bench: Window) -> None:
    for name, key in bench.fitout.keys.items():
        key.click()
        assert bench.fitout.cards.currentWidget().accessibleName() in (name, "")
        assert key.isChecked()
        assert bench.fitout.view.isVisible()
    assert bench.minimumSizeHint().width() <= 1280
    assert bench.width() == 1280


def gaps(view: FitoutView) -> dict[tuple[str, str], float]:
    return {(c.one, c.other): c.distance_mm for c in view.clearances if c.kind == "hook to hook"}


def test_dragging_a_hook_moves_it_and_its_clearances_follow(qtbot: QtBot, bench: Window) -> None:
    view, session = bench.fitout.view, bench.session
    hooks = [n for n, f in enumerate(session.design.fittings) if f.name.startswith("Belly treble")]
    qtbot.waitUntil(lambda: bool(gaps(view)), timeout=60_000)
    before = gaps(view)
    x, y = view.camera().pixels(view.place_of(Grip("fitting", hooks[0])))
    start = QPoint(round(x), round(y))
    qtbot.mousePress(view, LEFT, pos=start)
    for step in range(1, 6):
        qtbot.mouseMove(view, start + QPoint(12 * step, 0))
    qtbot.mouseRelease(view, LEFT, pos=start + QPoint(60, 0))
    qtbot.waitUntil(lambda: bool(gaps(view)) and gaps(view) != before, timeout=60_000)
    assert next(iter(gaps(view).values())) < next(iter(before.values())) - 3
    assert session.undo.count() == 1


def test_clearances_are_listed_worst_first_and_shown(qtbot: QtBot, bench: Window) -> None:
    card, design = bench.fitout.clear, bench.session.design
    qtbot.waitUntil(lambda: "all clear" in card.heading.text(), timeout=60_000)
    hung = tuple(replaced(f, hanging=True) if f.name.startswith("Tail") else f for f in design.fittings)
    bench.session.edit(design.but(fittings=hung), "hang the tail hook")
    qtbot.waitUntil(lambda: "too close" in card.heading.text(), timeout=60_000)
    assert card.list.item(0).text().startswith("! hook to prop")
    card.list.setCurrentRow(0)
    shown = bench.fitout.view.shown
    assert shown is not None and shown.kind == "hook to prop"
    assert bench.session.design.fittings[bench.session.piece.index].name == shown.one
    image = grabbed(bench.fitout.view)
    assert _has_red(image)


def _has_red(image: QImage) -> bool:
    return any(
        image.pixelColor(x, y).red() > 150 and image.pixelColor(x, y).green() < 70
        for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)
    )  # fmt: skip


def test_hardware_is_added_from_the_shelf_and_set(qtbot: QtBot, bench: Window) -> None:
    hang, session = bench.fitout.hang, bench.session
    mass = of.slip(session.study).finished.mass_g
    hang.add_hardware("ticker blade 18 × 6 mm, brass")
    fitting = session.piece.of(session.design)
    assert of.slip(session.study).finished.mass_g == pytest.approx(mass + fitting.mass_g)
    type_into(qtbot, hang.aim, "35°")
    assert session.piece.of(session.design).aim_deg == 35
    hang.add_plain("tie", "Line tie")
    assert session.piece.of(session.design).sort == "tie"
    session.pick(Grip("fitting", 5))
    choose(hang.hangs, "fixed")
    choose(hang.point, "up")
    hook = session.design.fittings[5]
    assert (hook.hanging, hook.point) == (False, "up")


def test_the_wire_is_routed_looped_and_replaced_by_screw_eyes(qtbot: QtBot, bench: Window) -> None:
    wire, session = page(bench, "Wire").wire, bench.session
    choose(wire.stock, "stainless wire .041 in")
    choose(wire.route, "grooved")
    type_into(qtbot, wire.hole, "1.6 mm")
    choose(wire.filler, "epoxy")
    choose(wire.loops["fore"][0], "wraps")
    type_into(qtbot, wire.loops["fore"][2], "4")
    now = session.design.wires[0]
    assert (now.route, now.hole_mm, now.filler.material, now.loops[0].turns) == ("grooved", 1.6, "epoxy", 4)
    assert now.diameter_mm == pytest.approx(1.0414)
    assert "Cut 1" in wire.said.text()
    wire.add_bend()
    assert len(session.design.wires[0].path_mm) == 3
    wire.screw_eyes()
    assert not session.design.wires
    assert [f.sort for f in session.design.fittings[-2:]] == ["screw eye", "screw eye"]
    session.undo.undo()
    assert session.design.wires


def pick_from(wire: WirePage, words: str) -> None:
    """Choose an entry of the page's menu, as it is filled when it opens."""
    menu = wire.findChild(QToolButton).menu()
    menu.aboutToShow.emit()
    next(a for a in menu.actions() if a.text() == words).trigger()


def test_a_blade_on_a_frame_is_the_second_wire_and_either_can_be_chosen(qtbot: QtBot, bench: Window) -> None:
    wire, session = page(bench, "Wire").wire, bench.session
    first = session.design.wires[0]
    assert not wire.which.isVisible()
    pick_from(wire, "Add a frame with a blade")
    frame, blade = session.design.wires[1], session.design.fittings[-1]
    assert blade.sort == "prop" and blade.at_mm[2] > of.outer(session.study).bounds[1, 2] + blade.span_mm / 2.0
    assert wire.which.isVisible() and wire.which.currentText() == frame.name
    assert f"Cut {cut_length_mm(frame):.1f}" in wire.said.text()
    before = of.slip(session.study).finished.mass_g
    type_into(qtbot, wire.loops["fore"][2], "5")
    assert session.design.wires[1].loops[0].turns == 5 and session.design.wires[0] == first
    assert of.slip(session.study).finished.mass_g > before
    wire.table.selectRow(2)
    type_into(qtbot, wire.places[2], "21.5 mm")
    assert session.design.wires[1].path_mm[2][2] == 21.5 and wire.table.item(2, 3).text() == "21.5 mm"
    assert wire.table.currentRow() == 2
    wire.unbend.click()
    assert len(session.design.wires[1].path_mm) == len(frame.path_mm) - 1
    session.undo.undo()
    session.undo.undo()
    choose(wire.which, first.name)
    assert wire.wire() == first and wire.stock.currentText() != ""
    pick_from(wire, "Take the wire out")
    assert [w.name for w in session.design.wires] == [frame.name]
    session.undo.undo()
    session.undo.undo()
    session.undo.undo()
    assert session.design.wires == (first,) and not wire.which.isVisible()


def test_coats_by_region_and_a_film_corrected_by_weighing(qtbot: QtBot, bench: Window) -> None:
    finish, session = page(bench, "Finish").finish, bench.session
    name = next(n for n, c in coats().items() if c.sort == "clear")
    finish.add(name)
    at = len(session.design.coats) - 1
    choose(finish.region, "belly")
    assert session.design.coats[at].region == "belly"
    type_into(qtbot, finish.count, "2")
    mass = of.slip(session.study).lines[-1].mass.mass_g
    type_into(qtbot, finish.heavier, "11 g")
    assert "before" in finish.said.text().lower()
    type_into(qtbot, finish.lighter, "10 g")
    type_into(qtbot, finish.heavier, f"{10 + 2 * mass:.6f} g")
    assert of.slip(session.study).lines[-1].mass.mass_g == pytest.approx(2 * mass, rel=1e-4)
    assert coats()[name].film_mm == pytest.approx(session.design.coats[at].film_mm)


def test_the_budget_moves_with_a_weighing(qtbot: QtBot, bench: Window) -> None:
    budget, session = page(bench, "Budget").budget, bench.session
    choose(budget.stage, "fitted")
    type_into(qtbot, budget.weighed, "17.5 g")
    assert of.budget(session.study).on_scale_g == pytest.approx(17.5, abs=0.02)
    assert budget.list.count() == 1
    assert budget.things.count() > 3
    type_into(qtbot, budget.target, "3/4 oz")
    assert of.budget(session.study).target_g == pytest.approx(21.262, abs=1e-3)
    assert "may go in" in budget.said.text()
    budget.forget.click()
    assert not session.design.weighings


def test_a_worksheet_writes_the_density_and_keeps_a_bad_reading_in_place(bench: Window) -> None:
    measure, session = page(bench, "Measure").measure, bench.session
    for name, text in (("length", "50.2 ± 0.1 mm"), ("width", "20.1"), ("height", "a little"), ("mass", "5.61 g")):
        measure.fields[name].setText(text)
    measure.work_out()
    assert measure.said.text().startswith("! 'a little'")
    assert measure.fields["height"].text() == "a little"
    assert not measure.density.isEnabled()
    measure.fields["height"].setText("1/2 in")
    measure.work_out()
    measure.density.click()
    body = session.design.body
    assert body.material.measured and body.density_g_ml == pytest.approx(5610 / (50.2 * 20.1 * 12.7))
    assert measure.past.rowCount() == 1
    choose(measure.kind, "master of known density")
    assert list(measure.fields) == ["mass", "density"]


def test_resin_is_corrected_after_an_overshoot(qtbot: QtBot, bench: Window) -> None:
    resin = page(bench, "Resin").resin
    type_into(qtbot, resin.fields["cup b"], "62 g")
    assert resin.batch.add_a_g == pytest.approx(62)
    assert resin.batch.add_filler_g == pytest.approx(124 * 0.12)
    type_into(qtbot, resin.wanted, "0.65")
    assert "0.650 g/mL" in resin.said.text()
    type_into(qtbot, resin.wanted, "3")
    assert "cannot be mixed" in resin.said.text()
    assert resin.wanted.text() == "3" or resin.wanted.value == 3


def test_the_shelf_is_searched_counted_and_entered(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    shelf = page(bench, "Shelf").shelf
    shelf.search.setText("alder")
    assert shelf.table.rowCount() >= 1
    shelf.entry.setText("alder")
    shelf.fields.setText("density_g_ml=heavy")
    shelf.attempt(shelf.enter)
    assert "is no density" in shelf.said.text()
    assert shelf.fields.text() == "density_g_ml=heavy"
    shelf.fields.setText("density_g_ml=0.47")
    shelf.attempt(shelf.enter)
    assert materials()["alder"].density_g_ml == 0.47
    type_into(qtbot, shelf.count, "3")
    assert OwnShelf().counts(type(materials()["alder"]))["alder"] == 3
    out = tmp_path / "m.csv"
    shelf.write_out(out)
    shelf.take_off()
    assert materials()["alder"].density_g_ml != 0.47
    shelf.take_in(out)
    assert materials()["alder"].density_g_ml == 0.47


def test_readings_come_from_the_scale_and_the_callipers(
    qtbot: QtBot, bench: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(Instruments, "pause_s", 0.0)
    budget = page(bench, "Budget").budget
    budget.weighed.setFocus()
    qtbot.keyClick(budget.weighed, Qt.Key.Key_F2)
    qtbot.waitUntil(lambda: bool(bench.session.design.weighings), timeout=60_000)
    assert bench.session.design.weighings[0].mass_g == pytest.approx(31.24, abs=0.03)
    measure = page(bench, "Measure").measure
    measure.fields["length"].setFocus()
    qtbot.keyClick(measure.fields["length"], Qt.Key.Key_F2)
    qtbot.waitUntil(lambda: measure.fields["length"].text().startswith("24.3"), timeout=60_000)


@pytest.mark.parametrize(("trouble", "words"), [("unplugged", "went away"), ("garbage", "no text"),
                                                ("restless", "still moving"), ("negative", "below zero")])  # fmt: skip
def test_a_failed_reading_is_said_and_the_field_keeps_its_value(
    qtbot: QtBot, bench: Window, monkeypatch: pytest.MonkeyPatch, trouble: str, words: str
) -> None:
    device = scale(-4.0 if trouble == "negative" else 9.0)
    device.plugged = trouble != "unplugged"
    device.garbage, device.restless = trouble == "garbage", trouble == "restless"
    monkeypatch.setattr(Instruments, "open", staticmethod(lambda name: device if "scale" in name else callipers()))
    monkeypatch.setattr(Instruments, "pause_s", 0.0)
    budget = page(bench, "Budget").budget
    text, before = budget.target.text(), to_json(bench.session.design)
    budget.target.setFocus()
    qtbot.keyClick(budget.target, Qt.Key.Key_F2)
    qtbot.waitUntil(lambda: words in budget.said.text(), timeout=60_000)
    assert budget.target.text() == text
    assert to_json(bench.session.design) == before


def test_bands_are_proposed_moved_and_drawn(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("reed-waggler-217")
    window.session.edit(window.session.design.but(bands=()), "bare")
    window.show_bench("Fit-out")
    window.fitout.show_page("Paint")
    page = window.fitout.paint
    before = grabbed(window.fitout.view)
    page.propose()
    assert [b.name for b in window.session.design.bands] == ["white", "signal orange", "black"]
    assert grabbed(window.fitout.view) != before
    page.table.selectRow(1)
    type_into(qtbot, page.end, "9 mm")
    assert window.session.design.bands[1].to_mm == 9.0
    type_into(qtbot, page.start, "20 mm")
    assert page.said.text().startswith("!") and window.session.design.bands[1].from_mm == 0.0
    page.add("red")
    assert window.session.design.bands[3].from_mm == max(b.to_mm for b in window.session.design.bands[:3])
    window.session.undo.undo()
    assert len(window.session.design.bands) == 3
    sallow = open_window("sallow-74")
    sallow.show_bench("Fit-out")
    sallow.fitout.show_page("Paint")
    sallow.fitout.paint.propose()
    assert "floats that stand" in sallow.fitout.paint.said.text()


def test_the_shelf_is_listed_anew_only_when_it_differs(window: Window) -> None:
    window.show_bench("Fit-out")
    window.fitout.paged.turn_to("Shelf")
    page = window.fitout.paged.currentWidget()
    first = page.table.item(0, 0)
    window.fitout.paged.turn_to("Pieces")
    window.fitout.paged.turn_to("Shelf")
    assert page.table.item(0, 0) is first  # the same cells
    page.search.setText("balsa")
    assert page.table.rowCount() and all(
        "balsa" in page.table.item(row, 0).text().lower() for row in range(page.table.rowCount())
    )
