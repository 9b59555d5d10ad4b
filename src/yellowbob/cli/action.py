"""Commands of motion: rough water, cast."""

from __future__ import annotations

from typing import Annotated, Any

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import SPEED, DesignFile, Json, speed_of, study_of
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

USUAL_ROD_M = 1.0


@command(CONTRACTS["rough"])
def rough(
    file: DesignFile,
    chop: Annotated[str, typer.Option(help="height of the waves from trough to crest, such as '40 mm'")],
    wave_length: Annotated[
        str | None, typer.Option(help="their length; a young chop's, 12 heights, when left out")
    ] = None,
    current: Annotated[float | None, typer.Option(help="of the water past a float held by its line, m/s")] = None,
    line_angle: Annotated[float, typer.Option(help="how far the line slants down from the level, degrees")] = 45.0,
    as_json: Json = False,
) -> None:
    """How it rides waves and how much tip they need; what current draws a held float under. Estimates."""
    from yellowbob.reports.action import rough_report
    from yellowbob.trials.rough import in_rough_water

    study = study_of(file)
    long = None if wave_length is None else read_quantity(wave_length, "length")
    waves, held = in_rough_water(study, read_quantity(chop, "length"), long, current, line_angle)
    report = rough_report(study, waves, held)
    if as_json:
        print_json(report)
        return
    told = (f"{name} {value:.2f} s" for name, value in report["periods_s"].items() if value is not None)
    typer.echo(f"periods: {', '.join(told)}")
    typer.echo(
        f"waves of {report['wave_mm']:g} mm come every {report['wave_s']:.2f} s; it bobs {report['follows']:.2f} of that"
    )
    shows = "" if report["shows_mm"] is None else f"; it shows {report['shows_mm']:.1f} mm"
    typer.echo(f"the crests reach {report['needs_mm']:.1f} mm up it{shows}")
    if report["in_step"]:
        typer.echo("! the waves are in step with its own bob")
    if held is not None:
        under = "" if held.under_m_s is None else f"; {held.under_m_s:.2f} m/s draws it under"
        typer.echo(
            f"held by its line the current pulls with {held.drag_g:.2f} g and leans it about {held.leans_deg:.0f}°{under}"
        )
    typer.echo("(estimates)")


@command(CONTRACTS["cast"])
def cast(
    file: DesignFile,
    speed: Annotated[float, typer.Option(parser=speed_of, metavar="M_S", help=f"as it leaves the rod, {SPEED}")] = 20.0,
    angle: Annotated[float, typer.Option(help="over the level, degrees")] = 35.0,
    height: Annotated[str, typer.Option(help="of the rod's tip over the water")] = "2 m",
    tackle_max: Annotated[str | None, typer.Option(help="heaviest the rod throws, such as '21 g'")] = None,
    as_json: Json = False,
) -> None:
    """Throw it: how far, whether it tumbles, which end leads, how it meets the water. An estimate, for comparing."""
    from yellowbob.action.flight import cast as throw
    from yellowbob.reports.action import cast_report
    from yellowbob.study import of
    from yellowbob.study.action import tied_first
    from yellowbob.trials.thrown import held_words, landed, with_line

    study = study_of(file)
    most = None if tackle_max is None else read_quantity(tackle_max, "mass")
    if most is not None and most <= 0.0:
        raise BadInput(f"--tackle-max '{tackle_max}': want more than nothing")
    found = throw(of.thrown(study), speed, angle, read_quantity(height, "length") / 1000.0, tied_first(study))
    tall = read_quantity(height, "length") / 1000.0
    splash = landed(study, speed, angle, tall)
    report = cast_report(study, found, most, splash, with_line(study, speed, angle, tall))
    if as_json:
        print_json(report)
        return
    typer.echo(f"{report['range_m']:.1f} m, {100 * report['share']:.0f} % of a smooth dart's; {report['flies']}, "
               f"{report['turns']:.1f} turns")  # fmt: skip
    typer.echo(
        f"meets the water at {report['landing']['pitch_deg']:z.0f}° and {report['landing']['speed_m_s']:.1f} m/s"
    )
    if report["too_heavy"]:
        typer.echo(f"! its {report['mass_g']:.1f} g are more than the {most:g} g that the rod throws")
    right, evenly = report["landing"]["comes_right"], report["landing"]["evenly"]
    if right is not None:
        typer.echo(
            f"thrown like that, {100 * right:.0f} % come right ({100 * evenly:.0f} % of landings even over all attitudes)"
        )
    if held_words(splash):
        typer.echo(held_words(splash))
    both = report["two_bodies"]
    if both is not None:
        loose = "; the thread goes slack and may loop round the float" if both["tangles"] else ""
        typer.echo(
            f"with the {both['mass_g']:.1f} g on its line {both['range_m']:.1f} m, {both['leads']} leading{loose}"
        )
    typer.echo("(an estimate, for comparing)")


@command(CONTRACTS["action"])
def action(
    file: DesignFile,
    speed: Annotated[
        list[float] | None,
        typer.Option(parser=speed_of, metavar="M_S", help=f"{SPEED}; given several times, 0 to 2 when left out"),
    ] = None,
    line_angle: Annotated[float | None, typer.Option(help="of the line over the level, degrees")] = None,
    rod_height: Annotated[
        float | None, typer.Option(help="of the rod's tip over the water, m; 1 where neither is given")
    ] = None,
    line_out: Annotated[float, typer.Option(help="line paid out, m")] = 15.0,
    as_json: Json = False,
) -> None:
    """How it runs: attitude, draft and pull at each speed, and where it goes under or leaves the water. An estimate."""
    from yellowbob.action.running import line_of
    from yellowbob.reports.action import action_report
    from yellowbob.study import of

    study = study_of(file)
    high = USUAL_ROD_M if line_angle is None and rod_height is None else rod_height
    line = line_of(line_angle, high, line_out)
    report = action_report(study, of.draw(study, sorted(speed) if speed else list(of.USUAL_SPEEDS), line))
    if as_json:
        print_json(report)
        return
    _tell(report)


def _tell(report: dict[str, Any]) -> None:
    swings = {s["speed_m_s"]: s for s in report["swings"]}
    for one in report["trim"]:
        swing = swings.get(one["speed_m_s"])
        words = "" if swing is None else _swing_words(swing)
        typer.echo(f"{one['speed_m_s']:.2f} m/s  pitch {one['pitch_deg']:z6.1f}°  draft {one['draft_mm']:z5.1f} mm  "
                   f"pull {one['pull_g']:6.1f} g{words}")  # fmt: skip
    if report["planes_from_m_s"] is not None:
        typer.echo(f"from {report['planes_from_m_s']:.2f} m/s on it planes: less than half of its weight floats")
    if report["nose_under_from_m_s"] is not None:
        typer.echo(f"from {report['nose_under_from_m_s']:.2f} m/s on its nose is under")
    if report["stays_up_from_m_s"] is not None:
        typer.echo(f"it sinks, and stays up from {report['stays_up_from_m_s']:.2f} m/s on")
    if report["ends"]:
        typer.echo(f"at {report['ends_at_m_s']:.2f} m/s it {report['ends']}")
    if report["rollover_m_s"] is not None:
        typer.echo(f"from {report['rollover_m_s']:.2f} m/s on it {report['rolls_over_by']}")
        true = report["out_of_true"]
        if true["halves_mm"] is not None:
            typer.echo(f"{true['halves_mm']:.1f} mm and {true['halves_deg']:.1f}° out of true halve that")
    for one in report["pop"]:
        typer.echo(f"{one['name']}: holds {one['volume_ml']:.2f} mL, {100 * one['air_share']:.0f} % of it air at rest, looks "
                   f"{one['looks_deg']:.0f}° over the level, scoops up to {one['scoops_ml']:.1f} mL in 100 mm")  # fmt: skip
        if one["jerked"] is not None:
            jerk = one["jerked"]
            way = "digs" if jerk["digs_mm"] > 0.0 else "lifts"
            typer.echo(f"  jerked at {jerk['twitch_m_s']:g} m/s it {way} {abs(jerk['digs_mm']):.1f} mm, brakes with "
                       f"{jerk['brakes_g']:.0f} g, {100 * jerk['air_share']:.0f} % of it air then")  # fmt: skip
    walk = report["walk"]
    if walk is not None and walk["turn_s"] is not None:
        typer.echo(
            f"a twitch turns it over to the other side in {walk['turn_s']:.2f} s, {walk['glide_mm']:.0f} mm ahead"
        )
    for one in report["props"]:
        runs = f", {100 * one['runs'][-1]:.0f} % at the last speed" if one["runs"] else ""
        typer.echo(f"{one['name']}: {100 * one['at_rest']:.0f} % of its disc under water at rest{runs}")
    if report["prop"]:
        last = report["prop"][-1]
        for one in last["each"]:
            if one["starts_m_s"] is None:
                typer.echo(f"{one['name']}: does not turn: {one['stands_for']}")
                continue
            typer.echo(f"{one['name']}: turns from {one['starts_m_s']:.2f} m/s, {one['rate_hz']:.0f} times a second at "
                       f"{last['speed_m_s']:.2f} m/s")  # fmt: skip
        jammed = "over" if last["jammed_deg"] is None else f"{last['jammed_deg']:.0f}°"
        free = "over" if last["heel_deg"] is None else f"{last['heel_deg']:.1f}°"
        typer.echo(f"their bearings heel it {free}, jammed {jammed}")
        if abs(last["jammed_side_g"]) >= 0.05:
            way = "starboard" if last["jammed_side_g"] > 0.0 else "port"
            typer.echo(f"half out of the water they push to {way}: {abs(last['side_g']):.2f} g, jammed "
                       f"{abs(last['jammed_side_g']):.1f} g")  # fmt: skip
    taught = f"set by {report['tests']} tests" if report["calibrated"] else "not yet set by tests on the water"
    typer.echo(f"(estimates, for comparing; {taught}; sound and sight are not computed)")


def _swing_words(swing: dict[str, Any]) -> str:
    if swing["why"]:
        return f"  {swing['why']}"
    if swing["yaw_deg"] is None:
        return "  swings, and nothing holds it"
    how = "swings" if swing["by_itself"] else "is shaken"
    return f"  {how} ±{swing['yaw_deg']:.0f}° at {swing['hz']:.1f} Hz, rolls ±{swing['roll_deg']:.0f}°"
