"""Outlines as chains of cubic Bézier stretches, one between each two points, monotone in x.

The outline is first squeezed so that its length is twice its rise: a half ellipse becomes a half circle, and stretching
a body along its length only stretches its curves. There a smooth point takes the tangent of the circle through it and
its two neighbours, and handle lengths follow the circle arc's own, (4/3)·tan(θ/4), applied along each tangent, so that
quarter ellipses are met to 3 parts in 10,000 with two points, and better with more.

A `smooth` point is held besides: its tangent lies flat where the points turn back or run level, is never steeper than
three times the flatter chord beside it (Fritsch and Carlson 1980), and handles stay within their stretch's rise, so that
between two points the curve never leaves their heights. Where the points about it lie on one conic (`conics`) it takes
that conic's tangent. An `arc` point takes the circle's tangent as it is and may rise above its points.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import OutlinePoint
from yellowbob.lines import conics

Array = NDArray[np.float64]

GUESSES_PER_STRETCH = 24
NEWTON_STEPS = 4
GIVEN = ("smooth", "arc")
"""Bends whose tangent at the end of an outline follows from its neighbours."""
STEEPEST = 3.0
"""A held tangent's slope over the flatter chord's beside it, at most (Fritsch and Carlson 1980)."""
FLATTEST = 0.02
"""Outlines flatter than this (rise over length) are not squeezed further."""


@dataclass(frozen=True, eq=False)
class Curve:
    """An outline ready to be evaluated: `controls` is (stretches, 4, 2), Bézier points in mm; between two of its
    points there may be several."""

    controls: Array

    @property
    def knots(self) -> Array:
        """x where stretches meet, every point of the outline among them; shape (stretches + 1,)."""
        return np.append(self.controls[:, 0, 0], self.controls[-1, 3, 0])

    def at(self, x: Array) -> Array:
        """Height (or half-width) at each x, mm; x beyond the ends takes the end's value."""
        knots = self.knots
        x = np.clip(np.asarray(x, dtype=float), knots[0], knots[-1])
        which = np.clip(np.searchsorted(knots, x, side="right") - 1, 0, len(self.controls) - 1)
        t = self._parameter(x, which)
        return _bezier(self.controls[which, :, 1], t)

    def _parameter(self, x: Array, which: NDArray[np.intp]) -> Array:
        steps = np.linspace(0.0, 1.0, GUESSES_PER_STRETCH)
        count = len(self.controls)
        along = _bezier(self.controls[:, None, :, 0], steps[None, :])
        whole = np.interp(x, along.ravel(), (np.arange(count)[:, None] + steps).ravel())
        t = np.clip(whole - which, 0.0, 1.0)
        px = self.controls[which, :, 0]
        for _ in range(NEWTON_STEPS):
            slope = np.maximum(_bezier_slope(px, t), 1e-9)
            t = np.clip(t - np.clip((_bezier(px, t) - x) / slope, -0.04, 0.04), 0.0, 1.0)
        return t

    def sampled(self, per_stretch: int = 16) -> Array:
        """Points along the curve, shape (stretches * per_stretch + 1, 2)."""
        t = np.linspace(0.0, 1.0, per_stretch, endpoint=False)
        points = np.stack([_bezier(self.controls[:, None, :, axis], t[None, :]) for axis in (0, 1)], axis=-1)
        return np.vstack([points.reshape(-1, 2), self.controls[-1, 3]])


def _bezier(p: Array, t: Array) -> Array:
    s = 1.0 - t
    return (p[..., 0] * s + 3.0 * p[..., 1] * t) * s * s + (3.0 * p[..., 2] * s + p[..., 3] * t) * t * t


def _bezier_slope(p: Array, t: Array) -> Array:
    s = 1.0 - t
    return 3.0 * (
        (p[..., 1] - p[..., 0]) * s * s + 2.0 * (p[..., 2] - p[..., 1]) * s * t + (p[..., 3] - p[..., 2]) * t * t
    )


def _circle_tangents(before: Array, here: Array, after: Array) -> Array:
    """Unit tangent at `here` of the circle through three points: chords weighted by the other chord's length."""
    one, two = here - before, after - here
    long_one, long_two = np.linalg.norm(one, axis=-1, keepdims=True), np.linalg.norm(two, axis=-1, keepdims=True)
    tangent = one / long_one * long_two + two / long_two * long_one
    return tangent / np.linalg.norm(tangent, axis=-1, keepdims=True)


def _end_tangent(end: Array, inner_tangent: Array, inner: Array) -> Array:
    """Tangent at an end so that the last stretch is a circle arc: the inner tangent mirrored in the chord."""
    chord = (inner - end) / np.linalg.norm(inner - end)
    mirrored = 2.0 * chord * float(chord @ inner_tangent) - inner_tangent
    if mirrored[0] <= 0.0:
        mirrored = np.array([0.0, np.sign(chord[1]) or 1.0])
    return mirrored


def _tangents(points: Array, bends: Sequence[str]) -> tuple[Array, Array]:
    """Leaving and arriving unit tangents at every point, each (n, 2); x components are never negative."""
    count = len(points)
    chords = np.diff(points, axis=0)
    chords /= np.linalg.norm(chords, axis=1, keepdims=True)
    leaving, arriving = np.vstack([chords, chords[-1]]), np.vstack([chords[0], chords])
    inner = [i for i in range(1, count - 1) if bends[i] != "corner"]
    if inner:
        middle = _circle_tangents(points[[i - 1 for i in inner]], points[inner], points[[i + 1 for i in inner]])
        middle[:, 0] = np.maximum(middle[:, 0], 0.0)
        leaving[inner] = arriving[inner] = middle
    # a stretch that ends in a corner, or at the end of the outline, completes the arc its other end began
    for i in range(count - 1):
        start_free = i == 0 or bends[i] == "corner"
        end_free = i + 1 == count - 1 or bends[i + 1] == "corner"
        if start_free and not end_free and bends[i] in GIVEN:
            leaving[i] = _end_tangent(points[i], arriving[i + 1], points[i + 1])
        if end_free and not start_free and bends[i + 1] in GIVEN:
            back = _end_tangent(-points[i + 1] * [1, -1], leaving[i] * [1, -1], -points[i] * [1, -1])
            arriving[i + 1] = back * [1, -1]
    if bends[0] == "round":
        leaving[0] = [0.0, np.sign(chords[0, 1]) or 1.0]
    if bends[-1] == "round":
        arriving[-1] = [0.0, np.sign(chords[-1, 1]) or 1.0]
    return leaving, arriving


def _held(points: Array, tangents: Array, inner: list[int]) -> Array:
    """Tangents (n, 2) of the held points flattened so that their cubic stays between its neighbours' heights."""
    out = tangents.copy()
    slopes = np.diff(points[:, 1]) / np.diff(points[:, 0])
    for end, slope in ((0, slopes[0]), (len(points) - 1, slopes[-1])):
        if out[end, 1] * slope < 0.0:
            out[end] = [1.0, 0.0]
    for i in inner:
        before, after = float(slopes[i - 1]), float(slopes[i])
        if before * after <= 0.0:
            out[i] = [1.0, 0.0]
            continue
        steepest = STEEPEST * min(abs(before), abs(after))
        if abs(out[i, 1]) > steepest * out[i, 0]:
            out[i] = np.array([1.0, np.sign(before) * steepest]) / np.hypot(1.0, steepest)
    return out


def squeeze_of(points: Array) -> Array:
    """(2,): by what points (n, 2) are divided before a curve is laid through them, so that all outlines are judged alike."""
    extent = np.ptp(points, axis=0)
    return np.array([extent[0] / 2.0, max(float(extent[1]), FLATTEST * float(extent[0]))])


@lru_cache(maxsize=256)
def curve(outline: tuple[OutlinePoint, ...]) -> Curve:
    """The curve through an outline's points."""
    points = np.array([p.at_mm for p in outline], dtype=float)
    squeeze = squeeze_of(points)
    points = points / squeeze
    bends = [p.bend for p in outline]
    leaving, arriving = _tangents(points, bends)
    held = np.array([b == "smooth" for b in bends])
    on = np.zeros(len(points))
    found: list[conics.Conic | None] = [None] * len(points)
    inner = [i for i in range(1, len(points) - 1) if held[i]]
    if held.any():
        found, on = conics.along(points, bends)
        flat = _held(points, np.vstack([leaving[:1], arriving[1:]]), inner)
        for i in np.flatnonzero(held).tolist():
            limited = flat[i]
            conic = found[i]
            if conic is not None and on[i] > 0.0:
                limited = _turned_to(
                    limited, conic.tangent(points[i], points[max(i, 1)] - points[max(i, 1) - 1]), on[i]
                )
            leaving[i] = arriving[i] = limited
    start, end = leaving[:-1], arriving[1:]
    chord = points[1:] - points[:-1]
    angle = np.minimum(np.arccos(np.clip(np.sum(start * end, axis=1), -1.0, 1.0)), 2.2)
    reach = 1.0 / (3.0 * np.cos(angle / 4.0) ** 2 * np.cos(angle / 2.0))
    length = np.linalg.norm(chord, axis=1)
    one = np.clip(reach * np.abs(np.sum(chord * start, axis=1)), 0.05 * length, 0.7 * length)
    two = np.clip(reach * np.abs(np.sum(chord * end, axis=1)), 0.05 * length, 0.7 * length)
    controls = np.empty((len(chord), 4, 2))
    controls[:, 0], controls[:, 3] = points[:-1], points[1:]
    controls[:, 1] = points[:-1] + start * one[:, None]
    controls[:, 2] = points[1:] - end * two[:, None]
    _keep_monotone(controls, 0, np.ones(len(chord), dtype=bool))
    beside = held[:-1] | held[1:]
    share = np.minimum(on[:-1], on[1:])
    _keep_monotone(controls, 1, beside & (share <= 0.0))
    stretches = [controls[k : k + 1] for k in range(len(controls))]
    for k in np.flatnonzero(beside & (share > 0.0)):
        stretches[k] = _followed(controls[k : k + 1], found[k] or found[k + 1], float(share[k]))
    return Curve(np.concatenate(stretches) * squeeze)


def bulge_mm(outline: tuple[OutlinePoint, ...]) -> float:
    """By how much, at most, the curve leaves the heights of the two points that it runs between, mm."""
    drawn = curve(outline)
    most = 0.0
    for one, two in pairwise(outline):
        (start, before), (end, after) = one.at_mm, two.at_mm
        heights = drawn.at(np.linspace(start, end, 33))
        most = max(most, float(heights.max()) - max(before, after), min(before, after) - float(heights.min()))
    return most


def _turned_to(one: Array, other: Array, share: float) -> Array:
    """A direction between two by a share, of unit length."""
    mixed = one * (1.0 - share) + other * share
    return np.asarray(mixed / np.linalg.norm(mixed))


def _followed(stretch: Array, conic: conics.Conic | None, share: float) -> Array:
    """A stretch (1, 4, 2) drawn by a share toward the conic it lies on; (k, 4, 2), several where it follows it wholly."""
    arc = None if conic is None else conic.arc(stretch[0, 0], stretch[0, 3])
    if arc is None:
        return stretch
    if share >= 1.0:
        return arc
    if len(arc) > 1:
        return stretch
    return np.asarray(stretch + share * (arc - stretch))


def _keep_monotone(controls: Array, axis: int, where: NDArray[np.bool_]) -> None:
    """Shorten handles that would make x (axis 0) or the height (axis 1) turn back within a stretch."""
    span = controls[:, 3, axis] - controls[:, 0, axis]
    one, two = controls[:, 1] - controls[:, 0], controls[:, 3] - controls[:, 2]
    need = one[:, axis] + two[:, axis]
    too_far = where & (np.abs(need) > np.abs(span) + 1e-15)
    factor = np.where(too_far, span / np.where(too_far, need, 1.0), 1.0)[:, None]
    controls[:, 1] = controls[:, 0] + one * np.clip(factor, 0.0, 1.0)
    controls[:, 2] = controls[:, 3] - two * np.clip(factor, 0.0, 1.0)
