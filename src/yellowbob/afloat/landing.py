"""The rest map: where every landing ends, its share of all landings, and how hard a knock turns a rest over."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import ConvexHull

from yellowbob.afloat.rest import Afloat, Rest, rest_near
from yellowbob.ground.progress import go_on
from yellowbob.lines.edges import mesh_edges

Array = NDArray[np.float64]
Ints = NDArray[np.int32]

SUBDIVISIONS = 4
"""An icosahedron divided so often has 2,562 corners, 4° apart."""
PARTS = 4
"""Into how many parts a side of a triangle is cut where rests share it."""
CAUGHT_RAD = 0.03
"""A path this close to a rest has reached it."""
SAME_ENERGY = 1e-6
"""Share of weight x size by which the energies of two mirrored attitudes may differ for the sides to count as alike."""


AT_ONCE = 128
"""Attitudes worked out without asking whether they are still wanted."""


@dataclass(frozen=True, eq=False)
class Grid:
    """Directions over the sphere (n, 3), triangles between them, the triangle across from each corner, solid angles."""

    directions: Array
    triangles: Ints
    across: Ints
    areas: Array
    order: Ints
    parent: Ints
    start: Ints
    edges: Ints

    @cached_property
    def spacing(self) -> float:
        """Mean angle between neighbouring directions, rad."""
        return float(np.sqrt(4.0 * np.pi / len(self.directions)))


def _ball(subdivisions: int) -> tuple[Array, Ints]:
    """Corners (n, 3) on the unit sphere and triangles (m, 3), outward, of an icosahedron divided so often."""
    golden = (1.0 + math.sqrt(5.0)) / 2.0
    flat = np.array([(a, b * golden) for a in (-1.0, 1.0) for b in (-1.0, 1.0)])
    corners = np.concatenate([np.roll(np.insert(flat, 0, 0.0, axis=1), k, axis=1) for k in range(3)])
    faces = ConvexHull(corners).simplices.astype(np.int64)
    inward = np.einsum("ij,ij->i", np.cross(corners[faces[:, 0]], corners[faces[:, 1]]), corners[faces[:, 2]]) < 0.0
    faces[inward] = faces[inward][:, ::-1]
    for _ in range(subdivisions):
        edges, of_face = mesh_edges(faces)
        (a, b, c), (d, e, f) = faces.T, (of_face + len(corners)).T
        corners = np.concatenate([corners, corners[edges].mean(axis=1)])
        corners /= np.linalg.norm(corners, axis=1, keepdims=True)
        faces = np.concatenate([np.stack(three, axis=1) for three in ((a, d, f), (d, b, e), (f, e, c), (d, e, f))])
    return corners / np.linalg.norm(corners, axis=1, keepdims=True), np.ascontiguousarray(faces, dtype=np.int32)


@lru_cache(maxsize=2)
def grid(subdivisions: int = SUBDIVISIONS) -> Grid:
    """The grid, worked out once."""
    directions, triangles = _ball(subdivisions)
    # turned a little, so that no corner lies on a symmetry plane of a body
    a, b = 0.137, 0.211
    turn = np.array([[np.cos(a), -np.sin(a), 0], [np.sin(a), np.cos(a), 0], [0, 0, 1.0]])
    tip = np.array([[1.0, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]])
    directions = np.ascontiguousarray(directions @ (turn @ tip).T)
    directions /= np.linalg.norm(directions, axis=1, keepdims=True)
    owner: dict[tuple[int, int], int] = {}
    for f, (i, j, k) in enumerate(triangles):
        for one, two in ((i, j), (j, k), (k, i)):
            owner[(int(one), int(two))] = f
    across = np.empty_like(triangles)
    for f, (i, j, k) in enumerate(triangles):
        across[f] = owner[(int(k), int(j))], owner[(int(i), int(k))], owner[(int(j), int(i))]
    p, q, r = (directions[triangles[:, n]] for n in range(3))
    # solid angle of a triangle (van Oosterom and Strackee 1983)
    top = np.einsum("ij,ij->i", p, np.cross(q, r))
    bottom = 1 + np.einsum("ij,ij->i", p, q) + np.einsum("ij,ij->i", q, r) + np.einsum("ij,ij->i", r, p)
    areas = np.abs(2.0 * np.arctan2(top, bottom))
    start = np.empty(len(directions), np.int32)
    start[triangles.ravel()] = np.repeat(np.arange(len(triangles), dtype=np.int32), 3)
    edges = np.ascontiguousarray(mesh_edges(triangles)[0], dtype=np.int32)
    beside: list[list[int]] = [[] for _ in directions]
    for i, j in edges.tolist():
        beside[i].append(j)
        beside[j].append(i)
    order, parent = [0], np.full(len(directions), -1, np.int32)
    seen = {0}
    for at in order:
        for other in beside[at]:
            if other not in seen:
                seen.add(other)
                parent[other] = at
                order.append(other)
    return Grid(directions, triangles, across, areas / areas.sum(), np.array(order, np.int32), parent, start, edges)


@dataclass(frozen=True, eq=False)
class RestMap:
    """Every landing attitude and where it ends.

    energies (n,) nJ and labels (n,), the number of the rest, at the grid's directions; shares (rests,) of all landings,
    even over the sphere; knocks (rests,) nJ to the lowest pass out, infinite for the only rest.
    """

    afloat: Afloat
    rests: tuple[Rest, ...]
    energies: Array
    labels: Ints
    shares: tuple[float, ...]
    knocks_nj: tuple[float, ...]
    immersions: int
    slopes: Array
    sinks: Array
    sink_of: Ints

    def path_from(self, up: tuple[float, float, float] | Array, most: int = 160) -> tuple[Array, int]:
        """The way down from an attitude: places (k, 3) on the sphere, and the number of the rest it ends in (-1 where
        the map cannot tell)."""
        from yellowbob.afloat.flow import follow

        g = grid()
        u = np.array(up, dtype=float) / np.linalg.norm(up)
        path, w = np.tile(u, (most, 1)), np.empty(3)
        near = int(np.argmax(g.directions @ u))
        end = follow(
            g.directions, g.triangles, g.across, self.slopes, self.labels, self.sinks, self.sink_of,
            float(np.cos(CAUGHT_RAD)), g.spacing, int(g.start[near]), u, w, path, 4,
        )  # fmt: skip
        return path, int(end)

    def ends_in(self, up: tuple[float, float, float] | Array) -> int:
        """(n,) number of the rest in which each direction ends."""
        return self.path_from(up)[1]


def _sinks(afloat: Afloat, rests: tuple[Rest, ...]) -> tuple[Array, Ints]:
    """Directions that are rests: one for each, and all of a ring of equal ones."""
    from yellowbob.afloat import search
    from yellowbob.afloat.balance import RESULTS
    from yellowbob.afloat.kernel import SUMS

    places, owners = [], []
    for number, rest in enumerate(rests):
        up = np.asarray(rest.up)
        places.append(up)
        owners.append(number)
        if rest.neutral:
            e, high = np.empty((2, 3)), np.empty(len(afloat.hull.vertices))
            path = np.empty((160, 3))
            steps, _ = search.walk_ring(
                *afloat.arrays, up, afloat.scale_nj, e, high, np.empty(SUMS), np.empty(RESULTS), path
            )
            places += list(path[:steps])
            owners += [number] * steps
    return np.array(places), np.array(owners, np.int32)


def rest_map(afloat: Afloat, rests: tuple[Rest, ...]) -> RestMap:
    """Map every landing of a floating build onto its rests. Empty shares for a sinker.

    Energies and slopes are exact at 2,562 attitudes; between them the slope is taken evenly, and steepest descent on it
    (midpoint rule) leads each attitude to its rest. Where it stalls, the exact descent decides.
    """
    from yellowbob.afloat.flow import fine_shares, paint, sweep

    g = grid()
    n = len(g.directions)
    energies, slopes = np.zeros(n), np.zeros((n, 3))
    if not rests:
        empty = np.zeros((0, 3))
        return RestMap(
            afloat, rests, energies, np.full(n, -1, np.int32), (), (), 0, slopes, empty, np.zeros(0, np.int32)
        )
    used, heights, lean = 0, np.empty(n), np.empty((n, 3))
    for first in range(0, n, AT_ONCE):
        go_on()
        part = g.order[first : first + AT_ONCE]
        used += sweep(*afloat.arrays, g.directions, part, g.parent, energies, slopes, heights, lean)
    if len(rests) == 1:
        sinks, sink_of = np.array([rests[0].up]), np.zeros(1, np.int32)
        labels = np.zeros(n, np.int32)
        return RestMap(afloat, rests, energies, labels, (1.0,), (float("inf"),), int(used), slopes, sinks, sink_of)
    sinks, sink_of = _sinks(afloat, rests)
    caught = float(np.cos(CAUGHT_RAD))
    labels = np.full(n, -1, np.int32)
    order = np.argsort(energies, kind="stable").astype(np.int32)
    paint(g.directions, g.triangles, g.across, slopes, labels, sinks, sink_of, caught, g.spacing, order, g.start)
    for stalled in np.flatnonzero(labels < 0):
        go_on()
        end = np.asarray(rest_near(afloat, tuple(g.directions[stalled])).up)
        labels[stalled] = sink_of[int(np.argmax(sinks @ end))]
    totals = np.zeros(len(rests) + 1)
    fine_shares(
        g.directions, g.triangles, g.across, slopes, labels, sinks, sink_of, caught, g.spacing, g.areas, PARTS, totals
    )
    shares = totals[:-1] / totals[:-1].sum()
    twins = _twins(afloat, rests)
    if twins is not None:
        shares = (shares + shares[twins]) / 2.0
    return RestMap(
        afloat, rests, energies, labels, tuple(float(s) for s in shares),
        _knocks(afloat, rests, g, energies, labels), int(used), slopes, sinks, sink_of,
    )  # fmt: skip


def _twins(afloat: Afloat, rests: tuple[Rest, ...]) -> Ints | None:
    """For a build whose two sides are alike in energy, the number of each rest's mirror image; None for any other."""
    from yellowbob.afloat.rest import floated_at

    ups = np.array([r.up for r in rests])
    twins = np.argmax((ups * [1.0, -1.0, 1.0]) @ ups.T, axis=1)
    for x, y, z in np.random.default_rng(7).normal(size=(8, 3)):
        one, other = floated_at(afloat, (x, y, z)), floated_at(afloat, (x, -y, z))
        if abs(one.energy_nj - other.energy_nj) > SAME_ENERGY * afloat.scale_nj:
            return None
    return twins.astype(np.int32) if (twins[twins] == np.arange(len(rests))).all() else None


def _knocks(afloat: Afloat, rests: tuple[Rest, ...], g: Grid, energies: Array, labels: Ints) -> tuple[float, ...]:
    """Energy of the lowest pass on the border of each rest's basin above the rest, nJ."""
    one, two = labels[g.edges[:, 0]], labels[g.edges[:, 1]]
    border = np.flatnonzero(one != two)
    top = np.maximum(energies[g.edges[border, 0]], energies[g.edges[border, 1]])
    knocks = []
    passes: dict[tuple[int, int], float] = {}
    for number, rest in enumerate(rests):
        mine = np.flatnonzero((one[border] == number) | (two[border] == number))
        best = float("inf")
        for at in mine[np.argsort(top[mine])][:6]:
            edge = g.edges[border[at]]
            key = (int(edge[0]), int(edge[1]))
            if key not in passes:
                go_on()
                middle = g.directions[edge[0]] + g.directions[edge[1]]
                passes[key] = pass_energy(afloat, middle / np.linalg.norm(middle), 3.0 * g.spacing)
            best = min(best, passes[key])
        knocks.append(max(0.0, best - rest.energy_nj))
    return tuple(knocks)


def pass_energy(afloat: Afloat, start: Array, reach: float) -> float:
    """Energy of the pass near an attitude, nJ: Newton on the slope, to where it vanishes; where that leads away, the
    energy at the start."""
    from yellowbob.afloat import balance
    from yellowbob.afloat.kernel import SUMS

    u, new = np.array(start), np.empty(3)
    e, high = np.empty((2, 3)), np.empty(len(afloat.hull.vertices))
    sums, out = np.empty(SUMS), np.empty(balance.RESULTS)
    balance.attitude(*afloat.arrays, u, 0.0, balance.LOOSE, e, high, sums, out)
    first = float(out[balance.ENERGY])
    for _ in range(25):
        h = np.array([[out[balance.H11], out[balance.H12]], [out[balance.H12], out[balance.H22]]])
        try:
            step = -np.linalg.solve(h, out[balance.G1 : balance.H11])
        except np.linalg.LinAlgError:
            return first
        size = float(np.linalg.norm(step))
        if size > 0.05:
            step *= 0.05 / size
        balance.turned(u, e, float(step[0]), float(step[1]), new)
        guess = balance.height_after(out, float(step[0]), float(step[1]))
        u[:] = new
        balance.attitude(*afloat.arrays, u, guess, balance.LOOSE, e, high, sums, out)
        if float(u @ start) < np.cos(reach):
            return first
        if size < 1e-7:
            break
    values = np.linalg.eigvalsh(np.array([[out[balance.H11], out[balance.H12]], [out[balance.H12], out[balance.H22]]]))
    return float(out[balance.ENERGY]) if values[0] < 0 < values[1] or values[1] < 0 else first
