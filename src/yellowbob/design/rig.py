"""What hangs on a float's line: shot, hook, bait, leader; where the line holds the float; the tip that is to show."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from yellowbob.design.base import Density, Length, LengthOrNone, Model, Name, Point


class Hung(Model):
    """So many equal things on the line: shot in a bulk, spread or as droppers, the hook, the bait, the leader."""

    name: Name
    stock: Annotated[str, Field(max_length=80)] = ""
    role: Literal["bulk", "spread", "dropper", "hook", "bait", "leader"] = "bulk"
    mass_g: float = Field(gt=0.0, le=1000.0, description="of one, in air")
    density_g_ml: Density = Field(default=11.34, description="what it weighs under water follows from it")
    count: int = Field(default=1, ge=1, le=200)
    below_mm: LengthOrNone = Field(default=0.0, description="how far below the float, down the line")


class Rig(Model):
    """The line of a float.

    `holds`: at the bottom end, at top and bottom, or running through the bore. The line pulls straight down at `at_mm`
    (body axes), by default at the lowest end. What hangs registers in the order of the list.
    """

    holds: Literal["bottom end", "top and bottom", "through the bore"] = "bottom end"
    at_mm: Point | None = None
    tip_mm: Length = Field(default=10.0, description="how much of the tip is to show when it is shotted")
    hung: Annotated[tuple[Hung, ...], Field(max_length=60)] = ()
    swivel_in_bore: bool = Field(default=False, description="of a line through the bore: a swivel that can jam there")
