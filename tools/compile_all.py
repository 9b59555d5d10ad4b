"""Compiles every kernel once, in two processes, so that no first use of a bench or command waits for it. Quiet.

Kernels are compiled at their first call, so each is called, by small figures of the demo workshop. Usage: compile_all.py
"""

from __future__ import annotations

import contextlib
import io
import os
import sys
import tempfile
from collections.abc import Callable
from multiprocessing import get_context
from pathlib import Path

import numpy as np
import trimesh
from PIL import Image

from yellowbob.__main__ import main
from yellowbob.ground.compiled import cache_folder

DEMO = Path(__file__).parent.parent / "src" / "yellowbob" / "demo"


def command(*words: str) -> None:
    """A command, what it prints thrown away; one that fails is left to whoever gives it himself, to hear why."""
    quiet = io.StringIO()
    with contextlib.redirect_stdout(quiet), contextlib.redirect_stderr(quiet), contextlib.suppress(SystemExit):
        main(list(words))


def demo(name: str) -> str:
    return str(DEMO / f"{name}.ybob")


def what_moves() -> None:
    """Runs, swings and throws."""
    command("check", demo("osier-96"))
    command("drop", demo("osier-96"))
    command("cast", demo("osier-96"))
    command("action", demo("mill-tail-88"))


def what_rests() -> None:
    """Rests, landings, build odds, slugs, hollows; pictures of solids, and pictures that are traced."""
    from yellowbob.afloat.landing import rest_map
    from yellowbob.afloat.rest import Afloat, all_rests
    from yellowbob.app.session.warm import load_compiled
    from yellowbob.lines.mesh import Mesh
    from yellowbob.lines.tracing.png_filters import unfiltered

    load_compiled()
    square = trimesh.creation.box((60.0, 20.0, 20.0))
    beam = Afloat(Mesh(square.vertices, square.faces.astype(np.int32)), 12.0, (0.0, 0.0, 0.0), 0.001)
    rest_map(beam, all_rests(beam))
    command("odds", demo("weir-cup-62"), "--builds", "40")
    command("ballast", demo("weir-cup-62"), "--pitch", "20")
    command("check", demo("print-wake-92"))
    unfiltered(np.full((2, 7), 4, dtype=np.uint8), np.zeros(7, dtype=np.uint8), 3)
    with tempfile.TemporaryDirectory() as folder:
        picture = np.full((2400, 3000, 4), 230, dtype=np.uint8)
        picture[800:1600, 500:2500, :3] = 40
        file = Path(folder) / "picture.png"
        Image.fromarray(picture).save(file)
        ends = ("--known", "100 mm", "--from", "500,1200", "--to", "2499,1200")
        command("trace", str(file), *ends, "--out", str(Path(folder) / "traced.ybob"))


def apart(work: Callable[[], None]) -> None:
    """Some of the work, in a workshop and among rests of its own: only what is compiled is kept."""
    os.environ["NUMBA_CACHE_DIR"] = str(cache_folder())
    with tempfile.TemporaryDirectory() as folder:
        for name in ("CONFIG", "STATE", "DATA", "CACHE"):
            os.environ[f"XDG_{name}_HOME"] = folder
        work()


if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    started = [get_context("spawn").Process(target=apart, args=(work,)) for work in (what_moves, what_rests)]
    for one in started:
        one.start()
    for one in started:
        one.join()
    sys.exit(max(abs(one.exitcode or 0) for one in started))
