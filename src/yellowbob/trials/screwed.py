"""A lure hung by screw eyes in the place of a through wire."""

from __future__ import annotations

import math

import numpy as np

from yellowbob.design.hardware import Fitting
from yellowbob.design.model import Design, replaced
from yellowbob.design.plates import TurningTail
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.items import Hardware
from yellowbob.shelf.shipped import hardware
from yellowbob.study import Study, of
from yellowbob.trials.asked import a_kind

SHARE_OF_LENGTH, SHARE_OF_DEPTH = 0.16, 0.6
"""How long a shank is at most, of the body's length and of its depth there: rules."""
NEAR_MM, NEAREST = 2.0, 40
"""A place on the belly is read from vertices so near, or from so many."""
BELOW = 0.55
"""An eye stands so many of its outer diameters off the wood."""


def with_screw_eyes(design: Design) -> Design:
    """The wires out, a screw eye for the tie and for each ring that hung on one. Raises BadInput where a wire must turn
    something."""
    turning = next((f.name for f in design.fittings if f.sort in ("prop", "bead")), None)
    if turning is not None or any(isinstance(p.shape, TurningTail) for p in design.pieces):
        raise BadInput(
            f"{a_kind(design.kind)} turns on its wire ({turning or 'the tail'}); screw eyes cannot carry that"
        )
    mesh = of.outer(Study(design.but(wires=(), ballast=())))
    length = design.shape.length_mm
    new: list[Fitting] = []
    moved: dict[tuple[float, float, float], tuple[float, float, float]] = {}
    for one in design.fittings:
        if one.sort == "eye":
            new.append(_eye(one.name, _surface(mesh.vertices, one.at_mm, length), 0.0, length, length))
        elif one.sort == "ring" and one.at_mm not in moved:
            at = _surface(mesh.vertices, one.at_mm, length)
            aft = at[0] >= length - NEAR_MM
            depth = length if aft else 2.0 * abs(at[2])
            eye = _eye(f"{one.name} eye"[:80], at, 180.0 if aft else 90.0, length, depth)
            off = BELOW * eye.span_mm
            moved[one.at_mm] = (at[0] + off, 0.0, at[2]) if aft else (at[0], 0.0, at[2] - off)
            new.append(eye)
    kept = [replaced(f, at_mm=moved.get(f.at_mm, f.at_mm)) for f in design.fittings if f.sort != "eye"]
    return design.but(wires=(), fittings=(*new, *kept))


def _surface(vertices: np.ndarray, at: tuple[float, float, float], length: float) -> tuple[float, float, float]:
    """Where an eye goes into the wood: at the nose or tail the middle of that end, else the belly under the place."""
    x = min(max(at[0], 0.0), length)
    if NEAR_MM < x < length - NEAR_MM:
        away = np.abs(vertices[:, 0] - x)
        near = vertices[away <= max(NEAR_MM, float(np.partition(away, NEAREST)[NEAREST]))]
        return x, 0.0, float(near[:, 2].min())
    return x, 0.0, at[2]


def _eye(name: str, at: tuple[float, float, float], aim: float, length: float, depth: float) -> Fitting:
    most = min(SHARE_OF_LENGTH * length, SHARE_OF_DEPTH * depth)
    found: Hardware = min(
        (h for h in hardware().values() if h.sort == "screw eye"),
        key=lambda h: abs(math.log((h.long_mm or 1.0) / most)),
    )
    return replaced(fitting_from(found, at, name), aim_deg=aim)
