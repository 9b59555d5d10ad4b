"""The checks: at least 25, each speaks of what it sees, each can be set aside with a reason that is kept."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import DEMO, turned_design, verdict_of
from yellowbob.checks.registry import CHECKS, FIRST, verdicts
from yellowbob.checks.verdict import heeded_again, signed, with_set_aside
from yellowbob.design.cuts import Cup
from yellowbob.design.files import read_design, write_design
from yellowbob.design.model import STANDING, Brief, Design, Shell, Shot, Slug, Span, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of


def says(design: Design, key: str) -> str:
    said = verdict_of(Study(design), key)
    return "silent" if said is None else said.state


def figure(design: Design, key: str) -> str:
    said = verdict_of(Study(design), key)
    assert said is not None
    return said.figure


def test_there_are_enough_and_all_say_why_and_what_to_do() -> None:
    assert len(CHECKS) >= 25
    assert set(FIRST) <= set(CHECKS)
    titles = [c.title for c in CHECKS.values()]
    assert len(set(titles)) == len(titles)
    for one in CHECKS.values():
        assert len(one.why) > 20
        assert one.grade in ("exact", "textbook", "rule")


def test_no_demo_design_fails(demo_design: Design) -> None:
    study = Study(demo_design)
    _ = of.landings(study)
    assert [v.key for v in verdicts(study) if v.fails] == []
    assert len(verdicts(study)) >= (16 if study.design.kind in STANDING else 20)


@pytest.mark.parametrize(
    ("kind", "key"), [("popper", "drains"), ("prop", "keel"), ("prop", "blades"), ("print", "hollow")]
)
def test_checks_speak_only_of_what_is_there(kind: str, key: str) -> None:
    name = {"popper": "sallow-74", "prop": "mill-tail-88", "print": "print-wake-92"}[kind]
    assert says(read_design(DEMO / f"{name}.ybob"), key) in ("good", "watch")
    assert says(turned_design((0, 6), (60, 6)), key) == "silent"


def with_ballast(design: Design, **changes: object) -> Design:
    one = design.ballast[0]
    drilling = {k: v for k, v in changes.items() if k in ("place_mm", "diameter_mm", "depth_mm", "lean_deg")}
    if drilling:
        assert one.drilling is not None
        changes = {k: v for k, v in changes.items() if k not in drilling} | {
            "drilling": replaced(one.drilling, **drilling)
        }
    return design.but(ballast=(replaced(one, **changes),))


def test_floating_checks(popper: Design) -> None:
    heavy = with_ballast(popper, weight=Slug(diameter_mm=7.0, length_mm=9.0, density_g_ml=24.0))
    assert says(heavy, "reserve") in ("watch", "failed")
    assert says(popper.of_material(density_g_ml=1.2), "floats") == "failed"
    assert says(popper.but(brief=replaced(popper.brief, draft_mm=Span(least=1.0, most=2.0))), "draft") == "failed"
    assert says(popper.but(brief=replaced(popper.brief, draft_mm=None)), "draft") == "silent"
    assert says(popper.but(brief=replaced(popper.brief, mass_g=Span(least=1.0, most=2.0))), "mass") == "failed"
    assert says(popper.but(brief=Brief()), "casts") == "unknown"
    assert says(popper.but(brief=Brief()), "sits") == "unknown"


def test_a_list_is_seen(popper: Design) -> None:
    assert says(popper, "lists") == "good"
    one = popper.ballast[0].drilling
    assert one is not None
    beside = with_ballast(popper, place_mm=(one.place_mm[0], 2.5))
    assert says(beside, "lists") in ("watch", "failed")
    assert "starboard" in figure(beside, "lists")


def test_comes_right_gives_the_share_of_landings() -> None:
    bare = read_design(DEMO / "moth-crawler-64.ybob").but(ballast=())
    study = Study(bare)
    assert len(of.rests(study)) > 1
    assert of.upright_rest(study) is not None
    before = next(v for v in verdicts(study, wait=False) if v.key == "upright")
    assert (before.state, before.figure, before.awaits) == ("pending", "working it out", of.landings)
    share = of.landings(study).shares[of.rests(study).index(of.upright_rest(study))]
    after, knock = verdict_of(study, "upright"), verdict_of(study, "knock")
    assert after is not None and knock is not None
    assert f"{100 * share:.0f} %" in after.figure
    assert after.state == ("failed" if share < 0.7 else "watch")
    assert knock.figure.endswith("mm")


def test_ballast_checks(popper: Design) -> None:
    assert says(popper, "ballast") == "good"
    assert says(with_ballast(popper, depth_mm=5.0), "ballast") == "failed"
    assert says(with_ballast(popper, plug=None), "loose") == "failed"
    assert says(with_ballast(popper, diameter_mm=9.0), "loose") == "watch"
    for hole_mm, held, said in (
        (6.99, "plug", "good"), (6.9, "plug", "failed"), (6.9, "hammered", "good"), (6.5, "hammered", "failed")
    ):  # fmt: skip
        assert says(with_ballast(popper, diameter_mm=hole_mm, held=held), "loose") == said, (hole_mm, held)
    wide = with_ballast(popper, diameter_mm=15.5, weight=Slug(diameter_mm=15.3, length_mm=2.0))
    assert says(wide, "plug") == "watch"
    assert says(with_ballast(popper, depth_mm=9.6), "cover") == "watch"
    assert says(popper.but(ballast=()), "cover") == "silent"
    aside = with_ballast(popper, place_mm=(64.0, 3.5))
    assert says(aside, "drill") in ("watch", "failed")
    assert says(with_ballast(popper, depth_mm=19.0), "wire") in ("watch", "failed")


def test_lead_points_to_the_local_rule(popper: Design) -> None:
    verdict = verdict_of(Study(popper), "lead")
    assert verdict is not None and verdict.state == "watch"
    assert "rule" in verdict.do
    assert "safe" not in (verdict.do + verdict.why).lower()
    free = with_ballast(popper, weight=Shot(material="tungsten alloy", density_g_ml=17.5, mass_g=1.98, count=2))
    assert says(free, "lead") == "good"
    assert says(popper.but(ballast=()), "lead") == "silent"


def test_hardware_checks(popper: Design) -> None:
    tail = next(f for f in popper.fittings if f.name.startswith("Tail treble"))
    near = popper.but(fittings=(*popper.fittings, replaced(tail, name="third", at_mm=(70.0, 0.0, -4.0))))
    assert says(near, "hooks") == "failed"
    assert says(popper, "tie") == "good"
    assert says(popper.but(fittings=()), "tie") == "watch"
    assert says(popper.but(fittings=()), "rigged") == "watch"
    small = popper.but(fittings=tuple(
        replaced(f, reach_mm=2.0, span_mm=1.0) if f.sort == "hook" else f for f in popper.fittings))  # fmt: skip
    assert says(small, "hook-up") == "watch"


def test_prop_checks() -> None:
    bait = read_design(DEMO / "mill-tail-88.ybob")
    assert says(bait, "turns") == "good"
    assert says(bait, "blades") == "good"
    high = bait.but(ballast=(replaced(bait.ballast[0], drilling=None, plug=None, at_mm=(19.0, 0.0, 4.0)),))
    assert says(high, "keel") == "watch"
    hung = bait.but(fittings=tuple(
        replaced(f, hanging=True, at_mm=(101.0, 0.0, 0.0)) if f.name.startswith("Tail treble") else f
        for f in bait.fittings))  # fmt: skip
    assert says(hung, "struck") == "failed"


def test_cup_checks(popper: Design) -> None:
    cup = next(c for c in popper.body.cuts if isinstance(c, Cup))
    assert says(popper, "pools") == "watch"

    def cut(**changes: object) -> Design:
        cuts = tuple(replaced(c, **changes) if c is cup else c for c in popper.body.cuts)
        return popper.with_body(cuts=cuts)

    assert says(cut(pool_mm=0.5), "pools") == "good"
    assert says(cut(diameter_mm=22.0), "rim") == "watch"
    down = with_ballast(popper, place_mm=(14.0, 0.0), depth_mm=11.2)
    assert says(down, "drains") == "watch"


def test_finish_and_wood_checks(popper: Design) -> None:
    assert says(popper.but(coats=()), "sealed") == "watch"
    assert says(popper, "sealed") == "good"
    thick = popper.but(coats=tuple(replaced(c, film_mm=c.film_mm * 4) for c in popper.coats))
    assert says(thick, "finish") == "watch"
    assert says(popper, "weighed") == "watch"
    assert says(popper.of_material(measured=True), "weighed") == "good"
    eyes = popper.of_material(density_g_ml=0.3).but(wires=(), fittings=(
        *popper.fittings, replaced(popper.fittings[0], name="eye", sort="screw eye", at_mm=(40.0, 0.0, -11.0))))  # fmt: skip
    assert says(eyes, "strength") == "watch"


def test_a_print_that_would_sink_when_flooded() -> None:
    wake = read_design(DEMO / "print-wake-92.ybob")
    assert says(wake, "hollow") == "watch"
    shell = wake.body.shell
    assert isinstance(shell, Shell)
    drained = wake.with_body(shell=replaced(shell, drain=True))
    assert says(drained, "hollow") == "silent"


def test_a_check_is_set_aside_with_its_reason_and_kept(popper: Design, tmp_path: Path) -> None:
    failing = with_ballast(popper, plug=None)
    assert says(failing, "loose") == "failed"
    aside = with_set_aside(failing, "loose", "cast in epoxy, no plug needed")
    write_design(aside, tmp_path / "a.ybob")
    again = read_design(tmp_path / "a.ybob")
    verdict = verdict_of(Study(again), "loose")
    assert verdict is not None and verdict.state == "failed"
    assert not verdict.fails
    assert verdict.aside == "cast in epoxy, no plug needed"
    heeded = verdict_of(Study(heeded_again(again, "loose")), "loose")
    assert heeded is not None and heeded.fails
    with pytest.raises(BadInput, match="Give a reason"):
        with_set_aside(popper, "loose", "  ")
    with pytest.raises(BadInput, match="no check is called"):
        with_set_aside(popper, "nothing", "because")


def test_signed_has_a_true_minus_and_no_minus_zero() -> None:
    assert signed(-1.25, 1) == "−1.2"
    assert signed(-0.01, 1) == "0.0"
    assert signed(3.0) == "3"
