"""Painted bands round a tip or antenna, measured from the front end, in the order they are painted on."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from yellowbob.design.base import LONGEST_MM, Model, Name

Along = Annotated[float, Field(ge=0.0, le=LONGEST_MM)]

LEAST_BAND_MM = 0.1

COLOURS = {
    "white": "#f6f5ef", "signal yellow": "#f5e63b", "signal orange": "#ff7d1e", "signal red": "#ff4338",
    "signal green": "#59d94c", "pink": "#ff8fb1", "red": "#b3261e", "blue": "#2b4c8c", "black": "#1b1b1b",
}  # fmt: skip
"""Ready paints by name; any other colour can be given."""


class Band(Model):
    """A band from one place to another, mm behind the front end of the whole; a later one paints over an earlier."""

    name: Name = "white"
    colour: Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")] = COLOURS["white"]
    from_mm: Along
    to_mm: Along

    @model_validator(mode="after")
    def _ordered(self) -> Band:
        if self.to_mm - self.from_mm < LEAST_BAND_MM - 1e-9:
            raise ValueError(
                f"band '{self.name}' runs from {self.from_mm:g} to {self.to_mm:g} mm; make it at least {LEAST_BAND_MM} mm"
            )
        return self

    @property
    def light(self) -> float:
        """How light it is, 0 to 1 (relative luminance, ITU-R BT.709)."""
        parts = [int(self.colour[k : k + 2], 16) / 255.0 for k in (1, 3, 5)]
        linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
