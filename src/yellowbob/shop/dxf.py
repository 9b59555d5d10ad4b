"""Templates as DXF in mm, a layer for each kind of line: cut, bored, measured, bent; the lengths are true."""

from __future__ import annotations

from pathlib import Path

import ezdxf
import numpy as np
from ezdxf import units
from ezdxf.layouts.layout import Modelspace
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.bending import drawn_in
from yellowbob.shop.flat import flats
from yellowbob.shop.marks import centres_in, taken_in
from yellowbob.shop.stations import stations
from yellowbob.shop.templates import blank_of
from yellowbob.study import Study, of

Array = NDArray[np.float64]

LAYERS = {
    "OUTLINE": 7, "BLANK": 8, "CENTRE": 4, "TAKEN": 1, "HOLES": 5, "STATIONS": 3, "FLAT": 7, "SAW": 2, "SCRIBE": 4, "WIRE": 6,
    "CHECK": 8, "WORDS": 8,
}  # fmt: skip
"""By operation, with a colour number each."""
GAP_MM = 15.0
CHECK_MM = 100.0
WORDS_MM = 2.5


def write_dxf(study: Study, path: Path | str) -> None:
    """Side, plan, what is cut from sheet, bent wires and a check rule of 100 mm. Raises BadInput where it cannot be
    written."""
    drawing = ezdxf.new("R2010")
    drawing.units = units.MM
    for name, colour in LAYERS.items():
        drawing.layers.add(name, color=colour)
    space = drawing.modelspace()
    y = 0.0
    for view in ("side", "plan"):
        low, high = blank_of(study, view)
        shift = np.array([0.0, y - high[1]])
        _view(space, study, view, low, high, shift)
        y -= float(high[1] - low[1]) + GAP_MM
    for wire in study.design.wires:
        lines = drawn_in(wire)
        top, bottom = max(float(v[:, 1].max()) for v in lines), min(float(v[:, 1].min()) for v in lines)
        for line in lines:
            _line(space, line, "WIRE", np.array([0.0, y - top]), False)
        _words(space, f"{wire.name}, {wire.diameter_mm:g} mm", 0.0, y + 2.0)
        y -= top - bottom + GAP_MM
    for one in flats(study):
        low, high = one.sawn.min(axis=0), one.sawn.max(axis=0)
        shift = np.array([-low[0], y - high[1]])
        _line(space, one.outline, "FLAT", shift)
        _line(space, one.sawn, "SAW", shift)
        for line, _ in one.lines:
            _line(space, line, "SCRIBE", shift, False)
        _words(space, f"{one.name}: {one.count} of {one.material}, {one.thick_mm:g} mm", 0.0, y + 2.0)
        y -= float(high[1] - low[1]) + GAP_MM
    space.add_line((0.0, y), (CHECK_MM, y), dxfattribs={"layer": "CHECK"})
    _words(space, "100 mm", 0.0, y + 2.0)
    try:
        drawing.saveas(path)
    except OSError as error:
        raise BadInput(f"{path}: cannot be written ({error.strerror}); name another place") from None


def _view(space: Modelspace, study: Study, view: str, low: Array, high: Array, shift: Array) -> None:
    corners = np.array([[low[0], low[1]], [high[0], low[1]], [high[0], high[1]], [low[0], high[1]]])
    _line(space, corners, "BLANK", shift)
    _line(space, np.array([[low[0], 0.0], [high[0], 0.0]]), "CENTRE", shift, False)
    for loop in silhouette(of.outer(study), view):
        _line(space, loop, "OUTLINE", shift)
    for loop in taken_in(study, view):
        _line(space, loop, "TAKEN", shift)
    for one in centres_in(study, view):
        at = np.array([one.x_mm, one.y_mm]) + shift
        space.add_point((float(at[0]), float(at[1])), dxfattribs={"layer": "HOLES"})
        space.add_circle((float(at[0]), float(at[1])), 1.0, dxfattribs={"layer": "HOLES"})
        _words(space, one.words, float(at[0]) + 1.5, float(at[1]) + 1.5)
    try:
        found = stations(study.design).stations
    except YellowBobError:
        return
    for station in found:
        _line(space, np.array([[station.at_mm, low[1]], [station.at_mm, high[1]]]), "STATIONS", shift, False)


def _line(space: Modelspace, points: Array, layer: str, shift: Array, closed: bool = True) -> None:
    moved = [(float(x), float(y)) for x, y in points + shift]
    space.add_lwpolyline(moved, close=closed, dxfattribs={"layer": layer})


def _words(space: Modelspace, words: str, x: float, y: float) -> None:
    space.add_text(words, height=WORDS_MM, dxfattribs={"layer": "WORDS", "insert": (x, y)})
