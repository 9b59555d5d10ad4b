"""What the log makes of weighings and tests: what is still to go in, where the weight lies, what builds taught."""

from __future__ import annotations

import math
from datetime import date
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import DEMO
from yellowbob.action.calibration import factors_of, put_taught
from yellowbob.afloat.rest import rest_near
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.lain import lain, shifted
from yellowbob.logbook.records import TankTest, WaterTest
from yellowbob.logbook.store import LogBook
from yellowbob.logbook.taught import Piece, errors_of, taught
from yellowbob.study import Study, of
from yellowbob.study.evidence import weighed
from yellowbob.trials.learned import learned, without
from yellowbob.trials.still import still_to_go


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


@pytest.fixture
def log(tmp_path: Path) -> LogBook:
    return LogBook(tmp_path / "workshop.sqlite")


# ---- what is still to go in


@pytest.mark.parametrize("name", ["sallow-74", "moth-crawler-64", "spit-pencil-118", "weir-cup-62", "sill-darter-98"])
@pytest.mark.parametrize("dense", [0.93, 1.07])
def test_what_is_still_to_go_in_brings_the_true_piece_to_its_brief(name: str, dense: float) -> None:
    drawn = design_of(name)
    true = drawn.of_material(density_g_ml=dense * drawn.body.density_g_ml)
    bare = of.slip(Study(true)).lines[0].mass.mass_g
    found = still_to_go(Study(weighed(Study(drawn), "bare body", round(bare, 2))))
    assert found.stage == "bare body" and found.why == "" and found.within
    # the piece as it really is, with the ballast that was told
    built = Study(true.but(ballast=found.design.ballast))
    rest = of.upright_rest(built)
    assert rest is not None and drawn.brief.pitch_deg is not None
    pitch = math.degrees(rest.pitch_rad)
    assert drawn.brief.pitch_deg.holds(pitch) and pitch == pytest.approx(found.wanted_deg, abs=1.0)
    assert of.slip(built).finished.mass_g == pytest.approx(found.finished_g, abs=0.1)
    assert (found.put_in_g > found.drawn_g) == (dense < 1.0)


def test_what_cannot_be_brought_to_its_brief_says_so() -> None:
    drawn = design_of("sallow-74")
    heavy = still_to_go(Study(weighed(Study(drawn), "bare body", 15.5)))
    assert not heavy.within and "too heavy before any ballast" in heavy.why
    with pytest.raises(BadInput, match="no ballast"):
        still_to_go(Study(drawn.but(ballast=())))
    unweighed = still_to_go(Study(drawn))
    assert unweighed.stage is None and "bare body" in unweighed.measure
    after = still_to_go(Study(weighed(Study(drawn), "bare body", 9.7)))
    assert after.u_g < unweighed.u_g and "bare body" not in after.measure


# ---- where the weight lies


@pytest.mark.parametrize("name", ["sallow-74", "mill-tail-88", "moth-crawler-64", "osier-96"])
def test_two_tank_tests_find_the_centre_of_gravity(name: str) -> None:
    design = design_of(name)
    hook = next(f.name for f in design.fittings if f.sort == "hook")
    offs = ((), (hook,))
    builds = [of.unloaded(Study(without(design, off))) for off in offs]
    whole, up = builds[0], of.upright_rest(Study(design)).up  # type: ignore[union-attr]
    dice = np.random.default_rng(11)
    misses = []
    for _ in range(6):
        off_mm = np.array([dice.normal(0.0, 0.8), dice.normal(-0.5, 0.4)])  # lower, so that it does not lie on its side
        moments = np.array([0.0, *(whole.mass_g * off_mm)])
        tests = []
        for build, off in zip(builds, offs, strict=True):
            rest = rest_near(shifted(build, moments), up)
            tests.append(
                TankTest(
                    pitch_deg=math.degrees(rest.pitch_rad) + dice.normal(0, 0.5),
                    draft_mm=rest.draft_mm + dice.normal(0, 0.3),
                    off=off,
                )
            )
        found = lain(whole, builds, tests, 0.05)
        miss = np.array(found.centre_mm) - np.array([whole.centre_mm[0], whole.centre_mm[2]]) - off_mm
        misses.append(miss / np.array(found.centre_u_mm))
        assert abs(miss[0]) < 4.0 * found.centre_u_mm[0] and found.centre_u_mm[0] < 0.8
    assert np.sqrt((np.array(misses) ** 2).mean()) < 1.8  # it is as sure as it says


def test_readings_that_do_not_agree_or_lie_on_its_side_are_told() -> None:
    design = design_of("sallow-74")
    build = of.unloaded(Study(design))
    one, two = TankTest(pitch_deg=24.0, draft_mm=29.5), TankTest(pitch_deg=12.0, draft_mm=29.5)
    assert "do not agree" in lain(build, [build, build], [one, two]).says
    assert lain(build, [build], [one]).says == ""
    with pytest.raises(BadInput, match="on its side"):
        lain(build, [build], [replaced(one, roll_deg=60.0)])


def test_without_a_reading_nothing_is_inferred() -> None:
    build = of.unloaded(Study(design_of("sallow-74")))
    with pytest.raises(BadInput, match="no test gives"):
        lain(build, [build], [TankTest(drops=3, came_right=1)])


# ---- what builds taught


def coverage(shops: int, builds: int, seed: int) -> tuple[float, float]:
    """Share of simulated shops whose true mean and scatter lie in the interval told."""
    dice = np.random.default_rng(seed)
    mean = scatter = 0
    for _ in range(shops):
        true = 0.40 + dice.normal(0.0, 0.04)
        spread = 0.03 * math.exp(dice.normal(0.0, 0.3))
        values = dice.normal(true, spread, builds) + dice.normal(0.0, 0.004, builds)
        told = taught([Piece(float(v), 0.004) for v in values], 0.40, 0.03)
        mean += told.low <= true <= told.high
        scatter += told.scatter_low <= spread <= told.scatter_high
    return mean / shops, scatter / shops


@pytest.mark.parametrize("builds", [1, 3, 10, 40])
def test_what_is_learnt_covers_the_truth_as_often_as_it_says(builds: int) -> None:
    mean, scatter = coverage(120, builds, builds)
    assert mean >= 0.83 and scatter >= 0.83  # 0.9 is told; 120 shops leave three hundredths


def test_one_piece_says_something_three_do_not_overclaim_and_none_is_the_shelf() -> None:
    none, one = taught([], 0.4, 0.03), taught([Piece(0.46, 0.003)], 0.4, 0.03)
    three = taught([Piece(v, 0.003) for v in (0.455, 0.46, 0.465)], 0.4, 0.03)
    assert none.mean == pytest.approx(0.4, abs=1e-3) and 0.41 < one.mean < 0.46
    assert one.high - one.low < none.high - none.low and three.high - three.low > 0.02
    assert three.next_high - three.next_low > three.high - three.low
    rising = taught([Piece(0.36 + 0.01 * k, 0.002) for k in range(8)], 0.4, 0.03)
    assert rising.trend == pytest.approx(0.01, abs=1e-6) and rising.trend_u is not None
    with pytest.raises(BadInput):
        taught([Piece(math.nan, 0.1)], 0.4, 0.03)
    assert errors_of([]).bias is None and errors_of([1.0, 3.0]).spread == pytest.approx(math.sqrt(2.0))


def test_a_shops_wood_is_learnt_from_its_weighings(log: LogBook) -> None:
    drawn = design_of("spit-pencil-118")
    dice = np.random.default_rng(4)
    true = 1.06 * drawn.body.density_g_ml
    for k in range(6):
        density = true + dice.normal(0.0, 0.01)
        bare = of.slip(Study(drawn.of_material(density_g_ml=density))).lines[0].mass.mass_g
        log.new(drawn, serial=f"P{k}", made_on=date(2026, 4, 1 + k))
        log.add(f"P{k}", "weigh", weighed(Study(drawn), "bare body", round(bare, 2)).weighings[-1])
    log.change("P0", aside="dropped in the water first")
    rows = [(b, log.design(b.serial), log.entries(b.serial)) for b in log.builds()]
    found = learned(rows)
    told = found.densities[drawn.body.material.name]
    assert told.count == 5 and told.low <= true <= told.high and told.serials == ("P1", "P2", "P3", "P4", "P5")
    assert "P0: set aside (dropped in the water first)" in found.aside


def test_swings_counted_become_the_models_factors(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))
    assert factors_of("popper").swing_rate == 1.0
    put_taught("swing_rate", {"popper": (1.25, 3)})
    put_taught("swing_rate", {"wake bait": (0.8, 2)})
    assert factors_of("popper").swing_rate == 1.25 and factors_of("wake bait").tests == 2
    with pytest.raises(BadInput, match="out of range"):
        put_taught("swing_rate", {"popper": (50.0, 1)})
    assert factors_of("popper").swing_rate == 1.25


def test_swings_and_speeds_that_slipped_are_said_and_not_learnt(log: LogBook) -> None:
    design = design_of("osier-96")
    serials = [b.serial for b in log.new(design, 2)]
    log.add(serials[0], "water", WaterTest(speed_m_s=0.6, swings=5, unstable_m_s=1.3))
    log.add(serials[1], "water", WaterTest(speed_m_s=0.6, swings=50, unstable_m_s=13.0))
    rows = [(log.build(s), log.design(s), log.entries(s)) for s in serials]
    one, both = learned(rows[:1], swings=True), learned(rows, swings=True)
    assert one.aside == () and one.swings["wake bait"][1] == one.limits["wake bait"][1] == 1
    assert both.swings == one.swings and both.limits == one.limits
    assert [a.partition(":")[0] for a in both.aside] == [serials[1]] * 2
    assert ": swings: " in both.aside[0] and ": the speed it holds to: 8.5 times" in both.aside[1]
