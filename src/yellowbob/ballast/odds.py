"""Build odds: how the tolerances of wood, finish, drilling, ballast and hooks spread a build, before the first cut.

Every build draws each tolerance once (normal, independent), has its mass, centre and hull changed by as much, and is
settled again. The changes of mass and moment are linear in the tolerances; the settling is not.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.rest import Afloat, Rest, floated_at
from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

CHUNK = 250
MOST_BUILDS = 200_000
RIGHT_DEG = 12.0
"""A probe that comes so near the build's own rest has come right."""


@dataclass(frozen=True, eq=False)
class Tolerance:
    """One thing that varies: σ in its own unit, and what one unit of it changes.

    mass_g : of the build; moment_g_mm : of mass about the body's axes' origin, (3,); film_mm : of the hull.
    """

    key: str
    words: str
    sigma: float
    unit: str
    mass_g: float
    moment_g_mm: Array
    film_mm: float = 0.0


@dataclass(frozen=True, eq=False)
class Builds:
    """Many builds, settled. Arrays (k,): pitch and roll rad, draft mm, reserve g, mass g; floats and right are truth values.

    draws (k, j) : each tolerance's share of its σ.
    """

    tolerances: tuple[Tolerance, ...]
    draws: Array
    ups: Array
    draft_mm: Array
    reserve_g: Array
    mass_g: Array
    floats: NDArray[np.bool_]
    right: NDArray[np.bool_]
    immersions: int

    @property
    def pitch_rad(self) -> Array:
        """(k,) pitch of each build, rad, nose up positive."""
        return np.asarray(np.arcsin(np.clip(-self.ups[:, 0], -1.0, 1.0)))

    @property
    def roll_rad(self) -> Array:
        """(k,) roll of each build, rad, starboard down positive."""
        return np.asarray(np.arctan2(-self.ups[:, 1], self.ups[:, 2]))


def drawn(tolerances: tuple[Tolerance, ...], builds: int, seed: int, mixing: Array | None = None) -> Array:
    """(builds, tolerances) normal draws, cut at 4 σ; a chunk's own stream, so that the order of work plays no part.

    Every draw is followed by its opposite (antithetic variates, Hammersley and Morton 1956), so that whatever is linear
    in the tolerances has the design's own value as its mean. mixing (j, j) makes them vary together.
    """
    parts = []
    for number in range(0, builds, CHUNK):
        rng = np.random.default_rng([seed, number])
        half = np.clip(rng.normal(size=(CHUNK // 2, len(tolerances))), -4.0, 4.0)
        half = half if mixing is None else half @ mixing.T
        parts.append(np.stack([half, -half], axis=1).reshape(CHUNK, -1))
    return np.vstack(parts)[:builds]


def simulate(
    afloat: Afloat, rest: Rest, tolerances: tuple[Tolerance, ...], probes: Array, builds: int, seed: int,
    told: Callable[[int], bool] | None = None, mixing: Array | None = None,
) -> Builds:  # fmt: skip
    """Settle `builds` builds. The same seed gives the same result on one core or two.

    told : called with how many are done; False stops, and what is done is given. mixing : see `drawn`.
    Raises BadInput for a silly number.
    """
    if not 1 <= builds <= MOST_BUILDS:
        raise BadInput(f"{builds} builds: ask for 1 to {MOST_BUILDS}")
    draws = drawn(tolerances, builds, seed, mixing)
    done = 0
    rows = []
    for part in _settled(afloat, rest, tolerances, probes, draws):
        rows.append(part)
        done += len(part[0])
        if told is not None and not told(done):
            break
    table = np.vstack([r[0] for r in rows])
    masses = np.concatenate([r[1] for r in rows])
    return Builds(
        tolerances, draws[:done], table[:, 1:4], table[:, 4], table[:, 5] - masses, masses, table[:, 0] > 0.5,
        table[:, 6] > 0.5, int(table[:, 7].sum()),
    )  # fmt: skip


def _settled(
    afloat: Afloat, rest: Rest, tolerances: tuple[Tolerance, ...], probes: Array, draws: Array
) -> Iterator[tuple[Array, Array]]:
    """Chunks of (rows, masses) in order, two at a time."""
    from concurrent.futures import ThreadPoolExecutor

    from yellowbob.ballast.many import ROW, settle_many

    vertices, faces, _, points, mass, centre, density, gravity = afloat.arrays
    normals = afloat.hull.vertex_normals()
    sigma = np.array([t.sigma for t in tolerances])
    by_mass = np.array([t.mass_g for t in tolerances])
    by_moment = np.array([t.moment_g_mm for t in tolerances]).reshape(-1, 3)
    by_film = np.array([t.film_mm for t in tolerances])
    up = np.asarray(rest.up, dtype=float)
    height = rest.height_mm - float(afloat.origin @ up)
    moment = mass * (centre + afloat.origin)

    heights = np.array([
        floated_at(afloat, (float(p[0]), float(p[1]), float(p[2]))).height_mm - float(afloat.origin @ p) for p in probes
    ])  # fmt: skip

    def work(start: int) -> tuple[Array, Array]:
        off = draws[start : start + CHUNK] * sigma
        masses = mass + off @ by_mass
        centres = (moment + off @ by_moment) / masses[:, None] - afloat.origin
        rows = np.zeros((len(off), ROW))
        settle_many(
            vertices, faces, points, density, gravity, normals, masses, np.ascontiguousarray(centres), off @ by_film, up,
            height, probes, heights, math.cos(math.radians(RIGHT_DEG)), rows,
        )  # fmt: skip
        return rows, masses

    starts = range(0, len(draws), CHUNK)
    with ThreadPoolExecutor(2) as pool:
        try:
            yield from pool.map(work, starts)
        finally:
            pool.shutdown(wait=True, cancel_futures=True)


@dataclass(frozen=True)
class Spread:
    """Mean, standard deviation, and the 5th, 50th and 95th percentile."""

    mean: float
    sigma: float
    low: float
    middle: float
    high: float


def spread_of(values: Array) -> Spread:
    """Mean, σ and percentiles of values (k,); not a number where there are none."""
    if not len(values):
        return Spread(math.nan, math.nan, math.nan, math.nan, math.nan)
    low, middle, high = np.percentile(values, [5.0, 50.0, 95.0])
    return Spread(float(values.mean()), float(values.std(ddof=1)) if len(values) > 1 else 0.0, float(low), float(middle),
                  float(high))  # fmt: skip


def shares_of_variance(draws: Array, values: Array) -> Array:
    """Share of the variance of a result that each tolerance brings, by a linear fit: b²/Σb² (Saltelli 2008, 1.2.5)."""
    if len(values) < draws.shape[1] + 2 or values.std() < 1e-12:
        return np.zeros(draws.shape[1])
    rows = np.column_stack([draws, np.ones(len(draws))])
    b = np.linalg.lstsq(rows, values, rcond=None)[0][:-1]
    return np.asarray(b**2 / max(float((b**2).sum()), 1e-30))
