"""What takes longer than an eye notices comes later: edits and other designs are worked out off the interface's thread."""

from __future__ import annotations

import gc
import math
import random
import shutil
import threading
from collections.abc import Iterator
from itertools import cycle
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.app.conftest import grabbed, idle
from tests.app.test_walks import step
from tests.conftest import DEMO
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.benches.tank.poser import NUDGE_DEG
from yellowbob.app.frame.window import Window
from yellowbob.app.session import files, follower
from yellowbob.app.session.background import Tasks
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of


@pytest.fixture(autouse=True)
def hasty(monkeypatch: pytest.MonkeyPatch, patient: None) -> None:
    """Nothing is there by the time the interface has waited."""
    monkeypatch.setattr(follower, "PATIENCE_S", 1e-7)
    monkeypatch.setattr(files, "ASIDE_S", 1e-7)


@pytest.fixture
def gate(monkeypatch: pytest.MonkeyPatch) -> Iterator[threading.Event]:
    """Following the rest waits for this."""
    opened, done = threading.Event(), follower.followed

    def held(study: Study, last: object) -> object:
        assert opened.wait(20.0)
        return done(study, last)  # type: ignore[arg-type]

    monkeypatch.setattr(follower, "followed", held)
    yield opened
    opened.set()


def denser(design: Design, times: float) -> Design:
    return design.of_material(density_g_ml=design.body.density_g_ml * times)


@pytest.mark.parametrize("page", ["Stations", "Holes", "As made"])
def test_what_comes_when_another_page_was_turned_to_is_not_drawn_over_it(
    qtbot: QtBot, window: Window, page: str
) -> None:
    window.show_bench("Shop")
    shop = window.shop
    shop.paged.turn_to("Mould")
    idle(qtbot, window)
    shop.view.show_things(None, ())
    shop.paged.turn_to(page)
    shop.paged.turn_to("Mould")
    idle(qtbot, window)
    assert shop.view.stations is None and shop.view.bores == ()
    shop.paged.turn_to(page)
    idle(qtbot, window)
    assert shop.view.stations is not None or shop.view.bores


def test_an_edit_is_in_the_document_at_once_and_its_figures_come_later(
    qtbot: QtBot, window: Window, gate: threading.Event
) -> None:
    session, before = window.session, window.session.rest
    told: list[str] = []
    session.changed.connect(lambda: told.append(session.fault))
    first = denser(session.design, 1.1)
    session.edit(first, "denser")
    assert session.design == first and session.rest is before and session.study.design != first
    assert session.fault == "following the rest …" and session.complaint == "", "it is said before it takes long"
    qtbot.waitUntil(lambda: session.complaint == session.fault, timeout=60_000)
    assert told == ["following the rest …"] * 2
    second = session.design.but(name="Renamed meanwhile")
    session.edit(second, "name")
    assert session.design.body.density_g_ml == first.body.density_g_ml, "the edit still awaited is lost"
    gate.set()
    qtbot.waitUntil(lambda: not session.fault, timeout=60_000)
    assert session.study.design is session.design and session.design.name == "Renamed meanwhile"
    expected = of.rest_followed(Study(session.design), before)
    assert session.rest is not None and expected is not None
    assert session.rest.height_mm == pytest.approx(expected.height_mm, abs=1e-6) and told[-1] == ""
    session.undo.undo()
    session.undo.undo()
    idle(qtbot, window)
    assert session.study.design.body.density_g_ml == pytest.approx(first.body.density_g_ml / 1.1)


def test_an_edit_that_cannot_be_built_says_so_when_it_is_known(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, sound = window.session, window.session.study

    def refuse(_: Study, __: object) -> None:
        raise BadInput("it cannot be")

    with monkeypatch.context() as patch:
        patch.setattr(follower, "followed", refuse)
        session.edit(denser(session.design, 1.1), "denser")
        qtbot.waitUntil(lambda: session.fault == "it cannot be", timeout=60_000)
    assert session.complaint == "it cannot be" and session.study is sound
    session.undo.undo()
    qtbot.waitUntil(lambda: not session.fault, timeout=60_000)
    assert session.study.design == session.design


def test_what_is_dragged_is_followed_at_once(window: Window, gate: threading.Event) -> None:
    gate.set()
    window.session.dragging = True
    window.session.edit(denser(window.session.design, 1.1), "denser")
    assert not window.session.fault and window.session.study.design == window.session.design


def test_every_page_stands_a_design_ahead_of_its_figures(qtbot: QtBot, window: Window, gate: threading.Event) -> None:
    """Pieces come and go while the drawing is of the last sound state: nothing raises, on whatever page."""
    session = window.session
    whole = session.design
    bare = whole.but(ballast=(), fittings=whole.fittings[:1], coats=whole.coats[:1])
    gate.set()
    states = cycle((bare, whole))
    for bench in BENCHES:
        window.show_bench(bench.title)
        paged = getattr(window.bench(bench.title), "paged", None)
        for page in list(paged.keys) if paged is not None else [""]:
            if paged is not None:
                paged.turn_to(page)
            gate.clear()
            session.edit(next(states), "pieces")
            assert session.fault.startswith("following")
            QApplication.processEvents()
            grabbed(window)
            gate.set()
            qtbot.waitUntil(lambda: not session.fault, timeout=60_000)
            QApplication.processEvents()
    idle(qtbot, window)


@pytest.mark.parametrize("seed", range(2))
def test_a_walk_through_late_figures_ends_where_undo_began(qtbot: QtBot, window: Window, seed: int) -> None:
    rng = random.Random(100 + seed)
    for _ in range(40):
        step(window, rng)
        QApplication.processEvents()
    idle(qtbot, window)
    while window.session.undo.canUndo():
        window.session.undo.undo()
    idle(qtbot, window)
    assert window.session.study.design == window.session.design


def test_another_design_is_opened_later_and_what_was_edited_meanwhile_is_kept(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / "other.ybob"
    shutil.copy(DEMO / "osier-96.ybob", file)
    session, go = window.session, threading.Event()
    sight = "yellowbob.app.session.files.first_sight"
    from yellowbob.app.session.sight import first_sight

    monkeypatch.setattr(sight, lambda design: (go.wait(20.0), first_sight(design))[1])
    window.open(file)
    assert session.design.name == "Sallow 74" and ("opening other.ybob", 0.0) in session.tasks.doing
    edited = denser(session.design, 1.2)
    session.edit(edited, "denser")
    go.set()
    qtbot.waitUntil(lambda: session.design.name == "Osier 96", timeout=60_000)
    assert session.path == file and session.saved and window.settings.recent() == [file]
    idle(qtbot, window)
    assert not session.fault and session.rest is not None
    (aside,) = session.recovery.aside()
    window.open_copy(aside)
    qtbot.waitUntil(lambda: session.design == edited, timeout=60_000)
    assert session.path is None and not session.saved
    window.open(tmp_path / "none.ybob")
    qtbot.waitUntil(lambda: "none.ybob" in window.message.text(), timeout=60_000)
    assert session.design == edited


def test_who_is_waited_for_answers_once_and_is_not_held_up(qtbot: QtBot) -> None:
    parent, go = QObject(), threading.Event()
    tasks, got, failed = Tasks(parent), [], []  # type: tuple[Tasks, list[object], list[str]]
    tasks.start("slow", lambda _: go.wait(20.0), got.append)
    tasks.start("quick", lambda _: 7, got.append, patience_s=20.0)
    assert got == [7], "it waits for what is slow"

    def refuse(_: object) -> None:
        raise BadInput("no")

    tasks.start("quick", refuse, got.append, failed.append, patience_s=20.0)
    assert failed == ["no"] and not tasks.running("quick")
    go.set()
    qtbot.waitUntil(lambda: not tasks.doing, timeout=60_000)
    qtbot.wait(50)
    assert got == [7, True] and failed == ["no"]
    tasks.finish()


def test_what_is_certain_is_done_though_all_is_stopped_and_closed() -> None:
    parent, go = QObject(), threading.Event()
    tasks, done, said = Tasks(parent), [], []  # type: tuple[Tasks, list[str], list[str]]

    def work(word: str) -> str:
        go.wait(20.0)
        done.append(word)
        return word

    for word in ("one", "two"):
        tasks.start("writing", lambda _, w=word: work(w), said.append, patience_s=1e-7, certain=True)
    tasks.start("looking", lambda _: work("looked"), said.append)
    tasks.stop_all()
    tasks.start("last", lambda _: work("three"), said.append, patience_s=1e-7, certain=True)
    threading.Timer(0.05, go.set).start()
    tasks.finish()
    assert done[-3:] == ["one", "two", "three"] and said == ["two", "three"], "only the newest of a kind is told of"
    tasks.start("after", lambda _: work("four"), said.append, certain=True)
    assert done[-1] == "four" and gc.isenabled(), "Python's collector rests for good"


def test_what_is_edited_while_it_is_saved_is_not_called_saved(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, go, file = window.session, threading.Event(), tmp_path / "mine.ybob"
    write = files.write_design
    monkeypatch.setattr(files, "write_design", lambda *a: (go.wait(20.0), write(*a)))
    saved = denser(session.design, 1.1)
    session.edit(saved, "denser")
    window.save_as(file)
    session.edit(denser(saved, 1.1), "denser still")
    go.set()
    qtbot.waitUntil(lambda: session.path == file, timeout=60_000)
    assert read_design(file) == saved and not session.saved
    window.save()
    qtbot.waitUntil(lambda: session.saved, timeout=60_000)
    assert read_design(file) == session.design


def test_of_a_design_that_cannot_be_built_nothing_is_written(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The last sound state is still drawn: a sheet or a solid of it would be of another design."""

    def refuse(_: Study, __: object) -> None:
        raise BadInput("it cannot be")

    monkeypatch.setattr(follower, "followed", refuse)
    window.session.edit(denser(window.session.design, 1.1), "denser")
    qtbot.waitUntil(lambda: window.session.fault == "it cannot be", timeout=60_000)
    for write, name in ((window.write_sheet, "a.pdf"), (window.lines.write_out, "a.stl")):
        write(tmp_path / name)
        assert f"{name} is not written: it cannot be" in window.message.text()
        assert not (tmp_path / name).exists()


def test_a_pose_left_before_it_has_come_stays_left(qtbot: QtBot, window: Window) -> None:
    poser, session = window.tank.view.poser, window.session
    poser.begin()
    poser.end()
    idle(qtbot, window)
    assert not poser.posing
    poser.once_posing(lambda: poser.tilt(0.3))
    qtbot.waitUntil(lambda: poser.work is not None and abs(poser.work.pose.pitch_rad - 0.3) < 1e-9, timeout=60_000)
    for _ in range(5):  # a key held down is ahead of what is worked out for it
        poser.nudge(1.0, 0.0)
    assert poser.work is not None and poser.work.pose.pitch_rad == pytest.approx(0.3 + 5 * math.radians(NUDGE_DEG))
    session.edit(denser(session.design, 1.05), "denser")
    idle(qtbot, window)
    assert poser.work is not None and poser.work.bare.design.body.density_g_ml == session.design.body.density_g_ml


def test_the_righting_arm_comes_with_its_words(qtbot: QtBot, window: Window) -> None:
    window.show_tank_page("Landings")
    page = window.tank.landing
    qtbot.waitUntil(lambda: page.says.text().startswith("comes back from up to"), timeout=60_000)
    roll = page.says.text()
    page.axis.setCurrentText("pitch")
    page.axis.textActivated.emit("pitch")
    qtbot.waitUntil(lambda: page.curve.curve is not None and page.says.text() not in ("", roll), timeout=60_000)
    assert page.says.text() == page.curve.words()


def test_what_is_begun_of_a_design_still_awaited_is_of_that_design(
    qtbot: QtBot, window: Window, gate: threading.Event
) -> None:
    """A weighing taken and odds drawn while the figures are behind: neither is of the design as it was."""
    session = window.session
    dense = denser(session.design, 1.2)
    session.edit(dense, "denser")
    assert session.study.design != dense and session.apart().design is dense
    window.show_bench("Fit-out")
    window.fitout.show_page("Budget")
    page = window.fitout.budget
    page.stage.setCurrentText("bare body")
    page._weigh(30.0)
    window.show_tank_page("Odds")
    odds = window.tank.odds
    odds.builds.setValue(200)
    odds.start()
    gate.set()
    qtbot.waitUntil(lambda: len(session.design.weighings) == 1, timeout=60_000)
    assert session.design.body.density_g_ml == dense.body.density_g_ml, "the edit still awaited was undone"
    (one,) = session.design.weighings
    assert one.then["body"] == pytest.approx(of.forecast_slip(Study(dense)).at("on scale")[0].mass.mass_g)
    session.undo.undo()
    idle(qtbot, window)
    assert session.design == dense and session.study.design == dense
    odds.start()
    qtbot.waitUntil(lambda: odds.found is not None, timeout=60_000)
    assert odds.found is not None
    plain = float(np.median(odds.found.done.reserve_g))
    assert plain == pytest.approx(of.buoyancy(Study(dense)).reserve_g, abs=0.6)
