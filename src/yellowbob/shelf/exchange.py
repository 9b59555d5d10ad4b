"""The shelf as text: entries from `field=value` words, and lists in and out as CSV."""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from yellowbob.ground.cells import between, plain, unplain
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import dimension_of, read_quantity
from yellowbob.shelf.items import Item
from yellowbob.shelf.own import sound_count

COUNT = "count"


def read_value(field: str, text: str) -> Any:
    """A field's text in the unit that its name ends in; other fields as they are."""
    _, dimension = dimension_of(field)
    return text if dimension is None else read_quantity(text, dimension)


def item_from(kind: type[Item], fields: dict[str, str], where: str) -> Item:
    """An entry from texts. Raises BadInput that names the place, the field and what is wanted."""
    known = kind.model_fields
    strange = [f for f in fields if f not in known]
    if strange:
        raise BadInput(f"{where}: no field '{strange[0]}' here; there are {', '.join(known)}")
    if not fields.get("name", "").isprintable():
        where = "".join(sign for sign in where if sign.isprintable())
        raise BadInput(f"{where}, name: holds signs that cannot be printed; type it anew")
    values: dict[str, Any] = {}
    for field, text in fields.items():
        if text.strip():
            try:
                values[field] = read_value(field, text)
            except BadInput as error:
                raise BadInput(f"{where}, {field}: {error}") from None
    try:
        return kind.model_validate(values)
    except ValidationError as error:
        fault = error.errors(include_url=False)[0]
        field = ".".join(str(step) for step in fault["loc"]) or "entry"
        raise BadInput(f"{where}, {field}: {fault['msg'][:1].lower()}{fault['msg'][1:]}") from None


def counted(name: str, text: str, where: str) -> float:
    """How many lie there. Raises BadInput that names the place."""
    try:
        count = read_quantity(text, "number")
        sound_count(name, count)
    except BadInput as error:
        raise BadInput(f"{where}, {COUNT}: {error}") from None
    return count


def to_csv(kind: type[Item], items: dict[str, Any], counts: dict[str, float]) -> str:
    """A list as CSV: a column for each field, and the count on the shelf."""
    out = io.StringIO()
    fields = list(kind.model_fields)
    writer = csv.DictWriter(out, [*fields, COUNT], lineterminator="\n")
    writer.writeheader()
    for item in items.values():
        row = {f: "" if (v := getattr(item, f)) is None else plain(v) for f in fields}
        writer.writerow({**row, COUNT: f"{counts[item.name]:g}" if item.name in counts else ""})
    return out.getvalue()


def from_csv(kind: type[Item], path: Path) -> tuple[list[Item], dict[str, float]]:
    """Entries and counts from a CSV file. Raises BadInput naming file, line and field; then nothing is taken."""
    try:
        text = path.read_text(encoding="utf-8-sig")
    except FileNotFoundError:
        raise BadInput(f"{path}: no such file; check the name") from None
    except (OSError, UnicodeDecodeError):
        raise BadInput(f"{path.name}: cannot be read as UTF-8 text") from None
    head, line, rows = text.partition("\n")
    mark = between(head)
    head = mark.join(cell.strip().lower() for cell in head.split(mark))  # as people write them
    reader = csv.DictReader(io.StringIO(head + line + rows), strict=True, delimiter=mark)
    items: list[Item] = []
    counts: dict[str, float] = {}
    try:
        if not reader.fieldnames or "name" not in reader.fieldnames:
            raise BadInput(f"{path.name}, line 1: needs a heading row with at least 'name'; export a list to see one")
        twice = next((f for f in reader.fieldnames if reader.fieldnames.count(f) > 1), None)
        if twice is not None:
            raise BadInput(f"{path.name}, line 1: the heading '{twice[:40]}' is there twice; leave one")
        for row in reader:
            where = f"{path.name}, line {reader.line_num}"
            if None in row or None in row.values():
                raise BadInput(f"{where}: not as many values as the heading row has")
            row = {field: unplain(text.strip()) for field, text in row.items()}
            count = row.pop(COUNT, "")
            item = item_from(kind, row, where)
            if any(item.name == one.name for one in items):
                raise BadInput(f"{where}: '{item.name}' is there twice; leave one")
            items.append(item)
            if count:
                counts[item.name] = counted(item.name, count, where)
    except csv.Error as error:
        raise BadInput(f"{path.name}, line {reader.line_num}: {error}") from None
    if not items:
        raise BadInput(f"{path.name}: no entries under the heading row")
    return items, counts
