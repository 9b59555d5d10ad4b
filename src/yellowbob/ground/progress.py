"""How long work says how far it is, and is asked to stop; and how it is left off where nobody waits for it any more."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from threading import local
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


class LeftOff(BaseException):
    """Work that nobody waits for any more. No refusal: what takes refusals for answers must not take it for one."""


class _Here(local):
    wanted: Callable[[], bool] | None = None


_here = _Here()


@contextmanager
def while_wanted(wanted: Callable[[], bool]) -> Iterator[None]:
    """What is worked out on this thread meanwhile is left off at the next `go_on` once it is not wanted any more."""
    before, _here.wanted = _here.wanted, wanted
    try:
        yield
    finally:
        _here.wanted = before


def go_on() -> None:
    """Between two steps of what may take long: raises LeftOff where it is not wanted any more."""
    if _here.wanted is not None and not _here.wanted():
        raise LeftOff
