"""Pictures of known shapes, rendered by us: uneven light, shadow, noise, hooks, rotation, JPEG."""

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


# ---- painted bodies: schemes, grounds, things beside

RGB = tuple[int, int, int]
KINDS = ("minnow", "slim", "fat", "pointed", "cigar", "blunt", "stem")


def silhouette_of(kind: str, count: int = 300) -> NDArray[np.float64]:
    """A closed outline of length 1: top from nose to tail, then the bottom back."""
    x = 0.5 - 0.5 * np.cos(np.linspace(0, np.pi, count))
    ellipse = np.sqrt(np.clip(1 - (2 * x - 1) ** 2, 0, 1))
    top, bottom = {
        "minnow": (0.23 * np.sqrt(x) * (1 - x) ** 0.6, 0.27 * np.sqrt(x) * (1 - x) ** 0.7),
        "slim": (0.055 * ellipse, 0.055 * ellipse),
        "fat": (0.22 * np.sqrt(x) * (1 - x) ** 0.6, 0.3 * np.sqrt(x) * (1 - x) ** 0.5),
        "pointed": (0.32 * np.sqrt(x) * (1 - x), 0.32 * np.sqrt(x) * (1 - x)),
        "cigar": (0.08 * np.minimum(1, 8 * x * (1 - x)) ** 0.5,) * 2,
        "blunt": (0.16 * (1 - 0.2 * x) * np.clip(1 - x, 0, 1) ** 0.35,) * 2,
        "stem": (np.where(x < 0.6, 0.09 * np.sqrt(np.clip(1 - (x / 0.3 - 1) ** 2, 0, 1)), 0.0) + 0.008 * (x > 0.3),) * 2,
    }[kind]  # fmt: skip
    return np.vstack([np.stack([x, top], 1), np.stack([x, -bottom], 1)[::-1]])


PAINTS: dict[str, tuple[RGB, ...]] = {
    "plain brown": ((96, 62, 40),), "plain red": ((170, 40, 34),), "plain green": ((60, 100, 60),),
    "white": ((246, 246, 242),), "back and belly": ((96, 62, 40), (246, 246, 242)),
    "dark back, pale belly": ((30, 44, 60), (214, 216, 205)), "red head": ((188, 30, 30), (248, 248, 245)),
    "black and yellow": ((28, 28, 28), (232, 196, 40)), "bars": ((70, 96, 52), (206, 190, 84)),
    "spots": ((200, 150, 60), (40, 30, 24)), "silver": ((150, 154, 158), (206, 210, 214)), "wood": ((186, 146, 98),),
}  # fmt: skip


def painted(scheme: str, u: NDArray[np.float64], v: NDArray[np.float64]) -> NDArray[np.float64]:
    """Colour (…, 3) at places along (0 to 1) and across (-1 to 1, up) a body."""
    colours = [np.array(c, float) for c in PAINTS[scheme]]
    if len(colours) == 1:
        share = np.zeros_like(u)
    elif scheme == "red head":
        share = (u > 0.28).astype(float)
    elif scheme == "bars":
        share = (np.sin(u * 40) > 0).astype(float)
    elif scheme == "spots":
        share = ((np.sin(u * 70) * np.sin(v * 9)) > 0.75).astype(float)
    else:
        share = (v < 0.05).astype(float)
    return colours[0] + share[..., None] * (colours[-1] - colours[0])


GROUNDS: dict[str, RGB] = {
    "paper": (224, 220, 212),
    "white": (250, 250, 250),
    "slate": (38, 42, 50),
    "blue": (60, 110, 170),
}


@dataclass(frozen=True)
class Scene:
    """A painted body in a picture, and what is known of it, px."""

    known: Known
    kind: str
    paint: str


def scene(
    kind: str, paint: str, ground: str = "paper", px: int = 1000, angle_deg: float = 0.0, noise: float = 3.0,
    blur: float = 0.0, shadow: float = 0.0, pattern: float = 0.0, ruler: bool = False, hooks: bool = False, seed: int = 1,
) -> Scene:  # fmt: skip
    """A body painted, lit, shaded and disturbed, its truth known."""
    rng, wide, high, over = np.random.default_rng(seed), px, int(px * 0.75), 3
    long, a = 0.68 * wide, np.radians(angle_deg)
    turn = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    outline, middle = silhouette_of(kind), np.array([wide / 2, high * 0.46])
    places = ((outline - [0.5, 0]) * long * [1, -1]) @ turn.T + middle

    def mask(polygon: NDArray[np.float64]) -> NDArray[np.float64]:
        drawn = Image.new("L", (wide * over, high * over), 0)
        ImageDraw.Draw(drawn).polygon([tuple((p + 0.5) * over) for p in polygon], fill=255)
        return np.asarray(drawn.resize((wide, high), Image.Resampling.BOX), float)[..., None] / 255

    y, x = np.mgrid[0:high, 0:wide]
    pixels = np.ones((high, wide, 3)) * np.array(GROUNDS[ground])
    if pattern:
        pixels *= 1 + pattern * (np.sin(x / 9.0) * np.sin(y / 13.0))[..., None]
    if shadow:
        soft = Image.fromarray((255 * mask(places + 0.02 * px)[..., 0]).astype(np.uint8))
        pixels *= 1 - shadow * np.asarray(soft.filter(ImageFilter.GaussianBlur(0.015 * px)), float)[..., None] / 255
    if ruler:
        edge = middle + np.array([[-0.36, 0.3], [0.36, 0.3], [0.36, 0.37], [-0.36, 0.37]]) * px * [1, 0.9]
        bar = mask(edge)
        pixels = pixels * (1 - bar) + bar * np.array([236, 206, 60]) * np.where((x % 12 < 2)[..., None], 0.3, 1.0)
    inside = mask(places)
    back = (np.stack([x, y], -1) - middle) @ turn / long
    u, v = back[..., 0] + 0.5, -back[..., 1] / max(np.ptp(outline[:, 1]) / 2, 1e-9)
    paintwork = painted(paint, u, v) * (0.82 + 0.18 * np.sqrt(np.clip(1 - v**2, 0, 1)))[..., None]
    if hooks:
        pen_at = Image.new("L", (wide * over, high * over), 0)
        pen, thick = ImageDraw.Draw(pen_at), max(2, int(0.007 * long * over))
        for at in (0.35, 0.7):
            low = float(np.interp(at, outline[300:, 0][::-1], outline[300:, 1][::-1]))
            eye = (np.array([at - 0.5, -low]) * long) @ turn.T + middle
            end, r = eye + [0, 0.1 * long], 0.03 * long
            pen.line([tuple(eye * over), tuple(end * over)], fill=255, width=thick)
            pen.arc([*((end - [2 * r, r]) * over), *((end + [0, r]) * over)], 0, 180, fill=255, width=thick)
        iron = np.asarray(pen_at.resize((wide, high), Image.Resampling.BOX), float)[..., None] / 255
        pixels = pixels * (1 - iron) + iron * np.array([80, 82, 88])
    pixels = pixels * (1 - inside) + inside * paintwork
    pixels *= (1 + 0.14 * (x / wide - 0.5) + 0.08 * (y / high - 0.5))[..., None]
    image = Image.fromarray(np.clip(pixels + rng.normal(0, noise, pixels.shape), 0, 255).astype(np.uint8))
    if blur:
        image = image.filter(ImageFilter.GaussianBlur(blur))
    p, q = places.T
    area = abs(0.5 * float(np.sum(p * np.roll(q, -1) - q * np.roll(p, -1))))
    nose, tail = (tuple((np.array([e, 0.0]) * long) @ turn.T + middle) for e in (-0.5, 0.5))
    return Scene(Known(np.asarray(image.convert("RGBA"), float) / 255, long, area, nose, tail), kind, paint)
