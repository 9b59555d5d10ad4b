"""A picture's plain background: a smooth surface of colour fitted to it, and how far each pixel is from that."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]


class BadPicture(BadInput):
    """A picture that cannot be traced; the text says why and what would help."""


def surface(values: Array, use: Mask) -> Array:
    """A quadratic surface through the used pixels of each channel, (h, w, c)."""
    height, width, channels = values.shape
    y, x = np.arange(height)[:, None] / height - 0.5, np.arange(width)[None, :] / width - 0.5
    rows = np.flatnonzero(use.ravel())
    if len(rows) > 20_000:
        rows = rows[:: len(rows) // 20_000 + 1]
    xs, ys = x[0, rows % width], y[rows // width, 0]
    terms = np.stack([np.ones_like(xs), xs, ys, xs * xs, xs * ys, ys * ys], axis=-1)
    given = values.reshape(-1, channels)[rows]
    kept = np.ones(len(rows), dtype=bool)
    for _ in range(4):
        found, *_ = np.linalg.lstsq(terms[kept], given[kept], rcond=None)
        away = np.linalg.norm(given - terms @ found, axis=1)
        kept = away <= 2.5 * np.median(away) + 1e-6
    out = np.empty(values.shape)
    for channel, (c, cx, cy, cxx, cxy, cyy) in enumerate(found.T):
        out[..., channel] = (c + cx * x + cxx * x * x) + (cy * y + cyy * y * y) + cxy * x * y
    return out


def difference(pixels: Array) -> tuple[Array, float]:
    """How far each pixel's colour is from the background's, and the background's own unrest."""
    from scipy.ndimage import gaussian_filter, maximum_filter
    from skimage.color import rgb2lab

    colour = rgb2lab(pixels[..., :3])
    colour = gaussian_filter(colour, (0.8, 0.8, 0.0))
    height, width = colour.shape[:2]
    band = max(3, round(0.04 * min(height, width)))
    use = np.ones((height, width), dtype=bool)
    use[band:-band, band:-band] = False
    for _ in range(3):
        away = np.linalg.norm(colour - surface(colour, use), axis=-1)
        unrest = float(np.median(away[use])) * 1.5 + 0.15
        far = (away > max(6.0 * unrest, 4.0)).astype(np.uint8)
        use = maximum_filter(far, size=2 * max(2, band // 3) + 1) == 0
        if use.mean() < 0.05:
            raise BadPicture("there is no plain background around it; lay it on one colour with room on every side")
    return away, unrest


def difference_but_shade(pixels: Array) -> tuple[Array, float]:
    """The same, but blind to shade: the distance to the nearest of the background's own darker tones."""
    from scipy.ndimage import gaussian_filter

    plain, unrest = difference(pixels)
    colour = gaussian_filter(pixels[..., :3], (0.8, 0.8, 0.0)) * 100.0
    ground = surface(colour, plain < max(3.0 * unrest, 3.0))
    tone = np.clip((colour * ground).sum(axis=-1) / np.maximum((ground**2).sum(axis=-1), 1e-9), 0.4, 1.1)
    away = np.linalg.norm(colour - tone[..., None] * ground, axis=-1)
    calm = plain < 3.0 * unrest
    return away, float(np.median(away[calm])) * 1.5 + 0.15 if calm.any() else unrest
