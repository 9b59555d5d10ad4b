"""What of the fit-out nothing holds: hardware off the body and its wires, weights cast outside it."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.hardware import Fitting, Wire
from yellowbob.design.model import Ballast, Slug
from yellowbob.fitout.in_wood import least_gap
from yellowbob.lines.distances import point_to_segment
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import inside
from yellowbob.lines.solids import common, to_manifold
from yellowbob.lines.tubes import bent_rod
from yellowbob.weights.ballast import cast_solid
from yellowbob.weights.wires import path_of

Array = NDArray[np.float64]

NEAR_MM = 6.0
"""What lies farther than this, and its own size, from all that could hold it is held by nothing: a rule."""
SEEN_MM, FAR_MM, POINT_MM = 8.0, 1000.0, 0.05
"""How far is looked first, and then: the farther, the longer it takes."""
EYE_MM = 2.0
"""Nothing swings in an eye that is so deep in the wood."""
MOSTLY = 0.75
"""What lies in the wood for so much of it is sunk in."""
AXLE_MM = 1.5
"""A prop turns on what lies no farther than this from its axis."""
NO_AXLE = ("hook", "ring", "prop", "jig")
"""Sorts that no prop turns on."""
BY_ITSELF = ("jig", "other")
"""Sorts that need not touch the piece."""


def unheld(
    fittings: Sequence[Fitting], wires: Sequence[Wire], parts: Sequence[tuple[str, Mesh]]
) -> list[tuple[float, str]]:
    """What nothing holds: each its distance from the nearest that could hold it, mm, less its own size, and its name.

    parts : the pieces by name, the body first. A piece is held within NEAR_MM of one that is (as joints leave); hardware
    so near to a piece, to a wire or to hardware that is held.
    """
    pieces, lines = [to_manifold(outer) for _, outer in parts], [path_of(wire) for wire in wires]
    apart = _pieces_apart(pieces)
    gaps = [(_gap(_place(f), pieces, lines) - _size(f), f) for f in fittings if f.sort not in BY_ITSELF]
    held, loose = [f for gap, f in gaps if gap <= NEAR_MM], [one for one in gaps if one[0] > NEAR_MM]
    while held and loose:
        found = [one for one in loose if any(_hangs(one[1], other) for other in held)]
        held = [f for _, f in found]
        loose = [one for one in loose if one not in found]
    return [*((gap, parts[k][0]) for k, gap in apart.items()), *((gap, f.name) for gap, f in loose)]


def off_axle(fittings: Sequence[Fitting], wires: Sequence[Wire]) -> list[tuple[float, str]]:
    """Props that turn about nothing though a wire passes within NEAR_MM: how far beside it, mm, and the prop's name.

    A screw or a bead on its axis, which is along x, is an axle as well."""
    lines = [path_of(wire) for wire in wires]
    axles = [_place(f) for f in fittings if f.sort not in NO_AXLE]
    found = []
    for prop in (f for f in fittings if f.sort == "prop"):
        beside = _along(_place(prop), lines)
        pinned = any(float(np.hypot(*(axle - _place(prop))[1:])) <= AXLE_MM for axle in axles)
        if AXLE_MM < beside <= NEAR_MM and not pinned:
            found.append((beside, prop.name))
    return found


def sunk_in(fittings: Sequence[Fitting], parts: Sequence[Mesh]) -> list[tuple[float, str]]:
    """Fixed hardware that is counted as pushing water aside though it lies in the wood: how much of its water, mL, lies there
    when it is a ball about its place, and its name; the outer surfaces of all pieces given."""
    pieces, found = [to_manifold(outer) for outer in parts], []
    for one in (f for f in fittings if not f.hanging and f.volume_ml > 0.0):
        radius = (3000.0 * one.volume_ml / (4.0 * np.pi)) ** (1.0 / 3.0)
        ball = manifold3d.Manifold.sphere(radius, 24).translate(_place(one).tolist())
        share = max((piece ^ ball).volume() for piece in pieces) / ball.volume()
        found += [(share * one.volume_ml, one.name)] if share >= MOSTLY else []
    return found


def hung_in_wood(fittings: Sequence[Fitting], parts: Sequence[Mesh]) -> list[str]:
    """What hangs from a place that lies in the wood all round for EYE_MM, where no eye can be: by name."""
    about, found = manifold3d.Manifold.sphere(EYE_MM, 16), []
    for one in (f for f in fittings if f.hanging and f.sort not in BY_ITSELF):
        about_it = [outer for outer in parts if inside(outer, _place(one))]  # most hang outside: told at once
        ball = about.translate(_place(one).tolist()) if about_it else about
        if any((to_manifold(outer) ^ ball).volume() >= (1.0 - 1e-6) * about.volume() for outer in about_it):
            found.append(one.name)
    return found


def _pieces_apart(pieces: Sequence[manifold3d.Manifold]) -> dict[int, float]:
    """Pieces that neither touch the body nor one that does, by number, with their distance from the nearest that do."""
    held, latest, apart = [pieces[0]], [pieces[0]], list(range(1, len(pieces)))
    while latest and apart:
        near = [k for k in apart if any(least_gap(pieces[k], one, SEEN_MM) <= NEAR_MM for one in latest)]
        latest = [pieces[k] for k in near]
        held, apart = [*held, *latest], [k for k in apart if k not in near]
    return {k: min(least_gap(pieces[k], one, FAR_MM) for one in held) for k in apart}


def _place(fitting: Fitting) -> Array:
    return np.asarray(fitting.at_mm, dtype=float)


def _hangs(one: Fitting, other: Fitting) -> bool:
    """Whether one is near enough to hang on the other; on a hook only another, or what carries it."""
    if other.sort == "hook" and one.sort not in ("hook", "ring", "swivel"):
        return False
    away = float(np.linalg.norm(_place(one) - _place(other)))
    return away <= NEAR_MM + _size(one) + (other.reach_mm if other.sort == "hook" else _size(other))


def _size(fitting: Fitting) -> float:
    """How far from its place it can be held, or hold, mm: a hook is held by its eye."""
    if fitting.sort == "hook":
        return 0.0
    own = (fitting.reach_mm, fitting.long_mm, fitting.play_mm)
    return max(*own, 0.0 if fitting.sort == "prop" else fitting.span_mm)


def _gap(place: Array, pieces: Sequence[manifold3d.Manifold], lines: Sequence[Array]) -> float:
    """From a place to the outside of the pieces (0 in them), or to a wire, whichever is nearer, mm."""
    along = _along(place, lines)
    if along <= NEAR_MM:
        return along
    point = manifold3d.Manifold.sphere(POINT_MM, 8).translate(place.tolist())
    gap = min(least_gap(piece, point, SEEN_MM) for piece in pieces)
    if gap >= SEEN_MM:
        gap = min(least_gap(piece, point, FAR_MM) for piece in pieces)
    return float(min(along, gap + POINT_MM if gap > 0.0 else 0.0))


def _along(place: Array, lines: Sequence[Array]) -> float:
    """From a place to the nearest wire, mm; FAR_MM where there is none."""
    steps = (pair for line in lines for pair in itertools.pairwise(line))
    return float(min((point_to_segment(place, a, b) for a, b in steps), default=FAR_MM))


def share_outside(cast: Ballast, outers: Sequence[Mesh]) -> float:
    """Of a weight that is cast in, by volume; of the pieces it lies best in the one that has most of it."""
    solid = cast_solid(cast)
    return 1.0 - max(common(solid, outer).volume_mm3 for outer in outers) / float(solid.volume())


def round_wires(ballast: Sequence[Ballast], wires: Sequence[Wire]) -> list[tuple[float, str, str]]:
    """Metal that is counted where a wire is: g, weight and wire. Of a slug that is cast in, whose mass is that of its sizes;
    shot is counted and weighed by itself."""
    found = []
    for one in ballast:
        if one.at_mm is None or not isinstance(one.weight, Slug):
            continue
        solid = cast_solid(one)
        for wire in wires:
            shared = solid ^ bent_rod(path_of(wire), wire.diameter_mm)
            if not shared.is_empty():
                found.append((float(shared.volume()) / 1000.0 * one.weight.density_g_ml, one.name, wire.name))
    return found
