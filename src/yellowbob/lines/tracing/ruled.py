"""Straight lines that the ground is ruled with: joints of tiles, the squares of a mat or of paper, gaps between planks.

A ruled line is thin, runs to the picture's border, and has the same colour to both sides of it where it is seen; a stem is
as thin and as straight, but ends within the picture.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.courses import Course, away_from, course_of
from yellowbob.lines.tracing.masks import Mask

Array = NDArray[np.float64]
Colours = NDArray[np.float32]

GREYS = 60_000.0
"""Steps from dark to light in which what is thin is looked for."""
WIDEST_PX = 7.0
"""Half a ruled line's width at most, px at the working size."""
LEAST_STEP, STEADY = 0.035, 5.0
"""A line differs from what lies beside it by so much (0 to 1 a channel, square mean), and so many times the grain."""
MOST_FINE = 0.5
"""A picture that is thin things for so much of it is of a rough ground, not of a ruled one."""
FROM_BORDER_PX, FROM_BORDER_SHARE = 40, 0.85
"""So far in from the border a line is seen nearly everywhere;"""
LEAST_RUN_SHARE = 0.25
"""and in all along this share of the picture's shorter side."""
MOST_LINES, MOST_TRIED = 80, 160
APART_PX, BENT_PX = 4.0, 6.0
"""Two that lie nearer all along are one; and how far a line may be bent by the lens."""
FAR_PX = 8.0 * BENT_PX
"""Two whose middles lie further apart than this are two."""
SHY_PX = 3
"""Places so near one at which it is not seen are not relied on."""
PARALLEL = 0.97
"""Lines whose directions are so much alike do not cross."""
NEAR_MIDDLE_PX = 0.5
"""A line that lay so near its middle was put on it at once: what is left is a thirtieth of that."""
LAST = 2
"""A line is looked at last at every so manieth place."""
EACH = 3
"""Every so manieth place tells how rough the ground is, and how wide a line."""
BESIDE_PX = 6.0
"""What lies so far beside a line's edges tells the ground."""
STEPS = np.arange(-2.0 * WIDEST_PX - 1.0, 2.0 * WIDEST_PX + 1.1)
"""Places across a line, px from its middle."""


@dataclass(frozen=True, eq=False)
class Rule:
    """A line across a picture: places (n, 2) one px apart, x and y; its normals (n, 2); half its width, px; at which of its
    places, (n,), it is seen on the ground; what lies beside it, (n, 3), and by what it differs from that, (3,)."""

    places: Array
    normal: Array
    half: float
    seen: Mask
    ground: Colours
    step: Colours

    @property
    def edge(self) -> float:
        """How far from its middle nothing of it is left, px."""
        return self.half + 1.5

    @cached_property
    def course(self) -> Course:
        """See `course_of`."""
        return course_of(self.places, self.normal)


def rules_of(colour: Colours, quick: int | None = None) -> list[Rule]:
    """The ruled lines of a picture (h, w, 3). Raises BadPicture where they are more than are quick to look at; None: however
    long it takes."""
    found: list[Rule] = []
    for places, normal in _candidates(_fine(colour)):
        if any(_same(places, normal, other) for other in found):
            continue  # seen twice: not measured again
        rule = _measured(colour, places, normal)
        if rule is not None and not any(_same(rule.places, rule.normal, other) for other in found):
            found.append(rule)
        if quick is not None and len(found) > quick:
            raise BadPicture(
                f"its ground is ruled with more than {quick} lines, which may make tracing it take more than 2 s; come "
                "closer, or use another background (--patient looks for all of them)"
            )
        if len(found) >= MOST_LINES:
            break
    if len(found) == 1 and not min(_borders(found[0].seen)) > 0.0:
        return []  # one that runs to one border only may be an antenna that runs out of the picture
    return found


def _fine(colour: Colours) -> Mask:
    """What is thin and differs from what lies about it, in any channel."""
    calm = (masks.soft(colour, 0.8) * np.float32(GREYS)).astype(np.uint16)  # in half the time of numbers with a point
    kernel = np.ones((2 * round(WIDEST_PX) + 1,) * 2, dtype=np.uint8)
    above, below = (
        np.asarray(cv2.morphologyEx(calm, kind, kernel, borderType=cv2.BORDER_REFLECT))
        for kind in (cv2.MORPH_TOPHAT, cv2.MORPH_BLACKHAT)
    )
    most = np.maximum.reduce(cv2.split(cv2.max(above, below)))  # many times as fast as along an axis
    step = most / np.float32(GREYS)
    return np.asarray(step > max(1.5 * LEAST_STEP, 2.5 * float(masks.median(step[::4, ::4].ravel()))))


def _candidates(fine: Mask) -> Iterator[tuple[Array, Array]]:
    """Places (n, 2), one px apart from border to border, and normals, of what may be lines; the longest first."""
    share = float(fine.mean())
    if not 0.0 < share < MOST_FINE:
        return
    shorter = min(fine.shape)
    half = np.zeros(fine.shape, dtype=np.uint8)  # every other pixel: in half the time
    half[::2, ::2], half[1::2, 1::2] = fine[::2, ::2], fine[1::2, 1::2]
    told = cv2.HoughLinesP(half, 1.0, np.pi / 180.0, round(0.06 * shorter), None, 0.12 * shorter, 10.0)
    if told is None:
        return
    pieces: Array = np.asarray(told, dtype=float).reshape(-1, 4)
    long = np.hypot(pieces[:, 2] - pieces[:, 0], pieces[:, 3] - pieces[:, 1])
    order = np.argsort(-long, kind="stable")
    pieces, long = pieces[order], long[order]
    rows, columns = np.nonzero(fine)
    points = np.stack([columns, rows], axis=1).astype(float)[:: max(1, len(rows) // 6_000)]
    left, tried = np.ones(len(pieces), dtype=bool), 0
    while left.any() and tried < MOST_TRIED:
        first = int(np.argmax(left))
        one, way = pieces[first, :2], (pieces[first, 2:] - pieces[first, :2]) / long[first]
        places, normal = _along(points, one, way, fine.shape)
        tried, left[first] = tried + 1, False
        if len(places) < LEAST_RUN_SHARE * shorter:
            continue
        yield places, normal
        ends = pieces.reshape(-1, 2)
        off = away_from(ends, course_of(places, normal))
        left &= off.reshape(-1, 2).max(axis=1) > APART_PX


def _along(points: Array, one: NDArray[Any], way: NDArray[Any], shape: tuple[int, ...]) -> tuple[Array, Array]:
    """A line through a place, bent to the fine points near it, from border to border."""
    across, scale = np.array([-way[1], way[0]]), float(max(shape))
    off = points @ across - one @ across
    near = np.abs(off) <= 2.0 * BENT_PX
    s, off, terms = (points[near] - one) @ way / scale, off[near], np.zeros(3)
    for reach in (BENT_PX, 0.6 * BENT_PX, 0.5 * BENT_PX):
        near = np.abs(off - np.polyval(terms, s)) <= reach
        if np.count_nonzero(near) < 30:
            break
        degree = 2 if np.ptp(s[near]) > 0.4 else 1
        terms = np.concatenate([np.zeros(2 - degree), np.polyfit(s[near], off[near], degree)])
    last = np.array([shape[1] - 1.0, shape[0] - 1.0])
    ends = (np.array([[0.0, 0.0], [last[0], 0.0], [0.0, last[1]], last]) - one) @ way
    s = np.arange(np.floor(ends.min()), ends.max() + 1.0)
    aside = np.polyval(terms, s / scale)
    x, y = (one[n] + s * way[n] + aside * across[n] for n in (0, 1))
    there = (x >= 0) & (x <= last[0]) & (y >= 0) & (y <= last[1])
    places = np.stack([x[there], y[there]], axis=1)
    if len(places) < 3:
        return places, places
    tangent = np.gradient(places, axis=0)
    tangent /= np.maximum(np.hypot(tangent[:, :1], tangent[:, 1:]), 1e-9)
    return places, np.stack([-tangent[:, 1], tangent[:, 0]], axis=1)


def _measured(colour: Colours, places: Array, normal: Array) -> Rule | None:
    """Where a line is seen, and how wide it is; None where it is no ruled line."""
    least_run = LEAST_RUN_SHARE * min(colour.shape[:2])
    half, astray = WIDEST_PX, np.inf
    # to put it on its middle, again where it was far off; with room for the widest; close by its own edges
    for look, every in ((2.0, 4), (2.0, 4), (1.0, 4), (1.0, LAST)):
        if look > 1.5 and astray < NEAR_MIDDLE_PX:
            continue
        steps = STEPS[np.abs(STEPS) <= half + BESIDE_PX]
        across = masks.read_across(colour, places[::every], normal[::every], steps)
        seen, step, beside = _seen(across, steps, half, look)
        middle = np.float32(0.5) * (beside[0] + beside[1])
        # all of what it differs by: a fine line between two rows of pixels is half as far from the ground on each
        whole = (across[np.abs(steps) <= 2.0] - middle).sum(axis=0)
        if seen.any():
            usual, most = masks.median(step[seen]), masks.median(whole[seen])
            seen &= size_of(whole - most) < 0.5 * size_of(most)
        if every * np.count_nonzero(seen) < least_run:
            return None
        along = usual / max(float(usual @ usual), 1e-9)
        shares = ((across - middle).reshape(-1, 3) @ along).reshape(len(steps), -1).T[seen]
        if look > 1.5:
            shares = np.clip(np.where(np.abs(steps) <= BENT_PX, shares, 0.0), 0.0, None)
            off = (shares @ steps) / np.maximum(shares.sum(axis=1), 1e-9)
            numbers = np.arange(len(places)) / len(places)
            aside = np.polyval(np.polyfit(numbers[::every][seen], off, 2), numbers)
            places, astray = places + aside[:, None] * normal, float(np.abs(aside).max())
            continue
        wide = np.abs(steps[masks.median(shares[::EACH]) > 0.12])
        half = float(wide[wide <= half + 1.0].max()) if wide.size else half
        if half > WIDEST_PX:
            return None
    seen = seen.repeat(LAST)[: len(places)]
    if not _from_border(seen):
        return None
    seen &= _share_about(seen, SHY_PX) > 0.99
    if np.count_nonzero(seen) < least_run:
        return None
    at, looked = np.arange(len(seen)), seen[::LAST]
    ground = np.stack([np.interp(at, at[::LAST][looked], channel) for channel in middle[looked].T], axis=1)
    return Rule(places, normal, half, seen, ground.astype(np.float32), usual)


def _seen(across: Colours, steps: Array, half: float, look: float) -> tuple[Mask, Colours, Colours]:
    """At which places a line of a half width, looked for so far from its middle, differs from both sides, which are alike;
    by what it differs, (n, 3); and what lies to both sides, (2, n, 3)."""
    sides = [np.flatnonzero((k * steps > half + 1.5) & (k * steps < half + BESIDE_PX)) for k in (-1, 1)]
    beside = np.stack([masks.median(across[side]) for side in sides])
    offs = across[np.abs(steps) <= look] - np.float32(0.5) * (beside[0] + beside[1])
    step = offs[np.argmax(size_of(offs), axis=0), np.arange(offs.shape[1])]
    about = across[np.abs(steps) > half + 1.5, ::EACH]
    about = about - about.mean(axis=0)
    grain = np.sqrt(np.einsum("kni,kni->n", about, about) / (3.0 * len(about)))
    least = max(LEAST_STEP, STEADY * float(np.partition(grain, len(grain) // 5)[len(grain) // 5]) / 2.0)
    if look > 1.5:
        least = 0.5 * LEAST_STEP
    alike = size_of(beside[0] - beside[1]) < np.maximum(0.4 * size_of(step), least)
    return _evened((size_of(step) > least) & alike), step, beside


def size_of(colours: Colours) -> NDArray[np.float32]:
    """Square mean over the channels, the last axis of (…, 3)."""
    return np.asarray(np.sqrt(np.einsum("...i,...i->...", colours, colours) / 3.0))


def _evened(seen: Mask) -> Mask:
    """What most of its neighbours along the line say."""
    return np.asarray(seen & (_share_about(seen, 3) > 0.5))


def _share_about(seen: Mask, reach: int) -> NDArray[np.float32]:
    """At which share of the places within a reach of each a line is seen; beyond its ends it goes on as there."""
    row = seen.astype(np.float32)[None, :]
    return np.asarray(cv2.blur(row, (2 * reach + 1, 1), borderType=cv2.BORDER_REPLICATE))[0]


def _borders(seen: Mask) -> tuple[float, float]:
    """Shares of its first and last places at which a line is seen."""
    return float(seen[:FROM_BORDER_PX].mean()), float(seen[-FROM_BORDER_PX:].mean())


def _from_border(seen: Mask) -> bool:
    return max(_borders(seen)) >= FROM_BORDER_SHARE


def _same(places: Array, normal: Array, other: Rule) -> bool:
    """Whether a line at places and another are one, or nearly."""
    if abs(float(normal[0] @ other.normal[0])) < PARALLEL:
        return False
    origin, frame, _, _ = other.course
    if abs(float((places[len(places) // 2] - origin) @ frame[:, 1])) > FAR_PX:
        return False  # told at once: most are
    return bool((away_from(places[:: max(1, len(places) // 12)], other.course) <= APART_PX).mean() > 0.6)
