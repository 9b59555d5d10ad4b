"""The log over several builds: figures, charts, batches, experiments, pucks, pictures, pieces measured back."""

from __future__ import annotations

import json
import math
import sqlite3
from collections import defaultdict
from datetime import UTC, datetime, timedelta
from pathlib import Path

import jsonschema
import numpy as np
import pytest

from tests.conftest import DEMO
from tests.core.test_cli import run
from tests.core.test_logbook import design_of
from yellowbob.design.base import replaced
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.compared import compared_builds
from yellowbob.logbook.exchange import take_json, whole_json
from yellowbob.logbook.figures import FIGURES, OFF, batch_spread, charted, figure
from yellowbob.logbook.photos import photo_file
from yellowbob.logbook.records import Note, Promised, Spent, TankTest, WaterTest, Weighing
from yellowbob.logbook.store import LogBook
from yellowbob.reports.contract import schema_of
from yellowbob.reports.log_shapes import LOG, LOG_SETS
from yellowbob.shop.bores import bores
from yellowbob.shop.kept_made import keep_made, take_off
from yellowbob.shop.made import HoleMeasured, Measured
from yellowbob.study import Study, of
from yellowbob.trials.experiment import begin_experiment, changes_by
from yellowbob.trials.learned import learned
from yellowbob.trials.promise import promised

NOON = datetime(2026, 5, 1, 12, tzinfo=UTC)


@pytest.fixture
def log(tmp_path: Path) -> LogBook:
    return LogBook(tmp_path / "workshop.sqlite")


# ---- figures and charts


def filled(log: LogBook, seed: int, count: int = 12) -> dict[str, dict[str, float]]:
    """Random builds with random entries; every figure worked out by hand beside them."""
    dice = np.random.default_rng(seed)
    found: dict[str, dict[str, float]] = defaultdict(dict)
    design = design_of("sallow-74")
    for number in range(count):
        serial = f"B{number}"
        promise = Promised(bare_g=9.0 + number, finished_g=18.0, length_mm=74.0, wood="alder", pitch_deg=25.0)
        log.new(design, serial=serial, promised=promise, hours=float(number) if number % 3 else None)
        found["bare promised"][serial], found["pitch promised"][serial] = 9.0 + number, 25.0
        if number % 3:
            found["hours"][serial] = float(number)
        sums = defaultdict(list)
        for step in range(int(dice.integers(0, 6))):
            at = NOON + timedelta(hours=int(dice.integers(0, 500)) if step else 0, seconds=step)
            kind = int(dice.integers(0, 4))
            value = float(dice.normal(10.0, 1.0))
            if kind == 0:
                part = bool(dice.integers(0, 2))
                log.add(
                    serial, "weigh", Weighing(stage="finished", mass_g=value, shares={"x": 0.0} if part else {}), at
                )
                if not part:
                    sums["finished"].append((at, value))
            elif kind == 1:
                off = ("Belly treble, size 6",) if dice.integers(0, 2) else ()
                log.add(serial, "tank", TankTest(pitch_deg=value, drops=3, came_right=2, off=off), at)
                if not off:  # a test with a hook off is told nowhere as this build's
                    sums["pitch"].append((at, value))
                    sums["drops"].append((at, 3.0))
            elif kind == 2:
                log.add(serial, "water", WaterTest(speed_m_s=value, strikes=2, hooked=1), at)
                sums["speed"].append((at, value))
                sums["strikes"].append((at, 2.0))
            else:
                log.add(serial, "time", Spent(on="sanding", hours=value), at)
                sums["spent"].append((at, value))
        for key, values in sums.items():
            told = [v for _, v in sorted(values)]
            how = FIGURES[key].how
            found[key][serial] = told[-1] if how == "last" else sum(told) / (len(told) if how == "mean" else 1)
    return found


@pytest.mark.parametrize("seed", range(6))
def test_every_figure_is_what_the_entries_say(log: LogBook, seed: int) -> None:
    wanted = filled(log, seed)
    for key in ("bare promised", "pitch promised", "hours", "finished", "pitch", "drops", "speed", "strikes", "spent"):
        assert figure(log, key) == pytest.approx(wanted[key], rel=1e-9), key
    less = {s: v - 25.0 for s, v in wanted["pitch"].items()}
    assert figure(log, "pitch off") == pytest.approx(less) and set(OFF) == {
        f"{k} off" for k in ("bare", "finished", "pitch", "draft")
    }
    assert figure(log, "pitch off", ["B0", "B1", "B2"]) == pytest.approx(
        {s: v for s, v in less.items() if s in ("B0", "B1", "B2")}
    )
    # an entry taken off and a build changed take their figures with them
    for entry in log.entries("B1"):
        log.remove(entry.number)
    log.change("B1", hours=77.0)
    assert "B1" not in figure(log, "finished") and figure(log, "hours")["B1"] == 77.0
    with pytest.raises(BadInput, match="no figure of the log"):
        figure(log, "weight")


def test_a_log_of_an_older_program_is_charted_too(log: LogBook) -> None:
    wanted = filled(log, 3)
    with sqlite3.connect(log.path) as old:
        old.execute("DROP TABLE log_speeds")
        for name in ("log_entry_in", "log_entry_out", "log_build_in", "log_build_other"):
            old.execute(f"DROP TRIGGER {name}")
        old.execute("DROP TABLE log_numbers")
        old.execute("PRAGMA user_version = 3")
    again = LogBook(log.path)
    for key in ("finished", "pitch", "spent", "hours", "bare promised"):
        assert figure(again, key) == pytest.approx(wanted[key]), key


def test_a_chart_draws_the_line_that_least_squares_gives(log: LogBook) -> None:
    dice = np.random.default_rng(5)
    for number in range(9):
        log.new(
            design_of("sallow-74"), serial=f"C{number}", hours=float(number), cost=float(5 + 3 * number + dice.normal())
        )
    found = charted(log, "hours", "cost")
    fit, spread = np.polyfit(found.x, found.y, 1, cov=True)
    assert found.slope == pytest.approx(fit[0]) and found.slope_u == pytest.approx(math.sqrt(spread[0, 0]))
    assert found.r == pytest.approx(np.corrcoef(found.x, found.y)[0, 1])
    assert charted(log, "hours", "cost", "C3").serials == ("C3",) and charted(log, "hours", "cost", "C3").r is None
    assert charted(log, "hours", "pitch").x == ()


def test_a_batch_tells_its_spread_and_what_was_lost(log: LogBook) -> None:
    built = log.new(design_of("sallow-74"), 4)
    masses = (17.9, 18.1, 18.4, 18.0)
    for build, mass in zip(built, masses, strict=True):
        log.add(build.serial, "weigh", Weighing(stage="finished", mass_g=mass))
    told = batch_spread(log, "S001")["finished"]
    assert (told.count, told.least, told.most) == (4, 17.9, 18.4)
    assert told.mean == pytest.approx(np.mean(masses)) and told.sd == pytest.approx(np.std(masses, ddof=1))
    with pytest.raises(BadInput, match="no batch"):
        batch_spread(log, "S009")


# ---- experiments, side by side


def test_an_experiment_differs_in_one_thing_and_promises_what_the_solve_says(log: LogBook) -> None:
    design = design_of("sallow-74")
    key = "ballast:Belly slug:x"
    built = begin_experiment(log, design, key, changes_by(design, key, (33.0, 35.0, 37.0)), each=2)
    assert len(built) == 6 and len({b.batch for b in built}) == 1 and len({b.differs for b in built}) == 3
    for build in built:
        promise = promised(Study(log.drawn(build.serial)))
        assert build.promised == promise and promise.pitch_deg is not None
    found = compared_builds(log, [b.serial for b in built])
    assert [place for place, _ in found.differ] == ["ballast Belly slug, drilling, place, mm 1"] and found.more == 0
    assert [float(v) for v in found.differ[0][1]] == pytest.approx([33, 33, 35, 35, 37, 37])
    for wrong, words in (((33.0,), "2 to 12 values"), ((33.0, 33.0), "2 to 12 values"), ((), "2 to 12")):
        with pytest.raises(BadInput, match=words):
            changes_by(design, key, wrong)
    with pytest.raises(BadInput, match="nothing to differ in"):
        changes_by(design, "colour")
    with pytest.raises(BadInput):
        compared_builds(log, ["S001-1"])


def test_what_was_said_of_builds_stands_side_by_side(log: LogBook) -> None:
    log.new(design_of("sallow-74"), 2)
    log.add("S001-1", "note", Note(words="sags"))
    log.add("S001-2", "water", WaterTest(words="runs true", damage="lip chipped", swings=0, slow=0))
    found = compared_builds(log, ["S001-1", "S001-2"])
    assert found.words == (("sags",), ("runs true", "lip chipped")) and found.differ == ()
    # nought is a reading, and nothing is not
    assert {r.key: r.values for r in found.rows if r.key in ("swings", "slow")} == {
        "swings": (None, 0.0),
        "slow": (None, 0.0),
    }


# ---- pieces measured back


def test_a_piece_measured_back_is_the_builds_own_design(log: LogBook) -> None:
    design = design_of("weir-cup-62")
    hole = next(b for b in bores(Study(design)))
    (build,) = log.new(design)
    keep_made(log, build.serial, [], [HoleMeasured(hole.name, {"depth": hole.depth_mm + 0.8})])
    kept = log.design(build.serial)
    assert kept != design and log.drawn(build.serial) == design
    again = {b.name: b.depth_mm for b in bores(Study(kept))}
    assert again[hole.name] == pytest.approx(hole.depth_mm + 0.8)
    # a second reading of the same hole takes the first one's place
    keep_made(log, build.serial, [], [HoleMeasured(hole.name, {"depth": hole.depth_mm + 0.4})])
    assert {b.name: b.depth_mm for b in bores(Study(log.design(build.serial)))}[hole.name] == pytest.approx(
        hole.depth_mm + 0.4
    )
    found = learned([(build, kept, log.entries(build.serial))])
    assert found.drilling["depth"].misses == pytest.approx((0.8, 0.4)) and found.drilling[
        "depth"
    ].bias == pytest.approx(0.6)
    # out and in again it stays what it is
    other = LogBook(log.path.with_name("other.sqlite"))
    out = log.path.with_name("out.json")
    out.write_text(whole_json(log), encoding="utf-8")
    assert take_json(other, out).refused == () and other.design(build.serial) == log.design(build.serial)
    first, second = log.entries(build.serial, "made")
    take_off(log, second.number)
    assert {b.name: b.depth_mm for b in bores(Study(log.design(build.serial)))}[hole.name] == pytest.approx(
        hole.depth_mm + 0.8
    )
    take_off(log, first.number)
    assert log.design(build.serial) == design
    with pytest.raises(BadInput, match="no hole called"):
        keep_made(log, build.serial, [], [HoleMeasured("nowhere", {"depth": 3.0})])
    assert log.entries(build.serial) == ()


def test_stations_measured_back_change_what_is_forecast(log: LogBook) -> None:
    design = design_of("sallow-74")
    (build,) = log.new(design)
    before = of.outer(Study(design)).volume_mm3
    shape = keep_made(log, build.serial, [Measured(37.0, {"port": 9.5, "starboard": 9.5})])
    assert of.outer(Study(shape)).volume_mm3 != pytest.approx(before, rel=1e-3) and log.design(build.serial) == shape


# ---- the command line


def test_the_new_commands_keep_their_contracts(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))
    sallow, picture = str(DEMO / "sallow-74.ybob"), str(DEMO / "to-trace.jpg")
    holes = tmp_path / "h.csv"
    holes.write_text("name,depth\nBelly slug,11.6 mm\n", encoding="utf-8")
    shapes = {**LOG, **LOG_SETS}
    clicks = ("--waterline", "0,300 900,300", "--ends", "100,290 800,310")
    for shape, *command in (
        ("log experiment", "experiment", sallow, "--by", "wood"), ("log compare", "compare", "S001-1", "S001-2"),
        ("log batch", "batch", "S001"), ("log chart", "chart", "length", "bare promised", "-o", str(tmp_path / "c.csv")),
        ("log entry", "time", "S001-1", "sanding", "0.5"), ("log entry", "photo", "S001-1", picture),
        ("log entry", "made", "S001-1", "--holes", str(holes)), ("log taken", "drop", "1"),
        ("log puck", "puck", "epoxy, 2:1", "--mass", "12 g", "--size", "40x8.5 mm"),
        ("log puck", "puck", "epoxy, 2:1", "--mass", "9 g", "--volume", "10 ml", "--powder", "glass micro-balloons",
            "--share", "0.1"),
        ("log speed", "speed", "motor 3", "0.7 m/s"), ("log speed", "speed"), ("log speed", "speed", "walk"),
        ("log entry", "water", "S001-1", "speed=motor 3", "unstable_m_s=1.2"),
        ("log tank", "tank", "S001-1", "--photo", picture, *clicks), ("log learn", "learn"),
    ):  # fmt: skip
        code, out, err = run(capsys, "log", *command, "--json")
        assert code == 0, (command, err)
        jsonschema.validate(json.loads(out), schema_of(shapes[shape]))
        if shape not in ("log entry", "log taken", "log tank"):
            assert run(capsys, "log", *command)[1]
    assert (tmp_path / "c.csv").read_text(encoding="utf-8").startswith("serial,length,bare promised\n")
    tank = next(e for e in LogBook().entries("S001-1", "tank"))
    assert (
        isinstance(tank.data, TankTest)
        and tank.data.photo == "S001-1-2.jpg"
        and photo_file(LogBook(), tank.data.photo).is_file()
    )
    water = next(e for e in LogBook().entries("S001-1", "water")).data
    assert isinstance(water, WaterTest) and water.speed_m_s == 0.7 and water.speed_words == "motor 3"
    for command, words in (
        (("experiment", sallow, "--by", "finish", "--values", "1,x"), "comma"), (("compare", "S001-1"), "2 to 6"),
        (("chart", "a", "b"), "no figure"), (("chart", "length", "hours", "-o", "c.txt"), "write .csv"),
        (("made", "S001-1"), "--stations or --holes"), (("drop", "999"), "no entry"), (("puck", "glue", "--mass", "3 g"),
            "--volume"),
        (("puck", "glue", "--mass", "3 g", "--volume", "3 ml"), "glue"), (("speed", "motor 9"), "no speed"),
        (("tank", "S001-1", "--ends", "1,2 3,4"), "--photo"), (("tank", "S001-1", "--photo", picture, "--pitch", "3"),
            "leave --pitch"),
        (("tank", "S001-1", "--photo", picture, "--ends", "1,2"), "two places"), (("photo", "S001-1", str(holes)),
            "no picture"),
    ):  # fmt: skip
        code, _, err = run(capsys, "log", *command)
        assert code == 2 and words in err and err.count("\n") == 1, (command, err)


def test_a_mark_of_promise_is_the_drawings_and_not_the_readings() -> None:
    design = design_of("sallow-74")
    heavy = replaced(design, weighings=(Weighing(stage="bare body", mass_g=14.0),))
    assert promised(Study(heavy)) == promised(Study(design))


def test_a_board_is_learnt_by_itself_and_with_its_wood(log: LogBook) -> None:
    design = design_of("sallow-74")
    for board, factor in (("A", 0.9), ("A", 0.92), ("B", 1.1), ("", 1.0)):
        (build,) = log.new(design, board=board)
        mass = factor * sum(ln.mass.mass_g for ln in of.slip(Study(design)).lines if ln.of == "bare body")
        log.add(build.serial, "weigh", Weighing(stage="bare body", mass_g=mass))
    found = learned([(b, log.design(b.serial), log.entries(b.serial)) for b in log.builds()])
    assert {k: t.count for k, t in found.densities.items()} == {"alder": 4, "alder, board A": 2, "alder, board B": 1}
    told = found.densities
    assert told["alder, board A"].mean < told["alder"].mean < told["alder, board B"].mean
    assert told["alder, board A"].shelf == told["alder"].shelf == 0.51


def test_a_filler_is_told_only_where_weighings_tell_it_apart(log: LogBook) -> None:
    design = design_of("sallow-74")
    (build,) = log.new(design)
    slip = of.slip(Study(design))
    bare = sum(ln.mass.mass_g for ln in slip.lines if ln.of == "bare body")
    plug = next(ln for ln in slip.lines if ln.words.startswith("plug"))
    log.add(build.serial, "weigh", Weighing(stage="bare body", mass_g=bare))
    found = learned([(build, log.design(build.serial), log.entries(build.serial))])
    assert found.fillings == {}
    # weighed before and after the plug alone, on a scale fine enough
    on = [ln for ln in slip.lines if ln.stage == "on scale"]
    whole = sum(ln.mass.mass_g for ln in on)
    for mass, off in ((whole - plug.mass.mass_g, {plug.key: 0.0}), (whole + 0.15 * plug.mass.mass_g, {})):
        log.add(build.serial, "weigh", Weighing(stage="ballasted", mass_g=mass, u_g=0.0005, shares=off))
    found = learned([(build, log.design(build.serial), log.entries(build.serial))])
    (told,) = found.fillings.values()
    filler = design.ballast[0].plug
    assert filler is not None and told.count == 1 and told.mean > 1.05 * filler.density_g_ml
