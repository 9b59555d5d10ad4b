"""Commands that take long say so: a bar on a terminal, else a line now and then, on standard error."""

from __future__ import annotations

import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

from yellowbob.ground.progress import Told

QUIET_S, AGAIN_S = 3.0, 15.0
"""Nothing is said before QUIET_S; without a terminal a line is written every AGAIN_S."""
BAR = 24
LOOK_S = 0.25
_bars = 0
"""How many bars are shown now."""


@contextmanager
def watched() -> Iterator[None]:
    """While it lasts, a slow result that takes longer than QUIET_S is named with the time it has taken, on standard error."""
    done = threading.Event()
    watcher = threading.Thread(target=_watch, args=(done,), daemon=True)
    watcher.start()
    try:
        yield
    finally:
        done.set()
        watcher.join(2.0 * LOOK_S)


def _watch(done: threading.Event) -> None:
    terminal, since, said, shown = sys.stderr.isatty(), 0.0, 0.0, False
    while not done.wait(LOOK_S):
        now = time.monotonic()
        engine = sys.modules.get("yellowbob.study.engine")  # not brought in for commands that do without
        words = next(iter(getattr(engine, "AT_WORK", ())[-1:]), "")  # or being brought in just now
        if not words or _bars or "PySide6.QtWidgets" in sys.modules:  # a window says it itself
            since = 0.0
            continue
        since = since or now
        passed = now - since
        if passed < QUIET_S or (not terminal and now - said < AGAIN_S):
            continue
        said, shown = now, terminal
        told = f"{words}: {passed:.0f} s so far; Ctrl-C stops"
        line, end = (f"\r{told}\033[K", "") if terminal else (f"yellow-bob: {told}", "\n")
        print(line, end=end, file=sys.stderr, flush=True)
    if shown:
        print("\r\033[K", end="", file=sys.stderr, flush=True)


@contextmanager
def patience(what: str) -> Iterator[Told]:
    """Hands out a `told` for work that may take long: `what` is what is being done, as `trying 40 trims`."""
    global _bars
    _bars += 1
    begun = time.monotonic()
    said = begun + QUIET_S - AGAIN_S
    bar = sys.stderr.isatty()

    def told(share: float) -> bool:
        nonlocal said
        now = time.monotonic()
        passed = now - begun
        if passed < QUIET_S or (not bar and now - said < AGAIN_S):
            return True
        said = now
        left = f", about {passed * (1.0 - share) / share:.0f} s to go" if share > 0.02 else ""
        done = round(BAR * share)
        words = f"{what}: [{'=' * done}{' ' * (BAR - done)}] {100 * share:.0f} %{left}; Ctrl-C stops"
        print(
            f"\r{words}\033[K" if bar else f"yellow-bob: {words}", end="" if bar else "\n", file=sys.stderr, flush=True
        )
        return True

    try:
        yield told
    finally:
        _bars -= 1
        if bar and time.monotonic() - begun > QUIET_S:
            print("\r\033[K", end="", file=sys.stderr, flush=True)
