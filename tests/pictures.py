"""Pictures of a known shape, rendered by us: uneven light, shadow, noise, hooks, rotation, JPEG."""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter


@dataclass(frozen=True)
class Known:
    """A rendered picture (h, w, 4) with what is in it, px."""

    pixels: NDArray[np.float64]
    length_px: float
    area_px: float
    nose: tuple[float, float]
    tail: tuple[float, float]


def body_outline(count: int = 400) -> NDArray[np.float64]:
    """A minnow-like outline of length 1: (n, 2), x from 0 to 1."""
    x = 0.5 - 0.5 * np.cos(np.linspace(0, np.pi, count))
    back = 0.115 * np.sqrt(x) * (1 - x) ** 0.6 * 2.0
    belly = -0.135 * np.sqrt(x) * (1 - x) ** 0.7 * 2.0
    return np.vstack([np.stack([x, back], 1), np.stack([x, belly], 1)[::-1][1:-1]])


def render(
    px: int = 1200, angle_deg: float = 0.0, body: tuple[int, int, int] = (120, 70, 40),
    ground: tuple[int, int, int] = (225, 222, 214), noise: float = 3.0, uneven: float = 0.15, shadow: bool = True,
    hooks: bool = True, jpeg: int | None = 85, seed: int = 1,
) -> Known:  # fmt: skip
    rng, over = np.random.default_rng(seed), 3
    width, height = px, int(px * 0.62)
    outline = body_outline()
    long = 0.72 * width
    a = np.radians(angle_deg)
    turn = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    centre = np.array([width / 2, height / 2])
    placed = ((outline - [0.5, 0.0]) * long * [1, -1]) @ turn.T + centre

    def at(x: float, z: float) -> NDArray[np.float64]:
        return np.asarray((np.array([x - 0.5, -z]) * long) @ turn.T + centre)

    big = Image.new("L", (width * over, height * over), 0)
    draw = ImageDraw.Draw(big)
    draw.polygon([tuple((p + 0.5) * over) for p in placed], fill=255)
    mask = np.asarray(big.resize((width, height), Image.Resampling.BOX), float)[..., None] / 255
    picture = np.ones((height, width, 3)) * np.array(ground)
    if shadow:
        soft = Image.new("L", (width, height), 0)
        ImageDraw.Draw(soft).polygon([tuple(p + [0.012 * px, 0.02 * px]) for p in placed], fill=255)
        soft = soft.filter(ImageFilter.GaussianBlur(0.02 * px))
        picture *= 1 - 0.35 * np.asarray(soft, float)[..., None] / 255
    if hooks:
        wire = Image.new("L", (width * over, height * over), 0)
        pen = ImageDraw.Draw(wire)
        thick = max(2, int(0.006 * long * over))
        for x in (0.35, 0.97):
            eye = at(x, -0.1 if x < 0.9 else -0.002)
            low = eye + np.array([0, 0.13 * long])
            pen.line([tuple(eye * over), tuple(low * over)], fill=255, width=thick)
            for s in (-1, 1):
                box = [
                    low + [-0.04 * long if s < 0 else 0, -0.035 * long],
                    low + [0 if s < 0 else 0.04 * long, 0.02 * long],
                ]
                pen.arc([*(box[0] * over), *(box[1] * over)], 0, 180, fill=255, width=thick)
        pen.line([tuple(at(0, 0) * over), tuple(at(-0.1, 0.02) * over)], fill=255, width=thick)
        iron = np.asarray(wire.resize((width, height), Image.Resampling.BOX), float)[..., None] / 255
        picture = picture * (1 - iron) + iron * np.array([70, 72, 78])
    grain = 1 + 0.12 * np.sin(np.linspace(0, 40, width))[None, :, None]
    picture = picture * (1 - mask) + mask * np.array(body) * grain
    y, x = np.mgrid[0:height, 0:width]
    picture *= (1 + uneven * (x / width - 0.5) - uneven * 0.6 * (y / height - 0.5) ** 2)[..., None]
    picture = np.clip(picture + rng.normal(0, noise, picture.shape), 0, 255).astype(np.uint8)
    image = Image.fromarray(picture)
    if jpeg:
        buffer = io.BytesIO()
        image.save(buffer, "JPEG", quality=jpeg)
        image = Image.open(buffer)
    x0, y0 = placed.T
    area = abs(0.5 * float(np.sum(x0 * np.roll(y0, -1) - y0 * np.roll(x0, -1))))
    return Known(np.asarray(image.convert("RGBA"), float) / 255, long, area, tuple(at(0, 0)), tuple(at(1, 0)))
