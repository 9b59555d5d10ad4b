"""Trim, hook sizes, variants and sweeps of whole designs."""

from __future__ import annotations

import math

import pytest

from tests.core.test_ballast import bait
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.shipped import hooks
from yellowbob.study import Study, of
from yellowbob.trials.hook_sizes import next_hook, other_hooks
from yellowbob.trials.trim import trims
from yellowbob.trials.variants import by_hooks, by_place, by_wood, compared, quantities, sweep


def test_trims_are_tried_and_ranked(popper: Design) -> None:
    study = Study(popper)
    found = trims(study)
    assert len(found) >= 5
    effects = [abs(t.pitch_deg) for t in found]
    assert effects == sorted(effects, reverse=True)
    for one in found[:4]:
        rest = of.rest_followed(Study(one.change.make(popper)), of.upright_rest(study))
        assert rest is not None
        assert math.degrees(rest.pitch_rad) == pytest.approx(one.after.pitch_deg, abs=1e-3)
    tail_up = next(t for t in found if "Tail" in t.words and "up" in t.words)
    assert tail_up.pitch_deg > 0.5
    assert tail_up.mass_g > 0
    wanted = trims(study, 30.0)
    misses = [abs(t.after.pitch_deg - 30.0) for t in wanted if t.after.floats]
    assert misses == sorted(misses)


def test_hooks_go_up_and_down_the_shelf(popper: Design) -> None:
    smaller = other_hooks(popper, -1)
    assert smaller is not None
    for one, two in zip(popper.fittings, smaller.fittings, strict=True):
        assert (two.mass_g < one.mass_g) == (one.sort == "hook")
        assert two.at_mm == one.at_mm
    six = hooks()["treble, size 6"]
    up, down = next_hook(six, 1), next_hook(six, -1)
    assert up is not None
    assert down is not None
    assert (up.size, down.size) == ("4", "8")
    smallest = min((h for h in hooks().values() if h.sort == "treble"), key=lambda h: h.mass_g)
    assert next_hook(smallest, -1) is None


def test_ballast_slid_aft_brings_the_nose_up(popper: Design) -> None:
    found = compared(Study(popper), by_place(popper, (-6.0, 0.0, 6.0)))
    pitches = [v.at_rest.pitch_deg for v in found if v.at_rest is not None]
    assert pitches == sorted(pitches)
    assert found[1].study.design == popper
    assert all(v.at_rest is not None and v.at_rest.landing_share == 1.0 for v in found)
    with pytest.raises(BadInput, match="no ballast"):
        by_place(bait())


def test_heavier_woods_and_hooks_leave_less_to_spare(popper: Design) -> None:
    woods = compared(Study(popper), by_wood(popper))
    assert "as drawn" in woods[0].words
    by_density = sorted(woods, key=lambda v: v.study.design.body.density_g_ml)
    reserves = [v.at_rest.reserve_g for v in by_density if v.at_rest is not None]
    assert reserves == sorted(reserves, reverse=True)
    hooks = [
        v.at_rest.reserve_g for v in compared(Study(popper), by_hooks(popper), shares=False) if v.at_rest is not None
    ]
    assert hooks == sorted(hooks, reverse=True)


def test_a_sweep_follows_what_is_swept(popper: Design) -> None:
    study = Study(popper)
    salt = sweep(study, "salinity", 0.0, 36.0, 5)
    drafts = [p.at_rest.draft_mm for p in salt if p.at_rest is not None]
    assert drafts == sorted(drafts, reverse=True)
    name = popper.ballast[0].name
    mass = sweep(study, f"ballast:{name}:mass", steps=5)
    masses = [p.at_rest.mass_g for p in mass if p.at_rest is not None]
    assert masses == sorted(masses)
    middle = quantities(popper)[f"ballast:{name}:x"]
    at = sweep(study, middle.key, middle.now, middle.now + 1.0, 2)
    assert of.upright_rest(study) is not None
    assert at[0].at_rest is not None
    assert at[0].at_rest.pitch_deg == pytest.approx(math.degrees(of.upright_rest(study).pitch_rad), abs=1e-3)


def test_every_quantity_at_its_present_value_changes_nothing(demo_design: Design) -> None:
    study = Study(demo_design)
    for one in quantities(demo_design).values():
        same = Study(one.change(one.now))
        assert of.slip(same).finished.mass_g == pytest.approx(of.slip(study).finished.mass_g, rel=1e-9), one.key
        assert one.low <= one.now <= one.high, one.key


def test_sweeps_that_cannot_be_name_what_can(popper: Design) -> None:
    with pytest.raises(BadInput, match="salinity"):
        sweep(Study(popper), "nothing")
    with pytest.raises(BadInput, match="2 to"):
        sweep(Study(popper), "salinity", steps=1)


def test_a_design_without_hooks_has_no_other_hooks() -> None:
    assert other_hooks(bait(), -1) is None
    assert [change.make(bait()) for change in by_hooks(bait())] == [bait()] * 3
