"""Bodies lying on patterned cloths, counters and boards, photographed: another painter than `painted_bodies`, with other
outlines, paints, grounds, light and a JPEG's losses, so that what was tuned by the one is tried by the other."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image
from scipy.interpolate import PchipInterpolator

from tests.painted_bodies import Known, Scene
from yellowbob.lines.tracing.edge import area_of, outward

Array = NDArray[np.float64]
Outline = tuple[Array, Array, Array]
FINER, STATIONS = 3, 400
COLOURS = np.array([
    [20, 20, 22], [245, 243, 235], [180, 30, 30], [210, 180, 40], [60, 110, 60], [120, 75, 45], [200, 200, 205],
    [235, 120, 30], [40, 70, 130], [225, 205, 215],
], dtype=float)  # fmt: skip
CLOTHS = np.array([
    [245, 245, 243], [225, 215, 195], [40, 42, 48], [120, 125, 128], [60, 90, 140], [190, 160, 120], [80, 120, 80],
], dtype=float)  # fmt: skip
PATTERNS = ("plain", "plain", "plain", "checks", "gingham", "stripes", "dots", "grain", "marble", "lined", "jute")


def outline_of(rng: np.random.Generator) -> Outline:
    """Stations from nose to tail, 0 to 1, with the back and the belly there, in lengths, up positive."""
    t, deep = np.linspace(0, 1, STATIONS), rng.uniform(0.05, 0.17)
    way = rng.integers(5)
    if way == 0:
        back = belly = np.sin(np.pi * t) ** rng.uniform(0.4, 1.0)
    elif way == 1:
        egg = np.sqrt(np.clip(1 - (2 * t - 1) ** 2, 0, 1))
        back, belly = egg * (1 + 0.3 * np.cos(3 * t)), egg * (1 - 0.2 * np.cos(3 * t))
    elif way == 2:
        at = np.linspace(0, 1, int(rng.integers(4, 8)))
        ends = float(rng.choice([0.0, 0.35, 0.7])), float(rng.choice([0.0, 0.15, 0.5]))
        back, belly = (
            PchipInterpolator(at, [ends[0], *rng.uniform(0.5, 1, len(at) - 2), ends[1]])(t) for _ in range(2)
        )
    elif way == 3:
        back = np.minimum(t / 0.15, 1) ** 0.5 * ((1 - t) / 0.85).clip(0, 1) ** 0.6
        belly = 0.9 * back
    else:  # a stem in front of a round body
        body = np.sqrt(np.clip(1 - ((t - 0.6) / 0.4) ** 2, 0, 1))
        back = belly = np.maximum(np.where(t < 0.25, rng.uniform(0.12, 0.2), 0.0), body)
    bent = rng.choice([0.0, 0.0, 0.05]) * np.sin(np.pi * t)
    return t, back * deep + bent, -belly * deep + bent


def patterned(rng: np.random.Generator, wide: int, high: int) -> tuple[NDArray[np.float32], Array]:
    """A ground, (h, w, 3), of 255, and its own colour."""
    y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
    own = CLOTHS[rng.integers(len(CLOTHS))] if rng.random() < 0.85 else rng.uniform(20, 250, 3)
    size, turn = float(rng.uniform(14, 70)), rng.uniform(0, np.pi) if rng.random() < 0.5 else 0.0
    a, b = x * np.cos(turn) + y * np.sin(turn), y * np.cos(turn) - x * np.sin(turn)

    def blots(soft: float) -> NDArray[np.float32]:
        return np.asarray(cv2.GaussianBlur(rng.normal(0, 1, (high, wide)).astype(np.float32), (0, 0), soft))

    marks: dict[str, Callable[[], NDArray[np.float32]]] = {
        "plain": lambda: np.zeros((high, wide)),
        "checks": lambda: (np.floor(a / size) + np.floor(b / size)) % 2,
        "gingham": lambda: 0.5 * (np.floor(a / size) % 2) + 0.5 * (np.floor(b / size) % 2),
        "stripes": lambda: np.floor(a / size) % 2,
        "dots": lambda: np.hypot(a % size - size / 2, b % size - size / 2) < size / 4,
        "grain": lambda: 0.5 + 0.5 * np.sin(6 * b / size + 2 * np.sin(a / size / 3) + 18 * blots(8.0)),
        "marble": lambda: np.clip(0.5 + blots(size / 2) * size / 2, 0, 1),
        "lined": lambda: b % size < 2,
        "jute": lambda: 0.5 + 0.5 * np.sin(a / 2.3) * np.sin(b / 2.7),
    }
    share = np.asarray(marks[str(rng.choice(PATTERNS))](), dtype=np.float32)[..., None]
    other = own * (1 - rng.uniform(0.05, 0.5)) if rng.random() < 0.7 else np.clip(own + rng.uniform(-60, 60, 3), 0, 255)
    light = 1 + rng.uniform(-0.15, 0.15) * (x / wide - 0.5) + rng.uniform(-0.15, 0.15) * (y / high - 0.5)
    return ((own * (1 - share) + other * share) * light[..., None]).astype(np.float32), own


def paintwork(rng: np.random.Generator, u: Array, v: Array, near: Array | None) -> Array:
    """Colours (h, w, 3), of 255, u from nose to tail, v from belly to back; `near`: one of them is about this."""
    colours = COLOURS[rng.integers(len(COLOURS), size=3)]
    if near is not None:
        colours[rng.integers(3)] = np.clip(near * rng.uniform(0.75, 1.1) + rng.normal(0, 7, 3), 0, 255)
    a, b, c = colours
    u, v = u[..., None], v[..., None]
    fade = 1 / (1 + np.exp(-(v - rng.uniform(-0.3, 0.3)) * rng.uniform(3, 15)))
    ways = (
        a + 0 * u,
        np.where(v > rng.uniform(-0.3, 0.3), a, b),
        a * fade + b * (1 - fade),
        np.where(u < rng.uniform(0.15, 0.4), a, b),
        np.where((u * 7) % 1 < 0.4, a, b),
        np.where(v > 0.3, a, np.where(v > -0.2, b, c)),
        np.where(((u * 40) % 1 - 0.5) ** 2 + ((v * 6) % 1 - 0.5) ** 2 < 0.1, a, b),
        a * (1 - u) + b * u,
        np.where(np.abs(v) < 0.25, a, b),
    )
    shaded = 1 - rng.uniform(0, 0.5) * (1 - np.sqrt(np.clip(1 - np.clip(v, -1, 1) ** 2, 0, 1)))
    gloss = rng.uniform(20, 120) * np.exp(-(((v - 0.4) / 0.12) ** 2)) * (rng.random() < 0.4)
    return np.asarray(ways[rng.integers(len(ways))] * shaded + gloss)


def in_light(values: Array) -> Array:
    """The light of what a picture says, 0 to 1, by its standard's own formula."""
    return np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4)


def in_numbers(light: Array) -> Array:
    """What a picture says of light, 0 to 1."""
    return np.where(light <= 0.0031308, 12.92 * light, 1.055 * np.maximum(light, 1e-9) ** (1 / 2.4) - 0.055)


def photographed(picture: Array, soft: float, sharpened: float) -> Array:
    """A picture, 0 to 1, blurred in light, and what that took from it given back in part."""
    seen = np.clip(picture, 0, 1)
    if soft:
        seen = in_numbers(np.asarray(cv2.GaussianBlur(in_light(seen), (0, 0), soft)))
    return np.asarray(seen + sharpened * (seen - cv2.GaussianBlur(seen, (0, 0), 1.2)))


@dataclass(frozen=True, eq=False)
class Laid:
    """An outline laid in a picture: its places (n, 2), length and middle, px; the way its axes lie, (2, 2); what it is of."""

    places: Array
    long: float
    middle: Array
    to_picture: Array
    outline: Outline

    def scene(self, picture: NDArray[np.uint8], kind: str, **quality: int) -> Scene:
        """It in a picture (h, w, 3) that a JPEG has kept."""
        kept = io.BytesIO()
        Image.fromarray(picture).save(kept, "JPEG", **quality)
        nose, tail = (tuple((self.places[n] + self.places[-1 - n]) / 2) for n in (0, STATIONS - 1))
        seen = np.asarray(Image.open(kept).convert("RGBA"), float) / 255
        return Scene(Known(seen, self.long, area_of(self.places), nose, tail), kind, "any")

    def across(self, wide: int, high: int) -> tuple[Array, Array, Array]:
        """Of every pixel, (h, w): how far along it lies, 0 to 1, how far across, -1 to 1 up, and how deep it is there, px."""
        y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
        at = (np.stack([x, y], axis=-1) - self.middle) @ self.to_picture / self.long
        t, back, belly = self.outline
        u = np.clip(at[..., 0] + 0.5, 0, 1)
        above, below = np.interp(u, t, back), np.interp(u, t, belly)
        deep = np.maximum((above - below) / 2, 1e-4)
        return u, (-at[..., 1] - (above + below) / 2) / deep, deep * self.long


def laid(rng: np.random.Generator, wide: int, high: int, angle: float, least: float = 0.7) -> Laid:
    """Some outline, as large as the picture has room for, or down to the least share of that."""
    turn = np.radians(angle)
    to_picture = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    t, back, belly = outline_of(rng)
    loop = np.stack([np.concatenate([t, t[::-1]]) - 0.5, -np.concatenate([back, belly[::-1]])], axis=1)
    turned = loop @ to_picture.T
    long = float((np.array([wide, high]) * 0.8 / np.ptp(turned, axis=0)).min() * rng.uniform(least, 1.0))
    middle = np.array([wide, high]) / 2 - long * (turned.min(axis=0) + turned.max(axis=0)) / 2
    return Laid(turned * long + middle, long, middle, to_picture, (t, back, belly))


def cover_of(places: Array, wide: int, high: int) -> NDArray[np.float32]:
    """What share of each pixel lies within an outline, (h, w)."""
    drawn = np.zeros((high * FINER, wide * FINER), dtype=np.uint8)
    within = places - 0.5 / FINER * outward(
        places
    )  # a polygon is filled with what its rim touches, half a place too far
    cv2.fillPoly(drawn, [np.round(((within + 0.5) * FINER - 0.5) * 16).astype(np.int32)], (255,), shift=4)
    return cv2.resize(drawn, (wide, high), interpolation=cv2.INTER_AREA).astype(np.float32) / 255


def lying(rng: np.random.Generator, hidden: bool = False, sunlit: bool = False) -> tuple[Scene, float]:
    """A picture, its truth known, and the angle its body lies at, degrees.

    hidden : paint of about the ground's colour. sunlit : under a hard shadow, blurred in light as a lens does, and
    sharpened as cameras do.
    """
    wide = int(rng.choice([800, 1100, 1600]))
    high, angle = int(wide * rng.choice([0.66, 0.75])), float(rng.choice([0.0, 90.0, *rng.uniform(0, 180, 3)]))
    body = laid(rng, wide, high, angle)

    picture, own = patterned(rng, wide, high)
    cast = rng.normal(0, 0.012, 2) * wide + [0, 0.006 * wide]
    strength, spread = rng.choice([0, 0, 0.15, 0.3, 0.5]), float(rng.uniform(0.002, 0.02)) * wide
    if sunlit:
        strength, spread = rng.uniform(0.15, 0.9), float(rng.uniform(0.2, 3.0))
    shadow = cv2.GaussianBlur(cover_of(body.places + cast, wide, high), (0, 0), spread)
    picture = picture * (1 - strength * shadow[..., None])
    u, v, _ = body.across(wide, high)
    paint, cover = paintwork(rng, u, np.clip(v, -1.3, 1.3), own if hidden else None), cover_of(body.places, wide, high)
    picture = picture + cover[..., None] * (paint - picture)
    soft = float(rng.choice([0.0, 0.6, 1.2, 2.5]))
    if sunlit:
        picture = photographed(picture / 255, soft, float(rng.choice([0.0, 0.5, 1.0]))) * 255
    elif soft:
        picture = cv2.GaussianBlur(picture.astype(np.float32), (0, 0), soft)
    picture = picture * rng.uniform(0.75, 1.05) * (1 + rng.normal(0, 0.04, 3)) + rng.normal(
        0, rng.uniform(0.5, 6), picture.shape
    )
    quality = int(rng.choice([75, 88, 95]))
    return body.scene(np.clip(picture, 0, 255).astype(np.uint8), "lying", quality=quality), angle
