"""Kinds of shelf entry. Every figure comes with its source, or says 'typical, weigh yours'."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

STORED_AS = {
    "Material": "material", "Hook": "hook", "Hardware": "hardware", "WireStock": "wire", "BallastStock": "ballast",
    "FillerStock": "filler", "CoatStock": "coat", "Resin": "resin", "Powder": "powder", "Bit": "bit",
    "DressingStock": "dressing",
}  # fmt: skip


class Item(BaseModel):
    """One thing on the shelf."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)

    name: str = Field(min_length=1, max_length=80)
    source: str = ""
    price: float | None = Field(
        default=None, ge=0, description="of one piece, 1 m of wire, 100 g of metal, 100 mL of all else; own currency"
    )

    @classmethod
    def stored_as(cls) -> str:
        """The name that rows of the workshop's file carry for this kind; it stays when a class is renamed."""
        return STORED_AS[cls.__name__]


class Material(Item):
    """Wood, cork, foam, resin, plastic or metal: mean density, spread between pieces (one sigma), g/mL."""

    group: Literal["wood", "foam", "resin", "plastic", "metal"]
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
    density_g_ml: float = Field(gt=0, le=25)
    dressed: bool = Field(default=False, description="with feather, hair or tinsel; the mass is with it, dry")

    @property
    def volume_ml(self) -> float:
        """Of its steel, mL: mass over density."""
        return self.mass_g / self.density_g_ml


class DressingStock(Item):
    """What is tied on a hook: dry and soaked mass, the fibres' density g/mL, drag area (Cd times area) mm²."""

    dry_g: float = Field(gt=0, le=50)
    soaked_g: float = Field(gt=0, le=200)
    density_g_ml: float = Field(gt=0, le=25)
    drag_mm2: float = Field(default=0.0, ge=0, le=1e5)


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
    """A finish: dry film of one coat in mm; hours at 20 °C until it has set, until the next coat, until it is fully cured."""

    sort: Literal["sealer", "primer", "paint", "clear"]
    density_g_ml: float = Field(gt=0, le=25)
    film_mm: float = Field(gt=0)
    soak_g_m2: float = Field(default=0.0, ge=0, description="what open wood drinks once")
    cure_h: float = Field(ge=0)
    set_h: float | None = Field(
        default=None, ge=0, description="until it no longer runs; a sixth of cure_h when left out"
    )
    full_h: float | None = Field(default=None, ge=0, description="until it is used; seven times cure_h when left out")

    @property
    def sets_h(self) -> float:
        """Until it no longer runs and may be handled."""
        return self.cure_h / 6.0 if self.set_h is None else self.set_h

    @property
    def cures_h(self) -> float:
        """Until it may be used."""
        return 7.0 * self.cure_h if self.full_h is None else self.full_h


class WireStock(Item):
    """Wire by diameter."""

    diameter_mm: float = Field(gt=0, le=10)
    material: str
    density_g_ml: float = Field(gt=0, le=25)


class Resin(Item):
    """A two-part resin: cured density, parts by weight, and how long it can be poured at a temperature."""

    density_g_ml: float = Field(gt=0, le=25)
    parts_a: float = Field(gt=0)
    parts_b: float = Field(gt=0)
    pot_life_min: float = Field(gt=0)
    at_c: float = 23.0


class Bit(Item):
    """A drill bit: how wide, and how deep it can go by its flutes."""

    diameter_mm: float = Field(gt=0, le=60)
    flute_mm: float = Field(gt=0)


class Powder(Item):
    """A filler stirred into resin: density of its grains, g/mL."""

    density_g_ml: float = Field(gt=0, le=25)


class Hardware(Item):
    """Small metalwork by its dimensions, mm; the mass follows from them unless it was weighed (`mass_g`)."""

    sort: Literal[
        "split ring",
        "solid ring",
        "screw eye",
        "bead",
        "washer",
        "prop",
        "blade",
        "ticker",
        "swivel",
        "grommet",
        "sleeve",
        "stick-on",
        "band",
    ]
    material: str
    density_g_ml: float = Field(gt=0, le=25)
    diameter_mm: float | None = Field(default=None, gt=0)
    inner_mm: float | None = Field(default=None, gt=0)
    wire_mm: float | None = Field(default=None, gt=0)
    long_mm: float | None = Field(default=None, gt=0)
    wide_mm: float | None = Field(default=None, gt=0)
    thick_mm: float | None = Field(default=None, gt=0)
    blades: int = Field(default=1, ge=1, le=6)
    mass_g: float | None = Field(default=None, gt=0)

    @property
    def volume_ml(self) -> float:
        """Of the metal, from the dimensions: rings and eyes are wire along its middle line, a bead a drilled sphere
        π/6·(D² - d²)^1.5, blades ellipses of sheet, sleeves and bands tubes, stick-on eyes discs."""
        if self.mass_g is not None:
            return self.mass_g / self.density_g_ml
        big, bore, wire = self.diameter_mm or 0.0, self.inner_mm or 0.0, self.wire_mm or 0.0
        long, wide, thick = self.long_mm or 0.0, self.wide_mm or 0.0, self.thick_mm or 0.0
        section, eye = math.pi / 4 * wire**2, math.pi * (bore + wire)
        volume = {
            "split ring": 2 * eye * section,
            "solid ring": eye * section,
            "screw eye": (eye + long) * section,
            "bead": math.pi / 6 * max(0.0, big**2 - bore**2) ** 1.5,
            "washer": math.pi / 4 * max(0.0, big**2 - bore**2) * thick,
            "prop": self.blades * math.pi / 4 * (big / 2) * wide * thick,
            "blade": math.pi / 4 * long * wide * thick,
            "ticker": math.pi / 4 * long * wide * thick,
            "swivel": 0.0,
            "grommet": math.pi / 4 * max(0.0, big**2 - bore**2) * long,
            "sleeve": math.pi / 4 * max(0.0, big**2 - bore**2) * long,
            "stick-on": math.pi / 4 * big**2 * thick,
            "band": math.pi / 4 * max(0.0, big**2 - bore**2) * long,
        }[self.sort]
        return volume / 1000.0

    @property
    def weight_g(self) -> float:
        """As weighed, else its volume times its density, g."""
        return self.mass_g if self.mass_g is not None else self.volume_ml * self.density_g_ml
