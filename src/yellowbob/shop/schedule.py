"""When each coat goes on: hands, the turner and curing apart, a batch overlapped in the hours there are.

Set and cure times are the shelf's at 20 °C; they halve for each 10 K warmer and double for each 10 K colder (Arrhenius'
rule of thumb), and what dries by water waits longer in damp air. Rules: the product's data sheet decides.
"""

from __future__ import annotations

import heapq
import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from yellowbob.design.model import Coat, Design
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.shipped import coats as coats_on_shelf

COAT_MIN, SAND_MIN = 6, 5
"""Hands on one piece: laying a coat, and sanding before it but for the first and over paint. Rules."""
LONGEST_DAYS = 400
MOST_COPIES, MOST_PLACES = 200, 50
USUAL_C, USUAL_DAMP = 20.0, 50.0
PER_TEN_K = 2.0
TURNED = ("epoxy", "resin")
"""Coats of these run, and turn until they have set."""


@dataclass(frozen=True)
class Layer:
    """One coat of one kind: minutes of hands, hours until it has set, until the next, until it is used."""

    name: str
    hands_min: int
    set_h: float
    next_h: float
    full_h: float
    turns: bool


@dataclass(frozen=True)
class Task:
    """One coat on one copy, times in UTC: hands from begins to ends; on turner place (from 0, None without) until it has set;
    the next coat not before next_at; used not before used_at."""

    copy: int
    layer: int
    name: str
    begins: datetime
    ends: datetime
    set_at: datetime
    next_at: datetime
    used_at: datetime
    place: int | None


@dataclass(frozen=True)
class Plan:
    """In order of time. ready: when each copy may be used; says: what was looked up and what was guessed."""

    tasks: tuple[Task, ...]
    ready: tuple[datetime, ...]
    zone: str
    hands_min: int
    says: tuple[str, ...]


def pace(temperature_c: float, damp_percent: float, by_water: bool) -> float:
    """What cure times are multiplied by. Raises BadInput for a shop in which nothing cures."""
    if not 5.0 <= temperature_c <= 60.0:
        raise BadInput(
            f"{temperature_c:g} °C: give 5 to 60; coats do not cure in the cold, and a box over 60 °C spoils them"
        )
    if not 5.0 <= damp_percent <= 95.0:
        raise BadInput(f"{damp_percent:g} % of humidity: give 5 to 95")
    warm = PER_TEN_K ** ((USUAL_C - temperature_c) / 10.0)
    return warm * (1.0 + max(damp_percent - USUAL_DAMP, 0.0) / 50.0 if by_water else 1.0)


def layers_of(
    design: Design, temperature_c: float = USUAL_C, damp_percent: float = USUAL_DAMP
) -> tuple[tuple[Layer, ...], tuple[str, ...]]:
    """Every single coat in order, and what was guessed. Raises BadInput for a design without coats."""
    if not design.coats:
        raise BadInput("the design has no coats: nothing is to be scheduled")
    shelf = coats_on_shelf()
    found: list[Layer] = []
    says: list[str] = []
    for coat in design.coats:
        stock = shelf.get(coat.stock or coat.name)
        sort = stock.sort if stock is not None else "paint"
        named = f"{coat.stock} {coat.name}".lower()
        turns = any(word in named for word in TURNED) and sort in ("clear", "sealer")
        slow = pace(temperature_c, damp_percent, not turns)
        if stock is None:
            says.append(f"{coat.name} is not on the shelf: 12 h between coats is a guess")
        between = (stock.cure_h if stock is not None else 12.0) * slow
        sets = (stock.sets_h if stock is not None else 2.0) * slow
        full = (stock.cures_h if stock is not None else 84.0) * slow
        found += [_layer(coat, n, sort, len(found), sets, between, full, turns) for n in range(coat.coats)]
    return tuple(found), tuple(says)


def _layer(coat: Coat, n: int, sort: str, before: int, sets: float, between: float, full: float, turns: bool) -> Layer:
    words = coat.name if coat.coats == 1 else f"{coat.name}, coat {n + 1} of {coat.coats}"
    sanded = before + n > 0 and sort != "paint"
    return Layer(words, COAT_MIN + (SAND_MIN if sanded else 0), sets, max(between, sets), max(full, between), turns)


def windows(start: datetime, hours: tuple[time, time]) -> Iterator[tuple[datetime, datetime]]:
    """The working hours of each day from a start on, in UTC; local hours, also across a change of clocks."""
    zone, begin = start.tzinfo, start.astimezone(UTC)
    day: date = start.date()
    for _ in range(LONGEST_DAYS):
        one = datetime.combine(day, hours[0], zone).astimezone(UTC)
        two = datetime.combine(day, hours[1], zone).astimezone(UTC)
        if two <= one:
            two = datetime.combine(day + timedelta(days=1), hours[1], zone).astimezone(UTC)
        if two > begin:
            yield max(one, begin), two
        day += timedelta(days=1)


def schedule(
    layers: tuple[Layer, ...],
    copies: int,
    places: int,
    start: datetime,
    hours: tuple[time, time],
    says: tuple[str, ...] = (),
) -> Plan:
    """Lay every coat as soon as hands, the turner and the coat before allow: the coat that can begin first goes first.

    start carries its zone. Raises BadInput for counts out of range, hours too short for a coat, or a plan over LONGEST_DAYS.
    """
    if not 1 <= copies <= MOST_COPIES or not 1 <= places <= MOST_PLACES:
        raise BadInput(f"{copies} copies on {places} turning places: give 1 to {MOST_COPIES} and 1 to {MOST_PLACES}")
    if start.tzinfo is None:
        raise BadInput("say the start with its zone")
    days = list(windows(start, hours))
    longest = max((b - a for a, b in days[1:3]), default=timedelta())
    need = max(layer.hands_min for layer in layers)
    if longest < timedelta(minutes=need):
        raise BadInput(f"{longest.seconds // 60} minutes a day are too few: one coat takes {need} minutes of hands")
    waiting = [(start.astimezone(UTC), 0, copy) for copy in range(copies)]
    heapq.heapify(waiting)
    turner = [start.astimezone(UTC)] * places
    hands, used, done = start.astimezone(UTC), [start.astimezone(UTC)] * copies, []
    while waiting:
        ready, number, copy = heapq.heappop(waiting)
        layer = layers[number]
        place = min(range(places), key=lambda k: turner[k]) if layer.turns else None
        first = max(ready, hands, turner[place] if place is not None else ready)
        begins = _fits(days, first, timedelta(minutes=layer.hands_min))
        if waiting and begins > waiting[0][0] and max(ready, hands) < begins and first > max(ready, hands):
            # the turner is full: another piece may go before
            heapq.heappush(waiting, (first, number, copy))
            continue
        ends = begins + timedelta(minutes=layer.hands_min)
        sets = ends + timedelta(hours=layer.set_h)
        following = ends + timedelta(hours=layer.next_h)
        cured = ends + timedelta(hours=layer.full_h)
        hands = ends
        if place is not None:
            turner[place] = sets
        used[copy] = max(used[copy], cured)
        done.append(Task(copy, number, layer.name, begins, ends, sets, following, cured, place))
        if number + 1 < len(layers):
            heapq.heappush(waiting, (following, number + 1, copy))
    zone = getattr(start.tzinfo, "key", "UTC")
    return Plan(
        tuple(sorted(done, key=lambda t: t.begins)), tuple(used), zone, sum(l.hands_min for l in layers) * copies, says
    )


def _fits(days: list[tuple[datetime, datetime]], first: datetime, takes: timedelta) -> datetime:
    """The first time from `first` on at which hands have so long within one day's hours."""
    for one, two in days:
        begins = max(one, first)
        if begins + takes <= two:
            return begins
    raise BadInput(f"it is not done in {LONGEST_DAYS} days: work longer hours, fewer copies or fewer coats")


def zoned(text: str, zone: str) -> datetime:
    """A start as typed, ISO 8601, in a zone by name. Raises BadInput."""
    try:
        known = ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise BadInput(f"'{zone}' is no zone I know: say one such as Europe/Vienna") from None
    try:
        read = datetime.fromisoformat(text)
    except ValueError:
        raise BadInput(f"'{text}' is no time: write it as 2026-03-27T18:00") from None
    return read.replace(tzinfo=known) if read.tzinfo is None else read.astimezone(known)


def hours_of(text: str) -> tuple[time, time]:
    """Working hours such as 18:00-22:00; past midnight where the second is earlier. Raises BadInput."""
    first, dash, second = text.partition("-")
    try:
        one, two = time.fromisoformat(first.strip()), time.fromisoformat(second.strip())
    except ValueError:
        dash = ""
    if not dash or one == two:
        raise BadInput(f"'{text}' are no hours: write them as 18:00-22:00")
    return one, two


def calendar_of(plan: Plan, name: str) -> bytes:
    """The plan as an iCalendar file (RFC 5545): hands as events in local time, and when each copy may be used."""
    from icalendar import Calendar, Event

    zone = ZoneInfo(plan.zone)
    calendar = Calendar()
    calendar.add("prodid", "-//Yellow Bob//schedule//EN")
    calendar.add("version", "2.0")
    stamp = plan.tasks[0].begins
    for task in plan.tasks:
        event = Event()
        event.add("uid", f"{task.copy}-{task.layer}-{task.begins:%Y%m%dT%H%M%SZ}@yellow-bob")
        event.add("dtstamp", stamp)
        event.add("summary", f"{name} {task.copy + 1}: {task.name}")
        event.add("dtstart", task.begins.astimezone(zone))
        event.add("dtend", task.ends.astimezone(zone))
        turner = f"on turning place {task.place + 1} " if task.place is not None else ""
        event.add("description", f"{turner}set at {task.set_at.astimezone(zone):%d %b %H:%M}; follow the data sheet")
        calendar.add_component(event)
    for copy, at in enumerate(plan.ready):
        event = Event()
        event.add("uid", f"{copy}-ready-{at:%Y%m%dT%H%M%SZ}@yellow-bob")
        event.add("dtstamp", stamp)
        event.add("summary", f"{name} {copy + 1}: cured")
        event.add("dtstart", at.astimezone(zone))
        event.add("dtend", (at + timedelta(minutes=15)).astimezone(zone))
        calendar.add_component(event)
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


def hours_between(one: datetime, two: datetime) -> float:
    """Hours from one time to another; negative backwards."""
    return math.fsum([(two - one).total_seconds()]) / 3600.0
