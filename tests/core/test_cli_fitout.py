"""The Fit-out bench from the command line: shelf, density, mix, budget, clearances, wire, reading."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import DEMO
from tests.core.test_cli import refused, run
from yellowbob.design.files import read_design, write_design

Out = Callable[..., Any]


@pytest.fixture
def call(capsys: pytest.CaptureFixture[str]) -> Callable[..., tuple[int, str, str]]:
    return lambda *words: run(capsys, *words)


@pytest.fixture
def out(capsys: pytest.CaptureFixture[str]) -> Out:
    """Runs a command and reads its JSON."""

    def read(*words: str) -> Any:
        code, text, errors = run(capsys, *words, "--json")
        assert code == 0, errors
        return json.loads(text)

    return read


@pytest.fixture
def no(capsys: pytest.CaptureFixture[str]) -> Callable[..., str]:
    return lambda *words: refused(capsys, *words)


MILL = str(DEMO / "mill-tail-88.ybob")


def test_density_sheets_print_the_hand_calculation(out: Out, no: Out) -> None:
    block = out(
        "density", "block", "--length", "50.2 mm", "--width", "20.1", "--height", "1/2 in", "--mass", "5.61 g", "--json"
    )
    assert block["density_g_ml"] == pytest.approx(5.61e3 / (50.2 * 20.1 * 12.7), rel=1e-12)
    puck = out("density", "puck", "--diameter", "38", "--height", "12", "--mass", "11")
    assert puck["density_g_ml"] == pytest.approx(11e3 / (math.pi / 4 * 38**2 * 12), rel=1e-12)
    master = out("density", "master", "--mass", "14.2 ± 0.02 g", "--density", "0.41")
    assert master["volume_ml"] == pytest.approx(14.2 / 0.41, rel=1e-12)
    under = out("density", "immersion", "--mass", "9.87 g", "--force", "21.34 g", "--temperature", "20")
    assert under["reserve_g"] == pytest.approx(21.34 - 9.87, rel=1e-12)
    assert under["volume_ml"] == pytest.approx(21.34 / 0.9982, rel=1e-4)
    assert "missing" in no("density", "block", "--length", "50", "--width", "20", "--height", "10")
    assert "worksheet" in no("density", "spoon")
    assert "is no mass" in no("density", "puck", "--diameter", "3", "--height", "2", "--mass", "heavy")


def test_a_measured_density_goes_into_the_design(tmp_path: Path, out: Out) -> None:
    file = tmp_path / "a.ybob"
    write_design(read_design(MILL), file)
    out(
        "density",
        "block",
        "--length",
        "50",
        "--width",
        "20",
        "--height",
        "10",
        "--mass",
        "4.5",
        "--write",
        str(file),
    )
    body = read_design(file).body
    assert (body.density_g_ml, body.material.measured) == (pytest.approx(0.45), True)
    assert body.material.density_u_g_ml is not None


def test_mix_budget_clearances_wire_and_reading(out: Out, no: Out) -> None:
    mix = out("mix", "--a", "50", "--b", "50 g", "--filler-percent", "12", "--poured-a", "60")
    assert (mix["add_a_g"], mix["add_b_g"], mix["add_filler_g"]) == pytest.approx((0, 60, 14.4))
    batch = out("mix", "--a", "1", "--b", "1", "--resin", "fast casting resin, 1:1", "--filler", "glass micro-balloons",
                "--wanted-density", "0.6", "--wanted-mass", "30 g")  # fmt: skip
    assert batch["density_g_ml"] == pytest.approx(0.6)
    assert batch["total_g"] == pytest.approx(30)
    plain = out("budget", MILL)
    assert plain["ballast_g"] == pytest.approx(plain["target_g"] - plain["on_scale_g"] - plain["to_come_g"])
    weighed = out("budget", MILL, "--measured", "fitted=17 g", "--target", "22 g")
    assert weighed["on_scale_g"] == pytest.approx(17, abs=0.02)
    assert weighed["ballast_g"] == pytest.approx(22 - weighed["on_scale_g"] - weighed["to_come_g"])
    assert "nothing here is called" in no("budget", MILL, "--measured", "spoon=3 g")
    found = out("clearances", MILL)
    assert {"hook to hook", "hook to prop", "hook-up", "wall of hole", "wire to hole", "prop to body"} <= {
        c["kind"] for c in found["clearances"]
    }
    wire = out("wire", MILL)["wires"][0]
    assert wire["cut_mm"] == pytest.approx(112)
    assert out("reading", "mass")["value"] == pytest.approx(31.24, abs=0.03)
    assert "cannot be opened" in no("reading", "mass", "--port", "/dev/none")


def test_the_shelf_from_the_command_line(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, out: Out, no: Out, call: Out
) -> None:
    mine_is = ("group=wood", "density_g_ml=410 kg/m3", "spread_g_ml=0.02")
    monkeypatch.setenv("YELLOW_BOB_WORKSHOP", str(tmp_path / "w.sqlite"))
    assert out("shelf", "list")["materials"] >= 60
    assert call("shelf", "add", "materials", "willow, mine", *mine_is)[0] == 0
    assert call("shelf", "add", "ballast", "split shot AAA, lead", "--count", "25")[0] == 0
    mine = {m["name"]: m for m in out("shelf", "list", "materials")}["willow, mine"]
    assert mine["density_g_ml"] == pytest.approx(0.41)
    counts = {m["name"]: m["count"] for m in out("shelf", "list", "ballast")}
    assert counts["split shot AAA, lead"] == 25
    csv = tmp_path / "b.csv"
    assert call("shelf", "export", "ballast", "-o", str(csv))[0] == 0
    csv.write_text(csv.read_text().replace('"split shot AAA, lead"', "my shot", 1))
    assert call("shelf", "import", "ballast", str(csv))[0] == 0
    assert {m["name"]: m["count"] for m in out("shelf", "list", "ballast")}["my shot"] == 25
    assert "no list" in no("shelf", "list", "spoons")
    assert "field=value" in no("shelf", "add", "materials", "x", "heavy")
    said = no("shelf", "add", "materials", "bog\x1b[2Joak", "group=wood", "density_g_ml=0.5", "spread_g_ml=0.1")
    assert "cannot be printed" in said and "\x1b" not in said
    assert "density_g_ml" in no("shelf", "add", "materials", "x", "group=wood")


def test_a_blade_is_put_on_a_frame_and_what_cannot_be_framed_is_refused(tmp_path: Path, out: Out, no: Out) -> None:
    osier, made = str(DEMO / "osier-96.ybob"), tmp_path / "framed.ybob"
    blade = "two-blade prop 26 mm, brass"
    told = out("fit", osier, blade, "--at", "66,0,30", "--framed", "-o", str(made))
    assert told["sort"] == "prop"
    frame = read_design(made).wires[-1]
    assert frame.path_mm[-1][2] == 30.0 and frame.path_mm[0][0] < 0.0
    cut = next(w for w in out("wire", str(made))["wires"] if w["name"] == frame.name)
    assert cut["cut_mm"] > 66.0
    ran = out("action", str(made), "--speed", "0.5")["prop"][0]
    assert ran["each"][0]["name"] == blade and {"side_g", "jammed_side_g", "aside_mm", "jammed_aside_mm"} <= set(ran)
    assert "at least 10 mm aft" in no("fit", osier, blade, "--at", "3,0,30", "--framed", "-o", str(made))
    assert "does not turn" in no("fit", osier, "treble, size 6", "--at", "40,0,-9", "--framed", "-o", str(made))
