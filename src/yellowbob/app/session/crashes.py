"""Crash reports: what went wrong inside the program is written down, stays on this machine, and can be copied."""

from __future__ import annotations

import faulthandler
import os
import platform
import sys
import threading
import traceback
from datetime import datetime
from pathlib import Path
from types import TracebackType
from typing import IO

from platformdirs import user_state_path
from PySide6.QtCore import QObject, Signal

from yellowbob import __version__

MOST = 10
HARD = "fell.txt"
"""Where the interpreter itself writes when the whole process falls."""


class Crashes(QObject):
    """Keeps reports in a folder of the user's state. `told` says in a line that there is a new one."""

    told = Signal(str)

    def __init__(self, folder: Path | None = None) -> None:
        super().__init__()
        self.folder = folder or user_state_path("yellow-bob") / "crashes"
        self._hard: IO[str] | None = None
        self._before = sys.excepthook, threading.excepthook

    def watch(self) -> None:
        """From now on write down what nobody catches, on every thread, and what ends the process."""
        self._before = sys.excepthook, threading.excepthook
        sys.excepthook = self._hook
        threading.excepthook = lambda args: self._hook(args.exc_type, args.exc_value, args.exc_traceback)
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            fell = self.folder / HARD
            if fell.is_file() and fell.stat().st_size:
                self.keep(f"The whole program fell at its last start.\n{fell.read_text(errors='replace')}")
                self.told.emit(
                    "The program fell over when it last ran. What was typed is kept; View, Crash report copies why."
                )
            self._hard = fell.open("w", encoding="utf-8")
            faulthandler.enable(self._hard)
        except OSError:
            pass  # a home that cannot be written: then there are no reports

    def end(self) -> None:
        """Stop watching."""
        sys.excepthook, threading.excepthook = self._before
        if self._hard is not None:
            faulthandler.disable()
            self._hard.close()
            self._hard = None

    def _hook(self, kind: type[BaseException], value: BaseException | None, trace: TracebackType | None) -> None:
        if value is None or issubclass(kind, KeyboardInterrupt | SystemExit):
            sys.__excepthook__(kind, value or kind(), trace)
            return
        text = "".join(traceback.format_exception(kind, value, trace))
        print(text, file=sys.stderr, end="")
        self.keep(text)
        short = " ".join(f"{kind.__name__}: {value}".split())
        self.told.emit(
            f"Something went wrong in the program ({short[:120]}). What was typed is kept; View, Crash report copies why."
        )

    def keep(self, text: str) -> Path | None:
        """Write a report; the last MOST stay. The home folder's name is left out. None where it cannot be written."""
        now = datetime.now().astimezone()
        head = (
            f"Yellow Bob {__version__}, {now:%Y-%m-%d %H:%M:%S%z}\n"
            f"Python {platform.python_version()}, {platform.platform()}\n\n"
        )
        file = self.folder / f"crash-{now:%Y%m%d-%H%M%S-%f}.txt"
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            file.write_text(head + text.replace(os.path.expanduser("~"), "~"), encoding="utf-8")
            for old in self.reports()[MOST:]:
                old.unlink(missing_ok=True)
        except OSError:
            return None
        return file

    def reports(self) -> list[Path]:
        """The reports there are, the newest first."""
        return sorted(self.folder.glob("crash-*.txt"), reverse=True)

    def last(self) -> str:
        """The newest report; empty where nothing went wrong."""
        for file in self.reports():
            try:
                return file.read_text(encoding="utf-8")
            except OSError:
                continue
        return ""
