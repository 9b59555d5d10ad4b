"""Figures that slipped a place: no mass, room or density that nothing of its kind has goes without a word."""

from __future__ import annotations

import pytest

from tests.conftest import DEMO, solved
from yellowbob.checks.registry import CHECKS
from yellowbob.design.files import read_design
from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design, replaced
from yellowbob.fitout.likely import doubts
from yellowbob.shelf.fitting import ballast_from, fitting_from, hook_from
from yellowbob.shelf.shipped import ballast_stock, every_material, hardware, hooks, wires

AT = (30.0, 0.0, -9.0)
PLAIN = read_design(DEMO / "sallow-74.ybob").but(fittings=(), ballast=(), wires=())
SLIPS = (0.1, 10.0)
DENSEST = 25.0


def doubted(design: Design) -> list[str]:
    return [d.name for d in doubts(design, hooks(), every_material())]


def with_fitting(fitting: Fitting) -> Design:
    return PLAIN.but(fittings=(fitting,))


def test_nothing_of_the_shelf_is_doubted() -> None:
    shelf = [hook_from(h, AT, n) for n, h in hooks().items()]
    shelf += [fitting_from(h, AT, n) for n, h in hardware().items()]
    weights = [ballast_from(b, 30.0, None) for b in ballast_stock().values()]
    wire = read_design(DEMO / "sallow-74.ybob").wires[0]
    bent = [replaced(wire, material=n, density_g_ml=w.density_g_ml) for n, w in wires().items()]
    for k in range(0, len(weights), 20):
        assert not doubted(PLAIN.but(ballast=tuple(weights[k : k + 20]), wires=tuple(bent[k : k + 20])))
    for name, stuff in every_material().items():
        for density in (stuff.density_g_ml - 2 * stuff.spread_g_ml, stuff.density_g_ml + 2 * stuff.spread_g_ml):
            made = PLAIN.of_material(0, name=name, group=stuff.group, density_g_ml=density)
            assert not doubted(made), (name, density)
    assert not [f.name for f in shelf if doubted(with_fitting(f))]


@pytest.mark.parametrize("times", SLIPS)
def test_a_hook_whose_mass_or_room_slipped_a_place_is_doubted(times: float) -> None:
    for name, hook in hooks().items():
        one = hook_from(hook, AT, name)
        for changed in (
            replaced(one, mass_g=times * one.mass_g),
            replaced(one, volume_ml=times * one.volume_ml),
            replaced(one, mass_g=times * one.mass_g, volume_ml=times * one.volume_ml),
        ):
            assert changed.mass_g < 0.02 or doubted(with_fitting(changed)) == [name], (name, changed)


@pytest.mark.parametrize("times", SLIPS)
def test_what_a_piece_a_weight_or_a_wire_is_made_of_is_doubted_a_place_off(times: float) -> None:
    for name, stuff in every_material().items():
        if times * stuff.density_g_ml > DENSEST:
            continue  # refused
        made = PLAIN.of_material(0, name=name, group=stuff.group, density_g_ml=times * stuff.density_g_ml)
        unknown = PLAIN.of_material(0, name="what the neighbour had", group="wood", density_g_ml=times * 0.3)
        assert doubted(made) == ["body"] and doubted(unknown) == ["body"], name
    for name, stock in ballast_stock().items():
        if times * stock.density_g_ml > DENSEST:
            continue
        ballast = ballast_from(stock, 30.0, None)
        slipped = replaced(ballast, weight=replaced(ballast.weight, density_g_ml=times * stock.density_g_ml))
        assert doubted(PLAIN.but(ballast=(slipped,))) == [ballast.name], name
    wire = read_design(DEMO / "sallow-74.ybob").wires[0]
    slipped_wire = replaced(wire, density_g_ml=min(times * wire.density_g_ml, DENSEST))
    assert doubted(PLAIN.but(wires=(slipped_wire,))) == [wire.name]


def test_a_hook_that_takes_no_room_fails_the_check_and_a_buried_eye_does_not() -> None:
    """Without it the demo would sit ten degrees higher, and every figure be as smooth as before."""
    design = read_design(DEMO / "sallow-74.ybob")

    def says(design: Design) -> tuple[str, str]:
        verdict = CHECKS["likely"].verdict(solved(design))
        assert verdict is not None
        return verdict.state, verdict.figure

    assert says(design) == ("good", "as such things weigh")
    bare = tuple(replaced(f, volume_ml=0.0) if f.sort == "hook" else f for f in design.fittings)
    state, figure = says(design.but(fittings=bare))
    assert state == "failed" and figure == "Belly treble, size 6: 0.98 g that take no room in the water, and 1 more"
    heavy = tuple(replaced(f, mass_g=4 * f.mass_g, volume_ml=4 * f.volume_ml) if f.sort == "hook" else f for f in bare)
    light = [replaced(f, volume_ml=f.mass_g / 7.85) for f in heavy if f.sort == "hook"]
    state, figure = says(design.but(fittings=tuple(light)))
    assert state == "watch" and "hooks of its size weigh" in figure
    assert not doubted(with_fitting(Fitting(name="eye", sort="eye", at_mm=AT, mass_g=0.4)))


@pytest.mark.parametrize("file", sorted(DEMO.glob("*.ybob")), ids=lambda f: f.stem)
def test_no_demo_is_doubted(file) -> None:  # type: ignore[no-untyped-def]
    assert not doubted(read_design(file))
