"""The weight budget: wanted total, less what is on the scale, less what is still to come, is what may still go in."""

from __future__ import annotations

import re
from dataclasses import dataclass

from yellowbob.design.model import STAGES, Design, Stage, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.weights.slip import Slip

BALLAST_KEYS = ("ballast:", "plug:", "cast:")


@dataclass(frozen=True)
class Budget:
    """Grams. `ballast_g` may be below 0: then the build is too heavy by so much before any ballast."""

    target_g: float
    on_scale_g: float
    """all but ballast and finish, as it is believed to weigh"""
    to_come_g: float
    """the finish"""
    ballast_in_g: float
    """ballast and plugs that the design has now"""
    neutral_g: float
    """finished mass at which it just hangs in the water"""
    finished_g: float
    """as the design is now"""

    @property
    def ballast_g(self) -> float:
        """What may still go in, of all ballast and plugs together."""
        return self.target_g - self.on_scale_g - self.to_come_g

    @property
    def spare_g(self) -> float:
        """What it holds up beside itself: the heaviest dropper, weighed under water."""
        return self.neutral_g - self.finished_g

    @property
    def sink_g(self) -> float:
        """What must be added before it sinks; 0 for what sinks already."""
        return max(0.0, self.spare_g)


def budget_of(slip: Slip, lift_g: float, target_g: float) -> Budget:
    """From a slip and all the water that hull and hardware can push aside, g."""
    total = slip.finished.mass_g
    ballast_g = sum(line.mass.mass_g for line in slip.lines if line.key.startswith(BALLAST_KEYS))
    to_come = sum(line.mass.mass_g for line in slip.lines if line.of == "finished")
    return Budget(target_g, total - ballast_g - to_come, to_come, ballast_g, lift_g, total)


def target_of(design: Design, finished_g: float) -> tuple[float, str]:
    """The wanted total and where it is from: the middle of the brief's mass or tackle, else as it is now."""
    for span, words in ((design.brief.mass_g, "the brief's mass"), (design.brief.tackle_g, "the rod's range")):
        if span is not None:
            return span.middle, f"middle of {words}"
    return finished_g, "as it is now: the brief has no mass"


_READING = re.compile(r"^\s*(?P<what>[^=]+?)\s*=\s*(?P<mass>.+?)\s*$")


@dataclass(frozen=True)
class Read:
    """A reading as typed: of a stage, or of one fitting by its number."""

    mass_g: float
    stage: Stage | None = None
    fitting: int | None = None


def read_weighing(design: Design, text: str) -> Read:
    """What `bare body=31.2 g` says: a stage or the name of a fitting, and a mass. Raises BadInput naming what there is."""
    found = _READING.match(text)
    if not found:
        raise BadInput(f"'{text}' is no weighing; write for example 'bare body=31.2 g'")
    what, mass = found["what"], read_quantity(found["mass"], "mass")
    if mass <= 0:
        raise BadInput(f"{what} at {mass:g} g cannot be; tare the scale and weigh again")
    if mass > 50_000:
        raise BadInput(f"{what} at {mass:g} g is more than a design can weigh (50 kg); check the unit")
    for stage in STAGES:
        if what.lower() == stage:
            return Read(mass, stage=stage)
    for number, fitting in enumerate(design.fittings):
        if what.lower() == fitting.name.lower():
            return Read(mass, fitting=number)
    names = [*STAGES, *(f.name for f in design.fittings)]
    raise BadInput(f"nothing here is called '{what}'; weigh one of: {', '.join(names)}")


def with_fitting_mass(design: Design, number: int, mass_g: float) -> Design:
    """The design with a fitting as heavy as it was weighed by itself, its water with it."""
    fitting = design.fittings[number]
    volume = fitting.volume_ml * mass_g / fitting.mass_g if fitting.mass_g else fitting.volume_ml
    new = replaced(fitting, mass_g=mass_g, volume_ml=volume)
    return design.but(fittings=(*design.fittings[:number], new, *design.fittings[number + 1 :]))
