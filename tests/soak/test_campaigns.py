"""Long campaigns, run by `make soak`; their figures go to build/soak.json."""

from __future__ import annotations

import json
import math
import os
import random
import signal
import subprocess
import sys
import time
from collections import Counter
from pathlib import Path

import numpy as np
import pytest
import trimesh

from tests.conftest import DEMO, exact_cylinder, float_solid
from tests.core.test_ballast import bait, cast_in
from tests.core.test_design_files import SAVER, mutated
from tests.core.test_hollow import hold_their_walls
from tests.core.test_landing import brute_shares
from tests.core.test_trace_paints import judged, walk
from tests.lying_bodies import lying
from tests.painted_bodies import any_scene
from tests.rendered_bodies import rendered
from yellowbob.__main__ import main
from yellowbob.action.drop import drop, random_attitude, tally
from yellowbob.afloat.landing import rest_map
from yellowbob.afloat.rest import all_rests, rest_near
from yellowbob.ballast.pose import Pose
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING
from yellowbob.ground.errors import BadInput
from yellowbob.reports.floating import float_report
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import ballasting

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


def test_two_hundred_prints_have_the_wall_they_were_asked() -> None:
    note("hollow_prints", hold_their_walls(200, time.time_ns() % 2**32))


def test_painted_bodies_are_right_or_refused() -> None:
    seed = time.time_ns() % 2**32
    told = walk(8, seed)
    note("painted_bodies_traced", {**told, "seed": seed})
    assert told["wrong"] <= 0.005 * sum(told.values())


def test_bodies_in_any_colours_on_any_ground_are_right_or_refused() -> None:
    rng = np.random.default_rng(time.time_ns() % 2**32)
    told = Counter(judged(*any_scene(rng)) for _ in range(300))
    note("bodies_of_any_colour_traced", dict(told))
    assert told["wrong"] == 0 and told["right"] > 100


@pytest.mark.parametrize("light", ["soft", "hidden", "sunlit"])
def test_bodies_on_patterned_ground_are_right_or_refused(light: str) -> None:
    """By another painter; `hidden`: a part of each is painted in about its ground's colour; `sunlit`: under hard shadows."""
    seed = time.time_ns() % 2**32
    rng = np.random.default_rng(seed)
    told = Counter(judged(*lying(rng, light == "hidden", light == "sunlit")) for _ in range(250))
    note(f"lying_bodies_traced_{light}", {**told, "seed": seed})
    assert told["wrong"] <= (0.01 * sum(told.values()) if light == "hidden" else 0)
    assert told["right"] > (50 if light == "soft" else 15)


@pytest.mark.parametrize("hidden", [False, True])
def test_rendered_bodies_are_right_or_refused(hidden: bool) -> None:
    """By a painter who renders solids in light and sees them by a camera."""
    seed = time.time_ns() % 2**32
    rng = np.random.default_rng(seed)
    told = Counter(judged(*rendered(rng, hidden)) for _ in range(250))
    note(f"rendered_bodies_traced_{'hidden' if hidden else 'open'}", {**told, "seed": seed})
    assert told["wrong"] <= (0.01 * sum(told.values()) if hidden else 0)
    assert told["right"] > (0 if hidden else 10)


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


def test_five_hundred_throws_of_each_demo_end_in_rests() -> None:
    ends = {}
    for file in sorted(DEMO.glob("*.ybob")):
        study, rng, found = Study(read_design(file)), np.random.default_rng(17), []
        for _ in range(500 if study.design.kind not in STANDING else 12):
            found.append(
                drop(of.afloat(study), of.inertia_g_mm2(study), *random_attitude(rng), float(rng.uniform(0, 600))).end
            )
        counted = tally(found, of.rests(study))
        ends[file.stem] = {"ended": list(counted.counts), "not_in_a_rest": counted.restless}
        assert counted.restless == 0, file.stem
    note("throws", ends)


def test_shares_of_random_bodies_against_twenty_thousand_descents() -> None:
    rng, worst, tried = np.random.default_rng(23), 0.0, 0
    for _ in range(30):
        mesh = exact_cylinder(rng.uniform(5, 12), rng.uniform(12, 50), 40)
        mesh = type(mesh)(mesh.vertices * rng.uniform(0.4, 1.0, 3), mesh.faces)
        afloat = float_solid(mesh, rng.uniform(0.25, 0.75), centre=mesh.moments.centroid_mm + rng.normal(0, 0.25, 3))
        rests = all_rests(afloat)
        if len(rests) < 2 or any(r.neutral for r in rests):
            continue
        tried += 1
        brute = brute_shares(afloat, np.array([r.up for r in rests]), 20_000)
        worst = max(worst, float(np.abs(brute - rest_map(afloat, rests).shares).max()))
        if tried == 4:
            break
    note("landing_shares", {"bodies": tried, "descents_each": 20_000, "largest_difference": worst})
    assert worst < 0.01 + 3 * (0.25 / 20_000) ** 0.5


def test_ballast_is_given_back_over_random_builds() -> None:
    rng, off_mass, off_mm, done = np.random.default_rng(29), 0.0, 0.0, 0
    while done < 150:
        mass, at = float(rng.uniform(1.0, 7.0)), (float(rng.uniform(30, 60)), 0.0, float(rng.uniform(-6, 0)))
        built = Study(cast_in(bait(float(rng.uniform(0.3, 0.55))), mass, at))
        rest = of.upright_rest(built)
        if rest is None or rest.up[2] < 0.3 or rest.neutral:
            continue
        done += 1
        pose = Pose(rest.pitch_rad, rest.roll_rad, draft_mm=rest.draft_mm)
        work = ballasting(built.design.but(ballast=()), pose)
        posed, gone = work.posed, of.holes(built).ballast[0].gone
        wood_g = work.bare.build.body.density_g_ml * gone.mass_g
        net_g = mass - wood_g
        # a slug that stands out of the body takes wood's place with a part of it only
        away = (mass * np.array(at) - wood_g * np.asarray(gone.centre_mm)) / net_g - posed.point_mm
        off_mass = max(off_mass, abs(posed.ballast_g / net_g - 1))
        off_mm = max(off_mm, float(np.linalg.norm(away - posed.water.up * float(away @ posed.water.up))))
    note("ballast_given_back", {"builds": done, "largest_share_of_mass_off": off_mass, "largest_mm_off": off_mm})
    assert off_mass < 1e-3
    assert off_mm < 0.05


def test_more_triangles_than_a_design_holds_are_made_fewer(tmp_path: Path) -> None:
    """1.3 million of them: read, made lighter, its volume kept."""
    trimesh.creation.icosphere(subdivisions=8, radius=20.0).export(tmp_path / "fine.stl")
    with pytest.raises(SystemExit) as ended:
        main(["solid", str(tmp_path / "fine.stl"), "--unit", "mm", "-o", str(tmp_path / "fine.ybob")])
    assert ended.value.code == 0
    made = of.outer(Study(read_design(tmp_path / "fine.ybob")))
    note("triangles_read", 20 * 4**8)
    assert made.volume_mm3 == pytest.approx(4 / 3 * math.pi * 20**3, rel=1e-4)
