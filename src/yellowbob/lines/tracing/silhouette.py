"""The silhouette in a picture: separated from a plain background, hooks and line left out, to a part of a pixel.

The background is a smooth surface of colour fitted to the picture's edge and then to all that looks like it, so uneven
light is taken out. The threshold is the one at which the outline is sharpest, which leaves a soft shadow outside. Last, the
outline is moved to the half-way level of the edge it lies on.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.beside import (
    ROUGH,
    doubts_beside,
    doubts_close_by,
    restless_doubts,
    ring_doubts,
    roughness,
)
from yellowbob.lines.tracing.cast import cast_doubts
from yellowbob.lines.tracing.clicked import by_its_ends, refuse_missed_ends
from yellowbob.lines.tracing.doubts import LEAST_HUNG_PX, Traced, doubts_about
from yellowbob.lines.tracing.edge import light_doubts, put_on_edge, refuse_ragged
from yellowbob.lines.tracing.further import dark_edge_doubts, refuse_second_edge
from yellowbob.lines.tracing.levels import RUNS_OUT, Ends, Found, Measured, Place, halved, measured, thing
from yellowbob.lines.tracing.masks import Mask
from yellowbob.lines.tracing.paint_over import Unruled, without_rules
from yellowbob.lines.tracing.picture_file import Picture, read_picture, smaller
from yellowbob.lines.tracing.thin import without_thin
from yellowbob.lines.tracing.tips import pointed

__all__ = ["BadPicture", "Picture", "Silhouette", "Stroke", "find_silhouette", "read_picture"]

Array = NDArray[np.float64]

LEAST_CONTRAST = 4.0
"""How many times the background's own unrest the body must stand out by."""
QUICK_LINES = 16
"""With more ruled lines than these tracing may take over 2 s."""
MOST_HIDDEN = 0.05
"""Of the length of ruled lines that an outline covers, that is hidden outside it."""
MOST_HUNG_SHARE = 0.12
"""Of the body's area, that hooks and line take."""
THINNEST_KNOWN = 0.012
"""And when its ends were clicked."""
ROUND_PX = 4
"""So far about it nothing of a body is left when it is blurred to be outlined."""
UNCLICKED = "its own ends were not clicked, so nothing tells whether all of its length was found: look at its ends"
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


@dataclass(frozen=True)
class Stroke:
    """A round dab of the brush, in the picture's own pixels: what it covers is body, or is not."""

    at: Place
    radius: float
    paint_in: bool


def find_silhouette(
    pixels: NDArray[Any] | Picture, ends: tuple[Place, Place] | None = None, beside: bool = False,
    strokes: Sequence[Stroke] = (), patient: bool = True,
) -> Silhouette:  # fmt: skip
    """Find the body in a picture (h, w, 4), 0 to 1. Raises BadPicture, with the reason, where it cannot be told apart.

    ends : the two clicked places of the known length, px. When they lie on the body they must be its ends; `beside` says
    that they lie on something else, such as a ruler. strokes : touched up by hand, in order. patient : however long it takes.
    """
    picture = pixels if isinstance(pixels, Picture) else smaller(pixels)
    small, factor = np.asarray(picture.pixels, dtype=np.float32), picture.factors[0]
    if min(small.shape[:2]) < 60:
        raise BadPicture("the picture is smaller than 60 pixels; use a larger one")

    clicked = None if ends is None else Ends(picture.working(ends[0]), picture.working(ends[1]), beside)
    coarse = None if clicked is None else clicked.halved()
    dabs = [(picture.working(s.at), s.radius / factor, s.paint_in) for s in strokes]
    asked, rough, lines = None, False, Unruled(small, 0, True)
    beside_it: tuple[str, ...] = ()
    chosen: Iterator[Found]
    clear = (small[..., 3] < 0.5).mean() > 0.05
    if not clear:
        small, lines = _unruled(small, clicked, bool(strokes), None if patient else QUICK_LINES)
    colour = small[..., 3:].repeat(3, axis=2) if clear else masks.colours_of(small)
    if clear:
        away = small[..., 3] * 100.0
        chosen = iter((Found(Difference.of_clear(away), 50.0, thing(away > 50.0, clicked), 1.0),))
    else:
        asked = measured(halved(small), coarse)
        first = asked.found[0].mask
        ground = roughness(asked, first)
        rough = ground[1] > ROUGH
        if not strokes:
            beside_it = doubts_beside(asked, first, coarse, ground)
        chosen = (_refined(small, found) for found in asked.found)
    outline, contrast, doubts, about = _first_sound(chosen, asked, small, colour, clicked, dabs, rough)
    doubts = (
        *doubts,
        *beside_it,
        *_about_lines(lines, outline, bool(strokes)),
        *(restless_doubts(asked, bool(strokes)) if asked is not None else ()),
    )
    if strokes:
        doubts = (*doubts, *_left_beside(asked, outline, about, coarse))
    if clicked is None or beside:
        doubts = (*doubts, UNCLICKED)
    else:
        if not strokes:
            refuse_missed_ends(outline, clicked, factor)
        outline, doubt = by_its_ends(outline, clicked, bool(strokes))
        doubts = (*doubts, *doubt)
    return Silhouette(picture.own(outline), picture.width, picture.height, contrast, doubts)


def _first_sound(
    chosen: Iterator[Found], asked: Measured | None, small: NDArray[np.float32], colour: NDArray[np.float32],
    clicked: Ends | None, dabs: list[tuple[Place, float, bool]], rough: bool,
) -> tuple[Array, float, tuple[str, ...], Difference | None]:  # fmt: skip
    """Outline, contrast and doubts of the first that nothing is found against, and how far its ground is from the
    background but for shade. Raises BadPicture for the first where there is none."""
    refusal: BadPicture | None = None
    about: Difference | None = None
    for found in chosen:
        if asked is not None and about is None:
            about = asked.shade.again(small, found.mask)
        try:
            outline, contrast, doubts = _outlined(found, colour, clicked, dabs, rough, asked is None)
            if asked is not None and about is not None:
                doubts = (*cast_doubts(outline, small, about, bool(dabs)), *doubts)  # what weighs most comes first
                if not dabs:
                    doubts = (*doubts, *doubts_close_by(outline, small, asked, about, rough))
            return outline, contrast, doubts, about
        except BadPicture as error:
            refusal = refusal or error
    assert refusal is not None
    raise refusal


def _unruled(
    small: NDArray[np.float32], ends: Ends | None, by_hand: bool, quick: int | None
) -> tuple[NDArray[np.float32], Unruled]:
    """The picture without the lines that its ground is ruled with, and what is known of them."""
    found = without_rules(small, () if ends is None or ends.beside else (ends.one, ends.two), quick)
    if not found.told_apart and not by_hand:
        raise BadPicture(
            "a line that its ground is ruled with runs along its edge and cannot be told from it; turn it a little, use "
            "another background, or touch it up with the brush"
        )
    return found.pixels, found


def _about_lines(lines: Unruled, outline: Array, by_hand: bool) -> tuple[str, ...]:
    """What is to be said of the lines of the ground. Raises BadPicture where more than what was found hides them."""
    if not lines.count:
        return ()
    if lines.beyond(outline) > MOST_HIDDEN:
        words = "lines that the ground is ruled with are hidden beside what was found too, as by a belly of its colour"
        if not by_hand:
            raise BadPicture(f"{words}; use another background, or touch it up with the brush")
        return (f"{words}: look whether the brush took in all of it",)
    told = "one line" if lines.count == 1 else f"{lines.count} lines"
    return (f"{told} that the ground is ruled with left out of it: look where its outline meets them",)


def _left_beside(
    asked: Measured | None, outline: Array, about: Difference | None, coarse: Ends | None
) -> tuple[str, ...]:
    """What is doubtful about an outline that was touched up by hand: whether the brush took in all of the body."""
    if asked is None or about is None:
        return ()
    body = masks.inside(outline / 2.0, asked.plain.away.shape)
    try:
        doubts_beside(asked, body, coarse, roughness(asked, body))
        refuse_second_edge(outline, asked.shade, about)
        all_in = not ring_doubts(outline, about) and not dark_edge_doubts(outline, asked.plain)
    except BadPicture:
        all_in = False
    if not all_in:
        return (
            "beside its outline lies something that is no background either: look whether the brush took in all of it",
        )
    return ()


def _refined(small: NDArray[np.float32], found: Found) -> Found:
    """What was found at half size, at the working size: the measure there, and what lies above the level about it."""
    around = masks.grown(found.mask, 2).repeat(2, axis=0).repeat(2, axis=1)
    full = np.zeros(small.shape[:2], dtype=bool)
    full[: around.shape[0], : around.shape[1]] = around
    measure = found.measure.again(small, full)
    return replace(found, measure=measure, mask=full & (masks.soft(measure.away, 1.2) > found.level))


def _outlined(
    found: Found,
    colour: NDArray[np.float32],
    ends: Ends | None,
    strokes: list[tuple[Place, float, bool]],
    rough: bool,
    clear: bool,
) -> tuple[Array, float, tuple[str, ...]]:
    """Outline, in pixels of the working picture, and contrast of the body that stands out above a level."""
    from skimage.measure import find_contours

    inside = found.mask
    kept = () if ends is None or ends.beside else (ends.one, ends.two)
    whole = masks.filled(inside)
    body = without_thin(whole, kept)
    left_out = masks.pieces(whole & ~body)[1][1:]
    hung, share = sum(int(n) >= LEAST_HUNG_PX for n in left_out), left_out.sum() / max(np.count_nonzero(body), 1)
    if share > MOST_HUNG_SHARE and not strokes:
        raise BadPicture(
            f"something thin beside it is {100 * share:.0f} % as large as what was found, more than hooks are; use another "
            "background, or touch it up with the brush"
        )
    drawn = np.zeros(body.shape, dtype=bool)
    for at, radius, paint_in in strokes:
        box, dab = masks.dab(body.shape, at, radius)
        body[box] = body[box] | dab if paint_in else body[box] & ~dab
        drawn[box] |= dab
    body = masks.largest(body)
    thick = _refuse_unsure(body, found, bool(kept))
    box = masks.box_of(body, ROUND_PX)
    outline = max(find_contours(masks.soft(body, 0.7)[box], 0.5), key=len)[:, ::-1] + [box[1].start, box[0].start]
    outline = _evenly(outline, min(2400, max(300, len(outline) // 2)))
    drawn = masks.grown(drawn, 2)  # an outline runs along the outer edge of a dab
    by_hand = drawn[np.clip(outline[:, 1].round().astype(int), 0, body.shape[0] - 1),
                    np.clip(outline[:, 0].round().astype(int), 0, body.shape[1] - 1)]  # fmt: skip
    lies = put_on_edge(outline, colour, inside, by_hand, thick)
    refuse_ragged(lies.outline, by_hand)
    light, burnt = (0.0, 0.0) if clear else light_doubts(lies.outline, colour, by_hand)
    doubts = doubts_about(Traced(lies, by_hand, body, hung, rough, light, burnt), colour, bool(strokes))
    contrast = float(masks.median(found.measure.away[body])) / found.measure.unrest
    return pointed(lies.outline), contrast, doubts


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
    contrast = float(masks.median(found.measure.away[body])) / found.measure.unrest
    if contrast < LEAST_CONTRAST:
        raise BadPicture(
            f"it hardly stands out from the background ({contrast:.1f} times its unrest, {LEAST_CONTRAST:g} are needed); "
            "use a plain background of another colour"
        )
    return thick


def _thickness(body: Mask) -> tuple[float, float]:
    """Greatest thickness and length of a mask, px."""
    return masks.thickness(body), float(np.ptp(masks.hull(body) @ masks.axes_of(body)[:, 1]))


def _evenly(outline: Array, count: int) -> Array:
    """A closed outline resampled to points of equal spacing."""
    if np.allclose(outline[0], outline[-1]):
        outline = outline[:-1]
    closed = np.vstack([outline, outline[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.linspace(0.0, run[-1], count, endpoint=False)
    return np.stack([np.interp(at, run, closed[:, axis]) for axis in (0, 1)], axis=1)
