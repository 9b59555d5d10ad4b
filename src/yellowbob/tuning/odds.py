"""The tolerances of a design's own build, its odds, which of them matters, and what measuring or a jig would gain."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from yellowbob.ballast.odds import Builds, Spread, Tolerance, shares_of_variance, simulate, spread_of
from yellowbob.design.model import Design, Shot
from yellowbob.errors import NoRest
from yellowbob.shelf.shipped import every_material
from yellowbob.study import Study

Array = NDArray[np.float64]

FILM_SPREAD = 0.25
"""σ of the finish's thickness, as a share: a maker's rule for brush and dip."""
PLACE_MM = 0.5
JIG_MM = 0.15
"""σ of a hole's place along and across, by hand and in a jig: rules."""
DEPTH_MM = 0.5
JIG_DEPTH_MM = 0.2
SHOT_SPREAD = 0.05
ROD_MM = 0.2
"""σ of a shot's mass, as a share, and of a rod's cut length: rules."""
HOOK_SPREAD = 0.05
WOOD_SPREAD = 0.1
"""σ of a wood's density, as a share, where the shelf does not say."""
WEIGHED_SHARE = 0.01
"""σ of the density of a piece that was weighed, as a share, where its worksheet does not say."""
TOLERANCE_DEG = 3.0
"""Without a pitch in the brief, a build sits as drawn when it is so near."""
PROBES = 2


def tolerances_of(study: Study, weighed: bool = False, jig: bool = False) -> tuple[Tolerance, ...]:
    """What varies in a build of this design, with the slip's masses behind it.

    weighed : as if this piece's density had been measured; jig : as if its holes were drilled in one.
    """
    design, slip, holes = study.design, study.slip, study.holes
    body = design.body
    out: list[Tolerance] = []
    wood = [ln for ln in slip.lines if ln.key in ("body", "hollow", "seats", "holes", "wire wood", "fitting wood")]
    per = sum(ln.mass.mass_g for ln in wood) / body.density_g_ml
    moment = sum((ln.mass.mass_g * ln.mass.centre_mm for ln in wood), np.zeros(3)) / body.density_g_ml
    if weighed or body.measured:
        known = body.density_u_g_ml if body.measured else None
        sigma = known if known else WEIGHED_SHARE * body.density_g_ml
    else:
        item = every_material().get(body.material)
        sigma = item.spread_g_ml if item is not None and item.spread_g_ml > 0 else WOOD_SPREAD * body.density_g_ml
    out.append(Tolerance("wood", f"density of the {body.material}", sigma, "g/mL", per, np.asarray(moment)))
    coats = [ln for ln in slip.lines if ln.key.startswith(("coat:", "pool"))]
    if coats:
        mass = sum(ln.mass.mass_g for ln in coats)
        shift = sum((ln.mass.mass_g * ln.mass.centre_mm for ln in coats), np.zeros(3))
        film = sum(c.film_mm * c.coats for c in design.coats if c.everywhere)
        out.append(Tolerance("finish", "thickness of the finish", FILM_SPREAD, "of it", mass, np.asarray(shift), film))
    place, deep = (JIG_MM, JIG_DEPTH_MM) if jig else (PLACE_MM, DEPTH_MM)
    for placed in holes.ballast:
        one, name, metal = placed.ballast, placed.ballast.name, placed.weight.mass_g
        if placed.hole is not None and placed.removed is not None:
            wood_g = placed.removed.volume_mm3 * body.density_g_ml / 1000.0
            plug_g = placed.plug.mass_g if placed.plug is not None else 0.0
            net, inward = metal + plug_g - wood_g, np.asarray(placed.hole.inward)
            for axis, words in ((0, "along"), (1, "across")):
                if abs(inward[axis]) < 0.7:
                    way = np.eye(3)[axis] * net
                    out.append(Tolerance(f"place {words}:{name}", f"place of {name} {words}", place, "mm", 0.0, way))
            area = math.pi / 4.0 * placed.hole.diameter_mm**2 / 1000.0
            plug_density = one.plug.density_g_ml if one.plug is not None else 0.0
            more = area * (plug_density - body.density_g_ml)
            end = np.asarray(placed.hole.at_depth(placed.hole.depth_mm))
            out.append(Tolerance(f"depth:{name}", f"depth of {name}", deep, "mm", more, metal * inward + more * end))
        weight = one.weight
        if isinstance(weight, Shot):
            sigma, unit = SHOT_SPREAD / math.sqrt(weight.count), "of it"
            each = metal
        else:
            sigma, unit, each = ROD_MM, "mm", metal / weight.length_mm
        out.append(Tolerance(f"ballast:{name}", f"mass of {name}", sigma, unit, each, each * placed.weight.centre_mm))
    for number, fitting in enumerate(design.fittings):
        if fitting.sort == "hook" and fitting.mass_g > 0:
            at = np.asarray(fitting.at_mm, dtype=float)
            out.append(
                Tolerance(f"hook:{number}", f"mass of {fitting.name}", HOOK_SPREAD, "of it", fitting.mass_g,
                          fitting.mass_g * at)
            )  # fmt: skip
    return tuple(out)


def probes_of(study: Study) -> Array:
    """Attitudes a build must come right from: its other rests, else the laziest attitudes far from its rest, (j, 3)."""
    rest = study.upright_rest
    if rest is None:
        return np.zeros((0, 3))
    others = [r.up for r in study.rests if float(np.dot(r.up, rest.up)) < 0.98]
    if others:
        return np.array(others[:PROBES])
    from yellowbob.afloat.landing import grid

    found, places = study.landings, grid().directions
    far = places @ np.asarray(rest.up) < 0.5
    order = np.flatnonzero(far)[np.argsort(np.linalg.norm(found.slopes[far], axis=1))]
    # flat tops are left by themselves: only where the energy bends up one way can a build stay lying
    low = [k for k in order if found.energies[k] < np.quantile(found.energies, 0.9)]
    return np.array([places[low[0]]]) if low else np.zeros((0, 3))


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
    good = builds.floats & (pitch >= low) & (pitch <= high) & (builds.ups[:, 2] > 0)
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
    rest = study.upright_rest
    if rest is None:
        raise NoRest("it sinks as drawn: its odds cannot be worked out; make it float first")
    probes, pitch = probes_of(study), math.degrees(rest.pitch_rad)
    tolerances = tolerances_of(study)
    done = simulate(study.afloat, rest, tolerances, probes, builds, seed, told)
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
        again = simulate(study.afloat, rest, tolerances_of(study, weighed, jig), none, fewer, seed)
        return float(sits_as_wanted(study.design, again, pitch)[0].mean())

    jig = share(False, True) if any(b.drilling is not None for b in study.design.ballast) else None
    return replace(found, if_weighed=None if study.design.body.measured else share(True, False), if_jig=jig)


def linear_sigma_pitch_deg(study: Study, tolerances: tuple[Tolerance, ...]) -> float:
    """σ of pitch by one small step of each tolerance: what the odds must agree with when tolerances are small."""
    rest = study.upright_rest
    if rest is None:
        raise NoRest("it sinks: no pitch to spread")
    total = 0.0
    for one in tolerances:
        small = replace(one, sigma=one.sigma * 0.02)
        ends = []
        for sign in (-1.0, 1.0):
            lone = replace(small, sigma=sign * small.sigma)
            draw = _once(study, lone)
            ends.append(draw)
        total += ((ends[1] - ends[0]) / 2.0 / 0.02) ** 2
    return math.degrees(math.sqrt(total))


def _once(study: Study, one: Tolerance) -> float:
    """Pitch with one tolerance off by its own sigma, rad."""
    from yellowbob.afloat.rest import Afloat, rest_near
    from yellowbob.lines.mesh import Mesh

    afloat, rest = study.afloat, study.upright_rest
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
