"""The courses of ruled lines: how far places lie from one, or from many at once. They are bent little, as by a lens."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

LEVER_PX = 0.5
"""A bow is laid through ends that lie so much further apart than they do."""

Course = tuple[Array, Array, Array, Array]


def course_of(places: Array, normal: Array) -> Course:
    """A line's middle (2,), a frame (2, 2) of the ways along and across it there, and how far across (k,) it lies at some
    places along it (k,), which rise; px. It is bent little enough to be known by a few of them."""
    middle, few = len(places) // 2, np.append(np.arange(0, len(places) - 1, 8), len(places) - 1)
    origin, across = places[middle], normal[middle]
    frame = np.column_stack([[across[1], -across[0]], across])
    along, off = ((places[few] - origin) @ frame).T
    order = np.argsort(along)
    return origin, frame, along[order], off[order]


def away_from(places: Array, course: Course) -> Array:
    """How far places (n, 2) lie from a line, px."""
    origin, frame, its, off = course
    along, across = ((places - origin) @ frame).T
    return np.asarray(np.abs(across - np.interp(along, its, off)))


@dataclass(frozen=True, eq=False)
class Bows:
    """Many lines at once, each as the bow through its ends and its middle: origins (k, 2), ways along and across (k, 2),
    how far they reach along (k, 2), and terms of the bow (k, 2), of the square and of the first power, px."""

    origin: Array
    along: Array
    across: Array
    reach: Array
    terms: Array

    @classmethod
    def of(cls, courses: Sequence[Course]) -> Bows:
        """Of lines' courses."""
        frames = np.array([frame for _, frame, _, _ in courses])
        reach = np.array([[its[0], its[-1]] for _, _, its, _ in courses])
        ends = np.array([[off[0], off[-1]] for _, _, _, off in courses])
        low, high = reach[:, 0] - LEVER_PX, reach[:, 1] + LEVER_PX  # a middle that is an end, too, divides nothing
        slopes = ends / np.stack([low, high], axis=1)
        square = (slopes[:, 1] - slopes[:, 0]) / (high - low)
        terms = np.stack([square, slopes[:, 0] - square * low], axis=1)
        return cls(np.array([origin for origin, _, _, _ in courses]), frames[:, :, 0], frames[:, :, 1], reach, terms)

    def away(self, places: Array) -> Array:
        """How far places (n, 2) lie from each line, (n, k), px."""
        along = np.clip(places @ self.along.T - (self.origin * self.along).sum(axis=1), *self.reach.T)
        across = places @ self.across.T - (self.origin * self.across).sum(axis=1)
        return np.asarray(np.abs(across - (self.terms[:, 0] * along + self.terms[:, 1]) * along))
