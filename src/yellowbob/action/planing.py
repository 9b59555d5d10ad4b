"""Planing: from where on the stream and the line carry it rather than the water that it pushes aside.

The usual bound of planing craft: what carries is for the larger part dynamic (Savitsky 1964). Graded rule, as the trims are.
"""

from __future__ import annotations

import itertools

from yellowbob.action.running import Pulled, Run, Trim

PLANES_UNDER = 0.5
"""Of its weight, what buoyancy carries where it begins to plane."""


def buoyant_share(thing: Pulled, trim: Trim) -> float:
    """Of its weight, what is carried at a trim by the water pushed aside; the rest is the stream's and the line's."""
    build = thing.afloat
    return trim.wet_share * build.volume_mm3 * build.density_g_mm3 / build.mass_g


def planes_from(thing: Pulled, found: Run) -> float | None:
    """The speed, m/s, from which it planes, straight between two trims; None where it does not as far as it was drawn."""
    shares = [(t.speed_m_s, buoyant_share(thing, t)) for t in found.trims]
    if shares and shares[0][1] < PLANES_UNDER:
        return shares[0][0]
    for (slow, before), (fast, after) in itertools.pairwise(shares):
        if after < PLANES_UNDER <= before:
            return slow + (fast - slow) * (before - PLANES_UNDER) / (before - after)
    return None
