"""The start: a window at once, the program behind it; what is remembered, what was left, what went wrong."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMenu, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow
from tests.conftest import DEMO
from yellowbob.__main__ import window_asked
from yellowbob.app.frame import main
from yellowbob.app.frame.menus import fill_design_menu
from yellowbob.app.frame.window import Window
from yellowbob.app.session.crashes import MOST, Crashes
from yellowbob.app.session.recovery import MOST_ASIDE, Recovery
from yellowbob.app.session.settings import Settings
from yellowbob.app.start.run import Starter
from yellowbob.app.widgets.turns import hold, let_paint
from yellowbob.checks.registry import verdicts
from yellowbob.design.files import read_design, write_design
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study

FIRST_PAINT = """
import sys
from yellowbob.app.start.opening import Opening
painted = Opening.paintEvent
def paint(self, event):
    painted(self, event)
    print(",".join(sorted(m for m in ("numpy", "numba", "pydantic", "scipy", "typer") if m in sys.modules)) or "none",
          flush=True)
Opening.paintEvent = paint
from yellowbob.__main__ import main
main([])
"""


def homeless(folder: Path) -> dict[str, str]:
    """An environment whose home, caches and settings are all empty."""
    places = {name: str(folder / name) for name in ("HOME", "XDG_CACHE_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME",
                                                    "XDG_DATA_HOME", "NUMBA_CACHE_DIR")}  # fmt: skip
    return {**os.environ, **places, "QT_QPA_PLATFORM": "offscreen"}


def test_the_first_paint_waits_for_nothing_of_the_program(tmp_path: Path) -> None:
    with subprocess.Popen(
        [sys.executable, "-c", FIRST_PAINT], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=homeless(tmp_path)
    ) as ran:
        assert ran.stdout is not None
        assert ran.stdout.readline().strip() == b"none"
        ran.kill()


def test_a_file_that_cannot_be_opened_ends_with_one_line(tmp_path: Path) -> None:
    bad = tmp_path / "bad.ybob"
    bad.write_text("{")
    for words in ([str(bad)], ["open", str(bad)], ["open", str(tmp_path / "none.ybob")]):
        ran = subprocess.run(
            [sys.executable, "-m", "yellowbob", *words], capture_output=True, env=os.environ, timeout=120, check=False
        )
        said = ran.stderr.decode().replace("This plugin does not support propagateSizeHints()\n", "")
        assert ran.returncode == 2 and said.startswith("yellow-bob: ") and said.count("\n") == 1, said


@pytest.mark.parametrize(
    ("words", "files"),
    [
        ([], []), (["open"], []), (["a.ybob"], ["a.ybob"]), (["open", "a.ybob", "b.ybob"], ["a.ybob", "b.ybob"]),
        (["demo"], None), (["float", "a.ybob"], None), (["open", "--help"], None), (["--version"], None),
    ],
)  # fmt: skip
def test_only_who_asks_for_the_window_goes_round_the_command_line(words: list[str], files: list[str] | None) -> None:
    assert window_asked(words) == (None if files is None else [Path(f) for f in files])


def started(qtbot: QtBot, settings: Settings, prepare: Any) -> Starter:
    starter = Starter(settings, prepare)
    qtbot.addWidget(starter.opening)
    starter.begin()
    assert starter.opening.isVisible()
    qtbot.waitUntil(lambda: starter.window is not None or starter.error is not None, timeout=60_000)
    if starter.window is not None:
        qtbot.addWidget(starter.window)
    return starter


def test_the_window_takes_the_place_of_the_opening(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    settings, file = Settings(tmp_path), DEMO / "osier-96.ybob"
    where: list[int] = []

    def prepare(tell: Any) -> object:
        where.append(threading.get_ident())
        tell("Working out the first figures …", main.ONCE)
        return main.first_of(file, settings)

    starter = started(qtbot, settings, prepare)
    window = starter.window
    assert window is not None and window.isVisible() and not starter.opening.isVisible()
    parts = window.parts()
    assert len(parts) >= 5
    qtbot.waitUntil(lambda: all(part.updatesEnabled() for part in parts), timeout=60_000)
    assert window.session.path == file and window.session.saved and window.session.rest is not None
    assert window.size() == starter.opening.size() and where != [threading.get_ident()]
    assert settings.recent() == [file]
    window.crashes.end()


def test_what_preparing_refuses_is_raised_here(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    def prepare(_: Any) -> object:
        raise BadInput("no such file")

    starter = started(qtbot, Settings(tmp_path), prepare)
    assert starter.window is None and isinstance(starter.error, BadInput) and not starter.opening.isVisible()


def test_a_window_that_cannot_be_made_ends_the_start(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: Any, **__: Any) -> None:
        raise RuntimeError("no bench")

    monkeypatch.setattr(main, "Window", broken)
    settings, ended = Settings(tmp_path), []
    starter = Starter(settings, lambda _: main.first_of(DEMO / "osier-96.ybob", settings))
    qtbot.addWidget(starter.opening)
    starter.ended.connect(ended.append)
    starter.begin()
    qtbot.waitUntil(lambda: bool(ended), timeout=60_000)
    assert ended == [2] and isinstance(starter.error, RuntimeError) and not starter.opening.isVisible()


def test_parts_are_painted_one_a_turn(qtbot: QtBot) -> None:
    whole, seen = QWidget(), []
    parts = [QWidget(whole) for _ in range(3)]
    qtbot.addWidget(whole)
    held = hold(parts, unseen=True)
    assert not hold(parts[:1])  # nobody sees it yet
    whole.show()
    let_paint(whole, held)
    while not all(part.updatesEnabled() for part in parts):
        if (now := [part.updatesEnabled() for part in parts]) not in seen:
            seen.append(now)
        qtbot.wait(1)
    assert seen[0] == [False, False, False] and all(sorted(now, reverse=True) == now for now in seen)


# ---- an empty home


class Actions:
    """A newcomer's hands: each call is one action, all of them counted."""

    def __init__(self, qtbot: QtBot, window: Window) -> None:
        self.qtbot, self.window, self.count = qtbot, window, 0

    def key(self, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        self.count += 1
        QTest.keyClick(QApplication.focusWidget() or self.window, key, modifier)

    def type(self, field: QWidget, text: str) -> None:
        self.count += 1
        field.setFocus()
        QTest.keyClicks(field, text)

    def press(self, name: str) -> None:
        self.count += 1
        buttons = [b for b in self.window.findChildren(QPushButton) if b.isVisible()]
        self.qtbot.mouseClick(
            next(b for b in buttons if name in (b.text(), b.accessibleName())), Qt.MouseButton.LeftButton
        )


def test_a_newcomer_s_path_from_an_empty_home(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name, place in homeless(tmp_path).items():
        if name.startswith("XDG"):
            monkeypatch.setenv(name, place)
    starter = started(qtbot, Settings(), lambda _: main.first_of(None, Settings()))
    window = starter.window
    assert window is not None and window.header.tabs.now == "New" and window.begin.view.kind == "popper"
    window.activateWindow()
    hands, begin = Actions(qtbot, window), window.begin
    hands.type(begin.findChild(QLineEdit), "My first")
    hands.key(Qt.Key.Key_Tab)
    qtbot.waitUntil(lambda: begin.answer is not None and begin.answer.design.name == "My first", timeout=60_000)
    hands.press("Make this my design")
    assert window.header.tabs.now == "Tank" and window.session.design.name == "My first"
    hands.key(Qt.Key.Key_P)
    work = window.tank.poser.work
    assert work is not None
    asked = work.pose.pitch_rad
    hands.key(Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert window.tank.poser.work is not None and window.tank.poser.work.pose != work.pose
    hands.press("Picks from the shelf")
    pose = window.tank.pose
    qtbot.waitUntil(pose.fit.isEnabled, timeout=60_000)
    hands.press("Fit it")
    rest = window.session.rest
    assert window.session.undo.canUndo() and rest is not None and rest.pitch_rad == pytest.approx(asked, abs=0.2)
    # each dialog is one action more: to take what it offers
    home = tmp_path / "home"
    home.mkdir()
    for end in (".ybob", ".pdf"):
        hands.count += 1
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, e=end: (str(home / f"mine{e}"), ""))
        hands.key(Qt.Key.Key_S if end == ".ybob" else Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
        assert (home / f"mine{end}").stat().st_size > 1000
    assert hands.count <= 12, hands.count
    assert not [v for v in verdicts(Study(read_design(home / "mine.ybob"))) if v.fails]
    window.crashes.end()


def test_what_is_nobody_s_own_is_not_kept(open_window: OpenWindow, tmp_path: Path) -> None:
    recovery, settings = Recovery(tmp_path / "s"), Settings(tmp_path / "c")
    window = Window(main.session_on(main.first_design(None, recovery, settings), recovery), settings)
    window.close()
    assert recovery.last() is None
    window.session.put(window.session.design.but(notes="mine now"))
    window.session.keep_now()
    kept = recovery.last()
    assert kept is not None and kept.design.notes == "mine now"


# ---- nothing typed is lost


def test_what_had_no_file_can_be_had_back(window: Window, tmp_path: Path) -> None:
    window.session.put(window.session.design.but(name="Half done / x"))
    window.open_demo(DEMO / "osier-96.ybob")
    assert window.session.recovery.aside() and window.session.design.name == "Osier 96"
    window.open_demo(DEMO / "weir-cup-62.ybob")  # a demo nobody touched is not put aside
    assert len(window.session.recovery.aside()) == 1
    menu = QMenu()
    fill_design_menu(window, menu)
    left = next(a.menu() for a in menu.actions() if a.text() == "Left without a file")
    assert isinstance(left, QMenu) and left.actions()[0].text().startswith("half-done---x, ")
    left.actions()[0].trigger()
    assert window.session.design.name == "Half done / x" and not window.session.saved
    for number in range(MOST_ASIDE + 3):
        window.session.recovery.set_aside(window.session.design.but(name=f"n{number}"))
    assert len(window.session.recovery.aside()) == MOST_ASIDE


def test_recent_files_are_found_where_they_went(tmp_path: Path) -> None:
    settings, work = Settings(tmp_path / "c"), tmp_path / "work"
    (work / "old").mkdir(parents=True)
    one, two = work / "old" / "one.ybob", work / "old" / "two.ybob"
    write_design(read_design(DEMO / "osier-96.ybob"), one)
    write_design(read_design(DEMO / "sallow-74.ybob"), two)
    for file in (one, two):
        settings.remember(file)
    moved = work / "new folder" / "renamed.ybob"
    moved.parent.mkdir()
    one.rename(moved)
    assert settings.recent() == [two, moved]
    assert Settings(tmp_path / "c").recent() == [two, moved]
    # another design in the old one's place is that other design, and a changed one is nobody's
    two.unlink()
    (work / "old" / "other.ybob").write_bytes(moved.read_bytes().replace(b"Osier", b"Ozier"))
    assert settings.recent() == [moved]
    moved.unlink()
    assert settings.recent() == []


# ---- what went wrong


def test_a_crash_is_kept_here_and_can_be_copied(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    crashes = window.crashes = Crashes(tmp_path / "crashes")
    crashes.told.connect(window.say_wrong)
    window.copy_crash()
    assert "Nothing has gone wrong" in window.message.text()
    before = sys.excepthook
    crashes.watch()
    try:
        sys.excepthook(*_raised(f"a thing in {Path.home()}/secret"))
        thread = threading.Thread(target=lambda: 1 / 0)
        thread.start()
        thread.join()
        qtbot.waitUntil(lambda: "ZeroDivisionError" in window.message.text(), timeout=60_000)
    finally:
        crashes.end()
        sys.excepthook = before
    assert len(crashes.reports()) == 2 and "ZeroDivisionError" in crashes.last() and "Python 3" in crashes.last()
    assert str(Path.home()) not in crashes.reports()[1].read_text() and "~/secret" in crashes.reports()[1].read_text()
    window.copy_crash()
    assert QApplication.clipboard().text() == crashes.last() and str(crashes.folder) in window.message.text()
    for _ in range(MOST + 2):
        crashes.keep("again")
    assert len(crashes.reports()) == MOST


def _raised(words: str) -> Any:
    try:
        raise ValueError(words)
    except ValueError:
        return sys.exc_info()


def test_a_process_that_fell_is_told_of_at_the_next_start(tmp_path: Path) -> None:
    fall = (
        "import faulthandler, ctypes; from pathlib import Path; from yellowbob.app.session.crashes import Crashes; "
        "c = Crashes(Path(__import__('sys').argv[1])); c.watch(); ctypes.string_at(0)"
    )
    ran = subprocess.run([sys.executable, "-c", fall, str(tmp_path)], capture_output=True, check=False)
    assert ran.returncode < 0
    said: list[str] = []
    crashes, before = Crashes(tmp_path), sys.excepthook
    crashes.told.connect(said.append)
    try:
        crashes.watch()
    finally:
        crashes.end()
        sys.excepthook = before
    assert "fell over" in said[0] and "Segmentation fault" in crashes.last()
