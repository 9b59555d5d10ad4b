"""The hues that a patterned ground has, and what beside a body has another: no ground, however restless that is."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.masks import Mask

BLUR_PX, LOOK_PX = 1.0, 1.0
"""Pixels are taken in the mean over so many about each; and of every other one, what is strange."""
DARK = 0.12
"""Added to the sum of the channels (0 to 3), so that the noise of what is nearly black is no hue."""
STEP = 0.02
"""Hues nearer than this are one."""
SHADES = (0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 1.1)
"""The light that falls on the ground beside a body, as shares of that which falls on it elsewhere."""
FRAME_SHARE, FAR_SHARE, LEAST_SHARE = 0.12, 0.5, 0.3
"""Ground is the picture's frame, so wide by its lesser side, but for what is nearer to a body than this share of its
thickness; all of the frame where less than this share of it is left."""
BRIGHTER = 1.15
"""By so many times as bright as all the ground, it is no ground."""
MOST_SEEN, RARE = 20_000, 2e-4
"""Places of the ground that are looked at, and the share of them that a hue must be of to be its own."""


def strange(pixels: NDArray[np.float32], body: Mask) -> Mask:
    """What has a hue that the ground about the picture's frame has nowhere, in whatever shade, or is brighter than all of it.

    pixels : (h, w, 3 or 4), 0 to 1. Every other pixel is looked at.
    """
    colour = masks.soft(pixels[..., :3], BLUR_PX)[::2, ::2]
    seen = colour[_ground(body)[::2, ::2]]
    seen = seen[:: max(1, len(seen) // MOST_SEEN)]
    size = round(2.0 / STEP) + 1
    known = np.zeros(size * size, dtype=bool)
    for shade in SHADES:
        known |= np.bincount(_hues(seen * np.float32(shade)), minlength=size * size) > RARE * len(seen)
    grown = masks.squared(known.reshape(size, size), 3).ravel()
    flat = colour.reshape(-1, 3)
    unknown = ~grown[_hues(flat)] | (flat.sum(axis=1) > BRIGHTER * masks.quantile(seen.sum(axis=1), 1.0 - RARE))
    found = masks.soft(unknown.reshape(colour.shape[:2]), LOOK_PX) > 0.5
    return np.asarray(found.repeat(2, axis=0).repeat(2, axis=1)[: body.shape[0], : body.shape[1]])


def _ground(body: Mask) -> Mask:
    """The picture's frame but for what lies near a body; all of the frame where that is nearly all of it."""
    band = max(2, round(FRAME_SHARE * min(body.shape)))
    frame = masks.frame(body.shape, band)
    far = frame & ~masks.within(body, FAR_SHARE * masks.thickness(body))
    return far if np.count_nonzero(far) > LEAST_SHARE * np.count_nonzero(frame) else frame


def _hues(colours: NDArray[np.float32]) -> NDArray[np.intp]:
    """The numbered hue of each colour (n, 3)."""
    total = colours.sum(axis=1) + np.float32(DARK)
    one, two = ((colours[:, n] - colours[:, n + 1]) / total for n in (0, 1))
    size = round(2.0 / STEP) + 1
    return np.asarray(
        ((one + 1.0) / STEP).round().astype(np.intp) * size + ((two + 1.0) / STEP).round().astype(np.intp)
    )
