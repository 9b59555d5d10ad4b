"""The lists that ship with the program."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path
from typing import TypeVar

from yellowbob.errors import BadInput
from yellowbob.shelf.items import BallastStock, CoatStock, FillerStock, Hook, Item, Material

T = TypeVar("T", bound=Item)

_FOLDER = Path(__file__).parent / "lists"


@lru_cache(maxsize=16)
def _read(name: str, kind: type[T]) -> dict[str, T]:
    items = [kind.model_validate(entry) for entry in json.loads((_FOLDER / name).read_text(encoding="utf-8"))]
    return {item.name: item for item in items}


def materials() -> dict[str, Material]:
    return _read("woods.json", Material)


def hooks() -> dict[str, Hook]:
    return _read("hooks.json", Hook)


def ballast_stock() -> dict[str, BallastStock]:
    return _read("ballast.json", BallastStock)


def fillers() -> dict[str, FillerStock]:
    return _read("fillers.json", FillerStock)


def coats() -> dict[str, CoatStock]:
    return _read("coats.json", CoatStock)


def taken(shelf: dict[str, T], name: str) -> T:
    """An entry by name. Raises BadInput naming near ones."""
    if name in shelf:
        return shelf[name]
    from difflib import get_close_matches

    near = get_close_matches(name, shelf, 3, 0.3)
    raise BadInput(f"'{name}' is not on the shelf" + (f"; did you mean {' or '.join(near)}?" if near else ""))
