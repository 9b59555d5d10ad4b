"""Tracing of many known shapes: blunt, slim, fat and pointed, dark on light and light on dark, turned in the picture."""

from __future__ import annotations

import io

import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

from yellowbob.lines.curves import curve
from yellowbob.lines.tracing.silhouette import BadPicture, find_silhouette
from yellowbob.lines.tracing.trace import traced

Array = NDArray[np.float64]


def shape_of(kind: str) -> Array:
    """A closed outline of length 1: top from nose to tail, then the bottom back."""
    x = 0.5 - 0.5 * np.cos(np.linspace(0, np.pi, 300))
    if kind == "flat face":
        top = bottom = 0.16 * (1 - 0.2 * x) * np.clip(1 - x, 0, 1) ** 0.35
    elif kind == "slim":
        top = bottom = 0.09 * np.sqrt(np.clip(1 - (2 * x - 1) ** 2, 0, 1))
    elif kind == "fat":
        top, bottom = 0.22 * np.sqrt(x) * (1 - x) ** 0.6, 0.3 * np.sqrt(x) * (1 - x) ** 0.5
    else:
        top = bottom = 0.32 * np.sqrt(x) * (1 - x)
    return np.vstack([np.stack([x, top], 1), np.stack([x, -bottom], 1)[::-1]])


def picture_of(
    kind: str, px: int, angle_deg: float, dark_ground: bool, hooks: bool, shadow: bool, jpeg: int, seed: int
) -> tuple[Array, float, float]:
    """(pixels, length px, area px²) of a shape rendered with uneven light and noise."""
    rng, wide, high = np.random.default_rng(seed), px, int(px * 0.7)
    over = 4 if px < 1500 else 2
    long, a = 0.66 * wide, np.radians(angle_deg)
    turn = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    outline = shape_of(kind)
    places = ((outline - [0.5, 0]) * long * [1, -1]) @ turn.T + [wide / 2, high / 2]
    ground, body = ((30, 34, 44), (190, 150, 110)) if dark_ground else ((224, 220, 212), (96, 62, 40))

    def mask(draw: object) -> Array:
        assert isinstance(draw, Image.Image)
        return np.asarray(draw.resize((wide, high), Image.Resampling.BOX), float)[..., None] / 255

    drawn = Image.new("L", (wide * over, high * over), 0)
    ImageDraw.Draw(drawn).polygon([tuple(p * over) for p in places], fill=255)
    pixels = np.ones((high, wide, 3)) * np.array(ground)
    if shadow:
        soft = Image.new("L", (wide, high), 0)
        ImageDraw.Draw(soft).polygon([tuple(p + [0.015 * px, 0.025 * px]) for p in places], fill=255)
        dim = np.asarray(soft.filter(ImageFilter.GaussianBlur(0.015 * px)), float)[..., None] / 255
        pixels *= 1 - 0.3 * dim
    if hooks:
        wire = Image.new("L", (wide * over, high * over), 0)
        pen, thick = ImageDraw.Draw(wire), max(2, int(0.007 * long * over))
        for x in (0.3, 0.6):
            low = np.interp(x, outline[300:, 0][::-1], outline[300:, 1][::-1])
            eye = (np.array([x - 0.5, -low]) * long) @ turn.T + [wide / 2, high / 2]
            end, r = eye + [0, 0.12 * long], 0.035 * long
            pen.line([tuple(eye * over), tuple(end * over)], fill=255, width=thick)
            pen.arc([*((end - [2 * r, r]) * over), *((end + [0, r]) * over)], 0, 180, fill=255, width=thick)
            pen.arc([*((end - [0, r]) * over), *((end + [2 * r, r]) * over)], 0, 180, fill=255, width=thick)
        iron = mask(wire)
        pixels = pixels * (1 - iron) + iron * np.array([92, 92, 98])
    inside = mask(drawn)
    pixels = pixels * (1 - inside) + inside * np.array(body)
    y, x = np.mgrid[0:high, 0:wide]
    pixels *= (1 + 0.2 * (x / wide - 0.5) + 0.1 * (y / high - 0.5))[..., None]
    image = Image.fromarray(np.clip(pixels + rng.normal(0, 4, pixels.shape), 0, 255).astype(np.uint8))
    if jpeg:
        kept = io.BytesIO()
        image.save(kept, "JPEG", quality=jpeg)
        image = Image.open(kept)
    u, v = places.T
    area = abs(0.5 * float(np.sum(u * np.roll(v, -1) - v * np.roll(u, -1))))
    return np.asarray(image.convert("RGBA"), float) / 255, long, area


@pytest.mark.parametrize("kind", ["flat face", "slim", "fat"])
@pytest.mark.parametrize(
    ("px", "angle", "dark", "hooks", "shadow", "jpeg"),
    [
        (640, 0.0, False, False, False, 0),
        (900, 14.0, False, True, True, 80),
        (1300, -21.0, True, True, False, 65),
        (2400, 6.0, False, False, True, 90),
        (700, -9.0, True, False, False, 75),
    ],
)
def test_length_and_area_of_known_shapes(
    kind: str, px: int, angle: float, dark: bool, hooks: bool, shadow: bool, jpeg: int
) -> None:
    pixels, long, area = picture_of(kind, px, angle, dark, hooks, shadow, jpeg, seed=px)
    a = np.radians(angle)
    found = traced(find_silhouette(pixels), 1.0, False, along=np.array([np.cos(a), np.sin(a)]))
    assert found.length_mm == pytest.approx(long, rel=0.005)
    assert found.area_mm2 == pytest.approx(area, rel=0.01)
    # and the curves that are fitted hold the area too
    back, belly = (curve(outline).sampled(40) for outline in (found.shape.back, found.shape.belly))
    fitted = np.trapezoid(back[:, 1], back[:, 0]) - np.trapezoid(belly[:, 1], belly[:, 0])
    assert float(fitted) == pytest.approx(area, rel=0.015)


@pytest.mark.parametrize("angle", [0.0, 12.0, -18.0])
@pytest.mark.parametrize("hooks", [False, True])
def test_a_pointed_tail_is_kept_to_its_tip(angle: float, hooks: bool) -> None:
    pixels, long, area = picture_of("pointed", 1400, angle, False, hooks, False, 0, seed=5)
    a = np.radians(angle)
    found = traced(find_silhouette(pixels), 1.0, False, along=np.array([np.cos(a), np.sin(a)]))
    assert found.length_mm == pytest.approx(long, rel=0.01)
    assert found.area_mm2 == pytest.approx(area, rel=0.01)


def test_hooks_are_left_out_of_the_silhouette() -> None:
    with_hooks, long, _ = picture_of("slim", 1000, 0.0, False, True, False, 0, seed=2)
    without, _, _ = picture_of("slim", 1000, 0.0, False, False, False, 0, seed=2)
    one, two = (traced(find_silhouette(p), 1.0, False) for p in (with_hooks, without))
    assert one.depth_mm == pytest.approx(two.depth_mm, abs=0.01 * long)
    assert one.area_mm2 == pytest.approx(two.area_mm2, rel=0.006)


@pytest.mark.parametrize("kind", ["flat face", "fat"])
def test_a_body_of_the_grounds_own_colour_is_refused(kind: str) -> None:
    pixels, _, _ = picture_of(kind, 800, 5.0, False, False, False, 0, seed=3)
    rgb = pixels[..., :3]
    pale = rgb.mean(axis=(0, 1)) + 0.02 * (rgb - rgb.mean(axis=(0, 1)))
    pale = np.clip(pale + np.random.default_rng(1).normal(0, 0.02, pale.shape), 0, 1)
    with pytest.raises(BadPicture):
        find_silhouette(np.dstack([pale, np.ones(pale.shape[:2])]))


def test_two_things_in_a_picture_are_refused() -> None:
    pixels, _, _ = picture_of("slim", 900, 0.0, False, False, False, 0, seed=4)
    two = np.vstack([pixels, pixels])
    with pytest.raises(BadPicture, match="two large things"):
        find_silhouette(two)


def test_a_body_that_runs_out_of_the_picture_is_refused() -> None:
    pixels, _, _ = picture_of("fat", 900, 0.0, False, False, False, 0, seed=6)
    with pytest.raises(BadPicture):
        find_silhouette(pixels[:, 300:])
