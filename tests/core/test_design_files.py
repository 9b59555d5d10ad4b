"""Reading and writing designs: exact round trips, errors with a path, hundreds of broken files, kills during a save."""

from __future__ import annotations

import json
import math
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from tests.conftest import DEMO
from yellowbob.design.files import json_schema, read_design, read_json, to_json, write_design
from yellowbob.design.model import Design
from yellowbob.ground.errors import BadDesign, BadInput

ROOT = Path(__file__).parent.parent.parent


def test_round_trip_is_exact(demo_design: Design, tmp_path: Path) -> None:
    write_design(demo_design, tmp_path / "a.ybob")
    assert read_design(tmp_path / "a.ybob") == demo_design


def test_published_schema_is_current_and_takes_the_demo(demo_design: Design) -> None:
    published = json.loads((ROOT / "docs" / "design.schema.json").read_text(encoding="utf-8"))
    assert published == json_schema(), "run make schema"
    jsonschema.validate(json.loads(to_json(demo_design)), published)


@pytest.mark.parametrize(
    ("change", "path"),
    [
        (("pieces", 0, "material", "density_g_ml", "heavy"), r"pieces\[0\].material.density_g_ml"),
        (("pieces", 0, "material", "density_g_ml", -1), r"pieces\[0\].material.density_g_ml"),
        (("water", {"temperature_c": 900}), "water.temperature_c"),
        (("ballast", 0, "weight", "length_mm", None), r"ballast\[0\].weight.length_mm"),
        (("fittings", 1, "at_mm", [1, 2]), r"fittings\[1\].at_mm"),
        (("pieces", 0, "shape", "back", 2, "at_mm", 0, "x"), r"pieces\[0\].shape.back\[2\].at_mm\[0\]"),
        (("colour", "red"), "colour"),
    ],
)
def test_errors_carry_the_path(change: tuple[Any, ...], path: str) -> None:
    data = json.loads((DEMO / "sallow-74.ybob").read_text(encoding="utf-8"))
    at: Any = data
    for step in change[:-2]:
        at = at[step]
    at[change[-2]] = change[-1]
    with pytest.raises(BadDesign, match=path):
        read_json(json.dumps(data), "x.ybob")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "not valid JSON"),
        ("[1, 2]", "no Yellow Bob design"),
        ('{"format": "yellow-bob-design", "version": 99}', "newer"),
        ('{"format": "yellow-bob-design", "version": true}', "version"),
        ('{"format": "yellow-bob-design", "version": 1}', "name"),
        ("[" * 100_000, "too deep|not valid"),
        ('{"format": "yellow-bob-design", "version": 1' + "0" * 5000 + "}", "version|JSON"),
    ],
)
def test_what_is_no_design_is_refused_plainly(text: str, words: str) -> None:
    with pytest.raises(BadDesign, match=words):
        read_json(text)


def test_missing_folder_or_file_is_said(popper: Design, tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="no such file"):
        read_design(tmp_path / "none.ybob")
    with pytest.raises(BadInput, match="cannot be read"):
        read_design(tmp_path)
    with pytest.raises(BadInput, match="somewhere else"):
        write_design(popper, tmp_path / "no" / "folder.ybob")


def _spoil(value: Any, rng: random.Random) -> Any:
    """One random fault somewhere in a JSON value."""
    bad = [None, "", "x" * 200, -1, 0, 1e308, -1e308, math.nan, math.inf, [], {}, True, 10**400, [[[[]]]], "NaN"]
    if isinstance(value, dict) and value and rng.random() < 0.85:
        key = rng.choice(list(value))
        return {**value, key: _spoil(value[key], rng)}
    if isinstance(value, list) and value and rng.random() < 0.85:
        at = rng.randrange(len(value))
        return [*value[:at], _spoil(value[at], rng), *value[at + 1 :]]
    return rng.choice(bad)


def mutated(text: str, rng: random.Random) -> bytes:
    """One of: cut short, bytes changed, not UTF-8, one value spoilt, deeply nested."""
    way = rng.randrange(6)
    raw = text.encode()
    if way == 0:
        return raw[: rng.randrange(len(raw))]
    if way == 1:
        spot = bytearray(raw)
        for _ in range(rng.randrange(1, 8)):
            spot[rng.randrange(len(spot))] = rng.randrange(256)
        return bytes(spot)
    if way == 2:
        return b"\xff\xfe" + raw
    if way == 3:
        return (text[:200] + "[" * rng.choice([50, 5000]) + text[200:]).encode()
    data = json.loads(text)
    for _ in range(rng.randrange(1, 4)):
        data = _spoil(data, rng)
    return json.dumps(data).encode()


def test_broken_files_never_a_traceback_never_a_change(tmp_path: Path) -> None:
    from yellowbob.reports.floating import float_report
    from yellowbob.study import Study

    rng = random.Random(20261124)
    texts = [f.read_text(encoding="utf-8") for f in sorted(DEMO.glob("*.ybob"))]
    file = tmp_path / "broken.ybob"
    refused = 0
    for _ in range(400):
        content = mutated(rng.choice(texts), rng)
        file.write_bytes(content)
        try:
            float_report(Study(read_design(file)))
        except BadInput as error:
            refused += 1
            assert "\n" not in str(error)
        assert file.read_bytes() == content
    assert refused > 280


SAVER = """
import sys
from pathlib import Path
from yellowbob.design.files import read_design, write_design
design = read_design(sys.argv[1])
print("ready", flush=True)
number = 0
while True:
    number += 1
    write_design(design.but(notes="n" * 3000 + str(number)), sys.argv[2])
"""


def test_a_kill_during_a_save_leaves_a_whole_file(tmp_path: Path) -> None:
    target = tmp_path / "kept.ybob"
    for run in range(6):
        with subprocess.Popen(
            [sys.executable, "-c", SAVER, str(DEMO / "osier-96.ybob"), str(target)], stdout=subprocess.PIPE
        ) as saver:
            assert saver.stdout is not None
            saver.stdout.readline()
            time.sleep(0.02 + 0.013 * run)
            os.kill(saver.pid, signal.SIGKILL)
        assert read_design(target).name == "Osier 96"


def test_saving_through_a_link_keeps_the_link(popper: Design, tmp_path: Path) -> None:
    real, link = tmp_path / "real.ybob", tmp_path / "link.ybob"
    write_design(popper, real)
    link.symlink_to(real)
    write_design(popper.but(name="other"), link)
    assert link.is_symlink()
    assert read_design(real).name == "other"
