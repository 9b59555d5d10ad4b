"""A new design that is printed or poured: what it is made of, and what cannot be."""

from __future__ import annotations

import json

import pytest

from tests.core.test_begin import holds
from tests.core.test_cli import run
from yellowbob.design.model import Kind
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.shipped import every_material, powders, taken
from yellowbob.study import Study, of
from yellowbob.trials.answer import KEELS, answered, cannot
from yellowbob.trials.asked import Asked
from yellowbob.trials.first_design import Way, started_from


@pytest.mark.parametrize(("kind", "long"), [("popper", 92.0), ("crawler", 71.0), ("pencil", 118.0)])
def test_a_print_is_solid_below_and_a_shell_above(kind: Kind, long: float) -> None:
    found = answered(Asked(kind=kind, length_mm=long, made="print", wood="PETG print"))
    assert found.sound, found.reason
    holds(found)
    shell, material = found.design.body.shell, found.design.body.material
    assert shell is not None and material.name == "PETG print" and material.density_g_ml == 1.27
    assert 0.8 <= shell.wall_mm <= 1.6 and shell.split_mm[-1][0] == long
    hollow = of.hollow(Study(found.design))
    assert hollow is not None and hollow.bounds[0, 2] >= shell.split_mm[0][1] - 0.02
    # what is weighed is the plastic that is there
    solid = of.outer(Study(found.design)).volume_mm3 / 1000.0
    assert of.slip(Study(found.design)).finished.mass_g < 1.27 * solid


def test_resin_is_poured_with_so_many_balloons_as_let_it_float() -> None:
    found = answered(Asked(kind="popper", length_mm=83.0, made="resin"))
    assert found.sound, found.reason
    holds(found)
    stuff = found.design.body.material
    resin, percent = stuff.name.removesuffix(" % micro-balloons").rsplit(", ", 1)
    dense, balloons, p = (
        taken(every_material(), resin).density_g_ml,
        powders()["glass micro-balloons"].density_g_ml,
        int(percent) / 100,
    )
    assert stuff.group == "resin" and stuff.density_g_ml == pytest.approx(
        (1 + p) / (1 / dense + p / balloons), abs=6e-4
    )
    assert stuff.density_g_ml < 0.72


def test_what_cannot_be_printed_or_poured_is_refused(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(BadInput, match="a print of 'alder' cannot be made: name a plastic, such as ABS print"):
        answered(Asked(kind="popper", length_mm=80.0, made="print", wood="alder"))
    with pytest.raises(BadInput, match="a resin of 'PLA print' cannot be made: name a resin"):
        answered(Asked(kind="popper", length_mm=80.0, made="resin", wood="PLA print"))
    with pytest.raises(ValueError, match="begun out of wood here"):
        Asked(kind="waggler", length_mm=200.0, made="print")
    code, _, error = run(capsys, "new", "--kind", "popper", "--length", "80", "--made", "bronze")
    assert code == 2 and "made" in error and error.count("\n") == 1
    code, out, _ = run(capsys, "new", "--kind", "darter", "--length", "95 mm", "--made", "print", "--json")
    assert code == 0 and json.loads(out)["wood"] == "ABS print"


@pytest.mark.parametrize(
    ("kind", "long", "made"), [("popper", 64.0, "wood"), ("pencil", 101.0, "resin"), ("crawler", 57.0, "wood")]
)
@pytest.mark.parametrize("share", [0.8, 0.93, 1.01])
def test_nothing_is_refused_as_too_heavy_that_a_lighter_way_could_be(
    kind: str, long: float, made: str, share: float
) -> None:
    def weighs(way: Way) -> float:
        return of.buoyancy(Study(started_from(asked, way).but(ballast=()))).mass_g

    asked = Asked.model_validate({"kind": kind, "length_mm": long, "made": made})
    most = share * weighs(Way())
    asked = Asked.model_validate({**asked.model_dump(), "tackle_g": {"least": 0.3 * most, "most": most}})
    lightest = min(
        weighs(Way(light=light, hooks=hooks, keel=keel))
        for light in (False, True) for hooks in (0, -1, -3) for keel in range(KEELS[asked.made][0], 1)
    )  # fmt: skip
    assert bool(cannot(asked, [])) == (lightest > most)
