"""The Tank bench's results as dictionaries: every figure finite, in its unit, and the one the core found."""

from __future__ import annotations

import json
import math

import pytest

from tests.conftest import turned_design
from yellowbob.ballast.pose import Pose
from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.model import Design
from yellowbob.reports.tank import (
    ballast_report,
    check_report,
    odds_report,
    rests_report,
    settled_report,
    sweep_report,
    trim_report,
)
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import ballasting, settled_at
from yellowbob.trials.odds import odds
from yellowbob.trials.trim import trims
from yellowbob.trials.variants import sweep


def plain(report: object) -> object:
    """Through JSON and back: refuses what is no number."""
    return json.loads(json.dumps(report, allow_nan=False))


def test_every_report_of_every_demo_is_plain_json(demo_design: Design) -> None:
    study = Study(demo_design)
    rest = of.upright_rest(study)
    assert rest is not None
    for report in (
        rests_report(study), check_report(study), odds_report(demo_design.name, odds(study, 200, 1, compare=False)),
        sweep_report(sweep(study, "salinity", steps=3)), [trim_report(t) for t in trims(study)],
        ballast_report(ballasting(demo_design, Pose(rest.pitch_rad, draft_mm=rest.draft_mm)), [], []),
    ):  # fmt: skip
        assert plain(report) == report


def test_shares_and_knocks_of_the_only_rest(popper: Design) -> None:
    report = rests_report(Study(popper))
    assert report["rests"][0]["landing_share"] == 1.0
    assert report["rests"][0]["knock_energy_uj"] is None


def test_the_locus_runs_along_up_from_low_to_high(popper: Design) -> None:
    rest = of.upright_rest(Study(popper))
    assert rest is not None
    work = ballasting(popper, Pose(rest.pitch_rad, draft_mm=rest.draft_mm))
    report = ballast_report(work, [], [])
    start, end = report["locus"]["from"], report["locus"]["to"]
    along = [b - a for a, b in zip(start, end, strict=True)]
    size = math.sqrt(sum(v * v for v in along))
    assert [v / size for v in along] == pytest.approx(report["line"]["along"], abs=1e-6)
    low, high = report["stretches"][0]["gm_min_mm"]
    assert low > high
    assert report["lead_g"] > report["ballast_g"] > 0
    assert all(0 <= s <= 1 for s in report["stretches"][0]["landing_share"])


def test_a_place_on_the_line_settles_at_the_pose(popper: Design) -> None:
    rest = of.upright_rest(Study(popper))
    assert rest is not None
    work = ballasting(popper, Pose(rest.pitch_rad + 0.05, draft_mm=rest.draft_mm - 0.5))
    assert work.locus.best is not None
    for lam in (work.locus.best.low_mm, work.locus.best.high_mm):
        found = settled_at(work, lam)
        assert found.pitch_deg == pytest.approx(math.degrees(rest.pitch_rad + 0.05), abs=0.01)
        assert found.draft_mm == pytest.approx(rest.draft_mm - 0.5, abs=0.01)
        assert found.gm_min_mm == pytest.approx(work.posed.gm_min_mm(lam), abs=0.01)


def test_a_sinker_reports_only_its_weight() -> None:
    found = settled(of.afloat(Study(turned_design((0, 5), (40, 5), density=1.4))))
    assert isinstance(found, Settled)
    report = settled_report(found)
    assert report["floats"] is False
    assert report["reserve_g"] < 0
    assert "pitch_deg" not in report
