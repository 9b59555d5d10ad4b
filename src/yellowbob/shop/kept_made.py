"""Stations and holes measured back on a build, kept with it: its design in the log becomes the piece as it was made."""

from __future__ import annotations

from collections.abc import Sequence

from yellowbob.design.base import made as checked
from yellowbob.design.model import Design
from yellowbob.logbook.records import AsMade, Hole, Station
from yellowbob.logbook.store import LogBook
from yellowbob.shop.bores import bores
from yellowbob.shop.made import HoleMeasured, Measured, made
from yellowbob.study import Study


def keep_made(
    log: LogBook, serial: str, readings: Sequence[Measured], holes: Sequence[HoleMeasured] = ()
) -> Design:  # fmt: skip
    """Keep what was measured of a build; a later reading of the same place takes an earlier one's. Returns its design as
    made. Raises BadInput."""
    drawn = log.drawn(serial)
    there = {b.name: {"at": b.at_mm, "off": b.off_mm, "diameter": b.diameter_mm, "depth": b.depth_mm}
             for b in (bores(Study(drawn)) if holes else ())}  # fmt: skip
    new = checked(
        AsMade,
        stations=tuple(checked(Station, at_mm=one.at_mm, sizes_mm=one.sizes_mm) for one in readings),
        holes=tuple(
            checked(Hole, name=one.name, sizes_mm=one.sizes_mm,
                    drawn_mm={k: v for k, v in there.get(one.name, {}).items() if k in one.sizes_mm}) for one in holes
        ),
    )  # fmt: skip
    design = as_measured(drawn, [*_measured(log, serial), new])
    log.put_made(serial, design, new)
    return design


def as_measured(drawn: Design, every: Sequence[AsMade]) -> Design:
    """A design as all its readings make it, later ones first where a place was measured twice. Raises BadInput."""
    stations: dict[float, dict[str, float]] = {}
    holes: dict[str, dict[str, float]] = {}
    for one in every:
        for station in one.stations:
            stations.setdefault(station.at_mm, {}).update(station.sizes_mm)
        for hole in one.holes:
            holes.setdefault(hole.name, {}).update(hole.sizes_mm)
    return made(
        drawn,
        [Measured(at, sizes) for at, sizes in sorted(stations.items())],
        [HoleMeasured(name, sizes) for name, sizes in holes.items()],
    )


def take_off(log: LogBook, number: int) -> str:
    """Take an entry off the log; where it was a reading, the build's design is what the others make it. Returns its serial.

    Raises BadInput for one that is not there.
    """
    gone = log.remove(number)
    if isinstance(gone.data, AsMade):
        left = _measured(log, gone.serial)
        log.put_made(gone.serial, as_measured(log.drawn(gone.serial), left) if left else None)
    return gone.serial


def _measured(log: LogBook, serial: str) -> list[AsMade]:
    return [e.data for e in log.entries(serial, "made") if isinstance(e.data, AsMade)]
