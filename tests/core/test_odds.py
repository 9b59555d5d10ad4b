"""Build odds: against a linear analysis, the same on one core or two, and what they say matters."""

from __future__ import annotations

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.afloat.rest import Afloat, face_table, rest_near
from yellowbob.ballast import odds as odds_module
from yellowbob.ballast.many import table_of
from yellowbob.ballast.odds import Tolerance, drawn, shares_of_variance, simulate, spread_of
from yellowbob.design.files import read_design
from yellowbob.design.model import Brief, Design, Span, replaced
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of
from yellowbob.trials.odds import linear_sigma_pitch_deg, odds, probes_of, tolerances_of


def test_small_tolerances_agree_with_the_linear_analysis(demo_design: Design) -> None:
    study = Study(demo_design)
    rest = of.upright_rest(study)
    assert rest is not None
    small = tuple(replace(t, sigma=0.05 * t.sigma) for t in tolerances_of(study))
    done = simulate(of.afloat(study), rest, small, probes_of(study), 3000, 11)
    linear = 0.05 * linear_sigma_pitch_deg(study, tolerances_of(study))
    # the sampling error of σ from n draws is 1/√(2n)
    assert math.degrees(float(done.pitch_rad.std())) == pytest.approx(linear, rel=4 / math.sqrt(2 * 3000) + 0.02)
    assert done.floats.all()


def test_each_build_is_settled_as_if_alone(popper: Design) -> None:
    study = Study(popper)
    rest, afloat = of.upright_rest(study), of.afloat(study)
    assert rest is not None
    tolerances = tolerances_of(study)
    done = simulate(afloat, rest, tolerances, np.zeros((0, 3)), 40, 4)
    for k in range(0, 40, 7):
        off = done.draws[k] * np.array([t.sigma for t in tolerances])
        mass = afloat.mass_g + float(off @ np.array([t.mass_g for t in tolerances]))
        moment = afloat.mass_g * np.array(afloat.centre_mm) + off @ np.array([t.moment_g_mm for t in tolerances])
        film = float(off @ np.array([t.film_mm for t in tolerances]))
        hull = Mesh(afloat.hull.vertices + afloat.hull.vertex_normals() * film, afloat.hull.faces)
        x, y, z = (float(v) for v in moment / mass)
        alone = rest_near(Afloat(hull, mass, (x, y, z), afloat.density_g_mm3, afloat.points), rest.up)
        assert math.degrees(done.pitch_rad[k]) == pytest.approx(math.degrees(alone.pitch_rad), abs=0.02)
        assert done.draft_mm[k] == pytest.approx(alone.draft_mm, abs=0.01)
        assert done.mass_g[k] == pytest.approx(mass)
        lift = afloat.density_g_mm3 * (hull.volume_mm3 + sum(p.volume_mm3 for p in afloat.points))
        assert done.reserve_g[k] == pytest.approx(lift - mass, abs=1e-6)


def test_the_tolerances_are_the_slips_own_masses(popper: Design) -> None:
    """A step of the wood's density changes mass and moment as the slip of a build of that density does."""
    study = Study(popper)
    wood = next(t for t in tolerances_of(study) if t.key == "density:body")
    step = 0.01
    other = Study(popper.of_material(density_g_ml=popper.body.density_g_ml + step))
    one, two = of.slip(study).finished, of.slip(other).finished
    assert two.mass_g - one.mass_g == pytest.approx(wood.mass_g * step, rel=1e-9)
    moved = two.mass_g * two.centre_mm - one.mass_g * one.centre_mm
    assert moved == pytest.approx(wood.moment_g_mm * step, rel=1e-6, abs=1e-9)


def test_a_hole_moved_moves_the_moment_by_its_net_mass(popper: Design) -> None:
    study = Study(popper)
    name = popper.ballast[0].name
    place = next(t for t in tolerances_of(study) if t.key == f"place along:{name}")
    drilling = popper.ballast[0].drilling
    assert drilling is not None
    step = 0.3
    a, b = drilling.place_mm
    moved = replaced(popper.ballast[0], drilling=replaced(drilling, place_mm=(a + step, b)))
    other = Study(popper.but(ballast=(moved,)))
    one, two = of.slip(study).finished, of.slip(other).finished
    change = (two.mass_g * two.centre_mm - one.mass_g * one.centre_mm)[0]
    # the belly slopes, so the hole also slides a little up or down: along the body it is the net mass
    assert change == pytest.approx(place.moment_g_mm[0] * step, rel=0.02)


def test_the_same_seed_is_the_same_on_one_core_or_two(popper: Design, monkeypatch: pytest.MonkeyPatch) -> None:
    study = Study(popper)
    two = odds(study, 700, 3, compare=False)
    monkeypatch.setattr("concurrent.futures.ThreadPoolExecutor", lambda _: ThreadPoolExecutor(1))
    one = odds(study, 700, 3, compare=False)
    assert np.array_equal(one.done.ups, two.done.ups)
    assert np.array_equal(one.done.draft_mm, two.done.draft_mm)
    assert (one.floats, one.sits, one.comes_right) == (two.floats, two.sits, two.comes_right)
    other = odds(study, 700, 4, compare=False)
    assert not np.array_equal(one.done.ups, other.done.ups)
    # fewer builds of a seed are the first of more of them
    assert np.array_equal(drawn(one.done.tolerances, 300, 3), drawn(one.done.tolerances, 700, 3)[:300])


def test_it_can_be_stopped_and_tells_how_far_it_is(popper: Design) -> None:
    study = Study(popper)
    told: list[int] = []

    def stop(done: int) -> bool:
        told.append(done)
        return done < 2 * odds_module.CHUNK

    found = odds(study, 5000, 1, stop)
    assert told == [odds_module.CHUNK, 2 * odds_module.CHUNK]
    assert found.builds == 2 * odds_module.CHUNK
    assert found.if_weighed is None


def test_a_weighed_piece_and_a_jig_narrow_the_spread(popper: Design) -> None:
    study = Study(popper)

    def sigma(which: tuple[Tolerance, ...]) -> float:
        rest = of.upright_rest(study)
        assert rest is not None
        return float(simulate(of.afloat(study), rest, which, np.zeros((0, 3)), 800, 2).pitch_rad.std())

    by_eye = sigma(tolerances_of(study))
    assert sigma(tolerances_of(study, weighed=True)) < 0.6 * by_eye
    both = sigma(tolerances_of(study, weighed=True, jig=True))
    assert both < sigma(tolerances_of(study, weighed=True))
    known = popper.of_material(measured=True, density_u_g_ml=0.002)
    wood = next(t for t in tolerances_of(Study(known)) if t.key == "density:body")
    assert wood.sigma == 0.002


def test_what_matters_most_is_what_varies_most(popper: Design) -> None:
    found = odds(Study(popper), 1500, 1, compare=False)
    assert found.matters[0].key == "density:body"
    assert sum(m.share for m in found.matters) == pytest.approx(1.0)
    shares = [m.share for m in found.matters]
    assert shares == sorted(shares, reverse=True)


def test_shares_of_variance_of_a_known_sum() -> None:
    draws = np.random.default_rng(1).normal(size=(4000, 3))
    values = 3.0 * draws[:, 0] + 4.0 * draws[:, 1] + 7.0
    assert shares_of_variance(draws, values) == pytest.approx([9 / 25, 16 / 25, 0.0], abs=1e-9)
    assert shares_of_variance(draws, np.ones(4000)) == pytest.approx([0, 0, 0])


def test_a_build_on_the_edge_floats_half_the_time() -> None:
    """Wood of a mean density just the water's: half the pieces are lighter."""
    body = turned_design((0, 8), (60, 8), density=0.5)
    dense = of.water(Study(body)).density_g_ml
    study = Study(body.of_material(density_g_ml=dense * 0.9999))
    rest = of.upright_rest(study)
    assert rest is not None
    done = simulate(of.afloat(study), rest, tolerances_of(study), np.zeros((0, 3)), 3000, 6)
    assert done.floats.mean() == pytest.approx(0.5, abs=4 * math.sqrt(0.25 / 3000) + 0.005)
    assert (done.reserve_g[done.floats] > 0).all()
    assert (done.reserve_g[~done.floats] <= 0).all()


def test_the_briefs_draft_counts_too(popper: Design) -> None:
    study = Study(popper)
    rest = of.upright_rest(study)
    assert rest is not None
    loose = odds(study, 600, 1, compare=False)
    tight = popper.but(brief=replaced(popper.brief, draft_mm=Span(least=rest.draft_mm - 0.2, most=rest.draft_mm + 0.2)))
    assert odds(Study(tight), 600, 1, compare=False).sits < loose.sits
    none = popper.but(brief=Brief())
    assert "°" in odds(Study(none), 300, 1, compare=False).wanted


def test_a_build_with_other_rests_does_not_come_right() -> None:
    bare = Study(read_design(DEMO / "moth-crawler-64.ybob").but(ballast=()))
    assert len(of.rests(bare)) > 1
    assert odds(bare, 300, 1, compare=False).comes_right < 0.5


def test_a_build_with_one_rest_comes_right(demo_design: Design) -> None:
    found = odds(Study(demo_design), 300, 1, compare=False)
    # of those that float: a float that is shotted down to its tip is drawn under by a little denser a body
    assert found.comes_right > 0.95 * found.floats


def test_impossible_odds_are_refused(popper: Design) -> None:
    study = Study(popper)
    with pytest.raises(BadInput, match="ask for 1 to"):
        odds(study, 0)
    with pytest.raises(NoRest, match="sinks as drawn"):
        odds(Study(turned_design((0, 5), (40, 5), density=1.4)))


def test_spreads_and_tables() -> None:
    values = np.arange(101.0)
    spread = spread_of(values)
    assert (spread.low, spread.middle, spread.high, spread.mean) == (5.0, 50.0, 95.0, 50.0)
    assert math.isnan(spread_of(np.zeros(0)).mean)
    hull = of.outer(Study(turned_design((0, 5), (40, 7))))
    table = np.empty((len(hull.faces), 7))
    volume = table_of(np.ascontiguousarray(hull.vertices), hull.faces, table)
    assert volume == pytest.approx(hull.volume_mm3, rel=1e-12)
    assert table == pytest.approx(face_table(hull.vertices, hull.faces), abs=1e-9)
