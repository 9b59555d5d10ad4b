"""How a command is entered: `@command(SHAPE)` over its function, in the file of its bench; nothing else is touched."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

F = TypeVar("F", bound=Callable[..., None])


@dataclass(frozen=True)
class Command:
    """A command: its name, what it does, and the shape of what it prints with --json (None: it prints none)."""

    name: str
    run: Callable[..., None]
    shape: Any


ENTERED: dict[str, Command] = {}
"""Every command by name, in the order they were entered."""


def command(shape: Any = None, name: str | None = None) -> Callable[[F], F]:
    """Enter a function as a command; `shape` (see `reports.contract`) is published as its JSON Schema."""

    def enter(run: F) -> F:
        called = name or run.__name__.strip("_").replace("_", "-")
        ENTERED[called] = Command(called, run, shape)
        return run

    return enter
