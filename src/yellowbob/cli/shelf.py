"""Commands for the shelf: lists, own entries, counts, CSV in and out."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

import typer

from yellowbob.cli.options import Json
from yellowbob.cli.output import print_json
from yellowbob.ground.errors import BadInput

shelf_app = typer.Typer(name="shelf", help="What lies on the shelf: the shipped lists and your own entries.")

Listed = Annotated[str, typer.Argument(metavar="LIST", help="materials, hooks, hardware, wires, ballast, fillers, ...")]


def _list(name: str) -> tuple[Any, Any]:
    from yellowbob.shelf.shipped import LISTS

    if name not in LISTS:
        raise BadInput(f"no list '{name}'; there are {', '.join(LISTS)}")
    return LISTS[name]


def _own() -> Any:
    from yellowbob.shelf.own import OwnShelf

    return OwnShelf()


def _counts(kind: Any) -> dict[str, float]:
    from yellowbob.workshop.database import workshop_file

    return dict(_own().counts(kind)) if workshop_file().exists() else {}


@shelf_app.command("list")
def list_(name: Annotated[str | None, typer.Argument(metavar="LIST")] = None, as_json: Json = False) -> None:
    """Print a list; with no name, the lists there are."""
    from yellowbob.shelf.shipped import LISTS

    if name is None:
        sizes = {one: len(read()) for one, (_, read) in LISTS.items()}
        if as_json:
            print_json(sizes)
        else:
            for one, size in sizes.items():
                typer.echo(f"{one:10} {size:4} entries")
        return
    from yellowbob.shelf.own import set_aside

    kind, read = _list(name)
    counts, items = _counts(kind), read()
    for line in set_aside(kind):
        typer.echo(f"! {line}", err=True)
    if as_json:
        print_json([{**i.model_dump(mode="json"), "count": counts.get(n), **_worked_out(i)} for n, i in items.items()])
        return
    for one, item in items.items():
        figures = [f"{f} {v:g}" for f in type(item).model_fields if isinstance(v := getattr(item, f), float)]
        figures += [f"{f} {v:.3g}" for f, v in _worked_out(item).items()]
        count = f", {counts[one]:g} on the shelf" if one in counts else ""
        typer.echo(f"{one}: {', '.join(figures)}{count} ({item.source or 'own'})")


def _worked_out(item: Any) -> dict[str, float]:
    weight = getattr(item, "weight_g", None)
    return {} if weight is None else {"weight_g": weight}


@shelf_app.command()
def add(
    name: Listed, entry: Annotated[str, typer.Argument(help="name of the entry")],
    fields: Annotated[list[str] | None, typer.Argument(help="field=value, such as density_g_ml=0.43")] = None,
    count: Annotated[float | None, typer.Option(help="how many lie there (mm for rod and wire)")] = None,
    as_json: Json = False,
) -> None:  # fmt: skip
    """Enter or change an entry of your own; fields you leave out keep the values of the entry of that name."""
    from yellowbob.shelf.exchange import item_from

    kind, read = _list(name)
    given: dict[str, str] = {}
    for text in fields or []:
        field, equals, value = text.partition("=")
        if not equals:
            raise BadInput(f"'{text}' is no field=value; write for example density_g_ml=0.43")
        given[field.strip()] = value
    old = read().get(entry)
    own = _own()
    if given or old is None:
        kept = {} if old is None else {f: str(v) for f in kind.model_fields if (v := getattr(old, f)) is not None}
        if given and "source" not in given:
            kept["source"] = "own"
        item = item_from(kind, {**kept, **given, "name": entry}, f"{name}, {entry}")
        own.put([item], {} if count is None else {entry: count})
    elif count is not None:
        own.set_count(kind, entry, count)
    if as_json:
        print_json({"list": name, "entry": entry, "count": count, "workshop": str(own.path)})
        return
    typer.echo(f"{entry} is on the shelf, in {own.path}")


@shelf_app.command("import")
def import_(name: Listed, file: Annotated[Path, typer.Argument(help="a CSV file")], as_json: Json = False) -> None:
    """Take entries and counts from a CSV file; all of them or, when one is wrong, none."""
    from yellowbob.shelf.exchange import from_csv

    kind, _ = _list(name)
    items, counts = from_csv(kind, file)
    own = _own()
    own.put(items, counts)
    if as_json:
        print_json({"list": name, "took": len(items), "counted": len(counts)})
        return
    typer.echo(f"took {len(items)} entries into {name}")


@shelf_app.command()
def export(
    name: Listed, out: Annotated[Path, typer.Option("-o", "--out", help="the CSV file to write")], as_json: Json = False
) -> None:
    """Write a list, yours over the shipped one, as CSV."""
    from yellowbob.design.files import write_text_whole
    from yellowbob.shelf.exchange import to_csv

    kind, read = _list(name)
    items = read()
    write_text_whole(out, to_csv(kind, items, _counts(kind)))
    if as_json:
        print_json({"list": name, "wrote": str(out), "entries": len(items)})
        return
    typer.echo(f"wrote {len(items)} entries to {out}")
