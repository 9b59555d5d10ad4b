"""Checks that what is fitted is held by something: hardware that hangs on the body or a wire, wires that run in a body."""

from __future__ import annotations

import itertools

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.checks.verdict import Finding, check
from yellowbob.design.hardware import Fitting
from yellowbob.fitout.in_wood import least_gap
from yellowbob.lines.distances import point_to_segment
from yellowbob.lines.solids import to_manifold
from yellowbob.study import Study, of
from yellowbob.weights.wires import path_of

NEAR_MM = 6.0
"""What lies farther than this, and its own size, from all that could hold it is held by nothing: a rule."""
FAR_MM, POINT_MM = 1000.0, 0.05
LEAST_SHARE = 0.5
"""So much of a wire must lie in the pieces: a rule."""
BY_ITSELF = ("jig", "other")
"""Sorts that need not touch the piece."""


def _loose(study: Study) -> list[tuple[float, Fitting]]:
    """Fittings that nothing holds, each with its distance from the nearest that could, mm."""
    left = [f for f in study.build.fittings if f.sort not in BY_ITSELF]
    pieces = [to_manifold(outer) for outer in of.outers(study)]
    lines = [path_of(wire) for wire in study.build.wires]
    gaps = [_gap(np.asarray(f.at_mm, dtype=float), pieces, lines) - _size(f) for f in left]
    held = [f for f, gap in zip(left, gaps, strict=True) if gap <= NEAR_MM]
    loose = [(gap, f) for f, gap in zip(left, gaps, strict=True) if gap > NEAR_MM]
    while True:  # what hangs on what is held is held too
        found = [
            (gap, f) for gap, f in loose
            if any(float(np.linalg.norm(np.subtract(f.at_mm, h.at_mm))) <= NEAR_MM + _size(f) + _size(h) for h in held)
        ]  # fmt: skip
        if not found:
            return loose
        held += [f for _, f in found]
        loose = [one for one in loose if one not in found]


def _size(fitting: Fitting) -> float:
    """How far it reaches from its place, mm."""
    own = (fitting.reach_mm, fitting.long_mm, fitting.play_mm)
    return max(*own, 0.0 if fitting.sort in ("prop", "hook") else fitting.span_mm)


def _gap(place: NDArray[np.float64], pieces: list[manifold3d.Manifold], lines: list[NDArray[np.float64]]) -> float:
    """From a place to the outside of the pieces (0 in them), or to a wire, whichever is nearer, mm."""
    along = min((point_to_segment(place, a, b) for line in lines for a, b in itertools.pairwise(line)), default=FAR_MM)
    if along <= NEAR_MM:
        return float(along)
    point = manifold3d.Manifold.sphere(POINT_MM, 8).translate(place.tolist())
    gap = min(least_gap(piece, point, FAR_MM) for piece in pieces)
    return float(min(along, gap + POINT_MM if gap > 0.0 else 0.0))


@check("held", "All held", "What nothing holds is not there: its mass is counted where no hook can hang.", "rule")
def held(study: Study) -> Finding | None:
    if not study.build.fittings:
        return None
    loose = _loose(study)
    if not loose:
        return Finding("good", "all of it")
    gap, worst = max(loose, key=lambda one: one[0])
    figure = f"{worst.name} hangs on nothing, {gap:.0f} mm off"
    return Finding("failed", figure, f"Move {worst.name} to its eye, or bring a wire or an eye to it.")


@check(
    "course",
    "Wire in the body",
    "A wire holds by what of it lies in the body, and is weighed and floats by it.",
    "rule",
)
def course(study: Study) -> Finding | None:
    routed = of.wires(study)
    if not routed:
        return None
    for one in routed:
        total = sum(run.length_mm for run in one.runs)
        share = one.inside_mm / max(total, 1e-9)
        if share < LEAST_SHARE:
            figure = f"{100.0 * share:.0f} % of {one.wire.name}"
            return Finding("failed", figure, f"Lay {one.wire.name} through the body: most of it is outside.")
    return Finding("good", f"{sum(one.inside_mm for one in routed):.0f} mm of it")
