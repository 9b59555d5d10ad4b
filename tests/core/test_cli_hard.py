"""Designs that read well but cannot be built, and values out of every range: one line and exit 2, never a traceback."""

from __future__ import annotations

import json
import sys
import time
from pathlib import Path
from types import ModuleType
from typing import Any

import pytest
import typer

from tests.conftest import DEMO
from tests.core.test_cli import refused
from yellowbob.__main__ import main
from yellowbob.cli import patience
from yellowbob.cli.main import app
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.study import Study, of
from yellowbob.study.engine import AT_WORK, slow
from yellowbob.study.sound import buildable

SALLOW = DEMO / "sallow-74.ybob"
Out = pytest.CaptureFixture[str]


def written(tmp_path: Path, change: Any) -> str:
    data = json.loads(SALLOW.read_text(encoding="utf-8"))
    change(data)
    path = tmp_path / "hard.ybob"
    path.write_text(json.dumps(data), encoding="utf-8")
    return str(path)


def _miss(data: dict[str, Any]) -> None:
    data["ballast"][0]["drilling"]["place_mm"] = [400.0, 0.0]


def _flat_fin(data: dict[str, Any]) -> None:
    data["pieces"].append({
        "name": "fin", "material": {"name": "x", "density_g_ml": 1.0},
        "shape": {"kind": "fin", "thick_mm": 1.0, "corners_mm": [[60, 0], [70, 0], [80, 0]]},
    })  # fmt: skip


def _inside_out_tail(data: dict[str, Any]) -> None:
    data["pieces"].append({
        "name": "tail", "material": {"name": "x", "density_g_ml": 1.0},
        "shape": {"kind": "turning tail", "x_mm": 80,
                  "profile": [{"at_mm": [0, 4]}, {"at_mm": [10, -6]}, {"at_mm": [20, 2]}]},
    })  # fmt: skip


def _bored_away(data: dict[str, Any]) -> None:
    drilling = {"side": "nose", "place_mm": [0, 0], "diameter_mm": 200.0, "depth_mm": 300.0}
    data["pieces"][0]["bores"] = [{"name": "bore", "drilling": drilling, "fill": "open"}]


def _crossed(data: dict[str, Any]) -> None:
    for point in data["pieces"][0]["shape"]["back"][1:-1]:
        point["at_mm"][1] = -40.0


def _cut_away(data: dict[str, Any]) -> None:
    data["pieces"][0]["cuts"] = [{"kind": "tail cut", "name": "saw", "x_mm": -5.0}]


def _thick_wall(data: dict[str, Any]) -> None:
    data["pieces"][0]["shell"] = {"wall_mm": 30.0, "split_mm": [[0, 0], [74, 0]]}


HARD = {
    "a hole beside the body": _miss, "a fin without area": _flat_fin, "a radius below nothing": _inside_out_tail,
    "bored away": _bored_away, "crossing outlines": _crossed, "cut away": _cut_away, "all wall": _thick_wall,
}  # fmt: skip


@pytest.mark.parametrize("name", HARD)
def test_what_cannot_be_built_is_one_line_from_every_command(name: str, tmp_path: Path, capsys: Out) -> None:
    file = written(tmp_path, HARD[name])
    assert isinstance(read_design(Path(file)), Design)
    out = str(tmp_path / "out")
    for command in (
        ["float", file], ["weigh", file], ["ladder", file, "--sizes", "100"], ["sheet", file, "-o", out + ".pdf"],
        ["rests", file], ["check", file], ["lines", file], ["clearances", file], ["budget", file], ["odds", file],
        ["ballast", file, "--pitch", "20"], ["trim", file], ["variants", file], ["righting", file], ["drop", file],
        ["sweep", file, "--vary", "salinity"], ["evidence", file], ["wire", file], ["export", file, "--to", out + ".stl"],
    ):  # fmt: skip
        with pytest.raises(SystemExit) as ended:
            main(command)
        told = capsys.readouterr()
        assert ended.value.code in (0, 2) or command[0] == "check", command
        if ended.value.code == 2:
            assert told.err.count("\n") == 1, (command, told.err)
            assert "Traceback" not in told.err


@pytest.mark.parametrize("name", HARD)
def test_what_of_it_can_be_built_is_shown_with_what_is_wrong(name: str, tmp_path: Path) -> None:
    design = read_design(Path(written(tmp_path, HARD[name])))
    sound, faults = buildable(design)
    assert faults
    assert all(len(fault) > 15 for fault in faults)
    assert of.slip(Study(sound)).finished.mass_g > 0
    assert len(sound.fittings) == len(design.fittings)
    assert buildable(sound) == (sound, ())


def test_what_is_slow_is_named_with_its_time(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    for name, value in (("QUIET_S", 0.1), ("AGAIN_S", 0.05), ("LOOK_S", 0.02)):
        monkeypatch.setattr(patience, name, value)
    monkeypatch.delitem(sys.modules, "PySide6.QtWidgets", raising=False)
    slow_one = slow("counting rings")(lambda study: time.sleep(0.5) or 7)
    study = Study(read_design(DEMO / "sallow-74.ybob"))
    with patience.watched():
        assert slow_one(study) == 7
    said = capsys.readouterr().err
    assert "yellow-bob: counting rings: 0 s so far; Ctrl-C stops" in said and not AT_WORK
    with patience.watched(), patience.patience("trying") as told:  # where a bar is shown it is not said twice
        AT_WORK.append("counting rings")
        time.sleep(0.3)
        AT_WORK.clear()
        told(0.5)
    assert "counting" not in capsys.readouterr().err
    monkeypatch.setitem(sys.modules, "yellowbob.study.engine", ModuleType("engine"))  # as while it is being read in
    with patience.watched():
        time.sleep(0.1)
    assert capsys.readouterr().err == ""


def test_a_weighing_of_nothing_is_no_end(tmp_path: Path, capsys: Out) -> None:
    file = written(tmp_path, lambda data: data.update(weighings=[{"stage": "fitted", "mass_g": 0.0}]))
    with pytest.raises(SystemExit) as ended:
        main(["weigh", file])
    assert ended.value.code == 0
    assert "Finished" in capsys.readouterr().out


RANGES: list[list[str]] = [
    ["density", "block", "--length", "1 mm", "--width", "1 mm", "--height", "1 mm", "--mass", "5 kg", "--write", "FILE"],
    ["density", "puck", "--diameter", "-3 mm", "--height", "5 mm", "--mass", "3 g"],
    ["budget", "FILE", "--measured", "bare body=60000 g"], ["budget", "FILE", "--target", "-5 g"],
    ["budget", "FILE", "--target", "five"], ["rescale", "FILE", "--length", "4 m", "-o", "OUT"],
    ["rescale", "FILE", "--factor", "0", "-o", "OUT"], ["rescale", "FILE", "--factor", "nan", "-o", "OUT"],
    ["rescale", "FILE", "--factor", "1e300", "-o", "OUT"], ["ladder", "FILE", "--sizes", "0"],
    ["ladder", "FILE", "--sizes", "abc"], ["ladder", "FILE", "--sizes", "nan"], ["float", "FILE", "--temperature", "900"],
    ["float", "FILE", "--temperature", "nan"], ["float", "FILE", "--salinity", "-1"], ["float", "FILE", "--water", "tar"],
    ["float", "FILE", "--density", "1"], ["drop", "FILE", "--height", "-1 mm"], ["drop", "FILE", "--height", "nan mm"],
    ["drop", "FILE", "--times", "0"], ["drop", "FILE", "--seed", "-1"], ["drop", "FILE", "--pitch", "up"],
    ["righting", "FILE", "--rest", "9"], ["righting", "FILE", "--axis", "sideways"], ["odds", "FILE", "--builds", "0"],
    ["odds", "FILE", "--builds", "9000000"], ["odds", "FILE", "--seed", "-3"], ["sweep", "FILE", "--vary", "mood"],
    ["sweep", "FILE", "--vary", "salinity", "--steps", "1"], ["sweep", "FILE", "--vary", "salinity", "--from", "nan"],
    ["sweep", "FILE", "--vary", "salinity", "--to", "inf"], ["ballast", "FILE", "--pitch", "24", "--draft", "900 mm"],
    ["ballast", "FILE", "--pitch", "24", "--mass", "0 g"], ["ballast", "FILE", "--pitch", "24", "--keep", "spoon"],
    ["ballast", "FILE", "--pitch", "24", "--slug", "-2 mm"], ["ballast", "FILE", "--pitch", "24", "--freeboard", "5"],
    ["ballast", "FILE", "--pitch", "24", "--fit", "1"], ["variants", "FILE", "--by", "mood"],
    ["clearances", "FILE", "--wander", "90"], ["clearances", "FILE", "--wander", "nan"],
    ["mix", "--a", "10 g", "--b", "-3 g"], ["mix", "--a", "10 g", "--b", "10 g", "--filler-percent", "-5"],
    ["mix", "--a", "10 g", "--b", "10 g", "--wanted-density", "0"], ["mix", "--a", "0 g", "--b", "0 g"],
    ["reading", "temper"], ["shelf", "list", "moods"], ["shelf", "add", "hooks", "x", "mass_g=-1"],
    ["shelf", "add", "materials", "x", "--count", "-4"], ["export", "FILE", "--to", "OUT.doc"], ["wire", "no-such-file"],
    ["check", "FILE", "--set-aside", "mood=because"], ["check", "FILE", "--set-aside", "floats="],
    ["weigh", "FILE", "--put-down", "fitted=0 g"], ["weigh", "FILE", "--put-down", "cooked=3 g"],
    ["weigh", "FILE", "--put-down", "fitted=20 g", "--off", "spoon"], ["weigh", "FILE", "--off", "body"],
    ["weigh", "FILE", "--put-down", "fitted=20 g", "--on", "body=3"], ["trim", "FILE", "--pitch", "steep"],
]  # fmt: skip


@pytest.mark.parametrize("arguments", RANGES, ids=" ".join)
def test_out_of_range_is_exit_2_and_one_line(arguments: list[str], tmp_path: Path, capsys: Out) -> None:
    file = tmp_path / "mine.ybob"
    file.write_bytes(SALLOW.read_bytes())
    filled = [{"FILE": str(file), "OUT": str(tmp_path / "out.ybob")}.get(a, a) for a in arguments]
    told = refused(capsys, *filled)
    assert told.startswith("yellow-bob: ")
    assert file.read_bytes() == SALLOW.read_bytes()


def test_every_command_that_tells_something_has_json() -> None:
    group = typer.main.get_command(app)
    silent = {"open", "demo", "schema"}
    commands = dict(group.commands)  # type: ignore[attr-defined]
    groups = [name for name, command in commands.items() if hasattr(command, "commands")]
    assert groups == ["shelf", "log"]
    for inner in groups:
        commands |= {f"{inner} {n}": c for n, c in commands[inner].commands.items()}
    for name, command in commands.items():
        if name in silent or name in groups:
            continue
        assert any("--json" in p.opts for p in command.params), name


def test_brackets_in_a_name_are_brackets(tmp_path: Path, capsys: Out) -> None:
    file = written(tmp_path, lambda data: data.update(name="[/] [bold] x"))
    with pytest.raises(SystemExit) as ended:
        main(["weigh", file])
    assert ended.value.code == 0
    assert "[/] [bold] x" in capsys.readouterr().out
