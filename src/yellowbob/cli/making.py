"""Commands for making: blank and cut list, as made, hours and cost, mould."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Stock, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS


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
                f"   {layer['name']}, {layer['thick_mm']:.1f} mm, from {layer['from_mm']:+z.1f} mm off the middle"
            )
        for words in (*one["glue"], *one["steps"]):
            typer.echo(f"   {words}")
        for words in one["says"]:
            typer.echo(f"   ! {words}")
    cuts = report["cuts"]
    for piece in cuts["pieces"]:
        size = f"{piece['long_mm']:.0f} × {piece['wide_mm']:.1f} × {piece['thick_mm']:.1f} mm"
        at = f"{piece['at_mm']:.1f} mm from its end, {piece['off_mm']:z.1f} from its edge"
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
    report = made_report(drawn, Study(new), uneven(new, readings), None if out is None else str(out))
    if out is not None:  # not before it is known that it can be built
        write_design(new, out)
    if as_json:
        print_json(report)
        return
    for key, unit in (("volume_ml", "mL"), ("mass_g", "g"), ("reserve_g", "g"), ("pitch_deg", "°"), ("draft_mm", "mm")):
        one, two = (report[name][key] for name in ("drawn", "made"))
        told = ["sinks" if v is None else f"{v:.2f} {unit}" for v in (one, two)]
        typer.echo(f"{key.rpartition('_')[0]:10} drawn {told[0]:>12}   made {told[1]:>12}")
    sides = report["uneven"]
    if sides is not None:
        lists = "sinks" if sides["roll_deg"] is None else f"lists {sides['roll_deg']:+z.1f}°"
        typer.echo(f"sides: its middle wanders {sides['most_mm']:+z.2f} mm (to starboard positive); {lists}")


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
    typer.echo(f"poured {report['pose']}, in at {at[0]:.1f} mm from the nose, {at[2]:+z.1f} from the axis")
    for vent in report["vents_mm"]:
        typer.echo(f"vent at {vent[0]:.1f} mm from the nose, {vent[2]:+z.1f} from the axis")
    for batch in report["batches"]:
        typer.echo(
            f"{batch['casts']} casts: A {batch['a_g']:.1f} g, B {batch['b_g']:.1f} g, powder {batch['powder_g']:.1f} g"
        )
    for words in (*report["harness"], *report["says"]):
        typer.echo(f"! {words}")
    typer.echo("(resin: gloves, air, eye protection; the data sheets and your local rules decide)")
