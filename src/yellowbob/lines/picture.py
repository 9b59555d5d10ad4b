"""A shaded picture of a solid from any side, as pixels; and its visible edges, as lines."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from weakref import WeakKeyDictionary

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadShape
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.solids import thinned

Array = NDArray[np.float64]

SHARP_COS = 0.72
"""Edges between faces that meet at a sharper angle than this (44°) are drawn."""


@dataclass(frozen=True, eq=False)
class _Look:
    edges: NDArray[np.int32]
    """(k, 2) vertices of each edge"""
    beside: NDArray[np.int32]
    """(k, 2) the two faces that meet there"""
    flat: Array
    """(m, 3) unit face normals"""
    sharp: NDArray[np.bool_]
    """(k,) whether the faces at an edge meet sharply"""


MOST_DRAWN = 24_000
"""Triangles: a solid of more is drawn by a lighter one,"""
DRAWN_SHARE = 1.0 / 6000.0
"""whose surface lies off its own by no more than this share of its size: a sixth of a pixel across a window."""
_DRAWN: WeakKeyDictionary[Mesh, Mesh | None] = WeakKeyDictionary()
"""None: by itself."""


def drawn_by(mesh: Mesh) -> Mesh:
    """What a solid is drawn by: itself, or a lighter one. Some tenths of a second at first where it is large."""
    if len(mesh.faces) <= MOST_DRAWN:
        return mesh
    if mesh not in _DRAWN:
        try:
            light = thinned(mesh, DRAWN_SHARE * float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0])))
            _DRAWN[mesh], _DRAWN[light] = light, None
        except BadShape:  # an open one
            _DRAWN[mesh] = None
    return _DRAWN[mesh] or mesh


def make_ready(mesh: Mesh, to_shade: bool = True) -> None:
    """Make what drawing a solid needs, for it to be drawn at once later: on any thread."""
    _look(drawn_by(mesh))
    if to_shade:
        _corner_normals(drawn_by(mesh))


_LOOKS: WeakKeyDictionary[Mesh, _Look] = WeakKeyDictionary()


def _look(mesh: Mesh) -> _Look:
    known = _LOOKS.get(mesh)
    if known is not None:
        return known
    faces = np.ascontiguousarray(mesh.faces, dtype=np.int32)
    flat = mesh.area_vectors / np.maximum(mesh.areas[:, None], 1e-30)
    pairs = np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]])
    owner = np.tile(np.arange(len(faces), dtype=np.int32), 3)
    low, high = pairs.min(axis=1).astype(np.int64), pairs.max(axis=1).astype(np.int64)
    order = np.argsort(low * (len(mesh.vertices) + 1) + high, kind="stable")
    low, high, owner = low[order], high[order], owner[order]
    same = np.flatnonzero((low[1:] == low[:-1]) & (high[1:] == high[:-1]))
    edges = np.stack([low[same], high[same]], axis=1).astype(np.int32)
    beside = np.stack([owner[same], owner[same + 1]], axis=1)
    sharp = np.einsum("ij,ij->i", flat[beside[:, 0]], flat[beside[:, 1]]) < SHARP_COS
    found = _Look(edges, np.ascontiguousarray(beside), np.ascontiguousarray(flat), sharp)
    _LOOKS[mesh] = found
    return found


@dataclass(frozen=True, eq=False)
class View:
    """How a solid is looked at: unit vectors right, up and toward the eye in body axes, px per mm, and the place
    (body axes, mm) that lies at the picture's pixel `origin`."""

    right: Array
    up: Array
    scale: float
    place: Array
    origin: tuple[float, float]

    @cached_property
    def toward(self) -> Array:
        """(3,) unit vector from the drawing toward the eye, body axes."""
        (a, b, c), (d, e, f) = self.right, self.up
        return np.array([b * f - c * e, c * d - a * f, a * e - b * d])

    def pixels(self, places: Array) -> Array:
        """Pixel x (right) and y (down) of places (…, 3)."""
        off = np.asarray(places, dtype=float) - self.place
        found = np.empty((*off.shape[:-1], 2))
        found[..., 0] = self.origin[0] + self.scale * (off @ self.right)
        found[..., 1] = self.origin[1] - self.scale * (off @ self.up)
        return found


_CORNERS: WeakKeyDictionary[Mesh, Array] = WeakKeyDictionary()


def _corner_normals(mesh: Mesh) -> Array:
    """(m, 3, 3) normals to shade each face's corners with, smooth over gentle bends."""
    from yellowbob.lines import raster

    known = _CORNERS.get(mesh)
    if known is None:
        look, known = _look(mesh), np.empty((len(mesh.faces), 3, 3))
        faces = np.ascontiguousarray(mesh.faces, dtype=np.int32)
        raster.corner_normals(faces, look.flat, mesh.areas, len(mesh.vertices), known)
        _CORNERS[mesh] = known
    return known


def _lamp(view: View) -> Array:
    lamp = 0.35 * view.toward + 0.85 * view.up - 0.25 * view.right
    return np.asarray(lamp / np.linalg.norm(lamp))


def flat_faces(mesh: Mesh, view: View) -> tuple[Array, Array]:
    """Faces that look at us, farthest first: corner pixels (k, 3, 2) and brightness 0 to 1, (k,).

    What `shaded` does, without smoothness and without compiled code: for the first sight of a window.
    """
    mesh = drawn_by(mesh)
    look = _look(mesh)
    seen = np.flatnonzero(look.flat @ view.toward > 1e-9)
    order = seen[np.argsort((mesh.corners[seen] @ view.toward).mean(axis=1))]
    return view.pixels(mesh.corners[order]), np.clip(0.38 + 0.62 * (look.flat[order] @ _lamp(view)), 0.0, 1.0)


def shaded(
    mesh: Mesh, view: View, width: int, height: int, dark: tuple[int, int, int], bright: tuple[int, int, int]
) -> NDArray[np.uint8]:
    """Pixels (height, width, 4), RGBA, of the solid lit from above and ahead; clear where there is none."""
    from yellowbob.lines import raster

    mesh = drawn_by(mesh)
    pixels = np.zeros((height, width, 4), np.uint8)
    raster.paint(
        mesh.vertices, mesh.faces, _corner_normals(mesh), view.right, view.up, view.place, view.scale,
        np.array(view.origin, dtype=float), _lamp(view), np.array(dark, float), np.array(bright, float), pixels,
    )  # fmt: skip
    return pixels


def contour(mesh: Mesh, view: View, compiled: bool = True) -> Array:
    """(k, 2, 2) pixel line segments: the outline, where faces turn away, and sharp edges that look at us.

    The same lines with and without compiled code; without it brings no compiler in.
    """
    mesh = drawn_by(mesh)
    look = _look(mesh)
    if compiled:
        from yellowbob.lines import raster

        kept = raster.outline_edges(look.flat, look.beside, view.toward, SHARP_COS)
        return view.pixels(mesh.vertices[look.edges[kept]])
    facing = look.flat @ view.toward > 1e-9
    one, two = facing[look.beside[:, 0]], facing[look.beside[:, 1]]
    return view.pixels(mesh.vertices[look.edges[(one != two) | (look.sharp & one & two)]])
