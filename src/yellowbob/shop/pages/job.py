"""What a page is drawn for: the design, the paper, how many are made, out of which stock, from when on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, time

from reportlab.lib.pagesizes import A4, landscape, letter
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from yellowbob.shop.boards import Board
from yellowbob.shop.paper import Page
from yellowbob.study import Study

PAPERS = {"a4": landscape(A4), "letter": landscape(letter)}
DATA_SHEET = "Follow each product's data sheet and your local rules; where they differ from this, they decide."


@dataclass(frozen=True)
class Job:
    """`start` carries its zone; without it no schedule is laid."""

    canvas: Canvas
    study: Study
    paper: str = "a4"
    copies: int = 1
    stock: tuple[Board, ...] = ()
    start: datetime | None = None
    hours: tuple[time, time] = (time(18), time(22))
    places: int = 2
    inches: bool = False
    bed_mm: float | None = None

    @property
    def grid_mm(self) -> float:
        """Of templates, in the maker's unit: 10 mm, or a quarter inch."""
        return 6.35 if self.inches else 10.0

    @property
    def wide_mm(self) -> float:
        """Of the paper, lying."""
        return float(PAPERS[self.paper][0] / mm)

    @property
    def high_mm(self) -> float:
        """Of the paper, lying."""
        return float(PAPERS[self.paper][1] / mm)

    def sheet(self) -> Page:
        """A page of the paper."""
        self.canvas.setPageSize(PAPERS[self.paper])
        return Page(self.canvas)
