"""Where triangles are cut by the middles of strips, in machine code."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]


@compiled
def reach(s: Array, t: Array, low: float, step: float, least: Array, most: Array) -> None:
    """Widen least and most (n,), in place, by where every triangle (k, 3) is cut at the middles of the strips."""
    for i in range(s.shape[0]):
        for k in range(3):
            a, b = s[i, k], s[i, (k + 1) % 3]
            ta, tb = t[i, k], t[i, (k + 1) % 3]
            if a > b:
                a, b, ta, tb = b, a, tb, ta
            first = max(int(np.ceil((a - low) / step - 0.5)), 0)
            for n in range(first, least.shape[0]):
                place = low + step * (n + 0.5)
                if place >= b:
                    break
                if b > a and place >= a:
                    there = ta + (place - a) / (b - a) * (tb - ta)
                    least[n] = min(least[n], there)
                    most[n] = max(most[n], there)
