"""The Design document: one lure or float, whole, immutable.

Lengths are mm, masses g, densities g/mL, angles degrees, as the field names say. `json_schema` publishes it.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, model_validator

from yellowbob.design.base import (
    Density,
    Length,
    Model,
    Name,
    Place,
    Point,
    Words,
)
from yellowbob.design.cuts import Cut
from yellowbob.design.hardware import Coat, Filler, Fitting, Loop, Sort, Wire, aim
from yellowbob.design.parts import Part
from yellowbob.design.record import STAGES, Measurement, Reading, SetAside, Stage
from yellowbob.design.shape import Shape

__all__ = ["STAGES", "Ballast", "Body", "Bore", "Brief", "Coat", "Cut", "Design", "Drilling", "Filler", "Fitting", "Loop",
           "Measurement", "Part", "Reading", "SetAside", "Shell", "Shot", "Slug", "Sort", "Span", "Stage", "Water", "Wire",
           "aim", "replaced"]  # fmt: skip

FORMAT = "yellow-bob-design"
VERSION = 1

Kind = Literal[
    "popper", "wake bait", "prop bait", "pencil", "darter", "tail-spinner", "crawler",
    "stick float", "waggler", "antenna float", "dropper", "other",
]  # fmt: skip


class Span(Model):
    """A wanted range, both ends included."""

    least: float = Field(ge=-1000, le=50_000)
    most: float = Field(ge=-1000, le=50_000)

    @model_validator(mode="after")
    def _ordered(self) -> Span:
        if self.most < self.least:
            raise ValueError(f"runs from {self.least:g} down to {self.most:g}; put the smaller figure first")
        return self

    def holds(self, value: float) -> bool:
        return self.least <= value <= self.most


class Brief(Model):
    """What it is for and how it should sit."""

    purpose: Words = ""
    fish: Annotated[str, Field(max_length=80)] = ""
    pitch_deg: Span | None = Field(default=None, description="wanted rest pitch, nose-up positive")
    draft_mm: Span | None = Field(default=None, description="wanted depth of the lowest point")
    mass_g: Span | None = Field(default=None, description="wanted finished mass, hooks on")
    tackle_g: Span | None = Field(default=None, description="casting range of the rod that must throw it")


class Water(Model):
    """The water it will fish in. An explicit salinity wins over the name."""

    name: Literal["fresh", "brackish", "sea"] = "fresh"
    temperature_c: float = Field(default=14.0, ge=-2.0, le=40.0)
    salinity_g_kg: float | None = Field(default=None, ge=0.0, le=42.0, description="TEOS-10 Absolute Salinity")


class Shell(Model):
    """A printed body: solid below the split line, a shell above it.

    `split_mm` is the line in the side view, (x, z) points from nose to tail. Above it the body is hollow inside a wall
    of `wall_mm`, or filled to `infill_percent`. With a drain the hollow fills with water.
    """

    kind: Literal["shell"] = "shell"
    name: Name = "print shell"
    wall_mm: Length
    split_mm: Annotated[tuple[tuple[Place, Place], ...], Field(min_length=2, max_length=100)]
    infill_percent: float = Field(default=0.0, ge=0.0, le=100.0)
    drain: bool = False

    @model_validator(mode="after")
    def _ordered(self) -> Shell:
        if any(b[0] <= a[0] for a, b in pairwise(self.split_mm)):
            raise ValueError("split_mm: points must be in order from nose to tail")
        return self


class Body(Model):
    """The main piece: what it is made of and its shape."""

    name: Name = "body"
    material: Name
    density_g_ml: Density = Field(description="of this piece")
    measured: bool = Field(default=False, description="true once this piece was weighed, not looked up")
    density_u_g_ml: Annotated[float, Field(ge=0.0, le=5.0)] | None = Field(
        default=None, description="standard uncertainty of a measured density"
    )
    shape: Shape
    cuts: tuple[Cut, ...] = Field(default=(), max_length=50)
    shell: Shell | None = None


class Drilling(Model):
    """A straight round hole from one side of the body.

    `place_mm` is (x, y) for belly and back, (y, z) for nose and tail, (x, z) for port and starboard. `lean_deg` tilts
    the bit: positive leads the bottom aft (from nose or tail: up). Depth is along the axis from where the bit enters.
    """

    side: Literal["belly", "back", "nose", "tail", "port", "starboard"] = "belly"
    place_mm: tuple[Place, Place]
    lean_deg: float = Field(default=0.0, ge=-80.0, le=80.0)
    diameter_mm: Length
    depth_mm: Length


class Bore(Model):
    """A hole that carries no ballast: open to the water, sealed with air in it, or filled."""

    name: Name
    drilling: Drilling
    fill: Literal["open", "sealed", "filled"] = "open"
    filler: Filler | None = None

    @model_validator(mode="after")
    def _sound(self) -> Bore:
        if (self.fill == "filled") != (self.filler is not None):
            raise ValueError("a filled hole needs its filler (material and density), and only a filled one has it")
        return self


class Shot(Model):
    """Ballast as round shot: count times a nominal mass."""

    form: Literal["shot"] = "shot"
    material: Name = "lead"
    density_g_ml: Density = 11.34
    mass_g: float = Field(gt=0.0, le=1000.0, description="of one")
    count: int = Field(default=1, ge=1, le=200)


class Slug(Model):
    """Ballast as a length of rod, wire or poured metal."""

    form: Literal["slug"] = "slug"
    material: Name = "lead"
    density_g_ml: Density = 11.34
    diameter_mm: Length
    length_mm: Length


class Ballast(Model):
    """A weight in the body: pushed to the bottom of its hole, or cast in with its centre at `at_mm`."""

    name: Name
    stock: Annotated[str, Field(max_length=80)] = Field(default="", description="shelf entry it was taken from")
    weight: Annotated[Shot | Slug, Field(discriminator="form")]
    drilling: Drilling | None = None
    at_mm: Point | None = None
    plug: Filler | None = None

    @model_validator(mode="after")
    def _placed(self) -> Ballast:
        if (self.drilling is None) == (self.at_mm is None):
            raise ValueError("give either its drilling or, for a cast-in weight, at_mm: one of the two")
        if self.plug is not None and self.drilling is None:
            raise ValueError("a cast-in weight has no hole to plug; leave the plug out")
        return self


class Design(Model):
    """One design, whole."""

    format: Literal["yellow-bob-design"] = "yellow-bob-design"
    version: Literal[1] = 1
    name: Name
    kind: Kind = "other"
    notes: Words = ""
    brief: Brief = Brief()
    water: Water = Water()
    body: Body
    parts: tuple[Part, ...] = Field(default=(), max_length=20)
    bores: tuple[Bore, ...] = Field(default=(), max_length=50)
    ballast: tuple[Ballast, ...] = Field(default=(), max_length=50)
    fittings: tuple[Fitting, ...] = Field(default=(), max_length=100)
    wires: tuple[Wire, ...] = Field(default=(), max_length=20)
    coats: tuple[Coat, ...] = Field(default=(), max_length=20)
    readings: tuple[Reading, ...] = Field(default=(), max_length=20)
    measurements: tuple[Measurement, ...] = Field(default=(), max_length=50)
    set_aside: tuple[SetAside, ...] = Field(default=(), max_length=60)

    def but(self, **changes: Any) -> Design:
        """A copy with some fields replaced, checked again."""
        return replaced(self, **changes)


M = TypeVar("M", bound=Model)


def replaced(model: M, **changes: Any) -> M:
    """A copy of any frozen part with fields replaced and its rules checked again; unchanged parts stay the same."""
    values = {name: getattr(model, name) for name in type(model).model_fields}
    return type(model).model_validate({**values, **changes})
