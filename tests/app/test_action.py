"""The Action bench through the real window: waves and throws."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pyqtgraph as pg
import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.app.test_tank import type_into
from yellowbob.action.running import line_of, run
from yellowbob.app.benches.action.steady_page import ROWS, SPEEDS
from yellowbob.app.benches.action.waves_page import WavesPage
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.fields import NumberField
from yellowbob.checks.motion import steady
from yellowbob.design.edits import Grip
from yellowbob.design.rig import Rig
from yellowbob.study import of
from yellowbob.trials.moved import gain
from yellowbob.trials.rough import in_rough_water


def on_waves(qtbot: QtBot, window: Window) -> WavesPage:
    window.action.paged.turn_to("Waves")
    qtbot.waitUntil(lambda: window.action.waves.found is not None, timeout=60_000)
    return window.action.waves


def drawn_in(chart: pg.PlotWidget) -> list[pg.PlotCurveItem]:
    return [one for one in chart.getPlotItem().items if isinstance(one, pg.PlotCurveItem)]


def pixels(window: Window) -> np.ndarray:
    image = grabbed(window.action.view).convertToFormat(QImage.Format.Format_RGB32)
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
    qtbot.waitUntil(lambda: view.time_s > 0.15, timeout=60_000)
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
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
    first = page.found
    assert first is not None and f"{first.flight.range_mm / 1000:.1f} m" in page.says.text()
    type_into(qtbot, page.speed, "12")
    qtbot.waitUntil(lambda: page.found is not first, timeout=60_000)
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
    qtbot.waitUntil(lambda: "sinks" in window.action.run.says.text(), timeout=60_000)
    window.action.paged.turn_to("Waves")
    assert "sinks" in window.action.waves.says.text()
    assert of.upright_rest(session.study) is None
    window.action.paged.turn_to("Throw")
    qtbot.waitUntil(lambda: window.action.throw.found is not None, timeout=60_000)
    qtbot.waitUntil(lambda: "on its line" in window.action.throw.says.text(), timeout=60_000)
    assert "come right" not in window.action.throw.says.text()


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
    qtbot.waitUntil(lambda: page.found is not None, timeout=60_000)
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
    qtbot.waitUntil(lambda: page.found is not first, timeout=60_000)
    assert page.found is not None and first is not None
    assert page.found.trims[10].pitch_rad > first.trims[10].pitch_rad
    before = pixels(window)
    page.slider.setValue(2)
    assert np.abs(pixels(window) - before).max() > 40


def test_it_swings_when_set_going_and_a_film_is_saved(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window("print-wake-92")
    window.show_bench("Action")
    page = window.action.run
    qtbot.waitUntil(lambda: page.drawn is not None, timeout=60_000)
    page.slider.setValue(16)
    swing = page.swing()
    assert swing is not None and swing.by_itself and f"{swing.hz:.1f} Hz" in page.now.text()
    before = pixels(window)
    page.play.click()
    qtbot.waitUntil(lambda: window.action.view.time_s > 0.1, timeout=60_000)
    page.play.click()
    assert np.abs(pixels(window) - before).max() > 40
    page.save_film(tmp_path / "run.webp")
    qtbot.waitUntil(lambda: "Wrote run.webp" in window.message.text(), timeout=60_000)
    with Image.open(tmp_path / "run.webp") as film:
        assert getattr(film, "n_frames", 1) > 10 and film.size == (800, 450)
        first = np.asarray(film.convert("RGB")).astype(int)
        film.seek(5)
        assert np.abs(np.asarray(film.convert("RGB")).astype(int) - first).max() > 40
    page.save_film(tmp_path / "run.gif")
    qtbot.waitUntil(lambda: "run.gif: a film is written as" in window.message.text(), timeout=60_000)
    page.save_film(tmp_path / "nowhere" / "run.png")
    qtbot.waitUntil(lambda: "cannot be written" in window.message.text(), timeout=60_000)
    page.save_film(tmp_path / "late.webp")
    window.session.edit(window.session.design.but(name="Changed"), "name")
    qtbot.waitUntil(lambda: "late.webp is not written" in window.message.text(), timeout=60_000)
    assert not (tmp_path / "late.webp").exists()


def test_changes_are_tried_ranked_by_the_goal_and_overlaid(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("print-wake-92")
    window.show_bench("Action")
    window.action.paged.turn_to("Change")
    page = window.action.change
    qtbot.waitUntil(page.rests_there, timeout=60_000)
    page.start.click()
    qtbot.waitUntil(lambda: bool(page.rows), timeout=60_000)
    page.goal.setCurrentText("wider")
    page.goal.textActivated.emit("wider")
    now, by_words = page.rows[0].figures, {r.words: r.figures for r in page.rows}
    assert now is not None
    names = [page.list.item(k).data(Qt.ItemDataRole.UserRole) for k in range(page.list.count())]
    gains = [gain(now, by_words[name], "wider") for name in names]
    assert gains == sorted(gains, reverse=True) and "lip 15 % larger" in page.list.item(0).text()
    assert {r.words for r in page.ticked()} == set(names[:2])
    assert len(drawn_in(page.chart)) == 3
    page.list.item(2).setCheckState(Qt.CheckState.Checked)
    assert len(drawn_in(page.chart)) == 4
    # another build is another matter
    window.session.edit(window.session.design.but(fittings=()), "all off")
    page.refresh()
    assert not page.rows and page.list.count() == 0


def test_the_map_of_ties_is_the_core_s(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("print-wake-92")
    window.show_bench("Action")
    window.action.paged.turn_to("Steady")
    page = window.action.steady
    qtbot.waitUntil(lambda: len(page.map.rows) == ROWS, timeout=60_000)
    own = page.map.rows[ROWS // 2]
    assert page.map.ties[ROWS // 2] == 0.0
    sideways = of.draw(window.session.study, list(SPEEDS), of.USUAL_LINE).sideways
    assert sideways is not None
    for speed, cell in zip(SPEEDS, own, strict=True):
        swing = next((s for s in sideways.swings if s.speed_m_s == speed), None)
        assert (cell == "swings") == (swing is not None and swing.by_itself and not swing.why)
    assert own[-1] == "under" and own[0] == "steady"
    assert "swings by itself" in page.map.accessibleDescription()


def test_the_brief_says_how_fast_and_the_checks_heed_it(qtbot: QtBot, open_window: OpenWindow) -> None:
    window = open_window("sallow-74")
    window.turn_brief()
    least, most = window.brief.speeds
    assert least.text() == "usual"
    type_into(qtbot, most, "2.4")
    type_into(qtbot, least, "0.5")
    wanted = window.session.design.brief.speed_m_s
    assert wanted is not None and (wanted.least, wanted.most) == (0.5, 2.4)
    found = steady(window.session.study)
    assert found is not None and found.state == "failed"
    window.session.undo.undo()
    window.session.undo.undo()
    assert window.session.design.brief.speed_m_s is None and most.text() == "usual"


def test_a_hook_is_dressed_from_the_shelf(open_window: OpenWindow) -> None:
    window = open_window("sallow-74")
    window.show_bench("Fit-out")
    number = next(n for n, f in enumerate(window.session.design.fittings) if f.sort == "hook")
    window.session.pick(Grip("fitting", number))
    card = window.fitout.hang
    before = of.slip(window.session.study).finished.mass_g
    card.dressing.show_text("feather, medium")
    card.dressing.textActivated.emit("feather, medium")
    assert window.session.design.fittings[number].dressing is not None
    assert of.slip(window.session.study).finished.mass_g == pytest.approx(before + 0.06, abs=1e-9)
    card.dressing.textActivated.emit("none")
    assert window.session.design.fittings[number].dressing is None
