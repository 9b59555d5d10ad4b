"""Commands of the log: builds, weigh-ins, tank and water tests, what is still to go in, what all of it taught."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from yellowbob.cli.options import DesignFile, Json, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

if TYPE_CHECKING:
    from yellowbob.logbook.store import LogBook
    from yellowbob.study import Study

log_app = typer.Typer(name="log", help="Builds and what was found of them: weighings, tests, what they taught.")
Serial = Annotated[str, typer.Argument(help="of the build")]


def the_log() -> LogBook:
    """The log in the workshop's file. Raises BadInput."""
    from yellowbob.logbook.store import LogBook

    return LogBook()


def built(log: LogBook, serial: str) -> Study:
    """The study of a build, as it is believed to be by its weighings."""
    from yellowbob.study import Study

    return Study(log.design(serial))


def say_builds(builds: Any, as_json: bool) -> None:
    """Builds, as `log list` tells them."""
    from yellowbob.reports.log import builds_report

    if as_json:
        print_json(builds_report(builds))
        return
    for one in builds:
        more = f", batch {one.batch}" if one.batch else ""
        more += f": {one.differs}" if one.differs else ""
        typer.echo(f"{one.serial:12} {one.made_on} {one.state:8} {one.name}, {one.kind}{more}")
    if not builds:
        typer.echo("no builds")


@log_app.command()
def new(
    file: DesignFile,
    count: Annotated[int, typer.Option(help="how many, as a batch numbered on")] = 1,
    serial: Annotated[str, typer.Option(help="label of the build or batch; made up when left out")] = "",
    on: Annotated[str | None, typer.Option(help="day it was begun, such as 2026-03-27")] = None,
    experiment: Annotated[str, typer.Option(help="what the builds of the batch differ in")] = "",
    board: Annotated[str, typer.Option(help="which board, block or mix the bodies come out of")] = "",
    as_json: Json = False,
) -> None:
    """A build, or a batch, of a design as it is now; weighings in the design go to the first."""
    from yellowbob.trials.promise import promised

    day = _day(on)
    study = study_of(file)
    about = {"experiment": experiment, "board": board, "promised": promised(study)}
    say_builds(the_log().new(study.design, count, serial, day, **about), as_json)


def _day(text: str | None) -> date | None:
    if text is None:
        return None
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadInput(f"'{text}' is no day: write it as 2026-03-27") from None


@log_app.command("list")
def list_(
    words: Annotated[str, typer.Argument(help="all of which are in a build or its entries")] = "",
    kind: Annotated[str, typer.Option(help="of lure or float")] = "",
    state: Annotated[str, typer.Option(help="in work, done or lost")] = "",
    batch: Annotated[str, typer.Option(help="by its label")] = "",
    as_json: Json = False,
) -> None:
    """Builds, newest first."""
    say_builds(the_log().builds(words, kind, state, batch), as_json)


@log_app.command("set")
def set_(
    serial: Serial,
    changes: Annotated[list[str], typer.Argument(help="such as state=lost lost_why='wire pulled out' hours=5")],
    as_json: Json = False,
) -> None:
    """Change what the log says of a build: state, lost_why, given_to, notes, hours, cost, again, aside, experiment,
    board."""
    read: dict[str, Any] = {}
    for one in changes:
        field, equals, value = one.partition("=")
        if not equals or field in ("serial", "name", "kind", "batch"):
            raise BadInput(f"'{one}': write field=value; serial, name, kind and batch stay")
        read[field] = value if value else None
    say_builds([the_log().change(serial, **read)], as_json)


@log_app.command()
def weigh(
    serial: Serial,
    reading: Annotated[
        str, typer.Argument(help="'bare body=31.2 g'; bare body, drilled body, fitted, ballasted, finished")
    ],
    off: Annotated[list[str] | None, typer.Option(help="slip key of what was off, again for more")] = None,
    as_json: Json = False,
) -> None:
    """A weighing of a stage: what lay on the scale against what was expected."""
    from yellowbob.design.record import STAGES
    from yellowbob.reports.log import build_report
    from yellowbob.study import Study
    from yellowbob.study.evidence import evidence, weighed

    stage, equals, mass = reading.partition("=")
    if not equals:
        raise BadInput(f"'{reading}': write the stage and the mass, such as 'fitted=12.5 g'")
    log = the_log()
    reached = next((s for s in STAGES if s == stage.strip()), None)
    if reached is None:
        raise BadInput(f"'{stage.strip()}' is no stage; say one of: {', '.join(STAGES)}")
    design = weighed(built(log, serial), reached, read_quantity(mass, "mass"), None, dict.fromkeys(off or (), 0.0))
    log.add(serial, "weigh", design.weighings[-1])
    told = evidence(Study(design)).weighed
    if as_json:
        print_json(build_report(log.build(serial), log.entries(serial), told))
        return
    last = told[-1]
    typer.echo(
        f"{last.weighing.mass_g:.2f} g; forecast {last.forecast_g:.2f} g, {last.sigmas:+z.1f} σ from what is expected"
    )
    if last.likely:
        typer.echo(f"! {last.likely}")


@log_app.command("next")
def next_(
    serial: Serial,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="a .ybob with that ballast")] = None,
    as_json: Json = False,
) -> None:
    """What is still to go in: ballast and its place, at what the build weighs now, to sit as briefed."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.log import still_report
    from yellowbob.trials.still import still_to_go

    found = still_to_go(built(the_log(), serial))
    if out is not None:
        write_design(found.design, out)
    if as_json:
        print_json(still_report(serial, found, None if out is None else str(out)))
        return
    size = f"{found.length_mm:.1f} mm long" if found.length_mm is not None else f"{found.count} of them"
    way = "aft" if found.aft_mm >= 0 else "forward"
    typer.echo(
        f"{found.ballast}: put in {found.put_in_g:.2f} g ({found.drawn_g:.2f} drawn), {size}, "
        f"{abs(found.aft_mm):.1f} mm further {way}"
    )
    lies = "it sinks" if found.pitch_deg is None else f"sits {found.pitch_deg:+z.1f}°, draft {found.draft_mm:z.1f} mm"
    typer.echo(
        f"{found.finished_g:.2f} ± {found.u_g:.2f} g finished; {lies}; "
        f"{'as briefed' if found.within else 'not as briefed'}"
    )
    for words in (found.why, found.measure and f"would tell most now: {found.measure}"):
        if words:
            typer.echo(f"! {words}" if words == found.why else words)


@log_app.command()
def report(
    serial: Serial, out: Annotated[Path | None, typer.Option("-o", "--out", help="write it as PDF too")] = None,
        as_json: Json = False
) -> None:  # fmt: skip
    """All of one build: what it weighed against what was expected, tests, notes."""
    from yellowbob.logbook.records import now_stage
    from yellowbob.reports.log import build_report
    from yellowbob.study.evidence import evidence

    log = the_log()
    build, entries = log.build(serial), log.entries(serial)
    told = evidence(built(log, serial)).weighed
    if out is not None:
        from yellowbob.shop.log_pages import write_build

        write_build(out, build, entries, told)
    if as_json:
        print_json(build_report(build, entries, told))
        return
    typer.echo(
        f"{build.serial}: {build.name}, {build.kind}, begun {build.made_on}, {build.state}; "
        f"{now_stage(entries) or 'not weighed'}"
    )
    for one in told:
        typer.echo(f"  {one.weighing.stage}: {one.weighing.mass_g:.2f} g, forecast {one.forecast_g:.2f} g")
    for entry in entries:
        if entry.what != "weigh":
            said = ", ".join(f"{k} {v}" for k, v in entry.data.model_dump(exclude_defaults=True).items())
            typer.echo(f"  {entry.at:%Y-%m-%d} {entry.what}: {said}")


@log_app.command()
def labels(
    out: Annotated[Path, typer.Argument(help="OUT.pdf")],
    words: Annotated[str, typer.Option(help="of builds that have all of these")] = "",
    batch: Annotated[str, typer.Option(help="of a batch by its label")] = "",
    as_json: Json = False,
) -> None:
    """Serials as labels to cut out, on A4."""
    from yellowbob.shop.log_pages import write_labels

    builds = sorted(the_log().builds(words, batch=batch), key=lambda b: (b.made_on, b.serial))
    write_labels(out, builds)
    if as_json:
        print_json({"wrote": str(out), "serials": [b.serial for b in builds], "refused": []})
        return
    typer.echo(f"wrote {out}: {len(builds)} labels")
