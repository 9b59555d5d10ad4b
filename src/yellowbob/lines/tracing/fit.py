"""Outlines fitted to an edge: as few points as hold a stated error, as many as it needs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import LEAST_STEP_MM, OutlinePoint
from yellowbob.lines.curves import curve

Array = NDArray[np.float64]

MOST_POINTS = 300
CLEAR_MM = 1.5 * LEAST_STEP_MM
"""Points of a fitted outline stand further apart along it than this."""
MOST_ROUNDS = 60
AT_ONCE = 4_000_000
"""Sides of an outline, for each place along it, that are looked through together."""


@dataclass(frozen=True)
class Fitted:
    """An outline and the largest distance between it and the edge it follows, mm."""

    outline: tuple[OutlinePoint, ...]
    error_mm: float


def edges_of(outline: Array, count: int = 240, also: Sequence[float] = ()) -> tuple[Array, Array, Array]:
    """x, top and bottom of a closed outline (n, 2), x closer at the ends and at every one of `also`; each (count,)."""
    low, high = float(outline[:, 0].min()), float(outline[:, 0].max())
    x = low + (high - low) * (0.5 - 0.5 * np.cos(np.linspace(0.0, np.pi, count)))
    if len(also):
        given = np.array([a for a in sorted(also) if low + LEAST_STEP_MM < a < high - LEAST_STEP_MM])
        near = (
            np.abs(x[:, None] - given[None, :]).min(axis=1) < 2 * LEAST_STEP_MM
            if len(given)
            else np.zeros(len(x), bool)
        )
        near[[0, -1]] = False
        x = np.sort(np.concatenate([x[~near], given[np.diff(given, prepend=-np.inf) > LEAST_STEP_MM]]))
    one, two = outline, np.roll(outline, -1, axis=0)
    left, right = np.minimum(one[:, 0], two[:, 0]), np.maximum(one[:, 0], two[:, 0])
    top, bottom, within = np.empty(len(x)), np.empty(len(x)), np.clip(x, low + 1e-9, high - 1e-9)
    for few in np.array_split(np.arange(len(x)), 1 + len(x) * len(one) // AT_ONCE):
        at = within[few]
        row, hit = np.nonzero((left <= at[:, None]) & (right > at[:, None]))
        a, b = one[hit], two[hit]
        z = a[:, 1] + (b[:, 1] - a[:, 1]) * (at[row] - a[:, 0]) / (b[:, 0] - a[:, 0])
        first = np.searchsorted(row, np.arange(len(at)))
        top[few], bottom[few] = np.maximum.reduceat(z, first), np.minimum.reduceat(z, first)
    return x, top, bottom


def _distance(points: list[OutlinePoint], x: Array, y: Array) -> Array:
    """Distance of each sample from the curve, taken as straight runs between many places of it, at the two by the nearest."""
    drawn, samples = curve(tuple(points)).sampled(12), np.stack([x, y], axis=1)
    nearest = np.argmin((x[:, None] - drawn[:, 0]) ** 2 + (y[:, None] - drawn[:, 1]) ** 2, axis=1)
    misses = []
    for first in (np.maximum(nearest - 1, 0), np.minimum(nearest, len(drawn) - 2)):
        start, along = drawn[first], drawn[first + 1] - drawn[first]
        away = samples - start
        share = np.clip((away * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), 1e-30), 0.0, 1.0)
        misses.append(np.linalg.norm(away - share[:, None] * along, axis=1))
    return np.minimum(*misses)


def _miss(points: list[OutlinePoint], x: Array, y: Array) -> tuple[float, Array]:
    away = _distance(points, x, y)
    return float(away.max()), away


def _clear(at: float, before: float, after: float) -> bool:
    """Whether a point may stand between two others."""
    return bool(min(at - before, after - at) > CLEAR_MM)


def _apart(x: Array, numbers: Sequence[int]) -> set[int]:
    """Of the numbers of samples, x rising, those that stand clear of the ends and of each other."""
    kept = [0]
    for number in sorted(set(numbers)):
        if _clear(float(x[number]), float(x[kept[-1]]), float(x[-1])):
            kept.append(number)
    return set(kept[1:])


def fit_outline(x: Array, y: Array, error_mm: float, corners: Sequence[float] = ()) -> Fitted:
    """An outline through samples of an edge, halving the stretches that miss until it holds `error_mm`.

    x rising, y any; both (n,) mm. `corners` are x of samples at which the edge turns sharply. Ends are round, or corners,
    where that fits better. The error that is told is the one reached: the samples may lie too far apart for the asked one.
    """
    sharp = _apart(x, [int(np.argmin(np.abs(x - at))) for at in corners])

    def made(numbers: list[int], ends: tuple[str, str]) -> list[OutlinePoint]:
        bends = [ends[0], *("corner" if n in sharp else "smooth" for n in numbers[1:-1]), ends[1]]
        return [
            OutlinePoint.model_validate({"at_mm": (float(x[n]), float(y[n])), "bend": b})
            for n, b in zip(numbers, bends, strict=True)
        ]

    off = np.abs(y - np.interp(x, x[[0, -1]], y[[0, -1]]))
    peak = int(np.argmax(off))
    straight = float(off.max()) <= error_mm
    middle = _apart(x, [peak]) or _apart(x, [len(x) // 2]) if not straight and not sharp else set()
    numbers = sorted({0, len(x) - 1, *sharp, *middle})
    best: Fitted | None = None
    ends = ("smooth", "smooth")
    for _ in range(MOST_ROUNDS):
        worst, away = _miss(made(numbers, ends), x, y)
        if len(numbers) < 6 + len(sharp):
            # the ends are tried each by itself: the one hardly reaches to the other
            for end in (0, 1):
                for way in ("corner", "smooth", "round"):
                    other = (way, ends[1]) if end == 0 else (ends[0], way)
                    if other == ends:
                        continue
                    tried = _miss(made(numbers, other), x, y)
                    if tried[0] < worst:
                        (worst, away), ends = tried, other
        if best is None or worst < best.error_mm:
            best = Fitted(tuple(made(numbers, ends)), worst)
        if best.error_mm <= error_mm or len(numbers) >= MOST_POINTS:
            break
        # halve the stretches that miss most: adding at the miss itself would crowd points together
        gaps = [(float(away[a : b + 1].max()), (a + b) // 2) for a, b in pairwise(numbers)
                if b - a > 1 and away[a : b + 1].max() > error_mm and _clear(x[(a + b) // 2], x[a], x[b])]  # fmt: skip
        more = [at for miss, at in gaps if miss > 0.5 * max(gap[0] for gap in gaps)]
        if not more:
            break
        numbers = sorted({*numbers, *more})
    assert best is not None
    return best
