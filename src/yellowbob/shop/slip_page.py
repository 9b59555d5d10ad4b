"""The weigh slip on paper: down the side of a page, and on further pages where it is longer."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.shop.paper import BOLD, FONT, INK, SLIP_WIDTH_MM, Page
from yellowbob.study import Study, of

ROW_MM = 4.6


@dataclass(frozen=True)
class Row:
    """A line of the slip, g."""

    words: str
    mass_g: float
    bold: bool = False
    under: bool = False


def slip_rows(study: Study) -> list[Row]:
    """The slip from top to bottom, totals and what is to spare at its end."""
    slip, lift, load = of.slip(study), of.buoyancy(study), of.line_load_g(study)
    return [
        *(Row(line.words, line.mass.mass_g, under=bool(line.under)) for line in slip.at("on scale")),
        Row("On the scale now", slip.on_scale.mass_g, bold=True),
        *(Row(line.words, line.mass.mass_g) for line in slip.at("to come")),
        Row("Finished", slip.finished.mass_g, bold=True),
        *([Row("On the line, under water", load)] if load else []),
        Row("Water it fills", lift.lift_g),
        Row("To spare", lift.reserve_g),
    ]


def write_rows(page: Page, rows: list[Row], x_mm: float, top_mm: float, low_mm: float, title: str) -> list[Row]:
    """Write rows downward from `top_mm`; what would come below `low_mm` is handed back."""
    page.ink(INK)
    page.text(x_mm, top_mm, title, 10, BOLD)
    y = top_mm
    for number, row in enumerate(rows):
        y -= ROW_MM
        if y < low_mm:
            return rows[number:]
        font, indent = BOLD if row.bold else FONT, 2.0 if row.under else 0.0
        words = page.fitting(row.words, SLIP_WIDTH_MM - 18.0 - indent, 7.5, font)
        page.text(x_mm + indent, y, words, 7.5, font)
        page.text(x_mm + SLIP_WIDTH_MM - 2, y, f"{row.mass_g:.2f}".replace("-", "−"), 7.5, font, "right")
    return []
