"""Shapes of the pieces beside the body: lips, wings, fins, a turning tail, ellipsoids and outlines cut from sheet.

A plate is an outline of (along, half-width or height) points given a thickness. Each shape says where it stands in body
axes; the piece it belongs to may shift, turn and mirror it.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Length, LengthOrNone, Model, Place
from yellowbob.design.shape import Outline


class Lip(Model):
    """A plate across the body, set in its slot at (`x_mm`, `z_mm`), running forward and down at `angle_deg` to the axis.

    `seat_mm` of its length is inside the slot. The plan is `round`, `square`, `coffin`, or `own`: (along, half-width)
    points from the slot to the tip.
    """

    kind: Literal["lip"] = "lip"
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
    thick_mm: Length
    corners_mm: Annotated[tuple[tuple[Place, Place], ...], Field(min_length=3, max_length=100)]


class TurningTail(Model):
    """A separate turned tail on the wire behind the body, free to turn: (x, radius) from its own front."""

    kind: Literal["turning tail"] = "turning tail"
    profile: Outline
    x_mm: Place = Field(description="where its front lies, mm aft of the nose")
    z_mm: Place = 0.0


class Ellipsoid(Model):
    """A round lump about the piece's own place: a stalk eye, a foam sleeve on a shank, an ear.

    Its three axes are full lengths along x, y and z.
    """

    kind: Literal["ellipsoid"] = "ellipsoid"
    long_mm: Length
    wide_mm: Length
    high_mm: Length


class Cutout(Model):
    """An outline of one's own given a thickness, about the piece's own place: legs, ears, tails cut from sheet or foam.

    `corners_mm` are (x, z) in the plane y = 0, going round; the thickness lies half to each side.
    """

    kind: Literal["cutout"] = "cutout"
    thick_mm: Length
    corners_mm: Annotated[tuple[tuple[Place, Place], ...], Field(min_length=3, max_length=200)]
