"""Conics with axes along and across a body, through the points about one: A·x² + C·y² + D·x + E·y + F = 0.

Ellipsoids, paraboloids and spindles drawn with a few points are met as what they are. Four conditions fix such a conic; a
point on it is one, a rounded end (whose tangent stands upright) is one more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

NEIGHBOURS = 3
"""Points to each side that a conic is sought through."""
CONDITIONS = 4
SURE = 7
"""Conditions from which a conic is believed even where it rises above its points."""
ON, OFF = 0.0015, 0.006
"""Distances (the outline's rise is 1) up to which points lie on a conic, and from which they do not."""
CONFIRMS = 0.02
"""Where the conic's tangent at an end leans less than this (x of a unit vector) it stands upright by itself."""
UPRIGHT = 1e-6
"""A tangent whose x is less stands upright; whether it leads up or down its chord says."""
SPLIT = 0.6
"""Arcs whose handles go less far of the way to the tangents' corner than this are drawn as two (about 70° of a circle)."""
SHARP = 0.75
"""And those whose handles go further: arcs of hyperbolas with a sharp shoulder (a parabola's go 2/3 of the way)."""

MOST_HALVINGS = 8
"""An arc is drawn as 2 to the power of this at most."""


@dataclass(frozen=True, eq=False)
class Conic:
    """Coefficients (A, C, D, E, F)."""

    of: Array

    def gradient(self, points: Array) -> Array:
        """(n, 2) of its left side at points (n, 2)."""
        a, c, d, e, _ = self.of
        return np.stack([2 * a * points[..., 0] + d, 2 * c * points[..., 1] + e], axis=-1)

    def away(self, points: Array) -> Array:
        """(n,) distances of points to first order (Sampson 1982)."""
        x, y = points[..., 0], points[..., 1]
        a, c, d, e, f = self.of
        slope = np.linalg.norm(self.gradient(points), axis=-1)
        return np.asarray(np.abs(a * x * x + c * y * y + d * x + e * y + f) / np.maximum(slope, 1e-12))

    def tangent(self, point: Array, chord: Array) -> Array:
        """Unit tangent at a point, leading aft; an upright one up or down as a chord does."""
        a, c, d, e, _ = self.of.tolist()
        x, y = point.tolist()
        gx, gy = 2 * a * x + d, 2 * c * y + e  # one by one: of a few numbers each, an array takes many times as long
        size = max(float(np.hypot(gx, gy)), 1e-300)
        along = gy / size, -gx / size
        if abs(along[0]) < UPRIGHT:
            return np.array([0.0, np.sign(chord[1]) or 1.0])
        return np.array(along if along[0] > 0.0 else (-along[0], -along[1]))

    def arc(self, one: Array, two: Array, halvings: int = MOST_HALVINGS) -> Array | None:
        """(k, 4, 2) cubics from one point of the conic to another, k up to 2^`halvings`; None where there is no such arc.

        Each has the conic's tangents at both ends and its shoulder between: handles go (4/3)·w/(1+w) of the way to where
        the tangents meet, w the weight of the conic's rational form (Farin 2002, 12.7): 0.5523 on a quarter ellipse,
        2/3 on a parabola.
        """
        t0, t1 = self.tangent(one, two - one), self.tangent(two, two - one)
        chord = two - one
        turn = t0[0] * t1[1] - t0[1] * t1[0]
        if abs(turn) < 1e-9:
            return np.array([[one, one + chord / 3.0, two - chord / 3.0, two]])
        reach0 = (chord[0] * t1[1] - chord[1] * t1[0]) / turn
        reach1 = (t0[0] * chord[1] - t0[1] * chord[0]) / turn
        if reach0 <= 0.0 or reach1 <= 0.0:
            return None
        corner = one + reach0 * t0
        middle = 0.5 * (one + two)
        share = self._shoulder(middle, corner)
        if share is None:
            return None
        lead = 4.0 / 3.0 * share
        if not SPLIT <= lead <= SHARP:
            if halvings == 0:  # a conic all but collapsed, whose halves are no rounder than the whole
                return None
            shoulder = middle + share * (corner - middle)
            first, second = self.arc(one, shoulder, halvings - 1), self.arc(shoulder, two, halvings - 1)
            if first is not None and second is not None:
                return np.concatenate([first, second])
        lead = min(lead, 1.0)
        return np.array([[one, one + lead * (corner - one), two + lead * (corner - two), two]])

    def _shoulder(self, middle: Array, corner: Array) -> float | None:
        """Share of the way from a chord's middle to its tangents' corner at which the conic is crossed: w/(1+w)."""
        step = corner - middle
        a, c, d, e, f = self.of
        square = a * step[0] ** 2 + c * step[1] ** 2
        linear = 2 * a * middle[0] * step[0] + 2 * c * middle[1] * step[1] + d * step[0] + e * step[1]
        rest = a * middle[0] ** 2 + c * middle[1] ** 2 + d * middle[0] + e * middle[1] + f
        roots = np.roots([square, linear, rest]) if abs(square) > 1e-14 else np.array([-rest / linear])
        inside = [float(r.real) for r in np.atleast_1d(roots) if abs(r.imag) < 1e-9 and 0.0 < r.real < 1.0]
        return inside[0] if len(inside) == 1 else None


@dataclass(frozen=True, eq=False)
class Laid:
    """A conic through a run of points, None where none fits; how well it does, 0 to 1; conditions that are for it."""

    conic: Conic | None
    fits: float
    conditions: int


def _through(points: Array, upright: Array) -> Conic:
    """The conic of least misfit through points (n, 2), with upright tangents at `upright` (m, 2)."""
    middle = points.mean(axis=0)
    x, y = (points - middle).T
    rows = np.stack([x * x, y * y, x, y, np.ones_like(x)], axis=1)
    if len(upright):
        uy = (upright - middle)[:, 1]
        zero = np.zeros_like(uy)
        rows = np.vstack([rows, np.stack([zero, 2 * uy, zero, np.ones_like(uy), zero], axis=1)])
    a, c, d, e, f = np.linalg.svd(rows)[2][-1]
    mx, my = middle
    return Conic(np.array([a, c, d - 2 * a * mx, e - 2 * c * my, f + a * mx * mx + c * my * my - d * mx - e * my]))


def along(points: Array, bends: Sequence[str]) -> tuple[list[Conic | None], Array]:
    """For every point (n, 2) the conic through those about it, and how far (0 to 1) it is to be followed.

    Corners end the run that a conic is sought along. A conic that only just fits its points is followed where it keeps
    between the chords; one that more points confirm also where it rises above them.
    """
    count = len(points)
    found: list[Conic | None] = [None] * count
    share = np.zeros(count)
    laid: dict[tuple[int, int], Laid] = {}  # the whole run's is asked for at each of its points
    breaks = [0, *[i for i in range(1, count - 1) if bends[i] == "corner"], count - 1]
    for i in range(count):
        if bends[i] not in ("smooth", "round"):
            continue
        low = max((b for b in breaks if b < i), default=0)
        high = min((b for b in breaks if b > i), default=count - 1)
        near = max(low, i - NEIGHBOURS), min(high, i + NEIGHBOURS)
        for first, last in dict.fromkeys((near, (low, high))):
            if (first, last) not in laid:
                laid[first, last] = _laid(points, bends, first, last)
            conic, share[i] = _believed(laid[first, last], points, i)
            if conic is not None:
                found[i] = conic
                break
    return found, share


def _laid(points: Array, bends: Sequence[str], low: int, high: int) -> Laid:
    """The conic through points low to high: how well it fits, and by how much it is confirmed."""
    window = points[low : high + 1]
    ends = [end for end in (0, len(points) - 1) if low <= end <= high]
    round_ends = [end for end in ends if bends[end] == "round"]
    conditions = len(window) + len(round_ends)
    if conditions < CONDITIONS:
        return Laid(None, 0.0, conditions)
    conic = _through(window, points[round_ends])
    lean = {end: abs(float(conic.tangent(points[end], points[0])[0])) for end in ends}
    # an end where the conic stands upright although nothing asked it to confirms it too
    conditions += sum(bends[end] == "smooth" and lean[end] < CONFIRMS for end in ends)
    miss = max([float(conic.away(window).max()), *(lean[end] * ON for end in round_ends)])
    fits = min(max((OFF - miss) / (OFF - ON), 0.0), 1.0)
    return Laid(conic if fits > 0.0 else None, fits, conditions)


def _believed(laid: Laid, points: Array, i: int) -> tuple[Conic | None, float]:
    """The conic through points and how far it is followed at point i; None where it is not."""
    conic = laid.conic
    if conic is None or (laid.conditions < SURE and not _between_chords(conic, points, i)):
        return None, 0.0
    return conic, laid.fits


def _between_chords(conic: Conic, points: Array, i: int) -> bool:
    """Whether a conic's tangent at a point keeps between the chords beside it, which run the same way in height.

    At an end there is one chord: the tangent rises or falls as it does.
    """
    if i in (0, len(points) - 1):
        chord = points[i + 1] - points[i] if i == 0 else points[i] - points[i - 1]
        return bool(conic.tangent(points[i], chord)[1] * chord[1] >= 0.0)
    before, after = points[i] - points[i - 1], points[i + 1] - points[i]
    if before[1] * after[1] <= 0.0:
        return False
    tangent = conic.tangent(points[i], after)
    turns = before[0] * tangent[1] - before[1] * tangent[0], tangent[0] * after[1] - tangent[1] * after[0]
    return bool(turns[0] * turns[1] >= 0.0)
