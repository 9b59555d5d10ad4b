"""Masks and planes of pixels, by OpenCV: depth, growing, pieces, holes, blur. Distances are exact, pieces 4-joined."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
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
TO_LAB = np.array([[0.0, 116.0, 0.0, -16.0], [500.0, -500.0, 0.0, 0.0], [0.0, 200.0, -200.0, 0.0]])
"""Lightness and the two colour axes of the roots of X, Y and Z, and 1 (CIE 15)."""
FEW = 12
"""So many rows are put in order one against another."""
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
    near = np.zeros(core.shape, dtype=bool)
    if core.any():
        box = box_of(core, int(radius) + 1)
        near[box] = depth(~core[box]) <= radius
    return near


def grown(mask: Mask, steps: int) -> Mask:
    """A mask grown by so many steps to its four neighbours."""
    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    return np.asarray(cv2.dilate(mask.astype(np.uint8), cross, iterations=steps)).astype(bool)


def shrunk(mask: Mask, steps: int) -> Mask:
    """A mask without what has one outside within so many steps to its four neighbours; the picture's border is no outside."""
    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    return np.asarray(cv2.erode(mask.astype(np.uint8), cross, iterations=steps)).astype(bool)


def squared(mask: Mask, side: int) -> Mask:
    """A mask grown by a square of so many pixels a side."""
    return np.asarray(cv2.dilate(mask.astype(np.uint8), np.ones((side, side), dtype=np.uint8))).astype(bool)


def rim(mask: Mask) -> Mask:
    """The pixels of a mask that have a neighbour outside; those at the picture's border have."""
    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    inner = cv2.erode(mask.astype(np.uint8), cross, borderType=cv2.BORDER_CONSTANT, borderValue=0)
    return np.asarray(mask & (np.asarray(inner) == 0))


@dataclass(frozen=True, eq=False)
class Boxes(Sequence[Box]):
    """Boxes of pieces, made when they are asked for: rough ground has thousands. told (n, 4): left, top, width, height."""

    told: NDArray[Any]

    def __len__(self) -> int:
        return len(self.told)

    def __getitem__(self, at: Any) -> Any:
        x, y, w, h = (int(value) for value in self.told[at])
        return slice(y, y + h), slice(x, x + w)


def pieces(mask: Mask) -> tuple[NDArray[np.int32], NDArray[np.int64], Boxes]:
    """The mask's pieces numbered from 1, pixels of each number (0 is what is no piece), and the box of each piece."""
    _, numbers, told, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    stats = np.asarray(told)
    return np.asarray(numbers), stats[:, cv2.CC_STAT_AREA].astype(np.int64), Boxes(stats[1:, : cv2.CC_STAT_AREA])


def largest(mask: Mask) -> Mask:
    """The mask's largest piece; an empty mask as it is."""
    numbers, sizes, boxes = pieces(mask)
    return np.asarray(numbers == 1 + int(np.argmax(sizes[1:]))) if len(boxes) > 1 else mask


def filled(mask: Mask) -> Mask:
    """A mask with its holes: what cannot be reached from the picture's border."""
    around = np.pad(mask.astype(np.uint8), 1)
    cv2.floodFill(around, None, (0, 0), (2,), flags=4)
    return np.asarray(around[1:-1, 1:-1] != 2)


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


def frame(shape: tuple[int, ...], wide: int) -> Mask:
    """The pixels of a picture that lie within so many of its border."""
    out = np.ones(shape[:2], dtype=bool)
    out[wide:-wide, wide:-wide] = False
    return out


def hull(mask: Mask) -> Array:
    """The corners (n, 2), x and y, px, of the hull of what is in a mask: as far as it goes any way, so far one of them is."""
    outer, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    return np.asarray(cv2.convexHull(np.concatenate(outer)))[:, 0].astype(float)


def axes_of(mask: Mask) -> Array:
    """Unit vectors (2, 2), x and y, in columns, across and along what is in a mask: the axes of its second moments."""
    m = cv2.moments(mask.astype(np.uint8), binaryImage=True)
    return np.asarray(np.linalg.eigh([[m["mu20"], m["mu11"]], [m["mu11"], m["mu02"]]])[1])


def slope_at(plane: Array, at: NDArray[np.intp]) -> Array:
    """By how much a plane (h, w) rises a pixel at places (n, 2), row and column: down and to the right, (n, 2)."""
    last = np.array(plane.shape) - 1
    steps = []
    for way in (np.array([1, 0]), np.array([0, 1])):
        before, after = np.maximum(at - way, 0), np.minimum(at + way, last)
        rise = plane[after[:, 0], after[:, 1]] - plane[before[:, 0], before[:, 1]]
        steps.append(rise / ((after - before) @ way))
    return np.stack(steps, axis=1)


def colours_of(pixels: NDArray[np.float32]) -> NDArray[np.float32]:
    """The colours (h, w, 3) of pixels (h, w, 4), their own copy: many times as fast as by slicing."""
    return np.asarray(cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGBA2RGB))


def coloured(pixels: NDArray[np.float32], colours: NDArray[np.float32]) -> NDArray[np.float32]:
    """Pixels (h, w, 4) in other colours (h, w, 3)."""
    return np.asarray(cv2.merge([*cv2.split(colours), cv2.extractChannel(np.ascontiguousarray(pixels), 3)]))


def read_at(plane: Array, x: Array, y: Array) -> NDArray[np.float32]:
    """A plane, (h, w) or (h, w, c), read between its pixels at places (n, m), px; beyond the border it goes on as there."""
    given, columns, rows = (np.ascontiguousarray(v, dtype=np.float32) for v in (plane, x, y))
    read = cv2.remap(given, columns, rows, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(read, dtype=np.float32)


def read_across(plane: Array, places: Array, normal: Array, steps: Array) -> NDArray[np.float32]:
    """A plane, (h, w) or (h, w, c), read at steps (k,) px along the normals (n, 2) of places (n, 2), x and y: (k, n) or
    (k, n, c)."""
    x, y = (
        places[:, n].astype(np.float32) + steps.astype(np.float32)[:, None] * normal[:, n].astype(np.float32)
        for n in (0, 1)
    )
    return read_at(plane, x, y)


def dot(one: Array, two: Array) -> Array:
    """The products of colours (…, c) and others, of like or fewer axes, summed over their channels: in a third of the time
    of `numpy.einsum`."""
    products = one * two
    *shape, channels = products.shape
    if not products.size:
        return np.zeros(shape, dtype=products.dtype)
    return np.asarray(cv2.transform(products.reshape(1, -1, channels), np.ones((1, channels)))).reshape(shape)


def length(colours: Array) -> Array:
    """The root of the sum of the squares of the channels of colours (…, c)."""
    return np.asarray(np.sqrt(dot(colours, colours)))


def median(values: Array, axis: int = 0) -> Array:
    """The median along an axis, by putting in order: in a fifth of the time of `numpy.median`, which looks for what is no
    number, and brings in masked arrays for that. No number where there is none."""
    count = values.shape[axis]
    if not count:
        return np.full(np.delete(values.shape, axis), np.nan)
    ordered: Sequence[Array] | Array
    if axis == 0 and count <= FEW:
        ordered = _ordered_rows(values)
    else:
        ordered = np.moveaxis(np.sort(np.ascontiguousarray(np.moveaxis(values, axis, -1)), axis=-1), -1, 0)
    half = count // 2
    if count % 2:
        return np.asarray(ordered[half])
    return np.asarray((ordered[half - 1] + ordered[half]) * np.float32(0.5))


def _ordered_rows(values: Array) -> list[Array]:
    """A few rows put in order at every place, by exchanging neighbours (odd and even transposition, Knuth 1998, 5.3.4)."""
    rows = list(values)
    for k in range(len(rows)):
        for n in range(k % 2, len(rows) - 1, 2):
            rows[n], rows[n + 1] = np.minimum(rows[n], rows[n + 1]), np.maximum(rows[n], rows[n + 1])
    return rows


def quantile(values: Array, share: float) -> float:
    """The value that a share (0 to 1) of values (n,), one at least, lies below, between the two beside it as
    `numpy.quantile`, which brings in masked arrays."""
    at = share * (values.size - 1)
    low = int(at)
    high = min(low + 1, values.size - 1)
    ordered = np.partition(values.ravel(), (low, high))
    return float(ordered[low] + (ordered[high] - ordered[low]) * (at - low))


def lab(pixels: Array) -> NDArray[np.float32]:
    """CIE 1976 L*a*b* of pixels (h, w, 3) in sRGB, 0 to 1, before a white of D65 (CIE 15; IEC 61966-2-1)."""
    at = np.clip(np.asarray(pixels, dtype=np.float32) * LIGHT_STEPS + 0.5, 0, LIGHT_STEPS).astype(np.uint16)
    ratio = np.asarray(cv2.transform(_light()[at], TO_XYZ / TO_XYZ.sum(axis=1, keepdims=True)))
    root, dark = np.cbrt(ratio), ratio <= (6 / 29) ** 3
    root[dark] = ratio[dark] * ((29 / 6) ** 2 / 3) + 4 / 29
    return np.asarray(cv2.transform(root, TO_LAB))


def in_light(values: Array) -> NDArray[np.float32]:
    """The light, 0 to 1, of values in sRGB, 0 to 1, of any shape (IEC 61966-2-1); under 0 it goes on straight."""
    bright = ((np.maximum(values, 0.0) + 0.055) / 1.055) ** 2.4
    return np.where(values <= 0.04045, values / 12.92, bright).astype(np.float32)


@cache
def _light() -> NDArray[np.float32]:
    """The light of LIGHT_STEPS + 1 even steps of sRGB's values."""
    return in_light(np.linspace(0.0, 1.0, LIGHT_STEPS + 1))


def longest_run(marked: Mask) -> int:
    """How many points in a row are marked, at most, of those round a closed outline (n,)."""
    if marked.all():
        return len(marked)
    plain = np.flatnonzero(~marked)
    return int(np.diff(plain, append=plain[0] + len(marked)).max()) - 1
