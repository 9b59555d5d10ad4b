"""What a tank test says of a build's weight and centre of gravity: least squares over all its tests, the forecast as prior.

Each test is a rest of the same build with other hooks off. Unknown are what its mass and its moments about the nose differ
by from the forecast; residuals are pitch and draft as read against the full solve, over their uncertainties (Gauss-Newton;
Tarantola 2005, 3.4), so that what remains unsure comes with it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from yellowbob.afloat.rest import Afloat, rest_near, up_from
from yellowbob.ground.errors import BadInput, NoRest
from yellowbob.logbook.records import TankTest

Array = NDArray[np.float64]

PRIOR_MASS_SHARE, PRIOR_MM = 0.03, 1.5
"""How far off forecast mass and centre may be, one sigma: rules."""
STEP = 0.02
STARTS = ((0.0, 0.0, 0.0), (0.0, 1.5, 0.0), (0.0, -1.5, 0.0), (0.0, 0.0, 1.5), (0.0, 0.0, -1.5))
"""Where the search begins, in the priors' sigmas: a build may lie in more than one rest."""
FAR = 1e6
"""What a build that sinks lies off any reading, in its uncertainties: more than one that floats ever does."""


@dataclass(frozen=True)
class Lain:
    """What the tests make the build out to be. centre_mm: of its base, without what was off in any test, x and z; u: standard
    uncertainties. misses: for each test pitch, degrees, and draft, mm, as read less as this build would lie; None not
    read."""

    mass_g: float
    mass_u_g: float
    centre_mm: tuple[float, float]
    centre_u_mm: tuple[float, float]
    forecast_g: float
    forecast_mm: tuple[float, float]
    misses: tuple[tuple[float | None, float | None], ...]
    says: str = ""
    """that the readings do not agree with one another or the forecast, where they do not"""
    agree: bool = True
    """with one another"""


SURPRISE = 3.0
"""Readings further off than so many of their uncertainties, all together, do not agree."""
ON_ITS_SIDE_DEG = 15.0


def lain(
    whole: Afloat, builds: Sequence[Afloat], tests: Sequence[TankTest], mass_u_g: float | None = None
) -> Lain:  # fmt: skip
    """The build's own mass and centre, from one forecast build a test (with what was off left out) and its readings.

    whole : with everything on; mass_u_g : how well its mass is known, where it was weighed. Raises BadInput without a
    reading of pitch or draft, or where a build sinks.
    """
    if not any(t.pitch_deg is not None or t.draft_mm is not None for t in tests):
        raise BadInput("no test gives a pitch or a draft; read one of them")
    if any(t.roll_deg is not None and abs(t.roll_deg) > ON_ITS_SIDE_DEG for t in tests):
        raise BadInput("it lay on its side in a test: its pitch says nothing of where its weight lies along it")
    prior = np.array(
        [
            PRIOR_MASS_SHARE * whole.mass_g if mass_u_g is None else mass_u_g,
            PRIOR_MM * whole.mass_g,
            PRIOR_MM * whole.mass_g,
        ]
    )
    ups = [up_from(math.radians(t.pitch_deg if t.pitch_deg is not None else 0.0), 0.0) for t in tests]

    def misfit(scaled: Array) -> Array:
        try:
            return np.concatenate([_residuals(builds, tests, ups, scaled * prior), scaled])
        except (NoRest, BadInput):  # it would sink: far from any reading
            return np.concatenate([np.full(count, FAR), scaled])

    count = sum((t.pitch_deg is not None) + (t.draft_mm is not None) for t in tests)
    tries = [least_squares(misfit, np.array(start), diff_step=STEP, x_scale=1.0, max_nfev=60) for start in STARTS]
    best = min(tries, key=lambda one: float(one.cost))
    x = best.x * prior
    worst, away = float(np.abs(best.fun[:count]).max()), float(np.abs(best.x).max())
    says = ""
    if worst > SURPRISE:
        says = f"the readings do not agree: one is {worst:.1f} times its uncertainty off"
    elif away > SURPRISE:
        says = f"the readings are far from the forecast: {away:.1f} times what mass and centre are known to; read them again"
    normal = np.diag(1.0 / prior) @ (best.jac.T @ best.jac) @ np.diag(1.0 / prior)
    spread = np.linalg.inv(normal)
    mass = whole.mass_g + float(x[0])
    base = np.array([whole.centre_mm[0], whole.centre_mm[2]])
    centre = (whole.mass_g * base + x[1:]) / mass
    to_centre = np.array([[-centre[0] / mass, 1.0 / mass, 0.0], [-centre[1] / mass, 0.0, 1.0 / mass]])
    sure = np.sqrt(np.diag(to_centre @ spread @ to_centre.T))
    return Lain(
        mass, math.sqrt(float(spread[0, 0])), (float(centre[0]), float(centre[1])), (float(sure[0]), float(sure[1])),
        whole.mass_g, (float(base[0]), float(base[1])), tuple(_misses(builds, tests, ups, x)),
        says, worst <= SURPRISE,
    )  # fmt: skip


def shifted(build: Afloat, x: Array) -> Afloat:
    """A build heavier by x[0] g, its moments about the nose greater by x[1] along and x[2] up, g·mm."""
    mass = build.mass_g + float(x[0])
    if mass <= 0.0:
        raise BadInput("the tests make it weigh nothing; read them again")
    gx, gy, gz = build.centre_mm
    return replace(
        build,
        mass_g=mass,
        centre_mm=((build.mass_g * gx + float(x[1])) / mass, gy, (build.mass_g * gz + float(x[2])) / mass),
    )


def _lies(build: Afloat, up: tuple[float, float, float]) -> tuple[float, float]:
    rest = rest_near(build, up)
    return math.degrees(rest.pitch_rad), rest.draft_mm


def _residuals(builds: Sequence[Afloat], tests: Sequence[TankTest], ups: Sequence[Array], x: Array) -> Array:
    found = []
    for build, test, up in zip(builds, tests, ups, strict=True):
        pitch, draft = _lies(shifted(build, x), (float(up[0]), float(up[1]), float(up[2])))
        if test.pitch_deg is not None:
            found.append((pitch - test.pitch_deg) / test.pitch_u_deg)
        if test.draft_mm is not None:
            found.append((draft - test.draft_mm) / test.draft_u_mm)
    return np.array(found)


def _misses(
    builds: Sequence[Afloat], tests: Sequence[TankTest], ups: Sequence[Array], x: Array
) -> list[tuple[float | None, float | None]]:  # fmt: skip
    found: list[tuple[float | None, float | None]] = []
    for build, test, up in zip(builds, tests, ups, strict=True):
        pitch, draft = _lies(shifted(build, x), (float(up[0]), float(up[1]), float(up[2])))
        found.append((
            None if test.pitch_deg is None else test.pitch_deg - pitch,
                None if test.draft_mm is None else test.draft_mm - draft
        ))  # fmt: skip
    return found
