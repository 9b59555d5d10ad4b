"""Triangles clipped by a plane."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def below(corners: Array, up: Array, height_mm: float) -> Array:
    """(k, 3, 3) triangles, or parts of triangles (m, 3, 3), under the plane x·up = height; those of its cap left out."""
    high = corners @ np.asarray(up) - height_mm
    wet = high < 0.0
    count = wet.sum(axis=1)
    whole = corners[count == 3]
    parts = [whole]
    for wanted in (1, 2):
        rows = np.flatnonzero(count == wanted)
        if not len(rows):
            continue
        # the odd corner first: the wet one of one, the dry one of two
        odd = np.argmax(wet[rows] if wanted == 1 else ~wet[rows], axis=1)
        turn = (odd[:, None] + np.arange(3)) % 3
        tri, level = corners[rows[:, None], turn], high[rows[:, None], turn]
        one = tri[:, 0] + (level[:, 0] / (level[:, 0] - level[:, 1]))[:, None] * (tri[:, 1] - tri[:, 0])
        two = tri[:, 0] + (level[:, 0] / (level[:, 0] - level[:, 2]))[:, None] * (tri[:, 2] - tri[:, 0])
        if wanted == 1:
            parts.append(np.stack([tri[:, 0], one, two], axis=1))
        else:
            parts += [np.stack([one, tri[:, 1], tri[:, 2]], axis=1), np.stack([one, tri[:, 2], two], axis=1)]
    return np.concatenate(parts)
