"""The immersion kernel against slow, independent sums, and its points beside the hull."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import float_solid, mesh_of
from yellowbob.afloat.kernel import SUMS, axes_across, immerse
from yellowbob.afloat.rest import Afloat, all_rests, face_table, floated_at
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import from_manifold, to_manifold
from yellowbob.weights.wet import PointVolume

TORUS = mesh_of(trimesh.creation.torus(20.0, 7.0, major_sections=40, minor_sections=20))


def immersed(mesh: Mesh, up: np.ndarray, h: float) -> np.ndarray:
    e, out = np.empty((2, 3)), np.empty(SUMS)
    faces = np.ascontiguousarray(mesh.faces, dtype=np.int32)
    axes_across(up, e)
    immerse(mesh.vertices, faces, face_table(mesh.vertices, faces), up, h, e, np.empty(len(mesh.vertices)), out)
    return out


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 10_000), st.floats(-0.9, 0.9))
def test_agrees_with_a_boolean_cut(seed: int, share: float) -> None:
    up = np.random.default_rng(seed).normal(size=3)
    up /= np.linalg.norm(up)
    h = share * float((TORUS.vertices @ up).max())
    out = immersed(TORUS, up, h)
    cut = from_manifold(to_manifold(TORUS).trim_by_plane(-up, -h)).moments
    assert out[0] == pytest.approx(cut.volume_mm3, rel=1e-9, abs=1e-9)
    assert out[1:4] == pytest.approx(cut.centroid_mm * cut.volume_mm3, rel=1e-6, abs=1e-6 * TORUS.volume_mm3)


def test_waterplane_of_a_box_in_closed_form() -> None:
    box = mesh_of(trimesh.creation.box((30.0, 20.0, 10.0)))
    out = immersed(box, np.array([0.0, 0.0, 1.0]), 1.0)
    assert out[0] == pytest.approx(30 * 20 * 6)
    assert out[4] == pytest.approx(600)
    assert sorted([out[7], out[9]]) == pytest.approx(sorted([30 * 20**3 / 12, 20 * 30**3 / 12]))
    assert out[8] == pytest.approx(0.0, abs=1e-9)


def test_dry_and_drowned() -> None:
    up = np.array([0.0, 0.6, 0.8])
    assert immersed(TORUS, up, -100.0) == pytest.approx(np.zeros(SUMS))
    assert immersed(TORUS, up, 100.0)[0] == pytest.approx(TORUS.volume_mm3)


def _energy(afloat: Afloat, up: np.ndarray) -> float:
    return floated_at(afloat, tuple(up / np.linalg.norm(up))).energy_nj


@pytest.mark.parametrize("seed", range(6))
def test_slope_of_energy_with_hanging_hardware_is_its_moment(seed: int) -> None:
    """The hook's changing wetness must be in the energy as in the forces, or rests would be off."""
    rng = np.random.default_rng(seed)
    box = mesh_of(trimesh.creation.box((50.0, 16.0, 12.0)))
    points = (PointVolume((20.0, 0.0, -7.0), 300.0, -15.0, 0.0), PointVolume((-22.0, 3.0, 2.0), 150.0, -3.0, 3.0))
    afloat = Afloat(box, 5.2, (1.0, 0.3, -1.0), 0.001, points)
    up = rng.normal(size=3)
    up /= np.linalg.norm(up)
    rest = floated_at(afloat, tuple(up))
    weight = 5.2 * 9806.65
    slope = weight * np.subtract(afloat.centre_mm, rest.buoyancy_mm)
    for along in np.eye(3):
        tangent = along - up * (along @ up)
        step = 1e-5
        measured = (_energy(afloat, up + step * tangent) - _energy(afloat, up - step * tangent)) / (2 * step)
        assert measured == pytest.approx(slope @ tangent, rel=1e-4, abs=1e-2)


def test_a_wet_hook_lightens_a_dry_one_does_not() -> None:
    box = mesh_of(trimesh.creation.box((60.0, 20.0, 12.0)))
    below = Afloat(box, 7.0, (0.0, 0.0, -2.0), 0.001, (PointVolume((0.0, 0.0, -8.0), 500.0, -20.0, 0.0),))
    above = Afloat(box, 7.0, (0.0, 0.0, -2.0), 0.001, (PointVolume((0.0, 0.0, 40.0), 500.0, -20.0, 0.0),))
    bare = floated_at(float_solid(box, 7.0 / 14.4), (0.0, 0.0, 1.0))
    assert floated_at(above, (0.0, 0.0, 1.0)).draft_mm == pytest.approx(bare.draft_mm)
    lifted = bare.draft_mm - floated_at(below, (0.0, 0.0, 1.0)).draft_mm
    assert lifted == pytest.approx(500.0 / 1200.0, rel=1e-9)
    assert all(r.energy_nj is not None for r in all_rests(below))
