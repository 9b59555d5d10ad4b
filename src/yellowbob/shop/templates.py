"""Templates at true size: side and plan in their square blank, with centre line, grid, stations and hole centres, tiled."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.units import mm

from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.paper import BOLD, INK, MARGIN_MM, PALE, WATER, Page, check_rule
from yellowbob.shop.stations import stations
from yellowbob.study import Study, of

Array = NDArray[np.float64]

OVERLAP_MM = 15.0
HEAD_MM, FOOT_MM = 16.0, 24.0
GRID_MM = 10.0
WASTE_MM = 3.0
"""The blank is so much larger than the body on every side but its ends, which are square on it."""
VIEWS = ("side", "plan")


@dataclass(frozen=True)
class Tile:
    """One sheet of a template: the part of the view it shows, mm of the view, and its number of how many."""

    view: str
    left_mm: float
    low_mm: float
    wide_mm: float
    high_mm: float
    number: int
    of_all: int


def tiles(low: Array, high: Array, width_mm: float, height_mm: float, view: str) -> list[Tile]:
    """Sheets of a paper (width, height) that take a view from corner to corner, each beside the next by OVERLAP_MM."""
    wide, tall = width_mm - 2.0 * MARGIN_MM, height_mm - HEAD_MM - FOOT_MM
    across = max(1, math.ceil((high[0] - low[0] - OVERLAP_MM) / (wide - OVERLAP_MM)))
    up = max(1, math.ceil((high[1] - low[1] - OVERLAP_MM) / (tall - OVERLAP_MM)))
    found = [
        Tile(view, float(low[0]) + c * (wide - OVERLAP_MM), float(low[1]) + r * (tall - OVERLAP_MM), wide, tall, 0, 0)
        for r in range(up) for c in range(across)
    ]  # fmt: skip
    return [Tile(t.view, t.left_mm, t.low_mm, t.wide_mm, t.high_mm, n + 1, len(found)) for n, t in enumerate(found)]


def blank_of(study: Study, view: str) -> tuple[Array, Array]:
    """(2,) lower and upper corner of the square blank in a view: the body's ends, and WASTE_MM beside it; mm."""
    (x0, y0, z0), (x1, y1, z1) = of.outer(study).bounds
    low, high = (z0, z1) if view == "side" else (y0, y1)
    return np.array([x0, low - WASTE_MM]), np.array([x1, high + WASTE_MM])


def hole_centres(study: Study, view: str) -> list[tuple[str, float, float]]:
    """Mouths of the holes that are seen in a view: by name, in its mm. In the side view those from port count for both
    sides."""
    holes = of.holes(study)
    mouths = [(b.bore.name, b.bore.drilling.side, b.hole) for b in holes.bores]
    mouths += [
        (p.ballast.name, p.ballast.drilling.side, p.hole) for p in holes.ballast if p.hole and p.ballast.drilling
    ]
    found = []
    for name, side, hole in mouths:
        x, y, z = hole.mouth_mm
        if view == "side" and side in ("port", "starboard", "nose", "tail"):
            found.append((name, x, z))
        if view == "plan" and side in ("belly", "back", "nose", "tail"):
            found.append((name, x, y))
    return found


def write_templates(page: Page, study: Study, width_mm: float, height_mm: float) -> int:
    """Every sheet of both views; the canvas is at a new page before and after. Returns how many sheets."""
    count = 0
    for view in VIEWS:
        low, high = blank_of(study, view)
        for tile in tiles(low, high, width_mm, height_mm, view):
            _write_tile(page, study, tile, low, high, height_mm)
            page.canvas.showPage()
            count += 1
    return count


def _write_tile(page: Page, study: Study, tile: Tile, low: Array, high: Array, height_mm: float) -> None:
    canvas = page.canvas
    page.ink(INK)
    sheet = f", sheet {tile.number} of {tile.of_all}" if tile.of_all > 1 else ""
    page.text(MARGIN_MM, height_mm - 10.0, f"{study.design.name}: {tile.view} at true size{sheet}", 11, BOLD)
    # a view that is lower than the sheet hangs from its head
    spare = max(tile.high_mm - float(high[1] - low[1]), 0.0)
    shift = (MARGIN_MM - tile.left_mm, FOOT_MM + spare - tile.low_mm)
    canvas.saveState()
    room = canvas.beginPath()
    room.rect(MARGIN_MM * mm, FOOT_MM * mm, tile.wide_mm * mm, tile.high_mm * mm)
    canvas.clipPath(room, stroke=0, fill=0)
    _grid(page, tile, low, high, shift)
    page.ink(INK, 0.3)
    page.box(low[0] + shift[0], low[1] + shift[1], high[0] - low[0], high[1] - low[1])
    for loop in silhouette(of.outer(study), tile.view):
        page.loop(loop, shift)
    page.ink(WATER, 0.15)
    page.line(low[0] + shift[0], shift[1], high[0] + shift[0], shift[1])
    _stations(page, study, low, high, shift)
    page.ink(INK, 0.2)
    for name, x, y in hole_centres(study, tile.view):
        page.line(x + shift[0] - 3.0, y + shift[1], x + shift[0] + 3.0, y + shift[1])
        page.line(x + shift[0], y + shift[1] - 3.0, x + shift[0], y + shift[1] + 3.0)
        page.text(x + shift[0] + 1.5, y + shift[1] + 1.5, name, 6.0)
    canvas.restoreState()
    _registration(page, tile, low, high, shift)
    check_rule(page, MARGIN_MM, 10.0)


def _grid(page: Page, tile: Tile, low: Array, high: Array, shift: tuple[float, float]) -> None:
    """Every GRID_MM from the nose and from the centre line, within the blank."""
    page.ink(PALE, 0.06)
    for x in np.arange(0.0, high[0] + 1e-6, GRID_MM):
        page.line(x + shift[0], low[1] + shift[1], x + shift[0], high[1] + shift[1])
    for y in np.arange(GRID_MM * math.ceil(low[1] / GRID_MM), high[1] + 1e-6, GRID_MM):
        page.line(low[0] + shift[0], y + shift[1], high[0] + shift[0], y + shift[1])


def _stations(page: Page, study: Study, low: Array, high: Array, shift: tuple[float, float]) -> None:
    """Ticks at both edges of the blank where it is measured; none for a body without outlines."""
    try:
        found = stations(study.design).stations
    except YellowBobError:
        return
    page.ink(INK, 0.2)
    for one in found:
        for edge, way in ((low[1], 1.0), (high[1], -1.0)):
            page.line(one.at_mm + shift[0], edge + shift[1], one.at_mm + shift[0], edge + way * 2.5 + shift[1])


def _registration(page: Page, tile: Tile, low: Array, high: Array, shift: tuple[float, float]) -> None:
    """Crosses in the middle of what neighbours share: they lie on one another when the sheets are joined."""
    page.ink(INK, 0.2)
    marks = []
    step_x, step_y = tile.wide_mm - OVERLAP_MM, tile.high_mm - OVERLAP_MM
    left, right = max(tile.left_mm, float(low[0])), min(tile.left_mm + tile.wide_mm, float(high[0]))
    bottom, top = max(tile.low_mm, float(low[1])), min(tile.low_mm + tile.high_mm, float(high[1]))
    for x in np.arange(low[0] + step_x + OVERLAP_MM / 2.0, high[0], step_x):
        marks += [(x, bottom + share * (top - bottom)) for share in (0.2, 0.8)]
    for y in np.arange(low[1] + step_y + OVERLAP_MM / 2.0, high[1], step_y):
        marks += [(left + share * (right - left), y) for share in (0.2, 0.8)]
    for x, y in marks:
        if tile.left_mm <= x <= tile.left_mm + tile.wide_mm and tile.low_mm <= y <= tile.low_mm + tile.high_mm:
            page.line(x + shift[0] - 3.0, y + shift[1], x + shift[0] + 3.0, y + shift[1])
            page.line(x + shift[0], y + shift[1] - 3.0, x + shift[0], y + shift[1] + 3.0)
