"""Files, undo, recovery after a kill, units, colours, keys: what belongs to the whole window."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QComboBox, QLineEdit, QListWidget, QPushButton, QToolButton, QWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.conftest import DEMO
from yellowbob.app.frame.main import first_session
from yellowbob.app.frame.window import Window
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.settings import Settings
from yellowbob.app.start.desk import fit_on_screen
from yellowbob.app.widgets.fields import Choice, NumberField, QuantityField
from yellowbob.app.widgets.theme import DAY, EVENING, Look
from yellowbob.design.files import read_design, write_design
from yellowbob.study import of


def test_save_as_open_and_recent(window: Window, tmp_path: Path) -> None:
    target = tmp_path / "mine"
    window.tank.water._density(0.5)
    assert not window.session.saved
    window.save_as(target)
    assert window.session.saved
    assert read_design(tmp_path / "mine.ybob") == window.session.design
    window.open_demo(DEMO / "osier-96.ybob")
    assert window.session.design.name == "Osier 96"
    window.open(tmp_path / "mine.ybob")
    assert window.session.design.body.density_g_ml == 0.5
    assert window.settings.recent() == [tmp_path / "mine.ybob"]
    window.tank.water._density(0.51)
    window.save()
    assert read_design(tmp_path / "mine.ybob").body.density_g_ml == 0.51


def test_a_bad_file_is_refused_and_nothing_changes(window: Window, tmp_path: Path) -> None:
    broken = tmp_path / "broken.ybob"
    broken.write_text('{"format": "yellow-bob-design", "version": 1, "name": ""}')
    before = window.session.design
    window.open(broken)
    assert window.session.design is before
    assert window.message.isVisible()
    assert "name" in window.message.text()


def test_saving_where_nothing_can_be_written_is_said(window: Window, tmp_path: Path) -> None:
    window.save_as(tmp_path / "no" / "such" / "folder.ybob")
    assert "somewhere else" in window.message.text()


def test_undo_reaches_back_to_opening(window: Window) -> None:
    start = window.session.design
    window.tank.water._material("spruce")
    window.tank.water._water("brackish")
    window.tank.piece.add_hook("single, size 2")
    window.brief.fish.setText("ide")
    window.brief.fish.editingFinished.emit()
    assert window.session.design.brief.fish == "ide"
    for _ in range(4):
        window.session.undo.undo()
    assert window.session.design == start
    assert not window.session.undo.canUndo()


def test_brief_card_sets_what_the_verdict_asks(qtbot: QtBot, window: Window) -> None:
    qtbot.keyClick(window, Qt.Key.Key_B)
    assert window.brief.isVisible()
    assert not window.tank.cards.isVisible()
    least, most = window.brief.spans["pitch_deg"]
    for field, text in ((most, "5"), (least, "-5")):
        field.setFocus()
        field.selectAll()
        qtbot.keyClicks(field, text)
        qtbot.keyClick(field, Qt.Key.Key_Return)
        if field is most:
            assert "smaller figure first" in window.brief.wrong.text()
    assert window.session.design.brief.pitch_deg is not None
    assert window.session.design.brief.pitch_deg.least == -5


def test_a_verdict_says_why_and_what_to_do(qtbot: QtBot, window: Window) -> None:
    cell = window.verdict._cells["sits"]
    assert "25" in cell.verdict.figure
    qtbot.mouseClick(cell, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    assert window.verdict.reasons.isVisible()
    assert "What to do" in window.verdict.reasons.text()
    cell.setFocus()
    qtbot.keyClick(cell, Qt.Key.Key_Return)
    assert not window.verdict.reasons.isVisible()


def test_verdicts_follow_an_edit(qtbot: QtBot, window: Window) -> None:
    window.tank.water._density(0.9)
    qtbot.waitUntil(lambda: window.verdict._cells["floats"].verdict.state == "failed", timeout=60_000)


def test_slip_marks_what_changed_for_a_moment(qtbot: QtBot, window: Window) -> None:
    window.tank.water._density(0.5)
    assert "body" in window.slip._marked
    assert "coat:0" not in window.slip._marked
    qtbot.waitUntil(lambda: not window.slip._marked, timeout=60_000)
    shown = {key: mass for key, _, mass, _ in window.slip.rows()}
    assert shown["finished"] == pytest.approx(of.slip(window.session.study).finished.mass_g)


def test_units_to_read(window: Window) -> None:
    window.use_units("inches and ounces")
    assert window.tank.piece.at_x.text().endswith(" in")
    assert window.settings.text("units", "") == "inches and ounces"
    grabbed(window.tank.view)
    window.next_units()
    window.next_units()
    assert window.tank.piece.at_x.text().endswith(" mm")


def test_evening_colours(window: Window) -> None:
    day = grabbed(window).pixelColor(300, 70).lightness()
    window.turn_colours()
    assert Look.now is EVENING
    assert grabbed(window).pixelColor(300, 70).lightness() < day
    window.turn_colours()
    assert Look.now is DAY


def _luminance(text: str) -> float:
    channels = [int(text[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("theme", [DAY, EVENING])
def test_text_stands_out(theme: object) -> None:
    pairs = [("ink", "paper"), ("ink", "card"), ("ink", "wood"), ("soft", "card"), ("soft", "paper"), ("soft", "wood"),
             ("bad", "card"), ("ink", "marked"), ("foot_soft", "foot"), ("foot_good", "foot"), ("foot_bad", "foot"),
             ("water_ink", "card")]  # fmt: skip
    for ink, ground in pairs:
        one, two = sorted((_luminance(getattr(theme, ink)), _luminance(getattr(theme, ground))))
        assert (two + 0.05) / (one + 0.05) >= 4.5, (ink, ground)


def test_every_key_is_listed(qtbot: QtBot, window: Window) -> None:
    qtbot.keyClick(window, Qt.Key.Key_F1)
    shown = {key for key, _ in window.keys.rows}
    for action in window.actions_by_name.values():
        assert action.shortcuts()
        assert action.shortcuts()[0].toString() in shown
    assert window.keys.isVisible() and window.keys.table.rowCount() * 3 >= len(window.keys.rows)
    qtbot.keyClick(window, Qt.Key.Key_F1)
    assert not window.keys.isVisible() and window.tank.isVisible()


def test_the_window_opens_inside_the_screen_and_keeps_its_size(window: Window) -> None:
    room = window.screen().availableGeometry()
    window.settings.put("size", "9000x7000")
    fit_on_screen(window, window.settings)
    assert window.width() <= max(room.width(), window.minimumSizeHint().width())
    assert window.height() <= max(room.height(), window.minimumSizeHint().height())
    window.settings.put("size", "nonsense")
    fit_on_screen(window, window.settings)
    assert window.width() <= max(1280, window.minimumSizeHint().width())
    window.resize(1290, 810)
    window.close()
    assert window.settings.text("size", "") == "1290x810"


def test_every_control_has_a_name(window: Window) -> None:
    for kind in (QLineEdit, QComboBox, QPushButton, QToolButton, QListWidget):
        for control in window.findChildren(kind):
            inner = control.objectName().startswith("qt_") or isinstance(control.parent(), QComboBox)
            assert inner or control.accessibleName(), control
            if isinstance(control, QuantityField | NumberField | Choice):  # every field says on hover what it is
                assert control.accessibleName().partition(":")[0] in control.toolTip(), control.accessibleName()
    assert all(isinstance(w, QWidget) for w in window.findChildren(QWidget))


def test_sheet_from_the_window(window: Window, tmp_path: Path) -> None:
    window.write_sheet(tmp_path / "s.pdf")
    assert (tmp_path / "s.pdf").read_bytes().startswith(b"%PDF")
    assert "100 %" in window.message.text()


def test_first_start_opens_the_demo_then_the_last_design(qtbot: QtBot, tmp_path: Path) -> None:
    settings, recovery = Settings(tmp_path), Recovery(tmp_path)
    assert first_session(None, recovery, settings).design.name == "Sallow 74"
    mine = tmp_path / "mine.ybob"
    write_design(read_design(DEMO / "osier-96.ybob"), mine)
    session = first_session(mine, recovery, settings)
    session.keep_now()
    assert first_session(None, recovery, settings).path == mine
    session.put(session.design.but(notes="typed"))
    session.tasks.finish()
    session.recovery.keep(session.design, mine, saved=False)
    again = first_session(mine, recovery, settings)
    assert again.design.notes == "typed"
    assert not again.saved
    recovery.file.write_text("{half")
    assert first_session(None, recovery, settings).design.name == "Sallow 74"


KILLED = """
import sys
from pathlib import Path
from PySide6.QtCore import QTimer
from yellowbob.app.frame.main import application, make_window
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.settings import Settings
from yellowbob.study import of
folder = Path(sys.argv[1])
app = application(Settings(folder))
window = make_window(None, Settings(folder), Recovery(folder))
window.show()
QTimer.singleShot(200, lambda: (window.tank.water._density(0.321), print("typed", flush=True)))
app.exec()
"""


def test_a_kill_loses_nothing_typed_more_than_two_seconds_ago(qtbot: QtBot, tmp_path: Path) -> None:
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    with subprocess.Popen(
        [sys.executable, "-c", KILLED, str(tmp_path)],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        env=environment,
    ) as started:
        assert started.stdout is not None
        assert started.stdout.readline().strip() == b"typed"
        time.sleep(2.0)
        os.kill(started.pid, signal.SIGKILL)
    session = first_session(None, Recovery(tmp_path), Settings(tmp_path))
    assert session.design.body.density_g_ml == 0.321
    assert not session.saved


def test_a_full_disk_is_said_and_does_not_stop_work(window: Window, tmp_path: Path) -> None:
    blocked = tmp_path / "blocked"
    blocked.write_text("a file, not a folder")
    window.session.recovery.file = blocked / "kept.json"
    window.tank.water._density(0.5)
    window.session.keep_now()
    window.header.refresh()
    assert "not kept" in window.header.state.text()


def test_closing_asks_nothing_and_keeps_everything(open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window()
    window.tank.water._density(0.456)
    assert window.close()
    kept = Recovery(tmp_path / "state").last()
    assert kept is not None
    assert kept.design.body.density_g_ml == 0.456


def test_menus_fill(window: Window) -> None:
    for control in window.findChildren(QToolButton):
        menu = control.menu()
        if menu is not None:
            menu.aboutToShow.emit()
            assert menu.actions(), control.accessibleName()
            menu.aboutToHide.emit()


def test_the_brief_takes_the_cards_room_and_no_more(qtbot: QtBot, window: Window) -> None:
    window.resize(1280, 800)
    for bench in ("Tank", "Fit-out", "Lines"):
        window.show_bench(bench)
        qtbot.wait(20)
        for _ in range(2):
            window.turn_brief()
            qtbot.wait(20)
            assert (window.width(), window.height()) == (1280, 800), bench
