"""The commands that open the window, entered beside those of the command line."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.main import app
from yellowbob.cli.options import SPEED, DesignFile, Drawn, Json, Out, speed_of, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.reports.contract import CONTRACTS

__all__ = ["app"]


@app.command("open")
def open_(
    file: Annotated[Path | None, typer.Argument(help="a .ybob design; the last one when left out")] = None,
) -> None:
    """Open the window."""
    from yellowbob.app.start.run import run

    raise typer.Exit(run(file))


@app.command()
def demo(
    pictures: Annotated[Path, typer.Option(help="where pictures go when there is no display")] = Path("build/demo"),
) -> None:
    """Start with the demo workshop; with no display, print its results and write its pictures."""
    from yellowbob.app.frame.demo import run_demo

    raise typer.Exit(run_demo(pictures))


@app.command()
@command(CONTRACTS["film"])
def film(
    file: DesignFile,
    out: Out,
    speed: Drawn = None,
    throw: Annotated[
        float | None, typer.Option(parser=speed_of, metavar="M_S", help=f"thrown at instead, {SPEED}")
    ] = None,
    as_json: Json = False,
) -> None:
    """A short film of the run at a speed, or of a throw: animated .webp, or a row of pictures as .png. No display is
    needed."""
    from yellowbob.app.frame.filming import film_of

    if (speed is None) == (throw is None):
        raise BadInput("say --speed for a run or --throw for a throw, one of them")
    study = study_of(file)
    frames = film_of(study, out, speed, throw)
    if as_json:
        print_json({"wrote": str(out), "frames": frames})
        return
    typer.echo(f"wrote {out}: {frames} frame{'s' if frames > 1 else ''} (an estimate's film)")
