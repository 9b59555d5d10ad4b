"""Starting: a window at once, the program read and the first figures worked out behind it, then the window itself."""

from __future__ import annotations

import gc
import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import suppress
from importlib import import_module
from pathlib import Path
from threading import Thread
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal, Slot

from yellowbob.app.session.settings import Settings
from yellowbob.app.start.desk import dressed, fit_on_screen, has_display
from yellowbob.app.start.opening import Opening
from yellowbob.app.widgets.turns import hold, let_paint
from yellowbob.ground.errors import BadInput

if TYPE_CHECKING:
    from yellowbob.app.frame.ahead import Ahead
    from yellowbob.app.frame.window import Window

OFTEN = 700
"""Python's own: a window looks for garbage so often that it never takes long, where a command that opens it did rarely."""
Tell = Callable[[str, str], None]
"""Says what is being done, and why it takes a while."""


class Starter(QObject):
    """Prepares on a thread of its own, then makes the window in turns of the event loop, none of them long."""

    told = Signal(str, str)
    prepared = Signal(object)
    failed = Signal(object)
    ended = Signal(int)
    """there will be no window; with the exit code"""

    def __init__(self, settings: Settings, prepare: Callable[[Tell], object]) -> None:
        super().__init__()
        self.settings, self.prepare = settings, prepare
        self.opening = Opening()
        self.window: Window | None = None
        self.ahead: Ahead | None = None
        self.error: BaseException | None = None
        self._turns: Iterator[Window | None] = iter(())
        self.told.connect(self.opening.tell)
        self.prepared.connect(self._make)
        self.failed.connect(self._give_up)

    def begin(self) -> None:
        """Show where the window will be, and prepare once that has been painted."""
        fit_on_screen(self.opening, self.settings)
        self.opening.show()
        self._when_painted()

    @Slot()
    def _when_painted(self) -> None:
        if not self.opening.painted:
            QTimer.singleShot(1, self._when_painted)
            return
        # no cycle is collected on the other thread: objects of the interface may end on this one only
        gc.disable()
        # a daemon, so that closing the window at once does not wait for the compiler
        Thread(target=self._work, daemon=True).start()

    def _work(self) -> None:
        try:
            self.prepared.emit(self.prepare(self.told.emit))
        except BaseException as error:  # it is raised again on the interface's thread
            self.failed.emit(error)

    @Slot(object)
    def _make(self, first: Any) -> None:
        from yellowbob.app.frame.main import window_in_turns

        # what was loaded stays: to look through it for garbage once would take half a second
        gc.freeze()
        gc.enable()
        self.opening.tell("Setting up the benches …")
        self._turns = window_in_turns(first, self.settings, self.opening.geometry())
        QTimer.singleShot(0, self._turn)

    @Slot()
    def _turn(self) -> None:
        from yellowbob.app.frame.ahead import Ahead

        try:
            made = next(self._turns)
        except Exception as error:  # else the bar would run for ever; it is raised again when the loop has ended
            self._give_up(error)
            return
        if made is None:
            QTimer.singleShot(0, self._turn)
            return
        self.window = made
        made.crashes.told.connect(made.say_wrong)
        made.crashes.watch()
        made.setGeometry(self.opening.geometry())  # where it may have been moved to meanwhile
        parts = hold(made.parts(), unseen=True)
        made.show()
        let_paint(made, parts)
        self.opening.close()
        self.ahead = Ahead(made)
        self.ahead.begin()

    @Slot(object)
    def _give_up(self, error: BaseException) -> None:
        gc.enable()
        self.error = error
        self.opening.close()
        self.ended.emit(2)


def started(settings: Settings, prepare: Callable[[Tell], object]) -> int:
    """Start and stay until the window is closed; returns the exit code. Raises what preparing raised."""
    gc.set_threshold(OFTEN)
    app = dressed(settings)
    starter = Starter(settings, prepare)
    starter.ended.connect(app.exit)
    starter.begin()
    code = app.exec()
    if starter.error is not None:
        raise starter.error
    return code


def run(file: Path | None = None, *others: Path) -> int:
    """Open the window and stay until it is closed; returns the exit code. Each other file gets a window of its own.

    Raises BadInput for a bad file, and where there is no display.
    """
    if not has_display() and "QT_QPA_PLATFORM" not in os.environ:
        raise BadInput("there is no display to open a window on; `yellow-bob float FILE` works without one")
    missing = next((f for f in (file, *others) if f is not None and not f.exists()), None)
    if missing is not None:
        raise BadInput(f"{missing}: there is no such file")
    for other in others:
        subprocess.Popen([sys.executable, "-m", "yellowbob", "open", str(other)], start_new_session=True)
    settings = Settings()

    def prepare(tell: Tell) -> object:
        main = import_module("yellowbob.app.frame.main")
        tell("Working out the first figures …", main.said_of_compiling())
        return main.first_of(file, settings)

    return started(settings, prepare)


def run_demo_window() -> int:
    """Open the window on the made-up workshop, with its season in a log of its own."""
    settings = Settings()

    def prepare(tell: Tell) -> object:
        main = import_module("yellowbob.app.frame.main")
        tell("Putting out the made-up workshop …", main.said_of_compiling())
        with suppress(BadInput):  # the Log bench says itself what is wrong with its file
            import_module("yellowbob.app.frame.demo").demo_log()
        return main.first_of(None, settings, main.first_demo())

    return started(settings, prepare)
