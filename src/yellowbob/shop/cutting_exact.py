"""Cutting pieces out of boards by mixed integer programming: non-overlap of rectangles by big-M disjunctions (Onodera,
Taniguchi and Tamaru 1991), solved by SciPy's HiGHS."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

from yellowbob.shop.boards import EPS, Board, Placed, Wanted, takes
from yellowbob.shop.filling import settled


class _Rows:
    """Linear constraints under way: low ≤ Σ coefficient x variable ≤ high."""

    def __init__(self) -> None:
        self.at: list[int] = []
        self.columns: list[int] = []
        self.values: list[float] = []
        self.low: list[float] = []
        self.high: list[float] = []

    def add(self, terms: Sequence[tuple[int, float]], low: float, high: float) -> None:
        for column, value in terms:
            self.at.append(len(self.low))
            self.columns.append(column)
            self.values.append(value)
        self.low.append(low)
        self.high.append(high)


class _Model:
    """Variables: x and y of each piece, mm used of each board, which board each lies on, which side of one another."""

    def __init__(self, wanted: Sequence[Wanted], boards: Sequence[Board], kerf: float) -> None:
        self.wanted, self.boards, self.kerf = wanted, boards, kerf
        n, m = len(wanted), len(boards)
        self.x, self.y, self.used = range(n), range(n, 2 * n), range(2 * n, 2 * n + m)
        self.on = [[2 * n + m + i * m + k for k in range(m)] for i in range(n)]
        self.count = 2 * n + m + n * m
        self.long, self.wide = max(b.long_mm for b in boards) + kerf, max(b.wide_mm for b in boards) + kerf
        self.rows = _Rows()
        for i in range(n):
            self._lies(i)
        for i, j in itertools.combinations(range(n), 2):
            self._apart(i, j)
        for k in range(m):
            self._clears(k)

    def _lies(self, i: int) -> None:
        """A piece lies on one board, within it, and uses it up to its far end."""
        piece, on = self.wanted[i], self.on[i]
        self.rows.add([(c, 1.0) for c in on], 1.0, 1.0)
        along = [(on[k], -(b.long_mm - piece.long_mm)) for k, b in enumerate(self.boards)]
        across = [(on[k], -(b.wide_mm - piece.wide_mm)) for k, b in enumerate(self.boards)]
        self.rows.add([(self.x[i], 1.0), *along], -np.inf, EPS)
        self.rows.add([(self.y[i], 1.0), *across], -np.inf, EPS)
        for k, used in enumerate(self.used):
            self.rows.add([(used, 1.0), (self.x[i], -1.0), (on[k], -self.long)], piece.long_mm - self.long, np.inf)

    def _apart(self, i: int, j: int) -> None:
        """Two pieces on one board are a kerf apart on one side; of two alike the first lies no further along."""
        one, two, first = self.wanted[i], self.wanted[j], self.count
        self.count += 4
        sides = ((self.x[i], self.x[j], one.long_mm, self.long), (self.x[j], self.x[i], two.long_mm, self.long),
                 (self.y[i], self.y[j], one.wide_mm, self.wide), (self.y[j], self.y[i], two.wide_mm, self.wide))  # fmt: skip
        for side, (a, b, size, most) in enumerate(sides):
            self.rows.add([(a, 1.0), (b, -1.0), (first + side, 2.0 * most)], -np.inf, 2.0 * most - size - self.kerf)
        for k in range(len(self.boards)):
            self.rows.add(
                [*((first + s, 1.0) for s in range(4)), (self.on[i][k], -1.0), (self.on[j][k], -1.0)], -1.0, np.inf
            )
        if one == two:
            self.rows.add([(self.x[i], 1.0), (self.x[j], -1.0)], -np.inf, 0.0)

    def _clears(self, k: int) -> None:
        """Pieces on a board stay off its knots, and use at least their area of it."""
        board = self.boards[k]
        areas = [(self.on[i][k], -p.long_mm * p.wide_mm) for i, p in enumerate(self.wanted)]
        self.rows.add([(self.used[k], board.wide_mm), *areas], 0.0, np.inf)
        for knot, (i, piece) in itertools.product(board.knots, enumerate(self.wanted)):
            half, first = knot.across_mm / 2.0, self.count
            self.count += 4
            for var, most, size, at, low in (
                (self.x[i], self.long, piece.long_mm, knot.at_mm, first),
                (self.y[i], self.wide, piece.wide_mm, knot.off_mm, first + 2),
            ):
                self.rows.add([(var, 1.0), (low, 2.0 * most)], -np.inf, 2.0 * most + at - half - size)
                self.rows.add([(var, 1.0), (low + 1, -most)], at + half - most, np.inf)
            self.rows.add([*((first + s, 1.0) for s in range(4)), (self.on[i][k], -1.0)], 0.0, np.inf)


def solved(
    wanted: Sequence[Wanted], boards: Sequence[Board], kerf: float, seconds: float
) -> tuple[list[Placed], bool] | None:  # fmt: skip
    """Where to cut each piece so that the least volume of boards is used, and whether that is proven; None where nothing is
    found in the time."""
    model = _Model(wanted, boards, kerf)
    n, m = len(wanted), len(boards)
    cost, whole = np.zeros(model.count), np.zeros(model.count)
    lower, upper = np.zeros(model.count), np.ones(model.count)
    whole[2 * n + m :], upper[: 2 * n] = 1.0, np.inf
    scale = max(b.thick_mm * b.wide_mm for b in boards)
    for k, board in enumerate(boards):
        upper[model.used[k]] = board.long_mm
        cost[model.used[k]] = board.thick_mm * board.wide_mm / scale
        for i, piece in enumerate(wanted):
            upper[model.on[i][k]] = 1.0 if takes(board, piece) else 0.0
    rows = model.rows
    matrix = csr_array((rows.values, (rows.at, rows.columns)), shape=(len(rows.low), model.count))
    found = milp(
        cost, integrality=whole, bounds=Bounds(lower, upper), constraints=LinearConstraint(matrix, rows.low, rows.high),
        options={"time_limit": seconds, "mip_rel_gap": 1e-9},
    )  # fmt: skip
    if found.x is None:
        return None
    placed = [
        Placed(
            piece,
            max(range(m), key=found.x[model.on[i]].__getitem__),
            float(found.x[model.x[i]]),
            float(found.x[model.y[i]]),
        )
        for i, piece in enumerate(wanted)
    ]
    return settled(placed, boards, kerf), bool(found.status == 0)
