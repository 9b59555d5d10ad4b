"""A hook as a bent line: shank, bend and point, from its eye; and the sphere it can swing through."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Fitting

Array = NDArray[np.float64]

BEND_STEPS = 12
RISE_SHARE = 0.5
"""The point comes back up beside the shank by this share of the gape: a rule."""
SAME_EYE_MM = 0.6
"""Pieces nearer than this hang at the same eye."""
USUAL_WIRE_SHARE = 0.07
"""Thickness of a hook's wire as a share of its gape when it is not given: a rule."""


def wire_mm(hook: Fitting) -> float:
    """Thickness of the hook's wire."""
    return hook.wire_mm or USUAL_WIRE_SHARE * hook.span_mm


def hangs_from(hook: Fitting, fittings: tuple[Fitting, ...]) -> tuple[Array, float]:
    """Where the chain that carries a hook begins, (3,) body axes, mm, and how far it carries the hook's own eye out.

    Rings and swivels at one eye make a chain, and a hook whose eye lies within the chain's reach, at its near end, its far
    end or between, hangs from it: nearest first. A hook right on the wire hangs from its own eye, with nothing between.
    """
    here = np.asarray(hook.at_mm, dtype=float)
    if hook.sort != "hook" or not hook.hanging:
        return here, 0.0
    links = [f for f in fittings if f.sort in ("ring", "swivel") and f.hanging]
    nearest: tuple[float, Array, float] | None = None
    for link in links:
        eye = np.asarray(link.at_mm, dtype=float)
        chain = sum(f.reach_mm for f in links if float(np.linalg.norm(np.asarray(f.at_mm) - eye)) < SAME_EYE_MM)
        away = float(np.linalg.norm(eye - here))
        if away < chain + SAME_EYE_MM and (nearest is None or away < nearest[0]):
            nearest = (away, eye, max(chain, away))
    if nearest is None:
        return here, 0.0
    away, eye, out = nearest
    return (here if away < SAME_EYE_MM else eye), out


def outline(hook: Fitting) -> Array:
    """(n, 2) of (down the shank, out to the point's side), mm, from the eye to the tip of one point.

    The shank is straight to where the bend begins, the bend half a circle as wide as the gape, and the point comes back
    up by half the gape.
    """
    radius = hook.span_mm / 2.0
    start = max(0.0, hook.reach_mm - radius)
    angle = np.linspace(0.0, math.pi, BEND_STEPS + 1)
    bend = np.stack([start + radius * np.sin(angle), radius - radius * np.cos(angle)], axis=1)
    tip = [max(0.0, start - RISE_SHARE * hook.span_mm), 2.0 * radius]
    return np.vstack([[0.0, 0.0], bend, tip])


def swing_mm(hook: Fitting, fittings: tuple[Fitting, ...]) -> float:
    """Radius of the sphere about where it hangs from (`hangs_from`) that holds the hook in every way it can swing."""
    points = outline(hook)
    far = float(np.linalg.norm(points, axis=1).max())
    radius, start = hook.span_mm / 2.0, max(0.0, hook.reach_mm - hook.span_mm / 2.0)
    far = max(far, math.hypot(start, radius) + radius) if radius > 0 else max(far, hook.reach_mm)
    return hangs_from(hook, fittings)[1] + far + wire_mm(hook) / 2.0


def fixed_lines(hook: Fitting) -> list[Array]:
    """The bent lines (n, 3) of a fixed hook's points, body axes: doubles and trebles spread about the shank."""
    a = math.radians(hook.aim_deg)
    along, side = np.array([math.cos(a), 0.0, math.sin(a)]), np.array([0.0, 1.0, 0.0])
    up = np.cross(side, along)
    if up[2] < -1e-9 or (abs(up[2]) <= 1e-9 and up[0] > 0):
        up = -up
    towards = up if hook.point == "up" else -up
    points = outline(hook)
    turns = {1: (0.0,), 2: (-math.pi / 3, math.pi / 3), 3: (0.0, 2 * math.pi / 3, -2 * math.pi / 3)}[hook.points]
    lines = []
    for turn in turns:
        out = math.cos(turn) * towards + math.sin(turn) * side
        lines.append(np.asarray(hook.at_mm) + points[:, :1] * along + points[:, 1:] * out)
    return lines
