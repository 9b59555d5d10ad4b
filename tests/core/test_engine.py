"""Results asked for once and kept; the same figure whether it was there or not; unions held by their tables."""

from __future__ import annotations

from typing import get_args

import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.checks.registry import CHECKS, verdicts
from yellowbob.design.cut_edits import KINDS, added, handle_of, placed_piece
from yellowbob.design.figures import figures_of, with_figure
from yellowbob.design.files import read_design
from yellowbob.design.model import Design, replaced
from yellowbob.design.pieces import CUTS, MAIN_SHAPES, SHAPES, WEIGHTS
from yellowbob.design.rescale import SCALED_CUTS, SCALED_SHAPES
from yellowbob.ground.errors import BadInput
from yellowbob.lines.build import BLANKS
from yellowbob.lines.cutting import CUTTERS
from yellowbob.lines.plates import PLATES
from yellowbob.lines.walls import LEAST_WALL_MM
from yellowbob.study import NotYet, Result, Study, of
from yellowbob.study.engine import drawn, result, slow
from yellowbob.weights.ballast import stack_length_mm, weight_mass_g


def test_a_result_is_worked_out_once_and_kept_while_what_it_asked_for_is_the_same() -> None:
    counts = {"long": 0, "twice": 0}

    @drawn
    def name(design: Design) -> str:
        return design.name

    @result
    def long(study: Study) -> int:
        counts["long"] += 1
        return len(name(study))

    @result
    def twice(study: Study) -> int:
        counts["twice"] += 1
        return 2 * long(study)

    design = turned_design((0, 5), (40, 5))
    one = Study(design)
    assert twice(one) == twice(one) == 8
    two = Study(design.but(notes="other"), one)
    assert twice(two) == 8
    assert counts == {"long": 1, "twice": 1}
    three = Study(design.but(name="tests"), two)
    assert twice(three) == 10
    # a name as long: what it rests on is the very same number, so what follows from that is not worked out again
    four = Study(design.but(name="tasks"), three)
    assert twice(four) == 10
    assert counts == {"long": 3, "twice": 2}


def test_in_a_hurry_nothing_slow_is_worked_out() -> None:
    worked: list[str] = []

    @slow("counting")
    def counted(study: Study) -> int:
        worked.append("counted")
        return 7

    @result
    def more(study: Study) -> int:
        return counted(study) + 1

    study = Study(turned_design((0, 5), (40, 5)))
    assert not study.knows(more)
    with study.in_a_hurry(), pytest.raises(NotYet, match="counting") as late:
        more(study)
    assert late.value.asked is counted
    assert worked == []
    apart = study.apart()
    assert more(apart) == 8
    study.adopt(apart)
    assert study.knows(more)
    assert more(study) == 8
    assert worked == ["counted"]


def test_looking_whether_a_slow_result_is_there_works_nothing_out() -> None:
    worked: list[str] = []

    @drawn
    def words(design: Design) -> tuple[str, ...]:
        return (design.name, design.notes)  # another object each time, as parts put together are

    @result
    def large(study: Study) -> list[str]:
        worked.append("large")
        return list(words(study))

    @slow("counting")
    def counted(study: Study) -> int:
        worked.append("counted")
        return len(large(study)[0])

    one = Study(turned_design((0, 5), (40, 5)))
    assert not one.knows(counted) and worked == []
    apart = one.apart()
    assert counted(apart) == 4 and worked == ["counted", "large"]
    one.adopt(apart)
    assert one.knows(counted) and counted(one) == 4, "else it would be worked out again and again"
    two = Study(one.design.but(notes="more"), one)
    assert not two.knows(counted) and worked == ["counted", "large"]
    with two.in_a_hurry(), pytest.raises(NotYet) as late:
        counted(two)
    assert late.value.asked is counted and worked == ["counted", "large"]
    three = Study(one.design.but(fittings=()), one)
    assert three.knows(counted) and counted(three) == 4 and worked == ["counted", "large"]
    apart = two.apart()
    assert counted(apart) == 4
    two.adopt(apart)
    assert two.knows(counted) and sorted(worked) == ["counted", "counted", "large", "large"]


def test_what_was_remembered_is_not_slow() -> None:
    @slow("counting", recall=lambda study: 5)
    def counted(study: Study) -> int:
        return 5

    assert Study(turned_design((0, 5), (40, 5))).knows(counted)


def test_what_was_worked_out_for_another_design_is_not_taken(popper: Design) -> None:
    one = Study(popper)
    apart = one.apart()
    _ = of.landings(apart)
    heavier = Study(popper.of_material(density_g_ml=0.5), one)
    heavier.adopt(apart)
    assert not heavier.knows(of.landings)


def test_an_error_is_an_error_every_time() -> None:
    calls = []

    @result
    def broken(study: Study) -> int:
        calls.append(1)
        raise BadInput("it cannot be")

    study = Study(turned_design((0, 5), (40, 5)))
    for _ in range(2):
        with pytest.raises(BadInput, match="cannot be"):
            broken(study)
    assert len(calls) == 2


@pytest.fixture(scope="module")
def warm_popper() -> Study:
    """All that is slow worked out."""
    warm = Study(read_design(DEMO / "sallow-74.ybob"))
    _ = of.landings(warm), of.clearances(warm), of.thin(warm), of.drawn_usually(warm)
    _ = of.unheld_parts(warm), of.cast_outside(warm), of.sunk(warm), of.hung_inside(warm), of.cast_round_wires(warm)
    _ = of.heeled_usually(warm), of.thrown_usually(warm), of.rest_in_the_sea(warm)
    return warm


@pytest.mark.parametrize("key", list(CHECKS))
def test_no_verdict_depends_on_what_is_kept(popper: Design, warm_popper: Study, key: str) -> None:
    """In a hurry a check says what it says with time, or that it is working it out."""
    cold = Study(popper)
    hurried = CHECKS[key].verdict(cold, wait=False)
    sure = CHECKS[key].verdict(Study(popper), wait=True)
    if hurried is not None and hurried.state == "pending":
        assert isinstance(hurried.awaits, Result)
        assert hurried.awaits.slow
        assert sure is None or sure.state != "pending"
    else:
        assert hurried == sure
    assert CHECKS[key].verdict(warm_popper, wait=False) == sure


def test_checks_are_all_said_in_the_end(popper: Design) -> None:
    assert all(v.state != "pending" for v in verdicts(Study(popper)))
    assert any(v.state == "pending" for v in verdicts(Study(popper), wait=False))


# ---- unions


@pytest.mark.parametrize(
    ("table", "members"),
    [(SCALED_SHAPES, SHAPES), (SCALED_CUTS, CUTS), (CUTTERS, CUTS), (BLANKS, MAIN_SHAPES),
     (PLATES, tuple(s for s in SHAPES if s not in MAIN_SHAPES))],
)  # fmt: skip
def test_a_table_holds_every_member_of_its_union(table: dict[type, object], members: tuple[type, ...]) -> None:
    assert set(table) == set(members)


def test_every_kind_can_be_added_placed_figured_and_scaled() -> None:
    design = turned_design((0, 10, "corner"), (80, 10, "corner"))
    kinds = {k for shape in SHAPES for k in get_args(shape.model_fields["kind"].annotation)}
    kinds |= {k for cut in CUTS for k in get_args(cut.model_fields["kind"].annotation)}
    named = {"lump": "ellipsoid", "cut-out": "cutout", "print shell": "shell"}
    stacked = dict.fromkeys(("tip", "stem", "base", "sleeve"), "turned")
    assert {{**named, **stacked}.get(k, k) for k, _ in KINDS} == kinds - {"lofted", "mesh"} | {"shell"}
    for kind, _ in KINDS:
        more, which = added(design, kind, 20.0, 20.0)
        assert of.slip(Study(more)).finished.mass_g > 0
        one = (more.body.cuts if which[0] == "cut" else more.parts if which[0] == "part" else (more.body.shell,))[
            which[1]
        ]
        for figure in figures_of(one):
            assert with_figure(one, figure.way, figure.value) == one or figure.way == "material.density_g_ml"


def test_a_piece_is_placed_by_its_handle() -> None:
    design = turned_design((0, 10, "corner"), (80, 10, "corner"))
    for kind, group in KINDS:
        if group != "part":
            continue
        piece = added(design, kind, 20.0, 20.0)[0].parts[-1]
        if handle_of(piece) is not None:
            assert handle_of(placed_piece(piece, 33.0, -4.0)) == pytest.approx((33.0, -4.0))


def test_every_weight_and_group_is_known() -> None:
    for kind in WEIGHTS:
        weight = kind.model_validate(
            {"mass_g": 1.0} if "mass_g" in kind.model_fields else {"diameter_mm": 5, "length_mm": 4}
        )
        assert weight_mass_g(weight) > 0  # type: ignore[arg-type]
        assert stack_length_mm(weight, 6.0) > 0  # type: ignore[arg-type]
    assert set(LEAST_WALL_MM) == {"wood", "foam", "resin", "plastic", "metal"}


def test_a_typed_density_is_no_measured_one() -> None:
    piece = turned_design((0, 5), (40, 5)).of_material(measured=True, density_u_g_ml=0.01).body
    typed = with_figure(piece, "material.density_g_ml", 0.6)
    assert (typed.material.measured, typed.material.density_u_g_ml) == (False, None)


def test_a_bad_figure_is_told_and_no_traceback() -> None:
    design = turned_design((0, 10), (80, 10))
    more, _ = added(design, "lip", 20.0, 20.0)
    with pytest.raises(BadInput, match="thick_mm"):
        with_figure(more.parts[0], "shape.thick_mm", -1.0)
    with pytest.raises(BadInput, match="density_g_ml"):
        design.of_material(density_g_ml=5000.0)
    with pytest.raises(BadInput, match="two are called"):
        design.but(pieces=(*more.pieces, more.parts[0]))
    with pytest.raises(BadInput, match="goes into 'stem'"):
        design.but(
            ballast=({"name": "b", "into": "stem", "weight": {"form": "shot", "mass_g": 1}, "at_mm": (5, 0, 0)},)
        )
    with pytest.raises(BadInput, match="the body cannot be a lip"):
        design.but(pieces=more.parts)
    with pytest.raises(BadInput, match="takes no cuts"):
        replaced(more.parts[0], cuts=({"kind": "cup", "diameter_mm": 4, "depth_mm": 1},))
