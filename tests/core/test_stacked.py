"""Round pieces on one axis: their profiles' surface against the solids joined; what is not of that sort is left to these."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import DEMO, outline
from yellowbob.design.files import read_design
from yellowbob.design.shape import Turned
from yellowbob.lines.loft import loft
from yellowbob.lines.mesh import Mesh, grown
from yellowbob.lines.solids import common, exposed, to_manifold, unite
from yellowbob.lines.stacked import meeting, profile_of, put_together, showing, stack_of
from yellowbob.study import Study, of


def piece(rng: np.random.Generator, start: float, long: float, thick: float) -> Mesh:
    """A turned piece of some random shape from a station on."""
    count = int(rng.integers(2, 6))
    x = np.sort(rng.uniform(0.1, 0.9, count)) * long
    half = rng.uniform(0.4, 1.0, count) * thick
    first, last = float(rng.choice([0.0, 0.4 * thick])), float(rng.choice([0.0, 0.5 * thick]))
    points = [(0.0, first), *zip(x.tolist(), half.tolist(), strict=True), (long, last)]
    shape = Turned.model_validate({"kind": "turned", "profile": outline(*points)})
    mesh = loft(shape)
    return Mesh(mesh.vertices + np.array([start, 0.0, 0.0]), mesh.faces)


@pytest.mark.parametrize("seed", range(12))
def test_a_stack_is_what_the_solids_joined_are(seed: int) -> None:
    rng = np.random.default_rng(seed)
    pieces, end = [], 0.0
    for _ in range(int(rng.integers(2, 5))):
        long = float(rng.uniform(20.0, 80.0))
        pieces.append(piece(rng, end - float(rng.uniform(2.0, 9.0)), long, float(rng.uniform(1.0, 9.0))))
        end = float(pieces[-1].bounds[1, 0])
    if seed % 3 == 0:  # and finished
        pieces = [grown(one, 0.05) for one in pieces]
    # what grew into itself is left to the solids
    assert stack_of(pieces) is not None or seed == 9
    found, wanted = put_together(pieces), unite(pieces)
    exact = 1e-10
    assert found.volume_mm3 == pytest.approx(wanted.volume_mm3, rel=exact)
    assert found.area_mm2 == pytest.approx(wanted.area_mm2, rel=exact)
    assert found.moments.centroid_mm == pytest.approx(wanted.moments.centroid_mm, abs=1e-9)
    to_manifold(found)  # closed, and right side out
    for shown, beside in ((pieces[:1], pieces[1:]), (pieces[1:], pieces[:1])):
        assert showing(shown, beside).area_mm2 == pytest.approx(exposed(shown, beside).area_mm2, rel=10 * exact)
    both = sum(showing(*pair).area_mm2 for pair in ((pieces[:1], pieces[1:]), (pieces[1:], pieces[:1])))
    assert both == pytest.approx(found.area_mm2, rel=1e-9)
    for one, two in ((pieces[0], pieces[1]), (pieces[0], pieces[-1])):
        shared = common(to_manifold(one), two)
        assert meeting(one, two).volume_mm3 == pytest.approx(shared.volume_mm3, rel=1e-6, abs=1e-6)


def test_what_is_not_round_on_the_axis_or_lies_apart_is_left_to_the_solids() -> None:
    rng = np.random.default_rng(4)
    one, two = piece(rng, 0.0, 40.0, 5.0), piece(rng, 36.0, 30.0, 3.0)
    beside = Mesh(two.vertices + np.array([0.0, 0.4, 0.0]), two.faces)
    apart = Mesh(two.vertices + np.array([20.0, 0.0, 0.0]), two.faces)
    oval = Mesh(two.vertices * np.array([1.0, 1.1, 1.0]), two.faces)
    turned = Mesh(two.vertices[:, [0, 2, 1]] * np.array([1.0, np.cos(0.05), 1.0]), two.faces)
    assert profile_of(one) is not None
    for other in (beside, apart, oval, turned):
        assert stack_of([one, other]) is None
        assert put_together([one, other]).volume_mm3 == pytest.approx(unite([one, other]).volume_mm3, rel=1e-12)
    assert not len(meeting(one, apart).faces)
    lofted = of.outers(Study(read_design(DEMO / "print-wake-92.ybob")))[0]
    assert profile_of(lofted) is None and put_together([lofted]) is lofted


def test_a_piece_that_is_only_shifted_keeps_its_rings() -> None:
    study = Study(read_design(DEMO / "withy-stick-150.ybob"))
    assert all(profile_of(mesh) is not None for mesh in of.outers(study))
    joined = of.joined(study)
    assert joined.volume_mm3 == pytest.approx(unite(of.finished(study)).volume_mm3, rel=1e-9)
