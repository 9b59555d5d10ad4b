"""What values learnt from builds are worth: a shop's own mean and spread of a wood, a film, a factor, the shelf as prior.

Pieces scatter about the shop's mean, y = mean + piece + reading; mean and scatter are both unknown. Their joint posterior
is worked out on a grid (Gelman et al. 2013, 5.4), so that one piece already says something and three do not overclaim.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

SURE = 0.9
"""Share of the interval that is told."""
MEAN_AWAY = 2.5
"""The shop's mean lies this many of the shelf's spreads from the shelf's, one sigma: a rule."""
LEAST_SPREAD = 0.06
"""Share of the mean that pieces scatter by at least, where the shelf tells less: a rule."""
SCATTER_FOLD = 1.8
"""The shop's scatter is the shelf's spread, give or take this factor, one sigma: a rule."""
MEANS, SCATTERS = 161, 81


@dataclass(frozen=True)
class Piece:
    """One build's value and its standard uncertainty, and which build it is of."""

    value: float
    u: float
    serial: str = ""


@dataclass(frozen=True)
class Taught:
    """A shop's mean of a thing with its interval, the scatter between pieces with its, over how many; what the next piece
    may be.

    trend: change of the mean a piece, over their order, with its standard uncertainty; None under four pieces.
    """

    count: int
    mean: float
    low: float
    high: float
    scatter: float
    scatter_low: float
    scatter_high: float
    next_low: float
    next_high: float
    shelf: float
    trend: float | None
    trend_u: float | None
    serials: tuple[str, ...]


def taught(pieces: Sequence[Piece], shelf_mean: float, shelf_spread: float) -> Taught:
    """What pieces say of a shop's mean and scatter, the shelf's figures as prior. Raises BadInput for values that cannot
    be."""
    if not shelf_mean > 0.0 or shelf_spread < 0.0:
        raise BadInput(f"a shelf's figure of {shelf_mean:g} ± {shelf_spread:g} cannot be learnt from")
    for one in pieces:
        if not (math.isfinite(one.value) and one.u >= 0.0):
            raise BadInput(f"{one.serial}: a value of {one.value:g} ± {one.u:g} cannot be learnt from")
    spread = max(shelf_spread, LEAST_SPREAD * shelf_mean)
    values, us = np.array([p.value for p in pieces]), np.array([p.u for p in pieces])
    away = MEAN_AWAY * spread
    middle = float(values.mean()) if len(values) else shelf_mean
    reach = 5.0 * away if len(values) == 0 else max(5.0 * away, 2.0 * abs(middle - shelf_mean))
    means = np.linspace(min(middle, shelf_mean) - reach, max(middle, shelf_mean) + reach, MEANS)
    if len(values) > 3:  # a grid as fine as what is known
        wide = 8.0 * max(float(values.std(ddof=1)), 0.02 * spread) / math.sqrt(len(values))
        means = np.unique(np.concatenate([means, np.linspace(middle - wide, middle + wide, MEANS)]))
    scatters = spread * np.exp(np.linspace(-3.5, 3.0, SCATTERS) * math.log(SCATTER_FOLD))
    density = _posterior(values, us, means, scatters, shelf_mean, away, spread)
    weight = np.gradient(means)
    of_mean = density.sum(axis=1) * weight
    of_mean /= of_mean.sum()
    of_scatter = (density * weight[:, None]).sum(axis=0)
    of_scatter /= of_scatter.sum()
    low, mean, high = _interval(means, of_mean)
    s_low, scatter, s_high = _interval(scatters, of_scatter)
    # the next piece: the mean's and the scatter's uncertainty together
    joint = density * weight[:, None]
    joint /= joint.sum()
    variance = float((joint * ((means[:, None] - mean) ** 2 + scatters[None, :] ** 2)).sum())
    half = 1.6449 * math.sqrt(variance)
    trend, trend_u = _trend(values, us, scatter)
    return Taught(
        len(values), mean, low, high, scatter, s_low, s_high, mean - half, mean + half, shelf_mean, trend, trend_u,
        tuple(p.serial for p in pieces),
    )  # fmt: skip


def _posterior(
    values: Array, us: Array, means: Array, scatters: Array, shelf: float, away: float, spread: float
) -> Array:  # fmt: skip
    """(means, scatters) posterior density up to a factor; the scatter on a logarithmic grid, so its prior is log-normal
    there."""
    log = (
        -0.5 * ((means - shelf) / away)[:, None] ** 2
        - 0.5 * (np.log(scatters / spread) / math.log(SCATTER_FOLD))[None, :] ** 2
    )
    for value, u in zip(values, us, strict=True):
        variance = scatters**2 + u**2
        log = log - 0.5 * np.log(variance)[None, :] - 0.5 * (value - means)[:, None] ** 2 / variance[None, :]
    return np.asarray(np.exp(log - log.max()))


def _interval(grid: Array, share: Array) -> tuple[float, float, float]:
    """5th percentile, mean, 95th percentile of a density on a grid."""
    sums = np.cumsum(share) - share / 2.0
    low, high = np.interp([(1.0 - SURE) / 2.0, (1.0 + SURE) / 2.0], sums, grid)
    return float(low), float((grid * share).sum()), float(high)


def _trend(values: Array, us: Array, scatter: float) -> tuple[float | None, float | None]:
    """Slope over the order of the pieces by weighted least squares."""
    if len(values) < 4:
        return None, None
    order = np.arange(len(values), dtype=float)
    weight = 1.0 / (scatter**2 + us**2)
    centre = float((weight * order).sum() / weight.sum())
    mean = float((weight * values).sum() / weight.sum())
    square = float((weight * (order - centre) ** 2).sum())
    return float((weight * (order - centre) * (values - mean)).sum() / square), 1.0 / math.sqrt(square)


@dataclass(frozen=True)
class Errors:
    """How predictions missed, in order of time: measured less predicted; their mean (bias) and spread; None without
    enough."""

    misses: tuple[float, ...]
    bias: float | None
    spread: float | None


def errors_of(misses: Sequence[float]) -> Errors:
    """Bias from one on, spread from two."""
    found = np.array(misses, dtype=float)
    return Errors(
        tuple(float(m) for m in found), float(found.mean()) if len(found) else None,
        float(found.std(ddof=1)) if len(found) > 1 else None,
    )  # fmt: skip
