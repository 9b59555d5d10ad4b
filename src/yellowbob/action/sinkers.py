"""What does not float but runs: the least speed at which the stream holds it up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from yellowbob.action.running import (
    FASTEST_M_S,
    OUT,
    UNDER,
    Line,
    Pulled,
    Run,
    Trim,
    balance,
    reach,
    rising,
    settle_at,
    why_ends,
)
from yellowbob.afloat.rest import up_from

SINKS_TRIED_DEG = (4.0, 8.0, 14.0, 22.0, 32.0)
SINKS_LEVELS = (0.35, 0.55, 0.75, 0.9)
"""Attitudes, and heights of the water on it (shares of its own), from which a balance of what sinks is looked for."""
SINKS_STEP_M_S = 0.05
SINKS_SPEEDS = 14
TOO_HEAVY = 0.5
"""Share of its weight that may be left to bear where a balance is looked for."""


def run_of_sinker(thing: Pulled, speeds_m_s: Sequence[float], line: Line | None = None) -> tuple[Run, float | None]:
    """What does not float but runs: its balances at the speeds asked for, and the least speed at which it stays up, m/s.

    A balance is looked for at rising speeds from SINKS_TRIED_DEG, then followed down until there is none. None, and no trims,
    where it never comes up to FASTEST_M_S.
    """
    line = line or Line()
    wanted = rising(speeds_m_s)
    first = _lifted(thing, line)
    if first is None:
        return Run((), "does not stay up", 0.0), None
    least = first
    while least.speed_m_s > SINKS_STEP_M_S:
        lower = _reach_down(thing, line, least)
        if lower is None:
            break
        least = lower
    found: list[Trim] = []
    last = least
    for speed in wanted:
        if speed < least.speed_m_s - 1e-9:
            continue
        reached = reach(thing, line, last, speed) if speed > last.speed_m_s else last
        if reached.speed_m_s < speed - 1e-9 or not OUT <= reached.wet_share <= UNDER:
            return Run(tuple(found), why_ends(thing, line, reached), reached.speed_m_s), least.speed_m_s
        last = replace(reached, speed_m_s=speed)
        found.append(last)
    return Run(tuple(found)), least.speed_m_s


def _lifted(thing: Pulled, line: Line) -> Trim | None:
    """Some balance near the surface of what sinks, at the least of rising speeds."""
    vertices = thing.afloat.hull.vertices
    for speed in np.geomspace(2.0 * SINKS_STEP_M_S, FASTEST_M_S, SINKS_SPEEDS):
        for pitch in np.radians(SINKS_TRIED_DEG):
            along = vertices @ up_from(pitch, 0.0)
            for level in SINKS_LEVELS:
                height = float(along.min() + level * np.ptp(along))
                left, _, _ = balance(thing, line, 1000.0 * float(speed), float(pitch), height)
                if left[0] < -TOO_HEAVY:
                    continue
                found = settle_at(thing, line, float(speed), float(pitch), height)
                if found is not None and OUT < found.wet_share < UNDER and _held_up(thing, line, found):
                    return found
    return None


def _held_up(thing: Pulled, line: Line, trim: Trim) -> bool:
    """Whether it comes back when it is pressed down a little."""
    left, _, _ = balance(thing, line, 1000.0 * trim.speed_m_s, trim.pitch_rad, trim.height_mm + 0.05)
    return bool(left[0] > 0.0)


def _reach_down(thing: Pulled, line: Line, last: Trim) -> Trim | None:
    """A balance a little slower that still shows above the water; None where the next is none."""
    step = SINKS_STEP_M_S
    while step > 1e-3:
        found = settle_at(thing, line, last.speed_m_s - step, last.pitch_rad, last.height_mm)
        if found is not None and found.wet_share < UNDER and abs(found.pitch_rad - last.pitch_rad) < 0.2:
            return found
        step /= 2.0
    return None
