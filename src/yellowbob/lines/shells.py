"""The closed shells of a triangle soup: told apart, turned outward, looked through for crossings, nested or joined."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadMesh
from yellowbob.lines.edges import mesh_edges, packed
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.nearest import line_crossings
from yellowbob.lines.solids import from_manifold, to_manifold, unite

Array = NDArray[np.float64]
Faces = NDArray[np.integer[Any]]
Inside = Literal["air", "water", "filled"]

MOST_TOUCHING = 40_000
SAME_ANGLE = 1e-6
LINES = 96
"""Lines to each side that a shell is looked through by, along two axes."""
CROSSED_SHARE = 2e-4
"""A shell crosses itself where so much of the lines' way inside lies inside twice, or inside out."""
TOUCH_SHARE = 1e-6
"""Shells overlap where they share more of the smaller one's volume."""
FLAT_SHARE = 1e-9
"""A shell that encloses less of the cube about it is a flat sheet."""


@dataclass(frozen=True, eq=False)
class Solid:
    """A solid read from outside: its outer surface, the closed space inside it (None: none), what had to be mended."""

    outer: Mesh
    cavity: Mesh | None = None
    notes: tuple[str, ...] = ()


def without_doubles(faces: Faces) -> tuple[Faces, int]:
    """Faces each once, and how many were taken out: those drawn twice, and pairs back to back, which enclose nothing."""
    turned = np.argmin(faces, axis=1)
    ring = np.take_along_axis(faces, (turned[:, None] + np.arange(3)) % 3, axis=1)
    ring = ring[np.unique(packed(ring), return_index=True)[1]]
    _, which, count = np.unique(packed(np.sort(ring, axis=1)), return_inverse=True, return_counts=True)
    kept = ring[(count != 2)[which]]
    if not len(kept):  # the whole surface is drawn both ways round: one of them
        kept = ring[np.unique(which, return_index=True)[1]]
    return kept, len(faces) - len(kept)


def _paired_around(
    vertices: Array, faces: Faces, which: NDArray[np.int64], count: NDArray[np.int64]
) -> NDArray[np.int64]:
    """(k, 2) faces that bound the same solid at edges where more than two meet: solids that touch along an edge.

    Round such an edge a face that runs back along it has its solid ahead, as far as the next face that runs along it.
    """
    many = np.flatnonzero(count[which] > 2)
    if not len(many) or len(many) > MOST_TOUCHING:
        return np.empty((0, 2), np.int64)
    found: list[tuple[int, int]] = []
    sides: dict[int, list[int]] = {}
    for side in many.tolist():
        sides.setdefault(int(which[side]), []).append(side)
    for group in sides.values():
        rows, corners = np.divmod(np.array(group), 3)
        start, end, tip = (faces[rows, (corners + k) % 3] for k in range(3))
        a, b = min(int(start[0]), int(end[0])), max(int(start[0]), int(end[0]))
        edge = vertices[b] - vertices[a]
        edge = edge / np.linalg.norm(edge)
        out = vertices[tip] - vertices[a]
        out -= np.outer(out @ edge, edge)
        across = np.cross(edge, out[0])
        angle = np.arctan2(out @ across / np.linalg.norm(across), out @ out[0] / np.linalg.norm(out[0]))
        # faces that lie on one another: the solid behind ends before the one ahead begins
        order = np.lexsort((start != a, np.round(np.mod(angle + SAME_ANGLE, 2.0 * np.pi) / SAME_ANGLE / 4.0)))
        along = (start == a)[order]
        for k, one in enumerate(order):
            after = (k + 1) % len(order)
            if not along[k] and along[after]:
                found.append((int(rows[one]), int(rows[order[after]])))
    return np.array(found, dtype=np.int64).reshape(-1, 2)


def shells_of(vertices: Array, faces: Faces, name: str) -> list[tuple[Mesh, bool]]:
    """The closed shells, largest first, each outward, and whether it lay inward in the file. Raises BadMesh."""
    import trimesh

    _, of_face = mesh_edges(faces)
    which = of_face.ravel()
    count = np.bincount(which)
    order = np.argsort(which, kind="stable")
    owner = order // 3
    paired = np.flatnonzero((count == 2)[which[order]])
    pairs = np.vstack([owner[paired].reshape(-1, 2), _paired_around(vertices, faces, which, count)])
    labels = trimesh.graph.connected_component_labels(pairs, node_count=len(faces))
    found = []
    for label in range(int(labels.max()) + 1):
        own = faces[labels == label]
        shell = trimesh.Trimesh(vertices, own, process=False)
        shell.remove_unreferenced_vertices()
        if not shell.is_watertight:  # every edge has two faces of this shell
            side = int(np.flatnonzero((count != 2)[which])[0])
            row, corner = divmod(side, 3)
            at = vertices[[faces[row, corner], faces[row, (corner + 1) % 3]]].mean(axis=0)
            raise BadMesh(
                f"{name}: more than two faces meet along an edge at x {at[0]:.2f}, y {at[1]:.2f}, z {at[2]:.2f} mm and "
                "cannot be told apart; separate or join the solids there in CAD and export it again"
            )
        if not shell.is_winding_consistent:
            trimesh.repair.fix_winding(shell)
        mesh = Mesh(np.array(shell.vertices, dtype=float), np.array(shell.faces, dtype=np.int32))
        size = float(np.prod(np.maximum(mesh.bounds[1] - mesh.bounds[0], 1e-9)))
        inward = mesh.volume_mm3 < 0.0
        if abs(mesh.volume_mm3) > FLAT_SHARE * size and abs(mesh.volume_mm3) > 1e-9:
            found.append((Mesh(mesh.vertices, np.ascontiguousarray(mesh.faces[:, ::-1])) if inward else mesh, inward))
    return sorted(found, key=lambda pair: -pair[0].volume_mm3)


def crossed(mesh: Mesh) -> tuple[float, Array]:
    """Share of the way through an outward closed shell that lies inside twice or inside out, and where most of it is.

    By straight lines along x and along z: going in and out must take turns.
    """
    wrong, inside, most, where = 0.0, 0.0, 0.0, mesh.bounds.mean(axis=0)
    for axes in ((0, 1, 2), (2, 0, 1)):
        corners = np.ascontiguousarray(mesh.corners[..., axes])
        low, high = mesh.bounds[:, axes]
        step = (high - low)[1:] / LINES
        start = low[1:] + step * np.array([0.4137, 0.5811])
        line, at, sign = line_crossings(corners, start, step, (LINES, LINES))
        order = np.lexsort((at, line))
        line, at, sign = line[order], at[order], sign[order]
        first = np.flatnonzero(np.diff(line, prepend=-1))
        run = np.cumsum(sign)
        before = np.concatenate([[0], run])[first]
        many = np.diff(first, append=len(line))
        depth = run - np.repeat(before, many)
        # a line through an edge counts it twice or not at all: what does not come out again tells nothing
        sound = np.repeat(depth[first + many - 1] == 0, many)
        length = np.where(sound & (np.diff(line, append=-1) == 0), np.diff(at, append=0.0), 0.0)
        inside += float(length[depth != 0].sum())
        bad = np.where((depth != 0) & (depth != 1), length, 0.0)
        wrong += float(bad.sum())
        if len(bad) and bad.max() > most:
            most, k = float(bad.max()), int(np.argmax(bad))
            place = np.array(
                [at[k] + length[k] / 2, start[0] + line[k] // LINES * step[0], start[1] + line[k] % LINES * step[1]]
            )
            where = place[np.argsort(axes)]
    return wrong / max(inside, 1e-12), where


def solid_of(vertices: Array, faces: Faces, name: str, inside: Inside | None) -> Solid:
    """One solid out of a soup of triangles (n, 3) over vertices (m, 3) mm.

    Shells that overlap or stand apart are joined, each place counted once. A shell inside another is a closed space:
    `inside` says what is in it, air that stays dry, water, or the solid's own material. Raises BadMesh where a shell crosses
    itself, and where there is a closed space and nothing was said of it.
    """
    notes = []
    faces, doubled = without_doubles(faces)
    if doubled:
        notes.append(f"{doubled} doubled faces taken once")
    shells = shells_of(vertices, faces, name)
    if not shells:
        raise BadMesh(f"{name}: encloses no volume; is it a flat sheet?")
    for shell, _ in shells:
        share, at = crossed(shell)
        if share > CROSSED_SHARE:
            raise BadMesh(
                f"{name}: a surface crosses itself at about x {at[0]:.2f}, y {at[1]:.2f}, z {at[2]:.2f} mm, so that what is "
                "inside cannot be told; mend it in CAD and export it again"
            )
    outers: list[manifold3d.Manifold] = []
    inner: list[manifold3d.Manifold] = []
    overlapping = turned = 0
    for shell, inward in shells:
        solid = to_manifold(shell, name)
        shared = [(solid ^ other).volume() / solid.volume() for other in outers]
        if any(s > 1.0 - TOUCH_SHARE for s in shared):
            inner.append(solid)
            continue
        overlapping += any(s > TOUCH_SHARE for s in shared)
        turned += inward and bool(outers)
        outers.append(solid)
    if overlapping:
        notes.append(f"{overlapping + 1} overlapping shells joined, what they share counted once")
    if turned:
        notes.append(f"{turned} shells that lay inside out were turned")
    outer = unite([from_manifold(solid) for solid in outers])
    apart = len(to_manifold(outer).decompose()) if len(outers) > 1 else 1
    if apart > 1:
        notes.append(f"{apart} solids that stand apart")
    elif len(outers) > 1 and not overlapping:
        notes.append(f"{len(outers)} solids that lie against each other joined")
    cavity = _cavity(inner)
    if cavity is None or inside == "filled":
        return Solid(outer, None, tuple(notes))
    if inside is None:
        raise BadMesh(
            f"{name}: there is a closed space of {cavity.volume_mm3 / 1000:.2f} mL inside the solid; say what is in it: "
            "air (sealed, it keeps the water out), water (it floods), or filled (with the solid's own material): "
            "--inside air, --inside water or --inside filled"
        )
    return Solid(outer, cavity, (*notes, f"a closed space of {cavity.volume_mm3 / 1000:.2f} mL holds {inside}"))


def _cavity(inner: list[manifold3d.Manifold]) -> Mesh | None:
    """The space of all inner shells; what lies inside one of them again is solid."""
    space: manifold3d.Manifold | None = None
    for solid in inner:  # from the largest to the smallest
        if space is None:
            space = solid
        elif (space ^ solid).volume() > (1.0 - TOUCH_SHARE) * solid.volume():
            space = space - solid
        else:
            space = space + solid
    return None if space is None else from_manifold(space)
