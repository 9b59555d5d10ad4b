"""Outlines as chains of cubic Bézier stretches, one between each two points, monotone in x.

The outline is first squeezed so that its length is twice its rise: a half ellipse becomes a half circle, and stretching
a body along its length only stretches its curves. There a smooth point takes the tangent of the circle through it and
its two neighbours, and handle lengths follow the circle arc's own, (4/3)·tan(θ/4), applied along each tangent, so that
quarter ellipses are met to 3 parts in 10,000 with two points, and better with more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import OutlinePoint

Array = NDArray[np.float64]

GUESSES_PER_STRETCH = 24
NEWTON_STEPS = 4
FLATTEST = 0.02
"""Outlines flatter than this (rise over length) are not squeezed further."""


@dataclass(frozen=True, eq=False)
class Curve:
    """An outline ready to be evaluated: `controls` is (stretches, 4, 2), Bézier points in mm."""

    controls: Array

    @property
    def knots(self) -> Array:
        """x of the outline's points, shape (stretches + 1,)."""
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
    return p[..., 0] * s**3 + 3.0 * p[..., 1] * s * s * t + 3.0 * p[..., 2] * s * t * t + p[..., 3] * t**3


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
        if start_free and not end_free and bends[i] == "smooth":
            leaving[i] = _end_tangent(points[i], arriving[i + 1], points[i + 1])
        if end_free and not start_free and bends[i + 1] == "smooth":
            back = _end_tangent(-points[i + 1] * [1, -1], leaving[i] * [1, -1], -points[i] * [1, -1])
            arriving[i + 1] = back * [1, -1]
    if bends[0] == "round":
        leaving[0] = [0.0, np.sign(chords[0, 1]) or 1.0]
    if bends[-1] == "round":
        arriving[-1] = [0.0, np.sign(chords[-1, 1]) or 1.0]
    return leaving, arriving


@lru_cache(maxsize=256)
def curve(outline: tuple[OutlinePoint, ...]) -> Curve:
    """The curve through an outline's points."""
    points = np.array([p.at_mm for p in outline], dtype=float)
    extent = np.ptp(points, axis=0)
    squeeze = np.array([extent[0] / 2.0, max(float(extent[1]), FLATTEST * float(extent[0]))])
    points = points / squeeze
    bends = [p.bend for p in outline]
    leaving, arriving = _tangents(points, bends)
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
    _keep_monotone(controls)
    return Curve(controls * squeeze)


def _keep_monotone(controls: Array) -> None:
    """Shorten handles that would make x turn back within a stretch."""
    span = controls[:, 3, 0] - controls[:, 0, 0]
    one, two = controls[:, 1] - controls[:, 0], controls[:, 3] - controls[:, 2]
    need = one[:, 0] + two[:, 0]
    factor = np.where(need > span, span / np.maximum(need, 1e-12), 1.0)[:, None]
    controls[:, 1] = controls[:, 0] + one * factor
    controls[:, 2] = controls[:, 3] - two * factor
