"""Thrown as a hand throws: how it meets the water over many throws, which rest that ends in; with what hangs on its line."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.flight import START_OFF_DEG, fly
from yellowbob.action.pair import Hung, PairFlight, fly_pair
from yellowbob.afloat.immersion import height_for_mass
from yellowbob.afloat.landing import RestMap, grid
from yellowbob.afloat.meniscus import capillary, holds
from yellowbob.afloat.rest import Rest, up_from
from yellowbob.study import Study, of
from yellowbob.study.action import tied_first

Array = NDArray[np.float64]

THROWS, SEED = 24, 7
ROLLS = 12
SPEED_SHARE, ANGLE_DEG, HEIGHT_SHARE = 0.1, 6.0, 0.1
"""Scatter of a hand: standard deviations of speed, angle and height."""
HOME_DEG = 10.0
"""Held no further than this from its rest, it counts as come right."""
LEADER_MM = 600.0
"""A leader's length where the rig does not say."""


@dataclass(frozen=True)
class Landed:
    """Over many throws: share that ends in the rest it is meant for; that of landings even over all attitudes; pitches of
    the splash (k,), degrees; share that ends there although a meniscus holds it lying as it fell wherever it can. Shares None
    for a sinker."""

    throws: int
    comes_right: float | None
    evenly: float | None
    pitches_deg: tuple[float, ...]
    unheld: float | None = None
    carried_share: float | None = None
    """of its weight, what a meniscus around it can carry at the rest it is meant for"""


def held_words(found: Landed) -> str:
    """What a meniscus may hold back of them, in words; nothing where it holds none."""
    if found.comes_right is None or found.unheld is None or found.carried_share is None:
        return ""
    if found.comes_right - found.unheld < 0.005:
        return ""
    return (
        f"a meniscus, up to {100 * found.carried_share:.0f} % of its weight, may hold some as they fell: "
        f"{100 * found.unheld:.0f} % at least come right"
    )


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
    ups = [up_from(pitch, float(roll)) for pitch in pitches for roll in rng.uniform(-math.pi, math.pi, ROLLS)]
    ends = [found_map.ends_in(up) for up in ups]
    known = [e for e in ends if e >= 0]
    share = sum(e == meant for e in known) / len(known) if known else None
    held = held_at(found_map, [up for up, e in zip(ups, ends, strict=True) if e == meant], rest)
    unheld = None if share is None else share - sum(held) / len(known)
    load = capillary(of.afloat(study), rest.up, rest.height_mm).load_g
    return Landed(THROWS, share, of.upright_share(study), told, unheld, load / of.afloat(study).mass_g)


def held_at(found: RestMap, ups: Sequence[Array], rest: Rest) -> list[bool]:
    """Whether a meniscus can hold it lying in each of some attitudes, rather than let it go on to its rest.

    Where what turns it back, the slope of its energy, is less than the meniscus can hold; not within HOME_DEG of the rest.
    Taken at the nearest of the map's attitudes, 4° apart; an estimate, the most that it can be.
    """
    directions, build = grid().directions, found.afloat
    near, known = [int(np.argmax(directions @ up)) for up in ups], {}
    for at in set(near):
        up, slope = directions[at], found.slopes[at]
        steep = float(np.linalg.norm(slope))
        if float(up @ np.asarray(rest.up)) > math.cos(math.radians(HOME_DEG)) or steep == 0.0:
            known[at] = False
            continue
        height = height_for_mass(build, up, build.mass_g)
        known[at] = steep < holds(build, up, height, slope / steep)
    return [known[at] for at in near]


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
