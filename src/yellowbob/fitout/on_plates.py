"""Clearances against the pieces beside the body: hooks, props and blades that reach a wing, lip, fin or turning tail."""

from __future__ import annotations

import itertools

import manifold3d
import numpy as np

from yellowbob.design.model import Fitting
from yellowbob.design.pieces import Piece
from yellowbob.design.plates import Cutout, Fin, Lip, TurningTail, Wings
from yellowbob.fitout.clearances import APART_MM, Clearance, Kind, Reach, drum_of, hook_reach, measured, ticker_reach
from yellowbob.fitout.in_wood import drum_solid, least_gap
from yellowbob.ground.progress import go_on
from yellowbob.lines.hole_walls import FAR_MM
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import rod, to_manifold

SPECK_MM = 1e-3
"""Thickness of what stands for a middle that is measured from."""
CAUGHT_ON = (Lip, Wings, Fin, Cutout)


def _middle(reach: Reach) -> manifold3d.Manifold:
    """A reach without its thickness: a speck at the middle of a ball, threads along bent wires."""
    threads = [
        rod(a, b, SPECK_MM, sides=4)
        for line in reach.lines for a, b in itertools.pairwise(line) if np.linalg.norm(b - a) > SPECK_MM
    ]  # fmt: skip
    speck = manifold3d.Manifold.cube([SPECK_MM] * 3, True).translate(reach.lines[0][0].tolist())
    return manifold3d.Manifold.compose([speck, *threads])  # only distances from it are asked


def plate_clearances(fittings: tuple[Fitting, ...], parts: tuple[tuple[Piece, Mesh], ...]) -> list[Clearance]:
    """Props against every piece beside the body; hooks and spinner blades against what they catch on or stop."""
    found: list[Clearance] = []
    caught_on = any(isinstance(piece.shape, (TurningTail, *CAUGHT_ON)) for piece, _ in parts)
    hooks = [hook_reach(f, fittings) for f in fittings if f.sort == "hook" and caught_on]
    blades = [ticker_reach(f) for f in fittings if f.sort == "blade" and caught_on]
    middles = {id(reach): _middle(reach) for reach in (*hooks, *blades)}
    drums = [drum_of(f) for f in fittings if f.sort == "prop" and f.span_mm > 0.0]
    for piece, mesh in parts:
        there = to_manifold(mesh)
        if isinstance(piece.shape, (TurningTail, *CAUGHT_ON)):
            turning = isinstance(piece.shape, TurningTail)
            reaches: list[tuple[Reach, Kind, float]]
            reaches = [(h, "hook to tail" if turning else "hook to plate", 0.0) for h in hooks]
            if not turning:  # a blade behind a tail swings against its end, and is meant to
                reaches += [(b, "blade to part", APART_MM) for b in blades]
            for reach, kind, least in reaches:
                go_on()
                far = FAR_MM + reach.radius_mm
                if (away := least_gap(middles[id(reach)], there, far)) < far:
                    found.append(measured(kind, reach.name, piece.name, away - reach.radius_mm, reach.at, least))
        for drum in drums:
            go_on()
            if (away := least_gap(drum_solid(drum), there)) < FAR_MM:
                found.append(measured("prop to part", drum.name, piece.name, away, drum.fore, APART_MM))
    return found
