"""As made: readings back to a body, holes back to their places, uneven sides; the foil, moulds, jigs, bends and sheet
parts."""

from __future__ import annotations

import json
import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO
from tests.core.test_cli import refused, run
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput
from yellowbob.shop.csvs import csv_of
from yellowbob.shop.made import HoleMeasured, Measured, made, read_holes, read_stations, uneven
from yellowbob.shop.stations import stations
from yellowbob.study import Study, of

ALL = sorted(f.stem for f in DEMO.glob("*.ybob"))


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


def read_back(design: Design, error: float = 0.25) -> list[Measured]:
    return [Measured(s.at_mm, dict(s.sizes_mm)) for s in stations(design, error).stations]


@pytest.mark.parametrize("error", [0.1, 0.6])
@pytest.mark.parametrize("name", ALL)
def test_stations_of_the_exact_body_give_it_back(name: str, error: float) -> None:
    design = design_of(name)
    back = made(design, read_back(design, error))
    drawn, new = of.outer(Study(design)).volume_mm3, of.outer(Study(back)).volume_mm3
    assert new == pytest.approx(drawn, rel=1e-5)


@settings(max_examples=20, deadline=None)
@given(data=st.data())
def test_the_made_outline_goes_through_every_reading(data: st.DataObject) -> None:
    design = design_of(data.draw(st.sampled_from(["mill-tail-88", "sallow-74", "weir-cup-62"])))
    found = [s for s in stations(design, 0.4).stations if min(abs(v) for v in s.sizes_mm.values()) > 2.0]
    readings = [
        Measured(s.at_mm, {k: v + data.draw(st.floats(-0.9, 0.9)) for k, v in s.sizes_mm.items()}) for s in found
    ]
    new = made(design, readings)
    for one in readings:
        there = stations_at(new, one.at_mm)
        for name, wanted in one.sizes_mm.items():
            assert there[name] == pytest.approx(wanted, abs=0.02), (name, one.at_mm)


def stations_at(design: Design, at_mm: float) -> dict[str, float]:
    from yellowbob.lines.curves import curve

    shape, x = design.shape, np.array([at_mm])
    if isinstance(shape, Turned):
        return {"diameter": 2.0 * float(curve(shape.profile).at(x)[0])}
    return {"back": float(curve(shape.back).at(x)[0]), "belly": float(curve(shape.belly).at(x)[0]),  # type: ignore[union-attr]
            "half width": float(curve(shape.plan).at(x)[0])}  # type: ignore[union-attr]  # fmt: skip


def test_a_fatter_piece_is_fatter_by_its_closed_form() -> None:
    shape = {"kind": "turned", "profile": [{"at_mm": p, "bend": "corner"} for p in ((0, 8), (80, 8))]}
    design = Design.model_validate(
        {"name": "rod", "pieces": [{"material": {"name": "alder", "density_g_ml": 0.5}, "shape": shape}]}
    )
    new = made(design, [Measured(0.0, {"diameter": 16.6}), Measured(80.0, {"diameter": 16.6})])
    assert of.outer(Study(new)).volume_mm3 == pytest.approx(math.pi * 8.3**2 * 80.0, rel=1e-6)
    cone = made(design, [Measured(0.0, {"diameter": 16.0}), Measured(80.0, {"diameter": 18.0})])
    assert of.outer(Study(cone)).volume_mm3 == pytest.approx(math.pi / 3 * 80 * (64 + 81 + 72), rel=1e-6)


def test_readings_that_cannot_be_are_refused() -> None:
    turned, lofted = design_of("mill-tail-88"), design_of("sallow-74")
    for design, readings, words in (
        (turned, [Measured(200.0, {"diameter": 20.0})], "outside the body"),
        (turned, [Measured(40.0, {"back": 20.0})], "want any of diameter"),
        (turned, [Measured(40.0, {})], "nothing"),
        (turned, [Measured(40.0, {"diameter": 220.0})], r"220 mm is \+\d+\.\d mm off the drawing; measure it again"),
        (turned, [Measured(40.0, {"diameter": 2.0})], r"diameter at 40 mm: 2 mm is -"),  # a slipped point
        (turned, [Measured(40.0, {"diameter": -2.0})], "never below 0"),
        (lofted, [Measured(18.0, {"belly": 12.2})], "below the axis is negative"),
        (lofted, [Measured(36.0, {"back": 0.99})], "back at 36 mm: 0.99 mm is -8.9 mm off"),
        (lofted, [Measured(36.0, {"port": -10.0, "starboard": 10.0})], "port is -10 mm; a width is never below 0"),
        (lofted, [Measured(36.0, {"port": 10.0, "starboard": 10.0, "half width": 9.0})], "keep the sides"),
        (turned, [Measured(40.0, {"diameter": 20.0})] * 2, "twice"),
        (lofted, [Measured(40.0, {"port": 10.0})], "only port"),
        (lofted, [Measured(40.0, {"diameter": 20.0})], "want any of back"),
    ):
        with pytest.raises(BadInput, match=words):
            made(design, readings)
    mesh = of.outer(Study(lofted))
    body = {"kind": "mesh", "vertices_mm": mesh.vertices.tolist(), "faces": mesh.faces.tolist()}
    with pytest.raises(BadInput, match="no outlines"):
        made(Design.model_validate({"name": "m", "pieces": [{"material": {"name": "alder", "density_g_ml": 0.5},
            "shape": body}]}),
             [Measured(10.0, {"diameter": 3.0})])  # fmt: skip


def test_what_cannot_be_built_as_made_is_not_written(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    """A belly measured above the back there."""
    told, out = tmp_path / "told.csv", tmp_path / "made.ybob"
    told.write_text("at,back,belly\n90,1.0,1.5\n", encoding="utf-8")
    assert "cross" in refused(capsys, "made", str(DEMO / "osier-96.ybob"), "--stations", str(told), "-o", str(out))
    assert not out.exists()


def test_sides_that_differ_list_it_and_mirror() -> None:
    design = design_of("moth-crawler-64")
    more, less = (
        [Measured(s.at_mm, {"port": s.sizes_mm["half width"] + a, "starboard": s.sizes_mm["half width"] - a})
         for s in stations(design).stations if s.sizes_mm["half width"] > 2.0]
        for a in (0.5, -0.5)
    )  # fmt: skip
    one, two = uneven(made(design, more), more), uneven(made(design, less), less)
    assert one is not None and two is not None and one.roll_deg is not None and two.roll_deg is not None
    assert one.most_mm == pytest.approx(-0.5) and abs(one.roll_deg) > 0.5
    assert one.roll_deg == pytest.approx(-two.roll_deg, abs=0.05)
    # wood to port lifts port: starboard goes down, which is positive
    assert one.roll_deg > 0.0
    assert uneven(design, read_back(design)) is None


def test_holes_measured_back_move_what_lies_in_them(tmp_path: Path) -> None:
    design = design_of("sallow-74")
    slug = of.holes(Study(design)).ballast[0]
    new = made(design, [], [HoleMeasured("Belly slug", {"at": slug.hole.mouth_mm[0] + 2.0, "off": 0.6, "depth": 9.0})])  # type: ignore[union-attr]
    moved = of.holes(Study(new)).ballast[0]
    assert moved.weight.centre_mm[0] == pytest.approx(slug.weight.centre_mm[0] + 2.0, abs=0.1)
    assert moved.weight.centre_mm[1] == pytest.approx(0.6) and moved.hole.depth_mm == 9.0  # type: ignore[union-attr]
    for one, words in (
        (HoleMeasured("nothing", {"at": 3.0}), "no hole called"),
        (HoleMeasured("Belly slug", {"diameter": 3.0}), "is not in a hole of 3 mm"),
        (HoleMeasured("Belly slug", {"diameter": 72.0}), r"diameter 72 mm is \+\d\d\.\d mm off"),
        (HoleMeasured("Belly slug", {"depth": 50.0}), "measure it again"),
        (HoleMeasured("Belly slug", {"at": 3.4}), "measure it again"),
        (HoleMeasured("bore", {"at": 3.0}), "its place from the nose is that end"),
        (HoleMeasured("bore", {"at": 60.0}), "its place from the nose is that end"),
    ):
        with pytest.raises(BadInput, match=words):
            made(design_of("creek-dropper-52"), [], [one])
    with pytest.raises(BadInput, match="a hole is measured twice"):
        made(design, [], [HoleMeasured("Belly slug", {"depth": 9.0}), HoleMeasured("Belly slug", {"depth": 9.5})])


def test_typed_tables_are_read_or_refused_with_their_line(tmp_path: Path) -> None:
    file = tmp_path / "s.csv"
    file.write_text('at,diameter\n10,"12,5"\n3/4 in,16 mm\n', encoding="utf-8")
    assert read_stations(file) == [
        Measured(10.0, {"diameter": 12.5}),
        Measured(pytest.approx(19.05), {"diameter": 16.0}),
    ]
    for text, words in (
        ("", "is empty"), ("at,wide\n3,4\n", "want at"), ("at,diameter\n3\n", "line 2 has 1"), ("at,diameter\n3,x\n",
            "line 2"),
        ("diameter\n3\n", "want at"), ("at,diameter,diameter\n1,2,3\n", "once each"),
    ):  # fmt: skip
        file.write_text(text, encoding="utf-8")
        with pytest.raises(BadInput, match=words):
            read_stations(file)
    with pytest.raises(BadInput, match="cannot be read"):
        read_holes(tmp_path / "nowhere.csv")


def test_made_from_the_command_line_writes_the_piece(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    design = design_of("mill-tail-88")
    csv = tmp_path / "m.csv"
    csv.write_text(csv_of(Study(design), "stations"), encoding="utf-8")
    file, wrote = str(DEMO / "mill-tail-88.ybob"), tmp_path / "m.ybob"
    _, out, _ = run(capsys, "made", file, "--stations", str(csv), "-o", str(wrote), "--json")
    told = json.loads(out)
    assert told["made"]["volume_ml"] == pytest.approx(told["drawn"]["volume_ml"], rel=1e-4) and told["uneven"] is None
    assert of.outer(Study(read_design(tmp_path / "m.ybob"))).volume_mm3 / 1000 == pytest.approx(
        told["made"]["volume_ml"], rel=1e-4
    )
    assert "nothing is measured" in refused(capsys, "made", file)
