"""Commands of the log at the bench: pictures, hours, pieces measured back, pucks, words for speeds, entries taken off."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.log import Serial, log_app, the_log
from yellowbob.cli.log_found import add_entry
from yellowbob.cli.options import Json
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

__all__ = ["log_app"]


@log_app.command()
def photo(
    serial: Serial,
    picture: Annotated[Path, typer.Argument(help="PNG, JPEG or TIFF; it is copied to the log's folder")],
    words: Annotated[str, typer.Option(help="what it shows")] = "",
    as_json: Json = False,
) -> None:
    """A picture of a build."""
    from yellowbob.logbook.photos import copied
    from yellowbob.logbook.records import Photo

    add_entry(serial, "photo", Photo(file=copied(the_log(), serial, picture), words=words), as_json)


@log_app.command("time")
def time_(
    serial: Serial,
    on: Annotated[str, typer.Argument(help="what it was spent on")],
    hours: Annotated[float, typer.Argument()],
    as_json: Json = False,
) -> None:
    """Hours spent on a build."""
    from yellowbob.design.base import made
    from yellowbob.logbook.records import Spent

    add_entry(serial, "time", made(Spent, on=on, hours=hours), as_json)


@log_app.command("made")
def made_(
    serial: Serial,
    stations: Annotated[
        Path | None, typer.Option(help="CSV: at and any of diameter, back, belly, half width, port, starboard")
    ] = None,
    holes: Annotated[Path | None, typer.Option(help="CSV: name and any of at, off, diameter, depth")] = None,
    as_json: Json = False,
) -> None:
    """Stations and holes measured back: the build's design becomes the piece as it was made."""
    from yellowbob.reports.log import entry_out
    from yellowbob.shop.kept_made import keep_made
    from yellowbob.shop.made import read_holes, read_stations

    if stations is None and holes is None:
        raise BadInput("nothing was measured: give --stations or --holes")
    log = the_log()
    keep_made(log, serial, read_stations(stations) if stations else (), read_holes(holes) if holes else ())
    entry = log.entries(serial, "made")[-1]
    if as_json:
        print_json({"serial": serial, "entry": entry_out(entry)})
        return
    typer.echo(f"{serial}: its design in the log is as made now; `log report` and `log next` go by it")


@log_app.command()
def drop(
    number: Annotated[int, typer.Argument(help="of the entry, as `log report --json` tells it")], as_json: Json = False
) -> None:
    """Take an entry off a build."""
    from yellowbob.shop.kept_made import take_off

    serial = take_off(the_log(), number)
    if as_json:
        print_json({"wrote": None, "serials": [serial], "refused": []})
        return
    typer.echo(f"{serial}: entry {number} is off")


@log_app.command()
def puck(
    resin: Annotated[str, typer.Argument(help="by its name on the shelf")],
    mass: Annotated[str, typer.Option(help="on the scale")],
    volume: Annotated[str | None, typer.Option(help="of the cup it filled, level")] = None,
    size: Annotated[str | None, typer.Option(help="DIAMETERxHEIGHT, where it was measured instead")] = None,
    powder: Annotated[str, typer.Option(help="stirred in, by its name on the shelf")] = "",
    share: Annotated[float, typer.Option(help="of the mass that is powder, 0 to 1")] = 0.0,
    as_json: Json = False,
) -> None:
    """A puck of resin, with powder or without: what both weigh is learnt from pucks."""
    from yellowbob.design.base import made
    from yellowbob.logbook.records import Puck
    from yellowbob.logbook.sides import pucks_of, put_puck
    from yellowbob.reports.log_sets import pucks_report
    from yellowbob.shelf.shipped import powders, resins, taken
    from yellowbob.trials.learned import learned

    if (volume is None) == (size is None):
        raise BadInput("give the puck's --volume, or its --size DIAMETERxHEIGHT")
    taken(resins(), resin)
    if powder:
        taken(powders(), powder)
    log = the_log()
    volume_ml = read_quantity(volume, "volume") if volume is not None else _cylinder_ml(size or "")
    put_puck(log, made(Puck, resin=resin, mass_g=read_quantity(mass, "mass"), volume_ml=volume_ml, powder=powder,
                       powder_share=share))  # fmt: skip
    found = learned((), pucks=pucks_of(log)).pucks
    if as_json:
        print_json(pucks_report(found))
        return
    for name, t in {**found.resins, **found.powders}.items():
        typer.echo(f"{name}: {t.mean:.3f} g/mL ({t.low:.3f} to {t.high:.3f}), shelf {t.shelf:.3f}, {t.count} pucks")
    for words in found.aside:
        typer.echo(f"! {words}")


def _cylinder_ml(text: str) -> float:
    wide, cross, high = text.lower().replace("×", "x").partition("x")
    if not cross:
        raise BadInput(f"--size '{text}': write its diameter and height, such as 40x12 mm")
    import math

    unit = "".join(c for c in high if c.isalpha() or c in "\"″'")
    return (
        math.pi
        / 4.0
        * read_quantity(wide if any(c.isalpha() for c in wide) else wide + unit, "length") ** 2
        * (read_quantity(high, "length"))
        / 1000.0
    )


@log_app.command()
def speed(
    words: Annotated[str, typer.Argument(help="such as 'motor 3'; none: list what was taught")] = "",
    is_: Annotated[
        str, typer.Argument(metavar="SPEED", help="what it is: 0.7 m/s, 2 km/h, walk, turns of the reel")
    ] = "",
    as_json: Json = False,
) -> None:
    """Teach a word for a speed, or say what one means."""
    from yellowbob.logbook.sides import speeds_of, teach_speed
    from yellowbob.logbook.speeds import read_speed

    log = the_log()
    own = speeds_of(log)
    if is_:
        told = teach_speed(log, words, read_speed(is_, own))
        own = {told: speeds_of(log)[told]}
    elif words:
        own = {words: read_speed(words, own)}
    if as_json:
        print_json({"speeds": own})
        return
    for name, value in own.items():
        typer.echo(f"{name}: {value:.2f} m/s")
    if not own:
        typer.echo("no words for speeds were taught")
