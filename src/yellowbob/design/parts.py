"""Parts beside the body, each with a solid of its own: lips, wings, fins and a turning tail.

A plate is an outline of (along, half-width or height) points given a thickness. What of a part lies inside the body sits
in a slot: it displaces once and is weighed once, and the wood there is gone.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Density, Length, LengthOrNone, Model, Name, Place
from yellowbob.design.shape import Outline


class Lip(Model):
    """A plate across the body, set in its slot at (`x_mm`, `z_mm`), running forward and down at `angle_deg` to the axis.

    `seat_mm` of its length is inside the slot. The plan is `round`, `square`, `coffin`, or `own`: (along, half-width)
    points from the slot to the tip.
    """

    kind: Literal["lip"] = "lip"
    name: Name = "lip"
    material: Name
    density_g_ml: Density
    thick_mm: Length
    plan: Literal["round", "square", "coffin", "own"] = "round"
    own: tuple[tuple[LengthOrNone, LengthOrNone], ...] = Field(default=(), max_length=100)
    x_mm: Place
    z_mm: Place
    angle_deg: float = Field(default=45.0, ge=0.0, le=180.0, description="0 straight ahead, 90 straight down")
    long_mm: Length = Field(description="outside the slot")
    wide_mm: Length
    seat_mm: LengthOrNone = 6.0

    @model_validator(mode="after")
    def _sound(self) -> Lip:
        if self.plan == "own":
            if len(self.own) < 2:
                raise ValueError("an own plan needs at least two (along, half-width) points")
            if any(b[0] <= a[0] for a, b in pairwise(self.own)):
                raise ValueError("the own plan's points must be in order from slot to tip")
        return self


class Wings(Model):
    """A pair of plates hinged at (`x_mm`, `z_mm`) on both sides, swept and raised."""

    kind: Literal["wings"] = "wings"
    name: Name = "wings"
    material: Name
    density_g_ml: Density
    thick_mm: Length
    x_mm: Place = Field(description="where the leading edge meets the body's centre plane side")
    y_mm: LengthOrNone = Field(description="how far from the centre plane the root lies")
    z_mm: Place
    span_mm: Length = Field(description="of one wing, from root to tip")
    root_mm: Length = Field(description="chord at the root")
    tip_mm: Length = Field(description="chord at the tip")
    sweep_deg: float = Field(default=20.0, ge=-80.0, le=80.0, description="of the leading edge, positive aft")
    raise_deg: float = Field(default=0.0, ge=-80.0, le=80.0, description="positive: tips up")
    twist_deg: float = Field(default=0.0, ge=-80.0, le=80.0, description="positive: leading edge up")


class Fin(Model):
    """A plate in the centre plane: (x, z) corners, and a thickness."""

    kind: Literal["fin"] = "fin"
    name: Name = "fin"
    material: Name
    density_g_ml: Density
    thick_mm: Length
    corners_mm: Annotated[tuple[tuple[Place, Place], ...], Field(min_length=3, max_length=100)]


class TurningTail(Model):
    """A separate turned tail on the wire behind the body, free to turn: (x, radius) from its own front."""

    kind: Literal["turning tail"] = "turning tail"
    name: Name = "turning tail"
    material: Name
    density_g_ml: Density
    profile: Outline
    x_mm: Place = Field(description="where its front lies, mm aft of the nose")
    z_mm: Place = 0.0


Part = Annotated[Lip | Wings | Fin | TurningTail, Field(discriminator="kind")]
