"""Screw eyes, seats of plates and second wires in the wood: what they meet there, by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.core.test_clashes import drilled, kinds, says
from tests.core.test_fitout import plain
from tests.core.test_on_plates import beside
from yellowbob.checks.registry import verdicts
from yellowbob.design.model import Design, Fitting, Wire, replaced
from yellowbob.design.plates import Fin, Lip
from yellowbob.fitout.clearances import Kind
from yellowbob.fitout.set_in import shank
from yellowbob.ground.errors import BadInput, BadShape
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.shipped import hardware
from yellowbob.study import Study, of

EYE = Fitting(name="e", sort="screw eye", at_mm=(40.0, 0.0, -10.0), mass_g=0.5, aim_deg=90.0, long_mm=12.0,
              in_wood_ml=math.pi / 4 * 1.2**2 * 12.0 / 1000.0)  # fmt: skip
THROUGH = Wire(name="through", diameter_mm=1.0, path_mm=((-4, 0, 0), (84, 0, 0)))


def distance(design: Design, kind: Kind) -> float | None:
    found = kinds(of.clearances(Study(design)), kind)
    return found[0].distance_mm if found else None


def test_a_shank_is_as_thick_as_the_shelf_s_wire() -> None:
    for item in hardware().values():
        if item.sort == "screw eye":
            found = shank(fitting_from(item, (30.0, 0.0, -10.0), "e"))
            assert found is not None and item.wire_mm is not None
            start, end, thick = found
            assert thick == pytest.approx(item.wire_mm)
            assert np.allclose(end - start, (0.0, 0.0, item.long_mm))
    assert shank(replaced(EYE, in_wood_ml=0.0)) is None and shank(replaced(EYE, sort="eye")) is None


@pytest.mark.parametrize("inertia", [(1e308, 0.0, 0.0), (0.0, -1.0, 0.0), (0.0, 0.0, math.inf), (math.nan, 0.0, 0.0)])
def test_an_inertia_that_nothing_has_is_refused(inertia: tuple[float, float, float]) -> None:
    with pytest.raises(BadInput, match="inertia_g_mm2"):
        replaced(EYE, inertia_g_mm2=inertia)


def test_a_shank_far_longer_than_the_body_is_refused_in_one_line() -> None:
    far = plain(fittings=(replaced(EYE, long_mm=2000.0),))
    with pytest.raises(BadShape, match="reaches out of the body"):
        verdicts(Study(far))
    assert of.unloaded(Study(plain(fittings=(replaced(EYE, long_mm=18.0),)))).floats


@pytest.mark.parametrize("aside", [0.0, 2.0, 3.0, 3.4, 4.1, 5.0, 7.0])
def test_a_screw_eye_beside_a_hole_is_apart_by_the_axes_less_the_radii(aside: float) -> None:
    design = drilled(("slug", 40.0, 5.0, 12.0)).but(fittings=(replaced(EYE, at_mm=(40.0 + aside, 0.0, -10.0)),))
    apart = aside - 2.5 - 0.6
    told = distance(design, "eye to hole")
    if apart >= 3.0:
        assert told is None
    elif apart >= 0.0:
        assert told == pytest.approx(apart, abs=0.02)
        assert says(design, "met")[0] == ("watch" if apart < 0.5 else "good")
    else:
        assert told is not None and -1.21 <= told < 0.0
        assert says(design, "met") == ("failed", "e meets slug")


def test_a_screw_eye_in_the_wire_s_way_and_two_eyes_in_one_place() -> None:
    design = plain(wires=(THROUGH,), fittings=(EYE,))
    assert says(design, "wire") == ("failed", "e meets through")
    short = replaced(EYE, long_mm=8.0, in_wood_ml=EYE.in_wood_ml * 8 / 12)
    assert distance(plain(wires=(THROUGH,), fittings=(short,)), "eye to wire") == pytest.approx(2.0 - 0.5, abs=0.02)
    other = replaced(EYE, name="f", at_mm=(41.5, 0.0, -10.0))
    assert distance(plain(fittings=(EYE, other)), "eye to eye") == pytest.approx(0.3, abs=0.02)
    assert says(plain(fittings=(EYE, other)), "met")[0] == "watch"


@pytest.mark.parametrize(
    ("y", "state"), [(0.0, "failed"), (0.9, "failed"), (1.2, "watch"), (2.0, "good"), (5.0, "silent")]
)
def test_a_second_bored_wire_passes_the_first_or_meets_it(y: float, state: str) -> None:
    other = Wire(name="other", diameter_mm=1.0, path_mm=((30, y, -14), (30, y, 4)))
    design = plain(wires=(THROUGH, other))
    told = distance(design, "wire to wire")
    assert says(design, "wire")[0] == state
    if state in ("watch", "good"):
        assert told == pytest.approx(y - 1.0, abs=0.02)


def test_a_wire_beside_the_body_does_not_change_which_wires_meet() -> None:
    outside = Wire(name="outside", diameter_mm=1.0, path_mm=((0, 0, 40), (60, 0, 40)))
    grooved = Wire(name="hanger", diameter_mm=1.0, route="grooved", path_mm=((30, 0, -14), (30, 0, 4)))
    found = kinds(
        of.clearances(Study(plain(wires=(outside, replaced(THROUGH, route="split"), grooved)))), "wire to wire"
    )
    assert found == []
    found = kinds(of.clearances(Study(plain(wires=(outside, grooved, THROUGH)))), "wire to wire")
    assert [(c.one, c.other) for c in found] == [("hanger", "through")]


def test_wires_laid_together_in_a_groove_may_cross() -> None:
    hanger = Wire(name="hanger", diameter_mm=1, route="grooved", path_mm=((30, 0, -14), (30, 0, 1)))
    assert distance(plain(wires=(replaced(THROUGH, route="grooved"), hanger)), "wire to wire") is None


def test_a_lip_s_seat_over_a_hole_and_across_a_wire() -> None:
    lip = Lip(thick_mm=1.5, x_mm=40.0, z_mm=-8.0, angle_deg=60.0, long_mm=20.0, wide_mm=10.0, seat_mm=6.0)
    assert says(beside(drilled(("slug", 40.0, 5.0, 12.0)), lip), "met") == ("failed", "piece 0 meets slug")
    assert says(beside(drilled(("slug", 62.0, 5.0, 12.0)), lip), "met")[0] == "silent"
    upright = Wire(name="up", diameter_mm=1.0, path_mm=((41.0, 0, -14), (41.0, 0, 4)))
    assert says(beside(plain(wires=(upright,)), lip), "wire") == ("failed", "up meets piece 0")


def test_a_fin_beside_a_hole_is_apart_by_its_half_thickness() -> None:
    fin = Fin(thick_mm=2.0, corners_mm=((35.0, -4.0), (50.0, -4.0), (45.0, -20.0)))
    hole = drilled(("slug", 40.0, 5.0, 12.0)).ballast[0]
    assert hole.drilling is not None
    aside = replaced(hole, drilling=replaced(hole.drilling, place_mm=(42.0, 5.0)))
    design = beside(plain(ballast=(aside,)), fin)
    told = distance(design, "plate to hole")
    assert told is not None and 0.0 < told < 5.0 - 2.5 - 1.0 + 0.2


def within(points: np.ndarray, start: np.ndarray, end: np.ndarray, thick: float) -> np.ndarray:
    """Which points (n, 3) lie in a round rod, (n,)."""
    way = (end - start) / np.linalg.norm(end - start)
    along = (points - start) @ way
    out = np.linalg.norm(points - start - along[:, None] * way, axis=1)
    return np.asarray((along >= 0.0) & (along <= np.linalg.norm(end - start)) & (out <= thick / 2.0))


def set_in_missed(count: int, seed: int) -> tuple[int, int]:
    """Of random screw eyes and wires beside random holes, how many share a sampled place unsaid, and how many share one."""
    rng, missed, met = np.random.default_rng(seed), 0, 0
    for _ in range(count):
        x, y, wide = rng.uniform(25, 55), rng.uniform(-3, 3), rng.uniform(2, 7)
        hole = drilled(("slug", 40.0, wide, float(rng.uniform(4, 16)))).ballast[0]
        assert hole.drilling is not None
        hole = replaced(hole, drilling=replaced(hole.drilling, place_mm=(40.0, float(y))))
        eye = replaced(
            EYE, at_mm=(float(x), 0.0, float(rng.choice([-9.0, 9.0]))), aim_deg=float(rng.uniform(-180, 180))
        )
        over = float(rng.uniform(-6, 6))
        wire = Wire(name="w", diameter_mm=1.2, path_mm=((-4, 0, over), (84, 0, float(rng.uniform(-6, 6)))))
        study = Study(plain(ballast=(hole,), fittings=(eye,), wires=(wire,)))
        told = {(c.kind, c.clear) for c in of.clearances(study)}
        (placed,) = of.holes(study).ballast
        assert placed.hole is not None
        mouth, bottom, rods = placed.hole.at_depth(0.0), placed.hole.bottom_mm, shank(eye)
        assert rods is not None
        path = np.array(wire.path_mm)
        for kind, one, two in (
            ("eye to hole", rods, (mouth, bottom, wide)), ("eye to wire", rods, (path[0], path[1], 1.2)),
            ("wire to hole", (path[0], path[1], 1.2), (mouth, bottom, wide)),
        ):  # fmt: skip
            share = rng.uniform(0, 1, 4000)[:, None]
            around = rng.normal(size=(4000, 3))
            points = (
                one[0] + share * (one[1] - one[0]) + 0.49 * one[2] * around / np.linalg.norm(around, axis=1)[:, None]
            )
            points = points[within(points, *one) & (np.hypot(points[:, 1], points[:, 2]) < 9.9)]
            if within(points, *two).any():
                met += 1
                missed += (kind, False) not in told
    return missed, met


def test_no_shank_and_no_wire_meets_a_hole_or_the_other_unsaid() -> None:
    missed, met = set_in_missed(12, 3)
    assert met > 4
    assert missed == 0
