"""What is thin on a body: hooks and wires are left out, its own tips and stems stay."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.levels import Place
from yellowbob.lines.tracing.masks import Mask

Array = NDArray[Any]

HOOK_SHARE = 0.22
"""What is thinner than this share of the body's thickness is a hook or a line, unless the body tapers down to it."""
FINER = 0.7
"""A taper is followed down in steps, each so much finer than the one before."""
FINEST_PX = 1.5
"""Half a tip's width below which it is taken whole."""
KEPT_PX = 6.0
"""A thin thing that comes so near a clicked end leads to it."""


def without_thin(whole: Mask, kept: Sequence[Place] = ()) -> Mask:
    """A solid thing without the hooks and wires that hang on it; its own tips, and what leads to a kept place, stay."""
    if not whole.any():
        return whole
    box = masks.box_of(whole, 2)
    out = np.zeros_like(whole)
    out[box] = _without_thin(whole[box], [(x - box[1].start, y - box[0].start) for x, y in kept])
    return out


def _without_thin(whole: Mask, kept: Sequence[Place]) -> Mask:
    inner = masks.depth(whole)
    thick = float(inner.max())
    radius = HOOK_SHARE * thick
    if radius < 1.0:
        return whole
    opened = masks.within(masks.largest(inner > radius), radius) & whole
    # what opening took off: tips of the body come back; hooks and wire do not
    left, _, boxes = masks.pieces(whole & ~opened)
    near = masks.grown(opened, 2)
    for number, box in enumerate(boxes, start=1):
        piece = left[box] == number
        if not _is_tip(piece, near[box], radius):
            piece &= _leads(piece, box, kept)
        opened[box] |= piece
    while radius >= FINEST_PX:
        finer = FINER * radius if radius > 2 * FINEST_PX else 0.0
        grain = whole if finer == 0.0 else masks.within(inner > finer, finer) & whole
        _follow_tapers(opened, grain, inner, radius)
        radius = finer
    return masks.filled(opened)


def _leads(piece: Mask, box: tuple[slice, ...], kept: Sequence[Place]) -> Mask:
    """What of a thin piece (in its box) leads to one of the two kept places, and not past it; nothing where it does not."""
    rows, columns = np.mgrid[box[0], box[1]]
    for one, two in (kept, kept[::-1]) if kept else ():
        way = np.subtract(two, one) / np.hypot(*np.subtract(two, one))
        along = (columns - one[0]) * way[0] + (rows - one[1]) * way[1]
        if (piece & (np.hypot(columns - one[0], rows - one[1]) <= KEPT_PX)).any():
            return np.asarray(piece & (along >= -1.0))
    return np.zeros(piece.shape, dtype=bool)


def _follow_tapers(opened: Mask, grain: Mask, inner: Array, radius: float) -> None:
    """Add to `opened`, in place, what a finer opening shows where the body itself has become as thin as `radius`."""
    left, _, boxes = masks.pieces(grain & ~opened)
    near = masks.grown(opened, 2)
    reach = int(np.ceil(2.5 * radius))
    for number, box in enumerate(boxes, start=1):
        piece = left[box] == number
        base = piece & near[box]
        if np.count_nonzero(base) < 1.8 * radius or not _is_tip(piece, near[box], radius):
            continue
        rows, columns = np.nonzero(base)
        row, column = round(rows.mean()) + box[0].start, round(columns.mean()) + box[1].start
        around = inner[max(0, row - reach) : row + reach + 1, max(0, column - reach) : column + reach + 1]
        if around.max() < 1.9 * radius:
            opened[box] |= piece


def _is_tip(piece: Mask, near: Mask, radius: float) -> bool:
    """A tip is widest where it joins the body and narrows from there; a hook or wire runs on at one width."""
    rows, columns = np.nonzero(piece)
    area = len(rows)
    if area < 6:
        return True
    base = piece & near
    root = np.count_nonzero(base) / 2.0
    if root < 1.0:
        return False
    by, bx = np.nonzero(base)
    reach = float(np.hypot(rows - by.mean(), columns - bx.mean()).max())
    if reach < 1.2 * radius and root > 0.35 * radius:
        return True
    # a triangle's area is half of width x reach; a long thin thing has far less for its reach than its root promises
    return bool(root > 0.9 * radius and area > 0.3 * root * reach and reach < 6.0 * radius)
