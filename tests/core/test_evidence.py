"""What weighings say: nothing at the forecast, the truth of simulated pieces at the stated confidence, mistakes by name."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from tests.conftest import DEMO, turned_design
from yellowbob.ballast.pose import Pose
from yellowbob.design.edits import Grip, with_grip
from yellowbob.design.files import read_design, read_json, to_json
from yellowbob.design.model import Design, Weighing, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import materials
from yellowbob.study import Study, of
from yellowbob.study.evidence import rewritten, ticked, weighed
from yellowbob.trials.ballasting import ballasting, default_pose, shelf_picks
from yellowbob.trials.hook_sizes import resized
from yellowbob.trials.ladder import ladder
from yellowbob.trials.odds import odds, tolerances_of
from yellowbob.trials.trim import trims
from yellowbob.trials.variants import by_hooks, by_wood, compared, sweep
from yellowbob.weights.causes import causes_of, causes_of_lines, density_sigma
from yellowbob.weights.evidence import scale_u_g, share_on_scale, stage_of_line, things_of


def popper() -> Design:
    return read_design(DEMO / "sallow-74.ybob")


def at_stage(study: Study, stage: Any, shares: dict[str, float] | None = None) -> float:
    """What the forecast says lies on the scale."""
    one = Weighing(stage=stage, mass_g=1.0, shares=shares or {})
    return sum(share_on_scale(one, line.key) * line.mass.mass_g for line in of.forecast_slip(study).lines)


@pytest.fixture(scope="module")
def plain() -> Study:
    return Study(popper())


@pytest.fixture(scope="module")
def as_forecast(plain: Study) -> Study:
    """Weighed at two stages, just as forecast."""
    one = Study(weighed(plain, "bare body", at_stage(plain, "bare body")), plain)
    return Study(weighed(one, "finished", at_stage(plain, "finished")), one)


# ---- weighed at the forecast


def test_at_the_forecast_nothing_changes_but_the_uncertainty(plain: Study, as_forecast: Study) -> None:
    assert as_forecast.build == plain.build
    assert [w.forecast_g for w in of.evidence(as_forecast).weighed] == pytest.approx(
        [w.mass_g for w in as_forecast.design.weighings], rel=1e-12
    )
    before, after = of.evidence(plain), of.evidence(as_forecast)
    for cause in before.causes:
        one, two = before.of(cause.key), after.of(cause.key)
        assert one is not None and two is not None
        assert two[0] == pytest.approx(0.0, abs=1e-12)
        assert two[1] <= one[1] * (1 + 1e-12)
    known = after.of("density:body")
    assert known is not None
    assert known[1] < 0.1 * density_sigma(plain.design.body.material)


def test_pose_and_picks_are_the_same_at_the_forecast(plain: Study, as_forecast: Study) -> None:
    pose = default_pose(plain.build, plain, math.radians(24))
    one, two = ballasting(plain.design, pose), ballasting(as_forecast.design, pose)
    assert one.posed.ballast_g > 1.0
    assert two.posed.ballast_g == pytest.approx(one.posed.ballast_g, rel=1e-9)
    assert two.posed.point_mm == pytest.approx(one.posed.point_mm, rel=1e-9)
    picks = [[(p.words, round(p.at_rest.pitch_deg, 9)) for p in shelf_picks(w, most=3)] for w in (one, two)]
    assert picks[0] == picks[1]
    assert picks[0]


def test_trims_variants_sweeps_and_the_ladder_are_the_same_at_the_forecast(plain: Study, as_forecast: Study) -> None:
    def figures(study: Study) -> list[float]:
        tried = [v for t in trims(study) for v in (t.pitch_deg, t.draft_mm, t.reserve_g, t.mass_g)]
        for change in (by_hooks(study.build), by_wood(study.build)):
            tried += [v.at_rest.reserve_g for v in compared(study, change, shares=False) if v.at_rest is not None]
        tried += [p.at_rest.draft_mm for p in sweep(study, "density", steps=3) if p.at_rest is not None]
        return tried + [rung.body_g for rung in ladder(study.design, (0.5, 1.0, 2.0)).rungs]

    assert figures(as_forecast) == pytest.approx(figures(plain), rel=1e-9, abs=1e-9)


def test_odds_at_the_forecast_have_the_same_means_and_less_spread(plain: Study, as_forecast: Study) -> None:
    one, two = odds(plain, 1000, 1, compare=False), odds(as_forecast, 1000, 1, compare=False)
    assert one.done.mass_g.mean() == pytest.approx(of.afloat(plain).mass_g, rel=1e-9)
    assert two.done.mass_g.mean() == pytest.approx(one.done.mass_g.mean(), rel=1e-9)
    assert two.done.mass_g.std() < 0.25 * one.done.mass_g.std()
    assert two.pitch_deg.sigma < one.pitch_deg.sigma
    # the finished mass was weighed: what is drawn together adds up to what the scale leaves unsure
    assert two.done.mass_g.std() == pytest.approx(scale_u_g(as_forecast.design.weighings[1]), rel=0.15)


# ---- what-ifs after a weighing


def test_what_ifs_start_from_the_corrected_piece_and_not_from_the_reading(plain: Study) -> None:
    heavy = Study(weighed(plain, "fitted", at_stage(plain, "fitted") + 0.8), plain)
    changes = {t.words: t for t in trims(heavy)}
    up = next(t for words, t in changes.items() if "one size up" in words)
    assert up.mass_g > 0.1 and up.reserve_g < -0.1
    less = next(t for words, t in changes.items() if "drilled out" in words)
    assert less.mass_g < -0.1 and less.reserve_g > 0.1
    woods = [v for v in compared(heavy, by_wood(heavy.build), shares=False) if v.at_rest is not None]
    masses = [of.slip(v.study).finished.mass_g for v in woods]
    assert max(masses) - min(masses) > 1.0
    bodies = [r.body_g for r in ladder(heavy.design, (0.5, 2.0)).rungs]
    assert bodies[1] > 20 * bodies[0]
    believed, drawn = (of.slip(s).finished.mass_g for s in (heavy, plain))
    assert believed == pytest.approx(drawn + 0.8, abs=0.03)


def test_a_pose_after_a_weighing_asks_for_so_much_less(plain: Study) -> None:
    pose = Pose(math.radians(20), mass_g=of.slip(plain).finished.mass_g)
    heavy = weighed(plain, "bare body", at_stage(plain, "bare body") + 0.5)
    one, two = ballasting(plain.design, pose), ballasting(heavy, pose)
    # denser wood weighs more wherever there is wood, so a little of it comes out with the holes
    assert two.posed.ballast_g == pytest.approx(one.posed.ballast_g - 0.5, abs=0.05)


def test_what_is_exchanged_afterwards_does_not_change_what_was_weighed(plain: Study) -> None:
    design = weighed(plain, "fitted", at_stage(plain, "fitted"))
    number = next(n for n, f in enumerate(design.fittings) if f.sort == "hook")
    other = resized(design.fittings[number], 1)
    assert other is not None
    swapped = Study(with_grip(design, Grip("fitting", number), other[0]))
    assert swapped.build.body.density_g_ml == pytest.approx(plain.build.body.density_g_ml, rel=1e-9)
    more = other[0].mass_g - design.fittings[number].mass_g
    assert of.slip(swapped).finished.mass_g - of.slip(plain).finished.mass_g == pytest.approx(more, rel=1e-9)
    # the same wood drawn denser afterwards is still what it was weighed to be
    drawn = Study(design.of_material(density_g_ml=1.1 * design.body.density_g_ml))
    assert drawn.build.body.density_g_ml == pytest.approx(plain.build.body.density_g_ml, rel=5e-3)


def test_another_wood_forgets_nothing_of_the_scale_but_is_another_wood(plain: Study) -> None:
    heavy = Study(weighed(plain, "bare body", 1.2 * at_stage(plain, "bare body")), plain)
    balsa = materials()["balsa, light"]
    assert of_wood(heavy.build, balsa).body.density_g_ml == balsa.density_g_ml


# ---- the truth


def simulated(design: Design, rng: np.random.Generator) -> tuple[dict[str, float], dict[str, float]]:
    """True deviations of every cause (its unit), and the true mass of every thing."""
    study = Study(design)
    causes, goes_with = causes_of(design), causes_of_lines(design)
    truth = {c.key: float(rng.normal(0, c.sigma)) for c in causes.values()}
    masses = {}
    for line in of.slip(study).lines:
        masses[line.key] = line.mass.mass_g * (
            1 + sum(part * truth[key] / causes[key].now for key, part in goes_with.get(line.key, ()))
        )
    return truth, masses


def test_corrections_cover_the_truth_at_the_stated_confidence() -> None:
    design = popper()
    plain = Study(design)
    rng = np.random.default_rng(5)
    inside: dict[str, list[bool]] = {}
    sigmas: list[float] = []
    for _ in range(70):
        truth, masses = simulated(design, rng)
        study = plain
        states: list[tuple[Any, dict[str, float]]] = [("bare body", {}), ("fitted", {}), ("finished", {})]
        hook = next(k for k in masses if k.startswith("fitting:") and "treble" in k)
        states.append(("fitted", {hook: 0.0}))
        for stage, shares in states:
            one = Weighing(stage=stage, mass_g=1.0, shares=shares)
            true = sum(share_on_scale(one, key) * mass for key, mass in masses.items())
            study = Study(weighed(study, stage, true + float(rng.normal(0, 0.03)), 0.03, shares), study)
        found = of.evidence(study)
        for cause in found.causes:
            value = found.of(cause.key)
            assert value is not None
            inside.setdefault(cause.key, []).append(abs(value[0] - truth[cause.key]) <= 1.96 * value[1])
        sigmas += [w.sigmas for w in found.weighed]
    shares = {key: float(np.mean(hits)) for key, hits in inside.items()}
    # 95 % of 70: the sampling error of a share is 2.6 %
    assert min(shares.values()) > 0.95 - 4 * 0.026, shares
    assert np.mean(list(shares.values())) == pytest.approx(0.95, abs=0.03)
    assert np.std(sigmas) == pytest.approx(1.0, abs=0.15)


def test_hooks_off_and_hooks_on_agree() -> None:
    plain = Study(popper())
    hooks = {line.key: 0.0 for line in of.slip(plain).lines if "treble" in line.key}
    assert hooks
    off = Study(weighed(plain, "fitted", at_stage(plain, "fitted", hooks) + 0.4, shares=hooks), plain)
    on = Study(weighed(plain, "fitted", at_stage(plain, "fitted") + 0.4), plain)
    one, two = (s.build.body.density_g_ml for s in (off, on))
    sigma = of.evidence(on).of("density:body")
    assert sigma is not None
    assert abs(one - two) < sigma[1]
    both = Study(weighed(off, "fitted", at_stage(plain, "fitted") + 0.4), off)
    assert not of.evidence(both).surprising


def test_two_coats_on_say_how_thick_they_are() -> None:
    coats = [{"name": "clear", "coats": 4, "film_mm": 0.1, "density_g_ml": 1.1}]
    plain = Study(turned_design((0, 10, "corner"), (60, 10, "corner"), coats=coats))
    bare = Study(weighed(plain, "fitted", at_stage(plain, "fitted"), 0.005), plain)
    half = {"coat:clear": 0.5}
    coat = next(line.mass.mass_g for line in of.slip(plain).lines if line.key == "coat:clear")
    wet = weighed(bare, "fitted", at_stage(plain, "fitted") + 0.5 * coat * 1.2, 0.005, half)
    done = Study(wet, bare)
    assert done.build.coats[0].film_mm == pytest.approx(0.12, rel=0.02)
    assert of.slip(done).to_come.mass_g == pytest.approx(1.2 * coat, rel=0.02)


# ---- mistakes


@pytest.mark.parametrize(
    ("times", "off", "words"),
    [(1.0, ("fitting:Belly treble, size 6",), "was not on the scale"), (10.0, (), "tenth|ten times"),
     (1 / 28.349523, (), "ounces")],
)  # fmt: skip
def test_what_cannot_be_explained_names_the_likeliest_mistake(
    plain: Study, times: float, off: tuple[str, ...], words: str
) -> None:
    known = Study(weighed(plain, "bare body", at_stage(plain, "bare body")), plain)
    true = at_stage(plain, "fitted", dict.fromkeys(off, 0.0))
    study = Study(weighed(known, "fitted", true * times), known)
    surprising = of.evidence(study).surprising
    assert surprising
    assert any(__import__("re").search(words, w.likely) for w in surprising), [w.likely for w in surprising]
    assert all(abs(w.sigmas) > 3 for w in surprising)


def test_a_tick_mends_it(plain: Study) -> None:
    known = Study(weighed(plain, "bare body", at_stage(plain, "bare body")), plain)
    hook = next(line.key for line in of.slip(plain).lines if "Belly treble" in line.key)
    wrong = weighed(known, "fitted", at_stage(plain, "fitted", {hook: 0.0}))
    assert of.evidence(Study(wrong)).surprising
    mended = ticked(wrong, 1, hook, 0.0)
    assert not of.evidence(Study(mended)).surprising
    assert rewritten(mended, 1, None).weighings == mended.weighings[:1]


def test_a_weighing_of_nothing_says_nothing_and_a_set_aside_one_too(plain: Study) -> None:
    none = plain.design.but(weighings=(Weighing(stage="fitted", mass_g=0.0),))
    assert Study(none).build == plain.build
    aside = plain.design.but(weighings=(Weighing(stage="fitted", mass_g=99.0, heeded=False),))
    assert Study(aside).build == plain.build
    assert of.evidence(Study(aside)).weighed == ()


def test_bad_weighings_are_refused(plain: Study) -> None:
    for stage, mass, shares in (("fitted", 0.0, {}), ("cooked", 3.0, {}), ("fitted", 3.0, {"fitting:spoon": 0.0})):
        with pytest.raises(BadInput):
            weighed(plain, stage, mass, shares=shares)  # type: ignore[arg-type]
    with pytest.raises(BadInput, match=r"less than or equal to 1|shares"):
        weighed(plain, "fitted", 3.0, shares={"body": 2.0})


def test_weighings_live_in_the_file(plain: Study) -> None:
    design = weighed(plain, "fitted", 20.0, 0.1, {"body": 1.0}, "on the shop's scale")
    again = read_json(to_json(design))
    assert again == design
    assert Study(again).build == Study(design).build


def test_every_thing_on_the_slip_goes_with_a_cause_or_is_certain(plain: Study) -> None:
    for file in sorted(DEMO.glob("*.ybob")):
        study = Study(read_design(file))
        goes_with, causes = causes_of_lines(study.build), causes_of(study.build)
        for key, mass in things_of(of.slip(study)).items():
            assert stage_of_line(key)
            if mass and key != "pool":
                assert sum(part for _, part in goes_with[key]) == pytest.approx(1.0), key
                assert all(cause in causes for cause, part in goes_with[key] if part), key
        lines = of.slip(study).lines
        assert all(stage_of_line(line.key) == line.of for line in lines), [
            (line.key, line.of, stage_of_line(line.key)) for line in lines if stage_of_line(line.key) != line.of
        ]


def test_odds_draw_what_weighings_left(plain: Study, as_forecast: Study) -> None:
    before = {t.key: t.sigma for t in tolerances_of(plain)}
    after = {t.key: t.sigma for t in tolerances_of(as_forecast)}
    assert before.keys() == after.keys()
    assert after["density:body"] < 0.1 * before["density:body"]
    place = next(k for k in before if k.startswith("place along"))
    assert after[place] == before[place]
    measured = Study(plain.design.of_material(measured=True, density_u_g_ml=0.003))
    sigma = {t.key: t.sigma for t in tolerances_of(measured)}["density:body"]
    assert sigma == pytest.approx(0.003)
    assert replaced(plain.design.body.material, measured=True).density_u_g_ml is None
