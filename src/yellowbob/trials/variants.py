"""Variants side by side, and one quantity swept: what follows from it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import numpy as np

from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.edits import Grip, moved, with_grip
from yellowbob.design.model import Ballast, Design, Shot, Slug, replaced
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, each, unheard
from yellowbob.ground.water import SALINITY_G_KG
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import materials, taken
from yellowbob.study import Study, of
from yellowbob.trials.change import Change
from yellowbob.trials.hook_sizes import other_hooks
from yellowbob.weights.ballast import weight_mass_g

MOST_STEPS = 200
COMPARED = ("balsa, medium", "obeche", "jelutong", "alder", "maple, hard")
"""Woods from light to dense that a body is set beside."""


@dataclass(frozen=True, eq=False)
class Variant:
    """One of several: the change, the study of the build with it, how it settles. `fault` where it cannot be built."""

    change: Change
    study: Study
    at_rest: Settled | None
    fault: str = ""

    @property
    def words(self) -> str:
        """What is changed, in words."""
        return self.change.words


def compared(study: Study, changes: list[Change], shares: bool = True, told: Told = unheard) -> list[Variant]:
    """Settle a build with each of several changes, each from upright."""
    out = []
    for change in each(changes, told):
        try:
            other = Study(change.make(study.build), study)
        except YellowBobError as error:
            out.append(Variant(change, study, None, str(error)))
            continue
        try:
            out.append(Variant(change, other, settled(of.afloat(other), shares=shares)))
        except YellowBobError as error:
            out.append(Variant(change, other, None, str(error)))
    return out


def as_drawn(words: str = "as drawn") -> Change:
    """No change at all."""
    return Change(words, lambda design: design)


def _all_slid(step_mm: float) -> Callable[[Design], Design]:
    def make(design: Design) -> Design:
        for number in range(len(design.ballast)):
            design = moved(design, Grip("ballast", number), step_mm, 0.0, 0.0)
        return design

    return make


def by_place(design: Design, steps_mm: tuple[float, ...] = (-12.0, -6.0, 0.0, 6.0, 12.0)) -> list[Change]:
    """All ballast slid along the body. Raises BadInput without ballast."""
    if not design.ballast:
        raise BadInput("there is no ballast to slide; put some in first")
    words = ["as drawn" if s == 0 else f"{abs(s):g} mm {'aft' if s > 0 else 'forward'}" for s in steps_mm]
    return [Change(word, _all_slid(step)) for word, step in zip(words, steps_mm, strict=True)]


def by_hooks(design: Design) -> list[Change]:
    """Every hook a size down, as drawn, and a size up."""

    def sized(step: int) -> Callable[[Design], Design]:
        return lambda d: other_hooks(d, step) or d

    return [Change("hooks a size down", sized(-1)), as_drawn(), Change("hooks a size up", sized(1))]


def by_wood(design: Design, names: tuple[str, ...] = COMPARED) -> list[Change]:
    """The same body in other woods, and in its own. Raises BadInput for a wood that is not on the shelf."""
    listed = materials()
    chosen = [taken(listed, n) for n in names if n != design.body.material.name]
    out = [as_drawn(f"{design.body.material.name}, as drawn")]
    return out + [Change(wood.name, partial(of_wood, stock=wood)) for wood in chosen]


@dataclass(frozen=True)
class Quantity:
    """Something that can be swept: key, words, unit, its value now, and how to change it."""

    key: str
    words: str
    unit: str
    now: float
    low: float
    high: float
    change: Callable[[float], Design]


def _slid(design: Design, number: int, at: float, value: float) -> Design:
    return moved(design, Grip("ballast", number), value - at, 0.0, 0.0)


def _heavier(design: Design, number: int, value: float) -> Design:
    one = design.ballast[number]
    share = value / weight_mass_g(one.weight)
    if isinstance(one.weight, Shot):
        weight: Shot | Slug = replaced(one.weight, mass_g=one.weight.mass_g * share)
    else:
        weight = replaced(one.weight, length_mm=one.weight.length_mm * share)
    return with_grip(design, Grip("ballast", number), replaced(one, weight=weight))


def _hook_of(design: Design, number: int, value: float) -> Design:
    fitting = design.fittings[number]
    volume = fitting.volume_ml * value / fitting.mass_g if fitting.mass_g else fitting.volume_ml
    return with_grip(design, Grip("fitting", number), replaced(fitting, mass_g=value, volume_ml=volume))


def _wood(design: Design, value: float) -> Design:
    return design.of_material(density_g_ml=value)


def _water(design: Design, field: str, value: float) -> Design:
    return design.but(water=replaced(design.water, **{field: value}))


def _finish(design: Design, value: float) -> Design:
    return design.but(coats=tuple(replaced(c, film_mm=c.film_mm * value) for c in design.coats))


def station_of(ballast: Ballast) -> float | None:
    """x of a ballast that can be slid along the body; None for one in a hole from the tail, nose or side."""
    drilling = ballast.drilling
    if drilling is not None:
        return drilling.place_mm[0] if drilling.side in ("belly", "back") else None
    return ballast.at_mm[0] if ballast.at_mm is not None else None


def quantities(design: Design) -> dict[str, Quantity]:
    """All that can be swept on a design, by key."""
    length, dense, water = design.shape.length_mm, design.body.density_g_ml, design.water
    salt = SALINITY_G_KG[water.name] if water.salinity_g_kg is None else water.salinity_g_kg
    found = [
        Quantity("density", f"density of the {design.body.material.name}", "g/mL", dense, 0.8 * dense, 1.2 * dense,
                 partial(_wood, design))
    ]  # fmt: skip
    for number, one in enumerate(design.ballast):
        at, mass = station_of(one), weight_mass_g(one.weight)
        if at is not None:
            low, high = max(at - 15.0, 0.1 * length), min(at + 15.0, 0.9 * length)
            found.append(
                Quantity(f"ballast:{one.name}:x", f"place of {one.name}", "mm", at, low, high,
                         partial(_slid, design, number, at))
            )  # fmt: skip
        found.append(
            Quantity(f"ballast:{one.name}:mass", f"mass of {one.name}", "g", mass, 0.3 * mass, 1.6 * mass,
                     partial(_heavier, design, number))
        )  # fmt: skip
    found.append(
        Quantity("salinity", "salt in the water", "g/kg", salt, 0.0, 36.0,
                 partial(_water, design, "salinity_g_kg"))
    )  # fmt: skip
    found.append(
        Quantity("temperature", "water temperature", "°C", water.temperature_c, 0.0, 30.0,
                 partial(_water, design, "temperature_c"))
    )  # fmt: skip
    if design.coats:
        found.append(Quantity("finish", "finish, times as thick", "×", 1.0, 0.0, 3.0, partial(_finish, design)))
    found += [
        Quantity(f"hook:{f.name}", f"mass of {f.name}", "g", f.mass_g, 0.0, 2.5 * f.mass_g + 0.1,
                 partial(_hook_of, design, number))
        for number, f in enumerate(design.fittings) if f.sort == "hook"
    ]  # fmt: skip
    return {q.key: q for q in found}


@dataclass(frozen=True)
class SweepPoint:
    """How it settles at one value of what is swept; None where it cannot be built."""

    value: float
    at_rest: Settled | None


def sweep(
    study: Study,
    key: str,
    low: float | None = None,
    high: float | None = None,
    steps: int = 15,
    told: Told = unheard,
) -> list[SweepPoint]:
    """Settle the design at values of one quantity, following the rest from value to value. Raises BadInput."""
    known = quantities(study.build)
    if key not in known:
        raise BadInput(f"'{key}' cannot be swept here; say one of: {', '.join(known)}")
    if not 2 <= steps <= MOST_STEPS:
        raise BadInput(f"{steps} steps: ask for 2 to {MOST_STEPS}")
    if not all(math.isfinite(v) for v in (low or 0.0, high or 0.0)):
        raise BadInput(f"{key}: sweep from one figure to another; {low} to {high} is none")
    one = known[key]
    out, up = [], None
    first = of.upright_rest(study)
    up = first.up if first is not None else None
    values = np.linspace(one.low if low is None else low, one.high if high is None else high, steps)
    for value in each(values.tolist(), told):
        try:
            at_rest = settled(of.afloat(Study(one.change(float(value)), study)), up)
        except (YellowBobError, ValueError):
            out.append(SweepPoint(float(value), None))
            continue
        out.append(SweepPoint(float(value), at_rest))
    return out
