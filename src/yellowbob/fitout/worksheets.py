"""Bench measurements as worksheets: readings in, arithmetic shown, density or volume out with its uncertainty.

Uncertainties are standard ones, propagated linearly by the `uncertainties` package (GUM, JCGM 100:2008, 5.1.2).
"""

from __future__ import annotations

import math
import warnings
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from uncertainties import ufloat

from yellowbob.design.record import Measurement
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_number, read_quantity
from yellowbob.ground.units import Dimension

CALLIPER_U_MM = 0.05
"""Standard uncertainty of a calliper reading when none is typed."""
SCALE_U_G = 0.01
"""Standard uncertainty of a scale reading when none is typed."""
DENSITY_U_G_ML = 0.005
"""Standard uncertainty of a density taken as known when none is typed."""

_MARKS = ("±", "+/-", "+-")
VOLUME_U_ML = 0.1
"""Standard uncertainty of a mould's volume when none is typed."""

_USUAL: dict[str, float] = {
    "volume": VOLUME_U_ML,
    "length": CALLIPER_U_MM,
    "mass": SCALE_U_G,
    "density": DENSITY_U_G_ML,
    "number": 0.0,
}


@dataclass(frozen=True)
class Value:
    """A reading or result with its standard uncertainty, core units."""

    value: float
    u: float = 0.0


def read_value(text: str, dimension: Dimension) -> Value:
    """Read `50.2 mm`, `50.2 ± 0.1 mm` or `50.2 mm ± 0.1`; without ± the instrument's usual uncertainty is taken.

    Raises BadInput as `read_quantity` does, and for an uncertainty below 0.
    """
    mark = next((m for m in _MARKS if m in text), None)
    if mark is None:
        return Value(read_quantity(text, dimension), _USUAL.get(dimension, 0.0))
    left, right = (side.strip() for side in text.split(mark, 1))
    try:
        unit, other = read_number(left)[1], read_number(right)[1]
    except ValueError:
        raise BadInput(f"'{text}' cannot be read; type for example 50.2 ± 0.1 mm") from None
    value = read_quantity(left if unit else f"{left} {other}".strip(), dimension)
    u = read_quantity(right if other else f"{right} {unit}".strip(), dimension)
    if u < 0:
        raise BadInput(f"'{text}': the uncertainty cannot be below 0")
    return Value(value, u)


@dataclass(frozen=True)
class Sheet:
    """What a worksheet found: g/mL, mL, g. `steps` is the arithmetic as a maker would write it."""

    kind: str
    readings: dict[str, Value]
    steps: tuple[str, ...]
    density: Value | None = None
    volume: Value | None = None
    reserve: Value | None = None
    on: str = ""
    """of a piece weighed in water: what was on it, a key of ON; empty where it was not said"""
    more: dict[str, Value] = field(default_factory=dict)

    def measurement(self) -> Measurement:
        """As it is kept in the design."""
        return Measurement.model_validate(
            {
                "kind": self.kind,
                "readings": {name: one.value for name, one in self.readings.items()}
                | {f"{name} u": one.u for name, one in self.readings.items()},
                "density_g_ml": self.density.value if self.density else None,
                "density_u_g_ml": self.density.u if self.density else None,
                "volume_ml": self.volume.value if self.volume else None,
                "volume_u_ml": self.volume.u if self.volume else None,
            }
        )


FIELDS: dict[str, tuple[tuple[str, Dimension], ...]] = {
    "block": (("length", "length"), ("width", "length"), ("height", "length"), ("mass", "mass")),
    "puck": (("diameter", "length"), ("height", "length"), ("mass", "mass")),
    "mould": (("volume", "volume"), ("mass", "mass")),
    "master": (("mass", "mass"), ("density", "density")),
    "immersion": (("force", "mass"), ("mass", "mass"), ("water", "density")),
    "sink": (("mass", "mass"), ("sinker", "mass"), ("both", "mass"), ("water", "density")),
}
"""The readings that each worksheet asks for."""

ABOUT: dict[str, str] = {
    "block": "Squared block: three lengths with the callipers, then the scale.",
    "puck": "Cast puck: diameter and height, then the scale.",
    "mould": "Puck cast in a cup or mould of known volume, filled level: its volume, then the scale.",
    "master": "Finished master of known density: its mass gives the volume.",
    "immersion": "Push it under in a jug on the tared scale, clear of sides and bottom; a drop of detergent frees "
    "bubbles. The scale reads the lift.",
    "sink": "Hang a sinker under water and weigh (sinker), then sinker and piece together (both).",
}

IN_WATER = ("immersion", "sink")
"""Worksheets that weigh whatever is on the piece along with it."""
ON = {"bare": "nothing: the bare body", "rigged": "hooks, wire, ballast or finish"}
"""What can have been on a piece weighed in water."""


def work(kind: str, readings: dict[str, Value], on: str = "") -> Sheet:
    """Work a sheet. Raises BadInput for a missing or impossible reading, naming it.

    on : what was on a piece that was weighed in water, a key of ON.
    """
    if kind not in FIELDS:
        raise BadInput(f"no worksheet '{kind}'; there are {', '.join(FIELDS)}")
    for name, _ in FIELDS[kind]:
        if name not in readings:
            raise BadInput(f"{kind}: the reading of {name} is missing; type it")
        one = readings[name]
        low = 0.0 if name != "both" else -math.inf
        if not math.isfinite(one.value) or one.value <= low:
            raise BadInput(f"{kind}: {name} is {one.value:g}; it must be more than 0. Tare the scale and read again")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", UserWarning)  # the package warns of readings taken as exact
        values = {name: ufloat(readings[name].value, readings[name].u) for name, _ in FIELDS[kind]}
    if on and (on not in ON or kind not in IN_WATER):
        raise BadInput(f"'{on}' on a {kind}: say bare or rigged, of a piece weighed in water ({', '.join(IN_WATER)})")
    return replace(_WORK[kind](readings, **values), on=on)


def _value(x: Any) -> Value:
    return Value(float(x.nominal_value), float(x.std_dev))


def _figure(x: Any, unit: str, digits: int = 4) -> str:
    return f"{x.nominal_value:.{digits}f} ± {x.std_dev:.{digits}f} {unit}"


def _block(readings: dict[str, Value], length: Any, width: Any, height: Any, mass: Any) -> Sheet:
    volume = length * width * height / 1000.0
    density = mass / volume
    steps = (
        f"volume = {length.n:g} × {width.n:g} × {height.n:g} mm = {_figure(volume, 'mL')}",
        f"density = {mass.n:g} g ÷ {volume.n:.4f} mL = {_figure(density, 'g/mL')}",
    )
    return Sheet("block", readings, steps, _value(density), _value(volume))


def _puck(readings: dict[str, Value], diameter: Any, height: Any, mass: Any) -> Sheet:
    volume = math.pi / 4.0 * diameter**2 * height / 1000.0
    density = mass / volume
    steps = (
        f"volume = π/4 × {diameter.n:g}² × {height.n:g} mm = {_figure(volume, 'mL')}",
        f"density = {mass.n:g} g ÷ {volume.n:.4f} mL = {_figure(density, 'g/mL')}",
    )
    return Sheet("puck", readings, steps, _value(density), _value(volume))


def _mould(readings: dict[str, Value], volume: Any, mass: Any) -> Sheet:
    density = mass / volume
    steps = (f"density = {mass.n:g} g ÷ {volume.n:.4f} mL = {_figure(density, 'g/mL')}",)
    return Sheet("mould", readings, steps, _value(density), _value(volume))


def _master(readings: dict[str, Value], mass: Any, density: Any) -> Sheet:
    volume = mass / density
    steps = (f"volume = {mass.n:g} g ÷ {density.n:g} g/mL = {_figure(volume, 'mL')}",)
    return Sheet("master", readings, steps, None, _value(volume))


def _immersion(readings: dict[str, Value], force: Any, mass: Any, water: Any) -> Sheet:
    volume = force / water
    density, reserve = mass / volume, force - mass
    steps = (
        f"volume = {force.n:g} g ÷ {water.n:.4f} g/mL of water = {_figure(volume, 'mL')}",
        f"density of all that was under = {mass.n:g} g ÷ {volume.n:.4f} mL = {_figure(density, 'g/mL')}",
        f"reserve = {force.n:g} − {mass.n:g} g = {_figure(reserve, 'g', 3)}",
    )
    return Sheet("immersion", readings, steps, _value(density), _value(volume), _value(reserve))


def _sink(readings: dict[str, Value], mass: Any, sinker: Any, both: Any, water: Any) -> Sheet:
    lift = mass + sinker - both
    if lift.n <= 0:
        raise BadInput("sink: both under water weigh more than the piece and sinker; the piece was not in the water")
    volume = lift / water
    density, reserve = mass / volume, lift - mass
    steps = (
        f"lift = {mass.n:g} + {sinker.n:g} − {both.n:g} g = {_figure(lift, 'g', 3)}",
        f"volume = {lift.n:g} g ÷ {water.n:.4f} g/mL of water = {_figure(volume, 'mL')}",
        f"density of all that was under = {mass.n:g} g ÷ {volume.n:.4f} mL = {_figure(density, 'g/mL')}",
    )
    return Sheet("sink", readings, steps, _value(density), _value(volume), _value(reserve))


_WORK: dict[str, Callable[..., Sheet]] = {
    "block": _block, "puck": _puck, "mould": _mould, "master": _master, "immersion": _immersion, "sink": _sink,
}  # fmt: skip
