"""Starting a float from what it is to carry: the starter of its kind, as large as that asks, its body sized until it does."""

from __future__ import annotations

from yellowbob.design.base import replaced
from yellowbob.design.files import read_design
from yellowbob.design.model import STANDING, Design
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Told, unheard
from yellowbob.trials.asked import a_kind, starter_file
from yellowbob.trials.sizing import sized
from yellowbob.trials.standing import carries_g

LEAST, MOST = 0.2, 5.0
"""How many times as large as the starter it may become."""


def started(kind: str, capacity_g: float, tip_mm: float | None = None, told: Told = unheard) -> Design:
    """A float of a kind, with its coats, that carries so much with its tip showing: nothing hangs on its line yet.

    Raises BadInput for a kind without a start, or a capacity that no such float has.
    """
    standing = next((k for k in STANDING if k == kind), None)
    if standing is None:
        raise BadInput(f"no start for '{kind}'; there are {', '.join(STANDING)}")
    if not capacity_g > 0.0:
        raise BadInput(f"a capacity of {capacity_g:g} g: want more than nothing")
    starter = read_design(starter_file(standing))
    factor = (capacity_g / carries_g(starter)) ** (1.0 / 3.0)
    if not LEAST <= factor <= MOST:
        raise BadInput(f"{a_kind(kind)} that carries {capacity_g:g} g would be {factor:.3g} times the usual size; "
                       f"ask for {carries_g(starter) * LEAST**3:.2g} to {carries_g(starter) * MOST**3:.3g} g")  # fmt: skip
    first = rescaled(starter, factor)
    assert first.rig is not None
    rig = replaced(first.rig, hung=(), tip_mm=first.rig.tip_mm if tip_mm is None else tip_mm)
    made = first.but(name=f"{kind.capitalize()} {capacity_g:g} g", rig=rig, notes="")
    return sized(made, capacity_g, rig.tip_mm, f"{made.body.name}.diameter", told).design
