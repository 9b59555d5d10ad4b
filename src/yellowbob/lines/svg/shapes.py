"""Paths, polygons, rectangles, circles and ellipses of SVG drawings as points, in the units that they are drawn in."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.lines.svg.space import NUMBER, Space
from yellowbob.lines.svg.style import Node, Style

Array = NDArray[np.float64]
Size = tuple[float | None, float | None]

PER_CURVE = 64
"""Points along each curved segment."""
CORNER_DEG = 15.0
SEPARATORS = " ,\t\r\n\f"


def runs_of(space: Space, name: str, data: str) -> Iterator[tuple[Array, NDArray[np.bool_]]]:
    """Points (n, 2) and corners (n,) of each subpath of path data. Raises BadInput where not all of it is understood."""
    from svgpathtools import parse_path

    strange = re.sub(rf"{NUMBER}|[MmZzLlHhVvCcSsQqTtAa]", "", data).strip(SEPARATORS).split(maxsplit=1)
    if strange or data.strip(SEPARATORS)[:1] not in ("M", "m"):
        what = f"'{strange[0][:20]}' is no part of a path" if strange else "it does not begin with a place"
        raise space.bad(f"the path '{name[:40]}' cannot be understood ({what})")
    try:
        path = parse_path(data)
        runs = [_sampled(run) for run in path.continuous_subpaths()] if len(path) else []
    except Exception as error:  # the reader of paths raises many kinds
        raise space.bad(f"the path '{name[:40]}' cannot be understood ({str(error)[:60]})") from None
    yield from (run for run in runs if len(run[0]) >= 2)


def data_of(space: Space, node: Node, tag: str, style: Style, size: Size) -> str | None:
    """Path data of a shape of a style, its shares of a size in px; None for what is no outline. Raises BadInput."""
    wide, high = size
    span = None if wide is None or high is None else math.sqrt((wide * wide + high * high) / 2)

    def at(name: str, of: float | None, otherwise: float = 0.0) -> float:
        found = space.length(style.get(name) or node.get(name) or "", of, f"{name} of a {tag}")
        return otherwise if found is None else found

    if tag == "path":
        return node.get("d") or None
    if tag in ("polygon", "polyline"):
        points = node.get("points") or ""
        numbers = re.findall(NUMBER, points)
        if len(numbers) % 2 or re.sub(NUMBER, "", points).strip(SEPARATORS):
            raise space.bad(f"the points '{points[:30]}' of a {tag} cannot be understood")
        pairs = [f"{x} {y}" for x, y in zip(numbers[::2], numbers[1::2], strict=True)]
        return f"M {' L '.join(pairs)}{' Z' if tag == 'polygon' else ''}" if len(pairs) > 1 else None
    if tag == "line":
        return f"M {at('x1', wide)} {at('y1', high)} L {at('x2', wide)} {at('y2', high)}"
    if tag == "rect":
        x, y, w, h = at("x", wide), at("y", high), at("width", wide), at("height", high)
        rx, ry = at("rx", wide, -1.0), at("ry", high, -1.0)
        rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
        rx, ry = min(max(rx, 0.0), w / 2), min(max(ry, 0.0), h / 2)
        if w <= 0 or h <= 0:
            return None
        if rx == 0 or ry == 0:
            return f"M {x} {y} H {x + w} V {y + h} H {x} Z"
        arc = f"A {rx} {ry} 0 0 1"
        right, foot = x + w, y + h
        sides = [(right - rx, y, right, y + ry), (right, foot - ry, right - rx, foot), (x + rx, foot, x, foot - ry)]
        runs = " ".join(f"L {a} {b} {arc} {c} {d}" for a, b, c, d in [*sides, (x, y + ry, x + rx, y)])
        return f"M {x + rx} {y} {runs} Z"
    if tag in ("circle", "ellipse"):
        cx, cy = at("cx", wide), at("cy", high)
        rx, ry = (at("r", span),) * 2 if tag == "circle" else (at("rx", wide, -1.0), at("ry", high, -1.0))
        rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
        if rx <= 0 or ry <= 0:
            return None
        return f"M {cx - rx} {cy} A {rx} {ry} 0 0 1 {cx + rx} {cy} A {rx} {ry} 0 0 1 {cx - rx} {cy} Z"
    return None


def _sampled(run: Any) -> tuple[Array, NDArray[np.bool_]]:
    """Points (n, 2) along a subpath, ends of straight segments exact, and whether the path turns sharply at each."""
    points: list[complex] = []
    nodes: list[int] = []
    for segment in run:
        straight = type(segment).__name__ == "Line"
        steps = [0.0] if straight else np.arange(PER_CURVE) / PER_CURVE
        if abs(segment.start - segment.end) < 1e-12 and straight:
            continue
        nodes.append(len(points))
        points += [complex(segment.point(t)) for t in steps]
    if not points:
        return np.empty((0, 2)), np.empty(0, dtype=bool)
    points.append(complex(run[-1].end))
    along = np.array([[p.real, p.imag] for p in points])
    keep = np.concatenate(
        [[True], np.any(np.abs(np.diff(along, axis=0)) > 1e-12 * (np.abs(along).max() + 1e-30), axis=1)]
    )
    corners = np.zeros(len(along), dtype=bool)
    corners[[0, -1]] = True
    step = np.diff(np.vstack([along[-2:-1] if np.allclose(along[0], along[-1]) else along[:1], along]), axis=0)
    ahead = np.vstack([step[1:], step[1:2]])
    before, after = np.arctan2(step[:, 1], step[:, 0]), np.arctan2(ahead[:, 1], ahead[:, 0])
    turn = np.degrees(np.abs(np.angle(np.exp(1j * (after - before)))))
    corners[nodes] = turn[nodes] > CORNER_DEG
    return along[keep], corners[keep]
