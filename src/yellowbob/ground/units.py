"""Units as makers spell them, and what each is in the core's own: ours first, Pint for the rest of those that are known."""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import TYPE_CHECKING, Any, Literal

if TYPE_CHECKING:
    import pint

Dimension = Literal["length", "mass", "density", "volume", "angle", "temperature", "number"]

CORE_UNIT: dict[str, str] = {
    "length": "mm", "mass": "g", "density": "g/mL", "volume": "mL",
    "angle": "deg", "temperature": "degC", "number": "",
}  # fmt: skip
"""The unit a bare number is read in, and the unit that `read_quantity` returns."""

FACTOR = {"mm": 1.0, "cm": 10.0, "in": 25.4, "m": 1000.0, "g": 1.0, "oz": 28.349523125, "gr": 0.06479891}

_LB_FT3 = 453.59237 / 28316.846592
_LB_IN3 = 453.59237 / 16.387064
_PLAIN: dict[str, dict[str, float]] = {
    "length": {
        "mm": 1.0, "millimetre": 1.0, "millimeter": 1.0, "cm": 10.0, "m": 1000.0, "metre": 1000.0, "meter": 1000.0,
        "in": 25.4, "inch": 25.4, "inche": 25.4, '"': 25.4, "ft": 304.8, "foot": 304.8, "feet": 304.8, "'": 304.8,
        "mil": 0.0254, "thou": 0.0254, "µm": 0.001, "um": 0.001, "micron": 0.001,
    },
    "mass": {
        "g": 1.0, "gm": 1.0, "gram": 1.0, "gramme": 1.0, "mg": 0.001, "kg": 1000.0, "kilo": 1000.0, "oz": 28.349523125,
        "ounce": 28.349523125, "lb": 453.59237, "pound": 453.59237, "grain": 0.06479891, "dram": 1.7718451953125,
    },
    "density": {
        "g/ml": 1.0, "g/cm3": 1.0, "g/cc": 1.0, "g/ccm": 1.0, "g/cm^3": 1.0, "mg/mm3": 1.0, "kg/l": 1.0, "kg/dm3": 1.0,
        "t/m3": 1.0, "g/l": 0.001, "g/dm3": 0.001, "mg/cm3": 0.001, "kg/m3": 0.001, "kg/m^3": 0.001,
        "lb/ft3": _LB_FT3, "lb/ft^3": _LB_FT3, "lb/cuft": _LB_FT3, "lbs/cuft": _LB_FT3, "lbs/ft3": _LB_FT3, "pcf": _LB_FT3,
        "lb/in3": _LB_IN3, "lb/in^3": _LB_IN3, "lb/cuin": _LB_IN3,
        "oz/in3": _LB_IN3 / 16.0, "oz/in^3": _LB_IN3 / 16.0, "oz/cuin": _LB_IN3 / 16.0,
    },
    "volume": {
        "ml": 1.0, "cc": 1.0, "ccm": 1.0, "cm3": 1.0, "cm^3": 1.0, "l": 1000.0, "litre": 1000.0, "liter": 1000.0,
        "mm3": 0.001, "mm^3": 0.001, "cuin": 16.387064, "in3": 16.387064, "in^3": 16.387064,
        "cuft": 28316.846592, "ft3": 28316.846592,
    },
    "angle": {"deg": 1.0, "°": 1.0, "º": 1.0, "degree": 1.0, "rad": 180.0 / math.pi, "radian": 180.0 / math.pi},
}  # fmt: skip
"""Spellings by dimension, in small letters, without full stops or a plural s, to the core's unit; others are Pint's."""

MARKS = str.maketrans({
    "″": '"', "”": '"', "“": '"', "′": "'", "’": "'", "⁄": "/", "∕": "/", "\u00a0": " ", "\u202f": " ", "\u2009": " ",
    "−": "-", "–": "-",
})  # fmt: skip

_METRIC = {"meter", "gram", "liter", "radian"}
_ANGLES = {"radian", "degree", "grade", "turn", "arcminute", "arcsecond"}
_PREFIXES = {"micro", "milli", "centi", "deci", "deca", "hecto", "kilo"}
_OTHERS = {
    "inch", "foot", "yard", "micron", "fathom", "ounce", "pound", "grain", "dram", "troy_ounce", "pennyweight",
    "carat", "scruple", "degree_Celsius", "degree_Fahrenheit", "kelvin", "cubic_centimeter", *_ANGLES,
}  # fmt: skip
"""Of the thousand units that Pint knows those that a workshop measures in, the metric ones with their prefixes: to Pint
itself `kin` is a thousand inches, and `64ths` so many thousandths of one."""


@lru_cache(maxsize=1)
def _units() -> pint.UnitRegistry[Any]:
    import pint

    registry: pint.UnitRegistry[Any] = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    return registry


def _plain_factor(unit: str, dimension: Dimension) -> float | None:
    """Of a maker's spelling to the core's unit; None where it is none of ours."""
    words = re.sub(r"\bcu(?:bic)?\b\.?\s*", "cu", unit.lower().translate(MARKS).replace("³", "3"))
    words = re.sub(r"(?<=cu)f(?:oo|ee)t\b", "ft", re.sub(r"(?<=cu)inch(?:es)?\b", "in", words))
    words = re.sub(r"\s+per\s+", "/", words)
    words = re.sub(r"\s*/\s*", "/", words).strip().replace(".", "").replace("''", '"')
    words = re.sub(r"[ ·]?\b([cd]?m|ft|in)\^?(?:-3|⁻3)$", r"/\g<1>3", words)
    words = re.sub(r"^(?:gms?|grams?|grammes?)(?=/)", "g", re.sub(r"^(?:pounds?|lbs)(?=/)", "lb", words))
    table = _PLAIN.get(dimension, {})
    return table.get(words, table.get(words.removesuffix("s")) if len(words) > 2 else None)


def in_core(value: float, used: str, dimension: Dimension) -> float:
    """A value in a unit as typed, in the core's (`CORE_UNIT`). Raises ValueError where that is no unit of that dimension."""
    wanted = CORE_UNIT[dimension]
    if used == wanted:
        return value
    if dimension == "number":
        raise ValueError(used)
    factor = FACTOR["gr"] if dimension == "mass" and used == "gr" else _plain_factor(used, dimension)
    if factor is not None:
        return value * factor
    # a figure in it is a power, never a second number: Pint takes a 1 that leads the unit for a part of it
    if re.search(r"[^\w/^*°.() -]", used) or len(used) > 24 or re.search(r"(?<![a-zA-Z^*-])\d", used):
        raise ValueError(used)
    try:
        known = _units().parse_units(used)
        names = {_known(name): power for name, power in known._units.items()}
        plain_angle = len(names) == 1 and list(names.values()) == [1] and not names.keys() - _ANGLES
        if None in names or (not plain_angle if dimension == "angle" else names.keys() & _ANGLES):
            raise ValueError(used)  # to Pint an angle is a bare number, and `3 mm °` a length
        return float(_units().Quantity(value, known).to(wanted).magnitude)
    except Exception as error:  # Pint raises a dozen kinds on words it does not know; all mean the same here
        raise ValueError(used) from error


def _known(name: str) -> str | None:
    """What a unit is without its prefix; None where no workshop measures in it."""
    for prefix, unit, _ in _units().parse_unit_name(name):
        if (prefix in _PREFIXES and unit in _METRIC) or (not prefix and unit in _METRIC | _OTHERS):
            return str(unit)
    return None
