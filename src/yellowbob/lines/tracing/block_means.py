"""A picture's means over square blocks of its pixels, taken a band of rows at a time, so that little is held at once."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Any

import numpy as np
from numpy.typing import NDArray

DEEP = 16
"""Rows of blocks in a band."""
AT_ONCE = 2
"""Bands at hand: while one is read the one before is averaged."""


def block_means(
    rows_of: Callable[[int, int], NDArray[Any]], size: tuple[int, int], step: int
) -> NDArray[Any]:  # fmt: skip
    """Means (ceil(high/step), ceil(wide/step), channels) over blocks of `step` pixels, in the kind of number given.

    `rows_of(first, last)` gives rows of the picture, (last - first, wide) or (…, wide, channels), whose `size` is (wide,
    high) in pixels. With four channels the last is how opaque a pixel is, and the others count by it. What is left over at
    the right and at the bottom makes blocks of its own.
    """
    wide, high = size
    deep = DEEP * step
    bands = (rows_of(top, min(top + deep, high)) for top in range(0, high, deep))
    with ThreadPoolExecutor(AT_ONCE) as pool:
        return np.concatenate(list(_in_turn(pool, bands, lambda rows: _of_band(rows, wide, step))))


def _in_turn(
    pool: ThreadPoolExecutor, bands: Iterator[NDArray[Any]], work: Callable[[NDArray[Any]], NDArray[Any]]
) -> Iterator[NDArray[Any]]:  # fmt: skip
    """What is made of each, in order; never more of them at hand than are worked on at once."""
    due: deque[Future[NDArray[Any]]] = deque()
    for band in bands:
        due.append(pool.submit(work, band))
        if len(due) >= AT_ONCE:
            yield due.popleft().result()
    while due:
        yield due.popleft().result()


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
