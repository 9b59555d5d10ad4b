"""Up to six builds side by side: figures, ratings, words, and what their designs differ in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from yellowbob.ground.errors import BadInput
from yellowbob.logbook.figures import FIGURES, figure
from yellowbob.logbook.records import Build, Note, TankTest, WaterTest
from yellowbob.logbook.store import LogBook

MOST = 6
DIFFERENCES = 40


@dataclass(frozen=True)
class Row:
    """A figure of each build, None where it has none."""

    key: str
    words: str
    unit: str
    values: tuple[float | None, ...]


@dataclass(frozen=True)
class Compared:
    """rows: figures that any of the builds has. differ: where their designs differ, with what stands in each ("" nothing);
    more: how many such places are not listed. words: of each, what was said of it."""

    builds: tuple[Build, ...]
    rows: tuple[Row, ...]
    differ: tuple[tuple[str, tuple[str, ...]], ...]
    more: int
    words: tuple[tuple[str, ...], ...]


def compared_builds(log: LogBook, serials: Sequence[str]) -> Compared:
    """Two to six builds of the log. Raises BadInput for others, or one that is not there."""
    if not 2 <= len(serials) <= MOST or len(set(serials)) < len(serials):
        raise BadInput(f"compare 2 to {MOST} builds, each once; there are {len(serials)}")
    builds = tuple(log.build(s) for s in serials)
    rows = []
    for key, one in FIGURES.items():
        if one.unit == "day":
            continue
        found = figure(log, key, serials)
        if found:
            rows.append(Row(key, one.words, one.unit, tuple(found.get(s) for s in serials)))
    flat = [dict(_leaves(log.design(s).but(weighings=()).model_dump(mode="json", exclude={"name"}))) for s in serials]
    places = list(dict.fromkeys(place for each in flat for place in each))
    other = [
        (p, tuple(each.get(p, "") for each in flat)) for p in places if len({each.get(p, "") for each in flat}) > 1
    ]
    words = tuple(tuple(_words(log, b)) for b in builds)
    return Compared(builds, tuple(rows), tuple(other[:DIFFERENCES]), max(len(other) - DIFFERENCES, 0), words)


def _words(log: LogBook, build: Build) -> Iterator[str]:
    yield from (text for text in (build.notes, build.aside, build.lost_why) if text)
    for entry in log.entries(build.serial):
        data = entry.data
        if isinstance(data, WaterTest):
            yield from (text for text in (data.words, data.damage) if text)
        elif isinstance(data, (Note, TankTest)):
            text = data.words if isinstance(data, Note) else data.note
            if text:
                yield text


def _leaves(value: Any, place: str = "") -> Iterator[tuple[str, str]]:
    """Every plain value of a design with its place, parts by their names where they have one."""
    if isinstance(value, dict):
        for key, one in value.items():
            yield from _leaves(one, f"{place}, {key}" if place else key)
    elif isinstance(value, list):
        for number, one in enumerate(value):
            named = one.get("name") if isinstance(one, dict) else None
            yield from _leaves(one, f"{place} {named or number + 1}")
    else:
        yield (
            place.replace("_mm", ", mm").replace("_g_ml", ", g/mL").replace("_g", ", g").replace("_", " "),
            _plain(value),
        )


def _plain(value: Any) -> str:
    if value is None:
        return ""
    return f"{value:.6g}" if isinstance(value, float) else str(value)
