"""Commands for floats: cock, shot, size, dropper."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Drawn, Json, Out, study_of
from yellowbob.cli.output import print_json
from yellowbob.cli.patience import patience
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.study import Study
    from yellowbob.trials.aslant import Aslant


@command(CONTRACTS["cock"])
def cock(
    file: DesignFile,
    steps: Annotated[int, typer.Option(help="how many loads, closer where it turns")] = 40,
    pull: Annotated[str | None, typer.Option(help="with --aslant: how hard it is pulled, such as '0.4 g'")] = None,
    slanted: Annotated[float | None, typer.Option("--aslant", help="how far from straight down, degrees")] = None,
    as_json: Json = False,
) -> None:
    """How a float cocks, load by load, to the one that sinks it; and what it carries with its tip showing."""
    from yellowbob.afloat.line import cocking
    from yellowbob.reports.floats import cock_report
    from yellowbob.study import of
    from yellowbob.trials.crooked import crooked
    from yellowbob.trials.sensitivity import sensitivity

    study = study_of(file)
    found = cocking(of.unloaded(study), of.line_at(study), steps)
    carried, why = None, ""
    try:
        carried = of.carried(study)
    except BadInput as error:
        why = str(error)
    report = cock_report(study, found, carried, sensitivity(study), why, crooked(study), _aslant(study, pull, slanted))
    if as_json:
        print_json(report)
        return
    if report["aslant"] is not None:
        one = report["aslant"]
        typer.echo(f"{one['load_g']:.2f} g pulling {one['from_down_deg']:.0f}° from straight down: "
                   f"pitch {one['pitch_deg']:z.1f}°, "
                   f"tip {one['tip_mm']:z.1f} mm, {one['speed_m_s']:.2f} m/s of water past it (an estimate)")  # fmt: skip
    for one in report["steps"]:
        typer.echo(
            f"{one['load_g']:8.3f} g  pitch {one['pitch_deg']:z6.1f}°  tip {one['tip_mm']:z6.1f} mm  {one['state']}"
        )
    stands = "never stands" if found.cocks_at_g is None else f"stands from {found.cocks_at_g:.3f} g on"
    typer.echo(f"{stands}; sinks at {found.sinks_at_g:.2f} g")
    if carried is not None:
        typer.echo(f"carries {carried.load_g:.3f} g with {carried.tip_mm:g} mm of tip, ± {carried.capillary_g:.3f} g by the "
                   f"meniscus; 0.01 g more draws it {carried.mm_per_cg:.2f} mm down")  # fmt: skip
    else:
        typer.echo(why)
    for one in report["by_shot"][1:]:
        typer.echo(f"  with {one['name']}: {one['load_g']:.3f} g, {one['state']}, tip {one['tip_mm']:z.1f} mm")
    if report["lift_mm"] is not None:
        typer.echo(f"a fish that lifts {report['lift_of']} lets the tip rise {report['lift_mm']:.1f} mm")
    for one in report["crooked"]:
        flies = "flies as before" if one["as_before"] else f"then {one['flies']}"
        typer.echo(f"{one['piece']} {one['off_mm']:g} mm off the axis leans it {one['leans_deg']:.2f}°; it {flies}")
    for one in report["changes"][1:]:
        typer.echo(f"{one['words']}: {one['mm_per_cg']:.2f} mm for 0.01 g, carries {one['capacity_g']:.2f} g")


@command(CONTRACTS["start-float"])
def start_float(
    kind: Annotated[str, typer.Argument(help="stick float, waggler or antenna float")],
    capacity: Annotated[str, typer.Option(help="wanted load under water, such as '3 g'")],
    out: Out,
    tip: Annotated[str | None, typer.Option(help="how much of the tip is to show")] = None,
    as_json: Json = False,
) -> None:
    """Start a float of a kind from what it is to carry."""
    from yellowbob.design.files import write_design
    from yellowbob.study import Study, of
    from yellowbob.trials.float_starts import started

    with patience("sizing its body") as told:
        made = started(
            kind, read_quantity(capacity, "mass"), None if tip is None else read_quantity(tip, "length"), told
        )
    write_design(made, out)
    carried, across = of.carried(Study(made)).load_g, float(of.outer(Study(made)).bounds[:, 1].max()) * 2.0
    if as_json:
        print_json({"wrote": str(out), "name": made.name, "kind": made.kind, "capacity_g": carried, "body_mm": across})
        return
    typer.echo(f"wrote {out}: {kind}, {across:.1f} mm across, carries {carried:.3f} g")


def _aslant(study: Study, pull: str | None, from_down_deg: float | None) -> Aslant | None:
    """A pull that leans from straight down, where one is asked for."""
    if pull is None and from_down_deg is None:
        return None
    if pull is None or from_down_deg is None:
        raise BadInput("--pull and --aslant go together: how hard, and how far from straight down")
    from yellowbob.trials.aslant import aslant

    return aslant(study, read_quantity(pull, "mass"), from_down_deg)


@command(CONTRACTS["shot"])
def shot(
    file: DesignFile,
    tip: Annotated[str | None, typer.Option(help="how much of the tip is to show; the design's when left out")] = None,
    like: Annotated[str, typer.Option(help="the kind of shot, by a part of its name")] = "split shot",
    from_shelf: Annotated[bool, typer.Option("--from-shelf", help="only what was counted on your own shelf")] = False,
    no_lead: Annotated[bool, typer.Option("--no-lead", help="shot without lead")] = False,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="the .ybob to write it to")] = None,
    as_json: Json = False,
) -> None:
    """The shot that brings a float to its tip mark: the best combination there is, what is left, and what to write on it."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.floats import shot_report
    from yellowbob.trials.shotting import shotted, with_shot

    study = study_of(file)
    found = shotted(study, None if tip is None else read_quantity(tip, "length"), like, from_shelf, not no_lead)
    if out is not None:
        write_design(with_shot(study.design, found), out)
    report = shot_report(study, found)
    if as_json:
        print_json(report)
        return
    typer.echo(f"carries {report['capacity_g']:.3f} g under water with {report['tip_mm']:g} mm of tip; "
               f"{report['on_line_g']:.3f} g of it is hook, bait and leader")  # fmt: skip
    if report["handy"] is not None:
        typer.echo(f"handy: {report['handy']['words']}, {report['handy']['left_g']:.3f} g left to trim")
    typer.echo(f"nearest: {report['words']}, {report['in_air_g']:.3f} g in air, {report['left_g']:.4f} g left to trim")
    for label in report["labels"][:4]:
        typer.echo(f"  write on it: {label}")
    if report["lead"]:
        typer.echo("Lead is poisonous and its use is limited in places: look up the local rule.")
    if out is not None:
        typer.echo(f"wrote {out}")


@command(CONTRACTS["size"])
def size(
    file: DesignFile,
    capacity: Annotated[str, typer.Option(help="wanted load under water, such as '3 g'")],
    vary: Annotated[str, typer.Option(metavar="PIECE.MEASURE", help="PIECE.diameter, PIECE.length or PIECE.place")],
    out: Out,
    tip: Annotated[str | None, typer.Option(help="how much of the tip is to show; the design's when left out")] = None,
    as_json: Json = False,
) -> None:
    """Find the diameter, length or place of a piece at which a float carries what is wanted."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.floats import size_report
    from yellowbob.study import of
    from yellowbob.trials.sizing import sized

    study = study_of(file)
    wanted = read_quantity(capacity, "mass")
    if wanted <= 0.0:
        raise BadInput(f"--capacity '{capacity}': want more than nothing")
    showing = of.tip_wanted_mm(study) if tip is None else read_quantity(tip, "length")
    with patience(f"varying {vary}") as told:
        found = sized(study.design, wanted, showing, vary, told, study)
    write_design(found.design, out)
    report = size_report(found, vary, str(out))
    if as_json:
        print_json(report)
        return
    typer.echo(
        f"wrote {out}: {vary} {found.measure_mm:.2f} mm, carries {found.capacity_g:.3f} g with {showing:g} mm of tip"
    )


@command(CONTRACTS["dropper"])
def dropper(
    file: DesignFile,
    jig: Annotated[str | None, typer.Option(help="mass of the jig in air")] = None,
    material: Annotated[str, typer.Option(help="lead, tungsten or tin")] = "lead",
    speed: Drawn = None,
    as_json: Json = False,
) -> None:
    """What jig a through-line float holds up, and how it sits with it and without."""
    from yellowbob.reports.floats import dropper_report
    from yellowbob.study import of
    from yellowbob.trials.dropper import dropper as worked

    study = study_of(file)
    found = worked(study, None if jig is None else read_quantity(jig, "mass"), material)
    run = None
    if speed is not None:
        from yellowbob.trials.aslant import drawn_home

        if found.spare_g < 0.0:
            raise BadInput(
                f"the jig draws it under, {-found.spare_g:.2f} g too much: it is not drawn along the surface"
            )
        _, run = drawn_home(study, max(of.line_load_g(study) + found.pull_g, 0.0), speed)
    report = dropper_report(study, found, run)
    if as_json:
        print_json(report)
        return
    heaviest = ", ".join(f"{mass:.2f} g of {name}" for name, mass in report["heaviest_g"].items())
    typer.echo(f"holds {report['holds_g']:.2f} g under water: {heaviest}")
    typer.echo(
        f"by itself it sits {report['bare']['pitch_deg']:z.1f}°, draft {report['bare']['draft_mm']:z.1f} mm; "
        f"without hooks {report['no_hooks']['pitch_deg']:z.1f}°"
    )
    if report["with_jig"] is not None and report["jig_g"] is not None:
        typer.echo(f"with the jig {report['pitch_deg']:z.1f}°, draft {report['with_jig']['draft_mm']:z.1f} mm, "
                   f"{report['spare_g']:.2f} g to spare")  # fmt: skip
    if report["drawn"] is not None:
        one = report["drawn"]
        typer.echo(f"drawn at {one['speed_m_s']:.2f} m/s: pitch {one['pitch_deg']:z.1f}°, draft {one['draft_mm']:z.1f} mm, "
                   f"{one['pull_g']:.1f} g on the line (an estimate)" if not one["ends"] else
                   f"drawn at {one['speed_m_s']:.2f} m/s it {one['ends']} (an estimate)")  # fmt: skip
    for words in report["warnings"]:
        typer.echo(f"! {words}")


@command(CONTRACTS["paint"])
def paint(
    file: DesignFile,
    propose: Annotated[bool, typer.Option("--propose", help="put bands on its tip first, by what is to show")] = False,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="the .ybob to write it to")] = None,
    as_json: Json = False,
) -> None:
    """The painting plan: bands light first, masks, what shows above the water and from how far."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.fitout import paint_report
    from yellowbob.study import Study
    from yellowbob.trials.painting import proposed

    study = study_of(file)
    if propose:
        study = Study(study.design.but(bands=proposed(study)), study)
    report = paint_report(study)
    if out is not None:
        write_design(study.design, out)
    if as_json:
        print_json(report)
        return
    for one in report["bands"]:
        masks = ", ".join(f"{m:g}" for m in one["masks_mm"]) or "none"
        typer.echo(
            f"{one['order']}. {one['name']}: {one['from_mm']:g} to {one['to_mm']:g} mm, masks at {masks}; "
            f"{one['shows_mm']:.1f} mm show, told from {one['seen_m']:.0f} m"
        )
    for words in report["warnings"]:
        typer.echo(f"! {words}")
    if not report["bands"]:
        typer.echo("no bands are put on it; --propose puts them on its tip")


@command(CONTRACTS["shapes"])
def shapes(
    file: DesignFile,
    capacity: Annotated[
        str | None, typer.Option(help="wanted load under water; what it carries now when left out")
    ] = None,
    tip: Annotated[str | None, typer.Option(help="how much of the tip is to show; the design's when left out")] = None,
    folder: Annotated[Path | None, typer.Option("-o", "--out", help="a folder to write each into")] = None,
    as_json: Json = False,
) -> None:
    """The body in several shapes, each sized to carry the same, side by side."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.floats import shapes_report
    from yellowbob.study import of
    from yellowbob.trials.shapes import shapes as worked

    study = study_of(file)
    showing = of.tip_wanted_mm(study) if tip is None else read_quantity(tip, "length")
    wanted = of.carried(study).load_g if capacity is None else read_quantity(capacity, "mass")
    with patience("sizing every shape") as told:
        found = worked(study.design, wanted, showing, told)
    wrote: dict[str, str] = {}
    if folder is not None:
        folder.mkdir(parents=True, exist_ok=True)
        for one in found:
            if one.design is not None:
                wrote[one.name] = str(folder / f"{one.name}.ybob")
                write_design(one.design.but(name=f"{study.design.name}, {one.name}"[:80]), folder / f"{one.name}.ybob")
    report = shapes_report(study.design.name, wanted, showing, found, wrote)
    if as_json:
        print_json(report)
        return
    for row in report["shapes"]:
        if row["fault"]:
            typer.echo(f"{row['name']}: {row['fault']}")
            continue
        stands = "never stands" if row["cocks_at_g"] is None else f"stands from {row['cocks_at_g']:.2f} g on"
        typer.echo(
            f"{row['name']}: {row['wide_mm']:.2f} mm, {row['mass_g']:.2f} g, carries {row['capacity_g']:.3f} g, "
            f"{stands}, {row['mm_per_cg']:.2f} mm for 0.01 g"
        )
