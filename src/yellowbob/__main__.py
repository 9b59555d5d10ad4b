"""The front door. Who asks for the window has it before the rest of the program is read; all else goes to the command
line."""

from __future__ import annotations

import atexit
import gc
import os
import sys
from importlib import import_module
from pathlib import Path

from yellowbob import COMPLETES

SUFFIX = ".ybob"
RARELY = 50_000
"""A command looks for garbage when so many more things were made than let go."""


def window_asked(arguments: list[str]) -> list[Path] | None:
    """The files to open where nothing but the window is asked for (none: the last one); None where it is a command."""
    words = arguments[1:] if arguments[:1] == ["open"] else arguments
    plain = all(word.endswith(SUFFIX) and not word.startswith("-") for word in words)
    return [Path(word) for word in words] if plain and COMPLETES not in os.environ else None


def main(arguments: list[str] | None = None) -> None:
    """Open the window or run a command, and exit; 0 well, 1 a check failed, 2 bad input with one line on standard error."""
    words = sys.argv[1:] if arguments is None else arguments
    files = window_asked(words)
    if files is None:
        gc.set_threshold(RARELY)  # to look for garbage while the program is brought in takes 3 % of a short command
        atexit.register(gc.freeze)  # to look through all there is for garbage at the end takes a tenth of a second
        import_module("yellowbob.app.commands")  # enters those that open the window
        import_module("yellowbob.cli.main").main(words)
        return
    from yellowbob.app.start.run import run
    from yellowbob.ground.errors import YellowBobError

    try:
        sys.exit(run(*files))
    except YellowBobError as error:
        print("yellow-bob: " + " ".join(str(error).split()), file=sys.stderr)
        sys.exit(2)


if __name__ == "__main__":
    main()
