"""What an SVG drawing shows, in mm: every visible outline by name, through units, view boxes, groups, uses and nests."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput
from yellowbob.lines.svg_space import NUMBER, UNIT_MM, Node, Space, attribute, matrix

Array = NDArray[np.float64]

PER_CURVE = 64
"""Points along each curved segment."""
CORNER_DEG = 15.0
MOST_USES = 20_000
DEEPEST = 60
NEVER_SHOWN = {"defs", "symbol", "clippath", "mask", "pattern", "marker", "metadata", "title", "desc", "style", "script",
               "lineargradient", "radialgradient", "filter"}  # fmt: skip


@dataclass(frozen=True, eq=False)
class Outline:
    """One subpath as drawn: `points` (n, 2) mm, y up; `corners` (n,) whether it turns sharply there."""

    name: str
    points: Array
    corners: NDArray[np.bool_]
    closed: bool

    @property
    def size(self) -> Array:
        """Width and height, mm."""
        return np.asarray(np.ptp(self.points, axis=0))


@dataclass
class Shown:
    """All that a drawing shows: outlines in the order drawn, the page in mm, and what had to be guessed."""

    outlines: list[Outline] = field(default_factory=list)
    page_mm: tuple[float, float] | None = None
    notes: list[str] = field(default_factory=list)
    pictures: int = 0


def read_shown(path: Path) -> tuple[Shown, Node]:
    """Read a drawing. Raises BadInput where it is none, or cannot be understood."""
    try:
        root = ElementTree.parse(path).getroot()
    except FileNotFoundError:
        raise BadInput(f"{path}: no such file; check the name") from None
    except OSError as error:
        raise BadInput(f"{path}: cannot be read ({error.strerror})") from None
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise BadInput(f"{path.name}: cannot be read as an SVG drawing ({str(error)[:80]})") from None
    if _tag(root) != "svg":
        raise BadInput(f"{path.name}: is no SVG drawing: its first element is <{_tag(root)[:20]}>")
    walk = _Walk(path.name, root)
    with np.errstate(all="ignore"):
        try:
            walk.page()
        except RecursionError:
            raise BadInput(f"{path.name}: nested too deep to be a drawing") from None
    return walk.shown, root


def _tag(node: Node) -> str:
    return str(node.tag).rsplit("}", 1)[-1].lower() if isinstance(node.tag, str) else ""


class _Walk(Space):
    """Goes through the tree as a viewer would."""

    def __init__(self, name: str, root: Node) -> None:
        super().__init__(name)
        self.root, self.shown = root, Shown()
        self.by_id = {i: n for n in root.iter() if (i := n.get("id"))}
        self.hidden_classes = self._classes_hidden()
        self.uses = self.count = 0

    def _classes_hidden(self) -> set[str]:
        """Names of classes that a style sheet inside the file hides."""
        sheet = " ".join(n.text or "" for n in self.root.iter() if _tag(n) == "style")
        rules = re.findall(r"([^{}]+)\{([^{}]*)\}", re.sub(r"/\*.*?\*/", "", sheet, flags=re.S))
        return {c for selector, body in rules if _hides(body) for c in re.findall(r"\.([\w-]+)", selector)}

    # ---- the tree

    def page(self) -> None:
        wide = self.length(self.root.get("width", ""), None, "width")
        high = self.length(self.root.get("height", ""), None, "height")
        bare = [t.strip() for t in (self.root.get("width", ""), self.root.get("height", "")) if t.strip()]
        if wide is None and high is None:
            self.shown.notes.append("it states no size on paper: one unit is taken as a pixel, 1/96 inch")
        elif all(re.fullmatch(NUMBER, t) for t in bare):
            self.shown.notes.append("its size has no unit: taken as pixels, 1/96 inch each")
        at = self.fitted(self.root, wide, high)
        box = self.box(self.root)
        if wide is None and high is not None and box:
            wide = high * box[2] / box[3]
        if high is None and wide is not None and box:
            high = wide * box[3] / box[2]
        if box and wide is None:
            wide, high = box[2], box[3]
        if wide is not None and high is not None:
            self.shown.page_mm = (wide * UNIT_MM["px"], high * UNIT_MM["px"])
        flip = matrix(UNIT_MM["px"], 0, 0, -UNIT_MM["px"], 0, 0)
        size = (box[2], box[3]) if box else (wide, high)
        for child in self.root:
            self.visit(child, flip @ at, "", 0, size)

    def visit(self, node: Node, at: Array, name: str, deep: int, size: tuple[float | None, float | None]) -> None:
        tag = _tag(node)
        if not tag or tag in NEVER_SHOWN or self.hidden(node):
            return
        self.count += 1
        if deep > DEEPEST or self.count > MOST_USES:
            raise self.bad("its uses go round in circles, or it is too large to be a drawing of a body")
        at = at @ self.transform(node)
        own = node.get("id") or ""
        label = attribute(node, "label")
        name = next((n for n in (own, label) if n.strip().lower() in NAMED), "") or name or own or label
        if tag in ("g", "a", "switch"):
            for child in node:
                self.visit(child, at, name, deep + 1, size)
        elif tag == "svg":
            self.nested(node, at, name, deep, size)
        elif tag == "use":
            self.use(node, at, name, deep, size)
        elif tag == "image":
            self.shown.pictures += 1
        else:
            self.draw(node, tag, at, name or f"{tag} {len(self.shown.outlines) + 1}", size)

    def nested(self, node: Node, at: Array, name: str, deep: int, size: tuple[float | None, float | None]) -> None:
        x = self.length(node.get("x", "0"), size[0], "x") or 0.0
        y = self.length(node.get("y", "0"), size[1], "y") or 0.0
        wide = self.length(node.get("width", "100%"), size[0], "width")
        high = self.length(node.get("height", "100%"), size[1], "height")
        inner = at @ matrix(1, 0, 0, 1, x, y) @ self.fitted(node, wide, high)
        box = self.box(node)
        for child in node:
            self.visit(child, inner, name, deep + 1, (box[2], box[3]) if box else (wide, high))

    def use(self, node: Node, at: Array, name: str, deep: int, size: tuple[float | None, float | None]) -> None:
        asked = attribute(node, "href")
        meant = self.by_id.get(asked.lstrip("#"))
        if not asked.startswith("#") or meant is None:
            raise self.bad(f"it uses '{asked[:40]}', which is not in it")
        x = self.length(node.get("x", "0"), size[0], "x") or 0.0
        y = self.length(node.get("y", "0"), size[1], "y") or 0.0
        at = at @ matrix(1, 0, 0, 1, x, y)
        if _tag(meant) != "symbol":
            self.visit(meant, at, name, deep + 1, size)
            return
        if self.hidden(meant):
            return
        wide = self.length(node.get("width", "100%"), size[0], "width")
        high = self.length(node.get("height", "100%"), size[1], "height")
        at = at @ self.transform(meant) @ self.fitted(meant, wide, high)
        for child in meant:
            self.visit(child, at, name, deep + 1, size)

    def hidden(self, node: Node) -> bool:
        style = node.get("style") or ""
        own = ";".join(f"{k}:{node.get(k)}" for k in ("display", "visibility", "opacity") if node.get(k) is not None)
        return _hides(style) or _hides(own) or bool(set((node.get("class") or "").split()) & self.hidden_classes)

    # ---- shapes

    def draw(self, node: Node, tag: str, at: Array, name: str, size: tuple[float | None, float | None]) -> None:
        data = self.data(node, tag, size)
        if data is None:
            return
        from svgpathtools import parse_path

        try:
            path = parse_path(data)
            runs = path.continuous_subpaths() if len(path) else []
        except Exception as error:  # the reader of paths raises many kinds
            raise self.bad(f"the path '{name[:40]}' cannot be understood ({str(error)[:60]})") from None
        for run in runs:
            points, corners = _sampled(run)
            if len(points) < 2:
                continue
            placed = np.column_stack([points, np.ones(len(points))]) @ at.T
            if not np.isfinite(placed).all():
                raise self.bad(f"the path '{name[:40]}' runs to infinity")
            gap = float(np.linalg.norm(points[0] - points[-1]))
            closed = gap <= 1e-6 * float(np.ptp(points, axis=0).max() + 1e-30)
            if closed and len(points) > 2:
                points, corners, placed = points[:-1], corners[:-1], placed[:-1]
            self.shown.outlines.append(Outline(name, np.ascontiguousarray(placed[:, :2]), corners, closed))

    def data(self, node: Node, tag: str, size: tuple[float | None, float | None]) -> str | None:
        """Path data of a shape; None for what is no outline."""
        wide, high = size
        span = None if wide is None or high is None else math.sqrt((wide * wide + high * high) / 2)

        def at(name: str, of: float | None, otherwise: float = 0.0) -> float:
            found = self.length(node.get(name, ""), of, f"{name} of a {tag}")
            return otherwise if found is None else found

        if tag == "path":
            return node.get("d") or None
        if tag in ("polygon", "polyline"):
            numbers = re.findall(NUMBER, node.get("points") or "")
            pairs = [f"{x} {y}" for x, y in zip(numbers[::2], numbers[1::2], strict=False)]
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
            rx, ry = (at("r", span),) * 2 if tag == "circle" else (at("rx", wide), at("ry", high))
            if rx <= 0 or ry <= 0:
                return None
            return f"M {cx - rx} {cy} A {rx} {ry} 0 0 1 {cx + rx} {cy} A {rx} {ry} 0 0 1 {cx - rx} {cy} Z"
        return None


NAMED = {"side", "plan", "side-cut", "plan-cut"}
"""Names that an outline is known by, in any case."""


_HIDING = {"display": r"none", "visibility": r"hidden|collapse", "opacity": r"0*\.?0*%?"}


def _hides(style: str) -> bool:
    """Whether a list of `name: value;` hides what it is said of."""
    found = [part.partition(":") for part in style.lower().replace("!important", "").split(";")]
    return any(
        re.fullmatch(_HIDING.get(n.strip(), r"(?!)"), v.strip()) is not None and bool(v.strip()) for n, _, v in found
    )


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
