"""The next sensible step: what is missing in the order of the work, then what fails, then what to measure and make."""

from __future__ import annotations

import pytest

from tests.conftest import DEMO
from tests.core.test_logbook import design_of
from yellowbob.checks.next_step import next_step
from yellowbob.checks.registry import verdicts
from yellowbob.design.base import replaced
from yellowbob.design.brief import Brief
from yellowbob.design.record import Weighing
from yellowbob.study import Study


def test_steps_come_in_the_order_of_the_work() -> None:
    whole = design_of("sallow-74")
    told = []
    for design in (
        whole.but(fittings=(), ballast=(), wires=()), whole.but(ballast=()), whole.but(brief=Brief()), whole.but(coats=()),
        whole, whole.of_material(measured=True), whole.but(weighings=(Weighing(stage="bare body", mass_g=9.7),)),
    ):  # fmt: skip
        told.append(next_step(Study(design)))
    wanted = ("Hang", "Pose", "Say how it should", "Say how it will", "Weigh a squared", "Print", "Weigh it")
    for words, begins in zip(told, wanted, strict=True):
        assert words.startswith(begins), (words, begins)


def test_what_fails_comes_before_what_is_left_to_make() -> None:
    whole = design_of("sallow-74")
    slug = whole.ballast[0]
    assert slug.drilling is not None
    aft = replaced(slug, drilling=replaced(slug.drilling, place_mm=(50.0, 0.0)))
    study = Study(whole.but(ballast=(aft,)))
    failed = [v for v in verdicts(study) if v.fails]
    assert failed and next_step(study) == f"{failed[0].title}: {failed[0].do}"
    stick = design_of("withy-stick-150")
    assert stick.rig is not None
    assert next_step(Study(stick.but(rig=replaced(stick.rig, hung=())))).startswith("Put shot on its line")


@pytest.mark.parametrize("name", sorted(f.stem for f in DEMO.glob("*.ybob")))
def test_every_demo_has_a_next_step_without_anything_slow(name: str) -> None:
    assert next_step(Study(design_of(name))).endswith(".")
