"""How long, wide and deep a piece is: what its drawing says, to a hundredth of a per cent; and what cuts leave of that."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.conftest import DEMO, outline
from tests.core.test_cli import run
from yellowbob.design.cuts import Cup, Plane
from yellowbob.design.files import read_design
from yellowbob.design.model import Piece
from yellowbob.design.shape import Lofted, Turned
from yellowbob.lines.build import piece_mesh
from yellowbob.lines.sizes import size_of

ROUND = Turned.model_validate({"profile": outline((0, 0, "round"), (31, 9.5), (80, 0, "round"))})
CONE = Turned.model_validate({"profile": outline((0, 2, "corner"), (60, 14, "corner"))})
SLAB = Lofted.model_validate(
    {"back": outline((0, 0, "round"), (40, 15), (80, 0, "round")),
     "belly": outline((0, 0, "round"), (30, -10), (80, 0, "round")),
     "plan": outline((0, 0, "round"), (50, 8), (80, 0, "round")),
     "sections": [{"x_mm": 0.0, "back": 4.0, "belly": 1.2, "waist": 0.4}]}
)  # fmt: skip


def size(shape: Lofted | Turned, *cuts: Cup | Plane, **more: object) -> tuple[float, float, float]:
    material = {"name": "any", "density_g_ml": 0.5}
    piece = Piece.model_validate({"name": "Body", "material": material, "shape": shape, "cuts": cuts, **more})
    return size_of(piece, piece_mesh(piece))


def test_an_uncut_piece_is_as_large_as_it_is_drawn() -> None:
    assert size(ROUND) == pytest.approx((80.0, 19.0, 19.0), rel=1e-4)
    assert size(SLAB) == pytest.approx((80.0, 16.0, 25.0), rel=1e-4)
    assert size(CONE) == pytest.approx((60.0, 28.0, 28.0), rel=1e-4)
    assert size(SLAB, at_mm=(7.0, -3.0, 11.0)) == pytest.approx((80.0, 16.0, 25.0), rel=1e-4)


def test_what_a_cut_leaves_is_measured_where_it_is_left() -> None:
    """A head flat takes the back down to its plane; a tail sawn off takes the widest place of a cone with it."""
    flat = Plane(kind="head flat", x_mm=40.0, z_mm=6.25)
    assert size(ROUND, flat) == pytest.approx((80.0, 19.0, 9.5 + 6.25), rel=1e-4)
    assert size(SLAB, flat) == pytest.approx((80.0, 16.0, 10.0 + 6.25), rel=1e-4)
    tail = Plane(kind="tail cut", x_mm=35.0)
    across = 2.0 * (2.0 + 12.0 * 35.0 / 60.0)
    assert size(CONE, tail) == pytest.approx((35.0, across, across), rel=1e-4)
    cup = Cup(diameter_mm=8.0, depth_mm=3.0, rim_x_mm=3.0)
    assert size(ROUND, cup)[1:] == pytest.approx((19.0, 19.0), rel=1e-4)


def test_a_turned_piece_is_measured_as_it_lies() -> None:
    long, wide, high = size(ROUND, turned_deg=(0.0, 90.0, 0.0))
    assert (long, wide) == pytest.approx((19.0, 19.0), rel=6e-3)
    assert high == pytest.approx(80.0)


def test_every_demo_body_says_the_sizes_of_its_outlines(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    for file in sorted(DEMO.glob("*.ybob")):
        shape = read_design(file).shape
        told = json.loads(run(capsys, "lines", str(file), "--json")[1])
        if isinstance(shape, Turned):
            most = max(p.at_mm[1] for p in shape.profile)
            assert told["beam_mm"] == told["depth_mm"] == pytest.approx(2.0 * most, abs=0.011)
        elif isinstance(shape, Lofted):
            assert told["beam_mm"] == pytest.approx(2.0 * max(p.at_mm[1] for p in shape.plan), rel=5e-3)
            deep = max(p.at_mm[1] for p in shape.back) - min(p.at_mm[1] for p in shape.belly)
            assert told["depth_mm"] == pytest.approx(deep, rel=5e-3)
