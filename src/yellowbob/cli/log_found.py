"""Commands of the log: tank and water tests, notes, what all builds taught, the log out and in."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from yellowbob.cli.log import Serial, built, log_app, the_log
from yellowbob.cli.options import Json
from yellowbob.cli.output import print_json
from yellowbob.cli.patience import patience
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

if TYPE_CHECKING:
    from yellowbob.logbook.lain import Lain
    from yellowbob.logbook.records import TankTest
    from yellowbob.trials.learned import Learned

__all__ = ["log_app"]


@log_app.command()
def tank(
    serial: Serial,
    pitch: Annotated[float | None, typer.Option(help="as read, degrees, nose-up positive")] = None,
    draft: Annotated[str | None, typer.Option(help="depth of the lowest point, as read")] = None,
    off: Annotated[list[str] | None, typer.Option(help="a fitting that was off, by name; again for more")] = None,
    water: Annotated[str, typer.Option(help="fresh, brackish or sea; left out, the design's")] = "",
    temperature: Annotated[float | None, typer.Option(help="of the water, °C; left out, the design's")] = None,
    roll: Annotated[float | None, typer.Option(help="as read, degrees, starboard-down positive")] = None,
    drops: Annotated[int, typer.Option(help="how often it was dropped")] = 0,
    came_right: Annotated[int, typer.Option(help="how often it came right")] = 0,
    note: Annotated[str, typer.Option()] = "",
    picture: Annotated[
        Path | None, typer.Option("--photo", help="from the side; pitch and draft are read in it")
    ] = None,
    waterline: Annotated[str, typer.Option(help="two places on the waterline in it, pixels: X,Y X,Y")] = "",
    ends: Annotated[str, typer.Option(help="the nose and the tail in it, pixels: X,Y X,Y")] = "",
    as_json: Json = False,
) -> None:
    """A tank test; from two with other hooks on, where its weight really lies."""
    from yellowbob.design.base import made
    from yellowbob.logbook.photos import copied
    from yellowbob.logbook.records import TankTest
    from yellowbob.reports.log import entry_out, lain_out, mended_out
    from yellowbob.trials.lain_of import lain_of, lies_in_picture, possible
    from yellowbob.trials.learned import lain_misses
    from yellowbob.trials.mend import mended

    log = the_log()
    study = built(log, serial)
    names = {f.name for f in study.design.fittings}
    strange = next((n for n in off or () if n not in names), None)
    if strange is not None:
        raise BadInput(f"no fitting is called '{strange}'; there are {', '.join(sorted(names)) or 'none'}")
    if picture is None and (waterline or ends):
        raise BadInput("--waterline and --ends are places in a picture; give it with --photo")
    if picture is not None and (pitch is not None or draft is not None):
        raise BadInput("--photo gives pitch and draft; leave --pitch and --draft out")
    read: dict[str, Any] = {}
    if picture is not None:
        read = lies_in_picture(study, off or (), places(waterline, "--waterline"), places(ends, "--ends"))
        read = {**read, "photo": copied(log, serial, picture)}
    given = {"pitch_deg": pitch, "draft_mm": None if draft is None else read_quantity(draft, "length")}
    there = study.design.water
    test = made(
        TankTest, roll_deg=roll, off=tuple(off or ()), **(read or given), water=water or there.name, drops=drops,
        temperature_c=there.temperature_c if temperature is None else temperature, came_right=came_right, note=note,
    )  # fmt: skip
    entry = log.add(serial, "tank", possible(study, test))
    misses = lain_misses(study, test)
    found = lain_of(study, [e.data for e in log.entries(serial, "tank") if isinstance(e.data, TankTest)])
    mend = None if found is None else mended(study, found)
    if as_json:
        print_json({"serial": serial, "entry": entry_out(entry), "pitch_miss_deg": misses[0], "draft_miss_mm": misses[1],
                    "lain": lain_out(found), **mended_out(mend)})  # fmt: skip
        return
    _say_tank(test)
    _say_lain(found, misses)
    for one in mend.mends if mend is not None else ():
        typer.echo(f"to mend it: {one.words}: {one.pitch_deg:+z.1f}°")


def _say_tank(test: TankTest) -> None:
    typer.echo(f"in {test.water} water of {test.temperature_c:g} °C")
    if test.photo:
        typer.echo(f"in the picture: pitch {test.pitch_deg:+z.1f}°, draft {test.draft_mm:z.1f} mm")


def _say_lain(found: Lain | None, misses: tuple[float | None, float | None]) -> None:
    for miss, unit in ((misses[0], "°"), (misses[1], "mm")):
        if miss is not None:
            typer.echo(f"read {miss:+z.2f} {unit} off what was expected")
    if found is None:
        return
    (x, z), (ux, uz), (fx, fz) = found.centre_mm, found.centre_u_mm, found.forecast_mm
    typer.echo(
        f"by {len(found.misses)} test{'s' * (len(found.misses) > 1)}: {found.mass_g:.2f} ± {found.mass_u_g:.2f} g "
        f"(forecast {found.forecast_g:.2f})"
    )
    typer.echo(
        f"centre {x:.1f} ± {ux:.1f} mm from the nose (forecast {fx:.1f}), {z:+z.1f} ± {uz:.1f} from the axis "
        f"(forecast {fz:+z.1f})"
    )
    if found.says:
        typer.echo(f"! {found.says}")


@log_app.command()
def water(
    serial: Serial,
    fields: Annotated[
        list[str],
        typer.Argument(help="such as speed='slow walk' swings=24 strikes=2 words='runs true'; speed_m_s=0.6 too"),
    ],
    as_json: Json = False,
) -> None:
    """A water test: speed, retrieve, ratings 0 to 5, swings in ten seconds, strikes, where it went unstable, in your
    words."""
    from yellowbob.design.base import made
    from yellowbob.logbook.records import WaterTest
    from yellowbob.logbook.sides import speeds_of
    from yellowbob.logbook.speeds import read_speed

    read: dict[str, Any] = dict(_pair(one, {"speed": None, **WaterTest.model_fields}) for one in fields)
    if "speed" in read:
        read["speed_words"] = str(read.pop("speed"))
        read["speed_m_s"] = read_speed(read["speed_words"], speeds_of(the_log()))
    add_entry(serial, "water", made(WaterTest, **read), as_json)


def places(text: str, of: str) -> tuple[tuple[float, float], tuple[float, float]]:
    """Two places, X,Y X,Y. Raises BadInput."""
    try:
        first, second = ((float(x), float(y)) for x, y in (one.split(",") for one in text.split()))
    except ValueError:
        raise BadInput(f"{of} '{text}': write two places in pixels, such as '120,340 980,352'") from None
    return first, second


def _pair(text: str, known: Any) -> tuple[str, str]:
    field, equals, value = text.partition("=")
    if not equals or field not in known:
        raise BadInput(f"'{text}': write field=value; there are {', '.join(known)}")
    return field, value


@log_app.command()
def note(serial: Serial, words: Annotated[str, typer.Argument()], as_json: Json = False) -> None:
    """A note on a build."""
    from yellowbob.logbook.records import Note

    add_entry(serial, "note", Note(words=words), as_json)


def add_entry(serial: str, what: Any, data: Any, as_json: bool) -> None:
    """Keep an entry, and say so."""
    from yellowbob.reports.log import entry_out

    entry = the_log().add(serial, what, data)
    if as_json:
        print_json({"serial": serial, "entry": entry_out(entry)})
        return
    typer.echo(f"{serial}: {what} kept")


@log_app.command()
def learn(
    swings: Annotated[bool, typer.Option("--swings", help="action factors from swings counted too; slow")] = False,
    apply: Annotated[
        bool, typer.Option("--apply", help="write the swing factors where the action model reads them")
    ] = False,
    to_shelf: Annotated[
        bool, typer.Option("--to-shelf", help="put the woods and films learnt onto your own shelf")
    ] = False,
    as_json: Json = False,
) -> None:
    """What all builds taught: this shop's woods and films against the shelf's, errors of prediction, swings by kind."""
    from yellowbob.logbook.sides import pucks_of
    from yellowbob.reports.log import learned_report
    from yellowbob.trials.learned import learned

    log = the_log()
    with patience("learning from every build"):
        builds = [(b, log.design(b.serial), log.entries(b.serial)) for b in log.builds()]
        found = learned(builds, swings or apply, pucks_of(log))
    wrote: list[str] = []
    if apply:
        from yellowbob.action.calibration import put_taught

        put_taught("limit", found.limits)
        wrote = [str(put_taught("swing_rate", found.swings))]
    if to_shelf:
        from yellowbob.shelf.own import OwnShelf
        from yellowbob.trials.learned import shelf_items

        items = shelf_items(found)
        OwnShelf().put(items)
        wrote += [item.name for item in items]
    if as_json:
        print_json(learned_report(found, wrote))
        return
    _say_learned(found)
    for words in (*found.aside, *(f"wrote {w}" for w in wrote)):
        typer.echo(f"! {words}" if words in found.aside else words)


def _say_learned(found: Learned) -> None:
    pucks = {**found.pucks.resins, **found.pucks.powders}
    for title, told, unit in (
        ("woods and resins", found.densities, "g/mL"),
        ("pucks", pucks, "g/mL"),
        ("fillers", found.fillings, "g/mL"),
        ("films", found.films, "mm"),
    ):
        for name, t in told.items():
            typer.echo(
                f"{title}: {name}: {t.mean:.3f} {unit} ({t.low:.3f} to {t.high:.3f}), shelf {t.shelf:.3f}; "
                f"pieces ± {t.scatter:.3f}, {t.count} {'pucks' if title == 'pucks' else 'builds'}"
            )
    for title, e, unit in (
        ("finished mass", found.mass_g, "g"),
        ("pitch", found.pitch_deg, "°"),
        ("draft", found.draft_mm, "mm"),
        *((f"holes, {size}", errors, "mm") for size, errors in found.drilling.items()),
    ):
        if e.bias is not None:
            typer.echo(
                f"{title}: {len(e.misses)} of them, {e.bias:+z.2f} {unit} off on average"
                + (f" ± {e.spread:.2f}" if e.spread is not None else "")
            )
    for kind, (factor, count) in found.swings.items():
        typer.echo(f"swings of a {kind}: {factor:.2f} times what is told, {count} tests")
    for kind, (factor, count) in found.limits.items():
        typer.echo(f"highest speed of a {kind}: {factor:.2f} times what is told, {count} tests")


@log_app.command("export")
def export_(
    out: Annotated[Path, typer.Argument(help="OUT.json, everything; OUT.csv, the builds")], as_json: Json = False
) -> None:
    """Write the log out."""
    from yellowbob.design.files import write_text_whole
    from yellowbob.logbook.exchange import builds_csv, whole_json

    if out.suffix.lower() not in (".json", ".csv"):
        raise BadInput(f"{out.name}: I write .json or .csv; name the file so")
    log = the_log()
    write_text_whole(out, whole_json(log) if out.suffix.lower() == ".json" else builds_csv(log.builds()))
    serials = sorted(log.serials())
    if as_json:
        print_json({"wrote": str(out), "serials": serials, "refused": []})
        return
    typer.echo(f"wrote {out}: {len(serials)} builds")


@log_app.command("import")
def import_(
    file: Annotated[Path, typer.Argument(help="a .json export, or a .csv of changes by serial")],
    good_only: Annotated[bool, typer.Option("--good-only", help="take what is good where some is refused")] = False,
    as_json: Json = False,
) -> None:
    """Take builds in. With anything refused nothing is taken, unless told to."""
    from yellowbob.logbook.exchange import take_csv, take_json

    taken = (take_csv if file.suffix.lower() == ".csv" else take_json)(the_log(), file, good_only)
    if as_json:
        print_json({"wrote": None, "serials": list(taken.serials), "refused": list(taken.refused)})
    else:
        typer.echo(f"took {len(taken.serials)} builds")
        for words in taken.refused:
            typer.echo(f"! {words}")
    if taken.refused and not taken.serials:
        raise BadInput(
            f"{len(taken.refused)} of its rows are refused, so nothing was taken; mend them, or say --good-only"
        )
