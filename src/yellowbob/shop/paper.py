"""The paper under the shop's pages: fonts, sizes that take a view at true scale, a canvas in mm, the check rule."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

FONT, BOLD = "YB-Regular", "YB-Bold"
INK, PALE, WATER = (0.13, 0.19, 0.23), (0.55, 0.58, 0.60), (0.12, 0.45, 0.45)
MARGIN_MM = 10.0
RULE_MM = 100.0
SLIP_WIDTH_MM = 66.0


@lru_cache(maxsize=1)
def fonts() -> None:
    """Have the shipped fonts known to the PDF writer."""
    folder = Path(__file__).parent.parent / "fonts"
    pdfmetrics.registerFont(TTFont(FONT, str(folder / "Lato-Regular.ttf")))
    pdfmetrics.registerFont(TTFont(BOLD, str(folder / "Lato-Bold.ttf")))


def page_size_mm(
    length_mm: float, height_mm: float, under_mm: float = 0.0, paper: tuple[float, float] = landscape(A4)
) -> tuple[float, float]:  # fmt: skip
    """The smallest of a paper (points, lying), twice it, four times it …, lying down (width, height) that takes the views
    at true scale beside the slip.

    under_mm : what stands under the side view. Raises BadInput for what no such sheet takes.
    """
    width, height = paper[0] / mm, paper[1] / mm
    for _ in range(8):
        if length_mm + SLIP_WIDTH_MM + 3 * MARGIN_MM <= width and height_mm + max(92.0, 62.0 + under_mm) <= height:
            break
        width, height = height * 2.0, width
    else:
        raise BadInput(f"the body is {length_mm:.0f} mm long: too large for a sheet at true scale")
    return width, height


class Page:
    """A canvas that counts in mm and hides reportlab's points."""

    def __init__(self, canvas: Canvas) -> None:
        self.canvas = canvas

    def ink(self, colour: tuple[float, float, float], width_mm: float = 0.2) -> None:
        """What is drawn next is in this colour, its lines so wide."""
        self.canvas.setStrokeColorRGB(*colour)
        self.canvas.setFillColorRGB(*colour)
        self.canvas.setLineWidth(width_mm * mm)

    def line(self, x1: float, y1: float, x2: float, y2: float) -> None:
        """A straight line."""
        self.canvas.line(x1 * mm, y1 * mm, x2 * mm, y2 * mm)

    def loop(self, points: Array, shift: tuple[float, float]) -> None:
        """A closed outline (k, 2), shifted."""
        self._path(points, shift, stroke=1, fill=0)

    def open(self, points: Array, shift: tuple[float, float]) -> None:
        """A line (k, 2) that is not closed, shifted."""
        self._path(points, shift, stroke=1, fill=0, closed=False)

    def _path(self, points: Array, shift: tuple[float, float], stroke: int, fill: int, closed: bool = True) -> None:
        path = self.canvas.beginPath()
        path.moveTo((points[0, 0] + shift[0]) * mm, (points[0, 1] + shift[1]) * mm)
        for x, y in points[1:]:
            path.lineTo((x + shift[0]) * mm, (y + shift[1]) * mm)
        if closed:
            path.close()
        self.canvas.drawPath(path, stroke=stroke, fill=fill)

    def filled(self, points: Array, shift: tuple[float, float]) -> None:
        """The same, filled without a line."""
        self._path(points, shift, stroke=0, fill=1)

    def box(self, x: float, y: float, wide: float, high: float, fill: bool = False) -> None:
        """A rectangle."""
        self.canvas.rect(x * mm, y * mm, wide * mm, high * mm, stroke=0 if fill else 1, fill=1 if fill else 0)

    def fitting(self, words: str, room_mm: float, size: float, font: str = FONT) -> str:
        """The words, shortened until they fit a width."""
        if pdfmetrics.stringWidth(words, font, size) <= room_mm * mm:
            return words
        while words and pdfmetrics.stringWidth(words + " …", font, size) > room_mm * mm:
            words = words[:-1]
        return words.rstrip() + " …"

    def text(self, x: float, y: float, words: str, size: float = 8.0, font: str = FONT, align: str = "left") -> None:
        """Words at a place; size in points."""
        self.canvas.setFont(font, size)
        draw = {
            "left": self.canvas.drawString, "right": self.canvas.drawRightString,
            "centre": self.canvas.drawCentredString,
        }[align]  # fmt: skip
        draw(x * mm, y * mm, words)


def check_rule(page: Page, x: float, y: float) -> None:
    """A rule of 100 mm: whether the page was printed at its true scale."""
    page.ink(INK, 0.25)
    page.line(x, y, x + RULE_MM, y)
    for tick in range(0, 101, 5):
        page.line(x + tick, y, x + tick, y + (3.0 if tick % 10 == 0 else 1.6))
        if tick % 20 == 0:
            page.text(x + tick, y + 4.0, str(tick), 6.5, align="centre")
    page.text(x, y - 3.6, "This rule must measure 100 mm. If it does not, print again at 100 %.", 7)
