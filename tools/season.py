"""A made-up season of the made-up workshop: two dozen builds from stated true values, written into a log. Usage: season.py
OUT.json, an export that `log import` takes

What the log learns of it can be judged against TRUE_DENSITY and TRUE_FILM.
"""

from __future__ import annotations

import math
import sys
import tempfile
from datetime import UTC, date, datetime, time, timedelta
from pathlib import Path

import numpy as np

from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.logbook.exchange import whole_json
from yellowbob.logbook.records import Note, Puck, Spent, TankTest, WaterTest
from yellowbob.logbook.sides import put_puck, teach_speed
from yellowbob.logbook.store import LogBook
from yellowbob.study import Study, of
from yellowbob.study.drawn import Drawn
from yellowbob.study.evidence import weighed
from yellowbob.trials.promise import promised
from yellowbob.weights.slip import Slip

DEMO = Path(__file__).parents[1] / "src" / "yellowbob" / "demo"
TRUE_DENSITY = {
    "alder": (0.455, 0.022),
    "obeche": (0.385, 0.020),
    "jelutong": (0.47, 0.015),
    "paulownia": (0.285, 0.018),
}
"""Of this shop's wood, g/mL: mean and scatter of pieces."""
TRUE_SWING = (1.2, 0.1)
"""Swings counted over those the model tells."""
TRUE_FILM = (1.25, 0.12)
"""Its hand lays so much more than the shelf's films, and scatters by so much, as shares."""
RESIN, TRUE_RESIN = "slow casting resin, 1:1", 1.06
POWDER, TRUE_POWDER = "glass micro-balloons", 0.24
DESIGNS = (
    "sallow-74",
    "osier-96",
    "moth-crawler-64",
    "spit-pencil-118",
    "mill-tail-88",
    "sill-darter-98",
    "weir-cup-62",
)
WORDS = (
    "runs true",
    "a little lazy to port",
    "spits well on a short pull",
    "best at a walk",
    "came up weed-free",
    "cast clean into the wind",
)
COUNT = 24
BATCHED = (3, 12)
"""Which of the season were made three at a time."""
SCALE_G, PITCH_DEG, DRAFT_MM = 0.01, 0.5, 0.3


def true_piece(design: Design, dice: np.random.Generator) -> Design:
    """One piece as it really came out: its wood's density and its films drawn from the true values."""
    mean, scatter = TRUE_DENSITY.get(design.body.material.name, (design.body.density_g_ml, 0.02))
    films = tuple(replaced(c, film_mm=c.film_mm * max(0.3, dice.normal(*TRUE_FILM))) for c in design.coats)
    return design.of_material(density_g_ml=float(dice.normal(mean, scatter))).but(coats=films)


def reading(slip: Slip, stage: str, dice: np.random.Generator) -> float:
    """What the scale shows of a piece bare or finished, g."""
    lines = slip.lines if stage == "finished" else [line for line in slip.lines if line.of == "bare body"]
    return round(sum(line.mass.mass_g for line in lines) + float(dice.normal(0.0, SCALE_G)), 2)


def counted(design: Design, speed: float, dice: np.random.Generator, known: dict[str, Drawn]) -> int | None:
    """Swings in ten seconds as somebody would count them: what the model tells, times the true factor, with its scatter."""
    if design.name not in known:
        known[design.name] = of.drawn_usually(Study(design))
    aside = known[design.name].sideways
    if aside is None or not aside.swings:
        return None
    near = min(aside.swings, key=lambda s: abs(s.speed_m_s - speed))
    found = round(10.0 * near.hz * float(dice.normal(*TRUE_SWING)))
    return found if 4 <= found <= 60 and abs(near.speed_m_s - speed) < 0.2 else None


def season(log: LogBook, seed: int = 7, count: int = COUNT, swim: bool = False) -> None:
    """Write the builds of a season into an empty log. swim: swings by the model too, which takes its time."""
    dice = np.random.default_rng(seed)
    known: dict[str, Drawn] = {}
    for number in range(count):
        design = read_design(DEMO / f"{DESIGNS[number % len(DESIGNS)]}.ybob").but(weighings=())
        begun = date(2026, 3, 7) + timedelta(days=9 * number)
        batch = number in BATCHED
        build, *others = log.new(design, 3 if batch else 1, made_on=begun, promised=promised(Study(design)))
        true = Study(true_piece(design, dice))
        at = datetime.combine(begun, time(19), UTC)
        drawn = design
        for stage, days in (("bare body", 1), ("finished", 6)):
            drawn = weighed(Study(drawn), stage, reading(of.slip(true), stage, dice))
            log.add(build.serial, "weigh", drawn.weighings[-1], at + timedelta(days=days))
        rest = of.upright_rest(true)
        if rest is not None:
            right = int(dice.binomial(10, 0.9))
            log.add(build.serial, "tank", TankTest(
                pitch_deg=round(math.degrees(rest.pitch_rad) + float(dice.normal(0.0, PITCH_DEG)), 1),
                draft_mm=round(rest.draft_mm + float(dice.normal(0.0, DRAFT_MM)), 1), drops=10, came_right=right,
                water=design.water.name, temperature_c=design.water.temperature_c,
            ), at + timedelta(days=7))  # fmt: skip
        speed = round(float(dice.uniform(0.3, 0.9)), 2)
        swings = counted(design, speed, dice, known) if swim else None
        strikes = int(dice.poisson(1.5))
        hooked = int(dice.binomial(strikes, 0.6))
        log.add(build.serial, "water", WaterTest(
            speed_m_s=speed, swings=swings, strikes=strikes,
                hooked=hooked,
            unstable_m_s=round(float(dice.normal(1.4, 0.15)), 2) if number % 5 == 0 else None,
            fish=int(dice.binomial(hooked, 0.7)), hours=round(float(dice.uniform(0.5, 4.0)), 1), slow=int(dice.integers(2,
                6)),
            fast=int(dice.integers(1, 6)), words=str(dice.choice(WORDS)),
        ), at + timedelta(days=9))  # fmt: skip
        state = "lost" if number % 8 == 5 else "done"
        log.change(
            build.serial,
            state=state,
            lost_why="snagged on the sill" if state == "lost" else "",
            hours=round(float(dice.normal(4.0, 0.7)), 1),
        )
        for other in others:  # the rest of a batch is weighed, no more
            sister = Study(true_piece(design, dice))
            told = weighed(Study(design), "finished", reading(of.slip(sister), "finished", dice))
            log.add(other.serial, "weigh", told.weighings[-1], at + timedelta(days=8))
            log.change(other.serial, state="done")
        if number % 4 == 1:
            log.add(build.serial, "time", Spent(on="shaping", hours=round(float(dice.normal(1.5, 0.3)), 1)), at)
        if number % 6 == 2:
            log.add(build.serial, "note", Note(words="the second coat sagged at the tail"), at + timedelta(days=5))
    for number in range(6):
        share = 0.2 if number >= 3 else 0.0
        dense = 1.0 / (share / TRUE_POWDER + (1.0 - share) / TRUE_RESIN)
        volume = float(dice.normal(20.0, 0.5))
        put_puck(log, Puck(
            resin=RESIN, volume_ml=round(volume + float(dice.normal(0.0, 0.1)), 2),
            mass_g=round(dense * volume + float(dice.normal(0.0, 0.02)), 2), powder=POWDER if share else "",
            powder_share=share,
        ))  # fmt: skip
    teach_speed(log, "motor 2", 0.55)


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as scratch:
        log = LogBook(Path(scratch) / "season.sqlite")
        season(log, swim=True)
        Path(sys.argv[1]).write_text(whole_json(log), encoding="utf-8")
