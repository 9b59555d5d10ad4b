"""Picks that can be drilled: depth, bits on hand, wander; no empty list without its reasons."""

from __future__ import annotations

import math
from collections import Counter

import numpy as np
import pytest

from tests.conftest import DEMO, turned_design
from tests.core.test_ballast import bait
from yellowbob.ballast.drillable import MOST_TIMES, Drillable, judge_of
from yellowbob.ballast.pose import Pose
from yellowbob.design.files import read_design
from yellowbob.design.model import Drilling
from yellowbob.lines.drill import place_hole
from yellowbob.lines.hole_walls import wall_mm
from yellowbob.shelf.items import BallastStock, Bit
from yellowbob.shelf.own import OwnShelf
from yellowbob.shelf.shipped import bits
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import ballasting, shelf_picks, why_none

CYLINDER = turned_design((0, 8, "corner"), (80, 8, "corner"))
"""A bar of 16 mm, 80 mm long."""


def judged(side: str, place: tuple[float, float], diameter: float, depth: float, wander: float = 1.0) -> Drillable:
    body = of.outer(Study(CYLINDER))
    hole = place_hole(Drilling(side=side, place_mm=place, diameter_mm=diameter, depth_mm=depth), body, "h")
    return judge_of(body, 1.5, bits(), wander)(hole)


def test_a_hole_is_judged_by_its_figures() -> None:
    easy = judged("tail", (0.0, 0.0), 6.2, 20.0)
    assert not easy.refused and easy.cost == 0.0 and easy.bit == "twist bit 6.2 mm"
    assert easy.times == pytest.approx(20 / 6.2)
    # wall: the bar's radius less the hole's, less what the bit can wander by the bottom
    assert easy.wall_mm == pytest.approx(8.0 - 3.1 - 20 * math.tan(math.radians(1.0)), abs=0.06)
    assert "times as deep" in judged("tail", (0.0, 0.0), 3.2, 62.0).refused
    assert "long enough" in judged("tail", (0.0, 0.0), 4.2, 50.0).refused
    assert "come out" in judged("tail", (0.0, 5.5), 4.2, 40.0, 3.0).refused
    assert judged("tail", (0.0, 4.8), 4.2, 30.0).cost > judged("tail", (0.0, 2.0), 4.2, 30.0).cost > 0.0
    assert "slide off" in judged("belly", (40.0, 6.8), 2.0, 6.0).refused


@pytest.mark.parametrize("name", ["weir-cup-62", "osier-96"])
def test_every_pick_can_be_drilled(name: str) -> None:
    design = read_design(DEMO / f"{name}.ybob")
    rest = of.upright_rest(Study(design))
    assert rest is not None
    work = ballasting(design, Pose(rest.pitch_rad, draft_mm=rest.draft_mm))
    found = shelf_picks(work, most=6)
    assert found
    assert [p.score for p in found] == sorted(p.score for p in found)
    for pick in found:
        for one, drilled in zip(pick.ballast, pick.drilled, strict=True):
            assert one.drilling is not None
            hole = place_hole(one.drilling, work.room.body, one.name)
            assert hole.depth_mm / hole.diameter_mm <= MOST_TIMES
            assert wall_mm(hole, work.room.body)[0] == pytest.approx(drilled.wall_mm) and drilled.wall_mm >= 0.0
            bit = bits()[drilled.bit]
            assert bit.flute_mm >= hole.depth_mm and abs(bit.diameter_mm - hole.diameter_mm) < 0.06


def test_only_bits_on_hand_are_used_and_no_pick_says_why() -> None:
    design = read_design(DEMO / "osier-96.ybob")
    rest = of.upright_rest(Study(design))
    assert rest is not None
    work = ballasting(design, Pose(rest.pitch_rad, draft_mm=rest.draft_mm))
    OwnShelf().set_count(Bit, "twist bit 8.2 mm", 1)
    found = shelf_picks(work)
    assert {d.bit for p in found for d in p.drilled} <= {"twist bit 8.2 mm"}
    OwnShelf().set_count(Bit, "twist bit 8.2 mm", 0)
    OwnShelf().set_count(Bit, "twist bit 0.5 mm", 1)
    reasons: Counter[str] = Counter()
    assert shelf_picks(work, reasons=reasons) == []
    assert "no bit on hand" in why_none(work, reasons)
    OwnShelf().set_count(BallastStock, "split shot no. 13, lead", 1)
    few: Counter[str] = Counter()
    assert shelf_picks(work, only_counted=True, reasons=few) == []
    assert "12 %" in why_none(work, few)


def test_a_pose_out_of_reach_says_what_stops_it() -> None:
    plain = bait()
    for pose in (Pose(math.radians(80), mass_g=of.slip(Study(plain)).finished.mass_g + 0.4), Pose(0.0, mass_g=1.0)):
        work, reasons = ballasting(plain, pose), Counter[str]()
        assert shelf_picks(work, reasons=reasons) == []
        words = why_none(work, reasons)
        assert work.locus.limit in words and np.all([c.isprintable() for c in words])
