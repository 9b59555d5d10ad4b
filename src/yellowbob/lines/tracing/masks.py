"""Masks and planes of pixels, by OpenCV: depth, growing, pieces, holes, blur. Distances are exact, pieces 4-joined."""

from __future__ import annotations

from functools import cache
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]
Mask = NDArray[np.bool_]

Box = tuple[slice, slice]

TO_XYZ = np.array([[0.412453, 0.357580, 0.180423], [0.212671, 0.715160, 0.072169], [0.019334, 0.119193, 0.950227]])
"""Tristimulus values of sRGB's three lights (ITU-R BT.709)."""
LIGHT_STEPS = 8 * 255
"""Finer than eight bits: pixels are means of several."""


def depth(mask: Mask) -> Array:
    """Distance of every pixel of a mask to the nearest one outside it, px; 0 outside. The picture's border is no outside."""
    return np.asarray(cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE))


def thickness(mask: Mask) -> float:
    """Twice the greatest depth, px; 0 of an empty mask."""
    return 2.0 * float(depth(mask[box_of(mask, 1)]).max()) if mask.any() else 0.0


def within(core: Mask, radius: float) -> Mask:
    """What lies within a radius, px, of a mask."""
    return np.asarray(depth(~core) <= radius) if core.any() else np.zeros(core.shape, dtype=bool)


def grown(mask: Mask, steps: int) -> Mask:
    """A mask grown by so many steps to its four neighbours."""
    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    return np.asarray(cv2.dilate(mask.astype(np.uint8), cross, iterations=steps)).astype(bool)


def squared(mask: Mask, side: int) -> Mask:
    """A mask grown by a square of so many pixels a side."""
    return np.asarray(cv2.dilate(mask.astype(np.uint8), np.ones((side, side), dtype=np.uint8))).astype(bool)


def rim(mask: Mask) -> Mask:
    """The pixels of a mask that have a neighbour outside; those at the picture's border have."""
    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    inner = cv2.erode(mask.astype(np.uint8), cross, borderType=cv2.BORDER_CONSTANT, borderValue=0)
    return np.asarray(mask & (np.asarray(inner) == 0))


def pieces(mask: Mask) -> tuple[NDArray[np.int32], NDArray[np.int64], list[Box]]:
    """The mask's pieces numbered from 1, pixels of each number (0 is what is no piece), and the box of each piece."""
    count, numbers, told, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    boxes = [(slice(int(y), int(y + h)), slice(int(x), int(x + w))) for x, y, w, h, _ in told[1:]]
    return np.asarray(numbers), np.bincount(np.asarray(numbers).ravel(), minlength=count), boxes


def largest(mask: Mask) -> Mask:
    """The mask's largest piece; an empty mask as it is."""
    numbers, sizes, boxes = pieces(mask)
    return np.asarray(numbers == 1 + int(np.argmax(sizes[1:]))) if len(boxes) > 1 else mask


def filled(mask: Mask) -> Mask:
    """A mask with its holes: what cannot be reached from the picture's border."""
    _, outside = cv2.connectedComponents(np.pad(~mask, 1, constant_values=True).astype(np.uint8), connectivity=4)
    return np.asarray(np.asarray(outside)[1:-1, 1:-1] != outside[0, 0])


def dab(shape: tuple[int, ...], at: tuple[float, float], radius: float) -> tuple[Box, Mask]:
    """A round spot about a place (x, y), px: the box of a picture that it lies in, and the mask within that."""
    (left, right), (top, end) = (
        np.clip([np.floor(v - radius), np.ceil(v + radius) + 1], 0, most).astype(int)
        for v, most in zip(at, shape[1::-1], strict=True)
    )
    box = (slice(top, end), slice(left, right))
    rows, columns = np.ogrid[box]
    return box, np.asarray((columns - at[0]) ** 2 + (rows - at[1]) ** 2 <= radius * radius)


def inside(outline: Array, shape: tuple[int, ...]) -> Mask:
    """The pixels of a picture within a closed outline, (n, 2), x and y, px."""
    drawn = cv2.fillPoly(np.zeros(shape[:2], dtype=np.uint8), [outline.round().astype(np.int32)], (1,))
    return np.asarray(drawn).astype(bool)


def soft(values: Array, sigma: float) -> Array:
    """Blurred by a Gaussian of so many pixels, (h, w) or (h, w, c), channels apart."""
    size = 2 * int(4.0 * sigma + 0.5) + 1
    given = np.ascontiguousarray(values, dtype=np.float32)
    return np.asarray(cv2.GaussianBlur(given, (size, size), sigma, borderType=cv2.BORDER_REFLECT))


def box_of(mask: Mask, margin: int) -> Box:
    """The box about a mask and a margin, within the picture; the whole picture for an empty mask."""
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    if not len(rows):
        return slice(0, mask.shape[0]), slice(0, mask.shape[1])
    return (slice(max(0, int(rows[0]) - margin), int(rows[-1]) + margin + 1),
            slice(max(0, int(columns[0]) - margin), int(columns[-1]) + margin + 1))  # fmt: skip


def read_at(plane: Array, x: Array, y: Array) -> NDArray[np.float32]:
    """A plane, (h, w) or (h, w, c), read between its pixels at places (n, m), px; beyond the border it goes on as there."""
    given, columns, rows = (np.ascontiguousarray(v, dtype=np.float32) for v in (plane, x, y))
    read = cv2.remap(given, columns, rows, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(read, dtype=np.float32)


def lab(pixels: Array) -> NDArray[np.float32]:
    """CIE 1976 L*a*b* of pixels (h, w, 3) in sRGB, 0 to 1, before a white of D65 (CIE 15; IEC 61966-2-1)."""
    at = np.clip(np.asarray(pixels, dtype=np.float32) * LIGHT_STEPS + 0.5, 0, LIGHT_STEPS).astype(np.uint16)
    to_white = TO_XYZ / TO_XYZ.sum(axis=1, keepdims=True)
    ratio = _light()[at] @ to_white.T.astype(np.float32)
    x, y, z = np.moveaxis(np.where(ratio > (6 / 29) ** 3, np.cbrt(ratio), ratio * (29 / 6) ** 2 / 3 + 4 / 29), -1, 0)
    return np.stack([116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)], axis=-1)


@cache
def _light() -> NDArray[np.float32]:
    """The light of LIGHT_STEPS + 1 even steps of sRGB's values, after IEC 61966-2-1."""
    steps = np.linspace(0.0, 1.0, LIGHT_STEPS + 1)
    return np.where(steps <= 0.04045, steps / 12.92, ((steps + 0.055) / 1.055) ** 2.4).astype(np.float32)
