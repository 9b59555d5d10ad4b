"""Text to quantity and back. The core works in mm, g, s, radians; people type and read what they like.

Pint does the units. What is ours is only the tidying of makers' spellings before Pint reads them: `1 3/4 in`,
`1-3/4"`, `7,5 g`, `.032in`, `20ga`.
"""

from __future__ import annotations

import math
import re

from yellowbob.ground.errors import BadInput
from yellowbob.ground.units import CORE_UNIT, FACTOR, MARKS, Dimension, in_core

EXAMPLES: dict[str, str] = {
    "length": "45 mm, 1 3/4 in, .032in", "mass": "7 g, 3/8 oz, 120 grains", "density": "0.48 g/mL, 480 kg/m3",
    "volume": "12.5 mL, 3/4 cu in", "angle": "24, 24°, 0.4 rad", "temperature": "14, 14 °C, 57 °F", "number": "4",
}  # fmt: skip

READ_UNITS: dict[str, tuple[str, ...]] = {
    "length": ("mm", "cm", "in"),
    "mass": ("g", "oz", "gr"),
}
"""Units a maker may choose to read."""

_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅓": "1/3", "⅔": "2/3"}
_NUMBER = re.compile(
    r"""^\s*(?P<sign>[-+]?)\s*(?:
        (?P<whole>\d+)[\s-]+(?P<top>\d+)/(?P<bottom>\d+)
        | (?P<top2>\d+)/(?P<bottom2>\d+)
        | (?P<grouped>[1-9]\d{0,2}(?:(?:[ ]\d{3})+(?:[.,]\d+)? | (?:,\d{3})+\.\d+ | (?:\.\d{3})+,\d+))(?![\d.,/])
        | (?P<plain>\d*[.,]?\d+(?:[eE][-+]?\d+)? | \d+[.,])
    )(?P<unit>(?:\s*-\s*(?=[a-zA-Z])|\s*)(?![\d.,/]).*)$""",
    re.VERBOSE,
)
_FEET = re.compile(
    r"""^\s*(?P<feet>\d+)\s*(?:'|ft\.?|feet|foot)\s*(?P<rest>[\d./\s½¼¾⅛⅜⅝⅞⅓⅔-]+)\s*(?:"|''|in\.?|inch(?:es)?)?\s*$""",
    re.IGNORECASE,
)
_POUNDS = re.compile(
    r"^\s*(?P<pounds>\d+)\s*(?:lbs?(?:\.(?!\d))?|pounds?)(?!\.\d)[\s,]*(?P<rest>[\d.½¼¾⅛⅜⅝⅞⅓⅔].*?)\s*(?:oz\.?|ozs|ounces?)\s*$",
    re.IGNORECASE,
)
_MINUTES = re.compile(
    r"""^\s*(?P<sign>-?)\s*(?P<deg>\d+)\s*[°º]
    \s*(?P<min>\d+(?:[.,]\d+)?)\s*'\s*(?:(?P<sec>\d+(?:[.,]\d+)?)\s*(?:"|''))?\s*$""",
    re.VERBOSE,
)
_ACROSS = re.compile(r"^\s*(?:[Øø⌀]|dia\.\s|dia(?!\.)|diameter)\s*(?=[\d.½¼¾⅛⅜⅝⅞⅓⅔])", re.IGNORECASE)
"""Before a figure: the point of `dia.25` may be the figure's, so it is none."""
_ACROSS_BEHIND = re.compile(r"(?<=[a-z.\"'])\s*(?:[Øø⌀]|\bdia\.?|diameter)\s*$", re.IGNORECASE)
_GAUGE = re.compile(r"^(?:(?P<british>swg|s\.w\.g\.?)|(?:gauge|gage|ga|awg|a\.w\.g\.?)\.?)$", re.IGNORECASE)
_ZEROS = re.compile(r"^\s*(?P<zeros>0{1,7})\s*(?P<unit>\D*)$")
_AUGHT = re.compile(r"^\s*(?P<count>\d)/0\s*(?P<unit>\D*)$")
_DOUBTFUL_COMMA = re.compile(r"^\s*[-+]?\s*[1-9]\d{0,2}(?:,\d{3})+(?![\d.,])")

SWG_MM: tuple[float, ...] = (
    8.230, 7.620, 7.010, 6.401, 5.893, 5.385, 4.877, 4.470, 4.064, 3.658, 3.251, 2.946, 2.642, 2.337, 2.032, 1.829,
    1.626, 1.422, 1.219, 1.016, 0.914, 0.813, 0.711, 0.610, 0.559, 0.508, 0.457, 0.417, 0.376, 0.345, 0.315, 0.295,
    0.274, 0.254, 0.234, 0.213, 0.193, 0.173, 0.152, 0.132, 0.122,
)  # fmt: skip
"""Diameters of the British Imperial standard wire gauge, number 0 to 40, mm (BS 3737:1964)."""


_WITHOUT_FRACTIONS = {"mm": "in", "cm": "in", "m": "in", "g": "oz"}
"""Units that nobody counts in fractions, and what a bare fraction was rather meant in."""


def gauge_to_mm(gauge: float) -> float:
    """Diameter in mm of an American wire gauge number (ASTM B258: 0.127 mm x 92^((36-n)/39)); 00 is -1, 000 is -2."""
    return float(0.127 * 92.0 ** ((36.0 - gauge) / 39.0))


def read_number(text: str) -> tuple[float, str]:
    """Split `1-3/4"` into (1.75, '"'). Raises ValueError where no number leads the text."""
    for mark, plain in _VULGAR.items():
        text = re.sub(rf"(\d)\s*{mark}", rf"\1 {plain} ", text).replace(mark, f"{plain} ")  # ½3 is no 23rd
    found = _NUMBER.match(_ACROSS.sub("", text.translate(MARKS)))
    if not found:
        raise ValueError(text)
    if found["bottom"] or found["bottom2"]:
        top, bottom = float(found["top"] or found["top2"]), float(found["bottom"] or found["bottom2"])
        if bottom == 0 or (found["whole"] and top >= bottom):
            raise ValueError(text)
        value = float(found["whole"] or 0) + top / bottom
    elif found["grouped"]:
        value = _grouped(found["grouped"])
    else:
        value = float(found["plain"].replace(",", "."))
    return (-value if found["sign"] == "-" else value), re.sub(r"^\s*-\s*(?=[a-zA-Z])", "", found["unit"]).strip()


def _grouped(text: str) -> float:
    """`1 200`, `1,250.5` or `1.250,5`: the last mark is the decimal one where there are two kinds or a space groups."""
    text = text.replace(" ", "")
    decimal = max(text.rfind("."), text.rfind(","))
    if decimal < 0:
        return float(text)
    return float(re.sub(r"[.,]", "", text[:decimal]) + "." + text[decimal + 1 :])


_BY_COUNTRY = re.compile(
    r"\b(?:pint|pt|quart|qt|gallon|gal|cup|gill|tbsp|tsp|tea ?spoon|table ?spoon|bushel|barrel|ton|fl(?:uid)?\.? ?oz)s?\b",
    re.I,
)
_ENDINGS: tuple[tuple[str, Dimension], ...] = (
    ("_g_ml", "density"), ("_mm", "length"), ("_deg", "angle"), ("_percent", "number"), ("_g", "mass"),
)  # fmt: skip


def dimension_of(field: str) -> tuple[str, Dimension | None]:
    """A field's name without its unit, and what it measures by that unit; None where the name carries none."""
    for ending, dimension in _ENDINGS:
        if field.endswith(ending):
            return field.removesuffix(ending), dimension
    return field, None


def read_quantity(text: str, dimension: Dimension, unit: str | None = None) -> float:
    """Read what a maker typed into the core's unit (mm, g, g/mL, mL, degrees, °C).

    Parameters
    ----------
    text : what was typed; a bare number is in `unit`.
    dimension : what kind of quantity the field holds.
    unit : unit of a bare number; the core's own when None.

    Raises BadInput, with an example of what is understood, when the text is no such quantity.
    """
    refusal = BadInput(f"'{text.strip()[:40]}' is no {dimension} I can read; type for example {EXAMPLES[dimension]}")
    plain = text.translate(MARKS)
    if dimension == "length":
        plain = _ACROSS_BEHIND.sub("", plain)
    special = _special(plain, dimension)
    if special is not None:
        return special
    try:
        value, typed = read_number(plain)
    except ValueError:
        raise refusal from None
    _ask_back(text, value, typed, dimension, unit)
    if dimension == "temperature":
        scale = re.sub(
            r"^(?:degrees?|deg\.?|[°º˚])|[ .]", "", typed.lower().replace("℃", "c").replace("℉", "f").strip()
        )
        typed = {"c": "degC", "celsius": "degC", "f": "degF", "fahrenheit": "degF"}.get(scale, typed)
    try:
        value = in_core(value, typed or unit or CORE_UNIT[dimension], dimension)
    except ValueError:
        raise refusal from None
    if not math.isfinite(value):
        raise refusal
    return value


FOOT_MM, INCHES, OUNCES = 304.8, 12, 16
"""A foot, and how many inches it has; and how many ounces a pound."""


def _special(text: str, dimension: Dimension) -> float | None:
    """Feet and inches, pounds and ounces, degrees and minutes, wire gauges; None where the text is none of these."""
    if dimension == "length":
        if (found := _FEET.match(text)) is not None:
            inches = _rest(found["rest"], INCHES)
            return None if inches is None else float(found["feet"]) * FOOT_MM + inches * FOOT_MM / INCHES
        return _gauge(text)
    if dimension == "mass" and (found := _POUNDS.match(text)) is not None:
        ounces = _rest(found["rest"], OUNCES)
        return None if ounces is None else (float(found["pounds"]) * OUNCES + ounces) * FACTOR["oz"]
    if dimension == "angle" and (found := _MINUTES.match(text)) is not None:
        minutes = float(found["min"].replace(",", ".")) + float((found["sec"] or "0").replace(",", ".")) / 60.0
        if minutes < 60.0:
            return (-1.0 if found["sign"] else 1.0) * (float(found["deg"]) + minutes / 60.0)
    return None


def _rest(text: str, of: int) -> float | None:
    """What stands behind a larger unit that has so many of it; None where it is no such figure."""
    try:
        value, left = read_number(text)
    except ValueError:
        return None
    # 1'200 is rather twelve hundred, as some write it
    doubtful = re.match(r"\s*00", text) or _DOUBTFUL_COMMA.match(text)
    return None if left or value < 0 or value >= of or doubtful else value


def _gauge(text: str) -> float | None:
    """Diameter of a wire by its gauge, American unless it says SWG; 00 and 2/0 are one size over 0."""
    zeros, aught = _ZEROS.match(text), _AUGHT.match(text)
    if zeros is not None and _GAUGE.match(zeros["unit"].strip()):
        number, unit = 1.0 - len(zeros["zeros"]), zeros["unit"].strip()
    elif aught is not None and _GAUGE.match(aught["unit"].strip()):
        number, unit = 1.0 - float(aught["count"]), aught["unit"].strip()
    else:
        try:
            number, unit = read_number(text)
        except ValueError:
            return None
    found = _GAUGE.match(unit)
    if found is None:
        return None
    name, least, most = ("British", 0, len(SWG_MM) - 1) if found["british"] else ("American", -3, 56)
    if not number.is_integer() or not least <= number <= most or text.lstrip().startswith("-"):
        raise BadInput(f"'{text.strip()[:40]}': the {name} gauge has whole numbers up to {most}; give mm")
    return SWG_MM[int(number)] if found["british"] else gauge_to_mm(number)


def _ask_back(text: str, value: float, typed: str, dimension: Dimension, unit: str | None) -> None:
    """Refuse what can be read in two ways, saying both. Raises BadInput."""
    shown = text.strip()[:40]
    if unit != "gr" and dimension in ("mass", "density") and re.match(r"grs?\b", typed, re.IGNORECASE):
        raise BadInput(f"'{shown}' could be grains or grams (a grain is {FACTOR['gr']:.4f} g); write grains, or g")
    if dimension in ("mass", "volume", "density") and (found := _BY_COUNTRY.search(typed)):
        raise BadInput(f"'{shown}': '{found[0]}' is not the same in every country; give it in {CORE_UNIT[dimension]}")
    bare = unit or CORE_UNIT[dimension]
    if not typed and bare in _WITHOUT_FRACTIONS and any(mark in text.translate(MARKS) for mark in ("/", *_VULGAR)):
        other = _WITHOUT_FRACTIONS[bare]
        raise BadInput(f"'{shown}' could be {shown} {other} or {value:g} {bare}; write its unit")
    plain = _ACROSS.sub("", text.translate(MARKS)).strip()
    if _DOUBTFUL_COMMA.match(plain):
        raise BadInput(
            f"'{shown}' could be {value:g} or {value * 1000 ** plain.count(','):g}; write a point for the decimals, "
            "and no mark between thousands"
        )


def in_unit(value: float, unit: str) -> float:
    """A core value (mm or g) in one of READ_UNITS."""
    return value / FACTOR[unit]


def show(value: float, unit: str, decimals: int | None = None) -> str:
    """A core value as text in the unit the maker reads, with the true minus sign, without the unit's name."""
    if decimals is None:
        decimals = {"mm": 1, "cm": 2, "in": 3, "m": 4, "g": 2, "oz": 3, "gr": 1}[unit]
    text = f"{in_unit(value, unit):.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")
