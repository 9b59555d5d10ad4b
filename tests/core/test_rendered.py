"""Bodies rendered as solids and seen by a camera: right, refused, or with a word; and whether their painter is right."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.test_trace_paints import judged
from tests.rendered_bodies import reached, rendered, solid
from yellowbob.lines.tracing.edge import area_of


@pytest.mark.parametrize(
    ("seed", "hidden", "comes"),
    [(513, False, ("right",)), (536, False, ("right",)), (105, False, ("right", "refused", "doubted")),
     (528, False, ("right", "refused", "doubted")), (516, True, ("right", "refused", "doubted"))],
)  # fmt: skip
def test_a_rendered_body_is_never_wrong_without_a_word(seed: int, hidden: bool, comes: tuple[str, ...]) -> None:
    assert judged(*rendered(np.random.default_rng(seed), hidden)) in comes


def test_a_painted_solid_covers_its_outline_and_shades_what_is_under_it() -> None:
    """Light from below in the picture casts its shadow up it, as far as the body is high."""
    body = solid(np.random.default_rng(3), 400, 300, 30.0)
    area = area_of(body.laid.places)
    assert body.cover.sum() == pytest.approx(area, rel=0.002)
    assert np.linalg.norm(body.normal, axis=-1) == pytest.approx(np.ones(body.cover.shape))
    under = reached(body.half, np.array([0.0, 0.0, 1.0])) < 0.5
    assert np.count_nonzero(under ^ (body.half > 0.0)) < 0.02 * area
    aslant = reached(body.half, np.array([0.0, np.sqrt(0.5), np.sqrt(0.5)])) < 0.5  # it falls up the picture
    rows, own = (np.nonzero(mask.any(axis=1))[0] for mask in (aslant, body.half > 0.0))
    assert own.min() - 2.0 * body.half.max() - 1 <= rows.min() < own.min()
    assert rows.max() <= own.max() + 1
