"""Another edge that runs outside an outline: of something of another hue than the ground, or of another shade of it.

A belly of hardly another hue ends there as sharply as a body does. One of the ground's own hue stands out less than the
back does and lies before its own soft shadow: of the two together no outline is crisp, and the level leaves both out.
"""

from __future__ import annotations

import numpy as np

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference
from yellowbob.lines.tracing.edge import Array, outward

STANDS_OUT = 3.0
"""What is so many times the background's unrest from it is no background."""
EDGE_PX = 2
"""How soft an outline's own edge may be, px at half the working size."""
WIDE_FROM_PX, FAR_EDGE_PX, FAR_EDGE_SHARE, NARROW_PX = 5.0, 12.0, 0.9, (9.0, 24.0)
"""Another edge is looked for from so far outside an outline, where its own edge ends, to so far, or so many times the body's
thickness, px at half the working size; and, of narrow things, px at the working size."""
STEP_PX, ALONG_POINTS = 4, 4
"""Over so many px, in the mean over so many points to each side."""
LEAST_HUE, FLAT, SOLID, SECOND_SHARE = 1.2, 0.5, 0.6, 0.1
"""It is a step of so much in hue, with no more than this share of it before and after, and what lies up to it keeps above
this share of it; along so much of an outline it is the body's."""
LEAST_DARK, SOLID_DARK = 3.0, 0.3
"""And, where light is looked at, of so much (of 100) where all up to it stands out by more than this share of the step."""
BESIDE = (
    "beside what was found lies something that is no background either, as a belly does that is nearer to its colour than "
    "the back; use another background, or touch it up with the brush"
)


def refuse_second_edge(outline: Array, halved: Difference, shade: Difference) -> None:
    """Raise BadPicture where outside an outline (n, 2), px, another edge runs, of something of whatever width."""
    if max(_wide_edge(outline, halved), second_edge(outline, shade, *NARROW_PX)) > SECOND_SHARE:
        raise BadPicture(BESIDE)


def dark_edge_doubts(outline: Array, plain: Difference) -> tuple[str, ...]:
    """What is doubtful where outside an outline (n, 2), px, a shade of the ground ends as sharply as a body does.

    plain : the measure at half the size. A belly of the ground's own hue is such a shade, however soft the shadow below it.
    """
    share = _wide_edge(outline, plain)
    if share <= SECOND_SHARE:
        return ()
    told = (
        f"outside {100 * share:.0f} % of its edge something ends sharply that is lighter or darker than the background"
    )
    return (f"{told}: a shadow with a hard edge, or a part of it: look there",)


def _wide_edge(outline: Array, halved: Difference) -> float:
    """Share of an outline (n, 2), px, outside which another edge runs within about its thickness, by a measure at half its
    size."""
    thick = masks.thickness(masks.inside(outline / 2.0, halved.away.shape))
    return second_edge(outline / 2.0, halved, WIDE_FROM_PX, max(FAR_EDGE_PX, FAR_EDGE_SHARE * thick))


def second_edge(outline: Array, measure: Difference, start: float, reach: float) -> float:
    """Share of an outline (n, 2), px of a measure's size, outside which another edge runs, from `start` to `reach` px off: up
    to there it is something of another hue than the ground, even if it is but little so, and there it ends as an edge does
    and no shimmer; or, by a measure that shade counts in, of another light."""
    steps = np.arange(start - EDGE_PX, reach + 3.0 * STEP_PX)
    seen = masks.read_across(masks.soft(measure.away, 0.8), outline, outward(outline), steps)
    seen = np.mean(np.stack([np.roll(seen, n, axis=1) for n in range(-ALONG_POINTS, ALONG_POINTS + 1)]), axis=0)
    count = len(steps) - 3 * STEP_PX
    before = np.vstack([np.repeat(seen[:1], STEP_PX, axis=0), seen])[:count]
    at, after, beyond = (seen[n * STEP_PX : n * STEP_PX + count] for n in range(3))
    drop = at - after
    flat = (before - at < FLAT * drop) & (np.abs(after - beyond) < FLAT * drop)
    least = np.minimum.accumulate(seen, axis=0)[:count]
    if measure.shade:
        solid = least - after > SOLID * drop
    else:  # it may be nearer to the ground's light than its own shadow is
        solid = least > np.maximum(SOLID_DARK * drop, STANDS_OUT * measure.unrest)
    edge = (drop > max(STANDS_OUT * measure.unrest, LEAST_HUE if measure.shade else LEAST_DARK)) & flat & solid
    return float(np.mean(edge[EDGE_PX:].any(axis=0)))
