"""Checks of ballast, holes, walls and wires in the body."""

from __future__ import annotations

import numpy as np

from yellowbob.checks.verdict import NOTHING, Finding, check, signed
from yellowbob.design.model import Slug
from yellowbob.fitout.clearances import Clearance
from yellowbob.lines.walls import least_wall_mm
from yellowbob.study import Study, of
from yellowbob.weights.ballast import DRIVEN_MM, GOES_IN_MM, width_mm
from yellowbob.weights.causes import density_sigma

LOOSE_MM = 0.8
"""Play of a slug in its hole from which it shifts before the plug sets: a rule."""
SOFT = ("lead", "tin", "lead-free", "bismuth alloy")
"""Metals that spread under a hammer and hold by it."""
CAST_OUT = 0.02
"""So much of a weight that is cast in may stand out of the body: what its facets and the body's leave open."""
WIDEST_HOLE = 0.62
"""A hole wider than this share of the beam there splits the body or cannot be plugged soundly: a rule."""


def _worst(study: Study, *kinds: str) -> Clearance | None:
    """The clearance of some kinds that is furthest from what is wanted."""
    found = [c for c in of.clearances(study) if c.kind in kinds]
    return min(found, key=lambda c: c.distance_mm - c.least_mm, default=None)


def _of_clearance(worst: Clearance | None, do: str, words: str = "apart") -> Finding | None:
    if worst is None:
        return None
    figure = f"{worst.distance_mm:.1f} mm {words}"
    if worst.clear:
        return Finding("good", figure)
    if worst.distance_mm <= 0:
        figure = f"{worst.one} meets {worst.other}"
    return Finding("failed" if worst.distance_mm < 0 else "watch", figure, f"{worst.one} and {worst.other}: {do}")


@check(
    "ballast", "Ballast", "A weight that stands proud of its hole cannot be plugged, and a hole right through is scrap."
)
def ballast(study: Study) -> Finding:
    placed = of.holes(study).ballast
    if not placed:
        return Finding("good", "none")
    worst = max(placed, key=lambda p: p.proud_mm)
    if worst.proud_mm > 0.05:
        do = f"Drill {worst.ballast.name} deeper or wider, or use a shorter weight."
        return Finding("failed", f"{worst.proud_mm:.1f} mm proud", do)
    cast = any(one.hole is None for one in placed)
    for one, out in zip(placed, of.cast_outside(study), strict=True) if cast else ():
        if out > CAST_OUT:
            do = f"Move {one.ballast.name} into the body, or take a smaller weight."
            return Finding("failed", f"{100.0 * out:.0f} % of {one.ballast.name} is outside", do)
    return Finding("good", f"{sum(p.weight.mass_g for p in placed):.1f} g, all in")


@check(
    "met",
    "Holes apart",
    "Where holes, screw eyes or seats of plates meet there is no wood between: one ends up in the other's way.",
)
def met(study: Study) -> Finding | None:
    worst = _worst(study, "hole to hole", "eye to hole", "eye to eye", "plate to hole")
    return None if worst is None else _of_clearance(worst, "move one, or set it less deep.", "of wood between")


@check("wall", "Wall", "Thin rims chip, and a chipped cup no longer pops; thin walls crack around holes.", "rule")
def wall(study: Study) -> Finding:
    thin, shell = of.thin(study), study.build.body.shell
    least = least_wall_mm(study.build.body.material.group)
    if shell is not None and shell.wall_mm < least and not (thin and thin[0].thick_mm < shell.wall_mm):
        return Finding("watch", f"{shell.wall_mm:.1f} mm all round", f"Print the shell {least:g} mm thick or more.")
    if not thin:
        return Finding("good", "nowhere thin")
    do = "Make the cut smaller or shallower, or move it; the Lines bench marks the place."
    return Finding("watch", f"{thin[0].thick_mm:.1f} mm at {thin[0].at_mm[0]:.0f} mm from the nose", do)


@check(
    "loose",
    "Ballast held",
    "Ballast that can shift rattles, knocks its plug out, and sits elsewhere after each cast.",
    "rule",
)
def loose(study: Study) -> Finding | None:
    drilled = [p for p in of.holes(study).ballast if p.hole is not None]
    if not drilled:
        return None
    for one in drilled:
        wide, hole = width_mm(one.ballast.weight), 0.0 if one.hole is None else one.hole.diameter_mm
        driven = one.ballast.held == "hammered" and one.ballast.weight.material in SOFT
        if wide > hole + (DRIVEN_MM if driven else GOES_IN_MM):
            do = f"Bore {one.ballast.name} {wide + 0.2:.1f} mm wide, or take a narrower weight."
            return Finding("failed", f"{wide:.1f} mm in a {hole:.1f} mm hole", do)
    open_ones = [p for p in drilled if p.plug is None]
    free = next(
        (p for p in open_ones if p.ballast.held == "plug" and p.hole is not None and p.hole.depth_mm > p.stack_mm), None
    )
    if free is not None:
        do = "Close the hole, or say how else it is held (hammered, undercut, glued): or the weight falls out."
        return Finding("failed", f"{free.ballast.name} has no plug", do)
    hard = next((p for p in open_ones if p.ballast.held == "hammered" and p.ballast.weight.material not in SOFT), None)
    if hard is not None:
        do = f"{hard.ballast.weight.material.capitalize()} does not spread under a hammer: glue or plug it."
        return Finding("watch", f"{hard.ballast.name} hammered in", do)
    play = max(
        p.hole.diameter_mm - p.ballast.weight.diameter_mm
        if p.hole is not None and isinstance(p.ballast.weight, Slug) else 0.0 for p in drilled
    )  # fmt: skip
    if play > LOOSE_MM:
        return Finding("watch", f"{play:.1f} mm of play", "Use a narrower bit, or bed the weight in epoxy.")
    ways = sorted({p.ballast.held if p.plug is None else "plugged" for p in drilled}, reverse=True)
    return Finding("good", f"{', '.join(ways)}, tight")


@check(
    "plug", "Plug", "A hole that takes most of the beam splits the body, and its plug shows through the paint.", "rule"
)
def plug(study: Study) -> Finding | None:
    drilled = [p for p in of.holes(study).ballast if p.hole is not None]
    if not drilled:
        return None
    worst, name = 0.0, ""
    vertices = of.outer(study).vertices
    for placed in drilled:
        assert placed.hole is not None
        x = placed.weight.centre_mm[0]
        near = vertices[np.abs(vertices[:, 0] - x) < 4.0]
        beam = float(np.ptp(near[:, 1])) if len(near) else float(np.ptp(vertices[:, 1]))
        share = placed.hole.diameter_mm / max(beam, 1e-6)
        if share > worst:
            worst, name = share, placed.ballast.name
    figure = f"hole {100 * worst:.0f} % of the beam"
    if worst > WIDEST_HOLE:
        return Finding("watch", figure, f"Use a narrower, denser weight for {name}, or two smaller holes.")
    return Finding("good", figure)


@check("cover", "Plug's depth", "A plug shallower than 1 mm sands through.", "rule")
def cover(study: Study) -> Finding | None:
    depths = [
        p.hole.depth_mm - p.stack_mm for p in of.holes(study).ballast if p.hole is not None and p.plug is not None
    ]
    if not depths:
        return None
    least = min(depths)
    if least < 1.0:
        return Finding("watch", f"{least:.1f} mm", "Drill a little deeper.")
    return Finding("good", f"{least:.1f} mm")


@check("drill", "Drill's wander", "A slanting bit comes out through the side: the body is scrap.", "rule")
def drill(study: Study) -> Finding | None:
    worst = _worst(study, "wall of hole")
    if worst is None:
        return None
    least = least_wall_mm(study.build.body.material.group)
    figure = f"{worst.distance_mm:.1f} mm of wall left"
    if worst.distance_mm < 0:
        return Finding(
            "failed", f"{worst.one} can come out", f"{worst.one}: move the hole inward, or drill it in a jig."
        )
    if worst.distance_mm < least:
        return Finding("watch", figure, f"{worst.one}: less than {least:g} mm; a jig halves the wander.")
    return Finding("good", figure)


@check("wire", "Wire's way", "A wire that meets a hole, a slot or the cup cannot be threaded, or loses its hold there.")
def wire(study: Study) -> Finding | None:
    worst = _worst(study, "wire to hole", "wire to slot", "wire to cup", "wire to plate", "wire to wire", "eye to wire")
    return _of_clearance(worst, "route the wire round, or move what it meets.")


KNOWN_SHARE = 0.5
"""A density is known by weighing when so much of its uncertainty is left, at most: a rule."""


@check("weighed", "This piece weighed", "Two boards of one species differ by 20 %: what counts is this piece.", "rule")
def weighed(study: Study) -> Finding:
    body = study.build.body
    known = of.evidence(study).of(f"density:{body.name}")
    if (
        known is not None
        and study.design.weighings
        and known[1] < KNOWN_SHARE * density_sigma(study.design.body.material)
    ):
        figure = f"{body.density_g_ml:.3f} ± {known[1]:.3f} g/mL, by weighing"
        if of.evidence(study).surprising:
            return Finding("watch", figure, "A weighing is too far off to be believed: look at it in Fit-out, Budget.")
        return Finding("good", figure)
    if body.material.measured:
        return Finding("good", f"{body.density_g_ml:.3f} g/mL, measured")
    return Finding("watch", "looked up, not measured", "Weigh a squared test block of this piece: Fit-out, Measure.")


@check("hollow", "Hollow", "A print that leaks fills up: it should still float then, or have a drain.")
def hollow(study: Study) -> Finding | None:
    mesh, inside = of.hollow(study), study.build.body.inside
    if mesh is None or inside is None or inside.drain:
        return None
    opened = of.let_in(study)[0]
    if opened:
        # what is reckoned afloat is the flooded body already
        figure = f"{opened[0]} floods it: {signed(of.buoyancy(study).reserve_g, 1)} g to spare so"
        return Finding("failed", figure, f"Seal {opened[0]}, drill it less deep, or give the hollow a drain.")
    water = mesh.volume_mm3 * of.water(study).density_g_mm3 * (1.0 - inside.infill)
    spare = of.buoyancy(study).reserve_g - water
    if spare < 0:
        return Finding("watch", f"flooded it sinks by {-spare:.1f} g", "Seal it well, or fill it with light infill.")
    return Finding("good", f"{spare:.1f} g spare when flooded", NOTHING)
