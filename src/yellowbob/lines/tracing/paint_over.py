"""Ruled lines painted over with what lies beside them, and the little that is left of them against the body.

Where two cross, neither has the ground to both sides: the ground before and after is put there. A line between the clicked
ends may be the body's own stem, and stays.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.courses import Bows
from yellowbob.lines.tracing.levels import Place
from yellowbob.lines.tracing.masks import Mask
from yellowbob.lines.tracing.ruled import (
    LEAST_STEP,
    PARALLEL,
    WIDEST_PX,
    Array,
    Colours,
    Rule,
    rules_of,
    size_of,
)

CLEAR_PX = 12.0
"""So near its crossing with another a line is not seen."""
STRANGE = 0.15
"""What lies beside a line differs from the ground by less than this share of the line's step, or is no ground."""
END_PX = 400
"""How far a line may run on with the ground to one side of it only."""
ITS_OWN = 0.3
"""A pixel has the line's colour that differs from it by less than this share of the line's step;"""
ASTRAY = 0.12
"""and it passes over into it that strays from the way between the two by less than this share."""
FINE_PX, HALF_WAY = 1.0, 0.4
"""Half the width of a line that pixels do not draw evenly; and the share of its step from which on it is the line."""
LEAST_HIDDEN, SPARE_HIDDEN = 4, 12
"""Places inside an outline from which on it covers a line, and as many outside as a soft edge and a shadow may."""
KEPT_PX, KEPT_SLOPE = 14.0, 0.2
"""A line that passes so near a clicked end, and is no steeper to the line between the clicks, may be the body's own stem."""


@dataclass(frozen=True, eq=False)
class Unruled:
    """A picture (h, w, 4) without its ruled lines, how many there were, and whether all of each could be told from the body:
    not where the body has its colour, and it runs along it. hidden : runs of places (n, 2), px, where one is covered."""

    pixels: Colours
    count: int
    told_apart: bool
    hidden: tuple[Array, ...] = ()

    def beyond(self, outline: Array) -> float:
        """How far lines are covered outside an outline (n, 2), px, that covers them inside; by how far they are inside."""
        from skimage.measure import points_in_poly

        inside, outside = 0, 0
        for places in self.hidden:
            within = int(np.count_nonzero(points_in_poly(places, outline)))
            if within >= LEAST_HIDDEN:
                inside, outside = inside + within, outside + max(0, len(places) - within - SPARE_HIDDEN)
        return outside / inside if inside else 0.0


def without_rules(pixels: Colours, kept: Sequence[Place] = (), quick: int | None = None) -> Unruled:
    """A picture (h, w, 4), 0 to 1, its ruled lines painted over. Raises BadPicture as `rules_of` does.

    kept : the two clicked ends, px; what leads from one to the other stays.
    """
    colour = masks.colours_of(pixels)
    whole = rules_of(colour, quick)
    rules = [part for rule in whole for part in _but_kept(rule, kept)]
    if not rules:
        return Unruled(pixels, 0, True)
    strips = [_strip(rule, colour.shape) for rule in rules]
    for rule, strip in zip(rules, strips, strict=True):
        _paint_over(colour, rule, strip, np.flatnonzero(rule.seen))
    crossed = _crossings(rules)
    for rule, strip, where in zip(rules, strips, crossed, strict=True):
        _paint_over(colour, rule, strip, np.flatnonzero(where), plainly=True)
    gone = [rule.seen | where for rule, where in zip(rules, crossed, strict=True)]
    told = [_paint_ends(colour, *one) for one in zip(rules, strips, gone, strict=True)]
    hidden = (run for rule, where in zip(rules, gone, strict=True) for run in _runs(rule.places, ~where))
    return Unruled(masks.coloured(pixels, colour), len(whole), all(told), tuple(hidden))


def _crossings(rules: list[Rule]) -> list[Mask]:
    """At which of each line's places another crosses it, so that neither has the ground to both sides."""
    normals, halves = np.array([rule.normal[0] for rule in rules]), np.array([rule.half for rule in rules])
    bows = Bows.of([rule.course for rule in rules])
    found = []
    for rule in rules:
        crosses = np.abs(normals @ rule.normal[0]) < PARALLEL  # never itself
        near = bows.away(rule.places[::3]) <= halves + rule.half + CLEAR_PX
        where = np.repeat((near & crosses).any(axis=1), 3)[: len(rule.places)]
        found.append(where & ~rule.seen & _between(rule.seen, 4 * round(WIDEST_PX)))
    return found


def _but_kept(rule: Rule, kept: Sequence[Place]) -> list[Rule]:
    """The line, or what lies to both sides of what may be a stem of it between the clicked ends."""
    if not kept:
        return [rule]
    one, two = (np.asarray(end) for end in kept)
    apart = float(np.hypot(*(two - one)))
    way = (two - one) / apart
    at = rule.places[rule.seen]
    near = min(float(np.hypot(*(at - end).T).min()) for end in (one, two)) <= KEPT_PX
    if not near or abs(float((rule.normal @ way).mean())) > KEPT_SLOPE:
        return [rule]
    along = (rule.places - one) @ way
    parts = (
        replace(rule, places=rule.places[p], normal=rule.normal[p], seen=rule.seen[p], ground=rule.ground[p])
        for p in (along < 0.0, along > apart)
    )
    return [part for part in parts if part.seen.any()]


def _runs(of: Array, these: Mask) -> list[Array]:
    """What lies unbroken in a row of them."""
    changes = np.flatnonzero(np.diff(np.concatenate([[0], these.astype(int), [0]])))
    return [of[one:two] for one, two in zip(changes[::2], changes[1::2], strict=True)]


def _longest(these: Mask) -> int:
    """Most of them in a row."""
    return max((len(run) for run in _runs(np.arange(float(len(these))), these)), default=0)


def _between(seen: Mask, reach: int) -> Mask:
    """Which places have one that is seen within `reach` before and after them."""
    numbers = np.arange(len(seen))
    before = np.maximum.accumulate(np.where(seen, numbers, -(10**6)))
    after = np.minimum.accumulate(np.where(seen, numbers, 10**6)[::-1])[::-1]
    return np.asarray((numbers - before <= reach) & (after - numbers <= reach))


@dataclass(frozen=True, eq=False)
class Strip:
    """A line's pixels: which (n,), counted along the rows; by which of its places each lies (n,); how far across (n,), px."""

    pixel: NDArray[np.intp]
    number: NDArray[np.intp]
    offset: Array


def _strip(rule: Rule, shape: tuple[int, ...]) -> Strip:
    """The pixels of a picture (h, w) that lie within a line's edges."""
    origin, frame, _, _ = rule.course
    low = np.maximum(np.floor(rule.places.min(axis=0) - rule.edge - 2.0), 0.0).astype(np.intp)
    far = np.minimum(rule.places.max(axis=0) + rule.edge + 3.0, [shape[1], shape[0]]).astype(np.intp)
    drawn = np.zeros((far - low)[::-1], dtype=np.uint8)
    few = np.append(np.arange(0, len(rule.places) - 1, 8), len(rule.places) - 1)
    course = np.rint(rule.places[few] - low).astype(np.int32)
    cv2.polylines(drawn, [course], False, 1, thickness=int(2.0 * rule.edge) + 5)  # wider than needed: it is looked at
    rows, columns = np.nonzero(drawn)
    rows, columns = rows + low[1], columns + low[0]
    place = np.stack([columns, rows], axis=1).astype(float)
    along = (rule.places - origin) @ frame[:, 0]
    number = np.rint(np.interp((place - origin) @ frame[:, 0], along, np.arange(len(along)))).astype(np.intp)
    away, normal = place - rule.places[number], rule.normal[number]
    offset = np.einsum("ij,ij->i", away, normal)
    beyond = np.abs(away[:, 0] * normal[:, 1] - away[:, 1] * normal[:, 0])
    its = (np.abs(offset) <= rule.edge + 0.5) & (beyond <= 1.0)
    return Strip((rows * shape[1] + columns)[its], number[its], offset[its])


def _paint_over(
    colour: Colours, rule: Rule, strip: Strip, where: NDArray[np.intp], side: NDArray[np.intp] | None = None,
    plainly: bool = False,
) -> None:  # fmt: skip
    """Paint a line over at some of its places, in place: every pixel gets what lies as far outside as it lies inside.

    side : -1 or 1 for each place: from that side of it only. What has another colour than the line's is left alone.
    plainly : with the colour of the ground before and after it.
    """
    if not len(where):
        return
    way = np.zeros(len(rule.places), dtype=np.intp)
    way[where] = 1 if side is None else side
    chosen = np.flatnonzero(way[strip.number])
    pixel, number, offset = strip.pixel[chosen], strip.number[chosen], strip.offset[chosen]
    flat = colour.reshape(-1, 3)
    out = 2.0 * rule.edge * (np.where(offset >= 0, 1, -1) if side is None else way[number]) - offset
    ground = rule.ground[number]
    read = ground if plainly else _read(colour, rule.places[number] + out[:, None] * rule.normal[number])
    strange = size_of(read - ground) > STRANGE * size_of(rule.step)
    read[strange] = ground[strange]  # another line's, or the body's, that lies so near
    its = _its_own(flat[pixel] - read, rule)
    flat[pixel[its]] = read[its]


def _its_own(off: Colours, rule: Rule, least: float = -ITS_OWN) -> Mask:
    """Which colours, by what they differ from the ground, (n, 3), are a line's, or pass over into it by a share."""
    size = float(size_of(rule.step))
    share = off @ rule.step / max(float(rule.step @ rule.step), 1e-9)
    astray = size_of(off - share[:, None] * rule.step) < max(ASTRAY * size, LEAST_STEP)
    # a fine line is drawn by one row of pixels or by two, each half as far from the ground
    most = (2.0 if rule.half <= FINE_PX else 1.0) + 2.0 * ITS_OWN
    return np.asarray((size_of(off - rule.step) < ITS_OWN * size) | (astray & (share > least) & (share < most)))


def _read(colour: Colours, places: Array) -> Colours:
    """Colours (n, 3) at places (n, 2)."""
    return np.asarray(masks.read_at(colour, places[:, :1], places[:, 1:])[:, 0])


def _paint_ends(colour: Colours, rule: Rule, strip: Strip, gone: Mask) -> bool:
    """Paint over what is left of a line, gone at some of its places, where it is then gone too, against the body: as long as
    it has the ground to one side. Whether all of it could be."""
    out, all_gone = rule.edge + 1.5, True
    middle = _read(colour, rule.places)
    sides = [_read(colour, rule.places + k * out * rule.normal) for k in (-1, 1)]
    near, beyond = ITS_OWN * float(size_of(rule.step)), round(rule.edge) + 2
    for at in np.flatnonzero(np.diff(gone.astype(int))):  # as it was at first
        last, way = (int(at), 1) if gone[at] else (int(at) + 1, -1)
        ahead = last + way * np.arange(1, END_PX)
        ahead = ahead[(ahead >= 0) & (ahead < len(middle))]
        again = np.flatnonzero(gone[ahead])  # a gap between two of its places
        bounded = len(ahead) < END_PX - 1 or len(again) > 0
        ahead = ahead[: again[0]] if len(again) else ahead
        if not len(ahead):
            continue
        ground = rule.ground[last]
        aways = np.stack([size_of(one[ahead] - ground) for one in sides])
        line = _its_own(middle[ahead] - ground, rule, HALF_WAY)
        beside = np.asarray(aways.min(axis=0) < near)
        crossed = np.stack([_its_own(one[ahead] - ground, rule, HALF_WAY) for one in sides]).any(axis=0)
        goes_on = line & (beside | (crossed & _between(line & beside, 2 * beyond)))
        count = int(np.argmin(goes_on)) if not goes_on.all() else len(ahead)
        ends_unseen = np.mean(line[count : count + beyond]) > 0.5 if count < len(ahead) else not bounded
        if ends_unseen or _longest((beside & crossed)[:count]) > 4 * beyond:
            all_gone &= count < 4 * beyond
            continue
        gone[ahead[:count]] = True
        side = np.where(aways[0] < aways[1], -1, 1)
        side[count:] = side[max(0, count - 1)]
        _paint_over(colour, rule, strip, ahead[: count + beyond], side[: count + beyond])
    return all_gone
