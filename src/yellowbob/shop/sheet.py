"""One page at true scale: side and plan, ballast holes and eyes from the nose, a check rule, the slip."""

from __future__ import annotations

import io
import itertools
import math
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from yellowbob.ground.errors import BadInput
from yellowbob.lines.silhouette import silhouette
from yellowbob.study import Study, of

Array = NDArray[np.float64]

FONT, BOLD = "YB-Regular", "YB-Bold"
INK, PALE, WATER = (0.13, 0.19, 0.23), (0.55, 0.58, 0.60), (0.12, 0.45, 0.45)
MARGIN_MM = 10.0
RULE_MM = 100.0
SLIP_WIDTH_MM = 66.0


@lru_cache(maxsize=1)
def _fonts() -> None:
    folder = Path(__file__).parent.parent / "fonts"
    pdfmetrics.registerFont(TTFont(FONT, str(folder / "Lato-Regular.ttf")))
    pdfmetrics.registerFont(TTFont(BOLD, str(folder / "Lato-Bold.ttf")))


def page_size_mm(length_mm: float, height_mm: float) -> tuple[float, float]:
    """The smallest of A4, A3, A2 … lying down (width, height) that takes the views at true scale beside the slip."""
    width, height = landscape(A4)[0] / mm, landscape(A4)[1] / mm
    for _ in range(8):
        if length_mm + SLIP_WIDTH_MM + 3 * MARGIN_MM <= width and height_mm + 92.0 <= height:
            break
        width, height = height * math.sqrt(2.0) * math.sqrt(2.0), width
    else:
        raise BadInput(f"the body is {length_mm:.0f} mm long: too large for a sheet at true scale")
    return width, height


class _Page:
    """A canvas that counts in mm and hides reportlab's points."""

    def __init__(self, canvas: Canvas) -> None:
        self.canvas = canvas

    def ink(self, colour: tuple[float, float, float], width_mm: float = 0.2) -> None:
        self.canvas.setStrokeColorRGB(*colour)
        self.canvas.setFillColorRGB(*colour)
        self.canvas.setLineWidth(width_mm * mm)

    def line(self, x1: float, y1: float, x2: float, y2: float) -> None:
        self.canvas.line(x1 * mm, y1 * mm, x2 * mm, y2 * mm)

    def loop(self, points: Array, shift: tuple[float, float]) -> None:
        path = self.canvas.beginPath()
        path.moveTo((points[0, 0] + shift[0]) * mm, (points[0, 1] + shift[1]) * mm)
        for x, y in points[1:]:
            path.lineTo((x + shift[0]) * mm, (y + shift[1]) * mm)
        path.close()
        self.canvas.drawPath(path, stroke=1, fill=0)

    def text(self, x: float, y: float, words: str, size: float = 8.0, font: str = FONT, align: str = "left") -> None:
        self.canvas.setFont(font, size)
        draw = {
            "left": self.canvas.drawString, "right": self.canvas.drawRightString,
            "centre": self.canvas.drawCentredString,
        }[align]  # fmt: skip
        draw(x * mm, y * mm, words)


def _check_rule(page: _Page, x: float, y: float) -> None:
    page.ink(INK, 0.25)
    page.line(x, y, x + RULE_MM, y)
    for tick in range(0, 101, 5):
        page.line(x + tick, y, x + tick, y + (3.0 if tick % 10 == 0 else 1.6))
        if tick % 20 == 0:
            page.text(x + tick, y + 4.0, str(tick), 6.5, align="centre")
    page.text(x, y - 3.6, "This rule must measure 100 mm. If it does not, print again at 100 %.", 7)


def _dimensions(page: _Page, marks: list[tuple[float, str]], origin: tuple[float, float], low: float) -> float:
    """Distances from the nose, each on a row of its own under the view; returns the lowest row."""
    y = origin[1] + low - 5.0
    for at, words in marks:
        page.ink(PALE, 0.12)
        page.line(origin[0], y, origin[0] + at, y)
        page.line(origin[0] + at, y - 1.0, origin[0] + at, origin[1] + low + 1.0)
        page.line(origin[0], y - 1.0, origin[0], y + 1.0)
        page.ink(INK)
        page.text(max(origin[0] + at, origin[0]) + 1.2, y - 0.9, words, 6.5)
        y -= 3.8
    return y


def _side_view(page: _Page, study: Study, origin: tuple[float, float]) -> float:
    design = study.design
    page.ink(INK, 0.25)
    for loop in silhouette(of.outer(study), "side"):
        page.loop(loop, origin)
    low = float(of.outer(study).bounds[0, 2])
    marks: list[tuple[float, str]] = []
    for placed in of.holes(study).ballast:
        hole = placed.hole
        if hole is None:
            x = float(placed.weight.centre_mm[0])
            marks.append((x, f"{x:.1f}  {placed.ballast.name}, cast in"))
            continue
        _hole_outline(page, hole, origin)
        marks.append((hole.mouth_mm[0], f"{hole.mouth_mm[0]:.1f}  {placed.ballast.name}: {_hole_words(hole, placed)}"))
    for bore in of.holes(study).bores:
        _hole_outline(page, bore.hole, origin)
        marks.append(
            (bore.hole.mouth_mm[0], f"{bore.hole.mouth_mm[0]:.1f}  {bore.bore.name}: {_hole_words(bore.hole)}")
        )
    page.ink(PALE, 0.15)
    for wire in design.wires:
        path = np.asarray(wire.path_mm)
        for a, b in itertools.pairwise(path):
            page.line(origin[0] + a[0], origin[1] + a[2], origin[0] + b[0], origin[1] + b[2])
    page.ink(INK, 0.25)
    for fitting in design.fittings:
        if fitting.sort in ("eye", "ring", "lip", "prop"):
            x, _, z = fitting.at_mm
            page.canvas.circle((origin[0] + x) * mm, (origin[1] + z) * mm, 1.0 * mm)
            if fitting.sort != "ring":
                marks.append((x, f"{x:.1f}, {z:+.1f} from the axis  {fitting.name}".replace("-", "−")))
            low = min(low, z)
    rest = of.upright_rest(study)
    if rest is not None and abs(rest.up[2]) > 0.05:
        _waterline(page, study, origin, rest.up, rest.height_mm)
    marks.sort(key=lambda m: -m[0])
    return _dimensions(page, marks, origin, low)


def _hole_words(hole: Any, placed: Any = None) -> str:
    words = f"Ø {hole.diameter_mm:g}, {hole.depth_mm:g} deep"
    if placed is not None and placed.ballast.drilling.lean_deg:
        words += f", lean {placed.ballast.drilling.lean_deg:g}°"
    return words


def _hole_outline(page: _Page, hole: Any, origin: tuple[float, float]) -> None:
    axis = np.asarray(hole.inward)[[0, 2]]
    across = np.array([-axis[1], axis[0]]) * hole.diameter_mm / 2
    mouth, bottom = np.asarray(hole.mouth_mm)[[0, 2]], hole.bottom_mm[[0, 2]]
    page.ink(INK, 0.15)
    page.canvas.setDash(1.5, 1.5)
    page.loop(np.array([mouth + across, bottom + across, bottom - across, mouth - across]), origin)
    page.canvas.setDash()


STEEPEST = 0.05
"""Least of world-up along z at which the waterline is drawn over the side view."""


def _waterline(page: _Page, study: Study, origin: tuple[float, float], up: tuple[float, ...], height: float) -> None:
    if up[2] < STEEPEST:
        return  # it stands too steep for its water to cross the side view as drawn
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


def _slip(page: _Page, study: Study, x: float, top: float) -> None:
    slip, y = of.slip(study), top
    page.ink(INK)
    page.text(x, y, "Weigh slip, g", 10, BOLD)

    def row(words: str, mass: float, font: str = FONT, indent: float = 0.0) -> None:
        nonlocal y
        y -= 4.6
        page.text(x + indent, y, words[:44], 7.5, font)
        page.text(x + SLIP_WIDTH_MM - 2, y, f"{mass:.2f}".replace("-", "−"), 7.5, font, "right")

    for line in slip.at("on scale"):
        row(line.words, line.mass.mass_g, indent=2.0 if line.under else 0.0)
    row("On the scale now", slip.on_scale.mass_g, BOLD)
    for line in slip.at("to come"):
        row(line.words, line.mass.mass_g)
    row("Finished", slip.finished.mass_g, BOLD)
    row("Water it fills", of.buoyancy(study).lift_g)
    row("To spare", of.buoyancy(study).reserve_g)


def write_sheet(study: Study, path: Path | str) -> None:
    """Write the page as PDF. Raises BadInput when the folder cannot be written or the body fits no page."""
    _fonts()
    outer = of.outer(study)
    (x0, y0, z0), (x1, y1, z1) = outer.bounds
    width, height = page_size_mm(x1 - x0, (z1 - z0) + (y1 - y0))
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=(width * mm, height * mm))
    canvas.setTitle(study.design.name)
    canvas.setAuthor("Yellow Bob")
    page = _Page(canvas)
    page.ink(INK)
    page.text(MARGIN_MM, height - 16, study.design.name, 18, BOLD)
    water = of.water(study)
    body = study.design.body
    rest = of.upright_rest(study)
    sits = (
        "sinks"
        if rest is None
        else (f"sits {math.degrees(rest.pitch_rad):+.1f}°, draft {rest.draft_mm:.1f} mm".replace("-", "−"))
    )
    page.text(
        MARGIN_MM, height - 22,
        f"{study.design.kind} · {body.material.name} {body.density_g_ml:.3f} g/mL · water {water.temperature_c:g} °C, "
        f"{water.density_g_ml:.4f} g/mL · {sits}", 8.5,
    )  # fmt: skip
    shift = MARGIN_MM + 14.0 - x0
    side_y = height - 34 - z1
    page.text(MARGIN_MM, height - 30, "side", 8)
    low = _side_view(page, study, (shift, side_y))
    plan_y = min(low, side_y + z0) - 8 - y1
    page.ink(INK, 0.25)
    page.text(MARGIN_MM, plan_y + y1 + 2, "plan", 8)
    for loop in silhouette(outer, "plan"):
        page.loop(loop, (shift, plan_y))
    page.ink(PALE, 0.12)
    page.line(shift + x0 - 3, plan_y, shift + x1 + 3, plan_y)
    _slip(page, study, width - SLIP_WIDTH_MM - MARGIN_MM + 2, height - 16)
    _check_rule(page, MARGIN_MM, 15)
    page.text(
        width - MARGIN_MM, 6,
        "Lead: wear gloves, wash hands, no dust; heed local rules on lead and each product's data sheet.", 6.5,
        align="right",
    )  # fmt: skip
    canvas.save()
    try:
        Path(path).write_bytes(buffer.getvalue())
    except OSError as error:
        raise BadInput(f"{path}: cannot be written ({error.strerror}); name another place") from None
