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
    "transform-origin", "clip-path", "mask", "width", "height", "x", "y", "cx", "cy", "r", "rx", "ry",
})  # fmt: skip
"""Attributes that say what a style may say too, and which a style outweighs."""
INHERITED = ("visibility", "fill", "fill-opacity", "stroke", "stroke-opacity", "stroke-width")
MOVING = {
    "zoom": ("1", "normal", "100%"), "scale": ("none", "1"), "rotate": ("none", "0", "0deg"), "translate": ("none", "0"),
    "offset-path": ("none",), "perspective": ("none",), "d": (),
}  # fmt: skip
"""Styles that move or shape what is drawn, and what of them does nothing."""

Style = dict[str, str]
Ranked = tuple[bool, int, tuple[int, int, int], int]
"""Where a declaration stands in the cascade: whether important, its origin, its selector's weight, its number."""


class Styles:
    """The styles of a drawing's elements; rules for paper or for what cannot be read are passed over, as a viewer does."""

    def __init__(self, root: Node) -> None:
        self._matcher = cssselect2.Matcher()
        self._rules = 0
        for node in root.iter():
            if isinstance(node.tag, str) and node.tag.rsplit("}", 1)[-1].lower() == "style":
                self._read(tinycss2.parse_stylesheet(node.text or "", skip_comments=True, skip_whitespace=True))
        self._wrapped = {}
        if self._rules:
            self._wrapped = {
                id(e.etree_element): e for e in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree()
            }

    def _read(self, rules: list[Any]) -> None:
        for rule in rules:
            if rule.type == "at-rule" and rule.lower_at_keyword == "media" and rule.content is not None:
                if _on_screen(tinycss2.serialize(rule.prelude)):
                    self._read(tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True))
            elif rule.type == "qualified-rule":
                try:
                    selectors = cssselect2.compile_selector_list(rule.prelude)
                except cssselect2.SelectorError:
                    continue
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


def _on_screen(query: str) -> bool:
    """Whether a media query may hold where a drawing is looked at."""
    return any("print" not in part.split() or "not" in part.split() for part in query.lower().split(","))


def _declared(content: Any) -> Iterator[tuple[str, str, bool]]:
    """Name, value and importance of what a rule or a style attribute declares."""
    for said in tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True):
        if said.type == "declaration":
            value = tinycss2.serialize(said.value).strip()
            yield said.lower_name, value if "url(" in value else value.lower(), bool(said.important)


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
    stroke = not _nothing(inherited.get("stroke-width", "1"))
    return any(
        inherited.get(what, usual) not in ("none", "transparent")
        and not _nothing(inherited.get(f"{what}-opacity", "1"))
        for what, usual in (("fill", "black"), *([("stroke", "none")] if stroke else []))
    )


def _nothing(value: str) -> bool:
    """Whether a number, a share or a width is zero."""
    try:
        return float(value.strip().rstrip("%").removesuffix("px")) == 0.0
    except ValueError:
        return False
