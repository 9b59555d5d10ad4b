"""Charts by themselves: what stands in place of curves, and in what the axes count."""

from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray
from PySide6.QtGui import QColor, QImage
from pytestqt.qtbot import QtBot

from tests.app.conftest import grabbed
from yellowbob.app.widgets.charts import Chart, ShareBars, Spread, TwoScales
from yellowbob.app.widgets.painter import LABEL_PX, ruler_end, ruler_steps
from yellowbob.app.widgets.theme import Look


def tones(chart: Chart) -> NDArray[np.uint8]:
    """What is seen of it, (rows, columns, 3)."""
    image = grabbed(chart).convertToFormat(QImage.Format.Format_RGB888)
    rows = np.array(image.constBits()).reshape(image.height(), image.bytesPerLine())
    return rows[:, : 3 * image.width()].reshape(image.height(), image.width(), 3)


def ink(chart: Chart) -> NDArray[np.bool_]:
    """Where it is not the card's ground."""
    ground = QColor(Look.now.card)
    away = np.abs(tones(chart).astype(int) - [ground.red(), ground.green(), ground.blue()]).max(axis=2)
    return np.asarray(away > 12)


@pytest.fixture
def two(qtbot: QtBot) -> TwoScales:
    chart = TwoScales("a chart", "nothing yet")
    qtbot.addWidget(chart)
    chart.resize(420, 200)
    chart.show()
    return chart


def test_an_axis_counts_in_what_it_says_whatever_it_showed_before(two: TwoScales) -> None:
    for top in (1e-5, 1e-3, 0.02, 90.0, 2e4, 5e7, 90.0, 0.001, 90.0):
        two.say_empty()
        two.show_both([0.0, 1.0], ("pitch, °", [0.0, top]), ("tip, mm", [top, 0.0]), "load, g")
        grabbed(two)
        for side in ("left", "right", "bottom"):
            axis = two.getPlotItem().getAxis(side)
            assert axis.autoSIPrefixScale == 1.0 and axis.labelUnitPrefix == "", (top, side)


def test_with_nothing_to_draw_there_are_words_and_no_axes_of_a_range_nothing_has(two: TwoScales) -> None:
    assert not ink(two).any()  # nor before anything was asked
    two.say_empty()
    words = ink(two)
    assert words.any()
    rows, columns = np.nonzero(words)
    assert rows.max() - rows.min() < 20 and abs((columns.max() + columns.min()) / 2 - 210) < 6


def test_curves_come_and_go_with_the_words_and_leave_nothing_behind(two: TwoScales) -> None:
    two.say_empty()
    before = tones(two)
    two.show_both([0.0, 1.0, 2.0], ("pitch, °", [0.0, 40.0, 90.0]), ("tip, mm", [9.0, 5.0, 1.0]), "load, g")
    drawn = ink(two)
    assert drawn[:, :60].any() and drawn[:, -60:].any()  # both scales
    two.say_empty()
    assert np.array_equal(tones(two), before)


def test_a_spread_and_bars_of_nothing_are_blank_again(qtbot: QtBot) -> None:
    spread, bars = Spread("a spread"), ShareBars("bars")
    for chart in (spread, bars):
        qtbot.addWidget(chart)
        chart.resize(300, 120)
        chart.show()
        assert not ink(chart).any()
    spread.show_values(np.linspace(1.0, 3.0, 200), "draft, mm", (1.5, 2.5))
    bars.show_rows([("float", 0.9), ("sit", 0.4)])
    assert ink(spread).any() and ink(bars).any()
    spread.clear_all()
    bars.show_rows([])
    assert not ink(spread).any() and not ink(bars).any()


def test_a_ruler_ends_before_a_figure_that_it_would_cut() -> None:
    for scale in np.geomspace(0.05, 40.0, 60).tolist():
        step, long, each = ruler_steps(scale)
        pitch = scale * step * each
        assert pitch >= LABEL_PX and each % long == 0
        for right in np.linspace(300.0, 300.0 + pitch, 23).tolist():
            end = ruler_end(20.0, right, scale)
            nearest = 20.0 + pitch * round((end - 20.0) / pitch)
            assert right - LABEL_PX - 1e-9 <= end <= right
            assert abs(nearest - end) >= LABEL_PX / 2 - 1e-9
