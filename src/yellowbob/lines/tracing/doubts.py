"""What is doubtful about an outline that was put on its edge, in words; what is too doubtful is refused.

Besides what `edge` measures: where the edge is far softer than elsewhere in the same picture the outline lies in paint or
shade that passes into the background's colour; and a thin band of another colour beside it is a part of the body left out.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.edge import (
    AREA_SHARE,
    FAINT_SHARE,
    LIGHT_SHARE,
    MOST_AREA_SHARE,
    PLACED_BURNT,
    PLACED_PX,
    PLACED_ROUGH_PX,
    PLACED_SOFT,
    PLACED_WEAK_PX,
    RIM_SHARES,
    WEAK_STEP,
    OnEdge,
    area_doubt,
    area_of,
    outward,
    rimmed,
    runs,
)
from yellowbob.lines.tracing.masks import Mask

Array = NDArray[np.float64]

LEAST_HUNG_PX = 25
"""Pixels of a thin thing from which on it is said that it was left out."""
DROP_PX = 2.0
"""Over how much of its way from inside to outside an edge's steepest drop is looked for."""
SOFT_DROP = 0.55
"""An edge is soft whose steepest drop is less than this share of what it is at most places of the outline."""
BAND_FROM_PX, BAND_WIDE_PX, FAR_PX = 1.25, 1.6, (8.0, 12.0)
"""A band is looked for so far outside, beyond three quarters of the edge's own width, so wide, against what lies far out."""
BAND_COLOUR = 0.09
"""By how much (0 to 1 a channel) it differs, square mean over the channels."""
DEEPEST_SHADE = 0.45
"""A shadow leaves so much of the ground's light at least."""
SOFT_SHARES, BAND_SHARES = (0.008, 0.1), (0.03, 0.1)
"""The share of an outline that is soft, or has a band beside it, from which on it is said, and is refused."""
STEM_PX, STEM_LONG, STEM_SHARE = 14.0, 3.0, 0.05
"""What is thinner, and longer than so many times that squared by its area, is a stem; it is spoken of from this share on."""
GAP_WIDE, GAP_SHARES = 0.5, (0.005, 0.03)
"""A gap is narrower than this share of a body's thickness; the share of its area from which on it is said, and is refused."""
LINE_PX, LEAST_LINE_PX = (5.0, 8.0), 1.0
"""A line on the edge is looked for between what lies so far to each side of it; it is so wide at least."""
LINE_COLOUR, LINE_STEP = 0.15, 0.35
"""Its colour is so far (0 to 1 a channel, together) from any that two sides mix to, and by this share of the step between
them: a lens mixes light, which lies less far off, and what sharpens a picture runs past both."""
ALONG = 9
"""Points to each side of an outline's over which both are taken, by the median."""


@dataclass(frozen=True, eq=False)
class Traced:
    """An outline on its edge; which of its points were drawn by hand; the body's mask; what was seen on the way.

    hung : thin things left out. rough : whether the ground is. light : by which share its area would be larger, put half-way
    in light. burnt : the share of it that is burnt out.
    """

    edge: OnEdge
    by_hand: Mask
    body: Mask
    hung: int
    rough: bool
    light: float
    burnt: float


def stem_of(body: Mask) -> tuple[float, float]:
    """Share of a body's area that is thinner than STEM_PX, and how thick that is, px; tips are no stem."""
    body = body[masks.box_of(body, 1)]
    deep = masks.depth(body)
    thin = body & ~masks.within(deep > 0.5 * STEM_PX, 0.5 * STEM_PX)
    thin = masks.largest(thin)
    if not thin.any() or np.count_nonzero(thin) < STEM_LONG * STEM_PX**2:
        return 0.0, 0.0
    size, along = np.count_nonzero(thin), float(np.ptp(masks.hull(thin) @ masks.axes_of(thin)[:, 1])) + 1.0
    return size / np.count_nonzero(body), size / along


def gap_of(body: Mask) -> float:
    """The largest narrow gap that runs into a body from outside, as a share of its area: paint of the ground's colour in it
    leaves one, and no outline of a lure or a float has it, a forked tail or a lip's corner neither."""
    radius = 0.5 * GAP_WIDE * masks.thickness(body)
    room = int(radius) + 3
    own = np.pad(body[masks.box_of(body, 0)], room)
    closed = masks.depth(masks.within(own, radius)) > radius
    _, sizes, _ = masks.pieces(masks.shrunk(closed & ~own, 1))
    return float(sizes[1:].max(initial=0) / max(np.count_nonzero(own), 1))


def odd_shares(outline: Array, colour: NDArray[np.float32], counts: Mask) -> tuple[float, float]:
    """Shares of an outline's points that count, (n,), where the edge is soft, and where a band lies beside it."""
    normal = outward(outline)
    steps = np.arange(-6.0, FAR_PX[1] + 0.01, 0.5)
    seen = masks.read_across(colour, outline, normal, steps)
    inner, outer = masks.median(seen[steps <= -3.0]), masks.median(seen[(steps >= 3.0) & (steps <= 6.0)])
    way = inner - outer
    along = masks.dot(seen - outer, way) / np.maximum((way**2).sum(axis=1), 1e-9)
    lag = round(DROP_PX / 0.5)
    near = np.flatnonzero((steps >= -3.0) & (steps <= 3.5 - DROP_PX))
    drop = _along_it((along[near] - along[near + lag]).max(axis=0))
    wide = float(masks.median(((along > 0.15) & (along < 0.85))[np.abs(steps) <= 4.0].sum(axis=0))) * 0.5
    start = BAND_FROM_PX + 0.75 * wide
    band = masks.median(seen[(steps >= start) & (steps <= start + BAND_WIDE_PX)])
    far = masks.median(seen[steps >= FAR_PX[0]])
    # a shadow is the ground's own colour, darker
    shade = np.clip((band * far).sum(axis=1) / np.maximum((far**2).sum(axis=1), 1e-9), DEEPEST_SHADE, 1.0)
    away = _along_it(np.sqrt(((band - shade[:, None] * far) ** 2).mean(axis=1)))
    soft = drop < SOFT_DROP * float(masks.median(drop))
    return float(np.mean(soft & counts)), float(np.mean((away > BAND_COLOUR) & counts))


def lined(outline: Array, colour: NDArray[np.float32], body: Mask) -> tuple[float, float, float]:
    """A line of a third colour on an outline's edge, as ink, a cut-out's fringe or a sharp shadow leaves: the share of the
    outline that has one, its width there, px, and what it takes as a share of the area.

    body : what lies within the outline, (h, w); nothing is told where that is thinner than what is looked at.
    """
    normal, steps = outward(outline), np.arange(-LINE_PX[1], LINE_PX[1] + 0.01, 0.5)
    seen = masks.read_across(colour, outline, normal, steps)
    deep = masks.read_across(body, outline, normal, steps[steps <= -2.0]).min(axis=0) > 0.5
    without = masks.median(seen[steps >= LINE_PX[0]])
    way = masks.median(seen[steps <= -LINE_PX[0]]) - without
    along = masks.dot(seen - without, way) / np.maximum((way**2).sum(axis=1), 1e-9)
    off = masks.length(seen - without - np.clip(along, -LINE_STEP, 1.0 + LINE_STEP)[..., None] * way)
    third = off > np.maximum(LINE_COLOUR, LINE_STEP * np.linalg.norm(way, axis=1))
    wide = _along_it(0.5 * third[np.abs(steps) <= LINE_PX[0]].sum(axis=0) * deep)
    wide[wide < LEAST_LINE_PX] = 0.0
    has = wide > 0.0
    return (
        float(has.mean()),
        float(masks.median(wide[has])) if has.any() else 0.0,
        float((wide * runs(outline)).sum()) / area_of(outline),
    )


def _along_it(values: Array) -> Array:
    """The median of each and its neighbours, round a closed outline."""
    return masks.median(np.stack([np.roll(values, n) for n in range(-ALONG, ALONG + 1)]))


def doubts_about(found: Traced, colour: NDArray[np.float32], touched: bool) -> tuple[str, ...]:
    """What is doubtful, in words. colour : (h, w, 3), 0 to 1. touched : by the brush: then nothing but its area is refused.

    Raises BadPicture where the outline cannot be the body's, or its area is hardly known.
    """
    doubts = []
    if found.edge.faint > FAINT_SHARE:
        doubts.append(
            f"its edge is faint along {100 * found.edge.faint:.0f} % of it: look there, and touch it up with the brush"
        )
    if found.hung and not touched:
        places = "one place" if found.hung == 1 else f"{found.hung} places"
        doubts.append(
            f"something thin, such as a hook, was left out at {places}: look whether all of it is, and no more"
        )
    doubts += _about_its_thickness(found, touched)
    if abs(found.light) > LIGHT_SHARE:
        doubts.append(
            f"its edge is soft between dark and light: half-way in light, as a lens blurs it, its area is "
            f"{100 * abs(found.light):.1f} % {'larger' if found.light > 0 else 'smaller'}; take a sharper or a larger picture"
        )
    rim = rimmed(found.edge.outline, colour, masks.inside(found.edge.outline, found.body.shape))
    if RIM_SHARES[0] < rim < RIM_SHARES[1] and not touched:
        doubts.append(
            f"along {100 * rim:.0f} % of its edge a thin rim has another colour, as a hook's shank that lies on it has, or a "
            "shadow that was taken in: look there"
        )
    along, wide, share = lined(found.edge.outline, colour, found.body)
    if share > AREA_SHARE and not touched:
        doubts.append(
            f"along {100 * along:.0f} % of its edge a line of a third colour, about {wide:.0f} pixels wide, lies on it: "
            f"whether that is the body's makes {100 * share:.1f} % of its area unsure"
        )
    soft, banded = odd_shares(found.edge.outline, colour, ~found.by_hand)
    for share, (least, most), words in (
        (
            soft,
            SOFT_SHARES,
            "is far softer than elsewhere, as where paint or shade passes into the background's colour",
        ),
        (
            0.0 if found.rough else banded,
            BAND_SHARES,
            "has a thin band of another colour beside it, which may be the body's",
        ),
    ):
        if share > most and not touched:
            raise BadPicture(
                f"{100 * share:.0f} % of its edge {words}; use another background, or touch it up with the brush"
            )
        if share > least:
            doubts.append(f"{100 * share:.1f} % of its edge {words}: look there")
    return tuple(doubts)


def _about_its_thickness(found: Traced, touched: bool) -> list[str]:
    """What is doubtful where it is slim, a stem, or a gap runs into it. Raises BadPicture as `doubts_about` does."""
    doubts = []
    placed, why, mend = max(_placed(found), key=lambda each: each[0])
    unsure = area_doubt(found.edge.outline, placed)
    if unsure > AREA_SHARE:
        slim = f"it is slim in the picture{why}: where its edge is put makes {100 * unsure:.1f} % of its area unsure"
        if unsure > MOST_AREA_SHARE:
            raise BadPicture(f"{slim}; {mend}, or measure its thickness by hand")
        doubts.append(f"{slim}; {mend}")
    stem, wide = stem_of(found.body)
    if stem > STEM_SHARE:
        doubts.append(
            f"{100 * stem:.0f} % of its area is a stem about {wide:.0f} pixels thick, of which a stripe may be missing: "
            "set its thickness by the calliper"
        )
    gap = gap_of(found.body)
    if gap > GAP_SHARES[0]:
        words = f"a gap runs into it, {100 * gap:.1f} % of its area, as paint of the background's colour leaves it"
        if gap > GAP_SHARES[1] and not touched:
            raise BadPicture(f"{words}; use another background, or touch it up with the brush")
        doubts.append(f"{words}: look there")
    return doubts


def _placed(found: Traced) -> list[tuple[float, str, str]]:
    """How exactly its edge is placed, px, for each thing that limits it: in words, and what helps."""
    closer = "crop the picture closer to it"
    return [
        (PLACED_PX, "", closer),
        (PLACED_ROUGH_PX * found.rough, ", and its ground rough", closer),
        (PLACED_WEAK_PX * (found.edge.step < WEAK_STEP), ", and its edge weak", closer),
        (PLACED_SOFT * found.edge.wide, ", and its edge soft", "take a sharper or a larger picture"),
        (
            PLACED_BURNT * found.burnt * found.edge.wide,
            ", and its edge burnt out, as bright as a picture can be",
            "take a darker one",
        ),
    ]
