"""What goes to the bench: stations that hold their error, holes as listed, a schedule that keeps every rule."""

from __future__ import annotations

import itertools
import math
import random
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Bore, Coat, Design, Drilling
from yellowbob.design.shape import Lofted, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.curves import curve
from yellowbob.shop.bores import bores
from yellowbob.shop.schedule import (
    Layer,
    Plan,
    calendar_of,
    hours_between,
    hours_of,
    layers_of,
    pace,
    schedule,
    windows,
    zoned,
)
from yellowbob.shop.stations import stations
from yellowbob.study import Study, of

VIENNA = ZoneInfo("Europe/Vienna")
BODIES = (
    "mill-tail-88",
    "sallow-74",
    "spit-pencil-118",
    "osier-96",
    "sill-darter-98",
    "withy-stick-150",
    "creek-dropper-52",
)


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


@pytest.mark.parametrize("name", BODIES)
@pytest.mark.parametrize("error", [0.05, 0.25, 1.0])
def test_straight_cuts_between_stations_stay_within_the_error_everywhere(name: str, error: float) -> None:
    design = design_of(name)
    shape, found = design.pieces[0].shape, stations(design, error)
    if isinstance(shape, Turned):
        outlines = {"diameter": shape.profile}
    else:
        assert isinstance(shape, Lofted)
        outlines = {"back": shape.back, "belly": shape.belly, "half width": shape.plan}
    at = np.array([s.at_mm for s in found.stations])
    x = np.sort(np.random.default_rng(3).uniform(0.0, at[-1], 20_000))
    assert found.misses_mm <= error + 1e-9
    for key, outline in outlines.items():
        sizes = np.array([s.sizes_mm[key] for s in found.stations]) / (2.0 if key == "diameter" else 1.0)
        assert np.abs(np.interp(x, at, sizes) - curve(tuple(outline)).at(x)).max() <= error + 2e-3
    assert at[0] == 0.0 and (np.diff(at) > 0.0).all()


def test_a_cone_needs_its_two_ends_and_a_ball_as_many_as_chords_do() -> None:
    cone = turned_design((0, 2), (60, 9))
    assert [s.at_mm for s in stations(cone, 0.05).stations] == [0.0, 60.0]
    loose, fine = (len(stations(design_of("spit-pencil-118"), e).stations) for e in (0.8, 0.1))
    assert loose < fine < 60


def test_fixed_spacing_tells_what_it_misses_and_what_cannot_be_is_refused() -> None:
    design = design_of("mill-tail-88")
    found = stations(design, spacing_mm=10.0)
    assert [round(s.at_mm) for s in found.stations] == [0, 10, 20, 30, 40, 50, 60, 70, 80, 88] and found.misses_mm > 0.1
    for error, spacing in ((0.0, None), (math.nan, None), (0.2, 0.0), (0.2, 1e9)):
        with pytest.raises(BadInput):
            stations(design, error, spacing)


def test_holes_are_listed_from_the_nose_with_the_nearest_bit_that_is_long_enough() -> None:
    design = design_of("moth-crawler-64")
    one = bores(Study(design))[0]
    hole = of.holes(Study(design)).ballast[0].hole
    assert hole is not None and (one.at_mm, one.off_mm, one.over_mm) == hole.mouth_mm
    assert one.bit == "twist bit 7.2 mm" and one.says == "" and not one.both_ends
    odd = replaced(design.ballast[0], drilling=replaced(design.ballast[0].drilling, diameter_mm=7.33))
    other = bores(Study(design.but(ballast=(odd,))))[0]
    assert "than drawn" in other.says and other.bit_mm != 7.33


def test_a_bore_too_long_for_one_bit_is_bored_from_both_ends_and_ends_come_first() -> None:
    body = turned_design((0, 9), (240, 9))
    through = Bore(name="wire", drilling=Drilling(side="nose", place_mm=(0.0, 0.0), diameter_mm=2.5, depth_mm=240.0))
    short = Bore(name="pin", drilling=Drilling(side="belly", place_mm=(60.0, 0.0), diameter_mm=2.0, depth_mm=5.0))
    pieces = (replaced(body.pieces[0], bores=(short, through)),)
    found = bores(Study(body.but(pieces=pieces)))
    assert [b.name for b in found] == ["wire", "pin"]
    assert found[0].both_ends and found[0].meets_mm == pytest.approx(2 * 120 * math.tan(math.radians(1.0)), rel=0.02)
    blind = replaced(through, drilling=replaced(through.drilling, depth_mm=200.0))
    assert not bores(Study(body.but(pieces=(replaced(body.pieces[0], bores=(blind,)),))))[0].both_ends


def held(plan: Plan, layers: tuple[Layer, ...], places: int, hours: tuple[time, time]) -> None:
    """Every rule of a plan, looked at task by task."""
    assert len(plan.tasks) == len(layers) * len(plan.ready)
    for one, two in itertools.pairwise(plan.tasks):
        assert two.begins >= one.ends  # hands do one thing at a time
    for copy in range(len(plan.ready)):
        own = sorted((t for t in plan.tasks if t.copy == copy), key=lambda t: t.layer)
        assert [t.layer for t in own] == list(range(len(layers)))
        for one, two in itertools.pairwise(own):
            assert two.begins >= one.next_at >= one.set_at
        assert plan.ready[copy] >= max(t.used_at for t in own)
        for task, layer in zip(own, layers, strict=True):
            assert task.ends - task.begins == timedelta(minutes=layer.hands_min)
            assert hours_between(task.ends, task.set_at) == pytest.approx(layer.set_h)
            assert (task.place is not None) == layer.turns
    turned = [t for t in plan.tasks if t.place is not None]
    for task in turned:
        there = [t for t in turned if t is not task and t.place == task.place]
        assert all(t.set_at <= task.begins or t.begins >= task.set_at for t in there)
    assert all(t.place is None or 0 <= t.place < places for t in plan.tasks)
    for task in plan.tasks:
        local = task.begins.astimezone(ZoneInfo(plan.zone))
        minutes, first, last = (60 * t.hour + t.minute for t in (local.time(), *hours))
        assert first <= minutes <= last if first < last else minutes >= first or minutes <= last


@pytest.mark.parametrize("seed", range(12))
def test_no_schedule_breaks_a_rule(seed: int) -> None:
    dice = random.Random(seed)
    layers = tuple(
        Layer(
            f"coat {k}",
            dice.randint(3, 25),
            (s := dice.uniform(0.2, 6.0)),
            s + dice.uniform(0.0, 30.0),
            60.0,
            dice.random() < 0.5,
        )
        for k in range(dice.randint(1, 12))
    )
    hours = dice.choice([(time(18), time(22)), (time(8), time(12, 30)), (time(21), time(2))])
    places, copies = dice.randint(1, 4), dice.randint(1, 9)
    start = datetime(2026, dice.choice([3, 10]), 26, 12, 0, tzinfo=VIENNA)  # clocks change on the 29th of March
    held(schedule(layers, copies, places, start, hours), layers, places, hours)


def test_two_dozen_coats_on_a_batch_are_laid_and_a_warm_box_is_quicker() -> None:
    clear = Coat(name="clear", stock="two-part epoxy clear", coats=24, film_mm=0.05)
    design = design_of("sallow-74").but(coats=(clear,))
    start = datetime(2026, 3, 2, 18, 0, tzinfo=VIENNA)
    ends = []
    for celsius in (20.0, 30.0):
        layers, says = layers_of(design, celsius)
        assert len(layers) == 24 and not says
        plan = schedule(layers, 4, 4, start, (time(17), time(23)))
        held(plan, layers, 4, (time(17), time(23)))
        ends.append(max(plan.ready))
    assert ends[1] < ends[0]
    assert pace(30.0, 50.0, False) == pytest.approx(0.5) and pace(20.0, 75.0, True) == pytest.approx(1.5)


def test_hours_keep_their_local_time_across_a_change_of_clocks() -> None:
    start = datetime(2026, 3, 28, 12, 0, tzinfo=VIENNA)
    days = list(windows(start, (time(18), time(22))))[:3]
    assert [d[0].astimezone(VIENNA).hour for d in days] == [18, 18, 18]
    assert (days[1][0] - days[0][0]) == timedelta(hours=23)  # the night between has 23 hours


def test_the_calendar_says_the_same_times_in_local_hours() -> None:
    layers, _ = layers_of(design_of("sallow-74"))
    plan = schedule(layers, 2, 1, datetime(2026, 3, 27, 18, 0, tzinfo=VIENNA), (time(18), time(22)))
    text = calendar_of(plan, "Sallow, 74; two").decode()
    lines = text.replace("\r\n ", "").split("\r\n")
    starts = [line for line in lines if line.startswith("DTSTART;TZID=Europe/Vienna:")]
    wanted = [t.begins.astimezone(VIENNA).strftime("%Y%m%dT%H%M%S") for t in plan.tasks]
    assert [line.split(":")[1] for line in starts][: len(wanted)] == wanted
    assert text.count("BEGIN:VEVENT") == len(plan.tasks) + 2 and "BEGIN:VTIMEZONE" in text
    assert "Sallow\\, 74\\; two" in text and all(len(line.encode()) <= 75 for line in text.split("\r\n"))


def test_what_cannot_be_planned_is_refused() -> None:
    layers, _ = layers_of(design_of("sallow-74"))
    start = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
    for copies, places, hours in (
        (0, 1, (time(18), time(22))),
        (1, 0, (time(18), time(22))),
        (1, 1, (time(18), time(18, 5))),
    ):
        with pytest.raises(BadInput):
            schedule(layers, copies, places, start, hours)
    with pytest.raises(BadInput, match="days"):
        schedule(layers, 200, 1, start, (time(18), time(18, 15)))
    with pytest.raises(BadInput, match="zone"):
        schedule(layers, 1, 1, datetime(2026, 3, 2, 18, 0), (time(18), time(22)))
    for text in ("6pm", "18:00", "18:00-18:00", "25:00-26:00"):
        with pytest.raises(BadInput, match="hours"):
            hours_of(text)
    with pytest.raises(BadInput, match="zone"):
        zoned("2026-03-02T18:00", "Middle/Earth")
    with pytest.raises(BadInput, match="time"):
        zoned("tomorrow", "UTC")
    for celsius, damp in ((0.0, 50.0), (80.0, 50.0), (20.0, 0.0)):
        with pytest.raises(BadInput):
            layers_of(design_of("sallow-74"), celsius, damp)
    with pytest.raises(BadInput, match="no coats"):
        layers_of(design_of("sallow-74").but(coats=()))
