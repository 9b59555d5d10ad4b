"""Bending wires: legs and bends along the path, loops in the order they are made, what is strung, the play of props."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Design, Fitting, Loop, Wire
from yellowbob.study import Study, of
from yellowbob.weights.wires import Routed, cut_length_mm, loop_length_mm, path_of

Array = NDArray[np.float64]

STRUNG = ("prop", "bead", "washer", "sleeve", "blade")
NEAR_MM = 3.0
"""What lies so near a wire's path is strung on it."""
LEAST_PLAY_MM, MOST_PLAY_MM = 0.5, 3.0
"""A prop turns freely with so much room, and knocks about with more: rules."""
BOW_MM = 0.01
THREADS_DEG = 12.0
"""A wire bent by no more springs through a bore drilled from both ends. Rule."""
ARC = 32
LAID = {
    "bored": "Push it through the bore from that end.",
    "grooved": "Lay it in its groove.",
    "split": "Lay it in the slot of one half, loops clear, and close the halves.",
}


@dataclass(frozen=True)
class Bend:
    """A corner of the path: how far along the straight wire from its fore end (its loop counted), where, how sharp."""

    along_mm: float
    at_mm: tuple[float, float, float]
    turn_deg: float


@dataclass(frozen=True)
class End:
    """One end of a wire. wire_mm: what its loop takes; strung_mm: what is strung outside the body; play_mm: room left for it,
    None where nothing is strung."""

    end: str
    loop: Loop | None
    wire_mm: float
    strung: tuple[str, ...]
    strung_mm: float
    play_mm: float | None


@dataclass(frozen=True)
class Bending:
    """A wire as it is cut and bent; lengths mm."""

    name: str
    material: str
    diameter_mm: float
    cut_mm: float
    legs_mm: tuple[float, ...]
    bends: tuple[Bend, ...]
    ends: tuple[End, End]
    steps: tuple[str, ...]
    says: tuple[str, ...]


def bendings(study: Study) -> tuple[Bending, ...]:
    """Every wire of a design."""
    low, high = (float(v) for v in of.whole(study).bounds[:, 0])
    return tuple(_bending(study.design, routed, low, high) for routed in of.wires(study))


def _buried(bend: Bend, routed: Routed) -> bool:
    """Whether the wire lies in the wood on both sides of a bend."""
    inner, at = [r for r in routed.runs if r.inside], np.asarray(bend.at_mm)
    ends, starts = ([float(np.linalg.norm(p - at)) < BOW_MM for p in places]
                    for places in ([r.end_mm for r in inner], [r.start_mm for r in inner]))  # fmt: skip
    return any(ends) and any(starts)


def _bending(design: Design, routed: Routed, low: float, high: float) -> Bending:
    wire = routed.wire
    path = path_of(wire)
    runs = np.diff(path, axis=0)
    legs = np.linalg.norm(runs, axis=1)
    runs, legs = runs[legs > BOW_MM], legs[legs > BOW_MM]
    loops = {loop.end: loop for loop in wire.loops}
    fore = loop_length_mm(loops["fore"], wire.diameter_mm) if "fore" in loops else 0.0
    along, bends, at = fore, [], path[0]
    for k in range(len(legs) - 1):
        along += float(legs[k])
        at = at + runs[k]
        turn = math.degrees(math.acos(float(np.clip(runs[k] @ runs[k + 1] / (legs[k] * legs[k + 1]), -1.0, 1.0))))
        if turn > 0.05:
            bends.append(Bend(along, (float(at[0]), float(at[1]), float(at[2])), turn))
    strung = strung_on(design, wire)
    ends = (_end("fore", wire, path[0], strung, low, high), _end("aft", wire, path[-1], strung, low, high))
    says = [
        f"{e.end} end: {e.play_mm:.1f} mm of play for {', '.join(e.strung)}: "
        + ("it binds; bend the loop further out" if e.play_mm < LEAST_PLAY_MM else "it knocks about; add a bead")
        for e in ends if e.play_mm is not None and not LEAST_PLAY_MM <= e.play_mm <= MOST_PLAY_MM
    ]  # fmt: skip
    if not wire.loops:
        says.append("no loop is drawn at either end: draw them, so that they are cut and weighed")
    if wire.route == "bored" and any(b.turn_deg > THREADS_DEG and _buried(b, routed) for b in bends):
        says.append(
            "it is bent on its way and cannot be pushed through a bored hole: groove or split the body, or bend it inside"
        )
    return Bending(
        wire.name, wire.material, wire.diameter_mm, cut_length_mm(wire), tuple(float(v) for v in legs), tuple(bends), ends,
        _steps(wire, ends, any(r.inside for r in routed.runs)), tuple(says),
    )  # fmt: skip


def strung_on(design: Design, wire: Wire) -> list[Fitting]:
    """Props, beads, washers and the like on a wire, from its fore end aft."""
    path = path_of(wire)
    first, last = path[0], path[-1]

    def near(fitting: Fitting) -> bool:
        at = np.asarray(fitting.at_mm)
        return min(_off(at, a, b) for a, b in itertools.pairwise(path)) <= NEAR_MM

    way = last - first
    found = [f for f in design.fittings if f.sort in STRUNG and not f.hanging and near(f)]
    return sorted(found, key=lambda f: float((np.asarray(f.at_mm) - first) @ way))


def _off(at: Array, a: Array, b: Array) -> float:
    along = b - a
    share = float(np.clip((at - a) @ along / max(float(along @ along), 1e-12), 0.0, 1.0))
    return float(np.linalg.norm(at - a - share * along))


def _end(end: str, wire: Wire, at: Array, strung: Sequence[Fitting], low: float, high: float) -> End:
    loop = next((one for one in wire.loops if one.end == end), None)
    x = float(at[0])
    ahead = x < low
    outside = [f for f in strung if (f.at_mm[0] < low if ahead else f.at_mm[0] > high)] if x < low or x > high else []
    taken = sum(f.long_mm for f in outside)
    room = (low - x) if ahead else (x - high)
    play = room - taken if outside and all(f.long_mm > 0.0 for f in outside) else None
    length = loop_length_mm(loop, wire.diameter_mm) if loop is not None else 0.0
    return End(end, loop, length, tuple(f.name for f in outside), taken, play)


def _steps(wire: Wire, ends: tuple[End, End], buried: bool) -> tuple[str, ...]:
    """The order of bending: the loop at the fuller end last, so that what is strung can go on before. One that is not buried
    anywhere hangs by its loops."""
    loops = [e for e in ends if e.loop is not None]
    steps = [f"Cut {cut_length_mm(wire):.0f} mm, 5 mm over if your pliers mark the ends."]
    if not loops:
        return (*steps, "Thread it through." if buried else "Fasten it: it lies nowhere in the wood.")
    first, *rest = sorted(loops, key=lambda e: len(e.strung))
    steps.append(f"Bend the {first.end} loop, {_loop_words(first.loop)}.")
    if first.strung:
        steps.append(f"String {', '.join(first.strung)} before it is closed.")
    if buried:
        steps.append(LAID[wire.route])
    for one in rest:
        if one.strung:
            steps.append(f"String {', '.join(one.strung)}.")
        steps.append(f"Bend the {one.end} loop, {_loop_words(one.loop)}.")
    if not buried:
        steps.append("Bend the rest of it outside the body.")
    elif wire.route != "bored":
        steps.append("Two small bends within the body keep it from turning and from pulling through.")
    else:
        steps.append("Glue it in at both mouths so that it neither turns nor pulls through.")
    return tuple(steps)


def _loop_words(loop: Loop | None) -> str:
    assert loop is not None
    held = {"wraps": f"{loop.turns:g} wraps", "bound": "tail bound and glued", "welded": "welded"}.get(
        loop.kind, loop.kind
    )
    return f"{loop.inner_mm:g} mm inside, {held}"


def drawn_in(wire: Wire, view: str = "side") -> list[Array]:
    """The middle line of a wire in a view, mm: its path, and each loop as a circle through the wire's middle, beyond its
    end."""
    keep = [0, 2] if view == "side" else [0, 1]
    path = path_of(wire)
    found = [path[:, keep]]
    for loop in wire.loops:
        at, inner = (path[0], path[1]) if loop.end == "fore" else (path[-1], path[-2])
        out = (at - inner)[keep]
        size = float(np.linalg.norm(out))
        out = out / size if size > 1e-9 else np.array([-1.0 if loop.end == "fore" else 1.0, 0.0])
        radius = (loop.inner_mm + wire.diameter_mm) / 2.0
        turn = np.linspace(0.0, 2.0 * np.pi, ARC + 1)
        middle = at[keep] + radius * out
        found.append(middle + radius * np.stack([np.cos(turn), np.sin(turn)], axis=1))
    return found
