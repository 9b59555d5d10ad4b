"""A mould for a cast body: box, rubber and resin by mass, where to pour and vent, what hangs in it; and its halves as
solids."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.fitout.mix import mixed_density, percent_for, pot_life_min
from yellowbob.ground.errors import BadInput, BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import inside
from yellowbob.lines.solids import from_manifold, rod, to_manifold
from yellowbob.shelf.items import Resin
from yellowbob.shelf.shipped import powders, resins
from yellowbob.study import Study, of

Array = NDArray[np.float64]
T = TypeVar("T")

WALL_MM = 10.0
"""Rubber left round the body on every side. Rule."""
RUBBER_G_ML = 1.15
"""Typical of tin and platinum silicones; weigh yours."""
SPILT = 0.10
"""Share of resin that stays in cups, gate and vents. Rule."""
GATE_MM, VENT_MM = 6.0, 2.0
KEY_MM, KEY_PLAY_MM = 8.0, 0.2
POSES: dict[str, tuple[float, float, float]] = {
    "tail up": (1.0, 0.0, 0.0),
    "nose up": (-1.0, 0.0, 0.0),
    "belly up": (0.0, 0.0, -1.0),
    "back up": (0.0, 0.0, 1.0),
}
"""How it may stand while it is poured, with up in body axes."""
TRAP_MM = 0.3
"""A place that stands higher than all about it by more holds air."""


@dataclass(frozen=True)
class Batch:
    """Resin for so many casts, g: part A, part B, powder, all with what is spilt."""

    casts: int
    a_g: float
    b_g: float
    powder_g: float


@dataclass(frozen=True)
class Mould:
    """Box inside (long, wide, high) mm as the body lies; pour and vents: places on the body, mm; volumes mL, masses g.

    percent: powder to resin, per cent of A + B; says: what could not be met or is guessed.
    """

    box_mm: tuple[float, float, float]
    pose: str
    pour_mm: tuple[float, float, float]
    vents_mm: tuple[tuple[float, float, float], ...]
    cast_ml: float
    rubber_ml: float
    rubber_g: float
    resin: str
    powder: str
    percent: float
    mixed_g_ml: float
    batches: tuple[Batch, ...]
    harness: tuple[str, ...]
    says: tuple[str, ...]


def mould_of(study: Study, copies: int = 1, pose: str = "", resin: str = "", powder: str = "") -> Mould:
    """The mould of a body and what goes in it. Without a pose, the end with the fewest places that hold air stands up.

    Raises BadInput for a pose, resin or powder that is not known, or copies out of range.
    """
    if not 1 <= copies <= 100:
        raise BadInput(f"{copies} copies: give 1 to 100")
    if pose and pose not in POSES:
        raise BadInput(f"'{pose}': say one of {', '.join(POSES)}")
    body, design = of.outer(study), study.design
    tops = {name: high_places(body, np.array(up)) for name, up in POSES.items()}
    chosen = pose or min(POSES, key=lambda name: len(tops[name]))
    places = tops[chosen]
    box = np.ptp(body.bounds, axis=0) + 2.0 * WALL_MM
    put_in = sum(p.weight.mass_g / p.ballast.weight.density_g_ml for p in of.holes(study).ballast if p.hole is None)
    cast = body.volume_mm3 / 1000.0 - put_in
    rubber = float(np.prod(box)) / 1000.0 - body.volume_mm3 / 1000.0
    says: list[str] = []
    of_resin, of_powder = _named(resins(), resin, design.body.material.name), _named(powders(), powder, "")
    wanted = design.body.density_g_ml
    try:
        percent = percent_for(of_resin.density_g_ml, of_powder.density_g_ml, wanted)
    except BadInput as error:
        percent = 0.0
        says.append(str(error))
    if design.body.material.group != "resin":
        says.append(f"drawn in {design.body.material.name}: this is for a cast of the same density")
    mixed = mixed_density(of_resin.density_g_ml, of_powder.density_g_ml, percent)
    batches = tuple(
        _batch(n, cast, mixed, percent, of_resin) for n in sorted({1, *range(2, min(copies, 5) + 1), copies})
    )
    harness = tuple(
        f"{p.ballast.name}: {p.weight.mass_g:.2f} g, its middle {p.weight.centre_mm[0]:.1f} mm from the nose, "
        f"{p.weight.centre_mm[2]:+z.1f} from the axis".replace("-", "−")
        for p in of.holes(study).ballast if p.hole is None
    )  # fmt: skip
    long, wide, high = (float(v) for v in box)
    return Mould(
        (long, wide, high), chosen, places[0], places[1:], cast, rubber, rubber * RUBBER_G_ML, of_resin.name, of_powder.name,
        percent, mixed, batches, harness, tuple(says),
    )  # fmt: skip


def _named(shelf: dict[str, T], name: str, like: str) -> T:
    """The entry by its name, else the one of that other name, else the first. Raises BadInput for a name not there."""
    if name:
        if name not in shelf:
            raise BadInput(f"'{name}' is not on the shelf; there are {', '.join(shelf)}")
        return shelf[name]
    return shelf.get(like) or next(iter(shelf.values()))


def _batch(casts: int, cast_ml: float, mixed_g_ml: float, percent: float, resin: Resin) -> Batch:
    whole = casts * cast_ml * mixed_g_ml * (1.0 + SPILT)
    liquid = whole / (1.0 + percent / 100.0)
    a = liquid * resin.parts_a / (resin.parts_a + resin.parts_b)
    return Batch(casts, a, liquid - a, whole - liquid)


def high_places(body: Mesh, up: Array) -> tuple[tuple[float, float, float], ...]:
    """Places of a surface that stand higher than all about them, the highest first: pour there, and vent the others.

    A place counts where one must go down more than TRAP_MM to come to a higher one (its prominence), found by joining the
    surface's corners from the top down (watershed by union-find).
    """
    height = body.vertices @ up
    order = np.argsort(-height, kind="stable")
    rank = np.empty(len(order), dtype=int)
    rank[order] = np.arange(len(order))
    edges = np.unique(np.sort(body.faces[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2), axis=1), axis=0)
    beside: list[list[int]] = [[] for _ in range(len(height))]
    for a, b in edges:
        beside[a].append(int(b))
        beside[b].append(int(a))
    root = np.arange(len(height))
    top = np.arange(len(height))

    def find(k: int) -> int:
        while root[k] != k:
            root[k] = root[root[k]]
            k = int(root[k])
        return k

    peaks: list[int] = []
    for k in order:
        for other in beside[k]:
            if rank[other] >= rank[k]:
                continue
            one, two = find(int(k)), find(other)
            if one == two:
                continue
            low, high = sorted((one, two), key=lambda r: height[top[r]])
            if height[top[low]] - height[k] > TRAP_MM:
                peaks.append(int(top[low]))
            root[low] = high
    peaks.append(int(top[find(int(order[0]))]))
    found = sorted(set(peaks), key=lambda k: -height[k])
    return tuple(_middle(body, up, height, k) for k in found)


def _middle(body: Mesh, up: Array, height: Array, at: int) -> tuple[float, float, float]:
    """Of a flat or round top: the middle of what stands as high as it near it."""
    level = body.vertices[height > height[at] - 0.05]
    middle = level.mean(axis=0)
    # a rim round a hollow has no middle to pour at
    x, y, z = middle if inside(body, middle - 0.5 * up) else body.vertices[at]
    return float(x), float(y), float(z)


def halves(study: Study, pose: str = "") -> tuple[Mesh, Mesh]:
    """Port and starboard half of the mould, parted in the centre plane, with gate, vents and keys; solids, mm.

    Raises BadShape where a half comes out in pieces: the body is wider away from its centre plane than at it.
    """
    mould, body = mould_of(study, 1, pose), of.outer(study)
    low, high = body.bounds[0] - WALL_MM, body.bounds[1] + WALL_MM
    up = np.array(POSES[mould.pose])
    core = to_manifold(body)
    for place, wide in ((mould.pour_mm, GATE_MM), *((v, VENT_MM) for v in mould.vents_mm)):
        at = np.array(place) * [1.0, 0.0, 1.0]
        core += _stick(at - up * wide, at + up * (3.0 * WALL_MM), wide)
    keys = [(low[0] + 5.0, low[2] + 5.0), (high[0] - 5.0, low[2] + 5.0), (low[0] + 5.0, high[2] - 5.0)]
    found = []
    for side in (1.0, -1.0):
        y0, y1 = (0.0, high[1]) if side > 0 else (low[1], 0.0)
        block = manifold3d.Manifold.cube((high[0] - low[0], y1 - y0, high[2] - low[2])).translate((low[0], y0, low[2]))
        half = block - core
        for x, z in keys:
            play = KEY_PLAY_MM if side < 0 else 0.0
            ball = manifold3d.Manifold.sphere(KEY_MM / 2.0 + play, 32).translate((x, 0.0, z))
            half = (half + (ball ^ _slab(low, high, -1.0))) if side > 0 else half - ball
        pieces = [p for p in half.decompose() if p.volume() > 1.0]
        if len(pieces) != 1:
            raise BadShape("a half of the mould comes out in pieces: the body cannot be parted in its centre plane")
        found.append(from_manifold(half))
    return found[0], found[1]


def _slab(low: Array, high: Array, side: float) -> manifold3d.Manifold:
    """All on one side of the centre plane."""
    size = (high[0] - low[0], 50.0, high[2] - low[2])
    return manifold3d.Manifold.cube(size).translate((low[0], -50.0 if side < 0 else 0.0, low[2]))


def _stick(start: Array, end: Array, wide: float) -> manifold3d.Manifold:
    return rod(start, end, wide)


def pour_minutes(resin: Resin, here_c: float) -> float:
    """How long the mix can be poured at a temperature, min; a rule."""
    return pot_life_min(resin.pot_life_min, resin.at_c, here_c)
