"""What every command prints with --json is what is published."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest
import typer

from tests.conftest import DEMO
from yellowbob.__main__ import main
from yellowbob.cli.command import ENTERED
from yellowbob.cli.main import app
from yellowbob.reports.contract import CONTRACTS, report_schemas, schema_of

ROOT = Path(__file__).parent.parent.parent
SALLOW, WAKE, MOTH = (str(DEMO / f"{n}.ybob") for n in ("sallow-74", "print-wake-92", "moth-crawler-64"))
STICK, DROPPER = (str(DEMO / f"{n}.ybob") for n in ("withy-stick-150", "creek-dropper-52"))

CASES: list[list[str]] = [
    ["float", SALLOW], ["rests", MOTH], ["weigh", SALLOW], ["weigh", WAKE], ["evidence", SALLOW],
    ["lines", WAKE], ["ladder", SALLOW, "--sizes", "30,100"], ["budget", SALLOW, "--measured", "fitted=12.5 g"],
    ["clearances", SALLOW], ["wire", SALLOW], ["check", SALLOW], ["righting", SALLOW], ["drop", SALLOW],
    ["drop", SALLOW, "--times", "3"], ["drop", SALLOW, "--undamped"], ["trim", SALLOW],
    ["variants", SALLOW, "--by", "wood"], ["sweep", SALLOW, "--vary", "density", "--steps", "3"],
    ["odds", SALLOW, "--builds", "100"], ["ballast", SALLOW, "--pitch", "24"], ["ballast", SALLOW, "--pitch", "70"],
    ["density", "block", "--length", "50 mm", "--width", "20 mm", "--height", "12 mm", "--mass", "5.6 ± 0.1 g"],
    ["mix", "--a", "10 g", "--b", "10 g", "--resin", "slow casting resin, 1:1"], ["reading", "mass"],
    ["cock", STICK, "--steps", "12"], ["shot", STICK], ["dropper", DROPPER, "--jig", "3 g"],
    ["paint", STICK, "--propose"],
    ["rough", STICK, "--chop", "30 mm", "--current", "0.2"],
    ["rough", SALLOW, "--chop", "2 in"],
    ["cast", SALLOW], ["action", SALLOW, "--speed", "0.5", "--rod-height", "1"],
    ["film", SALLOW, "--speed", "0.5", "-o", "OUT7.webp"], ["cock", STICK, "--pull", "0.5 g", "--aslant", "20"],
    ["dropper", DROPPER, "--speed", "0.5"], ["action", STICK, "--speed", "0.05"],
    ["stations", SALLOW], ["stations", STICK, "--every", "20 mm"], ["holes", MOTH],
    ["blank", SALLOW, "--stock", "18x90x900 mm"], ["cost", SALLOW, "--copies", "3"], ["mould", SALLOW],
    ["made", SALLOW, "--stations", "CSV"],
    ["schedule", SALLOW, "--start", "2026-03-27T18:00", "--copies", "2", "--ics", "OUT8.ics"],
    ["packet", MOTH, "-o", "OUT9.pdf"],
    ["start-float", "waggler", "--capacity", "5 g", "-o", "OUT6.ybob"],
    ["size", STICK, "--capacity", "4 g", "--vary", "body.diameter", "-o", "OUT5.ybob"],
    ["redraw", SALLOW, "-o", "OUT3.ybob"],
    ["rescale", SALLOW, "--factor", "1.2", "-o", "OUT.ybob"], ["export", SALLOW, "--to", "OUT.svg"],
    ["sheet", SALLOW, "-o", "OUT.pdf"], ["fit", SALLOW, "treble, size 6", "--at", "40,0,-8", "-o", "OUT4.ybob"],
    ["outlines", "OUT.svg", "-o", "OUT2.ybob"],
]  # fmt: skip


PARTS = 4
"""The cases run in so many parts, side by side; those that read what another wrote stand in the last."""


@pytest.mark.parametrize("part", range(PARTS))
def test_every_command_prints_what_is_published(part: int, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    size = -(-len(CASES) // PARTS)
    for case in CASES[part * size : (part + 1) * size]:
        (tmp_path / "CSV.csv").write_text("at,back,belly,half width\n30,11.9,-12.4,11.6\n", encoding="utf-8")
        filled = [str(tmp_path / part) if part.startswith("OUT") else part for part in case]
        filled = [str(tmp_path / "CSV.csv") if part == "CSV" else part for part in filled]
        with pytest.raises(SystemExit) as ended:
            main([*filled, "--json"])
        told = capsys.readouterr()
        assert ended.value.code == 0, (case, told.err)
        jsonschema.validate(json.loads(told.out), schema_of(CONTRACTS[case[0]]))


def test_no_command_is_forgotten() -> None:
    elsewhere = {"trace", "solid", "shapes", "new", "family", "seek"}  # those are held where they are tried
    assert set(CONTRACTS) - {case[0] for case in CASES} == elsewhere


def test_the_published_schemas_are_current() -> None:
    published = json.loads((ROOT / "docs" / "reports.schema.json").read_text(encoding="utf-8"))
    assert published == report_schemas({n: c.shape for n, c in ENTERED.items() if c.shape}), "run make schema"
    for schema in published["$defs"].values():
        jsonschema.Draft202012Validator.check_schema(schema)


def test_every_command_with_json_has_a_contract() -> None:
    commands = typer.main.get_command(app).commands  # type: ignore[attr-defined]
    with_json = {n for n, c in commands.items() if any("--json" in p.opts for p in c.params)}
    assert with_json == {n for n, c in ENTERED.items() if c.shape}


def test_a_wrong_report_is_not_taken() -> None:
    for wrong in ({"wires": [{"name": 3}]}, {"wires": [], "more": 1}, {}):
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.validate(wrong, schema_of(CONTRACTS["wire"]))
