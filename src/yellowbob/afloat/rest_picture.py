"""The rest map as a picture: energy and where each landing ends, over evenly spaced attitudes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from yellowbob.afloat.landing import RestMap, grid

Array = NDArray[np.float64]

COLUMNS, ROWS = 180, 90
"""Roll across from -180 to 180°, pitch down from 90 to -90°: cells of 2°."""
SMOOTH = 1.6
"""Cells over which the energy is evened, for it is known at points 4° apart, two cells."""


@dataclass(frozen=True, eq=False)
class RestPicture:
    """(ROWS, COLUMNS) energy, nJ, and the number of the rest that a landing there ends in (-1: none)."""

    energy: Array
    ends: NDArray[np.int32]


def _ups() -> Array:
    """(ROWS · COLUMNS, 3) world-up in body axes, row by row: `rest.up_from` for all at once."""
    pitch = (0.5 - (np.arange(ROWS) + 0.5) / ROWS) * math.pi
    roll = ((np.arange(COLUMNS) + 0.5) / COLUMNS - 0.5) * 2.0 * math.pi
    p, r = (one.ravel() for one in np.meshgrid(pitch, roll, indexing="ij"))
    return np.stack([-np.sin(p), -np.cos(p) * np.sin(r), np.cos(p) * np.cos(r)], axis=1)


@lru_cache(maxsize=1)
def _cells() -> NDArray[np.intp]:
    """For each attitude the direction of the rest map's grid that lies nearest."""
    return np.argmax(_ups() @ grid().directions.T, axis=1)


def rest_picture(found: RestMap) -> RestPicture:
    """Energy evened over the grid's spacing; along borders each cell is followed down by itself."""
    from scipy.ndimage import gaussian_filter

    energy = gaussian_filter(found.energies[_cells()].reshape(ROWS, COLUMNS), SMOOTH, mode=("nearest", "wrap"))
    ends = found.labels[_cells()].reshape(ROWS, COLUMNS).copy()
    if len(found.rests) > 1:
        border = np.zeros((ROWS, COLUMNS), dtype=bool)
        for step in (1, 2, 3):
            for axis in (0, 1):
                for way in (-step, step):
                    border |= np.roll(ends, way, axis) != ends
        ups = _ups().reshape(ROWS, COLUMNS, 3)
        for row, column in np.argwhere(border):
            end = found.ends_in(ups[row, column])
            if end >= 0:
                ends[row, column] = end
    return RestPicture(np.asarray(energy, dtype=float), ends)
