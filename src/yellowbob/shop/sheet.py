"""One page at true scale: side and plan with every piece, holes, cuts and eyes from the nose, a check rule, the slip."""

from __future__ import annotations

import io
import itertools
import math
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from yellowbob.design.model import Fitting, aim
from yellowbob.ground.errors import BadInput
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.marks import Mark, gone_by_cuts, hole_loop, marks_of
from yellowbob.shop.paint_page import write_plan
from yellowbob.shop.paper import BOLD, INK, MARGIN_MM, PALE, SLIP_WIDTH_MM, WATER, Page, check_rule, fonts, page_size_mm
from yellowbob.shop.slip_page import slip_rows, write_rows
from yellowbob.study import Study, of

Array = NDArray[np.float64]

MARK_MM = 3.8
"""Height of one row of distances under the side view."""
STEEPEST = 0.05
"""Least of world-up along z at which the waterline is drawn over the side view."""


def _dimensions(page: Page, marks: list[Mark], origin: tuple[float, float], low: float) -> float:
    """Distances from the nose, each on a row of its own under the view, the furthest first; returns the lowest row."""
    y = origin[1] + low - 5.0
    for mark in reversed(marks):
        page.ink(PALE, 0.12)
        page.line(origin[0], y, origin[0] + mark.at_mm, y)
        page.line(origin[0] + mark.at_mm, y - 1.0, origin[0] + mark.at_mm, origin[1] + low + 1.0)
        page.line(origin[0], y - 1.0, origin[0], y + 1.0)
        page.ink(INK)
        words = f"{mark.at_mm:.1f}  {mark.words}".replace("-", "−")
        page.text(max(origin[0] + mark.at_mm, origin[0]) + 1.2, y - 0.9, words, 6.5)
        y -= MARK_MM
    return y


def _side_view(page: Page, study: Study, origin: tuple[float, float], marks: list[Mark]) -> float:
    """The side view; returns the lowest row under it."""
    design = study.design
    page.ink(INK, 0.25)
    for mesh in (of.outer(study), *of.parts(study)):
        for loop in silhouette(mesh, "side"):
            page.loop(loop, origin)
    low = float(of.whole(study).bounds[0, 2])
    for gone in gone_by_cuts(study):
        _dashed(page, gone.loops, origin)
    for hole in [p.hole for p in of.holes(study).ballast if p.hole is not None] + [
        b.hole for b in of.holes(study).bores
    ]:
        _dashed(page, (hole_loop(hole),), origin)
    page.ink(PALE, 0.15)
    for wire in design.wires:
        path = np.asarray(wire.path_mm)
        for a, b in itertools.pairwise(path):
            page.line(origin[0] + a[0], origin[1] + a[2], origin[0] + b[0], origin[1] + b[2])
    page.ink(INK, 0.25)
    for fitting in design.fittings:
        if fitting.sort not in ("hook", "other", "jig"):
            _fitting(page, fitting, origin)
            low = min(low, fitting.at_mm[2])
    rest = of.upright_rest(study)
    if rest is not None and rest.up[2] > STEEPEST:
        _waterline(page, study, origin, rest.up, rest.height_mm)
    return _dimensions(page, marks, origin, low)


def _fitting(page: Page, fitting: Fitting, origin: tuple[float, float]) -> None:
    """An eye as a ring, a screw eye with its shank, a prop as its disc seen from the edge, a blade or ticker as a line."""
    at = np.asarray(fitting.at_mm)
    x, z = origin[0] + at[0], origin[1] + at[2]
    along = np.asarray(aim(fitting))
    if fitting.sort == "prop":
        page.line(x, z - fitting.span_mm / 2, x, z + fitting.span_mm / 2)
    elif fitting.sort in ("blade", "ticker"):
        end = along * fitting.reach_mm
        page.line(x, z, x + end[0], z + end[2])
    else:
        page.canvas.circle(x * mm, z * mm, 1.0 * mm)
    if fitting.sort in ("screw eye", "grommet", "sleeve") and fitting.long_mm:
        end = along * fitting.long_mm
        page.line(x, z, x + end[0], z + end[2])


def _dashed(page: Page, loops: tuple[Array, ...], origin: tuple[float, float]) -> None:
    page.ink(INK, 0.15)
    page.canvas.setDash(1.5, 1.5)
    for loop in loops:
        page.loop(loop, origin)
    page.canvas.setDash()


def _waterline(page: Page, study: Study, origin: tuple[float, float], up: tuple[float, ...], height: float) -> None:
    page.ink(WATER, 0.2)
    (x0, _, z0), (x1, _, z1) = of.outer(study).bounds
    x = np.linspace(x0 - 6, x1 + 6, 400)
    z = (height - x * up[0]) / up[2]
    shown = (z > z0 - 4) & (z < z1 + 4)
    if not shown.any():
        return
    x, z = x[shown][[0, -1]], z[shown][[0, -1]]
    page.canvas.setDash(3, 2)
    page.line(origin[0] + x[0], origin[1] + z[0], origin[0] + x[1], origin[1] + z[1])
    page.canvas.setDash()
    page.text(origin[0] + x[1] + 1, origin[1] + z[1], "water", 6.5)


def _plan_view(page: Page, study: Study, origin: tuple[float, float], top: float) -> None:
    page.ink(INK, 0.25)
    page.text(MARGIN_MM, origin[1] + top + 2, "plan", 8)
    for mesh in (of.outer(study), *of.parts(study)):
        for loop in silhouette(mesh, "plan"):
            page.loop(loop, origin)
    x0, x1 = of.outer(study).bounds[:, 0]
    page.ink(PALE, 0.12)
    page.line(origin[0] + x0 - 3, origin[1], origin[0] + x1 + 3, origin[1])


def _head(page: Page, study: Study, height: float) -> None:
    page.ink(INK)
    page.text(MARGIN_MM, height - 16, study.design.name, 18, BOLD)
    water, body, rest = of.water(study), study.design.body, of.upright_rest(study)
    sits = (
        "sinks"
        if rest is None
        else (f"sits {math.degrees(rest.pitch_rad):+z.1f}°, draft {rest.draft_mm:.1f} mm".replace("-", "−"))
    )
    page.text(
        MARGIN_MM, height - 22,
        f"{study.design.kind} · {body.material.name} {body.density_g_ml:.3f} g/mL · water {water.temperature_c:g} °C, "
        f"{water.density_g_ml:.4f} g/mL · {sits}", 8.5,
    )  # fmt: skip


def _foot(page: Page, width: float) -> None:
    page.text(
        width - MARGIN_MM, 6,
        "Lead: wear gloves, wash hands, no dust; heed local rules on lead and each product's data sheet.", 6.5,
        align="right",
    )  # fmt: skip


def draw_sheet(canvas: Canvas, study: Study, paper: tuple[float, float] = landscape(A4)) -> None:
    """Draw the page, and those that its slip and painting plan go on over, each ended. Raises BadInput for what fits none."""
    (x0, y0, z0), (x1, y1, z1) = of.whole(study).bounds
    marks = marks_of(study)
    width, height = page_size_mm(x1 - x0, (z1 - z0) + (y1 - y0), MARK_MM * len(marks), paper)
    canvas.setPageSize((width * mm, height * mm))
    page = Page(canvas)
    _head(page, study, height)
    shift, side_y = MARGIN_MM + 14.0 - x0, height - 34 - z1
    page.text(MARGIN_MM, height - 30, "side", 8)
    low = _side_view(page, study, (shift, side_y), marks)
    _plan_view(page, study, (shift, min(low, side_y + z0) - 8 - y1), y1)
    left = write_rows(page, slip_rows(study), width - SLIP_WIDTH_MM - MARGIN_MM + 2, height - 16, 18.0, "Weigh slip, g")
    if left:
        page.text(width - SLIP_WIDTH_MM - MARGIN_MM + 2, 12.0, "goes on over the page", 7)
    check_rule(page, MARGIN_MM, 15)
    _foot(page, width)
    canvas.showPage()
    while left:
        x = MARGIN_MM
        while left and x + SLIP_WIDTH_MM < width:
            left = write_rows(page, left, x, height - 16, 12.0, f"{study.design.name}: weigh slip, g, further")
            x += SLIP_WIDTH_MM + MARGIN_MM
        _foot(page, width)
        canvas.showPage()


def draw_painting(canvas: Canvas, study: Study, paper: tuple[float, float] = landscape(A4)) -> None:
    """The painting plan as a page of its own; nothing without bands."""
    if study.design.bands:
        wide, high = paper
        canvas.setPageSize((wide, high))
        write_plan(Page(canvas), study, high / mm)
        canvas.showPage()


def written(draw: Callable[[Canvas], None], title: str, path: Path | str) -> None:
    """Write what is drawn on a canvas as PDF. Raises BadInput when the folder cannot be written."""
    fonts()
    buffer = io.BytesIO()
    canvas = Canvas(buffer)
    canvas.setTitle(title)
    canvas.setAuthor("Yellow Bob")
    draw(canvas)
    canvas.save()
    try:
        Path(path).write_bytes(buffer.getvalue())
    except OSError as error:
        raise BadInput(f"{path}: cannot be written ({error.strerror}); name another place") from None


def write_sheet(study: Study, path: Path | str) -> None:
    """Write the page as PDF; a slip that is longer than the page goes on over further ones. Raises BadInput when the
    folder cannot be written or the body fits no page."""

    def draw(canvas: Canvas) -> None:
        draw_sheet(canvas, study)
        draw_painting(canvas, study)

    written(draw, study.design.name, path)
