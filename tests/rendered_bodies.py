"""Solid bodies rendered in light and seen by a camera: a third painter.

Its shadows are cast by the body's own height and lit by a sky of another colour, its rims mirror the ground, and a lens, a
mosaic of colours and a curve have made its pictures.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from tests.lying_bodies import Laid, cover_of, in_light, in_numbers, laid, paintwork, patterned
from tests.painted_bodies import Scene

Array = NDArray[np.float64]
KEYS = ((1.0, 1.0, 1.0), (1.0, 0.87, 0.68), (1.0, 0.75, 0.46))
SKIES = ((1.0, 1.0, 1.0), (0.68, 0.79, 1.0), (0.51, 0.68, 1.0))


@dataclass(frozen=True, eq=False)
class Solid:
    """A body of elliptic sections lying in a picture: its outline; its cover and half its thickness, px, (h, w); its normals,
    (h, w, 3), x right, y down, z to the eye; along and across it, 0 to 1 and -1 to 1, (h, w)."""

    laid: Laid
    cover: NDArray[np.float32]
    half: NDArray[np.float32]
    normal: Array
    u: Array
    v: Array


def solid(rng: np.random.Generator, wide: int, high: int, angle: float) -> Solid:
    """Some body, as large as the picture has room for, or down to 0.6 of that."""
    body = laid(rng, wide, high, angle, least=0.6)
    cover = cover_of(body.places, wide, high)
    u, v, deep = body.across(wide, high)
    flat, inner = rng.uniform(0.5, 1.0), np.clip(v, -1, 1)
    rise = np.sqrt(1 - inner**2)
    t, back, belly = body.outline
    slope = np.interp(u, t, np.clip(np.gradient((back - belly) / 2, t), -1.5, 1.5))
    own = np.stack([-slope, -inner, rise / flat], axis=-1)
    own /= np.linalg.norm(own, axis=-1, keepdims=True)
    normal = np.concatenate([own[..., :2] @ body.to_picture.T, own[..., 2:]], axis=-1)
    half = np.where(cover > 0.5, deep * flat * rise, 0.0).astype(np.float32)
    return Solid(body, cover, half, normal, u, np.clip(v, -1.2, 1.2))


def reached(half: NDArray[np.float32], towards: Array) -> NDArray[np.float32]:
    """The share of light from a direction that reaches the ground, (h, w), past a body half as thick, (h, w), on it."""
    size, top = half.shape[::-1], float(half.max())
    shadow = np.zeros_like(half)
    for level in np.linspace(0.0, 2.0 * top, int(np.clip(2.0 * top, 4, 30))):
        slice_ = np.clip(half - abs(level - top) + 0.5, 0, 1)
        by = -level * towards[:2] / towards[2]
        shadow = np.maximum(shadow, cv2.warpAffine(slice_, np.array([[1, 0, by[0]], [0, 1, by[1]]]), size))
    return 1 - shadow


def lit(rng: np.random.Generator, body: Solid, ground: Array, paint: Array) -> Array:
    """The light that comes from ground and body, (h, w, 3), both given as what they send back of white."""
    size = body.cover.shape
    high, about = np.radians(rng.uniform(25, 85)), rng.uniform(0, 2 * np.pi)
    towards = np.array([np.cos(high) * np.cos(about), np.cos(high) * np.sin(about), np.sin(high)])
    wide = float(rng.choice([0.0, 0.03, 0.1, 0.3]))
    ways = np.array([towards + wide * rng.normal(0, 1, 3) for _ in range(8 if wide else 1)])
    ways[:, 2] = np.maximum(ways[:, 2], 0.2)
    coarse = 3 if wide else 1
    half = cv2.resize(body.half, (size[1] // coarse, size[0] // coarse), interpolation=cv2.INTER_AREA) / coarse
    part = rng.choice([0.0, 0.3, 0.5, 0.7, 0.85])
    key, sky = part * np.array(KEYS[rng.integers(3)]), (1 - part) * np.array(SKIES[rng.integers(3)])
    direct = cv2.resize(np.mean([reached(half, way) for way in ways], axis=0), size[::-1])[..., None] * towards[2]
    near = cv2.GaussianBlur(body.cover, (0, 0), max(1.0, float(body.half.max()) * rng.uniform(0.3, 1.0)))
    table = ground * (key * direct + sky * (1 - rng.uniform(0.2, 0.9) * near)[..., None])
    if rng.random() < 0.12:  # a polished one
        by = np.array([[1, 0, 0], [0, 1, 0.6 * float(body.half.max())]])
        seen = cv2.GaussianBlur(cv2.warpAffine(body.cover, by, size[::-1]), (0, 0), 2)[..., None]
        table += 0.12 * seen * (paint.mean(axis=(0, 1)) - table)
    up, facing = body.normal[..., 2:], (body.normal @ towards)[..., None]
    own = paint * (
        key * np.clip(facing, 0, None) + sky * (0.5 + 0.5 * up) + rng.uniform(0, 0.4) * ground.mean((0, 1)) * (1 - up)
    )
    if rng.random() < 0.6:  # varnished
        rim = 0.04 + 0.96 * (1 - np.clip(up, 0, 1)) ** 5 * rng.uniform()
        shine = np.clip(2 * facing[..., 0] * body.normal[..., 2] - towards[2], 0, 1) ** rng.uniform(20, 200)
        own = own * (1 - rim) + 0.7 * rim * ground.mean((0, 1)) + shine[..., None] * key * rng.uniform(0.1, 1.5)
    return np.asarray(table + body.cover[..., None] * (own - table))


def through_a_camera(rng: np.random.Generator, light: Array) -> Array:
    """What a camera makes of light, (h, w, 3): numbers, about 0 to 1."""
    high, wide = light.shape[:2]
    seen = (light * 0.75 * rng.uniform(0.55, 1.1) / max(0.2, float(np.percentile(light, 97)))).astype(np.float32)
    seen = cv2.GaussianBlur(seen, (0, 0), float(rng.choice([0.4, 0.7, 1.2, 1.8])))
    stretch = float(rng.choice([0, 0, 0.0004, 0.001]))
    for channel, by in ((0, 1 + stretch), (2, 1 - stretch)):
        about = np.array([[by, 0, (1 - by) * wide / 2], [0, by, (1 - by) * high / 2]])
        one = np.ascontiguousarray(seen[..., channel])
        seen[..., channel] = cv2.warpAffine(
            one, about, (wide, high), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
        )
    seen += rng.normal(0, 1, seen.shape) * rng.uniform(0.0005, 0.01) * np.sqrt(np.clip(seen, 0, 1) + 0.002)
    if rng.random() < 0.6:  # one colour to a pixel, the others from those beside it
        mosaic = np.zeros((high, wide), dtype=np.uint16)
        for row, column, channel in ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2)):
            mosaic[row::2, column::2] = np.clip(seen[row::2, column::2, channel] * 32768, 0, 65535)
        seen = cv2.demosaicing(mosaic, cv2.COLOR_BayerBG2RGB).astype(np.float32) / 32768
    told = np.clip(in_numbers(seen), 0, 1)
    curve = rng.choice([0.0, 0.3, 0.6])
    told += curve * (told**2 * (3 - 2 * told) - told)
    if rng.random() < 0.4:  # noise taken out of its colours
        split = cv2.cvtColor(told.astype(np.float32), cv2.COLOR_RGB2YCrCb)
        split[..., 1:] = cv2.GaussianBlur(split[..., 1:], (0, 0), 2)
        told = cv2.cvtColor(split, cv2.COLOR_YCrCb2RGB)
    return np.asarray(told + rng.choice([0, 0.5, 1.0]) * (told - cv2.GaussianBlur(told, (0, 0), 1.1)))


def rendered(rng: np.random.Generator, hidden: bool = False) -> tuple[Scene, float]:
    """A picture, its truth known, and the angle its body lies at, degrees. hidden : paint of about the ground's colour."""
    wide = int(rng.choice([700, 900, 1200]))
    high, angle = int(wide * rng.choice([0.6, 0.75])), float(rng.choice([0.0, 90.0, *rng.uniform(0, 180, 3)]))
    body = solid(rng, wide, high, angle)
    ground, own = patterned(rng, wide, high)
    paint = paintwork(rng, body.u, body.v, own if hidden else None)
    light = lit(rng, body, in_light(np.clip(ground / 255, 0, 1)), in_light(np.clip(paint / 255, 0, 1)))
    picture = np.round(np.clip(through_a_camera(rng, light), 0, 1) * 255).astype(np.uint8)
    quality, subsampling = int(rng.choice([70, 85, 95])), int(rng.choice([0, 2]))
    return body.laid.scene(picture, "rendered", quality=quality, subsampling=subsampling), angle
