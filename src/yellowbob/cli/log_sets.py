"""Commands of the log over several builds: experiments, batches, builds side by side, charts of any two figures."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from yellowbob.cli.log import say_builds, the_log
from yellowbob.cli.log_bench import log_app
from yellowbob.cli.options import DesignFile, Json, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput

__all__ = ["log_app"]


@log_app.command()
def experiment(
    file: DesignFile,
    by: Annotated[str, typer.Option(help="what they differ in: place, hooks, wood, or a quantity that `sweep` knows")],
    values: Annotated[str, typer.Option(help="of a quantity, such as 2.5,3,3.5")] = "",
    each: Annotated[int, typer.Option(help="how many of each")] = 1,
    serial: Annotated[str, typer.Option(help="label of the batch; made up when left out")] = "",
    as_json: Json = False,
) -> None:
    """Builds that differ in one thing, as one batch; paint them alike, and try them on one day."""
    from yellowbob.trials.experiment import begin_experiment, changes_by

    design = study_of(file).design
    try:
        told = [float(one) for one in values.split(",") if one.strip()]
    except ValueError:
        raise BadInput(f"--values '{values}': write figures with a comma between them, such as 2.5,3,3.5") from None
    log = the_log()
    say_builds(begin_experiment(log, design, by, changes_by(design, by, told), each, serial), as_json)


@log_app.command()
def compare(
    serials: Annotated[list[str], typer.Argument(help="two to six builds")], as_json: Json = False
) -> None:  # fmt: skip
    """Builds side by side: figures, ratings, words, what their designs differ in."""
    from yellowbob.logbook.compared import compared_builds
    from yellowbob.reports.log_sets import compared_report

    found = compared_builds(the_log(), serials)
    if as_json:
        print_json(compared_report(found))
        return
    typer.echo(" " * 34 + "".join(f"{b.serial:>14}" for b in found.builds))
    for row in found.rows:
        told = "".join(f"{'–' if v is None else f'{v:.2f}':>14}" for v in row.values)
        typer.echo(f"{row.words + (f', {row.unit}' if row.unit else ''):<34}{told}")
    for place, values in found.differ:
        typer.echo(f"differs: {place}: " + "; ".join(v or "nothing" for v in values))
    if found.more:
        typer.echo(f"and {found.more} other places of the designs differ")
    for build, words in zip(found.builds, found.words, strict=True):
        again = {True: " (would be made again)", False: " (not again)", None: ""}[build.again]
        typer.echo(f"{build.serial}{again}: " + ("; ".join(words) or "no words"))


@log_app.command()
def batch(label: Annotated[str, typer.Argument(help="of the batch")], as_json: Json = False) -> None:
    """The spread within a batch; which of it were lost, and why."""
    from yellowbob.logbook.figures import batch_spread, figure_words
    from yellowbob.reports.log_sets import batch_report

    log = the_log()
    spread, builds = batch_spread(log, label), log.builds(batch=label)
    if as_json:
        print_json(batch_report(label, builds, spread))
        return
    lost = [b for b in builds if b.state == "lost"]
    typer.echo(f"{label}: {len(builds)} builds, {len(lost)} lost")
    for key, s in spread.items():
        words, unit = figure_words(key)
        sd = "" if s.sd is None else f" ± {s.sd:.3f}"
        typer.echo(f"  {words}: {s.mean:.3f}{sd} {unit}, {s.least:.3f} to {s.most:.3f}, of {s.count}")
    for b in lost:
        typer.echo(f"  lost: {b.serial}: {b.lost_why or 'no word why'}")


@log_app.command()
def chart(
    x: Annotated[str, typer.Argument(help="figure across; a wrong one lists them")],
    y: Annotated[str, typer.Argument(help="figure up")],
    words: Annotated[str, typer.Option(help="of builds that have all of these")] = "",
    out: Annotated[Path | None, typer.Option("-o", "--out", help="a .csv of the points too")] = None,
    as_json: Json = False,
) -> None:
    """Any two figures of the builds against one another."""
    from yellowbob.logbook.exchange import chart_csv
    from yellowbob.logbook.figures import charted, figure_words
    from yellowbob.reports.log_sets import chart_report

    found = charted(the_log(), x, y, words)
    if out is not None:
        from yellowbob.design.files import write_text_whole

        if out.suffix.lower() != ".csv":
            raise BadInput(f"{out.name}: I write .csv; name the file so")
        write_text_whole(out, chart_csv(x, y, found))
    if as_json:
        print_json(chart_report(x, y, found, None if out is None else str(out)))
        return
    (of_x, ux), (of_y, uy) = figure_words(x), figure_words(y)
    typer.echo(f"{of_y}{f', {uy}' * bool(uy)} over {of_x}{f', {ux}' * bool(ux)}: {len(found.x)} builds")
    for serial, a, b in zip(found.serials, found.x, found.y, strict=True):
        typer.echo(f"  {serial:12} {a:12.3f} {b:12.3f}")
    if found.r is not None:
        typer.echo(f"correlation {found.r:+z.2f}; {found.slope:+.4g} ± {found.slope_u:.2g} {uy} a {ux or 'step'}")
