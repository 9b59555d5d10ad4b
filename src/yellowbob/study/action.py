"""Results of motion: how long a bob, a nod and a roll take."""

from __future__ import annotations

import math

import numpy as np

from yellowbob.action.discs import Disc, prop_disc
from yellowbob.action.dragged import Dragged
from yellowbob.action.flight import Thrown
from yellowbob.action.mouth import Mouth, mouth
from yellowbob.action.periods import Body, Periods
from yellowbob.action.running import HULL, PLATE, Pulled
from yellowbob.action.turning import BLADES_SHARE, normal_force
from yellowbob.action.waves import Riding, riding
from yellowbob.action.wetted import strips
from yellowbob.design.cuts import Cup
from yellowbob.design.hardware import Fitting, line_tie
from yellowbob.design.plates import Cutout, Fin, Lip, Wings
from yellowbob.study.afloat import afloat, finished, hull, line_at, rig, upright_rest
from yellowbob.study.engine import Study, result, slow
from yellowbob.study.weights import body_cuts, fittings, holes, listed_fittings, slip, wires
from yellowbob.weights import wires as wire_runs


@result
def body(study: Study) -> Body:
    """What of the build moves and turns: all but what hangs on its line."""
    done = slip(study).finished
    x, y, z = (float(c) for c in done.centre_mm)
    return Body(done.mass_g, (x, y, z), done.inertia_g_mm2)


@result
def cast_g(study: Study) -> float:
    """What the rod throws: the finished build, what its dressing holds of water, and all that hangs on its line, in air,
    g."""
    line = rig(study)
    hung = sum(one.count * one.mass_g for one in line.hung) if line is not None else 0.0
    # after the first throw what is tied on the hooks is soaked
    held = sum(f.dressing.soaked_g - f.dressing.dry_g for f in listed_fittings(study) if f.dressing is not None)
    return slip(study).finished.mass_g + hung + held


@slow("seeing how it rides the waves")
def ridden(study: Study) -> Riding | None:
    """The build at the rest it is meant for, ready to ride waves; None for a sinker."""
    rest = upright_rest(study)
    return None if rest is None else riding(afloat(study), rest, body(study))


@result
def own_periods(study: Study) -> Periods | None:
    """Periods about the rest it is meant for; None for a sinker."""
    ready = ridden(study)
    return None if ready is None else ready.periods


FLAT = 0.97
"""Cosine to the axis from which on a face counts as flat end."""


@result
def thrown(study: Study) -> Thrown:
    """The build by itself as a thing that flies, its axis the body's: strips of its shadow from beside and above together."""
    mesh, own = hull(study), body(study)
    ahead = np.array([1.0, 0.0, 0.0])
    wide, high = (strips(mesh.corners, ahead, np.eye(3)[k]) for k in (1, 2))
    front = math.pi * float((wide.half_mm * high.half_mm).max())
    facing = mesh.area_vectors[mesh.area_vectors[:, 0] < -FLAT * mesh.areas]
    across = float(own.inertia_g_mm2[1, 1] + own.inertia_g_mm2[2, 2]) / 2.0
    return Thrown(
        own.mass_g, across, wide.at_mm - own.centre_mm[0], wide.half_mm + high.half_mm, wide.step_mm, front,
        mesh.volume_mm3, min(1.0, float(-facing[:, 0].sum()) / front), tie_mm(study)[0] - own.centre_mm[0],
    )  # fmt: skip


@result
def mouths(study: Study) -> tuple[Mouth, ...]:
    """Its cups at the rest it is meant for; none for a sinker."""
    rest, tie = upright_rest(study), tie_mm(study)
    cups = [c for c in body_cuts(study) if isinstance(c, Cup)]
    return () if rest is None else tuple(mouth(c, np.asarray(rest.up), rest.height_mm, tie) for c in cups)


@result
def prop_discs(study: Study) -> tuple[tuple[Fitting, Disc], ...]:
    """Its props with how their discs lie at the rest it is meant for; none for a sinker."""
    rest = upright_rest(study)
    props = [f for f in fittings(study) if f.sort == "prop" and f.span_mm > 0.0]
    if rest is None:
        return ()
    return tuple((f, prop_disc(f.name, f.at_mm, f.span_mm, np.asarray(rest.up), rest.height_mm)) for f in props)


def tied_first(study: Study) -> bool:
    """Whether the line holds it by its front half, so that this leads as it leaves the hand."""
    return tie_mm(study)[0] < float(hull(study).bounds[:, 0].mean())


@result
def pulled(study: Study) -> Pulled:
    """The build as it is drawn through the water: its body's skin and those of its other pieces, plates apart; its tie."""
    body, *others = finished(study)
    skins = [(body, HULL)]
    for piece, mesh in zip(study.build.parts, others, strict=True):
        skins.append((mesh, PLATE if isinstance(piece.shape, Lip | Wings | Fin | Cutout) else HULL))
    drags = tuple(d for d in map(drag_of, fittings(study)) if d is not None)
    long = float(np.ptp(body.bounds[:, 0]))
    drags += tuple(d for w in wires(study) for r in w.runs for d in drags_of_run(r, w.wire.diameter_mm, long))
    put_in = sum(one.weight.mass_g for one in holes(study).ballast)
    return Pulled(afloat(study), tuple(skins), tie_mm(study), drags, put_in)


WIRE_CD = 1.1
"""Drag of round wire square to the stream, on its side (Hoerner 1965, 3-9)."""


EYE_SHARE = 0.06
"""A stretch outside the body that is shorter, of the body's length, is an eye's leg, which like the eye itself lies in what
the hull drags along. A longer one is dragged in pieces about so long."""


def drags_of_run(run: wire_runs.Run, diameter_mm: float, body_mm: float) -> list[Dragged]:
    """A stretch of wire outside the body, such as a blade's frame, as drag areas: round wire across the stream, by sin³ of
    the angle at which it lies to the body's axis (Hoerner 1965, 3-11). None inside it or along the axis."""
    along = run.end_mm - run.start_mm
    area = WIRE_CD * diameter_mm * run.length_mm * (math.hypot(along[1], along[2]) / max(run.length_mm, 1e-9)) ** 3
    if run.inside or area <= 0.0 or run.length_mm < EYE_SHARE * body_mm:
        return []
    count = max(1, math.ceil(run.length_mm / (EYE_SHARE * body_mm)))
    spread = max(abs(float(along[2])) / count, diameter_mm)
    places = (run.start_mm + along * ((n + 0.5) / count) for n in range(count))
    return [Dragged((float(x), float(y), float(z)), area / count, spread) for x, y, z in places]


def drag_of(fitting: Fitting) -> Dragged | None:
    """A fitting as a drag area at a place and the height it is spread over: as it says, else by its sort; None for no drag.

    A hook is its wire, as long as its steel makes it, square to the stream; a prop or blade its blades at their angle. Rules.
    """
    area, spread = fitting.drag_mm2, max(fitting.reach_mm if fitting.hanging else fitting.span_mm, 2.0)
    if area == 0.0 and fitting.sort == "hook" and fitting.wire_mm > 0.0:
        area = WIRE_CD * 4.0 * 1000.0 * fitting.volume_ml / (math.pi * fitting.wire_mm)
    if area == 0.0 and fitting.sort in ("prop", "blade"):
        met = math.cos(math.radians(fitting.blade_deg))
        area = BLADES_SHARE * math.pi / 4.0 * fitting.span_mm**2 * normal_force(met) * met
    if area == 0.0:
        return None
    return Dragged(fitting.at_mm, area, spread, fitting.hanging)


def tie_mm(study: Study) -> tuple[float, float, float]:
    """Where the line holds it: a float's line, else its tie, else the middle of its front end."""
    if study.build.rig is not None:
        return line_at(study)
    tie = line_tie(fittings(study))
    if tie is not None:
        return tie.at_mm
    vertices = hull(study).vertices
    x, y, z = vertices[vertices[:, 0] < vertices[:, 0].min() + 1e-6].mean(axis=0)
    return float(x), float(y), float(z)
