"""What stands in the place of a bench and has no tab: something new, the keys, the handbook."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QApplication

from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.actions import key_rows
from yellowbob.app.frame.benches import HasBenches
from yellowbob.app.frame.header import Header
from yellowbob.app.frame.message import Says
from yellowbob.app.session.crashes import Crashes


class HasSides(HasBenches, Says):
    """A window that shows them, and goes back to the bench it came from."""

    header: Header
    crashes: Crashes
    _before, _new_heard = "Tank", False

    def show_bench(self, name: str) -> None:
        """Show a bench."""
        raise NotImplementedError

    def show_new(self) -> None:
        """The brief of something new, in the place of a bench."""
        if not self._new_heard:
            self._new_heard = True
            self.begin.opened.connect(lambda: self.show_bench("Tank"))
        self.show_bench("New")

    def trace(self) -> None:
        """The page that traces pictures."""
        self.show_bench("Lines")
        self.lines.show_trace()

    def trace_picture(self, path: Path) -> None:
        self.trace()
        self.lines.trace.open(path)

    def copy_crash(self) -> None:
        """Put the newest crash report on the clipboard."""
        text = self.crashes.last()
        if text:
            QApplication.clipboard().setText(text)
        self.say(
            f"The newest crash report is on the clipboard. It stays on this machine: {self.crashes.folder}."
            if text
            else "Nothing has gone wrong on this machine: there is no crash report."
        )

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
