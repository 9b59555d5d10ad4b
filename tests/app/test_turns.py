"""Work and painting that would be long in one turn of the event loop come in several."""

from __future__ import annotations

from importlib.util import find_spec
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, idle
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.benches import TABS_MS, worn_apart
from yellowbob.app.frame.window import Window
from yellowbob.app.session.warm import needed_later
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.turns import hold, let_paint, painted_apart, whole


class Paints(QObject):
    """Which of some widgets were painted in each turn of the event loop."""

    def __init__(self, parts: dict[str, QWidget]) -> None:
        super().__init__()
        self.names: dict[QObject, str] = {part: name for name, part in parts.items()}
        self.turns: list[set[str]] = []
        self.now: set[str] = set()
        app = QApplication.instance()
        assert app is not None
        app.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Note a part that is painted; what is asked of the window itself begins a turn."""
        if event.type() == QEvent.Type.UpdateRequest:
            self.now = set()
            self.turns.append(self.now)
        elif event.type() == QEvent.Type.Paint and watched in self.names:
            self.now.add(self.names[watched])
        return False

    def together(self) -> list[set[str]]:
        """The turns in which more than one was painted."""
        return [turn for turn in self.turns if len(turn) > 1]


@pytest.fixture
def paints(window: Window) -> Paints:
    page = window.tank.paged.page("Cocking")
    return Paints({"drawing": window.tank.view, "slip": window.slip, "page": page})


def test_all_that_is_brought_in_beforehand_is_there_and_is_every_page() -> None:
    names = needed_later()
    assert all(find_spec(name) is not None for name in names)
    benches = Path("src/yellowbob/app/benches")
    files = {f.stem for f in benches.rglob("*.py") if f.stem != "__init__"}
    assert files <= {name.rpartition(".")[2] for name in names} and len(files) > 50


def test_a_bench_asked_for_while_it_is_dressed_is_whole(open_window: OpenWindow) -> None:
    window = open_window()
    turns = window.bench_in_turns("Lines")
    parts = list(worn_apart(next(turns)))
    assert len(parts) > 1 and not any(part.styleSheet() for part in parts)
    next(turns)
    assert [bool(part.styleSheet()) for part in parts].count(True) == 1
    assert window.bench("Lines") is window.lines and all(part.styleSheet() for part in parts)
    assert not list(turns)
    for entry in BENCHES:
        assert all(part.styleSheet() for part in worn_apart(window.bench(entry.title))), entry.title


def test_what_is_held_is_painted_one_after_the_other_and_nothing_is_forgotten(qtbot: QtBot) -> None:
    ground = QWidget()
    parts = [QWidget(ground) for _ in range(4)]
    qtbot.addWidget(ground)
    ground.show()
    with painted_apart(ground, parts):
        assert not whole(ground)
    parts[1].deleteLater()  # its bench may be gone meanwhile
    qtbot.waitUntil(lambda: whole(ground), timeout=60_000)
    with pytest.raises(ValueError, match="broken"), painted_apart(ground, parts[2:]):
        raise ValueError("broken")
    qtbot.waitUntil(lambda: whole(ground), timeout=60_000)
    first, second = hold(parts[2:]), hold(parts[2:])  # two turns that overlap
    let_paint(ground, first)
    let_paint(ground, second)
    qtbot.waitUntil(lambda: whole(ground), timeout=60_000)


def test_a_page_is_painted_apart_from_the_drawing_over_it(window: Window, qtbot: QtBot, paints: Paints) -> None:
    def turn_to(page: str) -> None:
        window.tank.paged.turn_to(page)
        qtbot.waitUntil(lambda: whole(window), timeout=60_000)
        idle(qtbot, window)

    turn_to("Cocking")
    qtbot.wait(2 * TABS_MS)
    paints.turns.clear()
    for page in ("Landings", "Cocking", "Pieces", "Cocking"):
        turn_to(page)
    assert {"page"} in paints.turns and {"drawing"} in paints.turns
    assert not [turn for turn in paints.together() if "page" in turn]


def test_colours_and_units_are_painted_a_part_at_a_turn(window: Window, qtbot: QtBot, paints: Paints) -> None:
    window.tank.paged.turn_to("Cocking")
    idle(qtbot, window)
    qtbot.waitUntil(lambda: whole(window), timeout=60_000)
    qtbot.wait(50)
    paints.turns.clear()
    try:
        for turn in (window.turn_colours, window.next_units, window.turn_colours, window.next_units, window.next_units):
            turn()
            assert not whole(window)
            qtbot.wait(30)
            qtbot.waitUntil(lambda: whole(window), timeout=60_000)
            idle(qtbot, window)
    finally:
        window.use_units("mm and g")
    qtbot.waitUntil(lambda: whole(window), timeout=60_000)
    assert {"drawing"} in paints.turns and {"slip"} in paints.turns
    assert not paints.together()


def test_a_chart_is_painted_in_a_turn_after_it_is_laid_out(qtbot: QtBot) -> None:
    chart = Chart("a chart", "nothing")
    qtbot.addWidget(chart)
    chart.show()
    qtbot.waitUntil(lambda: whole(chart), timeout=60_000)
    chart.begin("load, g", "pitch, °")
    chart.line([0.0, 1.0], [2.0, 3.0], "#000000")
    assert not whole(chart)
    qtbot.waitUntil(lambda: whole(chart), timeout=60_000)
    hidden = Chart("a chart nobody sees", "nothing")
    qtbot.addWidget(hidden)
    hidden.begin("load, g", "pitch, °")
    assert hidden.updatesEnabled()
