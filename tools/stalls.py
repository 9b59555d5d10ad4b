"""How long the window's event loop stands still: a heartbeat through start, benches, pages, edits and drags of the demos.

Usage: stalls.py [DEMO …] [--show]; `make bench` takes its figures into build/bench.json.
"""

from __future__ import annotations

import json
import os
import sys
import tempfile
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEventLoop, QPointF, Qt, QTimer
from PySide6.QtTest import QTest

from yellowbob.app.session.settings import Settings
from yellowbob.app.start.desk import dressed
from yellowbob.app.start.run import Starter

BEAT_MS, LONG_S, STALL_S = 2, 0.05, 0.10
Step = tuple[str, Callable[[], object]]


class Heart:
    """Beats while the event loop runs; `gaps` are the longest silence within each step, s, and what of it the thread itself
    worked: the rest is what the machine, or another thread, took from it."""

    def __init__(self) -> None:
        self.doing, self.last, self.worked = "", time.perf_counter(), time.thread_time()
        self.gaps: dict[str, tuple[float, float]] = {}
        self.timer = QTimer()
        self.timer.setInterval(BEAT_MS)
        self.timer.timeout.connect(self.beat)
        self.timer.start()

    def beat(self) -> None:
        """Note how long it has been silent."""
        now, worked = time.perf_counter(), time.thread_time()
        gap = now - self.last, worked - self.worked
        self.gaps[self.doing] = max(self.gaps.get(self.doing, (0.0, 0.0)), gap)
        self.last, self.worked = now, worked

    def rest(self, seconds: float) -> None:
        """Let the loop run, as it would by itself."""
        loop = QEventLoop()
        QTimer.singleShot(round(1000 * seconds), loop.quit)
        loop.exec()

    def through(self, what: str, work: Callable[[], object], settled: Callable[[], bool], most_s: float = 5.0) -> None:
        """Do a step from within the loop, and let the loop run until all is settled."""
        self.last, self.worked = time.perf_counter(), time.thread_time()  # nothing from before it
        self.doing = what
        QTimer.singleShot(0, work)
        end = time.monotonic() + most_s
        self.rest(0.03)
        while not settled() and time.monotonic() < end:
            self.rest(0.02)
        self.rest(0.03)


def turns(window: Any) -> Iterator[Step]:
    """Every bench and page, twice each, then edits."""
    from yellowbob.app.benches.registry import BENCHES

    for one in BENCHES:
        yield f"bench {one.title}", lambda t=one.title: window.show_bench(t)
        paged = getattr(window.bench(one.title), "paged", None)
        for again in ("", " again") if paged is not None else ():
            for page in list(paged.keys):
                yield f"{one.title}: {page}{again}", lambda p=page, d=paged: d.turn_to(p)
    yield "New", window.show_new
    yield "bench Tank", lambda: window.show_bench("Tank")
    session = window.session
    yield "edit: density", lambda: window.tank.water._density(1.01 * session.design.body.density_g_ml)
    yield "undo", session.undo.undo
    for _ in range(2):
        yield "colours", window.turn_colours
    yield "units", window.next_units
    for _ in range(2):
        yield "units", window.next_units


def drags(window: Any) -> Iterator[Step]:
    """A piece and an outline's point pulled about."""
    from yellowbob.design.edits import grips

    view = window.tank.view
    pieces = grips(window.session.design)
    if pieces and (place := view.place_of(pieces[0])) is not None:
        start = QPointF(*view.camera().pixels(place)).toPoint()
        yield from pulled(view, start, "drag of a piece")
    yield "bench Lines", lambda: window.show_bench("Lines")
    lines = window.lines.view
    from yellowbob.design.outline_edits import curve_names, outline_of

    names = curve_names(window.session.design)
    if names:
        outline = outline_of(window.session.design, names[0])
        at = outline[len(outline) // 2].at_mm
        yield from pulled(lines, lines.to_px(names[0], *at).toPoint(), "drag of an outline")


def pulled(view: Any, start: Any, words: str) -> Iterator[Step]:
    """Press, twelve small moves, let go."""
    none, left = Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton
    yield words, lambda: QTest.mousePress(view, left, none, start)
    for k in range(1, 13):
        yield words, lambda k=k: QTest.mouseMove(view, start + QPointF(k % 4, k % 3 - 1).toPoint())
    yield words, lambda: QTest.mouseRelease(view, left, none, start)


def opened(file: Path, scratch: Path, heart: Heart, settings: Settings) -> tuple[Any, Callable[[], bool]]:
    """A window on a design, with all that is made ahead, and what tells whether it has nothing to do."""
    from yellowbob.app.frame import main

    heart.gaps, heart.last, heart.worked = {}, time.perf_counter(), time.thread_time()
    starter = Starter(settings, lambda _: main.first_of(file, settings))
    heart.through("start", starter.begin, lambda: starter.window is not None, 120.0)
    window = starter.window
    assert window is not None
    session = window.session
    session.recovery.file = scratch / "kept.json"

    def settled() -> bool:
        return not session.waiting and not session.tasks.doing

    heart.through("start", lambda: None, settled)
    ahead = starter.ahead
    assert ahead is not None
    heart.through("made ahead", lambda: None, lambda: ahead.done, 60.0)
    return window, settled


def standstills(file: Path, scratch: Path, heart: Heart, settings: Settings) -> dict[str, tuple[float, float]]:
    """The longest silence within each step for one design, s, and what of it was work."""
    window, settled = opened(file, scratch, heart, settings)
    for walk, most_s in ((turns, 5.0), (drags, 0.3)):  # while something is dragged, slow work waits
        for what, work in walk(window):
            heart.through(what, work, settled, most_s)
    heart.doing = "end"
    window.crashes.end()
    window.close()
    window.deleteLater()  # or changing colours would dress the windows of all designs before as well
    heart.rest(0.2)
    found = dict(heart.gaps)
    for aside in ("", "end"):
        found.pop(aside, None)
    return found


def summed(found: dict[str, tuple[float, float]]) -> dict[str, Any]:
    """How many steps there were, how many stood still too long, and worked too long, and the worst of them in ms."""
    worst = sorted(found.items(), key=lambda pair: -pair[1][0])[:5]
    return {
        "steps": len(found),
        "over_50_ms": sum(s > LONG_S for s, _ in found.values()),
        "over_100_ms": sum(s > STALL_S for s, _ in found.values()),
        "worked_over_50_ms": sum(w > LONG_S for _, w in found.values()),
        "worked_over_100_ms": sum(w > STALL_S for _, w in found.values()),
        "worst_ms": {what: [round(1e3 * s, 1), round(1e3 * w, 1)] for what, (s, w) in worst},
    }


def measured(names: list[str]) -> dict[str, Any]:
    """For each demo (all of them where none is named)."""
    from yellowbob.app.session.demo_designs import demo_files

    with tempfile.TemporaryDirectory() as folder:
        scratch = Path(folder)
        os.environ["YELLOW_BOB_WORKSHOP"] = str(scratch / "workshop.sqlite")
        settings = Settings(scratch)
        dressed(settings)
        heart = Heart()
        files = [f for f in demo_files() if not names or f.stem in names]
        return {f.stem: summed(standstills(f, scratch, heart, settings)) for f in files}


def watch(heart_of: list[Heart]) -> None:
    """Where the interface is while it stands still, sampled."""
    main = threading.main_thread().ident
    assert main is not None
    told = None
    while True:
        time.sleep(0.005)
        if not heart_of:
            continue
        heart = heart_of[0]
        if time.perf_counter() - heart.last > 0.06 and told != heart.last:
            told = heart.last
            own = [s for s in traceback.extract_stack(sys._current_frames()[main]) if "yellowbob" in s.filename]
            here = " < ".join(f"{Path(s.filename).name}:{s.lineno} {s.name}" for s in reversed(own[-5:]))
            print(f"  {heart.doing}: {here}", file=sys.stderr)


if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    if "--show" in sys.argv:
        hearts: list[Heart] = []
        made = Heart.__init__

        def shown(self: Heart) -> None:
            made(self)
            hearts.append(self)

        Heart.__init__ = shown  # type: ignore[method-assign]
        threading.Thread(target=watch, args=(hearts,), daemon=True).start()
    print(json.dumps(measured([n for n in sys.argv[1:] if not n.startswith("-")]), indent=2))
