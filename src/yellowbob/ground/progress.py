"""How long work says how far it is, and is asked to stop."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import TypeVar

from yellowbob.ground.errors import YellowBobError

T = TypeVar("T")
Told = Callable[[float], bool]
"""Called with the share done, 0 to 1; False asks to stop."""


class Stopped(YellowBobError):
    """Work that was asked to stop."""


def unheard(_: float) -> bool:
    """Nobody listens: go on."""
    return True


def tell(told: Told, share: float) -> None:
    """Say how far it is. Raises Stopped when asked to stop."""
    if not told(share):
        raise Stopped("stopped")


def each(items: Sequence[T], told: Told, start: float = 0.0, end: float = 1.0) -> Iterator[T]:
    """The items one by one, each told as a step from `start` to `end`. Raises Stopped when asked to stop."""
    for number, item in enumerate(items):
        tell(told, start + (end - start) * number / max(len(items), 1))
        yield item
