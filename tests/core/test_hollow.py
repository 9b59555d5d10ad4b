"""Hollow prints: walls by distance, closed forms, what lets water in, what is left of a ladder."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from tests.conftest import outline, turned_design
from yellowbob.checks.registry import CHECKS, Verdict
from yellowbob.design.model import Bore, Design, Drilling, Piece, Shell
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadShape, NoHollow
from yellowbob.lines.build import piece_mesh
from yellowbob.lines.hollow import hollow_of
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit
from yellowbob.lines.solids import to_manifold
from yellowbob.study import Study, of
from yellowbob.trials.ladder import ladder

R, LONG = 10.0, 60.0
CYLINDER = turned_design((0, R), (LONG, R))
WHOLE = math.pi * R * R * LONG


def turned(*points: tuple[object, ...]) -> Mesh:
    return loft(Turned.model_validate({"profile": outline(*points)}))


def hollowed(outer: Mesh, wall: float, split: float = -500.0) -> Mesh:
    far = float(outer.bounds[1, 0])
    return hollow_of(outer, Shell(wall_mm=wall, split_mm=((0.0, split), (far, split)))).mesh


def least_wall(outer: Mesh, hollow: Mesh, places: int, rng: np.random.Generator, above: float = -1e9) -> float:
    """Least distance along rays, square out of the hollow and askew, from its surface to the outside, mm."""
    least = math.inf
    rows = rng.choice(len(hollow.faces), places, p=hollow.areas / hollow.areas.sum())
    for row in rows:
        start = rng.dirichlet([1, 1, 1]) @ hollow.corners[row]
        if start[2] < above:
            continue
        for way in (hollow.area_vectors[row], rng.normal(size=3)):
            way = way / np.linalg.norm(way)
            hit = first_hit(outer, start, way)
            assert hit is not None, "the hollow reaches outside the body"
            least = min(least, hit)
    return least


@pytest.mark.parametrize("wall", [0.45, 1.2, 2.6])
@pytest.mark.parametrize("kind", ["sphere", "capsule", "cylinder"])
def test_walls_of_plain_bodies_in_closed_form(kind: str, wall: float) -> None:
    """The parallel surface of a sphere, a capsule and a cylinder is another, smaller by the wall all round."""
    r, long = 11.0, 70.0
    outer, volume = {
        "sphere": (turned((0, 0, "round"), (r, r), (2 * r, 0, "round")), lambda w: 4 / 3 * math.pi * (r - w) ** 3),
        "capsule": (
            turned((0, 0, "round"), (r, r), (long - r, r), (long, 0, "round")),
            lambda w: 4 / 3 * math.pi * (r - w) ** 3 + math.pi * (r - w) ** 2 * (long - 2 * r),
        ),
        "cylinder": (
            turned((0, r, "corner"), (long, r, "corner")), lambda w: math.pi * (r - w) ** 2 * (long - 2 * w)
        ),
    }[kind]  # fmt: skip
    hollow = hollowed(outer, wall)
    assert outer.volume_mm3 - hollow.volume_mm3 == pytest.approx(volume(0.0) - volume(wall), rel=2e-3)
    assert wall - 0.03 < least_wall(outer, hollow, 150, np.random.default_rng(3)) < wall + 0.06


def random_print(rng: np.random.Generator) -> tuple[Mesh, Shell] | None:
    """A turned or lofted body, cut or not, and a shell for it; None where it cannot be built."""
    long = float(rng.uniform(30, 200))
    wide, count = long * rng.uniform(0.06, 0.2), int(rng.integers(1, 6))

    def line(least: float, sign: float = 1.0) -> Any:
        heights = rng.uniform(least * wide, wide, count + 2) * sign
        bends = [str(rng.choice(["round", "smooth", "corner"])) for _ in range(2)]
        heights[0], heights[-1] = (0.0 if b == "round" else h for b, h in zip(bends, heights[[0, -1]], strict=True))
        inner = [str(rng.choice(["smooth", "corner"], p=[0.8, 0.2])) for _ in range(count)]
        xs = np.linspace(0, long, count + 2)
        return outline(*zip(xs.tolist(), heights.tolist(), [bends[0], *inner, bends[1]], strict=True))

    if rng.random() < 0.5:
        shape: Any = {"kind": "turned", "profile": line(0.3)}
    else:
        section = {"x_mm": 0.0, "back": float(rng.uniform(1.2, 6)), "belly": float(rng.uniform(1.2, 6))}
        shape = {"kind": "lofted", "back": line(0.3), "belly": line(0.3, -1), "plan": line(0.2), "sections": [section]}
    cuts: list[Any] = []
    if rng.random() < 0.6:
        cuts.append({"kind": "cup", "diameter_mm": wide * rng.uniform(0.5, 1.6), "depth_mm": wide * rng.uniform(0.05, 0.24),
                     "rim_x_mm": long * rng.uniform(0, 0.05)})  # fmt: skip
    if rng.random() < 0.4:
        cuts.append({"kind": "notch", "x_mm": long * rng.uniform(0.2, 0.8), "z_mm": -wide * rng.uniform(0.1, 0.6)})
    try:
        material = {"name": "print", "density_g_ml": 1.24, "group": "plastic"}
        outer = piece_mesh(Piece.model_validate({"material": material, "shape": shape, "cuts": cuts}))
    except (BadShape, ValueError):
        return None
    split = tuple((x, float(rng.uniform(-wide, 0.3 * wide))) for x in (0.0, long))
    return outer, Shell(wall_mm=float(rng.uniform(0.4, 2.5)), split_mm=split)


def hold_their_walls(count: int, seed: int) -> dict[str, float]:
    """Walls of random prints by rays; raises where one is thinner than asked by 0.03 mm, or its hollow is not closed."""
    rng, done, refused, worst = np.random.default_rng(seed), 0, 0, math.inf
    while done < count:
        made = random_print(rng)
        if made is None:
            continue
        outer, shell = made
        try:
            hollow = hollow_of(outer, shell).mesh
        except NoHollow:
            refused += 1
            continue
        to_manifold(hollow)  # refuses anything not closed
        least = least_wall(outer, hollow, 60, rng)
        assert least > shell.wall_mm - 0.03, (done, seed)
        worst, done = min(worst, least - shell.wall_mm), done + 1
    return {"prints": done, "no_hollow": refused, "thinnest_less_asked_mm": round(worst, 4)}


def test_random_prints_have_the_wall_they_were_asked() -> None:
    assert hold_their_walls(6, 20)["prints"] == 6


def printed(*bores: Bore, **shell: object) -> Study:
    made = Shell.model_validate({"wall_mm": 1.5, "split_mm": ((0, 0), (LONG, 0)), **shell})
    design = CYLINDER.of_material(name="PLA print", group="plastic", density_g_ml=1.1)
    return Study(design.with_body(shell=made, bores=bores))


def said(check: str, study: Study) -> Verdict:
    verdict = CHECKS[check].verdict(study)
    assert verdict is not None
    return verdict


def test_hollow_above_its_split_line_in_closed_form() -> None:
    hollow = hollowed(piece_mesh(CYLINDER.body), 2.0, 0.0)
    assert hollow.volume_mm3 == pytest.approx(math.pi * (R - 2.0) ** 2 / 2 * (LONG - 4.0), rel=2e-3)
    assert hollow.bounds[0, 2] == pytest.approx(0.0, abs=1e-6)


def test_a_hollow_print_floats_upright_by_itself() -> None:
    rests = of.rests(printed())
    assert len(rests) == 1
    assert rests[0].up[2] == pytest.approx(1.0, abs=1e-3)


def test_infill_weighs_its_share_and_in_a_drained_hollow_displaces_it() -> None:
    empty, half, full = printed(), printed(infill_percent=50.0), printed(infill_percent=100.0)
    masses = [of.slip(s).finished.mass_g for s in (empty, half, full)]
    assert masses[1] == pytest.approx((masses[0] + masses[2]) / 2, rel=1e-9)
    assert masses[2] == pytest.approx(1.1e-3 * WHOLE, rel=1e-6)
    hollow = of.hollow(empty)
    assert hollow is not None
    for share in (0.0, 25.0, 60.0):
        drained = of.afloat(printed(drain=True, infill_percent=share))
        lost = of.hull(empty).volume_mm3 - drained.volume_mm3
        assert lost == pytest.approx(hollow.volume_mm3 * (1 - share / 100), rel=1e-6)


def bore(depth: float, fill: str = "open", side: Any = "back") -> Bore:
    drilling = Drilling(side=side, place_mm=(LONG / 2, 0.0), diameter_mm=2.0, depth_mm=depth)
    return Bore.model_validate({"name": "vent", "drilling": drilling, "fill": fill})


def test_an_open_hole_floods_a_sealed_hollow_which_is_said_and_reckoned() -> None:
    tight = of.buoyancy(printed())
    # 1 mm deep it stays in the wall of 1.5; sealed it lets nothing in
    for harmless in (bore(1.0), bore(6.0, "sealed")):
        assert of.drained(printed(harmless)) == ()
    flooded = printed(bore(6.0))
    hollow = of.hollow(flooded)
    assert hollow is not None
    lost = tight.reserve_g - of.buoyancy(flooded).reserve_g
    assert lost == pytest.approx(hollow.volume_mm3 * of.water(flooded).density_g_mm3, rel=0.01)
    leak = said("hollow", flooded)
    assert leak.state == "failed"
    assert "vent floods it" in leak.figure


def test_a_wall_too_thick_for_a_hollow_is_said() -> None:
    with pytest.raises(BadShape, match="leaves no hollow"):
        _ = of.hollow(printed(wall_mm=11.0))


def test_a_thin_shell_is_watched() -> None:
    wall = said("wall", printed(wall_mm=0.5))
    assert (wall.state, wall.figure) == ("watch", "0.5 mm all round")


def test_a_size_too_small_for_its_hollow_is_printed_solid() -> None:
    found = ladder(printed().design, (0.12, 1.0))
    assert "printed solid" in found.rungs[0].verdict
    assert found.rungs[0].body_g == pytest.approx(1.1e-3 * WHOLE * 0.12**3, rel=1e-6)
    assert "printed solid" not in found.rungs[1].verdict


def test_a_body_sawn_through_is_two_and_said() -> None:
    def sawn(depth: float) -> Design:
        slot = {"kind": "slot", "x_mm": LONG / 3, "z_mm": R, "angle_deg": -90.0, "depth_mm": depth, "thick_mm": 2.0}
        return CYLINDER.with_body(cuts=(slot,))

    states = {depth: said("whole", Study(sawn(depth))) for depth in (15.0, 25.0)}
    assert states[15.0].state == "good"
    assert states[25.0].state == "failed"
    parts = [math.pi * R * R * long / 1000 for long in (LONG * 2 / 3 - 1, LONG / 3 - 1)]
    assert states[25.0].figure == f"2 bodies: {parts[0]:.2f} mL and {parts[1]:.2f} mL"
