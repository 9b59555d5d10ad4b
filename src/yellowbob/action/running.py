"""Running trim: how it lies, how deep and with what pull on the line, drawn steadily through the water.

Weight, buoyancy, the stream's push (`pressure`) and the line's pull at the tie balance: forward, up and in pitch. At no speed
that is the rest.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.dragged import Dragged
from yellowbob.afloat.immersion import immersed
from yellowbob.afloat.rest import Afloat, Rest, up_from
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import go_on
from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]

HULL, PLATE = 0, 1
"""How a skin meets the water: see `pressure`."""
STILL, NOTHING = np.zeros(3), np.zeros(6)
BALANCED = 1e-7
"""Of weight, and of weight x length, that force and moment may be left over."""
ROUNDS = 60
KEPT_SLOPE = 0.1
"""A slope serves for the next step, too, where what is left over fell to less than this share."""
STEP_RAD, STEP_MM = 1e-5, 1e-4
FASTEST_M_S = 6.0
STEPS_BETWEEN = 8
"""A speed is reached from the one before in at most so many halvings."""
LONGEST_STEP_M_S = 0.1
"""Where there are several balances at a speed, that one counts which is reached by drawing it gradually faster."""


@dataclass(frozen=True, eq=False)
class Pulled:
    """What is drawn: the build, its skins with how each meets the water (HULL or PLATE), where it is tied, mm; the hardware
    that the stream drags."""

    afloat: Afloat
    skins: tuple[tuple[Mesh, int], ...]
    tie_mm: tuple[float, float, float]
    drags: tuple[Dragged, ...] = ()
    ballast_g: float = 0.0
    """of what is put in, which a bench may set a little to a side"""

    @cached_property
    def _dragged(self) -> tuple[Array, Array, Array, Array]:
        places = np.array([d.at_mm for d in self.drags], dtype=float).reshape(-1, 3)
        return (places, np.array([d.area_mm2 for d in self.drags]), np.array([max(d.high_mm, 1e-3) for d in self.drags]),
                np.array([1.0 if d.hangs else 0.5 for d in self.drags]))  # fmt: skip

    @cached_property
    def arrays(self) -> tuple[Array, NDArray[np.int32], NDArray[np.uint8]]:
        """All skins as one: vertices, faces, laws."""
        vertices, faces, laws, count = [], [], [], 0
        for mesh, law in self.skins:
            vertices.append(mesh.vertices)
            faces.append(mesh.faces + count)
            laws.append(np.full(len(mesh.faces), law, dtype=np.uint8))
            count += len(mesh.vertices)
        return (np.ascontiguousarray(np.concatenate(vertices)), np.ascontiguousarray(np.concatenate(faces), dtype=np.int32),
                np.concatenate(laws))  # fmt: skip

    @cached_property
    def _centre(self) -> Array:
        return np.ascontiguousarray(self.afloat.centre_mm, dtype=np.float64)

    @cached_property
    def length_mm(self) -> float:
        """Along its axis."""
        return float(np.ptp(self.arrays[0][:, 0]))

    @property
    def weight(self) -> float:
        """µN."""
        return self.afloat.mass_g * GRAVITY_MM_S2

    def stream(self, up: Array, height: float, flow: Array, spin: Array) -> Array:
        """Force and moment about the centre of gravity (6,), µN and µN·mm, body axes."""
        from yellowbob.action.pressure import VISCOSITY_MM2_S, drags, push  # late: it brings the compiler with it

        vertices, faces, laws = self.arrays
        speed = math.sqrt(float(flow @ flow))
        rub = 1.328 / math.sqrt(max(speed * self.length_mm / VISCOSITY_MM2_S, 1.0)) if speed > 0.0 else 0.0
        out, high = np.empty(6), np.empty(len(vertices))
        push(vertices, faces, laws, up, height, flow, spin, self._centre, self.afloat.density_g_mm3,
             rub, high, out)  # fmt: skip
        if self.drags:
            drags(*self._dragged, up, height, flow, spin, self._centre, self.afloat.density_g_mm3, out)
        return out


@dataclass(frozen=True)
class Line:
    """The line: at a fixed angle over the level, or to a rod's tip at a height above the water, so long paid out."""

    angle_deg: float = 0.0
    rod_mm: float | None = None
    out_mm: float = 15_000.0

    def rise(self, tie_height_mm: float) -> float:
        """Its angle over the level, rad, for a tie so high over the water."""
        if self.rod_mm is None:
            return math.radians(self.angle_deg)
        return math.asin(max(-0.999, min(0.999, (self.rod_mm - tie_height_mm) / self.out_mm)))


def line_of(angle_deg: float | None, rod_m: float | None, out_m: float) -> Line:
    """From what was asked. Raises BadInput for a line that cannot be."""
    if not (math.isfinite(out_m) and 0.5 <= out_m <= 200.0):
        raise BadInput(f"{out_m:g} m of line out: give 0.5 to 200 m")
    if angle_deg is not None:
        if not -60.0 <= angle_deg <= 80.0:
            raise BadInput(f"a line {angle_deg:g}° over the level: give -60 to 80")
        return Line(angle_deg, None, out_m * 1000.0)
    if rod_m is not None and not (math.isfinite(rod_m) and -2.0 <= rod_m <= 0.98 * out_m):
        raise BadInput(f"a rod's tip {rod_m:g} m over the water with {out_m:g} m of line out cannot be")
    return Line(0.0, None if rod_m is None else rod_m * 1000.0, out_m * 1000.0)


@dataclass(frozen=True)
class Trim:
    """Balanced at a speed. left_over: of the forces, as shares of weight (forward, up), and of weight x length (pitch)."""

    speed_m_s: float
    pitch_rad: float
    height_mm: float
    """water plane x·up = height"""
    draft_mm: float
    pull_g: float
    """tension of the line, in grams"""
    line_rad: float
    wet_share: float
    """of all its volume under water"""
    left_over: tuple[float, float, float]

    @property
    def up(self) -> Array:
        """World-up in body axes."""
        return up_from(self.pitch_rad, 0.0)


def balance(thing: Pulled, line: Line, speed: float, pitch: float, height: float) -> tuple[Array, float, float]:
    """(up, pitch) left over, of weight and weight x length; tension µN; line's angle. Speed mm/s."""
    build = thing.afloat
    c, n = math.cos(pitch), math.sin(pitch)
    up, aft = np.array([-n, 0.0, c]), np.array([c, 0.0, n])
    water = immersed(build, up, height)
    lift = build.density_g_mm3 * GRAVITY_MM_S2 * water.volume_mm3
    (cx, _, cz), (tx, _, tz) = build.centre_mm, thing.tie_mm
    fx, _, fz, _, across, _ = thing.stream(up, height, speed * aft, STILL) if speed > 0.0 else NOTHING
    rise = line.rise(tz * c - tx * n - height)
    along, above = math.cos(rise), math.sin(rise)
    tension = (fx * c + fz * n) / along
    # the pull, body axes: up by its rise, and ahead
    px, pz = tension * (-above * n - along * c), tension * (above * c - along * n)
    upward = lift - thing.weight + (fz * c - fx * n) + tension * above
    bx, bz = float(water.centre_mm[0]) - cx, float(water.centre_mm[2]) - cz
    # y of each place's cross product with its force: z·Fx - x·Fz
    moment = across + bz * (-lift * n) - bx * (lift * c) + (tz - cz) * px - (tx - cx) * pz
    return np.array([upward / thing.weight, moment / (thing.weight * thing.length_mm)]), float(tension), rise


def froude(speed_m_s: float, length_mm: float) -> float:
    """Length Froude number V/√(gL): near 0.4 a hull makes its largest waves, beyond 1 it begins to plane."""
    return 1000.0 * speed_m_s / math.sqrt(GRAVITY_MM_S2 * length_mm)


def settle_at(thing: Pulled, line: Line, speed_m_s: float, pitch: float, height: float) -> Trim | None:
    """Newton's method from a guess; None where it finds no balance near it."""
    go_on()
    speed = 1000.0 * speed_m_s
    left, tension, rise = balance(thing, line, speed, pitch, height)
    slope, fell = np.eye(2), 1.0
    for _ in range(ROUNDS):
        before = float(np.abs(left).max())
        if before < BALANCED:
            break
        if fell > KEPT_SLOPE:
            by_pitch = (balance(thing, line, speed, pitch + STEP_RAD, height)[0] - left) / STEP_RAD
            by_height = (balance(thing, line, speed, pitch, height + STEP_MM)[0] - left) / STEP_MM
            slope = np.stack([by_pitch, by_height], axis=1)
        if abs(slope[0, 0] * slope[1, 1] - slope[0, 1] * slope[1, 0]) < 1e-14:
            return None
        move = -np.linalg.solve(slope, left)
        share = min(1.0, 0.1 / max(abs(move[0]), 1e-12), 0.05 * thing.length_mm / max(abs(move[1]), 1e-12))
        for _ in range(8):
            tried = balance(thing, line, speed, pitch + share * move[0], height + share * move[1])
            if np.abs(tried[0]).max() < np.abs(left).max() * (1.0 - 0.05 * share) or share < 0.01:
                break
            share *= 0.5
        pitch, height = pitch + share * move[0], height + share * move[1]
        left, tension, rise = tried
        fell = float(np.abs(left).max()) / before
    if np.abs(left).max() > BALANCED:
        return None
    up = up_from(pitch, 0.0)
    low = float((thing.afloat.hull.vertices @ up).min())
    wet = immersed(thing.afloat, up, height).volume_mm3 / thing.afloat.volume_mm3
    over = (0.0, float(left[0]), float(left[1]))
    return Trim(
        speed_m_s, float(pitch), float(height), float(height) - low, tension / GRAVITY_MM_S2, rise, float(wet), over
    )


@dataclass(frozen=True)
class Run:
    """Trims at the speeds asked for, as far as there is a balance; the speed and the way it ends.

    ends: "" where every speed asked for has a balance; else `goes under`, `leaves the water` or `finds no balance`.
    """

    trims: tuple[Trim, ...]
    ends: str = ""
    ends_at_m_s: float | None = None


UNDER, OUT = 0.995, 0.03
"""Shares of its volume in the water from which it is under, and below which it has left it."""


def run(thing: Pulled, rest: Rest, speeds_m_s: Sequence[float], line: Line | None = None) -> Run:
    """Draw it at rising speeds, each from the last one's balance. Raises BadInput for speeds out of range."""
    line = line or Line()
    wanted = rising(speeds_m_s)
    last = settle_at(thing, line, 0.0, rest.pitch_rad, rest.height_mm)
    if last is None:
        return Run((), "finds no balance", 0.0)
    found: list[Trim] = []
    for speed in wanted:
        reached = reach(thing, line, last, speed, found[-2] if len(found) > 1 else None)
        if reached.speed_m_s < speed - 1e-12:
            return Run(tuple(found), why_ends(thing, line, reached), reached.speed_m_s)
        if reached.wet_share > UNDER:
            return Run(tuple(found), "goes under", reached.speed_m_s)
        if reached.wet_share < OUT:
            return Run(tuple(found), "leaves the water", reached.speed_m_s)
        last = replace(reached, speed_m_s=speed)  # and not a rounding beside it
        found.append(last)
    return Run(tuple(found))


def rising(speeds_m_s: Sequence[float]) -> list[float]:
    """Speeds as numbers. Raises BadInput for any out of range or out of order."""
    wanted = [float(v) for v in speeds_m_s]
    if any(not (math.isfinite(v) and 0.0 <= v <= FASTEST_M_S) for v in wanted) or sorted(wanted) != wanted:
        raise BadInput(f"speeds are given rising, from 0 to {FASTEST_M_S:g} m/s")
    return wanted


def reach(thing: Pulled, line: Line, last: Trim, speed: float, before: Trim | None = None) -> Trim:
    """The balance at a speed, by way of slower ones; the fastest found where there is none."""
    step = LONGEST_STEP_M_S
    least = step / 2**STEPS_BETWEEN
    while last.speed_m_s < speed - 1e-12:
        there = min(last.speed_m_s + step, speed)
        found = settle_at(thing, line, there, *_ahead(before, last, there))
        near = found is not None and abs(found.pitch_rad - last.pitch_rad) < 0.35
        if found is not None and near:
            before, last = last, found
            if found.wet_share > UNDER or found.wet_share < OUT:
                return replace(found, speed_m_s=min(found.speed_m_s, speed - 1e-9))
            continue
        step /= 2.0
        if step < max(least, 1e-5):
            return last
    return last


def _ahead(before: Trim | None, last: Trim, speed: float) -> tuple[float, float]:
    """Pitch and height to begin from at a speed: straight on from the last two."""
    if before is None or last.speed_m_s <= before.speed_m_s:
        return last.pitch_rad, last.height_mm
    on = min((speed - last.speed_m_s) / (last.speed_m_s - before.speed_m_s), 1.0)
    return (
        last.pitch_rad + on * (last.pitch_rad - before.pitch_rad), last.height_mm + on * (last.height_mm - before.height_mm)
    )  # fmt: skip


def why_ends(thing: Pulled, line: Line, last: Trim) -> str:
    """What it does just beyond the last balance: by what is left over when it is drawn a little faster."""
    if last.wet_share > 0.9:
        return "goes under"
    if last.wet_share < 2.0 * OUT:
        return "leaves the water"
    left, _, _ = balance(thing, line, 1000.0 * (last.speed_m_s + 0.02), last.pitch_rad, last.height_mm)
    return "digs under" if left[0] < 0.0 else "finds no balance"
