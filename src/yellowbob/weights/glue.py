"""The film of glue in the joints of a turned stack: between a spigot and what it sits in."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from yellowbob.design.pieces import Piece
from yellowbob.design.shape import Turned
from yellowbob.lines.curves import curve
from yellowbob.weights.mass import MassProperties

GLUE_G_ML = 1.15
"""Cured epoxy, typical; super glue and wood glue lie within a tenth of it."""
STEPS = 400


def glue_of(pieces: Sequence[Piece], number: int) -> MassProperties | None:
    """What a piece's film weighs more than the material that was cut away for it, all round where it sits in earlier turned
    pieces on the same axis; None where there is none.

    A shell of r(x) and thickness t: 2πr·√(1 + r'²)·t dx. Ends are left out.
    """
    piece = pieces[number]
    shape = piece.shape
    if piece.glue_mm <= 0.0 or not isinstance(shape, Turned):
        return None
    x = (np.arange(STEPS) + 0.5) / STEPS * shape.length_mm
    radius = curve(shape.profile).at(x)
    slant = np.sqrt(1.0 + np.gradient(radius, x) ** 2)
    density = np.zeros(STEPS)
    for other in pieces[:number]:
        if not isinstance(other.shape, Turned) or other.at_mm[1:] != piece.at_mm[1:]:
            continue
        there = x + piece.at_mm[0] - other.at_mm[0]
        wide = curve(other.shape.profile).at(there)
        inside = (there > 0.0) & (there < other.shape.length_mm) & (wide > radius)
        density[inside] = GLUE_G_ML - other.density_g_ml
    ring = 2.0 * np.pi * radius * slant * piece.glue_mm * shape.length_mm / STEPS * density / 1000.0
    mass = float(ring.sum())
    if not density.any():
        return None
    middle = float(ring @ x) / mass if mass else float(x.mean())
    along, across = float(ring @ (x - middle) ** 2), float(ring @ radius**2) / 2.0
    centre = np.array([piece.at_mm[0] + middle, piece.at_mm[1], piece.at_mm[2]])
    return MassProperties(mass, centre, np.diag([along, across, across]))
