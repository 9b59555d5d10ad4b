"""new, family and seek on the command line: what they print, write and refuse."""

from __future__ import annotations

import json
import math
from pathlib import Path

import jsonschema
import pytest

from tests.conftest import DEMO
from tests.core.test_cli import run
from yellowbob.design.brief import Span
from yellowbob.design.files import read_design
from yellowbob.design.model import Kind
from yellowbob.reports.begun_shapes import BEGUN_COMMANDS
from yellowbob.reports.contract import schema_of
from yellowbob.study import Study, of
from yellowbob.trials import seek
from yellowbob.trials.answer import answered
from yellowbob.trials.asked import Asked


def test_the_commands_write_what_they_promise(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(seek, "ODDS_BUILDS", 400)
    out, folder = tmp_path / "new.ybob", tmp_path / "many"
    brief = tmp_path / "b.json"
    brief.write_text(json.dumps({"kind": "popper", "length_mm": 68, "free": {"lead": [True, False]}}), encoding="utf-8")
    for name, *command in (
        ("new", "new", "--kind", "popper", "--length", "2 3/4 in", "--mass", "14..17 g", "--pitch", "20..30", "-o", str(out)),
        ("family", "family", str(out), "--sizes", "60 mm,80", "-o", str(folder)),
        ("seek", "seek", str(brief), "--free", "wood=maple, hard,alder", "--count", "2", "-o", str(folder)),
        ("seek", "seek", str(out), "--free", "length=69..70", "--tries", "1", "--free", "comes-right=100"),
    ):  # fmt: skip
        code, text, err = run(capsys, *command, "--json")
        assert code == 0, err
        told = json.loads(text)
        jsonschema.validate(told, schema_of(BEGUN_COMMANDS[name]))
        if name == "new":
            code, float_, _ = run(capsys, "float", str(out), "--json")
            floated = json.loads(float_)
            assert floated["mass_g"] == pytest.approx(told["mass_g"], abs=1e-6)
            assert min(abs(r["pitch_deg"] - told["pitch_deg"]) for r in floated["rests"]) < 1e-6
            code, checked, _ = run(capsys, "check", str(out), "--json")
            assert json.loads(checked)["failed"] == told["failed"] == [] and told["sound"]
        if "-o" in command and name != "new":
            wrote = [d["wrote"] for d in told.get("found", [s["design"] for s in told.get("sizes", [])])]
            assert wrote and all(read_design(Path(w)).name for w in wrote)
    assert len(list(folder.iterdir())) == 4
    code, plain, _ = run(capsys, "new", "--kind", "popper", "--length", "70")
    assert code == 0 and "every check passes" in plain and "Belly slug" in plain
    code, plain, _ = run(capsys, "family", str(out), "--sizes", "28")
    assert code == 0 and "what stops the smaller: 28 mm" in plain


@pytest.mark.parametrize(("command", "words"), [
    (("new", "--kind", "boat", "--length", "70"), "kind"), (("new", "--kind", "popper", "--length", "7"), "length_mm"),
    (("new", "--kind", "popper", "--length", "long"), "long"), (("new", "--kind", "popper", "--length", "70", "--mass",
        "20..x g"), "x g"),
    (("new", "--kind", "popper", "--length", "70", "--mass", "20..10 g"), "smaller"),
    (("new", "--kind", "popper", "--length", "70", "--wood", "oakum"), "not on the shelf"),
    (("new", "--kind", "pencil", "--length", "70", "--capacity", "3 g"), "no capacity"),
    (("seek", "B", "--free", "colour=red"), "what can be free"), (("seek", "B", "--free", "wood=oakum"), "no wood is called"),
    (("seek", "B", "--free", "length=80..60"), "smaller"), (("seek", "B", "--free", "stock=40"), "40x40"),
    (("seek", "B", "--aim", "prettiest"), "aim"), (("seek", "B", "--count", "0"), "ask for 1 to"), (("seek", "B", "--free",
        "lead"), "write"),
    (("seek", "N"), "table of its lines"), (("seek", "none.json"), "cannot be read"),
    (("family", "F", "--sizes", "1"), "0.2 to 5 times"), (("family", "F", "--sizes", "x"), "x"),
])  # fmt: skip
def test_bad_briefs_are_one_clear_line(
    command: tuple[str, ...], words: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "b.json").write_text('{"kind": "popper", "length_mm": 70}', encoding="utf-8")
    (tmp_path / "n.json").write_text("[1]", encoding="utf-8")
    names = {"B": str(tmp_path / "b.json"), "N": str(tmp_path / "n.json"), "F": str(DEMO / "sallow-74.ybob")}
    code, _, err = run(capsys, *(names.get(c, c) for c in command))
    assert code == 2 and words in err and err.count("\n") == 1, err


@pytest.mark.parametrize(("kind", "long"), [("popper", 84.0), ("pencil", 112.0)])
def test_a_narrow_brief_is_met_as_narrowly(kind: Kind, long: float) -> None:
    """What is near enough for a wide range is not for one of a tenth of a gram and of a few tenths of a degree."""
    wide = Study(answered(Asked(kind=kind, length_mm=long)).design)
    lies, mass = of.upright_rest(wide), of.slip(wide).finished.mass_g
    assert lies is not None
    pitch = math.degrees(lies.pitch_rad) + 0.7
    wanted = Span(least=mass - 0.05, most=mass + 0.05), Span(least=pitch - 0.2, most=pitch + 0.2)
    found = answered(Asked(kind=kind, length_mm=long, mass_g=wanted[0], pitch_deg=wanted[1]))
    rest = of.upright_rest(Study(found.design))
    assert found.sound and rest is not None, found.reason
    assert wanted[0].holds(of.slip(Study(found.design)).finished.mass_g)
    assert wanted[1].holds(math.degrees(rest.pitch_rad))
