"""Clearances in the wood: walls left around holes with the drill's wander, wires against holes, slots and cups, props
against the body."""

from __future__ import annotations

import itertools

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cup, Cut, Slot
from yellowbob.design.model import Fitting, MainShape
from yellowbob.design.pieces import Group
from yellowbob.fitout.clearances import APART_MM, Clearance, Drum, Kind, drum_of, measured
from yellowbob.ground.progress import go_on
from yellowbob.lines.build import blank_mesh
from yellowbob.lines.cutting import taken_by_cut
from yellowbob.lines.distances import line_to_line
from yellowbob.lines.drill import Hole
from yellowbob.lines.hole_walls import FAR_MM, WANDER_DEG, wall_mm
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import inside
from yellowbob.lines.solids import rod, to_manifold
from yellowbob.lines.walls import least_wall_mm
from yellowbob.weights.ballast import cast_solid
from yellowbob.weights.holes import Holes
from yellowbob.weights.wires import Routed

Array = NDArray[np.float64]

NEAR_MM = 0.5
"""Least wood between a hole and a wire or a screw eye beside it: a rule."""
TOUCHES_MM = 0.05
"""Weights that are cast in and share no more than this touch."""
OUT_MM = 3.0
"""The end of a wire before it comes out of the body is left out against cups and slots: it has to come out somewhere."""


REACHES_MM = (1.5, 8.0)


def least_gap(one: manifold3d.Manifold, two: manifold3d.Manifold, far_mm: float = FAR_MM) -> float:
    """Distance between two solids, up to `far_mm`; where they meet, less than 0 by the least extent of what they share."""
    if one.is_empty() or two.is_empty():
        return far_mm
    a, b = (np.reshape(solid.bounding_box(), (2, 3)) for solid in (one, two))
    if float(np.linalg.norm(np.maximum(0.0, np.maximum(a[0] - b[1], b[0] - a[1])))) >= far_mm:
        return far_mm
    for reach in (*(r for r in REACHES_MM if r < far_mm), far_mm):  # the farther it looks, the longer it takes
        gap = float(one.min_gap(two, reach))
        if gap <= 0.0:
            return 0.0 - _shared_mm(one, two)
        if gap < reach:
            return gap
    return far_mm


def _shared_mm(one: manifold3d.Manifold, two: manifold3d.Manifold) -> float:
    """Least extent along the axes of what two solids share; 0 where they touch only."""
    shared = one ^ two
    if shared.is_empty():
        return 0.0
    low, high = np.reshape(shared.bounding_box(), (2, 3))
    return float((high - low).min())


def drum_solid(drum: Drum) -> manifold3d.Manifold:
    """What a prop turns in, as a solid."""
    return rod(drum.fore, drum.fore + [max(drum.long_mm, 0.05), 0.0, 0.0], 2 * drum.radius_mm, sides=96)


def wire_solid(routed: Routed, trimmed: bool) -> manifold3d.Manifold:
    """The wire inside the wood; trimmed, without the last stretch before it comes out."""
    rods = []
    for number, run in enumerate(routed.runs):
        if not run.inside:
            continue
        start, end = run.start_mm, run.end_mm
        along = (end - start) / run.length_mm
        if trimmed:
            before = number == 0 or not routed.runs[number - 1].inside
            after = number + 1 == len(routed.runs) or not routed.runs[number + 1].inside
            start, end = start + along * OUT_MM * before, end - along * OUT_MM * after
            if (end - start) @ along <= 0.1:
                continue
        rods.append(rod(start, end, routed.wire.diameter_mm))
    return manifold3d.Manifold.batch_boolean(rods, manifold3d.OpType.Add) if rods else manifold3d.Manifold()


def drilled_holes(holes: Holes) -> list[tuple[str, Hole]]:
    """Bores and holes of ballast, by name."""
    drilled = [(b.bore.name, b.hole) for b in holes.bores]
    return [*drilled, *((b.ballast.name, b.hole) for b in holes.ballast if b.hole is not None)]


def wood_clearances(
    outer: Mesh, holes: Holes, wires: tuple[Routed, ...], fittings: tuple[Fitting, ...], cuts: tuple[Cut, ...],
    shape: MainShape, group: Group, wander_deg: float = WANDER_DEG,
) -> list[Clearance]:  # fmt: skip
    """Walls of holes, holes against each other, wires against holes and cuts, props against the body; of a body with its
    cuts, shape and material."""
    found: list[Clearance] = []

    def enter(kind: Kind, one: str, other: str, away: float, least: float, at: Array) -> None:
        found.append(measured(kind, one, other, away, at, least))

    least = least_wall_mm(group)
    drilled, bored = drilled_holes(holes), {b.bore.name for b in holes.bores}
    for name, hole in drilled:
        go_on()
        wall, at = wall_mm(hole, outer, wander_deg, name in bored and not inside(outer, hole.bottom_mm))
        if wall < FAR_MM:
            enter("wall of hole", name, "outside", wall, least, at)
    solids = [(name, hole, rod(hole.at_depth(0.0), hole.bottom_mm, hole.diameter_mm)) for name, hole in drilled]
    for (name, hole, solid), (other, second, there) in itertools.combinations(solids, 2):
        go_on()
        away = least_gap(solid, there)
        if away <= 0.0:
            axes = [np.stack([h.at_depth(0.0), h.bottom_mm]) for h in (hole, second)]
            away = min(0.0, line_to_line(*axes) - (hole.diameter_mm + second.diameter_mm) / 2)
        if away < least:
            enter("hole to hole", name, other, away, least, np.asarray(hole.bottom_mm))
    found += _cast_in(holes, [(name, solid) for name, _, solid in solids])
    for routed in wires:
        if routed.inside_mm <= 0:
            continue
        wire = wire_solid(routed, trimmed=False)
        for name, hole, solid in solids:
            away = least_gap(wire, solid)
            if away < FAR_MM:
                enter("wire to hole", routed.wire.name, name, away, NEAR_MM, hole.at_depth(hole.depth_mm / 2))
    found += _wire_and_cuts(cuts, shape, wires)
    whole = to_manifold(outer)
    for fitting in fittings:
        if fitting.sort == "prop" and fitting.span_mm > 0:
            drum = drum_of(fitting)
            if (away := least_gap(drum_solid(drum), whole)) < FAR_MM:
                enter("prop to body", fitting.name, "body", away, APART_MM, drum.fore)
    return found


def _cast_in(holes: Holes, drilled: list[tuple[str, manifold3d.Manifold]]) -> list[Clearance]:
    """Weights that are cast in where another one, or a hole, is: two cannot be at one place. They may touch."""
    cast = [(p.ballast, cast_solid(p.ballast)) for p in holes.ballast if p.hole is None]
    found: list[Clearance] = []
    for number, (ballast, solid) in enumerate(cast):
        go_on()
        for other, there in [*((b.name, its) for b, its in cast[number + 1 :]), *drilled]:
            away = least_gap(solid, there)
            if away < -TOUCHES_MM:
                found.append(measured("hole to hole", ballast.name, other, away, np.asarray(ballast.at_mm)))
    return found


def _wire_and_cuts(every: tuple[Cut, ...], shape: MainShape, wires: tuple[Routed, ...]) -> list[Clearance]:
    """Wires against slots and cups, without the ends that come out."""
    found: list[Clearance] = []
    cuts = [c for c in every if isinstance(c, Cup | Slot)]
    if not cuts or not wires:
        return found
    blank = blank_mesh(shape)
    whole = to_manifold(blank)
    for cut in cuts:
        gone = taken_by_cut(whole, cut, blank)
        for routed in wires:
            away = least_gap(wire_solid(routed, trimmed=True), gone)
            if away < FAR_MM:
                cup = isinstance(cut, Cup)
                at = (cut.rim_x_mm if isinstance(cut, Cup) else cut.x_mm, 0.0, cut.z_mm)
                kind: Kind = "wire to cup" if cup else "wire to slot"
                found.append(Clearance(kind, routed.wire.name, cut.name, away, 0.3, away >= 0.3, at))
    return found
