"""Posing in the real window: the lure dragged, nudged and typed; picks, trims and remedies taken."""

from __future__ import annotations

import math

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot

from tests.app.test_tank import type_into
from yellowbob.app.frame.window import Window
from yellowbob.study import Study, of

LEFT = Qt.MouseButton.LeftButton


def test_posing_starts_from_how_it_sits(qtbot: QtBot, window: Window) -> None:
    window.actions_by_name["pose"].trigger()
    work, rest = window.tank.poser.work, window.session.rest
    assert work is not None
    assert rest is not None
    assert work.posed.draft_mm == pytest.approx(rest.draft_mm, abs=1e-4)
    net = of.slip(window.session.study).finished.mass_g - of.slip(work.bare).finished.mass_g
    assert work.posed.ballast_g == pytest.approx(net, abs=1e-6)
    assert "of lead" in window.tank.pose.asks.text()


def grab_at(window: Window, share: float) -> QPoint:
    """A place on the lure as it is drawn, so far along it from the left, at the water."""
    view = window.tank.view.camera()
    across = (of.whole(window.session.study).vertices - view.place) @ view.right
    x = float(across.min() + share * np.ptp(across))
    return QPointF(view.origin[0] + x * view.scale, view.origin[1] + 6).toPoint()


def drag(qtbot: QtBot, window: Window, start: QPoint, by: QPoint) -> None:
    view = window.tank.view
    qtbot.mousePress(view, LEFT, pos=start)
    for step in range(1, 5):
        qtbot.mouseMove(view, start + by * step / 4)
    qtbot.mouseRelease(view, LEFT, pos=start + by)


def test_an_end_dragged_tilts_and_keeps_the_mass(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    before = window.tank.poser.work
    assert before is not None
    start = grab_at(window, 0.12)
    drag(qtbot, window, start, QPoint(0, 30))
    after = window.tank.poser.work
    assert after is not None
    assert after.pose.pitch_rad < before.pose.pitch_rad - 0.02
    assert after.posed.total_g == pytest.approx(before.posed.total_g, rel=1e-6)
    assert window.tank.pose.pitch.value == pytest.approx(math.degrees(after.pose.pitch_rad))
    shown = window.session.posture
    assert shown is not None
    assert shown.pitch_rad == pytest.approx(after.pose.pitch_rad)
    assert not window.session.undo.canUndo()


def test_the_middle_dragged_sinks_it_and_keeps_the_tilt(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    before = window.tank.poser.work
    assert before is not None
    scale = window.tank.view.camera().scale
    drag(qtbot, window, grab_at(window, 0.5), QPoint(0, 12))
    after = window.tank.poser.work
    assert after is not None
    assert after.posed.draft_mm == pytest.approx(before.posed.draft_mm + 12 / scale, abs=0.3)
    assert after.pose.pitch_rad == before.pose.pitch_rad
    assert after.posed.ballast_g > before.posed.ballast_g


def test_the_pose_is_nudged_and_typed(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    poser = window.tank.poser
    assert poser.work is not None
    pitch = poser.work.pose.pitch_rad
    view = window.tank.view
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert poser.work.pose.pitch_rad == pytest.approx(pitch + math.radians(0.1))
    draft = poser.work.posed.draft_mm
    qtbot.keyClick(view, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert poser.work.pose.pitch_rad == pytest.approx(pitch + math.radians(0.1))
    assert poser.work.posed.draft_mm == pytest.approx(draft + 1.0, abs=1e-6)
    type_into(qtbot, window.tank.pose.pitch, "22")
    assert math.degrees(poser.work.pose.pitch_rad) == pytest.approx(22.0)
    type_into(qtbot, window.tank.pose.mass, "0.62 oz")
    assert poser.work.posed.total_g == pytest.approx(0.62 * 28.349523125)


def test_a_pose_that_cannot_be_is_said_and_the_last_one_stays(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    page, poser = window.tank.pose, window.tank.poser
    assert poser.work is not None
    before = poser.work.posed.draft_mm
    type_into(qtbot, page.draft, "900 mm")
    assert "is not between" in page.asks.text()
    assert poser.work.posed.draft_mm == before
    type_into(qtbot, page.mass, "2 g")
    assert "too heavy" in page.asks.text()


def test_picks_are_found_and_one_is_fitted_in_one_step_of_undo(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    page = window.tank.pose
    before = window.session.design
    type_into(qtbot, page.pitch, "23")
    qtbot.mouseClick(page.picks, LEFT)
    qtbot.waitUntil(lambda: page.fit.isEnabled(), timeout=60_000)
    assert "come right" in page.list.item(0).text()
    qtbot.mouseClick(page.fit, LEFT)
    window.session.settle()
    rest = of.upright_rest(Study(window.session.design))
    assert rest is not None
    assert math.degrees(rest.pitch_rad) == pytest.approx(23.0, abs=1.0)
    assert not window.tank.poser.posing
    window.session.undo.undo()
    assert window.session.design == before


def test_without_lead_no_pick_is_lead(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    page = window.tank.pose
    page.lead_free.setChecked(True)
    qtbot.mouseClick(page.picks, LEFT)
    qtbot.waitUntil(lambda: page.fit.isEnabled(), timeout=60_000)
    assert all(page.list.item(k).text().find("lead rod") < 0 for k in range(page.list.count()))


def test_what_would_help_is_listed_where_no_ballast_can(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    page = window.tank.pose
    type_into(qtbot, page.mass, "13 g")
    qtbot.mouseClick(page.picks, LEFT)
    qtbot.waitUntil(lambda: page.fit.isEnabled(), timeout=60_000)
    words = [page.list.item(k).text() for k in range(page.list.count())]
    assert any("g/mL" in w for w in words)


def test_trims_are_listed_and_one_is_taken(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    page = window.tank.pose
    qtbot.mouseClick(page.trim, LEFT)
    qtbot.waitUntil(lambda: page.fit.isEnabled(), timeout=60_000)
    assert page.list.count() >= 5
    page.list.setCurrentRow(0)
    page.list.itemActivated.emit(page.list.item(0))
    assert window.session.undo.canUndo()


def test_an_edit_under_a_pose_asks_the_new_design(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    poser = window.tank.poser
    assert poser.work is not None
    before = poser.work.posed.ballast_g
    design = window.session.design
    lighter = design.of_material(density_g_ml=design.body.density_g_ml - 0.05)
    window.session.edit(lighter, "lighter")
    assert poser.work is not None
    assert poser.work.posed.ballast_g > before
    window.tank.paged.turn_to("Pieces")
    assert not poser.posing
    assert window.session.posture is None
