"""The edges of a triangle mesh."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Faces = NDArray[np.integer[Any]]

MOST_CORNERS = 2**21 - 1
"""Corners that a mesh may have: three of their numbers are packed into one of 64 bits."""


def packed(rows: Faces) -> NDArray[np.uint64]:
    """One number for each row of up to three corner numbers: they sort and compare far quicker than rows."""
    found = rows[:, 0].astype(np.uint64)
    for k in range(1, rows.shape[1]):
        found = (found << np.uint64(21)) | rows[:, k].astype(np.uint64)
    return found


def mesh_edges(faces: Faces) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """(k, 2) edges of faces (m, 3), lower corner first, and (m, 3) which of them runs from corner 0 to 1, 1 to 2, 2 to 0."""
    sides = np.sort(np.stack([faces, np.roll(faces, -1, axis=1)], axis=2).reshape(-1, 2).astype(np.int64), axis=1)
    _, first, which = np.unique(packed(sides), return_index=True, return_inverse=True)
    return sides[first], which.reshape(-1, 3)
