"""Commands for the shop: stations, holes, schedule, packet, blank, as made, cost, mould."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Out, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

Stock = Annotated[
    list[str] | None, typer.Option(help="a board, thick x wide x long, such as '19x90x900 mm'; again for more")
]
CARE = "cure times are typical: follow the product's data sheet, its ventilation and your local rules"


@command(CONTRACTS["stations"])
def stations(
    file: DesignFile,
    error: Annotated[str, typer.Option(help="that a straight cut between two may be off")] = "0.25 mm",
    every: Annotated[str | None, typer.Option(help="a fixed spacing instead, such as '10 mm'")] = None,
    as_json: Json = False,
) -> None:
    """Test stations from the nose, with what is measured there: between two a straight cut stays within the error."""
    from yellowbob.reports.shop import stations_report
    from yellowbob.shop.stations import stations as found_by

    study = study_of(file)
    spacing = None if every is None else read_quantity(every, "length")
    report = stations_report(study, found_by(study.design, read_quantity(error, "length"), spacing))
    if as_json:
        print_json(report)
        return
    for one in report["stations"]:
        told = "  ".join(f"{name} {size:.2f}" for name, size in one["sizes_mm"].items())
        typer.echo(f"{one['at_mm']:8.2f} mm  {told}")
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
                   f"{one['off_mm']:.1f} off "
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
    )  # fmt: skip
    if as_json:
        print_json({"wrote": str(out), "pages": wrote})
        return
    typer.echo(f"wrote {out}: {', '.join(wrote)}. Print at 100 %, and check the 100 mm rule.")


@command(CONTRACTS["blank"])
def blank(
    files: Annotated[list[Path], typer.Argument(help="one .ybob design or several, cut from the same stock")],
    stock: Stock = None,
    copies: Annotated[int, typer.Option(help="how many of each")] = 1,
    kerf: Annotated[str, typer.Option(help="of the saw")] = "2 mm",
    bed: Annotated[str | None, typer.Option(help="the longest piece the lathe takes")] = None,
    as_json: Json = False,
) -> None:
    """From stock on hand to blank: layers, wafers, glue, clamps; and the cut list that uses up least of the boards."""
    from yellowbob.reports.shop import blank_report
    from yellowbob.shop.blank import cut_for
    from yellowbob.shop.boards import read_board

    kerf_mm = read_quantity(kerf, "length")
    found = cut_for(
        [study_of(file) for file in files], [read_board(one) for one in stock or ()], copies, kerf_mm,
        None if bed is None else read_quantity(bed, "length"),
    )  # fmt: skip
    report = blank_report(found, kerf_mm)
    if as_json:
        print_json(report)
        return
    for one in report["blanks"]:
        typer.echo(
            f"{one['name']}: {one['long_mm']:.0f} × {one['wide_mm']:.1f} × {one['high_mm']:.1f} mm, for the "
            f"{one['way']}"
        )
        for layer in one["layers"]:
            typer.echo(
                f"   {layer['name']}, {layer['thick_mm']:.1f} mm, from {layer['from_mm']:+.1f} mm off the middle"
            )
        for words in (*one["glue"], *one["steps"]):
            typer.echo(f"   {words}")
        for words in one["says"]:
            typer.echo(f"   ! {words}")
    cuts = report["cuts"]
    for piece in cuts["pieces"]:
        size = f"{piece['long_mm']:.0f} × {piece['wide_mm']:.1f} × {piece['thick_mm']:.1f} mm"
        at = f"{piece['at_mm']:.1f} mm from its end, {piece['off_mm']:.1f} from its edge"
        typer.echo(f"board {piece['board']}, {at}: {piece['name']}, {size}")
    least = "nothing uses less" if cuts["proven"] else "perhaps not the least: too many pieces to try every way"
    typer.echo(
        f"cut off {', '.join(f'{u:.0f} mm' for u in cuts['used_mm'])}; {cuts['waste_percent']:.0f} % left over; {least}"
    )


@command(CONTRACTS["made"])
def made(
    file: DesignFile,
    stations: Annotated[
        Path | None, typer.Option(help="CSV: at and any of diameter, back, belly, half width, port, starboard")
    ] = None,
    holes: Annotated[Path | None, typer.Option(help="CSV: name and any of at, off, diameter, depth")] = None,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="the .ybob to write it to, as made")] = None,
    as_json: Json = False,
) -> None:
    """Stations and holes measured back on the piece become its shape and places; what uneven sides do."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.shop import made_report
    from yellowbob.shop.made import made as as_made
    from yellowbob.shop.made import read_holes, read_stations, uneven
    from yellowbob.study import Study

    if stations is None and holes is None:
        raise BadInput("nothing is measured: give --stations or --holes, a CSV each")
    drawn = study_of(file)
    readings = [] if stations is None else read_stations(stations)
    new = as_made(drawn.design, readings, [] if holes is None else read_holes(holes))
    if out is not None:
        write_design(new, out)
    report = made_report(drawn, Study(new), uneven(new, readings), None if out is None else str(out))
    if as_json:
        print_json(report)
        return
    for key, unit in (("volume_ml", "mL"), ("mass_g", "g"), ("reserve_g", "g"), ("pitch_deg", "°"), ("draft_mm", "mm")):
        one, two = (report[name][key] for name in ("drawn", "made"))
        told = ["sinks" if v is None else f"{v:.2f} {unit}" for v in (one, two)]
        typer.echo(f"{key.rpartition('_')[0]:10} drawn {told[0]:>12}   made {told[1]:>12}")
    sides = report["uneven"]
    if sides is not None:
        lists = "sinks" if sides["roll_deg"] is None else f"lists {sides['roll_deg']:+.1f}°"
        typer.echo(f"sides: its middle wanders {sides['most_mm']:+.2f} mm (to starboard positive); {lists}")


@command(CONTRACTS["cost"])
def cost(
    file: DesignFile, copies: Annotated[int, typer.Option(help="how many pieces")] = 1, as_json: Json = False
) -> None:  # fmt: skip
    """Hours of hands and what goes in at the shelf's prices, for one and for the batch: rules of thumb."""
    from yellowbob.reports.shop import cost_report
    from yellowbob.shop.cost import reckoned

    study = study_of(file)
    report = cost_report(study, reckoned(study, copies))
    if as_json:
        print_json(report)
        return
    for step in report["steps"]:
        typer.echo(
            f"{step['minutes']:6.0f} min  {step['name']}" + (f", {step['times']} times" if step["times"] > 1 else "")
        )
    typer.echo(
        f"{report['minutes_each'] / 60:.1f} h for one, {report['minutes_batch'] / 60:.1f} h for {copies} "
        f"(rules of thumb)"
    )
    for goods in report["goods"]:
        price = "no price on the shelf" if goods["cost"] is None else f"{goods['cost']:.2f}"
        typer.echo(f"{goods['amount']:8.3g} × {goods['unit']:7} {goods['name']}: {price}")
    typer.echo(f"{report['cost_each']:.2f} for one, {report['cost_batch']:.2f} for {copies}, of what has a price")


@command(CONTRACTS["mould"])
def mould(
    file: DesignFile,
    copies: Annotated[int, typer.Option(help="how many casts")] = 1,
    pose: Annotated[str, typer.Option(help="how it stands: tail up, nose up, belly up, back up")] = "",
    resin: Annotated[str, typer.Option(help="by its name on the shelf")] = "",
    powder: Annotated[str, typer.Option(help="by its name on the shelf")] = "",
    as_json: Json = False,
) -> None:
    """A mould for the body: box, rubber and resin by mass, where to pour and vent, what hangs in it."""
    from yellowbob.reports.shop import mould_report
    from yellowbob.shop.mould import mould_of

    study = study_of(file)
    report = mould_report(study, mould_of(study, copies, pose, resin, powder))
    if as_json:
        print_json(report)
        return
    box = " × ".join(f"{v:.0f}" for v in report["box_mm"])
    typer.echo(f"box inside {box} mm, {report['rubber_ml']:.0f} mL of rubber (about {report['rubber_g']:.0f} g)")
    at = report["pour_mm"]
    typer.echo(f"poured {report['pose']}, in at {at[0]:.1f} mm from the nose, {at[2]:+.1f} from the axis")
    for vent in report["vents_mm"]:
        typer.echo(f"vent at {vent[0]:.1f} mm from the nose, {vent[2]:+.1f} from the axis")
    for batch in report["batches"]:
        typer.echo(
            f"{batch['casts']} casts: A {batch['a_g']:.1f} g, B {batch['b_g']:.1f} g, powder {batch['powder_g']:.1f} g"
        )
    for words in (*report["harness"], *report["says"]):
        typer.echo(f"! {words}")
    typer.echo("(resin: gloves, air, eye protection; the data sheets and your local rules decide)")
