"""The command that puts a hook or a piece of hardware from the shelf on a design."""

from __future__ import annotations

from typing import Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Out
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS


def _place(text: str) -> tuple[float, float, float]:
    parts = text.split(",")
    if len(parts) != 3:
        raise BadInput(f"--at '{text}': write X,Y,Z from the nose, to starboard and up, such as 40,0,-8")
    x, y, z = (read_quantity(part, "length") for part in parts)
    return x, y, z


@command(CONTRACTS["fit"])
def fit(
    file: DesignFile,
    stock: Annotated[str, typer.Argument(help="its name on the shelf: `shelf list hooks`, `shelf list hardware`")],
    at: Annotated[str, typer.Option(metavar="X,Y,Z", help="where its eye or middle is, from the nose")],
    out: Out,
    name: Annotated[
        str | None, typer.Option(help="what it is called on the slip; its shelf name when left out")
    ] = None,
    dressing: Annotated[
        str | None, typer.Option(help="of a hook, tied on it: its name on the shelf, `shelf list dressings`")
    ] = None,
    framed: Annotated[
        bool, typer.Option("--framed", help="a prop or blade on a wire frame from the nose over the back")
    ] = False,
    as_json: Json = False,
) -> None:
    """Put a hook or a piece of hardware from the shelf on a design, with the mass that the shelf gives it."""
    from yellowbob.design.files import write_design
    from yellowbob.design.wire_edits import with_frame
    from yellowbob.shelf.filling import fitting_of, opened
    from yellowbob.shelf.fitting import dressed
    from yellowbob.shelf.shipped import dressings, taken
    from yellowbob.study import Study, of

    design, place = opened(file), _place(at)
    made = fitting_of(stock, place, name or stock)
    if dressing is not None:
        if made.sort != "hook":
            raise BadInput(f"--dressing: {stock} is no hook")
        made = dressed(made, taken(dressings(), dressing))
    if framed:
        if made.sort not in ("prop", "blade"):
            raise BadInput(f"--framed: {stock} does not turn; a frame carries a prop or a blade")
        low, high = of.outer(Study(design)).bounds[:, 0]
        write_design(with_frame(design, made, float(low), float(high)), out)
    else:
        write_design(design.but(fittings=(*design.fittings, made)), out)
    if as_json:
        print_json({"wrote": str(out), "name": made.name, "sort": made.sort, "mass_g": made.mass_g,
                    "volume_ml": made.volume_ml, "in_wood_ml": made.in_wood_ml})  # fmt: skip
        return
    typer.echo(f"wrote {out}: {made.name}, {made.mass_g:.2f} g")
