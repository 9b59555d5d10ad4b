"""The Tank bench's pages in the real window: map, throws, pose, picks, variants, odds, checks."""

from __future__ import annotations

import math

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from yellowbob.app.benches.tank.rest_map import RestMapView
from yellowbob.app.frame.window import Window
from yellowbob.design.model import Slug
from yellowbob.study import of

LEFT = Qt.MouseButton.LeftButton
PAGES = ("Pieces", "Landings", "Pose it", "Variants", "Odds", "Checks", "Cocking", "Load")


def mapped(qtbot: QtBot, window: Window) -> None:
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)


@pytest.fixture
def bare_moth(open_window: OpenWindow, qtbot: QtBot) -> Window:
    window = open_window("moth-crawler-64")
    window.session.edit(window.session.design.but(ballast=()), "take the ballast out")
    window.session.settle()
    mapped(qtbot, window)
    return window


def test_every_page_has_a_key_and_a_name(qtbot: QtBot, window: Window) -> None:
    assert tuple(window.tank.paged.keys) == PAGES
    for number, name in enumerate(PAGES, start=1):
        action = window.actions_by_name[f"page {name}"]
        assert action.shortcuts()[0].toString() == f"Alt+{number}"
        action.trigger()
        assert window.tank.paged.now == name
        assert window.tank.paged.keys[name].isChecked()
        if name != "Pieces":
            assert window.tank.paged.page(name).accessibleName()
        assert window.tank.view.isVisible()
        assert window.tank.view.height() >= (200 if name == "Landings" else 300)  # the map has its room


def test_the_window_still_fits_its_size_on_every_page(qtbot: QtBot, window: Window) -> None:
    window.resize(1280, 800)
    for name in PAGES:
        window.show_tank_page(name)
        qtbot.wait(10)
        assert window.width() <= 1280, name
        assert window.height() <= 800, name


# ---- landings


def test_the_map_marks_every_rest_where_it_lies(qtbot: QtBot, bare_moth: Window) -> None:
    bare_moth.show_tank_page("Landings")
    view = bare_moth.tank.landing.map
    found = view.found()
    assert found is not None
    assert len(found.rests) > 1
    qtbot.waitUntil(lambda: bare_moth.session.ask(of.landing_picture) is not None, timeout=60_000)
    image = grabbed(view)
    for rest in found.rests:
        at = view.pixel(rest.pitch_rad, rest.roll_rad)
        again = view.attitude(at)
        assert again == pytest.approx((rest.pitch_rad, rest.roll_rad), abs=1e-9)
        dark = image.pixelColor(at.toPoint())
        assert dark.lightness() < 110


def test_pointing_at_the_map_shows_that_attitude_afloat(qtbot: QtBot, bare_moth: Window) -> None:
    bare_moth.show_tank_page("Landings")
    view = bare_moth.tank.landing.map
    area = view.area()
    at = QPoint(int(area.left() + area.width() * 0.7), int(area.top() + area.height() * 0.3))
    qtbot.mouseMove(view, at)
    shown = bare_moth.session.posture
    assert shown is not None
    pitch, roll = view.attitude(QPointF(at))
    assert (shown.pitch_rad, shown.roll_rad) == pytest.approx((pitch, roll), abs=1e-6)
    afloat = of.afloat(bare_moth.session.study)
    from yellowbob.afloat.immersion import immersed

    under = immersed(afloat, np.asarray(shown.up), shown.height_mm)
    assert under.volume_mm3 * afloat.density_g_mm3 == pytest.approx(afloat.mass_g, rel=1e-6)
    view.leaveEvent(None)
    assert bare_moth.session.posture is None


def test_the_map_is_walked_with_the_arrow_keys(qtbot: QtBot, bare_moth: Window) -> None:
    bare_moth.show_tank_page("Landings")
    view: RestMapView = bare_moth.tank.landing.map
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert view.at is not None
    assert view.at == pytest.approx((math.radians(20), math.radians(2)))
    qtbot.keyClick(view, Qt.Key.Key_Return)
    work = bare_moth.tank.poser.work
    assert work is not None
    assert (work.pose.pitch_rad, work.pose.roll_rad) == pytest.approx(view.at)
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert view.at is None


def test_the_righting_arm_follows_its_axis(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    assert page.curve.curve is not None
    roll = page.curve.curve.arms_mm.copy()
    assert "comes back" in page.says.text()
    page.axis.setCurrentText("pitch")
    page.axis.textActivated.emit("pitch")
    assert page.curve.curve is not None
    assert not np.allclose(page.curve.curve.arms_mm, roll)


def test_a_throw_plays_and_ends_at_a_rest(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    page.player.throw(1.0, 2.0)
    qtbot.waitUntil(lambda: page.player.playing, timeout=60_000)
    page.player.pause(True)
    seen = set()
    for _ in range(2000):
        page.player.step()
        if window.session.posture is not None:
            seen.add(window.session.posture.up)
        if not page.player.playing:
            break
    assert len(seen) > 20
    assert page.player.counts == {0: 1}
    assert window.session.posture is None
    assert window.session.rest == of.rests(window.session.study)[0]
    assert "1 of 1" in page.tallied.text()


def test_throws_are_tallied_again_and_again_until_stopped(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("yellowbob.app.benches.tank.player.FRAME_MS", 0)
    window.show_tank_page("Landings")
    page = window.tank.landing
    qtbot.mouseClick(page.over, LEFT)
    qtbot.waitUntil(lambda: sum(page.player.counts.values()) >= 2, timeout=60_000)
    qtbot.mouseClick(page.halt, LEFT)
    assert not page.player.playing
    assert not page.player.again
    window.session.edit(window.session.design.but(notes="another"), "note")
    assert page.player.counts == {}


def test_it_is_thrown_as_the_fields_say(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    type_into(qtbot, page.pitch, "-40")
    type_into(qtbot, page.roll, "90")
    qtbot.mouseClick(page.as_set, LEFT)
    qtbot.waitUntil(lambda: window.session.posture is not None, timeout=60_000)
    page.player.pause(True)
    found = page.player._drop
    assert found is not None
    up = found.ups[0]
    assert math.degrees(math.asin(-up[0])) == pytest.approx(-40.0, abs=1e-6)
    assert math.degrees(math.atan2(-up[1], up[2])) == pytest.approx(90.0, abs=1e-6)
    page.player.stop()


def test_any_axis_can_be_typed(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    type_into(qtbot, page.bearing, "30")
    assert page.curve.bearing_rad == pytest.approx(math.radians(30))


def test_the_pose_says_how_safe_its_places_are(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Pose it")
    qtbot.waitUntil(lambda: "of landings come right" in window.tank.pose.asks.text(), timeout=60_000)


def test_turned_over_by_hand_it_comes_back(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    qtbot.mouseClick(page.turn, LEFT)
    qtbot.waitUntil(lambda: window.session.posture is not None, timeout=60_000)
    posture = window.session.posture
    assert posture is not None
    assert posture.up[2] < -0.9
    page.player.stop()


def test_an_absurd_height_is_refused_and_kept_in_its_field(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    type_into(qtbot, page.height_field, "9 m")
    assert page.player.height_mm == 200.0
    assert "between 0 and 5 m" in page.tallied.text()
    assert page.height_field.text() == "9 m"
    type_into(qtbot, page.height_field, "12 in")
    assert page.player.height_mm == pytest.approx(304.8)


# ---- variants, odds, checks, water


def test_variants_stand_side_by_side_and_one_is_built(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Variants")
    page = window.tank.variants
    qtbot.waitUntil(lambda: bool(page.strip.variants), timeout=60_000)
    assert page.strip.variants[page.strip.chosen].words == "as drawn"
    assert page.strip.variants[page.strip.chosen].study.design == window.session.design
    wide = page.strip.width() / len(page.strip.variants)
    qtbot.mouseClick(page.strip, LEFT, pos=QPoint(int(0.5 * wide), 60))
    assert page.strip.chosen == 0
    qtbot.keyClick(page.strip, Qt.Key.Key_Right)
    assert page.strip.chosen == 1
    chosen = page.strip.variants[1].study.design
    qtbot.mouseClick(page.use, LEFT)
    assert window.session.design == chosen


def test_the_slider_shows_what_follows_and_takes_the_value(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Variants")
    page = window.tank.variants
    qtbot.waitUntil(lambda: len(page.plot.points) > 5, timeout=60_000)
    one = page.quantity()
    assert one is not None
    assert one.key.startswith("ballast")
    page.slider.setValue(page.slider.maximum())
    page.slider.sliderReleased.emit()
    shown = window.session.posture
    assert shown is not None
    last = page.plot.points[-1].at_rest
    assert last is not None
    assert math.degrees(shown.pitch_rad) == pytest.approx(last.pitch_deg, abs=0.05)
    qtbot.mouseClick(page.take, LEFT)
    drilling = window.session.design.ballast[0].drilling
    assert drilling is not None
    assert drilling.place_mm[0] == pytest.approx(one.high)
    window.tank.paged.turn_to("Pieces")
    assert window.session.posture is None


def test_odds_run_in_the_background_and_draw_the_fan(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Odds")
    page = window.tank.odds
    page.builds.setValue(500)
    plain = grabbed(window.tank.view)
    qtbot.mouseClick(page.run, LEFT)
    assert not page.run.isEnabled()
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    assert page.found is not None
    assert page.found.builds == 500
    assert page.bars.rows[0] == ("float, hooks on", page.found.floats)
    assert "Attend to first" in page.says.text()
    assert any("estimate" in w.text() for w in page.findChildren(QLabel))
    assert window.session.fan
    assert grabbed(window.tank.view) != plain
    window.session.edit(window.session.design.but(notes="x"), "note")
    assert page.found is None
    assert not window.session.fan


def test_odds_can_be_stopped(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Odds")
    page = window.tank.odds
    page.builds.setValue(50_000)
    qtbot.mouseClick(page.run, LEFT)
    qtbot.waitUntil(lambda: page.bar.value() > 0, timeout=60_000)
    qtbot.mouseClick(page.halt, LEFT)
    assert page.run.isEnabled()
    assert page.found is None
    window.session.tasks.finish()


def test_the_foot_counts_the_other_checks_and_opens_them(qtbot: QtBot, window: Window) -> None:
    cell = window.verdict._cells["others"]
    assert "more checks" in cell.verdict.title
    qtbot.mouseClick(cell, LEFT)
    assert window.tank.paged.now == "Checks"
    assert len(window.tank.checks.shown) >= 25


def test_a_check_is_set_aside_with_a_reason_and_counted_again(qtbot: QtBot, window: Window) -> None:
    window.open_check("lead")
    page = window.tank.checks
    one = page.chosen()
    assert one is not None
    assert one.key == "lead"
    assert "What to do" in page.says.text()
    qtbot.mouseClick(page.aside, LEFT)
    assert "Give a reason" in page.says.text()
    qtbot.keyClicks(page.reason, "allowed on this water")
    qtbot.keyClick(page.reason, Qt.Key.Key_Return)
    assert window.session.design.set_aside[0].reason == "allowed on this water"
    window.session.settle()
    page.open("lead")
    assert "Set aside" in page.says.text()
    qtbot.mouseClick(page.heed, LEFT)
    assert window.session.design.set_aside == ()


def test_the_slider_salts_the_water_and_the_waterline_moves(qtbot: QtBot, window: Window) -> None:
    card = window.tank.water
    rest = window.session.rest
    assert rest is not None
    card.salt.setValue(35)
    assert window.session.design.water.salinity_g_kg == 35.0
    assert window.session.rest is not None
    assert window.session.rest.draft_mm < rest.draft_mm
    card.warmth.setValue(2)
    assert window.session.design.water.temperature_c == 2.0
    window.session.undo.undo()
    window.session.undo.undo()
    assert window.session.design.water.salinity_g_kg is None
    assert card.salt.value() == 0


def test_a_sinker_is_said_on_every_page(qtbot: QtBot, window: Window) -> None:
    design = window.session.design
    heavy = design.ballast[0].model_copy(update={"weight": Slug(diameter_mm=7.0, length_mm=9.0, density_g_ml=25.0)})
    window.session.edit(design.of_material(density_g_ml=0.9).but(ballast=(heavy,)), "sink")
    window.session.settle()
    for name in PAGES:
        window.show_tank_page(name)
        qtbot.wait(20)
    window.tank.landing.player.throw_at_random()
    assert "sinks" in window.tank.landing.tallied.text()
    qtbot.mouseClick(window.tank.odds.run, LEFT)
    qtbot.waitUntil(lambda: "sinks" in window.tank.odds.says.text(), timeout=60_000)


def test_no_label_is_cut_off_on_the_pages(qtbot: QtBot, window: Window) -> None:
    window.resize(1280, 800)
    for name in PAGES[1:]:
        window.show_tank_page(name)
        qtbot.wait(30)
        page = window.tank.paged.page(name)
        for label in page.findChildren(QLabel):
            if label.isVisible() and label.text() and not label.wordWrap():
                assert label.width() >= label.sizeHint().width() - 1, (name, label.text())
