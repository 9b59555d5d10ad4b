"""Commands of the Tank bench: rests, check, drop, righting."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import (
    Density,
    DesignFile,
    File,
    Json,
    Load,
    Salinity,
    Temperature,
    Unit,
    WaterName,
    opened_study,
    study_of,
    under,
)
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.action.drop import Drop


@command(CONTRACTS["rests"])
def rests(
    file: File, density: Density = None, unit: Unit = None, water: WaterName = None, temperature: Temperature = None,
    salinity: Salinity = None, load: Load = None, as_json: Json = False,
) -> None:  # fmt: skip
    """Every rest, the share of landings that end in it, and how hard a knock turns it over."""
    from yellowbob.reports.tank import rests_report

    study = opened_study(file, density, unit, water, temperature, salinity, load)
    report = rests_report(study)
    if as_json:
        print_json(report)
        return
    if not report["rests"]:
        typer.echo(f"{report['name']} sinks, {report['sinking_weight_g']:.2f} g too heavy")
    for one in report["rests"]:
        knock = (
            "its only rest"
            if one["knock_energy_uj"] is None
            else f"a knock of {one['knock_energy_uj']:.1f} µJ turns it"
        )
        typer.echo(
            f"pitch {one['pitch_deg']:z6.1f}°  roll {one['roll_deg']:z7.1f}°  draft {one['draft_mm']:z5.1f} mm  "
            f"GM {one['gm_min_mm']:5.2f} mm  {100 * one['landing_share']:5.1f} % of landings  {knock}"
        )


@command(CONTRACTS["check"])
def check(
    file: DesignFile,
    set_aside: Annotated[list[str] | None, typer.Option(help="'check=reason', kept in the file")] = None,
    heed: Annotated[list[str] | None, typer.Option(help="a check to count again")] = None,
    as_json: Json = False,
) -> None:
    """Every check with its figure, why it matters and what to do; ends with exit code 1 if any fails."""
    from yellowbob.checks.verdict import heeded_again, with_set_aside
    from yellowbob.design.files import write_design
    from yellowbob.reports.tank import check_report
    from yellowbob.study import Study

    study = study_of(file)
    design = study.design
    for text in set_aside or ():
        key, _, reason = text.partition("=")
        design = with_set_aside(design, key.strip(), reason)
    for key in heed or ():
        design = heeded_again(design, key)
    if design is not study.design:
        write_design(design, file)
        study = Study(design, study)
    report = check_report(study)
    if as_json:
        print_json(report)
    else:
        marks = {"good": "✓", "watch": "◦", "failed": "!", "unknown": "?"}
        for one in report["checks"]:
            aside = f"  (set aside: {one['set_aside']})" if one["set_aside"] else ""
            typer.echo(f"{marks[one['state']]} {one['title']:<20} {one['figure']}{aside}")
            if one["state"] in ("watch", "failed") and not aside:
                typer.echo(f"    {one['do']}")
    if report["failed"]:
        raise typer.Exit(1)


@command(CONTRACTS["drop"])
def drop(
    file: DesignFile,
    pitch: Annotated[str | None, typer.Option(help="nose up positive; at random when left out")] = None,
    roll: Annotated[str | None, typer.Option(help="starboard down positive")] = None,
    height: Annotated[str, typer.Option(help="of its lowest point over the water")] = "200 mm",
    seed: Annotated[int, typer.Option(help="of random attitudes")] = 1,
    times: Annotated[int, typer.Option(help="how many drops; more than one are thrown at random and tallied")] = 1,
    by_hand: Annotated[bool, typer.Option("--by-hand", help="held afloat at the attitude and let go")] = False,
    undamped: Annotated[bool, typer.Option("--undamped", help="no drag and no waves, 10 s")] = False,
    as_json: Json = False,
) -> None:
    """Throw it in: the motion to where it comes to rest, or a tally of many throws."""
    import numpy as np

    from yellowbob.action.drop import throws
    from yellowbob.reports.tank import drop_report
    from yellowbob.study import of

    if seed < 0 or not 1 <= times <= 10_000:
        raise BadInput("--seed must be 0 or more, and --times from 1 to 10000")
    study = study_of(file)
    high = read_quantity(height, "length")
    at = None
    if times == 1 and pitch is not None:
        at = (math.radians(read_quantity(pitch, "angle")), math.radians(read_quantity(roll or "0", "angle")))
    thrown = throws(
        of.afloat(study), of.inertia_g_mm2(study), np.random.default_rng(seed), times, high, at, by_hand, not undamped
    )
    report = drop_report(study, thrown, high, undamped)
    if as_json:
        print_json(report)
        return
    if times == 1:
        _say_drop(thrown[0])
        return
    for rest, end in zip(of.rests(study), report["ends"], strict=True):
        pitched, rolled = math.degrees(rest.pitch_rad), math.degrees(rest.roll_rad)
        typer.echo(f"{end['drops']:5d} of {times} at pitch {pitched:z.1f}°, roll {rolled:z.1f}°")
    if report["not_at_rest"]:
        typer.echo(f"{report['not_at_rest']:5d} not at rest")


def _say_drop(last: Drop) -> None:
    if last.end is None:
        typer.echo(f"still moving after {last.times_s[-1]:.1f} s")
        return
    typer.echo(f"at rest after {last.times_s[-1]:.1f} s: pitch {math.degrees(last.end.pitch_rad):z.1f}°, "
               f"roll {math.degrees(last.end.roll_rad):z.1f}°, draft {last.end.draft_mm:z.1f} mm")  # fmt: skip


@command(CONTRACTS["righting"])
def righting(
    file: DesignFile,
    axis: Annotated[str, typer.Option(help="roll, pitch, or a bearing in degrees between them")] = "roll",
    rest: Annotated[int, typer.Option(help="which rest, 0 the first of `rests`")] = 0,
    load: Load = None,
    as_json: Json = False,
) -> None:
    """The righting arm GZ about a level axis, its range of stability and area."""
    import numpy as np

    from yellowbob.afloat.righting import level_axis
    from yellowbob.afloat.righting import righting as arms
    from yellowbob.study import of

    study = under(study_of(file), load)
    if not of.rests(study):
        raise BadInput("it sinks: it has no rest to turn it from")
    if not 0 <= rest < len(of.rests(study)):
        raise BadInput(f"--rest {rest}: there are {len(of.rests(study))} rests, counted from 0")
    bearing = {"roll": 0.0, "pitch": 90.0}.get(axis)
    bearing = read_quantity(axis, "angle") if bearing is None else bearing
    up = of.rests(study)[rest].up
    found = arms(of.afloat(study), up, level_axis(up, math.radians(bearing)))
    report = {
        "angle_deg": [round(float(a), 6) for a in np.degrees(found.angles_rad)],
        "gz_mm": [round(float(a), 9) for a in found.arms_mm],
        "range_deg": math.degrees(found.range_rad), "area_mm_rad": found.area_mm_rad,
    }  # fmt: skip
    if as_json:
        print_json(report)
        return
    for a, gz in list(zip(np.degrees(found.angles_rad), found.arms_mm, strict=True))[::6]:
        typer.echo(f"{a:5.0f}°  {gz:z7.2f} mm")
    typer.echo(f"comes back from up to {report['range_deg']:.0f}°")
