"""Random walks through the window: nothing raises, undo leads all the way back, and hard designs open and can be mended."""

from __future__ import annotations

import json
import random
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from tests.conftest import DEMO
from tests.core.test_cli_hard import HARD
from yellowbob.app.benches.registry import BENCHES, SIDES
from yellowbob.app.frame.actions import ACTIONS, FIELD_KEYS, TANK_PAGES, in_menu, key_rows
from yellowbob.app.frame.window import Window
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.design.edits import grips, moved

ASKS = {"open", "save", "save as", "sheet", "close"}
"""Actions that ask for a file, or end the window."""


def step(window: Window, rng: random.Random) -> None:
    session = window.session
    way = rng.randrange(8)
    if way == 0:
        window.open_demo(rng.choice(demo_files()))
    elif way == 1:
        window.open_check(rng.choice(["floats", "wall", "hooks", ""]))
    elif way == 2:
        window.show_bench(rng.choice(BENCHES).title)
    elif way == 3:
        rng.choice(list(window.fitout.keys.values())).click()
    elif way == 4 and grips(session.design):
        grip = rng.choice(grips(session.design))
        session.pick(grip)
        session.edit(moved(session.design, grip, rng.uniform(-3, 3), 0.0, rng.uniform(-1, 1)), "walk")
    elif way == 5:
        cuts = window.lines.cuts
        if rng.random() < 0.5:
            cuts.add_kind(rng.choice(["cup", "notch", "lip", "fin", "lump", "cut-out", "wings", "eye sockets"]))
        else:
            cuts.remove.click()
    else:
        window.actions_by_name[rng.choice([a.name for a in ACTIONS if a.name not in ASKS])].trigger()


@pytest.mark.parametrize("seed", range(4))
def test_a_random_walk_raises_nothing_and_undo_leads_back(qtbot: QtBot, window: Window, seed: int) -> None:
    rng = random.Random(seed)
    for _ in range(45):
        step(window, rng)
        QApplication.processEvents()
    window.open_demo(DEMO / "osier-96.ybob")
    first = window.session.design
    for _ in range(8):
        grip = rng.choice(grips(window.session.design))
        window.session.edit(moved(window.session.design, grip, rng.uniform(-2, 2), 0, 0), "walk", str(rng.random()))
    while window.session.undo.canUndo():
        window.session.undo.undo()
    assert window.session.design == first
    window.session.tasks.finish()


@pytest.mark.parametrize("name", HARD)
def test_a_design_that_cannot_be_built_opens_and_says_why(
    qtbot: QtBot, open_window: OpenWindow, name: str, tmp_path: Path
) -> None:
    data = json.loads((DEMO / "sallow-74.ybob").read_text(encoding="utf-8"))
    HARD[name](data)
    path = tmp_path / "hard.ybob"
    path.write_text(json.dumps(data), encoding="utf-8")
    window = open_window(path=path)
    assert window.session.fault
    for bench in BENCHES:
        window.show_bench(bench.title)
        QApplication.processEvents()
    for page in TANK_PAGES:
        window.show_tank_page(page)
        QApplication.processEvents()
    grabbed(window)
    assert window.session.fault
    window.open_demo(DEMO / "sallow-74.ybob")
    assert window.session.fault == ""


def test_it_can_be_mended_in_place(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    data = json.loads((DEMO / "sallow-74.ybob").read_text(encoding="utf-8"))
    HARD["a fin without area"](data)
    path = tmp_path / "hard.ybob"
    path.write_text(json.dumps(data), encoding="utf-8")
    window = open_window(path=path)
    assert "fin" in window.session.fault
    window.show_bench("Lines")
    cuts = window.lines.cuts
    cuts.list.setCurrentRow(cuts.list.count() - 1)
    assert cuts.which == ("part", 0)
    cuts.remove.click()
    assert window.session.fault == ""
    assert window.session.rest is not None


def test_a_task_that_fails_ends_is_said_and_can_be_tried_again(qtbot: QtBot, window: Window) -> None:
    session, told = window.session, []
    session.tasks.start("odd", lambda _: 1 / 0, told.append, told.append)
    qtbot.waitUntil(lambda: bool(told), timeout=60_000)
    assert "ZeroDivisionError" in told[0] and "tried again" in told[0]
    assert not session.tasks.running("odd")
    session.tasks.start("odd", lambda _: 7, told.append, told.append)
    qtbot.waitUntil(lambda: told[-1] == 7, timeout=60_000)


def test_every_action_has_a_name_words_and_keys_of_its_own() -> None:
    names, keys = [a.name for a in ACTIONS], [k for a in ACTIONS for k in a.keys]
    assert len(set(names)) == len(names)
    assert len(set(keys)) == len(keys)
    assert all(a.words and a.keys for a in ACTIONS)
    assert len(key_rows()) == len(ACTIONS) + len(FIELD_KEYS)
    assert in_menu("View")


def test_every_action_does_what_it_says_without_a_word(qtbot: QtBot, window: Window) -> None:
    for action in ACTIONS:
        if action.name not in ASKS:
            window.actions_by_name[action.name].trigger()
            QApplication.processEvents()
    assert {b.title for b in (*BENCHES, *SIDES)} == set(window.built)
    assert list(window.tank.paged.keys) == list(TANK_PAGES)
