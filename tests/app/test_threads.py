"""What may take long is not done on the interface's thread: files, pictures, solids, searches, and all slow results."""

from __future__ import annotations

import importlib
import threading
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed, idle
from tests.app.doings import (
    PICTURE,
    Do,
    as_made,
    begun,
    compared,
    copied_back,
    edited,
    exchanged,
    film_onto_the_shelf,
    its_design_opened,
    learnt_onto_the_shelf,
    left_behind,
    list_out_and_in,
    on_page,
    opened_from_file,
    outlines_in,
    own_entry,
    paged_through,
    picture_kept,
    taken_in,
    told_of,
    tried_in_the_tank,
    tried_on_the_water,
    weighed_in_the_log,
    weighed_on_the_page,
)
from tests.conftest import DEMO
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.window import Window
from yellowbob.app.session.recovery import Recovery
from yellowbob.design.rescale import rescaled
from yellowbob.lines import picture
from yellowbob.study import Study
from yellowbob.study.engine import Result

STORE = "yellowbob.logbook.store"
LOG, LINES, SHOP = (f"yellowbob.app.benches.{one}" for one in ("log", "lines", "shop"))
CASES: dict[str, tuple[str, str, Do]] = {
    "a picture to trace": (f"{LINES}.trace_page", "read_picture", lambda w, _: w.lines.trace.open(PICTURE)),
    "a picture of the plan": (f"{LINES}.trace_page", "find_silhouette", lambda w, _: w.lines.trace.open_plan(PICTURE)),
    "a picture in the log": (f"{LOG}.picture_page", "read_picture", picture_kept),
    "a picture kept": (f"{LOG}.picture_page", "keep_photo", picture_kept),
    "the sheet": ("yellowbob.shop.sheet", "write_sheet", lambda w, f: w.write_sheet(f / "a.pdf")),
    "a solid": ("yellowbob.shop.exports", "export", lambda w, f: w.lines.write_out(f / "a.stl")),
    "outlines": ("yellowbob.lines.svg.body", "read_svg_body", outlines_in),
    "a ghost": (f"{LINES}.bench", "opened", lambda w, _: w.lines.show_ghost(DEMO / "osier-96.ybob")),
    "a design saved": ("yellowbob.app.session.files", "write_design", lambda w, f: w.save_as(f / "mine")),
    "a design opened": ("yellowbob.app.session.files", "first_sight", opened_from_file),
    "a design read": ("yellowbob.app.frame.window", "opened", opened_from_file),
    "an edit": ("yellowbob.app.session.follower", "followed", edited),
    "what is told of an edit": ("yellowbob.app.session.follower", "next_step", edited),
    "a righting arm": ("yellowbob.app.benches.tank.landing_page", "righting", lambda w, _: on_page("Tank", "Landings")(w)),
    "a pose": ("yellowbob.trials.ballasting", "ballasting", lambda w, _: w.tank.view.poser.begin()),
    "a list out": ("yellowbob.app.benches.fitout.shelf_page", "to_csv", list_out_and_in),
    "a list in": ("yellowbob.app.benches.fitout.shelf_page", "from_csv", list_out_and_in),
    "a weighing": ("yellowbob.app.benches.fitout.budget_page", "weighed", weighed_on_the_page),
    "builds begun": (f"{LOG}.build_page", "promised", lambda w, _: begun(w)),
    "a build's report": (f"{LOG}.build_page", "write_build", exchanged("Report of the build on the bench …", ".pdf")),
    "labels": (f"{LOG}.build_page", "write_labels", exchanged("Labels of the builds listed …", ".pdf")),
    "the whole log": (f"{LOG}.build_page", "whole_json", exchanged("Whole log as JSON …", ".json")),
    "builds as a table": (f"{LOG}.build_page", "builds_csv", exchanged("Builds as CSV …", ".csv")),
    "builds taken in": (f"{LOG}.build_page", "take_json", taken_in),
    "a copy put back": (f"{LOG}.build_page", "restore", copied_back),
    "builds compared": (f"{LOG}.sets_pages", "compared_builds", compared),
    "stations": (f"{SHOP}.list_pages", "stations", lambda w, _: on_page("Shop", "Stations")(w)),
    "a page of the packet": (f"{SHOP}.preview", "picture_of", paged_through),
    "a packet printed": (f"{SHOP}.packet_page", "print_pages", paged_through),
    "holes": (f"{SHOP}.list_pages", "bores", lambda w, _: on_page("Shop", "Holes")(w)),
    "what to measure": (f"{SHOP}.made_page", "bores", lambda w, _: on_page("Shop", "As made")(w)),
    "a tank test": (STORE, "LogBook.add", tried_in_the_tank),
    "a tank test's design": (STORE, "LogBook.design", tried_in_the_tank),
    "a water test": (STORE, "LogBook.add", tried_on_the_water),
    "words for a speed": (f"{LOG}.water_page", "speeds_of", tried_on_the_water),
    "hours": (STORE, "LogBook.add", told_of),
    "what became of a build": (STORE, "LogBook.change", told_of),
    "the design of a build": (STORE, "LogBook.design", its_design_opened),
    "a chart": (f"{LOG}.sets_pages", "charted", lambda w, _: (begun(w), on_page("Log", "Chart")(w))),
    "an own entry": ("yellowbob.shelf.own", "OwnShelf.put", own_entry),
    "an own entry taken off": ("yellowbob.shelf.own", "OwnShelf.remove", own_entry),
    "a count": ("yellowbob.shelf.own", "OwnShelf.set_count", own_entry),
    "a film weighed": ("yellowbob.shelf.own", "OwnShelf.put", film_onto_the_shelf),
    "what was learnt": ("yellowbob.shelf.own", "OwnShelf.put", learnt_onto_the_shelf),
    "a piece as made": ("yellowbob.shop.kept_made", "keep_made", as_made),
    "what is still to go in": (f"{LOG}.pages", "still_to_go", weighed_in_the_log),
}  # fmt: skip


def pages_of(window: Window) -> Iterator[tuple[str, Callable[[], object]]]:
    """Every page of every bench, and what turns to it."""
    for bench in BENCHES:
        window.show_bench(bench.title)
        paged = getattr(window.bench(bench.title), "paged", None)
        if paged is None:
            yield bench.title, lambda: None
            continue
        for page in list(paged.keys):
            yield f"{bench.title}: {page}", partial(paged.turn_to, page)


@pytest.fixture(autouse=True)
def own_workshop(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "workshop.sqlite"))


@pytest.mark.parametrize("what", CASES)
def test_it_is_done_on_another_thread(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, what: str
) -> None:
    module, name, do = CASES[what]
    there: Any = importlib.import_module(module)
    *owners, name = name.split(".")
    for owner in owners:
        there = getattr(there, owner)
    work, where = getattr(there, name), list[bool]()

    def noted(*args: Any, **named: Any) -> Any:
        where.append(threading.current_thread() is threading.main_thread())
        return work(*args, **named)

    monkeypatch.setattr(there, name, noted)
    do(window, tmp_path)
    idle(qtbot, window)
    assert where and not any(where)


@pytest.mark.parametrize("name", ["keep", "set_aside"])
def test_what_is_not_in_a_file_is_kept_on_another_thread(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    work, where = getattr(Recovery, name), list[bool]()

    def noted(*args: Any) -> None:
        where.append(threading.current_thread() is threading.main_thread())
        work(*args)

    monkeypatch.setattr(Recovery, name, noted)
    left_behind(window, tmp_path)
    qtbot.waitUntil(lambda: bool(where), timeout=60_000)
    assert not any(where)
    idle(qtbot, window)


@pytest.mark.parametrize("name", ["print-wake-92", "reed-waggler-217"])
def test_no_slow_result_is_worked_out_there(
    qtbot: QtBot, open_window: OpenWindow, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    """Every page, turned to with the figures known and after an edit, in both colours and other units."""
    window = open_window(name)
    idle(qtbot, window)
    found, slow = Study._found, list[str]()

    def noted(study: Study, asked: Result[Any]) -> Any:
        kept = study._kept.get(asked)
        value = found(study, asked)
        now = study._kept.get(asked)
        here = threading.current_thread() is threading.main_thread() and not study._doing.hurry
        if asked.slow and now is not kept and here:
            slow.append(f"{at}: {asked.words}")
        return value

    monkeypatch.setattr(Study, "_found", noted)
    at = ""
    for turn in ("known", "edited"):
        for page, turned_to in pages_of(window):
            at = f"{turn}, {page}"
            turned_to()
            if turn == "edited":
                density = 1.01 * window.session.design.body.density_g_ml
                window.session.edit(window.session.design.of_material(density_g_ml=density), "denser")
            qtbot.wait(1)
    at = "looks"
    window.turn_colours()
    window.turn_colours()
    for _ in range(3):
        window.next_units()
    idle(qtbot, window)
    assert not slow


def test_no_large_solid_is_made_ready_to_draw_there(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Every page after the body has another size; what is small enough is drawn as it is."""
    idle(qtbot, window)
    thin, where = picture.thinned, list[str]()

    def noted(*args: Any) -> Any:
        where.append(at if threading.current_thread() is threading.main_thread() else "apart")
        return thin(*args)

    monkeypatch.setattr(picture, "MOST_DRAWN", 400)
    monkeypatch.setattr(picture, "thinned", noted)
    at = "edited"
    window.session.edit(rescaled(window.session.design, 1.1), "larger")
    idle(qtbot, window)
    for at, turned_to in pages_of(window):
        turned_to()
        qtbot.wait(1)
        if at == "Tank: Variants":
            idle(qtbot, window)
            grabbed(window)
    idle(qtbot, window)
    assert set(where) == {"apart"}
