"""The legs of a wire that come down to the belly's hangers, moved along the body with what hangs on them."""

from __future__ import annotations

import itertools
import math

import numpy as np

from yellowbob.design.base import replaced
from yellowbob.design.model import Design
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import first_hit
from yellowbob.study import Study, of

LEG_SHARE = 0.5
"""What of a wire comes nearer to the belly than this share of the belly's own depth below the axis is a leg."""
BESIDE_MM = 3.0
"""What hangs so near a leg, along the body, hangs on it."""


def bare_body(design: Design) -> Mesh:
    """The outside of a design's body with nothing in it or on it."""
    return of.outer(Study(design.but(ballast=(), wires=(), fittings=())))


def belly_mm(body: Mesh, x: float) -> float:
    """z where a bit from below enters a body in its centre plane, mm; not a number beside the body."""
    under = float(body.bounds[0, 2]) - 1.0
    reach = first_hit(body, np.array([x, 0.0, under]), np.array([0.0, 0.0, 1.0]))
    return math.nan if reach is None else under + reach


def with_legs_moved(design: Design, by_mm: float) -> Design:
    """The design with every leg, and the slope from and to it, so far aft; as it was where a leg has no room to go."""
    mesh = bare_body(design)

    def belly(x: float) -> float:
        return belly_mm(mesh, x)

    wires, moved = [], []
    for wire in design.wires:
        path = [list(p) for p in wire.path_mm]
        low = [z < LEG_SHARE * belly(x) < 0.0 for x, _, z in path]
        eyes = [n for n, (x, _, z) in enumerate(path) if 0 < n < len(path) - 1 and z < belly(x)]
        if not eyes:
            wires.append(wire)
            continue
        start, end = eyes[0], eyes[-1]
        while start > 1 and low[start - 1]:
            start -= 1
        while end < len(path) - 2 and low[end + 1]:
            end += 1
        inner = range(start, end + 1)
        first, last = inner[0] - 1, inner[-1] + 1
        going = range(max(first, 1), min(last, len(path) - 2) + 1)
        eye = path[eyes[0]][0]
        deeper = belly(eye + by_mm) - belly(eye)
        moved.append((path[inner[0]][0] - BESIDE_MM, path[inner[-1]][0] + BESIDE_MM, deeper))
        new = [
            [x + by_mm, y, z + deeper * (n in inner)] if n in going else [x, y, z] for n, (x, y, z) in enumerate(path)
        ]
        # bends of the wire's way that a slope has overtaken are left out; its ends stay
        low_x, high_x = new[going[0]][0], new[going[-1]][0]
        new = [p for n, p in enumerate(new)
               if n in going or n in (0, len(path) - 1) or p[0] < low_x < high_x or p[0] > high_x > low_x]  # fmt: skip
        if any(not b[0] >= a[0] - 1e-9 for a, b in itertools.pairwise(new)) or np.isnan(new).any():
            return design
        wires.append(replaced(wire, path_mm=tuple((p[0], p[1], p[2]) for p in new)))
    if not moved:
        return design
    fittings = []
    for one in design.fittings:
        x, y, z = one.at_mm
        on = next((deeper for a, b, deeper in moved if a <= x <= b and z < LEG_SHARE * belly(x)), None)
        fittings.append(one if on is None else replaced(one, at_mm=(x + by_mm, y, z + on)))
    return design.but(wires=tuple(wires), fittings=tuple(fittings))
