"""An experiment: builds that differ in one thing, set up from variants of a design, each with what it promises."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from yellowbob.design.model import Design
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import Build
from yellowbob.logbook.store import LogBook
from yellowbob.study import Study
from yellowbob.trials.change import Change
from yellowbob.trials.promise import promised
from yellowbob.trials.variants import Quantity, by_hooks, by_place, by_wood, quantities

WAYS = {"place": by_place, "hooks": by_hooks, "wood": by_wood}
MOST_WAYS = 12


def changes_by(design: Design, by: str, values: Sequence[float] = ()) -> list[Change]:
    """What the builds of an experiment differ in: place, hooks or wood, or values of a quantity that can be swept.

    Raises BadInput.
    """
    if by in WAYS and not values:
        return WAYS[by](design)
    known = quantities(design)
    if by not in known:
        raise BadInput(f"'{by}' is nothing to differ in; say one of: {', '.join((*WAYS, *known))}")
    if not 2 <= len(set(values)) <= MOST_WAYS:
        raise BadInput(f"{by}: give 2 to {MOST_WAYS} values it is to have, each once")
    one = known[by]
    return [Change(f"{one.words} {value:g} {one.unit}".strip(), _to(one, value)) for value in values]


def _to(one: Quantity, value: float) -> Callable[[Design], Design]:
    return lambda _: one.change(value)


def begin_experiment(
    log: LogBook, design: Design, what: str, changes: Sequence[Change], each: int = 1, serial: str = ""
) -> list[Build]:
    """Builds of every change, so many of each, as one batch; the design's own weighings stay with the drawing.

    Raises BadInput for a change that cannot be built: nothing is begun then.
    """
    if each < 1 or len(changes) < 2:
        raise BadInput("an experiment has two builds at least, that differ in one thing")
    drawn, pairs = design.but(weighings=()), list[tuple[Design, dict[str, Any]]]()
    for change in changes:
        other = change.make(drawn)
        about = {"experiment": what[:80], "differs": change.words[:120], "promised": promised(Study(other))}
        pairs += [(other.but(name=design.name), about)] * each
    return log.new_each(pairs, serial)
