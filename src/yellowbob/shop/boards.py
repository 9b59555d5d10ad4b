"""Boards and what is cut from them: stock with its knots, pieces wanted, pieces placed."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

EPS = 1e-6


@dataclass(frozen=True)
class Knot:
    """A place to keep clear of, mm: its middle from the board's end and edge, and how far across it is."""

    at_mm: float
    off_mm: float
    across_mm: float


@dataclass(frozen=True)
class Board:
    """Stock, mm; the grain runs along `long_mm`."""

    name: str
    thick_mm: float
    wide_mm: float
    long_mm: float
    knots: tuple[Knot, ...] = ()


@dataclass(frozen=True)
class Wanted:
    """A piece to cut, mm, its grain along `long_mm`; it comes out of any board that is thick enough."""

    name: str
    long_mm: float
    wide_mm: float
    thick_mm: float


@dataclass(frozen=True)
class Placed:
    """A piece on its board: near corner from the board's end and edge, mm."""

    piece: Wanted
    board: int
    at_mm: float
    off_mm: float


TIMES = re.compile(r"\s*[x×*]\s*", re.IGNORECASE)


def read_board(text: str) -> Board:
    """A board typed as `19x90x900 mm`, thick, wide, long, a unit at each or at the last; `, knot 300/45/25` (from the end,
    from the edge, across, mm) any number of times after it. Raises BadInput."""
    sizes, *knots = (part.strip() for part in text.split(","))
    parts = TIMES.split(sizes)
    if len(parts) != 3:
        raise BadInput(f"'{text}' is no board: write thick x wide x long, such as 19x90x900 mm")
    unit = re.sub(r"^[\d\s.,/]+", "", parts[-1])
    thick, wide, long = (
        read_quantity(p if re.search(r"[^\d\s.,/]", p) else f"{p} {unit}".strip(), "length") for p in parts
    )
    for words, value, most in (("thick", thick, 500.0), ("wide", wide, 3000.0), ("long", long, 10000.0)):
        if not 0.5 <= value <= most:
            raise BadInput(f"'{text}': {value:g} mm {words}; give 0.5 to {most:g} mm")
    found = []
    for knot in knots:
        read = re.fullmatch(r"knot\s+([\d.]+)\s*/\s*([\d.]+)\s*/\s*([\d.]+)(?:\s*mm)?", knot)
        if read is None:
            raise BadInput(f"'{knot}': write a knot as 'knot 300/45/25': mm from the end, from the edge, across")
        found.append(Knot(*(float(v) for v in read.groups())))
    return Board(sizes, thick, wide, long, tuple(found))


def takes(board: Board, piece: Wanted) -> bool:
    """Whether a board is thick, wide and long enough for a piece."""
    return (
        board.thick_mm >= piece.thick_mm - EPS and board.wide_mm >= piece.wide_mm - EPS
        and board.long_mm >= piece.long_mm - EPS
    )  # fmt: skip


def used_of(placed: Sequence[Placed], boards: Sequence[Board]) -> tuple[float, ...]:
    """How much of each board is used from its end, mm."""
    ends = [0.0] * len(boards)
    for one in placed:
        ends[one.board] = max(ends[one.board], one.at_mm + one.piece.long_mm)
    return tuple(ends)


def used_volume(placed: Sequence[Placed], boards: Sequence[Board]) -> float:
    """Of what is cut off the boards, mm³."""
    return sum(b.thick_mm * b.wide_mm * u for b, u in zip(boards, used_of(placed, boards), strict=True))


def clear(piece: Wanted, at: float, off: float, board: Board, there: Sequence[Placed], kerf: float) -> bool:
    """Whether a piece may lie at a place: on the board, a kerf from every other, off the knots."""
    if at + piece.long_mm > board.long_mm + EPS or off + piece.wide_mm > board.wide_mm + EPS:
        return False
    for one in there:
        apart_x = at >= one.at_mm + one.piece.long_mm + kerf - EPS or one.at_mm >= at + piece.long_mm + kerf - EPS
        apart_y = off >= one.off_mm + one.piece.wide_mm + kerf - EPS or one.off_mm >= off + piece.wide_mm + kerf - EPS
        if not (apart_x or apart_y):
            return False
    for knot in board.knots:
        half = knot.across_mm / 2.0
        if (knot.at_mm - half < at + piece.long_mm - EPS and at < knot.at_mm + half - EPS
                and knot.off_mm - half < off + piece.wide_mm - EPS and off < knot.off_mm + half - EPS):  # fmt: skip
            return False
    return True
