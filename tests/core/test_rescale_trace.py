"""Rescaling, the ladder, tracing, outlines and solids in and out."""

from __future__ import annotations

import json
import math
import time
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import trimesh
from PIL import Image

from tests.conftest import DEMO, turned_design
from tests.core.test_cli import refused, run
from tests.pictures import body_outline as outline_px
from tests.pictures import render
from yellowbob.design.files import read_design, write_design
from yellowbob.design.model import Design
from yellowbob.design.outline_edits import (
    PointRef,
    added_point,
    blank,
    moved_point,
    outline_of,
    with_bend,
    without_point,
)
from yellowbob.design.rescale import rescaled
from yellowbob.design.starts import with_shape
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.orient import axes_from, lighter, lopsided, seated
from yellowbob.lines.svg.body import read_svg_body
from yellowbob.lines.tracing.clicked import scale_of
from yellowbob.lines.tracing.fit import edges_of
from yellowbob.lines.tracing.silhouette import BadPicture, Silhouette, find_silhouette
from yellowbob.lines.tracing.trace import major_axis, traced
from yellowbob.shop.exports import export
from yellowbob.study import Study, of
from yellowbob.trials.ladder import ladder


def same_numbers(one: Any, two: Any, rel: float = 1e-9) -> None:
    if isinstance(one, dict):
        assert one.keys() == two.keys()
        for key in one:
            same_numbers(one[key], two[key], rel)
    elif isinstance(one, list | tuple):
        assert len(one) == len(two)
        for a, b in zip(one, two, strict=True):
            same_numbers(a, b, rel)
    elif isinstance(one, float):
        assert one == pytest.approx(two, rel=rel, abs=1e-9)
    else:
        assert one == two


@pytest.mark.parametrize("factor", [0.6, 1.75])
@pytest.mark.parametrize("length_only", [False, True])
def test_rescaling_there_and_back_gives_the_design(demo_design: Design, factor: float, length_only: bool) -> None:
    there = rescaled(demo_design, factor, length_only)
    same_numbers(rescaled(there, 1 / factor, length_only).model_dump(), demo_design.model_dump())
    power = 1 if length_only else 3
    one, two = of.outer(Study(demo_design)).volume_mm3, of.outer(Study(there)).volume_mm3
    if not (length_only and demo_design.body.cuts):  # a cup keeps its depth when only the length is stretched
        assert two == pytest.approx(one * factor**power, rel=1e-3)
    assert [f.mass_g for f in there.fittings] == [f.mass_g for f in demo_design.fittings]


def test_absurd_factors_are_refused(popper: Design) -> None:
    with pytest.raises(BadInput, match="outside"):
        rescaled(popper, 0.001)


def test_the_ladder_names_the_smallest_that_works(popper: Design) -> None:
    found = ladder(popper, (0.5, 0.8, 1.0))
    assert [r.as_briefed for r in found.rungs] == [False, True, True]
    own = Study(popper)
    ballast = sum(p.weight.mass_g + (p.plug.mass_g if p.plug else 0) for p in of.holes(own).ballast)
    holes = next(x.mass.mass_g for x in of.slip(own).lines if x.key == "holes")
    assert found.rungs[2].ballast_g == pytest.approx(ballast + holes, rel=1e-6)
    assert found.smallest_factor is not None
    below, above = ladder(popper, (found.smallest_factor * 0.99, found.smallest_factor * 1.01)).rungs
    assert not below.as_briefed
    assert above.as_briefed


CASES: list[dict[str, Any]] = [
    {"px": 400}, {"px": 700, "angle_deg": 17.0}, {"px": 1200}, {"px": 1600, "noise": 12.0, "jpeg": 60},
    {"body": (200, 180, 150), "ground": (40, 45, 50)}, {"uneven": 0.45}, {"body": (30, 30, 30), "angle_deg": -25.0},
    {"shadow": False, "hooks": False, "jpeg": None}, {"ground": (60, 110, 180), "body": (230, 220, 120)}, {"px": 2400},
]  # fmt: skip


@pytest.mark.parametrize("case", CASES, ids=[str(i) for i in range(len(CASES))])
def test_traced_length_and_area(case: dict[str, Any]) -> None:
    known = render(**case)
    found = traced(find_silhouette(known.pixels), scale_of(120.0, known.nose, known.tail), turned=False)
    mm = 120.0 / known.length_px
    assert found.length_mm == pytest.approx(120.0, rel=5e-3)
    assert found.area_mm2 == pytest.approx(known.area_px * mm * mm, rel=1e-2)
    assert found.fit_error_mm < 0.006 * 120


@pytest.mark.parametrize(
    ("case", "why"),
    [
        ({"body": (225, 222, 214)}, "edge|thin|stands"),
        ({"body": (205, 200, 190)}, "edge|thin|stands"),
        ({"px": 900, "angle_deg": 88.0}, "runs out"),
    ],
)
def test_what_cannot_be_separated_is_refused_with_the_reason(case: dict[str, Any], why: str) -> None:
    with pytest.raises(BadPicture, match=why):
        find_silhouette(render(**case).pixels)


def test_pictures_of_nothing_are_refused() -> None:
    rng = np.random.default_rng(3)
    noise = np.dstack([rng.random((300, 400, 3)), np.ones((300, 400))])
    for pixels in (noise, np.ones((300, 400, 4)), np.ones((30, 40, 4))):
        with pytest.raises(BadPicture):
            find_silhouette(pixels)


@pytest.mark.parametrize("corners", [60, 900, 60_000])
def test_the_edges_of_an_outline_are_where_it_is_highest_and_lowest(corners: int) -> None:
    turn = np.linspace(0.0, 2.0 * np.pi, corners, endpoint=False)
    oval = np.stack([40.0 * np.cos(turn), 9.0 * np.sin(turn)], axis=1)
    folded = np.insert(oval, corners // 4, [[5.0, 30.0], [-5.0, 20.0]], axis=0)  # a crest that hangs over to both sides
    x, top, bottom = edges_of(folded, 300)
    away = np.abs(x) > 6.0
    round_about = 9.0 * np.sqrt(1.0 - (x / 40.0) ** 2)
    assert len(x) == 300 and top[~away].max() > 20.0
    assert np.abs(top - round_about)[away].max() < 0.9 * (60 / corners) + 1e-3
    assert np.abs(bottom + round_about).max() < 0.9 * (60 / corners) + 1e-3


def test_the_known_length_may_lie_in_any_direction() -> None:
    assert scale_of(50.0, (0.0, 0.0), (30.0, 40.0)) == pytest.approx(1.0)
    with pytest.raises(BadPicture, match="same"):
        scale_of(50.0, (3.0, 4.0), (3.0, 4.0))
    with pytest.raises(BadPicture, match="more than nothing"):
        scale_of(0.0, (0.0, 0.0), (3.0, 4.0))


def test_level_nose_and_turned() -> None:
    known = render(px=900, angle_deg=10.0, hooks=False)
    side = find_silhouette(known.pixels)
    axis = major_axis(side.outline)
    assert math.degrees(math.atan2(axis[1], axis[0])) == pytest.approx(10.0, abs=1.0)
    level = traced(side, 0.1, turned=False, along=np.array([math.cos(math.radians(10)), math.sin(math.radians(10))]))
    other = traced(side, 0.1, turned=False, nose="right")
    assert level.length_mm == pytest.approx(other.length_mm, rel=2e-3)
    spin = traced(side, 0.1, turned=True)
    assert spin.shape.kind == "turned"
    lopped = outline_px() * [600.0, 600.0]
    lopped[:, 1] *= np.where(lopped[:, 1] > 0, 0.3, 1.0)
    lean = traced(Silhouette(lopped, 700, 300, 50.0), 0.1, turned=True)
    assert any("leans" in w for w in lean.warnings)
    back = level.to_px @ np.vstack([level.outline_mm.T, np.ones(len(level.outline_mm))])
    assert pytest.approx(side.outline, abs=1e-6) == back.T


def test_a_plan_picture_gives_the_beam() -> None:
    side = find_silhouette(render(px=900, hooks=False).pixels)
    found = traced(side, 0.1, turned=False, plan=side)
    assert found.shape.kind == "lofted"
    widest = max(p.at_mm[1] for p in found.shape.plan)
    assert 2 * widest == pytest.approx(found.depth_mm, rel=0.02)


def test_trace_command(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    known = render(px=900)
    picture, out = tmp_path / "p.png", tmp_path / "t.ybob"
    Image.fromarray((known.pixels * 255).astype(np.uint8)).convert("RGB").save(picture)
    ends = ["--from", "{:.2f},{:.2f}".format(*known.nose), "--to", "{:.2f},{:.2f}".format(*known.tail)]
    code, said, _ = run(capsys, "trace", str(picture), "--known", "4 in", *ends, "-o", str(out), "--json")
    assert code == 0
    assert json.loads(said)["length_mm"] == pytest.approx(101.6, rel=5e-3)
    _, said, _ = run(capsys, "lines", str(out), "--json")
    assert json.loads(said)["length_mm"] == pytest.approx(101.6, rel=5e-3)
    assert "no place" in refused(
        capsys, "trace", str(picture), "--known", "4 in", "--from", "1", "--to", "2,2", "-o", str(out)
    )
    assert "picture" in refused(
        capsys, "trace", str(out), "--known", "4 in", "--from", "1,1", "--to", "2,9", "-o", str(tmp_path / "no.ybob")
    )
    words = ["--known", "4 in", "--from", "1,1", "--to", "2,9", "-o", str(tmp_path / "no.ybob"), "--error", "thin"]
    assert "thin" in refused(capsys, "trace", str(tmp_path / "none.png"), *words)  # before the picture is read
    assert not (tmp_path / "no.ybob").exists()


def test_tracing_the_demo_picture_keeps_within_its_time() -> None:
    from yellowbob.lines.tracing.silhouette import read_picture

    start = time.process_time()
    find_silhouette(read_picture(DEMO / "to-trace.jpg"))
    assert time.process_time() - start < 60  # a runaway, not a speed: that is measured by make bench


@pytest.mark.parametrize("suffix", ["stl", "3mf"])
def test_solids_out_and_back(demo_design: Design, tmp_path: Path, suffix: str) -> None:
    from yellowbob.lines.importing import read_solid
    from yellowbob.shop.exports import solid_to_make

    study, file = Study(demo_design), tmp_path / f"o.{suffix}"
    export(study, file)
    back = read_solid(file, "mm", "air")
    hollow = 0.0 if back.cavity is None else back.cavity.volume_mm3
    assert (hollow > 0) == (demo_design.body.shell is not None)
    assert back.outer.volume_mm3 - hollow == pytest.approx(solid_to_make(study).volume_mm3, rel=2e-3)


def test_outlines_out_and_back(demo_design: Design, tmp_path: Path) -> None:
    study, file = Study(demo_design), tmp_path / "o.svg"
    export(study, file)
    found = read_svg_body(file)
    assert found.shape == demo_design.shape
    assert found.cuts == demo_design.body.cuts
    assert found.notes == ()


def test_another_programs_drawing(tmp_path: Path) -> None:
    file = tmp_path / "d.svg"
    file.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 200 100">'
        '<path d="M 20 50 C 40 30 140 30 180 50 C 140 70 40 70 20 50 Z"/></svg>'
    )
    assert read_svg_body(file).shape.length_mm == pytest.approx(80.0, rel=1e-3)
    for content in ("<svg", '<svg xmlns="http://www.w3.org/2000/svg"></svg>'):
        file.write_text(content)
        with pytest.raises(BadInput, match=r"SVG|path"):
            read_svg_body(file)


def test_commands_of_the_bench(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    sallow, out = str(DEMO / "sallow-74.ybob"), tmp_path / "r.ybob"
    assert run(capsys, "rescale", sallow, "--length", "3 in", "-o", str(out))[0] == 0
    assert read_design(out).shape.length_mm == pytest.approx(76.2)
    assert run(capsys, "rescale", sallow, "--factor", "0.5", "-o", str(out))[0] == 0
    assert "either" in refused(capsys, "rescale", sallow, "-o", str(out))
    _, said, _ = run(capsys, "ladder", sallow, "--sizes", "60,80,100,120%", "--json")
    report = json.loads(said)
    assert [s["factor"] for s in report["sizes"]] == [0.6, 0.8, 1.0, 1.2]
    assert 50 < report["smallest_percent"] < 100
    assert "per cent" in refused(capsys, "ladder", sallow, "--sizes", "small")
    _, said, _ = run(capsys, "lines", sallow, "--json")
    assert {"length_mm", "beam_mm", "depth_mm", "volume_ml", "area_mm2", "centroid_mm", "triangles"} <= json.loads(
        said
    ).keys()
    for suffix in ("stl", "3mf", "svg"):
        assert run(capsys, "export", sallow, "--to", str(tmp_path / f"o.{suffix}"))[0] == 0
    assert ".stl" in refused(capsys, "export", sallow, "--to", str(tmp_path / "o.xyz"))
    assert run(capsys, "outlines", str(tmp_path / "o.svg"), "-o", str(out))[0] == 0
    box = trimesh.creation.box((20, 20, 90))
    box.export(tmp_path / "b.stl")
    code, said, _ = run(
        capsys, "solid", str(tmp_path / "b.stl"), "--unit", "mm", "--nose", "+z", "--up", "+x", "-o", str(out)
    )
    assert code == 0
    assert read_design(out).shape.length_mm == pytest.approx(90)
    assert "different" in refused(
        capsys, "solid", str(tmp_path / "b.stl"), "--unit", "mm", "--nose", "+z", "--up", "-z", "-o", str(out)
    )


def test_solids_from_cad_keep_volume_and_tell_a_lean() -> None:
    ball = trimesh.creation.icosphere(subdivisions=4, radius=12.0)
    mesh = Mesh(np.array(ball.vertices) * [3, 1, 1], np.array(ball.faces, np.int32))
    light = lighter(mesh, 1200)
    assert len(light.faces) <= 1200
    assert light.volume_mm3 == pytest.approx(mesh.volume_mm3, rel=1e-9)
    assert lopsided(mesh) < 1e-3
    bent = Mesh(mesh.vertices + np.array([0, 1, 0]) * (mesh.vertices[:, :1] / 20) ** 2, mesh.faces)
    assert lopsided(seated(bent)) > 0.02
    assert np.linalg.det(axes_from("-y", "+x")) == pytest.approx(1.0)
    assert axes_from("-y", "+x") @ np.array([0.0, 1.0, 0.0]) == pytest.approx([1, 0, 0])
    assert seated(mesh).bounds[0, 0] == pytest.approx(0.0)


def test_outline_points_are_held_back_with_a_reason(popper: Design) -> None:
    back = PointRef("back", 2)
    up = moved_point(popper, back, 38.0, 12.0)
    assert up.held == ""
    assert outline_of(up.design, "back")[2].at_mm == (38.0, 12.0)
    crossed = moved_point(popper, back, 38.0, -30.0)
    assert "cross" in crossed.held
    assert outline_of(crossed.design, "back")[2].at_mm[1] > -12
    assert "neighbours" in moved_point(popper, back, 500.0, 9.0).held
    assert "less than nothing" in moved_point(popper, PointRef("plan", 2), 38.0, -4.0).held
    nose = moved_point(popper, PointRef("back", 0), 9.0, 10.0)
    assert outline_of(nose.design, "back")[0].at_mm == (0.0, 10.0)


def test_dragging_the_tail_changes_every_outlines_length(popper: Design) -> None:
    last = len(outline_of(popper, "back")) - 1
    longer = moved_point(popper, PointRef("back", last), 80.0, 0.0).design
    assert {outline_of(longer, c)[-1].at_mm[0] for c in ("back", "belly", "plan")} == {80.0}
    assert "aft of every" in moved_point(popper, PointRef("plan", last), 20.0, 0.0).held


def test_points_added_removed_and_bent(popper: Design) -> None:
    made = added_point(popper, "back", 50.0, 8.0)
    assert made is not None
    design, ref = made
    assert outline_of(design, "back")[ref.index].at_mm == (50.0, 8.0)
    assert without_point(design, ref).design == popper
    assert "ends" in without_point(popper, PointRef("back", 0)).held
    assert added_point(popper, "back", 38.0, 8.0) is None
    assert outline_of(with_bend(design, ref), "back")[ref.index].bend == "corner"
    bends, bent = [], popper
    for _ in range(4):
        bends.append(outline_of(bent, "back")[0].bend)
        bent = with_bend(bent, PointRef("back", 0))
    assert sorted(bends) == ["arc", "corner", "round", "smooth"]
    assert bent == popper


@pytest.mark.parametrize("kind", ["lofted", "turned"])
def test_a_plain_body_to_start_from_floats(kind: Any, tmp_path: Path) -> None:
    design = turned_design((0, 5), (40, 5))
    design = with_shape(design, blank(kind, 70.0))
    assert of.buoyancy(Study(design)).floats
    write_design(design, tmp_path / "b.ybob")
    assert read_design(tmp_path / "b.ybob") == design
