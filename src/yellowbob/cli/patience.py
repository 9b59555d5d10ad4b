"""Commands that take long say so: a bar on a terminal, else a line now and then, on standard error."""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager

from yellowbob.ground.progress import Told

QUIET_S, AGAIN_S = 3.0, 15.0
"""Nothing is said before QUIET_S; without a terminal a line is written every AGAIN_S."""
BAR = 24


@contextmanager
def patience(what: str) -> Iterator[Told]:
    """Hands out a `told` for work that may take long: `what` is what is being done, as `trying 40 trims`."""
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
        if bar and time.monotonic() - begun > QUIET_S:
            print("\r\033[K", end="", file=sys.stderr, flush=True)
