"""Commands of the Fit-out bench: density, mix, budget, clearances, wire, reading."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

import typer

from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput

Json = Annotated[bool, typer.Option("--json", help="print JSON")]
Text = Annotated[str | None, typer.Option()]


def density(
    kind: Annotated[str, typer.Argument(help="block, puck, immersion, master or sink")],
    length: Text = None, width: Text = None, height: Text = None, diameter: Text = None,
    mass: Annotated[str | None, typer.Option(help="in air, such as '7.42 g' or '7.42 ± 0.02 g'")] = None,
    force: Annotated[str | None, typer.Option(help="the jug's reading with the piece pushed under")] = None,
    sinker: Annotated[str | None, typer.Option(help="the sinker's weight under water")] = None,
    both: Annotated[str | None, typer.Option(help="sinker and piece together under water")] = None,
    known: Annotated[str | None, typer.Option("--density", help="of a master, g/mL")] = None,
    water: Annotated[str, typer.Option(metavar="fresh|brackish|sea")] = "fresh",
    temperature: Annotated[float, typer.Option(metavar="C", help="of the water in the jug, °C")] = 20.0,
    into: Annotated[Path | None, typer.Option("--write", help="a .ybob that takes the density of this piece")] = None,
    as_json: Json = False,
) -> None:  # fmt: skip
    """A bench worksheet: density or volume from readings, with its uncertainty and its arithmetic."""
    from yellowbob.fitout.worksheets import FIELDS, Value, read_value, work
    from yellowbob.ground.water import named_water

    if kind not in FIELDS:
        raise BadInput(f"no worksheet '{kind}'; there are {', '.join(FIELDS)}")
    texts = {
        "length": length, "width": width, "height": height, "diameter": diameter, "mass": mass, "force": force,
        "sinker": sinker, "both": both, "density": known,
    }  # fmt: skip
    readings = {}
    for name, dimension in FIELDS[kind]:
        if name == "water":
            readings[name] = Value(named_water(water, temperature).density_g_mm3 * 1000.0, 0.0)
        elif texts[name] is None:
            raise BadInput(f"{kind}: --{name} is missing; give it with its unit")
        else:
            readings[name] = read_value(str(texts[name]), dimension)
    sheet = work(kind, readings)
    if into is not None:
        _write_density(into, sheet)
    if not as_json:
        for step in sheet.steps:
            typer.echo(step)
        return
    report: dict[str, Any] = {"kind": kind}
    for name, unit, value in (
        ("density", "g_ml", sheet.density), ("volume", "ml", sheet.volume), ("reserve", "g", sheet.reserve),
    ):  # fmt: skip
        if value is not None:
            report[f"{name}_{unit}"] = value.value
            report[f"{name}_u_{unit}"] = value.u
    report["readings"] = {name: {"value": v.value, "u": v.u} for name, v in readings.items()}
    report["steps"] = list(sheet.steps)
    print_json(report)


def _write_density(path: Path, sheet: Any) -> None:
    from yellowbob.design.files import read_design, write_design
    from yellowbob.fitout.apply import with_sheet

    write_design(with_sheet(read_design(path), sheet), path)


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
    report = {
        "a_g": batch.a_g, "b_g": batch.b_g, "filler_g": batch.filler_g, "total_g": batch.total_g,
        "add_a_g": batch.add_a_g, "add_b_g": batch.add_b_g, "add_filler_g": batch.add_filler_g,
        "filler_percent": filler_percent, "grown": batch.grown,
    }  # fmt: skip
    if one is not None and (two is not None or filler_percent == 0):
        grains = two.density_g_ml if two is not None else 1.0
        report["density_g_ml"] = mixed_density(one.density_g_ml, grains, filler_percent)
    if one is not None:
        report["pot_life_min"] = pot_life_min(one.pot_life_min, one.at_c, temperature)
    if as_json:
        print_json(report)
        return
    typer.echo(f"batch  A {batch.a_g:.2f} g, B {batch.b_g:.2f} g, filler {batch.filler_g:.2f} g: {batch.total_g:.2f} g")
    typer.echo(f"add    A {batch.add_a_g:.2f} g, B {batch.add_b_g:.2f} g, filler {batch.add_filler_g:.2f} g")
    if "density_g_ml" in report:
        typer.echo(f"cures to {report['density_g_ml']:.3f} g/mL, air left out")
    if "pot_life_min" in report:
        typer.echo(
            f"about {report['pot_life_min']:.1f} min to pour at {temperature:g} °C (a rule); the data sheet decides"
        )
    typer.echo("Ventilate, wear gloves; follow the product's data sheet.")


def budget(
    file: Annotated[Path, typer.Argument(help="a .ybob design")],
    measured: Annotated[
        list[str] | None, typer.Option(help="a weighing, such as 'bare body=31.2 g'; may be given again")
    ] = None,
    target: Annotated[str | None, typer.Option(help="wanted total, hooks on; from the brief when left out")] = None,
    as_json: Json = False,
) -> None:
    """What may still go in: wanted total, less what is on the scale, less what is still to come."""
    from yellowbob.design.files import read_design
    from yellowbob.fitout.budget import budget as reckon
    from yellowbob.fitout.budget import target_of, with_reading
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.study import Study, of

    design = read_design(file)
    for text in measured or []:
        design = with_reading(design, text)
    study = Study(design)
    wanted, words = target_of(design, of.slip(study).finished.mass_g)
    if target is not None:
        wanted, words = read_quantity(target, "mass"), "as given"
    found = reckon(of.slip(study), of.buoyancy(study).lift_g, wanted)
    report = {
        "name": design.name, "target_g": found.target_g, "target_from": words, "on_scale_g": found.on_scale_g,
        "to_come_g": found.to_come_g, "ballast_g": found.ballast_g, "ballast_in_g": found.ballast_in_g,
        "finished_g": found.finished_g, "neutral_g": found.neutral_g, "spare_g": found.spare_g, "sink_g": found.sink_g,
    }  # fmt: skip
    if as_json:
        print_json(report)
        return
    typer.echo(f"{design.name}: wanted {found.target_g:.2f} g ({words})")
    typer.echo(f"  on the scale {found.on_scale_g:.2f} g, still to come {found.to_come_g:.2f} g")
    word = (
        f"{found.ballast_g:.2f} g may go in" if found.ballast_g >= 0 else f"{-found.ballast_g:.2f} g too heavy already"
    )
    typer.echo(f"  {word}; the design has {found.ballast_in_g:.2f} g in")
    typer.echo(f"  just hangs at {found.neutral_g:.2f} g; spare for a dropper {found.spare_g:.2f} g")


def clearances(
    file: Annotated[Path, typer.Argument(help="a .ybob design")],
    wander: Annotated[float | None, typer.Option(metavar="DEG", help="half angle the bit may wander in")] = None,
    as_json: Json = False,
) -> None:
    """Every hook, prop, wire and hole against what it could touch."""
    import numpy as np

    from yellowbob.design.files import read_design
    from yellowbob.fitout.clearances import fitting_clearances
    from yellowbob.fitout.in_wood import WANDER_DEG, wood_clearances
    from yellowbob.study import Study, of

    study = Study(read_design(file))
    angle = WANDER_DEG if wander is None else wander
    if not 0 <= angle < 20:
        raise BadInput(f"a wander of {angle:g}° is no drill's; give 0 to 20")
    half = float(np.abs(of.outer(study).bounds[:, 1]).max())
    found = fitting_clearances(study.design, half)
    found += wood_clearances(study.design, of.outer(study), of.holes(study), of.wires(study), angle)
    if as_json:
        print_json(
            {
                "name": study.design.name,
                "wander_deg": angle,
                "clearances": [
                    {
                        "kind": c.kind, "one": c.one, "other": c.other, "distance_mm": c.distance_mm,
                        "least_mm": c.least_mm, "clear": c.clear, "at_mm": list(c.at_mm),
                    }
                    for c in found
                ],
                "clear": all(c.clear for c in found),
            }
        )  # fmt: skip
        return
    for c in found:
        typer.echo(f"{' ' if c.clear else '!'} {c.kind:14} {c.one} - {c.other}: {c.distance_mm:.1f} mm")


def wire(file: Annotated[Path, typer.Argument(help="a .ybob design")], as_json: Json = False) -> None:
    """How long to cut each wire, its mass and where its centre lies."""
    from yellowbob.design.files import read_design
    from yellowbob.study import Study, of
    from yellowbob.weights.wires import cut_length_mm, of_wire

    rows = []
    for routed in of.wires(Study(read_design(file))):
        mass = of_wire(routed.wire)
        rows.append(
            {
                "name": routed.wire.name, "route": routed.wire.route, "cut_mm": cut_length_mm(routed.wire),
                "mass_g": mass.mass_g, "centre_mm": [float(c) for c in mass.centre_mm], "in_wood_mm": routed.inside_mm,
            }
        )  # fmt: skip
    if as_json:
        print_json({"wires": rows})
        return
    for row in rows:
        typer.echo(f"{row['name']}: cut {row['cut_mm']:.0f} mm, {row['mass_g']:.2f} g, {row['route']}")


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


COMMANDS = (density, mix, budget, clearances, wire, reading)
