"""Kinds of shelf entry. Every figure comes with its source, or says 'typical, weigh yours'."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field


class Item(BaseModel):
    """One thing on the shelf."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)

    name: str = Field(min_length=1, max_length=80)
    source: str = ""


class Material(Item):
    """Wood, cork or foam: mean density and its spread between pieces (one standard deviation), g/mL."""

    group: Literal["wood", "foam"]
    density_g_ml: float = Field(gt=0, le=25)
    spread_g_ml: float = Field(ge=0, le=5)
    note: str = ""


class Hook(Item):
    """A hook by size. Lengths mm; mass of one, g; density of its steel, g/mL."""

    sort: Literal["treble", "double", "single", "weedless single"]
    size: str
    mass_g: float = Field(gt=0)
    shank_mm: float = Field(gt=0)
    gape_mm: float = Field(gt=0)
    bend_radius_mm: float = Field(gt=0)
    wire_mm: float = Field(gt=0)
    density_g_ml: float = Field(gt=0)

    @property
    def volume_ml(self) -> float:
        return self.mass_g / self.density_g_ml


class BallastStock(Item):
    """Shot by the piece (mass_g of one) or rod and wire by the length (diameter_mm)."""

    form: Literal["shot", "slug"]
    material: str
    density_g_ml: float = Field(gt=0, le=25)
    mass_g: float | None = Field(default=None, gt=0)
    diameter_mm: float | None = Field(default=None, gt=0)


class FillerStock(Item):
    """What closes holes."""

    density_g_ml: float = Field(gt=0, le=25)


class CoatStock(Item):
    """A finish: dry film of one coat in mm, cure time before the next coat in hours."""

    sort: Literal["sealer", "primer", "paint", "clear"]
    density_g_ml: float = Field(gt=0, le=25)
    film_mm: float = Field(gt=0)
    cure_h: float = Field(ge=0)
