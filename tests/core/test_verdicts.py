"""Verdicts and what-ifs agree with the full solve, for what stands, lies and sinks alike."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from typer.testing import CliRunner

from tests.conftest import DEMO, turned_design, verdict_of
from tests.core.test_ballast import bait, cast_in
from yellowbob.afloat.rest import rest_near, up_from
from yellowbob.cli.main import app
from yellowbob.design.files import read_design, write_design
from yellowbob.design.model import Brief, Design, Span
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import Pose, ballasting
from yellowbob.trials.ladder import ladder
from yellowbob.trials.odds import odds
from yellowbob.trials.remedies import remedies

TAIL_HEAVY = [(3.0, 70.0, -0.3), (3.3, 66.0, -1.0), (2.5, 74.0, -0.1), (3.5, 60.0, -2.0)]


def stick(mass_g: float, x: float, z: float, y: float = 0.0) -> Design:
    """A plain stick with a slug cast in near its tail: it stands, or nearly."""
    return cast_in(turned_design((0, 4), (80, 5), density=0.25), mass_g, (x, y, z))


def briefed(design: Design, pitch_deg: float, half: float = 3.0) -> Design:
    return design.but(brief=Brief(pitch_deg=Span(least=pitch_deg - half, most=pitch_deg + half)))


def verdict(design: Design, key: str) -> tuple[str, str]:
    said = verdict_of(Study(design), key)
    return ("silent", "") if said is None else (said.state, said.figure)


@pytest.mark.parametrize(("mass_g", "x", "z"), TAIL_HEAVY)
def test_what_is_meant_to_stand_comes_right_by_standing(mass_g: float, x: float, z: float) -> None:
    design = stick(mass_g, x, z)
    rest = of.upright_rest(Study(design))
    assert rest is not None
    pitch = math.degrees(rest.pitch_rad)
    assert pitch > 60.0
    meant = briefed(design, min(pitch, 87.0))
    assert verdict(meant, "sits")[0] == "good"
    state, figure = verdict(meant, "upright")
    share = of.upright_share(Study(meant))
    assert state == ("good" if share > 0.999 else "watch" if share >= 0.7 else "failed"), figure
    assert "never" not in figure


@pytest.mark.parametrize("pitch_deg", [-88.0, -60.0])
def test_what_is_meant_to_stand_on_its_nose_and_stands_on_its_tail_fails(pitch_deg: float) -> None:
    design = briefed(stick(3.0, 70.0, -0.3), pitch_deg)
    assert verdict(design, "sits")[0] == "failed"
    assert verdict(design, "upright") == ("failed", "never rests as briefed")


def test_a_standing_piece_without_a_brief_says_how_it_stands() -> None:
    state, figure = verdict(stick(3.0, 72.0, -0.02), "upright")
    assert (state, figure) == ("watch", "stands on its tail, its only rest")


@pytest.mark.parametrize("y", [0.02, 0.3, -0.6])
def test_the_lean_of_a_standing_piece_is_that_of_its_beam(y: float) -> None:
    design = stick(3.0, 72.0, -0.05, y)
    rest = of.upright_rest(Study(design))
    assert rest is not None
    lean = math.degrees(math.asin(abs(rest.up[1])))
    state, figure = verdict(design, "lists")
    assert state == ("failed" if lean > 1.5 else "watch" if lean > 0.5 else "good")
    assert figure == "upright" or float(figure.split("°")[0]) == pytest.approx(lean, abs=0.051)


def test_a_lying_body_s_lean_is_its_roll() -> None:
    design = cast_in(bait(), 4.0, (45.0, 1.2, -4.0))
    rest = of.upright_rest(Study(design))
    assert rest is not None
    assert abs(rest.pitch_rad) < 0.3
    _, figure = verdict(design, "lists")
    assert figure.endswith("starboard" if rest.roll_rad > 0 else "port")
    assert float(figure.split("°")[0]) == pytest.approx(
        math.degrees(abs(math.asin(math.cos(rest.pitch_rad) * math.sin(rest.roll_rad)))), abs=0.051
    )


@pytest.mark.parametrize("seed", range(12))
def test_random_builds_sink_stand_and_come_right_as_the_solve_says(seed: int) -> None:
    rng = np.random.default_rng(1000 + seed)
    thick, density = rng.uniform(4.0, 9.0), rng.uniform(0.2, 0.9)
    design = cast_in(
        turned_design((0, 0, "round"), (30, thick), (80, thick * rng.uniform(0.3, 1.0)), density=density),
        float(rng.uniform(0.3, 8.0)), (float(rng.uniform(20, 70)), 0.0, float(-rng.uniform(0.5, 3.0))),
    )  # fmt: skip
    study = Study(design)
    lift = of.hull(study).moments.volume_mm3 * of.afloat(study).density_g_mm3
    sinks = of.afloat(study).mass_g >= lift
    assert (verdict(design, "floats")[0] == "failed") == sinks
    if sinks:
        assert of.upright_rest(study) is None
        assert verdict(design, "upright")[0] == "failed"
        return
    rest = of.upright_rest(study)
    assert rest is not None
    meant = briefed(design, math.degrees(rest.pitch_rad))
    same = of.upright_rest(Study(meant))
    assert same is not None
    assert np.dot(same.up, rest.up) > 0.999 or same.energy_nj < rest.energy_nj
    state, figure = verdict(meant, "upright")
    assert "never" not in figure
    ends = [rest_near(of.afloat(study), tuple(up_from(p, r))).up for p in (-1.2, 0.0, 1.2) for r in (-2.5, 0.0, 2.5)]
    all_there = all(float(np.dot(end, same.up)) > 0.999 for end in ends)
    if state == "good" and not same.neutral:
        assert all_there, figure


def test_odds_of_a_standing_piece_count_builds_past_the_upright() -> None:
    design = stick(3.0, 72.0, -0.02)
    rest = of.upright_rest(Study(design))
    assert rest is not None
    found = odds(Study(briefed(design, 86.0, 8.0)), builds=400, compare=False)
    pitch = np.degrees(found.done.pitch_rad)
    within = found.done.floats & (pitch >= 78.0) & (pitch <= 94.0)
    assert found.sits == pytest.approx(float(within.mean()))


def test_the_ladder_of_a_sinker_never_says_that_it_floats() -> None:
    sinker = cast_in(bait(0.5), 12.0, (45.0, 0.0, -3.0))
    found = ladder(sinker, (0.5, 0.8, 1.0, 1.5))
    assert found.sinks
    assert not any(r.as_briefed for r in found.rungs)
    for rung in found.rungs:
        assert rung.verdict == ("sinks when ballasted like it" if rung.floats else "sinks")
        assert (rung.reserve_g < 0) == (rung.verdict.startswith("sinks"))
    assert "floats without ballast" in found.words


def test_the_ladder_of_a_floater_says_which_sizes_float_like_it(popper: Design) -> None:
    found = ladder(popper, (0.3, 0.5, 1.0, 2.0))
    for rung in found.rungs:
        assert rung.as_briefed == (rung.verdict == "floats like it")
        assert rung.floats or rung.verdict == "sinks"
        if rung.as_briefed:
            assert rung.reserve_g > 0
    assert not found.sinks


def test_what_no_size_can_float_says_so() -> None:
    found = ladder(turned_design((0, 6), (60, 6), density=1.3), (0.5, 1.0, 2.0))
    assert found.smallest_mm is None
    assert {r.verdict for r in found.rungs} == {"sinks"}
    assert "even without ballast" in found.words


@pytest.mark.parametrize("mass_g", [13.5, 15.0])
@pytest.mark.parametrize("name", ["sallow-74", "mill-tail-88"])
def test_no_remedy_makes_it_worse_and_each_is_what_the_full_solve_gives(name: str, mass_g: float) -> None:
    work = ballasting(read_design(DEMO / f"{name}.ybob"), Pose(math.radians(12), mass_g=mass_g))
    kept = tuple(b.name for b in work.bare.build.ballast)
    for one in remedies(work):
        again = ballasting(one.change.make(work.bare.build), work.pose, keep=kept)
        assert one.feasible == again.locus.feasible
        assert one.ballast_g == pytest.approx(again.posed.ballast_g)
        assert one.feasible or one.ballast_g > work.posed.ballast_g


def test_the_command_says_that_nothing_does_it_and_why(tmp_path) -> None:
    file = tmp_path / "heavy.ybob"
    write_design(bait(0.9), file)
    done = CliRunner().invoke(app, ["ballast", str(file), "--pitch", "20", "--mass", "8 g"])
    assert done.exit_code == 0, done.output
    assert "no pick from the shelf does it: " in done.output
    said = json.loads(
        CliRunner().invoke(app, ["ballast", str(file), "--pitch", "20", "--mass", "8 g", "--json"]).output
    )
    assert said["picks"] == []
    assert all(r["feasible"] or r["ballast_g"] > said["ballast_g"] for r in said["remedies"])


def test_the_command_s_ladder_of_a_sinker(tmp_path) -> None:
    file = tmp_path / "sinker.ybob"
    write_design(cast_in(bait(0.5), 12.0, (45.0, 0.0, -3.0)), file)
    done = CliRunner().invoke(app, ["ladder", str(file), "--sizes", "60,100"])
    assert done.exit_code == 0, done.output
    assert "floats like it" not in done.output
    assert (
        json.loads(CliRunner().invoke(app, ["ladder", str(file), "--sizes", "60,100", "--json"]).output)["sinks"]
        is True
    )
