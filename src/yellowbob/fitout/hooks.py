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
USUAL_WIRE_SHARE = 0.07
"""Thickness of a hook's wire as a share of its gape when it is not given: a rule."""


def wire_mm(hook: Fitting) -> float:
    """Thickness of the hook's wire."""
    return hook.wire_mm or USUAL_WIRE_SHARE * hook.span_mm


def hung_below_mm(hook: Fitting, fittings: tuple[Fitting, ...]) -> float:
    """How far rings and swivels at the same eye carry the hook's own eye out; 0 for a hook right on the wire."""
    if hook.sort != "hook" or not hook.hanging:
        return 0.0
    here = np.asarray(hook.at_mm)
    return sum(
        f.reach_mm for f in fittings
        if f.sort in ("ring", "swivel") and f.hanging and float(np.linalg.norm(np.asarray(f.at_mm) - here)) < 0.6
    )  # fmt: skip


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
    """Radius of the sphere about the eye it hangs from that holds the hook in every way it can swing."""
    points = outline(hook)
    far = float(np.linalg.norm(points, axis=1).max())
    radius, start = hook.span_mm / 2.0, max(0.0, hook.reach_mm - hook.span_mm / 2.0)
    far = max(far, math.hypot(start, radius) + radius) if radius > 0 else max(far, hook.reach_mm)
    return hung_below_mm(hook, fittings) + far + wire_mm(hook) / 2.0


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
