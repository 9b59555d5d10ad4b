"""The command line, thin: read, ask the study, print. Bad input ends with exit 2 and one line on standard error."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer

from yellowbob import __version__
from yellowbob.cli.ballast import BALLAST
from yellowbob.cli.fitout import COMMANDS as FITOUT
from yellowbob.cli.lines import COMMANDS
from yellowbob.cli.options import Density, File, Json, Salinity, Temperature, Unit, WaterName, opened_study
from yellowbob.cli.output import print_json
from yellowbob.cli.shelf import shelf_app
from yellowbob.cli.tank import TANK
from yellowbob.ground.errors import YellowBobError

app = typer.Typer(
    name="yellow-bob",
    help="A workbench for surface lures and fishing floats. With no command it opens the last design.",
    no_args_is_help=False,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
)


@app.command("float")
def float_(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None, as_json: Json = False,
) -> None:  # fmt: skip
    """How it floats: reserve, and every attitude it can rest in."""
    from yellowbob.reports.floating import float_report

    report = float_report(opened_study(file, density, unit, water, temperature, salinity))
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
    from yellowbob.reports.floating import weigh_report

    report = weigh_report(opened_study(file, density, unit, water, temperature, salinity))
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

    write_sheet(opened_study(file, density, unit, None, None, None), out)
    typer.echo(f"wrote {out}; print it at 100 %, and check the 100 mm rule")


@app.command("open")
def open_(
    file: Annotated[Path | None, typer.Argument(help="a .ybob design; the last one when left out")] = None,
) -> None:
    """Open the window."""
    from yellowbob.app.frame.main import run

    raise typer.Exit(run(file))


@app.command()
def demo(
    pictures: Annotated[Path, typer.Option(help="where pictures go when there is no display")] = Path("build/demo"),
) -> None:
    """Start with the demo workshop; with no display, print its results and write its pictures."""
    from yellowbob.app.frame.demo import run_demo

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
