"""Edits of wires, corners, cuts and names: each from one design to the next, nothing else changed."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from tests.conftest import turned_design
from yellowbob.design.corner_edits import added_corner, corners, moved_corner, without_corner
from yellowbob.design.cut_edits import added, get, listed, removed
from yellowbob.design.model import Design, Fitting, Wire
from yellowbob.design.names import told_apart, unlike
from yellowbob.design.starts import bare_design, with_shape
from yellowbob.design.wire_edits import (
    OVERHANG_MM,
    with_bend,
    with_loop,
    with_new_wire,
    with_screw_eyes,
    with_wire,
)
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of
from yellowbob.weights.wires import cut_length_mm, path_length_mm

SVG = Path(__file__).parent.parent.parent / "docs" / "data-flow.svg"


def body() -> Design:
    return turned_design((0, 10, "corner"), (80, 10, "corner"))


def test_a_new_wire_stands_out_at_both_ends_and_is_bent_in_its_longest_stretch() -> None:
    design = with_new_wire(body(), 0.0, 80.0)
    assert design.wires[0].path_mm == ((-OVERHANG_MM, 0.0, 0.0), (80.0 + OVERHANG_MM, 0.0, 0.0))
    bent = with_bend(design, 0)
    assert len(bent.wires[0].path_mm) == 3
    assert bent.wires[0].path_mm[1][0] == pytest.approx(40.0)
    again = with_bend(bent, 0)
    assert len(again.wires[0].path_mm) == 4
    assert path_length_mm(again.wires[0]) > path_length_mm(design.wires[0])
    assert again.but(wires=()) == body()


def test_a_second_wire_gets_a_name_of_its_own() -> None:
    design = with_new_wire(with_new_wire(body(), 0, 80), 0, 80)
    assert len({w.name for w in design.wires}) == 2


def test_loops_are_made_changed_and_taken_off() -> None:
    design = with_new_wire(body(), 0.0, 80.0)
    straight = cut_length_mm(design.wires[0])
    looped = with_loop(design, 0, "fore", kind="welded", inner_mm=4.0)
    assert cut_length_mm(looped.wires[0]) == pytest.approx(straight + math.pi * 5.0)
    wider = with_loop(looped, 0, "fore", inner_mm=6.0)
    assert [(one.end, one.kind, one.inner_mm) for one in wider.wires[0].loops] == [("fore", "welded", 6.0)]
    both = with_loop(wider, 0, "aft", turns=5.0)
    assert {one.end for one in both.wires[0].loops} == {"fore", "aft"}
    assert with_loop(with_loop(both, 0, "aft", kind="none"), 0, "fore", kind="none").wires == design.wires
    with pytest.raises(BadInput, match="turns"):
        with_loop(both, 0, "aft", turns=-1.0)


def test_a_wire_that_is_not_there_is_said() -> None:
    with pytest.raises(BadInput, match="no wire 3"):
        with_wire(with_new_wire(body(), 0, 80), 2, diameter_mm=1.0)
    with pytest.raises(BadInput, match="diameter_mm"):
        with_wire(with_new_wire(body(), 0, 80), 0, diameter_mm=-1.0)


def test_screw_eyes_stand_where_the_wires_ends_were() -> None:
    eye = Fitting(name="eye", sort="screw eye", at_mm=(0, 0, 0), mass_g=0.3, in_wood_ml=0.01, long_mm=10)
    design = with_screw_eyes(with_new_wire(body(), 0, 80), 0, eye)
    assert design.wires == ()
    assert [(f.at_mm[0], f.aim_deg) for f in design.fittings] == [(-OVERHANG_MM, 0.0), (80 + OVERHANG_MM, 180.0)]


@pytest.mark.parametrize(("kind", "least"), [("fin", 3), ("cut-out", 3), ("wings", 3)])
def test_corners_are_moved_added_and_taken_away(kind: str, least: int) -> None:
    design, _ = added(body(), kind, 20.0, 20.0)
    first = corners(design)
    assert len(first) >= least
    one = first[1]
    moved = moved_corner(design, one, one.at_mm[0] + 3.0, one.at_mm[1] + 1.0)
    now = corners(moved)[1].at_mm
    assert now == pytest.approx((one.at_mm[0] + 3.0, one.at_mm[1] + 1.0), abs=0.3)
    assert of.slip(Study(moved)).finished.mass_g != pytest.approx(of.slip(Study(design)).finished.mass_g, rel=1e-9)
    more = added_corner(design, one)
    if kind == "wings":
        assert more is None
        assert without_corner(design, one) == design
        return
    assert more is not None
    assert len(corners(more[0])) == len(first) + 1
    # a corner half-way along an edge changes nothing of the solid
    assert of.slip(Study(more[0])).finished.mass_g == pytest.approx(of.slip(Study(design)).finished.mass_g, rel=1e-9)
    assert len(corners(without_corner(more[0], more[1]))) == len(first)
    assert without_corner(design, one) == design


def test_corners_of_a_turned_piece_are_set_by_figures() -> None:
    design, _ = added(body(), "fin", 20.0, 20.0)
    piece = design.parts[0].model_copy(update={"turned_deg": (0.0, 20.0, 0.0)})
    assert corners(design.with_parts((piece,))) == []


def test_what_is_added_is_listed_and_comes_off_again() -> None:
    design = body()
    for kind in ("cup", "lip", "print shell"):
        design, which = added(design, kind, 20.0, 20.0)
        assert get(design, which) is not None
    assert len(listed(design)) == 3
    for which, _ in reversed(listed(design)):
        design = removed(design, which)
    assert design == body()
    assert get(design, ("cut", 4)) is None


def test_a_new_shape_takes_off_what_was_made_for_the_old_one() -> None:
    design, _ = added(body(), "lip", 20.0, 20.0)
    design = design.but(wires=(Wire(diameter_mm=1.0, path_mm=((0, 0, 0), (80, 0, 0))),))
    plain = with_shape(design, turned_design((0, 5), (40, 5)).shape)
    assert (plain.parts, plain.ballast, plain.body.cuts, plain.body.bores) == ((), (), (), ())
    assert plain.wires == design.wires
    assert plain.body.material == design.body.material
    assert bare_design("", plain.shape).name == "design"


def test_names_are_told_apart() -> None:
    assert unlike("ring", {"ring", "ring 2"}) == "ring 3"
    assert unlike("x" * 90, set()) == "x" * 80
    assert len(unlike("x" * 80, {"x" * 80})) == 80
    assert told_apart(["ring", "hook", "ring", "ring"]) == ("ring", "hook", "ring#2", "ring#3")


def test_the_data_flow_is_drawn_from_the_rooms_that_are_there(tmp_path: Path) -> None:
    import importlib.util

    spec = importlib.util.spec_from_file_location("flow", SVG.parent.parent / "tools" / "flow.py")
    assert spec is not None and spec.loader is not None
    flow = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(flow)
    assert SVG.read_text(encoding="utf-8") == flow.picture(), "run make flow"
    assert all(name in flow.BOXES for pair in flow.ARROWS for name in pair)
