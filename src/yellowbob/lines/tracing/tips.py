"""Pointed ends of an outline, drawn on to where their edges meet, or to the clicked ends: a mask loses a tip where it is a
pixel or two thin."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

REACH_PX = 40.0
WIDEST_PX = 14.0
"""A tip is sought where the outline is no wider than this."""
STRAIGHT = 0.35
"""How far, px, the width may stray from a straight taper."""
FURTHEST_PX = 6.0
LEAST_RUN = 10
HOLLOW = 0.12
"""By how much, px, the taper's middle may bulge over a straight one: a rounded end bulges."""
NARROW_PX = 12.0
"""An end no wider than this, so far behind it as BEHIND_PX, is pointed: a click beyond it is its tip."""
BEHIND_PX = 6.0
LEAST_GAP_PX = 1.0
SHORT_SHARE = 0.0035
"""Of the length between the clicked ends: by so much more the outline's own may differ from it unsaid;"""
MOST_SHORT_SHARE = 0.015
"""by so much at all."""


def to_clicks(outline: Array, one: tuple[float, float], two: tuple[float, float], most: float) -> tuple[Array, float]:
    """The outline (n, 2) with its pointed ends drawn on to clicks that lie up to `most` px beyond them.

    Also how far, as a share of the clicked length, the outline then still is from it; signed, shorter positive.
    """
    apart = float(np.hypot(two[0] - one[0], two[1] - one[1]))
    short = 0.0
    for here, there in ((one, two), (two, one)):
        way = (np.asarray(here) - there) / apart
        along, across = (outline - there) @ way, (outline - there) @ np.array([-way[1], way[0]])
        tip = int(np.argmax(along))
        gap = apart - float(along[tip])
        end = along > along[tip] - BEHIND_PX
        if LEAST_GAP_PX < gap <= most and float(np.ptp(across[end])) <= NARROW_PX:
            keep = along <= along[tip] - BEHIND_PX / 2.0
            keep[tip] = True
            outline = outline.copy()
            outline[tip] = here
            outline, gap = outline[keep], 0.0
        short += gap / apart
    return outline, short


def pointed(outline: Array) -> Array:
    """The outline (n, 2) with its two far ends, where they taper to a point, drawn on to it."""
    centre = outline.mean(axis=0)
    _, _, axes = np.linalg.svd(outline - centre, full_matrices=False)
    for way in (axes[0], -axes[0]):
        outline = _drawn_on(outline, way)
    return outline


def _drawn_on(outline: Array, way: Array) -> Array:
    along, across = outline @ way, outline @ np.array([-way[1], way[0]])
    tip = int(np.argmax(along))
    count = len(outline)
    middle = count // 3
    order = (tip + np.arange(-middle, middle + 1)) % count
    back = along[tip] - along[order]
    one, two = order[:middle][::-1], order[middle + 1 :]
    depth = np.arange(2.0, REACH_PX, 1.0)
    sides = []
    for side in (one, two):
        run = along[tip] - along[side]
        if len(run) < 8 or run.max() < 8.0:
            return outline
        keep = np.maximum.accumulate(run) <= run + 1e-9
        sides.append(np.interp(depth, run[keep], across[side][keep]))
    width = np.abs(sides[0] - sides[1])
    use = (width < WIDEST_PX) & (depth <= np.ptp(back))
    use &= np.cumsum(~use & (depth > depth[np.argmax(use)])) == 0
    if use.sum() < 6:
        return outline
    # the last pixels are rounded off: the taper is read behind them
    read = use & (depth >= depth[use][0] + 3.0)
    if read.sum() < LEAST_RUN:
        return outline
    bulge = np.polyfit(depth[read], width[read], 2)[0] * float(np.ptp(depth[read])) ** 2 / 4.0
    slope, start = np.polyfit(depth[read], width[read], 1)
    miss = float(np.abs(np.polyval((slope, start), depth[read]) - width[read]).max())
    if slope < 0.04 or miss > STRAIGHT or abs(bulge) > HOLLOW:
        return outline
    beyond = start / slope
    if not 0.3 < beyond < FURTHEST_PX:
        return outline
    lean = np.polyfit(depth[read], (sides[0][read] + sides[1][read]) / 2, 1)
    place = way * (along[tip] + beyond) + np.array([-way[1], way[0]]) * np.polyval(lean, -beyond)
    keep = np.ones(count, dtype=bool)
    keep[order[(back < 3.0)]] = False
    keep[tip] = True
    out = outline.copy()
    out[tip] = place
    return out[keep]
