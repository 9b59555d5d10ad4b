"""Commands of the Fit-out bench: density, mix, budget, clearances, wire, reading."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Text, study_of
from yellowbob.cli.output import print_json, say_surprises
from yellowbob.ground.errors import BadInput
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.fitout.worksheets import Sheet


@command(CONTRACTS["density"])
def density(
    kind: Annotated[str, typer.Argument(help="block, puck, mould, immersion, master or sink")],
    length: Text = None, width: Text = None, height: Text = None, diameter: Text = None,
    volume: Annotated[str | None, typer.Option(help="of the mould or cup a puck was cast in")] = None,
    mass: Annotated[str | None, typer.Option(help="in air, such as '7.42 g' or '7.42 ± 0.02 g'")] = None,
    force: Annotated[str | None, typer.Option(help="the jug's reading with the piece pushed under")] = None,
    sinker: Annotated[str | None, typer.Option(help="the sinker's weight under water")] = None,
    both: Annotated[str | None, typer.Option(help="sinker and piece together under water")] = None,
    known: Annotated[str | None, typer.Option("--density", help="of a master, g/mL")] = None,
    water: Annotated[str, typer.Option(metavar="fresh|brackish|sea")] = "fresh",
    temperature: Annotated[float, typer.Option(metavar="C", help="of the water in the jug, °C")] = 20.0,
    on: Annotated[str, typer.Option(metavar="bare|rigged", help="what was on a piece weighed in water")] = "",
    into: Annotated[
        Path | None, typer.Option("--write", help="a .ybob that takes the density; of a master, its volume")
    ] = None,
    as_json: Json = False,
) -> None:  # fmt: skip
    """A bench worksheet: density or volume from readings, with its uncertainty and its arithmetic."""
    from yellowbob.fitout.worksheets import FIELDS, Value, read_value, work
    from yellowbob.ground.water import named_water
    from yellowbob.reports.fitout import sheet_report

    if kind not in FIELDS:
        raise BadInput(f"no worksheet '{kind}'; there are {', '.join(FIELDS)}")
    texts = {
        "length": length, "width": width, "height": height, "diameter": diameter, "mass": mass, "force": force,
        "volume": volume, "sinker": sinker, "both": both, "density": known,
    }  # fmt: skip
    readings = {}
    for name, dimension in FIELDS[kind]:
        if name == "water":
            readings[name] = Value(named_water(water, temperature).density_g_mm3 * 1000.0, 0.0)
        elif texts[name] is None:
            raise BadInput(f"{kind}: --{name} is missing; give it with its unit")
        else:
            readings[name] = read_value(str(texts[name]), dimension)
    sheet = work(kind, readings, on)
    if into is not None:
        _write_sheet(into, sheet)
    if not as_json:
        for step in sheet.steps:
            typer.echo(step)
        return
    print_json(sheet_report(kind, sheet, readings))


def _write_sheet(path: Path, sheet: Sheet) -> None:
    """Write what a worksheet found into a design: the density of this piece or, where it finds none, the body's volume."""
    from yellowbob.design.files import write_design
    from yellowbob.fitout.apply import with_sheet, with_volume
    from yellowbob.shelf.filling import opened
    from yellowbob.study import Study, of

    design = opened(path)
    if sheet.density is None:
        write_design(with_volume(design, sheet, of.outer(Study(design)).volume_mm3 / 1000.0), path)
    else:
        write_design(with_sheet(design, sheet), path)


@command(CONTRACTS["mix"])
def mix(
    a: Annotated[str, typer.Option(metavar="G", help="part A, as planned")],
    b: Annotated[str, typer.Option(metavar="G", help="part B, as planned")],
    filler_percent: Annotated[float, typer.Option(metavar="P", help="filler, per cent of A + B")] = 0.0,
    poured_a: Annotated[str, typer.Option(metavar="G", help="A that is in the cup already")] = "0 g",
    poured_b: Annotated[str, typer.Option(metavar="G")] = "0 g",
    poured_filler: Annotated[str, typer.Option(metavar="G")] = "0 g",
    resin: Annotated[str | None, typer.Option(help="its shelf entry: gives density and pot life")] = None,
    filler: Annotated[str | None, typer.Option(help="its shelf entry: gives the density of its grains")] = None,
    wanted_density: Annotated[float | None, typer.Option(metavar="G_ML", help="finds the filler's per cent")] = None,
    wanted_mass: Annotated[str | None, typer.Option(metavar="G", help="of the cast: makes the batch so large")] = None,
    temperature: Annotated[float, typer.Option(metavar="C", help="of the room, for the pot life")] = 20.0,
    as_json: Json = False,
) -> None:  # fmt: skip
    """A resin batch, corrected for what was overshot."""
    from yellowbob.fitout.mix import mix as mixed
    from yellowbob.fitout.mix import mixed_density, percent_for, pot_life_min
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.reports.fitout import mix_report
    from yellowbob.shelf.shipped import powders, resins, taken

    part_a, part_b = read_quantity(a, "mass"), read_quantity(b, "mass")
    one = taken(resins(), resin) if resin else None
    two = taken(powders(), filler) if filler else None
    if wanted_density is not None:
        if one is None or two is None:
            raise BadInput("--wanted-density needs --resin and --filler: their densities decide")
        filler_percent = percent_for(one.density_g_ml, two.density_g_ml, wanted_density)
    if wanted_mass is not None:
        grown = read_quantity(wanted_mass, "mass") / ((part_a + part_b) * (1 + filler_percent / 100.0))
        part_a, part_b = part_a * grown, part_b * grown
    poured = [read_quantity(text, "mass") for text in (poured_a, poured_b, poured_filler)]
    batch = mixed(part_a, part_b, filler_percent, *poured)
    grains = two.density_g_ml if two is not None else 1.0
    known = one is not None and (two is not None or filler_percent == 0)
    cures = mixed_density(one.density_g_ml, grains, filler_percent) if one is not None and known else None
    pours = pot_life_min(one.pot_life_min, one.at_c, temperature) if one is not None else None
    if as_json:
        print_json(mix_report(batch, filler_percent, cures, pours))
        return
    typer.echo(f"batch  A {batch.a_g:.2f} g, B {batch.b_g:.2f} g, filler {batch.filler_g:.2f} g: {batch.total_g:.2f} g")
    typer.echo(f"add    A {batch.add_a_g:.2f} g, B {batch.add_b_g:.2f} g, filler {batch.add_filler_g:.2f} g")
    if cures is not None:
        typer.echo(f"cures to {cures:.3f} g/mL, air left out")
    if pours is not None:
        typer.echo(f"about {pours:.1f} min to pour at {temperature:g} °C (a rule); the data sheet decides")
    typer.echo("Ventilate, wear gloves; follow the product's data sheet.")


@command(CONTRACTS["budget"])
def budget(
    file: DesignFile,
    measured: Annotated[
        list[str] | None, typer.Option(help="a weighing, such as 'bare body=31.2 g'; may be given again")
    ] = None,
    target: Annotated[str | None, typer.Option(help="wanted total, hooks on; from the brief when left out")] = None,
    as_json: Json = False,
) -> None:
    """What may still go in: wanted total, less what is on the scale, less what is still to come."""
    from yellowbob.fitout.budget import budget_of, target_of
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.reports.fitout import budget_report
    from yellowbob.study import Study, of
    from yellowbob.study.evidence import with_reading

    study = study_of(file)
    for text in measured or []:
        study = Study(with_reading(study, text), study)
    wanted, words = target_of(study.design, of.slip(study).finished.mass_g)
    if target is not None:
        wanted, words = read_quantity(target, "mass"), "as given"
        if wanted <= 0:
            raise BadInput(f"--target {wanted:g} g: want more than nothing")
    found = budget_of(of.slip(study), of.buoyancy(study).lift_g, wanted)
    report = budget_report(study.design.name, found, words)
    if as_json:
        print_json(report)
        return
    typer.echo(f"{study.design.name}: wanted {found.target_g:.2f} g ({words})")
    typer.echo(f"  on the scale {found.on_scale_g:.2f} g, still to come {found.to_come_g:.2f} g")
    over = found.ballast_g < 0
    typer.echo(f"  {abs(found.ballast_g):.2f} g {'too heavy already' if over else 'may go in'}; "
               f"the design has {found.ballast_in_g:.2f} g in")  # fmt: skip
    typer.echo(f"  just hangs at {found.neutral_g:.2f} g; spare for a dropper {found.spare_g:.2f} g")
    say_surprises(of.evidence(study))


@command(CONTRACTS["evidence"])
def evidence(file: DesignFile, as_json: Json = False) -> None:
    """What the weighings say: each against its forecast, and what is believed of this piece by them."""
    from yellowbob.reports.floating import evidence_report
    from yellowbob.study import of

    study = study_of(file)
    report = evidence_report(study)
    if as_json:
        print_json({"name": study.design.name, **report})
        return
    if not report["weighings"]:
        typer.echo(f"{study.design.name}: nothing was weighed yet; weigh -w 'bare body=31.2 g' puts a weighing down")
    for one in report["weighings"]:
        typer.echo(f"{one['stage']:14} {one['mass_g']:8.2f} g, forecast {one['forecast_g']:.2f} g, "
                   f"with all weighings {one['expected_g']:.2f} g")  # fmt: skip
    for row in report["believed"]:
        if row["believed"] != row["forecast"]:
            typer.echo(f"  {row['words']}: {row['believed']:.4g} ± {row['sigma']:.2g} {row['unit']} "
                       f"(forecast {row['forecast']:.4g} ± {row['sigma_before']:.2g})")  # fmt: skip
    say_surprises(of.evidence(study))


@command(CONTRACTS["clearances"])
def clearances(
    file: DesignFile,
    wander: Annotated[float | None, typer.Option(metavar="DEG", help="half angle the bit may wander in")] = None,
    as_json: Json = False,
) -> None:
    """Every hook, prop, wire and hole against what it could touch."""
    from yellowbob.lines.hole_walls import WANDER_DEG
    from yellowbob.reports.fitout import clearances_report
    from yellowbob.study import of
    from yellowbob.study.fitout import wood_clear_with

    angle = WANDER_DEG if wander is None else wander
    if not 0 <= angle < 20:
        raise BadInput(f"a wander of {angle:g}° is no drill's; give 0 to 20")
    study = study_of(file)
    found = (*of.hardware_clear(study), *of.plates_clear(study), *wood_clear_with(study, angle))
    if as_json:
        print_json(clearances_report(study.design.name, found, angle))
        return
    if not found:
        typer.echo("nothing in it can come too close to anything")
    for c in found:
        typer.echo(f"{' ' if c.clear else '!'} {c.kind:14} {c.one} - {c.other}: {c.distance_mm:.1f} mm")


@command(CONTRACTS["wire"])
def wire(file: DesignFile, as_json: Json = False) -> None:
    """How long to cut each wire, its mass and where its centre lies; its legs, bends, loops and their order."""
    from yellowbob.reports.fitout import wires_report

    report = wires_report(study_of(file))
    if as_json:
        print_json(report)
        return
    if not report["wires"]:
        typer.echo("there is no wire in it")
    for row in report["wires"]:
        typer.echo(f"{row['name']}: cut {row['cut_mm']:.0f} mm, {row['mass_g']:.2f} g, {row['route']}")
        typer.echo("   legs " + " · ".join(f"{leg:.1f}" for leg in row["legs_mm"]) + " mm")
        for bend in row["bends"]:
            typer.echo(f"   bend {bend['turn_deg']:.0f}° at {bend['along_mm']:.1f} mm along the straight wire")
        for number, step in enumerate(row["steps"], 1):
            typer.echo(f"   {number}. {step}")
        for words in row["says"]:
            typer.echo(f"   ! {words}")


@command(CONTRACTS["reading"])
def reading(
    what: Annotated[str, typer.Argument(help="mass or length")],
    port: Annotated[str | None, typer.Option(help="a serial port; the simulated device when left out")] = None,
    as_json: Json = False,
) -> None:
    """Take one steady reading from the scale or the callipers."""
    from yellowbob.devices.reading import open_port, take

    if what not in ("mass", "length"):
        raise BadInput(f"'{what}' is neither mass nor length")
    name = port or ("simulated scale" if what == "mass" else "simulated callipers")
    opened = open_port(name)
    try:
        value = take(opened, "mass" if what == "mass" else "length")
    finally:
        opened.close()
    unit = "g" if what == "mass" else "mm"
    if as_json:
        print_json({"what": what, "value": value, "unit": unit, "port": name})
    else:
        typer.echo(f"{value:.2f} {unit} from the {name}")
