"""Long campaigns, run by `make soak`; their figures go to build/soak.json."""

from __future__ import annotations

import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import DEMO, exact_cylinder, float_solid
from tests.core.test_design_files import SAVER, mutated
from yellowbob.afloat.rest import all_rests, rest_near
from yellowbob.design.files import read_design
from yellowbob.errors import BadInput
from yellowbob.report import float_report
from yellowbob.study import Study

pytestmark = pytest.mark.soak
FIGURES = Path("build/soak.json")


def note(key: str, value: object) -> None:
    FIGURES.parent.mkdir(exist_ok=True)
    kept = json.loads(FIGURES.read_text()) if FIGURES.exists() else {}
    FIGURES.write_text(json.dumps({**kept, key: value}, indent=2) + "\n")


def test_kills_during_saves(tmp_path: Path) -> None:
    target, runs, rng = tmp_path / "kept.ybob", 150, random.Random(5)
    for _ in range(runs):
        with subprocess.Popen(
            [sys.executable, "-c", SAVER, str(DEMO / "osier-96.ybob"), str(target)], stdout=subprocess.PIPE
        ) as saver:
            assert saver.stdout is not None
            saver.stdout.readline()
            time.sleep(rng.uniform(0.0, 0.06))
            os.kill(saver.pid, signal.SIGKILL)
        if target.exists():
            read_design(target)
    note("kills_survived", runs)


def test_ten_thousand_broken_files(tmp_path: Path) -> None:
    rng, refused, runs = random.Random(time.time_ns()), 0, 10_000
    texts = [f.read_text(encoding="utf-8") for f in sorted(DEMO.glob("*.ybob"))]
    file = tmp_path / "broken.ybob"
    for _ in range(runs):
        content = mutated(rng.choice(texts), rng)
        file.write_bytes(content)
        try:
            float_report(Study(read_design(file)))
        except BadInput:
            refused += 1
        assert file.read_bytes() == content
    note("mutations", {"runs": runs, "refused": refused})


def test_descents_end_in_the_rests_that_were_found() -> None:
    rng, strays, tried = np.random.default_rng(11), 0, 0
    for _ in range(40):
        mesh = exact_cylinder(rng.uniform(4, 12), rng.uniform(10, 60), 48)
        mesh = type(mesh)(mesh.vertices * rng.uniform(0.5, 1.0, 3), mesh.faces)
        afloat = float_solid(mesh, rng.uniform(0.15, 0.85), centre=rng.normal(0, 1.5, 3))
        ups = np.array([r.up for r in all_rests(afloat) if not r.neutral])
        if len(ups) == 0:
            continue
        for start in rng.normal(size=(150, 3)):
            tried += 1
            end = np.asarray(rest_near(afloat, tuple(start)).up)
            strays += bool((ups @ end).max() < np.cos(np.radians(2.0)))
    note("descents", {"tried": tried, "ended_elsewhere": strays})
    assert strays == 0
