"""What an SVG drawing's style sheets, style attributes and own attributes say of each of its elements (CSS 2.2 cascade)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree

import cssselect2
import tinycss2

Node = ElementTree.Element
ATTRIBUTES = frozenset({
    "display", "visibility", "opacity", "fill", "fill-opacity", "stroke", "stroke-opacity", "stroke-width", "transform",
    "vector-effect", "transform-origin", "filter", "clip-path", "mask", "overflow", "width", "height", "x", "y", "cx", "cy",
    "r", "rx", "ry",
})  # fmt: skip
"""Attributes that say what a style may say too, and which a style outweighs."""
INHERITED = ("visibility", "fill", "fill-opacity", "stroke", "stroke-opacity", "stroke-width")
MOVING = {
    "zoom": ("1", "normal", "100%"), "scale": ("none", "1"), "rotate": ("none", "0", "0deg"), "translate": ("none", "0"),
    "offset-path": ("none",), "perspective": ("none",), "d": (),
}  # fmt: skip
"""Styles that move or shape what is drawn, and what of them does nothing."""

COLOURS = frozenset({
    "fill", "fill-opacity", "stroke", "stroke-opacity", "stroke-width", "opacity", "visibility", "color", "stroke-dashoffset",
    "vector-effect",
})  # fmt: skip
"""What changes how an outline looks, and not where it runs."""
SHAPING = (ATTRIBUTES | MOVING.keys()) - COLOURS
"""What of a style moves, shapes or hides what is drawn; colours do not."""
WITHIN = ("media", "supports", "layer", "container", "scope")
"""Rules that hold others, which a viewer follows where they apply to it."""
MOVERS = ("animate", "animatetransform", "animatemotion", "set")
"""Elements that move, or change, what they stand in."""
MOVES = {"animation": "none", "animation-name": "none", "filter": "none"}
"""Styles that change what is seen of an outline, and what of them does nothing."""
ALWAYS = ("", "all", "screen", "only screen", "only all", "not print")
NEVER = ("print", "only print", "not all", "not screen", "speech", "only speech")
"""Media that a drawing is looked at on, and that it is not."""

Style = dict[str, str]
Ranked = tuple[bool, int, tuple[int, int, int], int]
"""Where a declaration stands in the cascade: whether important, its origin, its selector's weight, its number."""


class Styles:
    """The styles of a drawing's elements; rules for paper or for what cannot be read are passed over, as a viewer does.

    unread : what a rule stands under that shapes what is drawn, but may not hold; empty where there is none. outside :
    whether a style sheet is asked for that is not in the drawing.
    """

    def __init__(self, root: Node) -> None:
        self._matcher = cssselect2.Matcher()
        self._rules = 0
        self.unread, self.outside = "", False
        for node in root.iter():
            if isinstance(node.tag, str) and node.tag.rsplit("}", 1)[-1].lower() == "style":
                media = node.get("media") or ""
                if (node.get("type") or "text/css").split(";")[0].strip().lower() == "text/css":
                    rules = tinycss2.parse_stylesheet(node.text or "", skip_comments=True, skip_whitespace=True)
                    self._under(f"media {media}", _on_screen(media), rules)
        self._wrapped = {}
        if self._rules:
            self._wrapped = {
                id(e.etree_element): e for e in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree()
            }

    def _under(self, what: str, holds: bool | None, rules: list[Any]) -> None:
        """Read rules under a condition that holds, does not, or may (None)."""
        if holds:
            self._read(rules)
        elif holds is None and any(_shapes(rule) for rule in rules):
            self.unread = self.unread or what

    def _read(self, rules: list[Any]) -> None:
        for rule in rules:
            if rule.type == "at-rule":
                self.outside |= rule.lower_at_keyword == "import"
                if rule.lower_at_keyword in WITHIN:
                    said = tinycss2.serialize(rule.prelude)
                    holds = _on_screen(said) if rule.lower_at_keyword == "media" else None
                    self._under(f"@{rule.lower_at_keyword}{said}", holds, _rules_in(rule))
            elif rule.type == "qualified-rule":
                try:
                    selectors = cssselect2.compile_selector_list(rule.prelude)
                except cssselect2.SelectorError:
                    continue
                self._under(tinycss2.serialize(rule.prelude), None, _rules_in(rule))
                said = list(_declared(rule.content))
                for selector in selectors:
                    if selector.pseudo_element is None:
                        self._rules += 1
                        self._matcher.add_selector(selector, said)

    def of(self, node: Node) -> Style:
        """Each property's value, lower case apart from what it names by `url(…)`."""
        found: dict[str, tuple[Ranked, str]] = {}

        def say(name: str, value: str, rank: Ranked) -> None:
            if name not in found or rank >= found[name][0]:
                found[name] = rank, value

        for key, value in node.attrib.items():
            if key in ATTRIBUTES:
                say(key, value.strip(), (False, 0, (0, 0, 0), 0))
        wrapper = self._wrapped.get(id(node))
        if wrapper is not None:
            for weight, number, _, said in self._matcher.match(wrapper):
                for name, value, important in said:
                    say(name, value, (important, 1, weight, number))
        for name, value, important in _declared(node.get("style") or ""):
            say(name, value, (important, 2, (0, 0, 0), 0))
        return {name: value for name, (_, value) in found.items()}


def _on_screen(query: str) -> bool | None:
    """Whether a media query holds where a drawing is looked at; None where that is not known."""
    parts = [" ".join(part.split()) for part in query.lower().split(",")]
    if any(part in ALWAYS for part in parts):
        return True
    return False if all(part in NEVER for part in parts) else None


def _rules_in(rule: Any) -> list[Any]:
    """The rules that stand within another; none in what is broken."""
    if rule.type not in ("at-rule", "qualified-rule") or rule.content is None:
        return []
    if rule.type == "at-rule":
        return list(tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True))
    parts = tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
    return [part for part in parts if part.type in ("qualified-rule", "at-rule")]


def _shapes(rule: Any) -> bool:
    """Whether a rule, or one within it, declares something that shapes what is drawn."""
    if rule.type == "at-rule" and rule.lower_at_keyword not in WITHIN:
        return False  # such as @keyframes, which moves nothing on paper
    own = _declared(rule.content) if rule.type == "qualified-rule" else ()
    return any(name in SHAPING for name, _, _ in own) or any(map(_shapes, _rules_in(rule)))


def _declared(content: Any) -> Iterator[tuple[str, str, bool]]:
    """Name, value and importance of what a rule or a style attribute declares."""
    for said in tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True):
        if said.type == "declaration":
            value = tinycss2.serialize(said.value).strip()
            yield said.lower_name, value if "url(" in value else value.lower(), bool(said.important)


def moved_by(node: Node, tag: str) -> bool:
    """Whether an element, by its tag, moves or reshapes another in time; to change its colours is neither."""
    return tag in MOVERS and (tag == "animatemotion" or (node.get("attributeName") or "").strip() not in COLOURS)


def changes(style: Style) -> bool:
    """Whether a style moves what it is of in time, or draws it through a filter."""
    return any(style.get(name, idle).split(" ")[0] != idle for name, idle in MOVES.items())


def gone(style: Style) -> bool:
    """Whether an element is not shown, with all that is in it."""
    return style.get("display", "").lower() == "none" or _nothing(style.get("opacity", "1"))


def handed_down(style: Style, before: Style) -> Style:
    """What its children inherit."""
    own = {k: v for k in INHERITED if (v := style.get(k, "").lower()) and v not in ("inherit", "unset")}
    return {**before, **own}


def visible(inherited: Style) -> bool:
    """Whether a shape that inherits this, with its own style in it, is not hidden."""
    return inherited.get("visibility", "visible") not in ("hidden", "collapse")


def painted(inherited: Style) -> bool:
    """Whether a shape that inherits this, with its own style in it, has a fill or a stroke."""
    return _shows(inherited, "fill", "black") or stroked(inherited)


def stroked(inherited: Style) -> bool:
    """Whether it has a stroke."""
    return _shows(inherited, "stroke", "none") and not _nothing(inherited.get("stroke-width", "1"))


def _shows(inherited: Style, what: str, usual: str) -> bool:
    paint, opacity = inherited.get(what, usual), inherited.get(f"{what}-opacity", "1")
    return paint not in ("none", "transparent") and not _nothing(opacity)


def _nothing(value: str) -> bool:
    """Whether a number, a share or a width is zero."""
    try:
        return float(value.strip().rstrip("%").removesuffix("px")) == 0.0
    except ValueError:
        return False
