"""How long one bob, one nod and one roll take: stiffness of the rest, its own inertia and the water's that moves with it."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.wetted import Strips, ends_share, ends_turning_share, strips, turning_share
from yellowbob.afloat.immersion import waterplane
from yellowbob.afloat.rest import Afloat, Rest
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.lines.clipped import below

Array = NDArray[np.float64]

UPRIGHT = 0.7
"""Deeper in the water than this share of its greatest reach along it, it stands."""
LEVEL = 2e-3
"""Height of the metacentre, as a share of its size, under which it does not come back."""
SOURCE = "Newman 1977, 4.16 and 6.19; Lamb 1932, art. 114"
GRADE = "textbook"


@dataclass(frozen=True)
class Body:
    """What moves: mass g, centre of gravity mm, inertia about it (3, 3) g·mm². A load on the line is none of it."""

    mass_g: float
    centre_mm: tuple[float, float, float]
    inertia_g_mm2: Array


@dataclass(frozen=True)
class Periods:
    """Periods of small motions about a rest, s; None for one that does not come back by itself.

    pitch: about the level axis across the body; roll: about the level axis along it.
    """

    heave_s: float | None
    pitch_s: float | None
    roll_s: float | None
    added_g: float
    """water that bobs with it"""
    stands: bool


def level_axes(up: Array) -> tuple[Array, Array]:
    """Level unit vectors along the body and across it, so that along x across = up; of what stands, along z and y."""
    aft = np.array([1.0, 0.0, 0.0]) - up * up[0]
    if np.linalg.norm(aft) < 1e-3:
        aft = np.array([0.0, 0.0, 1.0]) - up * up[2]
    aft /= np.linalg.norm(aft)
    return aft, np.cross(up, aft)


def stiffness(afloat: Afloat, rest: Rest, along: Array, across: Array) -> Array:
    """(3, 3) of heave (mm), turn about `along` and about `across` (rad) through the centre of gravity; g, mm, s.

    ½ρg∫(w + θ₁·y - θ₂·x)² dS + ½W·(B above G)·|θ|²: hydrostatics of a tilted plane, heave not let go.
    """
    up, push = np.asarray(rest.up), afloat.density_g_mm3 * GRAVITY_MM_S2
    area, first, second = waterplane(afloat, up, rest.height_mm, np.asarray(afloat.centre_mm), along, across)
    (x, y), ((xx, xy), (_, yy)) = first, second
    rise = float((np.asarray(rest.buoyancy_mm) - afloat.centre_mm) @ up) * afloat.mass_g * GRAVITY_MM_S2
    return np.array([
        [push * area, push * y, -push * x],
        [push * y, push * yy + rise, -push * xy],
        [-push * x, -push * xy, push * xx + rise],
    ])  # fmt: skip


def _lying(afloat: Afloat, along: Strips, deep: float, centre: Array, e1: Array) -> Array:
    """(3, 3) added water of what lies: strips along it move up and down; it rolls as an ellipsoid does."""
    rho = afloat.density_g_mm3
    half, long = float(along.half_mm.max()), along.length_mm
    none, one, two = (rho * math.pi / 2.0 * v for v in along.sums(float(centre @ e1)))
    none, one = ends_share(long, half, deep) * none, ends_share(long, half, deep) * one
    # about its own middle the ends count by their turning share, and its bob about the centre of gravity by the other
    middle = one / none
    two = ends_turning_share(long, half, deep) * max(two - one * one / none, 0.0) + none * middle * middle
    room = rho * 2.0 / 3.0 * math.pi * (long / 2.0) * half * deep
    return np.array([[none, 0.0, -one], [0.0, room * turning_share(long / 2.0, half, deep), 0.0], [-one, 0.0, two]])


def _standing(
    afloat: Afloat, body: Body, skin: Array, rest: Rest, axes: tuple[Array, Array], bob_g: float
) -> tuple[Array, Array]:
    """Added water (3, 3) of what stands, and what the free sway takes off its turning inertia (2, 2)."""
    up, (e1, e2) = np.asarray(rest.up), axes
    centre = float(np.asarray(afloat.centre_mm) @ up)
    added, freed = np.zeros((3, 3)), np.zeros((2, 2))
    added[0, 0] = bob_g
    lever = float(np.asarray(body.centre_mm) @ up) - centre
    # a turn about e1 sways it along e2, and its breadth is then across that, along e1
    for k, breadth in ((0, e1), (1, e2)):
        none, one, two = _sway(afloat, skin, up, breadth, centre)
        added[1 + k, 1 + k] = two
        swayed = one + body.mass_g * lever
        freed[k, k] = swayed**2 / (none + body.mass_g)
    return added, freed


ALONG, ASIDE = 0.1, 0.9
"""Water that moves level with what lies, ahead and aside, of the water it pushes aside: for what only drifts. Rules."""


def added_about(afloat: Afloat, rest: Rest, body: Body) -> Array:
    """(6, 6) water that moves with a build about its rest: over velocity along, across and up, and spin about the same level
    axes, through the centre of gravity; g, g·mm, g·mm². What bobs, nods and rolls as `periods` has it, drifting by rules."""
    up = np.asarray(rest.up)
    e1, e2 = level_axes(up)
    _, added, stands = _water(afloat, rest, body)
    level = np.zeros((6, 6))
    wet_g = afloat.mass_g
    inside = (
        np.asarray(afloat.hull.moments.second_mm5)
        * afloat.density_g_mm3
        * min(wet_g / afloat.density_g_mm3 / afloat.hull.volume_mm3, 1.0)
    )
    if stands:
        skin = below(afloat.hull.corners, up, rest.height_mm)
        centre = float(np.asarray(afloat.centre_mm) @ up)
        for k, breadth, way in ((1, e1, -1.0), (0, e2, 1.0)):
            # swaying across its breadth; a turn moves what lies lower the other way
            none, one, _ = _sway(afloat, skin, up, breadth, centre)
            level[k, k] = none
            level[k, 4 - k] = level[4 - k, k] = way * one
        level[5, 5] = 0.0
    else:
        level[0, 0], level[1, 1] = ALONG * wet_g, ASIDE * wet_g
        level[5, 5] = ASIDE * float(e1 @ inside @ e1)
    order = (2, 3, 4)
    for i in range(3):
        for j in range(3):
            level[order[i], order[j]] = added[i, j]
    return level


def _sway(afloat: Afloat, skin: Array, up: Array, breadth: Array, centre: float) -> tuple[float, float, float]:
    """∫ of the water of standing strips, and its first and second moments over a height: g, g·mm, g·mm²."""
    standing = strips(skin, up, breadth)
    half, deep = float(standing.half_mm.max()), standing.length_mm
    share = 1.0 if deep <= 0.0 else min(1.0, ends_share(2.0 * deep, half, half))
    none, one, two = (afloat.density_g_mm3 * math.pi * share * v for v in standing.sums(centre))
    return none, one, two


def periods(afloat: Afloat, rest: Rest, body: Body) -> Periods:
    """Periods of small motions about a rest. `afloat` is the build with its load, `body` what of it turns.

    A load on the line bobs with the float and pulls straight down, but does not turn with it. Heave, roll and pitch are
    solved together. Source: see SOURCE; graded textbook: waves it makes itself are left out, quick motion is assumed.
    """
    e1, e2 = level_axes(np.asarray(rest.up))
    inertia, added, stands = _water(afloat, rest, body)
    found = _modes(stiffness(afloat, rest, e1, e2), inertia + added, afloat, rest)
    return Periods(found[0], found[2], found[1], float(added[0, 0]), stands)


def _water(afloat: Afloat, rest: Rest, body: Body) -> tuple[Array, Array, bool]:
    """(3, 3) inertia of the body in heave and turns, less what its free sway takes off; (3, 3) water's; whether it stands."""
    up = np.asarray(rest.up)
    e1, e2 = level_axes(up)
    skin = below(afloat.hull.corners, up, rest.height_mm)
    centre = np.asarray(afloat.centre_mm)
    along, across = strips(skin, e1, e2), strips(skin, e2, e1)
    longest = along if along.length_mm >= across.length_mm else across
    deep = float(rest.height_mm - (skin @ up).min())
    stands = deep > UPRIGHT * longest.length_mm
    offset = np.asarray(body.centre_mm) - centre
    own = body.inertia_g_mm2 + body.mass_g * (offset @ offset * np.eye(3) - np.outer(offset, offset))
    inertia = np.zeros((3, 3))
    inertia[0, 0] = afloat.mass_g
    inertia[1:, 1:] = [[a @ own @ b for b in (e1, e2)] for a in (e1, e2)]
    if stands:
        half = float(longest.half_mm.max())
        bob = afloat.density_g_mm3 * math.pi / 2.0 * ends_share(longest.length_mm, half, deep) * longest.sums(0.0)[0]
        added, freed = _standing(afloat, body, skin, rest, (e1, e2), bob)
        inertia[1:, 1:] -= freed
    elif longest is along:
        added = _lying(afloat, along, deep, centre, e1)
    else:
        turned = _lying(afloat, across, deep, centre, e2)
        added = np.array(
            [[turned[0, 0], -turned[0, 2], 0.0], [-turned[0, 2], turned[2, 2], 0.0], [0.0, 0.0, turned[1, 1]]]
        )
    return inertia, added, stands


def _modes(stiff: Array, inertia: Array, afloat: Afloat, rest: Rest) -> list[float | None]:
    """Periods of heave, roll and pitch: the modes of the pair of matrices, each by the motion that has most of its energy.

    Told apart by potential energy about the middle of the waterplane, where a bob and a turn do not mix.
    """
    from scipy.linalg import eigh

    values, shapes = eigh(stiff, inertia)
    middle = np.eye(3)
    middle[0, 1:] = stiff[0, 1:] / max(float(stiff[0, 0]), 1e-30)
    back = np.linalg.inv(middle)
    told, apart = middle @ shapes, back.T @ stiff @ back
    shares = np.abs(told * (apart @ told)) / np.maximum(np.abs(values), 1e-30)
    order = max(
        itertools.permutations(range(3)), key=lambda p: sum(shares[motion, mode] for motion, mode in enumerate(p))
    )
    least = LEVEL * afloat.scale_nj
    out: list[float | None] = []
    for motion, mode in enumerate(order):
        loose = motion > 0 and (stiff[motion, motion] < least)
        out.append(None if loose or values[mode] <= 0.0 else 2.0 * math.pi / math.sqrt(values[mode]))
    return out
