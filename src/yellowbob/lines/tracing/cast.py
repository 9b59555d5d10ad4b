"""A hard shadow that was taken for part of the body: along its edge the ground's own colour, darker, up to a sharp step.

The sun and a lamp near by cast shadows whose edges are as crisp as the body's, and no level of difference parts the two.
Paint of the ground's hue is alike, such as a grey back on white paper: that too is all that can be said of it. What a
polished ground mirrors of the body is faint beside the edge that it runs up to, as a belly near the ground's colour is.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.edge import Array, area_of, outward, runs

SHADES, LIKELY = (0.15, 0.92), (0.2, 0.82)
TINTS = (-0.1, 0.2)
"""Its light is warmer or bluer, as the sky's is than the sun's, and a camera's curve adds to that: by such a share more in
blue, and less in red, of the picture's numbers."""
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
STRONGER, FAR_STRONGER, FAINT_FROM, OUTSIDE_PX = 1.4, 2.5, 2, (4.0, 7.0)
"""An edge inside is so many times as strong, or far stronger, than the outline's own step, from its depth so many px past the
first looked at to what lies so far outside."""
MIRRORED, ONE_SIDED = (0.04, 0.5), 0.75
"""Between such shares of the area, and facing one way so far (0 to 1), something may be mirrored on the ground."""
FAINT_SHARES = (0.05, 0.01)
"""The shares of an outline, and of the body's area, from which on that is said."""
SAID_SHARE, MOST_SHARE = 0.005, 0.025
"""Of the body's area, that is said, and refused."""


def cast_doubts(outline: Array, pixels: NDArray[np.float32], shade: Difference, by_hand: bool) -> tuple[str, ...]:
    """What is doubtful where a hard shadow may have been taken in, in words.

    Raises BadPicture where that is much of the body, unless it was touched up by hand.
    outline : (n, 2), px of the picture (h, w, 4). shade : what the ground is but for shade.
    """
    inward = looked_into(outline, pixels, shade)
    share, likely, along, alike = cast_share(inward, shade.unrest)
    words = (
        f"along {100 * alike:.0f} % of its edge it is of the background's own colour, darker, as a shadow is: one with a "
        "hard edge is not told from it; look there, or use softer light",
    )
    hidden = (*(words if alike > ALIKE_SHARE else ()), *_stronger_inside(inward))
    if share <= SAID_SHARE:
        return hidden
    told = (
        f"along {100 * along:.0f} % of its edge it is of the background's own colour, darker, up to a sharp step inside, "
        f"{100 * share:.1f} % of its area: a hard shadow, or paint of that colour"
    )
    if likely > MOST_SHARE and not by_hand:
        raise BadPicture(f"{told}; use softer light, a background of another colour, or touch it up with the brush")
    return (f"{told}: look there", *hidden)


@dataclass(frozen=True, eq=False)
class Inward:
    """What lies inside n places of an outline, at so many depths, px, (s,): colours seen and the ground's there, (s, n, 3),
    of 100; the colour outside, (n, 3); how long the outline is at each, px, (n,), and its normal, (n, 2); the area in it,
    px²."""

    depths: Array
    seen: NDArray[np.float32]
    ground: NDArray[np.float32]
    outside: Array
    run: Array
    normal: Array
    area: float

    def share(self, wide: Array) -> float:
        """Share of the area that a strip so wide at each place, (n,), px, takes."""
        return float((wide * self.run).sum()) / self.area

    def facing(self, wide: Array) -> float:
        """How far such a strip faces one way, 0 to 1."""
        parts = wide * self.run
        return float(np.linalg.norm(parts @ self.normal)) / max(float(parts.sum()), 1e-9)


def looked_into(outline: Array, pixels: NDArray[np.float32], shade: Difference) -> Inward:
    """What lies inside an outline, (n, 2), px, of a picture, (h, w, 4), and is to be told from a shadow on its ground."""
    every = max(1, len(outline) // MOST_POINTS)
    at, normal = outline[::every], outward(outline)[::every]
    thick = masks.thickness(masks.inside(outline, pixels.shape))
    steps = np.arange(FROM_PX, max(FROM_PX + 2.0, REACH_SHARE * thick) + STEP_PX)
    low = np.maximum(np.floor(outline.min(axis=0) - OUTSIDE_PX[1]) - 2, 0).astype(int)
    high = np.ceil(outline.max(axis=0) + OUTSIDE_PX[1]).astype(int) + 3
    box = (slice(low[1], min(high[1], pixels.shape[0])), slice(low[0], min(high[0], pixels.shape[1])))
    colour = masks.colours_of(pixels[box]) * np.float32(100.0)
    seen = masks.read_across(colour, at - low, normal, -steps)
    outside = masks.median(masks.read_across(colour, at - low, normal, np.arange(OUTSIDE_PX[0], OUTSIDE_PX[1] + 0.5)))
    return Inward(
        steps,
        (np.roll(seen, 1, axis=1) + seen + np.roll(seen, -1, axis=1)) / np.float32(3.0),
        masks.read_across(shade.ground.over(pixels.shape, box), at - low, normal, -steps),
        outside,
        runs(at),
        normal,
        max(area_of(outline), 1e-9),
    )


def cast_share(inward: Inward, unrest: float) -> tuple[float, float, float, float]:
    """What of a body may be a hard shadow beside it, by a step inside: shares of its area that may be and that likely are,
    and of its outline along it; and the share of that where it looks like one with no such step. unrest : the ground's."""
    seen = inward.seen
    light, away = _as_shade(seen, inward.ground)
    near = (away < max(NEAR, NEAR_TIMES * unrest)) & _between(light, SHADES)
    column, depth = np.arange(seen.shape[1]), np.arange(len(seen))[:, None]
    level = np.where(near, light, 9.0)[:BLUR_PX].min(axis=0)
    lowest = np.argmax(light < level + 0.5 * EVEN, axis=0)
    even = (np.abs(light - level) < EVEN) | (depth < lowest)
    deep = np.logical_and.accumulate(near & even, axis=0).sum(axis=0)
    inner, last = np.minimum(deep + STEP_PX - 1, len(seen) - 1), np.maximum(deep - 1, 0)
    change = np.linalg.norm(seen[inner, column] - seen[last, column], axis=1)
    darker = near[inner, column] & (light[inner, column] < level)
    strip = (deep > lowest) & (deep <= len(seen) - STEP_PX) & (change > max(STEP, STEP_TIMES * unrest))
    strip &= ~darker | (deep - lowest >= FLAT_PX)
    strip = _mostly(strip)
    wide = np.where(strip, FROM_PX + deep, 0.0)
    alike = ~strip & (near[: round(EDGE_PX)].mean(axis=0) > ALIKE)
    likely = _between(level, LIKELY) & (seen[lowest, column].mean(axis=1) > BLACK)
    return inward.share(wide), inward.share(wide * likely), float(np.mean(strip)), float(np.mean(alike))


def _stronger_inside(inward: Inward) -> tuple[str, ...]:
    """What is doubtful, in words, where a stronger edge runs inside an outline than the one it lies on: a far stronger one
    anywhere, or one a little so along one side, where what is mirrored lies."""
    along, share, _ = _up_to_stronger(inward, FAR_STRONGER)
    sided, between, one_sided = _up_to_stronger(inward, STRONGER)
    if along >= FAINT_SHARES[0] and share >= FAINT_SHARES[1]:
        told = "a far stronger one"
    elif sided >= FAINT_SHARES[0] and MIRRORED[0] < between < MIRRORED[1] and one_sided > ONE_SIDED:
        along, share, told = sided, between, "a stronger one"
    else:
        return ()
    return (
        f"along {100 * along:.0f} % of its edge {told} runs inside it, with {100 * share:.1f} % of its area "
        "between the two: look whether that is the body's, as a belly near the background's colour is, and no reflection or "
        "shadow",
    )


def _up_to_stronger(inward: Inward, times: float) -> tuple[float, float, float]:
    """Where an even strip runs inside an outline up to an edge so many times as strong as the outline's own: the shares of
    the outline and of the area, and how far those places face one way, 0 to 1."""
    seen, first = inward.seen, FAINT_FROM
    rim = seen[first]
    steps = masks.length(seen[first + STEP_PX :] - seen[first:-STEP_PX])
    above = steps > times * np.linalg.norm(rim - inward.outside, axis=1)
    # the first that is so strong, at its steepest
    come = np.logical_or.accumulate(above, axis=0)
    at = np.where(come & ~np.logical_or.accumulate(come & ~above, axis=0), steps, -1.0).argmax(axis=0)
    column = np.arange(seen.shape[1])
    even = np.linalg.norm(seen[first + at, column] - rim, axis=1) < 0.5 * steps[at, column]
    strip = _mostly(even & come[-1])
    wide = np.where(strip, inward.depths[first + at] + 0.5 * STEP_PX, 0.0)
    return float(np.mean(strip)), inward.share(wide), inward.facing(wide)


def _mostly(strip: masks.Mask) -> masks.Mask:
    """Where most of so many places to each side round an outline count, (n,)."""
    return np.asarray(np.stack([np.roll(strip, n) for n in range(-ALONG, ALONG + 1)]).sum(axis=0) > ALONG)


def _as_shade(seen: NDArray[np.float32], ground: NDArray[np.float32]) -> tuple[Array, Array]:
    """The share of the ground's light, (s, n), that comes nearest to what is seen, (s, n, 3), as warm or as cold as it may
    be, and how far what is seen is from that."""
    bluer = ground * np.array([-1.0, 0.0, 1.0], dtype=np.float32)

    own, cross, its = masks.dot(ground, ground), masks.dot(ground, bluer), masks.dot(bluer, bluer)
    to, across = masks.dot(seen, ground), masks.dot(seen, bluer)
    tint = (across * own - to * cross) / np.maximum(to * its - across * cross, 1e-6)
    lit = ground + np.clip(tint, *TINTS)[..., None] * bluer
    light = masks.dot(seen, lit) / np.maximum(masks.dot(lit, lit), 1e-9)
    return light, masks.length(seen - light[..., None] * lit)


def _between(values: Array, ends: tuple[float, float]) -> masks.Mask:
    return np.asarray((values > ends[0]) & (values < ends[1]))
