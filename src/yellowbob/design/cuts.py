"""Cuts: what is sawn, scooped and notched out of a body. Each is a named entry; booleans make them.

Places are (x aft of the nose, z above the axis) in mm. All cuts are symmetric about the centre plane.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Length, LengthOrNone, Model, Name, Place

Slant = Annotated[float, Field(ge=-85.0, le=85.0)]


class Cup(Model):
    """A cup hollowed into the nose, open to the water: part of a sphere, or of an ellipsoid when `width_mm` is given.

    Its rim lies in a plane through (`rim_x_mm`, `z_mm`), leaning by `slant_deg` like a face. Varnish pools in a cup, so it is
    cut `pool_mm` deeper than the finished `depth_mm`.
    """

    kind: Literal["cup"] = "cup"
    name: Name = "cup"
    diameter_mm: Length = Field(description="of the rim, top to bottom")
    width_mm: Length | None = Field(default=None, description="of the rim, side to side; round when left out")
    depth_mm: Length = Field(description="as finished, below the rim")
    pool_mm: LengthOrNone = Field(default=0.0, description="cut deeper by this for pooling varnish")
    z_mm: Place = 0.0
    rim_x_mm: Place = 0.0
    slant_deg: Slant = Field(default=0.0, description="positive: the cup looks up")

    @model_validator(mode="after")
    def _sound(self) -> Cup:
        if self.depth_mm + self.pool_mm > self.diameter_mm / 2 + 1e-9:
            raise ValueError(
                f"depth {self.depth_mm + self.pool_mm:g} mm is more than half the diameter {self.diameter_mm:g} mm; "
                "a cup is at most half a sphere"
            )
        return self


class Plane(Model):
    """A flat cut through (`x_mm`, `z_mm`): a slanted `face` at the nose, a `head flat` on top, or a `tail cut`.

    The angle is from square to the axis for face and tail (positive: the cut looks up), and from level for a head flat
    (positive: it falls toward the nose).
    """

    kind: Literal["face", "head flat", "tail cut"]
    name: Name = "flat"
    x_mm: Place = 0.0
    z_mm: Place = 0.0
    slant_deg: Slant = 0.0


class Notch(Model):
    """A three-cornered notch sawn across the belly (a chin notch) or the back.

    Its root lies at (`x_mm`, `z_mm`); its two faces lean by `fore_deg` and `aft_deg` from square, opening outward.
    """

    kind: Literal["notch"] = "notch"
    name: Name = "chin notch"
    side: Literal["belly", "back"] = "belly"
    x_mm: Place
    z_mm: Place
    fore_deg: float = Field(default=60.0, ge=0.0, le=85.0)
    aft_deg: float = Field(default=0.0, ge=0.0, le=85.0)

    @model_validator(mode="after")
    def _opens(self) -> Notch:
        if self.fore_deg + self.aft_deg < 1.0:
            raise ValueError("the notch has no opening; let fore_deg and aft_deg add up to at least 1 degree")
        return self


class Slot(Model):
    """A straight sawn slot from (`x_mm`, `z_mm`) on the surface inward, `depth_mm` long and `thick_mm` wide.

    `angle_deg` is its direction in the side view: 0 aft, 90 up, -90 down, 180 forward. It goes right through from side to
    side, or `across_mm` wide about the centre.
    """

    kind: Literal["slot"] = "slot"
    name: Name = "slot"
    x_mm: Place
    z_mm: Place
    angle_deg: float = Field(default=45.0, ge=-180.0, le=180.0)
    depth_mm: Length
    thick_mm: Length
    across_mm: Length | None = None


class Sockets(Model):
    """A pair of round eye sockets, drilled square to the centre plane to `depth_mm` below the surface there."""

    kind: Literal["eye sockets"] = "eye sockets"
    name: Name = "eye sockets"
    x_mm: Place
    z_mm: Place
    diameter_mm: Length
    depth_mm: Length


Cut = Annotated[Cup | Plane | Notch | Slot | Sockets, Field(discriminator="kind")]
