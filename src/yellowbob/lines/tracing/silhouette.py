"""The silhouette in a picture: separated from a plain background, hooks and line left out, to a part of a pixel.

The background is a smooth surface of colour fitted to the picture's edge and then to all that looks like it, so uneven
light is taken out. The threshold is the one at which the outline is sharpest, which leaves a soft shadow outside. Last, the
outline is moved to the half-way level of the edge it lies on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.beside import ROUGH, refuse_close_by, refuse_parts_beside, refuse_ring, roughness
from yellowbob.lines.tracing.doubts import LEAST_HUNG_PX, Traced, doubts_about
from yellowbob.lines.tracing.edge import FAR_PX, NEAR_PX, at_half_level, refuse_ragged
from yellowbob.lines.tracing.levels import NEAR_SHARE, RUNS_OUT, Ends, Found, Measured, Place, halved, measured, thing
from yellowbob.lines.tracing.masks import Mask
from yellowbob.lines.tracing.paint_over import Unruled, without_rules
from yellowbob.lines.tracing.picture_file import Picture, read_picture, smaller
from yellowbob.lines.tracing.thin import without_thin
from yellowbob.lines.tracing.tips import MOST_SHORT_SHARE, SHORT_SHARE, pointed, to_clicks

__all__ = ["BadPicture", "Picture", "Silhouette", "Stroke", "find_silhouette", "read_picture"]

Array = NDArray[np.float64]

LEAST_CONTRAST = 4.0
"""How many times the background's own unrest the body must stand out by."""
ONE_SIDED = 0.12
"""A body lies to both sides of the line between its ends, its lesser depth at least this share of the greater."""
MOST_HIDDEN = 0.05
"""Of the length of ruled lines that an outline covers, that is hidden outside it."""
MOST_HUNG_SHARE = 0.12
"""Of the body's area, that hooks and line take."""
THINNEST_KNOWN = 0.012
"""And when its ends were clicked."""
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
    strokes: Sequence[Stroke] = (),
) -> Silhouette:  # fmt: skip
    """Find the body in a picture (h, w, 4), 0 to 1. Raises BadPicture, with the reason, where it cannot be told apart.

    ends : the two clicked places of the known length, px. When they lie on the body they must be its ends; `beside` says
    that they lie on something else, such as a ruler. strokes : touched up by hand, in order.
    """
    picture = pixels if isinstance(pixels, Picture) else smaller(pixels)
    small, factor = np.asarray(picture.pixels, dtype=np.float32), picture.factor
    if min(small.shape[:2]) < 60:
        raise BadPicture("the picture is smaller than 60 pixels; use a larger one")

    def scaled(at: Place, by: float = 1.0) -> Place:
        return ((at[0] + 0.5) / factor / by - 0.5, (at[1] + 0.5) / factor / by - 0.5)

    clicked = None if ends is None else Ends(scaled(ends[0]), scaled(ends[1]), beside)
    coarse = None if ends is None else Ends(scaled(ends[0], 2.0), scaled(ends[1], 2.0), beside)
    dabs = [(scaled(s.at), s.radius / factor, s.paint_in) for s in strokes]
    asked, rough, lines = None, False, Unruled(small, 0, True)
    clear = (small[..., 3] < 0.5).mean() > 0.05
    if not clear:
        small, lines = _unruled(small, clicked, bool(strokes))
    colour = small[..., 3:].repeat(3, axis=2) if clear else small[..., :3]
    if clear:
        away = small[..., 3] * 100.0
        chosen = [Found(Difference.of_clear(away), 50.0, thing(away > 50.0, clicked), 1.0)]
    else:
        asked = measured(halved(small), coarse)
        first = asked.found[0].mask
        ground = roughness(asked, first)
        rough = ground[1] > ROUGH
        if not strokes:
            refuse_parts_beside(asked, first, coarse, ground)
        chosen = [_refined(small, found) for found in asked.found]
    refusal: BadPicture | None = None
    about = None if asked is None else asked.shade.again(small, chosen[0].mask)
    for found in chosen:
        try:
            outline, contrast, doubts = _outlined(found, colour, clicked, dabs, rough)
            if not strokes and asked is not None and about is not None:
                refuse_close_by(outline, small, asked.plain, about, rough)
            break
        except BadPicture as error:
            refusal = refusal or error
    else:
        assert refusal is not None
        raise refusal
    doubts = (*doubts, *_about_lines(lines, outline, bool(strokes)))
    if strokes:
        doubts = (*doubts, *_left_beside(asked, outline, about, coarse))
    if clicked is None or beside:
        doubts = (*doubts, UNCLICKED)
    else:
        if not strokes:
            _refuse_missed_ends(outline, clicked, factor)
        outline, doubt = _by_its_ends(outline, clicked, bool(strokes))
        doubts = (*doubts, *doubt)
    return Silhouette((outline + 0.5) * factor - 0.5, picture.width, picture.height, contrast, doubts)


def _unruled(small: NDArray[np.float32], ends: Ends | None, by_hand: bool) -> tuple[NDArray[np.float32], Unruled]:
    """The picture without the lines that its ground is ruled with, and what is known of them."""
    found = without_rules(small, () if ends is None or ends.beside else (ends.one, ends.two))
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
        refuse_parts_beside(asked, body, coarse, roughness(asked, body))
        refuse_ring(outline, about)
    except BadPicture:
        return (
            "beside its outline lies something that is no background either: look whether the brush took in all of it",
        )
    return ()


def _by_its_ends(outline: Array, ends: Ends, by_hand: bool) -> tuple[Array, tuple[str, ...]]:
    """The outline drawn on to its clicked ends, and what is doubtful about its length. Raises BadPicture if it is far off."""
    if by_hand:
        drawn, (_, short) = outline, to_clicks(outline, ends.one, ends.two, 0.0)
    else:
        drawn, short = to_clicks(outline, ends.one, ends.two, NEAR_SHARE * ends.apart + 1.0)
    told = f"it comes out {abs(100 * short):.1f} % {'shorter' if short > 0 else 'longer'} than what was clicked"
    if abs(short) > MOST_SHORT_SHARE and not by_hand:
        raise BadPicture(
            f"{told}: a shadow or something else lies against it, or an end has the background's colour; "
            "use softer light or another background, or touch it up with the brush"
        )
    return drawn, (f"{told}: look at its ends",) if abs(short) > SHORT_SHARE else ()


def _refined(small: NDArray[np.float32], found: Found) -> Found:
    """What was found at half size, at the working size: the measure there, and what lies above the level about it."""
    around = np.kron(masks.grown(found.mask, 2), np.ones((2, 2), dtype=bool))
    full = np.zeros(small.shape[:2], dtype=bool)
    full[: around.shape[0], : around.shape[1]] = around
    measure = found.measure.again(small, full)
    return replace(found, measure=measure, mask=full & (masks.soft(measure.away, 1.2) > found.level))


def _refuse_missed_ends(outline: Array, ends: Ends, factor: float) -> None:
    """Refuse an outline that one of the clicked ends misses, or both."""
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
    if all(near):
        return
    if not (any(near) or crosses):
        raise BadPicture(
            "what stands out most in it is not what was clicked: click the two ends of the body; where the known length lies "
            "on something else, such as a ruler, say that it lies beside the body"
        )
    raise BadPicture(
        f"the outline found passes {max(away) * factor:.0f} pixels from an end that was clicked: part of the body cannot "
        "be told from the background; use another background, touch it up with the brush, or click its two ends"
    )


def _outlined(
    found: Found, colour: NDArray[np.float32], ends: Ends | None, strokes: list[tuple[Place, float, bool]], rough: bool
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
    outline = max(find_contours(masks.soft(body, 0.7), 0.5), key=len)[:, ::-1]
    outline = _evenly(outline, min(2400, max(300, len(outline) // 2)))
    drawn = masks.grown(drawn, 2)  # an outline runs along the outer edge of a dab
    by_hand = drawn[np.clip(outline[:, 1].round().astype(int), 0, body.shape[0] - 1),
                    np.clip(outline[:, 0].round().astype(int), 0, body.shape[1] - 1)]  # fmt: skip
    # at the level the outline lies outside the edge's middle: it is brought near first, and then put on it
    moved, faint = outline, 0.0
    for reach in (min(FAR_PX, max(NEAR_PX, 0.3 * thick)), NEAR_PX):
        moved, faint = at_half_level(moved, colour, inside, by_hand, thick, reach)
    refuse_ragged(moved, by_hand)
    doubts = doubts_about(Traced(moved, by_hand, body, faint, hung, rough), colour, bool(strokes))
    contrast = float(np.median(found.measure.away[body])) / found.measure.unrest
    return pointed(moved), contrast, doubts


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
    contrast = float(np.median(found.measure.away[body])) / found.measure.unrest
    if contrast < LEAST_CONTRAST:
        raise BadPicture(
            f"it hardly stands out from the background ({contrast:.1f} times its unrest, {LEAST_CONTRAST:g} are needed); "
            "use a plain background of another colour"
        )
    return thick


def _thickness(body: Mask) -> tuple[float, float]:
    """Greatest thickness and length of a mask, px."""
    rows, columns = np.nonzero(body)
    places = np.stack([rows, columns], axis=1) - [rows.mean(), columns.mean()]
    _, _, axes = np.linalg.svd(places[:: max(1, len(places) // 4000)], full_matrices=False)
    return masks.thickness(body), float(np.ptp(places @ axes[0]))


def _evenly(outline: Array, count: int) -> Array:
    """A closed outline resampled to points of equal spacing."""
    if np.allclose(outline[0], outline[-1]):
        outline = outline[:-1]
    closed = np.vstack([outline, outline[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.linspace(0.0, run[-1], count, endpoint=False)
    return np.stack([np.interp(at, run, closed[:, axis]) for axis in (0, 1)], axis=1)
