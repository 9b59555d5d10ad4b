"""The shot search against exhaustive search; labels; sizing; droppers; floats from files and commands."""

from __future__ import annotations

import itertools
import json
import random
from pathlib import Path
from typing import Any

import pytest

from yellowbob.__main__ import main
from yellowbob.afloat.line import capacity, submerged_g
from yellowbob.ballast import shotting
from yellowbob.ballast.shotting import ShotSize, best_shot, handy_shot, labels
from yellowbob.checks.registry import verdicts
from yellowbob.design.files import read_json
from yellowbob.design.model import Bore, Design, Drilling, replaced
from yellowbob.design.rig import Hung, Rig
from yellowbob.ground.errors import BadInput
from yellowbob.reports.floating import float_report
from yellowbob.shelf.items import BallastStock
from yellowbob.shelf.own import OwnShelf
from yellowbob.shop.slip_page import slip_rows
from yellowbob.study import Study, of
from yellowbob.trials import sizing
from yellowbob.trials.float_starts import started
from yellowbob.trials.sensitivity import sensitivity
from yellowbob.trials.shotting import shotted, with_shot
from yellowbob.trials.sizing import sized


def turned(*points: tuple[float, float]) -> dict[str, Any]:
    return {"kind": "turned", "profile": [{"at_mm": p, "bend": "corner"} for p in points]}


def piece(name: str, density: float, shape: dict[str, Any], x: float = 0.0, group: str = "wood") -> dict[str, Any]:
    return {"name": name, "material": {"name": name, "group": group, "density_g_ml": density}, "shape": shape,
            "at_mm": [x, 0.0, 0.0]}  # fmt: skip


def stick(**more: Any) -> Design:
    """A body of 60 mm on a stem that sits 20 mm deep in it, with a thin tip on top."""
    data = {
        "format": "yellow-bob-design", "version": 3, "name": "Stick", "kind": "stick float",
        "pieces": [
            piece("body", 0.22, turned((0, 3), (20, 6), (60, 3)), group="foam"),
            piece("Tip", 0.7, turned((0, 1.5), (45, 1.5)), -20.0),
            piece("Stem", 0.75, turned((0, 1.5), (90, 1.5)), 40.0),
        ],
        **more,
    }  # fmt: skip
    return read_json(json.dumps(data))


def exhaustive(target: float, sizes: list[ShotSize]) -> float:
    ranges = [range(min(s.count, int(target / s.pull_g + 1e-9)) + 1) for s in sizes]
    totals = (sum(n * s.pull_g for n, s in zip(c, sizes, strict=True)) for c in itertools.product(*ranges))
    return max(t for t in totals if t <= target + 1e-9)


@pytest.mark.parametrize("seed", range(30))
def test_the_search_equals_exhaustive_search(seed: int) -> None:
    chance = random.Random(seed)
    sizes = [
        ShotSize(f"s{k}", round(chance.uniform(0.02, 1.9), 4), chance.randint(0, 4))
        for k in range(chance.randint(1, 7))
    ]
    target = chance.uniform(0.0, 6.0)
    found = best_shot(target, sizes)
    assert found.total_g == pytest.approx(exhaustive(target, sizes), abs=1e-9)
    assert all(0 <= n <= s.count for n, s in zip(found.counts, sizes, strict=True))
    assert found.left_g == pytest.approx(target - found.total_g) and found.left_g >= -1e-9


@pytest.mark.parametrize("seed", range(6))
def test_counting_in_units_comes_as_near(seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    chance = random.Random(seed)
    sizes = [ShotSize(f"s{k}", round(chance.uniform(0.05, 1.9), 3), chance.randint(1, 4)) for k in range(6)]
    target = chance.uniform(2.0, 6.0)
    monkeypatch.setattr(shotting, "MOST_SUMS", 0)
    assert best_shot(target, sizes).total_g == pytest.approx(
        exhaustive(target, sizes), abs=6 * 4 * target / shotting.UNITS
    )


def test_twenty_sizes_of_thirty_are_searched_and_the_fewest_pieces_taken() -> None:
    chance = random.Random(2)
    sizes = [ShotSize(f"s{k}", round(chance.uniform(0.04, 1.9), 4), 30) for k in range(20)]
    found = best_shot(9.7, sizes)
    assert -1e-9 <= found.left_g < 1e-3
    few = handy_shot(9.7, sizes, 0.02)
    assert few is not None and few.pieces < found.pieces and 0.0 <= few.left_g <= 0.02
    even = [ShotSize("small", 0.1, 40), ShotSize("big", 0.4, 10)]
    assert best_shot(1.2, even).counts == (0, 3)
    assert best_shot(0.05, even).counts == (0, 0)
    for target, some in ((-1.0, even), (float("nan"), even), (1.0, [ShotSize("none", 0.0, 3)])):
        with pytest.raises(BadInput):
            best_shot(target, some)


def test_labels_count_in_one_size() -> None:
    sizes = [ShotSize("no. 8", 0.06, 30), ShotSize("no. 6", 0.1, 30), ShotSize("SSG", 1.89, 30)]
    assert labels(0.30, sizes) == ["3 × no. 6 = 0.30 g", "5 × no. 8 = 0.30 g"]


@pytest.mark.parametrize("seed", range(12))
def test_the_handy_shot_is_the_fewest_pieces_that_come_near(seed: int) -> None:
    chance = random.Random(seed)
    sizes = [ShotSize(f"s{k}", round(chance.uniform(0.05, 1.0), 2), chance.randint(1, 3)) for k in range(5)]
    target, slack = chance.uniform(0.5, 4.0), 0.03
    ranges = [range(s.count + 1) for s in sizes]
    near = [
        sum(c) for c in itertools.product(*ranges)
        if -1e-9 <= target - sum(n * s.pull_g for n, s in zip(c, sizes, strict=True)) <= slack and sum(c) <= 9
    ]  # fmt: skip
    found = handy_shot(target, sizes, slack)
    assert (found is None) == (not near)
    if found is not None:
        assert found.pieces == min(near)


# ---- the stack


def test_what_joins_displaces_once_and_is_weighed_once() -> None:
    """A spigotted stem against the same shape bored by hand."""
    design = stick()
    study = Study(design)
    bored = replaced(
        design.body,
        bores=(Bore(name="b", drilling=Drilling(side="tail", place_mm=(0.0, 0.0), diameter_mm=3.0, depth_mm=20.0),
                    fill="sealed"),
               Bore(name="t", drilling=Drilling(side="nose", place_mm=(0.0, 0.0), diameter_mm=3.0, depth_mm=25.0),
                    fill="sealed")),
    )  # fmt: skip
    alone = Study(design.but(pieces=(bored,)))
    parts = [float(m.volume_mm3) for m in of.outers(study)]
    mass = of.slip(alone).finished.mass_g + parts[1] * 0.7e-3 + parts[2] * 0.75e-3
    assert of.slip(study).finished.mass_g == pytest.approx(mass, rel=1e-5)
    joint = sum(parts) - (20.0 + 25.0) / 90.0 * parts[2]
    assert of.hull(study).volume_mm3 == pytest.approx(joint, rel=1e-6)


def test_joints_nest_three_deep() -> None:
    """A pin in a sleeve in the body: the outer ones give way, and nothing is weighed twice."""
    data = json.loads(json.dumps({"format": "yellow-bob-design", "version": 3, "name": "N", "pieces": [
        piece("body", 0.2, turned((0, 8), (60, 8))), piece("Sleeve", 1.2, turned((0, 4), (40, 4)), 20.0),
        piece("Pin", 7.9, turned((0, 1), (50, 1)), 30.0)]}))  # fmt: skip
    study = Study(read_json(json.dumps(data)))
    area = [3.141592653589793 * r * r for r in (8, 4, 1)]
    mass = (0.2 * (60 * area[0] - 40 * area[1]) + 1.2 * (40 * area[1] - 30 * area[2]) + 7.9 * 50 * area[2]) / 1000
    assert of.slip(study).finished.mass_g == pytest.approx(mass, rel=1e-6)
    assert of.hull(study).volume_mm3 == pytest.approx(60 * area[0] + 20 * area[2], rel=1e-6)


# ---- shotted, sized


def test_a_shotted_float_shows_its_tip_and_passes_its_checks() -> None:
    design = stick(
        rig={"tip_mm": 12.0, "hung": [{"name": "hook", "role": "hook", "mass_g": 0.04, "density_g_ml": 7.85}]}
    )
    study = Study(design)
    found = shotted(study)
    water = 1000.0 * of.water_density(study)
    assert found.on_line_g == pytest.approx(submerged_g(0.04, 7.85, water))
    assert found.target_g + found.on_line_g == pytest.approx(
        capacity(of.unloaded(study), of.line_at(study), 12.0).load_g
    )
    done = Study(with_shot(design, found))
    assert of.line_load_g(done) == pytest.approx(found.on_line_g + (found.handy or found.shot).total_g)
    told = {v.key: v for v in verdicts(done)}
    assert {k: told[k].state for k in ("cocks", "tip", "sits", "upright", "leans", "floats")} == dict.fromkeys(
        ("cocks", "tip", "sits", "upright", "leans", "floats"), "good"
    )
    assert with_shot(done.design, shotted(done)).rig == done.design.rig
    # by itself it lies, and that does not pass for standing
    bare = {v.key: v.state for v in verdicts(Study(stick()))}
    assert bare["cocks"] == "failed" and bare["sits"] == "failed" and bare["upright"] == "failed"


def test_shot_from_the_own_shelf_and_without_lead() -> None:
    study = Study(stick(rig={"tip_mm": 12.0}))
    with pytest.raises(BadInput, match="counted"):
        shotted(study, from_shelf=True)
    OwnShelf().set_count(BallastStock, "split shot BB, lead", 3)
    found = shotted(study, from_shelf=True)
    assert {h.stock for h in found.hung} == {"split shot BB, lead"} and sum(h.count for h in found.hung) <= 3
    assert all(s.material != "lead" for s in shotted(study, lead=False).stock)
    with pytest.raises(BadInput, match="no shot on the shelf"):
        shotted(study, like="pebbles")
    heavy = Study(stick(rig={"tip_mm": 12.0, "hung": [{"name": "bait", "role": "bait", "mass_g": 30.0}]}))
    with pytest.raises(BadInput, match="already"):
        shotted(heavy)


@pytest.mark.parametrize(("vary", "wanted"), [("body.diameter", 4.5), ("body.length", 2.6), ("Stem.place", 3.0)])
def test_sizing_hits_the_capacity(vary: str, wanted: float) -> None:
    design = stick()
    found = sized(design, wanted, 10.0, vary)
    study = Study(found.design)
    assert capacity(of.unloaded(study), of.line_at(study), 10.0).load_g == pytest.approx(wanted, abs=0.01)
    assert found.capacity_g == pytest.approx(wanted, abs=0.01)
    assert len(found.design.pieces) == 3 and found.design != design


@pytest.mark.parametrize(("vary", "wanted"), [("body.diameter", 3.3), ("body.diameter", 9.0), ("Stem.length", 3.2)])
def test_sizing_from_the_drawn_size_finds_what_looking_through_all_finds(
    monkeypatch: pytest.MonkeyPatch, vary: str, wanted: float
) -> None:
    soon = sized(stick(), wanted, 10.0, vary)
    monkeypatch.setattr(sizing, "SECANTS", 0)
    all_through = sized(stick(), wanted, 10.0, vary)
    assert soon.capacity_g == pytest.approx(all_through.capacity_g, abs=3e-4)
    assert soon.measure_mm == pytest.approx(all_through.measure_mm, rel=1e-3)


@pytest.mark.parametrize(("vary", "wanted", "said"), [
    ("body.diameter", 4000.0, "no size carries"), ("body.girth", 3.0, "PIECE.diameter"), ("Mast.length", 3.0, "no piece"),
    ("body.place", 3.0, "lies as drawn"), ("diameter", 3.0, "PIECE.diameter")])  # fmt: skip
def test_sizes_that_cannot_be_are_refused(vary: str, wanted: float, said: str) -> None:
    with pytest.raises(BadInput, match=said):
        sized(stick(), wanted, 10.0, vary)


@pytest.mark.parametrize(("kind", "load"), [("stick float", 2.2), ("waggler", 6.0), ("antenna float", 11.0)])
def test_a_start_carries_what_is_wanted(kind: str, load: float) -> None:
    made = started(kind, load)
    study = Study(made)
    assert of.carried(study).load_g == pytest.approx(load, abs=0.01) and made.kind == kind
    assert made.coats and made.rig is not None and not made.rig.hung
    bare = Study(made.but(coats=()))
    assert of.slip(study).finished.mass_g > of.slip(bare).finished.mass_g, "what is laid on it weighs nothing"
    with pytest.raises(BadInput, match="no start"):
        started("popper", load)


def test_bites_shot_by_shot() -> None:
    hung = [{"name": "bulk", "mass_g": 0.8, "count": 2, "below_mm": 500},
            {"name": "dropper", "role": "dropper", "mass_g": 0.06, "below_mm": 900},
            {"name": "hook", "role": "hook", "mass_g": 0.02, "density_g_ml": 7.85, "below_mm": 1200}]  # fmt: skip
    study = Study(stick(rig={"tip_mm": 12.0, "hung": hung}))
    shown = sensitivity(study)
    assert [r.name for r in shown.by_shot] == ["bare", "bulk", "bulk", "dropper", "hook"]
    assert shown.by_shot[-1].load_g == pytest.approx(of.line_load_g(study))
    rest = of.upright_rest(study)
    assert rest is not None
    assert shown.by_shot[-1].tip_mm == pytest.approx(of.tip_of_rest(study, rest), abs=1e-6)
    # the lowest shot, not the hook, is what a fish lifts; the tip comes back by what it carried over the waterplane
    water = 1000.0 * of.water_density(study)
    pull = submerged_g(0.06, 11.34, water)
    assert shown.lift_name == "dropper" and shown.lift_mm is not None
    assert shown.lift_mm == pytest.approx(pull / (of.water_density(study) * rest.waterplane_mm2), rel=0.05)
    thinner = shown.changes[1]
    assert "thinner" in thinner.words and thinner.mm_per_cg == pytest.approx(
        shown.changes[0].mm_per_cg / 0.64, rel=1e-3
    )
    assert shown.changes[2].capacity_g < shown.changes[0].capacity_g


# ---- as commands


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, str, str]:
    with pytest.raises(SystemExit) as ended:
        main(list(arguments))
    told = capsys.readouterr()
    return int(ended.value.code or 0), told.out, told.err


def test_floats_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from yellowbob.design.files import write_design

    file, out = str(tmp_path / "s.ybob"), str(tmp_path / "o.ybob")
    write_design(stick(rig={"tip_mm": 12.0}), Path(file))
    code, told, _ = run(capsys, "cock", file, "--steps", "20", "--json")
    report = json.loads(told)
    assert code == 0 and len(report["steps"]) <= 20
    code, told, _ = run(capsys, "shot", file, "--tip", "12 mm", "-o", out, "--json")
    shot = json.loads(told)
    assert code == 0 and shot["capacity_g"] == pytest.approx(report["capacity_g"])
    code, told, _ = run(capsys, "float", out, "--json")
    assert abs(json.loads(told)["rests"][0]["pitch_deg"]) == pytest.approx(90.0, abs=0.1)
    # another load in place of what hangs
    code, told, _ = run(capsys, "float", out, "--load", "0", "--json")
    bare = json.loads(told)
    assert bare["mass_g"] == pytest.approx(of.slip(Study(stick())).finished.mass_g, rel=1e-6)
    code, told, _ = run(capsys, "rests", file, "--load", "1 g", "--json")
    assert json.loads(told)["mass_g"] == pytest.approx(bare["mass_g"] + 1.0, rel=1e-6)
    assert run(capsys, "size", file, "--capacity", "4 g", "--vary", "body.diameter", "-o", out)[0] == 0
    for wrong in (["cock", file, "--steps", "2"], ["shot", file, "--tip", "900 mm"], ["float", file, "--load", "-1 g"],
                  ["float", file, "--load", "90 g"][:2] + ["--load", "x"], ["dropper", file, "--jig", "0 g"],
                  ["size", file, "--capacity", "0 g", "--vary", "body.diameter", "-o", out]):  # fmt: skip
        code, _, err = run(capsys, *wrong)
        assert code == 2 and err.count("\n") == 1, wrong


def test_a_line_is_kept_in_the_file() -> None:
    rig = Rig(holds="top and bottom", at_mm=(128.0, 0.0, 0.5), tip_mm=9.0,
              hung=(Hung(name="bulk", mass_g=0.81, count=3, below_mm=600.0),))  # fmt: skip
    design = stick().but(rig=rig)
    from yellowbob.design.files import to_json

    assert read_json(to_json(design)).rig == rig


def test_a_slip_with_a_line_adds_up() -> None:
    hung = [{"name": "bulk", "mass_g": 0.8, "count": 2}]
    study = Study(stick(rig={"tip_mm": 12.0, "hung": hung}))
    rows = {r.words: r.mass_g for r in slip_rows(study)}
    left = rows["Water it fills"] - rows["Finished"] - rows["On the line, under water"]
    assert left == pytest.approx(rows["To spare"], abs=1e-9)
    report = float_report(study)
    assert report["mass_g"] - report["load_g"] == pytest.approx(of.slip(study).finished.mass_g, abs=1e-6)
    assert "On the line, under water" not in {r.words for r in slip_rows(Study(stick()))}


def test_a_float_that_sinks_as_drawn_is_sized_from_larger_ones(monkeypatch: pytest.MonkeyPatch) -> None:
    heavy = sizing.wider(stick(), 0, 0.6).of_material(name="a dense wood", density_g_ml=0.9)
    tried: list[float] = []
    change = sizing.wider
    monkeypatch.setattr(sizing, "wider", lambda design, number, v: tried.append(v) or change(design, number, v))
    soon = sized(heavy, 2.2, 10.0, "body.diameter")
    assert len(tried) < sizing.TRIED
    monkeypatch.setattr(sizing, "STARTS", ())
    all_through = sized(heavy, 2.2, 10.0, "body.diameter")
    assert soon.capacity_g == pytest.approx(all_through.capacity_g, abs=3e-4)
    assert soon.measure_mm == pytest.approx(all_through.measure_mm, rel=1e-3)
