"""The Action bench through the real window: waves and throws."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from tests.app.test_tank import type_into
from yellowbob.action.running import line_of, run
from yellowbob.app.benches.action.waves_page import WavesPage
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.fields import NumberField
from yellowbob.design.rig import Rig
from yellowbob.study import of
from yellowbob.trials.rough import in_rough_water


def on_waves(qtbot: QtBot, window: Window) -> WavesPage:
    window.action.paged.turn_to("Waves")
    qtbot.waitUntil(lambda: window.action.waves.found is not None, timeout=30_000)
    return window.action.waves


def pixels(window: Window) -> np.ndarray:
    image = window.action.view.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4)[..., :3].astype(int)


def test_key_4_shows_how_a_float_rides_waves_and_the_figures_are_the_core_s(
    qtbot: QtBot, open_window: OpenWindow
) -> None:
    window = open_window("reed-waggler-217")
    QTest.keyClick(window, "4")
    assert window.action.isVisible()
    page = on_waves(qtbot, window)
    type_into(qtbot, page.high, "60 mm")
    assert page.long.value == pytest.approx(720.0)
    wanted, held = in_rough_water(window.session.study, 60.0, 720.0, 0.1, 45.0)
    assert page.found is not None and page.found[0].needs_mm == pytest.approx(wanted.needs_mm)
    assert held is not None and f"{held.under_m_s:.2f} m/s" in page.says.text()
    assert "too little" in page.says.text()
    type_into(qtbot, page.high, "15 mm")
    assert "enough" in page.says.text()


def test_waves_run_and_stand_and_the_drawing_moves(qtbot: QtBot, window: Window) -> None:
    window.show_bench("Action")
    page, view = on_waves(qtbot, window), window.action.view
    before = pixels(window)
    page.turn_playing()
    assert view.playing and page.play.text() == "Stand still"
    qtbot.waitUntil(lambda: view.time_s > 0.15, timeout=5000)
    page.turn_playing()
    assert not view.playing
    assert np.abs(pixels(window) - before).max() > 40


def test_waves_that_cannot_be_are_refused_in_place(qtbot: QtBot, window: Window) -> None:
    window.show_bench("Action")
    page = on_waves(qtbot, window)
    type_into(qtbot, page.long, "50 mm")
    assert page.says.text().startswith("!") and "break" in page.says.text()
    type_into(qtbot, page.long, "900 mm")
    assert page.found is not None and page.found[0].chop.length_mm == pytest.approx(900.0)
    type_into(qtbot, page.high, "30 mm")
    assert page.long.value == pytest.approx(900.0)  # a length of one's own stays


def test_a_throw_is_flown_drawn_and_told(qtbot: QtBot, window: Window) -> None:
    window.show_bench("Action")
    window.action.paged.turn_to("Throw")
    page = window.action.throw
    qtbot.waitUntil(lambda: page.found is not None, timeout=30_000)
    first = page.found
    assert first is not None and f"{first.flight.range_mm / 1000:.1f} m" in page.says.text()
    type_into(qtbot, page.speed, "12")
    qtbot.waitUntil(lambda: page.found is not first, timeout=30_000)
    assert page.found is not None and page.found.flight.range_mm < first.flight.range_mm
    assert window.action.view.flown is page.found
    on_waves(qtbot, window)
    assert window.action.view.rough is not None and window.action.view.flown is None


def test_a_sinker_says_so_on_both_pages(qtbot: QtBot, window: Window) -> None:
    session = window.session
    session.edit(
        session.design.but(rig=Rig.model_validate({"hung": [{"name": "lead", "mass_g": 200.0}]})), "far too much"
    )
    window.show_bench("Action")
    qtbot.waitUntil(lambda: "sinks" in window.action.run.says.text(), timeout=30_000)
    window.action.paged.turn_to("Waves")
    assert "sinks" in window.action.waves.says.text()
    assert of.upright_rest(session.study) is None
    window.action.paged.turn_to("Throw")
    qtbot.waitUntil(lambda: window.action.throw.found is not None, timeout=30_000)
    assert "left out" in window.action.throw.says.text()


def test_a_number_out_of_its_span_stays_and_is_marked(qtbot: QtBot) -> None:
    field = NumberField("Speed", (1.0, 60.0), 20.0, "m/s", 1)
    qtbot.addWidget(field)
    field.show()
    heard: list[float] = []
    field.valueChanged.connect(heard.append)
    for text in ("800", "fast", "nan", ""):
        type_into(qtbot, field, text)
        if not text:
            field.clear()
            qtbot.keyClick(field, Qt.Key.Key_Return)
        assert field.property("wrong") == "true" and field.toolTip() and field.value() == 20.0
        assert not text or text in field.text()
    type_into(qtbot, field, "12,5 m/s")
    assert heard == [12.5] and field.property("wrong") == "false" and field.text() == "12.5 m/s"


def test_it_runs_at_the_speed_of_the_slider_with_the_figures_of_the_core(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("print-wake-92")
    window.show_bench("Action")
    page = window.action.run
    qtbot.waitUntil(lambda: page.found is not None, timeout=30_000)
    study = window.session.study
    rest = of.upright_rest(study)
    assert rest is not None
    wanted = run(of.pulled(study), rest, (0.5,), line_of(None, 1.0, 15.0)).trims[0]
    page.slider.setValue(10)
    trim = page.trim()
    assert trim is not None and trim.speed_m_s == pytest.approx(0.5)
    assert trim.pitch_rad == pytest.approx(wanted.pitch_rad, abs=1e-5)
    assert f"{trim.draft_mm:.1f} mm" in page.now.text() and window.action.view.trim is trim
    assert "goes under" in page.says.text()
    page.slider.setValue(page.slider.maximum())
    assert "the fastest it balances at" in page.now.text()
    first = page.found
    type_into(qtbot, page.rod, "5")
    qtbot.waitUntil(lambda: page.found is not first, timeout=30_000)
    assert page.found is not None and first is not None
    assert page.found.trims[10].pitch_rad > first.trims[10].pitch_rad
    before = pixels(window)
    page.slider.setValue(2)
    assert np.abs(pixels(window) - before).max() > 40
