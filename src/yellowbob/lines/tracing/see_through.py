"""Means over blocks of pixels that are in part see-through, compiled."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled


@compiled
def see_through_means(rows: NDArray[Any], step: int, opaque: float) -> NDArray[Any]:
    """Means (ceil(high/step), ceil(wide/step), 4), rounded, of pixels (high, wide, 4) whose last channel is how opaque they
    are, up to `opaque`: the others count by it. Beyond the edges the last pixel is repeated; nothing opaque comes out black.
    """
    high, wide = rows.shape[:2]
    means = np.zeros((-(-high // step), -(-wide // step), 4))
    for down in range(means.shape[0]):
        for deep in range(step):
            row = rows[min(down * step + deep, high - 1)]
            for across in range(means.shape[1]):
                sums = np.float32(0.0), np.float32(0.0), np.float32(0.0), np.float32(0.0)
                for x in range(across * step, (across + 1) * step):
                    pixel = row[min(x, wide - 1)]
                    share = np.float32(pixel[3])
                    sums = (
                        sums[0] + share * np.float32(pixel[0]),
                        sums[1] + share * np.float32(pixel[1]),
                        sums[2] + share * np.float32(pixel[2]),
                        sums[3] + share,
                    )
                for channel in range(4):
                    means[down, across, channel] += sums[channel]
    for down in range(means.shape[0]):
        for across in range(means.shape[1]):
            share = means[down, across, 3]
            for channel in range(3):
                colour = means[down, across, channel] / share if share > 0.0 else 0.0
                means[down, across, channel] = np.round(colour)
            means[down, across, 3] = np.round(share / (step * step))
    return means
