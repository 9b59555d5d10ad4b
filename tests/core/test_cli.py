"""The command line as its users run it: figures, JSON, and one plain line with exit 2 for bad input."""

from __future__ import annotations

import json
import math
import os
import subprocess
import sys
from pathlib import Path

import pytest
import trimesh
import typer

from tests.conftest import DEMO
from yellowbob.__main__ import main
from yellowbob.cli.main import asked
from yellowbob.lines.importing import read_solid

SALLOW = str(DEMO / "sallow-74.ybob")


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, str, str]:
    with pytest.raises(SystemExit) as ended:
        main(list(arguments))
    said = capsys.readouterr()
    return int(ended.value.code or 0), said.out, said.err


def refused(capsys: pytest.CaptureFixture[str], *arguments: str) -> str:
    code, out, err = run(capsys, *arguments)
    assert code == 2
    assert out == ""
    assert err.startswith("yellow-bob: ")
    assert err.count("\n") == 1
    return err


@pytest.fixture
def bar(tmp_path: Path) -> Path:
    file = tmp_path / "bar.stl"
    trimesh.creation.box((120, 10, 10)).export(file)
    return file


def test_float_json_has_every_key(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "float", SALLOW, "--json")
    report = json.loads(out)
    assert code == 0
    assert {"floats", "mass_g", "hull_volume_ml", "displaced_ml", "reserve_g", "reserve_percent", "cg_mm",
            "water_density_g_ml", "rests"} <= report.keys()  # fmt: skip
    assert {"up", "pitch_deg", "roll_deg", "draft_mm", "gm_min_mm", "gm_max_mm", "waterplane_mm2", "energy_uj",
            "neutral"} == report["rests"][0].keys()  # fmt: skip
    assert report["displaced_ml"] * report["water_density_g_ml"] == pytest.approx(report["mass_g"])
    assert report["reserve_percent"] == pytest.approx(100 * report["reserve_g"] / report["mass_g"])
    energies = [r["energy_uj"] for r in report["rests"]]
    assert energies == sorted(energies)


@pytest.mark.parametrize(("suffix", "unit", "size"), [("stl", "mm", 1.0), ("obj", "cm", 10.0), ("ply", "in", 25.4),
                                                      ("3mf", "mm", 1.0)])  # fmt: skip
def test_meshes_in_any_unit(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, suffix: str, unit: str, size: float
) -> None:
    file = tmp_path / f"bar.{suffix}"
    trimesh.creation.box((0.1, 0.02, 0.02)).export(file)
    code, out, _ = run(capsys, "float", str(file), "--density", "0.5", "--unit", unit, "--json")
    report = json.loads(out)
    assert code == 0
    assert report["hull_volume_ml"] == pytest.approx(0.1 * 0.02 * 0.02 * size**3 / 1000, rel=1e-4)
    assert len(report["rests"]) == 4


def test_water_options(capsys: pytest.CaptureFixture[str], bar: Path) -> None:
    def density(*more: str) -> float:
        _, out, _ = run(capsys, "float", str(bar), "--density", "0.5", "--unit", "mm", "--json", *more)
        return float(json.loads(out)["water_density_g_ml"])

    assert density("--water", "sea") > density("--water", "brackish") > density("--water", "fresh")
    assert density("--temperature", "4") > density("--temperature", "25")
    assert density("--salinity", "35.16504") == pytest.approx(density("--water", "sea"))
    assert density("--water", "sea", "--salinity", "0") == pytest.approx(density("--water", "fresh"))


def test_sinker(capsys: pytest.CaptureFixture[str], bar: Path) -> None:
    _, out, _ = run(capsys, "float", str(bar), "--density", "2", "--unit", "mm", "--json")
    report = json.loads(out)
    assert report["floats"] is False
    assert report["rests"] == []
    assert report["sinking_weight_g"] == pytest.approx(12 * (2 - report["water_density_g_ml"]))
    _, words, _ = run(capsys, "float", str(bar), "--density", "2", "--unit", "mm")
    assert "sinks" in words


def test_weigh_lines_add_up(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "weigh", SALLOW, "--json")
    report = json.loads(out)
    assert sum(line["mass_g"] for line in report["lines"]) == pytest.approx(report["finished_g"])
    assert report["on_scale_g"] + report["to_come_g"] == pytest.approx(report["finished_g"])
    _, words, _ = run(capsys, "weigh", SALLOW)
    assert f"{report['finished_g']:.2f}" in words


def test_sheet_is_one_page_at_true_scale(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    from reportlab.lib.units import mm

    target = tmp_path / "sheet.pdf"
    code, out, _ = run(capsys, "sheet", SALLOW, "-o", str(target))
    assert code == 0
    assert "100 mm" in out
    data = target.read_bytes()
    assert data.startswith(b"%PDF")
    assert data.count(b"/Type /Page\n") + data.count(b"/Type /Page ") == 1
    assert f"{297 * mm:.4f}"[:6].encode() in data


def test_bad_input_is_one_line_and_exit_2(capsys: pytest.CaptureFixture[str], bar: Path, tmp_path: Path) -> None:
    assert "no such file" in refused(capsys, "float", str(tmp_path / "none.ybob"))
    assert "--density" in refused(capsys, "float", str(bar))
    assert "unit" in refused(capsys, "float", str(bar), "--density", "0.5", "--unit", "furlong")
    assert "density" in refused(capsys, "float", str(bar), "--density", "-1", "--unit", "mm")
    assert "lake" in refused(capsys, "float", SALLOW, "--water", "lake")
    assert "temperature" in refused(capsys, "float", SALLOW, "--temperature", "90")
    assert "go with a mesh" in refused(capsys, "float", SALLOW, "--density", "0.5")
    assert "written" in refused(capsys, "sheet", SALLOW, "-o", str(tmp_path / "no" / "x.pdf"))
    refused(capsys, "frobnicate")
    refused(capsys, "float")
    broken = tmp_path / "broken.ybob"
    broken.write_text("{")
    assert "JSON" in refused(capsys, "weigh", str(broken))


def test_an_open_mesh_says_how_many_edges_and_where(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    box = trimesh.creation.box((10, 10, 10))
    box.faces = box.faces[:-1]
    file = tmp_path / "open.stl"
    box.export(file)
    said = refused(capsys, "float", str(file), "--density", "0.5", "--unit", "mm")
    assert "3 open edges" in said
    assert "mm" in said
    for name, content in (("a.stl", b"rubbish"), ("b.obj", b""), ("c.ply", b"ply\nend"), ("d.3mf", b"PK")):
        (tmp_path / name).write_bytes(content)
        refused(capsys, "float", str(tmp_path / name), "--density", "0.5", "--unit", "mm")


def test_inside_out_meshes_are_turned(tmp_path: Path) -> None:
    box = trimesh.creation.box((10, 10, 10))
    box.invert()
    box.export(tmp_path / "in.stl")
    solid = read_solid(tmp_path / "in.stl", "mm").outer
    assert solid.volume_mm3 == pytest.approx(1000)
    assert solid.bounds[1, 0] - solid.bounds[0, 0] == pytest.approx(10)


def test_opening_without_a_display_is_refused(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert "no display" in refused(capsys, "open", SALLOW)


def test_demo_without_a_display_prints_and_draws(tmp_path: Path) -> None:
    environment = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    done = subprocess.run(
        [sys.executable, "-c", "from yellowbob.__main__ import main; main()", "demo", "--pictures", str(tmp_path)],
        env=environment, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    for file in DEMO.glob("*.ybob"):
        picture = tmp_path / f"{file.stem}.png"
        assert picture.stat().st_size > 20_000
    assert "Sallow 74" in done.stdout
    assert "No display" in done.stdout


@pytest.mark.parametrize("cache", ["read-only", "missing"])
def test_a_bad_compile_cache_does_not_break_a_start(tmp_path: Path, cache: str) -> None:
    folder = tmp_path / "cache"
    if cache == "read-only":
        folder.write_text("a file where the folder should be")
    code = (
        "import numpy as np\nfrom yellowbob.afloat.kernel import axes_across\n"
        "e = np.zeros((2, 3))\naxes_across(np.array([0.0, 0, 1]), e)\nprint(round(e[0] @ e[0] + 2))"
    )
    done = subprocess.run(
        [sys.executable, "-c", code], env={**os.environ, "NUMBA_CACHE_DIR": str(folder)}, capture_output=True, text=True
    )
    assert done.stdout.strip() == "3", done.stderr


def test_pitch_in_json_is_nose_up(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "float", SALLOW, "--json")
    rest = json.loads(out)["rests"][0]
    assert rest["pitch_deg"] == pytest.approx(math.degrees(math.asin(-rest["up"][0])))
    assert rest["pitch_deg"] > 15  # a popper sits tail down


def test_schema_and_version(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "schema")
    assert json.loads(out)["title"] == "Design"
    assert "yellow-bob" in run(capsys, "--version")[1]


def test_a_command_asked_for_is_made_up_alone_and_a_slip_of_the_pen_among_all(
    capsys: pytest.CaptureFixture[str],
) -> None:
    alone = typer.main.get_command(asked(["trace", "--help"]))
    assert list(getattr(alone, "commands", {})) == ["trace"]
    for words in ([], ["--help"], ["wiegh"], ["--version", "log"]):
        assert {"trace", "weigh", "shelf", "log"} <= set(getattr(typer.main.get_command(asked(words)), "commands", {}))
    for words, inner in (
        (["log", "list"], ["list"]),
        (["log", "weihg"], None),
        (["log"], None),
        (["shelf", "--help"], None),
    ):
        whole = typer.main.get_command(asked(words))
        (group,) = getattr(whole, "commands", {}).values()
        assert group.name == words[0] and (list(group.commands) == inner or (inner is None and len(group.commands) > 3))
    said = refused(capsys, "log", "weihg")
    assert "Did you mean 'weigh'" in said and "(yellow-bob log --help lists the commands)" in said
    assert "(yellow-bob shelf --help lists the commands)" in refused(capsys, "shelf")
    assert "Did you mean 'weigh'" in refused(capsys, "wiegh", SALLOW)
    code, out, _ = run(capsys, "--help")
    assert code == 0 and all(name in out for name in ("trace", "weigh", "shelf", "log"))
    assert "Missing option '--known'" in refused(capsys, "trace", "a.png")
