"""The tolerances of a design's own build, its odds, which of them matters, and what measuring or a jig would gain."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.rest import up_from
from yellowbob.ballast.odds import Builds, Spread, Tolerance, shares_of_variance, simulate, spread_of
from yellowbob.design.model import Design
from yellowbob.design.names import told_apart
from yellowbob.ground.errors import NoRest
from yellowbob.study import Study, of
from yellowbob.weights.ballast import PlacedBallast
from yellowbob.weights.causes import causes_of, causes_of_lines, density_sigma
from yellowbob.weights.mass import grams_per_mm

Array = NDArray[np.float64]

PLACE_MM = 0.5
JIG_MM = 0.15
"""σ of a hole's place along and across, by hand and in a jig: rules."""
DEPTH_MM = 0.5
JIG_DEPTH_MM = 0.2
TOLERANCE_DEG = 3.0
"""Without a pitch in the brief, a build sits as drawn when it is so near."""
PROBES = 2


def _mass_tolerances(study: Study, weighed: bool) -> list[Tolerance]:
    """Everything that may weigh otherwise, with what weighings have left unsure of it."""
    build, slip = study.build, of.slip(study)
    goes_with = causes_of_lines(build)
    mass: dict[str, float] = {}
    moment: dict[str, Array] = {}
    for line in slip.lines:
        for cause, share in goes_with.get(line.key, ()):
            grams = share * line.mass.mass_g
            mass[cause] = mass.get(cause, 0.0) + grams
            moment[cause] = moment.get(cause, np.zeros(3)) + grams * np.asarray(line.mass.centre_mm)
    films = {
        f"film:{key}": coat.film_mm * coat.coats
        for key, coat in zip(told_apart(c.name for c in build.coats), build.coats, strict=True) if coat.everywhere
    }  # fmt: skip
    sigma = _sigmas(study, weighed)
    return [
        Tolerance(c.key, c.words, sigma[c.key], c.unit, mass[c.key] / c.now, moment[c.key] / c.now, films.get(c.key, 0.0))
        for c in causes_of(build).values() if abs(mass.get(c.key, 0.0)) > 0.0
    ]  # fmt: skip


def _covariance(study: Study, keys: list[str], weighed: bool) -> Array:
    """(n, n) covariance of causes, their own units; `weighed` as if the body's density had been measured too."""
    known = of.evidence(study)
    at = {c.key: k for k, c in enumerate(known.causes)}
    rows = [at[key] for key in keys]
    found = known.covariance[np.ix_(rows, rows)]
    body = f"density:{study.build.pieces[0].name}"
    if weighed and body in keys:
        k = keys.index(body)
        scale = density_sigma(study.build.body.material, measured=True) ** 2
        found = found - np.outer(found[:, k], found[k]) / (found[k, k] + scale)
    return np.asarray(found)


def _sigmas(study: Study, weighed: bool) -> dict[str, float]:
    keys = list(causes_of(study.build))
    spread = np.sqrt(np.maximum(np.diag(_covariance(study, keys, weighed)), 0.0))
    return dict(zip(keys, spread.tolist(), strict=True))


def mixing_of(study: Study, tolerances: tuple[Tolerance, ...], weighed: bool = False) -> Array | None:
    """(j, j) that makes independent draws vary together as weighings have left them; None where nothing was weighed.

    The Cholesky factor of the tolerances' correlation matrix.
    """
    if not study.design.weighings:
        return None
    causes = causes_of(study.build)
    named = [k for k, t in enumerate(tolerances) if t.key in causes]
    found = _covariance(study, [tolerances[k].key for k in named], weighed)
    sigma = np.sqrt(np.maximum(np.diag(found), 1e-300))
    whole = np.eye(len(tolerances))
    whole[np.ix_(named, named)] = found / np.outer(sigma, sigma)
    values, vectors = np.linalg.eigh(whole)
    root = np.asarray(vectors * np.sqrt(np.maximum(values, 0.0)))
    return np.asarray(np.linalg.qr(root.T)[1].T)


def _hole_tolerances(placed: PlacedBallast, wood_g_ml: float, jig: bool) -> list[Tolerance]:
    """Where a ballast's hole comes to lie, and how deep."""
    one, name, metal, hole = placed.ballast, placed.ballast.name, placed.weight.mass_g, placed.hole
    if hole is None:
        return []
    place, deep = (JIG_MM, JIG_DEPTH_MM) if jig else (PLACE_MM, DEPTH_MM)
    plug_g = placed.plug.mass_g if placed.plug is not None else 0.0
    net, inward = metal + plug_g - placed.gone.mass_g * wood_g_ml, np.asarray(hole.inward)
    out = [
        Tolerance(f"place {words}:{name}", f"place of {name} {words}", place, "mm", 0.0, np.eye(3)[axis] * net)
        for axis, words in ((0, "along"), (1, "across")) if abs(inward[axis]) < 0.7
    ]  # fmt: skip
    more = grams_per_mm(hole.diameter_mm, 1.0) * ((one.plug.density_g_ml if one.plug is not None else 0.0) - wood_g_ml)
    end = np.asarray(hole.bottom_mm)
    return [*out, Tolerance(f"depth:{name}", f"depth of {name}", deep, "mm", more, metal * inward + more * end)]


def tolerances_of(study: Study, weighed: bool = False, jig: bool = False) -> tuple[Tolerance, ...]:
    """What varies in a build of this design, with the slip's masses behind it; what was weighed varies the less.

    weighed : as if this piece's density had been measured; jig : as if its holes were drilled in one.
    """
    build = study.build
    out = _mass_tolerances(study, weighed)
    for placed in of.holes(study).ballast:
        wood = build.pieces[build.number_of(placed.ballast.into)].density_g_ml
        out += _hole_tolerances(placed, wood, jig)
    return tuple(out)


def probes_of(study: Study) -> Array:
    """Attitudes a build must come right from: its other rests, else the laziest attitudes far from its rest, (j, 3)."""
    rest = of.upright_rest(study)
    if rest is None:
        return np.zeros((0, 3))
    others = [r.up for r in of.rests(study) if float(np.dot(r.up, rest.up)) < 0.98]
    if others:
        return np.array(others[:PROBES])
    from yellowbob.afloat.landing import grid

    found, places = of.landings(study), grid().directions
    far = places @ np.asarray(rest.up) < 0.5
    order = np.flatnonzero(far)[np.argsort(np.linalg.norm(found.slopes[far], axis=1))]
    # flat tops are left by themselves: only where the energy bends up one way can a build stay lying
    low = order[found.energies[order] < np.quantile(found.energies, 0.9)]
    return np.array(places[low[:1]])


@dataclass(frozen=True)
class Matter:
    """One tolerance: its words, σ with unit, and its share of the pitch's variance."""

    key: str
    words: str
    sigma: float
    unit: str
    share: float


@dataclass(frozen=True, eq=False)
class Odds:
    """The odds of a build. Shares 0 to 1 of all builds; spreads in degrees, mm, g over those that float."""

    builds: int
    seed: int
    floats: float
    sits: float
    comes_right: float
    pitch_deg: Spread
    roll_deg: Spread
    draft_mm: Spread
    reserve_g: Spread
    matters: tuple[Matter, ...]
    wanted: str
    done: Builds
    if_weighed: float | None = None
    if_jig: float | None = None


def sits_as_wanted(design: Design, builds: Builds, pitch_deg: float) -> tuple[NDArray[np.bool_], str]:
    """Which builds sit within the brief, and the brief in words; within 3° of the drawing where it says nothing."""
    span, draft = design.brief.pitch_deg, design.brief.draft_mm
    pitch = np.degrees(builds.pitch_rad)
    low, high = (span.least, span.most) if span is not None else (pitch_deg - TOLERANCE_DEG, pitch_deg + TOLERANCE_DEG)
    meant = up_from(math.radians((low + high) / 2.0), 0.0)
    good = builds.floats & (pitch >= low) & (pitch <= high) & (builds.ups @ meant > 0)
    words = f"{low:.0f} to {high:.0f}°"
    if draft is not None:
        good &= (builds.draft_mm >= draft.least) & (builds.draft_mm <= draft.most)
        words += f", draft {draft.least:g} to {draft.most:g} mm"
    return good, words


def odds(
    study: Study, builds: int = 5000, seed: int = 1, told: Callable[[int], bool] | None = None, compare: bool = True
) -> Odds:
    """Odds of a design; with `compare` also the share that would sit as wanted if the piece were weighed, or drilled in a
    jig (a fifth as many builds each). Raises NoRest for a sinker."""
    rest = of.upright_rest(study)
    if rest is None:
        raise NoRest("it sinks as drawn: its odds cannot be worked out; make it float first")
    probes, pitch = probes_of(study), math.degrees(rest.pitch_rad)
    tolerances = tolerances_of(study)
    mixing = mixing_of(study, tolerances)
    done = simulate(of.afloat(study), rest, tolerances, probes, builds, seed, told, mixing)
    good, words = sits_as_wanted(study.design, done, pitch)
    afloat = done.floats
    shares = shares_of_variance(done.draws[afloat], done.pitch_rad[afloat])
    matters = sorted(
        (Matter(t.key, t.words, t.sigma, t.unit, float(s)) for t, s in zip(tolerances, shares, strict=True)),
        key=lambda m: -m.share,
    )
    found = Odds(
        len(done.draws), seed, float(afloat.mean()), float(good.mean()), float((done.right & afloat).mean()),
        spread_of(np.degrees(done.pitch_rad[afloat])), spread_of(np.degrees(done.roll_rad[afloat])),
        spread_of(done.draft_mm[afloat]), spread_of(done.reserve_g), tuple(matters), words, done,
    )  # fmt: skip
    if not compare or len(done.draws) < builds:
        return found
    fewer = max(200, builds // 5)
    none = np.zeros((0, 3))

    def share(weighed: bool, jig: bool) -> float:
        other = tolerances_of(study, weighed, jig)
        again = simulate(of.afloat(study), rest, other, none, fewer, seed, mixing=mixing_of(study, other, weighed))
        return float(sits_as_wanted(study.design, again, pitch)[0].mean())

    jig = share(False, True) if any(b.drilling is not None for b in study.design.ballast) else None
    return replace(found, if_weighed=None if study.design.body.material.measured else share(True, False), if_jig=jig)


def linear_sigma_pitch_deg(study: Study, tolerances: tuple[Tolerance, ...]) -> float:
    """σ of pitch by one small step of each tolerance: what the odds must agree with when tolerances are small."""
    rest = of.upright_rest(study)
    if rest is None:
        raise NoRest("it sinks: no pitch to spread")
    slopes = []
    for one in tolerances:
        small = replace(one, sigma=one.sigma * 0.02)
        ends = []
        for sign in (-1.0, 1.0):
            lone = replace(small, sigma=sign * small.sigma)
            draw = _once(study, lone)
            ends.append(draw)
        slopes.append((ends[1] - ends[0]) / 2.0 / 0.02)
    mixing = mixing_of(study, tolerances)
    along = np.array(slopes) if mixing is None else mixing.T @ np.array(slopes)
    return math.degrees(float(np.linalg.norm(along)))


def _once(study: Study, one: Tolerance) -> float:
    """Pitch with one tolerance off by its own sigma, rad."""
    from yellowbob.afloat.rest import Afloat, rest_near
    from yellowbob.lines.mesh import Mesh

    afloat, rest = of.afloat(study), of.upright_rest(study)
    assert rest is not None
    mass = afloat.mass_g + one.mass_g * one.sigma
    centre = (afloat.mass_g * np.asarray(afloat.centre_mm) + one.moment_g_mm * one.sigma) / mass
    hull = afloat.hull
    if one.film_mm:
        hull = Mesh(hull.vertices + hull.vertex_normals() * (one.film_mm * one.sigma), hull.faces)
    other = Afloat(
        hull, mass, (float(centre[0]), float(centre[1]), float(centre[2])), afloat.density_g_mm3, afloat.points
    )
    return rest_near(other, rest.up).pitch_rad
