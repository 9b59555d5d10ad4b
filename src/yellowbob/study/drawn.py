"""Results of drawing it through the water: trims, what it does sideways, its wake, its props, its walk."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellowbob.action.calibration import Factors, factors_of
from yellowbob.action.flight import Cast, cast
from yellowbob.action.mouth import mouth
from yellowbob.action.nose import nose_over, nose_under_from
from yellowbob.action.planing import planes_from
from yellowbob.action.running import FASTEST_M_S, Line, Run, rising, run
from yellowbob.action.sinkers import run_of_sinker
from yellowbob.action.stability import Stability, stability
from yellowbob.action.swing import Sideways, sideways
from yellowbob.action.turning import NOTHING, Carried, Heel, heel_of
from yellowbob.action.wake import Wake, wake
from yellowbob.action.walk import TWITCH_M_S, Walk, walk
from yellowbob.design.cuts import Cup
from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design, Span
from yellowbob.design.plates import TurningTail
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.study.action import body, pulled, thrown, tie_mm, tied_first
from yellowbob.study.afloat import buoyancy, hull, rig, stands_by_kind, upright_rest, water_density
from yellowbob.study.engine import Study, drawn, result, slow
from yellowbob.study.lines import outers
from yellowbob.study.weights import body_cuts, fittings

USUAL_LINE = Line(0.0, 1000.0, 15_000.0)
"""A rod's tip 1 m over the water and 15 m of line out."""
SET_IN_MM = 3.0
"""A blade so near a turning tail is set in it."""
USUAL_SPEEDS = tuple(0.1 * k for k in range(21))
USUAL_M_S = (0.3, 0.8)
"""How fast a surface lure is usually drawn, where the brief does not say: a rule."""


@dataclass(frozen=True)
class Drawn:
    """Drawn through the water by a line: its trims and how they end; what it does sideways (None for a float, which is not
    drawn to swim); of what sinks, the least speed at which it stays up, m/s (None: never, or it floats); the speed from which
    it planes, and from which the crown of its nose is under (None: never)."""

    line: Line
    run: Run
    sideways: Stability | None
    least_m_s: float | None
    planes_m_s: float | None = None
    nose_under_m_s: float | None = None
    noses_mm: tuple[float, ...] = ()
    """how far the crown of its nose stands over the water at each trim; negative under it"""


def draw(study: Study, speeds_m_s: Sequence[float], line: Line) -> Drawn:
    """Draw it at rising speeds; where it ends, and what it does sideways, are looked for over the usual speeds besides.

    Raises BadInput for speeds out of range.
    """
    thing, least, asked = pulled(study), None, set(rising(speeds_m_s))
    steps = round(10.0 * max(USUAL_SPEEDS[-1], *asked))
    every = sorted(
        asked | {v for v in (0.1 * k for k in range(steps + 1)) if all(abs(v - one) > 1e-9 for one in asked)}
    )
    if buoyancy(study).floats:
        rest = upright_rest(study)
        assert rest is not None
        found = run(thing, rest, every, line)
    else:
        found, least = run_of_sinker(thing, every, line)
    swims = rig(study) is None and not stands_by_kind(study)
    aside = stability(thing, found, line, body(study)) if swims else None
    if aside is not None:
        both = [(s, m) for s, m in zip(aside.swings, aside.moved, strict=True) if s.speed_m_s in asked]
        aside = replace(aside, swings=tuple(s for s, _ in both), moved=tuple(m for _, m in both))
    shown = replace(found, trims=tuple(t for t in found.trims if t.speed_m_s in asked))
    noses = tuple(nose_over(thing, t) for t in shown.trims)
    if not swims:
        return Drawn(line, shown, aside, least, noses_mm=noses)
    return Drawn(line, shown, aside, least, planes_from(thing, found), nose_under_from(thing, found), noses)


BEYOND = 1.25


@drawn
def brief_speed(design: Design) -> Span | None:
    """How fast the brief wants it drawn."""
    return design.brief.speed_m_s


@slow("drawing it through the water")
def drawn_usually(study: Study) -> Drawn:
    """Drawn by the usual line at the usual speeds, and a quarter beyond those of the brief."""
    wanted = brief_speed(study)
    most = min(max(USUAL_SPEEDS[-1], BEYOND * wanted.most if wanted else 0.0), FASTEST_M_S)
    return draw(study, [0.1 * k for k in range(int(10.0 * most + 1e-9) + 1)] + [most], USUAL_LINE)


@slow("seeing how its props heel it")
def heeled_usually(study: Study) -> tuple[Heel, ...]:
    """What its props and blades do as it is drawn usually."""
    return heels(study, drawn_usually(study))


THROWN_M_S, THROWN_DEG, THROWN_M = 20.0, 35.0, 2.0
"""The throw that a build is judged by."""


@slow("throwing it")
def thrown_usually(study: Study) -> Cast:
    """Thrown once, as it is judged."""
    return cast(thrown(study), THROWN_M_S, THROWN_DEG, THROWN_M, tied_first(study))


@drawn
def kind(design: Design) -> str:
    """What kind of build it is."""
    return design.kind


def factors(study: Study) -> Factors:
    """What tests have taught of the estimates for its kind."""
    return factors_of(kind(study))


@result
def walked(study: Study) -> Walk | None:
    """One twitch of it; None for a sinker and for a float."""
    rest = upright_rest(study)
    if rest is None or rig(study) is not None or stands_by_kind(study):
        return None
    return walk(pulled(study), rest, body(study))


def wakes(study: Study, found: Run) -> tuple[Wake, ...]:
    """Its wake at every trim that moves."""
    return tuple(wake(pulled(study), t) for t in found.trims if t.speed_m_s > 0.0)


def heels(study: Study, found: Drawn) -> tuple[Heel, ...]:
    """What its props and blades do at every trim that moves; empty without any."""
    turning = tuple(
        (f, carried_by(study, f)) for f in fittings(study) if f.sort in ("prop", "blade") and f.span_mm > 0.0
    )  # fmt: skip
    if not turning:
        return ()
    thing = pulled(study)
    keel = float(thing.afloat.centre_mm[2] - np.asarray(hull(study).vertices)[:, 2].min())
    if found.sideways is not None:
        every: tuple[Sideways | None, ...] = found.sideways.moved
    else:
        own = body(study)
        every = tuple(sideways(thing, t, found.line, own) for t in found.run.trims)
    return tuple(heel_of(turning, m, water_density(study), keel) for m in every if m is not None)


def carried_by(study: Study, blade: Fitting) -> Carried:
    """What turns with a blade: the turning tail that it is set in, by its weight in the water and its skin; nothing else."""
    for number, piece in enumerate(study.build.pieces):
        if not isinstance(piece.shape, TurningTail):
            continue
        mesh = outers(study)[number]
        low, high = mesh.bounds
        if not low[0] - SET_IN_MM <= blade.at_mm[0] <= high[0] + SET_IN_MM:
            continue
        wet = mesh.volume_mm3 * (piece.density_g_ml / 1000.0 - water_density(study))
        arm = np.hypot(mesh.corners.mean(axis=1)[:, 1], mesh.corners.mean(axis=1)[:, 2] - piece.shape.z_mm)
        return Carried(wet, float((mesh.areas * arm**3).sum()))
    return NOTHING


@dataclass(frozen=True)
class Jerked:
    """A mouth jerked at TWITCH_M_S: the share of its room that still stands over the water as it lies then, how far its rim's
    middle digs, mm, and what it holds back as a flat face, g. Rules: the water it throws up is not followed."""

    name: str
    air_share: float
    digs_mm: float
    brakes_g: float


def jerked(study: Study) -> tuple[Jerked, ...]:
    """Its cups as it lies when it is drawn at the speed of a twitch; none for what is not drawn at it."""
    rest = upright_rest(study)
    found = drawn_usually(study).run.trims
    trim = next((t for t in found if abs(t.speed_m_s - TWITCH_M_S) < 1e-6), None)
    if rest is None or trim is None:
        return ()
    told = []
    for cut in (c for c in body_cuts(study) if isinstance(c, Cup)):
        now = mouth(cut, trim.up, trim.height_mm, tie_mm(study))
        middle = np.array([cut.rim_x_mm, 0.0, cut.z_mm])
        deep = [
            height - float(middle @ np.asarray(up))
            for up, height in ((rest.up, rest.height_mm), (trim.up, trim.height_mm))
        ]
        push = 0.5 * water_density(study) * (1000.0 * TWITCH_M_S) ** 2 * now.area_mm2 * now.wet_rim_share
        told.append(Jerked(cut.name, now.air_share, deep[1] - deep[0], push / GRAVITY_MM_S2))
    return tuple(told)
