"""Joints of a float's stack: glue, sleeves, crooked spigots; bodies of several shapes for one load."""

from __future__ import annotations

import json
import math
from pathlib import Path

import jsonschema
import numpy as np
import pytest

from tests.conftest import DEMO, verdict_of
from tests.core.test_cli import run
from yellowbob.afloat.line import capacity
from yellowbob.design.base import replaced
from yellowbob.design.cut_edits import added
from yellowbob.design.files import read_design
from yellowbob.design.found_stem import by_diameters, diameters_of
from yellowbob.design.model import Design, Material, Piece
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.mesh import grown
from yellowbob.lines.solids import revolved
from yellowbob.reports.contract import CONTRACTS, schema_of
from yellowbob.reports.floats import shapes_report
from yellowbob.study import Study, of
from yellowbob.trials.crooked import crooked
from yellowbob.trials.dropper import dropper
from yellowbob.trials.shapes import SHAPES, bodied, one_shape, shapes
from yellowbob.trials.variants import compared
from yellowbob.weights.glue import GLUE_G_ML, glue_of


def stick() -> Design:
    return read_design(DEMO / "withy-stick-150.ybob")


def front_radius(piece: Piece) -> float:
    assert isinstance(piece.shape, Turned)
    return piece.shape.profile[0].at_mm[1]


def painted(design: Design, *over: str, **more: object) -> Design:
    """With one coat of 0.1 mm at 1.2 g/mL on the pieces named, the body alone where none is."""
    return design.but(coats=[{"name": "paint", "film_mm": 0.1, "density_g_ml": 1.2, "over": over, **more}])


def test_a_coat_over_the_stack_lies_on_what_shows_of_it_and_makes_every_piece_thicker() -> None:
    design = stick()
    every = tuple(p.name for p in design.pieces)
    bare = Study(design.but(coats=()))
    all_over = Study(painted(design, *every))
    weighs = of.slip(all_over).finished.mass_g - of.slip(bare).finished.mass_g
    # what shows of a stack is the surface of its union
    assert weighs == pytest.approx(of.whole(bare).area_mm2 * 0.1 * 1.2e-3, rel=1e-9)
    apart = [of.coated(Study(painted(design, name)))[0].area_mm2 for name in every]
    assert sum(apart) == pytest.approx(of.whole(bare).area_mm2, rel=1e-9)
    # the tip: a rod that shows from its end to the body; what is in the body takes no paint
    tip = next(p for p in design.pieces if p.name == "Tip")
    on_tip = Study(painted(design, "Tip"))
    radius = front_radius(tip)
    shows = 2 * math.pi * radius * -tip.at_mm[0] + math.pi * radius**2
    assert of.coated(on_tip)[0].area_mm2 == pytest.approx(shows, rel=0.02)
    top = of.hull(on_tip).vertices
    near = top[top[:, 0] < -3]
    assert np.hypot(near[:, 1], near[:, 2]).max() == pytest.approx(1.0033 * (radius + 0.1), rel=0.01)
    # the body's skin, coat as it was in older files
    assert of.slip(Study(painted(design))).finished.mass_g - of.slip(bare).finished.mass_g == pytest.approx(
        of.outer(bare).area_mm2 * 0.1 * 1.2e-3, rel=1e-9
    )


def test_a_stack_painted_on_its_body_alone_says_so_and_coats_go_with_their_pieces() -> None:
    design = painted(stick())

    def said(one: Design) -> str:
        told = verdict_of(Study(one), "finish over")
        return "" if told is None else told.figure

    assert said(design) == "Tip, Stem: counted bare"
    assert said(painted(design, "body", "Tip")) == "Stem: counted bare"
    assert said(painted(design, "body", "Tip", "Stem")) == ""
    with pytest.raises(BadInput, match="'Antenna', which is none of"):
        painted(design, "Antenna")
    without = painted(design, "Tip").with_parts(tuple(p for p in design.parts if p.name != "Tip"))
    assert without.coats == ()  # what lay on the tip does not slide onto the body
    half = painted(design, "Tip", "Stem").with_parts(tuple(p for p in design.parts if p.name != "Tip"))
    assert half.coats[0].over == ("Stem",)


@pytest.mark.parametrize("radius, long", [(0.9, 120.0), (1.5, 60.0), (9.0, 40.0)])
def test_a_film_displaces_what_it_weighs_and_a_rod_grows_all_round(radius: float, long: float) -> None:
    made = revolved(np.array([(0.0, radius), (long, radius)]), sides=64)
    thick = grown(made, 0.08)
    assert thick.volume_mm3 - made.volume_mm3 == pytest.approx(made.area_mm2 * 0.08, rel=1e-4)
    assert np.hypot(*thick.vertices[:, 0:2].T).max() < radius * 1.002 + 0.08


def test_a_spigots_glue_is_its_side_times_its_film_in_place_of_what_it_sits_in() -> None:
    design = stick()
    stem = next(n for n, p in enumerate(design.pieces) if p.name == "Stem")
    piece, body = design.pieces[stem], design.body
    film, deep, radius = 0.08, design.shape.length_mm - piece.at_mm[0], front_radius(piece)
    glued = design.with_piece(stem, replaced(piece, glue_mm=film))
    found = glue_of(glued.pieces, stem)
    wanted = 2 * math.pi * radius * deep * film * (GLUE_G_ML - body.density_g_ml) / 1000.0
    assert found is not None and found.mass_g == pytest.approx(wanted, rel=0.01)
    assert found.centre_mm[0] == pytest.approx(piece.at_mm[0] + deep / 2, abs=0.2)
    assert np.diag(found.spread_g_mm2) == pytest.approx(
        np.array([wanted * deep**2 / 12, wanted * radius**2 / 2, wanted * radius**2 / 2]), rel=0.02
    )
    plain, more = of.slip(Study(design)).finished, of.slip(Study(glued)).finished
    assert more.mass_g - plain.mass_g == pytest.approx(found.mass_g, rel=1e-9)
    assert of.unloaded(Study(glued)).volume_mm3 == pytest.approx(of.unloaded(Study(design)).volume_mm3, rel=1e-12)
    assert glue_of(design.pieces, stem) is None
    apart = glued.with_piece(stem, replaced(glued.pieces[stem], at_mm=(500.0, 0.0, 0.0)))
    assert glue_of(apart.pieces, stem) is None


def test_a_sleeve_is_pushed_over_what_comes_later_and_is_no_spigot() -> None:
    design, which = added(stick(), "sleeve", 10.0, 10.0)
    sleeve = design.pieces[1]
    assert which == ("part", 0) and sleeve.sleeve and sleeve.material.name == "silicone rubber"
    study = Study(design)
    line = {one.key: one.mass.mass_g for one in of.slip(study).lines}
    stem, outer = front_radius(next(p for p in design.pieces if p.name == "Stem")), front_radius(sleeve)
    tube = math.pi * (outer**2 - stem**2) * 8.0 * 1.15 / 1000.0
    assert line["piece:Sleeve"] + line["seats:Sleeve"] == pytest.approx(tube, rel=0.01)
    spigot = verdict_of(study, "spigot")
    assert spigot is not None and "Sleeve" not in spigot.figure


def test_a_spigot_off_its_axis_leans_the_float_as_its_moment_says() -> None:
    """A small lean: what was moved sideways over weight times metacentric height."""
    study = Study(stick())
    rest, build = of.upright_rest(study), of.afloat(study)
    assert rest is not None
    for one in crooked(study, 0.2):
        piece = next(p for p in study.design.pieces if p.name == one.piece)
        moved = Study(study.design.but(pieces=tuple(
            replaced(p, at_mm=(p.at_mm[0], 0.2, 0.0)) if p.name == one.piece else p for p in study.design.pieces
        ), rig=replaced(study.design.rig, at_mm=of.line_at(study))))  # fmt: skip
        after = of.afloat(moved)
        aside = after.mass_g * after.centre_mm[1] - build.mass_g * build.centre_mm[1]
        push = after.density_g_mm3 * (after.hull.volume_mm3 * after.hull.moments.centroid_mm[1])
        lean = math.degrees(math.atan(abs(aside - push) / (build.mass_g * rest.gm_min_mm)))
        assert one.leans_deg == pytest.approx(lean, rel=0.25, abs=0.02), piece.name
    for wrong in (0.0, -1.0, 50.0, math.nan):
        with pytest.raises(BadInput):
            crooked(study, wrong)


@pytest.mark.parametrize("name", ["olive", "spindle"])
def test_every_shape_carries_what_was_wanted_by_the_full_solve(name: str) -> None:
    design = stick()
    found = one_shape(design, name, 2.2, 9.0)
    assert found.design is not None and not found.fault
    study = Study(found.design)
    assert capacity(of.unloaded(study), of.line_at(study), 9.0).load_g == pytest.approx(2.2, abs=0.01)
    assert found.mass_g == pytest.approx(of.slip(study).finished.mass_g)
    told = shapes_report(design.name, 2.2, 9.0, (found,), {name: "a.ybob"})
    jsonschema.validate(told, schema_of(CONTRACTS["shapes"]))
    assert told["shapes"][0]["capacity_g"] == pytest.approx(2.2, abs=0.01)
    assert found.cocks_at_g is not None and found.cocks_at_g < 2.2


def test_shapes_that_cannot_be_say_why() -> None:
    design = stick()
    assert "no size carries" in one_shape(design, "pear", 5000.0, 9.0).fault
    with pytest.raises(BadInput, match="there are cylinder"):
        bodied(design, "banana")
    with pytest.raises(BadInput, match="not turned"):
        shapes(read_design(DEMO / "sallow-74.ybob"), 3.0, 9.0)
    with pytest.raises(BadInput, match="more than nothing"):
        shapes(design, 0.0, 9.0)
    assert set(SHAPES) == {"cylinder", "olive", "carrot", "pear", "spindle"}


def test_variants_by_shape_are_refused_for_what_is_not_turned(capsys: pytest.CaptureFixture[str]) -> None:
    code, _, said = run(capsys, "variants", str(DEMO / "sallow-74.ybob"), "--by", "shape")
    assert code == 2 and ("not turned" in said or "tip" in said)
    assert compared(Study(stick()), []) == []


def test_a_dropper_tells_its_rest_without_hooks_and_with_its_bait(capsys: pytest.CaptureFixture[str]) -> None:
    file = DEMO / "creek-dropper-52.ybob"
    design = read_design(file)
    found = dropper(Study(design))
    plain = Study(design.but(fittings=tuple(f for f in design.fittings if f.sort != "hook")))
    rests = [r.pitch_rad for r in of.rests(plain)]
    if design.rig is None or not design.rig.hung:
        assert min(abs(found.no_hooks.pitch_rad - p) for p in rests) < 1e-3
    assert found.no_hooks.draft_mm <= found.bare.draft_mm + 1e-9
    code, said, _ = run(capsys, "dropper", str(file), "--json")
    told = json.loads(said)
    assert code == 0 and told["no_hooks"]["draft_mm"] == pytest.approx(found.no_hooks.draft_mm)
    assert (told["with_bait"] is None) == (of.line_load_g(Study(design)) <= 0.0)


def test_glue_and_sleeve_are_kept_in_the_file(tmp_path: Path) -> None:
    from yellowbob.design.files import write_design

    design, _ = added(stick(), "sleeve", 10.0, 10.0)
    design = design.with_piece(
        2, replaced(design.pieces[2], glue_mm=0.06, material=Material(name="reed", density_g_ml=0.2))
    )
    write_design(design, tmp_path / "a.ybob")
    again = read_design(tmp_path / "a.ybob")
    assert again.pieces == design.pieces


def test_a_found_stem_is_read_from_a_few_diameters_and_shown_as_typed() -> None:
    stem = next(p for p in stick().pieces if p.name == "Stem").shape
    assert isinstance(stem, Turned)
    placed = by_diameters(stem, "0: 2.0, 40: 2.6; 92: 3.1", "mm")
    assert [p.at_mm for p in placed.profile] == [(0.0, 1.0), (40.0, 1.3), (92.0, 1.55)]
    assert by_diameters(stem, diameters_of(placed, "mm"), "mm") == placed
    evenly = by_diameters(stem, "2.0, 2.5, 3.0", "mm")
    assert [p.at_mm[0] for p in evenly.profile] == pytest.approx([0.0, stem.length_mm / 2, stem.length_mm])
    inches = by_diameters(stem, "0: 0.1, 3 in: 1/8 in", "in")
    assert inches.profile[1].at_mm == pytest.approx((76.2, 25.4 / 16))
    # a taper between two diameters has a frustum's volume
    design = stick()
    made = design.with_piece(2, replaced(design.pieces[2], shape=placed))
    r = [1.0, 1.3, 1.55]
    cones = math.pi / 3 * (40 * (r[0] ** 2 + r[0] * r[1] + r[1] ** 2) + 52 * (r[1] ** 2 + r[1] * r[2] + r[2] ** 2))
    assert of.outers(Study(made))[2].volume_mm3 == pytest.approx(cones, rel=1e-9)
    for wrong in ("", "2.0", "2.0, x", "0: 2.0, 3.0", "5: 2.0, 9: 3.0", "0: -2.0, 9: 3.0", "0: 2, " * 41):
        with pytest.raises(BadInput):
            by_diameters(stem, wrong, "mm")
