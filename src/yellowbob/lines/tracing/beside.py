"""Whether what was found is part of the body only: what lies beside it and is not background either.

A dark band between a pale back and a pale belly on paper, or a back near the background's colour above a bright belly, has
a crisp outline of its own. The rest of the body stands out less than it; but unlike a shadow it has a hue of its own, or
ends at an edge, or is smooth on rough ground.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.edge import Array, outward
from yellowbob.lines.tracing.further import BESIDE, EDGE_PX, STANDS_OUT, dark_edge_doubts, refuse_second_edge
from yellowbob.lines.tracing.levels import BEYOND_SHARE, Ends, Measured, fill_of, sharp_rim
from yellowbob.lines.tracing.masks import Box, Mask
from yellowbob.lines.tracing.palette import strange

Ground = tuple[NDArray[np.float32], float]
"""How rough a picture is everywhere, (h, w), and at least on its ground."""

LEAST_AWAY = 3.5
"""What is so far from the background in colour, and STANDS_OUT, is none."""
NEAR_SHARE, NEAR_PX = 0.5, 6
"""Something is beside the body that is nearer than this share of its thickness and so many pixels."""
THIN_SHARE, THIN_PX, THIN_GREY_PX = 0.05, 2.5, 3.5
"""It is more than a rim or a wire where it is twice this share of the body's thickness wide, and so many pixels; hooks are
grey."""
LEAST_ALONG = 0.12
"""Share of the body's length that it lies along: a hook hangs down."""
LEAST_PART, LEAST_GREY_PART = 0.02, 0.05
"""Share of the body's area that is worth refusing for, in a hue of its own or in the background's, as bends of hooks are."""
SHARP_SHARE, LARGE_PART, LARGE_SHARP_SHARE, SHARP_TIMES_PART = 0.34, 0.3, 0.22, 0.3
"""A part in the background's own hue is no shadow where so much of its rim is sharp; less will do of one so large, and less
yet by how many times the body it is."""
MOST_SHADE = 3.0
"""A shadow is no more than so many times as large as what casts it."""
ROUGH, SMOOTHER = 1.0, 0.3
"""Ground is rough whose lightness wanders so much everywhere (of 100); what wanders this much less lies on it."""
GRAIN_PX = 4.0
"""Over how much of it roughness is looked at, px at half the working size."""
BRIGHTER = 3.0
"""What is so much brighter than the ground (of 100) is no shadow on it."""
RING_PX, RING_SHARE = (5.0, 8.0), 0.05
"""So far outside an outline, px at the working size, lies the background but along this share of it."""
RING_STEP = 0.07
"""So much of the body's own distance from the background a lens and a JPEG's blocks spread round a bright body."""
RESTLESS, MOST_RESTLESS = 1.5, 12.0
"""A background of more unrest than this hides paint of its colours, which is said, and refused; a picture's noise is less."""
RUN_SAID, MOST_RUN = 0.02, 0.04
"""Something else along this share of it in one run is said, and refused; where hooks and corners cross it, it is less."""
STRIP_PX, STRIP_SHARE, FARTHER_PX, BESIDE_POINTS = (3.0, 9.0), 0.8, 8.0, 10
"""A strip so far outside an outline is held against what lies past this share of the body's thickness, so wide; each in the
mean over so many points to each side."""
BRIGHTER_BESIDE, STEADY, BRIGHT_SHARE = 1.8, 5.0, 0.2
"""By how much it is brighter (of 100), and by how many times what lies there wanders, along this share of the outline."""
DARK_THING = 5.0
"""What is so much darker than the ground (of 100) is something else, or a shadow."""
RUN_GAP_PX, RUN_SHARE = 5, 0.22
"""Sharp places so near one another are of one run; no shadow's rim is sharp in one run along this share of the body."""
BAR_RIM_PX = 6.0
"""So far about a straight bar lies its own edge, px at half the working size."""
RULER_FILL = 0.94
"""A ruler fills so much of its own box: its marks are taken out of it."""
RULER = "a straight bar beside it was taken for a ruler: look that it is no part of it"


def doubts_beside(asked: Measured, body: Mask, ends: Ends | None, ground: Ground) -> tuple[str, ...]:
    """What is doubtful about what lies beside what was found, a mask at the size measured at, in words.

    Raises BadPicture where that may be part of the body only. ground : what `roughness` found about that mask.
    """
    size = float(np.count_nonzero(body))
    plain = _no_background(asked.plain)
    no_shadow = _no_background(asked.shade) | (plain & (asked.lighter > BRIGHTER))
    parts, bars = _beside(no_shadow, body, ends)
    if np.count_nonzero(parts) > LEAST_PART * size:
        raise BadPicture(BESIDE)
    rulers = masks.within(bars, BAR_RIM_PX)
    toned, bars = _beside(plain & ~rulers, body, ends, thin_px=THIN_GREY_PX)
    rulers |= masks.within(bars, BAR_RIM_PX)
    part = np.count_nonzero(toned) / size
    if part > LEAST_GREY_PART:
        at, crisp = sharp_rim(masks.soft(asked.plain.away, 0.8), body | toned, asked.plain.unrest, toned)
        sharp = float(crisp.mean()) if len(crisp) else 0.0
        if (
            part > MOST_SHADE
            or _longest_run(at[crisp], body, ends) > RUN_SHARE
            or sharp > min(LARGE_SHARP_SHARE if part > LARGE_PART else SHARP_SHARE, SHARP_TIMES_PART / part)
        ):
            raise BadPicture(BESIDE)
    if np.count_nonzero(_beside(_smooth(*ground) & ~rulers, body, ends, GRAIN_PX)[0]) > LEAST_PART * size:
        raise BadPicture(BESIDE)
    restless = STANDS_OUT * asked.plain.unrest > LEAST_AWAY
    if restless and np.count_nonzero(_beside(strange(asked.pixels, body) & ~rulers, body, ends)[0]) > LEAST_PART * size:
        raise BadPicture(BESIDE)
    return (RULER,) if rulers.any() else ()


def restless_doubts(asked: Measured, by_hand: bool) -> tuple[str, ...]:
    """What a restless background may hide, in words. Raises BadPicture where that is nearly anything, unless touched up."""
    if asked.plain.unrest <= RESTLESS:
        return ()
    hidden = STANDS_OUT * asked.plain.unrest
    told = f"its background is patterned or grainy: paint within {hidden:.0f} of 100 of its colour is not told from it"
    if asked.plain.unrest > MOST_RESTLESS and not by_hand:
        raise BadPicture(f"{told}; use a plain background, or touch it up with the brush")
    return (f"{told}: look whether all of the body is in the outline",)


def doubts_close_by(
    outline: Array, pixels: NDArray[np.float32], asked: Measured, shade: Difference, rough: bool
) -> tuple[str, ...]:
    """What is doubtful about what lies close outside an outline (n, 2), px, in words.

    Raises BadPicture where it is no background, or, on ground that is not rough, is brighter than that. shade : the measure
    that was asked for in half the size, about the outline.
    """
    doubts = ring_doubts(outline, shade)
    refuse_second_edge(outline, asked.shade, shade)
    if not rough:
        _refuse_brighter(outline, pixels, asked.plain)
    return (*doubts, *dark_edge_doubts(outline, asked.plain))


def ring_doubts(outline: Array, shade: Difference) -> tuple[str, ...]:
    """What is doubtful where close outside an outline (n, 2), px, something else than the background lies in one run, as what
    is left of a lip does that passes into the ground's colour. Raises BadPicture where it lies along much of it."""
    steps, normal = np.arange(*RING_PX), outward(outline)
    away = masks.median(masks.read_across(shade.away, outline, normal, steps))
    body = masks.median(masks.read_across(shade.away, outline, normal, -steps))
    other = away > np.maximum(RING_STEP * body, max(STANDS_OUT * shade.unrest, LEAST_AWAY))
    run = masks.longest_run(other) / len(other)
    if float(np.mean(other)) > RING_SHARE or run > MOST_RUN:
        raise BadPicture(BESIDE)
    if run <= RUN_SAID:
        return ()
    told = f"close beside {100 * run:.0f} % of its edge lies something that is no background"
    return (f"{told}: look whether a part is missing there",)


def _refuse_brighter(outline: Array, pixels: NDArray[np.float32], plain: Difference) -> None:
    """Raise BadPicture where along much of an outline (n, 2), px, what lies beside it is brighter than the ground there.

    A shadow cannot be. Looked at in the mean over neighbours along the outline, so that a little is seen under the noise.
    """
    size = pixels.shape[:2]
    margin = STRIP_PX[1] + FARTHER_PX
    thick = masks.thickness(masks.inside(outline, size))
    reach = max(STRIP_PX[1], STRIP_SHARE * thick)
    low = np.maximum(np.floor(outline.min(axis=0) - reach - margin), 0).astype(int)
    high = np.ceil(outline.max(axis=0) + reach + margin).astype(int) + 1
    box = (slice(low[1], min(high[1], size[0])), slice(low[0], min(high[0], size[1])))
    lighter = masks.lab(pixels[box][..., :3])[..., 0] - plain.ground.over(pixels.shape, box)[..., 0]
    steps = np.concatenate([np.arange(*STRIP_PX), reach + np.arange(2.0, FARTHER_PX)])
    seen = masks.read_across(lighter, outline - low, outward(outline), steps)
    seen = np.mean(np.stack([np.roll(seen, n, axis=1) for n in range(-BESIDE_POINTS, BESIDE_POINTS + 1)]), axis=0)
    near, far = seen[steps < STRIP_PX[1]].mean(axis=0), masks.median(seen[steps > reach])
    far = np.where(far < -DARK_THING, 0.0, far)  # a ruler that lies there is no ground
    unrest = 1.4826 * float(masks.median(np.abs(far - masks.median(far))))
    if float(np.mean(near - far > max(BRIGHTER_BESIDE, STEADY * unrest))) > BRIGHT_SHARE:
        raise BadPicture(BESIDE)


def _no_background(measure: Difference) -> Mask:
    return np.asarray(masks.soft(measure.away, 1.0) > max(STANDS_OUT * measure.unrest, LEAST_AWAY))


def roughness(asked: Measured, body: Mask) -> Ground:
    """How much the lightness (of 100) wanders about each pixel, (h, w), and what it does at least of the ground apart."""
    seen = (~masks.within(body, EDGE_PX + 1.0)).astype(np.float32)  # the body's own edge makes nothing beside it rough
    weight = np.maximum(masks.soft(seen, GRAIN_PX), 1e-3)
    off = (asked.lighter - masks.soft(asked.lighter * seen, GRAIN_PX) / weight) * seen
    rough = np.sqrt(masks.soft(off**2, GRAIN_PX) / weight)
    ground = rough[~masks.within(body, 4.0 * GRAIN_PX + masks.thickness(body))]
    return rough, masks.quantile(ground, 0.05) if ground.size else 0.0


def _smooth(rough: NDArray[np.float32], least: float) -> Mask:
    """What is far smoother than all the ground is; nothing on smooth ground."""
    return np.asarray(rough < SMOOTHER * least) if least > ROUGH else np.zeros(rough.shape, dtype=bool)


def _beside(
    other: Mask, body: Mask, ends: Ends | None, away_px: float = EDGE_PX, thin_px: float = THIN_PX
) -> tuple[Mask, Mask]:
    """What of a mask lies along a body, and is neither a rim nor a hook nor a thing by itself; and what is a straight bar
    apart from it, as rulers are."""
    thick = masks.thickness(body)
    other = other & ~masks.within(body, away_px)
    if not other.any():
        return other, other
    radius = max(thin_px, THIN_SHARE * thick)
    other &= masks.within(masks.depth(other) > radius, radius + 0.5)
    near = masks.within(body, away_px + NEAR_PX + NEAR_SHARE * thick) & other
    pieces, _, boxes = masks.pieces(other)
    way = _way(body, ends)
    own = _along(body, way)
    kept, bars = np.zeros((2, len(boxes) + 1), dtype=bool)
    close = np.bincount(pieces[masks.within(body, away_px + NEAR_PX) & other], minlength=len(kept)) > 0
    no_bar = fill_of(body, 0.0) < RULER_FILL
    for number in np.flatnonzero(np.bincount(pieces[near])):
        box = boxes[number - 1]
        its = _along(pieces[box] == number, way) + box[1].start * way[0] + box[0].start * way[1]
        if np.ptp(its) >= LEAST_ALONG * np.ptp(own) and not _at_border(box, body.shape):
            spare = BEYOND_SHARE * np.ptp(own)
            if ends is None or (its.min() >= own.min() - spare and its.max() <= own.max() + spare):
                apart = no_bar and not close[number]
                bars[number] = apart and fill_of(pieces[box] == number, 0.0) > RULER_FILL
                kept[number] = not bars[number]
    return kept[pieces], bars[pieces]


def _longest_run(places: NDArray[np.intp], body: Mask, ends: Ends | None) -> float:
    """How far along a body the longest unbroken run of places (n, 2), row and column, goes, as a share of its length."""
    marked = np.zeros(body.shape, dtype=bool)
    marked[places[:, 0], places[:, 1]] = True
    numbers, _, boxes = masks.pieces(masks.squared(marked, RUN_GAP_PX))
    if not boxes:
        return 0.0
    way = _way(body, ends)
    its, along = numbers[places[:, 0], places[:, 1]], places[:, 1] * way[0] + places[:, 0] * way[1]
    runs = (float(np.ptp(along[its == n])) for n in np.flatnonzero(np.bincount(its)))
    return max(runs) / max(float(np.ptp(_along(body, way))), 1.0)


def _along(mask: Mask, way: Array) -> Array:
    rows, columns = np.nonzero(mask)
    return np.asarray(columns * way[0] + rows * way[1])


def _way(body: Mask, ends: Ends | None) -> Array:
    """Unit vector along a body, x and y: between its clicked ends, or else its longest."""
    if ends is not None and not ends.beside:
        return (np.asarray(ends.two) - ends.one) / ends.apart
    return np.asarray(masks.axes_of(body)[:, 1])


def _at_border(box: Box, shape: tuple[int, ...]) -> bool:
    """Whether a piece runs to the picture's border, as a pattern of the ground does."""
    rows, columns = box
    return min(rows.start, columns.start) <= 1 or rows.stop >= shape[0] - 1 or columns.stop >= shape[1] - 1
