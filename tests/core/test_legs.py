"""Slugs of a first design stay out of its wire's way, and legs of the wire make room for them."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from yellowbob.design.files import read_design
from yellowbob.design.model import Kind
from yellowbob.lines.rays import first_hit
from yellowbob.study import Study, of
from yellowbob.trials.answer import answered
from yellowbob.trials.asked import Asked, starter_file
from yellowbob.trials.legs import with_legs_moved
from yellowbob.trials.slugs import rodded


def belly(study: Study, x: float) -> float:
    reach = first_hit(of.outer(study), np.array([x, 0.0, -100.0]), np.array([0.0, 0.0, 1.0]))
    assert reach is not None
    return reach - 100.0


@pytest.mark.parametrize("kind", ["popper", "pencil", "darter", "wake bait"])
@pytest.mark.parametrize("by", [-6.0, -2.5, 3.0])
def test_a_leg_goes_along_the_body_with_its_hook_as_deep_below_the_belly_as_it_was(kind: Kind, by: float) -> None:
    first = read_design(starter_file(kind))
    moved = with_legs_moved(first, by)
    bare = Study(first.but(wires=(), fittings=(), ballast=()))
    going = [(a, b) for a, b in zip(first.fittings, moved.fittings, strict=True) if a.at_mm != b.at_mm]
    assert {a.sort for a, _ in going} == {"ring", "hook"}
    for old, new in going:
        assert new.at_mm[0] - old.at_mm[0] == pytest.approx(by)
        below = [f.at_mm[2] - belly(bare, f.at_mm[0]) for f in (old, new)]
        assert below[1] == pytest.approx(below[0], abs=0.1)
        assert min(math.dist(new.at_mm, p) for w in moved.wires for p in w.path_mm) < 1e-9
    for wire, old in zip(moved.wires, first.wires, strict=True):
        assert wire.path_mm[0] == old.path_mm[0] and wire.path_mm[-1] == old.path_mm[-1]
        assert all(b[0] >= a[0] - 1e-9 for a, b in itertools.pairwise(wire.path_mm))


def test_a_leg_without_room_and_a_wire_without_legs_stay() -> None:
    cases: list[tuple[Kind, float]] = [("popper", -40.0), ("crawler", 5.0), ("prop bait", 5.0), ("other", -5.0)]
    for kind, by in cases:
        first = read_design(starter_file(kind))
        assert with_legs_moved(first, by) == first


@pytest.mark.parametrize("kind", ["pencil", "crawler", "other", "prop bait"])
@pytest.mark.parametrize("times", [0.7, 1.5, 2.5])
def test_slugs_under_a_wire_are_so_many_that_none_reaches_it(kind: Kind, times: float) -> None:
    first = read_design(starter_file(kind))
    one = first.ballast[0]
    heavy = first.but(ballast=(one.model_copy(update={"weight": one.weight.model_copy(
        update={"length_mm": one.weight.length_mm * times})}), *first.ballast[1:]))  # fmt: skip
    found = [c for c in of.clearances(Study(rodded(heavy))) if c.kind == "wire to hole"]
    assert found and all(c.distance_mm > 0.0 for c in found), found


@pytest.mark.parametrize(
    "told",
    [{"kind": "popper", "length_mm": 91.0, "water": "sea", "wood": "obeche"},
     {"kind": "darter", "length_mm": 150.0, "wood": "alder", "lead": False}],
)  # fmt: skip
def test_a_first_design_s_wire_meets_no_slug(told: dict[str, object]) -> None:
    found = answered(Asked.model_validate(told))
    assert found.sound, found.reason
    assert all(c.distance_mm > 0.0 for c in of.clearances(Study(found.design)) if c.kind == "wire to hole")
