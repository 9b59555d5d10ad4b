"""Clearances of what is set into the wood beside ballast: shanks of screw eyes, seats of plates, one wire and another."""

from __future__ import annotations

import itertools
import math

import manifold3d
import numpy as np

from yellowbob.design.model import Fitting, aim
from yellowbob.design.pieces import Piece
from yellowbob.fitout.clearances import Array, Clearance, Kind, measured
from yellowbob.fitout.in_wood import NEAR_MM, drilled_holes, least_gap, wire_solid
from yellowbob.fitout.on_plates import CAUGHT_ON
from yellowbob.ground.progress import go_on
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import rod, to_manifold
from yellowbob.weights.holes import Holes
from yellowbob.weights.wires import Routed

SHOWN_MM = 3.0
"""What is set in is said where it comes nearer to something than this."""
BESIDE_WIRE_MM = 0.3
"""Least wood between a wire and what is set in beside it: a rule."""


def shank(eye: Fitting) -> tuple[Array, Array, float] | None:
    """Start, end (3,) and diameter, mm, of a screw eye's shank in the wood; None where its length is not known."""
    if eye.sort != "screw eye" or eye.long_mm <= 0.0 or eye.in_wood_ml <= 0.0:
        return None
    start = np.asarray(eye.at_mm, dtype=float)
    return (
        start,
        start + eye.long_mm * np.asarray(aim(eye)),
        math.sqrt(4000.0 * eye.in_wood_ml / (math.pi * eye.long_mm)),
    )


def set_in_clearances(
    holes: Holes, wires: tuple[Routed, ...], fittings: tuple[Fitting, ...], parts: tuple[tuple[Piece, Mesh], ...]
) -> list[Clearance]:
    """Shanks of screw eyes and seats of plates against holes, wires and each other; bored wires against other wires.

    Only what comes within SHOWN_MM is among them.
    """
    found: list[Clearance] = []
    bored = [(name, rod(hole.at_depth(0.0), hole.bottom_mm, hole.diameter_mm)) for name, hole in drilled_holes(holes)]
    shanks = [(f.name, rod(*s)) for f in fittings if (s := shank(f)) is not None]
    plates = [(piece.name, to_manifold(mesh)) for piece, mesh in parts if isinstance(piece.shape, CAUGHT_ON)]
    within = [w for w in wires if w.inside_mm > 0.0]
    laid = [(w.wire.name, wire_solid(w, trimmed=False)) for w in within]
    crossing = [
        (laid[a], laid[b])
        for a, b in itertools.combinations(range(len(laid)), 2)
        if "bored" in (within[a].wire.route, within[b].wire.route)
    ]
    pairs: list[tuple[Kind, float, list[tuple[tuple[str, manifold3d.Manifold], tuple[str, manifold3d.Manifold]]]]] = [
        ("eye to hole", NEAR_MM, list(itertools.product(shanks, bored))),
        ("eye to eye", NEAR_MM, list(itertools.combinations(shanks, 2))),
        ("plate to hole", 0.0, list(itertools.product(plates, bored))),
        ("eye to wire", BESIDE_WIRE_MM, list(itertools.product(shanks, laid))),
        ("wire to plate", BESIDE_WIRE_MM, list(itertools.product(laid, plates))),
        ("wire to wire", BESIDE_WIRE_MM, crossing),
    ]
    for kind, least, some in pairs:
        for (one, solid), (other, there) in some:
            go_on()
            if (away := least_gap(solid, there, SHOWN_MM)) < SHOWN_MM:
                found.append(measured(kind, one, other, away, _middle(solid, there), least))
    return found


def _middle(one: manifold3d.Manifold, two: manifold3d.Manifold) -> Array:
    """Middle of what two boxes share, or of what lies between them."""
    a, b = np.reshape(one.bounding_box(), (2, 3)), np.reshape(two.bounding_box(), (2, 3))
    return np.asarray((np.maximum(a[0], b[0]) + np.minimum(a[1], b[1])) / 2.0)
