"""What is set out from the nose on a side view: holes, cuts, eyes, ties, props, lips, wings and tails."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cup, Cut, Notch, Plane, Slot, Sockets
from yellowbob.design.model import Fitting
from yellowbob.lines.build import blank_mesh
from yellowbob.lines.cutting import taken_by_cut
from yellowbob.lines.mesh import Mesh
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
    """What a cut takes away, as closed outlines (k, 2) of the side view."""

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


def gone_by_cuts(study: Study) -> list[Gone]:
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
            found.append(Gone(cut, tuple(silhouette(from_manifold(gone), "side"))))
    return found


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
    for piece, mesh in zip(design.parts, of.parts(study), strict=True):
        found.append(Mark(float(mesh.bounds[0, 0]), f"{piece.name}: {_sizes(mesh)}, from here aft"))
    return sorted(found, key=lambda m: m.at_mm)


def _fitting(fitting: Fitting) -> Mark:
    x, _, z = fitting.at_mm
    size = f", Ø {fitting.span_mm:g}" if fitting.sort == "prop" and fitting.span_mm else ""
    return Mark(x, f"{fitting.name}: {z:+.1f} from the axis{size}".replace("-", "−"))


def _sizes(mesh: Mesh) -> str:
    long, wide, high = (float(v) for v in np.ptp(mesh.bounds, axis=0))
    return f"{long:.1f} long, {wide:.1f} wide, {high:.1f} high"
