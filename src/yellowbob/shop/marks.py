"""What is set out from the nose on a side view: holes, cuts, eyes, ties, props, lips, wings and tails."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cup, Cut, Notch, Plane, Slot, Sockets
from yellowbob.design.model import Fitting
from yellowbob.design.shape import MeshBody
from yellowbob.lines.build import blank_mesh
from yellowbob.lines.cutting import taken_by_cut
from yellowbob.lines.drill import Hole
from yellowbob.lines.silhouette import silhouette
from yellowbob.lines.solids import from_manifold, to_manifold
from yellowbob.study import Study, of

Array = NDArray[np.float64]

UNMARKED = ("hook", "ring", "swivel", "bead", "washer", "other", "jig")
"""Fittings that hang from another or slide on the wire: they have no place of their own to set out."""


@dataclass(frozen=True)
class Mark:
    """One distance from the nose, mm, and what is there."""

    at_mm: float
    words: str


@dataclass(frozen=True, eq=False)
class Gone:
    """What a cut takes away, as closed outlines (k, 2) of a view, mm."""

    cut: Cut
    loops: tuple[Array, ...]


def hole_words(hole: Any, lean_deg: float = 0.0) -> str:
    """A hole's size in words."""
    lean = f", lean {lean_deg:g}°" if lean_deg else ""
    return f"Ø {hole.diameter_mm:g}, {hole.depth_mm:g} deep{lean}".replace("-", "−")


def cut_words(cut: Cut) -> str:
    """A cut's figures in words."""
    if isinstance(cut, Cup):
        across = f"{cut.diameter_mm:g} × {cut.width_mm:g}" if cut.width_mm else f"Ø {cut.diameter_mm:g}"
        pool = f" (+ {cut.pool_mm:g} for varnish)" if cut.pool_mm else ""
        words = f"{cut.name}: {across}, {cut.depth_mm:g} deep{pool}, slant {cut.slant_deg:g}°"
    elif isinstance(cut, Slot):
        words = f"{cut.name}: {cut.thick_mm:g} wide, {cut.depth_mm:g} deep at {cut.angle_deg:g}°"
    elif isinstance(cut, Sockets):
        words = f"{cut.name}: Ø {cut.diameter_mm:g}, {cut.depth_mm:g} deep, {cut.z_mm:+g} from the axis"
    elif isinstance(cut, Notch):
        words = f"{cut.name}: from the {cut.side} to {cut.z_mm:+g}, {cut.fore_deg:g}° and {cut.aft_deg:g}°"
    else:
        words = f"{cut.name}: {cut.kind} at {cut.slant_deg:g}°"
    return words.replace("-", "−")


def _at(cut: Cut) -> float:
    return cut.rim_x_mm if isinstance(cut, Cup) else cut.x_mm


def gone_by_cuts(study: Study, view: str = "side") -> list[Gone]:
    """What each cut takes of the blank, but for what only sawing planes do: those are the outline itself."""
    body = study.design.body
    if not body.cuts:
        return []
    blank = blank_mesh(study.design.shape)
    whole, found = to_manifold(blank), []
    for cut in body.cuts:
        if isinstance(cut, Plane):
            continue
        gone = taken_by_cut(whole, cut, blank, study.design.shape)
        if not gone.is_empty():
            found.append(Gone(cut, tuple(silhouette(from_manifold(gone), view))))
    return found


@dataclass(frozen=True)
class Centre:
    """A place to mark in a view, mm, and what is there."""

    words: str
    x_mm: float
    y_mm: float


SEEN_FROM = {"side": ("port", "starboard", "nose", "tail"), "plan": ("belly", "back", "nose", "tail")}


def centres_in(study: Study, view: str) -> list[Centre]:
    """Mouths of the holes that a view looks at, eye sockets, ties and eyes, and where wires enter and leave; in the side view
    those of port count for both sides."""
    up = 2 if view == "side" else 1
    holes, found = of.holes(study), []
    mouths = [(b.bore.name, b.bore.drilling.side, b.hole.mouth_mm) for b in holes.bores]
    mouths += [(p.ballast.name, p.ballast.drilling.side, p.hole.mouth_mm)
               for p in holes.ballast if p.hole is not None and p.ballast.drilling is not None]  # fmt: skip
    found += [Centre(name, at[0], at[up]) for name, side, at in mouths if side in SEEN_FROM[view]]
    found += [Centre(f.name, f.at_mm[0], f.at_mm[up]) for f in study.design.fittings if f.sort not in UNMARKED]
    if view == "side":
        found += [
            Centre(f"{c.name}, both sides", c.x_mm, c.z_mm) for c in study.design.body.cuts if isinstance(c, Sockets)
        ]
    for routed in of.wires(study):
        inner = [run for run in routed.runs if run.inside]
        for at in (inner[0].start_mm, inner[-1].end_mm) if inner else ():
            found.append(Centre(routed.wire.name, float(at[0]), float(at[up])))
    return found


def hole_loop(hole: Hole, view: str = "side") -> Array:
    """(4, 2) outline of a hole in a view, mm."""
    keep = [0, 2] if view == "side" else [0, 1]
    mouth, bottom = np.asarray(hole.mouth_mm)[keep], np.asarray(hole.bottom_mm)[keep]
    axis = bottom - mouth
    long = float(np.linalg.norm(axis))
    if long < 1e-6:  # seen along its axis
        turn = np.linspace(0.0, 2.0 * np.pi, 33)[:-1]
        return np.asarray(mouth + hole.diameter_mm / 2 * np.stack([np.cos(turn), np.sin(turn)], axis=1))
    across = np.array([-axis[1], axis[0]]) / long * hole.diameter_mm / 2
    return np.array([mouth + across, bottom + across, bottom - across, mouth - across])


def taken_in(study: Study, view: str) -> list[Array]:
    """Closed outlines (k, 2) mm of what is taken away: the blank where it is cut, each cut, each hole."""
    shape, found = study.design.shape, []
    if study.design.body.cuts and not isinstance(shape, MeshBody):
        found += silhouette(blank_mesh(shape), view)
    for gone in gone_by_cuts(study, view):
        found += list(gone.loops)
    holes = of.holes(study)
    every = [*(b.hole for b in holes.bores), *(p.hole for p in holes.ballast if p.hole is not None)]
    return [*found, *(hole_loop(hole, view) for hole in every)]


def marks_of(study: Study) -> list[Mark]:
    """Everything to be set out, from the nose aft."""
    design = study.design
    found = [Mark(_at(cut), cut_words(cut)) for cut in design.body.cuts]
    for placed in of.holes(study).ballast:
        if placed.hole is None:
            x = float(placed.weight.centre_mm[0])
            found.append(Mark(x, f"{placed.ballast.name}, cast in"))
            continue
        lean = placed.ballast.drilling.lean_deg if placed.ballast.drilling is not None else 0.0
        found.append(Mark(placed.hole.mouth_mm[0], f"{placed.ballast.name}: {hole_words(placed.hole, lean)}"))
    for bore in of.holes(study).bores:
        words = f"{bore.bore.name}: {hole_words(bore.hole, bore.bore.drilling.lean_deg)}"
        found.append(Mark(bore.hole.mouth_mm[0], words))
    found += [_fitting(fitting) for fitting in design.fittings if fitting.sort not in UNMARKED]
    for piece, mesh, (long, wide, high) in zip(design.parts, of.parts(study), of.sizes_mm(study)[1:], strict=True):
        words = f"{piece.name}: {long:.1f} long, {wide:.1f} wide, {high:.1f} high, from here aft"
        found.append(Mark(float(mesh.bounds[0, 0]), words))
    return sorted(found, key=lambda m: m.at_mm)


def _fitting(fitting: Fitting) -> Mark:
    x, _, z = fitting.at_mm
    size = f", Ø {fitting.span_mm:g}" if fitting.sort == "prop" and fitting.span_mm else ""
    return Mark(x, f"{fitting.name}: {z:+z.1f} from the axis{size}".replace("-", "−"))
