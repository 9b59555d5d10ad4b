"""What all builds together taught: densities by wood, films by coat, how predictions missed, action factors by kind."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.logbook.pucks import FromPucks, from_pucks
from yellowbob.logbook.records import AsMade, Build, Entry, Puck, TankTest, WaterTest
from yellowbob.logbook.taught import Errors, Piece, Taught, errors_of, taught
from yellowbob.shelf.items import Item, Powder, Resin
from yellowbob.shelf.shipped import coats, every_material, fillers, powders, resins, shipped_material
from yellowbob.study import Study, of
from yellowbob.study.evidence import evidence
from yellowbob.trials.shop_films import ShopFilms
from yellowbob.weights.causes import FILLER_SPREAD, WOOD_SPREAD, density_sigma
from yellowbob.weights.evidence import share_on_scale

SAID = 0.5
"""Weighings that leave more than this share of a density's variance do not tell it apart from other causes."""
POURED_SPREAD = 0.03
"""Share by which a resin's or powder's density on the shelf is unsure: a rule."""
OF_BOARD = ", board "
SWING_S = 10.0
"""Swings are counted over so many seconds."""
FAR_TIMES = 4.0
"""So many times more or less than told is a slip, not what a kind does: a rule."""


@dataclass(frozen=True)
class Learned:
    """By name what was taught, errors of prediction in order of time (g, degrees, mm), swing factors by kind, what was left
    out."""

    densities: dict[str, Taught]
    films: dict[str, Taught]
    mass_g: Errors
    pitch_deg: Errors
    draft_mm: Errors
    swings: dict[str, tuple[float, int]]
    aside: tuple[str, ...]
    limits: dict[str, tuple[float, int]]
    drilling: dict[str, Errors]
    """holes as bored less as drawn, mm, by what was measured of them"""
    pucks: FromPucks
    fillings: dict[str, Taught]
    """what holes are closed with, by name, g/mL"""


def learned(
    builds: Sequence[tuple[Build, Design, tuple[Entry, ...]]], swings: bool = False, pucks: Sequence[Puck] = ()
) -> Learned:
    """Learn from builds, oldest first, and pucks; those set aside and what cannot be worked out are named. `swings`: action
    factors too, from swings counted and speeds at which they went unstable (slow)."""
    woods: dict[str, list[Piece]] = {}
    films = ShopFilms()
    masses: list[float] = []
    pitches: list[float] = []
    drafts: list[float] = []
    fillings: dict[str, list[Piece]] = {}
    factors: dict[str, list[float]] = {}
    limits: dict[str, list[float]] = {}
    bored: dict[str, list[float]] = {}
    aside: list[str] = []
    for build, design, entries in sorted(builds, key=lambda one: (one[0].made_on, one[0].serial)):
        if build.aside:
            aside.append(f"{build.serial}: set aside ({build.aside})")
            continue
        try:
            study = Study(design)
            misread = next((w for w in evidence(study).weighed if w.misread), None)
            if misread is not None:
                weighing = misread.weighing
                aside.append(
                    f"{build.serial}: {weighing.stage} at {weighing.mass_g:g} g: {misread.likely}? Put it right"
                )
                continue
            _of_weighings(build, study, woods)
            _of_plugs(build.serial, study, fillings)
            films.add(build.serial, study)
            masses += _mass_misses(study)
            for test in (e.data for e in entries if isinstance(e.data, TankTest)):
                pitch, draft = lain_misses(study, test)
                pitches += [] if pitch is None else [pitch]
                drafts += [] if draft is None else [draft]
            for hole in (h for e in entries if isinstance(e.data, AsMade) for h in e.data.holes):
                for size in hole.sizes_mm.keys() & hole.drawn_mm.keys():
                    bored.setdefault(size, []).append(hole.sizes_mm[size] - hole.drawn_mm[size])
            if swings:
                tests = [e.data for e in entries if isinstance(e.data, WaterTest)]
                found = {"swings": _of_swings(study, tests), "the speed it holds to": _of_limits(study, tests)}
                for into, (words, told) in zip((factors, limits), found.items(), strict=True):
                    aside += [
                        f"{build.serial}: {words}: {f:.2g} times what is told; look again" for f in told if _far(f)
                    ]
                    into.setdefault(build.kind, []).extend(f for f in told if not _far(f))
        except YellowBobError as error:
            aside.append(f"{build.serial}: {error}")
    poured = from_pucks(pucks, _poured)
    thick, impossible = films.films()
    return Learned(
        {name: taught(pieces, *_shelf_density(name, pieces)) for name, pieces in sorted(woods.items())},
        dict(sorted(thick.items())),
        errors_of(masses), errors_of(pitches), errors_of(drafts),
        _factors(factors), (*aside, *impossible, *poured.aside), _factors(limits),
        {size: errors_of(found) for size, found in sorted(bored.items())}, poured,
        {name: taught(pieces, *_shelf_filler(name, pieces)) for name, pieces in sorted(fillings.items())},
    )  # fmt: skip


def _factors(found: dict[str, list[float]]) -> dict[str, tuple[float, int]]:
    """Geometric mean and count, by kind."""
    return {kind: (math.exp(sum(map(math.log, each)) / len(each)), len(each)) for kind, each in found.items() if each}


def _poured(name: str) -> tuple[float, float] | None:
    """Density of a resin or powder as it ships, with how unsure it is."""
    item: Resin | Powder | None = resins().get(name) or powders().get(name)
    return None if item is None else (item.density_g_ml, POURED_SPREAD * item.density_g_ml)


def _of_plugs(serial: str, study: Study, fillings: dict[str, list[Piece]]) -> None:
    """What this build's own weighings say of what its holes are closed with, where they tell it apart."""
    told = evidence(study)
    for cause in told.causes:
        kind, _, name = cause.key.partition(":")
        plug = next((b.plug for b in study.design.ballast if b.name == name), None) if kind == "plug" else None
        said = _said(told.of(cause.key), cause.sigma) if plug is not None else None
        if plug is not None and said is not None:
            value = plug.density_g_ml * (cause.now + said[0])
            fillings.setdefault(plug.material, []).append(Piece(value, plug.density_g_ml * said[1], serial))


def _of_weighings(build: Build, study: Study, woods: dict[str, list[Piece]]) -> None:
    """What this build's own weighings say of its densities, without the shelf's prior; of its board by itself too."""
    serial = build.serial
    design, told = study.design, evidence(study)
    before = {c.key: c for c in told.causes}
    for piece in design.pieces:
        cause = before.get(f"density:{piece.name}")
        # a density that was measured apart is already this piece's
        said = _said(told.of(f"density:{piece.name}"), None if cause is None else cause.sigma)
        if cause is not None and said is not None:
            found = Piece(cause.now + said[0], said[1], serial)
            woods.setdefault(piece.material.name, []).append(found)
            if build.board and piece is design.body:
                woods.setdefault(f"{piece.material.name}{OF_BOARD}{build.board}", []).append(found)
        elif piece.material.measured:
            u = density_sigma(piece.material)
            woods.setdefault(piece.material.name, []).append(Piece(piece.material.density_g_ml, u, serial))


def _said(after: tuple[float, float] | None, sigma: float | None) -> tuple[float, float] | None:
    """(offset, standard uncertainty) of what was weighed alone: the prior taken out of the posterior (both normal)."""
    if after is None or sigma is None or sigma <= 0.0:
        return None
    prior, left = sigma**2, after[1] ** 2
    if left >= SAID * prior or left <= 0.0:
        return None
    gained = 1.0 - left / prior
    return after[0] / gained, math.sqrt(left / gained)


def _shelf_filler(name: str, pieces: Sequence[Piece]) -> tuple[float, float]:
    item = fillers().get(name)
    mean = item.density_g_ml if item is not None else sum(p.value for p in pieces) / len(pieces)
    return mean, FILLER_SPREAD * mean


def _shelf_density(name: str, pieces: Sequence[Piece]) -> tuple[float, float]:
    name = name.partition(OF_BOARD)[0]
    # as it ships: an own entry may have been learnt from these very builds
    item = shipped_material(name) or every_material().get(name)
    if item is None:
        mean = sum(p.value for p in pieces) / len(pieces)
        return mean, WOOD_SPREAD * mean
    return item.density_g_ml, item.spread_g_ml or WOOD_SPREAD * item.density_g_ml


def shelf_items(found: Learned) -> list[Item]:
    """Entries for the maker's own shelf: its woods and films as they were learnt; what the shelf does not know is left
    out."""
    items: list[Item] = []
    for name, told in found.densities.items():
        wood = every_material().get(name)
        if wood is not None:
            learnt = {
                "density_g_ml": round(told.mean, 4),
                "spread_g_ml": round(told.scatter, 4),
                "source": _source(told),
            }
            items.append(wood.model_copy(update=learnt))
    for name, told in found.films.items():
        coat = coats().get(name)
        if coat is not None:
            items.append(coat.model_copy(update={"film_mm": round(told.mean, 4), "source": _source(told)}))
    return items


def _source(told: Taught) -> str:
    return f"own, learnt from {told.count} build{'s' if told.count != 1 else ''}"


def _mass_misses(study: Study) -> list[float]:
    """Finished pieces as weighed less as forecast from the drawing alone, g."""
    forecast = of.slip(study.forecast)
    found = []
    for one in study.design.weighings:
        if one.stage == "finished" and not one.shares:
            wanted = sum(share_on_scale(one, line.key) * line.mass.mass_g for line in forecast.lines)
            found.append(one.mass_g - wanted)
    return found


def without(design: Design, off: Sequence[str]) -> Design:
    """The design with fittings off, by name."""
    return design.but(fittings=tuple(f for f in design.fittings if f.name not in off))


def lain_misses(study: Study, test: TankTest) -> tuple[float | None, float | None]:
    """How a tank test read against the build as it is believed to be: pitch, degrees, and draft, mm; None where not read."""
    design = without(study.build, test.off)
    water = {"name": test.water, "temperature_c": test.temperature_c}
    there = Study(design.but(weighings=(), water=water))
    rest = of.upright_rest(there)
    if rest is None:
        return None, None
    pitch = None if test.pitch_deg is None else test.pitch_deg - math.degrees(rest.pitch_rad)
    return pitch, None if test.draft_mm is None else test.draft_mm - rest.draft_mm


def _far(factor: float) -> bool:
    return not 1.0 / FAR_TIMES <= factor <= FAR_TIMES


def _of_swings(study: Study, tests: Sequence[WaterTest]) -> list[float]:
    """Swings counted over swings told, at the nearest speed at which it swings."""
    counted = [t for t in tests if t.swings and t.speed_m_s]
    moved = of.drawn_usually(study).sideways if counted else None
    if moved is None or not moved.swings:
        return []
    factors = []
    for test in counted:
        assert test.speed_m_s is not None and test.swings is not None
        speed = test.speed_m_s
        near = min(moved.swings, key=lambda s: abs(s.speed_m_s - speed))
        if near.hz > 0.0 and abs(near.speed_m_s - speed) < 0.25:
            factors.append(test.swings / SWING_S / near.hz)
    return factors


def _of_limits(study: Study, tests: Sequence[WaterTest]) -> list[float]:
    """Speeds at which it went unstable over the one told; the factor already taught is not in what is told here."""
    found = [t.unstable_m_s for t in tests if t.unstable_m_s]
    moved = of.drawn_usually(study).sideways if found else None
    return [] if moved is None or not moved.ends_m_s else [speed / moved.ends_m_s for speed in found]
