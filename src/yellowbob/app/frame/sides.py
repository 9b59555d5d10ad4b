"""What stands in the place of a bench and has no tab: something new, the keys, the handbook."""

from __future__ import annotations

from pathlib import Path

from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.actions import key_rows
from yellowbob.app.frame.benches import HasBenches
from yellowbob.app.frame.header import Header


class HasSides(HasBenches):
    """A window that shows them, and goes back to the bench it came from."""

    header: Header
    _before = "Tank"

    def show_bench(self, name: str) -> None:
        """Show a bench."""
        raise NotImplementedError

    def show_new(self) -> None:
        """The brief of something new, in the place of a bench."""
        if "New" not in self.built:
            self.begin.opened.connect(lambda: self.show_bench("Tank"))
            self.begin.wanted_picture.connect(self.trace)
        self.show_bench("New")

    def trace(self) -> None:
        """The page that traces pictures."""
        self.show_bench("Lines")
        self.lines.show_trace()

    def trace_picture(self, path: Path) -> None:
        self.trace()
        self.lines.trace.open(path)

    def show_handbook(self) -> None:
        """The handbook in place of a bench; again: back to where it was."""
        self._turn_to_side("Handbook")

    def show_keys(self) -> None:
        """List every key, in place of a bench; again: back to where it was."""
        self.keys.show_rows(key_rows())
        self._turn_to_side("Keys")

    def _turn_to_side(self, name: str) -> None:
        now = self.header.tabs.now
        if now == name:
            self.show_bench(self._before)
            return
        if now in {b.title for b in BENCHES}:
            self._before = now
        self.show_bench(name)
