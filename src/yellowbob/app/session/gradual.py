"""An edit worked out a part at a time, so that the window can draw in between, before it is taken."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of
from yellowbob.study.engine import NotYet

PARTS = (of.outers, of.finished, of.joined, of.wires, of.holes, of.hull, of.slip, of.afloat)
"""What a rest hangs on, in the order in which one leads to the next."""


class Gradual:
    """The study of a design that is to be edited in, as far as it is worked out."""

    def __init__(self) -> None:
        self.study: Study | None = None
        self._left: list[Callable[[Study], Any]] = []

    def begin(self, design: Design, before: Study) -> None:
        """Begin with a design; what still holds of the study before is taken over."""
        self.study, self._left = Study(design, before), list(PARTS)

    def step(self) -> bool:
        """One part more; False once there is none left. What cannot be made, or not soon, is left to the edit to say."""
        if self.study is None or not self._left:
            return False
        try:
            with self.study.in_a_hurry():
                self._left.pop(0)(self.study)
        except (YellowBobError, NotYet):
            self._left = []
        return bool(self._left)

    def take(self, design: Design) -> Study | None:
        """The study of this very design, if it is the one that was begun; it is gone from here then."""
        found, self.study, self._left = self.study, None, []
        return found if found is not None and found.design is design else None
