"""The log on paper: all of one build, and labels with the serials of a batch."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import Build, Entry
from yellowbob.logbook.words import told
from yellowbob.shop.paper import BOLD, INK, PALE, Page
from yellowbob.shop.sheet import written
from yellowbob.shop.tables import Column, write_table
from yellowbob.weights.evidence import Weighed

LABEL_MM = (62.0, 24.0)
ACROSS, DOWN = 3, 11


def write_build(path: Path, build: Build, entries: Sequence[Entry], weighed: Sequence[Weighed]) -> None:
    """All of a build as PDF: what it weighed against what was expected, then every entry. Raises BadInput."""
    about = [f"{build.name}, {build.kind}, begun {build.made_on:%d %b %Y}, {build.state}."]
    for words, value in (("Batch", build.batch), ("The batch differs in", build.experiment), ("Lost", build.lost_why),
                         ("Went to", build.given_to), ("Set aside", build.aside), ("Notes", build.notes)):  # fmt: skip
        about += [f"{words}: {value}."] if value else []
    about += [f"{build.hours:g} h of hands."] if build.hours is not None else []
    scale = [Column("weighed", 60), Column("on the scale, g", 36, True), Column("forecast, g", 36, True),
             Column("off what was expected, σ", 50, True), Column("   likeliest mistake", 80)]  # fmt: skip
    rows = [[w.weighing.stage, f"{w.weighing.mass_g:.2f}", f"{w.forecast_g:.2f}", f"{w.sigmas:+z.1f}", f"   "
                                                                                                      f"{w.likely or 'none'}"]
            for w in weighed]  # fmt: skip
    found = [[f"{e.at.astimezone():%d %b %Y %H:%M}", e.what, told(e)] for e in entries]

    def draw(canvas: Canvas) -> None:
        high = landscape(A4)[1] / mm
        canvas.setPageSize(landscape(A4))
        write_table(Page(canvas), f"{build.serial}: weighings", scale, rows, high, about)
        canvas.setPageSize(landscape(A4))
        columns = [Column("when", 44), Column("what", 24), Column("found", 200)]
        write_table(Page(canvas), f"{build.serial}: what was found", columns, found, high)

    written(draw, f"{build.serial}, {build.name}", path)


def write_labels(path: Path, builds: Sequence[Build]) -> int:
    """Labels to cut out, three across on A4; returns how many. Raises BadInput without builds."""
    if not builds:
        raise BadInput("no builds to label")

    def draw(canvas: Canvas) -> None:
        page, wide, high = Page(canvas), A4[0] / mm, A4[1] / mm
        for number, one in enumerate(builds):
            at = number % (ACROSS * DOWN)
            if at == 0:
                if number:
                    canvas.showPage()
                canvas.setPageSize(A4)
            left = (wide - ACROSS * LABEL_MM[0]) / 2.0 + (at % ACROSS) * LABEL_MM[0]
            top = high - 14.0 - (at // ACROSS) * LABEL_MM[1]
            page.ink(PALE, 0.1)
            page.box(left, top - LABEL_MM[1], *LABEL_MM)
            page.ink(INK)
            page.text(left + 3.0, top - 9.0, page.fitting(one.serial, LABEL_MM[0] - 6.0, 16, BOLD), 16, BOLD)
            page.text(left + 3.0, top - 14.5, page.fitting(one.name, LABEL_MM[0] - 6.0, 8.5), 8.5)
            page.text(left + 3.0, top - 19.5, f"begun {one.made_on:%d %b %Y}", 7.5)
        canvas.showPage()

    written(draw, "labels", path)
    return len(builds)
