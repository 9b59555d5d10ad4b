"""What a check says to do, done by itself: shot asked for stands the float and shows its tip; the sea lifts it so."""

from __future__ import annotations

import math
import random
import re

import numpy as np
import pytest

from tests.conftest import DEMO
from tests.core.test_clashes import says
from yellowbob.checks.registry import verdicts
from yellowbob.checks.verdict import Verdict
from yellowbob.design.brief import Water
from yellowbob.design.files import read_design
from yellowbob.design.model import Design, replaced
from yellowbob.study import Study, of

STANDING = ("withy-stick-150", "reed-waggler-217", "bar-antenna-234")


def said(design: Design) -> dict[str, Verdict]:
    return {v.key: v for v in verdicts(Study(design))}


def laden(design: Design, times: float, more_g: float = 0.0) -> Design:
    """All that hangs on it so many times as heavy, and so much more shot, in air, spread over its lead."""
    assert design.rig is not None
    lead = times * sum(h.mass_g * h.count for h in design.rig.hung if h.density_g_ml > 8.0)
    share = 1.0 + more_g / lead
    return design.but(rig=replaced(design.rig, hung=tuple(
        replaced(h, mass_g=h.mass_g * times * (share if h.density_g_ml > 8.0 else 1.0)) for h in design.rig.hung
    )))  # fmt: skip


def asked_for(words: str) -> float:
    found = re.search(r"(Put|Take off|Put on) ([\d.]+) g of shot", words)
    assert found is not None, words
    return float(found[2]) * (-1.0 if found[1] == "Take off" else 1.0)


@pytest.mark.parametrize("name", STANDING)
@pytest.mark.parametrize("times", [0.35, 1.4])
def test_the_shot_that_the_tip_asks_for_brings_the_tip(name: str, times: float) -> None:
    first = read_design(DEMO / f"{name}.ybob")
    assert first.rig is not None
    first = first.but(rig=replaced(first.rig, tip_mm=random.Random(name).uniform(12.0, 30.0)))
    told = said(laden(first, times))["tip"]
    if told.state == "good":
        return
    done = said(laden(first, times, asked_for(told.do)))["tip"]
    assert done.state == "good", (told.figure, told.do, done.figure, done.do)
    shown = re.match(r"(−?[\d.]+) of ([\d.]+) mm show", done.figure)
    # it is told in hundredths of a gram, of which one is over a millimetre of a thin antenna
    assert shown is not None and float(shown[1]) == pytest.approx(float(shown[2]), abs=1.6)


@pytest.mark.parametrize("name", STANDING)
def test_the_shot_that_cocks_asks_for_stands_it(name: str) -> None:
    light = laden(read_design(DEMO / f"{name}.ybob"), 0.05)
    told = said(light)
    if told["cocks"].state == "good":
        return
    assert told["tip"].figure.startswith("lies at")
    done = Study(laden(light, 1.0, asked_for(told["cocks"].do) + 0.02))
    rest = of.upright_rest(done)
    assert rest is not None and abs(math.degrees(rest.pitch_rad)) > 60.0
    assert {v.key: v.state for v in verdicts(done)}["cocks"] == "good"


@pytest.mark.parametrize("name", STANDING)
def test_a_float_that_sinks_by_itself_or_wants_a_tip_it_cannot_have_is_judged_all_the_same(name: str) -> None:
    first = read_design(DEMO / f"{name}.ybob")
    heavy = said(first.with_body(material=replaced(first.body.material, density_g_ml=5.0)))
    assert heavy["floats"].state == heavy["cocks"].state == heavy["tip"].state == "failed"
    assert heavy["cocks"].figure == heavy["tip"].figure == "sinks by itself"
    assert first.rig is not None
    long = said(first.but(rig=replaced(first.rig, tip_mm=400.0)))["tip"]
    assert long.state == "failed" and "mm at most" in long.do
    under = said(laden(first, 3.0))
    assert under["tip"].figure == "drawn under" and "draw it under" in under["cocks"].figure
    assert under["floats"].do == "Take shot off the line; Tip says how much."
    assert said(laden(first, 3.0, asked_for(under["tip"].do)))["tip"].state == "good"


@pytest.mark.parametrize("name", ["sallow-74", "print-wake-92", "sill-darter-98", "spit-pencil-118", "mill-tail-88"])
@pytest.mark.parametrize("density", [0.9])
def test_how_much_higher_it_floats_in_the_sea_is_what_the_full_solve_there_finds(name: str, density: float) -> None:
    first = read_design(DEMO / f"{name}.ybob")
    material = first.body.material
    design = first.with_body(material=replaced(material, density_g_ml=density * material.density_g_ml))
    rest, there = of.upright_rest(Study(design)), of.upright_rest(Study(design.but(water=Water(name="sea"))))
    assert rest is not None and there is not None and float(np.dot(rest.up, there.up)) > 0.97
    figure = says(design, "waters")[1]
    told = re.match(r"([\d.]+) mm (higher|deeper) in the sea(?:, pitch (−?[\d.]+)°)?$", figure)
    assert told is not None, figure
    rise = float(told[1]) * (1.0 if told[2] == "higher" else -1.0)
    assert rise == pytest.approx(rest.draft_mm - there.draft_mm, abs=0.006)
    turn = math.degrees(there.pitch_rad - rest.pitch_rad)
    assert float((told[3] or "0").replace("−", "-")) == pytest.approx(turn, abs=0.051)


def test_what_is_offered_to_take_off_a_sinker_is_on_it() -> None:
    first = read_design(DEMO / "sallow-74.ybob")
    heavy = first.with_body(material=replaced(first.body.material, density_g_ml=1.3))
    assert said(heavy)["floats"].do.startswith("Take ballast out, fit smaller hooks, or use lighter wood.")
    assert said(heavy.but(ballast=()))["floats"].do.startswith("Fit smaller hooks or use lighter wood.")
    bare = heavy.but(ballast=(), fittings=())
    assert said(bare)["floats"].do == "Use lighter wood. Lift grows with the cube of size."
