"""A float under the load of its line: attitude from none to full load, capacity to a mark, what one more shot does.

The line pulls straight down at a point P of the float. That is the statics of the float with a weight more at P that
displaces nothing: mass m + F, centre (m·G + F·P)/(m + F), F in grams of pull (the load's submerged weight over g).
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.immersion import height_for_mass, immersed
from yellowbob.afloat.meniscus import capillary
from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import go_on

Array = NDArray[np.float64]
Point = tuple[float, float, float]

UP_TIP: Point = (-1.0, 0.0, 0.0)
"""World-up in body axes with the tip straight up."""
NEAR_FULL = 1.0 - 1e-6
"""Share of the load that sinks it up to which it is followed."""
LIES_DEG, STANDS_DEG = 20.0, 1.0
"""Nearer to level than LIES it lies; within STANDS of how it ends under full load it stands; half-cocked between."""
JUMP_DEG = 10.0
"""A larger turn than this within JUMP_SHARE of the sinking load is a jump."""
JUMP_SHARE = 2e-5
TOLERANCE_G = 1e-7
LOADS_TRIED = 33
"""Loads looked at before the one that leaves the wanted tip is narrowed down."""


def submerged_g(mass_g: float, density_g_ml: float, water_g_ml: float) -> float:
    """What a mass pulls with under water, in grams; negative for what floats."""
    return mass_g * (1.0 - water_g_ml / density_g_ml)


def in_air_g(pull_g: float, density_g_ml: float, water_g_ml: float) -> float:
    """The mass that pulls with so many grams under water. Raises BadInput for a material that floats."""
    if density_g_ml <= water_g_ml:
        raise BadInput(f"a material of {density_g_ml:g} g/mL does not sink in water of {water_g_ml:.4f} g/mL")
    return pull_g / (1.0 - water_g_ml / density_g_ml)


def under_load(afloat: Afloat, load_g: float, at_mm: Point) -> Afloat:
    """The build with a pull of so many grams straight down at a point. Raises BadInput for a load below 0."""
    if not (math.isfinite(load_g) and load_g >= 0.0):
        raise BadInput(f"a load of {load_g:g} g cannot be; give 0 or more")
    mass = afloat.mass_g + load_g
    x, y, z = ((afloat.mass_g * g + load_g * p) / mass for g, p in zip(afloat.centre_mm, at_mm, strict=True))
    return Afloat(afloat.hull, mass, (x, y, z), afloat.density_g_mm3, afloat.points)


def sinking_load_g(afloat: Afloat) -> float:
    """The pull that draws it under; below 0 for what sinks by itself."""
    return afloat.density_g_mm3 * afloat.volume_mm3 - afloat.mass_g


def tip_of(afloat: Afloat) -> Array:
    """(3,) the middle of the foremost end, mm: the end of the tip."""
    vertices = afloat.hull.vertices
    least = float(vertices[:, 0].min())
    return np.asarray(vertices[vertices[:, 0] < least + 1e-6].mean(axis=0))


def tip_mm(afloat: Afloat, up: Point | Array, height_mm: float) -> float:
    """Height of the tip's end above the water, mm; negative under it."""
    return float(tip_of(afloat) @ np.asarray(up)) - height_mm


@dataclass(frozen=True)
class Step:
    """How it sits under one load. tip_mm: height of the tip's end above the water."""

    load_g: float
    rest: Rest
    tip_mm: float
    state: str
    """lies, half-cocked or stands"""

    @property
    def pitch_deg(self) -> float:
        """Tip up positive, degrees."""
        return math.degrees(self.rest.pitch_rad)


@dataclass(frozen=True)
class Cocking:
    """A float from no load to the one that sinks it, followed load by load."""

    steps: tuple[Step, ...]
    cocks_at_g: float | None
    """the least load from which on it stays within STANDS_DEG of how it stands under full load; None: it never stands"""
    jumps_at_g: tuple[float, ...]
    sinks_at_g: float
    stands_pitch_deg: float = 90.0
    jumps_deg: tuple[float, ...] = field(default=())


def lying_rest(afloat: Afloat) -> Rest:
    """How it lies without any load: of its rests the one of least energy. Raises NoRest for a sinker."""
    return all_rests(afloat)[0]


def _angle_deg(one: Rest, two: Rest) -> float:
    # a ring of equal rests turns freely about the axis: only the pitch tells one from another there
    return abs(math.degrees(one.pitch_rad - two.pitch_rad))


def cocking(afloat: Afloat, at_mm: Point, steps: int = 40) -> Cocking:
    """Follow a float from rest to rest while the load grows; loads lie closer where it turns.

    Raises BadInput for a silly number of steps or a float that sinks by itself.
    """
    if not 5 <= steps <= 400:
        raise BadInput(f"{steps} steps: ask for 5 to 400")
    sinks = sinking_load_g(afloat)
    if sinks <= 0.0:
        raise BadInput(f"it sinks by itself, {-sinks:.2f} g too heavy: it has nothing to carry a load with")
    full = sinks * NEAR_FULL
    stands = rest_near(under_load(afloat, full, at_mm), UP_TIP)

    def followed(load: float, last: Rest) -> Rest:
        go_on()
        return rest_near(under_load(afloat, load, at_mm), _nudged(last))

    first = lying_rest(afloat)
    found: list[tuple[float, Rest]] = [(0.0, first)]
    for load in (float(v) * full for v in np.linspace(0.0, 1.0, max(steps // 2, 4))[1:]):
        found.append((load, followed(load, found[-1][1])))
    spare = steps - len(found)
    while spare > 0:
        gaps = [
            (_angle_deg(a[1], b[1]), k)
            for k, (a, b) in enumerate(itertools.pairwise(found)) if b[0] - a[0] > JUMP_SHARE * full
        ]  # fmt: skip
        if not gaps or max(gaps)[0] < 0.5:
            break
        k = max(gaps)[1]
        middle = (found[k][0] + found[k + 1][0]) / 2.0
        found.insert(k + 1, (middle, followed(middle, found[k][1])))
        spare -= 1
    cocks = _cocks_at(found, stands, followed)
    rows = tuple(
        Step(load, rest, tip_mm(afloat, rest.up, rest.height_mm), _state(rest, stands)) for load, rest in found
    )
    jumps = [
        (a[0], _angle_deg(a[1], b[1]))
        for a, b in itertools.pairwise(found)
        if _angle_deg(a[1], b[1]) > JUMP_DEG and b[0] - a[0] <= 2.0 * JUMP_SHARE * full
    ]
    return Cocking(
        rows, cocks, tuple(j[0] for j in jumps), sinks, stands_pitch_deg=math.degrees(stands.pitch_rad),
        jumps_deg=tuple(j[1] for j in jumps),
    )  # fmt: skip


def _nudged(last: Rest) -> Point:
    """The attitude to start from: a hair off the last one, for a balance that has just turned unstable holds exactly."""
    up = np.asarray(last.up) + np.array([-2e-4, 0.0, 1e-4])
    up /= np.linalg.norm(up)
    return float(up[0]), float(up[1]), float(up[2])


def state_of(pitch_rad: float, stands_rad: float) -> str:
    """Lies, half-cocked or stands, by its pitch and that under full load, rad."""
    if abs(math.degrees(pitch_rad - stands_rad)) <= STANDS_DEG and abs(math.degrees(stands_rad)) > LIES_DEG:
        return "stands"
    return "lies" if abs(math.degrees(pitch_rad)) < LIES_DEG else "half-cocked"


def _state(rest: Rest, stands: Rest) -> str:
    return state_of(rest.pitch_rad, stands.pitch_rad)


def _cocks_at(found: list[tuple[float, Rest]], stands: Rest, followed: Callable[[float, Rest], Rest]) -> float | None:
    """Bisect between the last load at which it does not stand and the next."""
    if _state(found[-1][1], stands) != "stands":
        return None
    k = len(found) - 1
    while k > 0 and _state(found[k - 1][1], stands) == "stands":
        k -= 1
    if k == 0:
        return 0.0
    (low, last), (high, _) = found[k - 1], found[k]
    while high - low > TOLERANCE_G * max(1.0, high) * 100.0:
        middle = (low + high) / 2.0
        rest = followed(middle, last)
        if _state(rest, stands) == "stands":
            high = middle
        else:
            low, last = middle, rest
    return high


@dataclass(frozen=True)
class Capacity:
    """The load at which so much of the tip shows, with the band that a meniscus puts on it, and how little moves the tip."""

    load_g: float
    tip_mm: float
    rest: Rest
    capillary_g: float
    mm_per_cg: float
    """how far the tip goes down for 0.01 g more"""


def capacity(afloat: Afloat, at_mm: Point, tip_wanted_mm: float) -> Capacity:
    """Grams of pull at which the tip shows by so much. Raises BadInput where no load brings it there."""
    sinks = sinking_load_g(afloat)
    if sinks <= 0.0:
        raise BadInput(f"it sinks by itself, {-sinks:.2f} g too heavy: it has nothing to carry a load with")

    def rest_at(load: float) -> Rest:
        return rest_near(under_load(afloat, load, at_mm), UP_TIP)

    def over(load: float) -> float:
        rest = rest_at(load)
        return tip_mm(afloat, rest.up, rest.height_mm) - tip_wanted_mm

    from scipy.optimize import brentq  # half a second to import: only when a float is asked what it carries

    # from the sinking load down: a float that is not yet cocked shows less of its tip, not more
    loads = np.linspace(sinks * NEAR_FULL, 0.0, LOADS_TRIED)
    high, most = float(loads[0]), -math.inf
    if over(high) > 0.0:
        raise BadInput(f"{tip_wanted_mm:g} mm of tip is less than it shows just before it sinks; ask for more")
    for low in (float(v) for v in loads[1:]):
        above = over(low)
        most = max(most, above + tip_wanted_mm)
        if above >= 0.0:
            break
        high = low
    else:
        raise BadInput(f"no load leaves {tip_wanted_mm:g} mm of tip: it shows {most:.1f} mm at most; ask for less")
    load = float(brentq(over, low, high, xtol=TOLERANCE_G, rtol=1e-12))
    rest = rest_at(load)
    water = capillary(afloat, rest.up, rest.height_mm)
    area = max(rest.waterplane_mm2, 1e-12)
    return Capacity(load, tip_wanted_mm, rest, water.load_g, 0.01 / (afloat.density_g_mm3 * area))


def upright_from_g(afloat: Afloat, at_mm: Point) -> float | None:
    """The least load under which the tip straight up is a stable balance of an evenly built float; None: none.

    Found by the sign of the least metacentric height of the float held with its tip up.
    """
    from scipy.optimize import brentq

    full = sinking_load_g(afloat) * NEAR_FULL

    def stiffness(load: float) -> float:
        loaded = under_load(afloat, load, at_mm)
        height = height_for_mass(loaded, np.asarray(UP_TIP), loaded.mass_g)
        water = immersed(loaded, np.asarray(UP_TIP), height)
        rise = (np.asarray(loaded.centre_mm) - water.centre_mm) @ np.asarray(UP_TIP)
        return float(water.inertia_min_mm4 / water.volume_mm3 - rise)

    if full <= 0.0:
        return None
    loads = np.linspace(0.0, full, 25)
    stiff = [stiffness(float(v)) for v in loads]
    if stiff[-1] <= 0.0:
        return None
    k = len(loads) - 1
    while k > 0 and stiff[k - 1] > 0.0:
        k -= 1
    return 0.0 if k == 0 else float(brentq(stiffness, float(loads[k - 1]), float(loads[k]), xtol=TOLERANCE_G))
