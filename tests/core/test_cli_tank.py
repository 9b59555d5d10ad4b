"""The Tank bench's commands: what they print, what they refuse, and that the JSON says what the core found."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.__main__ import main
from yellowbob.design.files import read_design, write_design
from yellowbob.study import Study, of

SALLOW, OSIER, MOTH = (str(DEMO / f"{n}.ybob") for n in ("sallow-74", "osier-96", "moth-crawler-64"))


def run(capsys: pytest.CaptureFixture[str], *arguments: str, code: int = 0) -> str:
    with pytest.raises(SystemExit) as done:
        main(list(arguments))
    out = capsys.readouterr()
    assert done.value.code == code, out.err
    return out.out if code != 2 else out.err


def told(capsys: pytest.CaptureFixture[str], *arguments: str, code: int = 0) -> Any:
    return json.loads(run(capsys, *arguments, "--json", code=code))


@pytest.fixture
def bare_moth(tmp_path: Path) -> str:
    file = tmp_path / "bare.ybob"
    write_design(read_design(Path(MOTH)).but(ballast=()), file)
    return str(file)


def test_rests_carry_shares_knocks_and_the_capillary_band(capsys: pytest.CaptureFixture[str], bare_moth: str) -> None:
    report = told(capsys, "rests", bare_moth)
    assert len(report["rests"]) > 1
    assert sum(r["landing_share"] for r in report["rests"]) == pytest.approx(1.0, abs=1e-6)
    assert all(r["knock_energy_uj"] >= 0 for r in report["rests"])
    assert all(r["capillary_g"] > 0 for r in report["rests"])
    plain = told(capsys, "float", bare_moth)
    assert {k: plain["rests"][0][k] for k in plain["rests"][0]}.items() <= report["rests"][0].items()
    only = told(capsys, "rests", SALLOW)
    assert only["rests"][0]["landing_share"] == 1.0
    assert only["rests"][0]["knock_energy_uj"] is None
    assert "of landings" in run(capsys, "rests", bare_moth)


def test_rests_take_water_and_meshes_as_float_does(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    import trimesh

    fresh, sea = told(capsys, "rests", OSIER), told(capsys, "rests", OSIER, "--water", "sea")
    assert sea["rests"][0]["draft_mm"] < fresh["rests"][0]["draft_mm"]
    plank = tmp_path / "plank.stl"
    trimesh.creation.box((60, 20, 8)).export(plank)
    report = told(capsys, "rests", str(plank), "--density", "0.5", "--unit", "mm")
    assert [r["landing_share"] for r in report["rests"]] == pytest.approx([0.5, 0.5], abs=1e-3)
    assert "say its --density" in run(capsys, "rests", str(plank), code=2)


def test_ballast_gives_back_what_was_taken_out(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    built = told(capsys, "float", SALLOW)
    rest = built["rests"][0]
    file = tmp_path / "bare.ybob"
    design = read_design(Path(SALLOW))
    write_design(design.but(ballast=()), file)
    report = told(capsys, "ballast", str(file), "--pitch", str(rest["pitch_deg"]), "--draft", f"{rest['draft_mm']} mm")
    bare = told(capsys, "weigh", str(file))
    assert report["ballast_g"] == pytest.approx(built["mass_g"] - bare["finished_g"], abs=1e-5)
    assert report["feasible"] is True
    assert report["limit"]
    start, end = report["locus"]["from"], report["locus"]["to"]
    assert start[2] < end[2]
    assert report["picks"]
    for pick in report["picks"]:
        assert pick["holes"]
        assert pick["mass_g"] == pytest.approx(sum(pick["masses_g"]))


def test_a_pick_is_fitted_and_sits_as_it_said(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    out = tmp_path / "fitted.ybob"
    report = told(capsys, "ballast", OSIER, "--pitch", "2", "--mass", "18.5 g", "--fit", "1", "-o", str(out))
    rest = told(capsys, "rests", str(out))["rests"][0]
    pick = report["picks"][0]
    assert rest["pitch_deg"] == pytest.approx(pick["pitch_deg"], abs=0.2)
    assert rest["draft_mm"] == pytest.approx(pick["draft_mm"], abs=0.1)
    assert rest["landing_share"] == pytest.approx(pick["landing_share"], abs=0.01)
    fitted = json.loads(out.read_text())["ballast"]
    assert len(fitted) == len(pick["ballast"])


def test_ballast_by_freeboard_and_by_the_brief(capsys: pytest.CaptureFixture[str]) -> None:
    by_draft = told(capsys, "ballast", OSIER, "--pitch", "0", "--draft", "17 mm")
    by_back = told(capsys, "ballast", OSIER, "--pitch", "0", "--freeboard", "8 mm@40 mm")
    assert by_back["draft_mm"] != by_draft["draft_mm"]
    by_brief = told(capsys, "ballast", OSIER, "--pitch", "1°")
    brief = read_design(Path(OSIER)).brief.mass_g
    assert brief is not None
    assert by_brief["total_g"] == pytest.approx((brief.least + brief.most) / 2, abs=1e-6)
    words = run(capsys, "ballast", OSIER, "--pitch", "1")
    assert "local rule" in words
    assert "come right" in words


def test_ballast_that_cannot_be_says_what_would_help(capsys: pytest.CaptureFixture[str]) -> None:
    report = told(capsys, "ballast", SALLOW, "--pitch", "20", "--mass", "13 g")
    assert report["feasible"] is False
    assert report["too_heavy_g"] > 0
    assert report["locus"] is None
    assert report["remedies"]
    assert report["picks"] == []


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["ballast", SALLOW, "--pitch", "steep"], "angle"),
        (["ballast", SALLOW, "--pitch", "20", "--draft", "5 mm", "--mass", "12 g"], "one of --draft"),
        (["ballast", SALLOW, "--pitch", "20", "--freeboard", "5 mm"], "5 mm@30 mm"),
        (["ballast", SALLOW, "--pitch", "20", "--fit", "1"], "go together"),
        (["ballast", SALLOW, "--pitch", "20", "--fit", "99", "-o", "x.ybob"], "there are"),
        (["ballast", SALLOW, "--pitch", "20", "--keep", "nothing"], "Belly slug"),
        (["odds", SALLOW, "--builds", "0"], "ask for 1 to"),
        (["odds", SALLOW, "--seed", "-1"], "0 or more"),
        (["drop", SALLOW, "--height", "-3 mm"], "between 0 and"),
        (["drop", SALLOW, "--times", "0"], "--times"),
        (["sweep", SALLOW, "--vary", "mood"], "salinity"),
        (["variants", SALLOW, "--by", "mood"], "place, hooks, wood or shape"),
        (["righting", SALLOW, "--rest", "9"], "counted from 0"),
        (["check", SALLOW, "--set-aside", "mood=no"], "no check is called"),
        (["rests", "missing.ybob"], "missing.ybob"),
    ],
)
def test_bad_input_is_one_line_that_says_what_to_do(
    capsys: pytest.CaptureFixture[str], arguments: list[str], words: str
) -> None:
    said = run(capsys, *arguments, code=2).strip()
    assert words in said
    assert len(said.splitlines()) == 1


def test_odds_are_the_same_for_a_seed(capsys: pytest.CaptureFixture[str]) -> None:
    one = told(capsys, "odds", OSIER, "--builds", "400", "--seed", "7")
    two = told(capsys, "odds", OSIER, "--builds", "400", "--seed", "7")
    assert one == two
    assert one["builds"] == 400
    assert 0 <= one["sits"] <= 1
    assert one["pitch_deg"]["p05"] < one["pitch_deg"]["p50"] < one["pitch_deg"]["p95"]
    assert one["matters"][0]["share"] == max(m["share"] for m in one["matters"])
    assert one["grade"] == "rule"
    words = run(capsys, "odds", OSIER, "--builds", "300")
    assert "9 of 10 builds" in words


def test_check_ends_with_1_when_one_fails(capsys: pytest.CaptureFixture[str], tmp_path: Path, bare_moth: str) -> None:
    good = told(capsys, "check", SALLOW)
    assert good["failed"] == []
    assert len(good["checks"]) >= 25
    bad = told(capsys, "check", bare_moth, code=1)
    assert "upright" in bad["failed"]
    words = run(capsys, "check", bare_moth, code=1)
    assert "!" in words
    for key in bad["failed"]:
        run(
            capsys,
            "check",
            bare_moth,
            "--set-aside",
            f"{key}=a study without its ballast",
            code=1 if key != bad["failed"][-1] else 0,
        )
    again = told(capsys, "check", bare_moth)
    assert again["failed"] == []
    assert read_design(Path(bare_moth)).set_aside
    run(capsys, "check", bare_moth, "--heed", "upright", code=1)


def test_drops_one_and_many(capsys: pytest.CaptureFixture[str]) -> None:
    one = told(capsys, "drop", OSIER, "--pitch", "60", "--roll", "170", "--height", "300 mm", "--seed", "2")
    assert one["settled"] is True
    assert one["rest"] == 0
    assert one["end"]["pitch_deg"] == pytest.approx(told(capsys, "rests", OSIER)["rests"][0]["pitch_deg"], abs=0.01)
    many = told(capsys, "drop", OSIER, "--times", "5", "--seed", "3")
    assert sum(e["drops"] for e in many["ends"]) == 5
    assert many["not_at_rest"] == 0
    free = told(capsys, "drop", OSIER, "--pitch", "60", "--undamped")
    assert free["energy_drift"] < 0.01
    assert "at rest after" in run(capsys, "drop", OSIER, "--pitch", "0", "--by-hand", "--roll", "175")
    assert "of 3 at pitch" in run(capsys, "drop", OSIER, "--times", "3")


def test_trim_variants_and_sweep(capsys: pytest.CaptureFixture[str]) -> None:
    found = told(capsys, "trim", SALLOW)
    assert abs(found[0]["pitch_change_deg"]) == max(abs(t["pitch_change_deg"]) for t in found if t["floats"])
    assert "reserve" in run(capsys, "trim", SALLOW, "--pitch", "28")
    beside = told(capsys, "variants", SALLOW, "--by", "hooks")
    assert [v["words"] for v in beside] == ["hooks a size down", "as drawn", "hooks a size up"]
    others = told(capsys, "variants", SALLOW, "--with", OSIER)
    assert [v["words"] for v in others] == ["Sallow 74", "Osier 96"]
    assert "come right" in run(capsys, "variants", SALLOW, "--by", "wood")
    points = told(capsys, "sweep", SALLOW, "--vary", "salinity", "--from", "0", "--to", "35", "--steps", "3")
    assert [p["value"] for p in points] == [0.0, 17.5, 35.0]
    assert points[0]["draft_mm"] > points[-1]["draft_mm"]
    assert "draft" in run(capsys, "sweep", SALLOW, "--vary", "density", "--steps", "3")


def test_righting_of_a_design(capsys: pytest.CaptureFixture[str]) -> None:
    report = told(capsys, "righting", OSIER)
    assert report["angle_deg"][0] == 0.0
    assert report["gz_mm"][10] > 0
    assert report["range_deg"] > 90
    # the slope of GZ at rest is GM
    gm = told(capsys, "rests", OSIER)["rests"][0]["gm_min_mm"]
    slope = report["gz_mm"][1] / math.radians(report["angle_deg"][1])
    assert slope == pytest.approx(gm, rel=0.05)
    assert "comes back" in run(capsys, "righting", OSIER, "--axis", "pitch")


def test_a_sinker_is_said(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    file = tmp_path / "sinker.ybob"
    design = turned_design((0, 5), (40, 5), density=1.4)
    write_design(design, file)
    assert "sinks" in run(capsys, "rests", str(file))
    assert told(capsys, "rests", str(file))["rests"] == []
    assert "sinks as drawn" in run(capsys, "odds", str(file), code=2)
    assert "it sinks" in run(capsys, "drop", str(file), code=2)
    assert of.landings(Study(design)).shares == ()


@pytest.mark.parametrize(
    ("command", "words"),
    [("wire", "there is no wire in it"), ("clearances", "nothing in it can come too close to anything"),
     ("trim", "it has no hook, ring or ballast that could be another: nothing is tried")],
)  # fmt: skip
def test_where_there_is_nothing_that_is_said(command: str, words: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(capsys, command, str(DEMO / "withy-stick-150.ybob")).strip() == words


def test_what_sinks_has_no_rest_to_be_turned_from(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "sinker.ybob"
    write_design(turned_design((0, 10.0), (60.0, 10.0), density=1.4), file)
    assert run(capsys, "righting", str(file), code=2) == "yellow-bob: it sinks: it has no rest to turn it from\n"


@pytest.mark.parametrize("name", ["osier-96", "weir-cup-62"])
def test_arms_of_nothing_have_no_sign(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    lines = run(capsys, "righting", str(DEMO / f"{name}.ybob")).splitlines()
    assert "0.00 mm" in lines[0]
    assert not any("-0.00" in line for line in lines)


@pytest.mark.parametrize("speed", ["0.5", "0.5 m/s", "1.8 km/h", "1.25 turns a second at 40 cm a turn"])
def test_a_speed_is_read_as_it_is_told(speed: str, capsys: pytest.CaptureFixture[str]) -> None:
    (ran,) = told(capsys, "action", OSIER, "--speed", speed)["trim"]
    assert ran["speed_m_s"] == pytest.approx(0.5)


def test_what_is_no_speed_is_refused_and_a_throw_may_be_faster_than_a_walk(capsys: pytest.CaptureFixture[str]) -> None:
    said = run(capsys, "action", OSIER, "--speed", "brisk", code=2)
    assert "'brisk' is no speed I understand" in said
    assert "you taught" not in said  # only the log knows those
    assert run(capsys, "cast", OSIER, "--speed", "90 km/h") == run(capsys, "cast", OSIER, "--speed", "25")
    assert "up to 60 m/s" in run(capsys, "cast", OSIER, "--speed", "300 km/h", code=2)
