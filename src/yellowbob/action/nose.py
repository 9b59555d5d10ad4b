"""The nose at speed: how far its crown stands over the water, and from where on it is drawn under. Graded as the trims are.

The still water's level counts: what piles up before the nose is left out, as in the trims.
"""

from __future__ import annotations

import itertools

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.running import Pulled, Run, Trim

FOREMOST = 0.06
"""Share of the hull's length, from the end that it is tied by, that counts as its nose."""


def nose_of(thing: Pulled) -> NDArray[np.float64]:
    """(n, 3) places of the hull's skin at the end that is drawn ahead, mm, body axes."""
    skin = thing.afloat.hull.vertices
    low, high = float(skin[:, 0].min()), float(skin[:, 0].max())
    ahead = abs(thing.tie_mm[0] - low) <= abs(thing.tie_mm[0] - high)
    off = skin[:, 0] - low if ahead else high - skin[:, 0]
    return np.asarray(skin[off <= FOREMOST * (high - low)])


def nose_over(thing: Pulled, trim: Trim) -> float:
    """How far the crown of the nose stands over the water, mm; negative under it."""
    return float((nose_of(thing) @ trim.up).max()) - trim.height_mm


def nose_under_from(thing: Pulled, found: Run) -> float | None:
    """The speed, m/s, from which the crown of its nose is under, straight between two trims; None where it stays over."""
    seen = [(t.speed_m_s, nose_over(thing, t)) for t in found.trims]
    if seen and seen[0][1] <= 0.0:
        return seen[0][0]
    for (slow, before), (fast, after) in itertools.pairwise(seen):
        if after <= 0.0 < before:
            return slow + (fast - slow) * before / (before - after)
    return None
