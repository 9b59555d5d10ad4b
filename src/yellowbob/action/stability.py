"""How fast it may go: the speed at which a drawn build turns aside, swings over or heels over, and what moves that speed."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from yellowbob.action.periods import Body
from yellowbob.action.running import Line, Pulled, Run, Trim, settle_at
from yellowbob.action.swing import HEELED_DEG, TRUE_DEG, TRUE_MM, Sideways, Swing, sideways, swing_of

FINELY_M_S = 0.005
"""The speed at which it ends is narrowed down to so much."""


@dataclass(frozen=True)
class Stability:
    """Swings at the speeds of a run; the speed and way in which it ends sideways, None and "" where it does not.

    worse_mm, worse_deg: out of true (tie and ballast aside, plates turned) that halves that speed; None where it does not
    end, or where more than half its breadth would be needed.
    """

    swings: tuple[Swing, ...]
    ends_m_s: float | None
    how: str
    worse_mm: float | None
    worse_deg: float | None
    swings_from_m_s: float | None = None
    """the least speed looked at from which it swings by itself"""
    moved: tuple[Sideways, ...] = ()
    """what each of the swings was worked out from"""


def stability(thing: Pulled, found: Run, line: Line, body: Body) -> Stability:
    """Look at every trim of a run from the side. Between the last that holds and the first that does not it is narrowed
    down."""
    seen: list[tuple[Trim, Sideways, Swing]] = []
    ends: tuple[Trim, Swing] | None = None
    for trim in found.trims:
        moved = sideways(thing, trim, line, body)
        if moved is None:
            continue
        swing = swing_of(moved)
        if swing.why and ends is None:
            ends = _narrowed(thing, line, body, seen[-1][0] if seen else None, (trim, swing))
        seen.append((trim, moved, swing))
    swings, every = tuple(s for _, _, s in seen), tuple(m for _, m, _ in seen)
    begins = next((s.speed_m_s for s in swings if s.by_itself), None)
    if ends is None:
        return Stability(swings, None, "", None, None, begins, every)
    limit = ends[0].speed_m_s
    worse = _halving(thing, line, body, found, limit)
    return Stability(
        swings, limit, ends[1].why, None if worse is None else worse * TRUE_MM,
        None if worse is None else worse * TRUE_DEG, begins, every,
    )  # fmt: skip


def _narrowed(thing: Pulled, line: Line, body: Body, low: Trim | None, high: tuple[Trim, Swing]) -> tuple[Trim, Swing]:
    """The slowest trim found at which it does not hold, between one that does and one that does not."""
    while low is not None and high[0].speed_m_s - low.speed_m_s > FINELY_M_S:
        middle = (low.speed_m_s + high[0].speed_m_s) / 2.0
        trim = settle_at(thing, line, middle, low.pitch_rad, low.height_mm)
        moved = None if trim is None else sideways(thing, trim, line, body)
        if trim is None or moved is None:
            break
        swing = swing_of(moved)
        if swing.why:
            high = (trim, swing)
        else:
            low = trim
    return high


def _halving(thing: Pulled, line: Line, body: Body, found: Run, limit: float) -> float | None:
    """How many times TRUE_MM and TRUE_DEG heel it over at half the speed: heel grows as they do."""
    slow = [t for t in found.trims if 0.0 < t.speed_m_s <= limit / 2.0]
    start = slow[-1] if slow else (found.trims[0] if found.trims else None)
    if start is None:
        return None
    trim = settle_at(thing, line, limit / 2.0, start.pitch_rad, start.height_mm)
    moved = None if trim is None else sideways(thing, trim, line, body)
    if moved is None:
        return None
    heel = math.degrees(abs(float(moved.turned(TRUE_MM, TRUE_DEG)[2])))
    times = HEELED_DEG / heel if heel > 1e-9 else None
    half_beam = float(np.ptp(thing.afloat.hull.vertices[:, 1])) / 2.0
    return times if times is not None and times * TRUE_MM < half_beam else None


def at_tie(thing: Pulled, up_mm: float) -> Pulled:
    """The same, tied higher by so much (body axes)."""
    x, y, z = thing.tie_mm
    return replace(thing, tie_mm=(x, y, z + up_mm))
