"""A change that is tried: on the build, as it is believed to be, to see what follows; on the drawing, to be kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from yellowbob.design.model import Design


@dataclass(frozen=True, eq=False)
class Change:
    """In words, and as a function from a design to the next. It is asked of the build and of the drawing alike."""

    words: str
    make: Callable[[Design], Design]
