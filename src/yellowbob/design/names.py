"""Names that tell things apart."""

from __future__ import annotations

from collections.abc import Collection, Iterable

LONGEST = 80


def unlike(name: str, taken: Collection[str]) -> str:
    """The name, with a number behind it where another has it already."""
    own, number = name[:LONGEST], 2
    while own in taken:
        end = f" {number}"
        own, number = name[: LONGEST - len(end)] + end, number + 1
    return own


def told_apart(names: Iterable[str]) -> tuple[str, ...]:
    """The names in order, each that stands there again with its number behind it: ring, ring#2, ring#3."""
    seen: dict[str, int] = {}
    out = []
    for name in names:
        seen[name] = seen.get(name, 0) + 1
        out.append(name if seen[name] == 1 else f"{name}#{seen[name]}")
    return tuple(out)
