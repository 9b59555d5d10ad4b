"""The lists that ship with the program, with the maker's own entries over them."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from typing import Any, TypeVar

from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import (
    BallastStock,
    Bit,
    CoatStock,
    DressingStock,
    FillerStock,
    Hardware,
    Hook,
    Item,
    Material,
    Powder,
    Resin,
    WireStock,
)
from yellowbob.shelf.own import over

T = TypeVar("T", bound=Item)

_FOLDER = Path(__file__).parent / "lists"


@lru_cache(maxsize=16)
def _read(name: str, kind: type[T]) -> dict[str, T]:
    items = [kind.model_validate(entry) for entry in json.loads((_FOLDER / name).read_text(encoding="utf-8"))]
    return {item.name: item for item in items}


def materials() -> dict[str, Material]:
    """Woods, cork and foams."""
    return over(_read("woods.json", Material), Material)


def stuffs() -> dict[str, Material]:
    """Resins, plastics and metals."""
    return over(_read("stuffs.json", Material), Material)


def every_material() -> dict[str, Material]:
    """Woods, cork, foams, resins, plastics and metals by name."""
    return {**materials(), **stuffs()}


def shipped_material(name: str) -> Material | None:
    """A material as it ships, whatever the maker's own entry says; None for one that does not."""
    return {**_read("woods.json", Material), **_read("stuffs.json", Material)}.get(name)


def hooks() -> dict[str, Hook]:
    """Hooks by name."""
    return over(_read("hooks.json", Hook), Hook)


def dressings() -> dict[str, DressingStock]:
    """What is tied on hooks, by name."""
    return over(_read("dressings.json", DressingStock), DressingStock)


def hardware() -> dict[str, Hardware]:
    """Rings, eyes, beads, washers, props, blades, swivels, grommets, sleeves."""
    return over(_read("hardware.json", Hardware), Hardware)


def wires() -> dict[str, WireStock]:
    """Wires by name."""
    return over(_read("wires.json", WireStock), WireStock)


def ballast_stock() -> dict[str, BallastStock]:
    """Shot, rod and wire for ballast by name."""
    return over(_read("ballast.json", BallastStock), BallastStock)


def fillers() -> dict[str, FillerStock]:
    """What closes holes, by name."""
    return over(_read("fillers.json", FillerStock), FillerStock)


def coats() -> dict[str, CoatStock]:
    """Finishes by name."""
    return over(_read("coats.json", CoatStock), CoatStock)


def resins() -> dict[str, Resin]:
    """Two-part resins by name."""
    return over(_read("resins.json", Resin), Resin)


def powders() -> dict[str, Powder]:
    """Fillers stirred into resin, by name."""
    return over(_read("powders.json", Powder), Powder)


def bits() -> dict[str, Bit]:
    """Drill bits by name."""
    return over(_read("bits.json", Bit), Bit)


LISTS: dict[str, tuple[type[Item], Callable[[], dict[str, Any]]]] = {
    "materials": (Material, every_material), "hooks": (Hook, hooks), "hardware": (Hardware, hardware),
    "wires": (WireStock, wires), "ballast": (BallastStock, ballast_stock), "fillers": (FillerStock, fillers),
    "coats": (CoatStock, coats), "resins": (Resin, resins), "powders": (Powder, powders),
    "bits": (Bit, bits), "dressings": (DressingStock, dressings),
}  # fmt: skip
"""Every list by the name the command line uses."""


def taken(shelf: dict[str, T], name: str) -> T:
    """An entry by name. Raises BadInput naming near ones."""
    if name in shelf:
        return shelf[name]
    from difflib import get_close_matches

    near = get_close_matches(name, shelf, 3, 0.3)
    raise BadInput(f"'{name}' is not on the shelf" + (f"; did you mean {' or '.join(near)}?" if near else ""))
