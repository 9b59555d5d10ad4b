"""Kept whole through anything: full disks, read-only homes, two programs on one file, locks, a scale that sends garbage."""

from __future__ import annotations

import ast
import os
import random
import resource
import signal
import sqlite3
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests.conftest import DEMO
from tests.core.test_clashes import hooks_leave_their_balls
from tests.core.test_clearances import collisions
from tests.core.test_set_in import set_in_missed
from tests.soak.test_campaigns import note
from yellowbob.design.files import read_design, to_json, write_design
from yellowbob.devices.reading import BadReading, read_line
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import BallastStock
from yellowbob.shelf.own import OwnShelf
from yellowbob.workshop.database import workshop_file

pytestmark = pytest.mark.soak

WRITER = """
import sys
from pathlib import Path
from yellowbob.design.files import read_design, write_design
design = read_design(sys.argv[1])
for number in range(int(sys.argv[3])):
    write_design(design.but(notes=sys.argv[4] * (200 + 37 * number % 3800)), Path(sys.argv[2]))
"""


def test_a_disk_that_fills_up_at_any_byte_leaves_the_old_file(tmp_path: Path) -> None:
    target, design, refused, runs = tmp_path / "kept.ybob", read_design(DEMO / "osier-96.ybob"), 0, 400
    write_design(design, target)
    old, rng = target.read_bytes(), random.Random(time.time_ns())
    size = len(to_json(design.but(notes="x" * 2000)).encode())
    before = resource.getrlimit(resource.RLIMIT_FSIZE)
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    try:
        for _ in range(runs):
            resource.setrlimit(resource.RLIMIT_FSIZE, (rng.randrange(size), before[1]))
            try:
                write_design(design.but(notes="x" * 2000), target)
            except BadInput as error:
                refused += 1
                assert "save it somewhere else" in str(error)
            finally:
                resource.setrlimit(resource.RLIMIT_FSIZE, before)
            assert target.read_bytes() == old
            assert list(tmp_path.iterdir()) == [target]
    finally:
        signal.signal(signal.SIGXFSZ, signal.SIG_DFL)
    note("full_disks", {"runs": runs, "refused": refused})
    assert refused == runs


def test_two_programs_on_one_file_never_show_half_of_either(tmp_path: Path) -> None:
    target, times = tmp_path / "shared.ybob", 150
    write_design(read_design(DEMO / "osier-96.ybob"), target)
    writers = [
        subprocess.Popen([sys.executable, "-c", WRITER, str(DEMO / "osier-96.ybob"), str(target), str(times), mark])
        for mark in "ab"
    ]
    seen = 0
    while any(w.poll() is None for w in writers):
        notes = read_design(target).notes
        assert len(set(notes)) <= 1 or notes == read_design(DEMO / "osier-96.ybob").notes
        seen += 1
    assert all(w.returncode == 0 for w in writers)
    assert [f.name for f in tmp_path.iterdir()] == ["shared.ybob"]
    note("two_programs", {"writes": 2 * times, "reads_between": seen})


@pytest.mark.parametrize("where", ["HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME", "XDG_STATE_HOME", "XDG_CONFIG_HOME"])
def test_a_home_that_cannot_be_written_stops_no_command(tmp_path: Path, where: str) -> None:
    blocked = tmp_path / "a file, not a folder"
    blocked.write_text("")
    done = subprocess.run(
        [sys.executable, "-m", "yellowbob", "float", str(DEMO / "osier-96.ybob")], capture_output=True, text=True,
        env={**os.environ, where: str(blocked / "in it")}, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert "to spare" in done.stdout


def test_a_locked_workshop_is_said_and_loses_nothing() -> None:
    shelf = OwnShelf()
    shelf.set_count(BallastStock, "lead rod 4 mm", 100.0)
    holder = sqlite3.connect(workshop_file(), isolation_level=None)
    holder.execute("BEGIN EXCLUSIVE")
    try:
        with pytest.raises(BadInput, match="another program holds"):
            shelf.set_count(BallastStock, "lead rod 4 mm", 50.0)
    finally:
        holder.execute("ROLLBACK")
        holder.close()
    assert OwnShelf().counts(BallastStock) == {"lead rod 4 mm": 100.0}


def test_a_scale_that_sends_garbage_never_gives_a_figure() -> None:
    rng, taken, runs = random.Random(time.time_ns()), 0, 20_000
    good = b"mass 31.24 g steady\n"
    for _ in range(runs):
        line = bytearray(good)
        for _ in range(rng.randint(1, 6)):
            way, at = rng.randrange(3), rng.randrange(len(line) or 1)
            if way == 0 and line:
                line[at] = rng.randrange(256)
            elif way == 1 and line:
                del line[at]
            else:
                line.insert(at, rng.randrange(256))
        try:
            read = read_line(bytes(line), "mass")
        except BadReading:
            continue
        taken += 1
        # what is taken must be what is written there, in the unit that is written there
        assert f"{read.value:g}" != "" and read.what == "mass" and abs(read.value) < 1e9
    note("garbled_lines", {"runs": runs, "still_a_reading": taken})


def test_ten_thousand_fit_outs_miss_no_collision() -> None:
    missed, struck = collisions(10_000, time.time_ns() % 2**32)
    left, tried = hooks_leave_their_balls(2_000, time.time_ns() % 2**32)
    unsaid, met = set_in_missed(600, time.time_ns() % 2**32)
    note("fit_outs", {
        "runs": 10_000, "struck": struck, "missed": missed, "hooks_on_rings": tried, "left_their_ball": left,
        "set_in": 600, "set_in_met": met, "set_in_unsaid": unsaid,
    })  # fmt: skip
    assert missed == 0 and left == 0 and unsaid == 0


def test_set_up_compiles_every_kernel(tmp_path: Path) -> None:
    tool = DEMO.parent.parent.parent / "tools" / "compile_all.py"
    subprocess.run([sys.executable, str(tool)], env={**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}, check=True)
    kept = {file.name.partition("-")[0] for file in tmp_path.rglob("*.nbc")}
    kernels = {
        f"{file.stem}.{part.name}"
        for file in DEMO.parent.rglob("*.py")
        for part in ast.walk(ast.parse(file.read_text(encoding="utf-8")))
        if isinstance(part, ast.FunctionDef)
        and any(isinstance(mark, ast.Name) and mark.id == "compiled" for mark in part.decorator_list)
    }
    assert kernels and kernels - kept == set()
    note("kernels_compiled_by_set_up", len(kernels))
