"""Older versions of the document, brought up to this one: plain functions over the JSON object, one a version."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from typing import Any

Json = dict[str, Any]

_MATERIAL = ("density_g_ml", "measured", "density_u_g_ml")
_PLATES = ("lip", "wings", "fin", "turning tail")
_DEFAULT_NAMES = {"lip": "lip", "wings": "wings", "fin": "fin", "turning tail": "turning tail"}
_METALS = 2.3
"""Version 1 kept no group: what is denser and not on its shelf was metal."""


@lru_cache(maxsize=1)
def _groups() -> dict[str, str]:
    listed = json.loads((Path(__file__).parent / "version1_groups.json").read_text(encoding="utf-8"))
    return {name: group for group, names in listed.items() for name in names}


def group_of(name: str, density_g_ml: float, body: bool) -> str:
    """Shelf group of a material that version 1 knew only by its name: the shelf's of that time, else the nearest guess."""
    known = _groups().get(name)
    if known is not None:
        return known
    words = name.lower()
    for group, signs in (
        ("foam", ("foam", "cork")), ("resin", ("resin",)),
        ("plastic", ("print", "plastic", "acryl", "carbonate", "styrene", "nylon", "pvc", "abs")),
    ):  # fmt: skip
        if any(sign in words for sign in signs):
            return group
    if density_g_ml >= _METALS:
        return "metal"
    return "wood" if body else "plastic"


def _material(old: Json, body: bool) -> Json:
    """The material record out of a piece's own fields, which are taken off it."""
    made: Json = {"name": old.pop("material", None)}
    made |= {field: old.pop(field) for field in _MATERIAL if field in old}
    density = made.get("density_g_ml")
    if isinstance(made["name"], str):
        made["group"] = group_of(made["name"], density if isinstance(density, int | float) else 1.0, body)
    else:
        del made["name"]
    return made


def _piece_of_part(part: Json, taken: set[str]) -> Json:
    kind = part.get("kind")
    name = part.pop("name", _DEFAULT_NAMES.get(str(kind), "part"))
    own, number = name, 2
    while own in taken:
        own, number = f"{str(name)[:76]} {number}", number + 1
    taken.add(own)
    return {"name": own, "material": _material(part, False), "shape": part}


def _weighings(readings: list[Json]) -> list[Json]:
    """Of two readings of one stage version 1 heeded the last."""
    found = []
    for number, reading in enumerate(readings):
        later = any(isinstance(r, dict) and r.get("stage") == reading.get("stage") for r in readings[number + 1 :])
        found.append({**reading, **({"heeded": False} if later else {})})
    return found


def from_1(old: Json) -> Json:
    """Body and parts become pieces, materials records of their own, bores the body's, readings weighings."""
    data = dict(old)
    body = dict(data.pop("body", {}))
    piece: Json = {**({"name": body.pop("name")} if "name" in body else {}), "material": _material(body, True), **body}
    if "bores" in data:
        piece["bores"] = data.pop("bores")
    taken = {str(piece.get("name", "body"))}
    parts = [_piece_of_part(dict(part), taken) for part in data.pop("parts", ())]
    if "readings" in data:
        data["weighings"] = _weighings(list(data.pop("readings")))
    return {**data, "version": 2, "pieces": [piece, *parts]}


_OUTLINES = ("back", "belly", "plan", "profile")


def from_2(old: Json) -> Json:
    """Smooth points become arcs: until version 2 a smooth point carried its circle on and could rise above its points."""
    pieces = [dict(p) if isinstance(p, dict) else p for p in old.get("pieces", ())]
    for piece in pieces:
        shape = piece.get("shape") if isinstance(piece, dict) else None
        if isinstance(shape, dict):
            piece["shape"] = {k: _arcs(v) if k in _OUTLINES else v for k, v in shape.items()}
    return {**old, "version": 3, "pieces": pieces}


def _arcs(outline: Any) -> Any:
    if not isinstance(outline, list | tuple):
        return outline
    return [{**p, "bend": "arc"} if isinstance(p, dict) and p.get("bend", "smooth") == "smooth" else p
            for p in outline]  # fmt: skip


def path_in_1(text: str) -> str:
    """A fault's text with the paths as a file of version 1 has them."""
    text = re.sub(r"pieces\[0\]\.(bores\[)", r"\1", text)
    text = re.sub(r"pieces\[0\](?:\.material\.name\b)", "body.material", text)
    text = re.sub(r"pieces\[0\](\.material)?", "body", text)
    text = re.sub(r"pieces\[(\d+)\](?:\.material\.name\b)", lambda m: f"parts[{int(m[1]) - 1}].material", text)
    text = re.sub(r"pieces\[(\d+)\](?:\.material|\.shape)?", lambda m: f"parts[{int(m[1]) - 1}]", text)
    return text.replace("weighings[", "readings[")


MIGRATIONS: dict[int, Callable[[Json], Json]] = {1: from_1, 2: from_2}
"""From version n to n + 1."""
