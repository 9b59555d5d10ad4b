"""SVG drawings of random bodies of many short lines and curves: within 0.2 % in length, areas and beam, in every unit."""

from __future__ import annotations

import math
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from numpy.typing import NDArray

from yellowbob.design.shape import Lofted
from yellowbob.ground.errors import BadInput
from yellowbob.lines import conics
from yellowbob.lines.sections import outline_curves
from yellowbob.lines.svg.body import Drawn, read_svg_body
from yellowbob.lines.tracing.fit import CLEAR_MM, fit_outline

Array = NDArray[np.float64]
PER_MM = {"mm": 1.0, "cm": 0.1, "in": 1 / 25.4, "pt": 72 / 25.4, "px": 96 / 25.4, "pc": 6 / 25.4, "Q": 4.0}


def loop(rng: np.random.Generator, long: float, deep: float, over: float) -> Array:
    """A closed outline, (n, 2): `over` is the share of its depth that lies above the axis."""
    x = 0.5 - 0.5 * np.cos(np.linspace(0.0, math.pi, 140))
    rise = x ** rng.uniform(0.4, 0.9) * (1.0 - x) ** rng.uniform(0.4, 0.9)
    rise *= deep / rise.max()
    return np.vstack([np.stack([long * x, over * rise], 1), np.stack([long * x, (over - 1.0) * rise], 1)[::-1][1:-1]])


def area(points: Array) -> float:
    x, y = points.T
    return abs(0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))))


def written(points: Array, how: str) -> str:
    """A path's data: lines, lines by steps, cubics or quadratics between the points."""
    words = [f"M {points[0, 0]:.5f} {points[0, 1]:.5f}"]
    at = points[0].round(5)
    for start, end in pairwise(points):
        one, two = start + (end - start) / 3, start + 2 * (end - start) / 3
        step = (end - at).round(5)
        words.append({
            "L": f"{end[0]:.5f},{end[1]:.5f}", "l": f"l{step[0]:.5f} {step[1]:.5f}",
            "C": f"C {one[0]:.5f} {one[1]:.5f} {two[0]:.5f} {two[1]:.5f} {end[0]:.5f} {end[1]:.5f}",
            "Q": f"Q {(start[0] + end[0]) / 2:.5f} {(start[1] + end[1]) / 2:.5f} {end[0]:.5f} {end[1]:.5f}",
        }[how])  # fmt: skip
        at = at + step
    return " ".join(words) + " Z"


def drawing(
    file: Path, side: Array, plan: Array, unit: str = "mm", how: str = "L", names: bool = True, more: str = ""
) -> Drawn:
    """Side above plan on a page of that unit, ten units of the drawing to the mm."""
    wide, high = 1.4 * float(np.ptp(side[:, 0])), 3.0 * float(np.ptp(side[:, 1]) + np.ptp(plan[:, 1]))
    paths = "".join(
        f'<path {"id" if names else "class"}="{name}" d="{written(10.0 * (points * [1, -1] + [5.0, down]), how)}"/>'
        for name, points, down in (("side", side, high / 3), ("plan", plan, 2 * high / 3))
    )
    file.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide * PER_MM[unit]}{unit}" height="{high * PER_MM[unit]}{unit}" '
        f'viewBox="0 0 {10 * wide} {10 * high}">{more}{paths}</svg>'
    )
    return read_svg_body(file)


def off(found: Drawn, side: Array, plan: Array) -> float:
    """The largest share by which length, areas, depth or beam differ."""
    assert isinstance(found.shape, Lofted)
    x = np.linspace(0.0, found.shape.length_mm, 6001)
    back, belly, half = (c.at(x) for c in outline_curves(found.shape))
    long = float(np.ptp(side[:, 0]))
    got = (x[-1], np.trapezoid(back - belly, x), np.trapezoid(2 * half, x), (back - belly).max(), 2 * half.max())
    wanted = (long, area(side), area(plan), np.ptp(side[:, 1]), np.ptp(plan[:, 1]))
    return max(abs(float(a) / float(b) - 1.0) for a, b in zip(got, wanted, strict=True))


@pytest.mark.parametrize("seed", range(18))
def test_random_bodies_come_in_as_they_were_drawn(seed: int, tmp_path: Path) -> None:
    rng = np.random.default_rng(seed)
    long = rng.uniform(30.0, 200.0)
    side = loop(rng, long, long * rng.uniform(0.06, 0.35), rng.uniform(0.35, 0.65))
    plan = loop(rng, long, long * rng.uniform(0.06, 0.3), 0.5)
    found = drawing(tmp_path / "d.svg", side, plan, list(PER_MM)[seed % 7], "LlCQ"[seed % 4])
    assert off(found, side, plan) < 0.002


@pytest.mark.parametrize("beam", [0.6, 1.8])
def test_of_two_outlines_without_names_the_one_with_halves_alike_is_the_plan(beam: float, tmp_path: Path) -> None:
    rng = np.random.default_rng(3)
    side, plan = loop(rng, 90.0, 15.0, 0.62), loop(rng, 90.0, 15.0 * beam, 0.5)
    found = drawing(tmp_path / "d.svg", side, plan, names=False)
    assert off(found, side, plan) < 0.002
    assert any("halves are alike was taken as the plan" in note for note in found.notes)


def test_a_middle_line_is_no_outline_and_stops_nothing(tmp_path: Path) -> None:
    rng = np.random.default_rng(4)
    side, plan = loop(rng, 90.0, 15.0, 0.6), loop(rng, 90.0, 12.0, 0.5)
    lines = (
        '<line x1="0" y1="90" x2="1260" y2="90" stroke="black"/><polyline points="0,9 600,9 1200,9.1" stroke="red"/>'
    )
    assert off(drawing(tmp_path / "d.svg", side, plan, names=False, more=lines), side, plan) < 0.002


def test_what_curves_cannot_follow_is_refused(tmp_path: Path) -> None:
    rng = np.random.default_rng(5)
    side, plan = loop(rng, 90.0, 12.0, 0.6), loop(rng, 90.0, 12.0, 0.5)
    x = np.linspace(1.0, 89.0, 700)
    saw = np.vstack([[[0.0, 0.0]], np.stack([x, 6.0 + 2.0 * (np.arange(700) % 2)], 1), [[90.0, 0.0], [45.0, -6.0]]])
    with pytest.raises(BadInput, match="too ragged to follow"):
        drawing(tmp_path / "d.svg", saw, plan)
    assert off(drawing(tmp_path / "e.svg", side, plan), side, plan) < 0.002


def test_fitted_points_stand_clear_of_each_other_wherever_the_corners_are() -> None:
    x = 80.0 * (0.5 - 0.5 * np.cos(np.linspace(0.0, math.pi, 479)))
    y = 6.0 * np.sqrt(np.maximum(1.0 - (x / 40.0 - 1.0) ** 2, 0.0))
    for corners in ([0.004, 40.0, 40.004, 79.999], [0.0, 80.0], list(x[::9]), [20.0] * 5):
        at = np.array([p.at_mm[0] for p in fit_outline(x, y, 0.004, corners).outline])
        assert np.diff(at).min() > CLEAR_MM and (at[0], at[-1]) == (0.0, x[-1])


def test_an_arc_whose_end_lies_off_its_conic_ends() -> None:
    """Halving it came to a stretch of no length, and went on for ever."""
    found = conics.Conic(
        np.array(
            [0.47362389614297223, 0.22050756976391106, -0.8249145035100239, 0.42566890846293826, -0.2877690662941839]
        )
    )
    arc = found.arc(
        np.array([1.1729304640730303, 0.9490379088635763]), np.array([1.3621408741431587, 0.8614350970909129])
    )
    assert arc is not None and len(arc) <= 2**conics.MOST_HALVINGS and np.isfinite(arc).all()
    assert np.allclose(arc[1:, 0], arc[:-1, 3])
    rng = np.random.default_rng(8)
    for _ in range(300):
        other = conics.Conic(found.of * rng.uniform(0.9, 1.1, 5))
        arc = other.arc(rng.normal(1.2, 0.3, 2), rng.normal(1.2, 0.3, 2))
        assert arc is None or (len(arc) <= 2**conics.MOST_HALVINGS and np.isfinite(arc).all())
