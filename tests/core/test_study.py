"""The study keeps what still holds; checks, edits and remembered rests."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from tests.conftest import turned_design
from yellowbob.afloat.remembered import keep, recall
from yellowbob.checks.registry import CHECKS, FIRST, verdicts
from yellowbob.design.edits import Grip, grips, moved, with_added, without_grip
from yellowbob.design.model import Design, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import ball_mm, ballast_from, hook_from
from yellowbob.shelf.shipped import ballast_stock, coats, fillers, hooks, materials, taken
from yellowbob.study import Study, of


def test_demo_designs_are_sound(demo_design: Design) -> None:
    study = Study(demo_design)
    states = {v.key: v.state for v in verdicts(study) if v.key in FIRST}
    assert set(states.values()) == {"good"}, states
    assert len(of.rests(study)) == 1
    assert of.upright_rest(study) is not None
    assert math.degrees(of.upright_rest(study).roll_rad) == pytest.approx(0.0, abs=0.02)


def test_only_what_an_edit_touches_is_worked_out_again(popper: Design) -> None:
    one = Study(popper)
    _ = of.rests(one)
    salted = Study(popper.but(water=replaced(popper.water, name="sea")), one)
    assert of.outer(salted) is of.outer(one)
    assert of.slip(salted) is of.slip(one)
    assert of.hull(salted) is of.hull(one)
    assert of.afloat(salted) is not of.afloat(one)
    assert not salted.knows(of.landings)
    assert of.rests(Study(popper.but(name="again"), one)) is of.rests(one)
    heavier = Study(popper.of_material(density_g_ml=0.55), one)
    assert of.outer(heavier) is of.outer(one)
    assert of.slip(heavier) is not of.slip(one)


def test_rests_of_another_build_are_not_taken(popper: Design) -> None:
    one = Study(popper)
    two = Study(popper.of_material(density_g_ml=0.55))
    build = of.afloat(two)
    two.adopt(one)
    assert of.afloat(two) is build
    assert of.rests(two) is not of.rests(one)
    apart = two.apart()
    found = of.landings(apart)
    two.adopt(apart)
    assert two.knows(of.landings)
    assert of.landings(two) is found


def test_sinker() -> None:
    study = Study(turned_design((0, 5), (40, 5), density=1.4))
    assert of.rests(study) == ()
    assert of.upright_rest(study) is None
    assert of.rest_followed(study, None) is None
    volume = math.pi * 25 * 40 / 1000
    assert of.buoyancy(study).sinking_weight_g == pytest.approx(volume * (1.4 - of.water(study).density_g_ml), rel=1e-6)
    assert {v.key for v in verdicts(study) if v.state == "failed"} >= {"floats", "sits", "upright"}


def test_salt_lifts_by_its_share_of_the_displacement(popper: Design) -> None:
    fresh, sea = Study(popper), Study(popper.but(water=replaced(popper.water, name="sea")))
    ratio = of.water(sea).density_g_ml / of.water(fresh).density_g_ml
    assert of.buoyancy(fresh).displaced_ml / of.buoyancy(sea).displaced_ml == pytest.approx(ratio)
    assert of.buoyancy(sea).reserve_g > of.buoyancy(fresh).reserve_g


def test_every_check_says_why_and_what_to_do(popper: Design) -> None:
    for study in (Study(popper), Study(turned_design((0, 5), (40, 5), density=1.4))):
        for verdict in verdicts(study):
            assert verdict.key in CHECKS
            assert len(verdict.why) > 20
            assert verdict.do
            assert verdict.figure


def test_moving_an_eye_takes_its_hook_ring_and_wire_along(popper: Design) -> None:
    piece = next(Grip("fitting", i) for i, f in enumerate(popper.fittings) if f.name == "Belly ring")
    after = moved(popper, piece, 1.5, 0.0, -0.5)
    for name in ("Belly ring", "Belly treble, size 6"):
        before = next(f for f in popper.fittings if f.name == name)
        now = next(f for f in after.fittings if f.name == name)
        assert now.at_mm == pytest.approx((before.at_mm[0] + 1.5, 0.0, before.at_mm[2] - 0.5))
    changed = [a != b for a, b in zip(popper.wires[0].path_mm, after.wires[0].path_mm, strict=True)]
    assert changed.count(True) == 2
    tail = next(f for f in after.fittings if f.name == "Tail ring")
    assert tail in popper.fittings


def test_moving_ballast_slides_and_deepens_its_hole(popper: Design) -> None:
    after = moved(popper, Grip("ballast", 0), -2.0, 0.0, 1.0)
    old, new = popper.ballast[0].drilling, after.ballast[0].drilling
    assert old is not None and new is not None
    assert new.place_mm[0] == pytest.approx(old.place_mm[0] - 2.0)
    assert new.depth_mm == pytest.approx(old.depth_mm + 1.0)
    forward = of.upright_rest(Study(after))
    before = of.upright_rest(Study(popper))
    assert forward is not None and before is not None
    assert forward.pitch_rad < before.pitch_rad


def test_adding_and_removing(popper: Design) -> None:
    new = ballast_from(ballast_stock()["lead rod 4 mm"], 20.0, fillers()["epoxy"])
    design, piece = with_added(popper, new)
    again, other = with_added(design, new)
    assert piece.of(design).name == "Belly slug 2"
    assert other.of(again).name == "Belly slug 3"
    assert without_grip(design, piece) == popper
    assert len(grips(again)) == len(grips(popper)) + 2
    assert of.holes(Study(again)).ballast[-1].proud_mm == 0.0


def test_shipped_shelf_is_complete_and_says_its_source() -> None:
    shelf = [materials(), hooks(), ballast_stock(), fillers(), coats()]
    assert sum(m.group in ("wood", "foam") for m in materials().values()) >= 40
    for items in shelf:
        assert all(item.source for item in items.values())
    hook = hook_from(hooks()["treble, size 6"], (1.0, 2.0, 3.0), "h")
    assert hook.hanging
    assert hook.volume_ml == pytest.approx(hook.mass_g / 7.85, rel=1e-3)
    with pytest.raises(BadInput, match="did you mean"):
        taken(materials(), "aldr")


def test_ball_diameter_of_shot_and_rod() -> None:
    ball = ballast_stock()["steel ball 5 mm"]
    assert ball_mm(ball) == pytest.approx(5.0, abs=0.02)
    assert ball_mm(ballast_stock()["lead rod 6 mm"]) == 6.0


def test_remembered_rests_are_exact_and_never_stale(popper: Design, tmp_path: Path) -> None:
    study = Study(popper)
    assert recall(of.afloat(study), tmp_path) is None
    keep(of.afloat(study), of.rests(study), tmp_path)
    assert recall(of.afloat(Study(popper)), tmp_path) == of.rests(study)
    other = Study(popper.of_material(density_g_ml=0.483))
    assert recall(of.afloat(other), tmp_path) is None


def test_a_read_only_or_spoilt_cache_only_means_working_again(popper: Design, tmp_path: Path) -> None:
    study = Study(popper)
    blocked = tmp_path / "file"
    blocked.write_text("in the way")
    keep(of.afloat(study), of.rests(study), blocked)
    assert recall(of.afloat(study), blocked) is None
    keep(of.afloat(study), of.rests(study), tmp_path / "ok")
    next((tmp_path / "ok").glob("*.json")).write_text("{broken")
    assert recall(of.afloat(study), tmp_path / "ok") is None
