"""Tables on paper: headed columns that go on over as many pages as they need."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.shop.paper import BOLD, FONT, INK, MARGIN_MM, PALE, Page

ROW_MM = 5.2
SIZE = 8.0


@dataclass(frozen=True)
class Column:
    """Its words and width, mm; figures stand at its right."""

    words: str
    wide_mm: float
    right: bool = False


def write_table(
    page: Page,
    title: str,
    columns: Sequence[Column],
    rows: Sequence[Sequence[str]],
    height_mm: float,
    notes: Sequence[str] = (),
) -> None:  # fmt: skip
    """Whole pages of it, each ended; the notes stand under the last row. What is too long for its column is shortened."""
    left = list(rows)
    first = True
    while first or left:
        page.ink(INK)
        page.text(MARGIN_MM, height_mm - 16.0, title if first else f"{title}, further", 13, BOLD)
        y = height_mm - 26.0
        _row(page, columns, [c.words for c in columns], y, BOLD)
        page.ink(PALE, 0.2)
        page.line(MARGIN_MM, y - 1.6, MARGIN_MM + sum(c.wide_mm for c in columns), y - 1.6)
        page.ink(INK)
        room = 20.0 + ROW_MM * len(notes)
        while left and y - ROW_MM > room:
            y -= ROW_MM
            _row(page, columns, left.pop(0), y, FONT)
        if not left:
            y -= ROW_MM
            for words in notes:
                y -= ROW_MM
                page.text(MARGIN_MM, y, words, SIZE)
        page.canvas.showPage()
        first = False


def _row(page: Page, columns: Sequence[Column], cells: Sequence[str], y: float, font: str) -> None:
    x = MARGIN_MM
    for column, cell in zip(columns, cells, strict=True):
        words = page.fitting(cell.replace("-", "−") if column.right else cell, column.wide_mm - 2.0, SIZE, font)
        if column.right:
            page.text(x + column.wide_mm - 2.0, y, words, SIZE, font, "right")
        else:
            page.text(x, y, words, SIZE, font)
        x += column.wide_mm
