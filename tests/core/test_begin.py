"""New designs from a brief, a run of sizes, designs sought within a freedom: sound by every check, or said why not."""

from __future__ import annotations

import inspect
import math
import random
from typing import Any, get_args

import pytest

from tests.conftest import DEMO
from yellowbob.checks.registry import verdicts
from yellowbob.design.brief import Span
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING, Kind, Slug
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.shipped import ballast_stock, hooks, wires
from yellowbob.study import Study, of
from yellowbob.trials import seek as seeking
from yellowbob.trials.answer import Answer, answered
from yellowbob.trials.asked import Asked, starter_file
from yellowbob.trials.at_size import at_size
from yellowbob.trials.family import family
from yellowbob.trials.first_design import started_from
from yellowbob.trials.odds import odds
from yellowbob.trials.seek import Freedom, measured, points, seek, some_of
from yellowbob.trials.standing import whole_mm

KINDS: tuple[Kind, ...] = get_args(Kind)
WOODS = ("balsa, medium", "paulownia", "obeche", "jelutong", "alder", "red cedar", "lime", "beech", "")


def holds(found: Answer) -> None:
    """What is said of an answer is so: its checks, afresh, pass or fail as told; no failure is without its reason."""
    failed = [v for v in verdicts(Study(found.design)) if v.fails]
    assert [v.key for v in failed] == [v.key for v in found.verdicts if v.fails]
    assert found.sound == (not failed) and bool(found.reason) == bool(failed)
    for one in found.design.ballast:  # cut and drilled in tenths of a millimetre, from rod that is sold
        if isinstance(one.weight, Slug):
            assert one.weight.length_mm == pytest.approx(round(one.weight.length_mm, 1))
            assert not one.stock or one.stock in ballast_stock()
    for fitting in found.design.fittings:
        assert fitting.sort != "hook" or fitting.stock in hooks()
    for wire in found.design.wires:
        assert any(math.isclose(w.diameter_mm, wire.diameter_mm) for w in wires().values())


# ---- new


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_has_a_starter_that_is_answered_soundly_at_its_own_size(kind: Kind) -> None:
    first = read_design(starter_file(kind))
    long = whole_mm(first) if kind in STANDING else first.shape.length_mm
    found = answered(Asked(kind=kind, length_mm=long))
    assert found.sound, found.reason
    holds(found)
    there = whole_mm(found.design) if kind in STANDING else found.design.shape.length_mm
    assert there == pytest.approx(long, rel=1e-6) and found.design.kind == kind


def random_brief(dice: random.Random) -> dict[str, Any]:
    """Any kind, wood, water and a length from 35 to 250 mm."""
    kind = dice.choice(KINDS)
    told: dict[str, Any] = {"kind": kind, "length_mm": round(35.0 * (250.0 / 35.0) ** dice.random(), 1)}
    told["water"] = dice.choice(["fresh", "brackish", "sea"])
    if kind not in STANDING:
        told |= {"wood": dice.choice(WOODS), "lead": dice.random() < 0.8}
    return told


def test_random_briefs_are_answered_soundly_or_with_the_reason() -> None:
    dice = random.Random(11)
    sound = 0
    for _ in range(8):
        told = random_brief(dice)
        found = answered(Asked.model_validate(told))
        holds(found)
        sound += found.sound
    assert sound >= 5  # the others are too small for any hook, or of too heavy a wood


def test_what_is_asked_for_is_what_comes() -> None:
    found = answered(Asked(
        kind="popper", length_mm=82.0, wood="obeche", water="sea", mass_g=Span(least=19.0, most=21.0), hooks="8", lead=False,
        pitch_deg=Span(least=18.0, most=26.0), name="Ferry popper",
    ))  # fmt: skip
    assert found.sound, found.reason
    design, study = found.design, Study(found.design)
    rest = of.upright_rest(study)
    assert design.name == "Ferry popper" and design.body.material.name == "obeche" and design.water.name == "sea"
    assert 19.0 <= of.slip(study).finished.mass_g <= 21.0
    assert rest is not None and 18.0 <= math.degrees(rest.pitch_rad) <= 26.0
    assert {f.stock for f in design.fittings if f.sort == "hook"} == {"treble, size 8"}
    assert all(b.weight.material != "lead" for b in design.ballast)
    eyes = answered(Asked(kind="pencil", length_mm=110.0, hung_by="screw eyes"))
    assert eyes.sound and not eyes.design.wires and sum(f.sort == "screw eye" for f in eyes.design.fittings) == 3
    tail = answered(Asked(kind="pencil", length_mm=120.0, weight="tail"))
    assert (of.upright_rest(Study(tail.design)) or rest).pitch_rad > math.radians(40.0)


@pytest.mark.parametrize(
    ("kind", "long", "made"),
    [("popper", 96.0, "wood"), ("popper", 180.0, "resin"), ("crawler", 120.0, "wood"), ("other", 110.0, "wood"),
     ("pencil", 150.0, "wood")],
)  # fmt: skip
def test_what_is_weighted_at_its_tail_is_bored_near_it_from_below(kind: Kind, long: float, made: str) -> None:
    """A tail that takes no hole from its end is no failure: its slugs go in near it, out of the wire's way."""
    found = answered(Asked.model_validate({"kind": kind, "length_mm": long, "made": made, "weight": "tail"}))
    assert found.sound, found.reason
    holds(found)
    assert "from below" in found.design.notes and "screw eyes" in found.design.notes
    rest = of.upright_rest(Study(found.design))
    assert rest is not None and math.degrees(rest.pitch_rad) >= 40.0
    for slug in found.design.ballast:
        assert slug.drilling is not None and slug.drilling.side == "belly" and slug.drilling.place_mm[0] > 0.5 * long


@pytest.mark.parametrize(("hung_by", "long"), [("wire", 240.0), ("screw eyes", 180.0)])
def test_a_slug_from_the_tail_goes_in_under_what_comes_out_there(hung_by: str, long: float) -> None:
    told = {"kind": "other", "length_mm": long, "made": "resin", "weight": "tail", "hung_by": hung_by}
    design = started_from(Asked.model_validate(told))
    (slug,) = design.ballast
    assert slug.drilling is not None and slug.drilling.side == "tail" and slug.drilling.place_mm[1] < -3.0
    found = [c for c in of.clearances(Study(design)) if c.kind in ("wire to hole", "eye to hole") and not c.clear]
    assert found == []


def test_a_throw_s_least_and_most_are_kept_though_slugs_are_cut_to_tenths() -> None:
    for least in (211.4, 190.0):
        found = answered(
            Asked(kind="wake bait", length_mm=216.0, weight="tail", tackle_g=Span(least=least, most=560.0))
        )
        assert found.sound, found.reason
        assert of.slip(Study(found.design)).finished.mass_g >= least


def test_a_float_carries_what_is_asked_and_is_shotted_for_it() -> None:
    found = answered(Asked(kind="waggler", length_mm=210.0, capacity_g=4.0))
    assert found.sound, found.reason
    from yellowbob.afloat.line import capacity

    study = Study(found.design)
    assert found.design.rig is not None and found.design.rig.hung
    assert capacity(of.unloaded(study), of.line_at(study), found.design.rig.tip_mm).load_g == pytest.approx(
        4.0, abs=0.01
    )


@pytest.mark.parametrize(("told", "words"), [
    ({"kind": "wake bait", "length_mm": 60.0, "mass_g": {"least": 14.0, "most": 18.0}}, "cannot weigh 14 g and "
                                                                                        "float: make it"),
    ({"kind": "popper", "length_mm": 110.0, "wood": "maple, hard", "mass_g": {"least": 10.0, "most": 14.0}}, "before "
                                                                                                             "any ballast"),
    ({"kind": "prop bait", "length_mm": 36.0, "wood": "lignum vitae"}, "sinks"),
])  # fmt: skip
def test_what_cannot_be_says_why(told: dict[str, Any], words: str) -> None:
    found = answered(Asked.model_validate(told))
    assert not found.sound and words in found.reason, found.reason
    if "make it" in words:  # and the length that is advised does it
        long = float(found.reason.rpartition("make it ")[2].split()[0])
        better = answered(Asked.model_validate({**told, "length_mm": long + 1.0}))
        assert 14.0 <= of.slip(Study(better.design)).finished.mass_g <= 18.0


def test_schools_and_stocks_that_are_none_are_refused() -> None:
    for told, words in (
        ({"kind": "prop bait", "length_mm": 90, "hung_by": "screw eyes"}, "turns on its wire"),
        ({"kind": "popper", "length_mm": 70, "wood": "oakum"}, "not on the shelf"),
        ({"kind": "popper", "length_mm": 70, "hooks": "77"}, "no treble of size '77'"),
        ({"kind": "waggler", "length_mm": 200, "weight": "tail"}, "no hooks of its own"),
    ):  # fmt: skip
        with pytest.raises(BadInput, match=words):
            answered(Asked.model_validate(told))
    for wrong in (
        {"kind": "boat"},
        {"length_mm": 3},
        {"length_mm": 1e9},
        {"capacity_g": 3.0},
        {"mass_g": {"least": 5, "most": 1}},
    ):
        with pytest.raises(ValueError):
            Asked.model_validate({"kind": "popper", "length_mm": 70, **wrong})


# ---- at another size


def test_hardware_is_the_shelf_s_nearest_to_the_size() -> None:
    first = read_design(starter_file("popper"))
    for factor in (0.5, 0.8, 1.0, 1.7):
        made = at_size(first, factor)
        for before, now in zip(first.fittings, made.fittings, strict=True):
            if now.sort == "hook":
                wanted = hooks()[before.stock].shank_mm * factor
                best = min((h for h in hooks().values() if h.sort == "treble" and not h.dressed),
                           key=lambda h: abs(math.log(h.shank_mm / wanted)))  # fmt: skip
                assert now.stock == best.name and now.mass_g == best.mass_g
        assert made.shape.length_mm == pytest.approx(factor * first.shape.length_mm)


# ---- families


def test_a_family_is_sound_in_every_size_or_says_what_stops_it() -> None:
    design = read_design(DEMO / "sallow-74.ybob")
    members = family(design, (30.0, 60.0, 100.0))
    assert [m.length_mm for m in members] == [30.0, 60.0, 100.0]
    for member in members:
        assert member.answer is not None
        holds(member.answer)
        assert member.answer.design.name == f"Sallow {member.length_mm:g}"
        assert member.answer.design.shape.length_mm == pytest.approx(member.length_mm)
    assert members[1].sound and members[2].sound and len({m.chosen for m in members}) == 3
    first = design.brief.pitch_deg
    assert first is not None
    for member in members[1:]:
        assert member.answer is not None and member.answer.design.brief.pitch_deg == first
    for wrong in ((), (74.0, 74.0), (5.0,), (900.0,), tuple(range(60, 90))):
        with pytest.raises(BadInput):
            family(design, wrong)


def test_a_family_of_floats_carries_with_the_cube() -> None:
    design = read_design(DEMO / "withy-stick-150.ybob")
    from yellowbob.afloat.line import capacity

    def carries(one: Any) -> float:
        study = Study(one)
        return capacity(of.unloaded(study), of.line_at(study), one.rig.tip_mm).load_g

    (member,) = family(design, (1.3 * design.shape.length_mm,))
    assert member.sound and member.answer is not None
    assert carries(member.answer.design) == pytest.approx(1.3**3 * carries(design), rel=2e-3)


# ---- seeking


def test_seeking_draws_as_many_builds_as_odds_does() -> None:
    usual = inspect.signature(odds).parameters
    assert (usual["builds"].default, usual["seed"].default) == (seeking.ODDS_BUILDS, seeking.ODDS_SEED)


def test_seeking_finds_the_exhaustive_best_and_says_the_same_again(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(seeking, "ODDS_BUILDS", 400)
    asked = Asked(kind="popper", length_mm=70.0)
    freedom = Freedom(wood=("alder", "lignum vitae", "jelutong"), aim="least ballast")
    found = seek(asked, freedom, count=2)
    assert (
        found.points == found.tried == 3 and not found.stopped and sum(found.refused.values()) == 3 - found.sound == 1
    )
    best = min(
        (measured(p, a, False) for p in points(asked, freedom) if (a := answered(p)).sound), key=lambda f: f.ballast_g
    )  # fmt: skip
    assert found.found[0].ballast_g == best.ballast_g and found.found[0].asked == best.asked
    again = seek(asked, freedom, count=1)
    assert (again.found[0].asked, again.found[0].odds) == (found.found[0].asked, found.found[0].odds)
    for one in found.found:
        holds(one.answer)
    drawn = odds(Study(found.found[0].answer.design), 400)  # what `odds` says of it
    assert found.found[0].odds == min(drawn.sits, drawn.comes_right)
    assert found.found[0].gives_up == () or "ballast" not in " ".join(found.found[0].gives_up)


def test_hard_lines_are_never_broken_and_a_stop_keeps_what_was_found() -> None:
    asked = Asked(kind="popper", length_mm=70.0)
    none = seek(asked, Freedom(throws_m=290.0, aim="lightest"), count=1)
    assert none.found == () and none.refused == {"does not fly far enough": 1}
    narrow = seek(asked, Freedom(stock_mm=(12.0, 40.0), aim="lightest"), count=1)
    assert narrow.found == () and "stock" in next(iter(narrow.refused))
    asked_twice = iter((True, False))
    stopped = seek(
        asked, Freedom(length_mm=Span(least=66.0, most=74.0), aim="lightest"), go_on=lambda: next(asked_twice)
    )
    assert stopped.stopped and stopped.tried == 1 and len(stopped.found) == stopped.sound == 1
    for wrong in ({"count": 0}, {"tries": 0}, {"seed": -1}, {"count": 99}):
        with pytest.raises(BadInput):
            seek(asked, Freedom(), **wrong)


def test_so_many_points_are_drawn_by_the_seed() -> None:
    asked = Asked(kind="other", length_mm=60.0)
    freedom = Freedom(length_mm=Span(least=55.0, most=80.0), wood=("obeche", "alder"), aim="lightest")
    every = points(asked, freedom)
    drawn = [some_of(every, 5, seed) for seed in (1, 1, 2)]
    assert drawn[0] == drawn[1] != drawn[2] and all(one in every for one in drawn[0])
    assert some_of(every, len(every), 3) == every
    tried: list[float] = []
    found = seek(asked, freedom, count=3, tries=2, seed=2, told=lambda share: tried.append(share) is None)
    assert found.tried == 2 and found.points == len(every) and [f.asked in some_of(every, 2, 2) for f in found.found]
