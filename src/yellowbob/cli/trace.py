"""The command that traces a picture."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import Json, Out
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    from yellowbob.lines.tracing.silhouette import Stroke


def _place(text: str, what: str) -> tuple[float, float]:
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError:
        raise BadInput(f"{what} '{text}' is no place in the picture; write X,Y in pixels, such as 120,340") from None
    return x, y


def _own_ends(
    body_from: str | None, body_to: str | None, beside: bool
) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """The body's own two ends where the known length lies beside it; None: not given. Raises BadInput."""
    if (body_from is None) != (body_to is None):
        raise BadInput("the body's ends are two: give both --body-from and --body-to")
    if body_from is None or body_to is None:
        return None
    if not beside:
        raise BadInput("--body-from and --body-to go with --beside: without it the known length's ends are the body's")
    return _place(body_from, "--body-from"), _place(body_to, "--body-to")


def _level(level_from: str | None, level_to: str | None) -> NDArray[np.float64] | None:
    """The way, px, of a line that lies level; None: not given. Raises BadInput."""
    import numpy as np

    from yellowbob.lines.tracing.clicked import scale_of

    if (level_from is None) != (level_to is None):
        raise BadInput("a level line needs both --level-from and --level-to")
    if level_from is None or level_to is None:
        return None
    one, two = sorted((_place(level_from, "--level-from"), _place(level_to, "--level-to")))
    scale_of(1.0, one, two)
    return np.subtract(two, one)


def _dabs(texts: list[str], paint_in: bool) -> list[Stroke]:
    from yellowbob.lines.tracing.silhouette import Stroke

    found = []
    for text in texts:
        try:
            x, y, radius = (float(part) for part in text.split(","))
        except ValueError:
            raise BadInput(f"the dab '{text}' is none; write X,Y,R in pixels, such as 120,340,15") from None
        if not 0 < radius < 1e5:
            raise BadInput(f"the dab '{text}' has no radius; write X,Y,R in pixels, such as 120,340,15")
        found.append(Stroke((x, y), radius, paint_in))
    return found


@command(CONTRACTS["trace"])
def trace(
    image: Annotated[Path, typer.Argument(help="a PNG or JPEG on a plain background, which may be ruled")],
    known: Annotated[str, typer.Option(help="a known length in the picture, such as '120 mm'")],
    start: Annotated[str, typer.Option("--from", metavar="X,Y", help="one end of it, pixels from the top left")],
    end: Annotated[str, typer.Option("--to", metavar="X,Y", help="its other end")],
    out: Out,
    turned: Annotated[bool, typer.Option(help="a lathe body: one profile")] = False,
    plan: Annotated[Path | None, typer.Option(help="a second picture, from above")] = None,
    nose: Annotated[str, typer.Option(help="the end the nose is at: left or right")] = "left",
    level_from: Annotated[str | None, typer.Option(metavar="X,Y", help="a line that lies level: one end")] = None,
    level_to: Annotated[str | None, typer.Option(metavar="X,Y", help="its other end")] = None,
    error: Annotated[str | None, typer.Option(help="error the curves must hold, such as '0.2 mm'")] = None,
    beside: Annotated[
        bool, typer.Option("--beside", help="the known length lies on a ruler or the like, not on it")
    ] = False,
    body_from: Annotated[str | None, typer.Option(metavar="X,Y", help="with --beside: one end of the body")] = None,
    body_to: Annotated[str | None, typer.Option(metavar="X,Y", help="its other end")] = None,
    paint_in: Annotated[list[str] | None, typer.Option(metavar="X,Y,R", help="a dab that is body, pixels")] = None,
    paint_out: Annotated[list[str] | None, typer.Option(metavar="X,Y,R", help="a dab that is none, pixels")] = None,
    patient: Annotated[
        bool,
        typer.Option("--patient", help="read a large picture, or one on a much ruled ground, however long it takes"),
    ] = False,
    as_json: Json = False,
) -> None:
    """Outlines from a picture with one known length."""
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.lines.tracing.clicked import scale_of
    from yellowbob.lines.tracing.picture_file import read_picture

    if nose not in ("left", "right"):
        raise BadInput(f"--nose '{nose}': say left or right")
    one, two = _place(start, "--from"), _place(end, "--to")
    own = _own_ends(body_from, body_to, beside)
    scale = scale_of(read_quantity(known, "length"), one, two)
    along = _level(level_from, level_to)
    strokes = [*_dabs(paint_in or [], True), *_dabs(paint_out or [], False)]
    bound = read_quantity(error, "length") if error else None
    with ThreadPoolExecutor(1) as pool:
        reading = pool.submit(read_picture, image, patient)  # what looks at it is brought in meanwhile
        from yellowbob.design.files import write_design
        from yellowbob.lines.tracing.silhouette import find_silhouette
        from yellowbob.lines.tracing.trace import traced, traced_design

    side = find_silhouette(reading.result(), own or (one, two), beside and own is None, strokes, patient)
    above = find_silhouette(read_picture(plan, patient), patient=patient) if plan else None
    found = traced(side, scale, turned, above, along, nose, bound)
    write_design(traced_design(found, out.stem), out)
    report = {
        "length_mm": found.length_mm, "depth_mm": found.depth_mm, "silhouette_mm2": found.area_mm2,
        "fit_error_mm": found.fit_error_mm, "points": found.points, "warnings": list(found.warnings),
    }  # fmt: skip
    if as_json:
        print_json(report)
        return
    typer.echo(
        f"{found.length_mm:.1f} mm long, {found.depth_mm:.1f} mm deep; {found.points} points hold {found.fit_error_mm:.2f} mm"
    )
    for warning in found.warnings:
        typer.echo(f"  mind: {warning}")
