"""Droppers: a jig as a load, the water in the bore, what is warned of and refused."""

from __future__ import annotations

import json
import math

import pytest

from tests.conftest import DEMO
from tests.core.test_shotting import piece, turned
from yellowbob.afloat.line import in_air_g, submerged_g, under_load
from yellowbob.afloat.rest import rest_near
from yellowbob.design.files import read_design, read_json
from yellowbob.design.model import Design, replaced
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.study import Study, of
from yellowbob.trials.aslant import aslant, drawn_home
from yellowbob.trials.dropper import dropper


def dropper_float(fill: str = "open") -> Design:
    body = piece("body", 0.3, turned((0, 4), (20, 9), (60, 5)))
    body["bores"] = [{"name": "bore", "drilling": {"side": "nose", "place_mm": [0, 0], "diameter_mm": 2.5, "depth_mm": 70},
                      "fill": fill}]  # fmt: skip
    return read_json(json.dumps({"format": "yellow-bob-design", "version": 3, "name": "D", "kind": "dropper",
                                 "pieces": [body], "rig": {"holds": "through the bore"}}))  # fmt: skip


def test_a_jig_is_a_load_of_its_weight_under_water() -> None:
    study = Study(dropper_float())
    water = 1000.0 * of.water_density(study)
    found = dropper(study, 4.0, "tungsten")
    assert found.pull_g == pytest.approx(submerged_g(4.0, 18.0, water))
    assert found.with_jig is not None
    by_hand = rest_near(under_load(of.unloaded(study), found.pull_g, of.line_at(study)), found.bare.up)
    assert found.with_jig.up == pytest.approx(by_hand.up) and found.with_jig.draft_mm == pytest.approx(by_hand.draft_mm)
    assert found.spare_g == pytest.approx(found.holds_g - found.pull_g)
    for name, density in (("lead", 11.34), ("tungsten", 18.0), ("tin", 7.29)):
        assert found.heaviest_g[name] == pytest.approx(in_air_g(found.holds_g, density, water))
        assert abs(dropper(study, found.heaviest_g[name], name).spare_g) < 1e-9
    over = dropper(study, found.heaviest_g["lead"] + 0.5)
    assert over.with_jig is None and over.spare_g < 0.0 and "draws it under" in over.warnings[0]


def test_closing_the_bore_changes_it_by_its_water() -> None:
    """An open bore displaces its wall only."""
    opened, closed = Study(dropper_float("open")), Study(dropper_float("sealed"))
    void = of.outer(opened).volume_mm3 - of.hull(opened).volume_mm3
    assert void == pytest.approx(3.141592653589793 * 1.25**2 * 60.0, rel=2e-3)
    assert dropper(closed).holds_g - dropper(opened).holds_g == pytest.approx(void * of.water_density(opened), rel=1e-9)


def test_a_dropper_warns_and_refuses() -> None:
    design = dropper_float()
    assert design.rig is not None
    jams = design.but(rig=replaced(design.rig, swivel_in_bore=True))
    assert any("jam" in w for w in dropper(Study(jams)).warnings)
    unbored = design.but(pieces=(replaced(design.body, bores=()),))
    assert any("none is drilled" in w for w in dropper(Study(unbored)).warnings)
    for jig, metal in ((1.0, "gold"), (0.0, "lead"), (-2.0, "lead")):
        with pytest.raises(BadInput):
            dropper(Study(design), jig, metal)


@pytest.mark.parametrize("lean", [2.0, 20.0, 45.0])
def test_a_pull_aslant_is_borne_in_full(lean: float) -> None:
    """Its level part by the stream, its downward part as in still water; the foot leads, the tip trails."""
    study = Study(read_design(DEMO / "withy-stick-150.ybob"))
    found = aslant(study, 0.8, lean)
    assert found.trim.pull_g == pytest.approx(0.8 * math.sin(math.radians(lean)), rel=1e-4, abs=1e-7)
    assert max(abs(v) for v in found.trim.left_over) < 1e-6 and found.trim.speed_m_s > 0.0
    straight = rest_near(
        under_load(of.unloaded(study), 0.8 * math.cos(math.radians(lean)), of.line_at(study)), (-1.0, 0.0, 0.0)
    )
    assert found.trim.pitch_rad > straight.pitch_rad
    if lean == 2.0:
        assert found.trim.height_mm == pytest.approx(straight.height_mm, abs=1.0)


def test_pulls_that_cannot_be_are_refused() -> None:
    study = Study(read_design(DEMO / "withy-stick-150.ybob"))
    for load, lean, words in (
        (0.0, 20.0, "nothing"),
        (1.0, 120.0, "straight down"),
        (math.nan, 5.0, "nothing"),
    ):
        with pytest.raises(YellowBobError, match=words):
            aslant(study, load, lean)


def test_a_dropper_drawn_home_lies_flatter_than_it_hangs() -> None:
    study = Study(read_design(DEMO / "creek-dropper-52.ybob"))
    hangs, found = drawn_home(study, 1.8, 0.6)
    assert found.trims and found.trims[0].pitch_rad < hangs.pitch_rad
    faster = drawn_home(study, 1.8, 1.2)[1].trims[0]
    assert faster.pull_g > found.trims[0].pull_g
    with pytest.raises(YellowBobError, match="m/s"):
        drawn_home(study, 1.8, 60.0)
