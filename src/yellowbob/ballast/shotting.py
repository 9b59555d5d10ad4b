"""The shot that comes nearest to a load without going over it: an exact search over what lies there, not a greedy one."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]
Ints = NDArray[np.int64]

MOST_SUMS = 400_000
"""So many combinations of half of the sizes are written out; beyond it sums are counted in UNITS."""
UNITS = 1_500_000
"""The load is counted in so many parts where there are too many combinations to write them out."""
LOOKED_AT = 60
"""So many of the best sums in whole units are worked out exactly."""
SAME_G = 1e-9


@dataclass(frozen=True)
class ShotSize:
    """One size: its name, what one pulls with (g, under water, or in air as the target is), and how many there are."""

    name: str
    pull_g: float
    count: int


@dataclass(frozen=True)
class Combination:
    """How many of each size, in the order given; what they pull with together, and what is left to the target, g."""

    counts: tuple[int, ...]
    total_g: float
    left_g: float

    @property
    def pieces(self) -> int:
        """How many shot in all."""
        return sum(self.counts)


def best_shot(target_g: float, sizes: list[ShotSize]) -> Combination:
    """The combination with the largest total not above the target; of equal ones that with the fewest pieces.

    Exact to rounding while the combinations of two halves of the sizes can be written out (MOST_SUMS each), else to
    target / UNITS a piece. Raises BadInput for a target that is no load, or a size that pulls with nothing.
    """
    if not (math.isfinite(target_g) and target_g >= 0.0):
        raise BadInput(f"a load of {target_g:g} g cannot be shotted; give 0 or more")
    for one in sizes:
        if not one.pull_g > 0.0 or one.count < 0:
            raise BadInput(f"{one.name}: {one.count} of {one.pull_g:g} g; a shot pulls with more than nothing")
    most = [min(one.count, int((target_g + SAME_G) / one.pull_g)) for one in sizes]
    first, second = _halves(most)
    if max(_sums(most, first), _sums(most, second)) <= MOST_SUMS:
        counts = _by_halves(target_g, sizes, most, first, second)
    else:
        counts = _by_units(target_g, sizes, most)
        few = handy_shot(target_g, sizes, 1e-4)  # so few pieces can come nearer than units tell
        if few is not None and few.left_g < target_g - _total(counts, sizes):
            counts = list(few.counts)
    return _combination(counts, target_g, sizes)


def _combination(counts: list[int], target: float, sizes: list[ShotSize]) -> Combination:
    total = _total(counts, sizes)
    left = target - total
    return Combination(tuple(counts), total, left if abs(left) > SAME_G else 0.0)


def _total(counts: list[int], sizes: list[ShotSize]) -> float:
    return sum(n * one.pull_g for n, one in zip(counts, sizes, strict=True))


def _sums(most: list[int], which: list[int]) -> float:
    return math.prod(float(most[k] + 1) for k in which)


def _halves(most: list[int]) -> tuple[list[int], list[int]]:
    """The sizes dealt out so that both halves have about as many combinations."""
    halves: tuple[list[int], list[int]] = ([], [])
    for k in sorted(range(len(most)), key=lambda k: -most[k]):
        smaller = 0 if _sums(most, halves[0]) <= _sums(most, halves[1]) else 1
        halves[smaller].append(k)
    return halves


def _written_out(sizes: list[ShotSize], most: list[int], which: list[int]) -> tuple[Array, Ints, Ints]:
    """Every combination of some sizes: sums (n,), counts (n, k), and pieces (n,)."""
    sums, counts = np.zeros(1), np.zeros((1, 0), dtype=np.int64)
    for k in which:
        take = np.arange(most[k] + 1)
        sums = (sums[:, None] + take[None] * sizes[k].pull_g).ravel()
        counts = np.column_stack([np.repeat(counts, len(take), axis=0), np.tile(take, len(counts))])
    return sums, counts, counts.sum(axis=1)


def _by_halves(target: float, sizes: list[ShotSize], most: list[int], first: list[int], second: list[int]) -> list[int]:
    """For each combination of one half the largest of the other that still goes in."""
    sums, counts, pieces = _written_out(sizes, most, first)
    others, other_counts, other_pieces = _written_out(sizes, most, second)
    order = np.lexsort((-other_pieces, others))  # of equal sums the one with the fewest pieces comes last
    others, other_counts, other_pieces = others[order], other_counts[order], other_pieces[order]
    at = np.searchsorted(others, target + SAME_G - sums, side="right") - 1
    fits = at >= 0
    totals = np.where(fits, sums + others[np.maximum(at, 0)], -np.inf)
    used = np.where(fits, pieces + other_pieces[np.maximum(at, 0)], np.iinfo(np.int64).max)
    near = totals >= totals.max() - SAME_G
    best = int(np.flatnonzero(near)[np.argmin(used[near])])
    found = [0] * len(sizes)
    for column, k in enumerate(first):
        found[k] = int(counts[best, column])
    for column, k in enumerate(second):
        found[k] = int(other_counts[at[best], column])
    return found


def _by_units(target: float, sizes: list[ShotSize], most: list[int]) -> list[int]:
    """Sums counted in whole units, as a bounded knapsack; the best of them worked out exactly."""
    unit = target / UNITS
    weights = [max(1, round(one.pull_g / unit)) for one in sizes]
    room = UNITS + sum(most)  # what rounding up may have cost
    reach = [np.zeros(room + 1, dtype=bool)]
    reach[0][0] = True
    for weight, count in zip(weights, most, strict=True):
        now, left, step = reach[-1].copy(), count, 1
        while left > 0:
            take = min(step, left)
            shift = take * weight
            if shift <= room:
                now[shift:] |= now[: room + 1 - shift].copy()
            left, step = left - take, step * 2
        reach.append(now)
    best: list[int] | None = None
    least = math.inf
    for total in np.flatnonzero(reach[-1])[::-1][: LOOKED_AT + sum(most)]:
        counts = _taken_back(reach, weights, most, int(total))
        left_g = target - sum(n * one.pull_g for n, one in zip(counts, sizes, strict=True))
        if -SAME_G <= left_g < least - SAME_G:
            best, least = counts, left_g
        if best is not None and total * unit < target - least - sum(most) * unit:
            break
    return best if best is not None else [0] * len(sizes)


def _taken_back(reach: list[NDArray[np.bool_]], weights: list[int], most: list[int], total: int) -> list[int]:
    """Which counts make up a total, the last size first."""
    counts = [0] * len(weights)
    for k in range(len(weights) - 1, -1, -1):
        for take in range(most[k] + 1):
            rest = total - take * weights[k]
            if rest >= 0 and reach[k][rest]:
                counts[k], total = take, rest
                break
    return counts


MOST_PIECES, MOST_LOOKS = 9, 400_000
"""A handy combination has so few pieces; so many are looked at before it is given up."""


def handy_shot(target_g: float, sizes: list[ShotSize], slack_g: float) -> Combination | None:
    """The fewest pieces whose total lies within `slack_g` under the target, of equally few the nearest; None where so few
    do not. Searched piece by piece, the largest first."""
    order = sorted((k for k, one in enumerate(sizes) if one.count > 0), key=lambda k: -sizes[k].pull_g)
    looks = 0
    best: tuple[float, list[int]] | None = None

    def look(at: int, left: float, pieces: int, taken: list[int]) -> None:
        nonlocal looks, best
        looks += 1
        if pieces == 0:
            if left <= slack_g and (best is None or left < best[0] - SAME_G):
                best = left, taken.copy()
            return
        for place in range(at, len(order)):
            one = sizes[order[place]]
            if looks > MOST_LOOKS or left - slack_g > pieces * one.pull_g:
                return  # smaller ones do not come near either
            if one.pull_g <= left + SAME_G and taken.count(order[place]) < one.count:
                taken.append(order[place])
                look(place, left - one.pull_g, pieces - 1, taken)
                taken.pop()

    for pieces in range(MOST_PIECES + 1):
        look(0, target_g, pieces, [])
        if best is not None:
            return _combination([best[1].count(k) for k in range(len(sizes))], target_g, sizes)
    return None


def labels(capacity_g: float, sizes: list[ShotSize], within: float = 0.04, most: int = 20) -> list[str]:
    """What to write on the float: so many of one size that come within a share of its capacity, the nearest first.

    Masses are in air, as the trade counts.
    """
    found = []
    for one in sizes:
        count = round(capacity_g / one.pull_g)
        off = abs(count * one.pull_g / capacity_g - 1.0) if capacity_g > 0 else math.inf
        if 1 <= count <= most and off <= within:
            found.append((off, count, one))
    found.sort(key=lambda row: (round(row[0], 3), row[1]))
    return [f"{count} × {one.name} = {count * one.pull_g:.2f} g" for _, count, one in found]
