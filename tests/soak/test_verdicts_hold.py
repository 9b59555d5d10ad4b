"""Verdicts and remedies of standing, lying and sinking designs against the full solve, each from nothing kept."""

from __future__ import annotations

import math
import time

import numpy as np
import pytest

from tests.conftest import DEMO
from tests.core.test_ballast import bait, cast_in
from tests.core.test_remedies_done import STANDING as FLOATS
from tests.core.test_remedies_done import asked_for, laden
from tests.core.test_shotting import stick
from tests.soak.test_campaigns import note
from yellowbob.afloat.landing import rest_map
from yellowbob.afloat.rest import all_rests
from yellowbob.ballast.pose import Pose
from yellowbob.checks.registry import verdicts
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Brief, Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import ballasting
from yellowbob.trials.remedies import remedies

pytestmark = pytest.mark.soak


def some_design(rng: np.random.Generator) -> Design:
    """Lying with ballast in its belly, heavy enough to sink, standing on its tail, or a float under shot."""
    way = int(rng.integers(4))
    if way == 3:
        return stick(rig={"tip_mm": 10.0, "hung": [{"name": "bulk", "mass_g": float(rng.uniform(0.1, 4.0))}]})
    design = bait(float(rng.uniform(0.3, 0.6)))
    long = design.shape.length_mm
    at = {0: (long * float(rng.uniform(0.3, 0.7)), 0.0, float(rng.uniform(-6, -1))),
          1: (long * 0.5, 0.0, -3.0), 2: (long * 0.92, 0.0, 0.0)}[way]  # fmt: skip
    mass = {0: rng.uniform(0.5, 5.0), 1: rng.uniform(15.0, 40.0), 2: rng.uniform(3.0, 9.0)}[way]
    wanted = float(rng.uniform(-10, 85))
    return cast_in(design, float(mass), at).but(
        brief=Brief.model_validate({"pitch_deg": {"least": wanted - 5, "most": wanted + 5}})
    )


def test_sixty_designs_are_judged_as_the_full_solve_judges_them() -> None:
    rng, told = np.random.default_rng(time.time_ns() % 2**32), {"designs": 60, "disagree": 0, "remedies": 0, "idle": 0}
    for _ in range(60):
        design = some_design(rng)
        study = Study(design)
        said = {v.key: v for v in verdicts(study)}
        build = of.afloat(Study(design))
        floats = build.mass_g < build.density_g_mm3 * build.volume_mm3
        wrong = (said["floats"].state == "failed") == floats
        if floats:
            rests = all_rests(build)
            shares = rest_map(build, rests).shares
            wanted = np.asarray(of.wanted_up(Study(design)))
            best = max(range(len(rests)), key=lambda k: float(np.dot(rests[k].up, wanted)))
            pitch = math.degrees(rests[best].pitch_rad)
            span = design.brief.pitch_deg
            if span is not None and min(abs(pitch - span.least), abs(pitch - span.most)) > 0.1:
                wrong |= (said["sits"].state == "good") != span.holds(pitch)
            near = float(np.dot(rests[best].up, wanted))
            if len(rests) > 1 and near > 0.2 and abs(shares[best] - 0.7) > 0.02:
                wrong |= (said["upright"].state == "failed") != (shares[best] < 0.7)
        told["disagree"] += wrong
        if design.rig is None and design.brief.pitch_deg is not None:
            _count_remedies(design, told)
    note("verdicts", told)
    assert told["disagree"] == 0 and told["idle"] == 0


def _count_remedies(design: Design, told: dict[str, int]) -> None:
    """Every remedy that is offered, done by itself: it must give what it promised."""
    assert design.brief.pitch_deg is not None
    pose = Pose(math.radians(design.brief.pitch_deg.middle), mass_g=of.slip(Study(design)).finished.mass_g)
    try:
        work = ballasting(design.but(ballast=()), pose)
    except YellowBobError:
        return
    for one in remedies(work):
        told["remedies"] += 1
        again = ballasting(one.change.make(work.bare.build), pose)
        helped = again.locus.feasible or again.posed.ballast_g > work.posed.ballast_g
        told["idle"] += not helped or abs(again.posed.ballast_g - one.ballast_g) > 1e-6


def test_shot_asked_for_by_random_floats_does_what_it_promised() -> None:
    """Tip and cocks over random loads and tips: what they say to put on or take off, done."""
    rng, told = np.random.default_rng(time.time_ns() % 2**32), {"asked": 0, "idle": 0, "judged": 0}
    for _ in range(60):
        first = read_design(DEMO / f"{rng.choice(FLOATS)}.ybob")
        assert first.rig is not None
        tip_mm, times = float(rng.uniform(6.0, 40.0)), float(rng.uniform(0.03, 2.5))
        design = laden(first.but(rig=replaced(first.rig, tip_mm=tip_mm)), times)
        found = {v.key: v for v in verdicts(Study(design))}
        told["judged"] += 1
        for key in ("tip", "cocks"):
            one = found[key]
            if one.state == "good" or "g of shot" not in one.do:
                continue
            told["asked"] += 1
            more = asked_for(one.do) + (0.02 if key == "cocks" else 0.0)
            done = {v.key: v for v in verdicts(Study(laden(design, 1.0, more)))}
            told["idle"] += done[key].state != "good"
    note("shot_asked_for", told)
    assert told["idle"] == 0 and told["asked"] > 10
