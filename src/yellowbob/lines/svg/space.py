"""Lengths, boxes and transforms of SVG drawings, as matrices (3, 3) over px with y down."""

from __future__ import annotations

import math
import re

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput
from yellowbob.lines.svg.style import MOVING, Node, Style

Array = NDArray[np.float64]

UNIT_MM = {
    "": 25.4 / 96,
    "px": 25.4 / 96,
    "pt": 25.4 / 72,
    "pc": 25.4 / 6,
    "mm": 1.0,
    "cm": 10.0,
    "in": 25.4,
    "q": 0.25,
}
"""CSS absolute lengths; a bare number is a px."""
UNIT_PX = {unit: mm / UNIT_MM["px"] for unit, mm in UNIT_MM.items()}
ANGLE_DEG = {"": 1.0, "deg": 1.0, "grad": 0.9, "rad": math.degrees(1.0), "turn": 360.0}
COUNTS = {
    "matrix": (6,), "translate": (1, 2), "translatex": (1,), "translatey": (1,), "scale": (1, 2), "scalex": (1,),
    "scaley": (1,), "rotate": (1, 3), "skewx": (1,), "skewy": (1,),
}  # fmt: skip
"""How many numbers each transform takes,"""
MEASURES = {
    "matrix": ("",) * 4 + ("px",), "translate": ("px",), "translatex": ("px",), "translatey": ("px",), "scale": ("",),
    "scalex": ("",), "scaley": ("",), "rotate": ("deg", "px"), "skewx": ("deg",), "skewy": ("deg",),
}  # fmt: skip
"""and of what; the last holds for the rest."""
NUMBER = r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?"


def attribute(node: Node, name: str) -> str:
    """An attribute whatever its namespace; empty when it is not there."""
    found = node.get(name)
    if found is not None:
        return found
    return next((v for k, v in node.attrib.items() if k.rsplit("}", 1)[-1] == name), "")


def matrix(a: float, b: float, c: float, d: float, e: float, f: float) -> Array:
    """An SVG matrix(a b c d e f) as (3, 3)."""
    return np.array([[a, c, e], [b, d, f], [0.0, 0.0, 1.0]])


class Space:
    """Reads sizes and transforms; what cannot be understood is refused by the drawing's name."""

    def __init__(self, name: str) -> None:
        self.name = name

    def bad(self, words: str) -> BadInput:
        """A refusal with the drawing\'s name before it."""
        return BadInput(f"{self.name}: {words}")

    def length(self, text: str, of: float | None, what: str) -> float | None:
        """A length in px; None where it is left out or a share of something unknown."""
        text = text.strip()
        if not text or text == "auto":
            return None
        found = re.fullmatch(rf"({NUMBER})\s*(%|[a-zA-Z]*)", text)
        if found is None:
            raise self.bad(f"{what} '{text[:30]}' is no length")
        value, unit = float(found[1]), found[2].lower()
        if not math.isfinite(value):
            raise self.bad(f"{what} '{text[:30]}' is no length")
        if unit == "%":
            return None if of is None else value / 100.0 * of
        if unit not in UNIT_MM:
            raise self.bad(f"{what} '{text[:30]}': the unit '{unit}' has no size on paper; save it in mm")
        return value * UNIT_MM[unit] / UNIT_MM["px"]

    def box(self, node: Node) -> tuple[float, float, float, float] | None:
        """The viewBox: x, y, width and height; None where there is none. Raises BadInput."""
        text = attribute(node, "viewBox")
        if not text.strip():
            return None
        parts = re.findall(NUMBER, text)
        if len(parts) != 4 or re.sub(NUMBER, "", text).strip(" ,\t\r\n"):
            raise self.bad(f"viewBox '{text[:40]}' is not four numbers")
        x, y, wide, high = (float(p) for p in parts)
        if not all(map(math.isfinite, (x, y, wide, high))) or wide <= 0 or high <= 0:
            raise self.bad(f"viewBox '{text[:40]}' has no size")
        return x, y, wide, high

    def fitted(self, node: Node, wide: float | None, high: float | None) -> Array:
        """The matrix by which a box is fitted into a width and height (px), as `preserveAspectRatio` says."""
        box = self.box(node)
        if box is None:
            return np.eye(3)
        x, y, bw, bh = box
        if wide is None and high is None:
            wide, high = bw, bh
        elif wide is None:
            assert high is not None
            wide = high * bw / bh
        elif high is None:
            high = wide * bh / bw
        assert wide is not None
        assert high is not None
        if wide <= 0 or high <= 0:
            raise self.bad("its width or height is nothing")
        sx, sy = wide / bw, high / bh
        how = attribute(node, "preserveAspectRatio").split() or ["xMidYMid"]
        if how[0] == "none":
            return matrix(sx, 0, 0, sy, -x * sx, -y * sy)
        s = max(sx, sy) if "slice" in how else min(sx, sy)
        share = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}
        ways = re.fullmatch(r"x(Min|Mid|Max)Y(Min|Mid|Max)", how[0])
        left, top = (share[ways[1]], share[ways[2]]) if ways else (0.5, 0.5)
        return matrix(s, 0, 0, s, left * (wide - bw * s) - x * s, top * (high - bh * s) - y * s)

    def transform(self, style: Style) -> Array:
        """The matrix of an element's transform, about its origin. Raises BadInput for one that is not understood."""
        for name, idle in MOVING.items():
            if name in style and style[name] not in idle:
                raise self.bad(
                    f"its style says '{name}: {style[name][:30]}', which is not read; save it as a plain SVG"
                )
        text = style.get("transform", "")
        if text.strip().lower() in ("", "none"):
            return np.eye(3)
        if (about := style.get("transform-box", "view-box")) != "view-box":
            raise self.bad(f"a transform is about the '{about[:20]}' of what it moves; save it as a plain SVG")
        total, rest = np.eye(3), text
        for found in re.finditer(r"([a-zA-Z]+)\s*\(([^()]*)\)", text):
            total = total @ self._one(found[1].lower(), found[2], text)
            rest = rest.replace(found[0], "\0", 1)  # which no drawing holds
        if not re.fullmatch(r"\s*\0(\s*,?\s*\0)*\s*", rest) or not np.isfinite(total).all():
            raise self.bad(f"transform '{text[:40]}' is not understood")
        x, y = self._origin(style.get("transform-origin", ""))
        return matrix(1, 0, 0, 1, x, y) @ total @ matrix(1, 0, 0, 1, -x, -y)

    def _origin(self, text: str) -> tuple[float, float]:
        """Where a transform is about, px."""
        parts = [{"left": "0", "top": "0"}.get(p, p) for p in text.lower().split()[:2]]
        if all(p in ("0", "0%", "0px") for p in parts):
            return 0.0, 0.0
        if len(parts) != 2 or any("%" in p for p in parts):
            raise self.bad(f"the origin '{text[:30]}' of a transform is not understood; save it as a plain SVG")
        x, y = (self.length(p, None, "the origin of a transform") or 0.0 for p in parts)
        return x, y

    def _one(self, kind: str, given: str, text: str) -> Array:
        token = rf"{NUMBER}[a-zA-Z]*"
        whole = re.fullmatch(rf"\s*{token}(\s*,?\s*{token})*\s*", given)
        parts = re.findall(token, given) if whole else []
        measure = MEASURES.get(kind, ())
        counts = COUNTS.get(kind, ())
        if len(parts) not in counts:
            raise self.bad(f"transform '{text[:40]}' is not understood")
        n = [self._measured(part, measure[min(k, len(measure) - 1)], text) for k, part in enumerate(parts)]
        if kind == "matrix":
            return matrix(*n)
        if kind in ("translate", "translatex", "translatey"):
            x, y = (0.0, n[0]) if kind == "translatey" else (n[0], n[1] if len(n) > 1 else 0.0)
            return matrix(1, 0, 0, 1, x, y)
        if kind in ("scale", "scalex", "scaley"):
            return matrix(1.0 if kind == "scaley" else n[0], 0, 0, 1.0 if kind == "scalex" else n[-1], 0, 0)
        angle = math.radians(n[0])
        if kind == "rotate":
            c, s = math.cos(angle), math.sin(angle)
            turn = matrix(c, s, -s, c, 0, 0)
            if len(n) == 3:
                return matrix(1, 0, 0, 1, n[1], n[2]) @ turn @ matrix(1, 0, 0, 1, -n[1], -n[2])
            return turn
        return matrix(1, 0, math.tan(angle), 1, 0, 0) if kind == "skewx" else matrix(1, math.tan(angle), 0, 1, 0, 0)

    def _measured(self, part: str, measure: str, text: str) -> float:
        """A number of a transform, with its unit: px, degrees or none."""
        found = re.fullmatch(rf"({NUMBER})([a-zA-Z]*)", part)
        units = {"px": UNIT_PX, "deg": ANGLE_DEG, "": {"": 1.0}}[measure]
        if found is None or found[2].lower() not in units:
            raise self.bad(f"transform '{text[:40]}' is not understood")
        return float(found[1]) * units[found[2].lower()]
