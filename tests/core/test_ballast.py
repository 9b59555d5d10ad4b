"""Pose, locus, picks, two holes and remedies."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.afloat.rest import all_rests
from yellowbob.ballast.locus import KeepOut, Room, locus_of, two_holes
from yellowbob.ballast.nearest import to_stretch, to_triangles
from yellowbob.ballast.pose import Pose, back_over, metal_g, pose_it, rod_radius_mm
from yellowbob.design.files import read_design, write_design
from yellowbob.design.model import Ballast, Brief, Design, Slug, replaced
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.lines.rays import inside
from yellowbob.shelf.items import BallastStock
from yellowbob.shelf.own import OwnShelf
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import (
    ballasting,
    default_pose,
    followed,
    pair_of,
    room_of,
    shelf_picks,
    without_ballast,
)
from yellowbob.trials.remedies import remedies


def cast_in(design: Design, mass_g: float, at: tuple[float, float, float]) -> Design:
    """The design with one lead slug cast in at a place."""
    size = 3.0
    long = mass_g / (11.34e-3 * math.pi / 4 * size**2)
    slug = Ballast(name="cast", weight=Slug(diameter_mm=size, length_mm=long), at_mm=at)
    return design.but(ballast=(slug,))


def bait(density: float = 0.4) -> Design:
    return turned_design((0, 0, "round"), (25, 11), (60, 9), (90, 0, "round"), density=density)


@pytest.mark.parametrize(("mass", "at"), [(4.0, (52.0, 0.0, -4.0)), (3.2, (38.0, 0.0, -5.0)), (2.2, (60.0, 0.0, -2.0))])
def test_a_known_ballast_is_given_back(mass: float, at: tuple[float, float, float]) -> None:
    built = Study(cast_in(bait(), mass, at))
    rest = of.upright_rest(built)
    assert rest is not None
    work = ballasting(built.design.but(ballast=()), Pose(rest.pitch_rad, rest.roll_rad, draft_mm=rest.draft_mm))
    # net of the wood it takes the place of (a ball too large for the body stands out of it)
    wood = work.bare.build.body.density_g_ml * of.holes(built).ballast[0].gone.mass_g
    assert work.posed.ballast_g == pytest.approx(mass - wood, rel=1e-3)
    off = np.array(at) - work.posed.point_mm
    off -= work.posed.water.up * float(off @ work.posed.water.up)
    assert np.linalg.norm(off) < 0.05
    assert work.locus.feasible
    along = float((np.array(at) - work.posed.point_mm) @ work.posed.water.up)
    assert any(s.low_mm - 0.05 <= along <= s.high_mm + 0.05 for s in work.locus.stretches)
    assert work.posed.gm_min_mm(along) == pytest.approx(rest.gm_min_mm, abs=1e-3)


def test_demo_ballast_is_given_back_net_of_the_wood(demo_design: Design) -> None:
    built = Study(demo_design)
    rest, bare = of.upright_rest(built), of.afloat(Study(without_ballast(demo_design)))
    assert rest is not None
    work = ballasting(demo_design, Pose(rest.pitch_rad, rest.roll_rad, draft_mm=rest.draft_mm))
    net = of.afloat(built).mass_g - bare.mass_g
    assert work.posed.ballast_g == pytest.approx(net, abs=1e-5)
    if net > 0:
        moment = of.afloat(built).mass_g * np.array(of.afloat(built).centre_mm) - bare.mass_g * np.array(bare.centre_mm)
        off = moment / net - work.posed.point_mm
        off -= work.posed.water.up * float(off @ work.posed.water.up)
        assert np.linalg.norm(off) < 0.05


def test_three_ways_to_say_a_waterline(popper: Design) -> None:
    study = Study(popper)
    rest = of.upright_rest(study)
    assert rest is not None
    base = of.afloat(Study(without_ballast(popper)))
    by_draft = pose_it(base, Pose(rest.pitch_rad, draft_mm=rest.draft_mm))
    by_mass = pose_it(base, Pose(rest.pitch_rad, mass_g=by_draft.total_g))
    assert by_mass.draft_mm == pytest.approx(rest.draft_mm, abs=1e-6)
    up = by_draft.water.up
    high = back_over(base.hull, 20.0, up) - by_draft.water.height_mm
    by_back = pose_it(base, Pose(rest.pitch_rad, freeboard_mm=high, at_x_mm=20.0))
    assert by_back.total_g == pytest.approx(by_draft.total_g, rel=1e-9)


def test_back_over_a_cylinder_is_its_radius() -> None:
    hull = of.outer(Study(turned_design((0, 10), (80, 10))))
    assert back_over(hull, 33.0, np.array([0.0, 0.0, 1.0])) == pytest.approx(10.0, rel=4e-3)
    tilt = math.radians(20)
    up = np.array([-math.sin(tilt), 0.0, math.cos(tilt)])
    assert back_over(hull, 33.0, up) == pytest.approx(-33 * math.sin(tilt) + 10 * math.cos(tilt), abs=0.04)
    with pytest.raises(BadInput, match="runs from"):
        back_over(hull, 99.0, up)


def test_poses_that_cannot_be_are_refused(popper: Design) -> None:
    base = of.afloat(Study(without_ballast(popper)))
    with pytest.raises(BadInput, match="one of draft, freeboard or finished mass"):
        pose_it(base, Pose(0.2))
    with pytest.raises(BadInput, match="one of"):
        pose_it(base, Pose(0.2, draft_mm=10.0, mass_g=14.0))
    with pytest.raises(BadInput, match="is not between"):
        pose_it(base, Pose(0.0, draft_mm=90.0))
    with pytest.raises(NoRest, match="at most"):
        pose_it(base, Pose(0.0, mass_g=90.0))
    with pytest.raises(BadInput, match="no ballast is called"):
        without_ballast(popper, ("nothing",))


def test_lower_is_stiffer_and_the_top_end_is_where_it_tips() -> None:
    work = ballasting(bait(), Pose(math.radians(5), mass_g=13.0))
    posed = work.posed
    assert posed.gm_min_mm(-3.0) > posed.gm_min_mm(0.0) > posed.gm_min_mm(3.0)
    assert posed.gm_min_mm(posed.highest_stable_mm) == pytest.approx(0.0, abs=1e-9)
    slope = (posed.gm_min_mm(0.0) - posed.gm_min_mm(1.0)) / 1.0
    assert slope == pytest.approx(posed.ballast_g / posed.total_g, rel=1e-9)


def test_the_locus_keeps_walls_wires_and_other_holes(popper: Design) -> None:
    rest = of.upright_rest(Study(popper))
    assert rest is not None
    work = ballasting(popper, Pose(rest.pitch_rad, draft_mm=rest.draft_mm), radius_mm=2.0)
    assert work.locus.best is not None
    for stretch in work.locus.stretches:
        lams = np.linspace(stretch.low_mm + 1e-3, stretch.high_mm - 1e-3, 15)
        places = np.array([work.posed.place(v) for v in lams])
        assert all(inside(work.room.body, p) for p in places)
        away = np.empty(len(places))
        to_triangles(places, work.room.body.corners, away)
        assert away.min() >= work.room.wall_mm + 2.0 - 0.02
        for one in work.room.stretches:
            assert to_stretch(places, one.start_mm, one.end_mm).min() >= one.radius_mm + 2.0 + work.room.apart_mm - 0.02
    # just beyond an end something bites
    beyond = work.posed.place(work.locus.best.low_mm - 0.05)
    gap, names = work.room.gaps(beyond[None], 2.0)
    assert gap[0] < 0
    assert names[0] == work.locus.best.below


def test_distances_to_triangles_against_brute_force() -> None:
    rng = np.random.default_rng(2)
    corners, places = rng.normal(size=(30, 3, 3)) * 5, rng.normal(size=(40, 3)) * 6
    found = np.empty(len(places))
    to_triangles(places, corners, found)
    n = 60
    i, j = np.meshgrid(np.arange(n + 1), np.arange(n + 1), indexing="ij")
    keep = i + j <= n
    a, b = i[keep] / n, j[keep] / n
    spread = np.einsum("kc,mcx->mkx", np.stack([1 - a - b, a, b], axis=1), corners).reshape(-1, 3)
    brute = np.array([np.linalg.norm(spread - p, axis=1).min() for p in places])
    assert (found <= brute + 1e-9).all()
    assert np.abs(found - brute).max() < 0.25


def test_a_line_beside_the_body_says_so() -> None:
    build = of.afloat(Study(bait())).mass_g
    work = ballasting(bait(), Pose(math.radians(30), mass_g=build + 0.1))
    assert not work.locus.feasible
    assert "runs behind the body" in work.locus.limit
    assert work.locus.in_body == ()
    down = ballasting(bait(), Pose(math.radians(-30), mass_g=build + 0.1))
    assert "runs ahead of the body" in down.locus.limit


def test_too_heavy_says_by_how_much_and_what_would_help(popper: Design) -> None:
    work = ballasting(popper, Pose(math.radians(20), mass_g=13.5))
    assert work.too_heavy_g == pytest.approx(-work.posed.ballast_g)
    assert work.too_heavy_g > 0
    assert "too heavy" in work.locus.limit
    tried = remedies(work)
    assert len(tried) >= 4
    lighter = [r for r in tried if "g/mL" in r.words]
    assert all(r.ballast_g > work.posed.ballast_g for r in lighter)
    for one in tried:
        again = ballasting(
            one.change.make(work.bare.build), work.pose, keep=tuple(b.name for b in work.bare.build.ballast)
        )
        assert again.posed.ballast_g == pytest.approx(one.ballast_g)


def test_two_holes_balance_by_the_lever_rule() -> None:
    design = bait()
    work = ballasting(design, Pose(math.radians(4), mass_g=14.0))
    middle = work.posed.place(work.locus.best.low_mm if work.locus.best else 0.0)
    # a wire right across where the line runs shuts it
    shut = Room(
        work.room.body, work.room.wall_mm, (),
        (KeepOut("wire", middle - [0, 0, 30], middle + [0, 0, 30], 3.0),),
    )  # fmt: skip
    assert not locus_of(work.posed, shut, 2.5).feasible
    pair = two_holes(work.posed, shut, 2.5)
    assert pair is not None
    (m1, m2), (p1, p2) = pair.masses_g, map(np.array, pair.places_mm)
    assert m1 + m2 == pytest.approx(work.posed.ballast_g)
    assert min(m1, m2) > 0
    centre = (m1 * p1 + m2 * p2) / (m1 + m2)
    off = centre - work.posed.point_mm
    off -= work.posed.water.up * float(off @ work.posed.water.up)
    assert np.linalg.norm(off) < 1e-9
    small = 2.5 / 2 ** (1 / 3)
    for place in (p1, p2):
        assert shut.gaps(place[None], small)[0][0] >= 0
    assert float(np.linalg.norm(p1 - p2)) >= 2 * small


def test_metal_in_the_woods_place_and_its_radius() -> None:
    volume_ml, lead, wood = 0.5, 11.34, 0.45
    assert metal_g(volume_ml * (lead - wood), lead, wood) == pytest.approx(volume_ml * lead)
    r = rod_radius_mm(5.0, lead)
    assert math.pi * r**2 * 6 * r * lead / 1000 == pytest.approx(5.0)


@pytest.mark.parametrize("name", ["sallow-74", "sill-darter-98"])
def test_picks_sit_as_promised_from_the_saved_file(name: str, tmp_path: Path) -> None:
    design = read_design(DEMO / f"{name}.ybob")
    rest = of.upright_rest(Study(design))
    assert rest is not None
    work = ballasting(design, Pose(rest.pitch_rad + math.radians(1.5), draft_mm=rest.draft_mm))
    found = shelf_picks(work, most=5)
    assert found
    assert [p.score for p in found] == sorted(p.score for p in found)
    for number, pick in enumerate(found):
        file = tmp_path / f"{number}.ybob"
        write_design(work.bare.design.but(ballast=pick.ballast), file)
        again = Study(read_design(file))
        near = max(all_rests(of.afloat(again)), key=lambda r: float(np.dot(r.up, pick.at_rest.rest.up)))
        assert math.degrees(near.pitch_rad) == pytest.approx(pick.at_rest.pitch_deg, abs=0.2)
        assert near.draft_mm == pytest.approx(pick.at_rest.draft_mm, abs=0.1)
        assert of.share_of(again, near) == pytest.approx(pick.at_rest.landing_share, abs=0.01)
        assert sum(p.weight.mass_g for p in of.holes(again).ballast) == pytest.approx(pick.mass_g, rel=1e-9)
        for placed, centre in zip(of.holes(again).ballast, pick.centres_mm, strict=True):
            assert placed.weight.centre_mm == pytest.approx(centre, abs=0.05)
            assert placed.proud_mm == 0.0
        assert abs(pick.miss_pitch_deg) < 6


def test_picks_come_from_what_is_counted_and_without_lead_when_asked(popper: Design) -> None:
    rest = of.upright_rest(Study(popper))
    assert rest is not None
    work = ballasting(popper, Pose(rest.pitch_rad, draft_mm=rest.draft_mm))
    assert shelf_picks(work, only_counted=True) == []
    shelf = OwnShelf()
    shelf.set_count(BallastStock, "tungsten rod 6 mm", 40.0)
    shelf.set_count(BallastStock, "lead rod 8 mm", 100.0)
    found = shelf_picks(work, only_counted=True)
    assert {b.stock for p in found for b in p.ballast} <= {"tungsten rod 6 mm", "lead rod 8 mm"}
    assert any(p.lead for p in found)
    assert all(p.left is not None and p.left > 0 for p in found)
    free = shelf_picks(work, only_counted=True, lead=False)
    assert free
    assert not any(p.lead for p in free)
    shelf.set_count(BallastStock, "tungsten rod 6 mm", 2.0)
    assert shelf_picks(work, only_counted=True, lead=False) == []


def test_a_kept_ballast_stays(popper: Design) -> None:
    more = popper.but(ballast=(*popper.ballast, replaced(popper.ballast[0], name="second", drilling=replaced(
        popper.ballast[0].drilling, place_mm=(52.0, 0.0), depth_mm=5.0, diameter_mm=4.0), weight=Slug(
        diameter_mm=3.8, length_mm=3.0))))  # fmt: skip
    work = ballasting(more, Pose(math.radians(24), mass_g=18.0), keep=("second",))
    assert [b.name for b in work.bare.design.ballast] == ["second"]
    assert "second" in {one.name for one in work.room.stretches}


def test_a_drag_asks_the_same_as_starting_over(popper: Design) -> None:
    first = ballasting(popper, Pose(math.radians(20), mass_g=18.0))
    dragged = followed(first, Pose(math.radians(25), mass_g=18.5))
    fresh = ballasting(popper, Pose(math.radians(25), mass_g=18.5), radius_mm=first.locus.radius_mm)
    assert dragged.posed.ballast_g == pytest.approx(fresh.posed.ballast_g)
    assert dragged.posed.point_mm == pytest.approx(fresh.posed.point_mm)
    assert dragged.locus.limit == fresh.locus.limit


def test_tilt_alone_takes_the_briefs_mass(popper: Design) -> None:
    pose = default_pose(popper, Study(popper), 0.4)
    assert popper.brief.mass_g is not None
    assert pose.mass_g == (popper.brief.mass_g.least + popper.brief.mass_g.most) / 2
    loaded = popper.but(brief=Brief())
    assert default_pose(loaded, Study(loaded), 0.0).mass_g == pytest.approx(of.slip(Study(loaded)).finished.mass_g)
    # with nothing in it yet, the answer is not nothing: the lightest mass at which the wood has room on the line
    plain = bait()
    assert not plain.ballast
    pose = default_pose(plain, Study(plain), 0.1)
    work = ballasting(plain, pose)
    assert work.locus.feasible and work.posed.ballast_g > 0.1
    lighter = ballasting(plain, Pose(0.1, mass_g=of.slip(Study(plain)).finished.mass_g + work.posed.ballast_g / 3))
    assert work.locus.best is not None
    assert lighter.locus.best is None or (
        lighter.locus.best.high_mm - lighter.locus.best.low_mm < work.locus.best.high_mm - work.locus.best.low_mm + 0.5
    )


def test_room_knows_seats_hollows_and_eyes() -> None:
    wake = Study(read_design(DEMO / "print-wake-92.ybob"))
    assert "the hollow" in {name for name, _ in room_of(wake).solids}
    osier = room_of(Study(read_design(DEMO / "osier-96.ybob")))
    assert any("wire" in one.name.lower() for one in osier.stretches)


def test_no_room_gives_a_pair_or_nothing_never_a_wrong_one() -> None:
    build = of.afloat(Study(bait())).mass_g
    assert pair_of(ballasting(bait(), Pose(math.radians(30), mass_g=build + 0.1))) is None
    assert pair_of(ballasting(bait(), Pose(math.radians(30), mass_g=build - 0.5))) is None
