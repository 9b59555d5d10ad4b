"""A picture's plain background: a smooth surface of colour fitted to it, and how far each pixel is from that."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput
from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.masks import Box, Mask

Array = NDArray[np.float64]

BLUR_PX = 0.8
ASKED_PIXELS = 10_000
"""Of the background, at most, that its surface is fitted to."""
ROOM_PX = 40
DARKEST, BRIGHTEST = 0.4, 1.1
"""Shade is the background's own colour between these shares of its light."""


class BadPicture(BadInput):
    """A picture that cannot be traced; the text says why and what would help."""


@dataclass(frozen=True, eq=False)
class Surface:
    """A quadratic surface of colour over a picture: (6, channels) of 1, x, y, x², xy, y², each -0.5 to 0.5 across it."""

    terms: Array

    def over(self, shape: tuple[int, ...], box: Box | None = None) -> NDArray[np.float32]:
        """Its colour at every pixel of a picture of a shape, or of a box of that; (h, w, channels)."""
        rows, columns = box or (slice(0, shape[0]), slice(0, shape[1]))
        y = (np.arange(shape[0], dtype=np.float32)[rows, None] + 0.5) / shape[0] - 0.5
        x = (np.arange(shape[1], dtype=np.float32)[None, columns] + 0.5) / shape[1] - 0.5
        out = np.empty((y.shape[0], x.shape[1], self.terms.shape[1]), dtype=np.float32)
        for channel, (c, cx, cy, cxx, cxy, cyy) in enumerate(self.terms.T.astype(np.float32)):
            out[..., channel] = (c + cx * x + cxx * x * x) + (cy * y + cyy * y * y) + cxy * x * y
        return out


def fitted(values: NDArray[Any], use: Mask) -> Surface:
    """The surface through the used pixels of (h, w, c), what lies far from it left out."""
    height, width, channels = values.shape
    rows = np.flatnonzero(use.ravel())
    if len(rows) > ASKED_PIXELS:
        rows = rows[:: len(rows) // ASKED_PIXELS + 1]
    xs, ys = (rows % width + 0.5) / width - 0.5, (rows // width + 0.5) / height - 0.5
    terms = np.stack([np.ones_like(xs), xs, ys, xs * xs, xs * ys, ys * ys], axis=-1)
    given = values.reshape(-1, channels)[rows].astype(float)
    kept = np.ones(len(rows), dtype=bool)
    for _ in range(4):
        some = terms[kept]
        found = np.linalg.lstsq(some.T @ some, some.T @ given[kept], rcond=None)[0]
        away = np.linalg.norm(given - terms @ found, axis=1)
        kept = away <= 2.5 * masks.median(away) + 1e-6
    return Surface(found)


@dataclass(frozen=True, eq=False)
class Difference:
    """How far each pixel's colour is from the background's, (h, w), and the background's own unrest.

    shade : blind to it: the distance to the nearest of the background's own darker tones.
    """

    away: NDArray[np.float32]
    unrest: float
    ground: Surface
    shade: bool = False

    @classmethod
    def of_clear(cls, away: NDArray[Any]) -> Difference:
        """Of a picture cut out already: `away` is 0 where it is clear, 100 where it is not."""
        return cls(np.asarray(away, dtype=np.float32), 1.0, Surface(np.zeros((6, 1))))

    def again(self, pixels: NDArray[Any], about: Mask) -> Difference:
        """The same measure of the same picture at another size, in a box about a mask there; 0 outside the box."""
        box = masks.box_of(about, ROOM_PX)
        colour = _toned(pixels[box]) if self.shade else _lab(pixels[box])
        away = (_but_shade if self.shade else _plainly)(colour, self.ground.over(pixels.shape, box))
        out = np.zeros(pixels.shape[:2], dtype=np.float32)
        out[box] = away
        calm = ~about[box] & (away < max(6.0 * self.unrest, 4.0))
        return Difference(out, unrest_of(away[calm]) if calm.any() else self.unrest, self.ground, self.shade)


def unrest_of(away: NDArray[np.float32]) -> float:
    """Unrest of a background whose pixels lie so far from its surface, each."""
    return float(masks.median(away.ravel())) * 1.5 + 0.15


def _lab(pixels: NDArray[Any]) -> NDArray[np.float32]:
    return masks.soft(masks.lab(pixels[..., :3]), BLUR_PX)


def _toned(pixels: NDArray[Any]) -> NDArray[np.float32]:
    return masks.soft(pixels[..., :3], BLUR_PX) * np.float32(100.0)


def _plainly(colour: NDArray[np.float32], ground: NDArray[np.float32]) -> NDArray[np.float32]:
    return masks.length(colour - ground)


def _but_shade(colour: NDArray[np.float32], ground: NDArray[np.float32]) -> NDArray[np.float32]:
    along = masks.dot(colour, ground) / np.maximum(masks.dot(ground, ground), 1e-9)
    return masks.length(colour - np.clip(along, DARKEST, BRIGHTEST)[..., None] * ground)


def difference(colour: NDArray[np.float32]) -> Difference:
    """How far each pixel's colour, (h, w, 3) as of `masks.lab`, is from the background's. Raises BadPicture where there is
    none."""
    colour = masks.soft(colour, BLUR_PX)
    height, width = colour.shape[:2]
    band = max(3, round(0.04 * min(height, width)))
    use = masks.frame((height, width), band)
    for _ in range(3):
        ground = fitted(colour, use)
        away = _plainly(colour, ground.over(colour.shape))
        unrest = unrest_of(away[use])
        use = ~masks.squared(away > max(6.0 * unrest, 4.0), 2 * max(2, band // 3) + 1)
        if use.mean() < 0.05:
            raise BadPicture("there is no plain background around it; lay it on one colour with room on every side")
    return Difference(away, unrest, ground)


def difference_but_shade(pixels: NDArray[Any], plain: Difference) -> Difference:
    """The same, but blind to shade."""
    colour = _toned(pixels)
    ground = fitted(colour, plain.away < max(3.0 * plain.unrest, 3.0))
    away = _but_shade(colour, ground.over(colour.shape))
    calm = plain.away < 3.0 * plain.unrest
    return Difference(away, unrest_of(away[calm]) if calm.any() else plain.unrest, ground, shade=True)
