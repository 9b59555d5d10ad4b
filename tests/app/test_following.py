"""What is dragged on the Lines bench: drawn at once, worked out a part at a time, and never laid over another edit."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from yellowbob.app.benches.lines.following import FOLLOW_MOST_MS, FOLLOW_MS
from yellowbob.app.frame.window import Window
from yellowbob.app.session.gradual import PARTS, Gradual
from yellowbob.design.edits import with_added
from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design
from yellowbob.design.outline_edits import PointRef, curve_names, moved_point, outline_of
from yellowbob.study import Study, of

LEFT = Qt.MouseButton.LeftButton


def moved(design: Design, by_mm: float, at: int = 1) -> Design:
    """A point of the first outline moved outward."""
    ref = PointRef(curve_names(design)[0], at)
    x, y = outline_of(design, ref.curve)[at].at_mm
    return moved_point(design, ref, x, y + by_mm).design


@pytest.fixture(params=["osier-96", "sallow-74", "withy-stick-150"])
def lines(request: pytest.FixtureRequest, open_window: OpenWindow) -> Window:
    window = open_window(request.param)
    window.show_bench("Lines")
    return window


def test_in_parts_it_is_what_it_is_at_once(lines: Window) -> None:
    session = lines.session
    design, gradual = moved(session.design, 0.4), Gradual()
    gradual.begin(design, session.study)
    steps = 1
    while gradual.step():
        steps += 1
    assert steps == len(PARTS)
    study = gradual.take(design)
    assert study is not None and gradual.take(design) is None and not gradual.step()
    whole = Study(design)
    assert of.slip(study).finished.mass_g == pytest.approx(of.slip(whole).finished.mass_g, rel=1e-12)
    assert of.hull(study).volume_mm3 == pytest.approx(of.hull(whole).volume_mm3, rel=1e-12)
    gradual.begin(design, session.study)
    assert gradual.take(moved(session.design, 0.5)) is None, "the study of another design"


def test_the_last_place_counts_and_is_one_step_of_undo(qtbot: QtBot, lines: Window) -> None:
    session, view = lines.session, lines.bench("Lines").view
    before, count = session.design, session.undo.count()
    name = curve_names(before)[0]
    at = view.to_px(name, *outline_of(before, name)[1].at_mm).toPoint()
    qtbot.mousePress(view, LEFT, pos=at)
    for k in range(1, 9):
        qtbot.mouseMove(view, at + QPoint(0, -k))
        assert view.draft is not None and view.design() is view.draft
        qtbot.wait(25)  # some of them are worked out in between, and some are not
    last = view.design()
    qtbot.mouseRelease(view, LEFT, pos=at + QPoint(0, -8))
    assert view.draft is None and not session.fault and session.undo.count() == count + 1
    assert outline_of(session.design, name) == outline_of(last, name)
    assert of.slip(session.study).finished.mass_g == pytest.approx(
        of.slip(Study(session.design)).finished.mass_g, rel=1e-12
    )
    assert FOLLOW_MS <= view.following._wait.interval() <= FOLLOW_MOST_MS
    session.undo.undo()
    assert session.design == before


def test_an_edit_from_elsewhere_is_not_lost_under_a_drag(qtbot: QtBot, lines: Window) -> None:
    session, view = lines.session, lines.bench("Lines").view
    ring = Fitting(name="found ring", sort="ring", at_mm=(20.0, 0.0, 0.0), mass_g=0.1)
    for soon in (True, False):  # before its solution is begun, and while it is at it
        view.following.put(moved(session.design, 0.6), "move a point")
        if not soon:
            view.following._wait.stop()
            view.following._begin()
            assert session.gradual.study is not None
        with_ring = with_added(session.design, ring)[0]
        session.edit(with_ring, "a ring")
        view.following.take() if soon else qtbot.wait(150)
        assert session.design == with_ring and view.draft is None and view.design() is session.design


def test_let_go_while_an_earlier_place_is_worked_out_the_later_one_is_taken(lines: Window) -> None:
    session, view = lines.session, lines.bench("Lines").view
    first, later = moved(session.design, 0.3), moved(session.design, 0.7)
    view.following.put(first, "move a point")
    view.following._wait.stop()
    view.following._begin()
    session.gradual.step()
    view.following.put(later, "move a point")
    view.following.take()
    name = curve_names(later)[0]
    assert outline_of(session.design, name) == outline_of(later, name) != outline_of(first, name)
    assert session.study.design is session.design and view.draft is None
