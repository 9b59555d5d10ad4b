"""How a build settles, in the few figures that picks, trims and variants are compared by."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.afloat.landing import rest_map
from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near


@dataclass(frozen=True)
class Settled:
    """A build at rest. Angles degrees, lengths mm, masses g. `landing_share` is None where it was not asked for."""

    floats: bool
    mass_g: float
    reserve_g: float
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    draft_mm: float = 0.0
    gm_min_mm: float = 0.0
    landing_share: float | None = None
    rests: int = 0
    rest: Rest | None = None


def settled(afloat: Afloat, up: tuple[float, float, float] | None = None, shares: bool = False) -> Settled:
    """Where a build settles from the attitude `up` (upright when None), with the share of landings that end there."""
    reserve = afloat.density_g_mm3 * afloat.volume_mm3 - afloat.mass_g
    if not afloat.floats:
        return Settled(False, afloat.mass_g, reserve)
    rest = rest_near(afloat, up or (0.0, 0.0, 1.0))
    share, count = None, 0
    if shares:
        rests = all_rests(afloat)
        count = len(rests)
        found = rest_map(afloat, rests)
        near = int(np.argmax([float(np.dot(r.up, rest.up)) for r in rests]))
        if rests[near].neutral:
            near = max(range(count), key=lambda k: (rests[k].neutral, float(np.dot(rests[k].up, rest.up))))
        share = found.shares[near]
    return Settled(
        True, afloat.mass_g, reserve, math.degrees(rest.pitch_rad), math.degrees(rest.roll_rad), rest.draft_mm,
        rest.gm_min_mm, share, count, rest,
    )  # fmt: skip
