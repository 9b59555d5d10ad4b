"""Bodies drawn in SVG in parts of several colours: united by whoever drew them, or refused; fins, lips and views are none."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from tests.core.test_svg_in import areas, ellipse, read
from yellowbob.ground.errors import BadInput

LONG, DEEP = 84.0, 15.0
X, Y = 60.0, 30.0
WHOLE = ellipse(X, Y, LONG, DEEP)


def cut_at(share: float, gap_mm: float = 0.0, lap_mm: float = 0.0) -> tuple[str, str]:
    """An ellipse sawn across at a share of its half length: the long part, and the end that is off it by a gap or laps it."""
    a, b = LONG / 2, DEEP / 2
    x, high = X + share * a, b * math.sqrt(1 - share**2)
    rest = f'<path d="M {x} {Y - high} A {a} {b} 0 1 0 {x} {Y + high} Z"/>'
    at, lap = x + gap_mm, x - lap_mm
    head = f"M {lap} {Y - high} L {at} {Y - high} A {a} {b} 0 0 1 {at} {Y + high} L {lap} {Y + high} Z"
    return rest, f'<path fill="red" d="{head}"/>'


def belly(at: float) -> str:
    """The ellipse in two along its length, the line between them so far below its axis at the middle."""
    a, b = LONG / 2, DEEP / 2
    line = f"Q {X} {Y + 2 * at} {X - a} {Y} Z"
    back = f'<path d="M {X - a} {Y} A {a} {b} 0 0 1 {X + a} {Y} {line}"/>'
    return back + f'<path fill="white" d="M {X - a} {Y} A {a} {b} 0 0 0 {X + a} {Y} {line}"/>'


@pytest.mark.parametrize("share", [0.2, 0.5, 0.8])
@pytest.mark.parametrize(("gap_mm", "lap_mm"), [(0.0, 0.0), (0.05, 0.0), (0.0, 1.5)])
def test_a_head_drawn_by_itself_is_not_left_off(tmp_path: Path, share: float, gap_mm: float, lap_mm: float) -> None:
    rest, head = cut_at(share, gap_mm, lap_mm)
    for drawn in (rest + head, head + rest):
        with pytest.raises(BadInput, match=r"lies against '.*' along [\d.]+ mm: unite them"):
            read(tmp_path, drawn)
    named = read(tmp_path, rest.replace("<path", '<path id="side"') + head)
    assert areas(named)[0] == pytest.approx((1 + share) * LONG / 2, rel=2e-3)


@pytest.mark.parametrize("at", [0.0, 2.0, -3.0])
def test_a_back_and_a_belly_are_no_side_and_plan(tmp_path: Path, at: float) -> None:
    with pytest.raises(BadInput, match="lies against"):
        read(tmp_path, belly(at))


def test_what_is_painted_on_a_whole_body_hangs_on_it_or_is_another_view_is_no_part_of_it(tmp_path: Path) -> None:
    _, head = cut_at(0.5)
    a, b = X - LONG / 2, X + LONG / 2
    beside = {
        "a head": head, "a lip": f'<path d="M {a + 4} 32 L {a - 3} 44 L {a - 1} 45 L {a + 7} 33 Z"/>',
        "a tail": f'<path d="M {b - 1} 29 L {b + 8} 22 L {b + 6} 30 L {b + 8} 38 L {b - 1} 31 Z"/>',
        "a fin": f'<path d="M {X - 6} 22.4 L {X + 1} 18 L {X + 4} 22.4 Z"/>',
        "an eye": f'<circle cx="{a + 8}" cy="29" r="2"/>',
    }  # fmt: skip
    for what, one in beside.items():
        long, side, _ = areas(read(tmp_path, WHOLE + one))
        assert long == pytest.approx(LONG, rel=2e-3), what
        assert side == pytest.approx(math.pi / 4 * LONG * DEEP, rel=2e-3), what
    touching = read(tmp_path, WHOLE + ellipse(X, Y + DEEP / 2 + 6.0, LONG, 12.0))
    assert areas(touching)[2] == pytest.approx(math.pi / 4 * LONG * 12.0, rel=2e-3)
