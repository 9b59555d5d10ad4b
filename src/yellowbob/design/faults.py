"""What pydantic finds wrong with a document, in the maker's words: the path to the field, what is wrong, what it is."""

from __future__ import annotations

from pydantic import ValidationError

TAGS: set[str] = set()
"""Names of kinds that stand in an error's location but not in the file's path; each union enters its members' here."""


def path_of(location: tuple[int | str, ...]) -> str:
    """`pieces[0].shape.back[2].at_mm[0]` from a location."""
    text = ""
    for step in location:
        if isinstance(step, int):
            text += f"[{step}]"
        elif step not in TAGS:
            text += f".{step}" if text else step
    return text or "the document"


def describe(error: ValidationError, most: int = 3) -> str:
    """The first few faults of a validation, each as `path: what is wrong`."""
    faults = []
    for fault in error.errors(include_url=False)[:most]:
        message = fault["msg"].removeprefix("Value error, ")
        given = fault.get("input")
        shown = f" (it is {str(given)[:40]!r})" if isinstance(given, str | int | float | bool) else ""
        faults.append(f"{path_of(fault['loc'])}: {message[:1].lower()}{message[1:]}{shown}")
    more = error.error_count() - most
    return "; ".join(faults) + (f"; and {more} more" if more > 0 else "")
