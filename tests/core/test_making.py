"""What is made besides the body: bends, sheet parts, moulds, jigs, exports, foil, hours, the print."""

from __future__ import annotations

import math
from pathlib import Path

import ezdxf
import manifold3d
import numpy as np
import pytest
import trimesh

from tests.conftest import DEMO
from yellowbob.design.base import replaced
from yellowbob.design.cut_edits import added
from yellowbob.design.files import read_design
from yellowbob.design.model import Design, Loop, Wire
from yellowbob.design.plates import Lip
from yellowbob.ground.cells import plain
from yellowbob.ground.errors import BadInput, BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import revolved, to_manifold
from yellowbob.shop.bending import bendings, drawn_in
from yellowbob.shop.bores import bores
from yellowbob.shop.cost import reckoned
from yellowbob.shop.csvs import csv_of
from yellowbob.shop.exports import export
from yellowbob.shop.flat import FILING_MM, flats
from yellowbob.shop.foil import foil_of, half_girths
from yellowbob.shop.jig import jigs
from yellowbob.shop.mould import WALL_MM, halves, high_places, mould_of
from yellowbob.shop.printing import print_of
from yellowbob.study import Study, of
from yellowbob.weights.wires import cut_length_mm, path_of


def design_of(name: str) -> Design:
    return read_design(DEMO / f"{name}.ybob")


@pytest.mark.parametrize("name", ["osier-96", "sallow-74", "mill-tail-88"])
def test_a_wire_is_as_long_as_its_drawn_line(name: str) -> None:
    design = design_of(name)
    wire = replaced(
        design.wires[0],
        loops=(Loop(end="fore", inner_mm=3.0, kind="welded"), Loop(end="aft", inner_mm=2.5, kind="welded")),
    )
    looped = design.but(wires=(wire,))
    (one,) = bendings(Study(looped))
    drawn = sum(float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum()) for line in drawn_in(wire))
    assert one.cut_mm == pytest.approx(cut_length_mm(wire)) == pytest.approx(drawn, abs=0.2)
    assert sum(one.legs_mm) == pytest.approx(cut_length_mm(wire) - sum(e.wire_mm for e in one.ends))
    # the bends turn the path by as much as its legs say
    path, turned = path_of(wire), 0.0
    for a, b in zip(np.diff(path, axis=0), np.diff(path, axis=0)[1:], strict=False):
        turned += math.degrees(math.acos(float(np.clip(a @ b / np.linalg.norm(a) / np.linalg.norm(b), -1, 1))))
    assert sum(b.turn_deg for b in one.bends) == pytest.approx(turned, abs=0.2)


def test_a_prop_that_binds_on_its_wire_is_told() -> None:
    design = design_of("mill-tail-88")
    wire = design.wires[0]
    props = tuple(replaced(f, long_mm=11.9) if f.sort == "prop" else f for f in design.fittings)
    tight = bendings(Study(design.but(fittings=props)))[0]
    assert {e.end: len(e.strung) for e in tight.ends} == {"fore": 1, "aft": 1}
    gap = -float(path_of(wire)[0, 0])
    assert tight.ends[0].play_mm == pytest.approx(gap - 11.9)
    assert ("binds" in " ".join(tight.says)) == (gap - 11.9 < 0.5)
    bent = Wire.model_validate({"diameter_mm": 1.0, "path_mm": [(0, 0, 0), (20, 0, 0), (30, 0, -8)], "route": "bored"})
    assert "cannot be pushed" in " ".join(bendings(Study(design.but(wires=(bent,))))[0].says)


def test_sheet_parts_lie_flat_at_their_size() -> None:
    (lip,) = (f for f in flats(Study(design_of("print-wake-92"))) if f.name == "Lip")
    shape = next(p.shape for p in design_of("print-wake-92").parts if isinstance(p.shape, Lip))
    assert np.ptp(lip.outline[:, 0]) == pytest.approx(shape.long_mm + shape.seat_mm)
    assert np.ptp(lip.outline[:, 1]) == pytest.approx(shape.wide_mm)
    assert np.ptp(lip.sawn[:, 1]) == pytest.approx(shape.wide_mm + 2 * FILING_MM, abs=0.01)
    assert f"{shape.angle_deg:g}°" in lip.words[0]
    (wings,) = (f for f in flats(Study(design_of("moth-crawler-64"))) if f.name == "Wings")
    # the solid is as heavy as its outlines times their thickness
    mesh = of.parts(Study(design_of("moth-crawler-64")))[0]
    assert wings.count * wings.area_mm2 * wings.thick_mm == pytest.approx(mesh.volume_mm3, rel=1e-6)
    for kind in ("fin", "cut-out", "lip"):
        design, _ = added(design_of("sallow-74"), kind, 24.0, 22.0)
        one = flats(Study(design))[-1]
        assert one.count * one.area_mm2 * one.thick_mm == pytest.approx(
            of.parts(Study(design))[-1].volume_mm3, rel=1e-6
        )


def test_the_high_places_of_a_pose_are_the_tops_of_its_bumps() -> None:
    bump = revolved(np.array([(0, 10), (10, 10), (20, 0.0)]))
    two = (
        manifold3d.Manifold.cube((60.0, 20.0, 5.0)).translate((-10, -10, -5))
        + to_manifold(bump)
        + to_manifold(bump).translate((40, 0, 0)).scale((1, 1, 0.8))
    )
    from yellowbob.lines.solids import from_manifold

    tops = high_places(from_manifold(two), np.array([0.0, 0.0, 1.0]))
    assert [round(t[2], 1) for t in tops] == [20.0, 16.0]
    assert [round(t[0], 1) for t in tops] == [0.0, 40.0]
    assert len(high_places(bump, np.array([0.0, 0.0, 1.0]))) == 1


@pytest.mark.parametrize("name", ["mill-tail-88", "sallow-74", "moth-crawler-64"])
def test_a_mould_holds_its_box_less_the_body_and_opens(name: str) -> None:
    study = Study(design_of(name))
    found, body = mould_of(study, 4), of.outer(study)
    size = np.ptp(body.bounds, axis=0) + 2 * WALL_MM
    assert found.rubber_ml == pytest.approx(float(np.prod(size)) / 1000 - body.volume_mm3 / 1000)
    last = found.batches[-1]
    assert last.casts == 4 and last.a_g + last.b_g + last.powder_g == pytest.approx(
        4 * found.cast_ml * found.mixed_g_ml * 1.1
    )
    assert found.mixed_g_ml == pytest.approx(study.design.body.density_g_ml, rel=1e-6)
    port, starboard = halves(study)
    hollow = float(np.prod(size)) - port.volume_mm3 - starboard.volume_mm3
    assert (
        body.volume_mm3 < hollow < body.volume_mm3 * 1.25
    )  # the gate, the vents and the play of the keys are hollow too
    assert (to_manifold(port) ^ to_manifold(starboard)).volume() < 1e-3
    assert (to_manifold(port) ^ to_manifold(body)).volume() < 1e-3
    with pytest.raises(BadInput, match="tail up"):
        mould_of(study, 1, "sideways")


@pytest.mark.parametrize("name", ["sallow-74", "creek-dropper-52", "mill-tail-88"])
def test_a_drill_jig_sits_on_the_body_and_lets_the_bit_through(name: str) -> None:
    study = Study(design_of(name))
    body = to_manifold(of.outer(study))
    for (_, saddle), one in zip(jigs(study), sorted_as_drawn(study), strict=True):
        solid = to_manifold(saddle)
        assert solid.volume() > 1000.0 and len(solid.decompose()) == 1
        assert (solid ^ body).volume() < 1e-3
        from yellowbob.lines.solids import rod

        along = np.asarray(one.inward)
        bit = rod(np.asarray(one.mouth_mm) - 30.0 * along, one.bottom_mm, 0.95 * one.diameter_mm)
        assert (solid ^ bit).volume() < 1e-3
    with pytest.raises(BadShape, match="no holes"):
        jigs(Study(design_of("sallow-74").but(ballast=())))


def sorted_as_drawn(study: Study) -> list:  # type: ignore[type-arg]
    holes = of.holes(study)
    return [*(b.hole for b in holes.bores), *(p.hole for p in holes.ballast if p.hole is not None)]


@pytest.mark.parametrize("name", ["sallow-74", "spit-pencil-118", "moth-crawler-64", "creek-dropper-52"])
def test_holes_as_listed_bored_into_the_exported_body_leave_the_wall(tmp_path: Path, name: str) -> None:
    study = Study(design_of(name))
    export(study, tmp_path / "b.stl")
    loaded = trimesh.load(tmp_path / "b.stl")
    body = to_manifold(Mesh(np.asarray(loaded.vertices, dtype=float), np.asarray(loaded.faces, dtype=np.int32)))
    from yellowbob.lines.solids import rod

    by_name = {b.name: b for b in bores(study)}
    holes = of.holes(study)
    named = [(b.bore.name, b.hole) for b in holes.bores] + [
        (p.ballast.name, p.hole) for p in holes.ballast if p.hole is not None
    ]
    for key, hole in named:
        one = by_name[key]
        assert (one.at_mm, one.off_mm, one.over_mm) == pytest.approx(hole.mouth_mm)
        if one.wall_mm <= 0.3:
            continue
        # the hole, and all that its promised wall takes round it below the mouth, lie in the body
        start = np.asarray(hole.mouth_mm) + np.asarray(hole.inward) * (one.diameter_mm / 2 + one.wall_mm + 0.5)
        if (hole.bottom_mm - start) @ np.asarray(hole.inward) <= 1.0 or one.depth_mm > 0.98 * np.ptp(
            of.outer(study).bounds[:, 0]
        ):
            continue
        wide = rod(
            start,
            np.asarray(hole.bottom_mm) + np.asarray(hole.inward) * 0.8 * one.wall_mm,
            one.diameter_mm + 1.6 * one.wall_mm,
        )
        assert (wide - body).volume() < 0.02 * wide.volume(), key


@pytest.mark.parametrize("name", ["moth-crawler-64", "print-wake-92", "bar-antenna-234", "sallow-74"])
def test_a_dxf_has_true_lengths_on_its_layers(tmp_path: Path, name: str) -> None:
    study = Study(design_of(name))
    export(study, tmp_path / "t.dxf")
    drawing = ezdxf.readfile(tmp_path / "t.dxf")
    assert drawing.header["$INSUNITS"] == 4
    space = drawing.modelspace()
    outlines = [np.array(e.get_points("xy")) for e in space.query('LWPOLYLINE[layer=="OUTLINE"]')]
    low, high = of.outer(study).bounds
    assert max(float(np.ptp(o[:, 0])) for o in outlines) == pytest.approx(high[0] - low[0], abs=0.01)
    tall = sorted(float(np.ptp(o[:, 1])) for o in outlines)
    assert max(tall) == pytest.approx(max(high[2] - low[2], high[1] - low[1]), abs=0.02)
    (rule,) = space.query('LINE[layer=="CHECK"]')
    assert (rule.dxf.end - rule.dxf.start).magnitude == pytest.approx(100.0, abs=1e-9)
    assert len(space.query('LWPOLYLINE[layer=="FLAT"]')) == len(flats(study))
    used = {e.dxf.layer for e in space}
    assert {"OUTLINE", "BLANK", "CENTRE", "CHECK"} <= used
    assert ("WIRE" in used) == bool(study.design.wires)


def test_tables_as_csv_are_no_formulas_and_wrong_endings_are_refused(tmp_path: Path) -> None:
    design = design_of("sallow-74")
    sly = design.but(fittings=tuple(replaced(f, name="=1+1") if f.sort == "hook" else f for f in design.fittings))
    assert "'=1+1" in csv_of(Study(sly), "hardware") and "\n=1" not in csv_of(Study(sly), "hardware")
    assert [plain(v) for v in ("@a", "-2", 3.0, -3.0, "plain")] == ["'@a", "'-2", 3.0, -3.0, "plain"]
    study = Study(design)
    for what, name in (("body", "x.csv"), ("holes", "x.stl"), ("mould", "x.svg"), ("shoe", "x.stl")):
        with pytest.raises(BadInput):
            export(study, tmp_path / name, what)
    for what in ("stations", "holes", "slip", "hardware", "coats"):
        (file,) = export(study, tmp_path / f"{what}.csv", what)
        assert len(file.read_text(encoding="utf-8").splitlines()) > 1
    assert [f.name for f in export(study, tmp_path / "m.3mf", "mould")] == ["m-port.3mf", "m-starboard.3mf"]
    assert [f.name for f in export(study, tmp_path / "j.stl", "jig")] == ["j-1.stl"]


def test_a_foil_of_a_cylinder_is_its_skin() -> None:
    rod = revolved(np.array([(0.0, 9.0), (70.0, 9.0)]), sides=96).moved(
        matrix=np.array([[0, 0, 1.0], [0, 1, 0], [-1, 0, 0]])
    )
    assert half_girths(rod, np.array([20.0, 50.0])) == pytest.approx([math.pi * 9.0] * 2, rel=2e-3)
    shape = {"kind": "turned", "profile": [{"at_mm": p, "bend": "corner"} for p in ((0, 9), (70, 9))]}
    found = foil_of(
        Study(
            Design.model_validate(
                {"name": "r", "pieces": [{"material": {"name": "a", "density_g_ml": 0.5}, "shape": shape}]}
            )
        )
    )
    assert found.long_mm == pytest.approx(0.98 * 70.0, rel=1e-6) and found.high_mm == pytest.approx(
        math.pi * 9.0, rel=3e-3
    )
    assert found.stretch == pytest.approx(0.0, abs=1e-6)


def test_cost_is_the_shelfs_prices_and_says_what_has_none(monkeypatch: pytest.MonkeyPatch) -> None:
    study = Study(design_of("sallow-74"))
    found = reckoned(study, 5)
    assert found.cost_each == 0.0 and len(found.unpriced) == len(found.goods)
    assert found.minutes_each == pytest.approx(sum(s.minutes for s in found.steps))
    assert 4 * found.minutes_each < found.minutes_batch < 5 * found.minutes_each
    from yellowbob.shelf.shipped import hooks
    from yellowbob.shop import cost

    priced = {n: h.model_copy(update={"price": 1.5}) for n, h in hooks().items()}
    monkeypatch.setattr(cost, "hooks", lambda: priced)
    listed = [f for f in study.design.fittings if f.sort == "hook" and f.stock in priced]
    if listed:
        assert reckoned(study, 5).cost_batch == pytest.approx(5 * 1.5 * len(listed))
    with pytest.raises(BadInput):
        reckoned(study, 0)


def test_a_print_is_stood_where_least_overhangs() -> None:
    found = print_of(Study(design_of("print-wake-92")))
    assert [p.overhang_mm2 for p in found.poses] == sorted(p.overhang_mm2 for p in found.poses)
    assert found.poses[0].name in found.words[0] and any("drain" in w for w in found.words)
    with pytest.raises(BadInput, match="nothing is printed"):
        print_of(Study(design_of("sallow-74")))
