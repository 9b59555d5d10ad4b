"""Shapes of what commands print, and their JSON Schemas.

A shape is a type (`float`, `int`, `str`, `bool`), `maybe(shape)` for what may be null, `[shape]` for a list, `{key: shape}`
for an object with just these keys (a key ending in `?` may be missing), `{"*": shape}` for one with any keys, `None` for
anything.
"""

from __future__ import annotations

from typing import Any

Shape = Any
_TYPES: dict[type, str] = {float: "number", int: "integer", str: "string", bool: "boolean"}


class maybe:
    """A shape, or null."""

    def __init__(self, shape: Shape) -> None:
        self.shape = shape


def schema_of(shape: Shape) -> dict[str, Any]:
    """The JSON Schema (2020-12) of a shape."""
    if isinstance(shape, maybe):
        return {"anyOf": [schema_of(shape.shape), {"type": "null"}]}
    if isinstance(shape, list):
        return {"type": "array", "items": schema_of(shape[0])}
    if isinstance(shape, dict):
        if "*" in shape:
            return {"type": "object", "additionalProperties": schema_of(shape["*"])}
        needed = [key for key in shape if not key.endswith("?")]
        return {
            "type": "object", "properties": {key.removesuffix("?"): schema_of(one) for key, one in shape.items()},
            "required": needed, "additionalProperties": False,
        }  # fmt: skip
    return {} if shape is None else {"type": _TYPES[shape]}
