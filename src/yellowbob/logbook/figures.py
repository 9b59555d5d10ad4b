"""Figures of builds, each from one place in the log, so that any two can be set against one another at once.

They are read by SQLite itself: twenty thousand builds are charted without one of them being opened.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from yellowbob.ground.errors import BadInput
from yellowbob.logbook.store import LogBook

How = Literal["last", "sum", "mean"]


@dataclass(frozen=True)
class Figure:
    """What it is called, its unit, where it stands among the log's numbers, and how several become one."""

    words: str
    unit: str
    of: str
    how: How = "last"


FIGURES: dict[str, Figure] = {
    "begun": Figure("begun", "day", "build.made_on"),
    "length": Figure("length", "mm", "promised.length_mm"),
    "bare promised": Figure("bare body promised", "g", "promised.bare_g"),
    "bare": Figure("bare body weighed", "g", "weigh bare body.mass_g"),
    "finished promised": Figure("finished mass promised", "g", "promised.finished_g"),
    "finished": Figure("finished mass weighed", "g", "weigh finished.mass_g"),
    "pitch promised": Figure("pitch promised", "°", "promised.pitch_deg"),
    "pitch": Figure("pitch read", "°", "tank.pitch_deg"),
    "draft promised": Figure("draft promised", "mm", "promised.draft_mm"),
    "draft": Figure("draft read", "mm", "tank.draft_mm"),
    "drops": Figure("drops", "", "tank.drops", "sum"),
    "came right": Figure("came right", "", "tank.came_right", "sum"),
    "speed": Figure("speed", "m/s", "water.speed_m_s", "mean"),
    "swings": Figure("swings in ten seconds", "", "water.swings", "mean"),
    "unstable": Figure("unstable from", "m/s", "water.unstable_m_s", "mean"),
    "slow": Figure("action slow, 0 to 5", "", "water.slow", "mean"),
    "fast": Figure("action fast, 0 to 5", "", "water.fast", "mean"),
    "pop": Figure("pop, 0 to 5", "", "water.pop", "mean"),
    "wake": Figure("wake, 0 to 5", "", "water.wake", "mean"),
    "sound": Figure("sound, 0 to 5", "", "water.sound", "mean"),
    "strikes": Figure("strikes", "", "water.strikes", "sum"),
    "hooked": Figure("hooked", "", "water.hooked", "sum"),
    "fish": Figure("landed", "", "water.fish", "sum"),
    "fished": Figure("hours fished", "h", "water.hours", "sum"),
    "spent": Figure("hours noted at the bench", "h", "time.hours", "sum"),
    "hours": Figure("hours it took", "h", "build.hours"),
    "cost": Figure("cost", "", "build.cost"),
}
"""By key, in the order of the work."""
OFF = {"bare off": ("bare", "bare promised"), "finished off": ("finished", "finished promised"),
       "pitch off": ("pitch", "pitch promised"), "draft off": ("draft", "draft promised")}  # fmt: skip
"""What was found less what was promised; only where all was on."""


def figure_words(key: str) -> tuple[str, str]:
    """Its words and unit. Raises BadInput for none of ours."""
    if key in OFF:
        there = FIGURES[OFF[key][0]]
        return f"{there.words} less promised", there.unit
    if key not in FIGURES:
        raise BadInput(f"'{key}' is no figure of the log; there are {', '.join((*FIGURES, *OFF))}")
    return FIGURES[key].words, FIGURES[key].unit


def figure(log: LogBook, key: str, serials: Sequence[str] | None = None) -> dict[str, float]:
    """A figure of every build that has it, or of those named, by serial; a day as days since 1970.

    Raises BadInput for none of ours.
    """
    figure_words(key)
    asked, told = _LESS, tuple(FIGURES[one].of for one in OFF.get(key, ()))
    if not told:
        asked, told = _HOW[FIGURES[key].how], (FIGURES[key].of,)
    with log.begin() as connection:
        driver: Any = connection.connection.driver_connection  # its plain tuples: rows of SQLAlchemy take twice as long
        if serials is None:
            return dict(driver.execute(asked.format(""), told))
        which = f"AND a.serial IN ({', '.join('?' * len(serials))})"
        return dict(driver.execute(asked.format(which), (*told, *serials)))


_LESS = (
    "SELECT a.serial, a.value - b.value FROM log_numbers a JOIN log_numbers b ON b.serial = a.serial WHERE a.of = ? "
    "AND b.of = ? {} ORDER BY a.of, a.serial, a.at, a.number"
)


_HOW: dict[How, str] = {
    # sorted by time, so that the latest of each build stays
    "last": "SELECT serial, value FROM log_numbers a WHERE of = ? {} ORDER BY of, serial, at, number",
    "sum": "SELECT serial, sum(value) FROM log_numbers a WHERE of = ? {} GROUP BY serial",
    "mean": "SELECT serial, avg(value) FROM log_numbers a WHERE of = ? {} GROUP BY serial",
}


@dataclass(frozen=True)
class Charted:
    """Builds that have both figures: serials, x, y; r, their correlation (Pearson; None under three, or where one does
    not change); slope of y over x with its standard uncertainty, by least squares."""

    serials: tuple[str, ...]
    x: tuple[float, ...]
    y: tuple[float, ...]
    r: float | None
    slope: float | None
    slope_u: float | None


def charted(log: LogBook, x: str, y: str, words: str = "") -> Charted:
    """Any two figures of the builds that have all the words. Raises BadInput for a figure that is none of ours."""
    import numpy as np

    of_x, of_y = figure(log, x), figure(log, y)
    listed = set(log.serials(words)) if words else None
    serials = tuple(sorted(s for s in of_x.keys() & of_y.keys() if listed is None or s in listed))
    xs, ys = np.array([of_x[s] for s in serials]), np.array([of_y[s] for s in serials])
    r = slope = slope_u = None
    if len(xs) >= 3 and np.ptp(xs) > 0.0 and np.ptp(ys) > 0.0:
        away, high = xs - xs.mean(), ys - ys.mean()
        square = float(away @ away)
        slope = float(away @ high) / square
        r = float(away @ high / math.sqrt(square * float(high @ high)))
        left = high - slope * away
        slope_u = math.sqrt(float(left @ left) / (len(xs) - 2) / square)
    return Charted(serials, tuple(xs.tolist()), tuple(ys.tolist()), r, slope, slope_u)


@dataclass(frozen=True)
class Spread:
    """A figure within a batch: how many have it, mean, standard deviation between pieces (None of one), least and most."""

    count: int
    mean: float
    sd: float | None
    least: float
    most: float


def batch_spread(log: LogBook, batch: str) -> dict[str, Spread]:
    """The figures that builds of a batch have, by key. Raises BadInput for a batch that is not there."""
    import numpy as np

    serials = [b.serial for b in log.builds(batch=batch)] if batch else []
    if not serials:
        raise BadInput(f"no batch '{batch}' is in the log; `log list` names them")
    found: dict[str, Spread] = {}
    for key in ("bare", "finished", "pitch", "draft", "speed", "swings", "unstable", "strikes", "fish", "hours"):
        values = np.array(list(figure(log, key, serials).values()))
        if len(values):
            sd = float(values.std(ddof=1)) if len(values) > 1 else None
            found[key] = Spread(len(values), float(values.mean()), sd, float(values.min()), float(values.max()))
    return found
