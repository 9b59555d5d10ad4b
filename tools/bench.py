"""Measure speed as ratios within one run, into a JSON file. Usage: bench.py OUT.json"""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

import manifold3d
import numpy as np
import trimesh

from yellowbob.afloat import search
from yellowbob.afloat.kernel import SUMS, axes_across, immerse
from yellowbob.afloat.rest import face_table
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.warm import load_compiled
from yellowbob.ballast.pose import Pose
from yellowbob.design.files import read_design
from yellowbob.design.shape import Turned
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import followed

UP = np.array([0.3, 0.2, 0.9]) / np.linalg.norm([0.3, 0.2, 0.9])


def median_s(work: Callable[[], Any], runs: int) -> float:
    """Median seconds of one call, after one uncounted."""
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def immersion_s(mesh: Mesh) -> float:
    """Median seconds of one immersion, over attitudes spread evenly and half in the water."""
    centre = mesh.moments.centroid_mm
    vertices = np.ascontiguousarray(mesh.vertices - centre)
    faces = np.ascontiguousarray(mesh.faces, dtype=np.int32)
    table, high, out = face_table(vertices, faces), np.empty(len(vertices)), np.empty(SUMS)
    directions, frames = search.spiral(64), np.empty((64, 2, 3))
    for u, e in zip(directions, frames, strict=True):
        axes_across(u, e)

    def all_round() -> None:
        for u, e in zip(directions, frames, strict=True):
            immerse(vertices, faces, table, u, 0.0, e, high, out)

    return median_s(all_round, 30) / 64


def bench_immersion() -> dict[str, float]:
    points = [{"at_mm": (x, r), "bend": b} for x, r, b in ((0, 0, "round"), (40, 12, "smooth"), (80, 0, "round"))]
    mesh = loft(Turned.model_validate({"profile": points}))
    shifted = Mesh(mesh.vertices - mesh.moments.centroid_mm, mesh.faces)
    ours = immersion_s(mesh)
    other = trimesh.Trimesh(shifted.vertices, shifted.faces, process=False)
    solid = manifold3d.Manifold(manifold3d.Mesh64(shifted.vertices, shifted.faces.astype(np.uint64)))
    sliced = median_s(lambda: other.slice_plane([0, 0, 0], -UP, cap=True).volume, 9)
    trimmed = median_s(lambda: solid.trim_by_plane(-UP, 0.0).volume(), 15)
    return {
        "triangles": len(mesh.faces),
        "immersion_us": ours * 1e6,
        "trimesh_slice_plane_ratio": sliced / ours,
        "manifold3d_trim_by_plane_ratio": trimmed / ours,
    }


def bench_rests() -> dict[str, Any]:
    found = {}
    for file in demo_files():
        afloat = of.afloat(Study(read_design(file)))
        rows = np.zeros((search.MOST_RESTS, search.ROW))
        one = immersion_s(afloat.hull)
        whole = median_s(lambda a=afloat, r=rows: search.find_rests(*a.arrays, a.scale_nj, r), 9)  # type: ignore[misc]
        _, counted = search.find_rests(*afloat.arrays, afloat.scale_nj, rows)
        found[file.stem] = {"in_immersions_time": whole / one, "immersions_counted": int(counted), "ms": whole * 1e3}
    return found


def demo_windows() -> Iterator[tuple[Any, Path, Any]]:
    """The application, a demo file and a window on it, one after the other, with folders of their own."""
    from yellowbob.app.frame.main import application
    from yellowbob.app.frame.window import Window
    from yellowbob.app.session.recovery import Recovery
    from yellowbob.app.session.session import Session
    from yellowbob.app.session.settings import Settings

    with tempfile.TemporaryDirectory() as scratch:
        settings = Settings(Path(scratch))
        app = application(settings)
        for file in demo_files():
            window = Window(Session(read_design(file), Recovery(Path(scratch)), file), settings)
            window.show()
            yield app, file, window
            window.close()


def bench_drag() -> dict[str, float]:
    """One frame of a ballast drag: pointer moved, solved, painted."""
    from PySide6.QtCore import QPointF, Qt
    from PySide6.QtTest import QTest

    from yellowbob.design.edits import Grip

    medians = {}
    for app, file, window in demo_windows():
        if not (window.session.design.ballast or window.session.design.fittings):
            continue  # a float that nothing hangs on: its free end is dragged, below
        app.processEvents()
        view = window.tank.view
        piece = Grip("ballast" if window.session.design.ballast else "fitting", 0)
        place = view.place_of(piece)
        start = QPointF(*view.camera().pixels(place)).toPoint()
        QTest.mousePress(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
        times = []
        for step in range(60):
            at = start + QPointF((step % 2) * 2 + step % 7, 0).toPoint()
            before, drawn = time.perf_counter(), view.frames
            QTest.mouseMove(view, at)
            while view.frames == drawn and time.perf_counter() - before < 0.5:
                app.processEvents()
            times.append(time.perf_counter() - before)
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
        medians[file.stem] = statistics.median(times) * 1e3
    return medians


def bench_landings() -> dict[str, Any]:
    """The rest map of 2,562 attitudes and 5,000 builds, in the time of that design's own immersions."""
    from yellowbob.afloat.landing import grid, rest_map
    from yellowbob.trials.odds import odds

    grid()
    found = {}
    for file in demo_files():
        study = Study(read_design(file))
        afloat, rests, one = of.afloat(study), of.rests(study), immersion_s(of.hull(study))
        bare = Study(study.design.but(ballast=()))
        odds(study, 250, 1, compare=False)
        start = time.perf_counter()
        built = odds(study, 5000, 1, compare=False)
        builds = time.perf_counter() - start
        entry = {
            "attitudes": len(grid().directions),
            "map_in_immersions_time": median_s(partial(rest_map, afloat, rests), 5) / one,
            "builds_5000_in_immersions_time": builds / one,
            "builds_5000_immersions_counted": built.done.immersions,
        }
        if of.afloat(bare).floats and len(of.rests(bare)) > 1:
            whole = median_s(partial(rest_map, of.afloat(bare), of.rests(bare)), 3)
            entry["map_without_ballast_in_immersions_time"] = whole / immersion_s(of.hull(bare))
        found[file.stem] = entry
    return found


def bench_action() -> dict[str, Any]:
    """Trims at 60 speeds, and their swings, in the time of the design's own immersions; a slider move redrawn, ms."""
    from yellowbob.action.running import run
    from yellowbob.action.stability import stability

    found: dict[str, Any] = {}
    for app, file, window in demo_windows():
        study = window.session.study
        rest = of.upright_rest(study)
        if rest is None or of.rig(study) is not None or of.stands_by_kind(study):
            continue
        thing, one, speeds = of.pulled(study), immersion_s(of.hull(study)), [k / 30.0 for k in range(60)]
        ran = run(thing, rest, speeds, of.USUAL_LINE)
        entry = {
            "trims": len(ran.trims),
            "sweep_in_immersions_time": median_s(partial(run, thing, rest, speeds, of.USUAL_LINE), 3) / one,
            "sideways_in_immersions_time":
                median_s(partial(stability, thing, ran, of.USUAL_LINE, of.body(study)), 3) / one,
        }  # fmt: skip
        window.show_bench("Action")
        page, view = window.action.run, window.action.view
        limit = time.monotonic() + 60
        while page.drawn is None and time.monotonic() < limit:
            app.processEvents()
        times = []
        for step in range(60):
            before = time.perf_counter()
            page.slider.setValue(step % 40)
            view.repaint()
            times.append(time.perf_counter() - before)
        entry["slider_redraw_median_ms"] = 1000.0 * statistics.median(times)
        found[file.stem] = entry
    return found


def bench_pose() -> dict[str, dict[str, float]]:
    """A pose dragged: to the locus alone, and to the repaint with it."""
    from PySide6.QtCore import QPointF

    found = {}
    for app, file, window in demo_windows():
        window.show_tank_page("Pose it")
        app.processEvents()
        poser, view = window.tank.poser, window.tank.view
        work = poser.work
        if work is None:
            continue
        turns = iter(np.linspace(0.0, 0.05, 200))
        alone = median_s(lambda work=work, poser=poser, turns=turns: followed(
            work, Pose(work.pose.pitch_rad + float(next(turns)), mass_g=work.posed.total_g)), 40)  # fmt: skip
        centre = view.camera().pixels(work.posed.water.centre_mm)
        start = QPointF(centre[0] - 30 * view.camera().scale, centre[1])
        poser._grab = ("tilt", start)
        window.session.dragging = True
        steps = iter(range(1, 400))

        def frame(app: Any = app, poser: Any = poser, view: Any = view, start: Any = start, steps: Any = steps) -> None:
            poser.move(QPointF(start.x(), start.y() + 8 * np.sin(next(steps) / 9)), view.camera())
            app.processEvents()

        found[file.stem] = {"locus_median_ms": alone * 1e3, "frame_median_ms": median_s(frame, 40) * 1e3}
        poser.release()
    return found


def bench_outline_drag() -> dict[str, dict[str, float]]:
    """Dragging a point of an outline: to the repaint, and until the exact solid has followed."""
    from yellowbob.design.outline_edits import PointRef, curve_names, outline_of

    found = {}
    for app, file, window in demo_windows():
        window.show_bench("Lines")
        app.processEvents()
        view = window.lines.view
        ref = PointRef(curve_names(window.session.design)[0], 1)
        x, z = outline_of(window.session.design, ref.curve)[1].at_mm
        frames, follows = [], []
        for step in range(24):
            start, drawn = time.perf_counter(), view.frames
            view.put_point(ref, x, z + 0.1 * (1 + step % 5))
            view.repaint()
            while view.frames == drawn:
                app.processEvents()
            frames.append(time.perf_counter() - start)
            while view.draft is not None and time.perf_counter() - start < 3:
                app.processEvents()
            _ = of.outer(window.session.study)
            follows.append(time.perf_counter() - start)
        repaint, follow = statistics.median(frames) * 1e3, statistics.median(follows) * 1e3
        found[file.stem] = {"repaint_median_ms": repaint, "solid_follows_median_ms": follow}
    return found


def bench_free_end_drag() -> dict[str, float]:
    """Dragging the free end of a float's lowest piece: one frame, most of them drawn, some solved, with the pointer at 60 a
    second."""
    from yellowbob.design.corner_edits import corners
    from yellowbob.design.shape import Turned

    medians = {}
    for app, file, window in demo_windows():
        design = window.session.design
        ends = [c for c in corners(design) if isinstance(design.parts[c.part].shape, Turned)]
        if not ends:
            continue
        window.show_bench("Lines")
        app.processEvents()
        view, (x, y) = window.lines.view, ends[-1].at_mm
        window.session.dragging, times = True, []
        for step in range(90):
            start, drawn = time.perf_counter(), view.frames
            view.put_corner(ends[-1], x + 0.2 * (1 + step % 9), y)
            while view.frames == drawn and time.perf_counter() - start < 0.5:
                app.processEvents()
            times.append(time.perf_counter() - start)
            time.sleep(max(0.0, 1.0 / 60.0 - times[-1]))
        window.session.dragging = False
        medians[file.stem] = statistics.median(times) * 1e3
    return medians


def bench_trace() -> dict[str, float]:
    """Finding the silhouette in the demo picture and fitting it."""
    from yellowbob.app.session.demo_designs import DEMO_PICTURE
    from yellowbob.lines.tracing.silhouette import find_silhouette, read_picture
    from yellowbob.lines.tracing.trace import traced

    pixels = read_picture(DEMO_PICTURE)
    return {
        "silhouette_s": median_s(lambda: find_silhouette(pixels), 3),
        "whole_trace_s": median_s(lambda: traced(find_silhouette(read_picture(DEMO_PICTURE)), 0.1, False), 3),
    }


BARE = """
import sys
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
class Bare(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        print("painted", flush=True)
w = Bare(); w.resize(1280, 800); w.show(); app.exec()
"""
OURS = """
import sys
from pathlib import Path
from yellowbob.app.frame.main import application, make_window
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.settings import Settings
from PySide6.QtCore import QTimer
folder = Path(sys.argv[1])
app = application(Settings(folder))
w = make_window(Path(sys.argv[2]), Settings(folder), Recovery(folder))
w.show()
def look():
    if w.tank.view.frames and w.session.rest is not None:
        print("painted", flush=True)
        timer.stop()
timer = QTimer(); timer.timeout.connect(look); timer.start(1)
app.exec()
"""


def bench_start() -> dict[str, float]:
    """Whole processes to the first painted window, bare and ours in turn."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    bare, ours = [], []
    with tempfile.TemporaryDirectory() as scratch:
        for run in range(8):
            for script, times in ((BARE, bare), (OURS, ours)):
                command = [sys.executable, "-c", script, scratch, str(demo_files()[0])]
                start = time.perf_counter()
                with subprocess.Popen(
                    command, env=environment, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
                ) as ran:
                    assert ran.stdout is not None
                    ran.stdout.readline()
                    taken = time.perf_counter() - start
                    ran.kill()
                if run:
                    times.append(taken)
    b, o = statistics.median(bare), statistics.median(ours)
    return {"bare_s": b, "ours_s": o, "ratio": o / b}


FIRST = """
import sys
from yellowbob.app.start.opening import Opening
painted = Opening.paintEvent
def paint(self, event):
    painted(self, event)
    print("painted", flush=True)
Opening.paintEvent = paint
from yellowbob.__main__ import main
main([])
"""


def first_paint_s(script: str, home: Path | None) -> float:
    """Seconds from starting a process to its first painted window; with a `home` every cache in it is empty."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    if home is not None:
        names = (
            "HOME",
            "XDG_CACHE_HOME",
            "XDG_CONFIG_HOME",
            "XDG_STATE_HOME",
            "PYTHONPYCACHEPREFIX",
            "NUMBA_CACHE_DIR",
        )
        environment |= {name: str(home / name) for name in names}
    start = time.perf_counter()
    with subprocess.Popen(
        [sys.executable, "-c", script], env=environment, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
    ) as ran:
        assert ran.stdout is not None
        ran.stdout.readline()
        taken = time.perf_counter() - start
        ran.kill()
    return taken


def bench_first_paint() -> dict[str, float]:
    """The first painted window against a bare Qt window's, caches warm and empty."""
    found = {}
    for words, empty in (("warm", False), ("empty", True)):
        medians = []
        for script in (BARE, FIRST):
            times = []
            for run in range(5):
                with tempfile.TemporaryDirectory() as scratch:
                    taken = first_paint_s(script, Path(scratch) if empty else None)
                if run or empty:
                    times.append(taken)
            medians.append(statistics.median(times))
        found |= {
            f"{words}_bare_s": medians[0],
            f"{words}_ours_s": medians[1],
            f"{words}_ratio": medians[1] / medians[0],
        }
    return found


def standstills(tool: str) -> dict[str, Any]:
    """How long the event loop stands still, in a process of its own; see tools/stalls.py and tools/presses.py."""
    ran = subprocess.run(
        [sys.executable, str(Path(__file__).with_name(tool))], capture_output=True, text=True, check=True
    )
    found: dict[str, Any] = json.loads(ran.stdout)
    return found


def bench_new() -> dict[str, Any]:
    """A brief of each kind at its starter's own size, answered, in the time of the answer's own immersions."""
    from yellowbob.design.files import read_design
    from yellowbob.design.model import STANDING
    from yellowbob.trials.answer import answered
    from yellowbob.trials.asked import LURES, Asked, starter_file
    from yellowbob.trials.standing import whole_mm

    found = {}
    for kind in (*LURES, *STANDING, "dropper"):
        first = read_design(starter_file(kind))
        long = whole_mm(first) if kind in STANDING else first.shape.length_mm
        asked = Asked(kind=kind, length_mm=long)
        answer = answered(asked)
        took = median_s(partial(answered, asked), 3)
        one = immersion_s(of.hull(Study(answer.design)))
        found[kind] = {"in_immersions_time": took / one, "ms": took * 1e3, "sound": answer.sound}
    return found


PARTS: dict[str, Callable[[], Any]] = {
    "immersion": bench_immersion,
    "new": bench_new,
    "all_rests": bench_rests,
    "drag_frame_median_ms": bench_drag,
    "landings": bench_landings,
    "action": bench_action,
    "pose_drag": bench_pose,
    "outline_drag": bench_outline_drag,
    "free_end_drag_frame_median_ms": bench_free_end_drag,
    "trace": bench_trace,
    "window_start": bench_start,
    "first_paint": bench_first_paint,
    "standstills": partial(standstills, "stalls.py"),
    "standstills_pressed": partial(standstills, "presses.py"),
}
"""Some 20 minutes, most of them the last two; the file is written anew after each, and is good up to there if it is ended."""


def main(out: Path) -> None:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    load_compiled()
    result: dict[str, Any] = {}
    out.parent.mkdir(parents=True, exist_ok=True)
    for name, work in PARTS.items():
        start = time.perf_counter()
        result[name] = work()
        out.write_text(json.dumps(result, indent=2) + "\n")
        print(f"{name}: {time.perf_counter() - start:.0f} s", file=sys.stderr, flush=True)
    print(json.dumps(result, indent=2))


if __name__ == "__main__":
    main(Path(sys.argv[1]))
