"""Figures that slipped a place: no mass, room or density that nothing of its kind has goes without a word."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import DEMO, solved
from tests.core.test_cli import run
from yellowbob.checks.next_step import next_step
from yellowbob.checks.registry import CHECKS
from yellowbob.checks.verdict import with_set_aside
from yellowbob.design.files import read_design, write_design
from yellowbob.design.hardware import Filler, Fitting
from yellowbob.design.model import Design, replaced
from yellowbob.design.rig import Hung, Rig
from yellowbob.fitout.likely import doubts
from yellowbob.logbook.store import LogBook
from yellowbob.shelf.fitting import ballast_from, fitting_from, hook_from
from yellowbob.shelf.shipped import ballast_stock, coats, every_material, fillers, hardware, hooks, wires
from yellowbob.study import Study
from yellowbob.study.evidence import with_reading
from yellowbob.trials.learned import learned

AT = (30.0, 0.0, -9.0)
PLAIN = read_design(DEMO / "sallow-74.ybob").but(fittings=(), ballast=(), wires=())
SLIPS = (0.1, 10.0)
DENSEST = 25.0


def doubted(design: Design) -> list[str]:
    return [d.name for d in doubts(design)]


def with_fitting(fitting: Fitting) -> Design:
    return PLAIN.but(fittings=(fitting,))


def test_nothing_of_the_shelf_is_doubted() -> None:
    shelf = [hook_from(h, AT, n) for n, h in hooks().items()]
    shelf += [fitting_from(h, AT, n) for n, h in hardware().items()]
    weights = [ballast_from(b, 30.0, None) for b in ballast_stock().values()]
    wire = read_design(DEMO / "sallow-74.ybob").wires[0]
    bent = [replaced(wire, material=n, density_g_ml=w.density_g_ml) for n, w in wires().items()]
    for k in range(0, len(weights), 20):
        assert not doubted(PLAIN.but(ballast=tuple(weights[k : k + 20]), wires=tuple(bent[k : k + 20])))
    for name, stuff in every_material().items():
        for density in (stuff.density_g_ml - 2 * stuff.spread_g_ml, stuff.density_g_ml + 2 * stuff.spread_g_ml):
            made = PLAIN.of_material(0, name=name, group=stuff.group, density_g_ml=density)
            assert not doubted(made), (name, density)
    assert not [f.name for f in shelf if doubted(with_fitting(f))]


@pytest.mark.parametrize("times", SLIPS)
def test_a_hook_whose_mass_or_room_slipped_a_place_is_doubted(times: float) -> None:
    for name, hook in hooks().items():
        one = hook_from(hook, AT, name)
        for changed in (
            replaced(one, mass_g=times * one.mass_g),
            replaced(one, volume_ml=times * one.volume_ml),
            replaced(one, mass_g=times * one.mass_g, volume_ml=times * one.volume_ml),
        ):
            assert changed.mass_g < 0.02 or doubted(with_fitting(changed)) == [name], (name, changed)


@pytest.mark.parametrize("times", SLIPS)
def test_what_a_piece_a_weight_or_a_wire_is_made_of_is_doubted_a_place_off(times: float) -> None:
    for name, stuff in every_material().items():
        if times * stuff.density_g_ml > DENSEST:
            continue  # refused
        made = PLAIN.of_material(0, name=name, group=stuff.group, density_g_ml=times * stuff.density_g_ml)
        unknown = PLAIN.of_material(0, name="what the neighbour had", group="wood", density_g_ml=times * 0.3)
        assert doubted(made) == ["body"] and doubted(unknown) == ["body"], name
    for name, stock in ballast_stock().items():
        if times * stock.density_g_ml > DENSEST:
            continue
        ballast = ballast_from(stock, 30.0, None)
        slipped = replaced(ballast, weight=replaced(ballast.weight, density_g_ml=times * stock.density_g_ml))
        assert doubted(PLAIN.but(ballast=(slipped,))) == [ballast.name], name
    wire = read_design(DEMO / "sallow-74.ybob").wires[0]
    slipped_wire = replaced(wire, density_g_ml=min(times * wire.density_g_ml, DENSEST))
    assert doubted(PLAIN.but(wires=(slipped_wire,))) == [wire.name]
    for stock in wires().values():
        thick = replaced(wire, diameter_mm=stock.diameter_mm)
        assert not doubted(PLAIN.but(wires=(thick,))), stock.name
    for usual in (0.8, 1.2, 1.6):  # what bodies are wired with
        assert doubted(PLAIN.but(wires=(replaced(wire, diameter_mm=times * usual),))) == [wire.name]


@pytest.mark.parametrize("times", SLIPS)
def test_films_plugs_and_shot_are_doubted_a_place_off(times: float) -> None:
    coat = read_design(DEMO / "sallow-74.ybob").coats[0]
    for name, stock in coats().items():
        as_sold = replaced(coat, name="coat", stock=name, film_mm=stock.film_mm, density_g_ml=stock.density_g_ml)
        assert not doubted(PLAIN.but(coats=(as_sold,))), name
        for changed in (
            replaced(as_sold, film_mm=times * stock.film_mm),
            replaced(as_sold, density_g_ml=times * stock.density_g_ml),
        ):
            assert doubted(PLAIN.but(coats=(changed,))) == ["coat"], (name, changed)
    slug = ballast_from(next(iter(ballast_stock().values())), 30.0, None)
    for name, filler in fillers().items():
        plug = Filler(material=name, density_g_ml=times * filler.density_g_ml)
        assert doubted(PLAIN.but(ballast=(replaced(slug, plug=plug),))) == [f"plug of {slug.name}"], name
    shots = {n: s for n, s in ballast_stock().items() if s.form == "shot" and s.mass_g and s.mass_g < 100.0}
    float_ = read_design(DEMO / "bar-antenna-234.ybob")
    for name, shot in shots.items():
        one = ballast_from(shot, 30.0, None)
        slipped = replaced(one, weight=replaced(one.weight, mass_g=times * shot.mass_g))
        assert doubted(PLAIN.but(ballast=(slipped,))) == [one.name], name
        hung = Hung(name="bulk", stock=name, mass_g=shot.mass_g or 1.0, density_g_ml=shot.density_g_ml)
        assert not doubted(float_.but(rig=Rig(hung=(hung,)))), name
        assert doubted(float_.but(rig=Rig(hung=(replaced(hung, mass_g=times * hung.mass_g),)))) == ["bulk"], name
    assert len(shots) > 20


def test_a_hook_that_takes_no_room_fails_the_check_and_a_buried_eye_does_not() -> None:
    """Without it the demo would sit ten degrees higher, and every figure be as smooth as before."""
    design = read_design(DEMO / "sallow-74.ybob")

    def says(design: Design) -> tuple[str, str]:
        verdict = CHECKS["likely"].verdict(solved(design))
        assert verdict is not None
        return verdict.state, verdict.figure

    assert says(design) == ("good", "as such things weigh")
    bare = tuple(replaced(f, volume_ml=0.0) if f.sort == "hook" else f for f in design.fittings)
    state, figure = says(design.but(fittings=bare))
    assert state == "failed" and figure == "Belly treble, size 6: 0.98 g that take no room in the water, and 1 more"
    step = next_step(solved(design.but(fittings=bare)))  # it sits too high as well, which follows from it
    assert step.startswith("Weights likely: Look again at the figures of Belly treble, size 6")
    heavy = tuple(replaced(f, mass_g=4 * f.mass_g, volume_ml=4 * f.volume_ml) if f.sort == "hook" else f for f in bare)
    light = [replaced(f, volume_ml=f.mass_g / 7.85) for f in heavy if f.sort == "hook"]
    state, figure = says(design.but(fittings=tuple(light)))
    assert state == "watch" and "hooks of its size weigh" in figure
    assert not doubted(with_fitting(Fitting(name="eye", sort="eye", at_mm=AT, mass_g=0.4)))


@pytest.mark.parametrize("file", sorted(DEMO.glob("*.ybob")), ids=lambda f: f.stem)
def test_no_demo_is_doubted(file: Path) -> None:
    assert not doubted(read_design(file))


# ---- what was weighed


def weighed_as(reading: str) -> Study:
    design = read_design(DEMO / "sallow-74.ybob")
    return Study(with_reading(Study(design), reading))


def state_of(study: Study, key: str) -> tuple[str, str]:
    verdict = CHECKS[key].verdict(study)
    assert verdict is not None
    return verdict.state, verdict.figure


@pytest.mark.parametrize(
    ("reading", "words"),
    [
        ("bare body=97.7 g", "ten times too much?"), ("bare body=0.977 g", "a tenth of it?"),
        ("fitted=123 g", "ten times too much?"), ("finished=0.637 g", "ounces read as grams?"),
    ],
)  # fmt: skip
def test_a_weighing_that_slipped_is_not_believed_without_a_word(reading: str, words: str) -> None:
    """It had been taken for this piece's density, to three places."""
    study = weighed_as(reading)
    state, figure = state_of(study, "likely")
    assert state == "failed" and words in figure and figure.startswith(reading.partition("=")[0])
    assert state_of(study, "weighed")[0] == "watch"


@pytest.mark.parametrize("grams", [8.2, 9.0, 9.77, 10.6, 12.2])
def test_a_lighter_or_heavier_board_is_believed(grams: float) -> None:
    study = weighed_as(f"bare body={grams} g")
    assert state_of(study, "likely")[0] == state_of(study, "weighed")[0] == "good"


def test_nothing_is_learnt_from_a_misreading_nor_a_film_that_none_can_be(tmp_path: Path) -> None:
    log, design = LogBook(tmp_path / "log.sqlite"), read_design(DEMO / "sallow-74.ybob")
    readings = {
        "slipped": ("bare body=97.7 g",), "thin": ("bare body=9.9 g", "ballasted=17.1 g", "finished=9.9 g"),
        "sound": ("bare body=9.9 g",),
    }  # fmt: skip
    builds = []
    for build, told in zip(log.new(design, 3), readings.values(), strict=True):
        study = Study(design)
        for reading in told:
            study = Study(with_reading(study, reading))
        builds.append((build, study.design, ()))
    found = learned(builds)
    slipped, thin, _ = (build.serial for build, _, _ in builds)
    assert slipped not in {s for one in found.densities.values() for s in one.serials} and not found.films
    aside = sorted(found.aside)
    assert aside[0].startswith(f"{slipped}: bare body at 97.7 g: the decimal point slipped")
    assert aside[1].startswith("two-part epoxy clear: −0.4") and thin in aside[1]


def test_a_weighing_put_down_that_is_too_far_off_is_said(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "s.ybob"
    file.write_bytes((DEMO / "sallow-74.ybob").read_bytes())
    _, out, _ = run(capsys, "weigh", str(file), "--put-down", "bare body=97.7 g")
    assert "! bare body: 97.70 g is 86.6 σ" in out and "the decimal point slipped" in out
    file.write_bytes((DEMO / "sallow-74.ybob").read_bytes())
    assert "σ" not in run(capsys, "weigh", str(file), "--put-down", "bare body=9.9 g")[1]


def test_every_command_says_of_a_design_what_cannot_be(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    design = read_design(DEMO / "sallow-74.ybob")
    bare = tuple(replaced(f, volume_ml=0.0) if f.sort == "hook" else f for f in design.fittings)
    file, sound = tmp_path / "s.ybob", str(DEMO / "sallow-74.ybob")
    write_design(design.but(fittings=bare), file)
    for command in (("float", "--json"), ("weigh",), ("rests", "--json"), ("wire",), ("lines",)):
        _, out, err = run(capsys, command[0], str(file), *command[1:])
        assert err.count("mind: ") == 2 and "Tail treble, size 6: 0.98 g that take no room" in err and out, command
        assert "mind" not in run(capsys, command[0], sound, *command[1:])[2]
    write_design(with_set_aside(design.but(fittings=bare), "likely", "hooks of foam, for the shop's window"), file)
    assert "mind" not in run(capsys, "float", str(file))[2]
