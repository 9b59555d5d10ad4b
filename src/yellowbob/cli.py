"""The command line, thin: read, ask the study, print. Bad input ends with exit 2 and one line on standard error."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated, Any

import typer

from yellowbob import __version__
from yellowbob.cli_ballast import BALLAST
from yellowbob.cli_fitout import COMMANDS as FITOUT
from yellowbob.cli_lines import COMMANDS
from yellowbob.cli_shelf import shelf_app
from yellowbob.cli_tank import TANK
from yellowbob.errors import BadInput, YellowBobError
from yellowbob.output import print_json

app = typer.Typer(
    name="yellow-bob",
    help="A workbench for surface lures and fishing floats. With no command it opens the last design.",
    no_args_is_help=False,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
)

File = Annotated[Path, typer.Argument(help="a .ybob design, or a mesh (.stl, .obj, .ply, .3mf)")]
Json = Annotated[bool, typer.Option("--json", help="print JSON")]


def _study(
    file: Path, density: float | None, unit: str | None, water: str | None, temperature: float | None,
    salinity: float | None,
) -> Any:  # fmt: skip
    from yellowbob.design.files import read_design
    from yellowbob.design.model import Body, Design, Water
    from yellowbob.lines.importing import SUFFIXES, read_mesh_file
    from yellowbob.study import Study
    from yellowbob.water import named_water

    if file.suffix.lower() in SUFFIXES:
        if density is None or unit is None:
            raise BadInput(f"{file.name} is a mesh: say its --density G_ML and its --unit mm, cm, m or in")
        if not 0.0 < density <= 25.0:
            raise BadInput(
                f"density {density:g} g/mL is not that of a material; give 0.1 for foam up to 20 for tungsten"
            )
        shape = read_mesh_file(file, unit)
        body = Body(material="mesh", density_g_ml=density, shape=shape)
        design = Design(name=file.stem[:80] or "mesh", body=body)
    else:
        if density is not None or unit is not None:
            raise BadInput("--density and --unit go with a mesh; a design carries its own")
        design = read_design(file)
    if water is not None or temperature is not None or salinity is not None:
        old = design.water
        name = old.name if water is None else water
        kept = old.salinity_g_kg if water is None else None
        state = named_water(
            name, old.temperature_c if temperature is None else temperature, kept if salinity is None else salinity
        )
        changed = {"name": name, "temperature_c": state.temperature_c, "salinity_g_kg": state.salinity_g_kg}
        design = design.but(water=Water.model_validate(changed))
    return Study(design)


Density = Annotated[float | None, typer.Option("--density", metavar="G_ML", help="of a mesh body, g/mL")]
Unit = Annotated[str | None, typer.Option("--unit", metavar="mm|cm|m|in", help="unit of a mesh file")]
WaterName = Annotated[str | None, typer.Option("--water", metavar="fresh|brackish|sea")]
Temperature = Annotated[float | None, typer.Option("--temperature", metavar="C", help="of the water, °C")]
Salinity = Annotated[float | None, typer.Option("--salinity", metavar="G_KG", help="Absolute Salinity, g/kg")]


@app.command("float")
def float_(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None, as_json: Json = False,
) -> None:  # fmt: skip
    """How it floats: reserve, and every attitude it can rest in."""
    from yellowbob.report import float_report

    report = float_report(_study(file, density, unit, water, temperature, salinity))
    if as_json:
        print_json(report)
        return
    typer.echo(f"{report['name']}: {report['mass_g']:.2f} g in water of {report['water_density_g_ml']:.4f} g/mL")
    if not report["floats"]:
        typer.echo(f"  sinks: weighs {report['sinking_weight_g']:.2f} g under water")
        return
    typer.echo(f"  floats with {report['reserve_g']:.2f} g to spare ({report['reserve_percent']:.0f} % of its weight)")
    for rest in report["rests"]:
        typer.echo(
            f"  rests pitch {rest['pitch_deg']:6.1f}°  roll {rest['roll_deg']:6.1f}°  draft {rest['draft_mm']:5.1f} mm"
            f"  GM {rest['gm_min_mm']:.2f} to {rest['gm_max_mm']:.2f} mm" + ("  (any roll)" if rest["neutral"] else "")
        )


@app.command()
def weigh(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None, as_json: Json = False,
) -> None:  # fmt: skip
    """The weigh slip: every gram, line by line."""
    from yellowbob.report import weigh_report

    report = weigh_report(_study(file, density, unit, water, temperature, salinity))
    if as_json:
        print_json(report)
        return
    from rich.console import Console
    from rich.table import Table

    table = Table(title=report["name"], box=None, title_justify="left", header_style="")
    table.add_column("", no_wrap=False)
    table.add_column("g", justify="right")
    for stage, heading, key in (
        ("on scale", "On the scale now", "on_scale_g"),
        ("to come", "Still to come", "to_come_g"),
    ):
        for line in report["lines"]:
            if line["stage"] == stage:
                table.add_row(line["words"], f"{line['mass_g']:.2f}")
        table.add_row(heading, f"{report[key]:.2f}", end_section=True)
    table.add_row("Finished", f"{report['finished_g']:.2f}")
    table.add_row("Water it fills", f"{report['water_it_fills_g']:.2f}")
    table.add_row("To spare", f"{report['reserve_g']:.2f}")
    Console(highlight=False).print(table)


@app.command()
def sheet(
    file: File, out: Annotated[Path, typer.Option("-o", "--out", help="the PDF to write")], density: Density = None,
    unit: Unit = None,
) -> None:  # fmt: skip
    """One true-scale page: side, plan, holes and eyes from the nose, and the slip."""
    from yellowbob.shop.sheet import write_sheet

    write_sheet(_study(file, density, unit, None, None, None), out)
    typer.echo(f"wrote {out}; print it at 100 %, and check the 100 mm rule")


@app.command("open")
def open_(
    file: Annotated[Path | None, typer.Argument(help="a .ybob design; the last one when left out")] = None,
) -> None:
    """Open the window."""
    from yellowbob.app.main import run

    raise typer.Exit(run(file))


@app.command()
def demo(
    pictures: Annotated[Path, typer.Option(help="where pictures go when there is no display")] = Path("build/demo"),
) -> None:
    """Start with the demo workshop; with no display, print its results and write its pictures."""
    from yellowbob.app.demo import run_demo

    raise typer.Exit(run_demo(pictures))


@app.command()
def schema() -> None:
    """Print the JSON Schema of a design file."""
    from yellowbob.design.files import json_schema

    print_json(json_schema())


app.add_typer(shelf_app)
for _command in (*COMMANDS, *FITOUT, *TANK, *BALLAST):
    app.command()(_command)


@app.callback(invoke_without_command=True)
def _start(
    context: typer.Context, version: Annotated[bool, typer.Option("--version", help="say the version")] = False
) -> None:
    if version:
        typer.echo(f"yellow-bob {__version__}")
        raise typer.Exit
    if context.invoked_subcommand is None:
        open_(None)


def main(arguments: list[str] | None = None) -> None:
    """Entry point: run a command and exit; 0 well, 1 a check failed, 2 bad input with one line on standard error."""
    command = typer.main.get_command(app)
    try:
        code = command.main(args=arguments, prog_name="yellow-bob", standalone_mode=False)
        sys.exit(code if isinstance(code, int) else 0)
    except YellowBobError as error:
        _refuse(str(error))
    except typer.Abort:
        _refuse("stopped")
    except BrokenPipeError:
        sys.exit(0)
    except Exception as error:
        # typer carries its own copy of click's exception classes; they share `format_message`
        explain = getattr(error, "format_message", None)
        if explain is None:
            raise
        _refuse(f"{explain()} (yellow-bob --help lists the commands)")


def _refuse(text: str) -> None:
    print("yellow-bob: " + " ".join(text.split()), file=sys.stderr)
    sys.exit(2)
