"""Commands for the shop: stations, holes, schedule, packet."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Out, Stock, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

CARE = "cure times are typical: follow the product's data sheet, its ventilation and your local rules"


@command(CONTRACTS["stations"])
def stations(
    file: DesignFile,
    error: Annotated[str, typer.Option(help="that a straight cut between two may be off")] = "0.25 mm",
    every: Annotated[str | None, typer.Option(help="a fixed spacing instead, such as '10 mm'")] = None,
    bed: Annotated[str | None, typer.Option(help="the longest piece the lathe takes")] = None,
    as_json: Json = False,
) -> None:
    """Test stations from the nose, with what is measured there: between two a straight cut stays within the error."""
    from yellowbob.reports.shop import stations_report
    from yellowbob.shop.blank import ends_of
    from yellowbob.shop.stations import stations as found_by

    study = study_of(file)
    spacing = None if every is None else read_quantity(every, "length")
    found = found_by(study.design, read_quantity(error, "length"), spacing)
    ends = ends_of(study.design.shape.length_mm, found.turned, None if bed is None else read_quantity(bed, "length"))
    report = stations_report(study, found, ends)
    if as_json:
        print_json(report)
        return
    for one in report["stations"]:
        told = "  ".join(f"{name} {size:.2f}" for name, size in one["sizes_mm"].items())
        typer.echo(f"{one['at_mm']:8.2f} mm  {told}   cut {one['cut']}")
    if report["turned"]:
        typer.echo(f"{report['long_mm']:.0f} mm between centres, {report['ends_mm']:.1f} mm of waste at either end; "
                   f"widest first, "
                   f"part off at 0 and {report['parting_mm'][1]:.1f} mm last")  # fmt: skip
    for words in report["says"]:
        typer.echo(f"! {words}")
    typer.echo(
        f"straight cuts between them are {report['misses_mm']:.2f} mm off at most; sizes are bare, before the finish"
    )


@command(CONTRACTS["holes"])
def holes(file: DesignFile, as_json: Json = False) -> None:
    """Every hole from the nose and the centre line, with its bit, what is left of the wall, and the order to drill in."""
    from yellowbob.reports.shop import holes_report
    from yellowbob.shop.bores import bores

    study = study_of(file)
    report = holes_report(study, bores(study))
    if as_json:
        print_json(report)
        return
    for number, one in enumerate(report["holes"], 1):
        both = f", from both ends to meet within {one['meets_mm']:.1f} mm" if one["both_ends"] else ""
        lean = f", leaning {one['lean_deg']:g}°" if one["lean_deg"] else ""
        typer.echo(f"{number}. {one['name']}: from the {one['side']}, {one['at_mm']:.1f} mm from the nose, "
                   f"{one['off_mm']:z.1f} off "
                   f"the centre line{lean}; {one['diameter_mm']:g} × {one['depth_mm']:g} mm{both}")  # fmt: skip
        typer.echo(f"   {one['bit'] or 'no bit'}; wall left {one['wall_mm']:.1f} mm; {one['holds']}"
                   + (f"; plug {one['plug']}" if one["plug"] else ""))  # fmt: skip
        if one["says"]:
            typer.echo(f"   ! {one['says']}")
    if not report["holes"]:
        typer.echo("no holes")


@command(CONTRACTS["schedule"])
def schedule(
    file: DesignFile,
    start: Annotated[str, typer.Option(help="when the first coat may go on, such as 2026-03-27T18:00")],
    hours: Annotated[str, typer.Option(help="working hours of each day")] = "18:00-22:00",
    copies: Annotated[int, typer.Option(help="how many pieces")] = 1,
    places: Annotated[int, typer.Option(help="places on the turner")] = 2,
    zone: Annotated[str, typer.Option(help="of the times, such as Europe/Vienna")] = "UTC",
    temperature: Annotated[float, typer.Option(help="of the shop or warm box, °C")] = 20.0,
    humidity: Annotated[float, typer.Option(help="of its air, per cent")] = 50.0,
    ics: Annotated[Path | None, typer.Option(help="an .ics calendar to write it to")] = None,
    as_json: Json = False,
) -> None:
    """When each coat goes on: hands, turner and curing apart, a batch overlapped; as a calendar too. Cure times are
    typical."""
    from zoneinfo import ZoneInfo

    from yellowbob.reports.shop import schedule_report
    from yellowbob.shop.schedule import calendar_of, hours_of, layers_of, zoned
    from yellowbob.shop.schedule import schedule as laid

    study = study_of(file)
    layers, says = layers_of(study.design, temperature, humidity)
    plan = laid(layers, copies, places, zoned(start, zone), hours_of(hours), says)
    if ics is not None:
        try:
            ics.write_bytes(calendar_of(plan, study.design.name))
        except OSError as error:
            raise BadInput(f"{ics}: cannot be written ({error.strerror or error})") from None
    report = schedule_report(study, plan, None if ics is None else str(ics))
    if as_json:
        print_json(report)
        return
    local = ZoneInfo(plan.zone)
    for task in plan.tasks:
        turner = (
            f", turner {task.place + 1} until {task.set_at.astimezone(local):%H:%M}" if task.place is not None else ""
        )
        typer.echo(f"{task.begins.astimezone(local):%a %d %b %H:%M}-{task.ends.astimezone(local):%H:%M}  "
                   f"no. {task.copy + 1}  "
                   f"{task.name}{turner}")  # fmt: skip
    for number, at in enumerate(plan.ready, 1):
        typer.echo(f"no. {number} cured {at.astimezone(local):%a %d %b %H:%M}")
    typer.echo(f"{plan.hands_min / 60.0:.1f} h of hands")
    for words in plan.says:
        typer.echo(f"! {words}")
    typer.echo(f"({CARE})")


@command(CONTRACTS["packet"])
def packet(
    file: DesignFile,
    out: Out,
    pages: Annotated[
        str | None, typer.Option(help="which, such as 'templates,holes'; all that apply when left out")
    ] = None,
    paper: Annotated[str, typer.Option(help="a4 or letter")] = "a4",
    copies: Annotated[int, typer.Option(help="how many pieces")] = 1,
    stock: Stock = None,
    start: Annotated[str | None, typer.Option(help="of the schedule's page, such as 2026-03-27T18:00")] = None,
    hours: Annotated[str, typer.Option(help="working hours of each day")] = "18:00-22:00",
    zone: Annotated[str, typer.Option(help="of the times, such as Europe/Vienna")] = "UTC",
    unit: Annotated[str, typer.Option(help="of the templates' grid: mm or in")] = "mm",
    bed: Annotated[str | None, typer.Option(help="the longest piece the lathe takes")] = None,
    as_json: Json = False,
) -> None:
    """What goes to the bench on paper: cover, templates at true size, stations, holes, blank, wire, sheet, mould, paint,
    finish, hours, cautions; as PDF."""
    from yellowbob.shop.boards import read_board
    from yellowbob.shop.packet import write_packet
    from yellowbob.shop.schedule import hours_of, zoned

    if unit not in ("mm", "in"):
        raise BadInput(f"unit '{unit}': say mm or in")
    chosen = None if pages is None else [name.strip() for name in pages.split(",") if name.strip()]
    wrote = write_packet(
        study_of(file), out, chosen, paper, copies, [read_board(one) for one in stock or ()],
        None if start is None else zoned(start, zone), hours_of(hours), unit == "in",
            None if bed is None else read_quantity(bed, "length"),
    )  # fmt: skip
    if as_json:
        print_json({"wrote": str(out), "pages": wrote})
        return
    typer.echo(f"wrote {out}: {', '.join(wrote)}. Print at 100 %, and check the 100 mm rule.")
