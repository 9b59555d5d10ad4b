"""Landings: shares against brute-force descent, symmetry, knocks, righting arms, the capillary band."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh
from numpy.typing import NDArray

from tests.conftest import DEMO, exact_cylinder, exact_sphere, float_solid, mesh_of, turned_design
from yellowbob.afloat.balance import RESULTS, attitude
from yellowbob.afloat.immersion import height_for_mass, immersed
from yellowbob.afloat.kernel import SUMS
from yellowbob.afloat.landing import grid, rest_map
from yellowbob.afloat.meniscus import capillary, holds
from yellowbob.afloat.rest import Afloat, all_rests, floated_at, rest_near
from yellowbob.afloat.righting import level_axis, righting
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.ground.compiled import compiled
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import NoRest
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study, of
from yellowbob.trials.thrown import held_at, held_words, landed

Array = NDArray[np.float64]


@compiled
def _down(vertices, faces, table, points, mass, centre, density, gravity, starts, ups, ends):
    """Plain steepest descent on the exact slope, short steps halved at every turn back."""
    e, high, sums, out = np.empty((2, 3)), np.empty(vertices.shape[0]), np.empty(SUMS), np.empty(RESULTS)
    u, before, way = np.empty(3), np.zeros(3), np.empty(3)
    for s in range(starts.shape[0]):
        u[:] = starts[s]
        before[:] = 0.0
        step, guess = 0.03, 0.0
        ends[s] = -1
        for _ in range(900):
            attitude(vertices, faces, table, points, mass, centre, density, gravity, u, guess, 1e-5, e, high, sums, out)
            guess = out[0]
            near, which = -2.0, 0
            for k in range(ups.shape[0]):
                dot = u[0] * ups[k, 0] + u[1] * ups[k, 1] + u[2] * ups[k, 2]
                if dot > near:
                    near, which = dot, k
            if near > 0.9995:
                ends[s] = which
                break
            size = np.sqrt(out[2] ** 2 + out[3] ** 2)
            turn = 0.0
            for i in range(3):
                way[i] = -(out[2] * e[0, i] + out[3] * e[1, i]) / size
                turn += way[i] * before[i]
                before[i] = way[i]
            if turn < -0.2:
                step *= 0.5
            size = 0.0
            for i in range(3):
                u[i] += step * way[i]
                size += u[i] * u[i]
            for i in range(3):
                u[i] /= np.sqrt(size)


def brute_shares(afloat: Afloat, ups: Array, count: int) -> Array:
    starts = np.random.default_rng(3).normal(size=(count, 3))
    starts /= np.linalg.norm(starts, axis=1, keepdims=True)
    ends = np.empty(count, np.int64)
    _down(*afloat.arrays, starts, ups, ends)
    assert (ends < 0).mean() < 0.01
    counted = np.array([(ends == k).sum() for k in range(len(ups))], dtype=float)
    return counted / counted.sum()


def lopsided() -> Afloat:
    mesh = exact_cylinder(9.0, 28.0, 40)
    mesh = Mesh(mesh.vertices * [0.8, 1.0, 0.55], mesh.faces)
    return float_solid(mesh, 0.55, centre=mesh.moments.centroid_mm + [0.05, -0.1, 0.2])


@pytest.mark.parametrize(
    "afloat", [lopsided(), float_solid(mesh_of(trimesh.creation.box((60, 14, 9))), 0.6)], ids=["drum", "plank"]
)
def test_shares_agree_with_brute_force_descent(afloat: Afloat) -> None:
    rests = all_rests(afloat)
    assert len(rests) >= 2
    found = rest_map(afloat, rests)
    count = 2000
    brute = brute_shares(afloat, np.array([r.up for r in rests]), count)
    # four standard errors of the sampling, and half a per cent of our own
    slack = 4 * math.sqrt(0.25 / count) + 0.005
    assert np.abs(brute - found.shares).max() < slack
    assert sum(found.shares) == pytest.approx(1.0, abs=1e-12)


def test_symmetric_bodies_have_symmetric_shares() -> None:
    box = float_solid(mesh_of(trimesh.creation.box((50, 20, 6))), 0.5)
    found = rest_map(box, all_rests(box))
    assert found.shares == pytest.approx([0.5, 0.5], abs=1e-3)
    leaning = float_solid(mesh_of(trimesh.creation.box((50, 20, 6))), 0.5, centre=(6.0, 0.0, 0.0))
    twice = rest_map(leaning, all_rests(leaning))
    by_side = {round(r.up[2]): s for r, s in zip(twice.rests, twice.shares, strict=True)}
    assert by_side[1] == pytest.approx(by_side[-1], abs=0.004)
    # a square bar between 0.2113 and 0.7887 has four rests with equal shares
    bar = float_solid(mesh_of(trimesh.creation.box((80, 10, 10))), 0.5)
    four = rest_map(bar, all_rests(bar))
    assert len(four.shares) == 4
    assert four.shares == pytest.approx([0.25] * 4, abs=0.006)


def test_the_only_rest_takes_every_landing(popper: Design) -> None:
    found = of.landings(Study(popper))
    assert found.shares == (1.0,)
    assert found.knocks_nj == (math.inf,)
    assert set(found.labels.tolist()) == {0}


def test_neutral_bodies_have_one_rest_and_all_of_it() -> None:
    ball = float_solid(exact_sphere(10.0, 3), 0.4)
    assert rest_map(ball, all_rests(ball)).shares == (1.0,)
    log = float_solid(exact_cylinder(5.0, 60.0, 64), 0.5)
    found = rest_map(log, all_rests(log))
    assert [r.neutral for r in found.rests] == [True]
    assert found.shares == pytest.approx((1.0,))


def test_a_sinker_has_an_empty_map() -> None:
    study = Study(turned_design((0, 5), (40, 5), density=1.4))
    assert of.landings(study).shares == ()
    with pytest.raises(NoRest):
        height_for_mass(of.afloat(study), np.array([0.0, 0.0, 1.0]), of.afloat(study).mass_g)


def test_knock_of_a_plank_is_the_energy_on_edge() -> None:
    """The pass between the two flat rests of a plank is that on its long edge: E on edge less E flat, in closed form."""
    long, wide, thick, s = 60.0, 14.0, 9.0, 0.5
    afloat = float_solid(mesh_of(trimesh.creation.box((long, wide, thick))), s)
    found = rest_map(afloat, all_rests(afloat))
    weight = afloat.mass_g * GRAVITY_MM_S2
    # G stands half a depth over the keel, B half a draft: E = W·(depth - draft)/2
    flat, edge = weight * (thick - s * thick) / 2, weight * (wide - s * wide) / 2
    lowest = min(found.knocks_nj)
    assert lowest <= (edge - flat) * 1.001
    # the way over may be lower than square on edge, but never lower than the highest attitude on the best path sampled
    angles = np.linspace(0, math.pi / 2, 181)
    over = max(floated_at(afloat, (0.0, math.sin(a), math.cos(a))).energy_nj for a in angles)
    assert lowest == pytest.approx(over - flat, rel=2e-3)


def test_a_path_leads_down_to_its_rest() -> None:
    afloat = lopsided()
    rests = all_rests(afloat)
    found = rest_map(afloat, rests)
    for start in np.random.default_rng(8).normal(size=(12, 3)):
        up = start / np.linalg.norm(start)
        path, end = found.path_from(up)
        assert end >= 0
        assert float(path[-1] @ np.asarray(rests[end].up)) > 0.999
        energies = [floated_at(afloat, (float(p[0]), float(p[1]), float(p[2]))).energy_nj for p in path[::8]]
        assert energies[-1] <= energies[0] + 1e-6 * afloat.scale_nj
        assert max(np.diff(energies)) < 0.02 * (max(energies) - min(energies))


def test_the_grid_covers_the_sphere_once() -> None:
    g = grid()
    assert len(g.directions) >= 2500
    assert g.areas.sum() == pytest.approx(1.0)
    assert np.linalg.norm(g.directions, axis=1) == pytest.approx(1.0)
    # each triangle's neighbour across its first corner shares the other two
    shared = [len(set(g.triangles[f]) & set(g.triangles[g.across[f, 0]])) for f in range(0, len(g.triangles), 97)]
    assert set(shared) == {2}


def test_righting_arm_of_a_box_barge_is_the_wall_sided_formula() -> None:
    """GZ = sin φ (GM + BM/2·tan²φ) while the deck is dry and the bilge wet (wall-sided formula)."""
    long, beam, depth, s = 200.0, 40.0, 30.0, 0.5
    afloat = float_solid(mesh_of(trimesh.creation.box((long, beam, depth))), s, centre=(0.0, 0.0, -6.0))
    up = (0.0, 0.0, 1.0)
    curve = righting(afloat, up, level_axis(up, 0.0), count=181)
    draft = s * depth
    bm = beam**2 / 12 / draft
    bg = -6.0 - (-depth / 2 + draft / 2)
    for k in (5, 12, 20):
        phi = float(curve.angles_rad[k])
        assert math.tan(phi) * beam / 2 < min(draft, depth - draft)
        assert curve.arms_mm[k] == pytest.approx(math.sin(phi) * (bm - bg + bm / 2 * math.tan(phi) ** 2), rel=1e-4)
    assert curve.arms_mm[0] == pytest.approx(0.0, abs=1e-9)
    assert 0 < curve.range_rad <= math.pi
    assert curve.area_mm_rad > 0


def test_range_ends_where_the_arm_turns() -> None:
    afloat = float_solid(mesh_of(trimesh.creation.box((60, 20, 8))), 0.5)
    up = (0.0, 0.0, 1.0)
    curve = righting(afloat, up, level_axis(up, 0.0), count=361)
    # a plank is alike on both sides: it turns over past its edge, at 90°
    assert math.degrees(curve.range_rad) == pytest.approx(90.0, abs=1.0)
    # the arms' area up to there times the weight is the knock that turns it over
    knock = min(rest_map(afloat, all_rests(afloat)).knocks_nj)
    assert curve.area_mm_rad * afloat.mass_g * GRAVITY_MM_S2 == pytest.approx(knock, rel=0.01)
    with pytest.raises(ValueError, match="upright"):
        righting(afloat, up, np.array([0.0, 0.0, 1.0]))


def test_an_axis_is_level_and_across_its_bearing() -> None:
    for up in ((0.0, 0.0, 1.0), (-0.6, 0.0, 0.8), (1.0, 0.0, 0.0)):
        one, other = level_axis(up, 0.0), level_axis(up, math.pi / 2)
        for axis in (one, other):
            assert float(axis @ np.asarray(up)) == pytest.approx(0.0, abs=1e-12)
            assert np.linalg.norm(axis) == pytest.approx(1.0)
        assert float(one @ other) == pytest.approx(0.0, abs=1e-12)


def test_immersion_and_height_are_each_others_inverse(popper: Design) -> None:
    study = Study(popper)
    rest, afloat = of.upright_rest(study), of.afloat(study)
    assert rest is not None
    under = immersed(afloat, np.asarray(rest.up), rest.height_mm)
    assert under.volume_mm3 * afloat.density_g_mm3 == pytest.approx(afloat.mass_g, rel=1e-9)
    assert under.centre_mm == pytest.approx(rest.buoyancy_mm, abs=1e-6)
    gm = under.inertia_min_mm4 / under.volume_mm3 - float(
        (np.asarray(afloat.centre_mm) - under.centre_mm) @ np.asarray(rest.up)
    )
    assert gm == pytest.approx(rest.gm_min_mm, rel=1e-6)
    assert height_for_mass(afloat, np.asarray(rest.up), afloat.mass_g) == pytest.approx(rest.height_mm, abs=1e-9)


def test_capillary_band_of_a_two_millimetre_tip() -> None:
    """γ·πd/g: ± 0.047 g for a 2 mm tip."""
    pin = float_solid(exact_cylinder(1.0, 80.0, 256), 0.5, centre=(0.0, 0.0, -30.0))
    rest = rest_near(pin, (0.0, 0.0, 1.0))
    band = capillary(pin, rest.up, rest.height_mm)
    assert band.perimeter_mm == pytest.approx(2 * math.pi, rel=1e-3)
    assert band.load_g == pytest.approx(72.8 * 2 * math.pi / GRAVITY_MM_S2, rel=1e-3)
    assert band.load_g == pytest.approx(0.047, abs=0.0005)
    assert band.draft_mm == pytest.approx(band.load_g / (0.001 * math.pi), rel=1e-3)


@pytest.mark.parametrize(("long", "wide"), [(60.0, 20.0), (90.0, 8.0), (30.0, 30.0)])
def test_a_meniscus_round_a_flat_plank_holds_what_its_edges_can(long: float, wide: float) -> None:
    plank = float_solid(mesh_of(trimesh.creation.box((long, wide, 6.0))), 0.3)
    line = 72.8 * (long * wide + wide**2 / 2.0)  # two long edges at half the width, the ends as they lie
    across = 72.8 * (wide * long + long**2 / 2.0)
    for turn in (0.0, 0.4):
        axes = np.array([[math.cos(turn), math.sin(turn), 0.0], [-math.sin(turn), math.cos(turn), 0.0]])
        found = [holds(plank, (0.0, 0.0, 1.0), -3.0 + 6.0 * 0.3 - 1e-3, a) for a in axes]
        if turn == 0.0:
            assert found == pytest.approx([across, line], rel=1e-9)
        else:  # numerically, over the rim
            s = (np.arange(4000) + 0.5) / 4000 - 0.5
            rim = np.concatenate([np.stack([long * s, np.full(4000, w)], 1) for w in (-wide / 2, wide / 2)]
                                 + [np.stack([np.full(4000, e), wide * s], 1) for e in (-long / 2, long / 2)])  # fmt: skip
            weight = np.repeat([long, long, wide, wide], 4000) / 4000
            wanted = [72.8 * float((np.abs(rim @ a[:2]) * weight).sum()) for a in axes]
            assert found == pytest.approx(wanted, rel=1e-3)
    assert holds(plank, (0.0, 0.0, 1.0), 50.0, (1.0, 0.0, 0.0)) == 0.0


def test_a_meniscus_holds_fewer_of_the_larger_and_none_near_its_rest() -> None:
    # of the same shape and density, weight's turning grows with the fourth power of the size, a meniscus' with the square
    shares = []
    for size in (0.5, 1.0, 4.0):
        box = mesh_of(trimesh.creation.box((50.0 * size, 24.0 * size, 8.0 * size)))
        build = float_solid(box, 0.45, (0.0, 0.0, -2.5 * size))
        found = rest_map(build, all_rests(build))
        rest = rest_near(build, (0.0, 0.0, 1.0))
        ups = [d for d in grid().directions if found.ends_in(d) == 0]
        shares.append(sum(held_at(found, ups, rest)) / len(ups))
        near = [(math.sin(a), 0.1 * math.sin(a), math.cos(a)) for a in np.radians([0.5, 4.0, 8.0])]
        assert held_at(found, [np.array(n) for n in near], rest) == [False] * 3
    assert shares[0] > shares[1] > shares[2] and shares[0] > 0.05 > shares[2]


def test_throws_come_right_at_most_as_often_where_a_meniscus_holds_them() -> None:
    study = Study(read_design(DEMO / "weir-cup-62.ybob"))
    found = landed(study, 20.0, 35.0, 1.5)
    assert found.comes_right is not None and found.unheld is not None and found.carried_share is not None
    assert 0.0 <= found.unheld < found.comes_right
    rest = of.upright_rest(study)
    assert rest is not None
    long = capillary(of.afloat(study), rest.up, rest.height_mm).perimeter_mm
    assert found.carried_share == pytest.approx(72.8 * long / (GRAVITY_MM_S2 * of.afloat(study).mass_g), rel=1e-9)
    assert f"{100 * found.unheld:.0f} %" in held_words(found) and f"{100 * found.carried_share:.0f} %" in held_words(
        found
    )
