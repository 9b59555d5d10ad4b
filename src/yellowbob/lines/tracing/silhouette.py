"""The silhouette in a picture: separated from a plain background, hooks and line left out, to a part of a pixel.

The background is a smooth surface of colour fitted to the picture's edge and then to all that looks like it, so uneven
light is taken out. The threshold is the one at which the outline is sharpest, which leaves a soft shadow outside. Last, the
outline is moved to the half-way level of the edge it lies on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing.background import BadPicture, difference, difference_but_shade
from yellowbob.lines.tracing.levels import NEAR_SHARE, RUNS_OUT, UNCLEAR, Ends, Found, Place, halved, measured, thing
from yellowbob.lines.tracing.picture_file import Picture, read_picture, smaller
from yellowbob.lines.tracing.thin import without_thin
from yellowbob.lines.tracing.tips import pointed

__all__ = ["BadPicture", "Picture", "Silhouette", "Stroke", "find_silhouette", "read_picture"]

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

LEAST_CONTRAST = 4.0
"""How many times the background's own unrest the body must stand out by."""
NEAR_PX, FAR_PX = 5.0, 11.0
"""How far to each side of an outline its edge is looked for, last and first."""
ONE_SIDED = 0.12
"""A body lies to both sides of the line between its ends, its lesser depth at least this share of the greater."""
SURE_SHARE = 0.94
"""Share of an outline that an edge must be found for."""
RAGGED_SPAN, RAGGED_PX, RAGGED_SHARE = 3, 2.5, 0.05
"""By how much an outline may bend over so many points to each side, and at what share of them it bends more."""
FAINT_RISE, FAINT_SHARE = 0.07, 0.03
"""A step in colour under this is faint, which is said where it is more than this share of the outline."""
LEAST_RISE = 0.03
"""Least step in colour (0 to 1 a channel) that an outline is put on."""
LEAST_SOFT_PX, SOFTEST_PX, SOFTEST_SHARE = 3.5, 5.0, 0.06
"""An edge may be so soft always, never softer, and between by this share of the body's thickness; else it is out of focus."""
THINNEST_KNOWN = 0.012
"""And when its ends were clicked."""
THINNEST = 0.035
"""A body's thickness is at least this share of its length."""


@dataclass(frozen=True, eq=False)
class Silhouette:
    """A closed outline (n, 2) in the picture's own pixels, x right and y down, and the picture's size."""

    outline: Array
    width: int
    height: int
    contrast: float
    """how far body and background lie apart, in units of the background's unrest"""
    doubts: tuple[str, ...] = ()
    """what to look at closely"""


def _at_half_level(
    outline: Array, colour: Array, inside: Mask, drawn: Mask, thick: float, reach: float
) -> tuple[Array, float]:
    """Move outline points (n, 2) along their normals to where the colour is half-way between inside and outside.

    colour : (h, w, 3), in which light mixes straight. Points drawn by hand stay. Also the share of it that is faint.
    """
    from scipy.ndimage import map_coordinates, median_filter

    tangent = np.roll(outline, -2, axis=0) - np.roll(outline, 2, axis=0)
    tangent /= np.maximum(np.linalg.norm(tangent, axis=1, keepdims=True), 1e-9)
    normal = np.stack([tangent[:, 1], -tangent[:, 0]], axis=1)
    area = 0.5 * float(np.sum(outline[:, 0] * np.roll(outline[:, 1], -1) - outline[:, 1] * np.roll(outline[:, 0], -1)))
    if area < 0:
        normal = -normal  # outward
    steps = np.arange(-reach, reach + 0.01, 0.5)
    places = outline[:, None, :] + steps[None, :, None] * normal[:, None, :]
    at = [places[..., 1], places[..., 0]]
    mixed = np.stack([map_coordinates(colour[..., c], at, order=1, mode="nearest") for c in range(3)], axis=-1)
    within = np.median(mixed[:, steps <= -0.5 * reach], axis=1)
    without = np.median(mixed[:, steps >= 0.5 * reach], axis=1)
    way = within - without
    rise = np.linalg.norm(way, axis=1)
    # how much of the inside's colour there is: 1 inside, 0 outside
    along = np.einsum("nsc,nc->ns", mixed - without[:, None, :], way) / np.maximum(rise**2, 1e-9)[:, None]
    beyond = map_coordinates(inside.astype(float), [places[:, -1, 1], places[:, -1, 0]], order=0, mode="nearest")
    crossed = (along[:, :-1] >= 0.5) & (along[:, 1:] < 0.5)
    sound = (rise > LEAST_RISE) & (beyond < 0.5) & ~drawn & crossed.any(axis=1)
    if reach <= NEAR_PX and (sound | drawn | (beyond >= 0.5)).mean() < SURE_SHARE:
        raise BadPicture(UNCLEAR)
    if not sound.any():
        return outline, 0.0
    wide = _edge_width(along[sound], steps)
    if reach > NEAR_PX and wide > min(SOFTEST_PX, max(LEAST_SOFT_PX, SOFTEST_SHARE * thick)):
        raise BadPicture(f"it is out of focus: its edge is {wide:.0f} pixels soft; take a sharper picture")
    best = np.argmin(np.where(crossed, np.abs(steps[:-1] + 0.25)[None, :], 99.0), axis=1)
    row = np.arange(len(outline))
    one, two = along[row, best], along[row, best + 1]
    move = steps[best] + 0.5 * (one - 0.5) / np.maximum(one - two, 1e-9)
    wrapped = np.flatnonzero(sound)
    move = np.interp(row, wrapped, move[wrapped], period=len(outline))
    move[drawn] = 0.0
    faint = float(np.mean(((rise < FAINT_RISE) | ~sound) & ~drawn & (beyond < 0.5)))
    return np.asarray(outline + median_filter(move, 7, mode="wrap")[:, None] * normal), faint


def _refuse_ragged(outline: Array, drawn: Mask) -> None:
    """Refuse an outline that wanders from side to side: it follows the unrest of a shadow, not an edge."""
    bend = np.roll(outline, RAGGED_SPAN, axis=0) - 2.0 * outline + np.roll(outline, -RAGGED_SPAN, axis=0)
    if float(np.mean((np.linalg.norm(bend, axis=1) > RAGGED_PX) & ~drawn)) > RAGGED_SHARE:
        raise BadPicture(UNCLEAR)


def _edge_width(along: Array, steps: Array) -> float:
    """Median distance, px, over which edges (n, steps) fall from 0.85 to 0.15 of their step."""
    high, low = along[:, :4].mean(axis=1, keepdims=True), along[:, -4:].mean(axis=1, keepdims=True)
    share = (along - low) / np.maximum(high - low, 1e-9)
    return float(np.median(((share > 0.15) & (share < 0.85)).sum(axis=1)) * (steps[1] - steps[0]))


@dataclass(frozen=True)
class Stroke:
    """A round dab of the brush, in the picture's own pixels: what it covers is body, or is not."""

    at: Place
    radius: float
    paint_in: bool


def find_silhouette(
    pixels: NDArray[Any] | Picture, ends: tuple[Place, Place] | None = None, beside: bool = False,
    strokes: Sequence[Stroke] = (),
) -> Silhouette:  # fmt: skip
    """Find the body in a picture (h, w, 4), 0 to 1. Raises BadPicture, with the reason, where it cannot be told apart.

    ends : the two clicked places of the known length, px. When they lie on the body they must be its ends; `beside` says
    that they lie on something else, such as a ruler. strokes : touched up by hand, in order.
    """
    picture = pixels if isinstance(pixels, Picture) else smaller(pixels)
    small, factor = np.asarray(picture.pixels, dtype=float), picture.factor
    if min(small.shape[:2]) < 60:
        raise BadPicture("the picture is smaller than 60 pixels; use a larger one")

    def scaled(at: Place, by: float = 1.0) -> Place:
        return ((at[0] + 0.5) / factor / by - 0.5, (at[1] + 0.5) / factor / by - 0.5)

    clicked = None if ends is None else Ends(scaled(ends[0]), scaled(ends[1]), beside)
    clear = (small[..., 3] < 0.5).mean() > 0.05
    colour = small[..., 3:].repeat(3, axis=2) if clear else small[..., :3]
    if clear:
        away = small[..., 3] * 100.0
        chosen = [Found(away, 1.0, 50.0, thing(away > 50.0, clicked), 1.0)]
    else:
        coarse = None if ends is None else Ends(scaled(ends[0], 2.0), scaled(ends[1], 2.0), beside)
        chosen = [_refined(small, found) for found in measured(halved(small), coarse)]
    refusal: BadPicture | None = None
    for found in chosen:
        try:
            outline, contrast, doubts = _outlined(
                found, colour, clicked, [(scaled(s.at), s.radius / factor, s.paint_in) for s in strokes]
            )
            break
        except BadPicture as error:
            refusal = refusal or error
    else:
        assert refusal is not None
        raise refusal
    if clicked is not None and not beside and not strokes:
        _refuse_missed_ends(outline, clicked, factor)
    return Silhouette((outline + 0.5) * factor - 0.5, picture.width, picture.height, contrast, doubts)


def _refined(small: Array, found: Found) -> Found:
    """What was found at half size, at the working size: the measure there, and what lies above the level about it."""
    from scipy.ndimage import binary_dilation, gaussian_filter

    away, unrest = (difference if found.plain else difference_but_shade)(small)
    around = np.kron(binary_dilation(found.mask, iterations=2), np.ones((2, 2), dtype=bool))
    full = np.zeros(away.shape, dtype=bool)
    full[: around.shape[0], : around.shape[1]] = around
    inside = full & (gaussian_filter(away, 1.2) > found.level)
    return Found(away, unrest, found.level, inside, found.crisp, found.plain)


def _refuse_missed_ends(outline: Array, ends: Ends, factor: float) -> None:
    """Refuse an outline that one of the clicked ends misses while the other, or the way between them, lies on it."""
    from skimage.measure import points_in_poly

    line = (np.asarray(ends.two) - ends.one) / ends.apart
    sides = (outline - ends.one) @ np.array([-line[1], line[0]])
    away = [float(np.linalg.norm(outline - np.asarray(end), axis=1).min()) for end in (ends.one, ends.two)]
    near = [a <= NEAR_SHARE * ends.apart + 1.0 for a in away]
    between = np.linspace(0.08, 0.92, 40)[:, None] * (np.asarray(ends.two) - ends.one) + ends.one
    crosses = float(points_in_poly(between, outline).mean()) > 0.05
    if all(near) and min(sides.max(), -sides.min()) < ONE_SIDED * max(sides.max(), -sides.min()):
        raise BadPicture(
            "what was found lies all to one side of the line between its ends, as a back does whose belly has the "
            "background's colour; use another background, or touch it up with the brush"
        )
    if all(near) or not (any(near) or crosses):
        return
    raise BadPicture(
        f"the outline found passes {max(away) * factor:.0f} pixels from an end that was clicked: part of the body cannot "
        "be told from the background; use another background, touch it up with the brush, or click its two ends"
    )


def _outlined(
    found: Found, colour: Array, ends: Ends | None, strokes: list[tuple[Place, float, bool]]
) -> tuple[Array, float, tuple[str, ...]]:
    """Outline, in pixels of the working picture, and contrast of the body that stands out above a level."""
    from scipy.ndimage import binary_fill_holes, gaussian_filter, label
    from skimage.measure import find_contours

    inside = found.mask
    kept = () if ends is None or ends.beside else (ends.one, ends.two)
    body = without_thin(np.asarray(binary_fill_holes(inside)), kept)
    drawn = np.zeros(body.shape, dtype=bool)
    rows, columns = np.mgrid[0 : body.shape[0], 0 : body.shape[1]]
    for (x, y), radius, paint_in in strokes:
        dab = (columns - x) ** 2 + (rows - y) ** 2 <= radius * radius
        body = body | dab if paint_in else body & ~dab
        drawn |= dab
    parts, count = label(body)
    if count > 1:
        body = parts == np.argmax(np.bincount(parts.ravel())[1:]) + 1
    thick = _refuse_unsure(body, found, bool(kept))
    outline = max(find_contours(gaussian_filter(body.astype(float), 0.7), 0.5), key=len)[:, ::-1]
    outline = _evenly(outline, min(2400, max(300, len(outline) // 2)))
    by_hand = drawn[np.clip(outline[:, 1].round().astype(int), 0, body.shape[0] - 1),
                    np.clip(outline[:, 0].round().astype(int), 0, body.shape[1] - 1)]  # fmt: skip
    # at the level the outline lies outside the edge's middle: it is brought near first, and then put on it
    moved, faint = outline, 0.0
    for reach in (min(FAR_PX, max(NEAR_PX, 0.3 * thick)), NEAR_PX):
        moved, faint = _at_half_level(moved, colour, inside, by_hand, thick, reach)
    _refuse_ragged(moved, by_hand)
    doubts = [f"its edge is faint along {100 * faint:.0f} % of it: look there, and touch it up with the brush"]
    contrast = float(np.median(found.away[body])) / found.unrest
    return pointed(moved), contrast, tuple(doubts if faint > FAINT_SHARE else ())


def _refuse_unsure(body: Mask, found: Found, ends_known: bool) -> float:
    """Refuse what is too small, runs out or hardly stands out; the body's thickness, px."""
    if float(body.mean()) < 0.004:
        raise BadPicture("what stands out is too small; come closer or crop the picture")
    if any((body[0].any(), body[-1].any(), body[:, 0].any(), body[:, -1].any())):
        raise BadPicture(RUNS_OUT)
    thick, long = _thickness(body)
    if thick < (THINNEST_KNOWN if ends_known else THINNEST) * long:
        raise BadPicture(
            "only thin things stand out from it, such as hooks and line; use a background of another colour"
        )
    contrast = float(np.median(found.away[body])) / found.unrest
    if contrast < LEAST_CONTRAST:
        raise BadPicture(
            f"it hardly stands out from the background ({contrast:.1f} times its unrest, {LEAST_CONTRAST:g} are needed); "
            "use a plain background of another colour"
        )
    return thick


def _thickness(body: Mask) -> tuple[float, float]:
    """Greatest thickness and length of a mask, px."""
    from scipy.ndimage import distance_transform_edt

    rows, columns = np.nonzero(body)
    places = np.stack([rows, columns], axis=1) - [rows.mean(), columns.mean()]
    _, _, axes = np.linalg.svd(places[:: max(1, len(places) // 4000)], full_matrices=False)
    return 2.0 * float(distance_transform_edt(body).max()), float(np.ptp(places @ axes[0]))


def _evenly(outline: Array, count: int) -> Array:
    """A closed outline resampled to points of equal spacing."""
    if np.allclose(outline[0], outline[-1]):
        outline = outline[:-1]
    closed = np.vstack([outline, outline[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.linspace(0.0, run[-1], count, endpoint=False)
    return np.stack([np.interp(at, run, closed[:, axis]) for axis in (0, 1)], axis=1)
