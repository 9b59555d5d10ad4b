"""A picture's means over square blocks of its pixels, taken a band of rows at a time, so that little is held at once."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.progress import go_on

DEEP = 16
"""Rows of blocks in a band."""
AT_ONCE = 2
"""Bands at hand: while one is read the one before is averaged."""
Band = tuple[int, int]
"""Its first row, and the one after its last."""
I = TypeVar("I")
T = TypeVar("T")


def bands_of(high: int, step: int) -> list[Band]:
    """The bands of a picture, each a whole number of blocks of `step` pixels deep but for the last, from the top."""
    deep = DEEP * step
    return [(top, min(top + deep, high)) for top in range(0, high, deep)]


def block_means(bands: Iterable[NDArray[Any]], wide: int, step: int) -> NDArray[Any]:
    """Means (ceil(high/step), ceil(wide/step), channels) over blocks of `step` pixels, in the kind of number given.

    bands : the rows of those of `bands_of`, (…, wide) or (…, wide, channels). With four channels the last is how opaque a
    pixel is, and the others count by it. What is left over at the right and at the bottom makes blocks of its own.
    """
    with ThreadPoolExecutor(AT_ONCE) as pool:
        return np.concatenate(list(in_turn(pool, bands, lambda rows: _of_band(rows, wide, step), AT_ONCE)))


def in_turn(pool: ThreadPoolExecutor, items: Iterable[I], work: Callable[[I], T], at_once: int) -> Iterator[T]:
    """What is made of each, in order; never more of them at hand than so many. Left off when nobody waits for it."""
    due: deque[Future[T]] = deque()
    try:
        for item in items:
            go_on()
            due.append(pool.submit(work, item))
            if len(due) >= at_once:
                yield due.popleft().result()
        while due:
            yield due.popleft().result()
    finally:
        for following in due:
            following.cancel()


def _of_band(rows: NDArray[Any], wide: int, step: int) -> NDArray[Any]:
    rows = rows.reshape(len(rows), wide, -1)
    if rows.shape[2] != 4 or rows[:, :, 3].min() == _opaque(rows):
        return _means(rows, step)
    from yellowbob.lines.tracing.see_through import see_through_means

    return see_through_means(rows, step, np.float64(_opaque(rows))).astype(rows.dtype)


def _opaque(rows: NDArray[Any]) -> int:
    return int(np.iinfo(rows.dtype).max)


def _means(rows: NDArray[Any], step: int) -> NDArray[Any]:
    """Means (…, …, channels) over blocks of rows (high, wide, channels)."""
    import cv2

    high, wide = rows.shape[:2]
    whole = (-(-wide // step) * step - wide, -(-high // step) * step - high)
    if any(whole):
        rows = np.pad(rows, ((0, whole[1]), (0, whole[0]), (0, 0)), mode="edge")
    size = (rows.shape[1] // step, rows.shape[0] // step)
    means = cv2.resize(np.ascontiguousarray(rows), size, interpolation=cv2.INTER_AREA)
    return means.reshape(size[1], size[0], -1)
