"""A hard shadow that was taken for part of the body: along its edge the ground's own colour, darker, up to a sharp step.

The sun and a lamp near by cast shadows whose edges are as crisp as the body's, and no level of difference parts the two.
Paint of the ground's hue is alike, such as a grey back on white paper: that too is all that can be said of it.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.edge import Array, area_of, outward

SHADES, LIKELY = (0.15, 0.92), (0.2, 0.82)
BLACK = 20.0
"""A shadow leaves such a share of the ground's light, black paint less; and such a share, and not so little of all light (of
100), where one is likely enough to refuse."""
NEAR, NEAR_TIMES = 5.0, 3.0
"""It is so far from the ground's own colour, darker (of 100 a channel, together), or so many times the ground's unrest."""
FROM_PX, REACH_SHARE = 1.5, 0.45
"""It is looked for from so far inside an outline, past the edge's own blur, to this share of the body's thickness."""
BLUR_PX, EVEN, FLAT_PX = 6, 0.12, 3
"""The edge's own blur reaches no further in; from its darkest place there by how much of the ground's light a shadow varies
at most; what goes on getting darker behind it is the body only where it is even over so many px."""
STEP_PX, STEP, STEP_TIMES = 5, 6.0, 4.0
"""Within so many px it changes by so much (of 100 a channel, together), and so many times the ground's unrest, where the body
begins."""
ALONG = 3
"""A place counts where most of so many to each side do."""
MOST_POINTS = 800
EDGE_PX, ALIKE, ALIKE_SHARE = 5.0, 0.7, 0.15
"""Where this share of what lies so far inside looks like a shadow an edge may be one's; the share of an outline from which on
it is said."""
SAID_SHARE, MOST_SHARE = 0.005, 0.025
"""Of the body's area, that is said, and refused."""


def cast_doubts(outline: Array, pixels: NDArray[np.float32], shade: Difference, by_hand: bool) -> tuple[str, ...]:
    """What is doubtful where a hard shadow may have been taken in, in words.

    Raises BadPicture where that is much of the body, unless it was touched up by hand.
    outline : (n, 2), px of the picture (h, w, 4). shade : what the ground is but for shade.
    """
    share, likely, along, alike = cast_share(outline, pixels, shade)
    words = (
        f"along {100 * alike:.0f} % of its edge it is of the background's own colour, darker, as a shadow is: one with a "
        "hard edge is not told from it; look there, or use softer light",
    )
    hidden = words if alike > ALIKE_SHARE else ()
    if share <= SAID_SHARE:
        return hidden
    told = (
        f"along {100 * along:.0f} % of its edge it is of the background's own colour, darker, up to a sharp step inside, "
        f"{100 * share:.1f} % of its area: a hard shadow, or paint of that colour"
    )
    if likely > MOST_SHARE and not by_hand:
        raise BadPicture(f"{told}; use softer light, a background of another colour, or touch it up with the brush")
    return (f"{told}: look there", *hidden)


def cast_share(outline: Array, pixels: NDArray[np.float32], shade: Difference) -> tuple[float, float, float, float]:
    """What of a body may be a hard shadow beside it, by a step inside: shares of its area that may be and that likely are,
    and of its outline, (n, 2), px, along it; and the share of that where it looks like one with no such step."""
    every = max(1, len(outline) // MOST_POINTS)
    at, normal = outline[::every], outward(outline)[::every]
    thick = masks.thickness(masks.inside(outline, pixels.shape))
    steps = np.arange(FROM_PX, max(FROM_PX + 2.0, REACH_SHARE * thick) + STEP_PX)
    low = np.maximum(np.floor(outline.min(axis=0)) - 2, 0).astype(int)
    high = np.ceil(outline.max(axis=0)).astype(int) + 3
    box = (slice(low[1], min(high[1], pixels.shape[0])), slice(low[0], min(high[0], pixels.shape[1])))
    seen = masks.read_across(masks.colours_of(pixels[box]) * np.float32(100.0), at - low, normal, -steps)
    seen = (np.roll(seen, 1, axis=1) + seen + np.roll(seen, -1, axis=1)) / np.float32(3.0)
    ground = masks.read_across(shade.ground.over(pixels.shape, box), at - low, normal, -steps)
    light = np.einsum("snc,snc->sn", seen, ground) / np.maximum(np.einsum("snc,snc->sn", ground, ground), 1e-9)
    away = np.linalg.norm(seen - light[..., None] * ground, axis=2)
    near = (away < max(NEAR, NEAR_TIMES * shade.unrest)) & _between(light, SHADES)
    column, depth = np.arange(len(at)), np.arange(len(steps))[:, None]
    level = np.where(near, light, 9.0)[:BLUR_PX].min(axis=0)
    lowest = np.argmax(light < level + 0.5 * EVEN, axis=0)
    even = (np.abs(light - level) < EVEN) | (depth < lowest)
    deep = np.logical_and.accumulate(near & even, axis=0).sum(axis=0)
    inner, last = np.minimum(deep + STEP_PX - 1, len(steps) - 1), np.maximum(deep - 1, 0)
    change = np.linalg.norm(seen[inner, column] - seen[last, column], axis=1)
    darker = near[inner, column] & (light[inner, column] < level)
    strip = (deep > lowest) & (deep <= len(steps) - STEP_PX) & (change > max(STEP, STEP_TIMES * shade.unrest))
    strip &= ~darker | (deep - lowest >= FLAT_PX)
    strip = np.stack([np.roll(strip, n) for n in range(-ALONG, ALONG + 1)]).sum(axis=0) > ALONG
    run = 0.5 * np.linalg.norm(np.roll(at, -1, axis=0) - np.roll(at, 1, axis=0), axis=1)
    area = max(area_of(outline), 1e-9)
    wide = np.where(strip, FROM_PX + deep, 0.0)
    alike = ~strip & (near[: round(EDGE_PX)].mean(axis=0) > ALIKE)
    likely = _between(level, LIKELY) & (seen[lowest, column].mean(axis=1) > BLACK)
    share, most = (float((wide * run)[which].sum()) / area for which in (strip, likely))
    return share, most, float(np.mean(strip)), float(np.mean(alike))


def _between(values: Array, ends: tuple[float, float]) -> masks.Mask:
    return np.asarray((values > ends[0]) & (values < ends[1]))
