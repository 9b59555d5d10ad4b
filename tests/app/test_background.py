"""Slow work off the interface's thread: newest wins, stopping, refusals, and a quiet end."""

from __future__ import annotations

import gc
import threading
import time
from collections.abc import Iterator

import pytest
from PySide6.QtCore import QObject
from pytestqt.qtbot import QtBot

from yellowbob.app.frame.window import Window
from yellowbob.app.session.background import Tasks, Told
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import go_on
from yellowbob.study import of


@pytest.fixture
def tasks(qtbot: QtBot) -> Iterator[Tasks]:
    parent = QObject()
    made = Tasks(parent)
    yield made
    made.finish()


def test_a_result_comes_back_on_the_interfaces_thread(qtbot: QtBot, tasks: Tasks) -> None:
    got: list[tuple[int, bool]] = []
    here = threading.get_ident()
    tasks.start("sum", lambda _: 2 + 3, lambda v: got.append((v, threading.get_ident() == here)))
    qtbot.waitUntil(lambda: bool(got), timeout=60_000)
    assert got == [(5, True)]
    assert not tasks.running("sum")


def test_a_newer_task_of_a_kind_replaces_the_older(qtbot: QtBot, tasks: Tasks) -> None:
    got: list[str] = []
    asked: list[bool] = []

    def slow(told: Told) -> str:
        for _ in range(200):
            if not told(0.1):
                asked.append(True)
                return "old"
            time.sleep(0.01)
        return "old"

    tasks.start("work", slow, got.append)
    qtbot.wait(50)
    tasks.start("work", lambda _: "new", got.append)
    qtbot.waitUntil(lambda: bool(got), timeout=60_000)
    assert got == ["new"]
    assert asked == [True]


@pytest.mark.parametrize("how", ["stopped", "replaced", "closed"])
def test_what_does_not_listen_is_left_off_between_two_steps(qtbot: QtBot, tasks: Tasks, how: str) -> None:
    begun, got, ended = threading.Event(), list[str](), list[str]()

    def deaf(_: Told) -> str:
        begun.set()
        try:
            while True:
                go_on()
                time.sleep(0.001)
        except BaseException as error:
            ended.append(type(error).__name__)
            raise

    tasks.start("work", deaf, got.append, got.append)
    assert begun.wait(5.0)
    if how == "stopped":
        tasks.stop("work")
    elif how == "replaced":
        tasks.start("work", lambda _: "new", got.append)
    else:
        tasks.finish()
    qtbot.waitUntil(lambda: bool(ended), timeout=60_000)
    qtbot.wait(30)
    assert ended == ["LeftOff"] and got == (["new"] if how == "replaced" else [])


def test_what_is_certain_is_not_left_off(qtbot: QtBot, tasks: Tasks) -> None:
    begun, got = threading.Event(), list[int]()

    def written(_: Told) -> int:
        begun.set()
        for _ in range(30):
            go_on()
            time.sleep(0.002)
        return 30

    tasks.start("write", written, got.append, certain=True, patience_s=1e-6)
    assert begun.wait(5.0)
    tasks.finish()
    assert got == [30]


def test_kinds_do_not_disturb_each_other(qtbot: QtBot, tasks: Tasks) -> None:
    got: list[str] = []
    for kind in ("a", "b", "c"):
        tasks.start(kind, lambda _, k=kind: k, got.append)
    qtbot.waitUntil(lambda: len(got) == 3, timeout=60_000)
    assert got == ["a", "b", "c"]


def test_progress_is_told_and_a_stopped_task_says_nothing(qtbot: QtBot, tasks: Tasks) -> None:
    shares: list[float] = []
    got: list[int] = []

    def work(told: Told) -> int:
        for k in range(300):
            if not told(k / 300):
                return -1
            time.sleep(0.005)
        return 1

    tasks.start("long", work, got.append, told=shares.append)
    qtbot.waitUntil(lambda: len(shares) > 3, timeout=60_000)
    tasks.stop("long")
    tasks.finish()
    qtbot.wait(50)
    assert got == []
    assert shares == sorted(shares)


def test_a_refusal_is_passed_on_in_words(qtbot: QtBot, tasks: Tasks) -> None:
    said: list[str] = []

    def refuse(_: Told) -> None:
        raise BadInput("too deep; drill less")

    tasks.start("bad", refuse, lambda _: said.append("done"), said.append)
    qtbot.waitUntil(lambda: bool(said), timeout=60_000)
    assert said == ["too deep; drill less"]
    assert not tasks.running("bad")


def test_a_task_replaced_before_it_began_never_runs(qtbot: QtBot, tasks: Tasks) -> None:
    ran: list[str] = []
    gate = threading.Event()
    tasks.start("first", lambda _: gate.wait(5), lambda _: None)
    tasks.start("again", lambda _: ran.append("old"), lambda _: None)
    tasks.start("again", lambda _: ran.append("new"), lambda _: None)
    gate.set()
    qtbot.waitUntil(lambda: not tasks.running("again"), timeout=60_000)
    assert ran == ["new"]


def test_nothing_is_begun_after_the_end(qtbot: QtBot, tasks: Tasks) -> None:
    got: list[int] = []
    tasks.finish()
    tasks.start("late", lambda _: 1, got.append)
    qtbot.wait(80)
    assert got == []
    assert not tasks.running("late")


def test_landings_follow_an_edit_by_themselves(qtbot: QtBot, window: Window) -> None:
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)
    first = of.landings(window.session.study)
    lighter = window.session.design.of_material(density_g_ml=0.47)
    window.session.edit(lighter, "lighter")
    assert not window.session.study.knows(of.landings)
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)
    assert of.landings(window.session.study) is not first


def test_landings_wait_for_the_hand(qtbot: QtBot, window: Window) -> None:
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)
    window.session.dragging = True
    lighter = window.session.design.of_material(density_g_ml=0.46)
    window.session.edit(lighter, "lighter")
    window.session.settle()
    qtbot.wait(700)
    assert not window.session.study.knows(of.landings)
    window.session.dragging = False
    qtbot.waitUntil(lambda: window.session.study.knows(of.landings), timeout=60_000)


def test_a_window_closed_in_the_middle_of_odds_ends_quietly(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Odds")
    window.tank.odds.builds.setValue(50_000)
    window.tank.odds.start()
    qtbot.wait(100)
    window.close()
    assert not window.session.tasks.running("odds")


def test_nothing_of_the_interface_is_collected_on_the_other_thread(qtbot: QtBot) -> None:
    """A widget's last reference in a task, and cycles of widgets left about while one runs, all end on this thread."""
    ended: list[bool] = []
    here = threading.get_ident()

    class Noted:
        def __del__(self) -> None:
            ended.append(threading.get_ident() == here)

    class Cycle(QObject):
        def __init__(self) -> None:
            super().__init__()
            self.me, self.noted = self, Noted()

    owner = QObject()
    tasks = Tasks(owner)

    def churn(_: object) -> int:
        until, pile = time.monotonic() + 0.3, []
        while time.monotonic() < until:
            pile = [[k] for k in range(20_000)]
        return len(pile)

    for _ in range(3):
        given, done = Cycle(), []
        tasks.start("churn", lambda told, kept=given: churn(kept), done.append)
        del given
        for _ in range(200):
            Cycle()
        qtbot.waitUntil(lambda done=done: bool(done), timeout=60_000)
    tasks.finish()
    assert gc.isenabled()
    gc.collect()
    assert len(ended) == 603
    assert all(ended)
