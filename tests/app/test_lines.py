"""The Lines bench by hand: points, sections, cuts, tracing, rescaling, solids; the drawing and the solid agree."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from tests.conftest import DEMO, turned_design
from yellowbob.app.benches.lines.view import LinesView
from yellowbob.app.frame.window import Window
from yellowbob.design.corner_edits import corners
from yellowbob.design.cut_edits import KINDS, listed
from yellowbob.design.files import read_design, write_design
from yellowbob.design.outline_edits import PointRef, outline_of
from yellowbob.design.shape import Lofted
from yellowbob.lines.plates import lip_plan
from yellowbob.study import Study, of

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def bench(qtbot: QtBot, window: Window) -> Window:
    qtbot.keyClick(window, Qt.Key.Key_1)
    assert window.benches.currentWidget() is window.lines
    return window


def spot(view: LinesView, ref: PointRef) -> QPoint:
    point = outline_of(view.session.design, ref.curve)[ref.index]
    return view.to_px(ref.curve, *point.at_mm).toPoint()


def drag(qtbot: QtBot, view: LinesView, start: QPoint, by: QPoint, steps: int = 5) -> None:
    qtbot.mousePress(view, LEFT, pos=start)
    for step in range(1, steps + 1):
        qtbot.mouseMove(view, start + by * step / steps)
    qtbot.mouseRelease(view, LEFT, pos=start + by)


def test_dragging_a_point_draws_at_once_and_the_solid_follows(qtbot: QtBot, bench: Window) -> None:
    view, session = bench.lines.view, bench.session
    ref, before = PointRef("back", 2), session.design
    volume, start = of.outer(session.study).volume_mm3, spot(view, ref)
    qtbot.mousePress(view, LEFT, pos=start)
    qtbot.mouseMove(view, start + QPoint(0, -20))
    assert outline_of(view.design(), "back")[2].at_mm[1] > outline_of(before, "back")[2].at_mm[1] + 1
    qtbot.waitUntil(lambda: of.outer(session.study).volume_mm3 > volume * 1.01, timeout=60_000)
    qtbot.mouseMove(view, start + QPoint(0, -24))
    qtbot.mouseRelease(view, LEFT, pos=start + QPoint(0, -24))
    assert session.undo.count() == 1
    assert of.outer(session.study).volume_mm3 == pytest.approx(of.outer(Study(session.design)).volume_mm3)
    session.undo.undo()
    assert session.design == before


def test_crossing_is_held_back_and_the_reason_shown(qtbot: QtBot, bench: Window) -> None:
    view = bench.lines.view
    qtbot.mousePress(view, LEFT, pos=spot(view, PointRef("back", 2)))
    qtbot.mouseMove(view, spot(view, PointRef("belly", 2)) + QPoint(0, 30))
    assert "cross" in bench.lines.point.wrong.text()
    qtbot.mouseRelease(view, LEFT)
    assert bench.session.fault == ""


def test_points_by_keys_and_fields(qtbot: QtBot, bench: Window) -> None:
    view, card, session = bench.lines.view, bench.lines.point, bench.session
    view.setFocus()
    qtbot.keyClicks(view, "..")
    assert view.point == PointRef("back", 1)
    x, z = outline_of(session.design, "back")[1].at_mm
    qtbot.keyClick(view, Qt.Key.Key_Up)
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert outline_of(session.design, "back")[1].at_mm == pytest.approx((x + 1.0, z + 0.1))
    type_into(qtbot, card.high, "1/2 in")
    assert outline_of(session.design, "back")[1].at_mm[1] == pytest.approx(12.7)
    view.setFocus()
    count = len(outline_of(session.design, "back"))
    qtbot.keyClicks(view, "a")
    assert len(outline_of(session.design, "back")) == count + 1
    qtbot.keyClicks(view, "c")
    assert view.point is not None
    assert outline_of(session.design, "back")[view.point.index].bend == "corner"
    qtbot.keyClick(view, Qt.Key.Key_Delete)
    assert len(outline_of(session.design, "back")) == count


def test_double_click_adds_a_point_on_the_curve(qtbot: QtBot, bench: Window) -> None:
    view = bench.lines.view
    count = len(outline_of(bench.session.design, "belly"))
    at = view.to_px("belly", 50.0, -9.4).toPoint()
    qtbot.mouseDClick(view, LEFT, pos=at)
    assert len(outline_of(bench.session.design, "belly")) == count + 1


def test_section_slides_and_takes_exponents(qtbot: QtBot, bench: Window) -> None:
    view, card, session = bench.lines.view, bench.lines.point, bench.session
    grip = view._grip().toPoint()
    drag(qtbot, view, grip, QPoint(60, 0))
    assert view.section_x > 0.45
    volume, shape = of.outer(session.study).volume_mm3, session.design.shape
    assert isinstance(shape, Lofted)
    type_into(qtbot, card.at, "30")
    type_into(qtbot, card.belly, "4")
    now = session.design.shape
    assert isinstance(now, Lofted)
    assert len(now.sections) == len(shape.sections) + 1
    assert of.outer(session.study).volume_mm3 > volume
    qtbot.mouseClick(card.clear, LEFT)
    assert isinstance(session.design.shape, Lofted)
    assert len(session.design.shape.sections) == len(shape.sections)


def test_every_cut_and_part_can_be_added_shown_and_removed(qtbot: QtBot, bench: Window) -> None:
    card, session = bench.lines.cuts, bench.session
    before = session.design
    for kind, _ in KINDS:
        count = len(listed(session.design))
        card.add_kind(kind)
        qtbot.waitUntil(lambda: not session.following, timeout=60_000)
        assert session.fault == "", kind
        assert len(listed(session.design)) == count + 1
        assert card._fields
        grabbed(bench.lines.view)
        qtbot.mouseClick(card.remove, LEFT)
        qtbot.waitUntil(lambda: not session.following, timeout=60_000)
        assert session.design == before, kind


def test_cut_figures_are_typed_and_handles_dragged(qtbot: QtBot, bench: Window) -> None:
    card, session, view = bench.lines.cuts, bench.session, bench.lines.view
    volume = of.outer(session.study).volume_mm3
    type_into(qtbot, card._fields["depth_mm"], "3")
    assert session.design.body.cuts[0].depth_mm == 3
    assert of.outer(session.study).volume_mm3 > volume
    card.add_kind("notch")
    which, at, _ = view.handles()[-1]
    x = session.design.body.cuts[which[1]].x_mm
    drag(qtbot, view, at.toPoint(), QPoint(30, 0))
    assert session.design.body.cuts[which[1]].x_mm > x + 2
    type_into(qtbot, card._fields["fore_deg"], "200")
    assert card.wrong.isVisible()
    assert card._fields["fore_deg"].text() == "200"


def test_a_print_shells_split_line_is_dragged(qtbot: QtBot, bench: Window) -> None:
    bench.lines.cuts.add_kind("print shell")
    session, view = bench.session, bench.lines.view
    # setting the wall in is slow: until it is there the drawing keeps its last sound state and says what is being done
    assert session.following and session.fault.endswith("…") and of.hollow(session.study) is None
    qtbot.waitUntil(lambda: not session.following, timeout=60_000)
    assert session.fault == ""
    hollow = of.hollow(session.study)
    assert hollow is not None
    _, at, _ = next(h for h in view.handles() if h[0] == ("split", 1))
    drag(qtbot, view, at.toPoint(), QPoint(0, -30))
    assert session.design.body.shell is not None
    qtbot.waitUntil(lambda: not session.following, timeout=60_000)
    now = of.hollow(session.study)
    assert now is not None
    assert now.volume_mm3 < hollow.volume_mm3


def test_a_thin_rim_is_marked(qtbot: QtBot, bench: Window) -> None:
    session = bench.session
    bench.lines.cuts._set("diameter_mm", "diameter", 20.6)
    session.settle()
    assert of.thin(session.study)
    qtbot.waitUntil(lambda: bench.verdict._cells["wall"].verdict.state == "watch", timeout=60_000)
    grabbed(bench.lines.view)


def test_ladder_and_a_new_size(qtbot: QtBot, bench: Window) -> None:
    bench.lines.show_ladder()
    page = bench.lines.ladder
    qtbot.waitUntil(lambda: page.table.rowCount() == 9, timeout=60_000)
    assert "smallest" in page.words.text()
    grabbed(page)
    type_into(qtbot, page.length, "90")
    qtbot.mouseClick(page.make, LEFT)
    assert bench.session.design.shape.length_mm == pytest.approx(90.0)
    assert bench.session.path is None
    assert "to 90" in bench.session.design.name


def test_plain_bodies_outlines_and_exports(bench: Window, tmp_path: Path) -> None:
    lines, session = bench.lines, bench.session
    for suffix in ("svg", "stl", "3mf"):
        lines.write_out(tmp_path / f"o.{suffix}")
        assert (tmp_path / f"o.{suffix}").stat().st_size > 500
    volume = of.outer(session.study).volume_mm3
    lines.start("turned")
    assert session.design.shape.kind == "turned"
    lines.start("lofted")
    lines.take_svg(tmp_path / "o.svg")
    assert of.outer(session.study).volume_mm3 == pytest.approx(volume, rel=2e-3)
    lines.take_svg(tmp_path / "o.stl")
    assert "SVG" in bench.message.text()


def test_ghost_and_measures(bench: Window) -> None:
    bench.lines.show_ghost(DEMO / "osier-96.ybob")
    assert bench.lines.view.ghost == read_design(DEMO / "osier-96.ybob")
    grabbed(bench.lines.view)
    assert f"{of.outer(bench.session.study).volume_mm3 / 1000:.2f} mL" in bench.lines.measures.words.text()


def test_a_design_that_makes_no_solid_still_opens(open_window: OpenWindow, tmp_path: Path) -> None:
    file = tmp_path / "pinched.ybob"
    write_design(turned_design((0, 5), (20, 0, "corner"), (40, 5)), file)
    window = open_window(path=file)
    window.show_bench("Lines")
    grabbed(window.lines.view)
    window.show_bench("Tank")
    grabbed(window.tank.view)
    assert "pinched" in window.session.fault


@pytest.mark.parametrize("name", [f.stem for f in sorted(DEMO.glob("*.ybob"))])
def test_every_demo_draws_on_both_benches(open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    window.show_bench("Lines")
    image = grabbed(window.lines.view)
    low, high, _ = window.lines.view.laid().reach
    assert math.isfinite(low) and high > low
    colours = {image.pixel(x, y) for x in range(0, image.width(), 9) for y in range(0, image.height(), 9)}
    assert len(colours) > 50
    assert np.isfinite(window.lines.view.scale())


def test_a_lips_own_plan_is_dragged_in_its_own_plane(qtbot: QtBot, bench: Window) -> None:
    session, view, card = bench.session, bench.lines.view, bench.lines.cuts
    card.add_kind("lip")
    before = lip_plan(session.design.parts[-1].shape)
    card._lip_plan("own")
    lip = session.design.parts[-1].shape
    assert lip.plan == "own"
    assert np.ptp(lip_plan(lip), axis=0) == pytest.approx(np.ptp(before, axis=0), abs=0.3)
    corner = [c for c in corners(session.design) if c.view == "lip"][1]
    start = view.to_px("lip", *corner.at_mm).toPoint()
    area = of.parts(session.study)[-1].volume_mm3
    drag(qtbot, view, start, QPoint(14, 0))
    assert of.parts(session.study)[-1].volume_mm3 > area
    now = [c for c in corners(session.design) if c.view == "lip"][1]
    px = view.to_px("lip", *now.at_mm)
    assert px.y() == pytest.approx(start.y(), abs=3)
    count = len(session.design.parts[-1].shape.own)
    qtbot.keyClick(view, Qt.Key.Key_A)
    assert len(session.design.parts[-1].shape.own) == count + 1
    qtbot.keyClick(view, Qt.Key.Key_Delete)
    assert len(session.design.parts[-1].shape.own) == count


@pytest.mark.parametrize("kind", ["fin", "wings"])
def test_corners_of_fins_and_wings_follow_the_pointer(qtbot: QtBot, bench: Window, kind: str) -> None:
    session, view = bench.session, bench.lines.view
    bench.lines.cuts.add_kind(kind)
    number = len(session.design.parts) - 1
    for index in range(3):
        corner = next(c for c in corners(session.design) if (c.part, c.index) == (number, index))
        start = view.to_px(corner.view, *corner.at_mm).toPoint()
        drag(qtbot, view, start, QPoint(9, 6))
        after = next(c for c in corners(session.design) if (c.part, c.index) == (number, index))
        there = view.to_px(after.view, *after.at_mm)
        assert abs(there.x() - start.x() - 9) < 1.5
        if not (kind == "wings" and index != 1):
            assert abs(there.y() - start.y() - 6) < 1.5
    assert of.parts(session.study)[-1].volume_mm3 > 0
    view.corner = next(c for c in corners(session.design) if (c.part, c.index) == (number, 1))
    was = view.corner.at_mm
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert view.corner.at_mm[0] == pytest.approx(was[0] + 1.0, abs=0.02)
