"""Where things are on the screen: the body tilted as it floats, looked at level from port."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Design
from yellowbob.fitout.hooks import fixed_lines
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View

Array = NDArray[np.float64]


def level_axes(up: Array) -> tuple[Array, Array]:
    """(aft, starboard) unit vectors, level in the world, in body axes, for a world-up in body axes."""
    return _level_axes((float(up[0]), float(up[1]), float(up[2])))


@lru_cache(maxsize=8)
def _level_axes(world_up: tuple[float, float, float]) -> tuple[Array, Array]:
    """A frame asks for the same few axes several times."""
    up = np.array(world_up)
    aft = np.array([1.0, 0.0, 0.0]) - up * up[0]
    if np.linalg.norm(aft) < 1e-6:
        aft = np.array([0.0, 0.0, 1.0]) * np.sign(up[0]) - up * up[2]
    aft = aft / np.linalg.norm(aft)
    return aft, np.cross(up, aft)


@dataclass(frozen=True, eq=False)
class Extent:
    """How far a body reaches along the axes of a view, mm: left, right, down, up from the place."""

    left: float
    right: float
    down: float
    up: float


def extent(places: Array, right: Array, up: Array, place: Array) -> Extent:
    across, high = (places - place) @ right, (places - place) @ up
    return Extent(float(across.min()), float(across.max()), float(high.min()), float(high.max()))


def drawn_places(design: Design, up: Array) -> Array:
    """Places (n, 3) that the hardware's drawing reaches to, hooks hanging straight down."""
    places: list[Array] = [np.asarray(p) for wire in design.wires for p in wire.path_mm]
    aft, _ = level_axes(up)
    for fitting in design.fittings:
        at = np.asarray(fitting.at_mm)
        if fitting.sort == "hook" and not fitting.hanging:
            places += [point for line in fixed_lines(fitting) for point in line]
            continue
        half = fitting.span_mm / 2
        low = at - up * (fitting.reach_mm if fitting.hanging else half)
        places += [at, low - aft * half, low + aft * half]
        if fitting.sort in ("prop", "blade"):
            places.append(at + up * half)
    return np.array(places).reshape(-1, 3)


def side_camera(
    mesh: Mesh,
    design: Design,
    up: Array,
    height_mm: float,
    area: tuple[float, float, float, float],
    held: float | None = None,
    also: Array | None = None,
) -> View:
    """A level view from port that fits the body and its hardware into `area` (x, y, width, height) px.

    `held` is a scale to keep, px per mm, while something is dragged: the drawing must not breathe under the hand.
    `also` are places (n, 3) mm that are to be seen too.

    The water plane lies at a whole pixel row.
    """
    x, y, width, height = area
    aft, _ = level_axes(up)
    place = mesh.moments.centroid_mm
    place = place + up * (height_mm - place @ up)
    drawn = [mesh.vertices, drawn_places(design, up)] + ([also] if also is not None else [])
    reach = extent(np.vstack(drawn), aft, up, place)
    below, above = max(-reach.down, 0.0), max(reach.up, 2.0)
    scale = min(width / (reach.right - reach.left), height / (below + above))
    scale = scale if held is None else held
    row = y + (height - (below + above) * scale) / 2 + above * scale
    column = x + width / 2 - (reach.left + reach.right) / 2 * scale
    return View(aft, up, float(scale), place, (float(round(column)), float(round(row))))


def small_view(mesh: Mesh, right: Array, up: Array, area: tuple[float, float, float, float], scale: float) -> View:
    """A view at a scale no larger than given, the body's middle in the area's middle."""
    x, y, width, height = area
    place = mesh.bounds.mean(axis=0)
    reach = extent(mesh.vertices, right, up, place)
    scale = min(scale, width / (reach.right - reach.left), height / (reach.up - reach.down))
    return View(
        right, up, scale, place,
        (x + width / 2 - (reach.left + reach.right) / 2 * scale, y + height / 2 + (reach.up + reach.down) / 2 * scale),
    )  # fmt: skip
