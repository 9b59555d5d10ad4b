"""The command line, thin: read, ask the study, print. Bad input ends with exit 2 and one line on standard error."""

from __future__ import annotations

import os
import sys
from copy import copy
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any, NoReturn

import typer
from pydantic import ValidationError
from typer.models import TyperInfo

from yellowbob import COMPLETES, __version__
from yellowbob.cli import action, ballast, begin, fitout, floats, hardware, lines, making, shop, tank, trace
from yellowbob.cli.command import ENTERED, command
from yellowbob.cli.log_sets import log_app
from yellowbob.cli.options import Density, File, Json, Load, Salinity, Temperature, Unit, WaterName, opened_study
from yellowbob.cli.output import print_json, say_surprises
from yellowbob.cli.patience import watched
from yellowbob.cli.shelf import shelf_app
from yellowbob.design.faults import describe
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.reports.contract import CONTRACTS, report_schemas

if TYPE_CHECKING:
    from yellowbob.study import Study

app = typer.Typer(
    name="yellow-bob",
    help="A workbench for surface lures and fishing floats. With no command it opens the last design.",
    no_args_is_help=False,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
)


@command(CONTRACTS["float"])
def float_(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None, load: Load = None, as_json: Json = False,
) -> None:  # fmt: skip
    """How it floats: reserve, and every attitude it can rest in."""
    from yellowbob.reports.floating import float_report

    report = float_report(opened_study(file, density, unit, water, temperature, salinity, load))
    if as_json:
        print_json(report)
        return
    of_line = f", {report['load_g']:.2f} g of it on the line," if report["load_g"] else ""
    typer.echo(
        f"{report['name']}: {report['mass_g']:.2f} g{of_line} in water of {report['water_density_g_ml']:.4f} g/mL"
    )
    if not report["floats"]:
        typer.echo(f"  sinks: weighs {report['sinking_weight_g']:.2f} g under water")
        return
    typer.echo(f"  floats with {report['reserve_g']:z.2f} g to spare ({report['reserve_percent']:.0f} % of its weight)")
    for rest in report["rests"]:
        typer.echo(
            f"  rests pitch {rest['pitch_deg']:z6.1f}°  roll {rest['roll_deg']:z6.1f}°  draft {rest['draft_mm']:z5.1f} mm"
            f"  GM {rest['gm_min_mm']:.2f} to {rest['gm_max_mm']:.2f} mm" + ("  (any roll)" if rest["neutral"] else "")
        )


@command(CONTRACTS["weigh"])
def weigh(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None,
    put_down: Annotated[str | None, typer.Option(help="a weighing to keep in the file: 'fitted=21.3 g'")] = None,
    off: Annotated[list[str] | None, typer.Option(help="slip key of a thing that was not on the scale")] = None,
    on: Annotated[list[str] | None, typer.Option(help="KEY, or KEY=SHARE of a coat, that was on already")] = None,
    as_json: Json = False,
) -> None:  # fmt: skip
    """The weigh slip: every gram, line by line; or a weighing put down in the file."""
    from yellowbob.reports.floating import weigh_report
    from yellowbob.study import of

    study = opened_study(file, density, unit, water, temperature, salinity)
    if put_down is not None:
        study = _put_down(study, file, put_down, off or [], on or [])
    elif off or on:
        raise BadInput("--off and --on go with --put-down: they say what lay on the scale")
    report = weigh_report(study)
    if as_json:
        print_json(report)
        return
    _say_slip(report)
    say_surprises(of.evidence(study))


def _put_down(study: Study, file: Path, text: str, off: list[str], on: list[str]) -> Study:
    """The study with a weighing more, kept in its file."""
    from yellowbob.design.files import SUFFIX, write_design
    from yellowbob.fitout.budget import read_weighing
    from yellowbob.shelf.filling import opened
    from yellowbob.study import Study
    from yellowbob.study.evidence import weighed

    if file.suffix != SUFFIX:
        raise BadInput(f"{file.name} is no design file; a weighing is kept in a {SUFFIX}")
    read = read_weighing(study.design, text)
    if read.stage is None:
        raise BadInput(f"'{text}' names no stage; a fitting by itself is weighed with `budget --measured`")
    shares = dict.fromkeys(off, 0.0)
    for one in on:
        key, equals, share = one.rpartition("=")
        if not equals:
            key, share = one, "1"
        try:
            shares[key] = float(share)
        except ValueError:
            raise BadInput(f"--on '{one}': write KEY, or KEY=SHARE with a share from 0 to 1") from None
        if not 0.0 <= shares[key] <= 1.0:
            raise BadInput(f"--on '{one}': a share lies between 0 and 1")
    made = weighed(Study(opened(file)), read.stage, read.mass_g, shares=shares)
    write_design(made, file)
    return Study(study.design.but(weighings=made.weighings), study)


def _say_slip(report: dict[str, Any]) -> None:
    from rich.console import Console
    from rich.markup import escape
    from rich.table import Table

    table = Table(title=escape(report["name"]), box=None, title_justify="left", header_style="")
    table.add_column("", no_wrap=False)
    table.add_column("g", justify="right")
    for stage, heading, key in (
        ("on scale", "On the scale now", "on_scale_g"),
        ("to come", "Still to come", "to_come_g"),
    ):
        for line in report["lines"]:
            if line["stage"] == stage:
                table.add_row(escape(line["words"]), f"{line['mass_g']:.2f}")
        table.add_row(heading, f"{report[key]:.2f}", end_section=True)
    table.add_row("Finished", f"{report['finished_g']:.2f}")
    if report["line_load_g"]:
        table.add_row("On the line, under water", f"{report['line_load_g']:.2f}")
    table.add_row("Water it fills", f"{report['water_it_fills_g']:.2f}")
    table.add_row("To spare", f"{report['reserve_g']:z.2f}")
    Console(highlight=False).print(table)
    for one in report["evidence"]["weighings"]:
        typer.echo(f"weighed {one['stage']}: {one['mass_g']:.2f} g, forecast {one['forecast_g']:.2f} g")


@command(CONTRACTS["sheet"])
def sheet(
    file: File, out: Annotated[Path, typer.Option("-o", "--out", help="the PDF to write")], density: Density = None,
    unit: Unit = None, as_json: Json = False,
) -> None:  # fmt: skip
    """One true-scale page: side, plan, holes and eyes from the nose, and the slip."""
    from yellowbob.reports.lines import wrote_report
    from yellowbob.shop.sheet import write_sheet

    write_sheet(opened_study(file, density, unit, None, None, None), out)
    if as_json:
        print_json(wrote_report(out))
        return
    typer.echo(f"wrote {out}; print it at 100 %, and check the 100 mm rule")


@command()
def schema(
    reports: Annotated[bool, typer.Option("--reports", help="of what every command prints with --json")] = False,
) -> None:
    """Print the JSON Schema of a design file, or of the reports."""
    from yellowbob.design.files import json_schema

    print_json(report_schemas({n: c.shape for n, c in ENTERED.items() if c.shape}) if reports else json_schema())


app.add_typer(shelf_app)
app.add_typer(log_app)
BENCHES = (begin, lines, trace, fitout, hardware, tank, ballast, floats, action, shop, making)
"""The files of the benches' commands; bringing them in enters what is in them."""
for _one in ENTERED.values():
    app.command(_one.name)(_one.run)


@app.callback(invoke_without_command=True)
def _start(
    context: typer.Context, version: Annotated[bool, typer.Option("--version", help="say the version")] = False
) -> None:
    if version:
        typer.echo(f"yellow-bob {__version__}")
        raise typer.Exit
    if context.invoked_subcommand is None:
        opens = next((c.callback for c in app.registered_commands if c.name == "open"), None)
        if opens is None:
            _refuse("say a command; yellow-bob --help lists them")
        opens(None)


def main(arguments: list[str] | None = None) -> None:
    """Run a command and exit; 0 well, 1 a check failed, 2 bad input with one line on standard error."""
    if COMPLETES in os.environ:  # a shell asks what could come next
        from typer.completion import completion_init

        completion_init()
    command = typer.main.get_command(asked(sys.argv[1:] if arguments is None else arguments))
    try:
        with watched():
            code = command.main(args=arguments, prog_name="yellow-bob", standalone_mode=False)
        sys.exit(code if isinstance(code, int) else 0)
    except YellowBobError as error:
        _refuse(str(error))
    except ValidationError as error:
        _refuse(describe(error))
    except typer.Abort:
        _refuse("stopped")
    except BrokenPipeError:
        sys.exit(0)
    except Exception as error:  # typer carries its own copy of click's exception classes; they share `format_message`
        explain = getattr(error, "format_message", None)
        if explain is None:
            raise
        context = getattr(error, "ctx", None)
        group = hasattr(getattr(context, "command", None), "commands")
        asked_of = getattr(context, "command_path", "") if group else "yellow-bob"
        _refuse(f"{explain()} ({asked_of} --help lists the commands)")


def asked(words: list[str], of: typer.Typer = app) -> typer.Typer:
    """The application, or a group of it, with the one command that is asked for by name, which is made up in a part of the
    time that all take; with all of them where none is, or a shell asks."""
    named = [one for one in of.registered_commands if words and one.name == words[0]]
    group = [one for one in of.registered_groups if words and _its(one).info.name == words[0]]
    if not (named or group) or COMPLETES in os.environ:
        return of
    alone = copy(of)
    alone.registered_commands, alone.registered_groups = named, []
    for one in group:
        alone.add_typer(asked(words[1:], _its(one)))
    return alone


def _its(group: TyperInfo) -> typer.Typer:
    assert group.typer_instance is not None
    return group.typer_instance


def _refuse(text: str) -> NoReturn:
    print("yellow-bob: " + " ".join(text.split()), file=sys.stderr)
    sys.exit(2)
