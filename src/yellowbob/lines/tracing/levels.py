"""How far a colour must be from the background's to be the body's: the lowest level whose outline is crisp all round.

A soft shadow makes a soft outline, so the level rises until it is left out; a pale belly on paper makes a weak outline but a
crisp one, so it is kept. Two measures are asked: plain difference of colour, and difference but for shade, to which
a shadow is nothing. Where they disagree about a part, and nothing tells paint from shadow there, the picture is refused.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture, Difference, difference, difference_but_shade
from yellowbob.lines.tracing.masks import Box, Mask

Array = NDArray[np.float64]
Place = tuple[float, float]

LEVELS = 16
LEAST_SHARE = 0.003
"""Of the picture, that a body takes."""
CRISP_SHARE = 0.93
LOOK_PX = 12
"""How far to each side of an outline it is looked what it parts."""
CRISP_DROP = 0.45
"""Share of the step across an outline that falls within two pixels to each side, where it is an edge and no gradient."""
MIDDLE, ALL_CRISP = 0.45, 0.985
"""Past this share of how far most of the body is from the background a level whose outline is crisp so far round has nothing
more to leave out."""
SOFT_SHARE = 0.12
"""A part that fewer of its rim ends sharply than this is shadow."""
RUNS_OUT = "it runs out of the picture; leave room on every side"
UNCLEAR = (
    "part of its edge cannot be told from the background or a shadow; use a background of another colour and softer "
    "light"
)
RIM_SHARE, LEAST_PX = 0.1, 2
"""A rim is thinner than this share of the body, and than so many pixels."""
AGREE = 0.012
"""Two measures agree where their areas differ by less."""
NEAR_SHARE = 0.012
"""A clicked end lies on an outline that passes so near, by the length between the ends."""
BEYOND_SHARE = 0.1
"""What runs on further than this past both clicks was clicked along its way, not at its ends: a ruler."""
TWO_LARGE = 0.35
BAR_FILL = 0.965
"""A thing that fills its own box, laid along it, like this is a straight bar."""


class Misclicked(BadPicture):
    """The clicks cannot mean what they say, at whatever level."""


@dataclass(frozen=True, eq=False)
class Found:
    """A measure of how far each pixel is from the background, (h, w), the level taken and what lies above it."""

    measure: Difference
    level: float
    mask: Mask
    crisp: float


@dataclass(frozen=True, eq=False)
class Measured:
    """What each measure finds in a picture, the better first; the two measures; by how much of 100 each pixel is
    lighter than the background there, (h, w); and the picture, (h, w, 4)."""

    found: list[Found]
    plain: Difference
    shade: Difference
    lighter: NDArray[np.float32]
    pixels: NDArray[np.float32]


@dataclass(frozen=True)
class Ends:
    """The two clicked places in pixels of the working picture, and whether they lie on something beside the body."""

    one: Place
    two: Place
    beside: bool = False

    @property
    def apart(self) -> float:
        """Distance between the two, px."""
        return float(np.hypot(self.two[0] - self.one[0], self.two[1] - self.one[1]))

    def halved(self) -> Ends:
        """The same in a picture of half the size."""
        one, two = (((at[0] + 0.5) / 2.0 - 0.5, (at[1] + 0.5) / 2.0 - 0.5) for at in (self.one, self.two))
        return Ends(one, two, self.beside)


def halved(pixels: NDArray[np.float32]) -> NDArray[np.float32]:
    """Every two by two pixels as one."""
    high, wide = pixels.shape[0] // 2, pixels.shape[1] // 2
    whole = np.ascontiguousarray(pixels[: 2 * high, : 2 * wide])
    return np.asarray(cv2.resize(whole, (wide, high), interpolation=cv2.INTER_AREA))


def measured(pixels: NDArray[np.float32], ends: Ends | None) -> Measured:
    """What each measure finds. Raises BadPicture where none finds a crisp outline, or they disagree."""
    colour = masks.lab(pixels[..., :3])
    plain = difference(colour)
    shade = difference_but_shade(pixels, plain)
    lighter = colour[..., 0] - plain.ground.over(pixels.shape)[..., 0]
    return Measured(_agreed(plain, shade, ends), plain, shade, lighter, pixels)


def _agreed(plainly: Difference, but_shade: Difference, ends: Ends | None) -> list[Found]:
    with ThreadPoolExecutor(1) as pool:
        beside = pool.submit(_asked_for, but_shade, ends)
        told = (_asked_for(plainly, ends), beside.result())
    found = [one for one in told if isinstance(one, Found)]
    refusal = next((one for one in told if isinstance(one, BadPicture)), None)
    crisp = [f for f in found if f.crisp >= CRISP_SHARE]
    if not crisp and found and _at_border(found[0].mask):
        raise BadPicture(RUNS_OUT)
    if not crisp:
        raise refusal or BadPicture(UNCLEAR)
    if len(found) == 1:
        return found
    plain, shade = found
    size = max(plain.mask.sum(), shade.mask.sum())
    more, less = (
        _solid(one.mask & ~two.mask, crisp[-1].mask, AGREE * size) for one, two in ((plain, shade), (shade, plain))
    )
    if max(more, less) < AGREE * size:
        return crisp
    if more < AGREE * size and shade in crisp:
        return [shade]
    if shade in crisp and plain not in crisp:
        # what shade is blind to: were it the body's, it would end as sharply as the body does
        both = plain.mask | shade.mask
        if crispness(plain.measure.away, both, plain.measure.unrest, plain.mask & ~shade.mask) < SOFT_SHARE:
            return [shade]
    raise BadPicture(
        "part of it could be dark paint or a hard shadow, and cannot be told apart; use softer light, or a background of "
        "another colour"
    )


def _at_border(mask: Mask) -> bool:
    return bool(mask[:2].any() or mask[-2:].any() or mask[:, :2].any() or mask[:, -2:].any())


def _solid(mask: Mask, body: Mask, least: float) -> int:
    """Pixels of a mask that are no mere rim and no wire: what stays when it is opened by a part of a body's thickness. Where
    there are fewer than `least` of them in all, all: that it is fewer is then all that is told."""
    whole = int(np.count_nonzero(mask))
    if whole < least:
        return whole
    if not masks.shrunk(mask[masks.box_of(mask, LEAST_PX + 2)], LEAST_PX).any():
        return 0  # nothing in it is deeper than that: told in a small part of the time
    radius = max(float(LEAST_PX), RIM_SHARE * masks.thickness(body))
    return int(
        np.count_nonzero(masks.within(masks.depth(mask[masks.box_of(mask, round(radius) + 2)]) > radius, radius))
    )


def _asked_for(measure: Difference, ends: Ends | None) -> Found | BadPicture:
    """What a measure finds, or why it finds nothing. Raises Misclicked."""
    try:
        return _lowest_crisp(measure, ends)
    except Misclicked:
        raise
    except BadPicture as error:
        return error


def _lowest_crisp(measure: Difference, ends: Ends | None) -> Found:
    calm, unrest = masks.soft(measure.away, 0.8), measure.unrest
    top = masks.quantile(calm, 0.995)
    start = max(2.0 * unrest, 1.6)
    if top < 1.6 * start:
        raise BadPicture("nothing in it stands out from the background; use a background of another colour")
    best: Found | None = None
    refusal: BadPicture | None = None
    for level in np.geomspace(start, 0.7 * top, LEVELS):
        try:
            mask = thing(calm > level, ends)
        except Misclicked:
            raise
        except BadPicture as error:
            refusal = error
            continue
        # as high as nothing of the body is lost by: so the outline comes near the middle of its edge
        least = 0.5 * AGREE * np.count_nonzero(mask)
        if best is not None and best.crisp >= CRISP_SHARE and _solid(best.mask & ~mask, best.mask, least) > least:
            break
        crisp = crispness(calm, mask, unrest)
        if best is None or (crisp > best.crisp if best.crisp < CRISP_SHARE else crisp >= CRISP_SHARE):
            best = Found(measure, float(level), mask, crisp)
        if best.crisp >= ALL_CRISP and level >= MIDDLE * masks.median(calm[best.mask]):
            break
    if best is None:
        raise refusal or BadPicture("nothing in it stands out from the background; use a background of another colour")
    return best


def crispness(away: NDArray[np.float32], mask: Mask, unrest: float, only: Mask | None = None) -> float:
    """Share of a mask's rim at which the measure falls steeply, and well above its unrest, from inside to outside.

    only : of the rim there; 0 where there is none.
    """
    _, sharp = sharp_rim(away, mask, unrest, only)
    return float(sharp.mean()) if len(sharp) else 0.0


def sharp_rim(
    away: NDArray[np.float32], mask: Mask, unrest: float, only: Mask | None = None
) -> tuple[NDArray[np.intp], Mask]:
    """Places (n, 2), row and column, of a mask's rim, and at which of them, (n,), it is crisp; see `crispness`."""
    box = masks.box_of(mask, 2 * LOOK_PX)
    away, mask = away[box], mask[box]
    rim = masks.rim(mask)
    at = np.argwhere(rim if only is None else rim & only[box])
    if len(at) > 3000:
        at = at[np.linspace(0, len(at) - 1, 3000).astype(int)]
    if not len(at):
        return at, np.zeros(0, dtype=bool)
    normal = -masks.slope_at(masks.soft(mask, 2.0), at)
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9)
    steps = np.arange(-float(LOOK_PX), LOOK_PX + 1.0)
    along = masks.read_across(away, at[:, ::-1], normal[:, ::-1], steps)
    # a thin part has no inside so deep: what counts is the highest on the way there
    rise = along[steps <= -2.0].max(axis=0) - along[steps >= 0.6 * LOOK_PX].mean(axis=0)
    near = np.flatnonzero(np.abs(steps) <= 2.0)
    drop = np.max(along[near - 2] - along[near + 2], axis=0)
    return at + [box[0].start, box[1].start], (rise > 2.0 * unrest) & (drop > CRISP_DROP * rise)


def thing(inside: Mask, ends: Ends | None) -> Mask:
    """The one thing that is meant, its holes filled: that at whose ends was clicked, else the largest. Raises BadPicture."""
    pieces, sizes, boxes = masks.pieces(masks.filled(inside))
    if not boxes:
        raise BadPicture("nothing in it stands out from the background; use a background of another colour")
    sizes[0] = 0
    large = np.flatnonzero(sizes > LEAST_SHARE * inside.size)
    order = [int(n) for n in large[np.argsort(sizes[large])[::-1]]]
    if not order:
        raise BadPicture("what stands out is too small; come closer or crop the picture")
    if ends is not None:
        clicked = [n for n in order if _touches(pieces, n, ends.one, ends) and _touches(pieces, n, ends.two, ends)]
        for n in clicked:
            others, box = [o for o in order if o != n], boxes[n - 1]
            own = np.asarray(pieces[box] == n)
            if ends.beside or (others and _runs_on(own, box, ends)):
                order = [o for o in order if o not in clicked]
                break
            if others and fill_of(own, 1.0) > BAR_FILL:
                raise Misclicked(
                    "what was clicked is a straight bar with another thing beside it; if it is a ruler, say that the known "
                    "length lies beside the body"
                )
            return np.asarray(pieces == n)
        if not order:
            raise BadPicture("there is only what was clicked in it; leave the body in the picture")
    if len(order) > 1 and sizes[order[1]] > TWO_LARGE * sizes[order[0]]:
        raise BadPicture("there are two large things in it; crop the picture to the one to trace")
    return np.asarray(pieces == order[0])


def _touches(pieces: NDArray[np.int32], number: int, at: Place, ends: Ends) -> bool:
    reach = max(3.0, 1.5 * NEAR_SHARE * ends.apart)
    column, row = at
    top, left = max(0, int(row - reach)), max(0, int(column - reach))
    window = pieces[top : int(row + reach) + 2, left : int(column + reach) + 2] == number
    rows, columns = np.nonzero(window)
    return bool(len(rows) and (np.hypot(rows + top - row, columns + left - column) <= reach).any())


def _runs_on(mask: Mask, box: Box, ends: Ends) -> bool:
    """Whether a thing, in a box of the picture, runs on past one of the clicks: it was clicked along its way."""
    way = np.array([ends.two[0] - ends.one[0], ends.two[1] - ends.one[1]]) / ends.apart
    along = (masks.hull(mask) + [box[1].start, box[0].start] - ends.one) @ way
    return bool(max(-along.min(), along.max() - ends.apart) > BEYOND_SHARE * ends.apart)


def fill_of(mask: Mask, rim: float) -> float:
    """The share of its own box, laid along it, that a mask fills: nearly all where it is a straight bar. rim : by how much
    that is larger than its pixels' middles reach, px: 1 where the bar lies level, 0 askew."""
    across = masks.hull(mask) @ masks.axes_of(mask)
    return float(np.count_nonzero(mask) / max(np.prod(np.ptp(across, axis=0) + rim), 1.0))
