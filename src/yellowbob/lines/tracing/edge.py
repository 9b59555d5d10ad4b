"""An outline put on the edge it lies by: half-way between the colours inside and outside; and what is doubtful about it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.levels import UNCLEAR
from yellowbob.lines.tracing.masks import Mask

Array = NDArray[np.float64]

NEAR_PX, FAR_PX = 5.0, 11.0
"""How far to each side of an outline its edge is looked for, last and first."""
SHARP_PX = 2.5
"""An edge no wider is sharp."""
SURE_SHARE = 0.94
"""Share of an outline that an edge must be found for."""
RAGGED_SPAN, RAGGED_PX, RAGGED_NEAR, RAGGED_SHARE = 3, 2.5, 8, 0.05
"""By how much an outline may bend over so many points to each side; within how many points to both sides, and at what share
of them."""
FAINT_RISE, FAINT_SHARE = 0.07, 0.03
"""A step in colour under this is faint, which is said where it is more than this share of the outline."""
IN_HUE = 0.5
"""A step in colour is one in hue where hue makes more than this share of it."""
NO_BAND = 0.8
"""What lies across an edge is lighter than this share of the darker side's light, or a band."""
LEAST_RISE = 0.03
"""Least step in colour (0 to 1 a channel) that an outline is put on."""
LEAST_SOFT_PX, SOFTEST_PX, SOFTEST_SHARE = 3.5, 5.0, 0.06
"""An edge may be so soft always, never softer, and between by this share of the body's thickness; else it is out of focus."""
PLACED_PX, PLACED_WEAK_PX, PLACED_ROUGH_PX, AREA_SHARE, MOST_AREA_SHARE = 0.35, 0.6, 0.7, 0.01, 0.06
"""How exactly an edge is placed, px, on smooth ground, where it is weak, and on rough; the share of area it may make unsaid;
and at all."""
PLACED_SOFT, PLACED_BURNT = 0.3, 0.9
"""The share of an edge's own width that it is placed to at best, a camera's curve and what a glossy rim mirrors of the ground
being unknown; and where one of its sides is burnt out. Nine in ten of 70 rendered bodies lay within the first."""
BURNT = 0.992
"""A colour is burnt out that is as bright as a picture can be, but for what a JPEG's losses leave of that."""
LIGHT_SHARE = 0.007
"""The share of area from which on it is said that half-way in light would be elsewhere."""
STEEP_PX, BESIDE_PX, BLUR_TIMES = 2.0, (3.0, 5.0), 0.827
"""A fall is looked at over so many px, against what lies so far to each side; a step blurred by a Gaussian falls from 0.85 to
0.15 of it over this, by its steepest a px: 2·Φ⁻¹(0.85)/√(2π)."""
WEAK_STEP = 0.33
"""An edge is weak where at most places the step in colour (0 to 1 a channel, together) is less."""
RIM_PX, DEEP_PX = 3.0, 9.0
"""A rim is another colour so far inside an outline than so much further in."""
RIM_COLOUR = 0.09
"""By how much (0 to 1 a channel), square mean over the channels."""
RIM_SHARES = (0.035, 0.4)
"""The share of an outline that has such a rim from which on it is said; up to which, for light and shade lie all round."""


@dataclass(frozen=True, eq=False)
class OnEdge:
    """An outline (n, 2), px, on its edge; the share of it that is faint; the step in colour and the width, px, at most
    places."""

    outline: Array
    faint: float
    step: float
    wide: float


def outward(outline: Array) -> Array:
    """Unit normals of a closed outline (n, 2), outward."""
    tangent = np.roll(outline, -2, axis=0) - np.roll(outline, 2, axis=0)
    tangent /= np.maximum(np.linalg.norm(tangent, axis=1, keepdims=True), 1e-9)
    normal = np.stack([tangent[:, 1], -tangent[:, 0]], axis=1)
    area = 0.5 * float(np.sum(outline[:, 0] * np.roll(outline[:, 1], -1) - outline[:, 1] * np.roll(outline[:, 0], -1)))
    return -normal if area < 0 else normal


def area_of(outline: Array) -> float:
    """Area inside a closed outline (n, 2)."""
    x, y = outline.T
    return abs(0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))))


def runs(outline: Array) -> Array:
    """How much of a closed outline's length, px, each of its points (n, 2) stands for, (n,)."""
    return np.asarray(0.5 * np.linalg.norm(np.roll(outline, -1, axis=0) - np.roll(outline, 1, axis=0), axis=1))


def area_doubt(outline: Array, placed_px: float) -> float:
    """What placing the whole edge by so much in or out makes of the area, as a share of it."""
    along = np.linalg.norm(np.roll(outline, -1, axis=0) - outline, axis=1).sum()
    return float(placed_px * along / max(area_of(outline), 1e-9))


def rimmed(outline: Array, colour: NDArray[np.float32], body: Mask) -> float:
    """Share of an outline along which a thin rim is of another colour than what lies further in: a shank or a shadow.

    body : what lies within that outline, (h, w).
    """
    normal = outward(outline)
    steps = -np.array([RIM_PX - 1.0, RIM_PX, RIM_PX + 1.0, DEEP_PX, DEEP_PX + 1.0, DEEP_PX + 2.0])
    seen = masks.read_across(colour, outline, normal, steps)
    inner = masks.read_across(body, outline, normal, steps).min(axis=0) > 0.5
    away = np.sqrt(((masks.median(seen[:3]) - masks.median(seen[3:])) ** 2).mean(axis=1))
    return float(np.mean(inner & (away > RIM_COLOUR)))


def put_on_edge(outline: Array, colour: NDArray[np.float32], inside: Mask, drawn: Mask, thick: float) -> OnEdge:
    """An outline that was found by a level, so lies outside its edge's middle by a part of its softness, put on it.

    A soft edge is looked for far off, a sharp one near by only: further in lie stripes and highlights with their own edges.
    """
    try:
        near = at_half_level(outline, colour, inside, drawn, thick, NEAR_PX)
    except BadPicture:
        near = None
    if near is None or near.wide > SHARP_PX:
        near = at_half_level(outline, colour, inside, drawn, thick, min(FAR_PX, max(NEAR_PX, 0.3 * thick)))
    return at_half_level(near.outline, colour, inside, drawn, thick, NEAR_PX)


def at_half_level(
    outline: Array, colour: NDArray[np.float32], inside: Mask, drawn: Mask, thick: float, reach: float
) -> OnEdge:
    """Move outline points (n, 2) along their normals to where the colour is half-way between inside and outside.

    colour : (h, w, 3), in which light mixes straight. Points drawn by hand stay.
    """
    normal = outward(outline)
    steps = np.arange(-reach, reach + 0.01, 0.5)
    mixed = masks.read_across(colour, outline, normal, steps)
    along, crossed, rise = _shares_of_inside(mixed, steps)
    beyond = masks.read_across(inside, outline, normal, steps[-1:])[0]
    sound = (rise > LEAST_RISE) & (beyond < 0.5) & ~drawn & crossed.any(axis=1)
    if reach <= NEAR_PX and (sound | drawn | (beyond >= 0.5)).mean() < SURE_SHARE:
        raise BadPicture(UNCLEAR)
    if not sound.any():
        return OnEdge(outline, 0.0, 0.0, 0.0)
    wide = _edge_width(along[sound], steps)
    if reach > NEAR_PX and wide > min(SOFTEST_PX, max(LEAST_SOFT_PX, SOFTEST_SHARE * thick)):
        raise BadPicture(f"it is out of focus: its edge is {wide:.0f} pixels soft; take a sharper picture")
    move = _moves(along, crossed, sound, steps)
    move[drawn] = 0.0
    faint = float(np.mean(((rise < FAINT_RISE) | ~sound) & ~drawn & (beyond < 0.5)))
    return OnEdge(np.asarray(outline + move[:, None] * normal), faint, float(masks.median(rise)), wide)


def _shares_of_inside(mixed: NDArray[np.float32], steps: Array) -> tuple[Array, Mask, Array]:
    """How much of the inside's colour there is across an outline, 1 inside and 0 outside, (n, steps); where that falls
    through a half, (n, steps - 1); and the step in colour, (n,). mixed : colours across, (steps, n, 3)."""
    within, without = _both_sides(mixed, steps)
    way = _ways_in(mixed, within, without)
    along = (masks.dot(mixed - without, way) / np.maximum((way**2).sum(axis=1), 1e-9)).T
    return along, (along[:, :-1] >= 0.5) & (along[:, 1:] < 0.5), np.linalg.norm(within - without, axis=1)


def _both_sides(mixed: NDArray[np.float32], steps: Array) -> tuple[Array, Array]:
    """The colours inside and outside, (n, 3), of those across an outline, (steps, n, 3)."""
    return masks.median(mixed[steps <= 0.5 * steps[0]]), masks.median(mixed[steps >= 0.5 * steps[-1]])


def _moves(along: Array, crossed: Mask, sound: Mask, steps: Array) -> Array:
    """How far out each place of an outline lies from where the share of inside, (n, steps), falls through a half; where it is
    not sound, (n,), as its neighbours. crossed : (n, steps - 1), whether it falls through there."""
    best = np.argmin(np.where(crossed, np.abs(steps[:-1] + 0.25)[None, :], 99.0), axis=1)
    row = np.arange(len(along))
    one, two = along[row, best], along[row, best + 1]
    move = steps[best] + 0.5 * (one - 0.5) / np.maximum(one - two, 1e-9)
    wrapped = np.flatnonzero(sound)
    return _median_of_seven(np.interp(row, wrapped, move[wrapped], period=len(along)))


def light_doubts(outline: Array, colour: NDArray[np.float32], drawn: Mask) -> tuple[float, float]:
    """By which share the area would be larger were an outline on its edge put half-way in light instead; and along which
    share of it one side is burnt out, so that half-way is not known in any.

    A lens blurs light, a program the picture's numbers, and a picture does not tell which: between dark and light the one
    half-way lies by a part of the blur further into the dark than the other. drawn : points that stay.
    """
    normal, steps = outward(outline), np.arange(-NEAR_PX, NEAR_PX + 0.01, 0.5)
    mixed = masks.read_across(colour, outline, normal, steps)
    moves = []
    for seen in (mixed, masks.in_light(mixed)):
        along, crossed, _ = _shares_of_inside(seen, steps)
        sound = crossed.any(axis=1) & ~drawn
        moves.append(_moves(along, crossed, sound, steps) if sound.any() else np.zeros(len(outline)))
    out = np.where(drawn, 0.0, moves[1] - moves[0])
    run = runs(outline)
    burnt = _burnt_out(mixed, steps) & ~drawn
    return float((out * run).sum()) / max(area_of(outline), 1e-9), float(burnt.mean())


def _burnt_out(mixed: NDArray[np.float32], steps: Array) -> Mask:
    """Where most of the step in colour across an outline is in channels one side of which is burnt out, (n,)."""
    within, without = _both_sides(mixed, steps)
    step = (within - without) ** 2
    return np.asarray((step * (np.maximum(within, without) > BURNT)).sum(axis=1) > 0.5 * step.sum(axis=1))


def _ways_in(mixed: NDArray[np.floating[Any]], within: Array, without: Array) -> Array:
    """The ways from the colours outside to those inside, (n, 3); of them those that are ways in hue are made blind to shade.

    Where both are about as light, the light that falls off towards a body's rim is no edge; but much darker in between is
    a band of its own. mixed : colours across, (s, n, 3).
    """
    way, both = within - without, within + without
    grey = both / np.maximum(np.linalg.norm(both, axis=1, keepdims=True), 1e-9)
    hue = way - (way * grey).sum(axis=1, keepdims=True) * grey
    light = masks.dot(mixed, grey)
    darker = np.minimum((within * grey).sum(axis=1), (without * grey).sum(axis=1))
    in_hue = (np.linalg.norm(hue, axis=1) > IN_HUE * np.linalg.norm(way, axis=1)) & (
        light.min(axis=0) > NO_BAND * darker
    )
    return np.where(in_hue[:, None], hue, way)


def _median_of_seven(move: Array) -> Array:
    """The median of each and its three neighbours to each side, round a closed outline."""
    return masks.median(np.stack([np.roll(move, n) for n in range(-3, 4)]))


def refuse_ragged(outline: Array, drawn: Mask) -> None:
    """Refuse an outline that wanders from side to side: it follows the unrest of a shadow, not an edge."""
    if float(np.mean(wanders(outline) & ~drawn)) > RAGGED_SHARE:
        raise BadPicture(UNCLEAR)


def wanders(outline: Array) -> Mask:
    """Where an outline (n, 2), px, bends much to one side and close by to the other, (n,): a corner bends to one only."""
    bend = np.roll(outline, RAGGED_SPAN, axis=0) - 2.0 * outline + np.roll(outline, -RAGGED_SPAN, axis=0)
    out = (bend * outward(outline)).sum(axis=1)
    much = np.linalg.norm(bend, axis=1) > RAGGED_PX
    ways = np.stack([much & (out > 0.0), much & (out <= 0.0)])
    near = np.stack([np.roll(ways, n, axis=1) for n in range(-RAGGED_NEAR, RAGGED_NEAR + 1)]).any(axis=0)
    return np.asarray(much & near.all(axis=0))


def _edge_width(along: Array, steps: Array) -> float:
    """Median distance, px, over which edges (n, steps) fall from 0.85 to 0.15 of their step; no more than one blurred as a
    lens does would take whose steepest fall is theirs, for light and shade of a round body are no blur."""
    high, low = along[:, :4].mean(axis=1, keepdims=True), along[:, -4:].mean(axis=1, keepdims=True)
    share = (along - low) / np.maximum(high - low, 1e-9)
    apart, lag = steps[1] - steps[0], round(STEEP_PX / (steps[1] - steps[0]))
    beside = [
        masks.median(along[:, (way * steps >= BESIDE_PX[0]) & (way * steps <= BESIDE_PX[1])].T) for way in (-1, 1)
    ]
    falls = (along[:, :-lag] - along[:, lag:]).max(axis=1) / np.maximum(beside[0] - beside[1], 1e-9)
    steepest = float(masks.median(falls)) / STEEP_PX
    return min(
        float(masks.median(((share > 0.15) & (share < 0.85)).sum(axis=1)) * apart), BLUR_TIMES / max(steepest, 1e-9)
    )
