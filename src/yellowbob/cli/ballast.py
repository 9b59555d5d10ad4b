"""Commands of the Tank bench that change ballast: ballast, odds, trim, variants, sweep."""

from __future__ import annotations

import math
from collections import Counter
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, study_of
from yellowbob.cli.output import print_json
from yellowbob.cli.patience import patience
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.ballast.picks import Pick
    from yellowbob.ballast.pose import Pose
    from yellowbob.design.model import Design
    from yellowbob.study import Study
    from yellowbob.trials.ballasting import Ballasting
    from yellowbob.trials.change import Change
    from yellowbob.trials.remedies import Remedy


def _pose(study: Study, pitch: str, draft: str | None, freeboard: str | None, mass: str | None) -> Pose:
    from yellowbob.ballast.pose import Pose
    from yellowbob.trials.ballasting import default_pose

    angle = math.radians(read_quantity(pitch, "angle"))
    if sum(v is not None for v in (draft, freeboard, mass)) > 1:
        raise BadInput("say one of --draft, --freeboard or --mass: each of them fixes the waterline")
    if draft is not None:
        return Pose(angle, draft_mm=read_quantity(draft, "length"))
    if mass is not None:
        return Pose(angle, mass_g=read_quantity(mass, "mass"))
    if freeboard is not None:
        high, _, at = freeboard.partition("@")
        if not at:
            raise BadInput(f"--freeboard '{freeboard}': write what shows and where, such as '5 mm@30 mm'")
        return Pose(angle, freeboard_mm=read_quantity(high, "length"), at_x_mm=read_quantity(at, "length"))
    return default_pose(study.build, study, angle)


@command(CONTRACTS["ballast"])
def ballast(
    file: DesignFile,
    pitch: Annotated[str, typer.Option(help="wanted pitch, nose up positive, such as 24 or '-3°'")],
    draft: Annotated[str | None, typer.Option(help="wanted depth of the lowest point")] = None,
    freeboard: Annotated[str | None, typer.Option(metavar="MM@X", help="what shows of the back at a station")] = None,
    mass: Annotated[str | None, typer.Option(help="wanted finished mass, hooks on")] = None,
    keep: Annotated[list[str] | None, typer.Option(help="ballast that stays; the rest is taken out first")] = None,
    slug: Annotated[str | None, typer.Option(help="diameter of the slug to keep room for")] = None,
    from_shelf: Annotated[bool, typer.Option("--from-shelf", help="only what was counted on your own shelf")] = False,
    no_lead: Annotated[bool, typer.Option("--no-lead", help="picks without lead")] = False,
    fit: Annotated[int | None, typer.Option(help="fit the so-manieth pick (1 is the best)")] = None,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="the .ybob to write it to")] = None,
    as_json: Json = False,
) -> None:
    """Pose it: the ballast a wanted attitude needs, where its centre must lie, and picks from the shelf, each verified."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.tank import ballast_report
    from yellowbob.trials.ballasting import ballasting, shelf_picks, why_none, without_ballast
    from yellowbob.trials.remedies import remedies

    study = study_of(file)
    pose = _pose(study, pitch, draft, freeboard, mass)
    radius = read_quantity(slug, "length") / 2 if slug is not None else None
    if radius is not None and not 0.0 < radius <= 500.0:
        raise BadInput(f"--slug {2 * radius:g} mm: a slug is thicker than nothing, up to 1 m")
    if (fit is None) != (out is None):
        raise BadInput("--fit N and -o FILE go together: which pick, and where to write the design with it")
    work = ballasting(study.design, pose, tuple(keep or ()), radius)
    reasons: Counter[str] = Counter()
    with patience("trying picks from the shelf") as told:
        picks = shelf_picks(work, only_counted=from_shelf, lead=not no_lead, reasons=reasons, told=told)
    why = "" if picks else why_none(work, reasons)
    with patience("trying remedies") as told:
        tried = [] if picks else remedies(work, told)
    if fit is not None and out is not None:
        if not 1 <= fit <= len(picks):
            raise BadInput(f"--fit {fit}: there are {len(picks)} picks")
        bare = without_ballast(study.design, tuple(keep or ()))
        write_design(bare.but(ballast=(*bare.ballast, *picks[fit - 1].ballast)), out)
    if as_json:
        print_json(ballast_report(work, picks, tried, why))
        return
    _say_ballast(work, picks, tried, why)
    if out is not None:
        typer.echo(f"wrote {out}")


def _say_ballast(work: Ballasting, picks: list[Pick], tried: list[Remedy], why: str) -> None:
    posed, ends = work.posed, work.locus.ends_mm
    typer.echo(f"{posed.total_g:.2f} g finished ({work.pose.by}), draft {posed.draft_mm:z.1f} mm")
    if work.too_heavy_g:
        typer.echo(f"{work.too_heavy_g:.2f} g too heavy before any ballast")
    else:
        typer.echo(f"{posed.ballast_g:.2f} g more than the wood it replaces: {work.lead_g:.2f} g of lead")
    if ends is not None:
        one, two = ends
        typer.echo(
            f"its centre on the line from x {one[0]:.1f}, z {one[2]:z.1f} to x {two[0]:.1f}, z {two[2]:z.1f} mm; "
            f"below, {work.locus.limit} stops it"
        )
    else:
        typer.echo(f"no place for it: {work.locus.limit}")
    for number, pick in enumerate(picks, 1):
        typer.echo(
            f"{number}. {pick.words}: sits {pick.at_rest.pitch_deg:z.1f}°, draft {pick.at_rest.draft_mm:z.1f} mm, "
            f"GM {pick.at_rest.gm_min_mm:.1f} mm, {100 * (pick.at_rest.landing_share or 0):.0f} % come right"
        )
    if not picks:
        typer.echo(f"no pick from the shelf does it: {why}" + ("" if tried else ", and no change that was tried helps"))
    for remedy in tried:
        where = "room for it" if remedy.feasible else remedy.limit
        typer.echo(f"  with {remedy.words}: {remedy.ballast_g:.2f} g, {where}")
    if any(p.lead for p in picks):
        typer.echo("Lead is poisonous and its use is limited in places: look up the local rule.")


@command(CONTRACTS["odds"])
def odds(
    file: DesignFile,
    builds: Annotated[int, typer.Option(help="how many builds are drawn")] = 5000,
    seed: Annotated[int, typer.Option(help="the same seed gives the same result")] = 1,
    as_json: Json = False,
) -> None:
    """Build odds: how tolerances of wood, finish, drilling, ballast and hooks spread the result."""
    from yellowbob.reports.tank import odds_report
    from yellowbob.trials.odds import odds as worked

    if seed < 0:
        raise BadInput(f"--seed {seed}: give 0 or more")
    study = study_of(file)
    with patience(f"settling {builds} builds") as told:
        found = worked(study, builds, seed, lambda done: told(done / builds))
    if as_json:
        print_json(odds_report(study.design.name, found))
        return
    typer.echo(f"{found.builds} builds: {100 * found.floats:.1f} % float, {100 * found.sits:.1f} % sit within "
               f"{found.wanted}, {100 * found.comes_right:.1f} % come right")  # fmt: skip
    typer.echo(f"pitch {found.pitch_deg.low:z.1f} to {found.pitch_deg.high:z.1f}°, draft {found.draft_mm.low:z.1f} to "
               f"{found.draft_mm.high:z.1f} mm (9 of 10 builds)")  # fmt: skip
    for one in found.matters[:3]:
        typer.echo(f"  {100 * one.share:.0f} % of it from the {one.words} (± {one.sigma:.3g} {one.unit})")
    if found.if_weighed is not None:
        typer.echo(f"  this piece weighed: {100 * found.if_weighed:.0f} % would sit as wanted")
    if found.if_jig is not None:
        typer.echo(f"  drilled in a jig: {100 * found.if_jig:.0f} % would")


@command(CONTRACTS["trim"])
def trim(
    file: DesignFile,
    pitch: Annotated[str | None, typer.Option(help="wanted pitch; the nearest trims come first")] = None,
    as_json: Json = False,
) -> None:
    """What can still be changed on a finished piece, each tried, and its effect."""
    from yellowbob.reports.tank import trim_report
    from yellowbob.trials.trim import trims

    wanted = None if pitch is None else read_quantity(pitch, "angle")
    with patience("trying every trim") as told:
        found = trims(study_of(file), wanted, told=told)
    if as_json:
        print_json([trim_report(t) for t in found])
        return
    if not found:
        typer.echo("it has no hook, ring or ballast that could be another: nothing is tried")
    for one in found:
        end = f"{one.after.pitch_deg:z6.1f}°" if one.after.floats else " sinks"
        typer.echo(
            f"{end}  {one.pitch_deg:+z6.1f}°  draft {one.draft_mm:+z5.2f} mm  reserve {one.reserve_g:+z5.2f} g  {one.words}"
        )


def _other(design: Design) -> Change:
    from yellowbob.trials.change import Change

    return Change(design.name, lambda _: design)


@command(CONTRACTS["variants"])
def variants(
    file: DesignFile,
    by: Annotated[str, typer.Option(help="place, hooks, wood or shape")] = "place",
    other: Annotated[list[Path] | None, typer.Option("--with", help="another design to set beside it")] = None,
    as_json: Json = False,
) -> None:
    """The same body with several ballast places, hooks or woods, or other designs, side by side."""
    from yellowbob.reports.tank import settled_report
    from yellowbob.shelf.filling import opened
    from yellowbob.trials import variants as make
    from yellowbob.trials.shapes import by_shape

    ways = {"place": make.by_place, "hooks": make.by_hooks, "wood": make.by_wood, "shape": by_shape}
    study = study_of(file)
    if other:
        changes = [make.as_drawn(study.design.name), *(_other(opened(path)) for path in other)]
    elif by in ways:
        changes = ways[by](study.build)
    else:
        raise BadInput(f"--by '{by}': say place, hooks, wood or shape")
    with patience("settling variants") as told:
        found = make.compared(study, changes, told=told)
    if as_json:
        print_json([
            {"words": v.words, "fault": v.fault or None, **(settled_report(v.at_rest) if v.at_rest else {})} for v in found
        ])  # fmt: skip
        return
    for one in found:
        s = one.at_rest
        if s is None or not s.floats:
            typer.echo(f"{one.words:<24} {one.fault or 'sinks'}")
            continue
        typer.echo(f"{one.words:<24} {s.pitch_deg:z6.1f}°  draft {s.draft_mm:z5.1f} mm  reserve {s.reserve_g:z5.1f} g  "
                   f"GM {s.gm_min_mm:4.1f} mm  {100 * (s.landing_share or 0):3.0f} % come right")  # fmt: skip


@command(CONTRACTS["sweep"])
def sweep(
    file: DesignFile,
    vary: Annotated[str, typer.Option(help="what to change; a wrong name lists them")],
    low: Annotated[float | None, typer.Option("--from", help="first value")] = None,
    high: Annotated[float | None, typer.Option("--to", help="last value")] = None,
    steps: Annotated[int, typer.Option(help="how many values")] = 11,
    as_json: Json = False,
) -> None:
    """One quantity from value to value, and how it sits at each."""
    from yellowbob.reports.tank import sweep_report
    from yellowbob.trials.variants import sweep as swept

    with patience(f"settling {steps} steps") as told:
        report = sweep_report(swept(study_of(file), vary, low, high, steps, told))
    if as_json:
        print_json(report)
        return
    for p in report:
        sits = (
            f"{p['pitch_deg']:z6.1f}°  draft {p['draft_mm']:z5.1f} mm  reserve {p['reserve_g']:z6.2f} g"
            if p["floats"]
            else "  sinks"
        )
        typer.echo(f"{p['value']:9.3f}  {sits}")
