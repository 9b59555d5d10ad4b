"""Thrown as a hand throws: how it meets the water over many throws, which rest that ends in; with what hangs on its line."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.action.flight import START_OFF_DEG, fly
from yellowbob.action.pair import Hung, PairFlight, fly_pair
from yellowbob.afloat.rest import up_from
from yellowbob.study import Study, of
from yellowbob.study.action import tied_first

THROWS, SEED = 24, 7
ROLLS = 12
SPEED_SHARE, ANGLE_DEG, HEIGHT_SHARE = 0.1, 6.0, 0.1
"""Scatter of a hand: standard deviations of speed, angle and height."""
LEADER_MM = 600.0
"""A leader's length where the rig does not say."""


@dataclass(frozen=True)
class Landed:
    """Over many throws: share that ends in the rest it is meant for; that of landings even over all attitudes; pitches of
    the splash (k,), degrees. Shares None for a sinker."""

    throws: int
    comes_right: float | None
    evenly: float | None
    pitches_deg: tuple[float, ...]


def landed(study: Study, speed_m_s: float, angle_deg: float, height_m: float) -> Landed:
    """Throw it THROWS times with a hand's scatter, rolled by chance about its axis; where each ends by the rest map.

    Raises BadInput for a throw that cannot be.
    """
    thing, first, rng = of.thrown(study), tied_first(study), np.random.default_rng(SEED)
    pitches = []
    for _ in range(THROWS):
        fast = speed_m_s * max(1.0 + SPEED_SHARE * rng.normal(), 0.3)
        flight = fly(
            thing, min(fast, 100.0), max(min(angle_deg + ANGLE_DEG * rng.normal(), 89.0), -80.0),
            max(height_m * (1.0 + HEIGHT_SHARE * rng.normal()), 0.01), START_OFF_DEG if first else 180.0 - START_OFF_DEG,
        )  # fmt: skip
        pitch = float(flight.pitches_rad[-1])
        pitches.append(math.atan2(math.sin(pitch), math.cos(pitch)))
    told = tuple(math.degrees(p) for p in pitches)
    rest = of.upright_rest(study)
    if rest is None:
        return Landed(THROWS, None, None, told)
    found_map, meant = of.landings(study), of.rests(study).index(rest)
    ends = [
        found_map.ends_in(up_from(pitch, float(roll)))
        for pitch in pitches for roll in rng.uniform(-math.pi, math.pi, ROLLS)
    ]  # fmt: skip
    known = [e for e in ends if e >= 0]
    share = sum(e == meant for e in known) / len(known) if known else None
    return Landed(THROWS, share, of.upright_share(study), told)


def with_line(study: Study, speed_m_s: float, angle_deg: float, height_m: float) -> tuple[Hung, PairFlight] | None:
    """The float thrown with what hangs on its line, gathered at its lowest end; None without a rig or with nothing on it."""
    rig = of.rig(study)
    if rig is None or not rig.hung:
        return None
    mass = sum(h.count * h.mass_g for h in rig.hung)
    room = sum(h.count * h.mass_g / h.density_g_ml for h in rig.hung)
    leaders = [h.below_mm for h in rig.hung if h.below_mm]
    at = of.line_at(study)[0] - of.body(study).centre_mm[0]
    hung = Hung(mass, mass / room, max(leaders, default=LEADER_MM), at)
    return hung, fly_pair(of.thrown(study), hung, speed_m_s, angle_deg, height_m)
