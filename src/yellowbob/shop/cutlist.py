"""Cutting pieces out of boards with the least of them used up: along the grain, a kerf between any two, clear of knots.

Up to MOST_EXACT pieces exactly (`cutting_exact`); more, or what that does not finish, by the best of many fillings
(`filling`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.ground.errors import BadInput
from yellowbob.shop.boards import EPS, Board, Placed, Wanted, takes, used_of, used_volume
from yellowbob.shop.cutting_exact import solved
from yellowbob.shop.filling import best_filling

MOST_EXACT = 7
SOLVE_S = 8.0
MOST_PIECES, MOST_BOARDS = 120, 40


@dataclass(frozen=True)
class CutList:
    """Where every piece is cut. used_mm: of each board, from its end. proven: nothing uses less. bound_ml: what no cut can
    do with less than; through: all of it can be sawn with cuts that go right across."""

    placed: tuple[Placed, ...]
    boards: tuple[Board, ...]
    used_mm: tuple[float, ...]
    proven: bool
    bound_ml: float
    through: bool

    @property
    def used_ml(self) -> float:
        """Volume of the boards cut off, mL."""
        return sum(b.thick_mm * b.wide_mm * u for b, u in zip(self.boards, self.used_mm, strict=True)) / 1000.0

    @property
    def pieces_ml(self) -> float:
        """Of the pieces in their boards' thickness, mL."""
        return sum(self.boards[p.board].thick_mm * p.piece.long_mm * p.piece.wide_mm for p in self.placed) / 1000.0

    @property
    def waste_percent(self) -> float:
        """Share of what is cut off that becomes no piece."""
        return 100.0 * (1.0 - self.pieces_ml / self.used_ml) if self.used_ml else 0.0


def least_cut(
    wanted: Sequence[Wanted], boards: Sequence[Board], kerf_mm: float = 2.0, seconds: float = SOLVE_S
) -> CutList:
    """The cut list that uses up the least of the boards.

    Raises BadInput for a kerf out of range, a piece no board takes, too many pieces, or pieces that do not all fit.
    """
    if not 0.0 <= kerf_mm <= 10.0:
        raise BadInput(f"a kerf of {kerf_mm:g} mm: give 0 to 10 mm")
    if not wanted or not boards:
        raise BadInput("nothing to cut" if not wanted else "no stock: say a board, such as 19x90x900 mm")
    if len(wanted) > MOST_PIECES or len(boards) > MOST_BOARDS:
        raise BadInput(f"{len(wanted)} pieces on {len(boards)} boards: {MOST_PIECES} on {MOST_BOARDS} at most")
    for piece in wanted:
        if not any(takes(board, piece) for board in boards):
            sizes = f"{piece.long_mm:.0f} × {piece.wide_mm:.0f} × {piece.thick_mm:.1f} mm"
            raise BadInput(f"{piece.name}, {sizes} along the grain: no board is long, wide and thick enough for it")
    filled = best_filling(wanted, boards, kerf_mm)
    exact = None
    if len(wanted) <= MOST_EXACT:
        exact = solved(wanted, boards, kerf_mm, seconds)
    if exact is None and filled is None:
        raise BadInput(
            f"the {len(wanted)} pieces do not all fit on the {len(boards)} board{'s' if len(boards) > 1 else ''}: "
            "more stock, or fewer copies"
        )
    placed, proven = filled, False
    if exact is not None:
        proven = exact[1]
        if placed is None or used_volume(exact[0], boards) < used_volume(placed, boards) - 1e-3:
            placed = exact[0]
    assert placed is not None
    used = used_of(placed, boards)
    bound = min(b.thick_mm for b in boards) * sum(p.long_mm * p.wide_mm for p in wanted) / 1000.0
    result = CutList(tuple(placed), tuple(boards), used, proven, bound, _through(placed, len(boards), kerf_mm))
    return result


def _through(placed: Sequence[Placed], boards: int, kerf: float) -> bool:
    """Whether straight cuts that go right across what is left part all the pieces."""
    return all(_parted([p for p in placed if p.board == k], kerf) for k in range(boards))


def _parted(group: list[Placed], kerf: float) -> bool:
    if len(group) < 2:
        return True
    for low, high in (
        (lambda p: p.at_mm, lambda p: p.at_mm + p.piece.long_mm), (lambda p: p.off_mm, lambda p: p.off_mm + p.piece.wide_mm),
    ):  # fmt: skip
        for cut in sorted({high(p) for p in group}):
            one = [p for p in group if high(p) <= cut + EPS]
            two = [p for p in group if low(p) >= cut + kerf - 2 * EPS]
            if len(one) + len(two) == len(group) and one and two:
                return _parted(one, kerf) and _parted(two, kerf)
    return False
