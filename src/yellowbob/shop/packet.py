"""The packet: what goes to the bench on paper, page by page in the order of the work, each of which can be left out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime, time
from pathlib import Path

from reportlab.pdfgen.canvas import Canvas

from yellowbob.design.shape import MeshBody
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.shop.blank import blank_of
from yellowbob.shop.boards import Board
from yellowbob.shop.flat import flats
from yellowbob.shop.pages.casting import mould, printed
from yellowbob.shop.pages.cover import cover
from yellowbob.shop.pages.drawings import colour, sheet_parts, wire
from yellowbob.shop.pages.job import PAPERS, Job
from yellowbob.shop.pages.lists import blank, caution, cost, finish, holes, timeline, turning
from yellowbob.shop.sheet import draw_painting, draw_sheet, written
from yellowbob.shop.templates import write_templates
from yellowbob.study import Study, of

MOST_COPIES = 200


def _sheet(job: Job) -> None:
    draw_sheet(job.canvas, job.study, PAPERS[job.paper])


def _templates(job: Job) -> None:
    write_templates(job.sheet(), job.study, job.wide_mm, job.high_mm, job.grid_mm)


def _half(job: Job) -> None:
    write_templates(job.sheet(), job.study, job.wide_mm, job.high_mm, job.grid_mm, half=True)


def _paint(job: Job) -> None:
    draw_painting(job.canvas, job.study, PAPERS[job.paper])


PAGES: dict[str, Callable[[Job], None]] = {
    "cover": cover, "sheet": _sheet, "blank": blank, "templates": _templates, "half": _half, "turning": turning,
        "holes": holes,
    "wire": wire, "flat": sheet_parts, "mould": mould, "print": printed, "paint": _paint, "colour": colour, "finish": finish,
    "schedule": timeline, "cost": cost, "cautions": caution,
}  # fmt: skip
"""By name, in the order of the work."""


def pages_for(study: Study, stock: Sequence[Board] = (), start: datetime | None = None) -> list[str]:
    """Those that have something to say of the design, out of such stock, from such a start on."""
    design = study.design
    printed_one = design.body.shell is not None or design.body.material.group == "plastic"
    empty = {
        "blank": not stock or _no_blank(study, stock), "turning": isinstance(design.shape, MeshBody),
        "holes": not (of.holes(study).bores or of.holes(study).ballast),
        "wire": not (design.wires or design.fittings), "flat": not flats(study),
            "mould": design.body.material.group != "resin",
        "print": not printed_one, "paint": not design.bands, "finish": not design.coats,
        "schedule": not design.coats or start is None,
    }  # fmt: skip
    return [name for name in PAGES if not empty.get(name, False)]


def _no_blank(study: Study, stock: Sequence[Board]) -> bool:
    try:
        blank_of(study, stock)
    except YellowBobError:
        return True
    return False


def write_packet(
    study: Study, path: Path | str, pages: Sequence[str] | None = None, paper: str = "a4", copies: int = 1,
    stock: Sequence[Board] = (), start: datetime | None = None, hours: tuple[time, time] = (time(18), time(22)),
    inches: bool = False, bed_mm: float | None = None,
) -> list[str]:  # fmt: skip
    """Write the packet as PDF, all pages that have something to say or those named; returns which.

    Pages of a blank want stock, a schedule its start. Raises BadInput for unknown pages or paper, copies out of range, or a
    place that cannot be written.
    """
    if paper not in PAPERS:
        raise BadInput(f"paper '{paper}': say a4 or letter")
    if not 1 <= copies <= MOST_COPIES:
        raise BadInput(f"{copies} copies: give 1 to {MOST_COPIES}")
    unknown = [name for name in pages or () if name not in PAGES]
    if unknown:
        raise BadInput(f"no page is called '{unknown[0]}'; there are {', '.join(PAGES)}")
    told = pages_for(study, stock, start)
    if pages is not None and "mould" in pages and "mould" not in told:
        told = [n for n in PAGES if n in told or n == "mould"]  # a mould can be made of any master
    if pages is not None and "blank" in pages and stock:
        told = [n for n in PAGES if n in told or n == "blank"]  # so that it says why there is none
    chosen = told if pages is None else [n for n in PAGES if n in pages and n in told]
    if not chosen:
        raise BadInput("none of these pages has anything to say of this design")

    def draw(canvas: Canvas) -> None:
        job = Job(canvas, study, paper, copies, tuple(stock), start, hours, 2, inches, bed_mm)
        for name in chosen:
            PAGES[name](job)

    written(draw, study.design.name, path)
    return chosen
