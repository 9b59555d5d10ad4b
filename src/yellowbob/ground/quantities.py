"""Text to quantity and back. The core works in mm, g, s, radians; people type and read what they like.

Pint does the units. What is ours is only the tidying of makers' spellings before Pint reads them: `1 3/4 in`,
`1-3/4"`, `7,5 g`, `.032in`, `20ga`.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import TYPE_CHECKING, Any, Literal

from yellowbob.ground.errors import BadInput

if TYPE_CHECKING:
    import pint

Dimension = Literal["length", "mass", "density", "volume", "angle", "temperature", "number"]

CORE_UNIT: dict[str, str] = {
    "length": "mm", "mass": "g", "density": "g/mL", "volume": "mL",
    "angle": "deg", "temperature": "degC", "number": "",
}  # fmt: skip
"""The unit a bare number is read in, and the unit that `read_quantity` returns."""

EXAMPLES: dict[str, str] = {
    "length": "45 mm, 1 3/4 in, .032in", "mass": "7 g, 3/8 oz, 120 gr", "density": "0.48 g/mL, 480 kg/m3",
    "volume": "12.5 mL, 3/4 cu in", "angle": "24, 24°, 0.4 rad", "temperature": "14, 14 °C, 57 °F", "number": "4",
}  # fmt: skip

READ_UNITS: dict[str, tuple[str, ...]] = {
    "length": ("mm", "cm", "in"),
    "mass": ("g", "oz", "gr"),
}
"""Units a maker may choose to read."""

_FACTOR = {"mm": 1.0, "cm": 10.0, "in": 25.4, "m": 1000.0, "g": 1.0, "oz": 28.349523125, "gr": 0.06479891}

_SPELLINGS = (
    (re.compile(r"(?<=[\d.])\s*(?:”|''|\"|inches\b|inch\b|ins\b)"), " in"),
    (re.compile(r"[°º]\s*[cC]\b"), " degC"),
    (re.compile(r"[°º]\s*[fF]\b"), " degF"),
    (re.compile(r"(?<=\d)\s*[°º]"), " deg"),
    (re.compile(r"\bgr(?:ains?)?\b"), "grain"),
    (re.compile(r"\bounces?\b"), "oz"),
    (re.compile(r"\bgrams?\b|\bgrammes?\b"), "g"),
    (re.compile(r"\bcu(?:bic)?\.?\s*in\b"), "in^3"),
    (re.compile(r"\bcc\b|\bccm\b"), "cm^3"),
    (re.compile(r"(?<=[a-z])\s*[³]"), "^3"),
    (re.compile(r"(?<=[a-z])3\b"), "^3"),
    (re.compile(r"(?<=[a-zA-Z])\s+per\s+(?=[a-zA-Z])"), "/"),
)
_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅓": "1/3", "⅔": "2/3"}
_NUMBER = re.compile(
    r"^\s*(?P<sign>[-+−]?)\s*(?:(?P<whole>\d+)[\s-]+(?P<top>\d+)/(?P<bottom>\d+)"
    r"|(?P<top2>\d+)/(?P<bottom2>\d+)|(?P<plain>\d*[.,]?\d+(?:[eE][-+]?\d+)?|\d+[.,]))\s*(?P<unit>.*)$"
)
_GAUGE = re.compile(r"^(?:(?:gauge|ga|awg|swg)\.?)$", re.IGNORECASE)


@lru_cache(maxsize=1)
def _units() -> pint.UnitRegistry[Any]:
    import pint

    registry: pint.UnitRegistry[Any] = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    return registry


def gauge_to_mm(gauge: float) -> float:
    """Diameter in mm of an American wire gauge number (ASTM B258: 0.127 mm x 92^((36-n)/39))."""
    return float(0.127 * 92.0 ** ((36.0 - gauge) / 39.0))


def read_number(text: str) -> tuple[float, str]:
    """Split `1-3/4"` into (1.75, 'in'). Raises ValueError where no number leads the text."""
    for mark, plain in _VULGAR.items():
        text = re.sub(rf"(\d)\s*{mark}", rf"\1 {plain}", text).replace(mark, plain)
    found = _NUMBER.match(text)
    if not found:
        raise ValueError(text)
    if found["bottom"] or found["bottom2"]:
        top, bottom = float(found["top"] or found["top2"]), float(found["bottom"] or found["bottom2"])
        if bottom == 0:
            raise ValueError(text)
        value = float(found["whole"] or 0) + top / bottom
    else:
        value = float(found["plain"].replace(",", "."))
    return (-value if found["sign"] in ("-", "−") else value), found["unit"].strip()


def _pint_unit(unit: str) -> str:
    probe = f"1{unit}" if unit[:1] in "\"”'°º" else f"1 {unit}"
    for pattern, plain in _SPELLINGS:
        probe = pattern.sub(plain, probe)
    return probe[1:].strip()


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
    refusal = BadInput(f"'{text.strip()[:40]}' is not a {dimension} I can read; type for example {EXAMPLES[dimension]}")
    try:
        value, typed = read_number(text)
    except ValueError:
        raise refusal from None
    if dimension == "length" and _GAUGE.match(typed):
        value, typed = gauge_to_mm(value), "mm"
    wanted = CORE_UNIT[dimension]
    if dimension == "temperature":
        typed = {"c": "degC", "f": "degF"}.get(typed.lower(), typed)
    used = _pint_unit(typed) if typed else (unit or wanted)
    if used != wanted:
        if dimension == "number":
            raise refusal
        try:
            value = float(_units().Quantity(value, used).to(wanted).magnitude)
        except Exception:  # Pint raises a dozen kinds on words it does not know; all mean the same here
            raise refusal from None
    if not math.isfinite(value):
        raise refusal
    return value


def in_unit(value: float, unit: str) -> float:
    """A core value (mm or g) in one of READ_UNITS."""
    return value / _FACTOR[unit]


def show(value: float, unit: str, decimals: int | None = None) -> str:
    """A core value as text in the unit the maker reads, with the true minus sign, without the unit's name."""
    if decimals is None:
        decimals = {"mm": 1, "cm": 2, "in": 3, "m": 4, "g": 2, "oz": 3, "gr": 1}[unit]
    text = f"{in_unit(value, unit):.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")
