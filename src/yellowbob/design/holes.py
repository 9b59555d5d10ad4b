"""What is drilled, hollowed and weighted: drillings, bores, the hollow of a print, ballast."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Density, Length, Model, Name, Place, Point
from yellowbob.design.hardware import Filler


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


class Drilling(Model):
    """A straight round hole from one side of a piece.

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
    """A weight in a piece: pushed to the bottom of its hole, or cast in with its centre at `at_mm`."""

    name: Name
    stock: Annotated[str, Field(max_length=80)] = Field(default="", description="shelf entry it was taken from")
    into: Annotated[str, Field(max_length=80)] = Field(
        default="", description="piece it goes into; the body when empty"
    )
    weight: Annotated[Shot | Slug, Field(discriminator="form")]
    drilling: Drilling | None = None
    at_mm: Point | None = None
    plug: Filler | None = None
    held: Literal["plug", "hammered", "undercut", "glued"] = Field(
        default="plug", description="what keeps it in its hole where there is no plug"
    )

    @model_validator(mode="after")
    def _placed(self) -> Ballast:
        if (self.drilling is None) == (self.at_mm is None):
            raise ValueError("give either its drilling or, for a cast-in weight, at_mm: one of the two")
        if self.plug is not None and self.drilling is None:
            raise ValueError("a cast-in weight has no hole to plug; leave the plug out")
        return self
