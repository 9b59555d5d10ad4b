"""Halves of bodies: which are alike on both sides, what is made whole again, hollows told from a half."""

from __future__ import annotations

import numpy as np
import pytest

import yellowbob.lines.hollow as hollows
from tests.core.test_hollow import least_wall, turned
from yellowbob.design.model import Kind, Shell
from yellowbob.lines.hollow import hollow_of
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.mirrored import unlike, whole_of
from yellowbob.lines.solids import from_manifold, rod, subtract, to_manifold
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked
from yellowbob.trials.first_design import started_from
from yellowbob.weights.carving import Block, taken_by

BEAD = turned((0, 0), (4, 7.0), (25, 12.0), (60, 8.0), (74, 0))


def shell_of(outer: Mesh, wall: float, low: float, high: float) -> Shell:
    far = float(outer.bounds[1, 0])
    return Shell(wall_mm=wall, split_mm=((0.0, low), (far, high)))


def test_a_turned_body_is_alike_on_both_sides_and_one_bored_to_a_side_is_not() -> None:
    middles = unlike(BEAD)
    assert middles is not None and not len(middles)
    bored = subtract(BEAD, [from_manifold(rod(np.array([30.0, 2.0, 20.0]), np.array([30.0, 2.0, 0.0]), 4.0))])
    assert unlike(bored) is None
    askew = BEAD.vertices.copy()
    askew[np.argmax(askew[:, 1]), 1] += 1e-3
    assert unlike(Mesh(askew, BEAD.faces)) is None


@pytest.mark.parametrize("kind", ["popper", "darter"])
def test_a_cup_s_flat_rim_may_be_divided_otherwise_on_the_other_side(kind: Kind) -> None:
    outer = of.outer(Study(started_from(Asked(kind=kind, length_mm=90.0))))
    middles = unlike(outer)
    assert middles is not None and len(middles) and hollows._halves(outer)


@pytest.mark.parametrize("alike", [True, False])
def test_sides_folded_along_other_diagonals_are_not_alike(alike: bool) -> None:
    """A box whose sides are twisted: the same corners, folded the same way or not."""
    corners = np.array(
        [[x, y * (6.0 if x and z else 5.0), z] for z in (0.0, 6.0) for x in (0.0, 10.0) for y in (-1.0, 1.0)]
    )
    starboard, port = [(0, 2, 6), (0, 6, 4)], [(1, 7, 3), (1, 5, 7)]
    if not alike:
        port = [(1, 5, 3), (3, 5, 7)]
    ends = [(0, 4, 5), (0, 5, 1), (2, 3, 7), (2, 7, 6), (0, 1, 3), (0, 3, 2), (4, 6, 7), (4, 7, 5)]
    box = Mesh(corners, np.array([*starboard, *port, *ends], dtype=np.int32))
    assert to_manifold(box).status().name == "NoError"
    assert unlike(box) is not None
    assert hollows._halves(box) == alike


def test_a_body_made_whole_from_its_half_is_closed_and_has_its_volume() -> None:
    half = from_manifold(to_manifold(BEAD).trim_by_plane((0.0, 1.0, 0.0), 0.0))
    whole = whole_of(half)
    assert to_manifold(whole).status().name == "NoError"
    assert whole.volume_mm3 == pytest.approx(BEAD.volume_mm3, rel=1e-12)
    assert whole.moments.centroid_mm[1] == pytest.approx(0.0, abs=1e-12)


@pytest.mark.parametrize(("kind", "long"), [("popper", 61.0), ("prop bait", 88.0), ("crawler", 143.0)])
def test_a_hollow_told_from_its_half_is_the_whole_one(kind: Kind, long: float, monkeypatch: pytest.MonkeyPatch) -> None:
    design = started_from(Asked(kind=kind, length_mm=long, made="print"))
    outer, shell = of.outer(Study(design)), design.body.shell
    assert shell is not None and hollows._halves(outer)
    by_half = hollow_of(outer, shell)
    monkeypatch.setattr(hollows, "_halves", lambda _: False)
    whole = hollow_of(outer, shell)
    assert by_half.volume_mm3 == pytest.approx(whole.volume_mm3, rel=4e-4)
    assert np.allclose(by_half.mesh.bounds, whole.mesh.bounds, atol=0.05)
    assert to_manifold(by_half.mesh).status().name == "NoError"
    assert (
        least_wall(outer, by_half.mesh, 300, np.random.default_rng(4), shell.split_mm[0][1] + 0.1)
        > shell.wall_mm - 0.03
    )


@pytest.mark.parametrize(("low", "high"), [(-4.0, 3.0), (6.0, 6.0), (-30.0, -30.0), (-2.0, -9.0)])
def test_a_hollow_ends_at_its_split_line_however_it_runs(
    low: float, high: float, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What is closed off below the line, and beyond the middle, leaves no trace: the whole erosion cut there is the same."""
    shell = shell_of(BEAD, 1.3, low, high)
    found = hollow_of(BEAD, shell)
    far = shell_of(BEAD, 1.3, -500.0, -500.0)
    monkeypatch.setattr(hollows, "_halves", lambda _: False)
    whole = hollow_of(BEAD, far)
    cut = from_manifold(to_manifold(whole.mesh) ^ hollows._above(BEAD, shell, False))
    assert found.volume_mm3 == pytest.approx(cut.volume_mm3, rel=6e-4)
    x, z = found.mesh.vertices[:, 0], found.mesh.vertices[:, 2]
    assert (z >= low + (high - low) * x / 74.0 - 1e-6).all()


def test_what_a_bit_takes_of_a_large_hollow_is_taken_from_the_part_about_it() -> None:
    design = started_from(Asked(kind="popper", length_mm=120.0, made="print"))
    outer, shell = of.outer(Study(design)), design.body.shell
    assert shell is not None
    hollow = hollow_of(outer, shell).mesh
    assert len(hollow.faces) > 4000
    rng = np.random.default_rng(8)
    for infill in (0.0, 0.3):
        for _ in range(12):
            mouth = np.array([rng.uniform(8.0, 112.0), rng.uniform(-4.0, 4.0), -40.0])
            tip = mouth + [rng.uniform(-6.0, 6.0), rng.uniform(-3.0, 3.0), rng.uniform(20.0, 60.0)]
            bit = rod(mouth, tip, float(rng.uniform(2.0, 9.0)))
            found = taken_by(bit, Block(outer, hollow, infill)).gone.mass_g
            body, in_hollow = bit ^ to_manifold(outer), bit ^ to_manifold(hollow)
            wanted = (body.volume() - (1.0 - infill) * (in_hollow ^ to_manifold(outer)).volume()) / 1000.0
            assert found == pytest.approx(wanted, rel=1e-9, abs=1e-9)


def test_halves_that_do_not_close_are_not_taken(monkeypatch: pytest.MonkeyPatch) -> None:
    shell = shell_of(BEAD, 1.3, -2.0, -2.0)
    whole = hollow_of(BEAD, shell)

    def torn(half: Mesh) -> Mesh:
        found = whole_of(half)
        return Mesh(found.vertices, found.faces[1:])

    monkeypatch.setattr(hollows, "whole_of", torn)
    found = hollow_of(BEAD, shell)
    assert to_manifold(found.mesh).status().name == "NoError"
    assert found.volume_mm3 == pytest.approx(whole.volume_mm3, rel=6e-4)
