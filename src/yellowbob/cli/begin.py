"""Commands that begin something: a new design from a brief, a run of sizes, designs sought within a freedom."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer
from pydantic import ValidationError

from yellowbob.cli.asking import asked_of, outlines_in, span
from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, study_of
from yellowbob.cli.output import print_json
from yellowbob.cli.patience import patience
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.trials.answer import Answer
    from yellowbob.trials.asked import Asked
    from yellowbob.trials.seek import Freedom


@command(CONTRACTS["new"])
def new(
    kind: Annotated[
        str, typer.Option(help="popper, wake bait, prop bait, pencil, darter, tail-spinner, crawler, a float …")
    ],
    length: Annotated[
        str, typer.Option(help="of the body; of a float from tip to foot; that of its outlines when left out")
    ] = "",
    outline: Annotated[
        Path | None, typer.Option(help="outlines of your own: a .ybob, such as trace writes, or an SVG")
    ] = None,
    wood: Annotated[
        str, typer.Option(help="of the body, by its name on the shelf; usual for the kind when left out")
    ] = "",
    made: Annotated[str, typer.Option(help="wood, print or resin")] = "wood",
    mass: Annotated[str, typer.Option(help="wanted finished, such as '16 g' or '14..18 g'")] = "",
    tackle: Annotated[str, typer.Option(help="casting range of the rod, such as '7..28 g'")] = "",
    pitch: Annotated[str, typer.Option(help="how it is to sit, degrees nose-up, such as '20..28'")] = "",
    water: Annotated[str, typer.Option(help="fresh, brackish or sea")] = "fresh",
    temperature: Annotated[float, typer.Option(help="of the water, °C")] = 15.0,
    hooks: Annotated[str, typer.Option(help="their size, such as 6 or 1/0")] = "",
    hung_by: Annotated[str, typer.Option(help="wire or 'screw eyes'")] = "wire",
    weight: Annotated[str, typer.Option(help="belly or tail")] = "belly",
    no_lead: Annotated[bool, typer.Option("--no-lead", help="ballast of tungsten")] = False,
    capacity: Annotated[str, typer.Option(help="of a standing float")] = "",
    name: Annotated[str, typer.Option(help="of the design; its kind and length when left out")] = "",
    out: Annotated[Path | None, typer.Option("-o", "--out", help="the .ybob to write")] = None,
    as_json: Json = False,
) -> None:
    """A first sound design from a brief: outlines of its kind, hardware from the shelf, ballast by the full solve."""
    from yellowbob.design.files import write_design
    from yellowbob.reports.begun import begun_report
    from yellowbob.trials.answer import answered

    shape = None if outline is None else outlines_in(outline)
    if not length and shape is None:
        raise BadInput("say how long it is to be with --length, or give outlines of your own with --outline")
    asked = asked_of({
        "kind": kind, "length_mm": read_quantity(length, "length") if length else getattr(shape, "length_mm", 0.0),
        "outline": shape, "wood": wood, "mass_g": span(mass, "mass"),
        "tackle_g": span(tackle, "mass"), "pitch_deg": span(pitch, "angle"), "water": water, "temperature_c": temperature,
        "hooks": hooks, "made": made, "hung_by": hung_by, "weight": weight, "lead": not no_lead, "name": name,
        "capacity_g": read_quantity(capacity, "mass") if capacity else None,
    })  # fmt: skip
    with patience("looking for a sound design") as told:
        answer = answered(asked, told)
    if out is not None:
        write_design(answer.design, out)
    if as_json:
        print_json(begun_report(answer, None if out is None else str(out)))
        return
    _say(answer)
    if out is not None:
        typer.echo(f"wrote {out}")


def _say(answer: Answer) -> None:
    from yellowbob.reports.begun import begun_report

    told = begun_report(answer, None)
    lies = "it sinks" if told["pitch_deg"] is None else f"{told['pitch_deg']:+z.1f}°, draft {told['draft_mm']:z.1f} mm"
    typer.echo(f"{told['name']}: {told['wood']}, {told['length_mm']:g} mm, {told['mass_g']:.2f} g; {lies}; "
               f"{told['reserve_g']:z.2f} g to spare")  # fmt: skip
    for name in dict.fromkeys(told["hooks"]):
        typer.echo(f"  {told['hooks'].count(name)} × {name}")
    for one in told["ballast"]:
        typer.echo(f"  {one['name']}: {one['mass_g']:.2f} g, {one['side']} hole {one['diameter_mm']:g} × "
                   f"{one['depth_mm']:g} mm at {one['at_mm']:g} mm")  # fmt: skip
    if answer.design.notes:
        typer.echo(f"mind: {answer.design.notes}")
    typer.echo("every check passes" if answer.sound else f"! not sound: {answer.reason}")


@command(CONTRACTS["family"])
def family(
    file: DesignFile,
    sizes: Annotated[str, typer.Option(help="lengths, such as 60,80,100")],
    out: Annotated[Path | None, typer.Option("-o", "--out", help="folder to write them to")] = None,
    as_json: Json = False,
) -> None:
    """A design in a run of sizes, each with hardware from the shelf and brought back to its brief."""
    from yellowbob.reports.begun import family_report
    from yellowbob.trials.family import family as made

    design = study_of(file).design
    lengths = [read_quantity(one, "length") for one in sizes.split(",") if one.strip()]
    with patience(f"making {len(lengths)} sizes") as told:
        members = made(design, lengths, told)
    wrote = _written(out, [m.answer.design if m.answer else None for m in members])
    report = family_report(design.name, members, wrote)
    if as_json:
        print_json(report)
        return
    for member in members:
        typer.echo(
            f"{member.length_mm:g} mm: " + ("sound" if member.sound else f"! {member.fault or _why(member.answer)}")
        )
        if member.answer is not None:
            typer.echo("  " + "; ".join(member.chosen))
    if report["stops"]:
        typer.echo(f"what stops the smaller: {report['stops']}")


def _why(answer: Answer | None) -> str:
    return "" if answer is None else answer.reason


def _written(folder: Path | None, designs: list[Any]) -> list[str | None]:
    """Each into a file of its own name in a folder; None where there is none, or no folder."""
    from yellowbob.design.files import SUFFIX, write_design

    if folder is None:
        return [None] * len(designs)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise BadInput(f"{folder}: cannot be made ({error.strerror})") from None
    wrote: list[str | None] = []
    for number, design in enumerate(designs, 1):
        if design is None:
            wrote.append(None)
            continue
        base = "-".join(design.name.lower().split()).replace("/", "-") or f"design-{number}"
        path = folder / f"{base}{SUFFIX}"
        if str(path) in wrote:
            path = folder / f"{base}-{number}{SUFFIX}"
        write_design(design, path)
        wrote.append(str(path))
    return wrote


@command(CONTRACTS["seek"])
def seek(
    brief: Annotated[Path, typer.Argument(help="a .json with the lines of a brief, or a .ybob whose brief is taken")],
    free: Annotated[list[str] | None, typer.Option(help="length=60..80, wood=alder,obeche or any, hooks=8,6, lead=yes,no "
                                                       "…; hard lines: stock=40x40, comes-right=100, throws=25")] = None,
    aim: Annotated[str, typer.Option(help="odds, least ballast, lightest, furthest, stiffest, most to spare")] = "odds",
    count: Annotated[int, typer.Option(help="how many different ones")] = 4,
    tries: Annotated[int, typer.Option(help="how many designs are tried at most")] = 48,
    seconds: Annotated[float | None, typer.Option(help="stop after so long, and keep what was found")] = None,
    seed: Annotated[int, typer.Option(help="the same seed gives the same answers")] = 1,
    out: Annotated[Path | None, typer.Option("-o", "--out", help="folder to write them to")] = None,
    as_json: Json = False,
) -> None:  # fmt: skip
    """Several different sound designs within a brief's freedom, ranked, each with what it gives up."""
    from yellowbob.reports.begun import seek_report
    from yellowbob.trials.seek import seek as sought

    asked, freedom = read_brief(brief, free or [], aim)
    end = None if seconds is None else time.monotonic() + seconds
    with patience("seeking") as told:
        found = sought(asked, freedom, count, tries, seed, told, lambda: end is None or time.monotonic() < end)
    report = seek_report(found, _written(out, [f.answer.design for f in found.found]))
    if as_json:
        print_json(report)
        return
    typer.echo(f"{found.tried} of {found.points} tried{', stopped' if found.stopped else ''}; {found.sound} sound")
    for number, one in enumerate(report["found"], 1):
        odds = "–" if one["odds"] is None else f"{100 * one['odds']:.0f} %"
        typer.echo(f"{number}. {one['name']}, {one['wood']}: {one['mass_g']:.1f} g, {one['ballast_g']:.1f} g of ballast, "
                   f"GM {one['gm_mm']:.1f} mm, {one['range_m'] or 0:.0f} m, odds {odds}")  # fmt: skip
        if one["gives_up"]:
            typer.echo(f"   gives up: {', '.join(one['gives_up'])}")
    for why, times in sorted(found.refused.items(), key=lambda row: -row[1])[:5]:
        typer.echo(f"! {times} × {why}")


def read_brief(path: Path, free: list[str], aim: str) -> tuple[Asked, Freedom]:
    """A brief and what is free in it. Raises BadInput."""
    from yellowbob.design.faults import describe
    from yellowbob.trials.seek import Freedom

    told: dict[str, Any] = {"aim": aim}
    if path.suffix.lower() == ".json":
        try:
            data = json.loads(path.read_text(encoding="utf-8"))
        except (OSError, ValueError) as error:
            raise BadInput(f"{path.name}: cannot be read ({error})") from None
        if not isinstance(data, dict):
            raise BadInput(
                f'{path.name}: a brief is a table of its lines, such as {{"kind": "popper", "length_mm": 70}}'
            )
        told |= data.pop("free", {})
        asked = asked_of(data)
    else:
        asked = _of_design(path)
    for one in free:
        told |= _freed(one)
    try:
        return asked, Freedom.model_validate(told)
    except ValidationError as error:
        raise BadInput(f"what is free: {describe(error)}") from None


def _of_design(path: Path) -> Asked:
    design = study_of(path).design
    brief = design.brief
    return asked_of({
        "kind": design.kind, "length_mm": design.shape.length_mm, "wood": design.body.material.name,
        "water": design.water.name, "temperature_c": design.water.temperature_c,
        **{k: None if s is None else s.model_dump() for k, s in (
            ("mass_g", brief.mass_g), ("tackle_g", brief.tackle_g), ("pitch_deg", brief.pitch_deg))},
    })  # fmt: skip


def _freed(text: str) -> dict[str, Any]:
    """One line of freedom. Raises BadInput."""
    from yellowbob.shelf.shipped import materials

    key, equals, value = text.partition("=")
    words = tuple(w.strip() for w in value.split(",") if w.strip())
    if not equals or not words:
        raise BadInput(f"--free '{text}': write what is free, such as length=60..80 or wood=alder,obeche")
    match key.strip().replace("-", "_"):
        case "length":
            return {"length_mm": span(value, "length")}
        case "wood":
            return {"wood": tuple(materials()) if words == ("any",) else _woods(value, tuple(materials()))}
        case "hooks" | "hung_by" | "weight" as field:
            return {field: words}
        case "lead":
            return {"lead": tuple(w in ("yes", "true", "1") for w in words)}
        case "stock":
            first, cross, second = value.lower().replace("×", "x").partition("x")
            if not cross:
                raise BadInput(f"--free '{text}': write the stock's section, such as stock=40x40")
            return {"stock_mm": (read_quantity(first, "length"), read_quantity(second, "length"))}
        case "comes_right":
            return {"comes_right": read_quantity(value.rstrip("% "), "number") / 100.0}
        case "throws":
            return {"throws_m": read_quantity(value.rstrip("m "), "number")}
        case other:
            can = "length, wood, hooks, hung_by, weight, lead; hard lines are stock, comes-right, throws"
            raise BadInput(f"--free '{other}': what can be free is {can}")


def _woods(text: str, known: tuple[str, ...]) -> tuple[str, ...]:
    """Names of woods, some of which hold a comma themselves. Raises BadInput for one that is not on the shelf."""
    found: list[str] = []
    parts = [p.strip() for p in text.split(",")]
    at = 0
    while at < len(parts):
        for end in (at + 2, at + 1):
            name = ", ".join(parts[at:end])
            if name in known and end <= len(parts):
                found.append(name)
                at = end
                break
        else:
            raise BadInput(f"no wood is called '{parts[at]}'; `shelf list materials` shows them")
    return tuple(found)
