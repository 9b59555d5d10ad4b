"""Tables on paper: headed columns that go on over as many pages as they need; words too long for a line go on below it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit

from yellowbob.shop.paper import BOLD, FONT, INK, MARGIN_MM, PALE, Page

ROW_MM, LINE_MM = 5.2, 3.6
SIZE = 8.0
FOOT_MM = 14.0


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
    """Whole pages of it, each ended; the notes stand under the last row, each in as many lines as it needs."""
    room = float(page.canvas._pagesize[0]) / mm - 2.0 * MARGIN_MM
    columns = _within(columns, room)
    left = [_lines(columns, row, FONT) for row in rows]
    head = _lines(columns, [c.words for c in columns], BOLD)
    said = [simpleSplit(words, FONT, SIZE, room * mm) for words in notes]
    y = _headed(page, columns, title, head, height_mm)
    while left or said:
        lines = left[0] if left else [[line] for line in said[0]]
        high = ROW_MM + LINE_MM * (max(map(len, left[0])) - 1 if left else len(said[0]) - 1)
        if y - high < FOOT_MM:
            page.canvas.showPage()
            y = _headed(page, columns, f"{title}, further", head, height_mm)
        y -= ROW_MM
        if left:
            _row(page, columns, lines, y, FONT)
            left.pop(0)
            y -= high - ROW_MM
            y -= ROW_MM if not left and said else 0.0
        else:
            for line in said.pop(0):
                page.text(MARGIN_MM, y, line, SIZE)
                y -= LINE_MM
            y += LINE_MM
    page.canvas.showPage()


def _headed(page: Page, columns: Sequence[Column], title: str, head: list[list[str]], height_mm: float) -> float:
    """A page's title and the columns' heads; returns where they end."""
    page.ink(INK)
    page.text(MARGIN_MM, height_mm - 16.0, title, 13, BOLD)
    y = height_mm - 26.0
    _row(page, columns, head, y, BOLD)
    y -= LINE_MM * (max(map(len, head)) - 1)
    page.ink(PALE, 0.2)
    page.line(MARGIN_MM, y - 1.6, MARGIN_MM + sum(c.wide_mm for c in columns), y - 1.6)
    page.ink(INK)
    return y


def _within(columns: Sequence[Column], room_mm: float) -> Sequence[Column]:
    """Columns that are wider together than the paper, narrowed alike."""
    share = min(1.0, room_mm / sum(c.wide_mm for c in columns))
    return [Column(c.words, share * c.wide_mm, c.right) for c in columns]


def _lines(columns: Sequence[Column], cells: Sequence[str], font: str) -> list[list[str]]:
    """The lines that each cell of a row takes."""
    found = []
    for column, cell in zip(columns, cells, strict=True):
        words = cell.replace("-", "−") if column.right else cell
        indent = " " * (len(words) - len(words.lstrip(" ")))
        lines = simpleSplit(words.strip(), font, SIZE, (column.wide_mm - 2.0 - 0.7 * len(indent)) * mm) or [""]
        found.append([indent + line for line in lines])
    return found


def _row(page: Page, columns: Sequence[Column], cells: list[list[str]], y: float, font: str) -> None:
    x = MARGIN_MM
    for column, lines in zip(columns, cells, strict=True):
        for number, line in enumerate(lines):
            if column.right:
                page.text(x + column.wide_mm - 2.0, y - LINE_MM * number, line, SIZE, font, "right")
            else:
                page.text(x, y - LINE_MM * number, line, SIZE, font)
        x += column.wide_mm
