"""Filling boards piece by piece, bottom-left, in many orders (Baker, Coffman and Rivest 1980); sliding pieces up close."""

from __future__ import annotations

import itertools
import random
from collections.abc import Sequence

from yellowbob.shop.boards import Board, Placed, Wanted, clear, takes, used_volume


def _filled(order: Sequence[Wanted], boards: Sequence[Board], turn: Sequence[int], kerf: float) -> list[Placed] | None:
    """Each piece in turn at the corner that uses up least of the boards; None where one finds no place."""
    placed: list[Placed] = []
    for piece in order:
        best: tuple[float, float, float, Placed] | None = None
        for number in turn:
            board, there = boards[number], [p for p in placed if p.board == number]
            if not takes(board, piece):
                continue
            used = max((p.at_mm + p.piece.long_mm for p in there), default=0.0)
            ats = {
                0.0,
                *(p.at_mm + p.piece.long_mm + kerf for p in there),
                *(k.at_mm + k.across_mm / 2 for k in board.knots),
            }
            offs = {0.0, *(p.off_mm + p.piece.wide_mm + kerf for p in there),
                    *(k.off_mm + k.across_mm / 2 for k in board.knots)}  # fmt: skip
            for at, off in itertools.product(ats, offs):
                more = (max(at + piece.long_mm, used) - used) * board.wide_mm * board.thick_mm
                score = (round(more, 6), at, off)
                if (best is None or score < best[:3]) and clear(piece, at, off, board, there, kerf):
                    best = (*score, Placed(piece, number, at, off))
        if best is None:
            return None
        placed.append(best[3])
    return placed


def best_filling(wanted: Sequence[Wanted], boards: Sequence[Board], kerf: float) -> list[Placed] | None:
    """The best of many fillings, the same every time; None where none takes all pieces."""
    keys = (
        lambda w: (-w.long_mm, -w.wide_mm), lambda w: (-w.wide_mm, -w.long_mm), lambda w: -w.long_mm * w.wide_mm,
        lambda w: (-w.thick_mm, -w.long_mm),
    )  # fmt: skip
    dice, best = random.Random(1), None
    thin = sorted(range(len(boards)), key=lambda k: boards[k].thick_mm * boards[k].wide_mm)
    tries = 200 if len(wanted) <= 12 else 24 if len(wanted) <= 40 else 4
    for number in range(tries):
        order = sorted(wanted, key=keys[number % len(keys)])
        if number >= len(keys):
            for _ in range(1 + number % 3):
                a, b = dice.randrange(len(order)), dice.randrange(len(order))
                order[a], order[b] = order[b], order[a]
        found = _filled(order, boards, thin, kerf)
        if found is not None and (best is None or used_volume(found, boards) < used_volume(best, boards) - 1e-6):
            best = found
    return best


def settled(placed: list[Placed], boards: Sequence[Board], kerf: float) -> list[Placed]:
    """Each piece slid to the board's end and edge as far as it goes: the solver's rounding leaves, and lists read better."""
    for _ in range(3):
        for number, one in enumerate(placed):
            there = [p for k, p in enumerate(placed) if k != number and p.board == one.board]
            board = boards[one.board]
            ats = sorted({0.0, *(p.at_mm + p.piece.long_mm + kerf for p in there),
                          *(k.at_mm + k.across_mm / 2 for k in board.knots)})  # fmt: skip
            offs = sorted({0.0, *(p.off_mm + p.piece.wide_mm + kerf for p in there),
                           *(k.off_mm + k.across_mm / 2 for k in board.knots)})  # fmt: skip
            spots = [(a, o) for a in ats for o in offs if a <= one.at_mm + 1e-4 and o <= one.off_mm + 1e-4]
            spot = next((s for s in spots if clear(one.piece, *s, board, there, kerf)), None)
            if spot is not None:
                placed[number] = Placed(one.piece, one.board, *spot)
    return placed
