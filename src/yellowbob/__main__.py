"""The front door: the command line, with the commands that open the window."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.main import app, main

__all__ = ["main"]


@app.command("open")
def open_(
    file: Annotated[Path | None, typer.Argument(help="a .ybob design; the last one when left out")] = None,
) -> None:
    """Open the window."""
    from yellowbob.app.frame.main import run

    raise typer.Exit(run(file))


@app.command()
def demo(
    pictures: Annotated[Path, typer.Option(help="where pictures go when there is no display")] = Path("build/demo"),
) -> None:
    """Start with the demo workshop; with no display, print its results and write its pictures."""
    from yellowbob.app.frame.demo import run_demo

    raise typer.Exit(run_demo(pictures))


if __name__ == "__main__":
    main()
