"""Outlines fitted to a traced edge: as few points as hold a stated error."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import LEAST_STEP_MM, OutlinePoint
from yellowbob.lines.curves import curve

Array = NDArray[np.float64]

MOST_POINTS = 16


@dataclass(frozen=True)
class Fitted:
    """An outline and the largest distance between it and the edge it follows, mm."""

    outline: tuple[OutlinePoint, ...]
    error_mm: float


def edges_of(outline: Array, count: int = 240) -> tuple[Array, Array, Array]:
    """x, top and bottom of a closed outline (n, 2), x closer at the ends; each (count,)."""
    low, high = float(outline[:, 0].min()), float(outline[:, 0].max())
    x = low + (high - low) * (0.5 - 0.5 * np.cos(np.linspace(0.0, np.pi, count)))
    one, two = outline, np.roll(outline, -1, axis=0)
    left, right = np.minimum(one[:, 0], two[:, 0]), np.maximum(one[:, 0], two[:, 0])
    top, bottom = np.empty(count), np.empty(count)
    for i, at in enumerate(np.clip(x, low + 1e-9, high - 1e-9)):
        hit = (left <= at) & (right > at)
        a, b = one[hit], two[hit]
        z = a[:, 1] + (b[:, 1] - a[:, 1]) * (at - a[:, 0]) / (b[:, 0] - a[:, 0])
        top[i], bottom[i] = z.max(), z.min()
    return x, top, bottom


def _distance(points: list[OutlinePoint], x: Array, y: Array) -> Array:
    """Distance of each sample from the curve: its height's miss, turned by the curve's slope."""
    drawn = curve(tuple(points)).sampled(20)
    step = drawn[None, :, :] - np.stack([x, y], axis=1)[:, None, :]
    return np.asarray(np.sqrt((step**2).sum(axis=-1).min(axis=1)))


def fit_outline(x: Array, y: Array, error_mm: float) -> Fitted:
    """An outline through samples of an edge, adding points where it misses most until it holds `error_mm`.

    x rising, y any; both (n,) mm. Ends are round where that fits better. At most MOST_POINTS points.
    """

    def made(numbers: list[int], ends: tuple[str, str]) -> list[OutlinePoint]:
        bends = [ends[0], *["smooth"] * (len(numbers) - 2), ends[1]]
        return [
            OutlinePoint.model_validate({"at_mm": (float(x[n]), float(y[n])), "bend": b})
            for n, b in zip(numbers, bends, strict=True)
        ]

    peak = int(np.argmax(np.abs(y - np.interp(x, x[[0, -1]], y[[0, -1]]))))
    numbers = sorted({0, len(x) // 2 if peak in (0, len(x) - 1) else peak, len(x) - 1})
    kinds = [("smooth", "smooth"), ("round", "smooth"), ("smooth", "round"), ("round", "round")]
    best: Fitted | None = None
    while True:
        tries = [(float((away := _distance(made(numbers, ends), x, y)).max()), ends, away) for ends in kinds]
        worst, ends, away = min(tries, key=lambda t: t[0])
        if len(numbers) >= 6:
            kinds = [ends]
        if best is None or worst < best.error_mm:
            best = Fitted(tuple(made(numbers, ends)), worst)
        if best.error_mm <= error_mm or len(numbers) >= MOST_POINTS:
            return best
        # halve the stretch that holds the worst miss: adding at the miss itself would crowd points together
        gaps = [float(away[a : b + 1].max()) if x[b] - x[a] > 4 * LEAST_STEP_MM and b - a > 3 else -1.0
                for a, b in pairwise(numbers)]  # fmt: skip
        at = int(np.argmax(gaps))
        if gaps[at] < 0:
            return best
        numbers = sorted([*numbers, (numbers[at] + numbers[at + 1]) // 2])
