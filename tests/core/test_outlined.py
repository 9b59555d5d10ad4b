"""New designs in outlines of one's own: what is fitted keeps its place along the body and on its skin."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from pydantic import ValidationError

from tests.conftest import DEMO
from tests.core.test_cli import refused, run
from yellowbob.cli.asking import outlines_in
from yellowbob.design.brief import Span
from yellowbob.design.cuts import Cup
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING
from yellowbob.design.rescale import rescaled
from yellowbob.design.shape import Lofted, OutlinePoint, SectionStation, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.sections import sections_at
from yellowbob.study import Study, of
from yellowbob.trials import answer
from yellowbob.trials.answer import answered
from yellowbob.trials.asked import LURES, Asked, starter_file
from yellowbob.trials.balancing import met
from yellowbob.trials.outlined import in_outline


def room(shape: Lofted | Turned, x: float) -> tuple[float, float, float]:
    one = sections_at(shape, np.array([x]))
    waist = float(one.waist_z[0])
    return waist - float(one.down[0]), waist + float(one.up[0]), float(one.half_width[0])


@pytest.mark.parametrize("kind", LURES)
def test_its_own_outlines_change_nothing(kind: str) -> None:
    first = read_design(starter_file(kind))  # type: ignore[arg-type]
    assert isinstance(first.shape, Lofted | Turned)
    again = in_outline(first, first.shape)
    for one, other in zip(first.fittings, again.fittings, strict=True):
        assert other.at_mm == pytest.approx(one.at_mm, abs=2e-3)
    assert len(again.body.cuts) == len(first.body.cuts) and again.shape == first.shape
    for one, other in zip(first.wires, again.wires, strict=True):
        assert np.allclose(one.path_mm, other.path_mm, atol=2e-3)


@pytest.mark.parametrize("deeper", [0.6, 1.0, 1.5])
def test_a_place_keeps_its_share_inside_and_its_distance_outside(deeper: float) -> None:
    first = read_design(starter_file("prop bait"))
    old = first.shape
    assert isinstance(old, Lofted | Turned)
    long = old.length_mm
    half = 9.0 * deeper
    points = ((0.0, 3.0), (0.3 * long, half), (0.7 * long, half), (long, 3.0))
    new = Turned(profile=tuple(OutlinePoint(at_mm=p, bend="corner") for p in points))
    moved = in_outline(first, new)
    seen = {"in": 0, "out": 0}
    for one, other in zip(first.fittings, moved.fittings, strict=True):
        x, _, z = one.at_mm
        if not 0.2 * long < x < 0.8 * long:
            continue
        (low, high, _w), (low_new, high_new, _v) = room(old, x), room(new, x)
        assert other.at_mm[0] == x
        if low <= z <= high:
            seen["in"] += 1
            share = (z - low) / (high - low)
            assert other.at_mm[2] == pytest.approx(low_new + share * (high_new - low_new), abs=2e-3)
        else:
            seen["out"] += 1
            assert other.at_mm[2] - low_new == pytest.approx(z - low, abs=2e-3)
    assert sum(seen.values())


def test_outlines_are_brought_to_the_length_asked_for() -> None:
    shape = rescaled(read_design(DEMO / "osier-96.ybob"), 1.7).shape
    assert isinstance(shape, Lofted | Turned)
    found = answered(Asked(kind="pencil", length_mm=118.0, outline=shape))
    made = found.design.shape
    assert made.length_mm == pytest.approx(118.0) and isinstance(made, type(shape))
    for x in (0.2, 0.5, 0.8):
        scale = 118.0 / shape.length_mm
        assert room(made, 118.0 * x) == pytest.approx(
            tuple(scale * v for v in room(shape, shape.length_mm * x)), rel=1e-3
        )  # type: ignore[arg-type]


def blunt(half: float) -> Lofted:
    """A body of a flat nose so high and half as wide."""
    back = tuple(OutlinePoint(at_mm=p, bend="corner") for p in ((0.0, half), (50.0, half + 2.0), (80.0, 1.0)))
    belly = tuple(OutlinePoint(at_mm=(x, -z), bend="corner") for x, z in ((0.0, half), (50.0, half + 2.0), (80.0, 1.0)))
    plan = tuple(OutlinePoint(at_mm=p, bend="corner") for p in ((0.0, half / 2.0), (50.0, half), (80.0, 1.0)))
    return Lofted(back=back, belly=belly, plan=plan, sections=(SectionStation(x_mm=0.0),))


def test_a_cup_has_the_room_that_there_is_and_none_at_a_point() -> None:
    first = rescaled(read_design(starter_file("popper")), 80.0 / read_design(starter_file("popper")).shape.length_mm)
    cup = first.body.cuts[0]
    assert isinstance(cup, Cup)
    small = in_outline(first, blunt(5.0)).body.cuts[0]
    assert isinstance(small, Cup) and small.diameter_mm < cup.diameter_mm
    assert (small.width_mm or small.diameter_mm) <= 0.9 * 5.0 + 0.01
    assert small.depth_mm / small.diameter_mm == pytest.approx(cup.depth_mm / cup.diameter_mm, rel=0.02)
    pointed = read_design(DEMO / "osier-96.ybob").shape
    assert isinstance(pointed, Lofted | Turned)
    gone = in_outline(first, pointed)
    assert not any(isinstance(c, Cup) for c in gone.body.cuts)
    told = answered(Asked(kind="popper", length_mm=90.0, outline=pointed))
    assert "no" in told.design.notes and "cup" in told.design.notes


@pytest.mark.parametrize("kind", [*STANDING, "dropper"])
def test_floats_are_begun_from_their_pieces(kind: str) -> None:
    shape = read_design(DEMO / "osier-96.ybob").shape
    with pytest.raises(ValidationError, match="begun from its pieces"):
        Asked(kind=kind, length_mm=120.0, outline=shape)  # type: ignore[arg-type]


def test_every_kind_in_the_outlines_of_another_is_sound_or_says_why() -> None:
    shape = read_design(starter_file("wake bait")).shape
    assert isinstance(shape, Lofted | Turned)
    sound = 0
    for kind in LURES:
        found = answered(Asked(kind=kind, length_mm=97.0, outline=shape))
        sound += found.sound
        assert found.sound or found.reason
        slip = of.slip(Study(found.design))
        assert slip.finished.mass_g > 0.0
    assert sound >= len(LURES) // 2


def test_outlines_on_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out, osier = tmp_path / "a.ybob", str(DEMO / "osier-96.ybob")
    _, said, _ = run(capsys, "new", "--kind", "pencil", "--outline", osier, "-o", str(out), "--json")
    drawn = read_design(DEMO / "osier-96.ybob").shape
    assert json.loads(said)["length_mm"] == pytest.approx(drawn.length_mm)
    assert read_design(out).shape == drawn
    for args, words in (
        (("--kind", "pencil"), "--outline"), (("--kind", "waggler", "--outline", osier), "begun from its pieces"),
        (("--kind", "pencil", "--outline", str(tmp_path / "none.ybob")), "none.ybob"),
        (("--kind", "pencil", "--outline", str(tmp_path / "none.svg")), "none.svg"),
    ):  # fmt: skip
        assert words in refused(capsys, "new", *args)


def test_what_is_doubtful_about_a_drawing_is_told_when_it_is_taken(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    drawing = tmp_path / "own.svg"
    assert run(capsys, "export", str(DEMO / "spit-pencil-118.ybob"), "--to", str(drawing))[0] == 0
    outlines_in(drawing)
    assert "what is cut into it (1) is left out" in capsys.readouterr().err
    text = drawing.read_text(encoding="utf-8").replace('id="side"', 'id="one"').replace('id="plan"', 'id="two"')
    drawing.write_text(text.replace("yellow-bob-body", "another"), encoding="utf-8")
    outlines_in(drawing)
    assert "name them 'side' and 'plan'" in capsys.readouterr().err


@pytest.mark.parametrize("slope", [0.3, -2.0, 40.0])
def test_secants_meet_a_straight_line_at_once_and_stop_at_a_bound(slope: float) -> None:
    asked: list[float] = []

    def miss(x: float) -> float:
        asked.append(x)
        return slope * (x - 3.0)

    found = met(miss, 1.0, lambda _: 0.5, 0.0, 8.0, 1e-6)
    assert found is not None and found[0] == pytest.approx(3.0) and len(asked) <= 3
    edge = met(miss, 1.0, lambda _: 0.5, 0.0, 2.0, 1e-6)
    assert edge is not None and edge[0] == 2.0 and edge[1] == pytest.approx(-slope)
    assert met(lambda x: 1.0, 1.0, lambda _: 0.5, 0.0, 2.0, 1e-6) is None


def test_secants_meet_a_bent_one_and_give_up_where_nothing_can_be_had() -> None:
    found = met(lambda x: x**3 - 5.0, 1.0, lambda _: 0.4, 0.0, 8.0, 1e-6)
    assert found is not None and found[0] == pytest.approx(5.0 ** (1 / 3), abs=1e-5)

    def sinks(x: float) -> float:
        raise BadInput("it sinks")

    assert met(sinks, 1.0, lambda _: 0.4, 0.0, 8.0, 1e-6) is None


def test_what_cannot_weigh_so_is_said_before_anything_is_tried(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(answer, "sought", lambda *_: pytest.fail("a search for what cannot be"))
    heavy = answered(Asked(kind="pencil", length_mm=70.0, mass_g=Span(least=60.0, most=70.0)))
    lift = of.buoyancy(Study(heavy.design)).lift_g
    assert not heavy.sound and f"{lift:.2f} g" in heavy.reason and "make it" in heavy.reason
    light = answered(Asked(kind="pencil", length_mm=70.0, mass_g=Span(least=0.2, most=0.4)))
    assert "before any ballast" in light.reason
