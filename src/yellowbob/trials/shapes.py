"""A float's body in several shapes, each sized to carry the same: side by side."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from yellowbob.afloat.line import capacity, cocking
from yellowbob.design.base import replaced
from yellowbob.design.model import Design
from yellowbob.design.shape import OutlinePoint, Turned
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, each, unheard
from yellowbob.study import Study, of
from yellowbob.trials.change import Change
from yellowbob.trials.sizing import sized

Share = tuple[float, float]

SHAPES: dict[str, tuple[tuple[Share, ...], bool]] = {
    "cylinder": (((0.0, 0.8), (0.06, 1.0), (0.94, 1.0), (1.0, 0.8)), False),
    "olive": (((0.0, 0.35), (0.22, 0.86), (0.5, 1.0), (0.78, 0.86), (1.0, 0.35)), True),
    "carrot": (((0.0, 0.5), (0.12, 0.92), (0.25, 1.0), (0.6, 0.72), (1.0, 0.3)), True),
    "pear": (((0.0, 0.3), (0.4, 0.68), (0.72, 1.0), (0.88, 0.9), (1.0, 0.5)), True),
    "spindle": (((0.0, 0.3), (0.5, 1.0), (1.0, 0.3)), False),
}
"""Shares of the length and of the greatest radius, from the top; whether the points are smooth."""


def bodied(design: Design, shape: str) -> Design:
    """The float with its body in another shape, as long and as wide as it is. Raises BadInput for a body not turned, or one
    that would be slimmer at an end than what sits in it."""
    body = design.body
    if not isinstance(body.shape, Turned):
        raise BadInput(f"{body.name} is not turned; only turned bodies are set beside one another")
    if shape not in SHAPES:
        raise BadInput(f"no shape '{shape}'; there are {', '.join(SHAPES)}")
    points, smooth = SHAPES[shape]
    long, wide = body.shape.length_mm, max(p.at_mm[1] for p in body.shape.profile)
    last = len(points) - 1
    profile = tuple(
        OutlinePoint(at_mm=(x * long, r * wide), bend="smooth" if smooth and 0 < k < last else "corner")
        for k, (x, r) in enumerate(points)
    )
    return design.with_piece(0, replaced(body, shape=Turned(profile=profile)))


@dataclass(frozen=True, eq=False)
class Shaped:
    """A shape and what came of it; `fault` where no size of it carries what is wanted."""

    name: str
    design: Design | None
    wide_mm: float = 0.0
    mass_g: float = 0.0
    carries_g: float = 0.0
    cocks_at_g: float | None = None
    mm_per_cg: float = 0.0
    fault: str = ""


def one_shape(design: Design, name: str, capacity_g: float, tip_mm: float, before: Study | None = None) -> Shaped:
    """One shape sized and looked at; its capacity is that of the full solve."""
    try:
        found = sized(bodied(design, name), capacity_g, tip_mm, f"{design.body.name}.diameter", before=before)
        study = Study(found.design, before)
        carried = capacity(of.unloaded(study), of.line_at(study), tip_mm)
        cocked = cocking(of.unloaded(study), of.line_at(study), 24)
    except YellowBobError as error:
        return Shaped(name, None, fault=str(error))
    return Shaped(
        name,
        found.design,
        found.measure_mm,
        of.body(study).mass_g,
        carried.load_g,
        cocked.cocks_at_g,
        carried.mm_per_cg,
    )


def shapes(design: Design, capacity_g: float, tip_mm: float, told: Told = unheard) -> tuple[Shaped, ...]:
    """Every shape for the same load and tip. Raises BadInput for a capacity of nothing or a body that is not turned."""
    if not capacity_g > 0.0:
        raise BadInput(f"a capacity of {capacity_g:g} g: want more than nothing")
    bodied(design, "olive")
    before = Study(design)
    return tuple(one_shape(design, name, capacity_g, tip_mm, before) for name in each(list(SHAPES), told))


def by_shape(design: Design) -> list[Change]:
    """The body in other shapes, each sized to carry what it carries now. Raises BadInput for what carries nothing."""
    study = Study(design)
    carried, tip = of.carried(study).load_g, of.tip_wanted_mm(study)
    bodied(design, "olive")

    def make(name: str, drawn: Design) -> Design:
        return sized(bodied(drawn, name), carried, tip, f"{drawn.body.name}.diameter").design

    return [Change("as drawn", lambda d: d), *(Change(name, partial(make, name)) for name in SHAPES)]
