"""What an SVG drawing shows, in mm: every visible outline by name, through units, view boxes, groups, uses and nests."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Told, tell, unheard
from yellowbob.lines.svg.file import tree_of
from yellowbob.lines.svg.outlines import Clip, Outline, Shown
from yellowbob.lines.svg.shapes import Size, data_of, runs_of
from yellowbob.lines.svg.space import NUMBER, UNIT_MM, Space, attribute, matrix
from yellowbob.lines.svg.style import (
    Node,
    Style,
    Styles,
    changes,
    gone,
    handed_down,
    moved_by,
    painted,
    stroked,
    visible,
)

Array = NDArray[np.float64]

MOST_USES, TOLD_EACH = 20_000, 100
DEEPEST = 60
NEVER_SHOWN = {"defs", "symbol", "clippath", "mask", "pattern", "marker", "metadata", "title", "desc", "style", "script",
               "lineargradient", "radialgradient", "filter"}  # fmt: skip


HANDLER = re.compile(r"on[a-z]+")
"""Attributes that are scripts: of what is done when it is opened, or clicked."""
CLIPPING = ("clip-path", "mask", "mask-image", "mask-border", "mask-border-source", "-webkit-clip-path", "-webkit-mask",
            "-webkit-mask-image", "-webkit-mask-box-image")  # fmt: skip
"""Styles that show a part only of what they are of."""


def read_shown(path: Path, told: Told = unheard) -> tuple[Shown, Node]:
    """Read a drawing, telling how far it is. Raises BadInput where it is none, or cannot be understood."""
    root, styled = tree_of(path)
    if _tag(root) != "svg":
        raise BadInput(f"{path.name}: is no SVG drawing: its first element is <{_tag(root)[:20]}>")
    with np.errstate(all="ignore"):
        try:
            walk = _Walk(path.name, root, told)
            walk.styles.outside |= styled
            walk.page()
        except RecursionError:
            raise BadInput(f"{path.name}: it, or a style in it, is nested too deep to be a drawing") from None
    return walk.shown, root


def _tag(node: Node) -> str:
    """Its tag without its namespace, lower case; empty for what is not of SVG."""
    space, _, tag = str(node.tag).rpartition("}") if isinstance(node.tag, str) else ("", "", "")
    return tag.lower() if space in ("", "{http://www.w3.org/2000/svg") else ""


@dataclass(frozen=True, eq=False)
class _Here:
    """Where the walk has got to: the matrix to mm, the box that shares are of (px), where the outlines go, the name, how deep
    it is, what is inherited, and the clips about it."""

    at: Array
    size: Size
    into: list[Outline]
    name: str = ""
    deep: int = 0
    inherited: Style = field(default_factory=dict)
    clips: tuple[Clip, ...] = ()


class _Walk(Space):
    """Goes through the tree as a viewer would."""

    def __init__(self, name: str, root: Node, told: Told) -> None:
        super().__init__(name)
        self.root, self.shown, self.styles, self.told = root, Shown(), Styles(root), told
        self.unpainted: list[Outline] = []
        self.by_id = {i: n for n in root.iter() if (i := n.get("id"))}
        self.count, self.all = 0, sum(1 for _ in root.iter())
        self.moves = any(moved_by(node, _tag(node)) for node in root.iter())
        self.scripted = any(_tag(node) == "script" or any(map(HANDLER.fullmatch, node.keys())) for node in root.iter())

    # ---- the tree

    def page(self) -> None:
        if self.styles.unread:
            raise self.bad(
                f"its style sheet shapes what is drawn under '{self.styles.unread[:40]}', which may not hold everywhere; "
                "save it as a plain SVG"
            )
        if self.styles.outside:
            self.shown.notes.append("a style sheet that is not in it was not read: compare its length")
        style = self.styles.of(self.root)
        # a share of a page it may stand on says nothing: its own size does
        given = [style.get(w, "") if "%" not in style.get(w, "") else self.root.get(w, "") for w in ("width", "height")]
        wide, high = (self.length(text, None, what) for text, what in zip(given, ("width", "height"), strict=True))
        bare = [t.strip() for t in given if t.strip()]
        if wide is None and high is None:
            self.shown.notes.append("it states no size on paper: one unit is taken as a pixel, 1/96 inch")
        elif all(re.fullmatch(NUMBER, t) for t in bare):
            self.shown.notes.append("its size has no unit: taken as pixels, 1/96 inch each")
        turned = self.transform(style)
        if not np.allclose(turned[:2, :2], np.eye(2)):
            self.shown.notes.append(
                "the whole page is transformed, which not every program follows: compare its length"
            )
        at = turned @ self.fitted(self.root, wide, high)
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
        here = _Here(flip @ at, (box[2], box[3]) if box else (wide, high), self.shown.outlines)
        self.moves |= changes(style)
        if not gone(style):
            self.children(self.root, replace(here, inherited=handed_down(style, {}), clips=self.clips(style, here)))
        if self.moves:
            self.shown.notes.append(
                "it moves, or is filtered, where it is looked at: taken as it is drawn without that; compare its length"
            )
        if self.scripted:
            self.shown.notes.append("a script in it was not run: compare its length")
        if self.unpainted and not self.shown.outlines:
            self.shown.outlines += self.unpainted
            self.shown.notes.append("nothing in it is filled or stroked: what is drawn without either was taken")
        elif self.unpainted:
            self.shown.notes.append(f"outlines left out for want of a fill or a stroke: {len(self.unpainted)}")

    def children(self, node: Node, here: _Here) -> None:
        for child in node:
            self.visit(child, here)

    def visit(self, node: Node, here: _Here, given: Style | None = None) -> None:
        tag = _tag(node)
        if not tag or tag in NEVER_SHOWN:
            return
        style = {**self.styles.of(node), **(given or {})}
        if gone(style):
            return
        self.moves |= changes(style)
        self.count += 1
        if self.count % TOLD_EACH == 0:
            tell(self.told, min(self.count / self.all, 1.0))
        if here.deep > DEEPEST or self.count > MOST_USES:
            raise self.bad("its uses go round in circles, or it is too large to be a drawing of a body")
        own, label = node.get("id") or "", attribute(node, "label")
        name = next((n for n in (own, label) if n.strip().lower() in NAMED), "") or here.name or own or label
        here = replace(here, at=here.at @ self.transform(style), name=name, deep=here.deep + 1,
                       inherited=handed_down(style, here.inherited))  # fmt: skip
        here = replace(here, clips=here.clips + self.clips(style, here))
        if tag in ("g", "a"):
            self.children(node, here)
        elif tag == "switch":
            for child in [c for c in node if _tag(c) not in ("", "foreignobject") and _for_us(c)][:1]:
                self.visit(child, here)
        elif tag == "svg":
            self.boxed(node, self.placed(style, here), style, style)
        elif tag == "use":
            self.use(node, style, here)
        elif tag == "image":
            self.shown.pictures += 1
        else:
            self.draw(node, tag, style, here)

    def placed(self, style: Style, here: _Here) -> _Here:
        """Moved by the style's x and y."""
        x = self.length(style.get("x", "0"), here.size[0], "x") or 0.0
        y = self.length(style.get("y", "0"), here.size[1], "y") or 0.0
        return replace(here, at=here.at @ matrix(1, 0, 0, 1, x, y))

    def boxed(self, node: Node, here: _Here, style: Style, own: Style) -> None:
        """What is in a nest or a symbol, fitted into the style's width and height, and clipped there unless its own style
        lets it run over."""
        wide = self.length(style.get("width", "100%"), here.size[0], "width")
        high = self.length(style.get("height", "100%"), here.size[1], "height")
        box = self.box(node)
        size = (box[2], box[3]) if box else (wide, high)
        if wide is not None and high is not None and own.get("overflow", "hidden") not in ("visible", "auto"):
            corners = np.array([[0.0, 0.0, 1.0], [wide, 0.0, 1.0], [wide, high, 1.0], [0.0, high, 1.0]]) @ here.at.T
            window = Outline("", corners[:, :2], np.ones(4, dtype=bool), True)
            here = replace(here, clips=(*here.clips, Clip((window,))))
        self.children(node, replace(here, at=here.at @ self.fitted(node, wide, high), size=size))

    def use(self, node: Node, style: Style, here: _Here) -> None:
        asked = attribute(node, "href")
        meant = self.by_id.get(asked.lstrip("#"))
        if not asked.startswith("#") or meant is None:
            raise self.bad(f"it uses '{asked[:40]}', which is not in it")
        here = self.placed(style, here)
        if _tag(meant) != "symbol":
            sized = {name: value for name, value in style.items() if name in ("width", "height")}
            self.visit(meant, here, sized if _tag(meant) == "svg" else None)
            return
        own = self.styles.of(meant)
        if gone(own):
            return
        here = replace(here, at=here.at @ self.transform(own), inherited=handed_down(own, here.inherited))
        self.boxed(meant, replace(here, clips=here.clips + self.clips(own, here)), style, own)

    def clips(self, style: Style, here: _Here) -> tuple[Clip, ...]:
        """What an element's style clips it by."""
        found: list[Clip] = []
        for name in CLIPPING:
            text = style.get(name, "none")
            if text.lower() in ("none", ""):
                continue
            asked = re.fullmatch(r"url\(\s*['\"]?#([^'\")]+)['\"]?\s*\)", text, re.IGNORECASE)
            node = self.by_id.get(asked[1]) if asked else None
            if asked and node is None:
                continue  # one that is not there clips nothing
            known = node is not None and name == "clip-path" and node.get("clipPathUnits", "") != "objectBoundingBox"
            found.append(self.clip(node, here) if known and node is not None else Clip(None))
        return tuple(found)

    def clip(self, node: Node, here: _Here) -> Clip:
        style = self.styles.of(node)
        inner = replace(here, at=here.at @ self.transform(style), into=[], clips=(), inherited={}, deep=here.deep + 1)
        if any(_tag(child) == "text" for child in node) or style.get("clip-path", "none") != "none":
            return Clip(None)
        self.children(node, inner)
        return Clip(tuple(inner.into))

    # ---- shapes

    def draw(self, node: Node, tag: str, style: Style, here: _Here) -> None:
        name = here.name or f"{tag} {len(self.shown.outlines) + 1}"
        data = data_of(self, node, tag, style, here.size)
        if data is None or not visible(here.inherited):
            return
        asked = painted(here.inherited) or name.strip().lower() in NAMED or here.into is not self.shown.outlines
        into = here.into if asked else self.unpainted
        for points, corners in runs_of(self, name, data):
            placed = np.column_stack([points, np.ones(len(points))]) @ here.at.T
            if not np.isfinite(placed).all():
                raise self.bad(f"the path '{name[:40]}' runs to infinity")
            gap = float(np.linalg.norm(points[0] - points[-1]))
            closed = gap <= 1e-6 * float(np.ptp(points, axis=0).max() + 1e-30)
            if closed and len(points) > 2:
                corners, placed = corners[:-1], placed[:-1]
            places = np.ascontiguousarray(placed[:, :2])
            cut = any(clip.cuts(places) for clip in here.clips)
            into.append(Outline(name, places, corners, closed, cut, self.stroke_mm(style, here)))

    def stroke_mm(self, style: Style, here: _Here) -> float:
        """How thick its line is, across where that is most; nan where it cannot be told."""
        if not stroked(here.inherited):
            return 0.0
        wide, high = here.size
        whole = None if wide is None or high is None else math.hypot(wide, high) / math.sqrt(2.0)
        try:
            width = self.length(here.inherited.get("stroke-width", "1"), whole, "stroke-width")
        except BadInput:
            return math.nan
        if width is None:
            return math.nan
        scaled = style.get("vector-effect", "none") == "none"
        return width * (float(np.linalg.norm(here.at[:2, :2], 2)) if scaled else UNIT_MM["px"])


def _for_us(node: Node) -> bool:
    """Whether a viewer in English that knows no extensions takes this one of several."""
    languages = node.get("systemLanguage")
    spoken = languages is None or any(one.strip().lower().startswith("en") for one in languages.split(","))
    return spoken and not node.get("requiredExtensions")


NAMED = {"side", "plan", "side-cut", "plan-cut"}
"""Names that an outline is known by, in any case."""
