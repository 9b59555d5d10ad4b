"""Pictures of painted bodies, their truth known: two dozen silhouettes, schemes of paint, grounds plain and patterned."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter
from scipy.interpolate import PchipInterpolator

from tests.pictures import Known
from yellowbob.lines.tracing import masks

Array = NDArray[np.float64]
RGB = tuple[int, int, int]
POINTS = 300
KINDS = (
    "minnow", "slim", "fat", "pointed", "cigar", "blunt", "stem", "spindle", "egg", "banana", "cup nose", "slant nose",
    "stick", "frog", "waisted", "two waists", "fork tail", "waggler", "bulb", "loaf", "wedge", "humped", "lipped", "finned",
)  # fmt: skip


def _rounded(x: Array, front: float, back: float) -> Array:
    """1 along a body whose ends are round within so many shares of its length."""
    return np.sqrt(np.minimum(1, x / front) * np.minimum(1, (1 - x) / back))


def _through(x: Array, at: tuple[float, ...], high: tuple[float, ...]) -> Array:
    return np.clip(PchipInterpolator(at, high)(x), 0.0, None)


def _hump(x: Array, at: float, wide: float) -> Array:
    return np.exp(-(((x - at) / wide) ** 2))


def silhouette_of(kind: str, count: int = POINTS) -> Array:
    """A closed outline of length 1: top from nose to tail, then the bottom back."""
    x = 0.5 - 0.5 * np.cos(np.linspace(0, np.pi, count))
    ellipse = np.sqrt(np.clip(1 - (2 * x - 1) ** 2, 0, 1))
    bulb = np.sqrt(np.clip(1 - (x / 0.3 - 1) ** 2, 0, 1))
    tail = (0.0, 0.1, 0.4, 0.75, 0.82, 0.95, 1.0)
    top, bottom = {
        "minnow": (0.23 * np.sqrt(x) * (1 - x) ** 0.6, 0.27 * np.sqrt(x) * (1 - x) ** 0.7),
        "slim": (0.055 * ellipse,) * 2,
        "fat": (0.22 * np.sqrt(x) * (1 - x) ** 0.6, 0.3 * np.sqrt(x) * (1 - x) ** 0.5),
        "pointed": (0.32 * np.sqrt(x) * (1 - x),) * 2,
        "cigar": (0.08 * np.minimum(1, 8 * x * (1 - x)) ** 0.5,) * 2,
        "blunt": (0.16 * (1 - 0.2 * x) * np.clip(1 - x, 0, 1) ** 0.35,) * 2,
        "stem": (np.where(x < 0.6, 0.09 * bulb, 0.0) + 0.008 * (x > 0.3),) * 2,
        "spindle": (0.07 * ellipse**0.8,) * 2,
        "egg": (0.27 * np.sqrt(x) * (1 - x) ** 0.45,) * 2,
        "banana": (_through(x, (0, 0.1, 0.5, 0.9, 1), (0, 0.1, 0.16, 0.1, 0)),
                   _through(x, (0, 0.1, 0.5, 0.9, 1), (0, 0.02, 0, 0.02, 0)) + 0.012 * ellipse),
        "cup nose": (0.12 * (1 - 0.5 * x) * np.minimum(1, 9 * (1 - x)) ** 0.5,) * 2,
        "slant nose": (0.1 * np.minimum(1, 14 * x) * np.minimum(1, 6 * (1 - x)) ** 0.5,
                       0.11 * np.minimum(1, 40 * (x + 0.02)) * np.minimum(1, 6 * (1 - x)) ** 0.5),
        "stick": (0.055 * _rounded(x, 0.08, 0.2),) * 2,
        "frog": (_through(x, (0, 0.05, 0.3, 0.7, 0.95, 1), (0, 0.08, 0.19, 0.17, 0.07, 0)),
                 _through(x, (0, 0.05, 0.3, 0.7, 0.95, 1), (0, 0.06, 0.12, 0.16, 0.06, 0))),
        "waisted": (0.1 * _rounded(x, 0.1, 0.1) * (1 - 0.45 * _hump(x, 0.6, 0.12)),) * 2,
        "two waists": (0.09 * _rounded(x, 0.1, 0.1) * (1 - 0.4 * _hump(x, 0.35, 0.06) - 0.4 * _hump(x, 0.7, 0.06)),) * 2,
        "fork tail": (_through(x, tail, (0, 0.09, 0.15, 0.035, 0.035, 0.13, 0.14)),
                      _through(x, tail, (0, 0.09, 0.17, 0.035, 0.035, 0.13, 0.14))),
        "waggler": ((0.02 - 0.012 * np.clip((x - 0.55) / 0.1, 0, 1)) * _rounded(x, 0.016, 0.012),) * 2,
        "bulb": (np.where(x < 0.35, 0.065 * np.sqrt(np.clip(1 - (x / 0.175 - 1) ** 2, 0, 1)), 0) + 0.009 * (x > 0.3),) * 2,
        "loaf": (0.2 * _rounded(x, 0.125, 0.125), 0.06 * _rounded(x, 0.125, 0.125)),
        "wedge": ((0.02 + 0.14 * x) * _rounded(x, 0.025, 0.05),) * 2,
        "humped": (0.08 * ellipse**0.8 + 0.07 * _hump(x, 0.3, 0.1) * np.minimum(1, 9 * x), 0.08 * ellipse**0.8),
        "lipped": (0.11 * ellipse**0.9, 0.11 * ellipse**0.9 + 0.1 * _hump(x, 0.1, 0.03) * np.minimum(1, 30 * x)),
        "finned": (0.09 * ellipse**0.8 + 0.09 * _hump(x, 0.55, 0.05), 0.09 * ellipse**0.8 + 0.05 * _hump(x, 0.75, 0.03)),
    }[kind]  # fmt: skip
    return np.vstack([np.stack([x, top], 1), np.stack([x, -bottom], 1)[::-1]])


PAINTS: dict[str, tuple[RGB, ...]] = {
    "plain brown": ((96, 62, 40),), "plain red": ((170, 40, 34),), "plain green": ((60, 100, 60),),
    "white": ((246, 246, 242),), "back and belly": ((96, 62, 40), (246, 246, 242)),
    "dark back, pale belly": ((30, 44, 60), (214, 216, 205)), "red head": ((188, 30, 30), (248, 248, 245)),
    "black and yellow": ((28, 28, 28), (232, 196, 40)), "bars": ((70, 96, 52), (206, 190, 84)),
    "spots": ((200, 150, 60), (40, 30, 24)), "silver": ((150, 154, 158), (206, 210, 214)), "wood": ((186, 146, 98),),
    "stripe": ((200, 205, 205), (20, 20, 20)), "gloss": ((150, 40, 30), (254, 254, 254)),
    "three tones": ((30, 50, 40), (200, 190, 90), (240, 236, 228)), "fades": ((40, 60, 90), (225, 215, 190)),
}  # fmt: skip


def painted(scheme: str, u: Array, v: Array, given: tuple[RGB, ...] | None = None) -> Array:
    """Colour (…, 3) at places along (0 to 1) and across (-1 to 1, up) a body; in given colours, or the scheme's."""
    colours = [np.array(c, float) for c in given or PAINTS[scheme]]
    if len(colours) == 1:
        share = np.zeros_like(u)
    elif scheme == "red head":
        share = (u > 0.28).astype(float)
    elif scheme == "bars":
        share = (np.sin(u * 40) > 0).astype(float)
    elif scheme == "spots":
        share = ((np.sin(u * 70) * np.sin(v * 9)) > 0.75).astype(float)
    elif scheme == "stripe":
        share = (np.abs(v) < 0.15).astype(float)
    elif scheme == "gloss":
        share = (np.abs(v - 0.45) < 0.12).astype(float)
    elif scheme == "fades":
        share = np.clip(u, 0.0, 1.0)
    else:
        share = (v < 0.05).astype(float)
    if scheme == "three tones":
        return np.where((v > 0.35)[..., None], colours[0], np.where((v > -0.3)[..., None], colours[1], colours[2]))
    return colours[0] + share[..., None] * (colours[-1] - colours[0])


GROUNDS: dict[str, RGB] = {
    "paper": (224, 220, 212), "white": (250, 250, 250), "slate": (38, 42, 50), "blue": (60, 110, 170),
    "card": (196, 180, 150), "from dark to light": (235, 235, 235), "print": (224, 220, 208), "weave": (150, 150, 140),
    "speckles": (205, 200, 190), "tiles": (70, 120, 170), "mat": (40, 84, 66), "planks": (176, 140, 98),
    "squared": (236, 236, 230),
}  # fmt: skip


def ground_of(name: str, wide: int, high: int, rng: np.random.Generator, given: RGB | None = None) -> Array:
    """Colour (high, wide, 3) of a ground; of a given colour, or its own."""
    y, x = np.ogrid[0:high, 0:wide]
    plain = np.full((high, wide, 3), given or GROUNDS[name], dtype=np.float32)
    if name == "from dark to light":
        return np.asarray(plain * (0.45 + 0.55 * x / wide)[..., None])
    if name == "weave":
        return np.asarray(plain * (1 + 0.12 * np.sin(x / 2.2) * np.sin(y / 2.2))[..., None])
    marks = {"print": (y % 14 < 6) & (rng.random((high, wide)) < 0.5), "speckles": rng.random((high, wide)) < 0.03,
             "tiles": (x % 220 < 5) | (y % 220 < 5), "planks": y % 170 < 4,
             "mat": (x % 50 < 1) | (y % 50 < 1) | (x % 250 < 3) | (y % 250 < 3),
             "squared": (x % 26 < 2) | (y % 26 < 2)}  # fmt: skip
    if name not in marks:
        return plain
    colour = {"tiles": (225, 225, 225), "mat": (210, 214, 160), "squared": (150, 190, 220)}
    plain[np.broadcast_to(marks[name], (high, wide))] = colour.get(name, (75, 75, 75))
    return plain


def lies(pixels: Array, share: Array, colour: Callable[[masks.Box], Array]) -> None:
    """Lay what has a share (h, w, 1) of each pixel over a picture, in place; its colour in a box of the picture is asked
    for."""
    box = masks.box_of(share[..., 0] > 0, 1)
    pixels[box] += share[box] * (colour(box) - pixels[box])


@dataclass(frozen=True)
class Scene:
    """A painted body in a picture, and what is known of it, px."""

    known: Known
    kind: str
    paint: str


def scene(
    kind: str, paint: str, ground: str = "paper", px: int = 1000, angle_deg: float = 0.0, noise: float = 3.0,
    blur: float = 0.0, shadow: float = 0.0, pattern: float = 0.0, ruler: bool = False, hooks: bool = False, seed: int = 1,
    paints: tuple[RGB, ...] | None = None, lies_on: RGB | None = None,
) -> Scene:  # fmt: skip
    """A body painted, lit, shaded and disturbed, its truth known."""
    rng, wide, high, over = np.random.default_rng(seed), px, int(px * 0.75), 3
    a = np.radians(angle_deg)
    long = (0.68 if abs(np.sin(a)) < 0.4 else 0.52) * wide
    turn = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    outline, middle = silhouette_of(kind), np.array([wide / 2, high * 0.46])
    places = ((outline - [0.5, 0]) * long * [1, -1]) @ turn.T + middle

    def plane(drawn: Image.Image) -> Array:
        return np.asarray(drawn.resize((wide, high), Image.Resampling.BOX), np.float32)[..., None] / 255

    def mask(polygon: Array) -> Array:
        drawn = Image.new("L", (wide * over, high * over), 0)
        ImageDraw.Draw(drawn).polygon([tuple((p + 0.5) * over) for p in polygon], fill=255)
        return plane(drawn)

    y, x = np.arange(high, dtype=np.float32)[:, None], np.arange(wide, dtype=np.float32)[None, :]
    pixels = ground_of(ground, wide, high, np.random.default_rng([seed, 1]), lies_on)
    if pattern:
        pixels *= 1 + pattern * (np.sin(x / 9.0) * np.sin(y / 13.0))[..., None]
    if shadow:
        pixels *= 1 - shadow * cv2.GaussianBlur(mask(places + 0.02 * px)[..., 0], (0, 0), 0.015 * px)[..., None]
    if ruler:
        edge = middle + np.array([[-0.36, 0.3], [0.36, 0.3], [0.36, 0.37], [-0.36, 0.37]]) * px * [1, 0.9]
        lies(
            pixels,
            mask(edge),
            lambda box: np.array([236, 206, 60]) * np.where((x[:, box[1]] % 12 < 2)[..., None], 0.3, 1.0),
        )
    if hooks:
        pen_at = Image.new("L", (wide * over, high * over), 0)
        pen, thick = ImageDraw.Draw(pen_at), max(2, int(0.007 * long * over))
        for at in (0.35, 0.7):
            low = float(np.interp(at, outline[POINTS:, 0][::-1], outline[POINTS:, 1][::-1]))
            eye = (np.array([at - 0.5, -low]) * long) @ turn.T + middle
            end, r = eye + [0, 0.1 * long], 0.03 * long
            pen.line([tuple(eye * over), tuple(end * over)], fill=255, width=thick)
            pen.arc([*((end - [2 * r, r]) * over), *((end + [0, r]) * over)], 0, 180, fill=255, width=thick)
        lies(pixels, plane(pen_at), lambda _: np.array([80.0, 82.0, 88.0]))

    def paintwork(box: masks.Box) -> Array:
        away = np.stack(np.broadcast_arrays(x[:, box[1]], y[box[0]]), -1) - middle
        back = away @ turn / long
        u, v = back[..., 0] + 0.5, -back[..., 1] / max(np.ptp(outline[:, 1]) / 2, 1e-9)
        return painted(paint, u, v, paints) * (0.82 + 0.18 * np.sqrt(np.clip(1 - v**2, 0, 1)))[..., None]

    lies(pixels, mask(places), paintwork)
    pixels *= (1 + 0.14 * (x / wide - 0.5) + 0.08 * (y / high - 0.5))[..., None]
    image = Image.fromarray(np.clip(pixels + rng.normal(0, noise, pixels.shape), 0, 255).astype(np.uint8))
    if blur:
        image = image.filter(ImageFilter.GaussianBlur(blur))
    p, q = places.T
    area = abs(0.5 * float(np.sum(p * np.roll(q, -1) - q * np.roll(p, -1))))
    nose, tail = (tuple((np.array([e, 0.0]) * long) @ turn.T + middle) for e in (-0.5, 0.5))
    return Scene(Known(np.asarray(image.convert("RGBA"), float) / 255, long, area, nose, tail), kind, paint)


def any_scene(rng: np.random.Generator) -> tuple[Scene, float]:
    """A body in colours of no scheme on a ground of any, now and then nearly one of its own; and its angle, degrees."""

    def colour(near: RGB | None = None) -> RGB:
        some = rng.integers(5, 252, 3) if near is None else np.clip(near + rng.integers(-30, 31, 3), 3, 252)
        return (int(some[0]), int(some[1]), int(some[2]))

    ground = colour()
    paint = str(rng.choice(list(PAINTS)))
    paints = [colour() for _ in PAINTS[paint]]
    if rng.random() < 0.35:
        paints[-1] = colour(ground)
    angle = float(rng.choice([0, 7, -12, 20, 45, 90, 135, 180]))
    name, px = str(rng.choice(["paper"] * 6 + list(GROUNDS))), int(rng.choice([700, 900, 1100, 1400]))
    return scene(
        str(rng.choice(KINDS)), paint, name, px,
        angle, float(rng.uniform(0.5, 5)), float(rng.choice([0, 0.5, 1, 1.5])), float(rng.choice([0, 0, 0.15, 0.3, 0.45])),
        ruler=bool(abs(angle) < 15 and rng.random() < 0.2), hooks=bool(rng.random() < 0.3), seed=int(rng.integers(1 << 30)),
        paints=tuple(paints), lies_on=ground,
    ), angle  # fmt: skip
