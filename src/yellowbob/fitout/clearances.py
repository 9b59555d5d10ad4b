"""Clearances of the hardware: what can touch what, by how much, with everything swung to its worst.

Each piece is taken as the simplest solid that holds it in every way it can move: a hanging hook is a ball about the eye
it hangs from, a fixed hook its bent wires, a prop a drum about the x axis with its play, a ticker a rod as thick as its
blade is wide, a spinner blade a ball of its length, the line a rod straight ahead of the tie. So none that can happen is
missed. A negative distance is how far the two can reach into one another.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.hardware import line_tie
from yellowbob.design.model import Fitting, aim
from yellowbob.fitout.hooks import fixed_lines, hangs_from, outline, swing_mm, wire_mm
from yellowbob.ground.progress import go_on
from yellowbob.lines import distances as gap
from yellowbob.lines.mesh import Mesh

Array = NDArray[np.float64]
Kind = Literal[
    "hook to hook", "hook to line", "hook to prop", "hook to ticker", "prop to body", "prop to part",
    "prop to prop", "ticker to prop", "blade to prop", "blade to blade", "blade to part", "hook to plate", "hook to tail",
    "hook-up",
    "wire to hole", "wire to slot", "wire to cup", "wire to plate", "wire to wire", "wall of hole", "hole to hole",
    "eye to hole", "eye to eye", "eye to wire", "plate to hole",
]  # fmt: skip

LINE_MM = 300.0
"""How much of the line ahead of the tie is looked at."""
LINE_RADIUS_MM = 0.2
TOUCH_MM = 0.3
"""A ticker this close to its prop strikes it."""

APART_MM = 0.2
"""What turns is kept this far from what it must not strike: a rule."""


@dataclass(frozen=True)
class Clearance:
    """One distance. `clear` says whether it is as wanted; `least_mm` what is wanted at least (or, for touch, at most)."""

    kind: Kind
    one: str
    other: str
    distance_mm: float
    least_mm: float
    clear: bool
    at_mm: tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Reach:
    """What a piece sweeps: bent lines given a thickness (one point of one line: a ball)."""

    name: str
    lines: tuple[Array, ...]
    radius_mm: float
    sort: str
    at: Array


@dataclass(frozen=True, eq=False)
class Drum:
    """The drum a prop turns in, its play included."""

    name: str
    fore: Array
    long_mm: float
    radius_mm: float


def measured(kind: Kind, one: str, other: str, away: float, at: Array, least: float = 0.0) -> Clearance:
    """A distance that should be so much at least."""
    return Clearance(kind, one, other, away, least, away >= least - 1e-9, (float(at[0]), float(at[1]), float(at[2])))


def hook_reach(hook: Fitting, fittings: tuple[Fitting, ...]) -> Reach:
    """The ball of a hanging hook, or the wires of a fixed one."""
    at, _ = hangs_from(hook, fittings)
    if hook.hanging:
        return Reach(hook.name, (at[None],), swing_mm(hook, fittings), "ball", at)
    return Reach(hook.name, tuple(fixed_lines(hook)), wire_mm(hook) / 2.0, "wires", at)


def drum_of(prop: Fitting) -> Drum:
    """Half its length ahead of its place, half and its play behind."""
    fore = np.asarray(prop.at_mm, dtype=float) - [prop.long_mm / 2.0, 0.0, 0.0]
    return Drum(prop.name, fore, prop.long_mm + prop.play_mm, prop.span_mm / 2.0)


def ticker_reach(ticker: Fitting) -> Reach:
    """A ticker is a rod from its root; a spinner blade, free to turn any way, a ball."""
    at = np.asarray(ticker.at_mm, dtype=float)
    if ticker.sort == "blade":
        return Reach(ticker.name, (at[None],), ticker.reach_mm or ticker.span_mm / 2.0, "ball", at)
    tip = at + np.asarray(aim(ticker)) * ticker.reach_mm
    return Reach(ticker.name, (np.stack([at, tip]),), ticker.span_mm / 2.0, "rod", at)


def apart(one: Reach, two: Reach) -> float:
    """Distance between two reaches, negative when they reach into one another."""
    least = np.inf
    for a in one.lines:
        for b in two.lines:
            if len(a) == 1 and len(b) == 1:
                least = min(least, float(np.linalg.norm(a[0] - b[0])))
            elif len(a) == 1:
                least = min(least, gap.point_to_line(a[0], b))
            elif len(b) == 1:
                least = min(least, gap.point_to_line(b[0], a))
            else:
                least = min(least, gap.line_to_line(a, b))
    return least - one.radius_mm - two.radius_mm


def from_drum(one: Reach, drum: Drum) -> float:
    """Distance of a reach from a drum, negative when it reaches in."""
    least = np.inf
    for line in one.lines:
        if len(line) == 1:
            away = gap.point_to_drum(line[0], drum.fore, drum.long_mm, drum.radius_mm)
            if away == 0.0:
                away = -gap.depth_in_drum(line[0], drum.fore, drum.long_mm, drum.radius_mm)
        else:
            away = gap.line_to_drum(line, drum.fore, drum.long_mm, drum.radius_mm)
        least = min(least, away)
    return least - one.radius_mm


def hook_up_mm(hook: Fitting, fittings: tuple[Fitting, ...], half_beam_mm: float) -> float:
    """How far the point stands clear of the widest section with the hook swung out square to the side.

    Eye's offset + what hangs between + how far down the shank the point lies, less half the greatest beam.
    """
    tip = float(outline(hook)[-1, 0]) if hook.hanging else 0.0
    if not hook.hanging:
        return max(float(np.abs(line[-1, 1:]).max()) for line in fixed_lines(hook)) - half_beam_mm
    at, out = hangs_from(hook, fittings)
    return abs(float(at[1])) + out + tip - half_beam_mm


def fitting_clearances(fittings: tuple[Fitting, ...], half_beam_mm: float) -> list[Clearance]:
    """Hooks against each other, the line, props and tickers; tickers against props; hook-up margins."""
    hooks = [hook_reach(f, fittings) for f in fittings if f.sort == "hook"]
    drums = [drum_of(f) for f in fittings if f.sort == "prop"]
    turning = [d for d in drums if d.radius_mm > 0.0]
    tickers = [(f.sort, ticker_reach(f)) for f in fittings if f.sort in ("ticker", "blade")]
    found: list[Clearance] = []

    def enter(kind: Kind, one: str, other: str, away: float, at: Array, least: float = 0.0) -> None:
        found.append(measured(kind, one, other, away, at, least))

    for a, b in itertools.combinations(hooks, 2):
        enter("hook to hook", a.name, b.name, apart(a, b), (a.at + b.at) / 2)
    tie = line_tie(fittings)
    if tie is not None:
        at = np.asarray(tie.at_mm, dtype=float)
        line = Reach("line", (np.stack([at, at - [LINE_MM, 0, 0]]),), LINE_RADIUS_MM, "rod", at)
        for hook in hooks:
            enter("hook to line", hook.name, "line", apart(hook, line), at)
    for hook in hooks:
        for drum in drums:
            enter("hook to prop", hook.name, drum.name, from_drum(hook, drum), (hook.at + drum.fore) / 2)
        for _, ticker in tickers:
            enter("hook to ticker", hook.name, ticker.name, apart(hook, ticker), (hook.at + ticker.at) / 2)
    for one, two in itertools.combinations(turning, 2):
        away = gap.drum_to_drum(one.fore, one.long_mm, one.radius_mm, two.fore, two.long_mm, two.radius_mm)
        enter("prop to prop", one.name, two.name, away, (one.fore + two.fore) / 2, APART_MM)
    for (sort, first), (other_sort, second) in itertools.combinations(tickers, 2):
        if "blade" in (sort, other_sort):
            enter("blade to blade", first.name, second.name, apart(first, second), (first.at + second.at) / 2, APART_MM)
    for sort, ticker in tickers:
        for drum in drums:
            away = from_drum(ticker, drum)
            if sort == "blade" and drum.radius_mm > 0.0:
                enter("blade to prop", ticker.name, drum.name, away, (ticker.at + drum.fore) / 2, APART_MM)
            near = abs(drum.fore[0] - ticker.at[0]) < drum.long_mm + 2 * drum.radius_mm
            if sort == "ticker" and near:
                place = (float(ticker.at[0]), float(ticker.at[1]), float(ticker.at[2]))
                found.append(
                    Clearance("ticker to prop", ticker.name, drum.name, away, TOUCH_MM, away <= TOUCH_MM, place)
                )
    for fitting in fittings:
        if fitting.sort == "hook":
            away = hook_up_mm(fitting, fittings, half_beam_mm)
            enter("hook-up", fitting.name, "widest section", away, np.asarray(fitting.at_mm))
    return found


def free_arc(hook: Fitting, fittings: tuple[Fitting, ...], body: Mesh) -> list[tuple[float, float]]:
    """The arcs, degrees in the side view (0 aft, 90 up), through which a hanging hook's shank can swing clear of the body.

    Found every 3° by rays from just outside the eye; all round when the eye lies inside the wood.
    """
    from yellowbob.lines.rays import crossings, inside

    (eye, _), reach = hangs_from(hook, fittings), swing_mm(hook, fittings)
    if inside(body, eye):
        return [(-180.0, 180.0)]
    free = []
    for degrees in range(-180, 180, 3):
        go_on()
        a = np.radians(degrees)
        hits = crossings(body, eye, np.array([np.cos(a), 0.0, np.sin(a)]))
        free.append(not bool(((hits > 0) & (hits < reach)).any()))
    if all(free):
        return [(-180.0, 180.0)]
    arcs: list[tuple[float, float]] = []
    start: float | None = None
    order = [(free.index(False) + i) % len(free) for i in range(len(free) + 1)]
    for place, at in enumerate(order):
        here = -180.0 + 3.0 * order[0] + 3.0 * place
        if free[at] and start is None:
            start = here
        elif not free[at] and start is not None:
            arcs.append((start, here - 3.0))
            start = None
    return arcs
