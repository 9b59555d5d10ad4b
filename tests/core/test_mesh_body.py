"""A solid from CAD in the document: its triangles are looked through once, however often what it is part of is edited."""

from __future__ import annotations

from typing import Any

import pytest

from tests.conftest import DEMO
from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.shape import MeshBody
from yellowbob.ground.errors import BadInput

CORNERS = ((0.0, 0.0, 0.0), (40.0, 0.0, 0.0), (0.0, 9.0, 0.0), (3.0, 0.0, 7.0))
FACES = ((0, 2, 1), (0, 1, 3), (1, 2, 3), (0, 3, 2))


class Counted(tuple[Any, ...]):
    """Faces that count how often they are gone through."""

    times = 0

    def __iter__(self) -> Any:
        Counted.times += 1
        return super().__iter__()


@pytest.mark.parametrize(
    "bad", [((0, 2, 1), (0, 1, 3), (1, 2, 4), (0, 3, 2)), ((0, 2, 1), (0, 1, -1), (1, 2, 3), (0, 3, 2))]
)
def test_a_triangle_that_names_no_corner_is_refused(bad: Any) -> None:
    with pytest.raises(ValueError, match=r"triangle [23] names vertex"):
        MeshBody(vertices_mm=CORNERS, faces=bad)
    good = MeshBody(vertices_mm=CORNERS, faces=FACES)
    with pytest.raises(BadInput, match=r"triangle [23] names vertex"):
        replaced(good, faces=bad)


def test_its_triangles_are_looked_through_once() -> None:
    shape = MeshBody(vertices_mm=CORNERS, faces=FACES)
    object.__setattr__(shape, "faces", Counted(FACES))
    design = read_design(DEMO / "sallow-74.ybob")
    body = replaced(design.body, shape=shape, cuts=())
    for density in (0.3, 0.4, 0.5):
        design = design.but(pieces=(body, *design.pieces[1:])).of_material(density_g_ml=density)
    assert Counted.times == 0 and design.body.shape is shape


def test_two_alike_are_equal_whatever_was_asked_of_one() -> None:
    one, two = (MeshBody(vertices_mm=CORNERS, faces=FACES) for _ in range(2))
    assert one.length_mm == 40.0
    assert one == two and hash(one) == hash(two)
    assert one.model_dump() == two.model_dump() and one.model_copy() == two
    longer = replaced(one, vertices_mm=(*CORNERS[:1], (50.0, 0.0, 0.0), *CORNERS[2:]))
    assert longer.length_mm == 50.0 and longer != one
