"""Results of the fit-out: what is too close to what, and the weight budget."""

from __future__ import annotations

import numpy as np

from yellowbob.design.model import Design
from yellowbob.fitout.budget import Budget, budget_of, target_of
from yellowbob.fitout.clearances import Clearance, fitting_clearances, free_arc
from yellowbob.fitout.holding import hung_in_wood, round_wires, share_outside, sunk_in, unheld
from yellowbob.fitout.in_wood import WANDER_DEG, wood_clearances
from yellowbob.fitout.on_plates import plate_clearances
from yellowbob.fitout.set_in import set_in_clearances
from yellowbob.study.afloat import buoyancy
from yellowbob.study.engine import Study, drawn, result, slow
from yellowbob.study.lines import body_material, body_shape, outer, outers, parts, pieces
from yellowbob.study.weights import body_cuts, fittings, holes, slip, wires


@drawn
def whole_design(design: Design) -> Design:
    """The build, whole."""
    return design


@slow("measuring what is too close")
def hardware_clear(study: Study) -> tuple[Clearance, ...]:
    """Hooks, line, props and tickers against one another."""
    half_beam = float(np.abs(outer(study).bounds[:, 1]).max())
    return tuple(fitting_clearances(fittings(study), half_beam))


def wood_clear_with(study: Study, wander_deg: float) -> tuple[Clearance, ...]:
    """Walls left around holes by a bit that wanders so far; wires, slots and cups; props against the body."""
    cuts, shape, group = body_cuts(study), body_shape(study), body_material(study).group
    hardware, beside = fittings(study), tuple(zip(pieces(study)[1:], parts(study), strict=True))
    return (
        *wood_clearances(outer(study), holes(study), wires(study), hardware, cuts, shape, group, wander_deg),
        *set_in_clearances(holes(study), wires(study), hardware, beside),
    )


@slow("measuring the walls round holes")
def wood_clear(study: Study) -> tuple[Clearance, ...]:
    """The same with a hand-held bit."""
    return wood_clear_with(study, WANDER_DEG)


@slow("measuring what is too close")
def plates_clear(study: Study) -> tuple[Clearance, ...]:
    """Hooks, props and blades against the pieces beside the body."""
    return tuple(plate_clearances(fittings(study), tuple(zip(pieces(study)[1:], parts(study), strict=True))))


@slow("measuring what is too close")
def clearances(study: Study) -> tuple[Clearance, ...]:
    """Everything that can touch something else, and the walls left around holes."""
    return (*hardware_clear(study), *plates_clear(study), *wood_clear(study))


@slow("seeing what holds what")
def unheld_parts(study: Study) -> tuple[tuple[float, str], ...]:
    """Pieces and hardware that nothing holds, with their distance from what could, mm: see `unheld`."""
    named = tuple((piece.name, outer) for piece, outer in zip(pieces(study), outers(study), strict=True))
    return tuple(unheld(fittings(study), tuple(one.wire for one in wires(study)), named))


@slow("seeing what is sunk in")
def sunk(study: Study) -> tuple[tuple[float, str], ...]:
    """Hardware counted as pushing water aside in the midst of the wood, mL: see `sunk_in`."""
    return tuple(sunk_in(fittings(study), outers(study)))


@slow("seeing what hangs in the wood")
def hung_inside(study: Study) -> tuple[str, ...]:
    """What hangs from a place deep in the wood, by name: see `hung_in_wood`."""
    return tuple(hung_in_wood(fittings(study), outers(study)))


@slow("seeing what is cast outside")
def cast_outside(study: Study) -> tuple[float, ...]:
    """Of each ballast, as listed, the share that lies outside the pieces; 0 for one in a hole."""
    return tuple(0.0 if p.hole is not None else share_outside(p.ballast, outers(study)) for p in holes(study).ballast)


@slow("seeing what is cast round a wire")
def cast_round_wires(study: Study) -> tuple[tuple[float, str, str], ...]:
    """Metal of weights that is counted where a wire is: see `round_wires`."""
    return tuple(round_wires([p.ballast for p in holes(study).ballast], [one.wire for one in wires(study)]))


@slow("swinging the hooks")
def free_arcs(study: Study) -> dict[int, list[tuple[float, float]]]:
    """The arcs in which each hanging hook swings clear of the body, by the number of its fitting: see `free_arc`."""
    every = fittings(study)
    return {
        n: free_arc(f, every, outer(study)) for n, f in enumerate(every) if f.sort == "hook" and f.hanging
    }  # fmt: skip


@result
def budget(study: Study) -> Budget:
    """What may still go in, against the brief's mass."""
    line = slip(study)
    target, _ = target_of(whole_design(study), line.finished.mass_g)
    return budget_of(line, buoyancy(study).lift_g, target)
