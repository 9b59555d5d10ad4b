"""Templates at true size: side and plan in their square blank, with centre line, grid, stations and hole centres, tiled."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.units import mm
from shapely import Polygon, box

from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.blank import margin_mm
from yellowbob.shop.marks import centres_in, cut_words, taken_in
from yellowbob.shop.paper import BOLD, INK, MARGIN_MM, PALE, WATER, Page, check_rule
from yellowbob.shop.stations import stations
from yellowbob.study import Study, of
from yellowbob.weights.wires import path_of

Array = NDArray[np.float64]

OVERLAP_MM = 15.0
HEAD_MM, FOOT_MM = 16.0, 24.0
GRID_MM, GAP_MM, MOST_WORDS = 10.0, 8.0, 10
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
    """(2,) lower and upper corner of the square blank in a view: the body's ends, and the waste beside it; mm."""
    (x0, y0, z0), (x1, y1, z1) = of.outer(study).bounds
    low, high = (z0, z1) if view == "side" else (y0, y1)
    waste = margin_mm(study)
    return np.array([x0, low - waste]), np.array([x1, high + waste])


def write_templates(
    page: Page, study: Study, width_mm: float, height_mm: float, grid_mm: float = GRID_MM, half: bool = False
) -> int:  # fmt: skip
    """Every sheet of both views, or of half the plan for paper folded on its centre line, views that have room together on
    one sheet; the canvas is at a new page before and after. Returns how many sheets."""
    names = ("half plan",) if half else VIEWS
    sheets: list[list[tuple[Tile, Array, Array, float]]] = []
    room = 0.0
    for view in names:
        low, high = blank_of(study, "plan" if half else view)
        if half:
            low = np.array([low[0], 0.0])
        tall = float(high[1] - low[1])
        for tile in tiles(low, high, width_mm, height_mm, view):
            if tile.of_all == 1 and sheets and tall + GAP_MM <= room:
                room -= tall + GAP_MM
                sheets[-1].append((tile, low, high, room))
                continue
            # a view that is lower than the sheet hangs from its head
            spare = max(tile.high_mm - tall, 0.0)
            sheets.append([(tile, low, high, spare)])
            room = spare if tile.of_all == 1 else 0.0
    for sheet in sheets:
        _sheet(page, study, sheet, height_mm, grid_mm)
        page.canvas.showPage()
    return len(sheets)


def _sheet(
    page: Page, study: Study, drawn: list[tuple[Tile, Array, Array, float]], height_mm: float, grid_mm: float
) -> None:  # fmt: skip
    first = drawn[0][0]
    page.ink(INK)
    number = f", sheet {first.number} of {first.of_all}" if first.of_all > 1 else ""
    title = " and ".join(tile.view for tile, _, _, _ in drawn)
    page.text(MARGIN_MM, height_mm - 10.0, f"{study.design.name}: {title} at true size{number}", 11, BOLD)
    for tile, low, high, spare in drawn:
        shift = (MARGIN_MM - tile.left_mm, FOOT_MM + spare - tile.low_mm)
        page.canvas.saveState()
        clip = page.canvas.beginPath()
        clip.rect(MARGIN_MM * mm, FOOT_MM * mm, tile.wide_mm * mm, tile.high_mm * mm)
        page.canvas.clipPath(clip, stroke=0, fill=0)
        _grid(page, low, high, shift, grid_mm)
        page.ink(INK, 0.3)
        if tile.view == "half plan":
            _half(page, study, low, high, shift)
        else:
            _view(page, study, tile, low, high, shift)
        page.canvas.restoreState()
        _registration(page, tile, low, high, shift)
    check_rule(page, MARGIN_MM, 10.0)
    angles = [cut_words(cut) for cut in study.design.body.cuts] if any(t.view == "side" for t, *_ in drawn) else []
    for k, words in enumerate(angles[:MOST_WORDS]):
        page.text(MARGIN_MM + 112.0 + 76.0 * (k // 5), 17.0 - 3.2 * (k % 5), page.fitting(words, 74.0, 6.5), 6.5)


def _view(page: Page, study: Study, tile: Tile, low: Array, high: Array, shift: tuple[float, float]) -> None:
    view = tile.view
    page.box(low[0] + shift[0], low[1] + shift[1], high[0] - low[0], high[1] - low[1])
    for loop in silhouette(of.outer(study), view):
        page.loop(loop, shift)
    page.ink(WATER, 0.15)
    page.line(low[0] + shift[0], shift[1], high[0] + shift[0], shift[1])
    _stations(page, study, low, high, shift)
    page.ink(INK, 0.15)
    page.canvas.setDash(1.5, 1.5)
    for loop in taken_in(study, view):
        page.loop(loop, shift)
    for wire in study.design.wires:
        page.open(path_of(wire)[:, [0, 2 if view == "side" else 1]], shift)
    page.canvas.setDash()
    page.ink(INK, 0.2)
    for one in centres_in(study, view):
        if max(low[0], tile.left_mm) <= one.x_mm <= min(high[0], tile.left_mm + tile.wide_mm):
            x, y = one.x_mm + shift[0], one.y_mm + shift[1]
            page.line(x - 3.0, y, x + 3.0, y)
            page.line(x, y - 3.0, x, y + 3.0)
            if one.x_mm + 20.0 < tile.left_mm + tile.wide_mm:
                page.text(x + 1.5, y + 1.5, one.words, 6.0)
            else:
                page.text(x - 1.5, y + 1.5, one.words, 6.0, align="right")


def _half(page: Page, study: Study, low: Array, high: Array, shift: tuple[float, float]) -> None:
    """The plan from its centre line on; the sheet is folded along that, its other half behind."""
    upper = box(low[0] - 1.0, 0.0, high[0] + 1.0, high[1] + 1.0)
    for loop in silhouette(of.outer(study), "plan"):
        inner = Polygon(loop).buffer(0).intersection(upper)
        for one in getattr(inner, "geoms", [inner]):
            if one.geom_type == "Polygon" and not one.is_empty:
                page.loop(np.asarray(one.exterior.coords)[:-1], shift)
    page.canvas.setDash(4, 2)
    page.line(low[0] + shift[0] - 5.0, shift[1], high[0] + shift[0] + 5.0, shift[1])
    page.canvas.setDash()
    page.text(
        max(low[0] + shift[0], MARGIN_MM) + 4.0, shift[1] - 4.0, "fold here, cut both layers along the outline", 7
    )


def _grid(page: Page, low: Array, high: Array, shift: tuple[float, float], grid_mm: float) -> None:
    """From the nose and from the centre line, within the blank."""
    page.ink(PALE, 0.06)
    for x in np.arange(0.0, high[0] + 1e-6, grid_mm):
        page.line(x + shift[0], low[1] + shift[1], x + shift[0], high[1] + shift[1])
    for y in np.arange(grid_mm * math.ceil(low[1] / grid_mm), high[1] + 1e-6, grid_mm):
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
