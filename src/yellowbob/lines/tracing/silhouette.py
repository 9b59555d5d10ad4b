"""The silhouette in a picture: separated from a plain background, hooks and line left out, to a part of a pixel.

The background is a smooth surface of colour fitted to the picture's edge and then to all that looks like it, so uneven
light is taken out. The threshold is the one at which the outline is sharpest, which leaves a soft shadow outside. Last, the
outline is moved to the half-way level of the edge it lies on.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing.background import BadPicture, difference, difference_but_shade, sharpest

__all__ = ["BadPicture", "Silhouette", "find_silhouette", "read_picture"]

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

WORKING_PX = 1000
"""Longer pictures are brought down to this before looking."""
LEAST_CONTRAST = 6.0
"""How many times the background's own unrest the body must stand out by."""
CRISP_RISE = 0.5
"""Share of the usual step in colour that a crisp edge makes within four pixels."""
CRISP_SHARE = 0.88
"""Share of the outline that must be crisp."""
THINNEST = 0.035
"""A body's thickness is at least this share of its length."""
HOOK_SHARE = 0.22
"""What is thinner than this share of the body's thickness is a hook or a line, unless the body tapers down to it."""
FINER = 0.7
"""A taper is followed down in steps, each so much finer than the one before."""
FINEST_PX = 1.5
"""Half a tip's width below which it is taken whole."""


@dataclass(frozen=True, eq=False)
class Silhouette:
    """A closed outline (n, 2) in the picture's own pixels, x right and y down, and the picture's size."""

    outline: Array
    width: int
    height: int
    contrast: float
    """how far body and background lie apart, in units of the background's unrest"""


def read_picture(path: Path | str) -> NDArray[Any]:
    """A PNG or JPEG as (height, width, 4) floats 0 to 1, turned upright. Raises BadPicture."""
    from PIL import Image, ImageOps

    try:
        with Image.open(path) as image:
            upright = ImageOps.exif_transpose(image).convert("RGBA")
    except FileNotFoundError:
        raise BadPicture(f"{path}: no such file; check the name") from None
    except Exception as error:  # Pillow raises many kinds on a broken picture
        raise BadPicture(f"{path}: cannot be read as a picture ({str(error)[:60]})") from None
    return np.asarray(upright, dtype=np.float32) / np.float32(255.0)


def _smaller(pixels: Array) -> tuple[Array, float]:
    """The picture at working size, and how many of its pixels one of the result's is."""
    from PIL import Image

    height, width = pixels.shape[:2]
    factor = max(height, width) / WORKING_PX
    if factor <= 1.0:
        return pixels, 1.0
    size = (round(width / factor), round(height / factor))
    small = Image.fromarray((pixels * 255).astype(np.uint8)).resize(size, Image.Resampling.BOX, reducing_gap=3.0)
    return np.asarray(small, dtype=float) / 255.0, width / size[0]


def _body(inside: Mask) -> Mask:
    """The largest solid thing, its holes filled, without what is as thin as a hook."""
    from scipy.ndimage import binary_fill_holes, find_objects, label

    pieces, count = label(binary_fill_holes(inside))
    if not count:
        raise BadPicture("nothing in it stands out from the background; use a background of another colour")
    sizes = np.bincount(pieces.ravel())[1:]
    order = np.argsort(sizes)[::-1]
    if count > 1 and sizes[order[1]] > 0.35 * sizes[order[0]]:
        raise BadPicture("there are two large things in it; crop the picture to the one to trace")
    box = tuple(slice(max(0, s.start - 3), s.stop + 3) for s in find_objects(pieces)[order[0]])
    found = np.zeros(inside.shape, dtype=bool)
    found[box] = _without_thin(pieces[box] == order[0] + 1)
    return found


def _without_thin(whole: Mask) -> Mask:
    """A solid thing without the hooks and wires that hang on it; its own tips are kept."""
    from scipy.ndimage import binary_dilation, binary_fill_holes, distance_transform_edt, find_objects, label

    inner = distance_transform_edt(whole)
    thick = float(inner.max())
    radius = HOOK_SHARE * thick
    if radius < 1.0:
        return whole
    core = inner > radius
    parts, many = label(core)
    if many > 1:
        core = parts == np.argmax(np.bincount(parts.ravel())[1:]) + 1
    opened = distance_transform_edt(~core) <= radius
    opened &= whole
    # what opening took off: tips of the body come back; hooks and wire do not
    left, _ = label(whole & ~opened)
    near = binary_dilation(opened, iterations=2)
    for number, box in enumerate(find_objects(left), start=1):
        piece = left[box] == number
        if _is_tip(piece, near[box], radius):
            opened[box] |= piece
    while radius >= FINEST_PX:
        finer = FINER * radius if radius > 2 * FINEST_PX else 0.0
        grain = whole if finer == 0.0 else (distance_transform_edt(~(inner > finer)) <= finer) & whole
        _follow_tapers(opened, grain, inner, radius)
        radius = finer
    return np.asarray(binary_fill_holes(opened))


def _follow_tapers(opened: Mask, grain: Mask, inner: Array, radius: float) -> None:
    """Add to `opened`, in place, what a finer opening shows where the body itself has become as thin as `radius`."""
    from scipy.ndimage import binary_dilation, find_objects, label

    left, _ = label(grain & ~opened)
    near = binary_dilation(opened, iterations=2)
    reach = int(np.ceil(2.5 * radius))
    for number, box in enumerate(find_objects(left), start=1):
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
    if reach < 1.2 * radius:
        return True
    # a triangle's area is half of width x reach; a long thin thing has far less for its reach than its root promises
    return bool(root > 0.9 * radius and area > 0.3 * root * reach and reach < 6.0 * radius)


def _at_half_level(outline: Array, away: Array, inside: Mask) -> Array:
    """Move outline points along their normals to where the edge is half-way between inside and outside."""
    from scipy.ndimage import map_coordinates, median_filter

    tangent = np.roll(outline, -2, axis=0) - np.roll(outline, 2, axis=0)
    tangent /= np.maximum(np.linalg.norm(tangent, axis=1, keepdims=True), 1e-9)
    normal = np.stack([tangent[:, 1], -tangent[:, 0]], axis=1)
    area = 0.5 * float(np.sum(outline[:, 0] * np.roll(outline[:, 1], -1) - outline[:, 1] * np.roll(outline[:, 0], -1)))
    if area < 0:
        normal = -normal  # outward
    steps = np.arange(-5.0, 5.01, 0.25)
    places = outline[:, None, :] + steps[None, :, None] * normal[:, None, :]
    along = map_coordinates(away, [places[..., 1], places[..., 0]], order=1, mode="nearest")
    within = np.median(along[:, steps <= -2.5], axis=1)
    without = np.median(along[:, steps >= 2.5], axis=1)
    rise = within - without
    level = 0.5 * (within + without)
    sound = rise > 0.35 * np.median(rise)
    beyond = map_coordinates(inside.astype(float), [places[:, -1, 1], places[:, -1, 0]], order=0, mode="nearest")
    sound &= beyond < 0.5
    crossed = (along[:, :-1] >= level[:, None]) & (along[:, 1:] < level[:, None])
    middle = np.abs(steps[:-1] + 0.125)
    best = np.argmin(np.where(crossed, middle[None, :], 99.0), axis=1)
    sound &= crossed.any(axis=1)
    row = np.arange(len(outline))
    one, two = along[row, best], along[row, best + 1]
    move = steps[best] + 0.25 * (one - level) / np.maximum(one - two, 1e-9)
    # a true edge rises by most of its height within a few pixels; the rim of a shadow, or of nothing, does not
    crisp = (along[:, steps <= -2.0][:, -1] - along[:, steps >= 2.0][:, 0]) > CRISP_RISE * np.median(rise[sound])
    if (crisp | (beyond >= 0.5)).mean() < CRISP_SHARE:
        raise BadPicture(
            "part of its edge cannot be told from the background or a shadow; use a background of another colour and "
            "softer light"
        )
    wrapped = np.flatnonzero(sound)
    move = np.interp(row, wrapped, move[wrapped], period=len(outline))
    return outline + median_filter(move, 7, mode="wrap")[:, None] * normal


def find_silhouette(pixels: Array) -> Silhouette:
    """Find the body in a picture (h, w, 4), 0 to 1. Raises BadPicture, with the reason, where it cannot be told apart."""
    small, factor = _smaller(pixels)
    if min(small.shape[:2]) < 60:
        raise BadPicture("the picture is smaller than 60 pixels; use a larger one")
    if (small[..., 3] < 0.5).mean() > 0.05:
        outline, contrast = _outlined(small[..., 3] * 100.0, 1.0, 50.0)
    else:
        try:
            away, unrest = difference(small)
            outline, contrast = _outlined(away, unrest, sharpest(away, unrest))
        except BadPicture as refusal:
            try:
                away, unrest = difference_but_shade(small)
                outline, contrast = _outlined(away, unrest, sharpest(away, unrest))
            except BadPicture:
                raise refusal from None
    return Silhouette((outline + 0.5) * factor - 0.5, pixels.shape[1], pixels.shape[0], contrast)


def _outlined(away: Array, unrest: float, level: float) -> tuple[Array, float]:
    """Outline, in pixels of the working picture, and contrast of the body that stands out above a level."""
    from scipy.ndimage import gaussian_filter
    from skimage.measure import find_contours

    inside = away > level
    body = _body(inside)
    _refuse_unsure(body, away, unrest, inside)
    outline = max(find_contours(gaussian_filter(body.astype(float), 1.0), 0.5), key=len)[:, ::-1]
    outline = _evenly(outline, min(1600, max(300, len(outline) // 2)))
    return _at_half_level(outline, away, inside), float(np.median(away[body])) / unrest


def _refuse_unsure(body: Mask, away: Array, unrest: float, inside: Mask) -> None:
    share = float(body.mean())
    if share < 0.004:
        raise BadPicture("what stands out is too small; come closer or crop the picture")
    edges = [body[0].any(), body[-1].any(), body[:, 0].any(), body[:, -1].any()]
    if any(edges):
        raise BadPicture("it runs out of the picture; leave room on every side")
    thick, long = _thickness(body)
    if thick < THINNEST * long:
        raise BadPicture(
            "only thin things stand out from it, such as hooks and line; use a background of another colour"
        )
    contrast = float(np.median(away[body])) / unrest
    if contrast < LEAST_CONTRAST:
        raise BadPicture(
            f"it hardly stands out from the background ({contrast:.1f} times its unrest, {LEAST_CONTRAST:g} are needed); "
            "use a plain background of another colour"
        )
    stray = float((inside & ~body).sum()) / float(body.sum())
    if stray > 0.6:
        raise BadPicture("the background is too busy; lay it on one plain colour")


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
