"""The log out and in: everything as JSON, builds as CSV; rows that cannot be taken are refused one by one, with their
line."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from yellowbob.design.faults import describe
from yellowbob.design.files import read_json, to_json
from yellowbob.ground.cells import between, plain, unplain
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.figures import Charted
from yellowbob.logbook.records import KINDS, Build, Data, Entry, Puck, What, time_told
from yellowbob.logbook.sides import pucks_of, put_puck, speeds_of, teach_speed
from yellowbob.logbook.speeds import FASTEST_M_S
from yellowbob.logbook.store import LogBook

FORMAT = "yellow-bob-log"
FIELDS = ("serial", "name", "kind", "batch", "experiment", "made_on", "state", "lost_why", "given_to", "notes", "hours",
    "cost",
          "again", "aside", "differs", "board")  # fmt: skip


def builds_csv(builds: Sequence[Build]) -> str:
    """Builds as CSV, a head first."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(FIELDS)
    for one in builds:
        row = one.model_dump(mode="json")
        writer.writerow(["" if row[f] is None else plain(row[f]) for f in FIELDS])
    return out.getvalue()


def whole_json(log: LogBook) -> str:
    """All builds with their designs and entries."""
    told = []
    for one in log.builds():
        design = log.design(one.serial).but(weighings=())
        told.append({
            "build": one.model_dump(mode="json", exclude_defaults=True), "design": json.loads(to_json(design)),
            "entries": [_entry_out(e) for e in log.entries(one.serial)],
        })  # fmt: skip
        as_made = log.as_made(one.serial)
        if as_made is not None:
            told[-1]["as_made"] = json.loads(to_json(as_made))
    pucks = [p.model_dump(mode="json", exclude_defaults=True) for p in pucks_of(log)]
    whole = {"format": FORMAT, "version": 1, "builds": told, "pucks": pucks, "speeds": speeds_of(log)}
    return json.dumps(whole, indent=1, ensure_ascii=False) + "\n"


def chart_csv(x: str, y: str, found: Charted) -> str:
    """The points of a chart as CSV."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("serial", x, y))
    writer.writerows((plain(s), repr(a), repr(b)) for s, a, b in zip(found.serials, found.x, found.y, strict=True))
    return out.getvalue()


def _entry_out(one: Entry) -> dict[str, Any]:
    return {"at": time_told(one.at), "what": one.what, "data": one.data.model_dump(mode="json", exclude_defaults=True)}


@dataclass(frozen=True)
class Taken:
    """What an import would take, and what it refuses, each with where and why."""

    serials: tuple[str, ...]
    refused: tuple[str, ...]


def take_json(log: LogBook, path: Path, good_only: bool = False) -> Taken:
    """Builds out of a JSON export. With anything refused nothing is taken, unless `good_only`. Raises BadInput for a file
    that is none of ours."""
    try:
        text = path.read_text(encoding="utf-8")
        data = json.loads(text)
    except (OSError, ValueError) as error:
        raise BadInput(f"{path.name}: cannot be read ({error})") from None
    if not isinstance(data, dict) or data.get("format") != FORMAT or data.get("version") != 1:
        raise BadInput(f"{path.name}: is no log of this program, version 1")
    there = {b.serial for b in log.builds()}
    lines = _lines_of(text)
    good: list[tuple[Build, Any, list[tuple[What, Data, datetime]], Any]] = []
    refused: list[str] = []
    for number, row in enumerate(data.get("builds", []), 1):
        try:
            build = Build.model_validate(row["build"])
            if build.serial in there:
                raise BadInput(f"'{build.serial}' is in the log already")
            design = read_json(json.dumps(row["design"]), f"build {number}")
            as_made = read_json(json.dumps(row["as_made"]), f"build {number}, as made") if "as_made" in row else None
            entries = [(e["what"], KINDS[e["what"]].model_validate(e["data"]), datetime.fromisoformat(e["at"]))
                       for e in row.get("entries", [])]  # fmt: skip
            if any(at.tzinfo is None for _, _, at in entries):
                raise BadInput("a time without its offset")
        except (ValidationError, BadInput, KeyError, TypeError, ValueError) as error:
            why = describe(error) if isinstance(error, ValidationError) else str(error)
            line = f"line {lines[number - 1]}, " if number <= len(lines) else ""
            refused.append(f"{line}build {number}: {why}")
            continue
        there.add(build.serial)
        good.append((build, design, entries, as_made))
    pucks: list[Puck] = []
    for number, row in enumerate(data.get("pucks", []), 1):
        try:
            pucks.append(Puck.model_validate(row))
        except ValidationError as error:
            refused.append(f"puck {number}: {describe(error)}")
    words = data.get("speeds", {})
    if not isinstance(words, dict) or not all(isinstance(v, float) and 0.0 < v <= FASTEST_M_S for v in words.values()):
        refused.append(f"speeds: words with speeds in m/s, up to {FASTEST_M_S:g}, are wanted")
        words = {}
    if refused and not good_only:
        return Taken((), tuple(refused))
    for build, design, entries, as_made in good:
        log.take(build, design, entries, as_made)
    there_already = set(pucks_of(log))
    for puck in pucks:
        if puck not in there_already:
            put_puck(log, puck)
    for word, speed in words.items():
        teach_speed(log, word, speed)
    return Taken(tuple(one[0].serial for one in good), tuple(refused))


def _lines_of(text: str) -> list[int]:
    """The line on which each build begins; empty where they cannot be told."""
    decoder, found = json.JSONDecoder(), list[int]()
    at = text.find("[", text.find('"builds"'))
    try:
        while at >= 0:
            begin = re.compile(r"[\s,\[]*").match(text, at)
            at = begin.end() if begin else at
            if text[at] == "]":
                break
            found.append(text.count("\n", 0, at) + 1)
            _, at = decoder.raw_decode(text, at)
    except (ValueError, IndexError):
        return []
    return found


def take_csv(log: LogBook, path: Path, good_only: bool = False) -> Taken:
    """Changes of builds that are there out of a CSV, by serial: state, notes, to whom and so on; each row whole or not at
    all."""
    try:
        with path.open(encoding="utf-8-sig", newline="") as file:
            head = file.readline()
            file.seek(0)
            rows = list(csv.DictReader(file, delimiter=between(head)))
    except (OSError, UnicodeDecodeError, csv.Error) as error:
        raise BadInput(f"{path.name}: cannot be read ({error})") from None
    good: list[tuple[str, dict[str, Any]]] = []
    refused: list[str] = []
    for line, row in enumerate(rows, 2):
        try:
            strange = [str(k) for k in row if k not in FIELDS]
            if strange or None in row.values() or not row.get("serial"):
                raise BadInput(f"the columns are {', '.join(FIELDS)}, the serial among them")
            old = log.build(unplain(row["serial"]))
            changes = {k: unplain(v) for k, v in row.items() if k != "serial" and v != ""}
            Build.model_validate({**old.model_dump(mode="json"), **changes})
            good.append((old.serial, changes))
        except (ValidationError, BadInput) as error:
            why = describe(error) if isinstance(error, ValidationError) else str(error)
            refused.append(f"line {line}: {why}")
    if refused and not good_only:
        return Taken((), tuple(refused))
    for serial, changes in good:
        log.change(serial, **changes)
    return Taken(tuple(serial for serial, _ in good), tuple(refused))
