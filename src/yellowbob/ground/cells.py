"""The cells of a CSV: what stands between them, and words that no spreadsheet takes for a formula."""

from __future__ import annotations

BEGIN = ("=", "+", "-", "@", "\t", "\r")
"""What a formula begins with."""


def plain(cell: object) -> object:
    """Words that begin like a formula get an apostrophe before them; figures stay."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in BEGIN else cell


def unplain(cell: str) -> str:
    """The words as they were before `plain`."""
    return cell[1:] if cell[:1] == "'" and cell[1:2] in BEGIN else cell


def between(head: str) -> str:
    """What stands between the cells of a CSV, by its heading row: a spreadsheet whose numbers have commas writes semicolons
    or tabs."""
    return max(",;\t", key=head.count)
